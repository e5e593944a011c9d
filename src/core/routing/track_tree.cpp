#include "routing/track_tree.h"

namespace octaphon {

TrackTree::TrackTree(const Session& session) {
  const std::size_t count = session.tracks.size();
  place_.resize(count);
  last_.resize(count);
  parent_.assign(count, kMain);
  depth_.resize(count);
  muted_.resize(count);
  helper_.resize(count);
  children_.resize(count + 1);
  for (std::size_t i = 0; i < count; ++i) byId_.emplace(session.tracks[i].id, static_cast<int>(i));
  for (std::size_t i = 0; i < count; ++i) {
    const std::string& group = session.tracks[i].group;
    parent_[i] = group.empty() ? kMain : find(group);
    children_[static_cast<std::size_t>(parent_[i] + 1)].push_back(static_cast<int>(i));
  }
  // Depth first without recursion: groups may be nested as deep as a file says.
  std::vector<int> open(children_[0].rbegin(), children_[0].rend());
  while (!open.empty()) {
    const auto track = static_cast<std::size_t>(open.back());
    open.pop_back();
    place_[track] = static_cast<int>(order_.size());
    order_.push_back(static_cast<int>(track));
    const int up = parent_[track];
    depth_[track] = up == kMain ? 0 : depth(up) + 1;
    muted_[track] = session.tracks[track].mute || (up != kMain && isMuted(up));
    helper_[track] = session.tracks[track].helper || (up != kMain && isHelper(up));
    open.insert(open.end(), children_[track + 1].rbegin(), children_[track + 1].rend());
  }
  for (auto it = order_.rbegin(); it != order_.rend(); ++it) {
    const auto track = static_cast<std::size_t>(*it);
    last_[track] = children_[track + 1].empty()
                       ? place_[track]
                       : last_[static_cast<std::size_t>(children_[track + 1].back())];
  }
}

bool TrackTree::isInside(int track, int group) const {
  if (group == kMain) return true;
  return place(track) >= place(group) && place(track) <= last_[static_cast<std::size_t>(group)];
}

int TrackTree::outermost(int track) const {
  while (parent(track) != kMain) track = parent(track);
  return track;
}

int TrackTree::find(const std::string& id) const {
  const auto found = byId_.find(id);
  return found == byId_.end() ? kMain : found->second;
}

}  // namespace octaphon
