// Rate conversion at libsoxr's highest quality (SOXR_VHQ), whose bits do not depend on how it is fed.
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "base/frames.h"
#include "base/result.h"

struct soxr;

namespace octaphon {

/// One sound, front to back, without delay: the first frame out lies on the first one in. Gives
/// round(n · out / in) frames, or one more or less. One thread at a time.
class Resampler {
 public:
  /// Rates in Hz, or whatever has their ratio. Unsupported where libsoxr refuses them.
  static Result<Resampler> make(double in, double out, int channels);

  using Sink = std::function<Result<>(const float* interleaved, Frame frames)>;
  /// The next frames, interleaved; null: the sound has ended.
  Result<> process(const float* interleaved, Frame frames, const Sink& sink);

 private:
  struct Delete {
    void operator()(soxr* resampler) const;
  };
  Resampler() = default;

  std::unique_ptr<soxr, Delete> soxr_;
  int channels_ = 0;
  std::vector<float> out_;
};

}  // namespace octaphon
