#include "session/vocabulary.h"

#include <algorithm>
#include <set>

#include "base/unicode.h"

namespace octaphon {

std::vector<std::string> factNames(const Session& session) {
  std::vector<std::string> names;
  std::set<std::string> seen, others;
  for (const VocabularyFact& fact : session.vocabulary)
    if (seen.insert(fact.fact).second) names.push_back(fact.fact);
  const auto add = [&](const Facts& facts) {
    for (const auto& [name, value] : facts)
      if (!seen.contains(name)) others.insert(name);
  };
  for (const Region& region : session.regions) add(region.facts);
  for (const ClipSet& set : session.clipSets) add(set.facts);
  for (const auto& [path, facts] : session.pathFacts) add(facts);
  names.insert(names.end(), others.begin(), others.end());
  return names;
}

const VocabularyFact* vocabularyOf(const Session& session, std::string_view fact) {
  const auto found = std::find_if(session.vocabulary.begin(), session.vocabulary.end(),
                                  [&](const VocabularyFact& one) { return one.fact == fact; });
  return found == session.vocabulary.end() ? nullptr : &*found;
}

bool isAllowed(const Session& session, std::string_view fact, std::string_view value) {
  const VocabularyFact* known = vocabularyOf(session, fact);
  if (known == nullptr || known->values.empty() || value.empty()) return true;
  return std::any_of(known->values.begin(), known->values.end(),
                     [&](const VocabularyValue& one) { return one.value == value; });
}

std::string outsideVocabulary(const Session& session, const Facts& facts) {
  constexpr std::size_t kNamed = 6;
  std::vector<std::string> texts;
  for (const auto& [name, value] : facts) {
    if (isAllowed(session, name, value)) continue;
    std::vector<std::string> values;
    for (const VocabularyValue& one : vocabularyOf(session, name)->values) {
      if (values.size() == kNamed) break;
      values.push_back(printable(one.value, 40));
    }
    texts.push_back(printable(name, 40) + " says '" + printable(value, 60) + "', which is none of " +
                    listed(values) +
                    (vocabularyOf(session, name)->values.size() > kNamed ? " and others" : ""));
  }
  return listed(texts);
}

}  // namespace octaphon
