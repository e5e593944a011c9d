// The fields of naming templates: what may stand between braces, and what may be asked of it behind a colon.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>

namespace octaphon {

enum class NameField {
  Session,
  Author,
  Brief,
  EditionDate,
  EditionVersion,
  EditionUser,
  EditionMachine,
  Region,
  RegionBase,
  RegionLast,
  RegionPath,
  RegionLevel,
  RegionNumber,
  RegionTags,
  RegionFact,
  RegionNotes,
  ClipSet,
  Take,
  Marker,
  Source,
  SourceNumber,
  Track,
  TrackNumber,
  TrackTags,
  Group,
  Groups,
  GroupLevel,
  Number,
  NumberInRegion,
  NumberOfSource,
  NameNumber,
  Tempo,
  Metre,
  Bars,
  Length,
  Start,
  Channels,
  Channel,
  Rate,
  Depth,
  Format,
};

/// What may stand behind the colon.
enum class FieldArgument {
  None,
  Digits,     ///< `2`: at least so many
  Number,     ///< `2 from 10 step 5 several`, each of them may be missing
  Separator,  ///< any text, between levels or tags: `{region:/}` makes folders
  Key,        ///< `place`, which has to be there
  Name,       ///< of a set of markers
  Date,       ///< calendar letters
  Unit,       ///< one of the words in NameFieldInfo::units
};

struct NameFieldInfo {
  NameField field;
  std::string_view name;     ///< as written between the braces; of levels what stands before the number
  std::string_view meaning;  ///< for tips and documents
  FieldArgument argument = FieldArgument::None;
  std::string_view units = {};  ///< of Unit: words between spaces, the first where none is said
  bool hasLevel = false;        ///< its name ends in a level: `region.1`, `groups.-1`
  bool isForText = false;       ///< never in a name: only in what a file says of itself
};
/// In the order of NameField.
inline constexpr std::array<NameFieldInfo, 41> kNameFields{{
    {NameField::Session, "session", "title of the session"},
    {NameField::Author, "author", "author of the session"},
    {NameField::Brief, "brief", "name of the brief"},
    {NameField::EditionDate, "edition.date", "date of the edition", FieldArgument::Date},
    {NameField::EditionVersion, "edition.version", "version of the edition", FieldArgument::Digits},
    {NameField::EditionUser, "edition.user", "who made the edition"},
    {NameField::EditionMachine, "edition.machine", "machine that the edition was made on"},
    {NameField::Region, "region", "name of the region or clip set, path and all", FieldArgument::Separator},
    {NameField::RegionBase, "region.base", "the same without the number at its end",
     FieldArgument::Separator},
    {NameField::RegionLast, "region.last", "the last part of its path"},
    {NameField::RegionPath, "region.path", "its path without the last part", FieldArgument::Separator},
    {NameField::RegionLevel, "region.", "one part of its path: `region.1` the first, `region.-1` the last",
     FieldArgument::None, "", true},
    {NameField::RegionNumber, "region.number", "the number at its end", FieldArgument::Digits},
    {NameField::RegionTags, "region.tags", "its tags", FieldArgument::Separator},
    {NameField::RegionFact, "region.fact", "one of its facts", FieldArgument::Key},
    {NameField::RegionNotes, "region.notes", "its notes; only in what files say of themselves",
     FieldArgument::None, "", false, true},
    {NameField::ClipSet, "clipset", "name of the clip set; empty for other spans", FieldArgument::Separator},
    {NameField::Take, "take", "place among the session's regions of the same base name",
     FieldArgument::Number},
    {NameField::Marker, "marker", "last marker at or before the start; of one set where it is named",
     FieldArgument::Name},
    {NameField::Source, "source", "name of the track, group, return or sum, or mix"},
    {NameField::SourceNumber, "source.number", "place of the source among those that are delivered",
     FieldArgument::Number},
    {NameField::Track, "track", "the same of tracks; empty for groups and sums"},
    {NameField::TrackNumber, "track.number", "place of the track among those of the session",
     FieldArgument::Number},
    {NameField::TrackTags, "track.tags", "tags of the track or group", FieldArgument::Separator},
    {NameField::Group, "group", "name of the group the source is in"},
    {NameField::Groups, "groups", "names of all groups it is in, from main down", FieldArgument::Separator},
    {NameField::GroupLevel, "groups.", "one of them: `groups.1` the outermost, `groups.-1` the innermost",
     FieldArgument::None, "", true},
    {NameField::Number, "n", "number within the brief", FieldArgument::Number},
    {NameField::NumberInRegion, "n.region", "number among the sounds of one region", FieldArgument::Number},
    {NameField::NumberOfSource, "n.source", "number among the sounds of one source", FieldArgument::Number},
    {NameField::NameNumber, "n.name", "number among rows whose name is otherwise equal",
     FieldArgument::Number},
    {NameField::Tempo, "tempo", "quarter notes a minute at the start"},
    {NameField::Metre, "metre", "metre at the start, `4-4`"},
    {NameField::Bars, "bars", "length of the span in bars, where it has a tempo"},
    {NameField::Length, "length", "length of the file as planned", FieldArgument::Unit,
     "seconds milliseconds time frames"},
    {NameField::Start, "start", "where the span starts", FieldArgument::Unit,
     "time seconds bars timecode frames"},
    {NameField::Channels, "channels", "mono, stereo, quad, 5.1 or 7.1"},
    {NameField::Channel, "channel", "L, R, C … of files of one channel each; empty for others"},
    {NameField::Rate, "rate", "sample rate", FieldArgument::Unit, "Hz kHz"},
    {NameField::Depth, "depth", "bits of a sample"},
    {NameField::Format, "format", "file format"},
}};
constexpr const NameFieldInfo& nameFieldInfo(NameField field) {
  return kNameFields[static_cast<std::size_t>(field)];
}

/// How a number is written.
struct NumberFormat {
  int digits = 0;            ///< 1 … 9; 0: as many as the largest needs
  long from = 1;             ///< of the first; 0 … 999 999 999
  long step = 1;             ///< 1 … 999 999
  bool onlySeveral = false;  ///< nothing where there is one only
  bool operator==(const NumberFormat&) const = default;
};
/// One number of a row of them.
struct NumberPlace {
  long place = 0;  ///< from 1; 0: there is none
  long count = 0;  ///< of those it is counted with
  long most = 0;   ///< the largest count there is; digits are for it
};
/// Nothing where there is none, or where only several ask for one.
std::string numberText(const NumberPlace& number, const NumberFormat& format);

/// A field as a template asks for it.
struct FieldUse {
  NameField field = NameField::Session;
  int level = 0;                        ///< of levels: from the front over 0, from the back below
  NumberFormat number = {};             ///< of Digits and Number
  std::optional<std::string> argument;  ///< of the other kinds; units are in it even where none is said
  bool operator==(const FieldUse&) const = default;
  std::string_view argumentOr(std::string_view otherwise) const {
    return argument ? std::string_view(*argument) : otherwise;
  }
};

/// What it is called between braces: `region.2`.
std::string nameOf(const FieldUse& use);

/// `count` parts of a path and `level` from 1 or −1: the index; nothing beyond its ends.
std::optional<std::size_t> levelIndex(std::size_t count, int level);

}  // namespace octaphon
