// A fader and pan, or a send, constant or moved by curves.
#pragma once

#include "routing/mixing_law.h"
#include "signal/curve.h"

namespace octaphon {

struct StripSetting {
  int inputs = 2, outputs = 2;
  ValueCurve gainDb, pan;
  ValueCurve mute;  ///< 0 sounds, 1 is silent, between them a fade
};

class StripRunner {
 public:
  explicit StripRunner(const StripSetting& setting);

  /// Planar; `at` is the session frame of the first sample. in and out may not be the same.
  void process(const float* const* in, float* const* out, Frame at, Frame frames) const;

 private:
  void constant(const float* const* in, float* const* out, Frame frames) const;
  static constexpr Frame kTurn = 256;
  /// `frames` and `factors`, at most kTurn, begin at sample `from`.
  void panned(const float* const* in, float* const* out, Frame at, Frame from, Frame frames,
              const double* factors) const;
  void gains(Frame at, Frame frames, double* out) const;

  StripSetting setting_;
  MixMatrix matrix_;  // with the gain where that is constant, else at unity
};

}  // namespace octaphon
