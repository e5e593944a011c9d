// The regions as a tree over their paths, each with the state of its files.
#pragma once

#include <memory>
#include <optional>
#include <QStandardItemModel>
#include <QTreeView>
#include <unordered_set>

#include "plan/sheet.h"
#include "session/session.h"

namespace octaphon::app {

class OutlineView : public QTreeView {
  Q_OBJECT
 public:
  explicit OutlineView(QWidget* parent = nullptr);

  void setSession(std::shared_ptr<const Session> session);
  /// Marks each region with the weightiest state of its rows in the sheet, and folders with that of their
  /// regions.
  void setSheet(const Sheet& sheet);
  void select(int region);  ///< −1 selects nothing; emits nothing
  void selectClipSet(int clipSet);
  int selected() const;
  /// The region that follows (or precedes) in the order of time; −1 where there is none.
  int neighbour(int step) const;

 signals:
  void regionChosen(int region);
  void regionActivated(int region);  ///< Return or double click
  void clipSetChosen(int clipSet);
  /// Several were selected: regions, with those below chosen paths.
  void regionsSelected(const std::unordered_set<std::string>& ids);

 private:
  static constexpr int kRegionRole = Qt::UserRole + 1;
  static constexpr int kSetRole = Qt::UserRole + 4;
  QStandardItem* folderFor(const QString& path);
  void addClipSets();
  void collect(const QModelIndex& index, std::unordered_set<std::string>& ids) const;

  std::shared_ptr<const Session> session_;
  QStandardItemModel model_;
  std::vector<QStandardItem*> items_;  // by region
  std::vector<QStandardItem*> sets_;   // by clip set
  std::map<QString, QStandardItem*> folders_;
  bool silent_ = false;
};

inline constexpr int kStateRole = Qt::UserRole + 2;  ///< RowState as int; absent where there are no rows
inline constexpr int kCountRole = Qt::UserRole + 3;  ///< regions below a folder

}  // namespace octaphon::app
