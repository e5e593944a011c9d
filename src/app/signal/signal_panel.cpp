#include "app/signal/signal_panel.h"

#include <QHBoxLayout>

#include "app/look/first_focus.h"
#include "app/look/icons.h"
#include "app/look/theme.h"
#include "app/signal/effect_search.h"
#include "app/work/text.h"
#include "edit/inserts.h"
#include "routing/signal_order.h"

namespace octaphon::app {

SignalPanel::SignalPanel(Work& work, QWidget* parent)
    : QWidget(parent), work_(work), document_(work.document()), selected_(work.selected()) {
  setObjectName("pane");
  makeControls();
  layOut();
  connectControls();
}

void SignalPanel::makeControls() {
  line_ = new SignalLine(this);
  lineArea_ = new QScrollArea(this);
  lineArea_->setWidget(line_);
  lineArea_->setWidgetResizable(true);
  lineArea_->setFixedHeight(line_->height() + 14);
  lineArea_->setFocusPolicy(Qt::NoFocus);
  lineArea_->setAccessibleName(tr("Signal line, scrolled"));
  lineArea_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  title_ = new ElidedLabel(this, Qt::ElideRight);
  title_->setFont(Theme::strong());
  const auto button = [&](const QString& words, const QString& tip) {
    auto* made = new QPushButton(words, this);
    made->setToolTip(tip);
    return made;
  };
  add_ = button(tr("Add effect …"), tr("Behind the chosen stage: a built-in effect or a plug-in"));
  remove_ = button({}, tr("Takes the insert out, as Delete on the line does"));
  keepIcon(remove_, "remove");
  remove_->setAccessibleName(tr("Take the insert out"));
  onOff_ = button(tr("Off"), tr("Off: the sound passes as it is"));
  pageArea_ = new QScrollArea(this);
  pageArea_->setWidgetResizable(true);
  pageArea_->setFocusPolicy(Qt::NoFocus);
  pageArea_->setAccessibleName(tr("What the stage does"));
  curves_ = new CurveTable(work_, this);
  setFirstFocus(this, line_);
}

void SignalPanel::layOut() {
  auto* heading = new QHBoxLayout;
  heading->addWidget(title_, 1);
  heading->addWidget(onOff_);
  heading->addWidget(remove_);
  heading->addWidget(add_);
  auto* left = new QVBoxLayout;
  left->addLayout(heading);
  left->addWidget(pageArea_, 1);
  auto* below = new QHBoxLayout;
  below->setSpacing(14);
  below->addLayout(left, 2);
  below->addWidget(curves_, 1);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 6, 14, 8);
  layout->setSpacing(6);
  layout->addWidget(lineArea_);
  layout->addLayout(below, 1);
}

