// The word that someone meant.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace octaphon {

/// The one of `words` that takes the fewest letters changed, added, left out or swapped with their neighbour
/// to come from `given` (letter case ignored); empty where all take more than a third of its letters.
std::string_view nearestWord(std::string_view given, const std::vector<std::string_view>& words);

}  // namespace octaphon
