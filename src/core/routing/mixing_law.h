// Fader and pan as a small matrix of gains. The laws, with p the pan from −1 (left) to +1 (right) and g the
// fader:
//   1 → 2  constant power: θ = (p + 1) · π/4, left g·cos θ, right g·sin θ: −3.01 dB on both sides in the
//   centre,
//          the sum of the squares always g²
//   2 → 2  balance: left g·min(1, 1 − p), right g·min(1, 1 + p): unity in the centre
//   1 → 1  g; there is no pan
//   2 → 1  half of each side after its balance gain
#pragma once

#include <array>

namespace octaphon {

inline constexpr int kMaxMixChannels = 2;  ///< what this version plays

/// gain[out][in]; channels 1 or 2 on either side, in the order left, right.
struct MixMatrix {
  int inputs = 2;
  int outputs = 2;
  std::array<std::array<double, kMaxMixChannels>, kMaxMixChannels> gain{};
  bool operator==(const MixMatrix&) const = default;
  auto operator<=>(const MixMatrix&) const = default;

  bool isIdentity() const;
  bool isSilent() const;
};

/// `inputs` and `outputs` are 1 or 2, `pan` is −1 … 1, `gain` a factor ≥ 0.
MixMatrix mixMatrix(int inputs, int outputs, double gain, double pan);

}  // namespace octaphon
