// The columns of a table for the keyboard: which are shown, in what order, how wide, and which one it is
// sorted by. What is done shows at once.
#pragma once

#include <QComboBox>
#include <QDialog>
#include <QHeaderView>
#include <QListWidget>
#include <QSpinBox>

namespace octaphon::app {

class ColumnsDialog : public QDialog {
  Q_OBJECT
 public:
  /// The first column is always shown. `titles` by logical index.
  ColumnsDialog(QHeaderView& header, const QStringList& titles, QWidget* parent);

 signals:
  void changed();

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void fill();
  void layOut();
  int column() const;
  void showOrHide(const QListWidgetItem& item);
  void move(int by);
  void sort();
  void showCurrent();

  QHeaderView& header_;
  QStringList titles_;
  QListWidget* list_;
  QSpinBox* width_;
  QComboBox* order_;
  bool isLoading_ = false;
};

}  // namespace octaphon::app
