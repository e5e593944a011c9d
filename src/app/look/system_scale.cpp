#include "app/look/system_scale.h"

#include <algorithm>
#include <cmath>
#include <QFontInfo>

namespace octaphon::app {
namespace {

constexpr double kUsualPixels = 10 * 96 / 72.0;
constexpr double kLargest = 3;
constexpr const char* kFactor = "QT_SCALE_FACTOR";

}  // namespace

double scaleForText(double pixels) {
  if (!std::isfinite(pixels)) return 1;
  return std::clamp(std::round(pixels / kUsualPixels * 4) / 4, 1.0, kLargest);
}

std::unique_ptr<QApplication> makeApplication(int& argc, char** argv) {
  auto application = std::make_unique<QApplication>(argc, argv);
  const double scale = scaleForText(QFontInfo(QApplication::font()).pixelSize());
  if (scale == 1) return application;
  // Only an application knows the desktop's font, and from then on its scale stands: it takes another one.
  const QByteArray before = qgetenv(kFactor);
  const double asked = before.toDouble();
  qputenv(kFactor, QByteArray::number(scale * (asked > 0 ? asked : 1)));
  application.reset();
  application = std::make_unique<QApplication>(argc, argv);
  // Programs that are started from here have it from the desktop themselves.
  if (before.isEmpty())
    qunsetenv(kFactor);
  else
    qputenv(kFactor, before);
  return application;
}

}  // namespace octaphon::app
