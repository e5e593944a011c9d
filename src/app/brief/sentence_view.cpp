#include "app/brief/sentence_view.h"

#include <algorithm>
#include <QApplication>
#include <QMenu>
#include <QMenuBar>
#include <QMouseEvent>
#include <QStyle>
#include <QTimer>

#include "app/brief/name_examples.h"
#include "app/brief/template_edit.h"
#include "app/look/first_focus.h"
#include "app/look/flow_layout.h"
#include "app/look/theme.h"
#include "app/work/text.h"

namespace octaphon::app {
namespace {

constexpr int kParagraphs = static_cast<int>(Paragraph::NamesAndFolder) + 1;

void setFlag(QWidget* widget, const char* name, bool on) {
  if (widget->property(name).toBool() == on) return;
  widget->setProperty(name, on);
  widget->style()->unpolish(widget);
  widget->style()->polish(widget);
}

/// Whether a widget is `other` or in it, pop-ups of what is in it included.
bool belongsTo(const QWidget* widget, const QWidget* other) {
  while (widget != nullptr && widget != other) widget = widget->parentWidget();
  return widget != nullptr;
}

}  // namespace

SentenceView::SentenceView(Work& work, QWidget* parent) : QWidget(parent), work_(work), briefs_(work) {
  layOut();
  connectWork();
  follow();
  showSheet();
}

QWidget* SentenceView::addParagraph() {
  auto* paragraph = new QWidget(this);
  paragraphs_.push_back(new FlowLayout(paragraph));
  QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Preferred);
  policy.setHeightForWidth(true);
  paragraph->setSizePolicy(policy);
  return paragraph;
}

void SentenceView::layOut() {
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(16, 10, 8, 12);
  layout->setSpacing(8);
  for (int i = 0; i < kParagraphs; ++i) layout->addWidget(addParagraph());
  template_ = new TemplateEdit(this);
  template_->hide();
  remarks_ = new QLabel(this);
  remarks_->setWordWrap(true);
  remarks_->setTextFormat(Qt::RichText);
  remarks_->setTextInteractionFlags(Qt::TextBrowserInteraction);
  remarks_->setAccessibleName(tr("Remarks about the brief"));
  layout->addWidget(remarks_);
  layout->addWidget(new NameExamples(work_, this));
  layout->addStretch();
}

void SentenceView::connectWork() {
  connect(template_, &TemplateEdit::edited, this, [this](const QString& format) {
    briefs_.change(
        tr("Change the template"), [&](Brief& brief) { brief.names.format = format.toStdString(); },
        "template");
  });
  connect(template_, &TemplateEdit::editorWanted, this, [this] {
    if (editor_ != nullptr && editor_->kind() == PhraseKind::Template)
      closeEditor();
    else
      openEditor(PhraseKind::Template);
  });
  connect(remarks_, &QLabel::linkActivated, this,
          [this](const QString& link) { openEditor(static_cast<PhraseKind>(link.toInt())); });
  connect(&work_.briefs(), &BriefChoice::changed, this, [this] {
    if (editor_ != nullptr && editedBrief_ != work_.briefs().currentId()) closeEditor();
    showSheet();
    follow();
  });
  connect(&work_, &Work::phraseWanted, this, [this](int kind) { openEditor(static_cast<PhraseKind>(kind)); });
  connect(&work_.document(), &Document::opened, this, [this] { unfolded_ = false; });
  connect(&work_.document(), &Document::changed, this, &SentenceView::follow);
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, &SentenceView::showSheet);
  connect(&Theme::instance(), &Theme::changed, this, &SentenceView::showSheet);
}

// --- the words

/// What is as usual goes without saying, unless it is looked at or wrong.
bool SentenceView::isSaid(const Phrase& phrase) const {
  return phrase.isNeeded || !phrase.isDefault || unfolded_ || wrong_.contains(phrase.kind) ||
         (editor_ != nullptr && editor_->kind() == phrase.kind);
}

std::vector<SentenceView::Piece> SentenceView::piecesOf(const std::vector<Phrase>& phrases) const {
  std::vector<Piece> pieces;
  Paragraph paragraph = Paragraph::WhatAndWhere;
  const auto addWords = [&](std::string_view words) {
    for (const QString& word : text(words).split(' ', Qt::SkipEmptyParts))
      pieces.push_back({Piece::Of::Word, paragraph, PhraseKind::Plain, word});
  };
  bool hasUsual = false;
  for (const Phrase& phrase : phrases) {
    hasUsual = hasUsual || (phrase.isDefault && !phrase.isNeeded);
    if (!isSaid(phrase)) continue;
    addWords(phrase.mark);  // in the paragraph of the words before it
    paragraph = phrase.paragraph;
    addWords(phrase.lead);
    const bool isTemplate = phrase.kind == PhraseKind::Template;
    pieces.push_back({isTemplate ? Piece::Of::Template : Piece::Of::Phrase, paragraph, phrase.kind});
    if (editor_ != nullptr && editor_->kind() == phrase.kind)
      pieces.push_back({Piece::Of::Editor, paragraph, phrase.kind});
    addWords(phrase.trail);
  }
  if (hasUsual) {
    addWords(unfolded_ ? ";" : ",");
    pieces.push_back({Piece::Of::Usual, paragraph});
  }
  addWords(".");
  return pieces;
}

