// What a file says of itself besides its sound.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "base/frames.h"
#include "base/timecode.h"

namespace octaphon {

/// A cue point, or with a length a stretch. Frames at the file's rate.
struct FileMark {
  Frame at = 0;
  Frame length = 0;
  std::string label;
  std::string note;
  bool operator==(const FileMark&) const = default;
};

/// A loop. Files name the last frame played; here it is the one behind.
struct FileLoop {
  Frame start = 0;
  Frame end = 0;
  bool operator==(const FileLoop&) const = default;
};

/// The texts that files have places for.
enum class Tag {
  Title,
  Artist,
  Album,
  Number,
  Credit,
  Comment,
  Keywords,
  Category,
  Tempo,
  Key,
  Isrc,
  Description,
  Originator,
  Reference,
  Project,
  Scene,
  Note,
};
inline constexpr std::size_t kTags = 17;

/// Where a text stands in each kind of file; empty where there is no place for it.
struct TagInfo {
  Tag tag;
  std::string_view name;    ///< in briefs, and in JSON: `title`
  std::string_view label;   ///< for people
  std::string_view vorbis;  ///< field of a Vorbis comment (FLAC, Ogg Vorbis, Opus); practice, but for those
                            ///< that Xiph.Org's recommendation has
  std::string_view id3;     ///< frame of ID3v2.4 (MP3, and a chunk in WAV and AIFF); `TXXX:…` a free one
  std::string_view info;    ///< of LIST INFO (IBM & Microsoft 1991)
  std::string_view other;   ///< in WAV and FLAC: `bext …` (EBU Tech 3285), `iXML …`
};
inline constexpr std::array<TagInfo, kTags> kTagInfos{{
    {Tag::Title, "title", "Title", "TITLE", "TIT2", "INAM", ""},
    {Tag::Artist, "artist", "Artist", "ARTIST", "TPE1", "IART", ""},
    {Tag::Album, "album", "Album or library", "ALBUM", "TALB", "IPRD", ""},
    {Tag::Number, "number", "Number on it", "TRACKNUMBER", "TRCK", "ITRK", ""},
    {Tag::Credit, "credit", "Credit", "COPYRIGHT", "TCOP", "ICOP", ""},
    {Tag::Comment, "comment", "Comment", "COMMENT", "COMM", "ICMT", ""},
    {Tag::Keywords, "keywords", "Keywords", "KEYWORDS", "TXXX:KEYWORDS", "IKEY", ""},
    {Tag::Category, "category", "Category", "GENRE", "TCON", "IGNR", ""},
    {Tag::Tempo, "tempo", "Tempo", "BPM", "TBPM", "", ""},
    {Tag::Key, "key", "Key", "KEY", "TKEY", "", ""},
    {Tag::Isrc, "isrc", "ISRC", "ISRC", "TSRC", "", ""},
    {Tag::Description, "description", "Description", "DESCRIPTION", "TXXX:DESCRIPTION", "ISBJ",
     "bext Description"},
    {Tag::Originator, "originator", "Originator", "ORIGINATOR", "TXXX:ORIGINATOR", "", "bext Originator"},
    {Tag::Reference, "reference", "Reference", "REFERENCE", "TXXX:REFERENCE", "", "bext OriginatorReference"},
    {Tag::Project, "project", "Project", "PROJECT", "TXXX:PROJECT", "", "iXML PROJECT"},
    {Tag::Scene, "scene", "Scene", "SCENE", "TXXX:SCENE", "", "iXML SCENE"},
    {Tag::Note, "note", "Note", "NOTE", "TXXX:NOTE", "", "iXML NOTE"},
}};
constexpr const TagInfo& tagInfo(Tag tag) { return kTagInfos[static_cast<std::size_t>(tag)]; }

/// Files that belong together: iXML FILE_SET. How many there are is not said: a file would change with its
/// siblings.
struct FileSet {
  std::string uid, name;  ///< of all of them; an empty uid: it belongs to none
  std::string index;      ///< which of them it is
  bool operator==(const FileSet&) const = default;
};

struct FileData {
  bool isPlain = false;     ///< nothing but the sound, its loop and its marks
  Frame timeReference = 0;  ///< frames at the file's rate from midnight to its first sample
  std::vector<FileMark> marks = {};
  std::optional<FileLoop> loop = {};
  bool loopComments = false;                  ///< loops also as LOOPSTART and LOOPLENGTH, where comments are
  std::array<std::string, kTags> texts = {};  ///< UTF-8, without controls but line ends
  std::vector<std::pair<std::string, std::string>> facts = {};  ///< free ones, by name
  std::string date = {};                                        ///< `2026-03-01`, of the edition
  std::string rowMark = {};                                     ///< 16 hexadecimal digits: which row it is
  std::string madeMark = {};                                    ///< the same: as what it was made
  std::vector<std::string> channelNames = {};
  FileSet set = {};
  PictureRate picture = {};  ///< the session's
  bool operator==(const FileData&) const = default;

  const std::string& text(Tag tag) const { return texts[static_cast<std::size_t>(tag)]; }
  std::string& text(Tag tag) { return texts[static_cast<std::size_t>(tag)]; }
};

/// 1 … 999, as `TBPM` and iXML take it, of a text that begins with a number; empty where it does not.
std::string wholeTempo(const std::string& tempo);

}  // namespace octaphon
