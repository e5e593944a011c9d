// A line between the parts of the window.
#pragma once

#include <QPainter>
#include <QWidget>

#include "app/look/theme.h"

namespace octaphon::app {

class Hairline : public QWidget {
 public:
  explicit Hairline(QWidget* parent) : QWidget(parent) { setFixedHeight(1); }

 protected:
  void paintEvent(QPaintEvent*) override { QPainter(this).fillRect(rect(), colour(Role::Hairline)); }
};

}  // namespace octaphon::app
