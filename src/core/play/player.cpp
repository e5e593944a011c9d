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

}  // namespace

Listening listeningTo(const Sheet& sheet, const Row& row, Listening::Of of) {
  Listening listening;
  listening.of = of;
  listening.isRow = true;
  listening.span = sheet.spanOf(row);
  listening.counting = countingOf(sheet.briefOf(row).brief, sheet.rate);
  listening.source = sheet.sourceOf(row).track;
  listening.start = row.start;
  listening.frames = row.frames;
  listening.file = sheet.briefOf(row).base / row.file;
  return listening;
}

Player::Player(std::shared_ptr<const Session> session, std::shared_ptr<const MediaFacts> facts,
               MediaCache& cache)
    : session_(std::move(session)), facts_(std::move(facts)), cache_(cache) {}

Player::~Player() { stop(); }

void Player::start(Frame from, Frame to, Listening listening) {
  stop();
  listening_ = std::move(listening);
  stopping_ = false;
  position_ = from;
  end_ = to > from ? to : std::max(from, session_->end());
  store_.clear();
  readAt_ = 0;
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

std::vector<HeardClip> Player::heardClips(const ClipFinder& finder, Frame from) const {
  if (listening_.isRow) return finder.heardIn(listening_.span, listening_.counting);
  std::vector<HeardClip> heard = finder.heardIn(PlannedSpan::stretch(from, end_ - from), {});
  if (listening_.only.empty()) return heard;
  std::vector<int> only;
  for (const std::string& id : listening_.only)
    if (const int track = finder.tree().find(id); track != TrackTree::kMain) only.push_back(track);
  std::erase_if(heard, [&](const HeardClip& clip) {
    return std::none_of(only.begin(), only.end(),
                        [&](int track) { return finder.tree().isInside(clip.track, track); });
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
  const auto heard = hearsSession ? heardClips(finder, from) : std::vector<HeardClip>();
  std::set<std::string> media;
  for (const HeardClip& clip : heard) media.insert(finder.clipOf(clip).medium);
  const auto readable =
      ReadableMedia::prepare(*session_, *facts_, cache_, {media.begin(), media.end()}, &stopping_);
  Graph graph(finder, readable, heard, {listening_.isRow ? listening_.source : TrackTree::kMain});
  std::optional<RowFile> file;
  if (listening_.of != Listening::Of::Session) file.emplace(listening_);
  const auto tell = [&](std::string why) {
    const std::scoped_lock lock(mutex_);
    problem_ = std::move(why);
  };
  if (file && !file->isThere()) tell(listening_.file.string() + ": the file is not there yet. Make it first");
  for (Frame at = from; at < end && !stopping_; at += kBlock) {
    const Frame frames = std::min(kBlock, end - at);
    graph.process(at, frames);
    const TapBlock tap = graph.tap(0);
    std::vector<float> block(static_cast<std::size_t>(2 * frames), 0.0f);
    if (tap.error != nullptr) tell(tap.error->describe());
    const int right = graph.channels() > 1 ? 1 : 0;
    for (Frame i = 0; !tap.isSilent() && i < frames; ++i) {
      block[static_cast<std::size_t>(2 * i)] = tap.channel[0][i];
      block[static_cast<std::size_t>(2 * i + 1)] = tap.channel[right][i];
    }
    if (file) file->add(at, frames, listening_.of == Listening::Of::File ? 1.0f : -1.0f, block.data());
    if (!store(std::move(block))) return;
  }
}

}  // namespace octaphon
