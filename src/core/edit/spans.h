// Spans worked out from a selection: shown as proposals before any of them is made.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "edit/selected_clips.h"
#include "session/session.h"

namespace octaphon {

/// A region or clip set that could be made.
struct SpanProposal {
  TimeSpan span;
  std::string name;
  int ink = 0;
  std::vector<std::string> clips;  ///< what it was worked out from; none for ranges, markers and silences
  bool operator==(const SpanProposal&) const = default;
};

enum class SpanRule {
  Around,          ///< one from the first to the last clip; a time range is taken as it is, silence included
  Islands,         ///< one for each run of clips without a gap of more than `gap` frames
  EachClip,        ///< one a clip
  EachTrack,       ///< one from the first to the last clip of each track
  BetweenMarkers,  ///< one from each marker of a set to the next
};

/// Where names and colours come from.
enum class NameFrom { Clip, Track, Group };

struct SpanRequest {
  SpanRule rule = SpanRule::Around;
  ClipIds clips;                  ///< none: all that sound in the range, or all of the session
  std::optional<TimeSpan> range;  ///< limits islands, clips, tracks and markers to what lies in it
  Frame gap = 0;                  ///< frames of silence that still join, ≥ 0
  std::string markerSet;          ///< id
  NameFrom nameFrom = NameFrom::Track;
  std::string name;  ///< instead of an inherited one
};

/// By start; names inherited and numbered so that no two are equal and none is that of a region or clip set
/// there is. Muted clips and clips without length do not count.
std::vector<SpanProposal> proposeSpans(const Session& session, const SpanRequest& request);

/// The sounds that were found in clips, by id, as proposals; named as proposeSpans() does it.
struct FoundSound {
  std::string clip;
  TimeSpan span;
};
std::vector<SpanProposal> proposeSounds(const Session& session, const std::vector<FoundSound>& sounds,
                                        const SpanRequest& request);

/// Gives equal names numbers (`Bell 01`, `Bell 02`), going on after those that are taken already. A name that
/// comes once and is not taken stays as it is.
std::vector<std::string> numberedNames(const std::vector<std::string>& names,
                                       const std::vector<std::string>& taken);

/// Names of all regions and clip sets.
std::vector<std::string> spanNames(const Session& session);

/// Adds regions; gives their ids.
std::vector<std::string> addRegions(Session& session, const std::vector<SpanProposal>& proposals);

}  // namespace octaphon
