// The sheet as a table: a line for each row that is shown, and for the headings that they stand under.
#pragma once

#include <atomic>
#include <memory>
#include <mutex>
#include <QAbstractTableModel>
#include <QThreadPool>
#include <vector>

#include "app/sheet/sheet_columns.h"
#include "app/sheet/sheet_lines.h"
#include "app/work/making.h"
#include "app/work/names_ahead.h"

namespace octaphon::app {

/// Of a row, in the column of files: whether it has something of its own.
inline constexpr int kOwnRole = Qt::UserRole + 3;

class SheetModel : public QAbstractTableModel, public SheetColumns {
  Q_OBJECT
 public:
  explicit SheetModel(QObject* parent = nullptr);
  ~SheetModel() override;

  // What is shown is arranged at once where it is quick, else elsewhere: until then all stays as it was.
  /// Rows of the same files in the same order are updated in place, so that views do not jump; else it is
  /// reset. `keepsRows`: they are those of the sheet that was given before.
  void setSheet(std::shared_ptr<const Sheet> sheet, bool keepsRows);
  /// Whether what was asked for last is not shown yet.
  bool isArranging() const { return wantedNumber_ != shownNumber_; }
  /// Waits for it.
  void finishArranging();
  /// Words that all must be in a row: in one column, or (−1) in its file, brief, region, source, state or
  /// remark; letter case ignored. `>2` and `<2` compare in columns of numbers.
  void setFilter(const QString& words, int column = -1);
  void groupBy(GroupBy by);
  GroupBy grouping() const { return wanted_.groupBy; }
  void sort(int column, Qt::SortOrder order) override;
  /// Shows what is under a heading, or hides it.
  void setOpen(int line, bool on);

  /// Where names are known before they are planned; null: nowhere.
  void setNamesAhead(const NamesAhead* names) { namesAhead_ = names; }
  /// Rows of the view, from one to another, are called otherwise.
  void tellNames(int first, int last) { emit dataChanged(index(first, File), index(last, File)); }

  /// Where it is known how far rows are while files are made; null: nowhere.
  void setMaking(const Making* making) { making_ = making; }
  /// Rows of the view, from one to another, are further.
  void tellStages(int first, int last) { emit dataChanged(index(first, State), index(last, State)); }

  const std::shared_ptr<const Sheet>& shared() const { return sheet_; }
  const Sheet& sheet() const { return *sheet_; }
  std::shared_ptr<const Sheet> sharedSheet() const { return sheet_; }
  /// Null where the line is a row.
  const SheetLines::Group* groupAt(int line) const { return lines_.groupAt(static_cast<std::size_t>(line)); }
  /// Of a row's line.
  std::size_t sheetRow(int line) const { return *lines_.rowAt(static_cast<std::size_t>(line)); }
  /// Of a line, those of a heading together.
  std::vector<std::size_t> rowsAt(int line) const { return lines_.rowsAt(static_cast<std::size_t>(line)); }
  int viewRow(std::size_t sheetRow) const { return lines_.lineOf(sheetRow); }  ///< −1 where it is not shown
  std::size_t shownRows() const { return lines_.rowCount(); }

  int rowCount(const QModelIndex& parent = {}) const override;
  int columnCount(const QModelIndex& parent = {}) const override;
  QVariant data(const QModelIndex& index, int role) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;

 signals:
  void aboutToArrange();
  void arranged();  ///< what was asked for last is shown
  void nameTyped(std::size_t sheetRow, const QString& name);

 private:
  QVariant groupData(const SheetLines::Group& group, int column, int role) const;
  QVariant inkOf(const Row& row, int column) const;
  QString tipOf(const Row& row, int column) const;
  RowStage stageOf(std::size_t row) const;
  void arrange();
  void takeReady();
  void take(SheetLines lines);
  void reset(SheetLines lines);
  void reorder(SheetLines lines);

  QThreadPool pool_;
  std::atomic<unsigned> wantedNumber_{0};
  std::mutex mutex_;
  std::optional<std::pair<unsigned, SheetLines>> ready_;  // of a number
  unsigned shownNumber_ = 0;
  std::shared_ptr<const Sheet> sheet_ = std::make_shared<Sheet>();
  std::shared_ptr<const Sheet> wantedSheet_ = sheet_;
  bool keepsRows_ = true;  // wantedSheet_ those of sheet_
  const NamesAhead* namesAhead_ = nullptr;
  const Making* making_ = nullptr;
  SheetOrder wanted_;
  std::set<QString> closed_;  // headings
  SheetLines lines_;
};

}  // namespace octaphon::app
