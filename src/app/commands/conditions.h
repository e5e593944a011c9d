// What has to be so for a command to make sense: worked out from the work alone, never listed by hand.
#pragma once

#include "app/work/work.h"

namespace octaphon::app {

struct Conditions {
  bool open = false;      ///< a session is
  bool idle = true;       ///< no files are being made
  bool underway = false;  ///< something that takes long, files that are made among it
  bool free = true;       ///< nothing is on its way into the session, or to take its place
  bool clips = false;     ///< some are selected; so of the next ones
  bool regions = false, tracks = false, clipSets = false, markers = false;
  bool range = false;   ///< a stretch of time is selected
  bool brief = false;   ///< there is one that is looked at
  bool row = false;     ///< one of the sheet's is selected
  bool ownRow = false;  ///< one of them has something of its own
  bool undo = false, redo = false;
  bool due = false, again = false;  ///< files are to make, or can be made again
  bool failed = false;              ///< files that were to be made
  bool leftOver = false;            ///< the folders have left-over files
  bool begun = false;               ///< the brief that is looked at was delivered
  bool numbered = false;            ///< numbers of its names are fixed
};
Conditions conditionsOf(Work& work);

using Needs = bool (*)(const Conditions& now);

namespace needs {
inline bool nothing(const Conditions&) { return true; }
inline bool session(const Conditions& now) { return now.open; }
inline bool clips(const Conditions& now) { return now.open && now.clips; }
inline bool regions(const Conditions& now) { return now.open && now.regions; }
inline bool tracks(const Conditions& now) { return now.open && now.tracks; }
inline bool clipSets(const Conditions& now) { return now.open && now.clipSets; }
inline bool markers(const Conditions& now) { return now.open && now.markers; }
inline bool printable(const Conditions& now) {
  return now.open && (now.clips || now.regions || now.tracks || now.clipSets || now.range);
}
inline bool clipsOrRegions(const Conditions& now) { return now.open && (now.clips || now.regions); }
inline bool clipsOrTracks(const Conditions& now) { return now.open && (now.clips || now.tracks); }
inline bool clipsOrRange(const Conditions& now) { return now.open && (now.clips || now.range); }
inline bool regionsOrRange(const Conditions& now) { return now.open && (now.regions || now.range); }
inline bool timed(const Conditions& now) {
  return now.open && (now.clips || now.regions || now.clipSets || now.markers || now.range);
}
inline bool clipSetsAndRange(const Conditions& now) { return now.open && now.clipSets && now.range; }
inline bool things(const Conditions& now) {
  return now.open && (now.clips || now.regions || now.tracks || now.clipSets || now.markers);
}
inline bool canMute(const Conditions& now) { return now.open && (now.clips || now.tracks || now.clipSets); }
inline bool brief(const Conditions& now) { return now.open && now.brief; }
inline bool row(const Conditions& now) { return now.open && now.row; }
inline bool ownRow(const Conditions& now) { return now.open && now.ownRow; }
inline bool idleRow(const Conditions& now) { return now.open && now.idle && now.row; }
inline bool undo(const Conditions& now) { return now.undo; }
inline bool redo(const Conditions& now) { return now.redo; }
inline bool idle(const Conditions& now) { return now.idle; }
inline bool underway(const Conditions& now) { return now.underway; }
inline bool free(const Conditions& now) { return now.idle && now.free; }
inline bool freeSession(const Conditions& now) { return now.open && now.free; }
inline bool due(const Conditions& now) { return now.open && now.idle && now.due; }
inline bool failed(const Conditions& now) { return now.open && now.idle && now.failed; }
inline bool leftOver(const Conditions& now) { return now.open && now.idle && now.leftOver; }
inline bool begun(const Conditions& now) { return now.open && now.idle && now.begun; }
inline bool numbered(const Conditions& now) { return now.open && now.idle && now.numbered; }
inline bool again(const Conditions& now) { return now.open && now.idle && now.again; }
}  // namespace needs

}  // namespace octaphon::app
