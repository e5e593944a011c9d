// Gains in decibels: 20·log10 of a ratio of amplitudes.
#pragma once

#include <string>

namespace octaphon {

inline constexpr double kSilenceDb = -144.0;  ///< this and everything below it is silence
inline constexpr double kMaxGainDb = 48.0;

double gainOf(double decibels);    ///< the factor; 0 at or below kSilenceDb; exactly 1 at 0 dB
double decibelsOf(double factor);  ///< −∞ is given as kSilenceDb

/// One decimal and a real minus sign: `−3.0`; `−∞` for silence.
std::string decibelText(double decibels);

}  // namespace octaphon
