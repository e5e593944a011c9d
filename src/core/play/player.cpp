#include "play/player.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <set>

#include "base/denormals.h"
#include "media/sound_file.h"
#include "signal/graph.h"

namespace octaphon {
namespace {

constexpr Frame kBlock = 2048;
constexpr std::size_t kStored = 2 * 16384;  // samples held ahead: a third of a second at 48 kHz

/// A tap on two loudspeakers; mono on both as it is.
void fold(const TapBlock& tap, int channels, Frame offset, Frame frames, float* stereo) {
  const MixMatrix matrix = mixMatrix(std::max(channels, 2), 2, 1, 0);
  for (Frame i = 0; i < frames; ++i)
    for (std::size_t side = 0; side < 2; ++side) {
      double sum = channels == 1 ? tap.channel[0][offset + i] : 0;
      for (int c = 0; c < channels && channels > 1; ++c)
        sum += matrix.gain[side][static_cast<std::size_t>(c)] * tap.channel[c][offset + i];
      stereo[2 * i + static_cast<Frame>(side)] = static_cast<float>(sum);
    }
}

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
  listening.file = sheet.briefOf(row).base / row.file;
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

void Player::start(Frame from, Frame to, Listening listening) {
  stop();
  listening_ = std::move(listening);
  stopping_ = false;
  position_ = from;
  end_ = to > from ? to : std::max(from, session_->end());
  store_.clear();
  readAt_ = 0;
  loudness_ = std::make_unique<LoudnessMeter>(session_->rate);
  thread_ = std::thread([this, from] { work(from); });
}

void Player::stop() {
  stopping_ = true;
  space_.notify_all();
  if (thread_.joinable()) thread_.join();
}

void Player::read(float* interleaved, Frame frames) {
  const auto wanted = static_cast<std::size_t>(2 * frames);
  std::size_t got = 0;
  {
    const std::scoped_lock lock(mutex_);
    got = std::min(wanted, store_.size() - readAt_);
    std::copy_n(store_.begin() + static_cast<std::ptrdiff_t>(readAt_), got, interleaved);
    readAt_ += got;
  }
  std::fill(interleaved + got, interleaved + wanted, 0.0f);
  if (loudness_) loudness_->add(interleaved, static_cast<Frame>(got / 2));
  for (std::size_t side = 0; side < 2; ++side) {
    float peak = peaks_[side];
    for (std::size_t i = side; i < got; i += 2) peak = std::max(peak, std::fabs(interleaved[i]));
    peaks_[side] = peak;
  }
  position_ = std::min<Frame>(end_, position_ + static_cast<Frame>(got / 2));
  space_.notify_one();
}

std::array<float, 2> Player::takePeaks() { return {peaks_[0].exchange(0), peaks_[1].exchange(0)}; }

std::string Player::problem() const {
  const std::scoped_lock lock(mutex_);
  return problem_;
}

bool Player::store(std::vector<float> block) {
  std::unique_lock lock(mutex_);
  space_.wait(lock, [this] { return stopping_ || store_.size() - readAt_ < kStored; });
  store_.erase(store_.begin(), store_.begin() + static_cast<std::ptrdiff_t>(readAt_));
  readAt_ = 0;
  store_.insert(store_.end(), block.begin(), block.end());
  return !stopping_;
}

PassKey Player::keyFrom(Frame from) const {
  PassKey key;
  if (!listening_.isRow) {
    key.start = from;
    key.length = end_ - from;
    return key;
  }
  key.start = listening_.span.start;
  key.length = listening_.span.length;
  key.finish = listening_.span.finish;
  if (listening_.span.kind == PlannedSpan::Kind::ClipSet) key.clipSet = listening_.span.id;
  key.counting = listening_.counting;
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
  /// Puts what it has, times `gain`, into interleaved stereo.
  void add(Frame at, Frame frames, float gain, float* stereo) {
    if (!file_ || at < start_ || !file_->seek(at - start_)) return;
    const int channels = file_->info().channels;
    buffer_.resize(static_cast<std::size_t>(frames * channels));
    const Frame got = file_->read(buffer_.data(), frames);
    for (Frame i = 0; i < got; ++i)
      for (int side = 0; side < 2; ++side)
        stereo[2 * i + side] +=
            gain * buffer_[static_cast<std::size_t>(i * channels + std::min(side, channels - 1))];
  }

 private:
  Frame start_;
  std::unique_ptr<SoundFile> file_;
  std::vector<float> buffer_;
};

void Player::work(Frame from) {
  const DenormalGuard guard;
  const TrackTree tree(*session_);
  const ClipFinder finder(*session_, tree);
  const Frame end = end_;
  const bool hearsSession = listening_.of != Listening::Of::File;
  const SignalContext context(finder, *facts_, plugins_.get());
  const PassKey key = keyFrom(from);
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
  std::unique_ptr<TapSource> source;
  if (recipe.hasPlugins() && passes_ != nullptr) {
    auto opened = passes_->open(recipe, key, readable, {{&listening_.brief, {listening_.source}, false}});
    if (!opened) return tell(opened.error().describe());
    source = std::move(*opened);
  } else {
    source = std::make_unique<Graph>(recipe, readable, std::vector<NodeIndex>{tapped.node});
  }
  std::optional<RowFile> file;
  if (listening_.of != Listening::Of::Session) file.emplace(listening_);
  if (file && !file->isThere()) tell(listening_.file.string() + ": the file is not there yet. Make it first");
  // A row is worked through from its run-up on, so that it is heard as it will be written wherever one
  // listens.
  const Frame latency = source->latency(0);
  Frame at = listening_.isRow ? std::min(from, key.start - finder.runUpOf(key.span(), key.counting)) : from;
  for (; at - latency < end && !stopping_; at += kBlock) {
    source->process(at, kBlock);
    const TapBlock tap = source->tap(0);
    if (tap.error != nullptr) tell(tap.error->describe());
    const Frame first = std::max(at - latency, from);
    const Frame last = std::min(at - latency + kBlock, end);
    if (first >= last) continue;
    std::vector<float> block(static_cast<std::size_t>(2 * (last - first)), 0.0f);
    if (!tap.isSilent()) fold(tap, source->channels(0), first - (at - latency), last - first, block.data());
    if (file)
      file->add(first, last - first, listening_.of == Listening::Of::File ? 1.0f : -1.0f, block.data());
    if (!store(std::move(block))) return;
  }
}

}  // namespace octaphon
