#include "signal_panel.h"

#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QHeaderView>

#include "base/decibels.h"
#include "edit/inserts.h"
#include "effect_search.h"
#include "routing/signal_order.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

int decimalsOf(const ParameterInfo& info) {
  const double range = info.most - info.least;
  return range > 1000 ? 0 : range > 20 ? 1 : range > 2 ? 2 : 4;
}

QString shown(const ParameterInfo& info, double value) { return QString::number(value, 'f', decimalsOf(info)); }

}  // namespace

SignalPanel::SignalPanel(Document& document, Selected& selected, QWidget* parent)
    : QWidget(parent), document_(document), selected_(selected) {
  setObjectName("pane");
  line_ = new SignalLine(this);
  lineArea_ = new QScrollArea(this);
  lineArea_->setWidget(line_);
  lineArea_->setWidgetResizable(true);
  lineArea_->setFixedHeight(line_->height() + 14);
  lineArea_->setFocusPolicy(Qt::NoFocus);
  lineArea_->setAccessibleName(tr("Signal line, scrolled"));
  lineArea_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  title_ = new QLabel(this);
  title_->setFont(Theme::strong());
  title_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);  // the panes beside it keep their room
  const auto button = [&](const QString& words, const QString& tip) {
    auto* made = new QPushButton(words, this);
    made->setToolTip(tip);
    return made;
  };
  add_ = button(tr("Add effect …"), tr("Behind the chosen stage: a built-in effect or a plug-in"));
  remove_ = button(tr("Take out"), tr("Delete on the line does the same"));
  onOff_ = button(tr("Off"), tr("Off: the sound passes as it is"));
  pageArea_ = new QScrollArea(this);
  pageArea_->setWidgetResizable(true);
  pageArea_->setFocusPolicy(Qt::NoFocus);
  pageArea_->setAccessibleName(tr("What the stage does"));
  target_ = new QComboBox(this);
  target_->setObjectName("curveTarget");
  target_->setAccessibleName(tr("Curve shown on the timeline"));
  target_->setToolTip(tr("Draw it on the track's lane: click adds a point, drag moves it, Alt+click takes it out"));
  points_ = new QTableWidget(0, 3, this);
  points_->setObjectName("curvePoints");
  points_->setAccessibleName(tr("Points of the curve"));
  points_->setHorizontalHeaderLabels({tr("Time"), tr("Value"), tr("Then")});
  points_->verticalHeader()->hide();
  points_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
  points_->setMinimumHeight(60);
  points_->setMinimumWidth(120);
  addPoint_ = button(tr("Point here"), tr("A point of the curve at the playhead, with its value of now"));
  removePoint_ = button(tr("Take point out"), tr("The points that are selected in the table"));

  auto* heading = new QHBoxLayout;
  heading->addWidget(title_, 1);
  heading->addWidget(onOff_);
  heading->addWidget(remove_);
  heading->addWidget(add_);
  auto* left = new QVBoxLayout;
  left->addLayout(heading);
  left->addWidget(pageArea_, 1);
  auto* right = new QVBoxLayout;
  right->addWidget(target_);
  right->addWidget(points_, 1);
  auto* pointButtons = new QHBoxLayout;
  pointButtons->addWidget(addPoint_);
  pointButtons->addWidget(removePoint_);
  right->addLayout(pointButtons);
  auto* below = new QHBoxLayout;
  below->setSpacing(14);
  below->addLayout(left, 3);
  below->addLayout(right, 2);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 6, 14, 8);
  layout->setSpacing(6);
  layout->addWidget(lineArea_);
  layout->addLayout(below, 1);

  timer_.setSingleShot(true);
  timer_.setInterval(20);
  connect(&timer_, &QTimer::timeout, this, &SignalPanel::reload);
  const auto later = [this] { timer_.start(); };
  connect(&document_, &Document::changed, this, later);
  connect(&document_, &Document::opened, this, [this] {
    built_.clear();
    timer_.start();
  });
  connect(&selected_, &Selected::changed, this, later);
  connect(line_, &SignalLine::currentChanged, this, &SignalPanel::stationChanged);
  connect(line_, &SignalLine::moveWanted, this, [this](int by) {
    const std::string id = insertId();
    if (id.empty()) return;
    bool moved = false;
    edit(tr("Move an insert"), [&](Session& session) { moved = moveInsert(session, id, by); });
    if (moved) line_->setCurrent(line_->current() + by);
  });
  const auto takeOut = [this] {
    if (const std::string id = insertId(); !id.empty())
      edit(tr("Take an insert out"), [id](Session& session) { removeInsert(session, id); });
  };
  connect(line_, &SignalLine::removeWanted, this, takeOut);
  connect(remove_, &QPushButton::clicked, this, takeOut);
  connect(add_, &QPushButton::clicked, this, &SignalPanel::openSearch);
  connect(onOff_, &QPushButton::clicked, this, [this] {
    if (const std::string id = insertId(); !id.empty())
      edit(tr("Switch an insert"), [id](Session& session) {
        if (Insert* insert = findInsert(session, id)) insert->on = !insert->on;
      });
  });
  connect(target_, &QComboBox::activated, this, [this] {
    fillPoints();
    emit curveShown(text(place()), curveTarget());
  });
  connect(points_, &QTableWidget::cellChanged, this, &SignalPanel::editPoint);
  connect(addPoint_, &QPushButton::clicked, this, [this] {
    const std::string at = place(), target = curveTarget().toStdString();
    if (target.empty()) return;
    const Automation* curve = findCurve(*document_.session(), at, target);
    CurvePoint point;
    point.at = playhead_;
    point.value = curve != nullptr ? valueAt(*curve, playhead_) : target_->currentData(Qt::UserRole + 1).toDouble();
    edit(tr("Set a point"), [&](Session& session) { setCurvePoint(session, at, target, point); });
  });
  connect(removePoint_, &QPushButton::clicked, this, [this] {
    const std::string at = place(), target = curveTarget().toStdString();
    std::vector<Frame> frames;
    for (const QModelIndex& index : points_->selectionModel()->selectedIndexes())
      frames.push_back(points_->item(index.row(), 0)->data(Qt::UserRole).toLongLong());
    edit(tr("Take points out"), [&](Session& session) {
      for (const Frame frame : frames) removeCurvePoint(session, at, target, frame);
    });
  });
}

