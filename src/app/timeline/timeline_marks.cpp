// Rulers, regions, markers, clip sets, and what is shown while something is dragged or proposed.
#include <cmath>
#include <QPainter>
#include <QPainterPath>

#include "app/look/theme.h"
#include "app/timeline/timeline_drawing.h"
#include "app/timeline/timeline_gestures.h"
#include "app/work/text.h"
#include "base/timecode.h"
#include "base/unicode.h"
#include "naming/file_name.h"

namespace octaphon::app {
namespace {

/// A step of 1, 2 or 5 times a power of ten that is at least `least`.
double niceStep(double least) {
  const double power = std::pow(10, std::floor(std::log10(least)));
  for (const double factor : {1.0, 2.0, 5.0})
    if (factor * power >= least) return factor * power;
  return 10 * power;
}

/// The same for times: seconds up to a minute in clock steps.
double timeStep(double least) {
  for (const double step : {1.0, 2.0, 5.0, 10.0, 15.0, 30.0, 60.0, 120.0, 300.0, 600.0, 1800.0, 3600.0})
    if (step >= least) return step;
  return least < 1 ? niceStep(least) : 3600 * niceStep(least / 3600);
}

QString timeLabel(double seconds, double step) {
  const auto minutes = static_cast<long>(seconds / 60 + 1e-9);
  const double rest = seconds - 60.0 * static_cast<double>(minutes);
  if (step >= 1) return QString("%1:%2").arg(minutes).arg(std::lround(rest), 2, 10, QChar('0'));
  const int decimals = step >= 0.1 ? 1 : step >= 0.01 ? 2 : 3;
  return QString("%1:%2").arg(minutes).arg(rest, decimals + 3, 'f', decimals, QChar('0'));
}

}  // namespace

void TimelineView::paintRulers(QPainter& painter) {
  painter.fillRect(0, 0, viewport()->width(), lanesTop(), colour(Role::Paper));
  painter.setFont(Theme::caption());
  painter.save();
  painter.setClipRect(kHeadWidth, 0, bodyWidth(), lanesTop());
  int top = 2;
  if (!model_->tempo().empty()) {
    paintBars(painter, top);
    top += kRulerRow;
  }
  paintTimes(painter, top);
  painter.restore();
  painter.setPen(colour(Role::Hairline));
  painter.drawLine(0, rulerHeight(), viewport()->width(), rulerHeight());
  painter.drawLine(0, lanesTop() - 1, viewport()->width(), lanesTop() - 1);
}

void TimelineView::paintBars(QPainter& painter, int top) {
  const TempoMap& tempo = model_->tempo();
  const long first = std::max(1L, tempo.positionAt(frameAt(kHeadWidth)).bar);
  const double width = (xOf(tempo.frameOfBar(first + 1)) - xOf(tempo.frameOfBar(first)));
  const long step = std::max(1L, static_cast<long>(niceStep(46 / std::max(width, 1e-6))));
  for (long bar = (first - 1) / step * step + 1;; bar += step) {
    const double x = xOf(tempo.frameOfBar(bar));
    if (x > viewport()->width()) break;
    painter.setPen(colour(Role::Hairline));
    painter.drawLine(QPointF(x, top), QPointF(x, top + kRulerRow));
    painter.setPen(colour(Role::SecondInk));
    painter.drawText(QRectF(x + 4, top, 80, kRulerRow), Qt::AlignVCenter, QString::number(bar));
  }
}

void TimelineView::paintTimes(QPainter& painter, int top) {
  const double rate = model_->session().rate;
  const double step = timeStep((work_.drawn().isTimecode() ? 86 : 58) * framesPerPixel_ / rate);
  for (double at = std::floor(left_ / rate / step) * step;; at += step) {
    const double x = kHeadWidth + (at * rate - left_) / framesPerPixel_;
    if (x > viewport()->width()) break;
    painter.setPen(colour(Role::Hairline));
    painter.drawLine(QPointF(x, top), QPointF(x, top + kRulerRow));
    painter.setPen(colour(Role::SecondInk));
    const Session& session = model_->session();
    const QString label =
        work_.drawn().isTimecode()
            ? text(timecodeText(
                  session.startPicture + pictureFrameAt(static_cast<Frame>(std::llround(at * rate)),
                                                        session.pictureRate, session.rate),
                  session.pictureRate))
            : timeLabel(at, step);
    painter.drawText(QRectF(x + 4, top, 90, kRulerRow), Qt::AlignVCenter, label);
  }
}

void TimelineView::paintRibbons(QPainter& painter) {
  painter.save();
  painter.setClipRect(kHeadWidth, rulerHeight() + 1, bodyWidth(), markersTop() - rulerHeight() - 2);
  std::vector<std::size_t> visible;
  model_->regionsIn(frameAt(kHeadWidth), frameAt(viewport()->width()) + 1,
                    [&](const IntervalIndex::Interval& found) { visible.push_back(found.item); });
  const auto isSelected = [&](std::size_t region) {
    return selected_.regions().contains(model_->session().regions[region].id);
  };
  double lastX[TimelineModel::kMostRegionLanes] = {-10, -10, -10};
  for (const std::size_t region : visible) {
    // Many regions on one pixel are one line.
    const QRectF box = ribbonOf(region);
    double& last = lastX[model_->regionLane(region)];
    if (box.right() < last + 1 && !isSelected(region)) continue;
    last = box.right();
    paintRibbon(painter, region);
  }
  for (const std::size_t region : visible)
    if (isSelected(region)) paintRibbon(painter, region);
  painter.restore();
}

void TimelineView::paintRibbon(QPainter& painter, std::size_t index) {
  const Region& region = model_->session().regions[index];
  const QRectF box = ribbonOf(index);
  const bool selected = selected_.regions().contains(region.id);
  const QColor ink = Theme::instance().trackInk(region.ink);
  if (box.width() < 4 && !selected) return painter.fillRect(box, faded(ink, 110));
  painter.fillRect(box, colour(Role::Sheet));
  painter.fillRect(box, faded(ink, selected ? 110 : 45));
  painter.fillRect(QRectF(box.left(), box.top(), 2, box.height()), selected ? colour(Role::Accent) : ink);
  if (selected) {
    painter.setPen(colour(Role::Accent));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5));
  }
  if (!region.notes.empty()) drawNoteCorner(painter, box);
  painter.setFont(Theme::caption());
  painter.setPen(colour(Role::Ink));
  const QRectF room = box.intersected(QRectF(kHeadWidth, 0, bodyWidth(), lanesTop())).adjusted(5, 0, -1, 0);
  if (room.width() < 14) return;
  const QFontMetrics metrics(painter.font());
  const int width = static_cast<int>(room.width());
  QString name = text(region.name);
  // The whole path, its last part, the number at its end, the beginning of the last part: what fits.
  if (metrics.horizontalAdvance(name) >= width) name = text(lastPart(region.name));
  const QString number = name.mid(name.lastIndexOf(' ') + 1);
  const bool isNumber =
      !number.isEmpty() && std::all_of(number.begin(), number.end(), [](QChar c) { return c.isDigit(); });
  if (metrics.horizontalAdvance(name) >= width && isNumber) name = number;
  if (metrics.horizontalAdvance(name) > width && width < 26) return;
  painter.drawText(room, Qt::AlignVCenter, metrics.elidedText(name, Qt::ElideRight, width));
}

