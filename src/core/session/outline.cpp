#include "session/outline.h"

#include <nlohmann/json.hpp>

#include "session/session_json.h"

namespace octaphon {
namespace {

Track outlineOf(const Track& track) {
  Track outline;
  outline.id = track.id;
  outline.name = track.name;
  outline.kind = track.kind;
  outline.group = track.group;
  outline.channels = track.channels;
  outline.ink = track.ink;
  outline.skipInNames = track.skipInNames;
  return outline;
}

Region outlineOf(const Region& region) {
  Region outline;
  outline.id = region.id;
  outline.name = region.name;
  outline.start = region.start;
  outline.length = region.length;
  outline.ink = region.ink;
  outline.facts = region.facts;
  outline.tags = region.tags;
  return outline;
}

}  // namespace

Session outlineOf(const Session& session) {
  Session outline;
  outline.rate = session.rate;
  outline.title = session.title;
  outline.author = session.author;
  outline.pictureRate = session.pictureRate;
  outline.startPicture = session.startPicture;
  outline.main.channels = session.main.channels;
  outline.tempo = session.tempo;
  outline.pathFacts = session.pathFacts;
  for (const Track& track : session.tracks) outline.tracks.push_back(outlineOf(track));
  for (const Region& region : session.regions) outline.regions.push_back(outlineOf(region));
  for (const MarkerSet& set : session.markerSets) {
    outline.markerSets.push_back({set.id, set.name, {}, {}});
    for (const Marker& marker : set.markers)
      outline.markerSets.back().markers.push_back({marker.id, marker.name, marker.at});
  }
  return outline;
}

std::string outlineText(const Session& session) {
  return nlohmann::ordered_json::parse(writeSession(outlineOf(session))).dump();
}

}  // namespace octaphon