SignalPanel::~SignalPanel() = default;

void SignalPanel::showEvent(QShowEvent*) { timer_.start(); }

void SignalPanel::setBrief(std::size_t brief) {
  brief_ = brief;
  timer_.start();
}

void SignalPanel::setSource(const QString& track) {
  source_ = track;
  timer_.start();
}

void SignalPanel::setPlugins(std::shared_ptr<const PluginCatalogue> plugins) {
  if (plugins_ == plugins) return;
  plugins_ = std::move(plugins);
  built_.clear();
  timer_.start();
}

int SignalPanel::strip() const {
  const TrackTree tree(*document_.session());
  if (!selected_.tracks().empty())
    for (const int track : tree.order())
      if (selected_.tracks().contains(document_.session()->tracks[static_cast<std::size_t>(track)].id)) return track;
  if (const Clip* shown = clip())
    for (std::size_t t = 0; t < document_.session()->tracks.size(); ++t)
      for (const Clip& other : document_.session()->tracks[t].clips)
        if (&other == shown) return static_cast<int>(t);
  return tree.find(source_.toStdString());
}

const Clip* SignalPanel::clip() const {
  if (selected_.clips().size() != 1 || !selected_.tracks().empty()) return nullptr;
  for (const Track& track : document_.session()->tracks)
    for (const Clip& one : track.clips)
      if (selected_.clips().contains(one.id)) return &one;
  return nullptr;
}

std::string SignalPanel::chainPlace() const {
  const Station* station = line_->currentStation();
  const Clip* shown = clip();
  const bool onClip = shown != nullptr && station != nullptr && (station->isOfClip || station->what == Station::What::Clips);
  return onClip ? std::string(kClipPlace) + shown->id : place();
}

std::string SignalPanel::place() const {
  const Station* station = line_->currentStation();
  return station == nullptr || station->strip < 0
             ? std::string(kMainPlace)
             : document_.session()->tracks[static_cast<std::size_t>(station->strip)].id;
}

