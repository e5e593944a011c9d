// Play and stop, and where the playhead is.
#pragma once

#include <memory>
#include <QObject>
#include <QThreadPool>
#include <QTimer>

#include "app/work/sound_output.h"
#include "play/player.h"

namespace octaphon::app {

class Transport : public QObject {
  Q_OBJECT
 public:
  /// `plugins` may be null: then plug-ins are silent.
  explicit Transport(MediaCache& cache, PluginPasses* plugins = nullptr, OpenOutput open = openOutput,
                     QObject* parent = nullptr);
  ~Transport() override;

  /// What is heard now, in the session.
  Frame position() const { return position_; }
  bool isPlaying() const { return player_ != nullptr; }
  /// Where what is played ends; only meaningful while playing.
  Frame end() const { return end_; }

  /// Stops, and goes there.
  void setPosition(Frame frame);
  /// From the position to `to`, or to the session's end.
  void play(std::shared_ptr<const Session> session, std::shared_ptr<const MediaFacts> facts, Frame to = 0,
            Listening listening = {}, std::shared_ptr<const PluginCatalogue> plugins = {});
  /// From the position, which lies in it, to the end of a lap, and then the lap over and over, without a gap.
  void playLaps(std::shared_ptr<const Session> session, std::shared_ptr<const MediaFacts> facts, TimeSpan lap,
                Listening listening = {}, std::shared_ptr<const PluginCatalogue> plugins = {});
  /// The join of a loop over and over.
  void playSeam(std::shared_ptr<const Session> session, SeamLoop seam);
  /// Whether what is played is played again and again, without a gap.
  void setLooping(bool on);
  bool isLooping() const { return looping_; }
  void stop();
  /// Whether media are converted before what is to be played can be heard, and how far that is: 0 … 1.
  bool isPreparing() const { return isPreparing_; }
  double preparedPortion() const { return player_ ? player_->preparing().portion() : 1; }

 signals:
  void positionChanged(octaphon::Frame frame);
  void playingChanged(bool playing);
  void loudnessChanged(double momentary, double integrated);  ///< LUFS since it began; kNoLoudness: not known
  void levelsChanged(float left, float right);                ///< peaks since the last time, full scale 1
  void preparingChanged(bool preparing);
  void problem(const QString& text);

 private:
  void tick();
  void begin();
  void beginWith(const std::function<void()>& start);
  void letGo();
  void tellPreparing(bool on);

  MediaCache& cache_;
  PluginPasses* plugins_;
  OpenOutput open_;
  QThreadPool ending_;  // players on their last block
  std::function<std::unique_ptr<Player>()> makePlayer_;
  std::unique_ptr<Player> player_;
  std::unique_ptr<SoundOutput> output_;
  QTimer timer_;
  int rate_ = 48000;
  Frame position_ = 0;
  Frame begin_ = 0;  // of a lap
  Frame end_ = 0;
  Listening listening_;
  bool looping_ = false;
  bool isPreparing_ = false;
  bool isLap_ = false;  // what is played now goes round, whatever is set
};

}  // namespace octaphon::app
