#include "app/seam/seam_panel.h"

#include <cmath>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "app/look/number_box.h"
#include "app/look/numbers.h"
#include "app/look/theme.h"
#include "app/seam/own_loop_editor.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "check/file_seam.h"
#include "edit/regions.h"
#include "naming/file_name.h"

namespace octaphon::app {
namespace {

constexpr double kBeforeEndSeconds = 2;  // that are heard before the join
constexpr double kSeamSides = 1.2;       // seconds on either side, where it is heard alone

Role roleOf(double score) { return score >= 80 ? Role::Good : score >= 60 ? Role::Attention : Role::Fault; }

QString signedFrames(Frame frames) {
  return frames == 0 ? QString("0")
                     : (frames < 0 ? QString(kMinus) : QString("+")) + QString::number(std::abs(frames));
}

QString latenessText(double ms) {
  constexpr double kHeard = 2;  // ms
  const QString words = numberText(std::fabs(ms), 1);
  if (std::fabs(ms) < kHeard) return numberText(ms, 1);
  return ms > 0 ? QObject::tr("%1 late").arg(words) : QObject::tr("%1 early").arg(words);
}

/// What is to be done about it, where something is.
QString advice(const Seam& seam, bool hasBetter) {
  if (seam.score >= 80) return {};
  return ". " + (hasBetter ? QObject::tr("Try a better place on the right")
                           : QObject::tr("Move the end or the beginning, or let them blend"));
}

}  // namespace

SeamPanel::SeamPanel(Work& work, QWidget* parent)
    : QWidget(parent),
      work_(work),
      title_(new ElidedLabel(this, Qt::ElideMiddle)),
      of_(new QButtonGroup(this)),
      score_(new QLabel(this)),
      words_(new QLabel(this)),
      figures_(new SeamFigures(this)),
      picture_(new SeamPicture(this)),
      lengths_(new QLabel(this)),
      variations_(new ElidedLabel(this, Qt::ElideRight)),
      edge_(new QComboBox(this)),
      step_(new QComboBox(this)),
      places_(new QListWidget(this)),
      reach_(new NumberBox(this)) {
  setObjectName("pane");
  title_->setFont(Theme::strong());
  score_->setFont(Theme::strong());
  words_->setWordWrap(true);
  for (QLabel* label : {lengths_, static_cast<QLabel*>(variations_)}) label->setFont(Theme::caption());
  auto* captions = new QHBoxLayout;
  captions->setSpacing(18);
  captions->addWidget(lengths_);
  captions->addWidget(variations_, 1);
  auto* left = new QVBoxLayout;
  left->setSpacing(4);
  left->addLayout(makeHead());
  left->addLayout(makeWords());
  left->addWidget(figures_);
  left->addWidget(picture_, 1);
  left->addLayout(captions);
  left->addLayout(makeMoving());
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(14, 6, 14, 8);
  layout->setSpacing(12);
  layout->addLayout(left, 1);
  side_ = makePlaces();
  layout->addWidget(side_);
  connect(picture_, &SeamPicture::dragged, &work_.seams(), &SeamListener::lookAt);
  connect(picture_, &SeamPicture::stepped, this, &SeamPanel::move);
  connect(picture_, &SeamPicture::taken, this, &SeamPanel::take);
  connect(&work_.seams(), &SeamListener::changed, this, &SeamPanel::reload);
  connect(&work_.seams(), &SeamListener::looked, this, &SeamPanel::showPlace);
  connect(&work_.selected(), &Selected::changed, this, &SeamPanel::reload);
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, &SeamPanel::reload);
  connect(&work_.transport(), &Transport::playingChanged, this, [this](bool playing) {
    if (!playing) playSeam_->setChecked(false);
  });
  connect(&Theme::instance(), &Theme::changed, this, &SeamPanel::reload);
  reload();
}

QToolButton* SeamPanel::addButton(QLayout* layout, const QString& words, const QString& tip,
                                  const std::function<void()>& act) {
  auto* button = new QToolButton(this);
  button->setText(words);
  button->setToolTip(tip);
  button->setAccessibleName(words.size() > 1 ? words : tip);
  button->setAccessibleDescription(tip);
  if (act) connect(button, &QToolButton::clicked, this, act);
  layout->addWidget(button);
  tools_.push_back(button);
  return button;
}