std::string SignalPanel::insertId() const {
  const Station* station = line_->currentStation();
  if (station == nullptr || station->what != Station::What::Insert) return {};
  const Session& session = *document_.session();
  if (station->isOfClip) {
    const Clip* shown = clip();
    return shown != nullptr && station->insert < shown->inserts.size() ? shown->inserts[station->insert].id : std::string();
  }
  const auto& inserts =
      station->strip < 0 ? session.main.inserts : session.tracks[static_cast<std::size_t>(station->strip)].inserts;
  return station->insert < inserts.size() ? inserts[station->insert].id : std::string();
}

void SignalPanel::edit(const QString& words, const Document::Change& change, const QString& merge) {
  document_.edit(words, change, merge);
}

void SignalPanel::reload() {
  if (!isVisible()) return;
  const Session& session = *document_.session();
  line_->show(document_.session(), strip(), clip(), brief_ < session.briefs.size() ? &session.briefs[brief_] : nullptr,
              plugins_.get());
}

void SignalPanel::stationChanged() {
  const Station* station = line_->currentStation();
  if (station == nullptr) return;
  const std::string id = insertId();
  const Session& session = *document_.session();
  const QString strip =
      station->strip < 0 ? tr("Main") : text(session.tracks[static_cast<std::size_t>(station->strip)].name);
  title_->setText(strip + ": " + station->name);
  remove_->setEnabled(!id.empty());
  onOff_->setEnabled(!id.empty());
  onOff_->setText(station->detail == tr("off") ? tr("On") : tr("Off"));
  const std::string wanted = place() + "/" + (id.empty() ? "fader" : id) + "/" +
                             (station->strip < 0 ? std::string()
                                                 : std::to_string(session.tracks[static_cast<std::size_t>(station->strip)].sends.size()));
  if (wanted != built_) {
    built_ = wanted;
    refreshers_.clear();
    if (id.empty())
      buildFader();
    else
      buildInsert(id);
  }
  loading_ = true;
  for (const auto& refresh : refreshers_) refresh();
  loading_ = false;
  fillTargets();
  lineArea_->ensureVisible(line_->placeOf(line_->current()).center().x(), 0, 60, 0);
}

QWidget* SignalPanel::freshPage() {
  auto* page = new QWidget(pageArea_);
  page->setObjectName("pane");
  pageArea_->setWidget(page);
  return page;
}

void SignalPanel::buildInsert(const std::string& id) {
  QWidget* page = freshPage();
  auto* grid = new QGridLayout(page);
  grid->setContentsMargins(0, 2, 0, 2);
  grid->setHorizontalSpacing(10);
  grid->setVerticalSpacing(4);
  Session copy = *document_.session();
  const Insert* insert = findInsert(copy, id);
  const EffectInfo* info = insert == nullptr ? nullptr : effectInfo(*insert, plugins_.get());
  auto* tags = new QLineEdit(page);
  tags->setAccessibleName(tr("Tags"));
  tags->setPlaceholderText(tr("sound, mix, …"));
  tags->setToolTip(tr("sound: it belongs to the sound itself; mix: to the mix around it. A brief can hear some tags only"));
  grid->addWidget(new QLabel(tr("Tags"), page), 0, 0);
  grid->addWidget(tags, 0, 1);
  connect(tags, &QLineEdit::editingFinished, this, [this, tags, id] {
    std::vector<std::string> words;
    for (const QString& tag : tags->text().split(',', Qt::SkipEmptyParts))
      if (!tag.trimmed().isEmpty()) words.push_back(tag.trimmed().toStdString());
    edit(tr("Tag an insert"), [&](Session& session) {
      if (Insert* found = findInsert(session, id)) found->tags = words;
    });
  });
  refreshers_.push_back([this, tags, id] {
    if (tags->hasFocus()) return;
    Session& session = const_cast<Session&>(*document_.session());
    QStringList words;
    if (const Insert* found = findInsert(session, id))
      for (const std::string& tag : found->tags) words << text(tag);
    tags->setText(words.join(", "));
  });
  if (info == nullptr) {
    const std::string why = insert == nullptr || plugins_ == nullptr ? std::string() : plugins_->problemOf(*insert);
    auto* words = new QLabel(why.empty() ? tr("It is being looked at …") : text(why), page);
    words->setWordWrap(true);
    grid->addWidget(words, 1, 0, 1, 4);
  } else {
    addPresets(page, grid, id, *info);
    for (std::size_t p = 0; p < info->parameters.size(); ++p)
      addParameter(page, grid, static_cast<int>(p), *insert, info->parameters[p]);
  }
  grid->setColumnStretch(1, 1);
  grid->setColumnStretch(3, 1);
  grid->setRowStretch(grid->rowCount(), 1);
}

