// Whether what was delivered is right: what was found, by cause, beside the file that it is about. A line
// leads to its row and its place; what is meant to be so is accepted, with a reason.
#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSet>
#include <QTreeWidget>
#include <QWidget>

#include "app/commands/commands.h"
#include "app/delivery/proof_file.h"
#include "app/delivery/proof_lines.h"

namespace octaphon::app {

class ProofPanel : public QWidget {
  Q_OBJECT
 public:
  ProofPanel(Work& work, Commands& commands, QWidget* parent = nullptr);

  QTreeWidget& table() { return *table_; }

 protected:
  void showEvent(QShowEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  void layOut(Commands& commands);
  QLayout* makeAccepting();
  void take(const MadeReport& report);
  void clear();
  void changed();
  void reload();
  QTreeWidgetItem* itemOf(const ProofGroup& group, std::size_t index) const;
  const ProofLine* lineOf(const QTreeWidgetItem* item) const;
  /// What tells an item again after a reload.
  QString keyOf(const QTreeWidgetItem* item) const;
  void showLine();
  void go(const QTreeWidgetItem* item);
  /// Of the lines that are chosen; of all of a cause where that is.
  std::vector<FileFinding> chosenFindings() const;
  void accept();

  Work& work_;
  RunProof run_;
  std::vector<ProofGroup> groups_;
  bool isStale_ = true;
  QSet<QString> turned_;  // titles of groups that were opened, or closed, by hand
  QTreeWidget* table_;
  QLabel* words_;
  ProofFile* file_;
  QLineEdit* reason_;
  QPushButton *again_, *check_, *accept_;
};

}  // namespace octaphon::app
