#include "app/delivery/tail_panel.h"

#include <algorithm>
#include <cmath>
#include <QPainter>
#include <QVBoxLayout>

#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/decibels.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

constexpr double kLowestDb = -100;
constexpr int kScaleWidth = 44;
constexpr int kTailTimesHeight = 18;

}  // namespace

TailPicture::TailPicture(QWidget* parent) : QWidget(parent) {
  setMinimumHeight(70);
  setAccessibleName(tr("Level over the tail"));
}

void TailPicture::show(std::shared_ptr<const TailLevels> levels, double tail, bool holdsThreshold) {
  levels_ = std::move(levels);
  tail_ = tail;
  holdsThreshold_ = holdsThreshold;
  setVisible(levels_ != nullptr);
  update();
}

QRectF TailPicture::area() const {
  return QRectF(kScaleWidth, 6, width() - kScaleWidth - 14, height() - 6 - kTailTimesHeight);
}

double TailPicture::shownSeconds() const {
  const double heard = static_cast<double>(levels_->heard) / levels_->rate;
  return std::max({0.5, heard, tail_ * 1.15});
}

/// Seconds after the span's end.
double TailPicture::xOf(double seconds) const {
  const double body = static_cast<double>(levels_->bodyCells) / 100;
  return area().left() + (seconds + body) / (body + shownSeconds()) * area().width();
}

double TailPicture::yOf(double decibels) const {
  return area().top() + std::clamp(decibels / kLowestDb, 0.0, 1.0) * area().height();
}

void TailPicture::paintScale(QPainter& painter) const {
  painter.setFont(Theme::caption());
  for (const int decibels : {0, -20, -40, -60, -80, -100}) {
    const double y = std::round(yOf(decibels)) + 0.5;
    painter.setPen(colour(Role::Hairline));
    painter.drawLine(QPointF(area().left(), y), QPointF(area().right(), y));
    painter.setPen(colour(Role::SecondInk));
    if (area().height() > 80 || decibels % 40 == 0)
      painter.drawText(QRectF(0, y - 8, kScaleWidth - 6, 16), Qt::AlignRight | Qt::AlignVCenter,
                       text(decibelText(decibels)).section('.', 0, 0));
  }
  const double seconds = shownSeconds();
  const double step = seconds > 20 ? 10 : seconds > 8 ? 2 : seconds > 3 ? 1 : seconds > 1.2 ? 0.5 : 0.25;
  for (double at = 0; at <= seconds + 1e-9; at += step)
    painter.drawText(QRectF(xOf(at) - 40, area().bottom() + 2, 80, kTailTimesHeight - 2), Qt::AlignCenter,
                     at == 0 ? tr("end of the span") : tr("+%1 s").arg(at));
}

void TailPicture::paintLevels(QPainter& painter) const {
  std::vector<QRectF> body, kept, rest;
  const double column = std::max(1.0, xOf(0.01) - xOf(0));
  for (std::size_t i = 0; i < levels_->cells.size(); ++i) {
    const double at = (static_cast<double>(i) - static_cast<double>(levels_->bodyCells)) / 100;
    const double y = yOf(decibelsOf(levels_->cells[i]));
    const QRectF bar = QRectF(xOf(at), y, column, area().bottom() - y) & area();
    (at < 0 ? body : tail_ < 0 || at < tail_ ? kept : rest).push_back(bar);
  }
  const auto fill = [&](const std::vector<QRectF>& bars, QColor ink, int strength) {
    ink.setAlpha(strength);
    painter.setPen(Qt::NoPen);
    painter.setBrush(ink);
    painter.drawRects(bars.data(), static_cast<int>(bars.size()));
  };
  fill(body, colour(Role::SecondInk), 150);
  fill(kept, colour(Role::Accent), 190);
  fill(rest, colour(Role::SecondInk), 60);
  painter.setBrush(Qt::NoBrush);
}

void TailPicture::paintThreshold(QPainter& painter) const {
  const double y = std::round(yOf(levels_->thresholdDb)) + 0.5;
  QPen pen(colour(holdsThreshold_ ? Role::Attention : Role::SecondInk), 1);
  pen.setDashPattern({6, 3});
  painter.setPen(pen);
  painter.drawLine(QPointF(area().left(), y), QPointF(area().right(), y));
  const QString words = tr("threshold %1 dBFS").arg(text(decibelText(levels_->thresholdDb)));
  painter.drawText(area().adjusted(0, y - area().top() - 16, -6, 0), Qt::AlignRight | Qt::AlignTop, words);
}

void TailPicture::paintCut(QPainter& painter) const {
  painter.setPen(QPen(colour(Role::Ink), 1));
  const double end = std::round(xOf(0)) + 0.5;
  painter.drawLine(QPointF(end, area().top()), QPointF(end, area().bottom()));
  if (tail_ < 0) return;
  const double cut = std::round(xOf(tail_)) + 0.5;
  painter.setPen(QPen(colour(Role::Ink), 2));
  painter.drawLine(QPointF(cut, area().top()), QPointF(cut, area().bottom()));
  const QString words = tr("file ends +%1 s").arg(tail_, 0, 'f', 3);
  const int advance = painter.fontMetrics().horizontalAdvance(words);
  const bool fits = cut + 6 + advance < area().right();
  painter.drawText(QPointF(fits ? cut + 6 : cut - 6 - advance, area().top() + 12), words);
}

void TailPicture::paintEvent(QPaintEvent*) {
  if (!levels_) return;
  QPainter painter(this);
  painter.fillRect(area(), colour(Role::Sheet));
  paintScale(painter);
  paintLevels(painter);
  paintThreshold(painter);
  paintCut(painter);
}

TailPanel::TailPanel(Work& work, QWidget* parent)
    : QWidget(parent),
      work_(work),
      title_(new QLabel(this)),
      words_(new QLabel(this)),
      picture_(new TailPicture(this)) {
  setObjectName("pane");
  title_->setFont(Theme::strong());
  words_->setWordWrap(true);
  words_->setMinimumHeight(words_->fontMetrics().height());
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 8, 14, 8);
  layout->setSpacing(4);
  layout->addWidget(title_);
  layout->addWidget(words_);
  layout->addWidget(picture_, 1);
  layout->addStretch();
  connect(&work_.tails(), &TailListener::changed, this, &TailPanel::reload);
  connect(&work_.rows(), &RowChoice::changed, this, &TailPanel::reload);
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, &TailPanel::reload);
  reload();
}

void TailPanel::showEvent(QShowEvent*) { work_.tails().setWanted(true); }
void TailPanel::hideEvent(QHideEvent*) { work_.tails().setWanted(false); }

void TailPanel::reload() {
  const auto index = work_.rows().currentRow();
  title_->setVisible(index.has_value());
  if (!index) {
    words_->setText(tr("Select a row of the sheet to see how its file ends"));
    return picture_->show(nullptr, -1, false);
  }
  const Sheet& sheet = *work_.sheets().sheet();
  const Row& row = sheet.rows[*index];
  title_->setText(text(printable(row.file, 200)));
  const QString& problem = work_.tails().problem();
  words_->setText(problem.isEmpty() ? text(sheet.endsText(row)) : problem);
  const bool isKnown = !row.isMeasured;
  const double tail = isKnown ? static_cast<double>(row.extent.tail) / row.rate : -1;
  picture_->show(work_.tails().levels(), tail, sheet.spanOf(row).ringsOut);
}

}  // namespace octaphon::app
