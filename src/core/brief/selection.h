// Which things of a kind a brief takes: a list of things taken in and out, by rules or by hand. What fits a
// rule later joins by itself.
#pragma once

#include <array>
#include <initializer_list>
#include <optional>
#include <string>
#include <vector>

#include "base/choices.h"

namespace octaphon {

enum class PickBy { Id, All, Under, Named, Colour, Tag, Level };
constexpr auto choicesOf(PickBy) {
  return std::array<Choice<PickBy>, 7>{
      {{PickBy::Id, "id", "by hand", "By hand", "One thing"},
       {PickBy::All, "all", "all", "All", "All there are, also those still to come"},
       {PickBy::Under, "under", "under", "Under", "Regions below a path, tracks in a group"},
       {PickBy::Named, "named", "named", "Named", "Names by pattern: * is any text, ? any character"},
       {PickBy::Colour, "colour", "in colour", "In colour", "Of one ink, 1 to 8"},
       {PickBy::Tag, "tag", "tagged", "Tagged", "With a tag"},
       {PickBy::Level, "level", "on level", "On level", "Groups so deep: 1 is right below main"}}};
}

/// A line of a selection.
struct Pick {
  bool out = false;  ///< taken out instead of in
  PickBy by = PickBy::Id;
  std::string value = {};  ///< id, path or group's id, pattern, tag
  int number = 0;          ///< of Colour and Level
  std::string unknownKeys = {};
  bool operator==(const Pick&) const = default;
};

inline constexpr int kMaxPickNumber = 99;

struct Selection {
  std::vector<Pick> picks;  ///< the last that fits a thing counts; what none fits is out

  Selection() = default;
  /// All things, or those of these ids.
  Selection(bool all, const std::vector<std::string>& ids) {
    if (all) picks.push_back({false, PickBy::All});
    for (const std::string& id : ids) picks.push_back({false, PickBy::Id, id});
  }
  Selection(std::initializer_list<std::string> ids) : Selection(false, std::vector<std::string>(ids)) {}
  static Selection everything() { return Selection(true, std::vector<std::string>()); }
  bool operator==(const Selection&) const = default;
  bool empty() const { return picks.empty(); }
  /// All things and no exceptions.
  bool isEverything() const { return *this == everything(); }
  /// The ids, where they are all it says.
  std::optional<std::vector<std::string>> handPicked() const;
  /// Takes one thing in or out, whatever the rules say of it.
  void setByHand(const std::string& id, bool isIn);
};

}  // namespace octaphon
