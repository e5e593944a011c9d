#include "app/seam/seam_panel.h"

#include <cmath>
#include <QVBoxLayout>

#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/decibels.h"
#include "base/unicode.h"
#include "edit/regions.h"

namespace octaphon::app {
namespace {

constexpr std::array<double, 9> kZooms{1, 2, 5, 10, 20, 50, 100, 200, 400};
constexpr double kBeforeEndSeconds = 2;  // that are heard before the join

QString signedMs(Frame frames, int rate) {
  const double ms = 1000.0 * static_cast<double>(frames) / rate;
  return (ms < 0 ? QString::fromUtf8("−") : QString("+")) + QString::number(std::fabs(ms), 'f', 2);
}

Role roleOf(double score) { return score >= 80 ? Role::Good : score >= 60 ? Role::Attention : Role::Fault; }

}  // namespace

SeamPanel::SeamPanel(Work& work, QWidget* parent)
    : QWidget(parent),
      work_(work),
      title_(new QLabel(this)),
      score_(new QLabel(this)),
      words_(new QLabel(this)),
      figures_(new QLabel(this)),
      picture_(new SeamPicture(this)),
      tools_(makeTools()),
      side_(makePlaces()) {
  setObjectName("pane");
  title_->setFont(Theme::strong());
  score_->setFont(Theme::strong());
  words_->setWordWrap(true);
  figures_->setFont(Theme::caption());
  figures_->setWordWrap(true);
  auto* head = new QHBoxLayout;
  head->addWidget(title_);
  head->addWidget(score_);
  head->addWidget(words_, 1);
  head->addWidget(tools_);
  auto* left = new QVBoxLayout;
  left->setSpacing(4);
  left->addLayout(head);
  left->addWidget(figures_);
  left->addWidget(picture_, 1);
  left->addStretch();
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(14, 8, 14, 8);
  layout->setSpacing(12);
  layout->addLayout(left, 1);
  layout->addWidget(side_);
  connect(&work_.seams(), &SeamListener::changed, this, &SeamPanel::reload);
  connect(&work_.selected(), &Selected::changed, this, &SeamPanel::reload);
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, &SeamPanel::reload);
  connect(&Theme::instance(), &Theme::changed, this, &SeamPanel::reload);
  reload();
}

QWidget* SeamPanel::makeTools() {
  auto* tools = new QWidget(this);
  auto* layout = new QHBoxLayout(tools);
  layout->setContentsMargins(0, 0, 0, 0);
  const auto add = [&](const QString& words, const QString& tip, const auto& act) {
    auto* button = new QToolButton(tools);
    button->setText(words);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    connect(button, &QToolButton::clicked, this, act);
    layout->addWidget(button);
    return button;
  };
  play_ = add(tr("Play laps"), tr("Over and over, beginning just before the end"), [this] { playLaps(); });
  add("−", tr("Show more around the join"), [this] { zoom(1); });
  add("+", tr("Show less around the join"), [this] { zoom(-1); });
  return tools;
}

QWidget* SeamPanel::makePlaces() {
  auto* side = new QWidget(this);
  side->setFixedWidth(230);
  auto* layout = new QVBoxLayout(side);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(4);
  auto* heading = new QLabel(tr("Places within 20 ms"), side);
  heading->setFont(Theme::strong());
  layout->addWidget(heading);
  places_ = new QListWidget(side);
  places_->setAccessibleName(tr("Places for the loop, the best first"));
  connect(places_, &QListWidget::currentRowChanged, this, &SeamPanel::showPicture);
  connect(places_, &QListWidget::itemActivated, this, &SeamPanel::take);
  layout->addWidget(places_, 1);
  take_ = new QToolButton(side);
  take_->setText(tr("Take this place"));
  take_->setToolTip(tr("The region gets this beginning and this end"));
  connect(take_, &QToolButton::clicked, this, &SeamPanel::take);
  layout->addWidget(take_);
  return side;
}

void SeamPanel::showEvent(QShowEvent*) { work_.seams().setWanted(true); }
void SeamPanel::hideEvent(QHideEvent*) { work_.seams().setWanted(false); }