/// Settings that come with a plug-in. The list says what was chosen last, not what is there: values move on.
void SignalPanel::addPresets(QWidget* page, QGridLayout* grid, const std::string& id, const EffectInfo& info) {
  if (info.presets.empty()) return;
  auto* box = new QComboBox(page);
  box->setObjectName("presets");
  box->setAccessibleName(tr("Presets"));
  box->addItem(tr("Take a preset …"));
  for (const EffectPreset& preset : info.presets) box->addItem(text(preset.name));
  grid->addWidget(new QLabel(tr("Preset"), page), 0, 2);
  grid->addWidget(box, 0, 3);
  connect(box, &QComboBox::activated, this, [this, id, presets = info.presets](int index) {
    if (index == 0) return;
    const EffectPreset& preset = presets[static_cast<std::size_t>(index - 1)];
    edit(tr("Take the preset %1").arg(text(preset.name)), [&](Session& session) {
      if (Insert* insert = findInsert(session, id)) insert->values = preset.values, insert->state = preset.state;
    });
  });
}

void SignalPanel::addParameter(QWidget* page, QGridLayout* grid, int index, const Insert& insert,
                               const ParameterInfo& info) {
  const std::string id = insert.id;
  const QString name = text(info.name);
  const auto set = [this, id, key = info.key, name](double value) {
    if (loading_) return;
    edit(tr("Change %1").arg(name), [&](Session& session) {
      if (Insert* found = findInsert(session, id)) found->values[key] = value;
    }, text("signal/" + id + "/" + key));
  };
  const auto now = [this, id, info] {
    const Insert* found = findInsert(const_cast<Session&>(*document_.session()), id);
    return found == nullptr ? info.usual : valueOf(*found, info);
  };
  QWidget* field = nullptr;
  if (info.scale == Scale::Switch) {
    auto* box = new QCheckBox(page);
    connect(box, &QCheckBox::toggled, this, [set](bool on) { set(on ? 1 : 0); });
    refreshers_.push_back([box, now] { box->setChecked(now() > 0.5); });
    field = box;
  } else if (info.scale == Scale::Choice) {
    auto* box = new QComboBox(page);
    for (const std::string& choice : info.choices) box->addItem(text(choice));
    connect(box, &QComboBox::activated, this, [set](int choice) { set(choice); });
    refreshers_.push_back([box, now] { box->setCurrentIndex(static_cast<int>(now())); });
    field = box;
  } else {
    auto* box = new QDoubleSpinBox(page);
    box->setRange(info.least, info.most);
    box->setDecimals(decimalsOf(info));
    if (!info.unit.empty()) box->setSuffix(" " + text(info.unit));
    box->setKeyboardTracking(false);
    if (info.scale == Scale::Ratio)
      box->setStepType(QAbstractSpinBox::AdaptiveDecimalStepType);
    else
      box->setSingleStep((info.most - info.least) / 96);
    box->setToolTip(tr("%1 to %2, usually %3").arg(shown(info, info.least), shown(info, info.most), shown(info, info.usual)));
    connect(box, &QDoubleSpinBox::valueChanged, this, set);
    refreshers_.push_back([box, now] { box->setValue(now()); });
    field = box;
  }
  field->setAccessibleName(name);
  auto* label = new QLabel(name, page);
  const int row = 1 + index / 2, column = index % 2 * 2;
  grid->addWidget(label, row, column);
  grid->addWidget(field, row, column + 1);
}

