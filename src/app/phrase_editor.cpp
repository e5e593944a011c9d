#include "phrase_editor.h"

#include <QButtonGroup>
#include <QRadioButton>
#include <QScreen>

#include "naming/file_name.h"
#include "phrase_editor_base.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

/// A phrase whose controls come from the description of its fields alone.
class FieldsEditor : public PhraseEditor {
 public:
  FieldsEditor(PhraseKind phrase, const QString& title, const QString& words, const Brief& brief,
               std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : PhraseEditor(brief, std::move(session), std::move(apply), title, parent) {
    addFields(phrase);
    if (!words.isEmpty()) note(words);
  }
};

/// Letter cases, each with an example.
class CaseEditor : public PhraseEditor {
 public:
  CaseEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : PhraseEditor(brief, std::move(session), std::move(apply), tr("Letters of the whole name"), parent) {
    auto* group = new QButtonGroup(this);
    for (const Choice<LetterCase>& choice : kChoices<LetterCase>) {
      const QString example =
          choice.value == LetterCase::AsIs ? tr("as it is") : text(withCase("Winch Start 01", choice.value));
      auto* button = new QRadioButton(QString("%1   %2").arg(text(choice.name), example), this);
      button->setChecked(brief_.names.letterCase == choice.value);
      group->addButton(button);
      layout_->addWidget(button);
      if (button->isChecked()) setFocusProxy(button);
      connect(button, &QRadioButton::toggled, this, [this, letterCase = choice.value](bool on) {
        if (!on || brief_.names.letterCase == letterCase) return;
        brief_.names.letterCase = letterCase;
        PhraseEditor::apply(tr("Choose the letter case"));
      });
    }
  }
};

}  // namespace

QFrame* makePhraseEditor(PhraseKind kind, const Brief& brief, std::shared_ptr<const Session> session,
                         const ApplyBrief& apply, QWidget* parent) {
  const auto fields = [&](const QString& title, const QString& words = {}) {
    return new FieldsEditor(kind, title, words, brief, session, apply, parent);
  };
  switch (kind) {
    case PhraseKind::Sources: return makeSourcesEditor(brief, session, apply, parent);
    case PhraseKind::Regions: return makeRegionsEditor(brief, session, apply, parent);
    case PhraseKind::Counts:
      return fields(
          QObject::tr("Which sound counts"),
          QObject::tr("Earlier clips and the fade only matter where just what begins here counts."));
    case PhraseKind::Reach: return makeReachEditor(brief, session, apply, parent);
    case PhraseKind::Overrides: return makeOverridesEditor(brief, session, apply, parent);
    case PhraseKind::RunUp: return makeRunUpEditor(brief, session, apply, parent);
    case PhraseKind::Keyed:
      return fields(
          QObject::tr("What shared dynamics listen to"),
          QObject::tr("Keyed by the mix, layers take the gain of the full sum, and add up to the mix. Else "
                      "dynamics react to each layer as if it were alone."));
    case PhraseKind::Tail:
      return fields(
          QObject::tr("Tail after the region's end"),
          QObject::tr("Clips that are allowed to finish ring into it; others end with the region."));
    case PhraseKind::Folder:
      return fields(QObject::tr("Into which folder"),
                    QObject::tr("Below the session's folder: %1").arg(text(session->folder().string())));
    case PhraseKind::Encoding: return fields(QObject::tr("As what"));
    case PhraseKind::Case: return new CaseEditor(brief, session, apply, parent);
    case PhraseKind::Existing: return fields(QObject::tr("Files that are there"));
    case PhraseKind::Plain:
    case PhraseKind::Template: return nullptr;
  }
  return nullptr;
}

void showBeside(QFrame* editor, QWidget* phrase) {
  editor->adjustSize();
  const QSize size = editor->sizeHint();
  const QRect screen = phrase->screen()->availableGeometry();
  QPoint at = phrase->mapToGlobal(QPoint(0, phrase->height() + 4));
  if (at.y() + size.height() > screen.bottom())
    at.setY(phrase->mapToGlobal(QPoint(0, -4)).y() - size.height());
  at.setX(
      std::clamp(at.x(), screen.left() + 4, std::max(screen.left() + 4, screen.right() - size.width() - 4)));
  at.setY(std::max(at.y(), screen.top() + 4));
  editor->move(at);
  editor->show();
  if (editor->focusProxy() != nullptr) editor->focusProxy()->setFocus(Qt::PopupFocusReason);
}

}  // namespace octaphon::app
