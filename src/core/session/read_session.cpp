#include <algorithm>
#include <unordered_map>
#include <unordered_set>

#include "base/decibels.h"
#include "base/hash.h"
#include "base/unicode.h"
#include "session/fields.h"
#include "session/session_json.h"
#include "session/strict_json.h"

namespace octaphon {
namespace {

using nlohmann::json;

std::optional<FadeShape> parseFadeShape(std::string_view name) {
  for (const FadeShape shape :
       {FadeShape::Linear, FadeShape::Power, FadeShape::Smooth, FadeShape::Slow, FadeShape::Fast})
    if (fadeShapeName(shape) == name) return shape;
  return std::nullopt;
}

template <class T>
std::optional<T> firstOf(std::initializer_list<T> values, std::string_view (*name)(T),
                         std::string_view wanted) {
  for (const T value : values)
    if (name(value) == wanted) return value;
  return std::nullopt;
}

class SessionReader {
 public:
  explicit SessionReader(const std::string& file) : context_(file) {}

  Result<Session> read(const json& root) {
    Fields fields(root, "", context_);
    readHead(fields);
    fields.each("media", [&](Fields& f) { session_.media.push_back(readMedium(f)); });
    fields.each("tracks", [&](Fields& f) { session_.tracks.push_back(readTrack(f)); });
    fields.each("regions", [&](Fields& f) { session_.regions.push_back(readRegion(f)); });
    fields.each("marker_sets", [&](Fields& f) { session_.markerSets.push_back(readMarkerSet(f)); });
    fields.each("clip_sets", [&](Fields& f) { session_.clipSets.push_back(readClipSet(f)); });
    readPathFacts(fields);
    fields.each("briefs", [&](Fields& f) { session_.briefs.push_back(readBrief(f)); });
    session_.unknownKeys = fields.unknownKeys();
    if (!context_.failed()) checkTree();
    if (!context_.failed()) checkSends();
    if (context_.error()) return tl::unexpected(*context_.error());
    return std::move(session_);
  }

 private:
  void unique(std::unordered_set<std::string>& ids, Fields& f, const std::string& id) {
    if (!ids.insert(id).second) f.wrong("id", "'" + id + "' is there twice", "Ids are given once");
  }

  void readHead(Fields& f) {
    session_.version = f.text("version");
    f.raw("format");
    if (!f.has("rate")) f.wrong("rate", "it is missing", "Give the session's sample rate in Hz");
    session_.rate = f.integer("rate", 48000, kMinRate, kMaxRate);
    session_.title = f.text("title");
    session_.author = f.text("author");
    session_.notes = f.text("notes");
    if (const auto rate = parsePictureRate(f.text("picture_rate", "25")))
      session_.pictureRate = *rate;
    else
      f.wrong("picture_rate", rate.error().text, rate.error().cure);
    if (const auto start = parseTimecode(f.text("start_timecode", "00:00:00:00"), session_.pictureRate))
      session_.startPicture = *start;
    else
      f.wrong("start_timecode", start.error().text, start.error().cure);
    Fields main = f.object("main");
    session_.main.channels = readChannels(main);
    session_.main.gainDb = readGain(main);
    session_.main.inserts = readInserts(main);
    session_.main.automation = readAutomation(main);
    session_.main.unknownKeys = main.unknownKeys();
    f.each("tempo", [&](Fields& point) { readTempo(point); });
  }

  int readChannels(Fields& f) {
    const int channels = f.integer("channels", 2, 1, 8);
    if (channels == 3 || channels == 5 || channels == 7) f.wrong("channels", "channels are 1, 2, 4, 6 or 8");
    return channels;
  }

  double readGain(Fields& f) { return f.number("gain_db", 0, kSilenceDb, kMaxGainDb); }
  int readInk(Fields& f) { return f.integer("colour", 0, 0, kInks); }

