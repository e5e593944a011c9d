// Clips as edits find them: by id, with what belongs together.
#pragma once

#include <string>
#include <vector>

#include "base/id_set.h"
#include "session/session.h"

namespace octaphon {

using ClipIds = IdSet;

/// What an edit did. Locked things are passed over and counted.
struct EditCount {
  std::size_t changed = 0;
  std::size_t locked = 0;
};

/// Where a clip is.
struct ClipPlace {
  std::size_t track;
  std::size_t clip;
};

/// Places of the clips, by track, then by place on the track.
std::vector<ClipPlace> placesOf(const Session& session, const ClipIds& ids);
inline const Clip& clipAt(const Session& session, ClipPlace place) {
  return session.tracks[place.track].clips[place.clip];
}
bool isLocked(const Session& session, ClipPlace place);
/// Whether both have the same clips, by their ids and in the same order; lists that they share are not looked
/// at.
bool haveSameClips(const Session& a, const Session& b);

/// The clips and those that go together with them: on tracks of the same link, a clip that overlaps a chosen
/// one by more than half of the shorter of the two.
ClipIds withLinked(const Session& session, const ClipIds& ids);

/// Ids of the clips that sound in a stretch of time, muted ones included.
ClipIds clipsIn(const Session& session, const TimeSpan& span);

}  // namespace octaphon
