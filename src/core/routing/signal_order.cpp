#include "routing/signal_order.h"

#include <algorithm>

namespace octaphon {
namespace {

long long keyOf(int strip, int insert) { return (static_cast<long long>(strip) << 16) + insert; }

}  // namespace

SignalOrder::SignalOrder(const TrackTree& tree, const Session& session) {
  collectTargets(session);
  order(tree, session);
  for (const int track : tree.order()) {
    const Track& t = session.tracks[static_cast<std::size_t>(track)];
    for (std::size_t s = 0; s < t.sends.size(); ++s) {
      hasSends_ = true;
      const SendTarget to = target(t.sends[s].to);
      if (to.isKnown && to.insert >= 0 && !isFeedback(track, static_cast<int>(s)))
        keySends_[keyOf(to.strip, to.insert)].push_back({track, static_cast<int>(s)});
    }
  }
}

void SignalOrder::collectTargets(const Session& session) {
  const auto addInserts = [&](int strip, const std::vector<Insert>& inserts) {
    for (std::size_t i = 0; i < inserts.size(); ++i)
      targets_.emplace(inserts[i].id, SendTarget{strip, static_cast<int>(i), true});
  };
  for (std::size_t t = 0; t < session.tracks.size(); ++t) {
    const Track& track = session.tracks[t];
    if (track.isReturn()) targets_.emplace(track.id, SendTarget{static_cast<int>(t), -1, true});
    addInserts(static_cast<int>(t), track.inserts);
  }
  addInserts(TrackTree::kMain, session.main.inserts);
}

/// Sends are taken one after the other, in track order; one that leads back to where it leaves is not. Then
/// strips are placed depth first: each in front of all that it feeds.
void SignalOrder::order(const TrackTree& tree, const Session& session) {
  const std::size_t count = session.tracks.size() + 1;
  const auto at = [](int strip) { return static_cast<std::size_t>(strip + 1); };
  std::vector<std::vector<int>> feeds(count);  // by strip + 1
  for (const int track : tree.order()) feeds[at(track)].push_back(tree.parent(track));
  std::vector<int> seen(count, 0);
  int search = 0;
  const auto leads = [&](int from, int to) {
    std::vector<int> open{from};
    for (++search; !open.empty();) {
      const int strip = open.back();
      open.pop_back();
      if (strip == to) return true;
      if (seen[at(strip)] == search) continue;
      seen[at(strip)] = search;
      open.insert(open.end(), feeds[at(strip)].begin(), feeds[at(strip)].end());
    }
    return false;
  };
  for (const int track : tree.order()) {
    const std::vector<Send>& sends = session.tracks[static_cast<std::size_t>(track)].sends;
    for (std::size_t s = 0; s < sends.size(); ++s) {
      const SendTarget to = target(sends[s].to);
      if (!to.isKnown) continue;
      if (leads(to.strip, track))
        feedback_.push_back({track, static_cast<int>(s)});
      else
        feeds[at(track)].push_back(to.strip);
    }
  }
  std::vector<char> placed(count, 0);
  std::vector<std::pair<int, std::size_t>> steps;  // a strip, and how many of what it feeds were looked at
  const auto place = [&](int first) {
    if (placed[at(first)] != 0) return;
    placed[at(first)] = 1;
    steps.push_back({first, 0});
    while (!steps.empty()) {
      const int strip = steps.back().first;
      if (steps.back().second == feeds[at(strip)].size()) {
        strips_.push_back(strip);
        steps.pop_back();
        continue;
      }
      const int next = feeds[at(strip)][steps.back().second++];
      if (placed[at(next)] != 0) continue;
      placed[at(next)] = 1;
      steps.push_back({next, 0});
    }
  };
  place(TrackTree::kMain);
  for (auto it = tree.order().rbegin(); it != tree.order().rend(); ++it) place(*it);
  std::reverse(strips_.begin(), strips_.end());
  rank_.resize(count);
  for (std::size_t i = 0; i < strips_.size(); ++i) rank_[at(strips_[i])] = static_cast<int>(i);
}

SendTarget SignalOrder::target(const std::string& id) const {
  const auto found = targets_.find(id);
  return found == targets_.end() ? SendTarget{} : found->second;
}

const std::vector<SendPlace>& SignalOrder::keySends(int strip, int insert) const {
  static const std::vector<SendPlace> kNone;
  const auto found = keySends_.find(keyOf(strip, insert));
  return found == keySends_.end() ? kNone : found->second;
}

bool SignalOrder::isFeedback(int track, int send) const {
  return !feedback_.empty() &&
         std::find(feedback_.begin(), feedback_.end(), SendPlace{track, send}) != feedback_.end();
}

}  // namespace octaphon
