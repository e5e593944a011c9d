// Places in the sessions of the demo, in frames.
#pragma once

#include <cmath>

#include "base/frames.h"

namespace octaphon::demo {

inline constexpr int kRate = 48000;

inline Frame at(double seconds) { return std::llround(seconds * kRate); }

}  // namespace octaphon::demo
