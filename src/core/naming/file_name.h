// Names that every common file system takes. Rules: POSIX NAME_MAX (255 bytes), and "Naming Files, Paths, and
// Namespaces" by Microsoft: no `< > : " / \ | ? *`, no control characters (here: none of withoutControls()),
// no trailing dot or space, and no CON PRN AUX NUL COM1–9 LPT1–9 with any ending.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace octaphon {

inline constexpr std::size_t kLongestName = 255;  ///< bytes of one name

/// The nearest allowed name: composed (NFC), forbidden characters become `_`, spaces at either end and dots
/// at the end go, a leading dot becomes `_`, reserved names get a `_` behind. May come out empty.
std::string allowedName(std::string_view name);

/// The region's name without a number at its end and what separates it: `Winch/Start 01` gives `Winch/Start`.
/// A last part that is only a number stays.
std::string baseName(std::string_view name);

/// The digits at its end; empty where there are none.
std::string_view numberAtEnd(std::string_view name);

/// What stands between its slashes, empty parts too; one for a name without any.
std::vector<std::string> pathParts(std::string_view name);

/// The last part of a path-like name: `Start 01`.
std::string_view lastPart(std::string_view name);

}  // namespace octaphon
