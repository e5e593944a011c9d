#include "phrase_editor.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QScreen>

#include "naming/file_name.h"
#include "phrase_editor_base.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

class CountsEditor : public PhraseEditor {
 public:
  CountsEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : PhraseEditor(brief, std::move(session), std::move(apply), tr("Which sound counts"), parent) {
    choice<Counts>(
        &Brief::counts,
        {{Counts::BeginsHere, tr("Only what begins here"), tr("Clips that start inside the region")},
         {Counts::EverythingHeard, tr("Everything heard"),
          tr("All that sounds inside the region, as one hears it")}},
        tr("Choose which sound counts"));
    layout_->addSpacing(6);
    auto* crossing = new QCheckBox(tr("Hear clips that began earlier from the start on"), this);
    crossing->setChecked(brief.crossing == Crossing::FromStart);
    layout_->addWidget(crossing);
    connect(crossing, &QCheckBox::toggled, this, [this](bool on) {
      brief_.crossing = on ? Crossing::FromStart : Crossing::LeftOut;
      PhraseEditor::apply(tr("Choose what becomes of earlier clips"));
    });
    auto* row = new QHBoxLayout;
    row->addWidget(new QLabel(tr("Fade what runs on, in the last"), this));
    row->addWidget(number(&Brief::endFadeMs, kMaxEndFadeMs, 1, " ms", tr("Fade at the end"),
                          tr("Change the fade at the end")));
    layout_->addLayout(row);
    note(tr("Both only matter where just what begins here counts."));
  }
};

class FolderEditor : public PhraseEditor {
 public:
  FolderEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : PhraseEditor(brief, std::move(session), std::move(apply), tr("Into which folder"), parent) {
    edit_ = new QLineEdit(text(brief.folder), this);
    edit_->setFont(Theme::mono());
    edit_->setMinimumWidth(260);
    edit_->setAccessibleName(tr("Folder below the session"));
    layout_->addWidget(edit_);
    note(tr("Below the session's folder: %1").arg(text(session_->folder().string())));
    setFocusProxy(edit_);
    connect(edit_, &QLineEdit::textEdited, this, [this](const QString& folder) {
      brief_.folder = folder.toStdString();
      PhraseEditor::apply(tr("Change the folder"), "folder");
    });
    connect(edit_, &QLineEdit::returnPressed, this, &QWidget::close);
  }

 private:
  QLineEdit* edit_;
};

class TailEditor : public PhraseEditor {
 public:
  TailEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : PhraseEditor(brief, std::move(session), std::move(apply), tr("Tail after the region's end"), parent) {
    QDoubleSpinBox* box = number(&Brief::tailSeconds, kMaxTailSeconds, 3, " s", tr("Length of the tail"),
                                 tr("Change the tail"));
    layout_->addWidget(box);
    setFocusProxy(box);
    note(tr("Clips that are allowed to finish ring into it; others end with the region."));
  }
};

template <class T>
class ChoiceEditor : public PhraseEditor {
 public:
  ChoiceEditor(T Brief::*member, const std::vector<std::tuple<T, QString, QString>>& choices,
               const QString& title, const QString& words, const Brief& brief,
               std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : PhraseEditor(brief, std::move(session), std::move(apply), title, parent) {
    choice<T>(member, choices, words);
  }
};

std::vector<std::tuple<Encoding, QString, QString>> encodingChoices() {
  std::vector<std::tuple<Encoding, QString, QString>> choices;
  for (const EncodingInfo& info : kEncodings) choices.emplace_back(info.encoding, text(info.text), QString());
  return choices;
}

std::vector<std::tuple<LetterCase, QString, QString>> caseChoices() {
  std::vector<std::tuple<LetterCase, QString, QString>> choices;
  for (const LetterCase letterCase : kLetterCases) {
    const QString example = letterCase == LetterCase::AsIs ? QObject::tr("as it is")
                                                           : text(withCase("Winch Start 01", letterCase));
    choices.emplace_back(letterCase, QString("%1   %2").arg(text(letterCaseName(letterCase)), example),
                         QString());
  }
  return choices;
}

}  // namespace

QFrame* makePhraseEditor(PhraseKind kind, const Brief& brief, std::shared_ptr<const Session> session,
                         const ApplyBrief& apply, QWidget* parent) {
  using Choices = std::vector<std::tuple<Existing, QString, QString>>;
  switch (kind) {
    case PhraseKind::Sources: return makeSourcesEditor(brief, session, apply, parent);
    case PhraseKind::Regions: return makeRegionsEditor(brief, session, apply, parent);
    case PhraseKind::Counts: return new CountsEditor(brief, session, apply, parent);
    case PhraseKind::Reach: return makeReachEditor(brief, session, apply, parent);
    case PhraseKind::Overrides: return makeOverridesEditor(brief, session, apply, parent);
    case PhraseKind::RunUp: return makeRunUpEditor(brief, session, apply, parent);
    case PhraseKind::Keyed:
      return new ChoiceEditor<bool>(
          &Brief::keyed,
          {{true, QObject::tr("Keyed by the mix"),
            QObject::tr("Layers take the gain of the full sum, and add up to the mix")},
           {false, QObject::tr("Each keyed alone"),
            QObject::tr("Dynamics react to each layer as if it were alone")}},
          QObject::tr("What shared dynamics listen to"), QObject::tr("Choose the key"), brief, session, apply,
          parent);
    case PhraseKind::Tail: return new TailEditor(brief, session, apply, parent);
    case PhraseKind::Folder: return new FolderEditor(brief, session, apply, parent);
    case PhraseKind::Encoding:
      return new ChoiceEditor<Encoding>(&Brief::encoding, encodingChoices(), QObject::tr("As what"),
                                        QObject::tr("Choose the format"), brief, session, apply, parent);
    case PhraseKind::Case:
      return new ChoiceEditor<LetterCase>(
          &Brief::letterCase, caseChoices(), QObject::tr("Letters of the whole name"),
          QObject::tr("Choose the letter case"), brief, session, apply, parent);
    case PhraseKind::Existing:
      return new ChoiceEditor<Existing>(
          &Brief::existing,
          Choices{{Existing::Keep, QObject::tr("Keep what is there"), QString()},
                  {Existing::Replace, QObject::tr("Replace files of ours that are out of date"), QString()}},
          QObject::tr("Files that are there"), QObject::tr("Choose what becomes of files that are there"),
          brief, session, apply, parent);
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
