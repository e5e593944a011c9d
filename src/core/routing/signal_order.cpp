#include "routing/signal_order.h"

#include <algorithm>

namespace octaphon {

SignalOrder::SignalOrder(const TrackTree& tree, const Session& session) : feeds_(session.tracks.size() + 1) {
  collectTargets(session);
  findFeedback(tree, session);
  placeAll(tree);
  for (const Strip track : tree.order()) {
    const std::vector<Send>& sends = session.tracks[track.track()].sends;
    for (std::size_t s = 0; s < sends.size(); ++s) {
      hasSends_ = true;
      const auto to = target(sends[s].to);
      if (to && to->insert && !isFeedback(track, s))
        keySends_[{to->strip, *to->insert}].push_back({track, s});
    }
  }
}

void SignalOrder::collectTargets(const Session& session) {
  const auto addInserts = [&](Strip strip, const std::vector<Insert>& inserts) {
    for (std::size_t i = 0; i < inserts.size(); ++i) targets_.emplace(inserts[i].id, SendTarget{strip, i});
  };
  for (std::size_t t = 0; t < session.tracks.size(); ++t) {
    const Track& track = session.tracks[t];
    if (track.isReturn()) targets_.emplace(track.id, SendTarget{Strip(t), {}});
    addInserts(Strip(t), track.inserts);
  }
  addInserts(Strip::main(), session.main.inserts);
}

/// Sends are taken one after the other, in track order; one that leads back to where it leaves is not.
void SignalOrder::findFeedback(const TrackTree& tree, const Session& session) {
  for (const Strip track : tree.order()) feeds_[track.slot()].push_back(tree.parent(track));
  for (const Strip track : tree.order()) {
    const std::vector<Send>& sends = session.tracks[track.track()].sends;
    for (std::size_t s = 0; s < sends.size(); ++s) {
      const auto to = target(sends[s].to);
      if (!to) continue;
      if (leads(to->strip, track))
        feedback_.push_back({track, s});
      else
        feeds_[track.slot()].push_back(to->strip);
    }
  }
}

bool SignalOrder::leads(Strip from, Strip to) const {
  std::vector<char> seen(feeds_.size(), 0);
  std::vector<Strip> open{from};
  while (!open.empty()) {
    const Strip strip = open.back();
    open.pop_back();
    if (strip == to) return true;
    if (std::exchange(seen[strip.slot()], 1) != 0) continue;
    open.insert(open.end(), feeds_[strip.slot()].begin(), feeds_[strip.slot()].end());
  }
  return false;
}

/// Depth first: each strip in front of all that it feeds.
void SignalOrder::placeAll(const TrackTree& tree) {
  std::vector<char> placed(feeds_.size(), 0);
  std::vector<std::pair<Strip, std::size_t>> steps;  // a strip, and how many of what it feeds were looked at
  const auto begin = [&](Strip strip) {
    if (std::exchange(placed[strip.slot()], 1) == 0) steps.push_back({strip, 0});
  };
  const auto place = [&](Strip first) {
    begin(first);
    while (!steps.empty()) {
      auto& [strip, looked] = steps.back();
      const std::vector<Strip>& feeds = feeds_[strip.slot()];
      if (looked < feeds.size()) {
        begin(feeds[looked++]);
        continue;
      }
      strips_.push_back(strip);
      steps.pop_back();
    }
  };
  place(Strip::main());
  for (auto track = tree.order().rbegin(); track != tree.order().rend(); ++track) place(*track);
  std::reverse(strips_.begin(), strips_.end());
  rank_.resize(feeds_.size());
  for (std::size_t i = 0; i < strips_.size(); ++i) rank_[strips_[i].slot()] = static_cast<int>(i);
}

std::optional<SendTarget> SignalOrder::target(const std::string& id) const {
  const auto found = targets_.find(id);
  return found == targets_.end() ? std::nullopt : std::optional(found->second);
}

const std::vector<SendPlace>& SignalOrder::keySends(Strip strip, std::size_t insert) const {
  static const std::vector<SendPlace> kNone;
  const auto found = keySends_.find({strip, insert});
  return found == keySends_.end() ? kNone : found->second;
}

bool SignalOrder::isFeedback(Strip track, std::size_t send) const {
  return std::find(feedback_.begin(), feedback_.end(), SendPlace{track, send}) != feedback_.end();
}

}  // namespace octaphon