void TimelineView::paintMarkers(QPainter& painter) {
  if (!model_->hasMarkers()) return;
  painter.save();
  painter.setClipRect(kHeadWidth, markersTop(), bodyWidth(), viewport()->height());
  painter.setPen(colour(Role::Hairline));
  painter.drawLine(kHeadWidth, markersTop() - 1, viewport()->width(), markersTop() - 1);
  painter.setFont(Theme::caption());
  double free = -1e9;  // where the next name has room
  const auto slack = static_cast<Frame>(150 * framesPerPixel_);
  model_->markersIn(frameAt(kHeadWidth) - slack, frameAt(viewport()->width()) + 1,
                    [&](const IntervalIndex::Interval& found) {
                      const Marker& marker = model_->marker(found.item);
                      const bool selected = selected_.markers().contains(marker.id);
                      const QRectF box = markerBox(found.item);
                      const double x = std::round(xOf(marker.at)) + 0.5;
                      painter.setPen(colour(selected ? Role::Accent : Role::SecondInk));
                      const bool isNamed = selected || box.left() >= free;
                      const int top = isNamed ? 3 : kMarkerRow - 5;  // below the name of another
                      painter.drawLine(QPointF(x, markersTop() + top),
                                       QPointF(x, markersTop() + kMarkerRow - 2));
                      if (selected)
                        painter.drawLine(QPointF(x, markersTop()), QPointF(x, viewport()->height()));
                      if (!isNamed) return;
                      free = box.right();
                      painter.fillRect(QRectF(x - 2.5, markersTop() + 3, 5, 5), painter.pen().color());
                      painter.drawText(box.adjusted(9, 0, 0, 0), Qt::AlignVCenter,
                                       painter.fontMetrics().elidedText(text(marker.name), Qt::ElideRight,
                                                                        static_cast<int>(box.width()) - 9));
                    });
  painter.restore();
}