void SignalPanel::connectControls() {
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
  connect(&work_.briefs(), &BriefChoice::changed, this, later);
  connect(&work_.rows(), &RowChoice::changed, this, &SignalPanel::followRow);
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, [this] {
    followPlugins();
    followRow();
  });
  connect(line_, &SignalLine::currentChanged, this, &SignalPanel::stationChanged);
  connect(line_, &SignalLine::moveWanted, this, [this](int by) {
    const std::string id = insertId();
    if (id.empty()) return;
    bool moved = false;
    edit(tr("Move an insert"), [&](Session& session) { moved = moveInsert(session, id, by); });
    if (!moved) return;
    reload();  // places are those of the session that is shown
    line_->setCurrent(line_->current() + by);
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
}

SignalPanel::~SignalPanel() = default;

void SignalPanel::showEvent(QShowEvent*) { timer_.start(); }

/// What the current row is taken from is shown where no track is selected.
void SignalPanel::followRow() {
  const auto row = work_.rows().currentRow();
  if (!row) return;
  const Sheet& sheet = *work_.sheets().sheet();
  source_ = text(sheet.sourceOf(sheet.rows[*row]).id);
  timer_.start();
}

void SignalPanel::followPlugins() {
  if (plugins_ == work_.sheets().plugins()) return;
  plugins_ = work_.sheets().plugins();
  built_.clear();
  timer_.start();
}

Strip SignalPanel::strip() const {
  const TrackTree tree(*document_.session());
  if (!selected_.tracks().empty())
    for (const Strip track : tree.order())
      if (selected_.tracks().contains(document_.session()->tracks[track.track()].id)) return track;
  if (const Clip* shown = clip())
    for (std::size_t t = 0; t < document_.session()->tracks.size(); ++t)
      for (const Clip& other : document_.session()->tracks[t].clips)
        if (&other == shown) return Strip(t);
  return tree.find(source_.toStdString()).value_or(Strip::main());
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
  const bool onClip =
      shown != nullptr && station != nullptr && (station->isOfClip || station->what == Station::What::Clips);
  return onClip ? std::string(kClipPlace) + shown->id : place();
}

std::string SignalPanel::place() const {
  const Station* station = line_->currentStation();
  return station == nullptr || station->strip.isMain() ? std::string(kMainPlace)
                                                       : line_->session().tracks[station->strip.track()].id;
}

std::string SignalPanel::insertId() const {
  const Station* station = line_->currentStation();
  if (station == nullptr || station->what != Station::What::Insert) return {};
  const Session& session = line_->session();
  if (station->isOfClip) {
    const Clip* shown = clip();
    return shown != nullptr && station->insert < shown->inserts.size() ? shown->inserts[station->insert].id
                                                                       : std::string();
  }
  const auto& inserts =
      station->strip.isMain() ? session.main.inserts : session.tracks[station->strip.track()].inserts;
  return station->insert < inserts.size() ? inserts[station->insert].id : std::string();
}

void SignalPanel::edit(const QString& words, const Document::Change& change, const QString& merge) {
  document_.edit(words, change, merge);
}

void SignalPanel::reload() {
  if (!isVisible()) return;
  line_->show(document_.session(), strip(), clip(), work_.briefs().current(), plugins_.get());
}

void SignalPanel::stationChanged() {
  const Station* station = line_->currentStation();
  if (station == nullptr) return;
  const std::string id = insertId();
  const Session& session = line_->session();
  const QString strip =
      station->strip.isMain() ? tr("Main") : text(session.tracks[station->strip.track()].name);
  title_->setWords(station->name + "  ·  " + strip);
  remove_->setEnabled(!id.empty());
  onOff_->setEnabled(!id.empty());
  onOff_->setText(station->detail == tr("off") ? tr("On") : tr("Off"));
  const std::string wanted =
      place() + "/" + (id.empty() ? "fader" : id) + "/" +
      (station->strip.isMain() ? std::string()
                               : std::to_string(session.tracks[station->strip.track()].sends.size()));
  if (wanted != built_) {
    built_ = wanted;
    page_ = id.empty() ? makeStripPage(document_, place(), plugins_.get(), pageArea_)
                       : makeInsertPage(document_, id, plugins_.get(), pageArea_);
    connect(page_, &StagePage::problem, &work_.news(), &News::warn);
    pageArea_->setWidget(page_);
  }
  page_->refresh();
  curves_->setPlace(place(), plugins_);
  lineArea_->ensureVisible(line_->placeOf(line_->current()).center().x(), 0, 60, 0);
}

void SignalPanel::addEffect(const QString& effect) {
  const Station* station = line_->currentStation();
  if (station == nullptr) return;
  const std::string at = chainPlace();
  const std::size_t before = station->what == Station::What::Insert  ? station->insert + 1
                             : station->what == Station::What::Clips ? 0
                                                                     : SIZE_MAX;
  std::string made;
  edit(tr("Add an effect"),
       [&](Session& session) { made = addInsert(session, at, effect.toStdString(), before); });
  if (made.empty())
    return work_.news().warn(tr("Nothing can be put here: the track is locked, or its chain is full"));
  reload();
  for (int i = 0; i < static_cast<int>(line_->stations().size()); ++i) {
    line_->setCurrent(i);
    if (insertId() == made) break;
  }
  line_->setFocus();
}

/// Which plug-ins there are is asked once, and may take a while.
void SignalPanel::openSearch() {
  if (!installedKnown_) {
    installedKnown_ = true;
    work_.jobs().start<std::vector<InstalledPlugin>>(
        LongJobs::Kind::Other, tr("Asking which plug-ins there are"),
        [](JobControl&) { return installedPlugins(); },
        [this](std::vector<InstalledPlugin> installed) {
          installed_ = std::move(installed);
          if (add_->isVisible() && add_->isEnabled()) showSearch();
        });
    return;
  }
  showSearch();
}

void SignalPanel::showSearch() {
  auto* search = new EffectSearch(
      installed_, [this](const QString& effect) { addEffect(effect); }, this);
  const QPoint at = add_->mapToGlobal(QPoint(add_->width() - search->width(), add_->height() + 4));
  search->move(std::max(4, at.x()), std::max(4, at.y() - std::max(0, at.y() + search->height() - 780)));
  search->show();
  search->focusProxy()->setFocus();
}

}  // namespace octaphon::app
