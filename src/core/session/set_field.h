// One field of a brief by its key, as the command line sets it.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "session/session.h"

namespace octaphon {

/// Keys of a brief's fields as files have them; those of objects behind a point: `loop.way`.
std::vector<std::string> briefKeys();

/// Sets a field. `value` is JSON, or where it is none that fits, text. UnknownName where there is no such
/// key, BadValue where the value does not go; the brief stays as it is then.
Result<> setField(Brief& brief, const std::string& key, const std::string& value);

/// `[BRIEF:]key=value` in all briefs, or those of that name (UnknownName where there is none).
Result<> setField(Session& session, const std::string& setting);

}  // namespace octaphon
