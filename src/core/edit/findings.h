// What would go wrong later: a list over the whole session, each finding with its place and a cure.
#pragma once

#include <string>
#include <vector>

#include "base/remark.h"
#include "media/media_facts.h"
#include "session/session.h"

namespace octaphon {

enum class FindingKind {
  DefaultName,        ///< a name is empty, or the one the program gave
  DuplicateName,      ///< regions or clip sets of one name
  SilentSource,       ///< a track without clips, a group without any below it, an unfed return
  EmptyRegion,        ///< no clip sounds in a region
  OutsideRegions,     ///< clips that lie in no region and no clip set
  OutsideGroup,       ///< clips in a region whose path names another group
  MonoOnWide,         ///< only mono files on a stereo or wider track
  OutsideVocabulary,  ///< a fact has a value that the vocabulary does not
  DifferentMedium,    ///< a file is of another length or rate than the session knows
  MissingMedium,      ///< a file is not there or cannot be read
};
inline constexpr int kFindingKinds = static_cast<int>(FindingKind::MissingMedium) + 1;
std::string_view findingTitle(FindingKind kind);  ///< `Missing media`

/// What the finding leads to.
enum class PlaceKind { Region, ClipSet, Track, Clip, Medium };

struct Finding {
  FindingKind kind;
  Severity severity;
  PlaceKind placeKind;
  std::string place;  ///< id
  std::string text;
  std::string cure;  ///< what the button does; empty where only a person can tell
};

/// By kind, then in session order. `facts` may be null while they are not known: then nothing is said of
/// media.
std::vector<Finding> checkSession(const Session& session, const MediaFacts* facts);

/// Does what the cure says; false where there is nothing to do here. `facts` may be null.
bool cure(Session& session, const Finding& finding, const MediaFacts* facts);

}  // namespace octaphon
