#include "edit/findings.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <unordered_map>

#include "base/decibels.h"
#include "base/interval_index.h"
#include "base/unicode.h"
#include "edit/clip_sets.h"
#include "edit/media.h"
#include "edit/rename.h"
#include "edit/tracks.h"
#include "naming/file_name.h"
#include "routing/track_tree.h"
#include "session/vocabulary.h"

namespace octaphon {
namespace {

class Checker {
 public:
  Checker(const Session& session, const MediaFacts* facts)
      : session_(session), facts_(facts), tree_(session) {
    std::vector<IntervalIndex::Interval> intervals;
    for (std::size_t t = 0; t < session.tracks.size(); ++t)
      for (std::size_t c = 0; c < session.tracks[t].clips.size(); ++c) {
        const Clip& clip = session.tracks[t].clips[c];
        if (clip.mute || clip.length == 0 || tree_.isMuted(Strip(t))) continue;
        intervals.push_back({clip.start, clip.end(), static_cast<std::uint32_t>(places_.size())});
        places_.push_back({t, c});
      }
    clips_ = IntervalIndex(std::move(intervals));
  }

  std::vector<Finding> check() {
    missingMedia();
    defaultNames();
    duplicateNames();
    silentSources();
    regions();
    outsideRegions();
    monoOnWide();
    outsideVocabulary();
    std::stable_sort(findings_.begin(), findings_.end(),
                     [](const Finding& a, const Finding& b) { return a.kind < b.kind; });
    return std::move(findings_);
  }

 private:
  void add(FindingKind kind, Severity severity, PlaceKind placeKind, const std::string& place,
           std::string text, std::string cure) {
    findings_.push_back({kind, severity, placeKind, place, std::move(text), std::move(cure)});
  }

  void outsideVocabulary() {
    if (session_.vocabulary.empty()) return;
    const auto look = [&](const auto& things, PlaceKind kind) {
      for (const auto& thing : things) {
        const Facts facts = session_.factsOf(thing.name, thing.facts);
        if (const std::string text = octaphon::outsideVocabulary(session_, facts); !text.empty())
          add(FindingKind::OutsideVocabulary, Severity::Warning, kind, thing.id,
              "Of " + printable(thing.name, 60) + ", " + text, "");
      }
    };
    look(session_.regions, PlaceKind::Region);
    look(session_.clipSets, PlaceKind::ClipSet);
  }

  void missingMedia() {
    if (facts_ == nullptr) return;
    for (const Medium& medium : session_.media) {
      const MediumFact* fact = facts_->find(medium.id);
      if (fact == nullptr || fact->state == MediumFact::State::Ready) continue;
      const bool isThere = fact->state == MediumFact::State::Different;
      add(isThere ? FindingKind::DifferentMedium : FindingKind::MissingMedium, Severity::Fault,
          PlaceKind::Medium, medium.id, fact->problem, isThere ? "Take it as it is" : "Find it…");
    }
  }

  template <class Thing>
  void defaultName(const Thing& thing, PlaceKind kind, const char* what, const char* cure) {
    if (!isDefaultName(lastPart(thing.name))) return;
    const std::string name =
        thing.name.empty() ? "has no name" : "is still called " + printable(thing.name, 60);
    add(FindingKind::DefaultName, Severity::Warning, kind, thing.id, "A " + std::string(what) + " " + name,
        cure);
  }

  void defaultNames() {
    for (const Region& region : session_.regions)
      defaultName(region, PlaceKind::Region, "region", "Name from tracks");
    for (const ClipSet& set : session_.clipSets)
      defaultName(set, PlaceKind::ClipSet, "clip set", "Name from tracks");
    for (const Track& track : session_.tracks)
      defaultName(track, PlaceKind::Track, std::string(octaphon::nameOf(track.kind)).c_str(), "");
  }

  void duplicateNames() {
    std::map<std::string, std::vector<std::pair<PlaceKind, std::string>>> byName;
    for (const Region& region : session_.regions)
      byName[foldedName(region.name)].push_back({PlaceKind::Region, region.id});
    for (const ClipSet& set : session_.clipSets)
      byName[foldedName(set.name)].push_back({PlaceKind::ClipSet, set.id});
    for (const auto& [name, places] : byName)
      for (std::size_t i = 1; i < places.size() && !name.empty(); ++i)
        add(FindingKind::DuplicateName, Severity::Note, places[i].first, places[i].second,
            printable(nameOf(places[i].first, places[i].second), 60) + " is the name of " +
                std::to_string(places.size()) + " spans",
            "Number it");
  }

