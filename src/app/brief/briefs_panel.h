// All briefs by name, each with a tick and the number of its files; below, the current one as a sentence.
// Several can be selected: an edit of the sentence changes them together.
#pragma once

#include <QListView>
#include <QPlainTextEdit>
#include <QScrollArea>
#include <QStackedWidget>
#include <QStandardItemModel>
#include <QWidget>

#include "app/brief/sentence_view.h"
#include "app/commands/commands.h"

namespace octaphon::app {

class BriefsPanel : public QWidget {
  Q_OBJECT
 public:
  BriefsPanel(Work& work, Commands& commands, QWidget* parent = nullptr);

  SentenceView& sentence() { return *sentence_; }
  QListView& list() { return *list_; }
  /// Buttons for the panel's heading.
  QWidget* tools() const { return tools_; }

 private:
  void makeList();
  void makeSentence();
  void makeNotes();
  void showNotes();
  void makeTools();
  void connectAll();
  void itemChanged(QStandardItem* item);
  void reload();
  void showCounts();
  void showChoice();
  void takeChoice();
  void settleChoice();
  void choose(const QModelIndex& current);

  Work& work_;
  Commands& commands_;
  QListView* list_;
  QStandardItemModel model_;
  QStackedWidget* pages_;
  QPlainTextEdit* notes_;
  SentenceView* sentence_;
  QWidget* tools_;
  bool isLoading_ = false;  // the list follows the work, not the user
};

}  // namespace octaphon::app
