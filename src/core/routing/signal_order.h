// The order in which strips can be worked through so that everything a strip needs is there: what is in it,
// what is sent to it, and what its key inputs hear. Sends that would make a sound feed itself are found and
// not followed.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "routing/track_tree.h"

namespace octaphon {

/// A place where a send may lead.
struct SendTarget {
  Strip strip;                        ///< the return, or where the insert is
  std::optional<std::size_t> insert;  ///< index in its chain whose key input is fed; of a return nothing
};

/// A send with its track.
struct SendPlace {
  Strip track;
  std::size_t send;
  bool operator==(const SendPlace&) const = default;
};

class SignalOrder {
 public:
  explicit SignalOrder(const TrackTree& tree, const Session& session);

  /// Place of a strip (or of main, the last one) in the order.
  int rank(Strip strip) const { return rank_[strip.slot()]; }
  /// Strips by rank; the last is main.
  const std::vector<Strip>& strips() const { return strips_; }

  /// Nothing where the id is neither a return's nor an insert's.
  std::optional<SendTarget> target(const std::string& id) const;
  /// Sends that feed the key input of an insert of a strip, in track order.
  const std::vector<SendPlace>& keySends(Strip strip, std::size_t insert) const;
  /// Whether anything is sent anywhere: without, every sound just goes up its groups.
  bool hasSends() const { return hasSends_; }

  /// Sends that are not followed, because a sound would come back to where it left.
  const std::vector<SendPlace>& feedback() const { return feedback_; }
  bool isFeedback(Strip track, std::size_t send) const;

 private:
  void collectTargets(const Session& session);
  void findFeedback(const TrackTree& tree, const Session& session);
  bool leads(Strip from, Strip to) const;
  void placeAll(const TrackTree& tree);

  std::vector<std::vector<Strip>> feeds_;  // by slot: what it is in, and where it sends
  std::vector<int> rank_;                  // by slot
  std::vector<Strip> strips_;
  std::unordered_map<std::string, SendTarget> targets_;
  std::map<std::pair<Strip, std::size_t>, std::vector<SendPlace>> keySends_;
  std::vector<SendPlace> feedback_;
  bool hasSends_ = false;
};

}  // namespace octaphon
