// The last stage: dither, rounding, saturation, and on to the encoder. Measures the level on the way.
#pragma once

#include <string>
#include <vector>

#include "base/hash.h"
#include "finish/quantise.h"
#include "finish/sample_sink.h"
#include "finish/stage.h"

namespace octaphon {

/// How the samples of a file are written.
struct SampleForm {
  int channels = 2;        ///< 1 … kMaxTapChannels
  int bits = 24;           ///< 2 … 24, of whole numbers
  bool isInteger = true;   ///< else floating point, as it comes
  std::string key = {};    ///< chooses the noise of dither
  std::string place = {};  ///< the file, for errors
};

/// Cells of dither count from the first frame given, whatever blocks come: frames that fill no cell are held
/// back until the next ones, or the end. NotFinite where a sample is NaN or infinite.
class Round : public Stage {
 public:
  Round(SampleForm form, SampleSink& sink);

  Result<> take(const SoundBlock& block) override;
  Result<> end() override;

  const Level& level() const { return level_; }
  /// The largest mean of a channel's samples, full scale 1.
  double offset() const;
  /// Of all samples as they came, before rounding and dither; the same for +0 and −0.
  Digest samples() const;

 private:
  void hash(const float* const* channels, Frame frames);
  void hold(const SoundBlock& block, Frame from, Frame count);
  Result<> writeHeld();
  Result<> writeTurns(const SoundBlock& block, Frame from, Frame count);
  Result<> write(const float* const* channels, Frame frames);
  Result<> writeIntegers(const float* const* channels, Frame frames);

  SampleForm form_;
  SampleSink& sink_;
  std::vector<Quantiser> quantisers_;
  std::vector<float> held_;  // planar, a cell for each channel
  Frame heldFrames_ = 0;
  Frame written_ = 0;
  Level level_;
  std::vector<Hasher> hashers_;  // by channel
  std::vector<double> sums_;     // of all samples, by channel
};

}  // namespace octaphon