QLayout* SeamPanel::makeHead() {
  auto* head = new QHBoxLayout;
  head->setSpacing(4);
  head->addWidget(title_, 1);
  const auto addOf = [&](SeamListener::Of of, const QString& words, const QString& tip) {
    QToolButton* button = addButton(head, words, tip, [this, of] { work_.seams().setOf(of); });
    button->setCheckable(true);
    of_->addButton(button, static_cast<int>(of));
    tools_.pop_back();  // they stay
  };
  addOf(SeamListener::Of::Mix, tr("In the mix"),
        tr("The selected region as it sounds in the session, joined as it is"));
  addOf(SeamListener::Of::File, tr("In the file"),
        tr("The file of the row that is selected in the sheet, as it lies on the disk"));
  return head;
}

QLayout* SeamPanel::makeWords() {
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  row->addWidget(score_);
  row->addSpacing(4);
  row->addWidget(words_, 1);
  return row;
}

QLayout* SeamPanel::makePlaying() {
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  playSeam_ = addButton(row, tr("Play the seam"),
                        tr("Over and over: what runs into the end, and what begins again"), {});
  playSeam_->setCheckable(true);
  connect(playSeam_, &QToolButton::toggled, this, &SeamPanel::playSeam);
  playLaps_ = addButton(row, tr("Play laps"), tr("Over and over, beginning just before the end"),
                        [this] { playLaps(); });
  return row;
}

QLayout* SeamPanel::makeMoving() {
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  const auto addList = [&](QComboBox* box, const QStringList& words, int letters, const QString& name) {
    box->addItems(words);
    box->setAccessibleName(name);
    box->setToolTip(name);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(letters);
    row->addWidget(box, letters);
    tools_.push_back(box);
  };
  addList(edge_, {tr("end"), tr("start"), tr("both")}, 4, tr("What is moved"));
  addList(step_, {tr("sample"), tr("near zero"), tr("beat")}, 8, tr("How far a step goes"));
  const auto stepNow = [this] { return static_cast<Step>(step_->currentIndex()); };
  addButton(row, QString::fromUtf8("‹"), tr("Earlier"), [=, this] { move(-1, stepNow()); });
  addButton(row, QString::fromUtf8("›"), tr("Later"), [=, this] { move(1, stepNow()); });
  row->addStretch(1);
  addButton(row, QString(kMinus), tr("Show more around the join"), [this] { picture_->zoom(1); });
  addButton(row, "+", tr("Show less around the join"), [this] { picture_->zoom(-1); });
  return row;
}

QWidget* SeamPanel::makePlaces() {
  auto* side = new QWidget(this);
  auto* layout = new QVBoxLayout(side);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(4);
  auto* heading = new QLabel(tr("Places within"), side);
  heading->setFont(Theme::strong());
  reach_->setRange(1, kMaxSearchSeconds * 1000);
  reach_->setDecimals(0);
  reach_->setSuffix(tr(" ms"));
  reach_->setKeyboardTracking(false);
  reach_->setValue(work_.seams().searchMs());
  reach_->setAccessibleName(tr("How far around places are looked for"));
  connect(reach_, &QDoubleSpinBox::valueChanged, &work_.seams(), &SeamListener::setSearchMs);
  auto* row = new QHBoxLayout;
  row->addWidget(heading, 1);
  row->addWidget(reach_);
  layout->addLayout(row);
  places_->setAccessibleName(tr("Places for the loop, the best first"));
  connect(places_, &QListWidget::currentRowChanged, this, &SeamPanel::lookAtRow);
  connect(places_, &QListWidget::itemActivated, this, &SeamPanel::take);
  layout->addWidget(places_, 1);
  layout->addLayout(makePlaying());
  auto* last = new QHBoxLayout;
  last->setSpacing(4);
  take_ = addButton(last, tr("Take this place"), tr("The region gets this beginning and this end"),
                    [this] { take(); });
  last->addStretch(1);
  loop_ = addButton(last, tr("Loop …"),
                    tr("Which way this region's files loop, where it is otherwise than the brief's"),
                    [this] { editLoop(); });
  layout->addLayout(last);
  for (QToolButton* button : {playSeam_, playLaps_, take_, loop_}) button->setObjectName("framed");
  tools_.insert(tools_.end(), {heading, reach_, places_});
  return side;
}

void SeamPanel::resizeEvent(QResizeEvent*) { side_->setFixedWidth(std::clamp(width() / 3, 190, 240)); }

void SeamPanel::showEvent(QShowEvent*) { work_.seams().setWanted(true); }
void SeamPanel::hideEvent(QHideEvent*) {
  playSeam_->setChecked(false);
  work_.seams().setWanted(false);
}

const Region* SeamPanel::region() const {
  return work_.session() && !isOfFile() ? work_.selected().firstRegion(*work_.session()) : nullptr;
}

