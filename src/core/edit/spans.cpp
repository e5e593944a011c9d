#include "edit/spans.h"

#include <algorithm>
#include <map>
#include <unordered_map>
#include <unordered_set>

#include "base/unicode.h"
#include "edit/ids.h"
#include "naming/file_name.h"

namespace octaphon {
namespace {

/// The clips that a request is about, by start.
std::vector<ClipPlace> askedClips(const Session& session, const SpanRequest& request) {
  std::vector<ClipPlace> places;
  for (std::size_t t = 0; t < session.tracks.size(); ++t)
    for (std::size_t c = 0; c < session.tracks[t].clips.size(); ++c) {
      const Clip& clip = session.tracks[t].clips[c];
      if (clip.mute || clip.length == 0) continue;
      if (!request.clips.empty() && !request.clips.contains(clip.id)) continue;
      if (request.range && (clip.start >= request.range->end() || clip.end() <= request.range->start))
        continue;
      places.push_back({t, c});
    }
  std::stable_sort(places.begin(), places.end(), [&](ClipPlace a, ClipPlace b) {
    return clipAt(session, a).start < clipAt(session, b).start;
  });
  return places;
}

class Proposer {
 public:
  Proposer(const Session& session, const SpanRequest& request) : session_(session), request_(request) {
    for (const Track& track : session.tracks) byId_.emplace(track.id, &track);
  }

  std::vector<SpanProposal> sounds(const std::vector<FoundSound>& found) {
    for (const FoundSound& sound : found) {
      const std::vector<ClipPlace> places = placesOf(session_, {sound.clip});
      if (places.empty()) continue;
      add(places);
      proposals_.back().span = sound.span;
      proposals_.back().clips.clear();
    }
    number();
    return std::move(proposals_);
  }

  std::vector<SpanProposal> propose() {
    switch (request_.rule) {
      case SpanRule::Around: around(); break;
      case SpanRule::Islands: islands(); break;
      case SpanRule::EachClip:
        for (const ClipPlace place : askedClips(session_, request_)) add({place});
        break;
      case SpanRule::EachTrack: tracks(); break;
      case SpanRule::BetweenMarkers: betweenMarkers(); break;
    }
    number();
    return std::move(proposals_);
  }

 private:
  void around() {
    const std::vector<ClipPlace> places = askedClips(session_, request_);
    if (!places.empty()) add(places);
    if (!request_.range) return;
    if (places.empty()) proposals_.push_back({{}, "Region", 0, {}});
    proposals_.back().span = *request_.range;
  }

  void islands() {
    std::vector<ClipPlace> island;
    Frame end = 0;
    for (const ClipPlace place : askedClips(session_, request_)) {
      const Clip& clip = clipAt(session_, place);
      if (!island.empty() && clip.start - end > request_.gap) {
        add(island);
        island.clear();
      }
      end = island.empty() ? clip.end() : std::max(end, clip.end());
      island.push_back(place);
    }
    if (!island.empty()) add(island);
  }

  void tracks() {
    std::map<std::size_t, std::vector<ClipPlace>> byTrack;
    for (const ClipPlace place : askedClips(session_, request_)) byTrack[place.track].push_back(place);
    for (const auto& [track, places] : byTrack) add(places);
    std::stable_sort(proposals_.begin(), proposals_.end(), [](const SpanProposal& a, const SpanProposal& b) {
      return a.span.start < b.span.start;
    });
  }

  void betweenMarkers() {
    for (const MarkerSet& set : session_.markerSets) {
      if (set.id != request_.markerSet) continue;
      std::vector<Marker> markers = set.markers;
      std::stable_sort(markers.begin(), markers.end(),
                       [](const Marker& a, const Marker& b) { return a.at < b.at; });
      for (std::size_t i = 0; i + 1 < markers.size(); ++i) {
        const TimeSpan span{markers[i].at, markers[i + 1].at - markers[i].at};
        const bool inside =
            !request_.range || (span.start >= request_.range->start && span.end() <= request_.range->end());
        if (span.length == 0 || !inside) continue;
        proposals_.push_back({span, markers[i].name.empty() ? set.name : markers[i].name, 0, {}});
      }
    }
  }