/// A thread from clip to clip, with the name at the first.
void TimelineView::paintClipSets(QPainter& painter) {
  const auto& sets = model_->session().clipSets;
  if (sets.empty()) return;
  painter.save();
  painter.setClipRect(kHeadWidth, pinnedTop(), bodyWidth(), viewport()->height() - pinnedTop());
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setFont(Theme::caption());
  const Frame from = frameAt(kHeadWidth);
  const Frame to = frameAt(viewport()->width());
  for (std::size_t i = 0; i < sets.size(); ++i) {
    const TimeSpan extent = model_->extentOf(i);
    if (extent.end() < from || extent.start > to) continue;
    const bool selected = selected_.clipSets().contains(sets[i].id);
    const QColor ink = selected ? colour(Role::Accent) : Theme::instance().trackInk(sets[i].ink);
    QPainterPath path;
    QPointF before;
    for (const ClipSpot spot : model_->membersOf(i)) {
      const QRectF box = clipBox(spot);
      if (box.isNull()) continue;
      const QPointF knot(box.left() + std::min(5.0, box.width() / 2), box.center().y());
      if (path.elementCount() == 0)
        path.moveTo(knot);
      else
        path.cubicTo(QPointF(before.x(), knot.y()), QPointF(before.x(), knot.y()), knot);
      painter.setPen(Qt::NoPen);
      painter.setBrush(ink);
      painter.drawEllipse(knot, 2.5, 2.5);
      before = knot;
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(ink, selected ? 2 : 1, sets[i].mute ? Qt::DotLine : Qt::SolidLine));
    painter.drawPath(path);
    const QRectF tag = tagOf(i);
    if (tag.isNull()) continue;
    painter.fillRect(tag, colour(selected ? Role::Selection : Role::Sheet));
    painter.setPen(QPen(ink, 1));
    painter.drawRoundedRect(tag.adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
    painter.setPen(colour(Role::Ink));
    painter.drawText(tag.adjusted(5, 0, -3, 0), Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(text(lastPart(sets[i].name)), Qt::ElideMiddle,
                                                      static_cast<int>(tag.width()) - 8));
  }
  painter.restore();
}

void TimelineView::paintRange(QPainter& painter) {
  const TimeSpan span = gestures_->ghost().active && gestures_->ghost().hit.what == TimelineHit::What::Ruler
                            ? gestures_->ghost().span
                            : selected_.range().value_or(TimeSpan{});
  if (span.length == 0) return;
  painter.save();
  painter.setClipRect(kHeadWidth, 0, bodyWidth(), viewport()->height());
  const QRectF box(xOf(span.start), 0, xOf(span.end()) - xOf(span.start), viewport()->height());
  painter.fillRect(box, faded(colour(Role::Accent), 26));
  painter.setPen(colour(Role::Accent));
  painter.drawLine(box.topLeft(), box.bottomLeft());
  painter.drawLine(box.topRight(), box.bottomRight());
  painter.restore();
}

void TimelineView::paintProposals(QPainter& painter) {
  const auto& proposals = work_.drawn().proposals();
  if (proposals.empty()) return;
  painter.save();
  painter.setClipRect(kHeadWidth, rulerHeight(), bodyWidth(), viewport()->height());
  painter.setFont(Theme::caption());
  const QPen dashed(colour(Role::Accent), 1, Qt::DashLine);
  const double height = markersTop() - rulerHeight() - 6;
  double last = -10;
  for (const SpanProposal& proposal : proposals) {
    const QRectF box(xOf(proposal.span.start), rulerHeight() + 3,
                     xOf(proposal.span.end()) - xOf(proposal.span.start), height);
    if (box.right() < kHeadWidth || box.left() > viewport()->width() || box.right() < last + 1) continue;
    last = box.right();
    painter.fillRect(box, faded(colour(Role::Accent), 30));
    painter.setPen(dashed);
    painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5));
    painter.drawLine(box.bottomLeft(), QPointF(box.left(), viewport()->height()));
    painter.drawLine(box.bottomRight(), QPointF(box.right(), viewport()->height()));
    painter.setPen(colour(Role::Ink));
    if (box.width() > 24)
      painter.drawText(box.adjusted(4, 0, -2, 0), Qt::AlignVCenter,
                       painter.fontMetrics().elidedText(text(lastPart(proposal.name)), Qt::ElideRight,
                                                        static_cast<int>(box.width()) - 6));
  }
  painter.restore();
}

