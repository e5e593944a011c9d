// A feedback delay network of eight lines (J.-M. Jot, A. Chaigne, "Digital delay networks for designing
// artificial reverberators", AES 90, 1991) with a Householder matrix. A line of N frames loses 10^(−3 · N /
// (rate · decay)) a round, so that all fall by 60 dB in the stated time; a first-order low pass in each makes
// high sounds fall faster. Channels go in and come out through rows of a Hadamard matrix. Nothing in it
// moves.
#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <numbers>

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

struct Line {
  std::vector<float> ring;
  Frame place = 0;
  double gain = 0;
  double dulled = 0;

  float& slot() { return ring[static_cast<std::size_t>(place)]; }
  void step() {
    if (++place == static_cast<Frame>(ring.size())) place = 0;
  }
};

class Reverb : public Processor {
 public:
  explicit Reverb(EffectSetting setting) : Processor(std::move(setting)) {
    const double rate = setting_.rate;
    const double scale = 0.4 + 1.2 * setting_.at(Size, 0) / 100;
    dull_ = std::exp(-2 * std::numbers::pi * std::fmin(setting_.at(Damp, 0), rate * 0.49) / rate);
    for (std::size_t l = 0; l < kLines; ++l) {
      const Frame length = nextPrime(framesOf(kLengthsMs[l] / 1000 * scale, setting_.rate));
      lines_[l].ring.assign(static_cast<std::size_t>(length), 0.0f);
      lines_[l].gain = std::pow(10.0, -3.0 * static_cast<double>(length) / (rate * setting_.at(Decay, 0)));
      longest_ = std::max(longest_, length);
    }
    const Frame before = framesOf(setting_.at(PreDelay, 0) / 1000, setting_.rate);
    before_.assign(static_cast<std::size_t>(setting_.channels),
                   Line{std::vector<float>(static_cast<std::size_t>(before + 1), 0.0f), 0, 0, 0});
    longest_ += before + 1;
    quiet_ = longest_;
  }

  void process(const float* const* in, float* const* out, Frame at, Frame frames) override {
    const bool constant = setting_.isConstant();
    double wet = setting_.at(Mix, at) / 100;
    const Rows& rows = hadamard();
    for (Frame i = 0; i < frames; ++i) {
      if (!constant) wet = setting_.at(Mix, at + i) / 100;
      std::array<double, kLines> came{};
      double total = 0;
      for (std::size_t l = 0; l < kLines; ++l) {
        Line& line = lines_[l];
        line.dulled = dull_ * line.dulled + (1 - dull_) * line.slot();
        came[l] = line.dulled * line.gain;
        total += came[l];
      }
      std::array<double, kLines> goes{};
      for (std::size_t l = 0; l < kLines; ++l) goes[l] = came[l] - total * (2.0 / kLines);
      bool loud = false;
      for (int c = 0; c < setting_.channels; ++c) {
        Line& waiting = before_[static_cast<std::size_t>(c)];
        const double dry = in[c][i];
        waiting.slot() = static_cast<float>(dry);
        loud |= std::fabs(dry) > kRest;
        waiting.step();
        const double late = waiting.slot();
        double heard = 0;
        const auto& row = rows[static_cast<std::size_t>(c)];
        for (std::size_t l = 0; l < kLines; ++l) {
          goes[l] += late * row[l];
          heard += came[l] * row[l];
        }
        out[c][i] = static_cast<float>(dry + wet * (heard - dry));
      }
      double largest = 0;
      for (std::size_t l = 0; l < kLines; ++l) {
        lines_[l].slot() = static_cast<float>(goes[l]);
        lines_[l].step();
        largest = std::max(largest, std::fabs(goes[l]));
      }
      loud |= largest > kRest;
      quiet_ = loud ? 0 : quiet_ + 1;
    }
  }

  bool isAtRest() const override { return quiet_ >= longest_; }
  void reset() override {
    const auto empty = [](Line& line) {
      std::fill(line.ring.begin(), line.ring.end(), 0.0f);
      line.place = 0;
      line.dulled = 0;
    };
    for (Line& line : lines_) empty(line);
    for (Line& line : before_) empty(line);
    quiet_ = longest_;
  }
  std::unique_ptr<Processor> clone() const override { return std::make_unique<Reverb>(*this); }

 private:
  std::array<Line, kLines> lines_;
  std::vector<Line> before_;  // by channel
  double dull_ = 0;
  Frame longest_ = 0;
  Frame quiet_ = 0;  // frames since anything was written that matters
};

}  // namespace

std::unique_ptr<Processor> makeReverb(EffectSetting setting) {
  return std::make_unique<Reverb>(std::move(setting));
}

}  // namespace octaphon
