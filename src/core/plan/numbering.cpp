#include "plan/numbering.h"

#include <algorithm>
#include <array>
#include <map>
#include <numeric>
#include <string_view>
#include <unordered_set>

#include "naming/template.h"

namespace octaphon {
namespace {

/// The span's part and the source's part of a pair's key.
std::pair<std::string_view, std::string_view> partsOf(std::string_view pair) {
  const std::size_t slash = pair.find('/');
  return {pair.substr(0, slash),
          slash == std::string_view::npos ? std::string_view() : pair.substr(slash + 1)};
}

/// Sounds of one brief, from its first one on.
class Sounds {
 public:
  Sounds(const Sheet& sheet, const PlannedBrief& brief)
      : sheet_(sheet),
        brief_(brief),
        first_(brief.rowCount == 0 ? 0 : sheet.rows[brief.firstRow].sound),
        count_(brief.rowCount == 0
                   ? 0
                   : sheet.rows[brief.firstRow + brief.rowCount - 1].sound - std::size_t{first_} + 1),
        isHeld_(count_, 1),
        order_(count_) {
    std::iota(order_.begin(), order_.end(), 0);
    std::stable_sort(order_.begin(), order_.end(), [&](std::size_t a, std::size_t b) {
      return std::pair(spanOf(a), (*this)[a].source) < std::pair(spanOf(b), (*this)[b].source);
    });
    for (std::size_t row = brief.firstRow; row < brief.firstRow + brief.rowCount; ++row)
      if (!sheet.rows[row].isHeldBack) isHeld_[sheet.rows[row].sound - first_] = 0;
  }
  std::size_t size() const { return count_; }
  const TappedSound& operator[](std::size_t i) const { return sheet_.sounds[first_ + i]; }
  bool isHeld(std::size_t i) const { return isHeld_[i] != 0; }
  std::size_t of(const Row& row) const { return row.sound - first_; }
  /// Index of the span, which a sound with ends of its own has too.
  std::uint32_t spanOf(std::size_t i) const { return brief_.originals[(*this)[i].span]; }
  /// Of spans and sources.
  const std::vector<std::size_t>& order() const { return order_; }