void SignalPanel::buildFader() {
  QWidget* page = freshPage();
  auto* layout = new QVBoxLayout(page);
  layout->setContentsMargins(0, 2, 0, 2);
  layout->setSpacing(6);
  const std::string at = place();
  auto* row = new QHBoxLayout;
  const auto number = [&](const QString& name, double least, double most, int decimals, const QString& unit,
                          const std::function<double&(Session&)>& member) {
    auto* box = new QDoubleSpinBox(page);
    box->setRange(least, most);
    box->setDecimals(decimals);
    box->setSuffix(unit);
    box->setSingleStep(decimals == 1 ? 0.5 : 0.05);
    box->setKeyboardTracking(false);
    box->setAccessibleName(name);
    row->addWidget(new QLabel(name, page));
    row->addWidget(box);
    connect(box, &QDoubleSpinBox::valueChanged, this, [this, member, name, at](double value) {
      if (!loading_) edit(tr("Change %1").arg(name), [&](Session& session) { member(session) = value; }, text("signal/" + at) + name);
    });
    refreshers_.push_back([this, box, member] { box->setValue(member(const_cast<Session&>(*document_.session()))); });
  };
  const auto track = [at](Session& session) -> Track* {
    for (Track& t : session.tracks)
      if (t.id == at) return &t;
    return nullptr;
  };
  if (at == kMainPlace) {
    number(tr("Fader"), kSilenceDb, kMaxGainDb, 1, " dB", [](Session& session) -> double& { return session.main.gainDb; });
    row->addStretch();
    layout->addLayout(row);
    layout->addStretch();
    return;
  }
  number(tr("Fader"), kSilenceDb, kMaxGainDb, 1, " dB", [track](Session& session) -> double& { return track(session)->gainDb; });
  number(tr("Pan"), -1, 1, 2, "", [track](Session& session) -> double& { return track(session)->pan; });
  for (const auto& [name, member] : {std::pair{tr("Mute"), &Track::mute}, {tr("Turned over"), &Track::invert}}) {
    auto* box = new QCheckBox(name, page);
    box->setAccessibleName(name);
    row->addWidget(box);
    connect(box, &QCheckBox::clicked, this, [this, track, member = member, name = name](bool on) {
      edit(name, [&](Session& session) { track(session)->*member = on; });
    });
    refreshers_.push_back([this, box, track, member = member] {
      box->setChecked(track(const_cast<Session&>(*document_.session()))->*member);
    });
  }
  row->addStretch();
  layout->addLayout(row);
  addSendRows(layout);
  layout->addStretch();
}

