#include "app/work/transport.h"

namespace octaphon::app {

Transport::Transport(MediaCache& cache, PluginPasses* plugins, OpenOutput open, QObject* parent)
    : QObject(parent), cache_(cache), plugins_(plugins), open_(std::move(open)) {
  timer_.setInterval(20);
  connect(&timer_, &QTimer::timeout, this, &Transport::tick);
}

Transport::~Transport() {
  stop();
  ending_.waitForDone();
}

/// It may be in the middle of a block, or of a medium that it converts: nobody waits for it.
void Transport::letGo() {
  output_.reset();
  tellPreparing(false);
  if (!player_) return;
  player_->askToStop();
  ending_.start([player = std::shared_ptr<Player>(std::move(player_))]() mutable { player.reset(); });
}

void Transport::tellPreparing(bool on) {
  if (isPreparing_ == on) return;
  isPreparing_ = on;
  emit preparingChanged(on);
}

void Transport::setPosition(Frame frame) {
  stop();
  position_ = std::max<Frame>(0, frame);
  emit positionChanged(position_);
}

void Transport::play(std::shared_ptr<const Session> session, std::shared_ptr<const MediaFacts> facts,
                     Frame to, Listening listening, std::shared_ptr<const PluginCatalogue> plugins) {
  stop();
  if (!facts || position_ >= session->end()) return;
  rate_ = session->rate;
  begin_ = position_;
  end_ = to > position_ ? to : session->end();
  listening_ = std::move(listening);
  isLap_ = false;
  makePlayer_ = [this, session = std::move(session), facts = std::move(facts), plugins = std::move(plugins)] {
    return std::make_unique<Player>(session, facts, cache_, plugins, plugins_);
  };
  begin();
  timer_.start();
  emit playingChanged(true);
}

void Transport::playSeam(std::shared_ptr<const Session> session, SeamLoop seam) {
  stop();
  if (seam.frames() <= 0) return;
  rate_ = seam.rate;
  isLap_ = true;
  end_ = seam.beforeJoin + seam.join;
  makePlayer_ = [this, session = std::move(session)] {
    return std::make_unique<Player>(session, nullptr, cache_);
  };
  beginWith([&] { player_->start(std::move(seam)); });
  timer_.start();
  emit playingChanged(true);
}

void Transport::playLaps(std::shared_ptr<const Session> session, std::shared_ptr<const MediaFacts> facts,
                         TimeSpan lap, Listening listening, std::shared_ptr<const PluginCatalogue> plugins) {
  play(std::move(session), std::move(facts), lap.end(), std::move(listening), std::move(plugins));
  if (!isPlaying()) return;
  isLap_ = true;
  begin_ = lap.start;
  begin();
}

/// From the position on; laps begin where playing began.
void Transport::begin() {
  beginWith([&] {
    player_->start(position_, end_, listening_, looping_ || isLap_ ? std::optional(begin_) : std::nullopt);
  });
}

void Transport::beginWith(const std::function<void()>& start) {
  letGo();
  player_ = makePlayer_();
  start();
  output_ = open_(*player_, rate_);
}

void Transport::setLooping(bool on) {
  if (looping_ == on) return;
  looping_ = on;
  if (isPlaying() && !isLap_) begin();
}

void Transport::stop() {
  if (!player_) return;
  timer_.stop();
  letGo();
  makePlayer_ = {};
  emit levelsChanged(0, 0);
  emit loudnessChanged(kNoLoudness, kNoLoudness);
  emit playingChanged(false);
}

void Transport::tick() {
  const double prepared = player_->preparing().portion();
  tellPreparing(prepared >= 0 && prepared < 1);
  output_->tick();
  const Frame waiting = output_->waiting();
  position_ = player_->positionBefore(waiting);
  const auto peaks = player_->takePeaks();
  const Loudness loudness = player_->loudness();
  const std::string why = player_->problem();
  const bool ended = player_->atEnd() && waiting == 0;
  emit positionChanged(position_);
  emit levelsChanged(peaks[0], peaks[1]);
  emit loudnessChanged(loudness.momentary, loudness.integrated);
  if (!why.empty()) {
    stop();
    emit problem(QString::fromStdString(why));
  } else if (ended) {
    stop();
  }
}

}  // namespace octaphon::app
