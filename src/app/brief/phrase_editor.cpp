#include "app/brief/phrase_editor.h"

#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>

#include "app/brief/presets_line.h"
#include "app/look/first_focus.h"
#include "app/look/session_undo.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "plan/sentence.h"

namespace octaphon::app {
namespace {

/// An editor that its fields' description makes alone.
class FieldsEditor : public PhraseEditor {
 public:
  FieldsEditor(PhraseKind kind, Work& work, QWidget* parent) : PhraseEditor(kind, work, parent) {
    addFields();
    addNote(text(phraseInfo(kind).note));
  }
};

}  // namespace

PhraseEditor::PhraseEditor(PhraseKind kind, Work& work, QWidget* parent)
    : QFrame(parent), briefs_(work), layout_(new QVBoxLayout(this)), controls_(layout_, this), kind_(kind) {
  setObjectName("phraseEditor");
  setAccessibleName(title());
  layout_->setContentsMargins(9, 8, 5, 10);
  layout_->setSpacing(4);
  auto* heading = new QLabel(title(), this);
  heading->setFont(Theme::strong());
  heading->setWordWrap(true);
  layout_->addWidget(heading);
  if (briefs_.count() > 1)
    addNote(tr("%1 are changed together").arg(text(counted(briefs_.count(), "brief"))));
  several_ = new QLabel(this);
  several_->setWordWrap(true);
  several_->setObjectName("several");
  layout_->addWidget(several_);
  several_->hide();
}

/// What the briefs that are changed together say, where that is not the same.
void PhraseEditor::showSeveral() {
  QStringList texts;
  for (const Brief& brief : briefs_.all())
    for (const Phrase& phrase : sentenceOf(brief, *briefs_.session()))
      if (phrase.kind == kind_ && !texts.contains(text(phrase.text))) texts << text(phrase.text);
  several_->setVisible(texts.size() > 1);
  const bool isMore = texts.size() > 3;
  several_->setText(tr("Several values: %1").arg(texts.mid(0, 3).join("  ·  ")) + (isMore ? "  …" : ""));
}

QString PhraseEditor::title() const { return text(phraseInfo(kind_).title); }

void PhraseEditor::refresh() {
  controls_.refresh();
  showSeveral();
  Brief now = briefs_.now();
  for (const auto& [lines, in] : selections_) lines->show(in(now));
}

SelectionLines* PhraseEditor::addSelection(SelectionSubject subject, const QString& act,
                                           std::function<Selection&(Brief&)> in) {
  const QString title = subject.title;
  auto* lines = new SelectionLines(std::move(subject), this);
  layout_->addWidget(lines);
  connect(lines, &SelectionLines::edited, this,
          [this, act, title, in](const Selection& selection, const QString& property) {
            briefs_.change(
                act, [&](Brief& brief) { in(brief) = selection; },
                property.isEmpty() ? property : "rule/" + title + "/" + property);
          });
  selections_.emplace_back(lines, std::move(in));
  return lines;
}

void PhraseEditor::keyPressEvent(QKeyEvent* event) {
  const bool isReturn = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
  if (event->key() == Qt::Key_Escape || isReturn)
    emit done();
  else
    QFrame::keyPressEvent(event);
}

void PhraseEditor::addNote(const QString& words) {
  if (words.isEmpty()) return;
  auto* label = new QLabel(words, this);
  label->setFont(Theme::caption());
  label->setWordWrap(true);
  layout_->addWidget(label);
}

std::vector<QWidget*> PhraseEditor::addFields() {
  const FieldTarget<Brief> target{
      [this]() -> const Brief& { return briefs_.now(); },
      [this](const QString& words, const std::function<void(Brief&)>& change, const QString& property) {
        briefs_.change(words, change, property);
      }};
  std::vector<QWidget*> made;
  for (const EditableField<Brief>& field : editableFields())
    if (field.phrase == kind_) made.push_back(controls_.add(field, target, *briefs_.session()));
  if (!made.empty() && firstFocusOf(this) == nullptr) setFirstFocus(this, made.front());
  return made;
}

PhraseEditor* makePhraseEditor(PhraseKind kind, Work& work, QWidget* parent) {
  PhraseEditor* editor = nullptr;
  switch (kind) {
    case PhraseKind::Plain: return nullptr;
    case PhraseKind::Template: editor = makeTemplateEditor(work, parent); break;
    case PhraseKind::Sources: editor = makeSourcesEditor(work, parent); break;
    case PhraseKind::Regions: editor = makeSpansEditor(work, parent); break;
    case PhraseKind::Overrides: editor = makeOverridesEditor(work, parent); break;
    case PhraseKind::Encoding: editor = makeOutputsEditor(work, parent); break;
    case PhraseKind::Data: editor = makeDataEditor(work, parent); break;
    case PhraseKind::Rows: editor = makeRowsEditor(work, parent); break;
    default: editor = new FieldsEditor(kind, work, parent);
  }
  if (kind != PhraseKind::Template && kind != PhraseKind::Rows)
    editor->layout()->addWidget(new PresetsLine(kind, work, editor));
  editor->refresh();
  useSessionUndo(editor);
  return editor;
}

}  // namespace octaphon::app
