#include "edit/patch.h"

#include "session/description.h"

namespace octaphon {
namespace {

template <class Value>
inline constexpr SessionPart kPartOf = kBasics;
template <>
inline constexpr SessionPart kPartOf<std::vector<TempoPoint>> = kTempo;
template <>
inline constexpr SessionPart kPartOf<std::vector<Medium>> = kMedia;
template <>
inline constexpr SessionPart kPartOf<std::vector<Track>> = kTracks;
template <>
inline constexpr SessionPart kPartOf<SharedList<Region>> = kRegions;
template <>
inline constexpr SessionPart kPartOf<std::vector<MarkerSet>> = kMarkers;
template <>
inline constexpr SessionPart kPartOf<SharedList<ClipSet>> = kClipSets;
template <>
inline constexpr SessionPart kPartOf<std::vector<Brief>> = kBriefs;

/// A single value.
template <class TheField, class Value>
struct ValueChange : SessionPatch::Change {
  ValueChange(const Value& a, const Value& b) : before(a), after(b) {}
  void redo(Session& session) const override { TheField::in(session) = after; }
  void undo(Session& session) const override { TheField::in(session) = before; }
  Value before, after;
};

template <class Thing>
std::vector<Thing>& writable(std::vector<Thing>& list) {
  return list;
}
template <class Thing>
std::vector<Thing>& writable(SharedList<Thing>& list) {
  return list.writable();
}

template <class TheField, class Thing>
struct ListChange : SessionPatch::Change {
  ListChange(const std::vector<Thing>& before, const std::vector<Thing>& after) : patch(before, after) {}
  void redo(Session& session) const override { patch.redo(writable(TheField::in(session))); }
  void undo(Session& session) const override { patch.undo(writable(TheField::in(session))); }
  void forEachMedium(const SessionPatch::MediumVisitor& change) override {
    if constexpr (std::is_same_v<Thing, Medium>) patch.forEach(change);
  }
  ListPatch<Thing> patch;
};

/// Tracks that stay where they are and keep all but their clips: only clips that changed are kept; where that
/// is much of a track, its lists are shared instead.
struct ClipsChange : SessionPatch::Change {
  ClipsChange(const std::vector<Track>& before, const std::vector<Track>& after) {
    for (std::size_t t = 0; t < before.size(); ++t) {
      const SharedList<Clip>&was = before[t].clips, &is = after[t].clips;
      if (was.isSharedWith(is)) continue;
      if (isMuch(was, is))
        lists.push_back({t, was, is});
      else if (ListPatch<Clip> clips(was, is); !clips.empty())
        tracks.emplace_back(t, std::move(clips));
    }
  }
  void redo(Session& session) const override {
    for (const auto& [track, clips] : tracks) clips.redo(session.tracks[track].clips.writable());
    for (const Lists& list : lists) session.tracks[list.track].clips = list.after;
  }
  void undo(Session& session) const override {
    for (const auto& [track, clips] : tracks) clips.undo(session.tracks[track].clips.writable());
    for (const Lists& list : lists) session.tracks[list.track].clips = list.before;
  }

 private:
  struct Lists {
    std::size_t track;
    SharedList<Clip> before, after;
  };
  /// More than half of a list of some length, going by some of them.
  static bool isMuch(const std::vector<Clip>& was, const std::vector<Clip>& is) {
    constexpr std::size_t kLeast = 16, kLooks = 16;
    if (was.size() != is.size() || was.size() < kLeast) return false;
    std::size_t differ = 0;
    for (std::size_t look = 0; look < kLooks; ++look) {
      const std::size_t at = look * was.size() / kLooks;
      differ += was[at] == is[at] ? 0 : 1;
    }
    return 2 * differ > kLooks;
  }

  std::vector<std::pair<std::size_t, ListPatch<Clip>>> tracks;
  std::vector<Lists> lists;
};

bool onlyClipsDiffer(const std::vector<Track>& before, const std::vector<Track>& after) {
  return std::equal(before.begin(), before.end(), after.begin(), after.end(),
                    [](const Track& a, const Track& b) {
                      return equalBut<&Track::clips>(a, b) && a.unknownKeys == b.unknownKeys;
                    });
}

template <class TheField, class Value>
std::shared_ptr<SessionPatch::Change> changeOf(const Value& before, const Value& after) {
  return std::make_shared<ValueChange<TheField, Value>>(before, after);
}
template <class TheField, class Thing>
std::shared_ptr<SessionPatch::Change> changeOf(const std::vector<Thing>& before,
                                               const std::vector<Thing>& after) {
  if constexpr (std::is_same_v<Thing, Track>)
    if (onlyClipsDiffer(before, after)) return std::make_shared<ClipsChange>(before, after);
  return std::make_shared<ListChange<TheField, Thing>>(before, after);
}
template <class TheField, class Thing>
std::shared_ptr<SessionPatch::Change> changeOf(const SharedList<Thing>& before,
                                               const SharedList<Thing>& after) {
  return changeOf<TheField, Thing>(before.all(), after.all());
}

}  // namespace

SessionPatch::SessionPatch(const Session& before, const Session& after, unsigned parts) {
  forEachField<Session>([&](const auto& field) {
    const auto& was = field.in(before);
    const auto& is = field.in(after);
    constexpr SessionPart kPart = kPartOf<std::remove_cvref_t<decltype(was)>>;
    if ((parts & kPart) == 0 || was == is) return;
    parts_ |= kPart;
    changes_.push_back(changeOf<std::remove_cvref_t<decltype(field)>>(was, is));
  });
}

void SessionPatch::redo(Session& session) const {
  for (const auto& change : changes_) change->redo(session);
}

void SessionPatch::undo(Session& session) const {
  for (const auto& change : changes_) change->undo(session);
}

}  // namespace octaphon
