#include "sentence_view.h"

#include <algorithm>
#include <QGridLayout>
#include <QStyle>
#include <set>

#include "flow_layout.h"
#include "template_edit.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

void setFlag(QWidget* widget, const char* name, bool on) {
  if (widget->property(name).toBool() == on) return;
  widget->setProperty(name, on);
  widget->style()->unpolish(widget);
  widget->style()->polish(widget);
}

/// The phrase a remark is about.
PhraseKind phraseOf(RemarkCode code) {
  switch (code) {
    case RemarkCode::BadTemplate:
    case RemarkCode::EmptyName:
    case RemarkCode::NameTooLong:
    case RemarkCode::Collision: return PhraseKind::Template;
    case RemarkCode::BadFolder: return PhraseKind::Folder;
    case RemarkCode::UnknownRegion:
    case RemarkCode::EmptySpan: return PhraseKind::Regions;
    case RemarkCode::UnknownSource: return PhraseKind::Sources;
    case RemarkCode::ReturnBeyondReach:
    case RemarkCode::ReachElsewhere: return PhraseKind::Reach;
    case RemarkCode::MissingEffect: return PhraseKind::Overrides;
    default: return PhraseKind::Plain;
  }
}

/// The remarks of the brief, and of its rows' faults the first of each kind, with the number of rows it
/// stands on.
std::vector<Remark> gathered(const Sheet& sheet, const PlannedBrief& brief) {
  std::vector<Remark> remarks = brief.remarks;
  std::map<RemarkCode, std::pair<Remark, int>> faults;
  for (std::size_t i = brief.firstRow; i < brief.firstRow + brief.rowCount; ++i)
    for (const Remark& remark : sheet.remarksOf(sheet.rows[i]))
      if (remark.severity == Severity::Fault)
        ++faults.try_emplace(remark.code, remark, 0).first->second.second;
  for (const Remark& remark : brief.remarks) faults.erase(remark.code);
  for (auto& [code, fault] : faults) {
    if (fault.second > 1) fault.first.text += " (" + std::to_string(fault.second) + " rows)";
    remarks.push_back(fault.first);
  }
  return remarks;
}

}  // namespace

SentenceView::SentenceView(QWidget* parent) : QWidget(parent) {
  words_ = new QWidget(this);
  flow_ = new FlowLayout(words_);
  QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Minimum);
  policy.setHeightForWidth(true);
  words_->setSizePolicy(policy);
  template_ = new TemplateEdit(words_);
  remarks_ = new QLabel(this);
  remarks_->setWordWrap(true);
  remarks_->setTextFormat(Qt::RichText);
  remarks_->setAccessibleName(tr("Remarks about the brief"));
  noExample_ = new QLabel(this);
  noExample_->setFont(Theme::caption());
  noExample_->setWordWrap(true);
  auto* examples = new QGridLayout;
  examples->setHorizontalSpacing(10);
  examples->setVerticalSpacing(3);
  examples->setColumnStretch(1, 1);
  for (const QString& caption : {tr("first"), tr("longest"), tr("odd")}) {
    auto* label = new QLabel(caption, this);
    label->setFont(Theme::caption());
    label->setObjectName("second");
    auto* name = new ElidedLabel(this);
    name->setFont(Theme::mono());
    const int row = static_cast<int>(examples_.size());
    examples->addWidget(label, row, 0);
    examples->addWidget(name, row, 1);
    examples_.push_back({label, name});
  }
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(16, 10, 14, 12);
  layout->setSpacing(10);
  layout->addWidget(words_);
  layout->addWidget(remarks_);
  layout->addWidget(noExample_);
  layout->addLayout(examples);
  layout->addStretch();
  connect(template_, &TemplateEdit::edited, this, [this](const QString& format) {
    brief_.names.format = format.toStdString();
    emit briefEdited(brief_, tr("Change the template"), "template");
  });
}

void SentenceView::setBrief(const Brief& brief, std::shared_ptr<const Session> session) {
  brief_ = brief;
  session_ = std::move(session);
  const std::vector<Phrase> phrases = sentenceOf(brief_, *session_);
  const bool same = std::all_of(phrases.begin(), phrases.end(), [this](const Phrase& phrase) {
    return phrase.kind == PhraseKind::Plain || phrase.kind == PhraseKind::Template ||
           buttons_.contains(phrase.kind);
  });
  const auto shown = std::count_if(phrases.begin(), phrases.end(), [](const Phrase& phrase) {
    return phrase.kind != PhraseKind::Plain && phrase.kind != PhraseKind::Template;
  });
  if (same && static_cast<std::size_t>(shown) == buttons_.size()) return update(phrases);
  build(phrases);
}

/// Lays the sentence out. Which phrases there are depends on others: what is run up to, say, only matters
/// where everything is heard. Buttons that stay are kept, with the focus.
void SentenceView::build(const std::vector<Phrase>& phrases) {
  while (QLayoutItem* placed = flow_->takeAt(0)) {
    if (qobject_cast<QLabel*>(placed->widget()) != nullptr) delete placed->widget();
    delete placed;
  }
  std::map<PhraseKind, QPushButton*> before = std::exchange(buttons_, {});
  QWidget* last = nullptr;
  const auto follow = [&](QWidget* widget) {
    if (last != nullptr) setTabOrder(last, widget);
    last = widget;
  };
  for (const Phrase& phrase : phrases) {
    if (phrase.kind == PhraseKind::Template) {
      flow_->addWidget(template_);
      follow(template_);
    } else if (phrase.kind == PhraseKind::Plain) {
      for (const QString& word : text(phrase.text).split(' ')) addWord(word);
    } else {
      const auto kept = before.find(phrase.kind);
      QPushButton* button = kept == before.end() ? newPhrase(phrase.kind) : kept->second;
      if (kept != before.end()) before.erase(kept);
      flow_->addWidget(button);
      buttons_[phrase.kind] = button;
      follow(button);
    }
  }
  for (const auto& [kind, button] : before) button->hide(), button->deleteLater();
  for (QWidget* word : words_->findChildren<QLabel*>()) word->show();
  for (const auto& [kind, button] : buttons_) button->show();
  update(phrases);
}