 private:
  const Sheet& sheet_;
  const PlannedBrief& brief_;
  std::uint32_t first_;
  std::size_t count_;
  std::vector<char> isHeld_;  // with all their files
  std::vector<std::size_t> order_;
};

/// Numbers of one counter. `scopeOf(i)`: index of what a sound is counted in, with its highest number.
template <class ScopeOf>
void give(std::vector<NumberSet>& places, const Sounds& sounds, Counter counter,
          std::vector<std::uint32_t> highest, const ScopeOf& scopeOf) {
  for (const bool held : {false, true})
    for (const std::size_t i : sounds.order())
      if (sounds.isHeld(i) == held && places[i][counter] == 0) places[i][counter] = ++highest[scopeOf(i)];
}

/// The highest number that was ever given in each scope; `indexOf` finds what a key's part names.
std::vector<std::uint32_t> highestOf(const StickyNumbers& fixed, Counter counter, std::size_t scopes,
                                     const std::unordered_map<std::string, std::size_t>* indexOf) {
  std::vector<std::uint32_t> highest(scopes, 0);
  for (const auto& [pair, given] : fixed.pairs) {
    std::size_t scope = 0;
    if (indexOf != nullptr) {
      const auto [span, source] = partsOf(pair);
      const auto found = indexOf->find(std::string(counter == Counter::OfSpan ? span : source));
      if (found == indexOf->end()) continue;
      scope = found->second;
    }
    highest[scope] = std::max(highest[scope], given.numbers[counter]);
  }
  return highest;
}

template <class Thing>
std::unordered_map<std::string, std::size_t> indicesOf(const std::vector<Thing>& things) {
  std::unordered_map<std::string, std::size_t> indices;
  for (std::size_t i = 0; i < things.size(); ++i) indices.emplace(things[i].key(), i);
  return indices;
}

/// A source has the number that any of its sounds was given.
void numberSources(const PlannedBrief& brief, const Sounds& sounds, std::vector<NumberSet>& places,
                   std::uint32_t highest) {
  std::vector<std::uint32_t> numbers(brief.sources.size(), 0);
  for (std::size_t i = 0; i < sounds.size(); ++i)
    numbers[sounds[i].source] = std::max(numbers[sounds[i].source], places[i][Counter::Sources]);
  for (const bool held : {false, true}) {
    std::vector<char> isThere(brief.sources.size(), 0);
    for (std::size_t i = 0; i < sounds.size(); ++i)
      if (sounds.isHeld(i) == held) isThere[sounds[i].source] = 1;
    for (std::size_t source = 0; source < numbers.size(); ++source)
      if (isThere[source] != 0 && numbers[source] == 0) numbers[source] = ++highest;
  }
  for (std::size_t i = 0; i < sounds.size(); ++i) places[i][Counter::Sources] = numbers[sounds[i].source];
}

}  // namespace

void numberSounds(const Sheet& sheet, PlannedBrief& brief) {
  const StickyNumbers& fixed = brief.kept();
  const Sounds sounds(sheet, brief);
  std::vector<NumberSet>& places = brief.places;
  places.assign(sounds.size(), {});
  if (!fixed.pairs.empty())
    for (std::size_t i = 0; i < sounds.size(); ++i)
      if (const auto given = fixed.pairs.find(sheet.pairKeyOf(sounds[i])); given != fixed.pairs.end())
        places[i] = given->second.numbers;
  const auto spans = indicesOf(brief.spans);
  const auto sources = indicesOf(brief.sources);
  give(places, sounds, Counter::All, highestOf(fixed, Counter::All, 1, nullptr),
       [](std::size_t) { return 0; });
  give(places, sounds, Counter::OfSpan, highestOf(fixed, Counter::OfSpan, brief.spans.size(), &spans),
       [&](std::size_t i) { return sounds.spanOf(i); });
  give(places, sounds, Counter::OfSource, highestOf(fixed, Counter::OfSource, brief.sources.size(), &sources),
       [&](std::size_t i) { return sounds[i].source; });
  numberSources(brief, sounds, places, highestOf(fixed, Counter::Sources, 1, nullptr)[0]);
}

namespace {

/// What equal names were given.
class NamesGiven {
 public:
  explicit NamesGiven(const StickyNumbers& fixed) : fixed_(fixed) {
    for (const auto& [pair, given] : fixed.pairs) {
      if (given.numbers[Counter::AmongNames] == 0) continue;
      std::uint32_t& highest = highest_[given.name];
      highest = std::max(highest, given.numbers[Counter::AmongNames]);
    }
  }
  bool empty() const { return highest_.empty(); }
  std::uint32_t highestIn(const Digest& name) const {
    const auto found = highest_.find(name);
    return found == highest_.end() ? 0 : found->second;
  }
  const PairNumbers* of(const std::string& pair) const {
    const auto found = fixed_.pairs.find(pair);
    return found == fixed_.pairs.end() || found->second.numbers[Counter::AmongNames] == 0 ? nullptr
                                                                                          : &found->second;
  }

 private:
  const StickyNumbers& fixed_;
  std::map<Digest, std::uint32_t> highest_;
};

class NameNumberer {
 public:
  NameNumberer(const Sheet& sheet, const PlannedBrief& brief)
      : sheet_(sheet), brief_(brief), sounds_(sheet, brief), given_(brief.kept()) {}

  NameNumbers number(const EqualNames& names) {
    made_ = {std::vector<std::uint32_t>(brief_.rowCount), std::vector<std::uint32_t>(brief_.rowCount),
             std::vector<Digest>(brief_.rowCount), 0};
    names.forEachRun([&](const EqualNames::Run& run) { numberRun(run); });
    for (std::size_t i = 1; i < brief_.rowCount; ++i) {
      if (row(i).isFirst()) continue;
      made_.places[i] = made_.places[i - 1];
      made_.counts[i] = made_.counts[i - 1];
      made_.names[i] = made_.names[i - 1];
    }
    if (!made_.counts.empty()) made_.most = *std::max_element(made_.counts.begin(), made_.counts.end());
    return std::move(made_);
  }

