// The sheet: all files that some briefs ask for, as data. Planning plays no sound and touches no disk.
#pragma once

#include <cstdint>
#include <filesystem>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "base/frames.h"
#include "base/hash.h"
#include "base/remark.h"
#include "base/safe_folder.h"
#include "brief/brief.h"
#include "formats/channel_text.h"
#include "formats/encoding.h"
#include "ledger/edition.h"
#include "ledger/sticky_numbers.h"
#include "level/levels.h"
#include "plan/row_index.h"
#include "plan/span_ends.h"
#include "recipe/source.h"
#include "recipe/span.h"

namespace octaphon {

enum class RowState {
  ToMake,       ///< no file is there
  UpToDate,     ///< the file is there, as planned
  Stale,        ///< the file is ours, and session or brief have changed since
  Changed,      ///< the file was ours, and someone altered it
  Renamed,      ///< the file is ours and sounds as planned, and has another name
  OlderEngine,  ///< as planned, but for the revision of an effect or plug-in that made it
  HeldBack,     ///< taken out by hand
  Foreign,      ///< something that is not ours has this name
  Fault,        ///< the row cannot be made; its remarks say why
};
std::string_view rowStateName(RowState state);  ///< in JSON: `to-make`
std::string_view rowStateText(RowState state);  ///< for people: `to make`

/// What is heard of one source over one span: all that its files have in common.
struct TappedSound {
  std::uint32_t brief = 0;   ///< index in Sheet::briefs
  std::uint32_t span = 0;    ///< index in PlannedBrief::spans
  std::uint32_t source = 0;  ///< index in PlannedBrief::sources
  int channels = 2;          ///< where it is taken off
  Frame start = 0;           ///< first frame, lead-in included, from session frame 0; may be before it
  Frame frames = 0;          ///< lead-in, body and tail, at the session's rate; the most there can be
  std::vector<int> partChannels = {};  ///< of sources together: of each
  std::vector<Remark> remarks = {};
  std::uint32_t gainSet = 0;          ///< index in Sheet::gainSets
  std::optional<Levels> levels = {};  ///< of it before any gain, where they are known
};

/// What was found for sounds that have one gain.
struct FoundGain {
  double db = 0;
  bool isJudged = true;  ///< false: nothing of them can be judged, and they stay as they are
  double shortDb = 0;    ///< that a ceiling kept by gain takes from it
};

/// Sounds that have one gain.
struct GainSet {
  Levelling asked;                      ///< of all of them
  std::vector<std::uint32_t> sounds;    ///< indices in Sheet::sounds
  std::optional<double> gainDb = {};    ///< where it is known
  bool isLimited = false;               ///< a limiter keeps them under the ceiling
  std::optional<FoundGain> found = {};  ///< where levels are known; behind a limiter turns may change it

  /// What has to be measured of each.
  LevelsAsked measures() const;
  /// Whether its gain goes by levels.
  bool isFound() const { return asked.level.kind > LevelKind::Gain || (asked.ceilingDb && !isLimited); }
  /// Whether its gain is found on the way: by turns, with the limiter.
  bool isSearched() const { return isLimited && asked.level.kind == LevelKind::Loudness; }
};

/// How loud a file is that was made.
struct MadeLevel {
  double gainDb = 0;  ///< that it has
  Levels levels;      ///< of the file, as far as they were measured
};

/// One file of a sound.
struct Row {
  std::uint32_t sound = 0;   ///< index in Sheet::sounds
  std::uint32_t output = 0;  ///< index in PlannedBrief::outputs
  int channels = 2;          ///< may be more or fewer than where it is taken off
  int part = 0;              ///< of a file for each channel: which of `folded`, from 1; 0: it holds all
  int folded = 2;            ///< channels that its sound has before one of them is taken
  Encoding encoding = Encoding::Pcm24;
  int rate = 48000;      ///< Hz
  bool isLarge = false;  ///< RF64, for it may be larger than a WAV file can be
  bool isLead = false;   ///< the first file of its sound
  RowState state = RowState::ToMake;
  bool isHeldBack = false;
  std::optional<std::uint32_t> exception = {};  ///< index in Brief::rowExceptions: what is its own
  std::vector<std::uint32_t> accepted = {};     ///< indices in Brief::accepted that are about it
  Frame start = 0;          ///< first frame written, in frames of the session from its frame 0
  Extent extent;            ///< of the file; where its length is not known, the longest there can be
  bool isMeasured = false;  ///< its length is known once its sound was heard, and was not heard yet
  Frame least = 0;          ///< frames of the shortest file, where the length is not known
  std::string file;         ///< relative to the brief's base folder; empty where the template gives none
  /// The file of ours that it comes from without being rendered: it is moved, or the data in it are
  /// rewritten.
  std::string from = {};
  std::shared_ptr<const MadeLevel> made = {};  ///< of its file; null: none of ours is there
  float apart = 0;  ///< from the middle of its variations, in LU or dB; 0 where there are none, or not known
  std::vector<Remark> remarks;  ///< about this file; those about its sound stand there