void SentenceView::follow() {
  if (work_.briefs().current() == nullptr) return closeEditor();
  const std::vector<Phrase> phrases = sentenceOf(briefs_.now(), *briefs_.session());
  std::vector<Piece> pieces = piecesOf(phrases);
  if (pieces != pieces_) arrange(pieces);
  pieces_ = std::move(pieces);
  showWords(phrases);
  if (editor_ != nullptr) editor_->refresh();
}

PhraseButton* SentenceView::buttonOf(PhraseKind kind) {
  if (const auto found = buttons_.find(kind); found != buttons_.end()) return found->second;
  auto* button = new PhraseButton(this);
  connect(button, &QPushButton::clicked, this, [this, kind] {
    if (editor_ != nullptr && editor_->kind() == kind)
      closeEditor();
    else
      openEditor(kind);
  });
  return buttons_[kind] = button;
}

/// Lays the pieces out anew. Buttons are kept, with the focus.
void SentenceView::arrange(const std::vector<Piece>& pieces) {
  for (FlowLayout* flow : paragraphs_)
    while (QLayoutItem* placed = flow->takeAt(0)) {
      if (auto* word = qobject_cast<QLabel*>(placed->widget())) word->deleteLater(), word->hide();
      delete placed;
    }
  std::set<QWidget*> unused;
  for (const auto& [kind, button] : buttons_) unused.insert(button);
  if (usual_ != nullptr) unused.insert(usual_);
  std::vector<QWidget*> order;
  for (const Piece& piece : pieces)
    place(piece, *paragraphs_[static_cast<std::size_t>(piece.paragraph)], order);
  for (std::size_t i = 0; i < order.size(); ++i) {
    unused.erase(order[i]);
    order[i]->show();
    if (i > 0) setTabOrder(order[i - 1], order[i]);
  }
  for (QWidget* button : unused) button->hide();
  for (FlowLayout* flow : paragraphs_) {
    flow->invalidate();
    flow->parentWidget()->setVisible(flow->count() > 0);
    flow->parentWidget()->updateGeometry();
  }
}

void SentenceView::place(const Piece& piece, FlowLayout& flow, std::vector<QWidget*>& order) {
  QWidget* placed = nullptr;
  switch (piece.of) {
    case Piece::Of::Word: {
      auto* label = new QLabel(piece.word, flow.parentWidget());
      label->setFont(Theme::sentence());
      label->setProperty("tight", piece.word.size() == 1 && piece.word[0].isPunct());
      label->show();
      return flow.addWidget(label);
    }
    case Piece::Of::Phrase: placed = buttonOf(piece.kind); break;
    case Piece::Of::Template: placed = template_; break;
    case Piece::Of::Editor: placed = editor_; break;
    case Piece::Of::Usual:
      if (usual_ == nullptr) {
        usual_ = new PhraseButton(this);
        connect(usual_, &QPushButton::clicked, this, [this] {
          unfolded_ = !unfolded_;
          follow();
        });
      }
      usual_->setWords(unfolded_ ? tr("say only what is not as usual") : tr("otherwise as usual"));
      placed = usual_;
      break;
  }
  flow.addWidget(placed);
  order.push_back(placed);
}

void SentenceView::showWords(const std::vector<Phrase>& phrases) {
  for (const Phrase& phrase : phrases) {
    if (phrase.kind == PhraseKind::Template) {
      template_->setText(text(phrase.text));
      continue;
    }
    const auto found = buttons_.find(phrase.kind);
    if (found == buttons_.end()) continue;
    found->second->setWords(text(phrase.text));
    found->second->setToolTip(text(phraseInfo(phrase.kind).title));
    setFlag(found->second, "changed", !phrase.isDefault);
    setFlag(found->second, "wrong", wrong_.contains(phrase.kind));
  }
  setFlag(template_, "wrong", wrong_.contains(PhraseKind::Template));
}

PhraseButton* SentenceView::phraseButton(PhraseKind kind) const {
  const auto found = buttons_.find(kind);
  return found == buttons_.end() || found->second->isHidden() ? nullptr : found->second;
}

