// The sheet: a filter line and the table of all rows.
#pragma once

#include <functional>
#include <QLabel>
#include <QLineEdit>
#include <QTableView>
#include <QTimer>
#include <QWidget>
#include <vector>

#include "app/commands/commands.h"
#include "app/sheet/sheet_model.h"

namespace octaphon::app {

class SheetView : public QWidget {
  Q_OBJECT
 public:
  SheetView(Work& work, Commands& commands, QWidget* parent = nullptr);

  SheetModel& model() { return *model_; }
  QTableView& table() { return *table_; }
  void focusFilter();

 protected:
  void resizeEvent(QResizeEvent* event) override;

 private:
  void makeTable();
  void makeColumns();
  void layOut();
  void connectTable();
  void connectWork();
  void changeRows(const std::function<void()>& change);
  void showSheet();
  void show(const std::string& key);
  void selectAgain(const std::vector<std::string>& keys, const std::string& current);
  void tellSelection();
  void showMenu(const QPoint& at);
  void showColumns(const QPoint& at);
  void updateCaption();
  std::pair<int, int> rowsOnView() const;
  void tellRowsOnView();
  std::vector<std::size_t> selectedRows() const;  // in the sheet that is shown, the current one first

  Work& work_;
  Commands& commands_;
  QLineEdit* filter_;
  QLabel* caption_;
  QTableView* table_;
  QLabel* hint_;
  bool narrow_ = false;
  bool isLoading_ = false;  // the selection follows a new sheet, not the user
  SheetModel* model_;
  QTimer onView_;
};

}  // namespace octaphon::app