void SeamPanel::reload() {
  const Region* region = work_.session() ? work_.selected().firstRegion(*work_.session()) : nullptr;
  const auto found = region == nullptr ? nullptr : work_.seams().found();
  for (QWidget* widget : {static_cast<QWidget*>(title_), static_cast<QWidget*>(tools_)})
    widget->setVisible(region != nullptr);
  for (QWidget* widget : {static_cast<QWidget*>(score_), static_cast<QWidget*>(figures_),
                          static_cast<QWidget*>(picture_), side_})
    widget->setVisible(found != nullptr);
  if (region == nullptr) {
    words_->setText(tr("Select a region to see how its end meets its beginning"));
    return picture_->show(nullptr, {});
  }
  title_->setText(text(printable(region->name, 80)));
  const QString& problem = work_.seams().problem();
  if (!found) return words_->setText(problem.isEmpty() ? tr("Listening …") : problem);
  score_->setText(QString("<span style='color:%1'>%2 of 100</span>")
                      .arg(colour(roleOf(found->seam.score)).name())
                      .arg(std::lround(found->seam.score)));
  score_->setToolTip(tr("How good the join is, of 100"));
  words_->setText(text(seamText(found->seam)));
  showFigures(found->seam);
  showPlaces(*found);
  showPicture();
}

/// Each against what is normal for this sound.
void SeamPanel::showFigures(const Seam& seam) {
  QStringList figures;
  if (seam.clickDb) figures << tr("click %1 dB (to 0)").arg(text(decibelText(*seam.clickDb)));
  if (seam.level) {
    figures << tr("level %1 dB (to %2)")
                   .arg(text(decibelText(seam.level->levelDb)),
                        text(decibelText(std::max(1.0, seam.level->levelRangeDb))));
    figures << tr("colour %1 dB (to %2)")
                   .arg(text(decibelText(seam.level->spectrumDb)),
                        text(decibelText(std::max(3.0, seam.level->spectrumRangeDb))));
  }
  if (const auto late = seam.pulseMs())
    figures << tr("beat %1 ms (to %2)")
                   .arg(text(decibelText(*late)),
                        text(decibelText(std::max(2.0, seam.pattern->lateRangeMs))));
  figures_->setText(figures.join(QString::fromUtf8("  ·  ")));
}

void SeamPanel::showPlaces(const RegionSeam& found) {
  const LoopPlace& own = work_.seams().place();
  const int rate = found.sound.rate;
  places_->clear();
  for (const LoopCandidate& candidate : found.candidates) {
    const bool isOwn = candidate.place == own;
    places_->addItem(QString("%1  %2")
                         .arg(std::lround(candidate.seam.score), 3)
                         .arg(isOwn ? tr("as it is")
                                    : tr("start %1, end %2 ms")
                                          .arg(signedMs(candidate.place.start - own.start, rate),
                                               signedMs(candidate.place.end() - own.end(), rate))));
    if (isOwn) places_->setCurrentRow(places_->count() - 1);
  }
}

void SeamPanel::showPicture() {
  const auto found = work_.seams().found();
  const int row = places_->currentRow();
  const LoopPlace& own = work_.seams().place();
  const bool isThere = found && row >= 0 && row < static_cast<int>(found->candidates.size());
  const LoopPlace place = isThere ? found->candidates[static_cast<std::size_t>(row)].place : own;
  take_->setEnabled(isThere && place != own);
  picture_->show(found, place);
}

void SeamPanel::take() {
  const auto found = work_.seams().found();
  const int row = places_->currentRow();
  const Region* region = work_.selected().firstRegion(*work_.session());
  if (!found || region == nullptr || row < 0 || row >= static_cast<int>(found->candidates.size())) return;
  const LoopPlace place = found->candidates[static_cast<std::size_t>(row)].place;
  const LoopPlace now{region->start, region->length};
  if (place == now || now != work_.seams().place()) return;  // it has moved meanwhile
  work_.document().edit(tr("Move the join of %1").arg(text(printable(region->name, 60))),
                        [id = region->id, place](Session& session) {
                          if (Region* moved = findRegion(session, id)) {
                            moved->start = place.start;
                            moved->length = place.length;
                          }
                        });
}

void SeamPanel::playLaps() {
  const Region* region = work_.selected().firstRegion(*work_.session());
  if (region == nullptr) return;
  const Frame before = framesOf(kBeforeEndSeconds, work_.session()->rate);
  work_.transport().setPosition(std::max(region->start, region->end() - before));
  work_.transport().playLaps(work_.session(), work_.sheets().facts(), {region->start, region->length},
                             work_.sheets().plugins());
}

void SeamPanel::zoom(int steps) {
  std::size_t now = 0;
  while (now + 1 < kZooms.size() && kZooms[now] < picture_->milliseconds()) ++now;
  const auto wanted = std::clamp<std::ptrdiff_t>(static_cast<std::ptrdiff_t>(now) + steps, 0,
                                                 static_cast<std::ptrdiff_t>(kZooms.size()) - 1);
  picture_->setMilliseconds(kZooms[static_cast<std::size_t>(wanted)]);
}

}  // namespace octaphon::app
