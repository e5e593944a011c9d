// The editors of phrases. They stand in the sentence, below their phrase, and changes count at once.
#pragma once

#include <QFrame>
#include <QLabel>
#include <QVBoxLayout>

#include "app/brief/edited_briefs.h"
#include "app/brief/selection_lines.h"
#include "app/controls/field_controls.h"

namespace octaphon::app {

class PhraseEditor : public QFrame {
  Q_OBJECT
 public:
  PhraseEditor(PhraseKind kind, Work& work, QWidget* parent);

  PhraseKind kind() const { return kind_; }
  /// Puts the values of now into it, wherever they came from.
  virtual void refresh();

 signals:
  void done();  ///< Esc, or Return in a field
  /// A field or filter for the template, at its cursor.
  void insertWanted(const QString& word, bool isFilter);

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  /// A control for each field of the phrase that has one.
  std::vector<QWidget*> addFields();
  void addNote(const QString& words);
  /// Lines for one of a brief's selections. `act`: for undo.
  SelectionLines* addSelection(SelectionSubject subject, const QString& act,
                               std::function<Selection&(Brief&)> in);
  QString title() const;

  EditedBriefs briefs_;
  QVBoxLayout* layout_;
  FieldControls controls_;

 private:
  void showSeveral();
  std::vector<std::pair<SelectionLines*, std::function<Selection&(Brief&)>>> selections_;
  QLabel* several_ = nullptr;  // what they say, where they differ
  PhraseKind kind_;
};

/// Null where a phrase has none.
PhraseEditor* makePhraseEditor(PhraseKind kind, Work& work, QWidget* parent);

PhraseEditor* makeSourcesEditor(Work& work, QWidget* parent);
PhraseEditor* makeSpansEditor(Work& work, QWidget* parent);
PhraseEditor* makeOverridesEditor(Work& work, QWidget* parent);
PhraseEditor* makeTemplateEditor(Work& work, QWidget* parent);
PhraseEditor* makeOutputsEditor(Work& work, QWidget* parent);
PhraseEditor* makeDataEditor(Work& work, QWidget* parent);
PhraseEditor* makeRowsEditor(Work& work, QWidget* parent);

}  // namespace octaphon::app
