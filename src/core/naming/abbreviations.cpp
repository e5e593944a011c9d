#include "naming/abbreviations.h"

#include <algorithm>

#include "base/letters.h"
#include "base/unicode.h"

namespace octaphon {
namespace {

std::string keyOf(std::string_view text, const std::vector<TextRange>& words, std::size_t first,
                  std::size_t count) {
  std::string key;
  for (std::size_t i = first; i < first + count; ++i)
    key += (i == first ? "" : " ") + foldedName(words[i].of(text));
  return key;
}

}  // namespace

Abbreviations::Abbreviations(const AbbreviationTable& table) {
  for (const auto& [full, brief] : table) {
    const std::vector<TextRange> words = wordRanges(full);
    if (words.empty()) continue;
    shortOf_.emplace(keyOf(full, words, 0, words.size()), brief);
    mostWords_ = std::max(mostWords_, words.size());
  }
}

std::string Abbreviations::applied(std::string_view text) const {
  if (shortOf_.empty()) return std::string(text);
  const std::vector<TextRange> words = wordRanges(text);
  std::string result;
  std::size_t done = 0;  // bytes of the text
  for (std::size_t i = 0; i < words.size();) {
    std::size_t taken = 1;
    for (std::size_t count = std::min(mostWords_, words.size() - i); count > 0; --count) {
      const auto found = shortOf_.find(keyOf(text, words, i, count));
      if (found == shortOf_.end()) continue;
      result.append(text.substr(done, words[i].begin - done)).append(found->second);
      done = words[i + count - 1].end;
      taken = count;
      break;
    }
    i += taken;
  }
  return result.append(text.substr(done));
}

}  // namespace octaphon
