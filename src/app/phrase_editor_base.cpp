#include "phrase_editor_base.h"

#include <QKeyEvent>
#include <QLabel>

#include "number_box.h"
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

QDoubleSpinBox* PhraseEditor::number(double Brief::*member, double most, int decimals, const QString& suffix,
                                     const QString& name, const QString& words) {
  auto* box = new NumberBox(this);
  box->setRange(0, most);
  box->setDecimals(decimals);
  box->setSuffix(suffix);
  box->setValue(brief_.*member);
  box->setAccessibleName(name);
  box->setSingleStep(decimals > 1 ? 0.25 : 1);
  connect(box, &QDoubleSpinBox::valueChanged, this, [this, member, words](double value) {
    brief_.*member = value;
    apply(words, words);
  });
  return box;
}

}  // namespace octaphon::app
