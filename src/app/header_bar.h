// The line at the top: session, transport, position, zoom.
#pragma once

#include <QAction>
#include <QHBoxLayout>
#include <QLabel>
#include <QWidget>

#include "base/tempo_map.h"
#include "document.h"

namespace octaphon::app {

class HeaderBar : public QWidget {
  Q_OBJECT
 public:
  /// Buttons show these actions, in this order: play, stop, previous, next | zoom in, zoom out, whole
  /// session.
  HeaderBar(const QList<QAction*>& transport, const QList<QAction*>& zoom, QWidget* parent = nullptr);

  void setSession(const Session& session, bool open);
  void setModified(bool modified);
  /// Words that stand there while listening is not to everything.
  void setListening(const QString& words);
  void setTimecode(bool on);
  void setLevels(float left, float right);
  /// LUFS while playing: of the moment, and since playing began.
  void setLoudness(double momentary, double integrated);
  QString loudnessText() const { return loudness_->text(); }
  /// Puts a field between position and zoom.
  void addSearch(QWidget* field);
  void setPosition(Frame frame);
  QString positionText() const { return bars_->text() + " " + time_->text(); }

 private:
  QLabel* name_;
  QLabel* saved_;
  QLabel* bars_;
  QLabel* time_;
  QLabel* listening_;
  QWidget* levels_;
  QLabel* loudness_;
  QHBoxLayout* layout_;
  int searchAt_ = 0;
  TempoMap tempo_;
  PictureRate pictures_;
  Frame startPicture_ = 0;
  bool timecode_ = false;
  Frame position_ = 0;
  int rate_ = 48000;
};

}  // namespace octaphon::app
