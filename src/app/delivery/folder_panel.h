// What the next run does to the folders: which files are new, replaced, renamed; what else is there: left
// over, foreign, the same sound twice; and what the last run did. A line leads to its row.
#pragma once

#include <QLabel>
#include <QPushButton>
#include <QSet>
#include <QTreeWidget>
#include <QWidget>

#include "app/commands/commands.h"
#include "app/delivery/folder_lines.h"
#include "app/work/work.h"

namespace octaphon::app {

class FolderPanel : public QWidget {
  Q_OBJECT
 public:
  FolderPanel(Work& work, Commands& commands, QWidget* parent = nullptr);

  QTreeWidget& tree() { return *tree_; }

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void reload();
  void showActs();
  void addButtons(Commands& commands);

  Work& work_;
  QLabel *words_, *acts_;
  QTreeWidget* tree_;
  QWidget* buttons_;
  QList<FolderGroup> last_;  // what the last run did
  QSet<QString> closed_;     // titles of groups
  bool isStale_ = true;
};

}  // namespace octaphon::app
