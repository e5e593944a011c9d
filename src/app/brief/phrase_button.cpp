#include "app/brief/phrase_button.h"

#include <cmath>
#include <QStyleOptionButton>
#include <QStylePainter>
#include <QTextLayout>

#include "app/look/theme.h"

namespace octaphon::app {
namespace {

constexpr int kAcross = 2;  // px around the words, in all
constexpr int kDown = 4;

}  // namespace

PhraseButton::PhraseButton(QWidget* parent) : QPushButton(parent) {
  setObjectName("phrase");
  QFont strong = Theme::sentence();  // here, not in the style: it is measured before it is styled
  strong.setWeight(QFont::DemiBold);
  setFont(strong);
  setCursor(Qt::PointingHandCursor);
  setAutoDefault(true);
  QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Preferred);
  policy.setHeightForWidth(true);
  setSizePolicy(policy);
}

void PhraseButton::setWords(const QString& words) {
  if (words == words_) return;
  words_ = words;
  setText(QString(words).replace("&", "&&"));
  setAccessibleName(words);
  updateGeometry();
  update();
}

QSize PhraseButton::sizeHint() const {
  QTextLayout layout(words_, font());  // measured as it is drawn
  layout.beginLayout();
  layout.createLine().setNumColumns(static_cast<int>(words_.size()));
  layout.endLayout();
  const double width = words_.isEmpty() ? 0 : layout.lineAt(0).naturalTextWidth();
  return {static_cast<int>(std::ceil(width)) + kAcross + 1, QFontMetrics(font()).height() + kDown};
}

QSize PhraseButton::minimumSizeHint() const { return {20, QFontMetrics(font()).height() + kDown}; }

int PhraseButton::heightForWidth(int width) const {
  return static_cast<int>(std::ceil(layOut(width - kAcross, nullptr, {}))) + kDown;
}

double PhraseButton::layOut(int width, QPainter* painter, const QPointF& at) const {
  QTextLayout layout(words_, font());
  QTextOption option;
  option.setWrapMode(QTextOption::WrapAtWordBoundaryOrAnywhere);
  layout.setTextOption(option);
  layout.beginLayout();
  double height = 0;
  for (QTextLine line = layout.createLine(); line.isValid(); line = layout.createLine()) {
    line.setLineWidth(std::max(10, width));
    line.setPosition({0, height});
    height += std::ceil(line.height());
  }
  layout.endLayout();
  if (painter != nullptr) layout.draw(painter, at);
  return height;
}

void PhraseButton::paintEvent(QPaintEvent*) {
  QStylePainter painter(this);
  QStyleOptionButton option;
  initStyleOption(&option);
  option.text.clear();
  painter.drawControl(QStyle::CE_PushButton, option);
  const bool isWrong = property("wrong").toBool();
  const bool isChanged = property("changed").toBool();
  painter.setFont(font());
  painter.setPen(colour(isWrong ? Role::Fault : isChanged ? Role::Accent : Role::Ink));
  layOut(width() - kAcross, &painter, {kAcross / 2.0, 1});
}

}  // namespace octaphon::app