void TimelineView::paintGhost(QPainter& painter) {
  using What = TimelineHit::What;
  using Part = TimelineHit::Part;
  const TimelineGhost& ghost = gestures_->ghost();
  if (!ghost.active) return;
  painter.save();
  painter.setBrush(faded(colour(Role::Accent), 40));
  painter.setPen(QPen(colour(Role::Accent), 1, Qt::DashLine));
  if (ghost.hit.what == What::Head) {
    painter.setPen(QPen(colour(Role::Accent), 2));
    if (const Lane* lane = laneAtY(ghost.down)) painter.drawLine(0, laneY(*lane), kHeadWidth, laneY(*lane));
    return painter.restore();
  }
  painter.setClipRect(kHeadWidth, 0, bodyWidth(), viewport()->height());
  const double by = static_cast<double>(ghost.by) / framesPerPixel_;
  const auto sized = [&](QRectF box) {
    if (ghost.hit.part == Part::Body) return box.translated(by, ghost.down * TimelineModel::kTrackHeight);
    if (ghost.hit.part == Part::Start) box.setLeft(std::min(box.left() + by, box.right() - 1));
    if (ghost.hit.part == Part::End) box.setRight(std::max(box.right() + by, box.left() + 1));
    return box;
  };
  if (ghost.hit.what == What::Clip && (ghost.hit.part == Part::FadeIn || ghost.hit.part == Part::FadeOut)) {
    const ClipSpot spot{ghost.hit.track, ghost.hit.index};
    const Clip& clip = model_->clipAt(spot);
    const QRectF box = clipBox(spot);
    const bool in = ghost.hit.part == Part::FadeIn;
    const double top =
        (in ? xOf(clip.start + clip.fadeIn.length) : xOf(clip.end() - clip.fadeOut.length)) + by;
    painter.drawLine(QPointF(in ? box.left() : box.right(), box.bottom()), QPointF(top, box.top()));
  } else if (ghost.hit.what == What::Clip) {
    for (const Lane& lane : model_->lanes())
      model_->clipsIn(lane.track, frameAt(kHeadWidth), frameAt(viewport()->width()) + 1,
                      [&](const IntervalIndex::Interval& found) {
                        const ClipSpot spot{lane.track, found.item};
                        if (selected_.clips().contains(model_->clipAt(spot).id))
                          painter.drawRect(sized(clipBox(spot)));
                      });
  } else if (ghost.hit.what == What::Region) {
    for (std::size_t i = 0; i < model_->session().regions.size(); ++i) {
      const bool moves = ghost.hit.part == Part::Body
                             ? selected_.regions().contains(model_->session().regions[i].id)
                             : i == ghost.hit.index;
      if (moves) painter.drawRect(sized(ribbonOf(i)));
    }
  } else if (ghost.hit.what == What::Marker) {
    const double x = xOf(model_->marker(ghost.hit.index).at) + by;
    painter.drawLine(QPointF(x, markersTop()), QPointF(x, viewport()->height()));
  } else if (ghost.hit.what == What::RibbonRow) {
    painter.drawRect(QRectF(xOf(ghost.span.start), rulerHeight() + 3,
                            xOf(ghost.span.end()) - xOf(ghost.span.start), kRibbonRow - 4));
  } else {
    painter.drawRect(ghost.band);
  }
  painter.restore();
}

}  // namespace octaphon::app
