#include "app/work/brief_choice.h"

#include <algorithm>

namespace octaphon::app {

BriefChoice::BriefChoice(Document& document, QObject* parent) : QObject(parent), document_(document) {
  connect(&document_, &Document::opened, this, &BriefChoice::load);
  connect(&document_, &Document::changed, this, [this](unsigned parts) {
    if ((parts & kBriefs) != 0) follow();
  });
}

std::size_t BriefChoice::currentIndex() const {
  const auto& briefs = document_.session()->briefs;
  return static_cast<std::size_t>(
      std::find_if(briefs.begin(), briefs.end(), [this](const Brief& b) { return b.id == current_; }) -
      briefs.begin());
}

const Brief* BriefChoice::current() const {
  const auto& briefs = document_.session()->briefs;
  const std::size_t index = currentIndex();
  return index < briefs.size() ? &briefs[index] : nullptr;
}

std::vector<std::string> BriefChoice::chosen() const {
  std::vector<std::string> ids;
  for (const Brief& brief : document_.session()->briefs)
    if (brief.id == current_ || chosen_.contains(brief.id)) ids.push_back(brief.id);
  return ids;
}

void BriefChoice::choose(const std::string& current, const std::vector<std::string>& ids) {
  std::set<std::string> chosen(ids.begin(), ids.end());
  chosen.insert(current);
  if (current == current_ && chosen == chosen_) return;
  current_ = current;
  chosen_ = std::move(chosen);
  place_ = currentIndex();
  emit changed();
}

bool BriefChoice::isTicked(const std::string& id) const {
  const auto& briefs = document_.session()->briefs;
  return std::any_of(briefs.begin(), briefs.end(),
                     [&](const Brief& brief) { return brief.id == id && brief.isOn; });
}

void BriefChoice::setTicked(const std::string& id, bool on) {
  document_.editBriefs({id}, on ? tr("Switch a brief on") : tr("Switch a brief off"),
                       [on](Brief& brief) { brief.isOn = on; });
}

std::vector<std::size_t> BriefChoice::ticked() const {
  std::vector<std::size_t> result;
  const auto& briefs = document_.session()->briefs;
  for (std::size_t i = 0; i < briefs.size(); ++i)
    if (briefs[i].isOn) result.push_back(i);
  return result;
}

void BriefChoice::load() {
  const auto session = document_.session();
  current_ = session->briefs.empty() ? std::string() : session->briefs.front().id;
  chosen_ = {current_};
  place_ = 0;
  emit changed();
}

/// Where the current one has gone, the one that has its place now is looked at.
void BriefChoice::follow() {
  const auto& briefs = document_.session()->briefs;
  const auto before = std::pair(current_, place_);
  if (current() == nullptr) {
    current_ = briefs.empty() ? std::string() : briefs[std::min(place_, briefs.size() - 1)].id;
    chosen_ = {current_};
  }
  place_ = currentIndex();
  if (before != std::pair(current_, place_)) emit changed();  // else what is in it is all that changed
}

}  // namespace octaphon::app
