#include "app/work/listener.h"

#include <algorithm>
#include <cmath>
#include <QRandomGenerator>
#include <set>

#include "app/work/text.h"
#include "base/unicode.h"
#include "naming/file_name.h"
#include "plan/row_levels.h"
#include "run/measure.h"

namespace octaphon::app {
namespace {

constexpr std::size_t kNotAgain = 3;  // variations that are not played again at once

bool contains(const std::vector<std::string>& list, const std::string& id) {
  return std::find(list.begin(), list.end(), id) != list.end();
}

/// Of a row as it is heard, before it is compared.
Levels heardLevelsOf(const Sheet& sheet, const Row& row, Listening::Of of) {
  const bool isAnother = row.state == RowState::Stale || !row.made;  // than the session would make
  if (of == Listening::Of::File && isAnother) return row.made ? row.made->levels : Levels{};
  const RowLevels known = levelsOf(sheet, row);
  const TappedSound& sound = sheet.soundOf(row);
  if (known.levels.measured.loudness || !sound.levels) return known.levels;
  return sound.levels->raised(heardGainOf(sheet, row).value_or(0));
}

}  // namespace

Listener::Listener(Document& document, SheetKeeper& sheets, Selected& selected, RowChoice& rows,
                   Transport& transport, LevelFinder& levels, News& news, QObject* parent)
    : QObject(parent),
      document_(document),
      sheets_(sheets),
      selected_(selected),
      rows_(rows),
      transport_(transport),
      levels_(levels),
      news_(news) {
  connect(&selected_, &Selected::changed, this, &Listener::followTracks);
  connect(&document_, &Document::changed, this, [this](unsigned parts) {
    if ((parts & kTracks) != 0) forgetLostTracks();
  });
  connect(&document_, &Document::opened, this, [this] {
    recentVariations_.clear();
    waitsForLevel_ = false;
    setOnly({});
  });
}

void Listener::play(Frame to, Listening listening) {
  playsRow_ = listening.isRow;
  transport_.play(document_.session(), sheets_.facts(), to, std::move(listening), sheets_.plugins());
}

Listening Listener::sessionListening() const {
  Listening listening;
  listening.only = only_;
  return listening;
}

void Listener::stop() {
  if (levels_.isBusy()) news_.say(tr("Measuring was stopped"));
  levels_.stop();
  waitsForLevel_ = false;
  transport_.stop();
}

void Listener::toggle() {
  if (transport_.isPlaying()) return transport_.stop();
  if (waitsForLevel_) return stop();
  if (!document_.isOpen()) return;
  const auto range = selected_.range();
  if (!range || !transport_.isLooping()) return play(0, sessionListening());
  transport_.setPosition(range->start);
  play(range->end(), sessionListening());
}

void Listener::playRegion() {
  const Region* region = selected_.firstRegion(*document_.session());
  if (region == nullptr) return;
  const Frame end = region->end();
  transport_.setPosition(region->start);
  play(end, sessionListening());
}

void Listener::moveTo(Frame frame) {
  const bool playing = transport_.isPlaying();
  transport_.setPosition(frame);
  if (playing) play(0, sessionListening());
}

void Listener::goOnAt(const TimeSpan& span) {
  const bool playing = transport_.isPlaying();
  transport_.setPosition(span.start);
  if (playing) play(span.end(), sessionListening());
}

std::string Listener::nextVariation() {
  const auto session = document_.session();
  const Region* region = selected_.firstRegion(*session);
  if (region == nullptr) return {};
  const std::string base = baseName(region->name);
  std::vector<std::string> variations, fresh;
  for (const Region& each : session->regions) {
    if (baseName(each.name) != base) continue;
    variations.push_back(each.id);
    if (!contains(recentVariations_, each.id)) fresh.push_back(each.id);
  }
  const auto& from = fresh.empty() ? variations : fresh;
  const std::string chosen = from[QRandomGenerator::global()->bounded(static_cast<quint32>(from.size()))];
  recentVariations_.push_back(chosen);
  if (recentVariations_.size() > kNotAgain) recentVariations_.erase(recentVariations_.begin());
  return chosen;
}

void Listener::playRow(Listening::Of of) {
  if (rows_.isEmpty()) return news_.say(tr("Select a row of the sheet first"));
  sheets_.whenPlanned([this, of, key = rows_.current()] { playRow(of, key, {}, true); });
}

void Listener::playRow(Listening::Of of, const std::string& key, Frame from) {
  sheets_.whenPlanned([this, of, key, from] { playRow(of, key, from, true); });
}

void Listener::playBefore(const std::shared_ptr<const FileHandle>& before, const std::string& key, Frame from,
                          const Levels& levels) {
  const Sheet& sheet = *sheets_.sheet();
  const auto found = sheet.find(key);
  if (!found) return news_.say(tr("The row is not in the sheet any more"));
  Listening listening = listeningTo(sheet, sheet.rows[*found], before);
  listening.compareDb = compareDb(levels, Listening::Of::File);
  transport_.setPosition(from);
  play(sheet.endOf(sheet.rows[*found]), std::move(listening));
}

void Listener::playRow(Listening::Of of, const std::string& key, std::optional<Frame> from, bool mayMeasure) {
  const auto found = sheets_.sheet()->find(key);
  if (!found) return news_.say(tr("The row is not in the sheet any more"));
  const Sheet& sheet = *sheets_.sheet();
  const Row& row = sheet.rows[*found];
  const bool needsGain = of == Listening::Of::Session && !heardGainOf(sheet, row);
  const bool needsLoudness = comparesEquallyLoud_ && !heardLevelsOf(sheet, row, of).measured.loudness;
  if (mayMeasure && (needsGain || needsLoudness)) {
    news_.say(tr("Measuring how loud %1 is …").arg(text(row.file)));
    waitsForLevel_ = true;
    return levels_.find(rowsOfSet(sheet, row), {false, comparesEquallyLoud_}, [this, of, key, from] {
      waitsForLevel_ = false;
      playRow(of, key, from, false);
    });
  }
  const Frame at = transport_.position();
  const bool inside = transport_.isPlaying() && at >= row.start && at < sheet.endOf(row);
  transport_.setPosition(from ? *from : inside ? at : row.start);
  Listening listening = listeningTo(sheet, row, of);
  listening.compareDb = compareDb(heardLevelsOf(sheet, row, of), of);
  if (needsGain || needsLoudness)
    news_.warn(tr("How loud %1 is cannot be measured: it is heard as it is").arg(text(row.file)));
  play(sheet.endOf(row), std::move(listening));
}

void Listener::compareEquallyLoud(bool on) {
  comparesEquallyLoud_ = on;
  reference_.reset();
}

/// Never over full scale.
double Listener::compareDb(const Levels& levels, Listening::Of of) {
  if (!comparesEquallyLoud_ || of == Listening::Of::Difference || !levels.lufs || levels.isSilent()) return 0;
  if (!reference_) reference_ = levels.lufs;
  const double db = std::min(*reference_ - *levels.lufs, std::max(0.0, -levels.peakDb.value_or(0)));
  if (std::fabs(db) >= 0.05)
    news_.say(tr("Heard %1 dB %2, to be as loud as the first row")
                  .arg(std::fabs(db), 0, 'f', 1)
                  .arg(db > 0 ? tr("louder") : tr("softer")));
  return db;
}

void Listener::measureRows() {
  sheets_.whenPlanned([this] {
    const Sheet& sheet = *sheets_.sheet();
    std::set<std::size_t> all;
    for (const std::size_t row : rows_.rows())
      for (const std::size_t beside : rowsOfSet(sheet, sheet.rows[row])) all.insert(beside);
    if (all.empty()) return news_.say(tr("Select rows of the sheet first"));
    news_.say(tr("Measuring how loud %1 …")
                  .arg(text(counted(all.size(), "sound")) + (all.size() == 1 ? tr(" is") : tr(" are"))));
    waitsForLevel_ = false;
    levels_.find({all.begin(), all.end()}, {true, true}, [this] { news_.say(tr("Levels are measured")); });
  });
}

void Listener::hearSelectedOnly(bool on) {
  hearsOnly_ = on;
  if (on)
    followTracks();
  else
    setOnly({});
}

void Listener::followTracks() {
  const Ids& tracks = selected_.tracks();
  if (!hearsOnly_ || tracks.empty()) return;
  std::vector<std::string> sorted(tracks.begin(), tracks.end());
  std::sort(sorted.begin(), sorted.end());
  setOnly(std::move(sorted));
}

void Listener::forgetLostTracks() {
  std::vector<std::string> there = only_;
  std::erase_if(there,
                [this](const std::string& id) { return findTrack(*document_.session(), id) == nullptr; });
  setOnly(std::move(there));
}

/// What plays goes on, with these tracks, to where it was to end.
void Listener::setOnly(std::vector<std::string> tracks) {
  if (tracks == only_) return;
  only_ = std::move(tracks);
  emit onlyChanged();
  if (transport_.isPlaying() && !playsRow_) play(transport_.end(), sessionListening());
}

}  // namespace octaphon::app
