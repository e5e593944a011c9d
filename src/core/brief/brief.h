// A brief: one delivery as data. What it means for files is worked out in plan/.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "brief/reach.h"
#include "formats/encoding.h"
#include "naming/letter_case.h"

namespace octaphon {

/// Which things of a kind: all of them, or those listed by id.
struct Selection {
  bool all = false;
  std::vector<std::string> ids;
  bool operator==(const Selection&) const = default;
  bool empty() const { return !all && ids.empty(); }
};

/// Which sound counts in a span.
enum class Counts {
  BeginsHere,       ///< clips that start in [start, end)
  EverythingHeard,  ///< everything that sounds in [start, end)
};
std::string_view countsName(Counts counts);  ///< `begins-here`, `everything-heard`

/// What becomes of a clip that began before the span, under BeginsHere.
enum class Crossing {
  LeftOut,
  FromStart,  ///< belongs from the span's start on
};
std::string_view crossingName(Crossing crossing);  ///< `left-out`, `from-start`

/// What happens to files of ours that are there.
enum class Existing { Keep, Replace };
std::string_view existingName(Existing existing);  ///< `keep`, `replace`

inline constexpr double kDefaultEndFadeMs = 5.0;
inline constexpr double kMaxEndFadeMs = 1000.0;
inline constexpr double kMaxTailSeconds = 3600.0;
inline constexpr double kMaxRunUpSeconds = 3600.0;

struct Brief {
  std::string id;
  std::string name;
  Selection regions{true, {}};  ///< spans
  Selection clipSets;           ///< spans that only their clips sound in
  bool mix = true;
  Selection tracks;  ///< tracks that hold clips
  Selection groups;
  Selection returns;            ///< as sources
  std::vector<SumSource> sums;  ///< sums of some, and the mix without some
  Reach reach;
  Returns withReturns = Returns::In;
  Overrides overrides;  ///< of tracks; of the others where it says so
  bool overrideGroups = false, overrideReturns = false, overrideMain = false;
  std::vector<TrackException> exceptions;
  bool keyed = true;            ///< shared dynamics take their gain from the full sum
  double runUpSeconds = 0;      ///< processed before the span and thrown away, 0 … kMaxRunUpSeconds
  bool runUpFromStart = false;  ///< from the session's start instead
  bool withoutMissing = false;  ///< a plug-in that is not there is passed over
  Counts counts = Counts::BeginsHere;
  Crossing crossing = Crossing::LeftOut;
  double endFadeMs =
      kDefaultEndFadeMs;   ///< 0 … kMaxEndFadeMs, under BeginsHere for clips that run across the end
  double tailSeconds = 0;  ///< 0 … kMaxTailSeconds, after the span's end
  std::string nameTemplate = "{region}_{source}";
  LetterCase letterCase = LetterCase::AsIs;
  std::string folder = "Deliveries";  ///< relative, below the session's folder
  Encoding encoding = Encoding::Pcm24;
  Existing existing = Existing::Keep;
  std::string notes;
  std::string unknownKeys;  ///< JSON of keys that a newer version wrote; kept as they are

  bool operator==(const Brief&) const = default;
};

}  // namespace octaphon
