// The sheet: its groups and a filter in a line, and the table of all rows.
#pragma once

#include <functional>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QTimer>
#include <QWidget>
#include <vector>

#include "app/commands/commands.h"
#include "app/sheet/sheet_table.h"

namespace octaphon::app {

class SheetView : public QWidget {
  Q_OBJECT
 public:
  SheetView(Work& work, Commands& commands, QWidget* parent = nullptr);
  ~SheetView() override;

  SheetModel& model() { return *model_; }
  QTableView& table() { return *table_; }
  void focusFilter();

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  void makeHead();
  void makeColumns();
  void layOut();
  void connectHead();
  void connectTable();
  void connectWork();
  void addCommands();
  void keepSelection();
  void whenArranged(std::function<void()> act);
  void showSheet();
  void show(const std::string& key);
  void showAll(const std::vector<std::size_t>& rows);
  void selectAgain(const std::vector<std::string>& keys, const std::string& current);
  std::pair<QItemSelection, int> linesOf(const std::vector<std::size_t>& rows, bool isFolded) const;
  void addClosedHeadings(std::vector<int>& lines, const std::vector<std::size_t>& rows) const;
  void tellSelection();
  void followUser();
  void takeName(std::size_t row, const QString& name);
  void showMenu(const QPoint& at);
  void dragFiles();
  void showColumns(const QPoint& at);
  void openColumns();
  void keepColumns();
  void showLevelsWhereAsked();
  void fitColumns();
  void tellShownLevels();
  void updateCaption();
  void tellRowsOnView();
  std::vector<std::size_t> selectedRows() const;  // in the sheet that is shown, the current one first
  std::vector<std::size_t> rowsInOrder() const;   // as they are shown: the selected ones, or all
  std::vector<int> shownColumns() const;
  void copyText();
  void exportTable();

  Work& work_;
  Commands& commands_;
  QComboBox* groups_;
  QComboBox* column_;
  QLineEdit* filter_;
  QLabel* caption_;
  SheetModel* model_;
  SheetTable* table_;
  std::function<void()> whenArranged_;
  QLabel* hint_;
  bool asksLevels_ = false;     // a brief does
  bool hasOwnColumns_ = false;  // someone chose them
  bool isLoading_ = false;      // the selection follows a new sheet, not the user
  QTimer onView_;
};

}  // namespace octaphon::app
