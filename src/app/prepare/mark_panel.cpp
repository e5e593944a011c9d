#include "app/prepare/mark_panel.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include "app/look/flow_layout.h"
#include "app/look/number_box.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/decibels.h"
#include "base/unicode.h"
#include "edit/clip_sets.h"
#include "edit/silence.h"

namespace octaphon::app {
namespace {

constexpr int kSilenceRule = 5;
constexpr std::size_t kMostListed = 12;

QDoubleSpinBox* number(QWidget* parent, const QString& name, double least, double most, double value,
                       const QString& unit, int decimals) {
  auto* box = new NumberBox(parent);
  box->setRange(least, most);
  box->setDecimals(decimals);
  box->setValue(value);
  box->setSuffix(unit);
  box->setSingleStep(decimals > 1 ? 0.05 : 1);
  box->setAccessibleName(name);
  return box;
}

}  // namespace

MarkPanel::MarkPanel(Work& work, QWidget* parent)
    : QWidget(parent), work_(work), document_(work.document()), selected_(work.selected()) {
  setObjectName("pane");
  pool_.setMaxThreadCount(1);
  timer_.setSingleShot(true);
  timer_.setInterval(30);
  connect(&timer_, &QTimer::timeout, this, &MarkPanel::refresh);
  makeControls();
  makeOutcome();
  layOut();
  connectControls();
}

void MarkPanel::makeControls() {
  rule_ = new QComboBox(this);
  rule_->setObjectName("markRule");
  rule_->addItems({tr("one around all of it"), tr("one for each island of clips"), tr("one for each clip"),
                   tr("one for each track's extent"), tr("from each marker to the next"),
                   tr("one for each sound between silences")});
  rule_->setAccessibleName(tr("How spans are made"));
  rule_->setToolTip(
      tr("What one region or clip set is made of. How they would lie is drawn dashed in the timeline"));
  names_ = new QComboBox(this);
  names_->addItems({tr("the first clip"), tr("the track"), tr("the group")});
  names_->setCurrentIndex(1);
  names_->setAccessibleName(tr("Where names come from"));
  markers_ = new QComboBox(this);
  markers_->setAccessibleName(tr("Marker set"));
  gap_ = number(this, tr("Longest gap that still joins"), 0, 600, 0.25, tr(" s"), 3);
  gap_->setObjectName("markGap");
  threshold_ = number(this, tr("Silent below"), -120, 0, -60, tr(" dBFS"), 1);
  silence_ = number(this, tr("Shortest silence"), 0.001, 60, 0.3, tr(" s"), 3);
  gap_->setToolTip(tr("Clips with no more silence than this between them belong to one island"));
  threshold_->setToolTip(tr("Frames count as silent where every channel is below this"));
  silence_->setToolTip(tr("Shorter silences do not part a sound"));
  name_ = new QLineEdit(this);
  name_->setPlaceholderText(tr("as inherited"));
  name_->setAccessibleName(tr("A name for all"));
  name_->setFixedWidth(150);
  name_->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

void MarkPanel::makeOutcome() {
  words_ = new QLabel(this);
  words_->setFont(Theme::sentence());
  words_->setWordWrap(true);
  list_ = new QLabel(this);
  list_->setFont(Theme::mono());
  list_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  for (QLabel* label : {words_, list_}) label->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  list_->setAccessibleName(tr("Spans that would be made"));
  regions_ = new QPushButton(tr("Make regions"), this);
  name_->setToolTip(tr("One name for all, numbered; empty: inherited"));
  regions_->setObjectName("make");

  sets_ = new QPushButton(tr("Make clip sets"), this);
  sets_->setToolTip(tr("Only their own clips sound in them; they may overlap"));
  connect(regions_, &QPushButton::clicked, this, &MarkPanel::makeRegions);
  connect(sets_, &QPushButton::clicked, this, &MarkPanel::makeClipSets);
}

void MarkPanel::layOut() {
  auto* fields = new QWidget(this);
  auto* top = new FlowLayout(fields, 8);
  QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Fixed);
  policy.setHeightForWidth(true);
  fields->setSizePolicy(policy);
  const auto label = [&](const QString& words) {
    auto* made = new QLabel(words, this);
    top->addWidget(made);
    return made;
  };
  label(tr("Make"));
  top->addWidget(rule_);
  gapText_ = label(tr("gaps up to"));
  top->addWidget(gap_);
  top->addWidget(markers_);
  thresholdText_ = label(tr("silent below"));
  top->addWidget(threshold_);
  silenceText_ = label(tr("for at least"));
  top->addWidget(silence_);
  label(tr("named after"));
  top->addWidget(names_);
  label(tr("or"));
  top->addWidget(name_);
  auto* middle = new QHBoxLayout;
  middle->addWidget(words_, 1);
  middle->addWidget(sets_);
  middle->addWidget(regions_);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 10, 14, 10);
  layout->setSpacing(8);
  layout->addWidget(fields);
  layout->addLayout(middle);
  layout->addWidget(list_, 1);
}

void MarkPanel::connectControls() {
  const auto later = [this] { timer_.start(); };
  connect(rule_, &QComboBox::currentIndexChanged, this, later);
  connect(names_, &QComboBox::currentIndexChanged, this, later);
  connect(markers_, &QComboBox::currentIndexChanged, this, later);
  for (QDoubleSpinBox* box : {gap_, threshold_, silence_})
    connect(box, &QDoubleSpinBox::valueChanged, this, later);
  connect(name_, &QLineEdit::textChanged, this, later);
  connect(&selected_, &Selected::changed, this, later);
  connect(&document_, &Document::changed, this, later);
  connect(&document_, &Document::opened, this, later);
  connect(&work_.sheets(), &SheetKeeper::factsChanged, this, later);
  refresh();
}

