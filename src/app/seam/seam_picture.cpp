#include "app/seam/seam_picture.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "app/look/theme.h"

namespace octaphon::app {
namespace {

constexpr int kWordsHeight = 18;
constexpr int kLeastForBoth = 96;  // pixels of height, for words below it as well
constexpr std::array<double, 12> kZooms{0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000};

}  // namespace

SeamPicture::SeamPicture(QWidget* parent) : QWidget(parent) {
  setMinimumHeight(56);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setFocusPolicy(Qt::StrongFocus);
  setCursor(Qt::SizeHorCursor);
  setAccessibleName(tr("The join of the loop"));
  setToolTip(
      tr("Drag the left half to move the end, the right half to move the beginning. Left and Right: by "
         "a sample, with Shift to the next place near zero, with Ctrl by a beat. Return takes the place"));
}

void SeamPicture::show(std::shared_ptr<const HeardLoop> heard, LoopPlace place) {
  heard_ = std::move(heard);
  place_ = place;
  setAccessibleDescription(heard_ ? tr("From frame %1 on, %2 frames").arg(place.start).arg(place.length)
                                  : QString());
  update();
}

void SeamPicture::zoom(int steps) {
  const auto now = std::lower_bound(kZooms.begin(), kZooms.end() - 1, milliseconds_) - kZooms.begin();
  const auto last = static_cast<std::ptrdiff_t>(kZooms.size()) - 1;
  milliseconds_ = kZooms[static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(now + steps, 0, last))];
  update();
}

void SeamPicture::mousePressEvent(QMouseEvent* event) {
  grabbed_ = place_;
  grabbedAt_ = event->position();
}

void SeamPicture::mouseMoveEvent(QMouseEvent* event) {
  if (!heard_ || (event->buttons() & Qt::LeftButton) == 0) return;
  // The sound goes with the mouse: to the right, what is there was earlier.
  const double pixels = grabbedAt_.x() - event->position().x();
  const auto by =
      static_cast<Frame>(std::llround(pixels * static_cast<double>(2 * reach()) / area().width()));
  LoopPlace place = grabbed_;
  if (grabbedAt_.x() < area().center().x()) {
    place.length += by;
  } else {
    place.start += by;
    place.length -= by;
  }
  emit dragged(place);
}

void SeamPicture::wheelEvent(QWheelEvent* event) {
  if (event->angleDelta().y() != 0) zoom(event->angleDelta().y() > 0 ? -1 : 1);
  event->accept();
}

void SeamPicture::keyPressEvent(QKeyEvent* event) {
  const int key = event->key();
  if (key == Qt::Key_Left || key == Qt::Key_Right) {
    const Step step = event->modifiers().testFlag(Qt::ControlModifier) ? Step::Beat
                      : event->modifiers().testFlag(Qt::ShiftModifier) ? Step::Zero
                                                                       : Step::Sample;
    emit stepped(key == Qt::Key_Left ? -1 : 1, step);
  } else if (key == Qt::Key_Plus || key == Qt::Key_Minus) {
    zoom(key == Qt::Key_Plus ? -1 : 1);
  } else if (key == Qt::Key_Return || key == Qt::Key_Enter) {
    emit taken();
  } else {
    QWidget::keyPressEvent(event);
  }
}

QRectF SeamPicture::area() const {
  const int words = height() < kLeastForBoth ? kWordsHeight : 2 * kWordsHeight;
  return QRectF(0, kWordsHeight, width(), height() - words);
}

Frame SeamPicture::reach() const {
  return std::max<Frame>(4, framesOf(milliseconds_ / 1000, heard_->sound.rate));
}

double SeamPicture::at(Frame frame) const {
  double sum = 0;
  const std::size_t channels = heard_->sound.channels.size();
  for (std::size_t c = 0; c < channels; ++c) sum += static_cast<double>(heard_->at(c, frame));
  return sum / static_cast<double>(channels);
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
  // The reach stands at the edges, the words beside the join, as far as there is room.
  const QString left = tr("−%1 ms").arg(milliseconds_), right = tr("+%1 ms").arg(milliseconds_);
  const QFontMetricsF metrics(painter.font());
  const auto put = [&](const QRectF& place, int side, const QString& words) {
    painter.drawText(place, side | Qt::AlignVCenter,
                     metrics.elidedText(words, Qt::ElideRight, place.width()));
  };
  const double edge = metrics.horizontalAdvance(right) + 12, half = join - 8;
  const double below = room.bottom();
  painter.setPen(colour(Role::Accent));
  put({edge, 0, half - edge, kWordsHeight}, Qt::AlignRight, tr("runs into the end"));
  put({join + 8, 0, half - edge, kWordsHeight}, Qt::AlignLeft, tr("begins again"));
  painter.setPen(colour(Role::SecondInk));
  if (below + kWordsHeight <= height()) {
    put({0, below, half, kWordsHeight}, Qt::AlignRight, tr("dashed: what came before the start"));
    put({join + 8, below, half, kWordsHeight}, Qt::AlignLeft, tr("dashed: how it would have gone on"));
  }
  put({4, 0, edge, kWordsHeight}, Qt::AlignLeft, left);
  put({width() - 4 - edge, 0, edge, kWordsHeight}, Qt::AlignRight, right);
}

void SeamPicture::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.fillRect(area(), colour(Role::Sheet));
  if (hasFocus()) {
    painter.setPen(colour(Role::Accent));
    painter.drawRect(area().adjusted(0.5, 0.5, -0.5, -0.5));
  }
  if (!heard_) return;
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