  /// The first file of its sound.
  bool isFirst() const { return isLead; }
  /// Whether it comes from a file that only lacks its name, for the run that made it was ended.
  bool isUnfinished() const;
  /// Of the file, at its rate; where its length is not known, at most.
  Frame frames() const { return extent.frames(); }
};

/// What was heard of a tail that rings out, of the files of one span that are there.
struct RungOut {
  bool isKnown = false;  ///< of the very sound that is planned
  bool isKept = false;   ///< of what the files that are there were made of, if nothing else
  Frame tail = 0;        ///< frames of the session
  bool byLimit = false;  ///< its limit stopped it
  double leftDb = 0;     ///< level of its last 10 ms, in dBFS
};

/// Of the rows of a brief, by row: place among those whose name is otherwise equal, and how many they are.
struct NameNumbers {
  std::vector<std::uint32_t> places, counts;
  std::vector<Digest> names;  ///< of what the name is otherwise
  std::uint32_t most = 0;     ///< of counts
};

struct PlannedBrief {
  Brief brief;
  Edition edition;                             ///< the one that runs would deliver
  bool isBegun = false;                        ///< it was: its date and version are fixed
  std::shared_ptr<const StickyNumbers> fixed;  ///< numbers that were fixed when it was planned; null: none
  bool countsAnew = false;                     ///< numbers that were fixed are none any more
  std::vector<NumberSet> places;        ///< numbers of each sound, as names have them; but for AmongNames
  FolderPath base;                      ///< folder the rows' files are relative to
  std::vector<Output> outputs;          ///< of the brief, with what the sheet says of them
  std::vector<std::string> outputKeys;  ///< of each, in keys of rows
  /// Whether any output is a file of each source; of all sources of a span together.
  bool printsEach = true, printsTogether = false;
  std::vector<PlannedSpan> spans;  ///< by start, then longer first, then id
  /// Of each span: itself; of one that stands again for a single sound with ends of its own, the span that
  /// it stands for. Those come right behind.
  std::vector<std::uint32_t> originals;
  std::vector<std::optional<std::uint32_t>> ownSources;  ///< of each span: the one it stands again for
  std::vector<SpanEnds> ends;                            ///< of each span, at the first rate of the files
  std::map<int, std::vector<SpanEnds>> endsAt;           ///< the same at each other rate, in Hz
  std::vector<Levelling> levellings;                     ///< of each span
  std::vector<RungOut> rungOut;                          ///< of each span; empty where nothing was heard yet
  std::vector<PlannedSource> sources;                    ///< depth first in track order, the mix last
  std::vector<std::vector<std::uint32_t>>
      asked;                            ///< by span: sources that it asks for beside those everywhere
  std::vector<Remark> remarks;          ///< about the brief as a whole
  std::vector<std::uint32_t> accepted;  ///< indices in Brief::accepted that are about it as a whole
  NameNumbers nameNumbers;              ///< where names ask for them
  std::size_t firstRow = 0;
  std::size_t rowCount = 0;
  std::size_t leftOutEmpty = 0;  ///< pairs of span and source without clips
  std::size_t leftOutMuted = 0;  ///< pairs whose source is muted
  bool isStopped = false;        ///< it makes nothing, for files are there that it would replace
  /// Those of `fixed` that stay.
  const StickyNumbers& kept() const;
  /// Whether a span stands for a single sound with ends of its own.
  bool isOwn(std::size_t span) const { return ownSources[span].has_value(); }
  /// Spans but for those.
  std::size_t spanCount() const;
  /// Whether a span is printed of a source at all.
  bool isPair(std::size_t span, std::size_t source) const;
  std::size_t pairCount() const;
  const SpanEnds& endsOf(std::size_t span, int rate) const;
};

/// What else stands in a folder that files go to.
struct SheetFolder {
  FolderPath base;
  struct LeftOver {
    std::string file, key;
    bool operator==(const LeftOver&) const = default;
  };
  std::vector<LeftOver> leftOver;                   ///< of this edition and session, and planned no more
  std::vector<std::string> changed;                 ///< the same, altered by others
  std::vector<std::string> foreign;                 ///< not ours; folders end with `/`
  std::vector<std::vector<std::string>> sameSound;  ///< files of several rows that sound alike to the bit
};

/// A marker of the session, or a region.
struct SheetMark {
  Frame at = 0;
  std::string name;
  Frame length = 0;         ///< of a region
  std::string region = {};  ///< its id
};

struct Sheet {
  std::string session;                ///< name for people
  std::string sessionFile;            ///< name of its file
  std::set<std::string> otherBriefs;  ///< ids of those that the session has besides
  int rate = 48000;                   ///< Hz, the session's
  Frame startPicture = 0;             ///< of the session's frame 0, in picture frames since midnight
  PictureRate picture;                ///< the session's
  std::vector<SheetMark> marks;       ///< by place: markers, and regions
  std::vector<PlannedBrief> briefs;
  std::vector<TappedSound> sounds;             ///< by brief, span, source
  std::vector<GainSet> gainSets;               ///< each sound is in one
  std::vector<Row> rows;                       ///< by sound, output
  std::vector<SheetFolder> folders;            ///< by base
  std::shared_ptr<const RowIndex> index = {};  ///< of these very rows; null: find() looks through them

