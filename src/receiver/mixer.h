// Plays sounds as a game would: variations at random, loops by their points, several at once.
#pragma once

#include <deque>
#include <memory>
#include <mutex>
#include <random>
#include <vector>

#include "receiver/decoded.h"

namespace octaphon::receiver {

/// At random, none of the last three; of four or fewer, none of the last but one.
class VariationChoice {
 public:
  explicit VariationChoice(std::uint32_t seed) : random_(seed) {}
  std::size_t next(std::size_t count);

 private:
  std::mt19937 random_;
  std::deque<std::size_t> last_;
};

/// What sounds at a moment.
struct Voice {
  int sound = 0;  ///< which trigger it came from
  std::shared_ptr<const Decoded> what;
  std::int64_t at = 0;    ///< the next frame of it that is heard
  bool isEnding = false;  ///< a loop that does not go round any more
  float fade = 1;         ///< towards silence where it was stopped
};

/// Any thread.
class Mixer {
 public:
  explicit Mixer(int rate) : rate_(rate) {}

  int rate() const { return rate_; }
  /// Gives a number for stop().
  int play(const std::vector<std::shared_ptr<const Decoded>>& together);
  /// Loops that restart do so no more and ring out; others fade within 10 ms.
  void stop(int sound);
  void stopAll();
  /// Left, right, left …
  void fill(float* samples, std::size_t frames);
  std::vector<Voice> voices() const;

 private:
  struct Restart {
    int sound;
    std::shared_ptr<const Decoded> what;
    std::int64_t in;  // frames
  };
  void stopLocked(int sound);
  void fillStretch(float* samples, std::size_t frames);
  static std::size_t mix(Voice& voice, float* samples, std::size_t frames, float fadeStep);

  int rate_;
  mutable std::mutex mutex_;
  int last_ = 0;
  std::vector<Voice> voices_;
  std::vector<Restart> restarts_;
};

}  // namespace octaphon::receiver
