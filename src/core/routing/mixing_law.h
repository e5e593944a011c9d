// Fader and pan as a small matrix of gains, and how channels of one layout become those of another. Channels
// stand in the order of WAVE files (Microsoft, WAVEFORMATEXTENSIBLE):
//   1 mono · 2 L R · 4 L R Ls Rs · 6 L R C LFE Ls Rs · 8 L R C LFE Lb Rb Ls Rs
// The laws, with p the pan from −1 (left) to +1 (right) and g the fader:
//   1 → more  constant power into L and R: θ = (p + 1) · π/4, left g·cos θ, right g·sin θ: −3.01 dB on both
//   sides
//             in the centre, the sum of the squares always g²
//   1 → 1     g; there is no pan
//   others    balance: left channels g·min(1, 1 − p), right ones g·min(1, 1 + p), C and LFE g: unity in the
//   centre;
//             then each channel goes to its own place. Where the target lacks it: C into L and R, surrounds
//             into the front, sides and backs into one pair of surrounds, all at −3.01 dB (ITU-R BS.775); LFE
//             is left out. Four channels in 7.1 are L R and the sides. Into mono: half of each side of the
//             stereo fold.
#pragma once

#include <array>

#include "base/frames.h"

namespace octaphon {

inline constexpr int kMaxMixChannels = 8;
/// Of files that hold several sources beside each other.
inline constexpr int kMaxTapChannels = 32;

/// gain[out][in].
struct MixMatrix {
  int inputs = 2;
  int outputs = 2;
  std::array<std::array<double, kMaxMixChannels>, kMaxMixChannels> gain{};
  bool operator==(const MixMatrix&) const = default;

  bool isIdentity() const;
};

/// `inputs` and `outputs` are 1, 2, 4, 6 or 8, `pan` is −1 … 1, `gain` a factor ≥ 0.
MixMatrix mixMatrix(int inputs, int outputs, double gain, double pan);

/// How frames of one layout are heard in another: mixMatrix() at unity, but mono is on all channels as it is.
MixMatrix foldMatrix(int inputs, int outputs);
/// One channel of what comes out; planar.
void foldChannel(const MixMatrix& matrix, const float* const* in, int channel, Frame frames, float* out);

/// Whether mixMatrix() leaves the sound as it is.
bool isPlainWire(int inputs, int outputs, double gainDb, double pan);

}  // namespace octaphon
