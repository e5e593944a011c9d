#include "media/resampler.h"

#include <soxr.h>

namespace octaphon {

static constexpr Frame kTurn = 16384;

void Resampler::Delete::operator()(soxr* resampler) const { soxr_delete(resampler); }

Result<Resampler> Resampler::make(double in, double out, int channels) {
  const soxr_io_spec_t io = soxr_io_spec(SOXR_FLOAT32_I, SOXR_FLOAT32_I);
  const soxr_quality_spec_t quality = soxr_quality_spec(SOXR_VHQ, 0);
  const soxr_runtime_spec_t runtime = soxr_runtime_spec(1);
  soxr_error_t problem = nullptr;
  Resampler made;
  made.channels_ = channels;
  made.soxr_.reset(soxr_create(in, out, static_cast<unsigned>(channels), &problem, &io, &quality, &runtime));
  if (problem != nullptr) return fail(ErrorCode::Unsupported, "rate conversion", problem);
  made.out_.resize(static_cast<std::size_t>(kTurn * channels));
  return made;
}

Result<> Resampler::process(const float* in, Frame frames, const Sink& sink) {
  while (true) {
    std::size_t used = 0;
    std::size_t made = 0;
    if (soxr_process(soxr_.get(), in, static_cast<std::size_t>(frames), &used, out_.data(), kTurn, &made) !=
        nullptr)
      return fail(ErrorCode::Unsupported, "rate conversion");
    if (made > 0) OCTAPHON_TRY(sink(out_.data(), static_cast<Frame>(made)));
    if (in == nullptr) {
      if (made == 0) return {};
      continue;
    }
    in += used * static_cast<std::size_t>(channels_);
    frames -= static_cast<Frame>(used);
    if (frames == 0 && made < kTurn) return {};
  }
}

}  // namespace octaphon
