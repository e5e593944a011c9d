#include "app/look/system_scale.h"

#include <algorithm>
#include <cmath>
#include <QFontInfo>
#include <QGuiApplication>

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

void followTextSize(int& argc, char** argv) {
  double pixels = kUsualPixels;
  {
    // Only an application knows the desktop's font, and it fixes the scale: this one asks, and goes.
    const QGuiApplication probe(argc, argv);
    pixels = QFontInfo(QGuiApplication::font()).pixelSize();
  }
  const double asked = qEnvironmentVariable(kFactor, "1").toDouble();
  const double scale = scaleForText(pixels) * (asked > 0 ? asked : 1);
  if (scale != 1) qputenv(kFactor, QByteArray::number(scale));
}

}  // namespace octaphon::app
