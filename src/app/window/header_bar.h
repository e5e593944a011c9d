// The line at the top: session, transport, position, zoom.
#pragma once

#include <QLabel>
#include <QWidget>

#include "app/commands/commands.h"
#include "base/tempo_map.h"

namespace octaphon::app {

class HeaderBar : public QWidget {
  Q_OBJECT
 public:
  HeaderBar(Work& work, Commands& commands, QWidget* search, QWidget* parent = nullptr);

  QString loudnessText() const { return loudness_->text(); }
  QString positionText() const { return bars_->text() + " " + time_->text(); }
  QString listeningText() const { return listening_->text(); }

 private:
  void makeLabels();
  void layOut(Commands& commands, QWidget* search);
  void connectWork();
  void showSession();
  void showModified();
  void showPosition();
  void showListening();
  /// LUFS while playing: of the moment, and since playing began.
  void showLoudness(double momentary, double integrated);

  Work& work_;
  QLabel* name_;
  QLabel* saved_;
  QLabel* bars_;
  QLabel* time_;
  QLabel* listening_;
  QWidget* levels_;
  QLabel* loudness_;
  TempoMap tempo_;
};

}  // namespace octaphon::app
