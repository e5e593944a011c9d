// A brief: one delivery as data, in the order of its sentence. brief/description.h describes its fields; what
// it means for files is worked out in plan/.
#pragma once

#include <array>
#include <string>
#include <vector>

#include "base/choices.h"
#include "base/time_span.h"
#include "brief/ends.h"
#include "brief/hand_over.h"
#include "brief/inside_data.h"
#include "brief/level.h"
#include "brief/loop.h"
#include "brief/output.h"
#include "brief/reach.h"
#include "brief/row_exception.h"
#include "brief/selection.h"
#include "naming/letter_case.h"

namespace octaphon {

/// The group that a region's sounds are in, as a source over this region alone.
enum class Matching { None, Path, Colour, Tag };
constexpr auto choicesOf(Matching) {
  return std::array<Choice<Matching>, 4>{
      {{Matching::None, "none", "none", "No group of its own"},
       {Matching::Path, "path", "the group of its path", "The group named as a part of its path",
        "The deepest part that is a group's name"},
       {Matching::Colour, "colour", "the groups of its colour", "The groups of its colour"},
       {Matching::Tag, "tag", "the groups with its tags", "The groups with one of its tags"}}};
}

/// Which sound counts in a span.
enum class Counts {
  BeginsHere,       ///< clips that start in [start, end)
  EverythingHeard,  ///< everything that sounds in [start, end)
};
constexpr auto choicesOf(Counts) {
  return std::array<Choice<Counts>, 2>{
      {{Counts::BeginsHere, "begins-here", "only what begins here", "Only what begins here",
        "Clips that start inside the region"},
       {Counts::EverythingHeard, "everything-heard", "everything heard", "Everything heard",
        "All that sounds inside the region, as one hears it"}}};
}

/// What becomes of a clip that began before the span, under BeginsHere.
enum class Crossing {
  LeftOut,
  FromStart,  ///< belongs from the span's start on
};
constexpr auto choicesOf(Crossing) {
  return std::array<Choice<Crossing>, 2>{
      {{Crossing::LeftOut, "left-out", "clips that began earlier left out",
        "Leave out clips that began earlier"},
       {Crossing::FromStart, "from-start", "clips that began earlier heard from the start on",
        "Hear clips that began earlier from the start on"}}};
}

/// What happens where a row's file is there and not up to date.
enum class Existing { Keep, Replace, Stop };
constexpr auto choicesOf(Existing) {
  return std::array<Choice<Existing>, 3>{
      {{Existing::Keep, "keep", "keep", "Keep what is there"},
       {Existing::Replace, "replace", "replace", "Replace files of ours that are out of date"},
       {Existing::Stop, "stop", "stop at", "Stop, and make nothing",
        "While a file that would be replaced is there, the brief makes none"}}};
}

inline constexpr double kDefaultEndFadeMs = 5.0;
inline constexpr double kMaxEndFadeMs = 1000.0;
inline constexpr double kMaxRunUpSeconds = 3600.0;

/// Session time that is processed before the span and thrown away.
struct RunUp {
  double seconds = 0;      ///< 0 … kMaxRunUpSeconds
  bool fromStart = false;  ///< from the session's start instead
  bool operator==(const RunUp&) const = default;
  bool isNone() const { return !fromStart && seconds <= 0; }
};

struct Brief {
  /// Sources.
  struct What {
    bool mix = true;
    Selection tracks;  ///< tracks that hold clips
    Selection groups;
    Selection returns;
    std::vector<SumSource> sums;  ///< sums of some, and the mix without some
    Matching matching = Matching::None;
    bool ownLists = false;  ///< what regions and clip sets name themselves, over them alone
    bool operator==(const What&) const = default;
  };
  /// Spans.
  struct Where {
    Selection regions{true, {}};
    Selection clipSets;        ///< only their clips sound in them
    Selection clips;           ///< each a span of its own, in which it sounds alone
    Selection betweenMarkers;  ///< of sets of markers: from each marker to the next
    bool wholeSession = false;
    bool extents = false;  ///< each source over its own, from its first to its last clip
    TimeSpan range;        ///< without a length: none
    bool operator==(const Where&) const = default;
  };
  /// Which sound counts, and how far along the signal line it is taken.
  struct Heard {
    Counts counts = Counts::BeginsHere;
    Crossing crossing = Crossing::LeftOut;
    double endFadeMs =
        kDefaultEndFadeMs;  ///< 0 … kMaxEndFadeMs, under BeginsHere for clips that run across the end
    Reach reach;
    Returns withReturns = Returns::In;
    Overrides overrides;  ///< of tracks; of the others where it says so
    bool overrideGroups = false, overrideReturns = false, overrideMain = false;
    std::vector<TrackException> exceptions;
    bool keyed = true;  ///< shared dynamics take their gain from the full sum
    RunUp runUp;
    bool withoutMissing = false;  ///< a plug-in that is not there is passed over
    bool operator==(const Heard&) const = default;
  };
  struct Files {
    Encoding encoding = Encoding::Pcm24;  ///< where there are no outputs
    int rate = 0;                         ///< Hz, one of kFileRates; 0: the session's
    std::vector<Output> outputs;          ///< the files of each sound; none: one of `encoding`
    bool operator==(const Files&) const = default;
  };
  struct Names {
    std::string format = "{region}_{source}";  ///< the template
    LetterCase letterCase = LetterCase::AsIs;
    std::string separator = "_";  ///< between levels and tags where fields do not say another; `/`: folders
    bool operator==(const Names&) const = default;
  };
  struct Delivery {
    std::string folder = "Deliveries";  ///< relative, below the session's folder
    Existing existing = Existing::Keep;
    bool operator==(const Delivery&) const = default;
  };

  std::string id;
  std::string name;
  bool isOn = true;  ///< its files are asked for; else only where it is named
  What what;
  Where where;
  Heard heard;
  Ends ends;
  Loop loop;
  Levelling levelling;
  Files files;
  InsideData data;
  Names names;
  Delivery delivery;
  HandOver handOver;
  std::vector<std::string> heldBack;  ///< keys of rows that were taken out by hand, without the brief's id
  std::vector<RowException> rowExceptions;
  std::vector<AcceptedRemark> accepted;
  std::string notes;
  std::string unknownKeys;  ///< JSON of keys that a newer version wrote; kept as they are

  bool operator==(const Brief&) const = default;

  /// The files of a sound; one at least.
  std::vector<Output> outputs() const;
  /// Of an output, in Hz, in a session of such a rate.
  int rateOf(const Output& output, int sessionRate) const;
  /// The overrides of one track, group, return or main (`main`) alone, by id; null where it has none.
  const Overrides* exceptionOf(std::string_view strip) const;
};

/// As new ones begin: they replace files of ours, where a session that does not say keeps them.
Brief newBrief();

}  // namespace octaphon