void SeamPanel::showWords(const QString& words) {
  words_->setText(words);
  words_->setVisible(!words.isEmpty());
}

void SeamPanel::reload() {
  SeamListener& seams = work_.seams();
  for (QAbstractButton* button : of_->buttons())
    button->setEnabled(of_->id(button) == static_cast<int>(SeamListener::Of::Mix) || seams.hasFile());
  of_->button(static_cast<int>(seams.of()))->setChecked(true);
  const bool isAsked = isOfFile() || region() != nullptr;
  const auto found = isAsked ? seams.found() : nullptr;
  // While one listens again, everything keeps its place.
  const bool isThere = found || (isAsked && seams.problem().isEmpty() && picture_->isVisible());
  for (QWidget* tool : tools_) tool->setVisible(isThere);
  for (QWidget* widget :
       {static_cast<QWidget*>(score_), static_cast<QWidget*>(figures_), static_cast<QWidget*>(picture_)})
    widget->setVisible(isThere);
  lengths_->setVisible(isThere);
  variations_->setVisible(found != nullptr && !found->variations.empty());
  if (!found) playSeam_->setChecked(false);
  if (!isAsked) {
    title_->setWords({});
    return showWords(
        tr("Select a region to see how its end meets its beginning, or a row of the sheet to see its file"));
  }
  title_->setWords(isOfFile() ? text(printable(work_.sheets().sheet()->rows[*seams.fileRow()].file, 200))
                              : text(printable(region()->name, 80)));
  if (!found) {
    showNothing();
    return showWords(seams.problem().isEmpty() ? tr("Listening …") : seams.problem());
  }
  showVariations();
  showPlaces();
  showPlace();
}

void SeamPanel::showNothing() {
  picture_->show(nullptr, {});
  figures_->show(nullptr);
  places_->clear();
  for (QLabel* label : {score_, lengths_}) label->clear();
  take_->setEnabled(false);
}

/// One played late is seen before it bumps.
void SeamPanel::showVariations() {
  QStringList list;
  for (const VariationOnset& variation : work_.seams().found()->variations) {
    const std::string number = variation.name.substr(baseName(variation.name).size());
    const QString ms = variation.ms ? latenessText(*variation.ms) : tr("nothing begins");
    list << text(printable(number.empty() ? variation.name : number, 40)).trimmed() + " " + ms;
  }
  variations_->setWords(tr("First onset, ms: %1").arg(list.join(QString::fromUtf8(" · "))));
}

void SeamPanel::showPlaces() {
  const auto found = work_.seams().found();
  isShowing_ = true;
  places_->clear();
  for (const LoopCandidate& candidate : found->candidates)
    places_->addItem(QString("%1  %2")
                         .arg(std::lround(candidate.seam.score), 3)
                         .arg(candidate.place == found->place
                                  ? tr("as it is")
                                  : tr("start %1, end %2")
                                        .arg(signedFrames(candidate.place.start - found->place.start),
                                             signedFrames(candidate.place.end() - found->place.end()))));
  isShowing_ = false;
}

/// The place that is looked at, and what is known of it.
void SeamPanel::showPlace() {
  const auto found = work_.seams().found();
  if (!found) return;
  const LoopPlace place = work_.seams().place();
  const Seam* seam = work_.seams().seam();
  picture_->show({found, &found->heard}, place);
  figures_->show(seam);
  score_->setText(seam == nullptr ? QString()
                                  : QString("<span style='color:%1'>%2 of 100</span>")
                                        .arg(colour(roleOf(seam->score)).name())
                                        .arg(std::lround(seam->score)));
  const bool hasBetter =
      !found->candidates.empty() && seam != nullptr && found->candidates.front().seam.score > seam->score + 5;
  showWords(seam == nullptr ? tr("Listening …")
                            : text(seamText(*seam)) + advice(*seam, hasBetter && !isOfFile()));
  QString lengths = tr("%1 samples · %2 s")
                        .arg(groupedText(place.length))
                        .arg(numberText(static_cast<double>(place.length) / found->rate(), 3));
  if (!isOfFile() && !work_.session()->tempo.empty()) {
    const TempoMap tempo(work_.session()->tempo, work_.session()->rate);
    lengths +=
        QString::fromUtf8(" · ") +
        tr("%1 beats")
            .arg(text(plainNumber(std::round(1000 * tempo.beatsBetween(place.start, place.end())) / 1000)));
  }
  lengths_->setText(lengths);
  take_->setEnabled(!isOfFile() && place != found->place);
  take_->setToolTip(isOfFile() ? tr("The file is made: move its region, and make it again")
                               : tr("The region gets this beginning and this end"));
  loop_->setEnabled(!isOfFile());
  isShowing_ = true;
  int row = -1;
  for (std::size_t i = 0; i < found->candidates.size(); ++i)
    if (found->candidates[i].place == place) row = static_cast<int>(i);
  places_->setCurrentRow(row);
  isShowing_ = false;
  if (playSeam_->isChecked() && heard_ != place) playSeam(true);
}

