#include "plan/own_rows.h"

#include <algorithm>
#include <map>

#include "base/unicode.h"
#include "brief/description.h"

namespace octaphon {
namespace {

template <class T>
T overlaid(T base, const T& more) {
  static const T kNothing;
  forEachField<T>([&](const auto& field) {
    if (field.in(more) != field.in(kNothing)) field.in(base) = field.in(more);
  });
  return base;
}

}  // namespace

OwnEnds laidOver(OwnEnds base, const OwnEnds& more) { return overlaid(std::move(base), more); }
OwnLoop laidOver(OwnLoop base, const OwnLoop& more) { return overlaid(std::move(base), more); }

std::string exceptionText(const RowException& own) {
  std::vector<std::string> words;
  if (!own.name.empty()) words.push_back("named by hand");
  if (own.channels != OutputChannels::AsTapped) words.push_back(std::string(choiceOf(own.channels).words));
  if (own.encoding) words.push_back(std::string(choiceOf(*own.encoding).words));
  if (own.rate > 0) words.push_back(plainNumber(own.rate / 1000.0) + " kHz");
  if (own.ends != OwnEnds{}) words.push_back("ends of its own");
  if (own.loop != OwnLoop{}) words.push_back("a loop of its own");
  return words.empty() ? std::string("nothing of its own") : listed(words);
}

OwnSounds::OwnSounds(PlannedBrief& planned) {
  std::map<std::string, const RowException*> byPair;
  for (const RowException& exception : planned.brief.rowExceptions)
    if (exception.changesSound()) byPair.try_emplace(pairOfRow(exception.row), &exception);
  planned.ownSources.assign(planned.spans.size(), std::nullopt);
  std::vector<PlannedSpan> spans;
  std::vector<std::vector<std::uint32_t>> asked;
  std::vector<std::optional<std::uint32_t>> ownSources;
  const auto add = [&](std::size_t original, std::optional<std::uint32_t> source, const RowException* own) {
    planned.originals.push_back(source ? planned.originals.back() : static_cast<std::uint32_t>(spans.size()));
    ownSources.push_back(source);
    spans.push_back(planned.spans[original]);
    asked.push_back(planned.asked[original]);
    exceptions_.push_back(own);
  };
  for (std::size_t span = 0; span < planned.spans.size(); ++span) {
    add(span, std::nullopt, nullptr);
    for (std::uint32_t source = 0; source < planned.sources.size() && !byPair.empty(); ++source) {
      const auto own = byPair.find(planned.spans[span].key() + "/" + planned.sources[source].key());
      if (own != byPair.end() && planned.isPair(span, source)) add(span, source, own->second);
    }
  }
  planned.spans = std::move(spans);
  planned.asked = std::move(asked);
  planned.ownSources = std::move(ownSources);
}

RowMarks::RowMarks(const Brief& brief)
    : head_(brief.id.size() + 1), held_(brief.heldBack.begin(), brief.heldBack.end()) {
  for (std::uint32_t i = 0; i < brief.rowExceptions.size(); ++i)
    exceptions_.try_emplace(brief.rowExceptions[i].row, i);
  for (std::uint32_t i = 0; i < brief.accepted.size(); ++i)
    for (const std::string& row : brief.accepted[i].rows) accepted_[row].push_back(i);
}

void RowMarks::mark(Row& row, std::string_view wholeKey) const {
  const std::string_view key = wholeKey.substr(head_);
  row.isHeldBack = held_.contains(key);
  if (const auto found = exceptions_.find(key); found != exceptions_.end()) row.exception = found->second;
  if (const auto found = accepted_.find(key); found != accepted_.end()) row.accepted = found->second;
}

std::vector<std::uint32_t> RowMarks::acceptedOfBrief() const {
  const auto found = accepted_.find(std::string_view());
  return found == accepted_.end() ? std::vector<std::uint32_t>() : found->second;
}

}  // namespace octaphon
