// A phrase of a sentence as a button. A long one wraps: nothing of it is cut off.
#pragma once

#include <QPushButton>

namespace octaphon::app {

class PhraseButton : public QPushButton {
  Q_OBJECT
 public:
  explicit PhraseButton(QWidget* parent);

  void setWords(const QString& words);
  const QString& words() const { return words_; }

  QSize sizeHint() const override;  ///< in one line
  QSize minimumSizeHint() const override;
  int heightForWidth(int width) const override;

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  /// Height of the words, laid out in lines of a width; painted where there is a painter.
  double layOut(int width, QPainter* painter, const QPointF& at) const;
  QString words_;
};

}  // namespace octaphon::app
