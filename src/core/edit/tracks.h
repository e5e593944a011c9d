// Edits of tracks and groups.
#pragma once

#include <string>
#include <vector>

#include "edit/regions.h"

namespace octaphon {

/// Deepest nesting of groups that edits make.
inline constexpr int kMaxDepth = 64;

/// A new track, group or return as the last in `group` (empty: main); gives its id.
std::string addTrack(Session& session, const std::string& name, TrackKind kind, const std::string& group,
                     int channels = 2);

/// Locked tracks stay where they are, here and in the two below.
/// Puts tracks, with all that is in them, into `group` in front of its child `before` (empty: at the end).
/// Refused where a group would land in itself, or deeper than kMaxDepth.
Result<> placeTracks(Session& session, const std::vector<std::string>& ids, const std::string& group,
                     const std::string& before);

/// Moves tracks past the one above (`by` −1) or below (1) in their group, that of the first of them.
void stepTracks(Session& session, const std::vector<std::string>& ids, int by);

/// Puts tracks into a new group of their own, at the place of the first; gives its id.
Result<std::string> nestTracks(Session& session, const std::vector<std::string>& ids,
                               const std::string& name);
/// Takes tracks out of their group, to right behind it. Tracks below main stay.
Result<> takeOutTracks(Session& session, const std::vector<std::string>& ids);

/// Copies behind the originals, with all that is in them and with clips; gives the ids of the topmost.
std::vector<std::string> duplicateTracks(Session& session, const std::vector<std::string>& ids);
/// With all that is in them. A track with a locked clip or lock, or a group with one inside, stays.
EditCount deleteTracks(Session& session, const Ids& ids);

/// Tracks of more than `width` channels become several of `width` (1 or 2), right behind each other, each
/// playing its own channels; groups, locked tracks and those with clips that play chosen channels already
/// stay. Gives the ids of the new ones.
std::vector<std::string> splitChannels(Session& session, const Ids& ids, int width);

/// Puts the clips of several tracks one after the other onto the first of them, which gets the name, with
/// `gap` frames between; clips without a name get that of their track. The other tracks go. Nothing happens
/// where one of them is locked, is no track, or has other channels than the first.
EditCount joinTakes(Session& session, const std::vector<std::string>& tracks, const std::string& name,
                    Frame gap);

/// Puts markers into the set of this name, which is made when it is not there; sets left without any go.
EditCount putMarkersInto(Session& session, const Ids& ids, const std::string& setName);

/// Links tracks with each other, or takes their links off.
EditCount linkTracks(Session& session, const Ids& ids, bool link);

}  // namespace octaphon
