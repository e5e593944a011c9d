#include "play/loudness_meter.h"

#include <ebur128.h>

#include <algorithm>
#include <cmath>

namespace octaphon {

struct LoudnessMeter::Meter {
  ebur128_state* state;
  explicit Meter(int rate)
      : state(ebur128_init(2, static_cast<unsigned long>(rate),
                           EBUR128_MODE_M | EBUR128_MODE_I | EBUR128_MODE_HISTOGRAM)) {}
  ~Meter() {
    if (state != nullptr) ebur128_destroy(&state);
  }
};

LoudnessMeter::LoudnessMeter(int rate) : meter_(std::make_unique<Meter>(rate)), step_(rate / 10) {}
LoudnessMeter::~LoudnessMeter() = default;

void LoudnessMeter::add(const float* stereo, Frame frames) {
  if (meter_->state == nullptr || frames <= 0) return;
  ebur128_add_frames_float(meter_->state, stereo, static_cast<std::size_t>(frames));
  since_ += frames;
  if (since_ < step_) return;
  since_ = 0;
  double value = 0;
  const auto known = [](double lufs) {
    return std::isfinite(lufs) ? std::max(lufs, kNoLoudness) : kNoLoudness;
  };
  if (ebur128_loudness_momentary(meter_->state, &value) == EBUR128_SUCCESS) momentary_ = known(value);
  if (ebur128_loudness_global(meter_->state, &value) == EBUR128_SUCCESS) integrated_ = known(value);
}

}  // namespace octaphon
