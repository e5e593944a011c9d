// A label for words of any length: what has no room is left out, and stands in the tip.
#pragma once

#include <QLabel>

namespace octaphon::app {

class ElidedLabel : public QLabel {
 public:
  explicit ElidedLabel(QWidget* parent, Qt::TextElideMode mode = Qt::ElideMiddle)
      : QLabel(parent), mode_(mode) {
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  }
  void setWords(const QString& words);
  QSize minimumSizeHint() const override;

 protected:
  void resizeEvent(QResizeEvent* event) override;

 private:
  void fit();
  QString words_;
  Qt::TextElideMode mode_;
};

}  // namespace octaphon::app
