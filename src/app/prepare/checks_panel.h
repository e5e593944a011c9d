// What would go wrong later, in groups; each line leads to its place, and what the program can cure has a
// button.
#pragma once

#include <QLabel>
#include <QPushButton>
#include <QTimer>
#include <QTreeWidget>
#include <QWidget>

#include "app/work/work.h"
#include "edit/findings.h"

namespace octaphon::app {

class ChecksPanel : public QWidget {
  Q_OBJECT
 public:
  explicit ChecksPanel(Work& work, QWidget* parent = nullptr);

  const std::vector<Finding>& findings() const { return findings_; }
  /// Cures all that are selected; gives how many it could.
  std::size_t cureSelected();
  QTreeWidget& tree() { return *tree_; }

 signals:
  void mediaWanted();  ///< missing ones are to be looked for

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void reload();
  void updateButton();
  std::vector<std::size_t> selectedFindings() const;

  Work& work_;
  std::vector<Finding> findings_;
  QTreeWidget* tree_;
  QLabel* words_;
  QPushButton* cure_;
  QTimer timer_;
};

}  // namespace octaphon::app