  std::string nameOf(PlaceKind kind, const std::string& id) const {
    if (kind == PlaceKind::Region)
      for (const Region& region : session_.regions)
        if (region.id == id) return region.name;
    for (const ClipSet& set : session_.clipSets)
      if (set.id == id) return set.name;
    return {};
  }

  void silentSources() {
    std::vector<char> sounds(session_.tracks.size(), 0);
    std::set<std::string> fed;
    for (const Track& track : session_.tracks)
      for (const Send& send : track.sends) fed.insert(send.to);
    for (std::size_t t = 0; t < session_.tracks.size(); ++t)
      if (!session_.tracks[t].clips.empty() || fed.contains(session_.tracks[t].id))
        for (Strip up(t); !up.isMain(); up = tree_.parent(up)) sounds[up.track()] = 1;
    for (const Strip index : tree_.order()) {
      const Track& track = session_.tracks[index.track()];
      if (sounds[index.track()] == 0)
        add(FindingKind::SilentSource, Severity::Note, PlaceKind::Track, track.id,
            printable(track.name, 60) + (track.isGroup()    ? " has no clips in it"
                                         : track.isReturn() ? " gets nothing: no send leads to it"
                                                            : " has no clips"),
            "Delete it");
    }
  }

  /// The group or track that the path's first part names; nothing where there is none.
  std::optional<Strip> ownerOf(const std::string& name) {
    if (owners_.empty())
      for (auto it = tree_.order().rbegin(); it != tree_.order().rend(); ++it)
        owners_[foldedName(session_.tracks[it->track()].name)] = *it;
    const std::size_t slash = name.find('/');
    if (slash == std::string::npos) return std::nullopt;
    const auto found = owners_.find(foldedName(name.substr(0, slash)));
    return found == owners_.end() ? std::nullopt : std::optional(found->second);
  }

  void regions() {
    for (const Region& region : session_.regions) {
      const std::optional<Strip> owner = ownerOf(region.name);
      bool sounds = false;
      std::set<std::string> strangers;
      clips_.overlapping(region.start, region.end(), [&](const IntervalIndex::Interval& found) {
        sounds = true;
        const Strip track(places_[found.item].track);
        if (owner && !tree_.isInside(track, *owner) && found.start >= region.start)
          strangers.insert(session_.tracks[track.track()].name);
      });
      if (!sounds)
        add(FindingKind::EmptyRegion, Severity::Warning, PlaceKind::Region, region.id,
            "No clip sounds in " + printable(region.name, 60), "Delete it");
      if (!strangers.empty())
        add(FindingKind::OutsideGroup, Severity::Note, PlaceKind::Region, region.id,
            printable(region.name, 60) + " holds clips of " + printable(*strangers.begin(), 60) +
                (strangers.size() > 1 ? " and others" : "") + ", outside of its group",
            "");
    }
  }

  void outsideRegions() {
    std::vector<IntervalIndex::Interval> spans;
    for (const Region& region : session_.regions) spans.push_back({region.start, region.end(), 0});
    const IntervalIndex index(std::move(spans));
    std::set<std::string> inSets;
    for (const ClipSet& set : session_.clipSets) inSets.insert(set.clips.begin(), set.clips.end());
    if (session_.regions.empty() && session_.clipSets.empty()) return;
    std::map<std::size_t, std::vector<const Clip*>> byTrack;
    for (const ClipPlace place : places_) {
      const Clip& clip = clipAt(session_, place);
      bool inside = inSets.contains(clip.id);
      if (!inside)
        index.overlapping(clip.start, clip.end(), [&](const IntervalIndex::Interval&) { inside = true; });
      if (!inside) byTrack[place.track].push_back(&clip);
    }
    for (const auto& [track, clips] : byTrack)
      add(FindingKind::OutsideRegions, Severity::Note, PlaceKind::Clip, clips.front()->id,
          counted(clips.size(), "clip") + " on " + printable(session_.tracks[track].name, 60) +
              (clips.size() == 1 ? " lies" : " lie") + " outside all regions, the first at " +
              timeText(clips.front()->start, session_.rate),
          "");
  }

