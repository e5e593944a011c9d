// What would go wrong later, in groups; each line leads to its place, and what the program can cure has a
// button.
#pragma once

#include <QLabel>
#include <QPushButton>
#include <QTimer>
#include <QTreeWidget>
#include <QWidget>

#include "document.h"
#include "edit/findings.h"

namespace octaphon::app {

class ChecksPanel : public QWidget {
  Q_OBJECT
 public:
  explicit ChecksPanel(Document& document, QWidget* parent = nullptr);

  void setFacts(std::shared_ptr<const MediaFacts> facts);
  const std::vector<Finding>& findings() const { return findings_; }
  /// Cures all that are selected; gives how many it could.
  std::size_t cureSelected();
  QTreeWidget& tree() { return *tree_; }

 signals:
  void goTo(const octaphon::Finding& finding);
  void findMedium(const QString& id);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void reload();
  void updateButton();
  std::vector<std::size_t> selectedFindings() const;

  Document& document_;
  std::shared_ptr<const MediaFacts> facts_;
  std::vector<Finding> findings_;
  QTreeWidget* tree_;
  QLabel* words_;
  QPushButton* cure_;
  QTimer timer_;
};

}  // namespace octaphon::app
