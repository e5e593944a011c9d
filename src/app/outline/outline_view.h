// Regions as a tree over their paths, and clip sets, each with the state of its files.
#pragma once

#include <map>
#include <QLabel>
#include <QStandardItemModel>
#include <QTreeView>
#include <set>
#include <unordered_map>

#include "app/commands/commands.h"

namespace octaphon::app {

class OutlineView : public QTreeView {
  Q_OBJECT
 public:
  OutlineView(Work& work, Commands& commands, QWidget* parent = nullptr);

  /// How many regions there are, for the panel's heading.
  QLabel* countLabel() const { return count_; }

 protected:
  void contextMenuEvent(QContextMenuEvent* event) override;

 private:
  using Listed = std::vector<std::pair<std::string, std::string>>;
  static Listed listedOf(const Session& session);
  void showSession();
  void arrange();
  void keepFolds();
  template <class Value, class OfSpans, class Join>
  std::unordered_map<std::string, Value> bySpan(const OfSpans& ofSpans, const Join& join) const;
  template <class Value>
  void mark(const std::unordered_map<std::string, Value>& values, int role);
  void showStates();
  void showStages();
  void showSelection();
  void takeSelection();
  QStandardItem* folderFor(const QString& path);
  void addClipSets();
  void collect(const QModelIndex& index, Ids& regions, Ids& sets) const;

  Work& work_;
  Commands& commands_;
  QStandardItemModel model_;
  QLabel* count_;
  std::shared_ptr<const Session> shown_;  // what is arranged
  Listed listed_;
  std::map<std::string, QStandardItem*> regions_;  // by id
  std::map<std::string, QStandardItem*> sets_;
  std::map<QString, QStandardItem*> folders_;  // by path
  std::set<QString> closed_;                   // paths that are folded up
  bool isFollowing_ = false;                   // it follows the work, not the user
};

}  // namespace octaphon::app
