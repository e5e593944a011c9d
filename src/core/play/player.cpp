#include "play/player.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <set>

#include "base/decibels.h"
#include "base/denormals.h"
#include "plan/row_levels.h"
#include "play/heard_block.h"
#include "recipe/unrolled.h"
#include "run/row_finish.h"
#include "signal/graph.h"

namespace octaphon {
namespace {

constexpr Frame kBlock = 2048;

/// As loud as its file is, or will be, as far as that is known.
void planLevel(const Sheet& sheet, const Row& row, FinishPlan& plan) {
  const GainSet& set = sheet.gainSetOf(sheet.soundOf(row));
  plan.level.gainDb = heardGainOf(sheet, row).value_or(0);
  if (set.isLimited) plan.level.limitDb = set.asked.ceilingDb;
}

/// A row's ends at the session's rate.
FinishPlan finishOf(const Sheet& sheet, const Row& row) {
  const SpanEnds& ends = sheet.endsOf(row);
  const auto frames = [&](double ms) { return framesOf(ms / 1000, sheet.rate); };
  FinishPlan plan;
  plan.tapped = sheet.soundOf(row).channels;
  plan.extent = ends.extent;
  plan.extent.rate = sheet.rate;
  plan.extent.silence = framesOf(ends.asked.silenceSeconds, sheet.rate);
  plan.extent.exact = framesOf(ends.asked.exactSeconds, sheet.rate);
  plan.tail = sheet.tailOf(row);
  plan.trimDb = ends.asked.trimDb;
  plan.fadeIn = {frames(ends.asked.fadeInMs), ends.asked.fadeInShape};
  plan.fadeOut = {frames(ends.asked.fadeOutMs), ends.asked.fadeOutShape};
  plan.form = {row.channels, 32, false, {}, row.file};
  plan.folded = row.folded;
  plan.part = row.part;
  planLevel(sheet, row, plan);
  if (!ends.loop.isLap()) return plan;
  plan.loop = lapPlanOf(sheet, row);
  plan.tail = sheet.spanOf(row).tail;
  plan.fadeIn = plan.fadeOut = {};
  plan.extent.silence = 0;
  return plan;
}

/// Nothing of the session is heard: just so many frames.
FinishPlan asLongAsFile(const Listening& listening) {
  FinishPlan plan;
  plan.tapped = listening.finish.tapped;
  plan.form = listening.finish.form;
  plan.extent.sessionRate = plan.extent.rate = listening.finish.extent.sessionRate;
  plan.extent.first = listening.start;
  plan.extent.body = listening.frames;
  return plan;
}

}  // namespace

Listening listeningTo(const Sheet& sheet, const Row& row, Listening::Of of) {
  Listening listening;
  listening.of = of;
  listening.isRow = true;
  listening.span = sheet.spanOf(row);
  listening.counting = countingOf(sheet.briefOf(row).brief, listening.span, sheet.rate);
  listening.brief = sheet.briefOf(row).brief;
  listening.source = sheet.sourceOf(row);
  listening.start = row.start;
  listening.frames = atRate(row.frames(), row.rate, sheet.rate);
  listening.channels = row.channels;
  listening.loop = sheet.endsOf(row).loop;
  listening.finish = finishOf(sheet, row);
  if (of == Listening::Of::File) listening.finish = asLongAsFile(listening);
  listening.file = sheet.briefOf(row).base.full() / row.file;
  return listening;
}

Listening listeningTo(const Sheet& sheet, const Row& row, std::shared_ptr<const FileHandle> before) {
  Listening listening = listeningTo(sheet, row, Listening::Of::File);
  listening.file = "/proc/self/fd/" + std::to_string(before->get());
  listening.held = std::move(before);
  return listening;
}

Player::Player(std::shared_ptr<const Session> session, std::shared_ptr<const MediaFacts> facts,
               MediaCache& cache, std::shared_ptr<const PluginCatalogue> plugins, PluginPasses* passes)
    : session_(std::move(session)),
      facts_(std::move(facts)),
      cache_(cache),
      plugins_(std::move(plugins)),
      passes_(passes) {}

Player::~Player() { stop(); }

void Player::start(Frame from, Frame to, Listening listening, std::optional<Frame> lapsFrom) {
  stop();
  listening_ = std::move(listening);
  seam_.reset();
  from_ = lapsFrom.value_or(from);
  end_ = to > from ? to : std::max(from, session_->end());
  repeats_ = lapsFrom.has_value() && end_ > from;
  begin(from, session_->rate, [this, from] { work(from); });
}

void Player::start(SeamLoop seam) {
  stop();
  seam_ = std::move(seam);
  repeats_ = true;
  begin(seam_->beforeJoin, seam_->rate, [this] { playSeam(); });
}

void Player::begin(Frame from, int rate, std::function<void()> work) {
  stopping_ = false;
  position_ = started_ = from;
  read_ = 0;
  preparing_.done = preparing_.all = 0;
  ring_.reset();
  loudness_ = std::make_unique<LoudnessMeter>(rate);
  thread_ = std::thread(std::move(work));
}

void Player::playSeam() {
  while (store(seam_->stereo)) {
  }
}

void Player::askToStop() {
  stopping_ = true;
  ++reads_;
  reads_.notify_all();
}

void Player::stop() {
  askToStop();
  if (thread_.joinable()) thread_.join();
}

Frame Player::read(float* interleaved, Frame frames) {
  const auto wanted = static_cast<std::size_t>(2 * frames);
  const std::size_t got = ring_.pop(interleaved, wanted);
  std::fill(interleaved + got, interleaved + wanted, 0.0f);
  if (loudness_) loudness_->add(interleaved, static_cast<Frame>(got / 2));
  for (std::size_t side = 0; side < 2; ++side) {
    float peak = peaks_[side];
    for (std::size_t i = side; i < got; i += 2) peak = std::max(peak, std::fabs(interleaved[i]));
    peaks_[side] = peak;
  }
  countRead(static_cast<Frame>(got / 2));
  ++reads_;
  reads_.notify_one();
  return static_cast<Frame>(got / 2);
}

void Player::countRead(Frame frames) {
  read_ += frames;
  position_ = positionBefore(0);
}

Frame Player::positionBefore(Frame frames) const {
  if (seam_) {
    const Frame inside = std::max<Frame>(0, read_ - frames) % seam_->frames();
    return inside < seam_->join ? seam_->beforeJoin + inside : seam_->behindJoin + inside - seam_->join;
  }
  const Frame position = started_ + std::max<Frame>(0, read_ - frames);
  if (position < end_) return position;
  return repeats_ ? from_ + (position - from_) % (end_ - from_) : end_.load();
}

std::array<float, 2> Player::takePeaks() { return {peaks_[0].exchange(0), peaks_[1].exchange(0)}; }

std::string Player::problem() const {
  const std::scoped_lock lock(mutex_);
  return problem_;
}

/// Waits for room; false when it is to stop. Whole frames, so that sides cannot change places.
bool Player::store(const std::vector<float>& stereo) {
  for (std::size_t done = 0; done < stereo.size();) {
    const std::uint32_t seen = reads_;  // before looking, so that no read is missed
    if (stopping_) return false;
    const std::size_t room = std::min(ring_.write_available() / 2 * 2, stereo.size() - done);
    done += ring_.push(stereo.data() + done, room);
    if (room == 0) reads_.wait(seen);
  }
  return !stopping_;
}

PassKey Player::keyFrom(Frame from) const {
  if (listening_.isRow) return passKeyOf(listening_.span, listening_.counting);
  PassKey key;
  key.start = from;
  key.length = end_ - from;
  return key;
}

std::vector<HeardClip> Player::heardClips(const ClipFinder& finder, const PassKey& key) const {
  std::vector<HeardClip> heard = finder.heardIn(key.span(), key.counting);
  if (listening_.isRow || listening_.only.empty()) return heard;
  std::vector<Strip> only;
  for (const std::string& id : listening_.only)
    if (const auto track = finder.tree().find(id)) only.push_back(*track);
  std::erase_if(heard, [&](const HeardClip& clip) {
    return !finder.tree().isHelper(clip.track) && std::none_of(only.begin(), only.end(), [&](Strip track) {
      return finder.tree().isInside(clip.track, track);
    });
  });
  return heard;
}

void Player::work(Frame from) {
  const DenormalGuard guard;
  const TrackTree tree(*session_);
  const ClipFinder finder(*session_, tree);
  const bool hearsSession = listening_.of != Listening::Of::File;
  const SignalContext context(finder, *facts_, plugins_.get());
  const PassKey key = keyFrom(from_);
  const PlayedContext played(context, key.span(), key.counting);  // a row's laps are played as they are made
  auto heard = listening_.isRow ? played.heard() : heardClips(finder, key);
  if (!hearsSession) heard.clear();
  std::set<std::string> media;
  for (const HeardClip& clip : heard) media.insert(played.context().finder.clipOf(clip).medium);
  expectParts(&preparing_, media.size());
  const auto readable = ReadableMedia::prepare(*session_, *facts_, cache_, {media.begin(), media.end()},
                                               &stopping_, [this] { finishPart(&preparing_); });
  SpanRecipe recipe(played.context(), played.span(), key.counting, heard);
  const Tap tapped = recipe.tap(listening_.brief, listening_.source);
  if (listening_.finish.loop.way == LoopWay::Fold)
    listening_.finish.tail = std::min(listening_.finish.tail, recipe.longestTail(tapped.node));
  TapList taps;
  taps.add(tapped.node, {&listening_.brief, {listening_.source}, false});
  std::optional<LapTap> mixTap;
  if (hearsSession && listening_.isRow && listening_.loop.waitsForMix())
    mixTap = tapOfMix(recipe, taps, listening_.brief, listening_.span, session_->rate);
  const auto tell = [&](std::string why) {
    const std::scoped_lock lock(mutex_);
    problem_ = std::move(why);
  };
  const auto open = [&]() -> Result<std::unique_ptr<TapSource>> {
    if (recipe.hasPlugins() && passes_ != nullptr)
      return passes_->open(recipe, key, readable, taps.requests());
    return std::make_unique<Graph>(recipe, readable, taps.nodes());
  };
  std::optional<RowFile> file;
  if (listening_.of != Listening::Of::Session)
    file.emplace(listening_.file, listening_.start, session_->rate);
  if (file && !file->isThere()) tell(listening_.file.string() + ": the file is not there yet. Make it first");
  for (Frame lap = from;; lap = from_) {
    // A row is worked through from its run-up on, so that it is heard as it will be written wherever one
    // listens; in whole blocks from where files begin: plug-ins hear the difference.
    Frame start = lap;
    if (listening_.isRow) start = key.span().first() - finder.runUpOf(key.span(), key.counting);
    while (start > lap) start -= kBlock;
    auto source = open();
    if (!source) return tell(source.error().describe());
    std::optional<LapTap> mix = mixTap;
    const bool isWell =
        listening_.isRow ? playRow(**source, start, lap, file ? &*file : nullptr, mix ? &*mix : nullptr, tell)
                         : playSession(**source, start, lap, tell);
    if (!isWell || !repeats_) return;
  }
}

/// One lap, from `from` to the end; false where it was stopped.
bool Player::playSession(TapSource& source, Frame start, Frame from, const Tell& tell) {
  const Frame latency = source.latency(0);
  const Frame end = end_;
  HeardBlock block(std::max(1, source.channels(0)));
  for (Frame at = start; at - latency < end; at += kBlock) {
    if (stopping_) return false;
    source.process(at, kBlock);
    const TapBlock tap = source.tap(0);
    if (tap.error != nullptr) tell(tap.error->describe());
    const Frame first = std::max(at - latency, from);
    const Frame last = std::min(at - latency + kBlock, end);
    if (first >= last) continue;
    block.clear(last - first);
    if (!tap.isSilent()) block.add(tap.after(first - (at - latency)).channel, source.channels(0), 1);
    if (!store(block.asStereo())) return false;
  }
  return true;
}

/// The same of a row: what comes of it when its ends are made.
bool Player::playRow(TapSource& source, Frame start, Frame from, RowFile* file, LapTap* mix,
                     const Tell& tell) {
  const Frame latency = source.latency(0);
  FinishPlan plan = listening_.finish;
  plan.latency = latency;
  FinishedRow row(std::move(plan), listening_.start, listening_.span.first());
  const Frame first = listening_.span.first();
  if (mix != nullptr) mix->begin(source);
  const auto mixIsMissing = [&](Frame at) { return mix != nullptr && at < first + mix->framesWanted(); };
  for (Frame at = start; mixIsMissing(at) || (row.wantsMore() && row.next() < end_); at += kBlock) {
    if (stopping_) return false;
    source.process(at, kBlock);
    const TapBlock tap = source.tap(0);
    if (tap.error != nullptr) tell(tap.error->describe());
    if (mix != nullptr) mix->take(source, at - first, kBlock);
    if (const auto taken = row.take(tap, at, kBlock); !taken) return tell(taken.error().describe()), false;
    if (!storeRow(row, from, file)) return false;
  }
  if (mix != nullptr) row.decide(decideLoop(listening_.loop, listening_.span, mix->heard()));
  if (const auto ended = row.end(); !ended) return tell(ended.error().describe()), false;
  if (!storeRow(row, from, file)) return false;
  // What was found shorter than it was planned ends there.
  if (!repeats_) end_ = std::min(end_.load(), row.next());
  return true;
}

/// What is finished, from `from` on, with what is on disk or the difference.
bool Player::storeRow(FinishedRow& row, Frame from, RowFile* file) {
  HeardBlock passed(listening_.channels), block(listening_.channels);
  while (row.next() < std::min(row.finishedTo(), end_.load())) {
    const Frame at = row.next();
    const Frame until = at < from ? from : end_.load();
    const Frame frames = std::min({row.finishedTo() - at, until - at, kBlock});
    HeardBlock& heard = at < from || listening_.of == Listening::Of::File ? passed : block;
    passed.clear(frames);
    block.clear(frames);
    const auto gain = static_cast<float>(gainOf(listening_.compareDb));
    row.addNext(frames, gain, heard);
    if (at < from) continue;
    if (file != nullptr) file->add(at, frames, listening_.of == Listening::Of::File ? gain : -gain, block);
    if (!store(block.asStereo())) return false;
  }
  return true;
}

}  // namespace octaphon
