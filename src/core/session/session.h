// A session as a value: what is on disk, and nothing that can be worked out from it. Copies
// share their long lists; programs share it as std::shared_ptr<const Session>. `unknownKeys` is JSON of keys
// that a newer version wrote; they are kept through edit and save.
#pragma once

#include <array>
#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/fade_shape.h"
#include "base/frames.h"
#include "base/shared_list.h"
#include "base/tempo_map.h"
#include "base/time_span.h"
#include "base/timecode.h"
#include "brief/brief.h"
#include "brief/preset.h"
#include "session/inserts.h"

namespace octaphon {

struct Fade {
  Frame length = 0;
  FadeShape shape = FadeShape::Linear;
  std::string unknownKeys;
  bool operator==(const Fade&) const = default;
};

struct Clip {
  std::string id;
  std::string medium;  ///< id of a Medium
  int channel = 0;     ///< first channel of the medium that is played, from 1; 0: all of it
  Frame start = 0;     ///< in the session
  Frame offset = 0;    ///< into the medium, in frames at the session's rate
  Frame length = 0;    ///< 0: never sounds
  double gainDb = 0;
  bool mute = false;
  Fade fadeIn, fadeOut;  ///< each at most as long as the clip
  std::string name;
  int ink = 0;        ///< 0 … kInks; 0 takes the track's
  bool lock = false;  ///< edits leave it as it is
  std::string notes;
  std::vector<Insert> inserts;  ///< before it is added to its track; what rings on is not cut with the clip
  std::string unknownKeys;
  bool operator==(const Clip&) const = default;
  Frame end() const { return start + length; }
};

inline constexpr int kMaxClipChannel = 64;  ///< last channel a clip may begin with

inline constexpr int kInks = 8;  ///< track colours are numbered 1 to 8; 0 takes the group's

/// Free `key = value` pairs for people and lists; never in a file name.
using Facts = std::map<std::string, std::string>;

inline constexpr int kMaxLink = 9999;
inline constexpr int kMaxSkippedLevels = 40;

enum class TrackKind {
  Track,   ///< holds clips
  Group,   ///< sums what is in it and holds no clips
  Return,  ///< sums what is sent to it and holds no clips
};
constexpr auto choicesOf(TrackKind) {
  return std::array<Choice<TrackKind>, 3>{
      {{TrackKind::Track, "track"}, {TrackKind::Group, "group"}, {TrackKind::Return, "return"}}};
}

struct Track {
  std::string id;
  std::string name;
  TrackKind kind = TrackKind::Track;
  std::string group;  ///< id of the group it is in; empty: main
  int channels = 2;   ///< 1, 2, 4, 6 or 8
  double gainDb = 0;  ///< fader, kSilenceDb … kMaxGainDb
  double pan = 0;     ///< −1 left … +1 right
  bool mute = false;
  bool invert = false;  ///< polarity, before the first insert
  bool helper = false;  ///< in no sum and no file, with all that is in it; still heard by key inputs
  bool pinned = false;  ///< stays in view
  bool lock = false;    ///< it and its clips stay as they are
  int link = 0;         ///< tracks of one number over 0 are edited together; 0 … kMaxLink
  int ink = 0;          ///< 0 … kInks
  std::string notes;
  std::vector<std::string> tags;
  bool skipInNames = false;  ///< as a group: names pass over it
  std::vector<Insert> inserts;
  std::vector<Send> sends;
  std::vector<Automation> automation;
  SharedList<Clip> clips;
  std::string unknownKeys;
  bool operator==(const Track&) const = default;
  bool isGroup() const { return kind == TrackKind::Group; }
  bool isReturn() const { return kind == TrackKind::Return; }
  bool holdsClips() const { return kind == TrackKind::Track; }
};

struct Main {
  int channels = 2;
  double gainDb = 0;
  std::vector<Insert> inserts;
  std::vector<Automation> automation;  ///< of gain and inserts
  std::string unknownKeys;
  bool operator==(const Main&) const = default;
};

struct Medium {
  std::string id;
  std::string file;  ///< relative to the session's folder, `/` between parts
  // What it was when it was last seen, so that it can be found again; 0 and empty where that is not known.
  Frame frames = 0;          ///< at its own rate
  int rate = 0;              ///< Hz
  std::string content = {};  ///< hash of the bytes, 32 hexadecimal digits
  std::string unknownKeys = {};
  bool operator==(const Medium&) const = default;
};

struct Region {
  std::string id;
  std::string name;  ///< a path: `Winch/Start 01`
  Frame start = 0;
  Frame length = 0;
  bool finish = false;  ///< clips running across the end are allowed to finish, under BeginsHere
  bool lock = false;    ///< edits leave it as it is
  bool fixed = false;   ///< its length stays as it is; it can be moved
  OwnEnds ends;
  OwnLoop loop;
  OwnLevelling levelling;
  int ink = 0;
  std::string notes;
  Facts facts;
  std::vector<std::string> tags = {};
  int skipLevels = 0;                     ///< parts of its path that names leave out, from the front
  std::vector<std::string> sources = {};  ///< its own list: ids of strips, or `main`
  int channels = 0;                       ///< of its files: 1, 2, 4, 6 or 8; 0 as tapped
  std::string unknownKeys = {};
  bool operator==(const Region&) const = default;
  Frame end() const { return start + length; }
};

struct Marker {
  std::string id;
  std::string name;
  Frame at = 0;
  bool lock = false;
  std::string notes = {};
  std::string unknownKeys = {};
  bool operator==(const Marker&) const = default;
};

struct MarkerSet {
  std::string id;
  std::string name;
  std::vector<Marker> markers;
  std::string unknownKeys;
  bool operator==(const MarkerSet&) const = default;
};

/// Whether the text may be an id: 1 to 64 of A–Z a–z 0–9 . _ -, and not `main`.
bool isAllowedId(std::string_view id);

/// Clips, on any tracks, that make one sound. Sets may overlap; each prints its own clips only.
struct ClipSet {
  std::string id;
  std::string name;                     ///< a path, as a region's
  std::vector<std::string> clips = {};  ///< ids; those that are gone are passed over
  std::optional<TimeSpan> span = {};    ///< set by hand; else from the first to the last clip
  bool mute = false;                    ///< printed by no brief
  bool finish = false;                  ///< as a region's
  bool lock = false;
  int channels = 0;  ///< as a region's
  OwnEnds ends = {};
  OwnLoop loop = {};
  OwnLevelling levelling = {};
  int ink = 0;
  std::string notes = {};
  Facts facts = {};
  std::vector<std::string> tags = {};
  int skipLevels = 0;                     ///< as a region's
  std::vector<std::string> sources = {};  ///< as a region's
  std::string unknownKeys = {};
  bool operator==(const ClipSet&) const = default;
};

/// A value that a fact may have.
struct VocabularyValue {
  std::string value, meaning;
  std::string unknownKeys = {};
  bool operator==(const VocabularyValue&) const = default;
};

/// The values that are allowed for a fact; without any, all are.
struct VocabularyFact {
  std::string fact, meaning;
  std::vector<VocabularyValue> values = {};
  std::string unknownKeys = {};
  bool operator==(const VocabularyFact&) const = default;
};

struct Session {
  std::string version = "1.0";  ///< of the format it was read from, or this program's
  int rate = 48000;             ///< Hz
  std::string title;
  std::string author;
  std::string notes;
  PictureRate pictureRate;
  Frame startPicture = 0;  ///< start timecode, picture frames since midnight
  Main main;
  std::vector<TempoPoint> tempo;
  std::vector<Medium> media;
  std::vector<Track> tracks;  ///< order among siblings is order here
  SharedList<Region> regions;
  std::vector<MarkerSet> markerSets;
  SharedList<ClipSet> clipSets;
  std::map<std::string, std::string> abbreviations;  ///< long form to short form, for names
  std::map<std::string, Facts> pathFacts;            ///< facts of all regions and clip sets below a path
  std::vector<VocabularyFact> vocabulary;            ///< which facts there are, and what they may say
  std::vector<Brief> briefs;
  std::vector<Preset> presets;
  std::string unknownKeys;
  std::filesystem::path file;  ///< where it was read from; empty when it was never saved

  bool operator==(const Session&) const = default;

  /// The title, or the file's name without ending, or `Untitled`.
  std::string displayName() const;
  std::filesystem::path folder() const { return file.has_parent_path() ? file.parent_path() : "."; }
  /// Latest end of any clip or region.
  Frame end() const;
  std::size_t clipCount() const;
  std::size_t markerCount() const;
  /// Facts of a region or clip set: its own, else those of the nearest part of its path that has the key.
  Facts factsOf(const std::string& name, const Facts& own) const;
};

/// A track, group or return by its id; null where there is none.
Track* findTrack(Session& session, std::string_view id);
const Track* findTrack(const Session& session, std::string_view id);

/// Whether the brief's overrides touch a track, group or return, or (null) main.
bool overridesTouch(const Brief& brief, const Track* track);

}  // namespace octaphon
