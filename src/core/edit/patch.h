// The difference between two states of a session, for undo: as large as what changed, not as the session.
#pragma once

#include <algorithm>
#include <functional>
#include <memory>
#include <utility>
#include <vector>

#include "session/session.h"

namespace octaphon {

/// How one list became another. Lists of one length keep only the places that differ; others what lies
/// between their common beginning and end.
template <class Thing>
class ListPatch {
 public:
  ListPatch() = default;
  ListPatch(const std::vector<Thing>& before, const std::vector<Thing>& after) {
    if (before.size() == after.size()) {
      for (std::size_t i = 0; i < before.size(); ++i)
        if (!(before[i] == after[i])) places_.push_back({i, before[i], after[i]});
      return;
    }
    const std::size_t shorter = std::min(before.size(), after.size());
    while (from_ < shorter && before[from_] == after[from_]) ++from_;
    std::size_t same = 0;
    while (same < shorter - from_ && before[before.size() - 1 - same] == after[after.size() - 1 - same])
      ++same;
    const auto cut = [&](const std::vector<Thing>& list) {
      return std::vector<Thing>(list.begin() + static_cast<std::ptrdiff_t>(from_),
                                list.end() - static_cast<std::ptrdiff_t>(same));
    };
    old_ = cut(before);
    new_ = cut(after);
  }

  bool empty() const { return places_.empty() && old_.empty() && new_.empty(); }
  /// Calls change(thing) for each that it keeps.
  template <class Visit>
  void forEach(const Visit& change) {
    for (Place& place : places_) change(place.before), change(place.after);
    for (auto* list : {&old_, &new_})
      for (Thing& thing : *list) change(thing);
  }
  void redo(std::vector<Thing>& list) const {
    for (const Place& place : places_) list[place.index] = place.after;
    replace(list, old_, new_);
  }
  void undo(std::vector<Thing>& list) const {
    for (const Place& place : places_) list[place.index] = place.before;
    replace(list, new_, old_);
  }

 private:
  struct Place {
    std::size_t index;
    Thing before, after;
  };
  void replace(std::vector<Thing>& list, const std::vector<Thing>& gone,
               const std::vector<Thing>& come) const {
    const auto begin = list.begin() + static_cast<std::ptrdiff_t>(from_);
    const auto at = list.erase(begin, begin + static_cast<std::ptrdiff_t>(gone.size()));
    list.insert(at, come.begin(), come.end());
  }

  std::vector<Place> places_;
  std::size_t from_ = 0;
  std::vector<Thing> old_, new_;
};

/// The parts of a session, as bits.
enum SessionPart : unsigned {
  kBasics = 1,  ///< title, notes, rates, main, facts of paths
  kTempo = 2,
  kMedia = 4,
  kTracks = 8,  ///< with clips
  kRegions = 16,
  kMarkers = 32,
  kClipSets = 64,
  kBriefs = 128,
  kAllParts = 255,
};

/// Everything that a session's description names is told apart; the file it lies in is not.
class SessionPatch {
 public:
  using MediumVisitor = std::function<void(Medium&)>;
  /// One field of the session, before and after.
  class Change {
   public:
    virtual ~Change() = default;
    virtual void redo(Session& session) const = 0;
    virtual void undo(Session& session) const = 0;
    virtual void forEachMedium(const MediumVisitor&) {}
  };

  /// Only `parts` (bits of SessionPart) may differ: others are not compared.
  SessionPatch(const Session& before, const Session& after, unsigned parts = kAllParts);

  bool empty() const { return changes_.empty(); }
  /// SessionPart bits of what it changes.
  unsigned parts() const { return parts_; }
  /// Needs the session in the state before, or after.
  void redo(Session& session) const;
  void undo(Session& session) const;
  /// Calls change(medium) for each it keeps: where the session has moved, their paths are others.
  void forEachMedium(const MediumVisitor& change) {
    for (const auto& each : changes_) each->forEachMedium(change);
  }

 private:
  unsigned parts_ = 0;
  std::vector<std::shared_ptr<Change>> changes_;
};

}  // namespace octaphon
