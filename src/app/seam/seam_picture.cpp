#include "app/seam/seam_picture.h"

#include <algorithm>
#include <cmath>
#include <QPainter>
#include <QPainterPath>

#include "app/look/theme.h"

namespace octaphon::app {
namespace {

constexpr int kWordsHeight = 18;

}  // namespace

SeamPicture::SeamPicture(QWidget* parent) : QWidget(parent) {
  setMinimumHeight(90);
  setAccessibleName(tr("The join of the loop"));
}

void SeamPicture::show(std::shared_ptr<const RegionSeam> seam, LoopPlace place) {
  seam_ = std::move(seam);
  place_ = place;
  update();
}

void SeamPicture::setMilliseconds(double milliseconds) {
  milliseconds_ = milliseconds;
  update();
}

QRectF SeamPicture::area() const { return QRectF(0, kWordsHeight, width(), height() - 2 * kWordsHeight); }

Frame SeamPicture::reach() const {
  return std::max<Frame>(8, framesOf(milliseconds_ / 1000, seam_->sound.rate));
}

double SeamPicture::at(Frame frame) const {
  const Frame inside = frame - seam_->first;
  if (inside < 0 || inside >= seam_->sound.frames()) return 0;
  double sum = 0;
  for (const auto& channel : seam_->sound.channels)
    sum += static_cast<double>(channel[static_cast<std::size_t>(inside)]);
  return sum / static_cast<double>(seam_->sound.channels.size());
}

double SeamPicture::loudest() const {
  double peak = 1e-4;
  for (Frame offset = -reach(); offset < reach(); ++offset)
    peak = std::max({peak, std::fabs(inLoop(offset)), std::fabs(beside(offset))});
  return peak;
}

/// Sample by sample where there is room; else the least and the most of each column.
void SeamPicture::paintLine(QPainter& painter, bool isLoop, double peak) const {
  const QRectF room = area();
  const double perFrame = room.width() / static_cast<double>(2 * reach());
  const auto yOf = [&](double value) { return room.center().y() - value / peak * room.height() * 0.48; };
  QPainterPath path;
  for (Frame offset = -reach(); offset < reach();) {
    const auto count = static_cast<Frame>(std::max(1.0, std::floor(1 / perFrame)));
    double least = 2e9, most = -2e9;
    for (Frame i = offset; i < std::min(offset + count, reach()); ++i) {
      const double value = isLoop ? inLoop(i) : beside(i);
      least = std::min(least, value);
      most = std::max(most, value);
    }
    const double x = room.left() + (static_cast<double>(offset + reach()) + 0.5) * perFrame;
    if (offset == -reach())
      path.moveTo(x, yOf(most));
    else
      path.lineTo(x, yOf(most));
    if (count > 1) path.lineTo(x, yOf(least));
    offset += count;
  }
  painter.setPen(QPen(colour(isLoop ? Role::Accent : Role::SecondInk), isLoop ? 1.6 : 1,
                      isLoop ? Qt::SolidLine : Qt::DashLine));
  painter.drawPath(path);
}

void SeamPicture::paintPart(QPainter& painter, double peak) const {
  const QRectF room = area();
  const double perFrame = room.width() / static_cast<double>(2 * reach());
  QColor shade = colour(Role::Attention);
  shade.setAlpha(70);
  const double middle = room.center().y();
  for (double x = room.left(); x < room.right(); x += 1) {
    const auto from = static_cast<Frame>((x - room.left()) / perFrame) - reach();
    const auto to = std::max(from + 1, static_cast<Frame>((x + 1 - room.left()) / perFrame) - reach());
    double apart = 0, high = 0, low = 0;
    for (Frame i = from; i < to; ++i) {
      const double a = inLoop(i), b = beside(i);
      if (std::fabs(a - b) > apart) apart = std::fabs(a - b), high = std::max(a, b), low = std::min(a, b);
    }
    if (apart < peak * 0.005) continue;
    painter.fillRect(
        QRectF(x, middle - high / peak * room.height() * 0.48, 1, (high - low) / peak * room.height() * 0.48),
        shade);
  }
}

void SeamPicture::paintWords(QPainter& painter) const {
  painter.setFont(Theme::caption());
  const QRectF room = area();
  const double join = std::round(room.center().x()) + 0.5;
  painter.setPen(QPen(colour(Role::Ink), 1));
  painter.drawLine(QPointF(join, room.top()), QPointF(join, room.bottom()));
  painter.setPen(colour(Role::Accent));
  painter.drawText(QRectF(0, 0, join - 8, kWordsHeight), Qt::AlignRight | Qt::AlignVCenter,
                   tr("runs into the end"));
  painter.drawText(QRectF(join + 8, 0, join, kWordsHeight), Qt::AlignLeft | Qt::AlignVCenter,
                   tr("begins again"));
  painter.setPen(colour(Role::SecondInk));
  const QRectF below(0, room.bottom(), width(), kWordsHeight);
  painter.drawText(below.adjusted(0, 0, -join - 8, 0), Qt::AlignRight | Qt::AlignVCenter,
                   tr("dashed: what came before the start"));
  painter.drawText(below.adjusted(join + 8, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter,
                   tr("dashed: how it would have gone on"));
  painter.drawText(QRectF(4, 0, width(), kWordsHeight), Qt::AlignLeft | Qt::AlignVCenter,
                   tr("−%1 ms").arg(milliseconds_));
  painter.drawText(QRectF(0, 0, width() - 4, kWordsHeight), Qt::AlignRight | Qt::AlignVCenter,
                   tr("+%1 ms").arg(milliseconds_));
}

void SeamPicture::paintEvent(QPaintEvent*) {
  if (!seam_) return;
  QPainter painter(this);
  painter.fillRect(area(), colour(Role::Sheet));
  const double peak = loudest();
  painter.setPen(colour(Role::Hairline));
  painter.drawLine(QPointF(area().left(), area().center().y()), QPointF(area().right(), area().center().y()));
  paintPart(painter, peak);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setClipRect(area());
  paintLine(painter, false, peak);
  paintLine(painter, true, peak);
  painter.setClipping(false);
  painter.setRenderHint(QPainter::Antialiasing, false);
  paintWords(painter);
}

}  // namespace octaphon::app
