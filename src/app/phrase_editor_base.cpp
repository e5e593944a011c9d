#include "phrase_editor_base.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QRadioButton>

#include "number_box.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

/// Words as wide as the editor, which they do not widen.
class Note : public QLabel {
 public:
  using QLabel::QLabel;
  QSize sizeHint() const override { return {kWidth, heightForWidth(kWidth)}; }

 private:
  static constexpr int kWidth = 300;
};

}  // namespace

PhraseEditor::PhraseEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply,
                           const QString& title, QWidget* parent)
    : QFrame(parent, Qt::Popup), brief_(brief), session_(std::move(session)), apply_(std::move(apply)) {
  setObjectName("popup");
  setAttribute(Qt::WA_DeleteOnClose);
  setAccessibleName(title);
  layout_ = new QVBoxLayout(this);
  layout_->setContentsMargins(12, 10, 12, 12);
  layout_->setSpacing(4);
  auto* heading = new QLabel(title, this);
  heading->setFont(Theme::strong());
  layout_->addWidget(heading);
}

void PhraseEditor::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
    close();
  else
    QFrame::keyPressEvent(event);
}

void PhraseEditor::note(const QString& words) {
  auto* label = new Note(words, this);
  label->setFont(Theme::caption());
  label->setWordWrap(true);
  layout_->addWidget(label);
}

std::vector<QWidget*> PhraseEditor::addFields(PhraseKind phrase) {
  std::vector<QWidget*> controls;
  for (const EditableField& field : editableFields()) {
    if (field.phrase != phrase) continue;
    QWidget* control = std::visit([&](const auto& kind) { return addControl(field, kind); }, field.control);
    controls.push_back(control);
    if (field.matters != nullptr) conditional_.emplace_back(control, field.matters);
    if (focusProxy() == nullptr)
      setFocusProxy(control->focusProxy() == nullptr ? control : control->focusProxy());
  }
  enableWhatMatters();
  return controls;
}

void PhraseEditor::applyField(const EditableField& field, const QString& merge) {
  enableWhatMatters();
  apply(tr(field.act), merge);
}

void PhraseEditor::enableWhatMatters() {
  for (const auto& [control, matters] : conditional_) control->setEnabled(matters(brief_));
}

QWidget* PhraseEditor::addControl(const EditableField& field, const EditableField::Flag& flag) {
  auto* box = new QCheckBox(tr(field.label), this);
  box->setChecked(flag.in(brief_));
  layout_->addWidget(box);
  connect(box, &QCheckBox::toggled, this, [this, &field, &flag](bool on) {
    flag.in(brief_) = on;
    applyField(field);
  });
  return box;
}

QWidget* PhraseEditor::addControl(const EditableField& field, const EditableField::Number& number) {
  auto* box = new NumberBox(this);
  box->setRange(number.range.least, number.range.most);
  box->setDecimals(number.range.decimals);
  box->setSuffix(*number.range.unit == '\0' ? QString() : QString(" %1").arg(number.range.unit));
  box->setValue(number.in(brief_));
  box->setAccessibleName(tr(field.label));
  box->setSingleStep(number.range.decimals > 1 ? 0.25 : 1);
  auto* row = new QHBoxLayout;
  row->addWidget(new QLabel(tr(field.label), this), 1);
  row->addWidget(box);
  layout_->addLayout(row);
  connect(box, &QDoubleSpinBox::valueChanged, this, [this, &field, &number](double value) {
    number.in(brief_) = value;
    applyField(field, field.key);
  });
  return box;
}

QWidget* PhraseEditor::addControl(const EditableField& field, const EditableField::Text& text) {
  auto* edit = new QLineEdit(app::text(text.in(brief_)), this);
  edit->setFont(Theme::mono());
  edit->setMinimumWidth(260);
  edit->setAccessibleName(tr(field.label));
  layout_->addWidget(edit);
  connect(edit, &QLineEdit::textEdited, this, [this, &field, &text](const QString& typed) {
    text.in(brief_) = typed.toStdString();
    applyField(field, field.key);
  });
  connect(edit, &QLineEdit::returnPressed, this, &QWidget::close);
  return edit;
}

QWidget* PhraseEditor::addControl(const EditableField& field, const EditableField::OneOf& choice) {
  auto* frame = new QWidget(this);
  frame->setAccessibleName(tr(field.label));
  auto* layout = new QVBoxLayout(frame);
  layout->setContentsMargins(0, 0, 0, 6);
  layout->setSpacing(4);
  auto* group = new QButtonGroup(frame);
  for (std::size_t option = 0; option < choice.options.size(); ++option) {
    auto* button = new QRadioButton(app::text(choice.options[option].label), frame);
    button->setChecked(choice.get(brief_) == option);
    button->setToolTip(app::text(choice.options[option].detail));
    group->addButton(button);
    layout->addWidget(button);
    if (button->isChecked()) frame->setFocusProxy(button);
    connect(button, &QRadioButton::toggled, this, [this, &field, &choice, option](bool on) {
      if (!on || choice.get(brief_) == option) return;
      choice.set(brief_, option);
      applyField(field);
    });
  }
  layout_->addWidget(frame);
  return frame;
}

}  // namespace octaphon::app
