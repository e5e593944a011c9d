// The weighting of loudness: a shelf for the head, and a high pass for low sounds (ITU-R BS.1770-4, Annex 1).
// The standard gives coefficients at 48 kHz; at other rates they come from the analogue filters behind them,
// whose figures are from memory: at 48 kHz they give the standard's to nine digits.
#pragma once

#include <array>

#include "base/frames.h"

namespace octaphon {

/// y = b0 x + b1 x′ + b2 x″ − a1 y′ − a2 y″
struct WeightingSection {
  double b0 = 1, b1 = 0, b2 = 0, a1 = 0, a2 = 0;
};
WeightingSection headShelf(int rate);    ///< Hz
WeightingSection lowHighPass(int rate);  ///< its b are 1, −2, 1

/// Of two channels. Belongs to one thread at a time; denormals should be flushed.
///
/// Each section A(z) is worked out as A(z) A(−z), which hears what was two and four frames ago alone, so that
/// two frames go on beside each other; A(−z) stands above the line too, and there all frames do (scattered
/// look-ahead: Parhi, Messerschmitt 1989). What is above the line is in single precision up to 96 kHz, the
/// difference of differences first: it has no error at low frequencies. Above, poles are too near to the
/// zeros for that.
class KWeighting {
 public:
  explicit KWeighting(int rate);

  /// Adds the squares of the weighted samples of each channel to its sum, one after the other.
  void addSquares(const float* first, const float* second, Frame frames, double* sums);

 private:
  static constexpr Frame kTurn = 1024;
  static constexpr Frame kBefore = 8;  // samples that are heard before a turn
  static constexpr std::size_t kTaps = 7;
  using TwoFrames = std::array<double, 4>;  // of two channels each
  struct Scattered {                        // y = x − near y″ − far y″″
    double near = 0, far = 0;
  };
  struct Past {  // of one section, the frames before and those before them
    TwoFrames latest{}, older{};
  };
  static Scattered scatteredOf(const WeightingSection& section);
  template <class Sample>
  void addSquaresBy(const Sample* taps, const float* first, const float* second, Frame frames, double* sums);
  template <class Sample>
  void zeros(const Sample* taps, int channel, const float* samples, Frame frames, Sample* out);
  static void filter(const float* in, const float* taps, Frame frames, float* out);
  static void filter(const float* in, const double* taps, Frame frames, double* out);
  void poles(const float* first, const float* second, Frame frames, double* sums);
  void poles(const double* first, const double* second, Frame frames, double* sums);
  template <class Sample>
  void polesBy(const Sample* first, const Sample* second, Frame frames, double* sums);

  bool isSingle_;
  std::array<double, kTaps> taps_{};
  std::array<float, kTaps> singleTaps_;
  Scattered shelf_, highPass_;
  Past shelved_, passed_;
  std::array<std::array<float, kBefore>, 2> before_{};
};

}  // namespace octaphon
