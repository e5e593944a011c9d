// A feedback delay network of eight lines (J.-M. Jot, A. Chaigne, "Digital delay networks for designing
// artificial reverberators", AES 90, 1991) with a Householder matrix. A line of N frames loses 10^(−3 · N /
// (rate · decay)) a round, so that all fall by 60 dB in the stated time; a first-order low pass in each makes
// high sounds fall faster. Channels go in and come out through rows of a Hadamard matrix. Nothing in it
// moves.
#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstring>
#include <numbers>

#include "base/samples.h"
#include "signal/effects/effects.h"

namespace octaphon {
namespace {

enum : std::size_t { Decay, Size, PreDelay, Damp, Mix };
constexpr std::size_t kLines = 8;
constexpr std::array<double, kLines> kLengthsMs{29.7, 34.1, 37.9, 41.3, 47.9, 53.3, 59.9, 67.1};

Frame nextPrime(Frame n) {
  for (;; ++n) {
    bool prime = n > 1;
    for (Frame d = 2; d * d <= n && prime; ++d) prime = n % d != 0;
    if (prime) return n;
  }
}

/// Rows of a Hadamard matrix, each with a length of 1.
using Rows = std::array<std::array<double, kLines>, kLines>;
const Rows& hadamard() {
  static const Rows rows = [] {
    Rows made{};
    for (std::size_t r = 0; r < kLines; ++r)
      for (std::size_t c = 0; c < kLines; ++c)
        made[r][c] = (std::popcount(r & c) % 2 == 0 ? 1 : -1) / std::sqrt(static_cast<double>(kLines));
    return made;
  }();
  return rows;
}

constexpr Frame kMostTurn = 128;
constexpr Frame kRoom =
    kMostTurn + 8;  // lines a power of two apart would all want the same part of the cache
/// Of each line, planar.
using LinesTurn = std::array<std::array<double, kRoom>, kLines>;

/// A delay of a whole number of frames. What comes out of a turn that is no longer than it has come before.
class Line {
 public:
  explicit Line(Frame frames = 1) : ring_(static_cast<std::size_t>(frames), 0.0f) {}

  Frame length() const { return static_cast<Frame>(ring_.size()); }
  void read(float* out, Frame frames) const {
    const Frame first = std::min(frames, length() - place_);
    std::copy_n(ring_.begin() + place_, first, out);
    std::copy_n(ring_.begin(), frames - first, out + first);
  }
  /// In the place of what was read.
  void write(const float* in, Frame frames) {
    const Frame first = std::min(frames, length() - place_);
    std::copy_n(in, first, ring_.begin() + place_);
    std::copy_n(in + first, frames - first, ring_.begin());
    place_ = (place_ + frames) % length();
  }
  void reset() {
    std::fill(ring_.begin(), ring_.end(), 0.0f);
    place_ = 0;
  }

 private:
  std::vector<float> ring_;
  Frame place_ = 0;
};

/// What each line gives: duller, and softer. `dulled` is its state.
OCTAPHON_WIDE void dullLines(const std::array<std::array<float, kRoom>, kLines>& heard, Frame frames,
                             double keeps, const std::array<double, kLines>& gains,
                             std::array<double, kLines>& dulled, LinesTurn& came) {
  for (std::size_t l = 0; l < kLines; ++l)
    for (Frame i = 0; i < frames; ++i)
      came[l].data()[i] = (1 - keeps) * static_cast<double>(heard[l].data()[i]);
  // The lines beside each other: a sample waits for the one before it.
  std::array<double, kLines> state = dulled;
  for (Frame i = 0; i < frames; ++i)
    for (std::size_t l = 0; l < kLines; ++l)
      came[l].data()[i] = state[l] = keeps * state[l] + came[l].data()[i];
  dulled = state;
  for (std::size_t l = 0; l < kLines; ++l)
    for (Frame i = 0; i < frames; ++i) came[l].data()[i] *= gains[l];
}

using Lanes = double __attribute__((vector_size(32)));  // four frames at once
using FloatLanes = float __attribute__((vector_size(16)));
constexpr Frame kLanes = 4;
static_assert(kMostTurn % kLanes == 0);

/// A turn of some channels on its way in and out.
struct ChannelsTurn {
  int count = 0;
  const float* in[kLines];  // as long as kMostTurn
  std::array<std::array<double, kRoom>, kLines> heard;
};

/// Every line takes from all (the Householder matrix) and from every channel, and is heard in every channel.
/// `loudest`: of all lines and frames, by frame.
OCTAPHON_WIDE void scatter(const LinesTurn& came, Frame frames, const Rows& rows, ChannelsTurn& channels,
                           std::array<std::array<float, kRoom>, kLines>& goes, double* loudest) {
  for (Frame at = 0; at < frames; at += kLanes) {
    Lanes lines[kLines], in[kLines], total{}, most{};
#pragma GCC unroll 8
    for (std::size_t l = 0; l < kLines; ++l) {
      std::memcpy(&lines[l], came[l].data() + at, sizeof lines[l]);
      total += lines[l];
    }
    for (int c = 0; c < channels.count; ++c) {
      FloatLanes late;
      std::memcpy(&late, channels.in[c] + at, sizeof late);
      in[c] = __builtin_convertvector(late, Lanes);
      const auto& row = rows[static_cast<std::size_t>(c)];
      Lanes heard{};
#pragma GCC unroll 8
      for (std::size_t l = 0; l < kLines; ++l) heard += lines[l] * row[l];
      std::memcpy(channels.heard[static_cast<std::size_t>(c)].data() + at, &heard, sizeof heard);
    }
#pragma GCC unroll 8
    for (std::size_t l = 0; l < kLines; ++l) {
      Lanes line = lines[l] - total * (2.0 / kLines);
      for (int c = 0; c < channels.count; ++c) line += in[c] * rows[static_cast<std::size_t>(c)][l];
      const FloatLanes rounded = __builtin_convertvector(line, FloatLanes);
      std::memcpy(goes[l].data() + at, &rounded, sizeof rounded);
      const Lanes magnitude = line < 0.0 ? -line : line;
      most = magnitude > most ? magnitude : most;
    }
    std::memcpy(loudest + at, &most, sizeof most);
  }
}

class Reverb : public Processor {
 public:
  explicit Reverb(EffectSetting setting) : Processor(std::move(setting)) {
    const double rate = setting_.rate;
    const double scale = 0.4 + 1.2 * setting_.at(Size, 0) / 100;
    dull_ = std::exp(-2 * std::numbers::pi * std::fmin(setting_.at(Damp, 0), rate * 0.49) / rate);
    for (std::size_t l = 0; l < kLines; ++l) {
      const Frame length = nextPrime(framesOf(kLengthsMs[l] / 1000 * scale, setting_.rate));
      lines_[l] = Line(length);
      gains_[l] = std::pow(10.0, -3.0 * static_cast<double>(length) / (rate * setting_.at(Decay, 0)));
      longest_ = std::max(longest_, length);
      turn_ = std::min(turn_, length);
    }
    before_ = framesOf(setting_.at(PreDelay, 0) / 1000, setting_.rate);
    waiting_.assign(static_cast<std::size_t>(setting_.channels),
                    std::vector<float>(static_cast<std::size_t>(before_ + kMostTurn), 0.0f));
    longest_ += before_ + 1;
    quiet_ = longest_;
  }

