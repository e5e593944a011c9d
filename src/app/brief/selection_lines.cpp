#include "app/brief/selection_lines.h"

#include <algorithm>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

#include "app/look/icons.h"
#include "app/look/session_undo.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "session/session.h"

namespace octaphon::app {
namespace {

bool isNumber(PickBy by) { return by == PickBy::Colour || by == PickBy::Level; }

/// Picks that one line stands for: things by hand that go the same way, else one.
std::size_t runLength(const Selection& selection, std::size_t first) {
  const Pick& pick = selection.picks[first];
  if (pick.by != PickBy::Id) return 1;
  std::size_t end = first + 1;
  while (end < selection.picks.size() && selection.picks[end].by == PickBy::Id &&
         selection.picks[end].out == pick.out)
    ++end;
  return end - first;
}

}  // namespace

SelectionLines::SelectionLines(SelectionSubject subject, QWidget* parent)
    : QWidget(parent), subject_(std::move(subject)), layout_(new QVBoxLayout(this)) {
  setAccessibleName(subject_.title);
  layout_->setContentsMargins(0, 2, 0, 2);
  layout_->setSpacing(3);
  addRow_ = new QWidget(this);
  auto* row = new QHBoxLayout(addRow_);
  row->setContentsMargins(0, 0, 0, 0);
  auto* title = new QLabel(subject_.title, addRow_);
  title->setFont(Theme::caption());
  title->setObjectName("second");
  auto* add = new QPushButton(tr("Add a rule"), addRow_);
  add->setObjectName("quiet");
  add->setAccessibleName(tr("Add a rule for %1").arg(subject_.title));
  row->addWidget(title);
  row->addStretch();
  row->addWidget(add);
  layout_->addWidget(addRow_);
  connect(add, &QPushButton::clicked, this, &SelectionLines::addPending);
}

const SelectionSubject::Rule& SelectionLines::ruleOf(const Line& line) const {
  return subject_.rules[std::max(0, line.by->currentIndex())];
}

std::string SelectionLines::valueOf(const Line& line, bool isListed) {
  const QString text = isListed ? line.value->currentData().toString() : line.value->currentText();
  return text.toStdString();
}

void SelectionLines::show(const Selection& selection) {
  selection_ = selection;
  std::vector<std::pair<int, std::size_t>> wanted;
  for (std::size_t i = 0; i < selection.picks.size();) {
    const std::size_t count = runLength(selection, i);
    wanted.emplace_back(selection.picks[i].by == PickBy::Id, count);
    i += count;
  }
  if (wanted != arranged_) {
    arranged_ = std::move(wanted);
    arrange();
  }
  for (Line& line : lines_)
    if (line.count > 0) fill(line);
}

void SelectionLines::arrange() {
  for (const Line& line : lines_) {
    line.widget->hide();
    line.widget->deleteLater();
  }
  lines_.clear();
  for (std::size_t i = 0; i < selection_.picks.size();) {
    const std::size_t count = runLength(selection_, i);
    addLine(i, count);
    i += count;
  }
}

void SelectionLines::addLine(std::size_t first, std::size_t count) {
  const std::size_t index = lines_.size();
  Line line{new QWidget(this), nullptr, nullptr, nullptr, first, count};
  auto* row = new QHBoxLayout(line.widget);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(4);
  const auto addBox = [&](const QString& name, int stretch) {
    auto* box = new QComboBox(line.widget);
    box->setAccessibleName(name);
    const bool isValue = stretch > 0;
    box->setSizeAdjustPolicy(isValue ? QComboBox::AdjustToMinimumContentsLengthWithIcon
                                     : QComboBox::AdjustToContents);
    if (isValue) box->setMinimumContentsLength(3);
    row->addWidget(box, stretch);
    return box;
  };
  line.way = addWay(line, index);
  row->addWidget(line.way);
  const bool isByHand = count > 0 && selection_.picks[first].by == PickBy::Id;
  if (isByHand) {
    auto* words = new QLabel(line.widget);
    words->setObjectName("byHand");
    row->addWidget(words, 1);
  } else {
    line.by = addBox(tr("What it goes by"), 0);
    for (const SelectionSubject::Rule& rule : subject_.rules) line.by->addItem(rule.label);
    line.value = addBox(tr("Value"), 1);
    connect(line.by, &QComboBox::activated, this, [this, index] {
      fillValues(lines_[index], ruleOf(lines_[index]).by, {});
      take(index);
    });
    connect(line.value, &QComboBox::currentTextChanged, this, [this, index] { take(index); });
    connect(line.value, &QComboBox::activated, this, [this, index] { take(index); });
  }
  auto* out = new QToolButton(line.widget);
  keepIcon(out, "remove");
  out->setAccessibleName(tr("Take this line out"));
  out->setToolTip(out->accessibleName());
  row->addWidget(out);
  connect(out, &QToolButton::clicked, this, [this, index] { remove(index); });
  layout_->addWidget(line.widget);
  line.widget->show();
  lines_.push_back(line);
  useSessionUndo(line.widget);
}

QToolButton* SelectionLines::addWay(const Line& line, std::size_t index) {
  auto* way = new QToolButton(line.widget);
  way->setCheckable(true);
  way->setAccessibleName(tr("Out instead of in"));
  way->setFixedWidth(40);
  connect(way, &QToolButton::clicked, this, [this, index](bool out) {
    showWay(lines_[index], out);
    take(index);
  });
  return way;
}

void SelectionLines::showWay(const Line& line, bool out) {
  line.way->setChecked(out);
  line.way->setText(out ? tr("out") : tr("in"));
  line.way->setToolTip(out ? tr("What fits is left out") : tr("What fits is taken in"));
}

/// A line that counts as soon as it has a value.
void SelectionLines::addPending() {
  const bool isWaiting = !lines_.empty() && lines_.back().count == 0;
  if (!isWaiting) addLine(selection_.picks.size(), 0);
  Line& line = lines_.back();
  const auto named =
      std::find_if(subject_.rules.begin(), subject_.rules.end(),
                   [](const SelectionSubject::Rule& rule) { return rule.by == PickBy::Named; });
  isFilling_ = true;
  showWay(line, !selection_.empty());
  line.by->setCurrentIndex(static_cast<int>(named - subject_.rules.begin()));
  isFilling_ = false;
  fillValues(line, PickBy::Named, {});
  line.by->setFocus(Qt::OtherFocusReason);
}

void SelectionLines::fill(Line& line) {
  const Pick& pick = selection_.picks[line.first];
  isFilling_ = true;
  showWay(line, pick.out);
  if (line.by == nullptr) {
    const PickedKind kind = subject_.kind();
    QStringList names;
    for (std::size_t i = line.first; i < line.first + line.count; ++i)
      names << text(pickWords(selection_.picks[i], kind));
    auto* words = line.widget->findChild<QLabel*>("byHand");
    words->setText(line.count == 1 ? names[0] : tr("%1 by hand").arg(line.count));
    words->setToolTip(names.mid(0, 30).join('\n'));
  } else {
    for (int i = 0; i < subject_.rules.size(); ++i)
      if (subject_.rules[i].by == pick.by) line.by->setCurrentIndex(i);
    isFilling_ = false;
    const QString shown = isNumber(pick.by) ? QString::number(pick.number) : text(pick.value);
    if (!(line.value->hasFocus() && line.value->isEditable() && line.value->currentText() == shown))
      fillValues(line, pick.by, shown);
  }
  isFilling_ = false;
}

/// Anew only where it is other values: the list may be open.
static void offer(QComboBox& box, const QList<std::pair<QString, QString>>& values) {
  bool isSame = box.count() == values.size();
  for (int i = 0; isSame && i < box.count(); ++i)
    isSame = box.itemText(i) == values[i].first && box.itemData(i).toString() == values[i].second;
  if (isSame) return;
  box.clear();
  for (const auto& [words, value] : values) box.addItem(words, value);
}

/// What a rule may go by, and what it goes by now: a text, or of listed ones the value behind it.
void SelectionLines::fillValues(const Line& line, PickBy by, const QString& shown) {
  const SelectionSubject::Rule& rule = ruleOf(line);
  isFilling_ = true;
  line.value->setVisible(by != PickBy::All);
  line.value->setToolTip(shown);
  line.value->setEditable(!rule.isListed);
  offer(*line.value, subject_.values(by));
  if (rule.isListed) {
    int index = line.value->findData(shown);
    if (index < 0 && !shown.isEmpty()) {
      line.value->addItem(tr("something gone"), shown);
      index = line.value->count() - 1;
    }
    line.value->setCurrentIndex(index);
  } else {
    line.value->setEditText(shown);
    line.value->lineEdit()->setCursorPosition(0);
    line.value->lineEdit()->setPlaceholderText(by == PickBy::Named ? tr("*Start* …") : QString());
    line.value->lineEdit()->setFont(by == PickBy::Named ? Theme::mono() : Theme::body());
  }
  isFilling_ = false;
}

void SelectionLines::take(std::size_t index) {
  if (isFilling_ || index >= lines_.size()) return;
  Line& line = lines_[index];
  Selection changed = selection_;
  const bool out = line.way->isChecked();
  if (line.by == nullptr) {
    for (std::size_t i = line.first; i < line.first + line.count; ++i) changed.picks[i].out = out;
  } else {
    const SelectionSubject::Rule& rule = ruleOf(line);
    Pick pick;
    pick.out = out;
    pick.by = rule.by;
    const std::string value = rule.by == PickBy::All ? std::string() : valueOf(line, rule.isListed);
    if (isNumber(rule.by))
      pick.number = QString::fromStdString(value).toInt();
    else
      pick.value = value;
    const bool isWhole = rule.by == PickBy::All || (isNumber(rule.by) ? pick.number > 0 : !value.empty());
    if (!isWhole) return;  // a value it must have
    if (line.count == 0) {
      changed.picks.push_back(pick);
      line.count = 1;
      arranged_.emplace_back(0, 1);
    } else {
      pick.unknownKeys = changed.picks[line.first].unknownKeys;
      changed.picks[line.first] = pick;
    }
  }
  if (changed == selection_) return;
  selection_ = changed;
  emit edited(changed, QString::number(index));
}

void SelectionLines::remove(std::size_t index) {
  const Line line = lines_[index];
  if (line.count == 0) {
    arrange();
    for (Line& each : lines_) fill(each);
    return;
  }
  Selection changed = selection_;
  const auto first = changed.picks.begin() + static_cast<std::ptrdiff_t>(line.first);
  changed.picks.erase(first, first + static_cast<std::ptrdiff_t>(line.count));
  emit edited(changed, {});
}

/// Return in a value is no more than its end: the editor stays open.
void SelectionLines::keyPressEvent(QKeyEvent* event) {
  const bool isReturn = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
  if (isReturn)
    event->accept();
  else
    QWidget::keyPressEvent(event);
}

}  // namespace octaphon::app
