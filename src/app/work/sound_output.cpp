#include "app/work/sound_output.h"

#include <algorithm>
#include <atomic>
#include <QAudioDevice>
#include <QAudioFormat>
#include <QAudioSink>
#include <QElapsedTimer>
#include <QIODevice>
#include <vector>

#include "app/work/test_tone.h"

namespace octaphon::app {
namespace {

constexpr Frame kFrameBytes = 2 * sizeof(float);

/// What the sound device reads from.
class PlayerDevice : public QIODevice {
 public:
  explicit PlayerDevice(Player& player) : player_(player) { open(QIODevice::ReadOnly); }
  qint64 readData(char* data, qint64 size) override {
    const Frame frames = size / kFrameBytes;
    if (player_.atEnd()) silence_ += frames;
    player_.read(reinterpret_cast<float*>(data), frames);
    return frames * kFrameBytes;
  }
  qint64 writeData(const char*, qint64) override { return -1; }
  qint64 bytesAvailable() const override { return 1 << 20; }
  bool isSequential() const override { return true; }
  /// Frames of silence that were taken after the end: so many of the sound have gone on since.
  Frame silence() const { return silence_; }

 private:
  Player& player_;
  std::atomic<Frame> silence_{0};
};

class DeviceOutput : public SoundOutput {
 public:
  DeviceOutput(Player& player, const QAudioDevice& output, const QAudioFormat& format)
      : player_(player), device_(player), sink_(output, format) {
    sink_.start(&device_);
  }
  ~DeviceOutput() override { sink_.stop(); }
  bool isPlaying() const { return sink_.error() == QAudio::NoError; }
  Frame waiting() const override {
    const Frame all = sink_.bufferSize() / kFrameBytes;
    const Frame held = std::clamp<Frame>(all - sink_.bytesFree() / kFrameBytes, 0, all);
    return player_.atEnd() ? std::max<Frame>(0, all - device_.silence()) : held;
  }

 private:
  Player& player_;
  PlayerDevice device_;
  QAudioSink sink_;
};

class SilentClock : public SoundOutput {
 public:
  SilentClock(Player& player, int rate) : player_(player), rate_(rate) { clock_.start(); }
  void tick() override {
    const Frame due = clock_.elapsed() * rate_ / 1000;
    nowhere_.resize(static_cast<std::size_t>(2 * (due - taken_)));
    player_.read(nowhere_.data(), due - taken_);
    taken_ = due;
  }
  Frame waiting() const override { return 0; }

 private:
  Player& player_;
  Frame rate_;
  QElapsedTimer clock_;
  Frame taken_ = 0;
  std::vector<float> nowhere_;
};

}  // namespace

std::unique_ptr<SoundOutput> openOutput(Player& player, int rate) {
  QAudioFormat format;
  format.setSampleRate(rate);
  format.setChannelCount(2);
  format.setSampleFormat(QAudioFormat::Float);
  const QAudioDevice device = chosenSoundDevice();
  if (!device.isNull() && device.isFormatSupported(format)) {
    auto output = std::make_unique<DeviceOutput>(player, device, format);
    if (output->isPlaying()) return output;
  }
  return std::make_unique<SilentClock>(player, rate);
}

}  // namespace octaphon::app