  void process(const float* const* in, float* const* out, Frame at, Frame frames) override {
    for (Frame done = 0; done < frames; done += turn_)
      processTurn(in, out, done, at + done, std::min(turn_, frames - done));
  }

  bool isAtRest() const override { return quiet_ >= longest_; }
  void reset() override {
    for (Line& line : lines_) line.reset();
    for (std::vector<float>& waiting : waiting_) std::fill(waiting.begin(), waiting.end(), 0.0f);
    dulled_ = {};
    quiet_ = longest_;
  }
  std::unique_ptr<Processor> clone() const override { return std::make_unique<Reverb>(*this); }

 private:
  /// No longer than the shortest line.
  void processTurn(const float* const* in, float* const* out, Frame from, Frame at, Frame frames) {
    std::array<std::array<float, kRoom>, kLines> rings;
    LinesTurn came;
    ChannelsTurn channels;
    std::array<double, kRoom> loudest;
    for (std::size_t l = 0; l < kLines; ++l) lines_[l].read(rings[l].data(), frames);
    dullLines(rings, frames, dull_, gains_, dulled_, came);
    channels.count = setting_.channels;
    for (std::size_t c = 0; c < waiting_.size(); ++c) {
      std::copy_n(in[c] + from, frames, waiting_[c].begin() + before_);
      channels.in[c] = waiting_[c].data();
    }
    scatter(came, frames, hadamard(), channels, rings, loudest.data());
    for (std::size_t l = 0; l < kLines; ++l) lines_[l].write(rings[l].data(), frames);
    for (std::size_t c = 0; c < waiting_.size(); ++c) {
      mix(waiting_[c].data() + before_, channels.heard[c].data(), at, frames, out[c] + from, loudest.data());
      std::copy(waiting_[c].begin() + frames, waiting_[c].end(), waiting_[c].begin());
    }
    countQuiet(loudest.data(), frames);
  }

  void mix(const float* dry, const double* heard, Frame at, Frame frames, float* out, double* loudest) const {
    const bool constant = setting_.isConstant();
    double wet = setting_.at(Mix, at) / 100;
    for (Frame i = 0; i < frames; ++i) {
      if (!constant) wet = setting_.at(Mix, at + i) / 100;
      const auto now = static_cast<double>(dry[i]);
      loudest[i] = std::max(loudest[i], std::fabs(now));
      out[i] = static_cast<float>(now + wet * (heard[i] - now));
    }
  }

  void countQuiet(const double* loudest, Frame frames) {
    Frame quiet = 0;
    while (quiet < frames && loudest[frames - 1 - quiet] <= kRest) ++quiet;
    quiet_ = quiet < frames ? quiet : quiet_ + frames;
  }

  std::array<Line, kLines> lines_;
  std::array<double, kLines> gains_{}, dulled_{};
  std::vector<std::vector<float>> waiting_;  // by channel: what waits before the lines, and a turn
  Frame before_ = 0;                         // frames that it waits
  double dull_ = 0;
  Frame longest_ = 0;
  Frame turn_ = kMostTurn;
  Frame quiet_ = 0;  // frames since anything was written that matters
};

}  // namespace

std::unique_ptr<Processor> makeReverb(EffectSetting setting) {
  return std::make_unique<Reverb>(std::move(setting));
}

}  // namespace octaphon