  void readTempo(Fields& f) {
    TempoPoint point;
    point.at = f.frame("at");
    point.bpm = f.number("bpm", 120, 1, 1000);
    point.beats = f.integer("beats", 4, 1, 64);
    point.unit = f.integer("unit", 4, 1, 64);
    if ((point.unit & (point.unit - 1)) != 0) f.wrong("unit", "a note value is 1, 2, 4, 8, 16, 32 or 64");
    point.unknownKeys = f.unknownKeys();
    const bool first = session_.tempo.empty();
    if (first ? point.at != 0 : point.at <= session_.tempo.back().at)
      f.wrong("at", first ? "the first point must be at frame 0" : "points must come in order of time");
    session_.tempo.push_back(point);
  }

  Medium readMedium(Fields& f) {
    Medium medium;
    medium.id = f.id();
    medium.file = f.text("file");
    medium.frames = f.frame("frames", 0);
    medium.rate = f.integer("rate", 0, 0, 10'000'000);
    medium.content = f.text("content");
    if (!medium.content.empty() && Digest::fromHex(medium.content).empty())
      f.wrong("content", "32 hexadecimal digits are needed");
    unique(mediaIds_, f, medium.id);
    if (medium.file.empty())
      f.wrong("file", "the path is missing", "Give a path relative to the session file");
    else if (medium.file.front() == '/')
      f.wrong("file", "the path is absolute", "Give a path relative to the session file");
    medium.unknownKeys = f.unknownKeys();
    return medium;
  }

  Fade readFade(Fields& parent, const char* key, Frame clipLength) {
    Fields f = parent.object(key);
    Fade fade;
    fade.length = f.frame("length", 0);
    fade.shape =
        f.choice<FadeShape>("shape", FadeShape::Linear, parseFadeShape, "linear, power, smooth, slow, fast");
    fade.unknownKeys = f.unknownKeys();
    if (fade.length > clipLength)
      f.wrong("length", "the fade is longer than its clip", "Make it at most the clip's length");
    return fade;
  }

  void checkSum(Fields& f, const char* key, Frame a, Frame b) {
    if (!checkedSum(a, b)) f.wrong(key, "it ends beyond frame 2^53 - 1");
  }

  void readTags(Fields& f, const char* key, std::vector<std::string>& tags) {
    const json* value = f.raw(key);
    if (value == nullptr) return;
    if (!value->is_array()) return f.wrong(key, "a list of texts is needed");
    for (const json& tag : *value) {
      if (!tag.is_string() || tag.get_ref<const std::string&>().empty())
        return f.wrong(key, "a tag is a text in quotes");
      tags.push_back(tag);
    }
  }

  std::vector<Insert> readInserts(Fields& f) {
    std::vector<Insert> inserts;
    f.each("inserts", [&](Fields& i) {
      Insert insert;
      insert.id = i.id();
      unique(insertIds_, i, insert.id);
      insert.effect = i.text("effect");
      if (insert.effect.empty()) i.wrong("effect", "it is missing", "Name a built-in effect or a plug-in");
      insert.name = i.text("name");
      insert.on = i.flag("on", true);
      readTags(i, "tags", insert.tags);
      insert.values = i.numbers("values", kMaxParameter);
      insert.state = i.text("state");
      insert.unknownKeys = i.unknownKeys();
      inserts.push_back(std::move(insert));
    });
    if (inserts.size() > kMaxInserts)
      f.wrong("inserts", "there are more than " + std::to_string(kMaxInserts));
    return inserts;
  }

  std::vector<Send> readSends(Fields& f) {
    std::vector<Send> sends;
    f.each("sends", [&](Fields& s) {
      Send send;
      send.id = s.id();
      unique(sendIds_, s, send.id);
      send.to = s.reference("to", true);
      sendPlaces_.emplace_back(s.place(), send.to);
      send.gainDb = readGain(s);
      send.preFader = s.flag("pre_fader", false);
      send.on = s.flag("on", true);
      send.unknownKeys = s.unknownKeys();
      sends.push_back(std::move(send));
    });
    return sends;
  }

