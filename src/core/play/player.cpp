#include "play/player.h"

#include <algorithm>
#include <set>

#include "base/denormals.h"
#include "signal/graph.h"

namespace octaphon {
namespace {

constexpr Frame kBlock = 2048;
constexpr std::size_t kStored = 2 * 16384;  // samples held ahead: a third of a second at 48 kHz

}  // namespace

Player::Player(std::shared_ptr<const Session> session, std::shared_ptr<const MediaFacts> facts,
               MediaCache& cache)
    : session_(std::move(session)), facts_(std::move(facts)), cache_(cache) {}

Player::~Player() { stop(); }

void Player::start(Frame from, Frame to) {
  stop();
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
  position_ = std::min<Frame>(end_, position_ + static_cast<Frame>(got / 2));
  space_.notify_one();
}

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

void Player::work(Frame from) {
  const DenormalGuard guard;
  const TrackTree tree(*session_);
  const ClipFinder finder(*session_, tree);
  const Frame end = end_;
  const auto heard = finder.heardIn(PlannedSpan::stretch(from, end - from), {});
  std::set<std::string> media;
  for (const HeardClip& clip : heard) media.insert(finder.clipOf(clip).medium);
  const auto readable =
      ReadableMedia::prepare(*session_, *facts_, cache_, {media.begin(), media.end()}, &stopping_);
  Graph graph(finder, readable, heard, {TrackTree::kMain});
  for (Frame at = from; at < end && !stopping_; at += kBlock) {
    const Frame frames = std::min(kBlock, end - at);
    graph.process(at, frames);
    const TapBlock tap = graph.tap(0);
    std::vector<float> block(static_cast<std::size_t>(2 * frames), 0.0f);
    if (tap.error != nullptr) {
      const std::scoped_lock lock(mutex_);
      problem_ = tap.error->describe();
    }
    const int right = graph.channels() > 1 ? 1 : 0;
    for (Frame i = 0; !tap.isSilent() && i < frames; ++i) {
      block[static_cast<std::size_t>(2 * i)] = tap.channel[0][i];
      block[static_cast<std::size_t>(2 * i + 1)] = tap.channel[right][i];
    }
    if (!store(std::move(block))) return;
  }
}

}  // namespace octaphon
