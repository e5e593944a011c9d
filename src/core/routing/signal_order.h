// The order in which strips can be worked through so that everything a strip needs is there: what is in it,
// what is sent to it, and what its key inputs hear. Sends that would make a sound feed itself are found and
// not followed.
#pragma once

#include <string>
#include <unordered_map>
#include <vector>

#include "routing/track_tree.h"

namespace octaphon {

/// A place where a send may lead.
struct SendTarget {
  int strip = TrackTree::kMain;  ///< the return, or where the insert is; main is TrackTree::kMain
  int insert = -1;               ///< index in its chain whose key input is fed; −1 for a return
  bool isKnown = false;
};

/// A send with its track.
struct SendPlace {
  int track;
  int send;
  bool operator==(const SendPlace&) const = default;
};

class SignalOrder {
 public:
  explicit SignalOrder(const TrackTree& tree, const Session& session);

  /// Place of a strip (or of main, the last one) in the order.
  int rank(int strip) const { return rank_[static_cast<std::size_t>(strip + 1)]; }
  /// Strips by rank; the last is TrackTree::kMain.
  const std::vector<int>& strips() const { return strips_; }

  SendTarget target(const std::string& id) const;
  /// Sends that feed the key input of an insert of a strip, in track order.
  const std::vector<SendPlace>& keySends(int strip, int insert) const;
  /// Whether anything is sent anywhere: without, every sound just goes up its groups.
  bool hasSends() const { return hasSends_; }

  /// Sends that are not followed, because a sound would come back to where it left.
  const std::vector<SendPlace>& feedback() const { return feedback_; }
  bool isFeedback(int track, int send) const;

 private:
  void collectTargets(const Session& session);
  void order(const TrackTree& tree, const Session& session);

  std::vector<int> rank_;  // by strip + 1
  std::vector<int> strips_;
  std::unordered_map<std::string, SendTarget> targets_;
  std::unordered_map<long long, std::vector<SendPlace>> keySends_;
  std::vector<SendPlace> feedback_;
  bool hasSends_ = false;
};

}  // namespace octaphon