  std::vector<Automation> readAutomation(Fields& f) {
    std::vector<Automation> curves;
    std::unordered_set<std::string> targets;
    f.each("automation", [&](Fields& a) {
      Automation curve;
      curve.target = a.text("target");
      if (curve.target.empty()) a.wrong("target", "it is missing", "Name what the curve moves");
      if (!targets.insert(curve.target).second) a.wrong("target", "'" + curve.target + "' is there twice");
      curve.on = a.flag("on", true);
      a.each("points", [&](Fields& p) { curve.points.push_back(readPoint(p, curve)); });
      if (curve.points.empty()) a.wrong("points", "a curve needs a point");
      curve.unknownKeys = a.unknownKeys();
      curves.push_back(std::move(curve));
    });
    return curves;
  }

  CurvePoint readPoint(Fields& f, const Automation& curve) {
    CurvePoint point;
    point.at = f.frame("at");
    if (!curve.points.empty() && point.at <= curve.points.back().at)
      f.wrong("at", "points must come in order of time");
    point.value = f.number("value", 0, -kMaxParameter, kMaxParameter);
    point.segment = f.choice<Segment>(
        "segment", Segment::Linear,
        [](std::string_view name) {
          return firstOf({Segment::Linear, Segment::Curve, Segment::Hold}, segmentName, name);
        },
        "linear, curve, hold");
    point.bend = f.number("bend", 0, -1, 1);
    point.unknownKeys = f.unknownKeys();
    return point;
  }

  Clip readClip(Fields& f) {
    Clip clip;
    clip.id = f.id();
    unique(clipIds_, f, clip.id);
    clip.medium = f.reference("medium", true);
    if (!mediaIds_.contains(clip.medium))
      f.wrong("medium", "there is no medium '" + clip.medium + "'", "Add it to media, or take the clip out");
    clip.channel = f.integer("channel", 0, 0, kMaxClipChannel);
    clip.start = f.frame("start");
    clip.offset = f.frame("offset", 0);
    clip.length = f.frame("length");
    checkSum(f, "length", clip.start, clip.length);
    checkSum(f, "offset", clip.offset, clip.length);
    clip.gainDb = readGain(f);
    clip.mute = f.flag("mute", false);
    clip.fadeIn = readFade(f, "fade_in", clip.length);
    clip.fadeOut = readFade(f, "fade_out", clip.length);
    clip.name = f.text("name");
    clip.ink = readInk(f);
    clip.lock = f.flag("lock", false);
    clip.notes = f.text("notes");
    clip.inserts = readInserts(f);
    clip.unknownKeys = f.unknownKeys();
    return clip;
  }

  Track readTrack(Fields& f) {
    Track track;
    track.id = f.id();
    unique(trackIds_, f, track.id);
    track.name = f.text("name");
    track.kind = f.choice<TrackKind>(
        "kind", TrackKind::Track,
        [](std::string_view name) {
          return firstOf({TrackKind::Track, TrackKind::Group, TrackKind::Return}, trackKindName, name);
        },
        "track, group, return");
    track.group = f.reference("group", false);
    track.channels = readChannels(f);
    track.gainDb = readGain(f);
    track.pan = f.number("pan", 0, -1, 1);
    track.mute = f.flag("mute", false);
    track.invert = f.flag("invert", false);
    track.helper = f.flag("helper", false);
    track.pinned = f.flag("pinned", false);
    track.lock = f.flag("lock", false);
    track.link = f.integer("link", 0, 0, kMaxLink);
    track.ink = readInk(f);
    track.notes = f.text("notes");
    track.inserts = readInserts(f);
    track.sends = readSends(f);
    track.automation = readAutomation(f);
    f.each("clips", [&](Fields& clip) { track.clips.push_back(readClip(clip)); });
    if (!track.holdsClips() && !track.clips.empty())
      f.wrong("clips", "a " + std::string(trackKindName(track.kind)) + " holds no clips",
              "Put them on a track");
    track.unknownKeys = f.unknownKeys();
    return track;
  }

