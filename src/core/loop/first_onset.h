// Where a sound first begins near its downbeat.
#pragma once

#include <optional>

#include "loop/lap.h"

namespace octaphon {

/// In ms behind the frame `downbeat` (under 0: before it), from 100 ms before to 250 ms behind it: the first
/// place that is 10 dB louder than the 8 ms before it, to the sample. Nothing where nothing begins there.
std::optional<double> firstOnsetMs(const Lap& sound, Frame downbeat);

}  // namespace octaphon
