// The track tree: who is in whom, and the order in which tracks count everywhere.
#pragma once

#include <string>
#include <unordered_map>
#include <vector>

#include "session/session.h"

namespace octaphon {

/// Tracks by their index in Session::tracks. Needs a session without circles, as readSession() gives it.
class TrackTree {
 public:
  static constexpr int kMain = -1;

  explicit TrackTree(const Session& session);

  /// All tracks depth first: a group, then what is in it.
  const std::vector<int>& order() const { return order_; }
  /// Place of a track in order().
  int place(int track) const { return place_[static_cast<std::size_t>(track)]; }
  int parent(int track) const { return parent_[static_cast<std::size_t>(track)]; }
  int depth(int track) const { return depth_[static_cast<std::size_t>(track)]; }  ///< 0 right below main
  /// Children of a group, or of main for kMain.
  const std::vector<int>& children(int group) const { return children_[static_cast<std::size_t>(group + 1)]; }
  /// Whether it or a group around it is muted.
  bool isMuted(int track) const { return muted_[static_cast<std::size_t>(track)] != 0; }
  /// Whether it or a group around it is a helper, which is in no sum and no file.
  bool isHelper(int track) const { return helper_[static_cast<std::size_t>(track)] != 0; }
  /// Whether `track` is `group` or anywhere inside it; everything is inside kMain.
  bool isInside(int track, int group) const;
  /// Index by id; kMain where there is none.
  int find(const std::string& id) const;
  /// The group right below main that a track is in; the track itself where it stands there.
  int outermost(int track) const;
  std::size_t size() const { return parent_.size(); }

 private:
  std::vector<int> order_, place_, last_, parent_, depth_;
  std::vector<char> muted_, helper_;
  std::vector<std::vector<int>> children_;  // [0] is main's
  std::unordered_map<std::string, int> byId_;
};

}  // namespace octaphon
