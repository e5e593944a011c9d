#include "app/work/test_tone.h"

#include <cmath>
#include <numbers>
#include <QMediaDevices>
#include <vector>

#include "app/work/settings.h"
#include "base/decibels.h"

namespace octaphon::app {

QAudioDevice chosenSoundDevice() {
  const QByteArray chosen = settings::soundDevice();
  if (!chosen.isEmpty())
    for (const QAudioDevice& device : QMediaDevices::audioOutputs())
      if (device.id() == chosen) return device;
  return QMediaDevices::defaultAudioOutput();
}

bool TestTone::play(const QAudioDevice& device) {
  constexpr double kHertz = 440, kSeconds = 0.5, kFadeSeconds = 0.01, kDecibels = -20;
  QAudioFormat format;
  format.setSampleRate(48000);
  format.setChannelCount(2);
  format.setSampleFormat(QAudioFormat::Float);
  sink_.reset();
  buffer_.close();
  if (device.isNull() || !device.isFormatSupported(format)) return false;
  const int frames = static_cast<int>(kSeconds * format.sampleRate());
  std::vector<float> samples;
  for (int i = 0; i < frames; ++i) {
    const double at = static_cast<double>(i) / format.sampleRate();
    const double edge = std::min({1.0, at / kFadeSeconds, (kSeconds - at) / kFadeSeconds});
    const double value = edge * gainOf(kDecibels) * std::sin(2 * std::numbers::pi * kHertz * at);
    samples.insert(samples.end(), 2, static_cast<float>(value));
  }
  samples_ = QByteArray(reinterpret_cast<const char*>(samples.data()),
                        static_cast<qsizetype>(samples.size() * sizeof(float)));
  buffer_.setData(samples_);
  buffer_.open(QIODevice::ReadOnly);
  sink_ = std::make_unique<QAudioSink>(device, format);
  sink_->start(&buffer_);
  return sink_->error() == QAudio::NoError;
}

}  // namespace octaphon::app
