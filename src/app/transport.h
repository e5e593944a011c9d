// Play and stop, and where the playhead is. Sound through Qt Multimedia; where there is no device, a clock
// empties the player instead, so that time goes on.
#pragma once

#include <functional>
#include <memory>
#include <QElapsedTimer>
#include <QObject>
#include <QTimer>

#include "play/player.h"

class QAudioSink;

namespace octaphon::app {

class PlayerDevice;

class Transport : public QObject {
  Q_OBJECT
 public:
  /// `plugins` may be null: then plug-ins are silent.
  explicit Transport(MediaCache& cache, PluginPasses* plugins = nullptr, QObject* parent = nullptr);
  ~Transport() override;

  Frame position() const { return position_; }
  bool isPlaying() const { return player_ != nullptr; }
  /// Whether sound goes to a device; only meaningful while playing.
  bool hasDevice() const { return sink_ != nullptr; }

  void setPosition(Frame frame);
  /// From the position to `to`, or to the session's end.
  void play(std::shared_ptr<const Session> session, std::shared_ptr<const MediaFacts> facts, Frame to = 0,
            Listening listening = {}, std::shared_ptr<const PluginCatalogue> plugins = {});
  /// Whether playing begins again where it began, at its end.
  void setLooping(bool on) { looping_ = on; }
  void stop();

 signals:
  void positionChanged(octaphon::Frame frame);
  void playingChanged(bool playing);
  void loudnessChanged(double momentary, double integrated);  ///< LUFS since it began; kNoLoudness: not known
  void levelsChanged(float left, float right);                ///< peaks since the last time, full scale 1
  void problem(const QString& text);

 private:
  void tick();
  bool openDevice(int rate);

  MediaCache& cache_;
  PluginPasses* plugins_;
  std::unique_ptr<Player> player_;
  std::unique_ptr<PlayerDevice> device_;
  std::unique_ptr<QAudioSink> sink_;
  QTimer timer_;
  QElapsedTimer clock_;
  Frame clockFrames_ = 0;  // given to the silent clock so far
  int rate_ = 48000;
  Frame position_ = 0;
  bool looping_ = false;
  std::function<void()> again_;  // plays from where it began
};

}  // namespace octaphon::app