// --- the editor

void SentenceView::openEditor(PhraseKind kind) {
  closeEditor();
  if (work_.briefs().current() == nullptr) return;
  editor_ = makePhraseEditor(kind, work_, this);
  if (editor_ == nullptr) return;
  editedBrief_ = work_.briefs().currentId();
  editor_->setProperty("below", true);
  connect(editor_, &PhraseEditor::done, this, &SentenceView::closeEditor);
  qApp->installEventFilter(this);
  follow();
  if (kind == PhraseKind::Template) {
    connect(editor_, &PhraseEditor::insertWanted, this, [this](const QString& word, bool isFilter) {
      isFilter ? template_->insertFilter(word) : template_->insertField(word);
    });
    template_->setFocus(Qt::OtherFocusReason);
    return emit editorOpened(editor_, template_);
  }
  if (QWidget* first = firstFocusOf(editor_)) first->setFocus(Qt::OtherFocusReason);
  emit editorOpened(editor_, phraseButton(kind));
}

void SentenceView::closeEditor() {
  if (editor_ == nullptr) return;
  qApp->removeEventFilter(this);
  const bool hadFocus = belongsTo(QApplication::focusWidget(), editor_);
  const PhraseKind kind = editor_->kind();
  editor_->hide();
  std::exchange(editor_, nullptr)->deleteLater();
  pressedElsewhere_ = false;
  follow();
  if (!hadFocus) return;
  if (kind == PhraseKind::Template) return template_->setFocus(Qt::OtherFocusReason);
  PhraseButton* button = phraseButton(kind);  // it may go without saying now
  if (button == nullptr) button = usual_;
  if (button != nullptr) button->setFocus(Qt::OtherFocusReason);
}

/// A click elsewhere closes the editor, once it is over: what was clicked must not move from under the mouse.
/// Menus leave it open: undo is in them.
bool SentenceView::eventFilter(QObject* watched, QEvent* event) {
  const bool isPress = event->type() == QEvent::MouseButtonPress;
  if (editor_ == nullptr || (!isPress && event->type() != QEvent::MouseButtonRelease)) return false;
  const auto* widget = qobject_cast<QWidget*>(watched);
  if (widget == nullptr) return false;
  const bool isMenu = qobject_cast<const QMenu*>(widget) || qobject_cast<const QMenuBar*>(widget);
  const bool isPhrase = qobject_cast<const PhraseButton*>(widget) != nullptr ||  // they see to it themselves
                        belongsTo(widget, template_);
  if (isPress) pressedElsewhere_ = !isMenu && !isPhrase && !belongsTo(widget, editor_);
  if (!isPress && std::exchange(pressedElsewhere_, false))
    QTimer::singleShot(0, editor_, [this] { closeEditor(); });
  return false;
}

// --- what the sheet says of it

void SentenceView::showSheet() {
  const Sheet& sheet = *work_.sheets().sheet();
  const auto found = std::find_if(
      sheet.briefs.begin(), sheet.briefs.end(),
      [this](const PlannedBrief& brief) { return brief.brief.id == work_.briefs().currentId(); });
  if (found == sheet.briefs.end()) return showRemarks({});
  const auto index = static_cast<std::size_t>(found - sheet.briefs.begin());
  showRemarks(work_.sheets().summary().briefs[index].remarks);
}

void SentenceView::showRemarks(const std::vector<Remark>& remarks) {
  constexpr std::size_t kMost = 4;
  std::set<PhraseKind> wrong;
  QStringList lines;
  for (const Remark& remark : remarks) {
    const PhraseKind about = phraseOf(remark.code);
    if (remark.severity == Severity::Fault && about != PhraseKind::Plain) wrong.insert(about);
    if (static_cast<std::size_t>(lines.size()) >= kMost) continue;
    const Role role = remark.severity == Severity::Fault     ? Role::Fault
                      : remark.severity == Severity::Warning ? Role::Attention
                                                             : Role::SecondInk;
    const QString ink = colour(role).name();
    const QString link = about == PhraseKind::Plain ? QString()
                                                    : QString("<a href='%1' style='color:%2'>%3</a>: ")
                                                          .arg(static_cast<int>(about))
                                                          .arg(ink, text(phraseInfo(about).name));
    lines << QString("<span style='color:%1'>%2%3</span>").arg(ink, link, text(remark.text).toHtmlEscaped());
  }
  if (remarks.size() > kMost) lines << tr("and %1 more, see the sheet").arg(remarks.size() - kMost);
  remarks_->setText(lines.join("<br>"));
  remarks_->setVisible(!lines.isEmpty());
  if (wrong == wrong_) return;
  wrong_ = std::move(wrong);
  follow();
}

}  // namespace octaphon::app
