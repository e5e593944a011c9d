// The names of all regions, clip sets, tracks or clips as a table, and steps that rename many at once with a
// preview.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTableView>
#include <QTimer>
#include <QWidget>

#include "app/prepare/names_model.h"
#include "app/work/work.h"
#include "edit/rename.h"

namespace octaphon::app {

class NamesPanel : public QWidget {
  Q_OBJECT
 public:
  explicit NamesPanel(Work& work, QWidget* parent = nullptr);

  void setKind(NamedKind kind);
  QTableView& table() { return *table_; }
  NamesModel& model() { return *model_; }
  void setRequest(const RenameRequest& request);
  /// Does what the preview shows; gives how many names it changed.
  std::size_t rename();
  /// Lines of text as names, from the current row down; one step of undo.
  void paste(const QString& lines);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void showEvent(QShowEvent* event) override;

 private:
  void makeControls();
  void makeTable();
  void fitColumns();
  void layOut();
  void connectControls();
  void startNaming(Thing thing);
  void reload();
  Ids idsOf(const Session& session) const;
  void showThings(std::vector<NamedThing> things);
  void fitFields();
  RenameRequest request() const;
  std::vector<NamedThing> chosen() const;
  NamedKind kind() const { return static_cast<NamedKind>(kind_->currentIndex()); }

  Document& document_;
  Selected& selected_;
  QComboBox* kind_;
  QLineEdit* filter_;
  QComboBox* step_;
  QLineEdit* find_;
  QLineEdit* with_;
  QComboBox* case_;
  QSpinBox* first_;
  QSpinBox* digits_;
  QCheckBox* ignoreCase_;
  QCheckBox* onlyDefault_;
  QPushButton* rename_;
  QLabel* outcome_;
  QTableView* table_;
  NamesModel* model_;
  QTimer timer_;
  bool sorted_ = false;
  Qt::SortOrder order_ = Qt::AscendingOrder;
  bool loading_ = false;
};

}  // namespace octaphon::app
