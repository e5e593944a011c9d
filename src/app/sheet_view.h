// The sheet: a filter line and the table of all rows.
#pragma once

#include <memory>
#include <QLabel>
#include <QLineEdit>
#include <QTableView>
#include <QWidget>
#include <vector>

#include "sheet_model.h"

namespace octaphon::app {

class SheetView : public QWidget {
  Q_OBJECT
 public:
  explicit SheetView(QWidget* parent = nullptr);

  void setSheet(std::shared_ptr<const Sheet> sheet);
  SheetModel& model() { return *model_; }
  QTableView& table() { return *table_; }
  std::vector<std::size_t> selectedRows() const;  ///< indices in the sheet
  void select(std::size_t sheetRow);
  void focusFilter();

 signals:
  void rowChosen(int sheetRow);  ///< the current row moved; −1: none
  void makeRows(const std::vector<std::size_t>& rows,
                bool replaceAny);  ///< replaceAny: also what a brief keeps or others put there
  void goToRow(int sheetRow);

 protected:
  void resizeEvent(QResizeEvent* event) override;

 private:
  void makeTable();
  void makeColumns();
  void layOut();
  void connectTable();
  void showMenu(const QPoint& at);
  void updateCaption();

  QLineEdit* filter_;
  QLabel* caption_;
  QTableView* table_;
  QLabel* hint_;
  bool narrow_ = false;
  SheetModel* model_;
};

}  // namespace octaphon::app