MarkPanel::~MarkPanel() {
  cancel_ = true;
  pool_.waitForDone();
}

bool MarkPanel::bySilence() const { return rule_->currentIndex() == kSilenceRule; }

SpanRequest MarkPanel::request() const {
  SpanRequest request;
  request.rule = bySilence() ? SpanRule::EachClip : static_cast<SpanRule>(rule_->currentIndex());
  request.clips = selected_.clips();
  request.range = selected_.range();
  request.gap = framesOf(gap_->value(), document_.session()->rate);
  request.markerSet = markers_->currentData().toString().toStdString();
  request.nameFrom = static_cast<NameFrom>(names_->currentIndex());
  request.name = name_->text().trimmed().toStdString();
  return request;
}

void MarkPanel::refresh() {
  if (!isVisible()) return;
  const auto session = document_.session();
  const auto rule = static_cast<SpanRule>(rule_->currentIndex());
  gapText_->setVisible(rule == SpanRule::Islands);
  gap_->setVisible(rule == SpanRule::Islands);
  markers_->setVisible(rule == SpanRule::BetweenMarkers);
  for (QWidget* widget : {static_cast<QWidget*>(thresholdText_), static_cast<QWidget*>(threshold_),
                          static_cast<QWidget*>(silenceText_), static_cast<QWidget*>(silence_)})
    widget->setVisible(bySilence());
  {
    const QSignalBlocker blocker(markers_);
    const QVariant chosen = markers_->currentData();
    markers_->clear();
    for (const MarkerSet& set : session->markerSets) markers_->addItem(text(set.name), text(set.id));
    markers_->setCurrentIndex(std::max(0, markers_->findData(chosen)));
  }
  if (bySilence()) return listen();
  ++wanted_;
  listening_ = false;
  // Nothing selected makes nothing: a whole session is selected on purpose.
  const bool nothing = selected_.clips().empty() && !selected_.range() && rule != SpanRule::BetweenMarkers;
  show(nothing ? std::vector<SpanProposal>() : proposeSpans(*session, request()));
}

void MarkPanel::listen() {
  const unsigned number = ++wanted_;
  const auto session = document_.session();
  const ClipIds clips = selected_.clips();
  const auto known = work_.sheets().facts();
  if (clips.empty() || !known) return show({});
  listening_ = true;
  words_->setText(tr("Listening …"));
  pool_.start([this, number, session, clips, request = request(), facts = known, &cache = work_.cache(),
               threshold = gainOf(threshold_->value()),
               shortest = std::max<Frame>(1, framesOf(silence_->value(), session->rate))] {
    std::vector<FoundSound> found;
    std::vector<std::string> media;
    for (const ClipPlace place : placesOf(*session, clips)) media.push_back(clipAt(*session, place).medium);
    const ReadableMedia readable = ReadableMedia::prepare(*session, *facts, cache, media, &cancel_);
    for (const ClipPlace place : placesOf(*session, clips)) {
      if (number != wanted_ || cancel_) return;
      const Clip& clip = clipAt(*session, place);
      if (const auto sounds = soundsOf(clip, readable, threshold, shortest, &cancel_))
        for (const TimeSpan& span : *sounds) found.push_back({clip.id, span});
    }
    auto proposals = proposeSounds(*session, found, request);
    QMetaObject::invokeMethod(
        this,
        [this, number, proposals = std::move(proposals)]() mutable {
          if (number != wanted_) return;
          listening_ = false;
          show(std::move(proposals));
        },
        Qt::QueuedConnection);
  });
}

void MarkPanel::show(std::vector<SpanProposal> proposals) {
  proposals_ = std::move(proposals);
  const std::size_t count = proposals_.size();
  const bool hasClips = std::any_of(proposals_.begin(), proposals_.end(),
                                    [](const SpanProposal& p) { return !p.clips.empty(); });
  const int rate = document_.session()->rate;
  words_->setText(count > 0 ? tr("%1 would be made").arg(text(counted(count, "span")))
                            : tr("Select clips, or drag along the ruler for a time range"));
  regions_->setText(tr("Make %1").arg(text(counted(count, "region"))));
  sets_->setText(tr("Make %1").arg(text(counted(count, "clip set"))));
  regions_->setEnabled(count > 0);
  sets_->setEnabled(count > 0 && hasClips);
  QStringList lines;
  for (std::size_t i = 0; i < std::min(count, kMostListed); ++i)
    lines << QString("%1  %2  %3")
                 .arg(text(timeText(proposals_[i].span.start, rate)), 10)
                 .arg(text(timeText(proposals_[i].span.length, rate)), 10)
                 .arg(text(printable(proposals_[i].name, 60)));
  if (count > kMostListed) lines << tr("… and %1 more").arg(count - kMostListed);
  list_->setText(lines.join('\n'));
  work_.drawn().setProposals(proposals_);
}

std::size_t MarkPanel::makeRegions() { return make(Thing::Region, addRegions); }
std::size_t MarkPanel::makeClipSets() { return make(Thing::ClipSet, addClipSets); }

std::size_t MarkPanel::make(Thing thing, const Maker& maker) {
  std::vector<std::string> made;
  const auto proposals = proposals_;
  document_.edit(tr("Make %1").arg(wordOf(thing, proposals.size())),
                 [&](Session& session) { made = maker(session, proposals); });
  if (!made.empty()) selected_.set(thing, {made.begin(), made.end()});
  return made.size();
}

void MarkPanel::showEvent(QShowEvent*) { timer_.start(); }

void MarkPanel::hideEvent(QHideEvent*) {
  ++wanted_;
  proposals_.clear();
  work_.drawn().setProposals({});
}

}  // namespace octaphon::app
