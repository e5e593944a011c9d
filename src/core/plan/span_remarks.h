// What may be wrong with the sound of a span: each remark belongs to a track and shows on every row that hears it.
#pragma once

#include <vector>

#include "base/remark.h"
#include "media/media_facts.h"
#include "plan/heard_clips.h"

namespace octaphon {

struct TrackRemark {
  int track;
  Remark remark;
};

/// About the clips of one span: media that are missing, damaged, too short or of other channels; clips that cross
/// the start or begin just before the end. One remark of a kind for each track and medium.
std::vector<TrackRemark> spanRemarks(const ClipFinder& finder, const MediaFacts& facts, const PlannedSpan& span,
                                     const Counting& counting, const std::vector<HeardClip>& heard);

/// About spans of one brief that overlap, neither holding the other, and share clips: for each span, by index, what
/// it shares with one that began before it. `heard` has the clips of every span.
std::vector<std::vector<TrackRemark>> sharedClipRemarks(const std::vector<PlannedSpan>& spans,
                                                        const std::vector<std::vector<HeardClip>>& heard);

}  // namespace octaphon
