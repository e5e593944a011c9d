#include "signal/strip_runner.h"

#include <algorithm>

#include "base/decibels.h"

namespace octaphon {
namespace {

/// One output channel of a constant matrix.
void mixInto(float* out, const float* const* in, const std::array<double, kMaxMixChannels>& gains, int inputs,
             Frame frames) {
  int used[kMaxMixChannels];
  int count = 0;
  for (int c = 0; c < inputs; ++c)
    if (gains[static_cast<std::size_t>(c)] != 0) used[count++] = c;
  const auto gain = [&](int i) { return gains[static_cast<std::size_t>(used[i])]; };
  if (count == 0) {
    std::fill_n(out, frames, 0.0f);
  } else if (count == 1) {
    const float* only = in[used[0]];
    const double factor = gain(0);
    for (Frame i = 0; i < frames; ++i) out[i] = static_cast<float>(only[i] * factor);
  } else if (count == 2) {
    const float *a = in[used[0]], *b = in[used[1]];
    const double ga = gain(0), gb = gain(1);
    for (Frame i = 0; i < frames; ++i) out[i] = static_cast<float>(a[i] * ga + b[i] * gb);
  } else {
    for (Frame i = 0; i < frames; ++i) {
      double sum = 0;
      for (int c = 0; c < count; ++c) sum += in[used[c]][i] * gain(c);
      out[i] = static_cast<float>(sum);
    }
  }
}

}  // namespace

StripRunner::StripRunner(const StripSetting& setting) : setting_(setting) {
  const bool still = setting_.gainDb.isConstant() && setting_.mute.isConstant();
  const double pan = setting_.pan.isConstant() ? setting_.pan.at(0) : 0;
  matrix_ = mixMatrix(setting_.inputs, setting_.outputs, still ? gainAt(0) : 1, pan);
}

double StripRunner::gainAt(Frame frame) const {
  return gainOf(setting_.gainDb.at(frame)) * (1 - std::clamp(setting_.mute.at(frame), 0.0, 1.0));
}

void StripRunner::process(const float* const* in, float* const* out, Frame at, Frame frames) const {
  if (!setting_.pan.isConstant()) return panned(in, out, at, frames);
  if (!setting_.gainDb.isConstant() || !setting_.mute.isConstant()) return faded(in, out, at, frames);
  constant(in, out, frames);
}

void StripRunner::constant(const float* const* in, float* const* out, Frame frames) const {
  for (int o = 0; o < setting_.outputs; ++o)
    mixInto(out[o], in, matrix_.gain[static_cast<std::size_t>(o)], setting_.inputs, frames);
}

void StripRunner::faded(const float* const* in, float* const* out, Frame at, Frame frames) const {
  constant(in, out, frames);
  for (Frame i = 0; i < frames; ++i) {
    const double gain = gainAt(at + i);
    for (int o = 0; o < setting_.outputs; ++o) out[o][i] = static_cast<float>(out[o][i] * gain);
  }
}

void StripRunner::panned(const float* const* in, float* const* out, Frame at, Frame frames) const {
  for (Frame i = 0; i < frames; ++i) {
    const MixMatrix matrix =
        mixMatrix(setting_.inputs, setting_.outputs, gainAt(at + i), setting_.pan.at(at + i));
    for (int o = 0; o < setting_.outputs; ++o) {
      double sum = 0;
      for (int c = 0; c < setting_.inputs; ++c)
        sum += in[c][i] * matrix.gain[static_cast<std::size_t>(o)][static_cast<std::size_t>(c)];
      out[o][i] = static_cast<float>(sum);
    }
  }
}

}  // namespace octaphon