  const TappedSound& soundOf(const Row& row) const { return sounds[row.sound]; }
  const PlannedBrief& briefOf(const Row& row) const { return briefs[soundOf(row).brief]; }
  const PlannedSpan& spanOf(const Row& row) const { return briefOf(row).spans[soundOf(row).span]; }
  /// Frames of the session that a file's tail has, as far as it is known; else the most.
  Frame tailOf(const Row& row) const;
  /// The frame of the session after a file's last one; of the least there is, where its length is not known.
  Frame shownEndOf(const Row& row) const;
  /// The frame of the session after a file's last one.
  Frame endOf(const Row& row) const { return row.start + atRate(row.frames(), row.rate, rate); }
  const GainSet& gainSetOf(const TappedSound& sound) const { return gainSets[sound.gainSet]; }
  /// The row whose form a sound is measured in, before any gain: the first of its sound.
  const Row& leadOf(const TappedSound& sound) const;
  const SpanEnds& endsOf(const Row& row) const { return briefOf(row).endsOf(soundOf(row).span, row.rate); }
  const PlannedSource& sourceOf(const Row& row) const { return briefOf(row).sources[soundOf(row).source]; }
  /// How a row's file is written.
  FileForm formOf(const Row& row) const;
  /// About the sound, then about the file.
  std::vector<Remark> remarksOf(const Row& row) const;
  /// Whether there is more to say than notes and what was accepted.
  bool isRemarkable(const Row& row) const;
  /// What was accepted of a remark about a row; null: it was not. A fault cannot be.
  const AcceptedRemark* acceptedOf(const Row& row, const Remark& remark) const;
  const AcceptedRemark* acceptedOf(const PlannedBrief& brief, const Remark& remark) const;
  /// What a row has otherwise than its brief says; null: nothing.
  const RowException* exceptionOf(const Row& row) const;
  /// Null where the row can be made.
  const Remark* faultOf(const Row& row) const;

  /// Stable over renaming: `brief/region:id/track:id/wav/all` (`set:id` for a clip set), from ids, the file
  /// format and the channels (`all`, or the one that it holds: `L`). Of several outputs of one format the
  /// first has the format's name, the others that of their encoding, with a number where that is there
  /// already.
  std::string keyOf(const Row& row) const;
  /// Chooses the noise of dither: that of the key in the first WAV, so that lossless files of one sound, of
  /// equal bits and channels, have the same samples.
  std::string noiseKeyOf(const Row& row) const;
  /// Of what numbers stick to: `region:id/track:id`.
  std::string pairKeyOf(const TappedSound& sound) const;
  /// Markers and regions of the session that lie in a file, in its frames, but for what its span stands for.
  /// `extent`: of the file.
  std::vector<SheetMark> marksIn(const Row& row, const Extent& extent) const;
  /// The length of a file as people read it: `0:01.240`, `at least 0:01.240`, `at most 0:02.000`.
  std::string lengthText(const Row& row) const;
  /// How it ends, in a sentence or two: `lead-in 0:00.500, body 0:02.000, tail 0:01.240. Rings out until …`.
  std::string endsText(const Row& row) const;
  /// Key of a brief's span, for what is the same for all its files: `brief/region:id`; with the source where
  /// it stands for that alone.
  std::string spanKeyOf(std::size_t brief, std::size_t span) const;
  /// The sounds of one span, of which `sound` is one: they stand beside each other.
  std::span<const TappedSound> soundsBeside(const TappedSound& sound) const;
  /// The row of this key; nothing where there is none any more.
  std::optional<std::size_t> find(std::string_view key) const;
};

struct SheetCounts {
  std::size_t files = 0, toMake = 0, upToDate = 0, stale = 0, changed = 0, renamed = 0, olderEngine = 0,
              heldBack = 0, foreign = 0, fault = 0;
  std::size_t leftOver = 0;  ///< files of the folders
  std::size_t remarks = 0;   ///< rows with a warning or fault
  std::size_t makeable = 0;  ///< rows that making now would write
  std::size_t again = 0;     ///< rows that making everything again would write
  std::uint64_t bytes = 0;   ///< of sample data in the makeable rows
};
/// Whether rows of both stand for the same files, in the same order.
bool hasSameRows(const Sheet& before, const Sheet& after);
/// Whether the main button writes this row: to make, renamed, or stale where the brief replaces what is
/// there.
bool isMakeable(const Sheet& sheet, const Row& row);
/// The same, or the file is there and ours.
bool mayBeMadeAgain(const Sheet& sheet, const Row& row);
SheetCounts countRows(const Sheet& sheet);

/// `20 files = 6 regions × 4 sources, less 4 without clips`; for several briefs their sum.
std::string countText(const Sheet& sheet);

/// What becomes of channels where others are asked for, by ITU-R BS.775; empty where they are as they were.
std::string foldText(int from, int to);

/// One channel of a layout, from 1: `L`, `LFE`; in the order of mixing_law.h.
std::string channelName(int channels, int part);

}  // namespace octaphon
