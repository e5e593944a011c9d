// Which rows of a sheet are shown, in which order, and under which headings: an index of its own, so that
// hundreds of thousands of rows stay quick.
#pragma once

#include <cstdint>
#include <optional>
#include <QStringList>
#include <set>
#include <vector>

#include "plan/sheet.h"

namespace octaphon::app {

enum class GroupBy { Nothing, Brief, Span, Source, State, Remark };
inline constexpr int kGroupings = static_cast<int>(GroupBy::Remark) + 1;

struct SheetOrder {
  QStringList words;  ///< that all have to be in a row, letter case ignored
  int column = -1;    ///< that they have to be in; −1: any
  int sortColumn = -1;
  Qt::SortOrder sortOrder = Qt::AscendingOrder;
  GroupBy groupBy = GroupBy::Nothing;
};

class SheetLines {
 public:
  struct Group {
    QString title;
    std::vector<std::size_t> rows;  ///< of the sheet
    bool isOpen = true;
  };

  SheetLines() = default;
  /// Groups of the titles in `closed` show their heading alone.
  SheetLines(const Sheet& sheet, const SheetOrder& order, const std::set<QString>& closed);

  std::size_t size() const { return lines_.size(); }
  /// Null where it is a row.
  const Group* groupAt(std::size_t line) const;
  /// Nothing where it is a heading.
  std::optional<std::size_t> rowAt(std::size_t line) const;
  /// Of a heading all that are under it.
  std::vector<std::size_t> rowsAt(std::size_t line) const;
  /// −1 where it is not shown.
  int lineOf(std::size_t row) const;
  std::size_t rowCount() const { return shown_; }  ///< rows that fit, shown or under a closed heading
  bool hasGroups() const { return !groups_.empty(); }
  bool operator==(const SheetLines& other) const { return lines_ == other.lines_; }

 private:
  void indexLines(std::size_t rows);

  std::vector<std::int64_t> lines_;   // a row, or −1 − group
  std::vector<std::int32_t> lineOf_;  // by row
  std::vector<Group> groups_;
  std::size_t shown_ = 0;
};

}  // namespace octaphon::app