/// The sends of the track, and a field for one more.
void SignalPanel::addSendRows(QVBoxLayout* layout) {
  QWidget* page = layout->parentWidget();
  const std::string at = place();
  const Session& session = *document_.session();
  const auto nameOf = [&](const std::string& id) -> QString {
    for (const Track& track : session.tracks) {
      if (track.id == id) return text(track.name);
      for (const Insert& insert : track.inserts)
        if (insert.id == id) return tr("key of %1 on %2").arg(text(insert.name.empty() ? insert.effect : insert.name), text(track.name));
    }
    for (const Insert& insert : session.main.inserts)
      if (insert.id == id) return tr("key of %1 on main").arg(text(insert.name.empty() ? insert.effect : insert.name));
    return text(id);
  };
  const auto found = std::find_if(session.tracks.begin(), session.tracks.end(), [&](const Track& t) { return t.id == at; });
  if (found == session.tracks.end()) return;
  for (const Send& send : found->sends) {
    auto* row = new QHBoxLayout;
    const QString to = nameOf(send.to);
    auto* level = new QDoubleSpinBox(page);
    level->setRange(kSilenceDb, kMaxGainDb);
    level->setDecimals(1);
    level->setSuffix(" dB");
    level->setKeyboardTracking(false);
    level->setAccessibleName(tr("Level of the send to %1").arg(to));
    auto* pre = new QCheckBox(tr("before the fader"), page);
    pre->setAccessibleName(tr("Send to %1 before the fader").arg(to));
    auto* on = new QCheckBox(tr("to %1").arg(to), page);
    on->setAccessibleName(tr("Send to %1 is on").arg(to));
    auto* out = new QPushButton(tr("Take out"), page);
    out->setAccessibleName(tr("Take the send to %1 out").arg(to));
    for (QWidget* widget : {static_cast<QWidget*>(on), static_cast<QWidget*>(level), static_cast<QWidget*>(pre), static_cast<QWidget*>(out)})
      row->addWidget(widget);
    row->setStretch(0, 1);
    layout->addLayout(row);
    const std::string id = send.id;
    const auto change = [this, id](const QString& words, const std::function<void(Send&)>& set, const QString& merge = {}) {
      edit(words, [&](Session& s) {
        if (Send* it = findSend(s, id)) set(*it);
      }, merge);
    };
    connect(level, &QDoubleSpinBox::valueChanged, this, [this, change, id](double value) {
      if (!loading_) change(tr("Change a send"), [value](Send& s) { s.gainDb = value; }, text("send/" + id));
    });
    connect(pre, &QCheckBox::clicked, this, [change](bool checked) { change(tr("Change a send"), [checked](Send& s) { s.preFader = checked; }); });
    connect(on, &QCheckBox::clicked, this, [change](bool checked) { change(tr("Switch a send"), [checked](Send& s) { s.on = checked; }); });
    connect(out, &QPushButton::clicked, this, [this, id] {
      edit(tr("Take a send out"), [id](Session& s) { removeSend(s, id); });
    });
    refreshers_.push_back([this, id, level, pre, on] {
      const Send* it = findSend(const_cast<Session&>(*document_.session()), id);
      if (it == nullptr) return;
      level->setValue(it->gainDb);
      pre->setChecked(it->preFader);
      on->setChecked(it->on);
    });
  }
  auto* more = new QComboBox(page);
  more->setObjectName("newSend");
  more->setAccessibleName(tr("Send to"));
  more->addItem(tr("Send to …"));
  for (const Track& track : session.tracks)
    if (track.isReturn() && track.id != at) more->addItem(text(track.name), text(track.id));
  const auto addKeys = [&](const std::vector<Insert>& inserts) {
    for (const Insert& insert : inserts)
      if (const EffectInfo* info = effectInfo(insert, plugins_.get()); info != nullptr && info->hasKey)
        more->addItem(nameOf(insert.id), text(insert.id));
  };
  for (const Track& track : session.tracks) addKeys(track.inserts);
  addKeys(session.main.inserts);
  layout->addWidget(more, 0, Qt::AlignLeft);
  connect(more, &QComboBox::activated, this, [this, more, at](int index) {
    if (index == 0) return;
    const std::string to = more->itemData(index).toString().toStdString();
    more->setCurrentIndex(0);
    QString why;
    edit(tr("Send to %1").arg(more->itemText(index)), [&](Session& s) {
      if (const auto made = addSend(s, at, to); !made) why = text(made.error().describe());
    });
    if (!why.isEmpty()) emit problem(why);
  });
}

QString SignalPanel::curveTarget() const { return target_->currentData().toString(); }

/// What can move here. The one that is shown stays.
void SignalPanel::fillTargets() {
  const QString before = curveTarget();
  const Session& session = *document_.session();
  const std::string at = place();
  const auto* track = at == kMainPlace ? nullptr : [&]() -> const Track* {
    for (const Track& t : session.tracks)
      if (t.id == at) return &t;
    return nullptr;
  }();
  const QSignalBlocker blocker(target_);
  target_->clear();
  target_->addItem(tr("No curve"), QString());
  const auto add = [&](const QString& words, const std::string& target, double now) {
    const bool moves = findCurve(session, at, target) != nullptr;
    target_->addItem(moves ? words + tr(" (moves)") : words, text(target));
    target_->setItemData(target_->count() - 1, now, Qt::UserRole + 1);
  };
  add(tr("Volume"), "gain", track == nullptr ? session.main.gainDb : track->gainDb);
  if (track != nullptr) {
    add(tr("Pan"), "pan", track->pan);
    add(tr("Mute"), "mute", 0);
    for (const Send& send : track->sends) add(tr("Send %1").arg(text(send.to)), "send:" + send.id, send.gainDb);
  }
  for (const Insert& insert : track == nullptr ? session.main.inserts : track->inserts)
    if (const EffectInfo* info = effectInfo(insert, plugins_.get()))
      for (const ParameterInfo& parameter : info->parameters)
        if (parameter.automatable)
          add(text(insert.name.empty() ? info->name : insert.name) + ": " + text(parameter.name),
              "insert:" + insert.id + ":" + parameter.key, valueOf(insert, parameter));
  const int same = target_->findData(before);
  target_->setCurrentIndex(std::max(0, same));
  if (same < 0 && !before.isEmpty()) emit curveShown({}, {});
  fillPoints();
}

