// Renaming many things at once, with a preview.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "base/result.h"
#include "edit/regions.h"
#include "naming/letter_case.h"
#include "session/session.h"

namespace octaphon {

enum class NamedKind { Region, ClipSet, Track, Clip };

/// One thing with a name, as the table of names shows it.
struct NamedThing {
  NamedKind kind;
  std::string id;
  std::string name;
  bool lock = false;
};

/// All things of a kind: spans by start, tracks in the order of the tree, clips by track and start.
std::vector<NamedThing> namedThings(const Session& session, NamedKind kind);

enum class RenameStep {
  Replace,         ///< `find` by `with`, wherever it is
  ReplacePattern,  ///< the same as a regular expression
  Trim,            ///< spaces at both ends go, runs of them become one, around slashes none stays
  Case,            ///< letterCase; slashes stay
  Prefix,          ///< `with` in front of the last part
  Suffix,          ///< `with` behind
  Number,     ///< the number at the end goes, and 01, 02 … comes in the order given, for each name its own
  CloseGaps,  ///< names with numbers count from their smallest without gaps, in their order
  FromHierarchy,  ///< the path of the groups and the track that most of its sound is on, then its last part
};

struct RenameRequest {
  RenameStep step = RenameStep::Replace;
  std::string find = {};
  std::string with = {};
  bool ignoreCase = false;
  LetterCase letterCase = LetterCase::AsIs;
  int digits = 2;            ///< 1 … 6, of numbers
  int first = 1;             ///< of Number, ≥ 0
  bool onlyDefault = false;  ///< only empty names and those the program gives (isDefaultName)
};

struct Renaming {
  NamedThing thing;
  std::string after;    ///< equal to thing.name where nothing changes
  std::string skipped;  ///< why it is left as it is; empty where it is changed
};

/// What would become of each, in the order given. Errors only for patterns that cannot be used.
Result<std::vector<Renaming>> previewRename(const Session& session, const std::vector<NamedThing>& things,
                                            const RenameRequest& request);

/// Gives new names by id; locked things stay. Things of several kinds may be mixed.
EditCount applyNames(Session& session, const std::vector<Renaming>& renamings);

/// Empty, or a word the program gives (`Clip`, `Region`, `Track`, `Group`, `Markers`, `Part`) with or without
/// a number.
bool isDefaultName(std::string_view name);

}  // namespace octaphon
