// A field for a number, written as everywhere in the window: with a real minus sign. A hyphen can be typed as
// well.
#pragma once

#include <QDoubleSpinBox>

namespace octaphon::app {

class NumberBox : public QDoubleSpinBox {
 public:
  using QDoubleSpinBox::QDoubleSpinBox;

 protected:
  QString textFromValue(double value) const override;
  double valueFromText(const QString& words) const override;
  QValidator::State validate(QString& words, int& at) const override;
};

}  // namespace octaphon::app
