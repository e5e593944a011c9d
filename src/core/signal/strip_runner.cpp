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

void faded(float* samples, Frame frames, const double* gains) {
  for (Frame i = 0; i < frames; ++i) samples[i] = static_cast<float>(samples[i] * gains[i]);
}

}  // namespace

StripRunner::StripRunner(const StripSetting& setting) : setting_(setting) {
  const bool still = setting_.gainDb.isConstant() && setting_.mute.isConstant();
  const double pan = setting_.pan.isConstant() ? setting_.pan.at(0) : 0;
  double gain = 1;
  if (still) gains(0, 1, &gain);
  matrix_ = mixMatrix(setting_.inputs, setting_.outputs, gain, pan);
}

/// Of at most kTurn frames.
void StripRunner::gains(Frame at, Frame frames, double* out) const {
  std::array<double, kTurn> mute;
  setting_.gainDb.fill(at, frames, out);
  setting_.mute.fill(at, frames, mute.data());
  double decibels = 0, gain = 1;
  for (Frame i = 0; i < frames; ++i) {
    if (out[i] != decibels) gain = gainOf(decibels = out[i]);  // faders mostly stand still
    out[i] = gain * (1 - std::clamp(mute[static_cast<std::size_t>(i)], 0.0, 1.0));
  }
}

void StripRunner::process(const float* const* in, float* const* out, Frame at, Frame frames) const {
  const bool isPanned = !setting_.pan.isConstant();
  if (!isPanned) constant(in, out, frames);
  if (!isPanned && setting_.gainDb.isConstant() && setting_.mute.isConstant()) return;
  std::array<double, kTurn> factors;
  for (Frame done = 0; done < frames; done += kTurn) {
    const Frame count = std::min(kTurn, frames - done);
    gains(at + done, count, factors.data());
    if (isPanned)
      panned(in, out, at, done, count, factors.data());
    else
      for (int o = 0; o < setting_.outputs; ++o) faded(out[o] + done, count, factors.data());
  }
}

void StripRunner::constant(const float* const* in, float* const* out, Frame frames) const {
  for (int o = 0; o < setting_.outputs; ++o)
    mixInto(out[o], in, matrix_.gain[static_cast<std::size_t>(o)], setting_.inputs, frames);
}

void StripRunner::panned(const float* const* in, float* const* out, Frame at, Frame from, Frame frames,
                         const double* factors) const {
  std::array<double, kTurn> pans;
  setting_.pan.fill(at + from, frames, pans.data());
  MixMatrix matrix;
  for (Frame i = from; i < from + frames; ++i) {
    const auto turn = static_cast<std::size_t>(i - from);
    const bool stands = turn > 0 && factors[turn] == factors[turn - 1] && pans[turn] == pans[turn - 1];
    if (!stands) matrix = mixMatrix(setting_.inputs, setting_.outputs, factors[turn], pans[turn]);
    for (int o = 0; o < setting_.outputs; ++o) {
      double sum = 0;
      for (int c = 0; c < setting_.inputs; ++c)
        sum += in[c][i] * matrix.gain[static_cast<std::size_t>(o)][static_cast<std::size_t>(c)];
      out[o][i] = static_cast<float>(sum);
    }
  }
}

}  // namespace octaphon
