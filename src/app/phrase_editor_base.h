// What the editors of phrases have in common.
#pragma once

#include <QFrame>
#include <QVBoxLayout>

#include "brief/editing.h"
#include "phrase_editor.h"

namespace octaphon::app {

/// A pop-up that Return closes too. It changes its own copy of the brief, and hands each change out.
class PhraseEditor : public QFrame {
 public:
  PhraseEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply,
               const QString& title, QWidget* parent);

 protected:
  void keyPressEvent(QKeyEvent* event) override;

  void note(const QString& words);
  void apply(const QString& words, const QString& merge = {}) { apply_(brief_, words, merge); }

  /// A control for each field of the phrase that has one.
  std::vector<QWidget*> addFields(PhraseKind phrase);

  Brief brief_;
  std::shared_ptr<const Session> session_;
  QVBoxLayout* layout_;

 private:
  QWidget* addControl(const EditableField& field, const EditableField::Flag& flag);
  QWidget* addControl(const EditableField& field, const EditableField::Number& number);
  QWidget* addControl(const EditableField& field, const EditableField::Text& text);
  QWidget* addControl(const EditableField& field, const EditableField::OneOf& choice);
  void applyField(const EditableField& field, const QString& merge = {});
  void enableWhatMatters();

  ApplyBrief apply_;
  std::vector<std::pair<QWidget*, bool (*)(const Brief&)>>
      conditional_;  // enabled where they change something
};

QFrame* makeRegionsEditor(const Brief&, std::shared_ptr<const Session>, ApplyBrief, QWidget* parent);
QFrame* makeSourcesEditor(const Brief&, std::shared_ptr<const Session>, ApplyBrief, QWidget* parent);
QFrame* makeReachEditor(const Brief&, std::shared_ptr<const Session>, ApplyBrief, QWidget* parent);
QFrame* makeOverridesEditor(const Brief&, std::shared_ptr<const Session>, ApplyBrief, QWidget* parent);
QFrame* makeRunUpEditor(const Brief&, std::shared_ptr<const Session>, ApplyBrief, QWidget* parent);

}  // namespace octaphon::app
