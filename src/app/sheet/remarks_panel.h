// All remarks by their cause: how many, what they mean, where they are, what cures them; and those that were
// accepted.
#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTreeWidget>
#include <QWidget>

#include "app/commands/commands.h"
#include "app/sheet/remark_causes.h"

namespace octaphon::app {

class RemarksPanel : public QWidget {
  Q_OBJECT
 public:
  RemarksPanel(Work& work, Commands& commands, QWidget* parent = nullptr);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void layOut();
  void connectAll();
  void reload();
  void addCause(std::size_t index);
  void showCause();
  void goTo(const QTreeWidgetItem* item);
  void cure();
  void accept();
  void changeAccepted(const QString& words, bool on);
  const RemarkCause* cause() const;             // of what is current; null: none
  std::vector<std::string> chosenKeys() const;  // of it: the rows that are selected under it, or all

  Work& work_;
  Commands& commands_;
  std::vector<RemarkCause> causes_;
  std::shared_ptr<const Sheet> sheet_;
  QLabel* words_;
  QTreeWidget* tree_;
  QLabel* title_;
  QLabel* meaning_;
  QLineEdit* reason_;
  QPushButton* accept_;
  QPushButton* cure_;
  QPushButton* showRows_;
};

}  // namespace octaphon::app
