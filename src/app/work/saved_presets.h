// Presets of phrases that someone kept for all their sessions.
#pragma once

#include <vector>

#include "brief/preset.h"

namespace octaphon::app::presets {

/// By name.
std::vector<Preset> all();
/// One of its name and phrase is replaced.
void keep(const Preset& preset);
void forget(const Preset& preset);

}  // namespace octaphon::app::presets
