// What mouse and keys do on the timeline: select, move, trim, fade and split clips; draw, move and size
// regions; move markers; order tracks. Every drag is one step of undo; Esc drops it; Alt leaves snapping out.
#pragma once

#include <functional>
#include <QMouseEvent>

#include "app/timeline/timeline_view.h"

namespace octaphon::app {

class TimelineGestures {
 public:
  TimelineGestures(TimelineView& view, Document& document, Selected& selected)
      : view_(view), document_(document), selected_(selected) {}

  void press(const QMouseEvent& event);
  void move(const QMouseEvent& event);
  void release();
  /// Selects what a menu is about, unless it is among what is selected.
  void selectFor(const TimelineHit& hit);
  void cancel();
  bool isPressed() const { return pressed_; }
  /// Whether the key was one of these: Esc, Ctrl+arrows (clips one by one; with Alt more of them), Alt+← →
  /// (nudge).
  bool key(const QKeyEvent& event);
  const TimelineGhost& ghost() const { return ghost_; }

  /// The nearest place to snap to within reach, or the frame itself.
  Frame snapped(Frame frame, bool withoutSnapping) const;

 private:
  void offerThings(Frame frame, Frame reach, const std::function<void(Frame)>& offer) const;
  void select(const TimelineHit& hit, Qt::KeyboardModifiers modifiers);
  void dropClips();
  void dropRegion();
  void dropHead();
  void takeBand();
  void stepClip(int along, int across, bool extend);
  Frame grabbed() const;  // the edge that is dragged, or where the thing begins
  Frame grabbedEnd() const;

  TimelineView& view_;
  Document& document_;
  Selected& selected_;
  TimelineGhost ghost_;
  QPoint from_;
  Frame fromFrame_ = 0;
  bool pressed_ = false;
};

}  // namespace octaphon::app
