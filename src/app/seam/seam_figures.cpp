#include "app/seam/seam_figures.h"

#include <algorithm>
#include <cmath>
#include <QPainter>
#include <QStringList>

#include "app/look/numbers.h"
#include "app/look/theme.h"

namespace octaphon::app {
namespace {

constexpr int kLine = 27, kGap = 14, kBarTop = 18, kBarHeight = 5;
constexpr int kPlaces = 4, kLeastWidth = 84;  // of one figure; else they stand in two lines
constexpr double kInOrder = 0.85;             // of a part's score
constexpr double kScale = 3;                  // times what is normal, at the right end

}  // namespace

SeamFigures::SeamFigures(QWidget* parent) : QWidget(parent) {
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  setAccessibleName(tr("Figures of the join"));
}

int SeamFigures::inLine() const { return width() < kPlaces * (kLeastWidth + kGap) ? kPlaces / 2 : kPlaces; }

void SeamFigures::resizeEvent(QResizeEvent*) { setFixedHeight(kLine * kPlaces / inLine()); }

void SeamFigures::show(const Seam* seam) {
  figures_.clear();
  // Nothing that is smaller than `least` is wrong with any sound.
  const auto add = [&](const QString& name, const QString& unit, double value, double range, double least,
                       double score) {
    const double most = std::max(range, least);
    figures_.push_back({name, numberText(value, 1) + " " + unit,
                        std::clamp(std::fabs(value) / (kScale * most), 0.0, 1.0), 1 / kScale,
                        score >= kInOrder});
  };
  if (seam != nullptr && seam->clickDb) {
    constexpr double kLeast = -24, kMost = 24;  // dB
    figures_.push_back({tr("click"), numberText(*seam->clickDb, 1) + " dB",
                        std::clamp((*seam->clickDb - kLeast) / (kMost - kLeast), 0.0, 1.0), 0.5,
                        seam->clickScore >= kInOrder});
  }
  if (seam != nullptr && seam->level) {
    add(tr("level"), "dB", seam->level->levelDb, seam->level->levelRangeDb, 1, seam->levelScore);
    add(tr("colour"), "dB", seam->level->spectrumDb, seam->level->spectrumRangeDb, 3, seam->spectrumScore);
  }
  if (const auto late = seam != nullptr ? seam->pulseMs() : std::nullopt)
    add(tr("beat"), "ms", *late, seam->pattern->lateRangeMs, 2, seam->rhythmScore);
  QStringList words;
  for (const Figure& figure : figures_)
    words << (figure.isWell ? tr("%1 %2, normal") : tr("%1 %2, out of range")).arg(figure.name, figure.value);
  setAccessibleDescription(words.join("; "));
  setToolTip(words.join("\n"));
  update();
}

void SeamFigures::paintOne(QPainter& painter, const Figure& figure, const QRectF& room) const {
  painter.setPen(colour(Role::SecondInk));
  painter.drawText(QRectF(room.left(), room.top(), room.width(), kBarTop - 2),
                   Qt::AlignLeft | Qt::AlignVCenter, figure.name);
  painter.setPen(colour(figure.isWell ? Role::Ink : Role::Fault));
  painter.drawText(QRectF(room.left(), room.top(), room.width(), kBarTop - 2),
                   Qt::AlignRight | Qt::AlignVCenter, figure.value);
  QColor normal = colour(Role::Good), beyond = colour(Role::Attention);
  normal.setAlpha(90);
  beyond.setAlpha(60);
  const double split = room.left() + room.width() * figure.normal;
  painter.fillRect(QRectF(room.left(), room.top() + kBarTop, split - room.left(), kBarHeight), normal);
  painter.fillRect(QRectF(split, room.top() + kBarTop, room.right() - split, kBarHeight), beyond);
  const double place = room.left() + std::clamp(figure.place * room.width(), 1.0, room.width() - 2);
  painter.fillRect(QRectF(std::round(place) - 1, room.top() + kBarTop - 2, 3, kBarHeight + 4),
                   colour(figure.isWell ? Role::Ink : Role::Fault));
}

void SeamFigures::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setFont(Theme::caption());
  const int inLine = this->inLine();
  const double each = (width() - (inLine - 1) * kGap) / static_cast<double>(inLine);
  for (int i = 0; i < static_cast<int>(figures_.size()); ++i)
    paintOne(painter, figures_[static_cast<std::size_t>(i)],
             QRectF(i % inLine * (each + kGap), i / inLine * kLine, each, kLine));
}

}  // namespace octaphon::app
