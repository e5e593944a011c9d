#include "play/player.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <set>

#include "base/denormals.h"
#include "media/sound_file.h"
#include "play/heard_block.h"
#include "routing/mixing_law.h"
#include "signal/graph.h"

namespace octaphon {
namespace {

constexpr Frame kBlock = 2048;

}  // namespace

Listening listeningTo(const Sheet& sheet, const Row& row, Listening::Of of) {
  Listening listening;
  listening.of = of;
  listening.isRow = true;
  listening.span = sheet.spanOf(row);
  listening.counting = countingOf(sheet.briefOf(row).brief, sheet.rate);
  listening.brief = sheet.briefOf(row).brief;
  listening.source = sheet.sourceOf(row);
  listening.start = row.start;
  listening.frames = row.frames;
  listening.channels = row.channels;
  listening.file = sheet.briefOf(row).base.full() / row.file;
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
  stopping_ = false;
  position_ = started_ = from;
  from_ = lapsFrom.value_or(from);
  read_ = 0;
  end_ = to > from ? to : std::max(from, session_->end());
  repeats_ = lapsFrom.has_value() && end_ > from;
  ring_.reset();
  loudness_ = std::make_unique<LoudnessMeter>(session_->rate);
  thread_ = std::thread([this, from] { work(from); });
}

void Player::stop() {
  stopping_ = true;
  ++reads_;
  reads_.notify_all();
  if (thread_.joinable()) thread_.join();
}

void Player::read(float* interleaved, Frame frames) {
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
}

void Player::countRead(Frame frames) {
  read_ += frames;
  position_ = positionBefore(0);
}

Frame Player::positionBefore(Frame frames) const {
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

/// The file of a row, read along with the session; silent before its start, behind its end and where it
/// cannot be read.
class RowFile {
 public:
  RowFile(const Listening& listening) : start_(listening.start) {
    if (auto file = SoundFile::open(listening.file)) file_ = std::make_unique<SoundFile>(std::move(*file));
  }
  bool isThere() const { return file_ != nullptr; }
  /// Adds what it has, times `gain`.
  void add(Frame at, Frame frames, float gain, HeardBlock& block) {
    if (!file_ || at < start_ || !file_->seek(at - start_)) return;
    const int channels = file_->info().channels;
    if (channels > kMaxMixChannels) return;
    interleaved_.assign(static_cast<std::size_t>(frames * channels), 0.0f);
    (void)file_->read(interleaved_.data(), frames);
    planar_.resize(interleaved_.size());
    const float* sound[kMaxMixChannels];
    for (int c = 0; c < channels; ++c) {
      float* own = planar_.data() + c * frames;
      for (Frame i = 0; i < frames; ++i) own[i] = interleaved_[static_cast<std::size_t>(i * channels + c)];
      sound[c] = own;
    }
    block.add(sound, channels, gain);
  }

 private:
  Frame start_;
  std::unique_ptr<SoundFile> file_;
  std::vector<float> interleaved_, planar_;
};

void Player::work(Frame from) {
  const DenormalGuard guard;
  const TrackTree tree(*session_);
  const ClipFinder finder(*session_, tree);
  const bool hearsSession = listening_.of != Listening::Of::File;
  const SignalContext context(finder, *facts_, plugins_.get());
  const PassKey key = keyFrom(from_);
  const auto heard = hearsSession ? heardClips(finder, key) : std::vector<HeardClip>();
  std::set<std::string> media;
  for (const HeardClip& clip : heard) media.insert(finder.clipOf(clip).medium);
  const auto readable =
      ReadableMedia::prepare(*session_, *facts_, cache_, {media.begin(), media.end()}, &stopping_);
  SpanRecipe recipe(context, key.span(), key.counting, heard);
  const Tap tapped = recipe.tap(listening_.brief, listening_.source);
  const auto tell = [&](std::string why) {
    const std::scoped_lock lock(mutex_);
    problem_ = std::move(why);
  };
  const auto open = [&]() -> Result<std::unique_ptr<TapSource>> {
    if (recipe.hasPlugins() && passes_ != nullptr)
      return passes_->open(recipe, key, readable, {{&listening_.brief, {listening_.source}, false}});
    return std::make_unique<Graph>(recipe, readable, std::vector<NodeIndex>{tapped.node});
  };
  std::optional<RowFile> file;
  if (listening_.of != Listening::Of::Session) file.emplace(listening_);
  if (file && !file->isThere()) tell(listening_.file.string() + ": the file is not there yet. Make it first");
  for (Frame lap = from;; lap = from_) {
    // A row is worked through from its run-up on, so that it is heard as it will be written wherever one
    // listens; in whole blocks from where files begin: plug-ins hear the difference.
    Frame start = lap;
    if (listening_.isRow) start = key.start - finder.runUpOf(key.span(), key.counting);
    while (start > lap) start -= kBlock;
    auto source = open();
    if (!source) return tell(source.error().describe());
    if (!workThrough(**source, start, lap, file ? &*file : nullptr, tell) || !repeats_) return;
  }
}

/// One lap, from `from` to the end; false where it was stopped.
bool Player::workThrough(TapSource& source, Frame start, Frame from, RowFile* file,
                         const std::function<void(std::string)>& tell) {
  const Frame latency = source.latency(0);
  const Frame end = end_;
  HeardBlock block(listening_.isRow ? listening_.channels : std::max(1, source.channels(0)));
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
    if (file != nullptr)
      file->add(first, last - first, listening_.of == Listening::Of::File ? 1.0f : -1.0f, block);
    if (!store(block.asStereo())) return false;
  }
  return true;
}

}  // namespace octaphon
