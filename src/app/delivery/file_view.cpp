#include "app/delivery/file_view.h"

#include <algorithm>
#include <cmath>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/decibels.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

constexpr double kLowestLufs = -60;
constexpr int kTimesHeight = 15;
constexpr int kSteps = 100;  // of the arrow keys over the whole file

QColor between(const QColor& low, const QColor& high, double part) {
  const auto mix = [part](int a, int b) { return static_cast<int>(std::lround(a + part * (b - a))); };
  return {mix(low.red(), high.red()), mix(low.green(), high.green()), mix(low.blue(), high.blue())};
}

QString loudestText(const FilePicture& picture) {
  if (picture.momentary.empty()) return QObject::tr("too short for loudness");
  const double loudest = *std::max_element(picture.momentary.begin(), picture.momentary.end());
  return std::isfinite(loudest) ? QObject::tr("at most %1 LUFS").arg(text(decibelText(loudest)))
                                : QObject::tr("silent");
}

}  // namespace

FileView::FileView(QWidget* parent) : QWidget(parent) {
  setMinimumHeight(42);
  setFocusPolicy(Qt::StrongFocus);
  setAccessibleName(tr("Wave and loudness of the file"));
  connect(&Theme::instance(), &Theme::changed, this, [this] {
    image_ = {};
    update();
  });
}

void FileView::show(std::shared_ptr<const FilePicture> picture,
                    std::shared_ptr<const Spectrogram> frequencies, bool showsFrequencies,
                    const QString& words) {
  picture_ = std::move(picture);
  if (frequencies_ != frequencies) image_ = {};
  frequencies_ = std::move(frequencies);
  showsFrequencies_ = showsFrequencies;
  words_ = words;
  describe();
  update();
}

/// In words, for who cannot see it.
void FileView::describe() {
  setAccessibleName(showsFrequencies_ ? tr("Frequencies of the file") : tr("Wave and loudness of the file"));
  if (!picture_) return setAccessibleDescription(words_);
  setAccessibleDescription(tr("%1 long, %2 over 400 ms; heard from %3")
                               .arg(text(timeText(picture_->frames, picture_->rate)), loudestText(*picture_),
                                    text(timeText(spot_, picture_->rate))));
}

Frame FileView::loudestFrame() const {
  if (!picture_ || picture_->columns.empty()) return 0;
  const auto reach = [](const WaveColumn& column) { return std::max(column.high, -column.low); };
  const auto most = std::max_element(picture_->columns.begin(), picture_->columns.end(),
                                     [&](const auto& a, const auto& b) { return reach(a) < reach(b); });
  return (most - picture_->columns.begin()) * picture_->frames / static_cast<Frame>(picture_->columns.size());
}

void FileView::setSpot(Frame frame) {
  spot_ = std::max<Frame>(0, frame);
  describe();
  update();
}

void FileView::moveSpot(Frame frame) {
  setSpot(std::clamp<Frame>(frame, 0, std::max<Frame>(0, frames() - 1)));
  emit spotChanged(spot_);
}

QRectF FileView::area() const { return QRectF(1, 1, width() - 2, height() - 2 - kTimesHeight); }

double FileView::xOf(Frame frame) const {
  return area().left() +
         area().width() * static_cast<double>(frame) / static_cast<double>(std::max<Frame>(1, frames()));
}

void FileView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.fillRect(area(), colour(Role::Sheet));
  const bool isThere = picture_ && (!showsFrequencies_ || frequencies_);
  if (!isThere) {
    painter.setPen(colour(Role::SecondInk));
    painter.drawText(area().adjusted(8, 4, -8, -4), Qt::AlignCenter | Qt::TextWordWrap, words_);
  } else if (showsFrequencies_) {
    paintFrequencies(painter);
  } else {
    paintWave(painter);
    paintLoudness(painter);
  }
  if (picture_) paintTimes(painter);
  painter.setPen(colour(hasFocus() ? Role::Accent : Role::Hairline));
  painter.drawRect(area().adjusted(0, 0, -1, -1));
}

void FileView::paintWave(QPainter& painter) const {
  const double middle = area().center().y(), half = area().height() / 2 - 2;
  painter.setPen(colour(Role::Hairline));
  painter.drawLine(QPointF(area().left(), middle), QPointF(area().right(), middle));
  QColor ink = colour(Role::SecondInk);
  ink.setAlpha(150);
  painter.setPen(ink);
  const auto& columns = picture_->columns;
  for (int x = 0; x < static_cast<int>(area().width()); ++x) {
    const auto at = [&](int pixel) {
      const auto index =
          static_cast<std::size_t>(pixel / area().width() * static_cast<double>(columns.size()));
      return std::min(index, columns.size() - 1);
    };
    WaveColumn here = columns[at(x)];
    for (std::size_t i = at(x); i < at(x + 1); ++i) {
      here.low = std::min(here.low, columns[i].low);
      here.high = std::max(here.high, columns[i].high);
    }
    const auto y = [&](float sample) { return middle - half * std::clamp(double{sample}, -1.0, 1.0); };
    painter.drawLine(QPointF(area().left() + x, y(here.high)), QPointF(area().left() + x, y(here.low)));
  }
}

