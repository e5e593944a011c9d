// What keys do on the timeline without a mouse: a row of it is the current one (regions, markers, a track,
// main), the play line is the place in time. ← → place the line, with Shift they stretch a time range from
// where it was; ↑ ↓ choose the row; Return selects what is there, with Shift one more; Ctrl+← → go from
// region to region, or from marker to marker.
#pragma once

#include <optional>
#include <QKeyEvent>
#include <QRect>
#include <string>
#include <vector>

#include "app/timeline/timeline_view.h"

namespace octaphon::app {

class TimelineKeys {
 public:
  TimelineKeys(TimelineView& view, Work& work) : view_(view), work_(work) {}

  /// Whether it was one of these.
  bool press(const QKeyEvent& event);
  /// The thing that a menu of the keyboard is about, and where it opens.
  TimelineHit menuHit() const;
  QPoint menuPlace() const;
  /// The current row, in the viewport; empty while it is not to be seen.
  QRect rowBox() const;
  bool isCurrent(Strip track) const { return kind_ == Kind::Track && track_ == idOf(track); }
  bool isOnRegions() const { return kind_ == Kind::Regions; }
  bool isOnMarkers() const { return kind_ == Kind::Markers; }
  /// Another session: its first track is the current row.
  void begin();
  /// A click makes a row the current one too.
  void follow(const TimelineHit& hit);

 private:
  enum class Kind { Regions, Markers, Track };
  struct Row {
    Kind kind;
    std::string track;  ///< id; empty: main
  };
  std::vector<Row> rows() const;
  std::string idOf(Strip track) const;
  Strip current() const;
  void step(int by);
  void choose(bool more);
  std::optional<std::size_t> regionHere() const;
  std::optional<std::size_t> markerHere() const;
  void stepMarker(int by);
  void moveLine(Frame to, bool stretches);
  Frame stepFrom(Frame at, int direction) const;
  void tell() const;

  TimelineView& view_;
  Work& work_;
  Kind kind_ = Kind::Track;
  std::string track_;
  std::optional<Frame> anchor_;  // that a time range is stretched from
};

}  // namespace octaphon::app
