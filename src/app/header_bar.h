// The line at the top: session, transport, position, zoom.
#pragma once

#include <QAction>
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
  void setPosition(Frame frame);
  QString positionText() const { return bars_->text() + " " + time_->text(); }

 private:
  QLabel* name_;
  QLabel* saved_;
  QLabel* bars_;
  QLabel* time_;
  TempoMap tempo_;
  int rate_ = 48000;
};

}  // namespace octaphon::app
