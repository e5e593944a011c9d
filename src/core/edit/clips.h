// Edits of clips. All take ids, leave what is locked as it is, and keep every promise of a session: no clip
// before frame 0 or past kMaxFrame, no offset below 0, no fade longer than its clip. Call withLinked() first
// where linked tracks are to go along.
#pragma once

#include "edit/ids.h"
#include "edit/selected_clips.h"

namespace octaphon {

/// Moves clips in time and, by whole tracks, down (> 0) or up the tracks that hold clips, in the order of the
/// track tree. All move by the same: as far as the first of them can go. Locked clips and those whose target
/// track is locked stay.
EditCount moveClips(Session& session, const ClipIds& ids, Frame by, int tracksDown = 0);

/// Moves the edge by the same for all, in frames; each keeps a frame at least and never goes before its
/// medium's start. A start carries its offset along, so that the sound stays where it is.
EditCount trimStarts(Session& session, const ClipIds& ids, Frame by);
EditCount trimEnds(Session& session, const ClipIds& ids, Frame by);

/// Cuts clips that `at` lies inside of in two; the second gets a new id and joins the clip sets of the first.
/// Fades stay at the outer ends. Linked or not, only the given clips are cut.
EditCount splitClips(Session& session, const ClipIds& ids, Frame at);

/// Fade lengths are cut to the clip's; a negative length leaves that fade as it is.
EditCount fadeClips(Session& session, const ClipIds& ids, Frame in, Frame out);
EditCount muteClips(Session& session, const ClipIds& ids, bool mute);
EditCount gainClips(Session& session, const ClipIds& ids, double byDb);
EditCount lockClips(Session& session, const ClipIds& ids, bool lock);

/// Puts copies behind: the first copy starts where the last of the given clips ends. Copies are in no clip
/// set. Gives their ids.
ClipIds duplicateClips(Session& session, const ClipIds& ids);

/// Clip sets forget the clips; a set that was left without any goes too, unless it is locked.
EditCount deleteClips(Session& session, const ClipIds& ids);

}  // namespace octaphon
