#include "app/sheet/sheet_lines.h"

#include <algorithm>
#include <map>
#include <numeric>
#include <unordered_map>

#include "app/sheet/sheet_columns.h"
#include "app/work/text.h"
#include "base/in_parallel.h"
#include "base/remark_info.h"

namespace octaphon::app {
namespace {

using Columns = SheetColumns;

/// `> 2` of a column of numbers, in the seconds, channels or kHz that it shows.
std::optional<bool> compares(const Sheet& sheet, const Row& row, int column, const QString& word) {
  const bool isLess = word.startsWith('<'), isMore = word.startsWith('>');
  if ((!isLess && !isMore) || column < 0 || column == Columns::State) return std::nullopt;
  const std::optional<Frame> number = Columns::numberOf(sheet, row, column);
  bool isNumber = false;
  const double limit = word.mid(1).toDouble(&isNumber);
  if (!number || !isNumber) return std::nullopt;
  if (*number == Columns::kUnknown) return false;
  const double value = static_cast<double>(*number) / Columns::unitOf(sheet, column);
  return isLess ? value < limit : value > limit;
}

bool has(const Sheet& sheet, const Row& row, int column, const QString& word) {
  if (const auto compared = compares(sheet, row, column, word)) return *compared;
  if (column >= 0) return Columns::textOf(sheet, row, column).contains(word, Qt::CaseInsensitive);
  for (const int each : {Columns::File, Columns::BriefName, Columns::Region, Columns::Source, Columns::State,
                         Columns::RemarkText})
    if (Columns::textOf(sheet, row, each).contains(word, Qt::CaseInsensitive)) return true;
  return false;
}

std::vector<std::size_t> fitting(const Sheet& sheet, const SheetOrder& order) {
  std::vector<std::size_t> rows(sheet.rows.size());
  std::iota(rows.begin(), rows.end(), 0);
  if (order.words.isEmpty()) return rows;
  std::vector<char> fits(rows.size());
  inParallel(rows.size(), [&](std::size_t row) {
    fits[row] = std::all_of(order.words.begin(), order.words.end(), [&](const QString& word) {
      return has(sheet, sheet.rows[row], order.column, word);
    });
  });
  std::erase_if(rows, [&](std::size_t row) { return fits[row] == 0; });
  return rows;
}

/// Those of equal keys stay as they are in the sheet.
template <class KeyOf>
void sortBy(std::vector<std::size_t>& rows, std::size_t all, Qt::SortOrder order, const KeyOf& keyOf) {
  std::vector<std::decay_t<decltype(keyOf(0))>> keys(all);
  inParallel(rows.size(), [&](std::size_t i) { keys[rows[i]] = keyOf(rows[i]); });
  sortInParallel(rows, [&](std::size_t a, std::size_t b) {
    if (keys[a] == keys[b]) return a < b;
    return order == Qt::AscendingOrder ? keys[a] < keys[b] : keys[b] < keys[a];
  });
}

void sort(const Sheet& sheet, std::vector<std::size_t>& rows, const SheetOrder& order) {
  if (order.sortColumn < 0 || rows.empty()) return;
  const int column = order.sortColumn;
  if (Columns::numberOf(sheet, sheet.rows.front(), column))
    return sortBy(rows, sheet.rows.size(), order.sortOrder,
                  [&](std::size_t row) { return *Columns::numberOf(sheet, sheet.rows[row], column); });
  sortBy(rows, sheet.rows.size(), order.sortOrder,
         [&](std::size_t row) { return Columns::textOf(sheet, sheet.rows[row], column).toCaseFolded(); });
}

/// What rows of one heading have in common.
std::uint64_t groupOf(const Sheet& sheet, const Row& row, GroupBy by) {
  const TappedSound& sound = sheet.soundOf(row);
  const std::uint64_t brief = std::uint64_t{sound.brief} << 32;
  switch (by) {
    case GroupBy::Brief: return brief;
    case GroupBy::Span: return brief | sound.span;
    case GroupBy::Source: return brief | sound.source;
    case GroupBy::State: return static_cast<std::uint64_t>(row.state);
    case GroupBy::Remark: {
      const Remark* gravest = gravestOf(sheet, row);
      if (gravest == nullptr) return 1000;
      return sheet.acceptedOf(row, *gravest) != nullptr ? 999 : static_cast<std::uint64_t>(gravest->code);
    }
    case GroupBy::Nothing: break;
  }
  return 0;
}

/// A heading, with what puts it in order.
using Heading = std::pair<std::int64_t, QString>;

Heading headingOf(const Sheet& sheet, const Row& row, GroupBy by) {
  switch (by) {
    case GroupBy::Brief: return {sheet.soundOf(row).brief, text(sheet.briefOf(row).brief.name)};
    case GroupBy::Span: return {sheet.spanOf(row).start, text(sheet.spanOf(row).name)};
    case GroupBy::Source: return {sheet.soundOf(row).source, text(sheet.sourceOf(row).name)};
    case GroupBy::State: {
      const QString state = text(rowStateText(row.state));
      return {static_cast<int>(row.state), state.left(1).toUpper() + state.mid(1)};
    }
    case GroupBy::Remark: {
      const Remark* gravest = gravestOf(sheet, row);
      if (gravest == nullptr) return {2, tr("No remarks")};
      if (sheet.acceptedOf(row, *gravest) != nullptr) return {1, tr("Accepted")};
      return {-static_cast<int>(gravest->severity), text(remarkInfo(gravest->code).title)};
    }
    case GroupBy::Nothing: break;
  }
  return {};
}

}  // namespace

SheetLines::SheetLines(const Sheet& sheet, const SheetOrder& order, const std::set<QString>& closed) {
  std::vector<std::size_t> rows = fitting(sheet, order);
  sort(sheet, rows, order);
  shown_ = rows.size();
  if (order.groupBy == GroupBy::Nothing) {
    lines_.assign(rows.begin(), rows.end());
    indexLines(sheet.rows.size());
    return;
  }
  std::unordered_map<std::uint64_t, std::vector<std::size_t>*> byGroup;
  std::map<Heading, std::vector<std::size_t>> byHeading;
  for (const std::size_t row : rows) {
    auto& under = byGroup[groupOf(sheet, sheet.rows[row], order.groupBy)];
    if (under == nullptr) under = &byHeading[headingOf(sheet, sheet.rows[row], order.groupBy)];
    under->push_back(row);
  }
  for (auto& [heading, under] : byHeading) {
    lines_.push_back(-1 - static_cast<std::int64_t>(groups_.size()));
    const bool isOpen = !closed.contains(heading.second);
    if (isOpen) lines_.insert(lines_.end(), under.begin(), under.end());
    groups_.push_back({heading.second, std::move(under), isOpen});
  }
  indexLines(sheet.rows.size());
}

void SheetLines::indexLines(std::size_t rows) {
  lineOf_.assign(rows, -1);
  for (std::size_t line = 0; line < lines_.size(); ++line)
    if (lines_[line] >= 0) lineOf_[static_cast<std::size_t>(lines_[line])] = static_cast<std::int32_t>(line);
}

const SheetLines::Group* SheetLines::groupAt(std::size_t line) const {
  return lines_[line] < 0 ? &groups_[static_cast<std::size_t>(-1 - lines_[line])] : nullptr;
}

std::optional<std::size_t> SheetLines::rowAt(std::size_t line) const {
  return lines_[line] < 0 ? std::nullopt : std::optional(static_cast<std::size_t>(lines_[line]));
}

std::vector<std::size_t> SheetLines::rowsAt(std::size_t line) const {
  if (const Group* group = groupAt(line)) return group->rows;
  return {static_cast<std::size_t>(lines_[line])};
}

int SheetLines::lineOf(std::size_t row) const { return row < lineOf_.size() ? lineOf_[row] : -1; }

}  // namespace octaphon::app
