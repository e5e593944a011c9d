#include "app/sheet/row_panel.h"

#include <algorithm>
#include <QHBoxLayout>
#include <unordered_map>

#include "app/look/first_focus.h"
#include "app/look/session_undo.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "brief/editing.h"
#include "brief/row_marks.h"

namespace octaphon::app {
namespace {

QLabel* captionFor(const QString& words, QWidget* parent) {
  auto* label = new QLabel(words, parent);
  label->setFont(Theme::caption());
  return label;
}

QVBoxLayout* columnIn(QWidget* widget) {
  auto* layout = new QVBoxLayout(widget);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(4);
  return layout;
}

}  // namespace

RowPanel::RowPanel(Work& work, Commands& commands, QWidget* parent) : QScrollArea(parent), work_(work) {
  setWidgetResizable(true);
  setFrameShape(QFrame::NoFrame);
  setAccessibleName(tr("What rows have of their own"));
  layOut(commands);
  connect(&work_.rows(), &RowChoice::changed, this, &RowPanel::reload);
  connect(&work_.document(), &Document::changed, this, &RowPanel::reload);
  connect(&work_.document(), &Document::opened, this, &RowPanel::reload);
  reload();
}

void RowPanel::layOut(Commands& commands) {
  auto* pane = new QWidget(this);
  pane->setObjectName("pane");
  words_ = new QLabel(pane);
  words_->setFont(Theme::sentence());
  words_->setWordWrap(true);
  body_ = new QWidget(pane);
  auto* columns = new QHBoxLayout(body_);
  columns->setContentsMargins(0, 0, 0, 0);
  columns->setSpacing(14);
  columns->addWidget(fileFields(commands), 0, Qt::AlignTop);
  columns->addWidget(ownFields(tr("Ends of its own"), &RowException::ends, editableOwnEnds(), ends_), 0,
                     Qt::AlignTop);
  columns->addWidget(ownFields(tr("Loop of its own"), &RowException::loop, editableOwnLoop(), loop_), 0,
                     Qt::AlignTop);
  columns->addStretch();
  auto* layout = new QVBoxLayout(pane);
  layout->setContentsMargins(14, 8, 14, 12);
  layout->addWidget(words_);
  layout->addWidget(body_);
  layout->addStretch();
  setWidget(pane);
  setFirstFocus(this, name_);
  useSessionUndo(pane);
}

QComboBox* RowPanel::addCombo(QVBoxLayout* layout, const QString& label, const QStringList& items) {
  auto* combo = new QComboBox(this);
  combo->addItems(items);
  combo->setAccessibleName(label);
  layout->addWidget(captionFor(label, this));
  layout->addWidget(combo);
  return combo;
}

QWidget* RowPanel::fileFields(Commands& commands) {
  auto* column = new QWidget(this);
  column->setFixedWidth(176);
  QVBoxLayout* layout = columnIn(column);
  name_ = new QLineEdit(column);
  name_->setFont(Theme::mono());
  name_->setPlaceholderText(tr("as the template says"));
  name_->setAccessibleName(tr("Name of its own"));
  layout->addWidget(captionFor(tr("Name, without ending"), column));
  layout->addWidget(name_);
  QStringList channels, encodings{tr("as the brief says")}, rates{tr("as the brief says")};
  for (const auto& choice : kChoices<OutputChannels>) channels << text(choice.label);
  channels[0] = tr("as the brief says");
  for (const auto& choice : kChoices<Encoding>) encodings << text(choice.words);
  for (const int rate : kFileRates) rates << tr("%1 kHz").arg(rate / 1000.0);
  channels_ = addCombo(layout, tr("Channels"), channels);
  encoding_ = addCombo(layout, tr("Format"), encodings);
  rate_ = addCombo(layout, tr("Rate"), rates);
  auto* back = new QPushButton(tr("All as the brief says"), column);
  QAction* action = commands.action("row.as-brief");
  back->setToolTip(Commands::title(*action));
  connect(back, &QPushButton::clicked, action, &QAction::trigger);
  layout->addSpacing(6);
  layout->addWidget(back);
  connect(name_, &QLineEdit::editingFinished, this, [this] {
    const std::string typed = name_->text().trimmed().toStdString();
    if (!isLoading_ && name_->isModified())
      change(tr("Name a file by hand"), [&](auto& own) { own.name = typed; });
  });
  connect(channels_, &QComboBox::activated, this, [this](int index) {
    change(tr("Change a row's channels"),
           [&](auto& own) { own.channels = static_cast<OutputChannels>(index); });
  });
  connect(encoding_, &QComboBox::activated, this, [this](int index) {
    change(tr("Change a row's format"), [&](auto& own) {
      own.encoding = index == 0 ? std::nullopt : std::optional(static_cast<Encoding>(index - 1));
    });
  });
  connect(rate_, &QComboBox::activated, this, [this](int index) {
    change(tr("Change a row's rate"),
           [&](auto& own) { own.rate = index == 0 ? 0 : kFileRates[static_cast<std::size_t>(index) - 1]; });
  });
  return column;
}

/// Controls of what its description has.
template <class Own>
QWidget* RowPanel::ownFields(const QString& title, Own RowException::*member,
                             const std::vector<EditableField<Own>>& fields,
                             std::unique_ptr<FieldControls>& controls) {
  auto* column = new QWidget(this);
  column->setFixedWidth(236);
  QVBoxLayout* layout = columnIn(column);
  auto* heading = new QLabel(title, column);
  heading->setFont(Theme::strong());
  layout->addWidget(heading);
  controls = std::make_unique<FieldControls>(layout, column);
  const FieldTarget<Own> target{
      [this, member]() -> const Own& { return now_.*member; },
      [this, member](const QString& words, const std::function<void(Own&)>& own, const QString& property) {
        change(
            tr("%1 of a row").arg(words), [&](RowException& row) { own(row.*member); }, property);
      }};
  for (const EditableField<Own>& field : fields) controls->add(field, target, *work_.session());
  return column;
}

void RowPanel::change(const QString& words, const std::function<void(RowException&)>& change,
                      const QString& property) {
  if (isLoading_ || keys_.empty()) return;
  const std::vector<std::string> keys = keys_;
  work_.document().edit(
      words,
      [&](Session& session) {
        for (Brief& brief : session.briefs)
          for (const std::string& key : keys) changeException(brief, key, change);
      },
      property.isEmpty() ? QString() : mergeKey("row/" + property, {keys.begin(), keys.end()}));
}

void RowPanel::showEvent(QShowEvent* event) {
  QScrollArea::showEvent(event);
  reload();
}

void RowPanel::reload() {
  if (!isVisible()) return;
  keys_ = work_.rows().keys();
  std::unordered_map<std::string, const RowException*> owns;
  for (const Brief& brief : work_.session()->briefs)
    for (const RowException& own : brief.rowExceptions) owns.emplace(brief.id + "/" + own.row, &own);
  const auto ownOf = [&](const std::string& key) {
    const auto found = owns.find(key);
    return found == owns.end() ? RowException() : *found->second;
  };
  now_ = keys_.empty() ? RowException() : ownOf(work_.rows().current());
  bool isMixed = false;
  for (const std::string& key : keys_) {
    RowException own = ownOf(key);
    own.row = now_.row;
    isMixed = isMixed || own != now_;
  }
  body_->setVisible(!keys_.empty());
  const QString files = text(counted(keys_.size(), "file"));
  words_->setText(keys_.empty() ? tr("Select rows of the sheet, and here stands what they have of their own.")
                  : isMixed     ? tr("%1, with several values: what you change is changed in all").arg(files)
                  : keys_.size() > 1 ? tr("%1 are changed together").arg(files)
                                     : work_.rows().fileNames().value(0));
  isLoading_ = true;
  if (!name_->hasFocus() || !name_->isModified()) name_->setText(text(now_.name));
  channels_->setCurrentIndex(static_cast<int>(now_.channels));
  encoding_->setCurrentIndex(now_.encoding ? static_cast<int>(*now_.encoding) + 1 : 0);
  const auto rate = std::find(kFileRates.begin(), kFileRates.end(), now_.rate);
  rate_->setCurrentIndex(rate == kFileRates.end() ? 0 : static_cast<int>(rate - kFileRates.begin()) + 1);
  ends_->refresh();
  loop_->refresh();
  isLoading_ = false;
}

}  // namespace octaphon::app
