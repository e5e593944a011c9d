#include "app/look/icons.h"

#include <QAbstractButton>
#include <QFile>
#include <QPainter>
#include <QSvgRenderer>

namespace octaphon::app {

QPixmap pixmap(const QString& name, Role role, int pixels) {
  constexpr int kScale = 2;
  QFile file(":/icons/" + name + ".svg");
  if (!file.open(QIODevice::ReadOnly)) return {};
  QSvgRenderer renderer(file.readAll().replace("currentColor", colour(role).name().toLatin1()));
  QPixmap drawn(pixels * kScale, pixels * kScale);
  drawn.fill(Qt::transparent);
  QPainter painter(&drawn);
  renderer.render(&painter);
  painter.end();
  drawn.setDevicePixelRatio(kScale);
  return drawn;
}

QIcon icon(const QString& name, Role role) {
  QIcon result(pixmap(name, role));
  result.addPixmap(pixmap(name, Role::Frame), QIcon::Disabled);
  return result;
}

void keepIcon(QAbstractButton* button, const QString& name) {
  button->setIcon(icon(name));
  QObject::connect(&Theme::instance(), &Theme::changed, button,
                   [button, name] { button->setIcon(icon(name)); });
}

}  // namespace octaphon::app
