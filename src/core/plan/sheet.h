// The sheet: all files that some briefs ask for, as data. Planning plays no sound and touches no disk.
#pragma once

#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/frames.h"
#include "base/hash.h"
#include "base/remark.h"
#include "brief/brief.h"
#include "formats/encoding.h"

namespace octaphon {

/// Bumped whenever the same session would sound different.
inline constexpr int kEngineVersion = 2;

enum class RowState {
  ToMake,    ///< no file is there
  UpToDate,  ///< the file is there, as planned
  Stale,     ///< the file is ours, and session or brief have changed since
  Changed,   ///< the file was ours, and someone altered it
  Foreign,   ///< something that is not ours has this name
  Fault,     ///< the row cannot be made; its remarks say why
};
std::string_view rowStateName(RowState state);  ///< in JSON: `to-make`
std::string_view rowStateText(RowState state);  ///< for people: `to make`

struct PlannedSpan {
  enum class Kind { Region, ClipSet };
  Kind kind = Kind::Region;
  std::string id;  ///< of the region or clip set
  std::string name;
  Frame start = 0;
  Frame length = 0;                   ///< of the body
  bool finish = false;                ///< clips may run on after the end, under BeginsHere
  int channels = 0;                   ///< of its files; 0: as tapped
  std::optional<double> tailSeconds;  ///< instead of the brief's
  Frame end() const { return start + length; }

  /// A stretch of time that is neither named nor kept.
  static PlannedSpan stretch(Frame start, Frame length, bool finish = false) {
    PlannedSpan span;
    span.start = start;
    span.length = length;
    span.finish = finish;
    return span;
  }
};

struct PlannedSource {
  enum class Kind {
    Track,
    Group,
    Return,
    Sum,         ///< of `tracks`
    MixWithout,  ///< the mix without `tracks`
    Mix,
  };
  Kind kind = Kind::Mix;
  int track = -1;                ///< index in Session::tracks; −1 for sums and the mix
  std::string id = {};           ///< of the track or sum; `main` for the mix
  std::string name = {};         ///< `mix` for the mix
  std::string group = {};        ///< name of the group it is in; empty below main
  std::vector<int> tracks = {};  ///< of sums: indices in Session::tracks
  std::string heard = {};        ///< where it is taken off, in words: `through Machines and main`
};

struct Row {
  std::uint32_t brief = 0;   ///< index in Sheet::briefs
  std::uint32_t span = 0;    ///< index in PlannedBrief::spans
  std::uint32_t source = 0;  ///< index in PlannedBrief::sources
  int channels = 2;
  int tapped = 2;  ///< channels where it is taken off, which may be more or fewer than it is written with
  Encoding encoding = Encoding::Pcm24;
  RowState state = RowState::ToMake;
  Frame start = 0;     ///< first frame written, from session frame 0
  Frame frames = 0;    ///< body and tail
  std::string file;    ///< relative to the brief's base folder; empty where the template gives none
  Digest fingerprint;  ///< of what the row hears and how it is written
  std::vector<Remark> remarks;
};

struct PlannedBrief {
  Brief brief;
  std::filesystem::path base;          ///< folder the rows' files are relative to
  std::vector<PlannedSpan> spans;      ///< by start, then longer first, then id
  std::vector<PlannedSource> sources;  ///< depth first in track order, the mix last
  std::vector<Remark> remarks;         ///< about the brief as a whole
  std::size_t firstRow = 0;
  std::size_t rowCount = 0;
  std::size_t leftOutEmpty = 0;  ///< pairs of span and source without clips
  std::size_t leftOutMuted = 0;  ///< pairs whose source is muted
};

struct Sheet {
  std::string session;  ///< name for people
  int rate = 48000;     ///< Hz, of every row
  std::vector<PlannedBrief> briefs;
  std::vector<Row> rows;

  const PlannedBrief& briefOf(const Row& row) const { return briefs[row.brief]; }
  const PlannedSpan& spanOf(const Row& row) const { return briefOf(row).spans[row.span]; }
  const PlannedSource& sourceOf(const Row& row) const { return briefOf(row).sources[row.source]; }

  /// Stable over renaming: `brief/region:id/track:id/wav/all` (`set:id` for a clip set), from ids, the file
  /// format and the part of the channels.
  std::string keyOf(const Row& row) const;
};

struct SheetCounts {
  std::size_t files = 0, toMake = 0, upToDate = 0, stale = 0, changed = 0, foreign = 0, fault = 0;
  std::size_t remarks = 0;   ///< rows with a warning or fault
  std::size_t makeable = 0;  ///< rows that making now would write
  std::size_t again = 0;     ///< rows that making everything again would write
  std::uint64_t bytes = 0;   ///< of sample data in the makeable rows
};
/// Whether the main button writes this row: to make, or stale where the brief replaces what is there.
bool isMakeable(const Sheet& sheet, const Row& row);
/// The same, or the file is there and ours, and the brief replaces what is there.
bool mayBeMadeAgain(const Sheet& sheet, const Row& row);
SheetCounts countRows(const Sheet& sheet);

/// `20 files = 6 regions × 4 sources, less 4 without clips`; for several briefs their sum.
std::string countText(const Sheet& sheet);

/// Channel layout in words: `mono`, `stereo`.
std::string channelText(int channels);

}  // namespace octaphon
