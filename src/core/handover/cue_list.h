// A cue sheet of what was delivered, for albums: a plain text that names files, tracks, titles, codes and the
// places where tracks begin, in minutes, seconds and 75ths of a second (practice, no standard).
#pragma once

#include <string>

#include "handover/delivery.h"

namespace octaphon {

inline constexpr int kMostCueTracks = 99;

/// A track a file, in the order of the delivery; of a file that is alone in its brief and holds regions, a
/// track each. Layers are passed over, and of several forms all but the first. Tracks beyond kMostCueTracks
/// are left out.
std::string cueList(const Delivery& delivery);

}  // namespace octaphon
