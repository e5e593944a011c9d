// The table of briefs: cells of one column are edited together, in the editor of their phrase beside them.
#pragma once

#include <QPointer>
#include <QScrollArea>
#include <QTableView>
#include <QWidget>

#include "app/brief/brief_table_model.h"
#include "app/brief/phrase_editor.h"
#include "app/commands/commands.h"

namespace octaphon::app {

class BriefTable : public QWidget {
  Q_OBJECT
 public:
  BriefTable(Work& work, Commands& commands, QWidget* parent = nullptr);

 protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

 private:
  void layOut(Commands& commands);
  void openEditor(const QModelIndex& index);
  void closeEditor();
  void follow();
  void chooseSelected();
  void copyCell();
  void pasteIntoCells();
  std::vector<std::string> selectedIn(int column) const;  // ids of briefs

  Work& work_;
  BriefTableModel* model_;
  QTableView* table_;
  QScrollArea* side_;
  QPointer<PhraseEditor> editor_;
  std::string copied_;  // a preset, of a cell
};

}  // namespace octaphon::app
