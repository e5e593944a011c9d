#include "exchange/vocabulary_table.h"

#include <algorithm>
#include <array>
#include <optional>

#include "base/text_table.h"
#include "base/unicode.h"

namespace octaphon {
namespace {

enum VocabularyColumn : std::size_t { Fact, Value, Meaning, kColumns };
constexpr std::array<std::string_view, kColumns> kNames{"fact", "value", "meaning"};
using ColumnPlaces = std::array<std::size_t, kColumns>;

/// Where the columns are, if the first row names them.
std::optional<ColumnPlaces> headOf(const TableRow& row) {
  ColumnPlaces places{row.cells.size(), row.cells.size(), row.cells.size()};
  for (std::size_t i = 0; i < row.cells.size(); ++i)
    for (std::size_t column = 0; column < kColumns; ++column)
      if (foldedName(row.cells[i]) == kNames[column]) places[column] = i;
  return places[Fact] < row.cells.size() ? std::optional(places) : std::nullopt;
}

VocabularyFact& factIn(std::vector<VocabularyFact>& vocabulary, const std::string& name) {
  const auto found = std::find_if(vocabulary.begin(), vocabulary.end(),
                                  [&](const VocabularyFact& fact) { return fact.fact == name; });
  return found != vocabulary.end() ? *found : vocabulary.emplace_back(VocabularyFact{name, {}});
}

void take(VocabularyFact& fact, const std::string& value, const std::string& meaning) {
  if (value.empty()) {
    if (!meaning.empty()) fact.meaning = meaning;
    return;
  }
  const bool isThere = std::any_of(fact.values.begin(), fact.values.end(),
                                   [&](const VocabularyValue& one) { return one.value == value; });
  if (!isThere) fact.values.push_back({value, meaning});
}

}  // namespace

std::string writeVocabulary(const std::vector<VocabularyFact>& vocabulary) {
  std::string text = "fact,value,meaning\n";
  const auto line = [&](const std::string& fact, const std::string& value, const std::string& meaning) {
    text += tableCell(fact) + "," + tableCell(value) + "," + tableCell(meaning) + "\n";
  };
  for (const VocabularyFact& fact : vocabulary) {
    if (fact.values.empty() || !fact.meaning.empty()) line(fact.fact, "", fact.meaning);
    for (const VocabularyValue& value : fact.values) line(fact.fact, value.value, value.meaning);
  }
  return text;
}

Result<std::vector<VocabularyFact>> readVocabulary(std::string_view bytes, const std::string& place) {
  const std::string text = decodedText(bytes);
  std::vector<VocabularyFact> vocabulary;
  if (text.find('\0') != std::string::npos)
    return fail(ErrorCode::Syntax, place, "it is no text", "Save the table as CSV");
  const std::vector<TableRow> rows = tableRows(text);
  const std::optional<ColumnPlaces> head = rows.empty() ? std::nullopt : headOf(rows.front());
  const ColumnPlaces places = head.value_or(ColumnPlaces{0, 1, 2});
  for (std::size_t i = head ? 1 : 0; i < rows.size(); ++i) {
    const auto cell = [&](VocabularyColumn column) {
      const std::size_t at = places[column];
      return at < rows[i].cells.size() ? withoutControls(rows[i].cells[at], " ") : std::string();
    };
    if (const std::string name = cell(Fact); !name.empty())
      take(factIn(vocabulary, name), cell(Value), cell(Meaning));
  }
  if (vocabulary.empty())
    return fail(ErrorCode::Syntax, place, "there is no fact in it",
                "Write a table with the columns fact, value and meaning");
  return vocabulary;
}

}  // namespace octaphon
