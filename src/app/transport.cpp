#include "transport.h"

#include <QAudioDevice>
#include <QAudioFormat>
#include <QAudioSink>
#include <QIODevice>
#include <QMediaDevices>
#include <vector>

namespace octaphon::app {

/// What the sound device reads from.
class PlayerDevice : public QIODevice {
 public:
  explicit PlayerDevice(Player& player) : player_(player) { open(QIODevice::ReadOnly); }
  qint64 readData(char* data, qint64 size) override {
    constexpr qint64 kFrameBytes = 2 * sizeof(float);
    const qint64 frames = size / kFrameBytes;
    player_.read(reinterpret_cast<float*>(data), frames);
    return frames * kFrameBytes;
  }
  qint64 writeData(const char*, qint64) override { return -1; }
  qint64 bytesAvailable() const override { return 1 << 20; }
  bool isSequential() const override { return true; }

 private:
  Player& player_;
};

Transport::Transport(MediaCache& cache, PluginPasses* plugins, QObject* parent)
    : QObject(parent), cache_(cache), plugins_(plugins) {
  timer_.setInterval(20);
  connect(&timer_, &QTimer::timeout, this, &Transport::tick);
}

Transport::~Transport() { stop(); }

void Transport::setPosition(Frame frame) {
  if (isPlaying()) stop();
  position_ = std::max<Frame>(0, frame);
  emit positionChanged(position_);
}

bool Transport::openDevice(int rate) {
  const QAudioDevice output = QMediaDevices::defaultAudioOutput();
  if (output.isNull()) return false;
  QAudioFormat format;
  format.setSampleRate(rate);
  format.setChannelCount(2);
  format.setSampleFormat(QAudioFormat::Float);
  if (!output.isFormatSupported(format)) return false;
  device_ = std::make_unique<PlayerDevice>(*player_);
  sink_ = std::make_unique<QAudioSink>(output, format);
  sink_->start(device_.get());
  if (sink_->error() == QAudio::NoError) return true;
  sink_.reset();
  device_.reset();
  return false;
}

void Transport::play(std::shared_ptr<const Session> session, std::shared_ptr<const MediaFacts> facts,
                     Frame to, Listening listening, std::shared_ptr<const PluginCatalogue> plugins) {
  stop();
  again_ = [=, this, from = position_] {
    position_ = from;
    play(session, facts, to, listening, plugins);
  };
  if (!facts || position_ >= session->end()) return;
  rate_ = session->rate;
  player_ =
      std::make_unique<Player>(std::move(session), std::move(facts), cache_, std::move(plugins), plugins_);
  player_->start(position_, to, std::move(listening));
  if (!openDevice(rate_)) {
    clock_.start();
    clockFrames_ = 0;
  }
  timer_.start();
  emit playingChanged(true);
}

void Transport::stop() {
  if (!player_) return;
  timer_.stop();
  if (sink_) sink_->stop();
  sink_.reset();
  device_.reset();
  player_.reset();
  emit levelsChanged(0, 0);
  emit loudnessChanged(kNoLoudness, kNoLoudness);
  emit playingChanged(false);
}

void Transport::tick() {
  if (!sink_) {
    const Frame due = clock_.elapsed() * rate_ / 1000;
    std::vector<float> nowhere(static_cast<std::size_t>(2 * (due - clockFrames_)));
    player_->read(nowhere.data(), due - clockFrames_);
    clockFrames_ = due;
  }
  position_ = player_->position();
  emit positionChanged(position_);
  const auto peaks = player_->takePeaks();
  emit levelsChanged(peaks[0], peaks[1]);
  const Loudness loudness = player_->loudness();
  emit loudnessChanged(loudness.momentary, loudness.integrated);
  if (const std::string why = player_->problem(); !why.empty()) {
    stop();
    emit problem(QString::fromStdString(why));
  } else if (player_->atEnd()) {
    if (!looping_) return stop();
    const auto again = again_;
    again();
  }
}

}  // namespace octaphon::app