  void monoOnWide() {
    if (facts_ == nullptr) return;
    for (const Track& track : session_.tracks) {
      if (track.channels != 2 || track.pan != 0 || track.clips.empty()) continue;
      const bool mono = std::all_of(track.clips.begin(), track.clips.end(), [&](const Clip& clip) {
        const MediumFact* fact = facts_->find(clip.medium);
        return fact != nullptr && fact->state == MediumFact::State::Ready && fact->info.channels == 1;
      });
      if (mono)
        add(FindingKind::MonoOnWide, Severity::Note, PlaceKind::Track, track.id,
            printable(track.name, 60) + " is wider than its sound: all its files are mono",
            "Make it mono, as loud");
    }
  }

  const Session& session_;
  const MediaFacts* facts_;
  TrackTree tree_;
  IntervalIndex clips_;
  std::vector<ClipPlace> places_;
  std::unordered_map<std::string, Strip> owners_;
  std::vector<Finding> findings_;
};

bool nameFromTracks(Session& session, const Finding& finding, RenameStep step) {
  const NamedKind kind = finding.placeKind == PlaceKind::Region ? NamedKind::Region : NamedKind::ClipSet;
  for (const NamedThing& thing : namedThings(session, kind)) {
    if (thing.id != finding.place) continue;
    std::string name = thing.name;
    if (step == RenameStep::FromHierarchy) {
      RenameRequest request;
      request.step = step;
      if (auto preview = previewRename(session, {thing}, request)) name = preview->front().after;
    }
    std::vector<std::string> others = spanNames(session);
    if (const auto own = std::find(others.begin(), others.end(), thing.name); own != others.end())
      others.erase(own);
    return applyNames(session, {{thing, numberedNames({name}, others).front(), {}}}).changed > 0;
  }
  return false;
}

/// The pan law takes 3.01 dB from mono in the centre, which the fader gives back. Panned tracks stay: no
/// fader makes up for the other law there.
bool makeMono(Session& session, const std::string& id) {
  const TrackTree tree(session);
  const std::optional<Strip> found = tree.find(id);
  if (!found) return false;
  Track& track = session.tracks[found->track()];
  if (track.lock || track.pan != 0) return false;
  const Strip up = tree.parent(*found);
  const int around = up.isMain() ? session.main.channels : session.tracks[up.track()].channels;
  if (around > 1) track.gainDb = std::min(kMaxGainDb, track.gainDb + 10 * std::log10(2.0));
  track.channels = 1;
  return true;
}

}  // namespace

std::string_view findingTitle(FindingKind kind) {
  switch (kind) {
    case FindingKind::DefaultName: return "Names not given yet";
    case FindingKind::DuplicateName: return "One name for several spans";
    case FindingKind::SilentSource: return "Tracks without sound";
    case FindingKind::EmptyRegion: return "Regions without sound";
    case FindingKind::OutsideRegions: return "Clips outside all regions";
    case FindingKind::OutsideGroup: return "Clips outside the region's group";
    case FindingKind::MonoOnWide: return "Mono on wide tracks";
    case FindingKind::OutsideVocabulary: return "Facts outside the vocabulary";
    case FindingKind::DifferentMedium: return "Media that are not what they were";
    case FindingKind::MissingMedium: return "Missing media";
  }
  return {};
}

std::vector<Finding> checkSession(const Session& session, const MediaFacts* facts) {
  return Checker(session, facts).check();
}

bool cure(Session& session, const Finding& finding, const MediaFacts* facts) {
  switch (finding.kind) {
    case FindingKind::DifferentMedium: {
      const MediumFact* fact = facts == nullptr ? nullptr : facts->find(finding.place);
      return fact != nullptr && takeAsItIs(session, finding.place, *fact);
    }
    case FindingKind::DefaultName:
      return finding.placeKind != PlaceKind::Track &&
             nameFromTracks(session, finding, RenameStep::FromHierarchy);
    case FindingKind::DuplicateName: return nameFromTracks(session, finding, RenameStep::Number);
    case FindingKind::SilentSource: return deleteTracks(session, {finding.place}).changed > 0;
    case FindingKind::EmptyRegion: return deleteRegions(session, {finding.place}).changed > 0;
    case FindingKind::MonoOnWide: return makeMono(session, finding.place);
    default: return false;
  }
}

}  // namespace octaphon
