// The names of all regions, clip sets, tracks or clips as a table, and steps that rename many at once with a
// preview.
#pragma once

#include <QAbstractTableModel>
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTableView>
#include <QTimer>
#include <QWidget>

#include "app/work/work.h"
#include "brief/editing.h"
#include "edit/rename.h"

namespace octaphon::app {

class NamesModel : public QAbstractTableModel {
  Q_OBJECT
 public:
  /// Behind these stand what regions and clip sets have of their own of their ends: editableOwnEnds().
  enum Column { Name, After, Why, kColumns };
  NamesModel(Document& document, QObject* parent) : QAbstractTableModel(parent), document_(document) {}

  /// What is shown, in this order; the preview of each, or none. It is reset where others are shown, or in
  /// another order.
  void show(std::vector<NamedThing> things, std::vector<Renaming> preview);
  const std::vector<NamedThing>& things() const { return things_; }

  /// Texts as values of a column behind the names, from a cell down; one step of undo.
  void pasteOwnEnds(const QModelIndex& from, const QStringList& values);

  int rowCount(const QModelIndex& parent = {}) const override;
  int columnCount(const QModelIndex& = {}) const override;
  QVariant data(const QModelIndex& index, int role) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;

 private:
  /// Of a column behind the names; null for the others.
  static const EditableField<OwnEnds>* fieldOf(int column);
  QVariant ownEnd(std::size_t row, const EditableField<OwnEnds>& field, int role) const;
  bool setOwnEnd(const NamedThing& thing, const EditableField<OwnEnds>& field, const QVariant& value);

  Document& document_;
  std::vector<NamedThing> things_;
  std::vector<OwnEnds> ends_;  // of each, where it is a region or clip set
  std::vector<Renaming> preview_;
};

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