void FileView::paintLoudness(QPainter& painter) const {
  QPolygonF line;
  const double step = picture_->rate / 10.0;
  for (std::size_t i = 0; i < picture_->momentary.size(); ++i) {
    const double lufs = std::max(kLowestLufs, picture_->momentary[i]);
    // In the middle of its stretch.
    line << QPointF(xOf(static_cast<Frame>((static_cast<double>(i) + 2) * step)),
                    area().top() + 2 + (area().height() - 4) * lufs / kLowestLufs);
  }
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(colour(Role::Accent), 1.5));
  if (line.size() > 1) painter.drawPolyline(line);
  painter.setRenderHint(QPainter::Antialiasing, false);
  painter.setFont(Theme::caption());
  painter.drawText(area().adjusted(4, 2, -4, -2), Qt::AlignRight | Qt::AlignTop, loudestText(*picture_));
}

void FileView::paintFrequencies(QPainter& painter) {
  const auto& picture = *frequencies_;
  if (image_.isNull()) {
    image_ = QImage(static_cast<int>(picture.columns), static_cast<int>(Spectrogram::kBands),
                    QImage::Format_RGB32);
    const QColor low = colour(Role::Sheet), middle = colour(Role::Accent), high = colour(Role::Ink);
    for (std::size_t column = 0; column < picture.columns; ++column)
      for (std::size_t band = 0; band < Spectrogram::kBands; ++band) {
        const double part = picture.levels[column * Spectrogram::kBands + band] / 255.0;
        const QColor ink =
            part < 0.6 ? between(low, middle, part / 0.6) : between(middle, high, (part - 0.6) / 0.4);
        image_.setPixelColor(static_cast<int>(column), static_cast<int>(Spectrogram::kBands - 1 - band), ink);
      }
  }
  painter.drawImage(area(), image_);
  painter.setFont(Theme::caption());
  for (const double hz : {100.0, 1000.0, 10000.0}) {
    const double top = picture.rate / 2.0;
    if (hz >= top) continue;
    const double part = std::log(hz / Spectrogram::kLowestHz) / std::log(top / Spectrogram::kLowestHz);
    const double y = area().bottom() - part * area().height();
    painter.setPen(colour(Role::SecondInk));
    painter.drawLine(QPointF(area().left(), y), QPointF(area().left() + 5, y));
    const QString words = hz < 1000 ? tr("%1 Hz").arg(hz) : tr("%1 kHz").arg(hz / 1000);
    const QRectF place(area().left() + 7, y - 7, painter.fontMetrics().horizontalAdvance(words) + 4, 14);
    painter.fillRect(place, colour(Role::Sheet));
    painter.setPen(colour(Role::Ink));
    painter.drawText(place, Qt::AlignCenter, words);
  }
}

void FileView::paintTimes(QPainter& painter) const {
  painter.setFont(Theme::caption());
  painter.setPen(colour(Role::SecondInk));
  const QRectF line(area().left(), area().bottom() + 1, area().width(), kTimesHeight);
  painter.drawText(line, Qt::AlignRight | Qt::AlignVCenter, text(timeText(picture_->frames, picture_->rate)));
  const double x = std::round(xOf(std::min(spot_, picture_->frames))) + 0.5;
  painter.setPen(QPen(colour(Role::Attention), 1));
  painter.drawLine(QPointF(x, area().top()), QPointF(x, area().bottom()));
  painter.setPen(colour(Role::Ink));
  painter.drawText(line, Qt::AlignLeft | Qt::AlignVCenter,
                   tr("from %1").arg(text(timeText(spot_, picture_->rate))));
}

void FileView::mousePressEvent(QMouseEvent* event) {
  if (!picture_ || event->button() != Qt::LeftButton) return QWidget::mousePressEvent(event);
  const double part = (event->position().x() - area().left()) / std::max(1.0, area().width());
  moveSpot(static_cast<Frame>(part * static_cast<double>(frames())));
}

void FileView::keyPressEvent(QKeyEvent* event) {
  const Frame step = std::max<Frame>(1, frames() / kSteps);
  switch (event->key()) {
    case Qt::Key_Left: return moveSpot(spot_ - step);
    case Qt::Key_Right: return moveSpot(spot_ + step);
    case Qt::Key_Home: return moveSpot(0);
    case Qt::Key_End: return moveSpot(frames());
    default: QWidget::keyPressEvent(event);
  }
}

bool FileView::event(QEvent* event) {
  if (event->type() == QEvent::FocusIn || event->type() == QEvent::FocusOut) update();
  return QWidget::event(event);
}

}  // namespace octaphon::app
