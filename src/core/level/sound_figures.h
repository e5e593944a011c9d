// A sound in a few figures a channel, by which it is known again without its samples.
#pragma once

#include <vector>

#include "base/frames.h"

namespace octaphon {

/// Of all samples of a channel, full scale ±1. Of whole numbers `sum` is exact: one sample of another value
/// changes it.
struct ChannelFigures {
  double peak = 0;    ///< largest magnitude
  double sum = 0;     ///< of the samples
  double energy = 0;  ///< of their squares
  double moment = 0;  ///< of their squares, each times its frame
  bool operator==(const ChannelFigures&) const = default;
};

struct SoundFigures {
  Frame frames = 0;
  Frame onset = -1;  ///< first frame at or over kOnsetDb; −1: there is none
  Frame longestFlat =
      0;  ///< most frames in a row at full scale, of whole numbers; over it, of floating point
  std::vector<ChannelFigures> channels = {};
  /// Mean that all stretches of kOffsetStretch frames of a channel have in common, without its sign: what is
  /// low is in some of them over zero, in others under it. 0 of fewer than four stretches.
  double steadyOffset = 0;
  bool operator==(const SoundFigures&) const = default;

  double peak() const;
  /// Largest mean of a channel's samples, without its sign.
  double offset() const;
  bool isSilent() const;  ///< no sample is anything but 0
  /// Two channels or more, and all have the same figures.
  bool hasEqualChannels() const;
};

inline constexpr double kOnsetDb = -60;  ///< dBFS
inline constexpr Frame kOffsetStretch = 4096;

/// How one sound lies to another that should be the same.
struct FiguresChange {
  bool isSame = true;        ///< within what decoding rounds
  double levelDb = 0;        ///< louder by so much
  double shiftFrames = 0;    ///< later by so much, in the middle of its energy
  bool isReordered = false;  ///< its channels are the same in another order
};
/// Of equally many channels, and frames. Sounds of lossy formats may be off by `toleranceDb` in energy, and
/// are not judged by sums; 0: of lossless ones.
FiguresChange changeFrom(const SoundFigures& before, const SoundFigures& after, double toleranceDb);

/// Belongs to one thread at a time.
class FiguresMeter {
 public:
  /// `bits` of whole numbers; 0: floating point. `steadyOffset`: whether that is found, too.
  FiguresMeter(int channels, int bits, bool steadyOffset = false);

  /// The next frames, planar, full scale ±1.
  void take(const float* const* channels, Frame frames);
  const SoundFigures& figures() const { return figures_; }

 private:
  void measure(ChannelFigures& channel, const float* samples, Frame frames) const;
  void lookForOnset(const float* samples, Frame frames, Frame& first) const;
  void countFlat(std::size_t channel, const float* samples, Frame frames);
  void followOffset(std::size_t channel, const float* samples, Frame frames);

  float top_, bottom_;
  bool findsOffset_;
  SoundFigures figures_;
  std::vector<Frame> flat_;  // frames at full scale up to here, by channel
  struct Stretches {
    double sum = 0;  // of the one that is not over
    double least = 0, most = 0;
    Frame over = 0;
  };
  std::vector<Stretches> stretches_;  // by channel
};

}  // namespace octaphon