 private:
  const Row& row(std::size_t i) const { return sheet_.rows[brief_.firstRow + i]; }

  void numberRun(const EqualNames::Run& run) {
    for (std::size_t i = 0; i < run.size(); ++i) {
      made_.counts[run[i]] = static_cast<std::uint32_t>(run.size());
      made_.names[run[i]] = run.name();
    }
    std::uint32_t highest = given_.highestIn(run.name());
    if (!given_.empty()) highest = keepGiven(run, highest);
    for (const bool held : {false, true})
      for (std::size_t i = 0; i < run.size(); ++i)
        if (made_.places[run[i]] == 0 && sounds_.isHeld(sounds_.of(row(run[i]))) == held)
          made_.places[run[i]] = ++highest;
  }

  /// Those that were given for this very name first; then those of other names, where they are free.
  std::uint32_t keepGiven(const EqualNames::Run& run, std::uint32_t highest) {
    std::unordered_set<std::uint32_t> taken;
    const std::uint32_t before = highest;
    for (const bool isOwn : {true, false})
      for (std::size_t i = 0; i < run.size(); ++i) {
        const PairNumbers* given = given_.of(sheet_.pairKeyOf(sounds_[sounds_.of(row(run[i]))]));
        if (given == nullptr || (given->name == run.name()) != isOwn) continue;
        const std::uint32_t number = given->numbers[Counter::AmongNames];
        // What has gone keeps its number too.
        if (!isOwn && (taken.contains(number) || number <= before)) continue;
        made_.places[run[i]] = number;
        taken.insert(number);
        highest = std::max(highest, number);
      }
    return highest;
  }

  const Sheet& sheet_;
  const PlannedBrief& brief_;
  Sounds sounds_;
  NamesGiven given_;
  NameNumbers made_;
};

}  // namespace

NameNumbers numberNames(const Sheet& sheet, const PlannedBrief& brief, const EqualNames& names) {
  return NameNumberer(sheet, brief).number(names);
}

namespace {

std::array<bool, kCounters> countersOf(const Template& format) {
  return {format.uses(NameField::Number), format.uses(NameField::NumberInRegion),
          format.uses(NameField::NumberOfSource), format.uses(NameField::NameNumber),
          format.uses(NameField::SourceNumber)};
}

/// How many each counter has.
NumberSet mostOf(const PlannedBrief& brief, const NameNumbers& names) {
  NumberSet most;
  for (const NumberSet& places : brief.places)
    for (std::size_t i = 0; i < kCounters; ++i)
      most.numbers[i] = std::max(most.numbers[i], places.numbers[i]);
  most[Counter::AmongNames] = names.most;
  return most;
}

}  // namespace

StickyNumbers stickyNumbers(const Sheet& sheet, const PlannedBrief& brief) {
  StickyNumbers sticky = brief.kept();
  const auto format = Template::parse(brief.brief.names.format);
  if (!format) return sticky;
  const std::array<bool, kCounters> asked = countersOf(*format);
  if (std::none_of(asked.begin(), asked.end(), [](bool on) { return on; })) return sticky;
  const NameNumbers& names = brief.nameNumbers;
  const NumberSet most = mostOf(brief, names);
  for (std::size_t i = 0; i < kCounters; ++i)
    if (asked[i] && sticky.most.numbers[i] == 0) sticky.most.numbers[i] = most.numbers[i];
  const Sounds sounds(sheet, brief);
  for (std::size_t i = 0; i < brief.rowCount; ++i) {
    const Row& row = sheet.rows[brief.firstRow + i];
    const std::size_t sound = sounds.of(row);
    if (!row.isFirst() || sounds.isHeld(sound)) continue;
    PairNumbers& given = sticky.pairs[sheet.pairKeyOf(sounds[sound])];
    for (std::size_t c = 0; c < kCounters; ++c)
      if (asked[c]) given.numbers.numbers[c] = brief.places[sound].numbers[c];
    if (names.places.empty()) continue;
    given.numbers[Counter::AmongNames] = names.places[i];
    given.name = names.names[i];
  }
  return sticky;
}

}  // namespace octaphon
