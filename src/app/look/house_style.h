// The style under the style sheet: Fusion, with our icons also where Qt brings its own, in file dialogs and
// questions.
#pragma once

#include <QProxyStyle>

namespace octaphon::app {

class HouseStyle : public QProxyStyle {
  Q_OBJECT
 public:
  HouseStyle() : QProxyStyle("Fusion") {}

  int styleHint(StyleHint hint, const QStyleOption* option, const QWidget* widget,
                QStyleHintReturn* returned) const override;
  QIcon standardIcon(StandardPixmap which, const QStyleOption* option, const QWidget* widget) const override;
  QPixmap standardPixmap(StandardPixmap which, const QStyleOption* option,
                         const QWidget* widget) const override;
  using QProxyStyle::polish;
  /// A file dialog that is not the desktop's shows whole names and dates.
  void polish(QWidget* widget) override;
};

}  // namespace octaphon::app
