// Time is an integer: positions and lengths are frames (one sample of every channel) at a stated rate.
#pragma once

#include <cstdint>

#include <optional>
#include <string>

namespace octaphon {

using Frame = std::int64_t;
/// Room for products of frames and rates.
__extension__ using WideFrame = __int128;

/// Largest position or length a session may hold: exact in a JSON number.
inline constexpr Frame kMaxFrame = (Frame{1} << 53) - 1;

/// Sample rates that a session may have, in Hz.
inline constexpr int kMinRate = 8000;
inline constexpr int kMaxRate = 384000;

/// The sum, or nothing where it leaves [0, kMaxFrame].
constexpr std::optional<Frame> checkedSum(Frame a, Frame b) {
  if (a < 0 || b < 0 || a > kMaxFrame || b > kMaxFrame - a) return std::nullopt;
  return a + b;
}

/// The largest whole number that is not over a / b; b over 0.
constexpr Frame floorOf(WideFrame a, WideFrame b) { return static_cast<Frame>(a / b - (a % b < 0 ? 1 : 0)); }
/// The nearest whole number to a / b, halves up; b over 0.
constexpr Frame roundOf(WideFrame a, WideFrame b) { return floorOf(a * 2 + b, b * 2); }

/// round(frames · out / in), halves up: the length of `frames`, or a place before or after 0, at another
/// rate. Exact for all lengths up to kMaxFrame. Rates in Hz, over 0.
constexpr Frame atRate(Frame frames, int in, int out) { return roundOf(WideFrame{frames} * out, in); }

/// The nearest frame to a time in seconds ≥ 0; kMaxFrame where it would be more.
Frame framesOf(double seconds, int rate);

/// `m:ss.mmm`, or `h:mm:ss.mmm` from an hour on; rounded to the nearest millisecond. `−0:01.000` before 0.
std::string timeText(Frame frames, int rate);

/// `m:ss`, for rulers and progress.
std::string shortTimeText(double seconds);

}  // namespace octaphon
