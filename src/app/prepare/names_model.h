// The table of names: names, what they become, and what regions and clip sets have of their own of their
// ends.
#pragma once

#include <QAbstractTableModel>

#include "app/work/document.h"
#include "brief/editing.h"
#include "edit/rename.h"

namespace octaphon::app {

/// Of cells with a few values: their words, as a list.
inline constexpr int kChoicesRole = Qt::UserRole + 5;

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

}  // namespace octaphon::app
