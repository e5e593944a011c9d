#include <nlohmann/json.hpp>

#include "session/session_json.h"

namespace octaphon {
namespace {

using Json = nlohmann::ordered_json;

Json json(const Clip&);
Json json(const Track&);
Json json(const Region&);
Json json(const MarkerSet&);
Json json(const ClipSet&);
Json json(const Brief&);
Json json(const TempoPoint&);
Json json(const Medium&);
Json json(const Insert&);
Json json(const Send&);
Json json(const Automation&);
Json json(const TrackException&);
Json json(const SumSource&);

template <class T>
Json list(const std::vector<T>& things) {
  Json array = Json::array();
  for (const T& thing : things) array.push_back(json(thing));
  return array;
}

template <class T>
void addList(Json& object, const char* key, const std::vector<T>& things) {
  if (!things.empty()) object[key] = list(things);
}

/// Adds what a newer version wrote, behind the keys we know.
void addUnknown(Json& object, const std::string& unknownKeys) {
  if (unknownKeys.empty()) return;
  const Json rest = Json::parse(unknownKeys, nullptr, false);
  if (!rest.is_object()) return;
  for (const auto& [key, value] : rest.items())
    if (!object.contains(key)) object[key] = value;
}

template <class T>
void addUnlessDefault(Json& object, const char* key, const T& value, const T& otherwise) {
  if (value != otherwise) object[key] = value;
}

void addText(Json& object, const char* key, const std::string& text) {
  addUnlessDefault(object, key, text, {});
}

Json json(const Insert& insert) {
  Json object{{"id", insert.id}, {"effect", insert.effect}};
  addText(object, "name", insert.name);
  addUnlessDefault(object, "on", insert.on, true);
  addUnlessDefault(object, "tags", insert.tags, {});
  addUnlessDefault(object, "values", insert.values, {});
  addText(object, "state", insert.state);
  addUnknown(object, insert.unknownKeys);
  return object;
}

Json json(const Send& send) {
  Json object{{"id", send.id}, {"to", send.to}, {"gain_db", send.gainDb}};
  addUnlessDefault(object, "pre_fader", send.preFader, false);
  addUnlessDefault(object, "on", send.on, true);
  addUnknown(object, send.unknownKeys);
  return object;
}

Json json(const CurvePoint& point) {
  Json object{{"at", point.at}, {"value", point.value}};
  if (point.segment != Segment::Linear) object["segment"] = segmentName(point.segment);
  addUnlessDefault(object, "bend", point.bend, 0.0);
  addUnknown(object, point.unknownKeys);
  return object;
}

Json json(const Automation& automation) {
  Json points = Json::array();
  for (const CurvePoint& point : automation.points) points.push_back(json(point));
  Json object{{"target", automation.target}};
  addUnlessDefault(object, "on", automation.on, true);
  object["points"] = std::move(points);
  addUnknown(object, automation.unknownKeys);
  return object;
}

Json json(const Fade& fade) {
  Json object{{"length", fade.length}, {"shape", fadeShapeName(fade.shape)}};
  addUnknown(object, fade.unknownKeys);
  return object;
}

Json json(const Clip& clip) {
  Json object{{"id", clip.id}, {"medium", clip.medium}};
  addUnlessDefault(object, "channel", clip.channel, 0);
  object["start"] = clip.start;
  addUnlessDefault(object, "offset", clip.offset, Frame{0});
  object["length"] = clip.length;
  addUnlessDefault(object, "gain_db", clip.gainDb, 0.0);
  addUnlessDefault(object, "mute", clip.mute, false);
  if (clip.fadeIn != Fade{}) object["fade_in"] = json(clip.fadeIn);
  if (clip.fadeOut != Fade{}) object["fade_out"] = json(clip.fadeOut);
  addText(object, "name", clip.name);
  addUnlessDefault(object, "colour", clip.ink, 0);
  addUnlessDefault(object, "lock", clip.lock, false);
  addText(object, "notes", clip.notes);
  addList(object, "inserts", clip.inserts);
  addUnknown(object, clip.unknownKeys);
  return object;
}

Json json(const Track& track) {
  Json object{{"id", track.id}, {"name", track.name}};
  if (track.kind != TrackKind::Track) object["kind"] = trackKindName(track.kind);
  addText(object, "group", track.group);
  object["channels"] = track.channels;
  addUnlessDefault(object, "gain_db", track.gainDb, 0.0);
  addUnlessDefault(object, "pan", track.pan, 0.0);
  addUnlessDefault(object, "mute", track.mute, false);
  addUnlessDefault(object, "invert", track.invert, false);
  addUnlessDefault(object, "helper", track.helper, false);
  addUnlessDefault(object, "pinned", track.pinned, false);
  addUnlessDefault(object, "lock", track.lock, false);
  addUnlessDefault(object, "link", track.link, 0);
  addUnlessDefault(object, "colour", track.ink, 0);
  addText(object, "notes", track.notes);
  addList(object, "inserts", track.inserts);
  addList(object, "sends", track.sends);
  addList(object, "automation", track.automation);
  addList(object, "clips", track.clips);
  addUnknown(object, track.unknownKeys);
  return object;
}

Json json(const Region& region) {
  Json object{{"id", region.id}, {"name", region.name}, {"start", region.start}, {"length", region.length}};
  addUnlessDefault(object, "finish", region.finish, false);
  addUnlessDefault(object, "lock", region.lock, false);
  addUnlessDefault(object, "fixed", region.fixed, false);
  addUnlessDefault(object, "colour", region.ink, 0);
  addText(object, "notes", region.notes);
  addUnlessDefault(object, "facts", region.facts, {});
  addUnknown(object, region.unknownKeys);
  return object;
}

Json json(const MarkerSet& set) {
  Json markers = Json::array();
  for (const Marker& marker : set.markers) {
    Json object{{"id", marker.id}, {"name", marker.name}, {"at", marker.at}};
    addUnlessDefault(object, "lock", marker.lock, false);
    addText(object, "notes", marker.notes);
    addUnknown(object, marker.unknownKeys);
    markers.push_back(std::move(object));
  }
  Json object{{"id", set.id}, {"name", set.name}, {"markers", std::move(markers)}};
  addUnknown(object, set.unknownKeys);
  return object;
}

Json json(const ClipSet& set) {
  Json object{{"id", set.id}, {"name", set.name}, {"clips", set.clips}};
  if (set.span) {
    object["start"] = set.span->start;
    object["length"] = set.span->length;
  }
  addUnlessDefault(object, "mute", set.mute, false);
  addUnlessDefault(object, "finish", set.finish, false);
  addUnlessDefault(object, "lock", set.lock, false);
  addUnlessDefault(object, "channels", set.channels, 0);
  if (set.tailSeconds) object["tail_seconds"] = *set.tailSeconds;
  addUnlessDefault(object, "colour", set.ink, 0);
  addText(object, "notes", set.notes);
  addUnlessDefault(object, "facts", set.facts, {});
  addUnknown(object, set.unknownKeys);
  return object;
}

Json json(const Selection& selection) { return selection.all ? Json("all") : Json(selection.ids); }

void addOverrides(Json& object, const Overrides& overrides) {
  const Overrides usual;
  if (overrides.faders != usual.faders) object["faders"] = fadersName(overrides.faders);
  addUnlessDefault(object, "fader_db", overrides.faderDb, usual.faderDb);
  if (overrides.pansCentred) object["pans"] = "centred";
  addUnlessDefault(object, "volume_automation", overrides.volumeAutomation, true);
  addUnlessDefault(object, "pan_automation", overrides.panAutomation, true);
  addUnlessDefault(object, "mute_automation", overrides.muteAutomation, true);
  if (overrides.inserts != usual.inserts) object["inserts"] = insertChoiceName(overrides.inserts);
  addUnlessDefault(object, "insert_tags", overrides.tags, {});
}

Json json(const TrackException& exception) {
  Json object{{"track", exception.track}};
  addOverrides(object, exception.overrides);
  return object;
}

Json json(const SumSource& sum) {
  Json object{{"id", sum.id}, {"name", sum.name}, {"tracks", sum.tracks}};
  addUnlessDefault(object, "without", sum.without, false);
  return object;
}

/// What a brief says of the way to main.
void addSignal(Json& object, const Brief& brief) {
  const Brief usual;
  if (brief.returns != usual.returns) object["returns"] = json(brief.returns);
  addList(object, "sums", brief.sums);
  if (brief.reach != usual.reach) object["reach"] = reachName(brief.reach);
  if (brief.withReturns != usual.withReturns) object["with_returns"] = returnsName(brief.withReturns);
  addOverrides(object, brief.overrides);
  addUnlessDefault(object, "override_groups", brief.overrideGroups, false);
  addUnlessDefault(object, "override_returns", brief.overrideReturns, false);
  addUnlessDefault(object, "override_main", brief.overrideMain, false);
  addList(object, "exceptions", brief.exceptions);
  addUnlessDefault(object, "keyed", brief.keyed, usual.keyed);
  if (brief.runUpFromStart)
    object["run_up"] = "start";
  else if (brief.runUpSeconds > 0)
    object["run_up"] = brief.runUpSeconds;
  addUnlessDefault(object, "without_missing", brief.withoutMissing, false);
}

Json json(const Brief& brief) {
  Json object{{"id", brief.id},
              {"name", brief.name},
              {"regions", json(brief.regions)},
              {"mix", brief.mix},
              {"tracks", json(brief.tracks)},
              {"groups", json(brief.groups)},
              {"counts", countsName(brief.counts)},
              {"crossing", crossingName(brief.crossing)},
              {"end_fade_ms", brief.endFadeMs},
              {"tail_seconds", brief.tailSeconds},
              {"template", brief.nameTemplate},
              {"case", letterCaseName(brief.letterCase)},
              {"folder", brief.folder},
              {"encoding", encodingInfo(brief.encoding).name},
              {"existing", existingName(brief.existing)}};
  if (!brief.clipSets.empty()) object["clip_sets"] = json(brief.clipSets);
  addSignal(object, brief);
  addText(object, "notes", brief.notes);
  addUnknown(object, brief.unknownKeys);
  return object;
}

Json json(const TempoPoint& point) {
  Json object{{"at", point.at}, {"bpm", point.bpm}, {"beats", point.beats}, {"unit", point.unit}};
  addUnknown(object, point.unknownKeys);
  return object;
}

Json json(const Medium& medium) {
  Json object{{"id", medium.id}, {"file", medium.file}};
  addUnlessDefault(object, "frames", medium.frames, Frame{0});
  addUnlessDefault(object, "rate", medium.rate, 0);
  addText(object, "content", medium.content);
  addUnknown(object, medium.unknownKeys);
  return object;
}

}  // namespace

std::string writeSession(const Session& session) {
  Json root{{"format", kFormatName}, {"version", session.version}, {"rate", session.rate}};
  addText(root, "title", session.title);
  addText(root, "author", session.author);
  addText(root, "notes", session.notes);
  root["start_timecode"] = timecodeText(session.startPicture, session.pictureRate);
  root["picture_rate"] = pictureRateText(session.pictureRate);
  Json main{{"channels", session.main.channels}, {"gain_db", session.main.gainDb}};
  addList(main, "inserts", session.main.inserts);
  addList(main, "automation", session.main.automation);
  addUnknown(main, session.main.unknownKeys);
  root["main"] = std::move(main);
  if (!session.tempo.empty()) root["tempo"] = list(session.tempo);
  root["media"] = list(session.media);
  root["tracks"] = list(session.tracks);
  root["regions"] = list(session.regions);
  root["marker_sets"] = list(session.markerSets);
  if (!session.clipSets.empty()) root["clip_sets"] = list(session.clipSets);
  if (!session.pathFacts.empty()) root["path_facts"] = session.pathFacts;
  root["briefs"] = list(session.briefs);
  addUnknown(root, session.unknownKeys);
  return root.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

}  // namespace octaphon
