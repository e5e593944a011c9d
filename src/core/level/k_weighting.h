// The weighting of loudness: a shelf for the head, and a high pass for low sounds (ITU-R BS.1770-4, Annex 1).
// The standard gives coefficients at 48 kHz; at other rates they come from the analogue filters behind them,
// whose figures are from memory: at 48 kHz they give the standard's to nine digits.
#pragma once

#include "base/frames.h"

namespace octaphon {

/// y = b0 x + b1 x′ + b2 x″ − a1 y′ − a2 y″
struct WeightingSection {
  double b0 = 1, b1 = 0, b2 = 0, a1 = 0, a2 = 0;
};
WeightingSection headShelf(int rate);    ///< Hz
WeightingSection lowHighPass(int rate);  ///< its b are 1, −2, 1

/// Of two channels. Belongs to one thread at a time; denormals should be flushed.
class KWeighting {
 public:
  explicit KWeighting(int rate) : shelf_(headShelf(rate)), highPass_(lowHighPass(rate)) {}

  /// Adds the squares of the weighted samples of each channel to its sum.
  void addSquares(const float* first, const float* second, Frame frames, double* sums);

 private:
  using Pair = double __attribute__((vector_size(16)));
  struct Past {  // what came before, the latest first
    Pair in[2] = {}, shelved[2] = {}, passed[2] = {};
  };
  WeightingSection shelf_, highPass_;
  Past past_;
};

}  // namespace octaphon