QPushButton* SentenceView::newPhrase(PhraseKind kind) {
  auto* button = new QPushButton(words_);
  button->setObjectName("phrase");
  button->setFont(Theme::sentence());
  button->setCursor(Qt::PointingHandCursor);
  button->setAutoDefault(true);
  connect(button, &QPushButton::clicked, this, [this, kind] { openEditor(kind); });
  return button;
}

/// Each word is a widget of its own, so that lines break between words; a comma stays with what is before it.
void SentenceView::addWord(const QString& word) {
  auto* label = new QLabel(word, words_);
  label->setFont(Theme::sentence());
  label->setProperty("tight", word.startsWith(',') || word.startsWith(';'));
  flow_->addWidget(label);
}

void SentenceView::update(const std::vector<Phrase>& phrases) {
  for (const Phrase& phrase : phrases) {
    if (phrase.kind == PhraseKind::Template) {
      template_->setText(text(phrase.text));
    } else if (phrase.kind != PhraseKind::Plain) {
      QPushButton* button = buttons_.at(phrase.kind);
      const QString words = text(phrase.text).replace("&", "&&");
      const QFontMetrics metrics(button->font());
      button->setText(metrics.elidedText(words, Qt::ElideMiddle, 300));
      button->setToolTip(text(phrase.text));
      button->setAccessibleName(text(phrase.text));
      setFlag(button, "changed", !phrase.isDefault);
    }
  }
  flow_->invalidate();
  words_->updateGeometry();
}

QPushButton* SentenceView::phraseButton(PhraseKind kind) const {
  const auto found = buttons_.find(kind);
  return found == buttons_.end() ? nullptr : found->second;
}

void SentenceView::openEditor(PhraseKind kind) {
  const auto apply = [this](const Brief& brief, const QString& words, const QString& merge) {
    brief_ = brief;
    emit briefEdited(brief, words, merge);
  };
  QFrame* editor = makePhraseEditor(kind, brief_, session_, apply, this);
  if (editor != nullptr) showBeside(editor, buttons_.at(kind));
}

void SentenceView::setSheet(const Sheet& sheet) {
  const auto found = std::find_if(sheet.briefs.begin(), sheet.briefs.end(),
                                  [&](const PlannedBrief& b) { return b.brief.id == brief_.id; });
  if (found == sheet.briefs.end()) {
    showRemarks({});
    showExamples({nullptr, nullptr, nullptr}, tr("Tick the brief to see its files."));
    return;
  }
  showRemarks(gathered(sheet, *found));
  chooseExamples(sheet, *found);
}

void SentenceView::showRemarks(const std::vector<Remark>& remarks) {
  constexpr std::size_t kMost = 4;
  std::set<PhraseKind> wrong;
  QStringList lines;
  for (const Remark& remark : remarks) {
    if (remark.severity == Severity::Fault) wrong.insert(phraseOf(remark.code));
    if (static_cast<std::size_t>(lines.size()) < kMost) {
      const Role role = remark.severity == Severity::Fault     ? Role::Fault
                        : remark.severity == Severity::Warning ? Role::Attention
                                                               : Role::SecondInk;
      lines << QString("<span style='color:%1'>%2</span>")
                   .arg(colour(role).name(), text(remark.text).toHtmlEscaped());
    }
  }
  if (remarks.size() > kMost) lines << tr("and %1 more, see the sheet").arg(remarks.size() - kMost);
  remarks_->setText(lines.join("<br>"));
  remarks_->setVisible(!lines.isEmpty());
  for (auto& [kind, button] : buttons_) setFlag(button, "wrong", wrong.contains(kind));
  setFlag(template_, "wrong", wrong.contains(PhraseKind::Template));
}

void SentenceView::chooseExamples(const Sheet& sheet, const PlannedBrief& brief) {
  if (brief.rowCount == 0)
    return showExamples({nullptr, nullptr, nullptr},
                        tr("No file yet: choose regions and sources that have clips."));
  const auto first = sheet.rows.begin() + static_cast<std::ptrdiff_t>(brief.firstRow);
  const auto last = first + static_cast<std::ptrdiff_t>(brief.rowCount);
  const auto longest =
      std::max_element(first, last, [](const Row& a, const Row& b) { return a.file.size() < b.file.size(); });
  const auto odd = std::find_if(first, last, [&](const Row& row) { return sheet.isRemarkable(row); });
  showExamples({&*first, longest == first ? nullptr : &*longest, odd == last ? nullptr : &*odd}, {});
}

/// First, longest and odd; null where there is none, and words instead of all.
void SentenceView::showExamples(const std::array<const Row*, 3>& rows, const QString& words) {
  noExample_->setText(words);
  noExample_->setVisible(!words.isEmpty());
  for (std::size_t i = 0; i < rows.size(); ++i) {
    examples_[i].caption->setVisible(rows[i] != nullptr);
    examples_[i].name->setVisible(rows[i] != nullptr);
    if (rows[i] != nullptr)
      examples_[i].name->setWords(rows[i]->file.empty() ? tr("(no name)") : text(rows[i]->file));
  }
}

}  // namespace octaphon::app