void SignalPanel::fillPoints() {
  const QSignalBlocker blocker(points_);
  const std::string target = curveTarget().toStdString();
  const Automation* curve = target.empty() ? nullptr : findCurve(*document_.session(), place(), target);
  points_->setRowCount(curve == nullptr ? 0 : static_cast<int>(curve->points.size()));
  addPoint_->setEnabled(!target.empty());
  removePoint_->setEnabled(curve != nullptr);
  const int rate = document_.session()->rate;
  for (int row = 0; row < points_->rowCount(); ++row) {
    const CurvePoint& point = curve->points[static_cast<std::size_t>(row)];
    auto* time = new QTableWidgetItem(text(timeText(point.at, rate)));
    time->setData(Qt::UserRole, static_cast<qlonglong>(point.at));
    time->setFlags(time->flags() & ~Qt::ItemIsEditable);
    points_->setItem(row, 0, time);
    points_->setItem(row, 1, new QTableWidgetItem(QString::number(point.value, 'f', 2)));
    const QString then = point.segment == Segment::Linear ? tr("straight")
                         : point.segment == Segment::Hold ? tr("held")
                                                          : tr("curved %1").arg(point.bend, 0, 'f', 2);
    points_->setItem(row, 2, new QTableWidgetItem(then));
  }
}

/// Typed values; `straight`, `held` or `curved` and a bend from −1 to 1 say how it goes on.
void SignalPanel::editPoint(int row, int column) {
  const std::string at = place(), target = curveTarget().toStdString();
  const Automation* curve = findCurve(*document_.session(), at, target);
  if (curve == nullptr || row >= static_cast<int>(curve->points.size())) return;
  CurvePoint point = curve->points[static_cast<std::size_t>(row)];
  const QString typed = points_->item(row, column)->text().trimmed();
  bool understood = true;
  if (column == 1) {
    const double value = QString(typed).replace(',', '.').replace(QChar(0x2212), '-').toDouble(&understood);
    if (understood) point.value = std::clamp(value, -kMaxParameter, kMaxParameter);
  } else if (column == 2) {
    const QString first = typed.section(' ', 0, 0).toLower();
    if (tr("straight").startsWith(first)) point.segment = Segment::Linear;
    else if (tr("held").startsWith(first)) point.segment = Segment::Hold;
    else if (first == "curved") {
      point.segment = Segment::Curve;
      const double bend = typed.section(' ', 1).replace(QChar(0x2212), '-').toDouble(&understood);
      point.bend = understood ? std::clamp(bend, -1.0, 1.0) : 0.5;
      understood = true;
    } else
      understood = false;
  }
  if (understood) edit(tr("Change a point"), [&](Session& session) { setCurvePoint(session, at, target, point); });
  fillPoints();
}

void SignalPanel::addEffect(const QString& effect) {
  const Station* station = line_->currentStation();
  if (station == nullptr) return;
  const std::string at = chainPlace();
  const std::size_t before = station->what == Station::What::Insert  ? station->insert + 1
                             : station->what == Station::What::Clips ? 0
                                                                     : SIZE_MAX;
  std::string made;
  edit(tr("Add an effect"), [&](Session& session) { made = addInsert(session, at, effect.toStdString(), before); });
  if (made.empty()) return emit problem(tr("Nothing can be put here: the track is locked, or its chain is full"));
  reload();
  for (int i = 0; i < static_cast<int>(line_->stations().size()); ++i) {
    line_->setCurrent(i);
    if (insertId() == made) break;
  }
  line_->setFocus();
}

void SignalPanel::openSearch() {
  if (!installedKnown_) installed_ = installedPlugins();
  installedKnown_ = true;
  auto* search = new EffectSearch(installed_, [this](const QString& effect) { addEffect(effect); }, this);
  const QPoint at = add_->mapToGlobal(QPoint(add_->width() - search->width(), add_->height() + 4));
  search->move(std::max(4, at.x()), std::max(4, at.y() - std::max(0, at.y() + search->height() - 780)));
  search->show();
  search->focusProxy()->setFocus();
}

}  // namespace octaphon::app
