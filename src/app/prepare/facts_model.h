// Facts of regions and clip sets as a table: a line for each, a column for each fact.
#pragma once

#include <QAbstractTableModel>

#include "app/work/document.h"

namespace octaphon::app {

/// Of a cell: the values that the vocabulary has for it, and what each means.
inline constexpr int kValuesRole = Qt::UserRole + 5;
inline constexpr int kMeaningsRole = Qt::UserRole + 6;

class FactsModel : public QAbstractTableModel {
  Q_OBJECT
 public:
  FactsModel(Document& document, QObject* parent) : QAbstractTableModel(parent), document_(document) {}

  /// Regions by start, then clip sets, whose names hold the words; columns for the session's facts and
  /// `more`.
  void show(const QString& words, const QStringList& more);
  const std::string& idOf(int row) const { return lines_[static_cast<std::size_t>(row)].id; }
  /// Of a column behind the name.
  const std::string& factOf(int column) const { return facts_[static_cast<std::size_t>(column) - 1]; }
  std::size_t outside() const;  ///< cells that say what the vocabulary does not allow

  /// Cells of text from a cell on; what is beyond the table is left out. One step of undo.
  void paste(const QModelIndex& from, const QString& text);
  /// Own facts of these cells go. One step of undo.
  void clear(const QModelIndexList& cells);

  int rowCount(const QModelIndex& parent = {}) const override;
  int columnCount(const QModelIndex& = {}) const override { return static_cast<int>(facts_.size()) + 1; }
  QVariant data(const QModelIndex& index, int role) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;

 private:
  struct Line {
    std::string id, name;
    Facts own, all;  // with those of its path
    bool isLocked = false;
  };
  std::string valueAt(const QModelIndex& index) const;

  Document& document_;
  std::vector<Line> lines_;
  std::vector<std::string> facts_;
};

}  // namespace octaphon::app