  Region readRegion(Fields& f) {
    Region region;
    region.id = f.id();
    unique(regionIds_, f, region.id);
    region.name = f.text("name");
    region.start = f.frame("start");
    region.length = f.frame("length");
    checkSum(f, "length", region.start, region.length);
    region.finish = f.flag("finish", false);
    region.lock = f.flag("lock", false);
    region.fixed = f.flag("fixed", false);
    region.ink = readInk(f);
    region.notes = f.text("notes");
    region.facts = f.texts("facts");
    region.unknownKeys = f.unknownKeys();
    return region;
  }

  MarkerSet readMarkerSet(Fields& f) {
    MarkerSet set{f.id(), f.text("name"), {}, {}};
    unique(markerSetIds_, f, set.id);
    f.each("markers", [&](Fields& m) {
      Marker marker;
      marker.id = m.id();
      marker.name = m.text("name");
      marker.at = m.frame("at");
      marker.lock = m.flag("lock", false);
      marker.notes = m.text("notes");
      unique(markerIds_, m, marker.id);
      marker.unknownKeys = m.unknownKeys();
      set.markers.push_back(std::move(marker));
    });
    set.unknownKeys = f.unknownKeys();
    return set;
  }

  ClipSet readClipSet(Fields& f) {
    ClipSet set;
    set.id = f.id();
    unique(clipSetIds_, f, set.id);
    set.name = f.text("name");
    set.clips = readSelection(f, "clips", {}).ids;
    if (f.has("start") || f.has("length")) {
      set.span = TimeSpan{f.frame("start"), f.frame("length")};
      checkSum(f, "length", set.span->start, set.span->length);
    }
    set.mute = f.flag("mute", false);
    set.finish = f.flag("finish", false);
    set.lock = f.flag("lock", false);
    set.channels = f.integer("channels", 0, 0, 2);
    if (f.has("tail_seconds")) set.tailSeconds = f.number("tail_seconds", 0, 0, kMaxTailSeconds);
    set.ink = readInk(f);
    set.notes = f.text("notes");
    set.facts = f.texts("facts");
    set.unknownKeys = f.unknownKeys();
    return set;
  }

  void readPathFacts(Fields& f) {
    const json* paths = f.raw("path_facts");
    if (paths == nullptr) return;
    if (!paths->is_object()) return f.wrong("path_facts", "an object of paths is needed");
    Fields inside = f.object("path_facts");
    for (const auto& [path, facts] : paths->items()) session_.pathFacts[path] = inside.texts(path.c_str());
  }

  Selection readSelection(Fields& f, const char* key, const Selection& otherwise) {
    const json* value = f.raw(key);
    if (value == nullptr) return otherwise;
    if (value->is_string() && *value == "all") return {true, {}};
    if (!value->is_array()) {
      f.wrong(key, "\"all\" or a list of ids is needed");
      return otherwise;
    }
    Selection selection;
    for (const json& id : *value) {
      if (id.is_string())
        selection.ids.push_back(id);
      else
        f.wrong(key, "an id is a text in quotes");
    }
    return selection;
  }

  Overrides readOverrides(Fields& f) {
    Overrides overrides;
    overrides.faders = f.choice<Faders>(
        "faders", Faders::AsMixed,
        [](std::string_view name) {
          return firstOf({Faders::AsMixed, Faders::Unity, Faders::Value}, fadersName, name);
        },
        "as-mixed, unity, value");
    overrides.faderDb = f.number("fader_db", 0, kSilenceDb, kMaxGainDb);
    const std::string pans = f.text("pans", "as-mixed");
    if (pans != "as-mixed" && pans != "centred")
      f.wrong("pans", "'" + pans + "' is not known here", "Use as-mixed or centred");
    overrides.pansCentred = pans == "centred";
    overrides.volumeAutomation = f.flag("volume_automation", true);
    overrides.panAutomation = f.flag("pan_automation", true);
    overrides.muteAutomation = f.flag("mute_automation", true);
    overrides.inserts = f.choice<InsertChoice>(
        "inserts", InsertChoice::All,
        [](std::string_view name) {
          return firstOf({InsertChoice::All, InsertChoice::Tagged, InsertChoice::None}, insertChoiceName,
                         name);
        },
        "all, tagged, none");
    readTags(f, "insert_tags", overrides.tags);
    return overrides;
  }

