#include "brief/chooser.h"

#include <algorithm>

namespace octaphon {
namespace {

bool contains(const std::vector<std::string>* texts, std::string_view text) {
  return texts != nullptr && std::find(texts->begin(), texts->end(), text) != texts->end();
}

bool isBelow(std::string_view path, std::string_view folder) {
  return path.starts_with(folder) && (path.size() == folder.size() || path[folder.size()] == '/');
}

}  // namespace

Chooser::Chooser(const Selection& selection) : selection_(selection), isUsed_(selection.picks.size(), 0) {
  for (std::size_t i = 0; i < selection.picks.size(); ++i) {
    const Pick& pick = selection.picks[i];
    patterns_.emplace_back();
    if (pick.by == PickBy::Named) patterns_.back().emplace(pick.value);
    if (pick.by == PickBy::Id)
      byId_[pick.value].push_back(i);
    else
      rules_.push_back(i);
  }
}

bool Chooser::fits(std::size_t pick, const Choosable& thing) const {
  const Pick& rule = selection_.picks[pick];
  switch (rule.by) {
    case PickBy::Id: return rule.value == thing.id;
    case PickBy::All: return true;
    case PickBy::Under:
      return thing.above != nullptr ? contains(thing.above, rule.value) : isBelow(thing.name, rule.value);
    case PickBy::Named: return patterns_[pick]->fits(thing.name);
    case PickBy::Colour: return thing.ink == rule.number;
    case PickBy::Tag: return contains(thing.tags, rule.value);
    case PickBy::Level: return thing.level == rule.number;
  }
  return false;
}

bool Chooser::takes(const Choosable& thing) {
  std::optional<std::size_t> last;
  const auto found = byId_.find(thing.id);
  if (found != byId_.end())
    for (const std::size_t pick : found->second) {
      isUsed_[pick] = 1;
      last = pick;
    }
  for (const std::size_t pick : rules_) {
    if (!fits(pick, thing)) continue;
    isUsed_[pick] = 1;
    if (!last || pick > *last) last = pick;
  }
  return last && !selection_.picks[*last].out;
}

std::vector<const Pick*> Chooser::idle() const {
  std::vector<const Pick*> idle;
  for (std::size_t i = 0; i < isUsed_.size(); ++i)
    if (isUsed_[i] == 0) idle.push_back(&selection_.picks[i]);
  return idle;
}

}  // namespace octaphon
