// The way of one source from its clips to main, drawn as a line with its stages as stations; how far the
// brief hears it is the thick part. Left and right step, Ctrl+left and right move an insert, Delete takes it
// out.
#pragma once

#include <optional>
#include <QWidget>

#include "app/look/painted_parts.h"
#include "app/work/document.h"
#include "routing/effect_info.h"
#include "session/strip.h"

namespace octaphon::app {

struct Station {
  enum class What { Clips, Insert, Fader };
  What what = What::Clips;
  Strip strip;
  std::size_t insert = 0;  ///< of inserts
  bool isOfClip = false;   ///< an insert of the clip that is shown
  QString name, detail;
  bool isOn = true;
  bool isHeard = true;  ///< whether the brief reaches it
  bool operator==(const Station&) const = default;
};

class SignalLine : public QWidget, public PaintedView {
  Q_OBJECT
 public:
  explicit SignalLine(QWidget* parent = nullptr);

  /// Of main, that alone. `clip`: one of its clips, whose inserts come first; may be null. `brief` may be
  /// null: then all of it is heard.
  void show(std::shared_ptr<const Session> session, Strip strip, const Clip* clip, const Brief* brief,
            const PluginCatalogue* plugins);
  /// The session that the stations' strips count in.
  const Session& session() const { return *session_; }
  const std::vector<Station>& stations() const { return stations_; }
  int current() const { return current_; }
  const Station* currentStation() const;
  void setCurrent(int index);
  QRect placeOf(int station) const;
  QSize sizeHint() const override;

  std::vector<PaintedPart> paintedParts() override;
  unsigned paintedRevision() const override { return revision_; }

 signals:
  void currentChanged();
  void moveWanted(int by);
  void removeWanted();

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;
  bool event(QEvent* event) override;

 private:
  int lastHeard() const;  // index of the last station that is heard
  void paintLine(QPainter& painter) const;
  void paintCurrent(QPainter& painter) const;
  void paintStripName(QPainter& painter, int station) const;
  void paintStation(QPainter& painter, int station) const;
  void paintLabel(QPainter& painter, int station) const;
  void addInserts(const std::vector<Insert>& inserts, Strip strip, bool isOfClip,
                  const PluginCatalogue* plugins);
  void addStrip(const Session& session, Strip strip, const PluginCatalogue* plugins);
  void markReach(const Session& session, Strip strip, const Brief& brief);
  QString stripName(Strip strip) const;

  std::shared_ptr<const Session> session_ = std::make_shared<Session>();
  std::vector<Station> stations_;
  int current_ = 0;
  unsigned revision_ = 0;  // of what is shown
};

}  // namespace octaphon::app
