// Which sounds have one gain, and what it is as far as their levels are known.
#pragma once

#include <functional>

#include "plan/sheet.h"

namespace octaphon {

/// Puts each sound of a brief into a set. Once its rows are there.
void planGainSets(Sheet& sheet, std::size_t brief);

/// The gain of a set. Its reference is the loudest mix in it, if there is one, else the loudest sound; a
/// ceiling that is kept by gain holds for all. Nothing where levels that it takes are not known. `levelsOf`
/// gives those of a sound, by index, or null.
std::optional<FoundGain> gainOf(const Sheet& sheet, const GainSet& set,
                                const std::function<const Levels*(std::uint32_t sound)>& levelsOf);

/// Gains of all sets out of the levels of their sounds.
void findGains(Sheet& sheet);

}  // namespace octaphon
