#include "app/signal/curve_table.h"

#include <algorithm>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QVBoxLayout>

#include "app/look/numbers.h"
#include "app/signal/stage_page.h"
#include "app/work/text.h"
#include "base/frames.h"
#include "edit/inserts.h"

namespace octaphon::app {

constexpr int kNowRole = Qt::UserRole + 1;  // a target's value without a curve

CurveTable::CurveTable(Work& work, QWidget* parent)
    : QWidget(parent), work_(work), document_(work.document()) {
  target_ = new QComboBox(this);
  target_->setObjectName("curveTarget");
  target_->setAccessibleName(tr("Curve shown on the timeline"));
  target_->setToolTip(
      tr("Draw it on the track's lane: click adds a point, drag moves it, Alt+click takes it out"));
  target_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  target_->setMinimumContentsLength(12);
  points_ = new QTableWidget(0, 3, this);
  points_->setObjectName("curvePoints");
  points_->setAccessibleName(tr("Points of the curve"));
  points_->setHorizontalHeaderLabels({tr("Time"), tr("Value"), tr("Then")});
  points_->verticalHeader()->hide();
  points_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  points_->horizontalHeader()->setSectionResizeMode(2, QHeaderView::Stretch);
  points_->setMinimumSize(196, 60);
  addPoint_ = new QPushButton(tr("Point here"), this);
  addPoint_->setToolTip(tr("A point of the curve at the playhead, with its value of now"));
  removePoint_ = new QPushButton(tr("Take out"), this);
  removePoint_->setToolTip(tr("The points that are selected in the table"));
  removePoint_->setAccessibleName(tr("Take points out"));
  auto* buttons = new QHBoxLayout;
  buttons->addWidget(addPoint_);
  buttons->addWidget(removePoint_);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(target_);
  layout->addWidget(points_, 1);
  layout->addLayout(buttons);
  connect(target_, &QComboBox::activated, this, [this] {
    fillPoints();
    work_.drawn().setCurve(place_, target());
  });
  points_->installEventFilter(this);
  connect(points_, &QTableWidget::cellChanged, this, &CurveTable::editPoint);
  connect(addPoint_, &QPushButton::clicked, this, &CurveTable::addPointHere);
  connect(removePoint_, &QPushButton::clicked, this, &CurveTable::takePointsOut);
}

void CurveTable::setPlace(const std::string& place, std::shared_ptr<const PluginCatalogue> plugins) {
  place_ = place;
  plugins_ = std::move(plugins);
  fillTargets();
}

/// Delete takes the points out that are selected.
bool CurveTable::eventFilter(QObject* watched, QEvent* event) {
  if (watched != points_ || event->type() != QEvent::KeyPress) return false;
  if (static_cast<QKeyEvent*>(event)->key() != Qt::Key_Delete) return false;
  takePointsOut();
  return true;
}

const Automation* CurveTable::curve() const {
  return target().empty() ? nullptr : findCurve(*document_.session(), place_, target());
}

void CurveTable::addTarget(const QString& words, const std::string& target, double now) {
  const bool moves = findCurve(*document_.session(), place_, target) != nullptr;
  target_->addItem(moves ? words + tr(" (moves)") : words, text(target));
  target_->setItemData(target_->count() - 1, now, kNowRole);
}

void CurveTable::fillTargets() {
  const QString before = text(target());
  const Session& session = *document_.session();
  const Track* track = findTrack(session, place_);
  const QSignalBlocker blocker(target_);
  target_->clear();
  target_->addItem(tr("No curve"), QString());
  addTarget(tr("Volume"), "gain", track == nullptr ? session.main.gainDb : track->gainDb);
  if (track != nullptr) {
    addTarget(tr("Pan"), "pan", track->pan);
    addTarget(tr("Mute"), "mute", 0);
    for (const Send& send : track->sends)
      addTarget(tr("Send to %1").arg(sendTargetName(session, send.to)), "send:" + send.id, send.gainDb);
  }
  for (const Insert& insert : track == nullptr ? session.main.inserts : track->inserts)
    if (const EffectInfo* info = effectInfo(insert, plugins_.get()))
      for (const ParameterInfo& parameter : info->parameters)
        if (parameter.automatable)
          addTarget(text(insert.name.empty() ? info->name : insert.name) + ": " + text(parameter.name),
                    "insert:" + insert.id + ":" + parameter.key, valueOf(insert, parameter));
  const int same = target_->findData(before);
  target_->setCurrentIndex(std::max(0, same));
  if (same < 0 && !before.isEmpty()) work_.drawn().setCurve({}, {});
  fillPoints();
}

void CurveTable::fillPoints() {
  const QSignalBlocker blocker(points_);
  const Automation* shown = curve();
  points_->setRowCount(shown == nullptr ? 0 : static_cast<int>(shown->points.size()));
  addPoint_->setEnabled(!target().empty());
  removePoint_->setEnabled(shown != nullptr);
  const int rate = document_.session()->rate;
  for (int row = 0; row < points_->rowCount(); ++row) {
    const CurvePoint& point = shown->points[static_cast<std::size_t>(row)];
    auto* time = new QTableWidgetItem(text(timeText(point.at, rate)));
    time->setData(Qt::UserRole, static_cast<qlonglong>(point.at));
    time->setFlags(time->flags() & ~Qt::ItemIsEditable);
    points_->setItem(row, 0, time);
    points_->setItem(row, 1, new QTableWidgetItem(numberText(point.value, 2)));
    const QString then = point.segment == Segment::Linear ? tr("straight")
                         : point.segment == Segment::Hold ? tr("held")
                                                          : tr("curved %1").arg(numberText(point.bend, 2));
    points_->setItem(row, 2, new QTableWidgetItem(then));
  }
}

/// Typed values; `straight`, `held` or `curved` and a bend from −1 to 1 say how it goes on.
void CurveTable::editPoint(int row, int column) {
  const Automation* shown = curve();
  if (shown == nullptr) return;
  // By its time: the table may be a moment behind.
  const Frame at = points_->item(row, 0)->data(Qt::UserRole).toLongLong();
  const auto found = std::find_if(shown->points.begin(), shown->points.end(),
                                  [at](const CurvePoint& each) { return each.at == at; });
  if (found == shown->points.end()) return;
  CurvePoint point = *found;
  const QString typed = points_->item(row, column)->text().trimmed();
  bool understood = true;
  const auto numberIn = [&](const QString& words) {
    return QString(words).replace(',', '.').replace(kMinus, '-').toDouble(&understood);
  };
  if (column == 1) {
    const double value = numberIn(typed);
    if (understood) point.value = std::clamp(value, -kMaxParameter, kMaxParameter);
  } else if (column == 2) {
    const QString first = typed.section(' ', 0, 0).toLower();
    if (tr("straight").startsWith(first)) {
      point.segment = Segment::Linear;
    } else if (tr("held").startsWith(first)) {
      point.segment = Segment::Hold;
    } else if (first == "curved") {
      point.segment = Segment::Curve;
      const double bend = numberIn(typed.section(' ', 1));
      point.bend = understood ? std::clamp(bend, -1.0, 1.0) : 0.5;
      understood = true;
    } else {
      understood = false;
    }
  }
  if (understood)
    document_.edit(tr("Change a point"),
                   [&](Session& session) { setCurvePoint(session, place_, target(), point); });
  fillPoints();
}

void CurveTable::addPointHere() {
  if (target().empty()) return;
  const Automation* shown = curve();
  CurvePoint point;
  point.at = work_.transport().position();
  point.value = shown != nullptr ? valueAt(*shown, point.at) : target_->currentData(kNowRole).toDouble();
  document_.edit(tr("Set a point"),
                 [&](Session& session) { setCurvePoint(session, place_, target(), point); });
}

void CurveTable::takePointsOut() {
  std::vector<Frame> frames;
  for (const QModelIndex& index : points_->selectionModel()->selectedIndexes())
    frames.push_back(points_->item(index.row(), 0)->data(Qt::UserRole).toLongLong());
  document_.edit(tr("Take points out"), [&](Session& session) {
    for (const Frame frame : frames) removeCurvePoint(session, place_, target(), frame);
  });
}

}  // namespace octaphon::app
