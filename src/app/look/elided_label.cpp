#include "app/look/elided_label.h"

namespace octaphon::app {

void ElidedLabel::setWords(const QString& words) {
  words_ = words;
  setAccessibleName(words);
  fit();
}

QSize ElidedLabel::minimumSizeHint() const { return {40, QLabel::minimumSizeHint().height()}; }

void ElidedLabel::resizeEvent(QResizeEvent* event) {
  QLabel::resizeEvent(event);
  fit();
}

void ElidedLabel::fit() {
  const QString shown = fontMetrics().elidedText(words_, mode_, contentsRect().width());
  if (shown != text()) setText(shown);
  setToolTip(shown == words_ ? QString() : words_);
}

}  // namespace octaphon::app
