// The track tree: who is in whom, and the order in which tracks count everywhere.
#pragma once

#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "session/session.h"
#include "session/strip.h"

namespace octaphon {

/// Needs a session without circles, as readSession() gives it. Strips that are no track of the session may
/// not be asked for.
class TrackTree {
 public:
  explicit TrackTree(const Session& session);

  /// All tracks depth first: a group, then what is in it. Main is not among them.
  const std::vector<Strip>& order() const { return order_; }
  /// Place of a track in order().
  int place(Strip track) const { return place_[track.track()]; }
  Strip parent(Strip track) const { return parent_[track.track()]; }
  int depth(Strip track) const { return depth_[track.track()]; }  ///< 0 right below main
  /// Children of a group, or of main.
  const std::vector<Strip>& children(Strip group) const { return children_[group.slot()]; }
  /// Whether it or a group around it is muted.
  bool isMuted(Strip track) const { return muted_[track.track()] != 0; }
  /// Whether it or a group around it is a helper, which is in no sum and no file.
  bool isHelper(Strip track) const { return helper_[track.track()] != 0; }
  /// Whether `track` is `group` or anywhere inside it; everything is inside main.
  bool isInside(Strip track, Strip group) const;
  /// A track, group or return by its id; nothing where there is none.
  std::optional<Strip> find(const std::string& id) const;
  /// The group right below main that a track is in; the track itself where it stands there.
  Strip outermost(Strip track) const;
  std::size_t size() const { return parent_.size(); }

 private:
  std::vector<Strip> order_, parent_;
  std::vector<int> place_, last_, depth_;
  std::vector<char> muted_, helper_;
  std::vector<std::vector<Strip>> children_;  // by slot
  std::unordered_map<std::string, Strip> byId_;
};

}  // namespace octaphon