  /// From the first to the last of some clips; they come by start.
  void add(const std::vector<ClipPlace>& places) {
    SpanProposal proposal;
    proposal.span.start = clipAt(session_, places.front()).start;
    Frame end = 0;
    for (const ClipPlace place : places) {
      end = std::max(end, clipAt(session_, place).end());
      proposal.clips.push_back(clipAt(session_, place).id);
    }
    proposal.span.length = end - proposal.span.start;
    proposal.name = inheritedName(places.front());
    proposal.ink = inheritedInk(places.front());
    proposals_.push_back(std::move(proposal));
  }

  const Track* groupOf(const Track& track) const {
    const auto found = byId_.find(track.group);
    return found == byId_.end() ? nullptr : found->second;
  }

  std::string inheritedName(ClipPlace place) const {
    const Track& track = session_.tracks[place.track];
    const Track* group = groupOf(track);
    switch (request_.nameFrom) {
      case NameFrom::Clip:
        if (!clipAt(session_, place).name.empty()) return clipAt(session_, place).name;
        return mediumName(clipAt(session_, place).medium);
      case NameFrom::Group: return group != nullptr ? group->name : track.name;
      case NameFrom::Track: return track.name;
    }
    return {};
  }

  std::string mediumName(const std::string& id) const {
    for (const Medium& medium : session_.media)
      if (medium.id == id) {
        const std::string_view name = lastPart(medium.file);
        return std::string(name.substr(0, name.rfind('.')));
      }
    return {};
  }

  /// The nearest colour on the way from the clip up.
  int inheritedInk(ClipPlace place) const {
    if (request_.nameFrom == NameFrom::Clip && clipAt(session_, place).ink > 0)
      return clipAt(session_, place).ink;
    const Track* track = &session_.tracks[place.track];
    if (request_.nameFrom == NameFrom::Group && groupOf(*track) != nullptr) track = groupOf(*track);
    for (; track != nullptr; track = groupOf(*track))
      if (track->ink > 0) return track->ink;
    return 0;
  }

  void number() {
    std::vector<std::string> names;
    for (SpanProposal& proposal : proposals_) {
      if (!request_.name.empty()) proposal.name = request_.name;
      names.push_back(proposal.name.empty() ? "Region" : proposal.name);
    }
    names = numberedNames(names, spanNames(session_));
    for (std::size_t i = 0; i < proposals_.size(); ++i) proposals_[i].name = std::move(names[i]);
  }

  const Session& session_;
  const SpanRequest& request_;
  std::unordered_map<std::string, const Track*> byId_;
  std::vector<SpanProposal> proposals_;
};

std::string twoDigits(std::size_t number) { return (number < 10 ? "0" : "") + std::to_string(number); }

}  // namespace

std::vector<SpanProposal> proposeSpans(const Session& session, const SpanRequest& request) {
  return Proposer(session, request).propose();
}

std::vector<SpanProposal> proposeSounds(const Session& session, const std::vector<FoundSound>& sounds,
                                        const SpanRequest& request) {
  return Proposer(session, request).sounds(sounds);
}

std::vector<std::string> numberedNames(const std::vector<std::string>& names,
                                       const std::vector<std::string>& taken) {
  std::unordered_set<std::string> used;
  std::unordered_set<std::string> usedBases;  // of names that have a number already
  for (const std::string& name : taken) {
    used.insert(foldedName(name));
    usedBases.insert(foldedName(baseName(name)));
  }
  std::unordered_map<std::string, std::size_t> count, last;
  for (const std::string& name : names) ++count[name];
  std::vector<std::string> result;
  for (const std::string& name : names) {
    const std::string folded = foldedName(name);
    std::string candidate = name;
    if (count[name] > 1 || used.contains(folded) || usedBases.contains(folded)) do
        candidate = name + " " + twoDigits(++last[name]);
      while (used.contains(foldedName(candidate)));
    used.insert(foldedName(candidate));
    result.push_back(std::move(candidate));
  }
  return result;
}

std::vector<std::string> spanNames(const Session& session) {
  std::vector<std::string> names;
  for (const Region& region : session.regions) names.push_back(region.name);
  for (const ClipSet& set : session.clipSets) names.push_back(set.name);
  return names;
}

std::vector<std::string> addRegions(Session& session, const std::vector<SpanProposal>& proposals) {
  IdMaker maker(session);
  std::vector<std::string> ids;
  for (const SpanProposal& proposal : proposals) {
    Region region;
    region.id = maker.next("r");
    region.name = proposal.name;
    region.start = proposal.span.start;
    region.length = proposal.span.length;
    region.ink = proposal.ink;
    ids.push_back(region.id);
    session.regions.push_back(std::move(region));
  }
  return ids;
}

}  // namespace octaphon
