#include "app/signal/signal_line.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QPainter>
#include <QToolTip>

#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/decibels.h"
#include "routing/effect_info.h"
#include "routing/track_tree.h"

namespace octaphon::app {
namespace {

constexpr int kStep = 92;  // px from station to station
constexpr int kLeft = 14;
constexpr int kLineY = 46;
constexpr int kHeight = 92;

}  // namespace

SignalLine::SignalLine(QWidget* parent) : QWidget(parent) {
  setFocusPolicy(Qt::StrongFocus);
  setAccessibleName(tr("Signal line"));
  setFixedHeight(kHeight);
  connect(&Theme::instance(), &Theme::changed, this, [this] { update(); });
}

QSize SignalLine::sizeHint() const {
  return {kLeft * 2 + kStep * static_cast<int>(stations_.size()), kHeight};
}

QString SignalLine::stripName(Strip strip) const {
  return strip.isMain() ? tr("Main") : text(session_->tracks[strip.track()].name);
}

void SignalLine::show(std::shared_ptr<const Session> session, Strip strip, const Clip* clip,
                      const Brief* brief, const PluginCatalogue* plugins) {
  session_ = std::move(session);
  stations_.clear();
  if (clip != nullptr) {
    Station first;
    first.strip = strip;
    first.name = clip->name.empty() ? tr("a clip") : text(clip->name);
    first.detail = text(decibelText(clip->gainDb));
    stations_.push_back(first);
    addInserts(clip->inserts, strip, true, plugins);
  }
  const TrackTree tree(*session_);
  for (Strip up = strip; !up.isMain(); up = tree.parent(up)) addStrip(*session_, up, plugins);
  addStrip(*session_, Strip::main(), plugins);
  if (brief != nullptr && !strip.isMain()) markReach(*session_, strip, *brief);
  current_ = std::clamp(current_, 0, static_cast<int>(stations_.size()) - 1);
  setMinimumWidth(sizeHint().width());
  updateGeometry();
  ++revision_;
  update();
  emit currentChanged();
}

void SignalLine::addInserts(const std::vector<Insert>& inserts, Strip strip, bool isOfClip,
                            const PluginCatalogue* plugins) {
  for (std::size_t i = 0; i < inserts.size(); ++i) {
    Station station;
    station.what = Station::What::Insert;
    station.strip = strip;
    station.insert = i;
    station.isOfClip = isOfClip;
    const EffectInfo* info = effectInfo(inserts[i], plugins);
    station.name = text(!inserts[i].name.empty() ? inserts[i].name
                        : info != nullptr        ? info->name
                                                 : inserts[i].effect);
    QStringList tags;
    for (const std::string& tag : inserts[i].tags) tags << text(tag);
    station.detail = info == nullptr ? tr("not there") : !inserts[i].on ? tr("off") : tags.join(", ");
    station.isOn = inserts[i].on && info != nullptr;
    stations_.push_back(station);
  }
}

void SignalLine::addStrip(const Session& session, Strip strip, const PluginCatalogue* plugins) {
  const Track* track = strip.isMain() ? nullptr : &session.tracks[strip.track()];
  if (stations_.empty()) {
    Station clips;
    clips.strip = strip;
    clips.name = track == nullptr    ? tr("all of it")
                 : track->isGroup()  ? tr("what it sums")
                 : track->isReturn() ? tr("what is sent")
                                     : tr("clips");
    if (track != nullptr && track->invert) clips.detail = tr("turned over");
    stations_.push_back(clips);
  }
  addInserts(track == nullptr ? session.main.inserts : track->inserts, strip, false, plugins);
  Station fader;
  fader.what = Station::What::Fader;
  fader.strip = strip;
  fader.name = tr("fader");
  fader.detail = text(decibelText(track == nullptr ? session.main.gainDb : track->gainDb));
  if (track != nullptr && track->mute) fader.detail = tr("mute");
  if (track != nullptr && !track->sends.empty())
    fader.detail +=
        tr(", %1").arg(track->sends.size() == 1 ? tr("1 send") : tr("%1 sends").arg(track->sends.size()));
  stations_.push_back(fader);
}

/// What lies behind the reach is not heard.
void SignalLine::markReach(const Session& session, Strip strip, const Brief& brief) {
  const TrackTree tree(session);
  Strip last;
  Station::What stage = Station::What::Fader;
  const std::optional<Strip> group = tree.find(brief.heard.reach.group);
  const bool isInside = group && tree.isInside(strip, *group);
  switch (brief.heard.reach.stage) {
    case ReachStage::Clips: last = strip, stage = Station::What::Clips; break;
    case ReachStage::Inserts: last = strip, stage = Station::What::Insert; break;
    case ReachStage::Track: last = strip; break;
    case ReachStage::GroupInserts:
      last = isInside ? *group : strip, stage = isInside ? Station::What::Insert : stage;
      break;
    case ReachStage::Group: last = isInside ? *group : strip; break;
    case ReachStage::Groups: last = tree.outermost(strip); break;
    case ReachStage::MainInserts: stage = Station::What::Insert; break;
    case ReachStage::Main: break;
  }
  bool heard = true;
  for (Station& station : stations_) {
    const bool atLast = station.strip == last;
    const Station::What what = station.isOfClip ? Station::What::Clips : station.what;
    if (atLast && static_cast<int>(what) > static_cast<int>(stage)) heard = false;
    station.isHeard = heard;
    if (atLast && station.what == Station::What::Fader) heard = false;
  }
}

const Station* SignalLine::currentStation() const {
  return current_ >= 0 && current_ < static_cast<int>(stations_.size())
             ? &stations_[static_cast<std::size_t>(current_)]
             : nullptr;
}

void SignalLine::setCurrent(int index) {
  if (stations_.empty()) return;  // nothing is shown yet
  index = std::clamp(index, 0, static_cast<int>(stations_.size()) - 1);
  if (index == current_) return;
  current_ = index;
  const Station& station = stations_[static_cast<std::size_t>(index)];
  setAccessibleDescription(stripName(station.strip) + ": " + station.name + " " + station.detail);
  ++revision_;
  update();
  tellCurrentPart(this);
  emit currentChanged();
}

std::vector<PaintedPart> SignalLine::paintedParts() {
  std::vector<PaintedPart> parts;
  for (int i = 0; i < static_cast<int>(stations_.size()); ++i) {
    const Station& station = stations_[static_cast<std::size_t>(i)];
    PaintedPart part;
    part.key = QString::number(i);
    part.name = stripName(station.strip) + ": " + station.name;
    part.value = station.detail;
    if (!station.isHeard)
      part.value += (part.value.isEmpty() ? "" : ", ") + tr("behind the brief's reach, not heard");
    part.place = placeOf(i);
    part.isCurrent = part.isSelected = i == current_;
    part.isOff = !station.isOn;
    part.choose = [this, i] { setCurrent(i); };
    parts.push_back(std::move(part));
  }
  return parts;
}

QRect SignalLine::placeOf(int station) const { return {kLeft + station * kStep, 0, kStep, kHeight}; }

/// The middle of a station.
static double middleOf(int i) { return kLeft + i * kStep + kStep / 2.0; }

int SignalLine::lastHeard() const {
  int last = 0;
  for (int i = 0; i < static_cast<int>(stations_.size()); ++i)
    if (stations_[static_cast<std::size_t>(i)].isHeard) last = i;
  return last;
}

void SignalLine::paintEvent(QPaintEvent*) {
  if (session_ == nullptr) return;
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  paintLine(painter);
  for (int i = 0; i < static_cast<int>(stations_.size()); ++i) {
    if (i == current_) paintCurrent(painter);
    paintStripName(painter, i);
    paintStation(painter, i);
    paintLabel(painter, i);
  }
}

/// The way, heavy up to where it is taken off.
void SignalLine::paintLine(QPainter& painter) const {
  const int count = static_cast<int>(stations_.size());
  const double heard = middleOf(lastHeard());
  painter.setPen(QPen(colour(Role::Frame), 1));
  painter.drawLine(QPointF(middleOf(0), kLineY), QPointF(middleOf(count - 1), kLineY));
  painter.setPen(QPen(colour(Role::Accent), 3));
  painter.drawLine(QPointF(middleOf(0), kLineY), QPointF(heard, kLineY));
  if (lastHeard() < count - 1) {  // here it is taken off
    painter.drawLine(QPointF(heard + 22, kLineY), QPointF(heard, kLineY));
    painter.drawLine(QPointF(heard + 22, kLineY), QPointF(heard + 22, kLineY - 10));
  }
}

void SignalLine::paintCurrent(QPainter& painter) const {
  const QRect place = placeOf(current_);
  painter.setPen(Qt::NoPen);
  painter.setBrush(colour(Role::Selection));
  painter.drawRoundedRect(QRectF(place).adjusted(3, 20, -3, -2), 3, 3);
  if (hasFocus()) {
    painter.setPen(QPen(colour(Role::Accent), 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRoundedRect(QRectF(place).adjusted(3.5, 20.5, -3.5, -2.5), 3, 3);
  }
  const bool isBeforeTap = current_ < lastHeard();
  painter.setPen(QPen(colour(isBeforeTap ? Role::Accent : Role::Frame), isBeforeTap ? 3 : 1));
  painter.drawLine(QPointF(place.left() + 3, kLineY), QPointF(place.right() - 2, kLineY));
}

/// Over the first station of each strip.
void SignalLine::paintStripName(QPainter& painter, int i) const {
  const int count = static_cast<int>(stations_.size());
  const Station& station = stations_[static_cast<std::size_t>(i)];
  if (i > 0 && stations_[static_cast<std::size_t>(i) - 1].strip == station.strip) return;
  const int left = placeOf(i).left();
  painter.setFont(Theme::heading());
  painter.setPen(colour(Role::Ink));
  int span = 1;
  while (i + span < count &&
         stations_[static_cast<std::size_t>(i) + static_cast<std::size_t>(span)].strip == station.strip)
    ++span;
  const QRect over(left + 6, 2, span * kStep - 10, 16);
  painter.drawText(
      over, Qt::AlignVCenter | Qt::AlignLeft,
      QFontMetrics(painter.font()).elidedText(stripName(station.strip), Qt::ElideRight, over.width()));
  painter.setPen(QPen(colour(Role::Hairline), 1));
  if (i > 0) painter.drawLine(left, 4, left, kHeight - 4);
}

void SignalLine::paintStation(QPainter& painter, int i) const {
  const Station& station = stations_[static_cast<std::size_t>(i)];
  const QColor ink = colour(station.isHeard ? Role::Accent : Role::Frame);
  painter.setPen(QPen(ink, station.isOn ? 2 : 1, station.isOn ? Qt::SolidLine : Qt::DotLine));
  painter.setBrush(station.isOn ? colour(Role::Sheet) : colour(Role::Paper));
  const QPointF middle(middleOf(i), kLineY);
  if (station.what == Station::What::Insert)
    painter.drawRect(QRectF(middle.x() - 7, middle.y() - 7, 14, 14));
  else if (station.what == Station::What::Fader)
    painter.drawLine(QPointF(middle.x(), middle.y() - 9), QPointF(middle.x(), middle.y() + 9));
  else
    painter.drawEllipse(middle, 5, 5);
}

void SignalLine::paintLabel(QPainter& painter, int i) const {
  const Station& station = stations_[static_cast<std::size_t>(i)];
  const QRect place = placeOf(i);
  painter.setFont(Theme::body());
  painter.setPen(colour(station.isOn ? Role::Ink : Role::SecondInk));
  const QRect label(place.left() + 4, kLineY + 10, kStep - 8, 18);
  painter.drawText(label, Qt::AlignCenter,
                   QFontMetrics(painter.font()).elidedText(station.name, Qt::ElideRight, label.width()));
  painter.setFont(Theme::caption());
  painter.setPen(colour(Role::SecondInk));
  painter.drawText(label.translated(0, 16), Qt::AlignCenter,
                   QFontMetrics(painter.font()).elidedText(station.detail, Qt::ElideRight, label.width()));
}

void SignalLine::mousePressEvent(QMouseEvent* event) { setCurrent((event->pos().x() - kLeft) / kStep); }

void SignalLine::keyPressEvent(QKeyEvent* event) {
  const bool moves = (event->modifiers() & Qt::ControlModifier) != 0;
  switch (event->key()) {
    case Qt::Key_Left: return moves ? emit moveWanted(-1) : setCurrent(current_ - 1);
    case Qt::Key_Right: return moves ? emit moveWanted(1) : setCurrent(current_ + 1);
    case Qt::Key_Home: return setCurrent(0);
    case Qt::Key_End: return setCurrent(static_cast<int>(stations_.size()) - 1);
    case Qt::Key_Delete: return emit removeWanted();
    default: QWidget::keyPressEvent(event);
  }
}

void SignalLine::focusInEvent(QFocusEvent*) {
  update();
  tellCurrentPart(this);
}
void SignalLine::focusOutEvent(QFocusEvent*) { update(); }

bool SignalLine::event(QEvent* event) {
  if (event->type() ==
      QEvent::ShortcutOverride) {  // these are about the line here, and never about the track
    const auto* pressed = static_cast<QKeyEvent*>(event);
    const bool arrow = pressed->key() == Qt::Key_Left || pressed->key() == Qt::Key_Right;
    if (pressed->key() == Qt::Key_Delete || (arrow && (pressed->modifiers() & Qt::ControlModifier) != 0))
      event->accept();
  }
  if (event->type() != QEvent::ToolTip) return QWidget::event(event);
  const auto* help = static_cast<QHelpEvent*>(event);
  const int index = (help->pos().x() - kLeft) / kStep;
  if (index < 0 || index >= static_cast<int>(stations_.size())) return QWidget::event(event);
  const Station& station = stations_[static_cast<std::size_t>(index)];
  QToolTip::showText(help->globalPos(),
                     stripName(station.strip) + ": " + station.name +
                         (station.isHeard ? "" : tr("\nbehind the brief's reach, not heard")));
  return true;
}

}  // namespace octaphon::app
