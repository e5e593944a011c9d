#include "app/look/number_box.h"

#include "app/look/numbers.h"

namespace octaphon::app {
namespace {

QString plain(QString words) { return words.replace(kMinus, '-'); }

}  // namespace

QString NumberBox::textFromValue(double value) const {
  return QDoubleSpinBox::textFromValue(value).replace('-', kMinus);
}

double NumberBox::valueFromText(const QString& words) const {
  return QDoubleSpinBox::valueFromText(plain(words));
}

QValidator::State NumberBox::validate(QString& words, int& at) const {
  QString typed = plain(words);
  return QDoubleSpinBox::validate(typed, at);
}

}  // namespace octaphon::app
