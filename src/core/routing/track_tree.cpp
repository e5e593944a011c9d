#include "routing/track_tree.h"

namespace octaphon {

TrackTree::TrackTree(const Session& session) {
  const std::size_t count = session.tracks.size();
  place_.resize(count);
  last_.resize(count);
  parent_.resize(count);
  depth_.resize(count);
  muted_.resize(count);
  helper_.resize(count);
  children_.resize(count + 1);
  for (std::size_t i = 0; i < count; ++i) byId_.emplace(session.tracks[i].id, Strip(i));
  for (std::size_t i = 0; i < count; ++i) {
    const std::string& group = session.tracks[i].group;
    parent_[i] = group.empty() ? Strip::main() : find(group).value_or(Strip::main());
    children_[parent_[i].slot()].push_back(Strip(i));
  }
  // Depth first without recursion: groups may be nested as deep as a file says.
  std::vector<Strip> open(children_[0].rbegin(), children_[0].rend());
  while (!open.empty()) {
    const Strip strip = open.back();
    open.pop_back();
    const std::size_t track = strip.track();
    place_[track] = static_cast<int>(order_.size());
    order_.push_back(strip);
    const Strip up = parent_[track];
    depth_[track] = up.isMain() ? 0 : depth(up) + 1;
    muted_[track] = session.tracks[track].mute || (!up.isMain() && isMuted(up));
    helper_[track] = session.tracks[track].helper || (!up.isMain() && isHelper(up));
    open.insert(open.end(), children(strip).rbegin(), children(strip).rend());
  }
  for (auto strip = order_.rbegin(); strip != order_.rend(); ++strip)
    last_[strip->track()] = children(*strip).empty() ? place(*strip) : last_[children(*strip).back().track()];
}

bool TrackTree::isInside(Strip track, Strip group) const {
  if (group.isMain()) return true;
  return place(track) >= place(group) && place(track) <= last_[group.track()];
}

std::optional<Strip> TrackTree::find(const std::string& id) const {
  const auto found = byId_.find(id);
  return found == byId_.end() ? std::nullopt : std::optional(found->second);
}

Strip TrackTree::outermost(Strip track) const {
  while (!parent(track).isMain()) track = parent(track);
  return track;
}

}  // namespace octaphon
