// A file's ceiling, kept by a limiter: true peaks that are over it get softer for a moment.
#pragma once

#include "finish/stage.h"
#include "level/peak_limiter.h"

namespace octaphon {

class Limit : public Stage {
 public:
  /// `rate` in Hz; `ceilingDb` in dBTP. `next` must live as long.
  Limit(int channels, int rate, double ceilingDb, Stage& next);

  Result<> take(const SoundBlock& block) override;
  Result<> end() override;
  bool wantsMore() const override { return next_.wantsMore(); }

 private:
  Result<> takeTurn(const float* const* channels, Frame frames);

  int channels_;
  double ceiling_;
  PeakLimiter limiter_;
  std::vector<double> releases_;
  std::vector<std::vector<float>> waiting_;  // by channel: what waits for its gain, then a turn
  Frame skipped_;                            // frames that are still to come before the first one
  Stage& next_;
};

}  // namespace octaphon
