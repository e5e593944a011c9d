// Edits of clip sets.
#pragma once

#include "edit/regions.h"
#include "edit/spans.h"

namespace octaphon {

/// Makes a set of each proposal's clips; those without clips make none. Gives their ids.
std::vector<std::string> addClipSets(Session& session, const std::vector<SpanProposal>& proposals);

EditCount addToClipSet(Session& session, const std::string& set, const ClipIds& clips);
/// A set that loses its last clip stays, empty.
EditCount removeFromClipSet(Session& session, const std::string& set, const ClipIds& clips);
EditCount muteClipSets(Session& session, const Ids& ids, bool mute);
/// Its span by hand, or from its clips again.
EditCount setSpanOfClipSet(Session& session, const std::string& set, std::optional<TimeSpan> span);
/// One set for each island of its clips, in place of it. Gives the ids.
std::vector<std::string> splitUpClipSet(Session& session, const std::string& set, Frame gap);
EditCount deleteClipSets(Session& session, const Ids& ids);

/// By the rule of SetExtent.
std::optional<TimeSpan> extentOf(const Session& session, const ClipSet& set);

}  // namespace octaphon
