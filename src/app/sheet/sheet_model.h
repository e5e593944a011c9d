// The sheet as a table. Sorting and filtering keep an index of their own, so that hundreds of thousands of
// rows stay quick.
#pragma once

#include <memory>
#include <QAbstractTableModel>
#include <vector>

#include "app/work/names_ahead.h"
#include "plan/sheet.h"

namespace octaphon::app {

class SheetModel : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column {
    File,
    Region,
    Source,
    Heard,
    Start,
    LeadIn,
    Tail,
    Length,
    Channels,
    Format,
    Rate,
    State,
    RemarkText,
    kColumns
  };

  using QAbstractTableModel::QAbstractTableModel;

  /// Rows of the same keys in the same order are updated in place, so that views do not jump; else it is
  /// reset.
  void setSheet(std::shared_ptr<const Sheet> sheet);
  /// Words that all must be in a row's file, region, source, state or remark, letter case ignored.
  void setFilter(const QString& words);
  void sort(int column, Qt::SortOrder order) override;

  /// Where names are known before they are planned; null: nowhere.
  void setNamesAhead(const NamesAhead* names) { namesAhead_ = names; }
  /// Rows of the view, from one to another, are called otherwise.
  void tellNames(int first, int last) { emit dataChanged(index(first, File), index(last, File)); }

  const std::shared_ptr<const Sheet>& shared() const { return sheet_; }
  const Sheet& sheet() const { return *sheet_; }
  std::size_t sheetRow(int viewRow) const { return order_[static_cast<std::size_t>(viewRow)]; }
  int viewRow(std::size_t sheetRow) const;  ///< −1 where the filter hides it

  int rowCount(const QModelIndex& parent = {}) const override;
  int columnCount(const QModelIndex& parent = {}) const override;
  QVariant data(const QModelIndex& index, int role) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

 private:
  QString textOf(const Row& row, int column) const;
  QString tailText(const Row& row) const;
  QVariant alignment(int column) const;
  std::vector<std::size_t> ordered() const;
  void reorder();

  std::shared_ptr<const Sheet> sheet_ = std::make_shared<Sheet>();
  const NamesAhead* namesAhead_ = nullptr;
  std::vector<std::size_t> order_;
  QStringList filter_;
  int sortColumn_ = -1;
  Qt::SortOrder sortOrder_ = Qt::AscendingOrder;
};

/// The text of the gravest remark, and how many more there are.
QString remarkSummary(const std::vector<Remark>& remarks);

}  // namespace octaphon::app
