// A short tone on a sound device, to hear whether it is the right one.
#pragma once

#include <memory>
#include <QAudioDevice>
#include <QAudioSink>
#include <QBuffer>

namespace octaphon::app {

/// The device that was chosen, or the system's where that one is not there. Null where there is none at all.
QAudioDevice chosenSoundDevice();

class TestTone : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;
  /// Half a second of 440 Hz at −20 dBFS; what sounded before ends. False where the device does not take it.
  bool play(const QAudioDevice& device);

 private:
  QByteArray samples_;
  QBuffer buffer_;
  std::unique_ptr<QAudioSink> sink_;
};

}  // namespace octaphon::app