  SumSource readSum(Fields& f) {
    SumSource sum;
    sum.id = f.id();
    sum.name = f.text("name");
    sum.tracks = readSelection(f, "tracks", {}).ids;
    sum.without = f.flag("without", false);
    (void)f.unknownKeys();
    return sum;
  }

  void readSignal(Fields& f, Brief& brief) {
    brief.returns = readSelection(f, "returns", {});
    std::unordered_set<std::string> sumIds;
    f.each("sums", [&](Fields& s) {
      brief.sums.push_back(readSum(s));
      unique(sumIds, s, brief.sums.back().id);
    });
    brief.reach =
        f.choice<Reach>("reach", Reach{}, parseReach,
                        "clips, inserts, track, group-inserts:ID, group:ID, groups, main-inserts, main");
    brief.withReturns = f.choice<Returns>(
        "with_returns", Returns::In,
        [](std::string_view name) {
          return firstOf({Returns::In, Returns::Out, Returns::Files}, returnsName, name);
        },
        "in, out, files");
    brief.overrides = readOverrides(f);
    brief.overrideGroups = f.flag("override_groups", false);
    brief.overrideReturns = f.flag("override_returns", false);
    brief.overrideMain = f.flag("override_main", false);
    f.each("exceptions", [&](Fields& e) {
      const std::string track = e.text("track");
      if (track != "main" && !isAllowedId(track)) e.wrong("track", "an id, or main, is needed");
      brief.exceptions.push_back({track, readOverrides(e)});
    });
    brief.keyed = f.flag("keyed", true);
    const json* runUp = f.raw("run_up");
    if (runUp != nullptr && runUp->is_string() && *runUp == "start")
      brief.runUpFromStart = true;
    else
      brief.runUpSeconds = f.number("run_up", 0, 0, kMaxRunUpSeconds);
    brief.withoutMissing = f.flag("without_missing", false);
  }

  Brief readBrief(Fields& f) {
    Brief brief;
    brief.id = f.id();
    unique(briefIds_, f, brief.id);
    brief.name = f.text("name");
    brief.regions = readSelection(f, "regions", {true, {}});
    brief.clipSets = readSelection(f, "clip_sets", {});
    brief.mix = f.flag("mix", true);
    brief.tracks = readSelection(f, "tracks", {});
    brief.groups = readSelection(f, "groups", {});
    readSignal(f, brief);
    brief.counts = f.choice<Counts>(
        "counts", Counts::BeginsHere,
        [](std::string_view name) {
          return firstOf({Counts::BeginsHere, Counts::EverythingHeard}, countsName, name);
        },
        "begins-here, everything-heard");
    brief.crossing = f.choice<Crossing>(
        "crossing", Crossing::LeftOut,
        [](std::string_view name) {
          return firstOf({Crossing::LeftOut, Crossing::FromStart}, crossingName, name);
        },
        "left-out, from-start");
    brief.endFadeMs = f.number("end_fade_ms", kDefaultEndFadeMs, 0, kMaxEndFadeMs);
    brief.tailSeconds = f.number("tail_seconds", 0, 0, kMaxTailSeconds);
    brief.nameTemplate = f.text("template", brief.nameTemplate);
    brief.letterCase = f.choice<LetterCase>("case", LetterCase::AsIs, parseLetterCase,
                                            "as-is, lower, upper, snake, kebab, camel, pascal");
    brief.folder = f.text("folder", brief.folder);
    brief.encoding = f.choice<Encoding>("encoding", Encoding::Pcm24, parseEncoding, "pcm16, pcm24, float32");
    brief.existing = f.choice<Existing>(
        "existing", Existing::Keep,
        [](std::string_view name) {
          return firstOf({Existing::Keep, Existing::Replace}, existingName, name);
        },
        "keep, replace");
    brief.notes = f.text("notes");
    brief.unknownKeys = f.unknownKeys();
    return brief;
  }

