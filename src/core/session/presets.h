// Settings of a phrase, taken out of a brief and given to others.
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "brief/phrase.h"
#include "brief/preset.h"

namespace octaphon {

/// What a phrase of the brief says, under a name.
Preset presetOf(const Brief& brief, PhraseKind phrase, std::string name);
/// Sets what the preset says; BadValue where a value cannot be read. Keys of other phrases count for nothing.
Result<> usePreset(Brief& brief, const Preset& preset);

/// Those that come with the program: files for the usual receivers.
const std::vector<Preset>& ourPresets();

/// A line each, for settings of a program; and what can be read of that.
std::string writePreset(const Preset& preset);
Result<Preset> readPreset(std::string_view text);

}  // namespace octaphon
