// When the tails of a span have rung out: the last 10 ms in which any of its sounds reaches its threshold,
// looked for until none did for the hold time. Each sound is judged behind a DC block (one pole, 10 Hz) that
// may not ring on where the sound does not, by its own peak, without its mean, where the threshold is
// relative to that. What comes out depends neither on blocks nor on the order in which sounds are given.
#pragma once

#include <array>
#include <limits>
#include <optional>
#include <vector>

#include "finish/stage.h"

namespace octaphon {

struct RingSetting {
  int rate = 48000;          ///< Hz
  Frame before = 0;          ///< frames of the file before its tail
  double thresholdDb = -60;  ///< under 0
  bool relative = true;      ///< to the sound's peak, but never under `leastDb`; else dBFS
  double leastDb = -90;      ///< dBFS
  Frame hold = 24000;        ///< frames of quiet that end it
  Frame limit = 480000;      ///< the longest tail, in frames
};

/// One sound on its way.
class RingingSound {
 public:
  RingingSound(const RingSetting& setting, int channels);

  /// The next frames, from the file's first one on. One thread at a time.
  void take(const SoundBlock& block);

  /// Cells of 10 ms of the tail that have come whole; the last one ends at the limit.
  std::size_t cells() const { return cells_.size(); }
  bool reaches(std::size_t cell) const { return cells_[cell].reaches; }
  float peakOf(std::size_t cell) const { return cells_[cell].peak; }  ///< largest magnitude
  /// Largest magnitude of all that has come.
  float peak() const { return peak_; }

 private:
  /// Takes away what is under 10 Hz.
  class DcBlock {
   public:
    /// As if this had been there for ever.
    void setFirst(float sample) { in_ = static_cast<double>(sample); }
    /// The largest magnitude of what comes out; null samples are silence.
    double run(const float* samples, double pole, Frame frames);
    /// Whether nothing rings in it any more.
    bool rest();

   private:
    static constexpr Frame kHistory = 4;
    double in_ = 0;                                                     // the last sample
    std::array<double, static_cast<std::size_t>(kHistory)> d_{}, y_{};  // the last differences, and results
  };
  /// A channel before the tail.
  struct Body {
    float least = std::numeric_limits<float>::infinity(), most = -least;
    double sum = 0;
  };
  struct Cell {
    float peak;
    bool reaches;
  };
  void takeBody(const SoundBlock& block, Frame from, Frame frames);
  void takeTail(const SoundBlock& block, Frame from, Frame frames);
  void filter(const SoundBlock& block, Frame from, Frame frames);
  float bodyPeak() const;
  void endCell();

  const RingSetting& setting_;
  int channels_;
  double pole_;
  Frame warmUp_;                 // the DC block runs from here on
  std::vector<Body> bodies_;     // by channel
  std::vector<DcBlock> blocks_;  // by channel
  bool isStill_ = true;          // they are at rest
  Frame taken_ = 0;
  float peak_ = 0;                      // of cells that are whole, and of all before the tail
  float cellPeak_ = 0, cellPlain_ = 0;  // of this cell, with and without the DC block
  double factor_, least_;               // of the threshold
  std::vector<Cell> cells_;
};

/// All sounds of a span.
class RingMeter {
 public:
  /// `channels` of each sound.
  RingMeter(RingSetting setting, const std::vector<int>& channels);
  RingMeter(const RingMeter&) = delete;

  std::size_t size() const { return sounds_.size(); }
  RingingSound& sound(std::size_t index) { return sounds_[index]; }
  const RingSetting& setting() const { return setting_; }

  /// Looks at what has come of all of them.
  void decide();
  /// Frames that the tail has at least.
  Frame certain() const { return certain_; }
  /// Frames of the tail, a whole number of 10 ms unless the limit is shorter; nothing before it is decided.
  std::optional<Frame> tail() const { return isDecided_ ? std::optional(certain_) : std::nullopt; }
  /// Frames of the tail that were looked at.
  Frame heard() const;
  /// The limit stopped it.
  bool isByLimit() const { return isDecided_ && certain_ > 0 && certain_ == setting_.limit; }
  /// Largest magnitude of all sounds in the last 10 ms of the tail.
  float left() const;

 private:
  RingSetting setting_;
  std::vector<RingingSound> sounds_;
  std::size_t looked_ = 0;   // cells
  std::size_t reached_ = 0;  // cells up to the last one that reaches a threshold
  Frame certain_ = 0;
  bool isDecided_ = false;
};

}  // namespace octaphon