  /// Groups exist, are groups, and no track is inside itself.
  void checkTree() {
    std::unordered_map<std::string_view, std::size_t> byId;
    for (std::size_t i = 0; i < session_.tracks.size(); ++i) byId.emplace(session_.tracks[i].id, i);
    const auto place = [](std::size_t i) { return "tracks[" + std::to_string(i) + "].group"; };
    std::vector<std::size_t> parents(session_.tracks.size(), session_.tracks.size());
    for (std::size_t i = 0; i < session_.tracks.size(); ++i) {
      const std::string& group = session_.tracks[i].group;
      if (group.empty()) continue;
      const auto found = byId.find(group);
      if (found == byId.end())
        return context_.fail(place(i), "there is no group '" + group + "'",
                             "Name a group, or leave the key out for main");
      if (!session_.tracks[found->second].isGroup())
        return context_.fail(place(i), "'" + group + "' is a track, not a group", "Name a group");
      parents[i] = found->second;
    }
    std::vector<char> state(parents.size(),
                            0);  // 1: on the way up from the current track, 2: known to reach main
    for (std::size_t i = 0; i < parents.size(); ++i) {
      std::vector<std::size_t> way;
      std::size_t at = i;
      for (; at < parents.size() && state[at] == 0; at = parents[at]) {
        state[at] = 1;
        way.push_back(at);
      }
      if (at < parents.size() && state[at] == 1)
        return context_.fail(place(at), "the group is inside itself",
                             "Take one of the groups out of the circle");
      for (const std::size_t passed : way) state[passed] = 2;
    }
  }

  /// Sends lead to returns and inserts. Whether they feed themselves is asked while planning.
  void checkSends() {
    std::unordered_set<std::string_view> targets(insertIds_.begin(), insertIds_.end());
    for (const Track& track : session_.tracks)
      if (track.isReturn()) targets.insert(track.id);
    for (const auto& [place, to] : sendPlaces_)
      if (!targets.contains(to))
        return context_.fail(place + ".to", "there is no return or insert '" + to + "'",
                             "Name one, or take the send out");
  }

  ReadContext context_;
  Session session_;
  std::vector<std::pair<std::string, std::string>> sendPlaces_;  // place in the file, and where it leads
  std::unordered_set<std::string> mediaIds_, trackIds_, clipIds_, regionIds_, markerSetIds_, markerIds_,
      clipSetIds_, briefIds_, insertIds_, sendIds_;
};

/// Refuses what is not a session of ours before anything else is looked at.
Result<> checkVersion(const json& root, const std::string& file) {
  const bool named = root.is_object() && root.contains("format") && root["format"] == kFormatName;
  if (!named)
    return fail(ErrorCode::Syntax, file, "this is not an Octaphon session",
                "A session begins with \"format\": \"octaphon-session\"");
  const auto version = root.find("version");
  const std::string text = version != root.end() && version->is_string() ? version->get<std::string>() : "";
  const std::size_t dot = text.find('.');
  const auto isNumber = [](std::string_view part) {
    return !part.empty() && part.size() < 6 &&
           std::all_of(part.begin(), part.end(), [](char c) { return c >= '0' && c <= '9'; });
  };
  if (dot == std::string::npos || !isNumber(text.substr(0, dot)) || !isNumber(text.substr(dot + 1)))
    return fail(ErrorCode::BadValue, file + ": version", "a version like \"1.0\" is needed");
  if (std::stoi(text) > kFormatMajor)
    return fail(ErrorCode::TooNew, file + ": version",
                "the session was written by a newer Octaphon (format " + text + ")",
                "Open it with that version, or save it there in format 1");
  if (std::stoi(text) < kFormatMajor)
    return fail(ErrorCode::BadValue, file + ": version", "there is no format " + text);
  return {};
}

}  // namespace

Result<Session> readSession(std::string_view text, const std::string& file) {
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  OCTAPHON_ASSIGN(const json root, parseStrictJson(text, file));
  OCTAPHON_TRY(checkVersion(root, file));
  return SessionReader(file).read(root);
}

}  // namespace octaphon