LoopPlace SeamPanel::movedBy(Frame frames) const {
  LoopPlace place = work_.seams().place();
  if (edge() != Edge::End) place.start += frames;
  if (edge() == Edge::End) place.length += frames;
  if (edge() == Edge::Start) place.length -= frames;
  return place;
}

Frame SeamPanel::stepFrom(Frame from, int direction, Step step) const {
  if (step == Step::Zero) return work_.seams().found()->heard.nextZero(from, direction).value_or(from);
  if (step == Step::Sample || isOfFile() || work_.session()->tempo.empty()) return from + direction;
  const TempoMap tempo(work_.session()->tempo, work_.session()->rate);
  const Frame part = work_.session()->rate / 32;  // no beat is shorter
  Frame beat = from;
  for (Frame at = from + direction * part; (beat - from) * direction <= 0 && at >= 0; at += direction * part)
    beat = tempo.nearestBeat(at);
  return beat;
}

void SeamPanel::move(int direction, Step step) {
  if (!work_.seams().found()) return;
  const LoopPlace place = work_.seams().place();
  const Frame from = edge() == Edge::End ? place.end() : place.start;
  work_.seams().lookAt(movedBy(stepFrom(from, direction, step) - from));
}

void SeamPanel::lookAtRow(int row) {
  const auto found = work_.seams().found();
  if (isShowing_ || !found || row < 0 || row >= static_cast<int>(found->candidates.size())) return;
  work_.seams().lookAt(found->candidates[static_cast<std::size_t>(row)].place);
}

void SeamPanel::take() {
  const auto found = work_.seams().found();
  const Region* now = region();
  if (!found || now == nullptr) return;
  const LoopPlace place = work_.seams().place();
  const LoopPlace own{now->start, now->length};
  if (place == own || own != found->place) return;  // it has moved meanwhile
  work_.document().edit(tr("Move the join of %1").arg(text(printable(now->name, 60))),
                        [id = now->id, place](Session& session) {
                          if (Region* moved = findRegion(session, id)) {
                            moved->start = place.start;
                            moved->length = place.length;
                          }
                        });
}

void SeamPanel::playSeam(bool on) {
  const auto found = work_.seams().found();
  if (!on || !found) {
    if (!on && work_.transport().isPlaying()) work_.transport().stop();
    return;
  }
  heard_ = work_.seams().place();
  const QSignalBlocker quiet(playSeam_);  // while what was heard before stops
  playRound(seamLoopOf(found->heard, heard_, kSeamSides));
  playSeam_->setChecked(true);
}

/// Places of a file are told on the session's clock.
void SeamPanel::playRound(SeamLoop loop) {
  if (isOfFile()) {
    const Row& row = work_.sheets().sheet()->rows[*work_.seams().fileRow()];
    for (Frame* at : {&loop.beforeJoin, &loop.behindJoin})
      *at = row.start + atRate(*at, loop.rate, work_.session()->rate);
  }
  work_.transport().playSeam(work_.session(), std::move(loop));
}

void SeamPanel::playLaps() {
  playSeam_->setChecked(false);
  const auto found = work_.seams().found();
  if (!found) return;
  const LoopPlace place = work_.seams().place();
  if (found->overlaps) return playRound(lapLoopOf(found->heard, found->place, kBeforeEndSeconds));
  const int rate = work_.session()->rate;
  TimeSpan lap{place.start, place.length};
  Listening listening;
  if (isOfFile()) {
    const Sheet& sheet = *work_.sheets().sheet();
    const Row& row = sheet.rows[*work_.seams().fileRow()];
    listening = listeningTo(sheet, row, Listening::Of::File);
    lap = {row.start + atRate(place.start, found->rate(), rate), atRate(place.length, found->rate(), rate)};
  }
  work_.transport().setPosition(std::max(lap.start, lap.end() - framesOf(kBeforeEndSeconds, rate)));
  work_.transport().playLaps(work_.session(), work_.sheets().facts(), lap, std::move(listening),
                             work_.sheets().plugins());
}

void SeamPanel::editLoop() {
  if (const Region* now = region()) (new OwnLoopEditor(work_, now->id, this))->openAbove(*loop_);
}

}  // namespace octaphon::app
