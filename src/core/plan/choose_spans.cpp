#include "plan/choose_spans.h"

#include <algorithm>
#include <tuple>
#include <unordered_map>

#include "base/unicode.h"
#include "brief/chooser.h"
#include "naming/file_name.h"
#include "plan/choose_sources.h"

namespace octaphon {
namespace {

/// From the first to the last clip that sounds; nothing without any.
class ClipExtent {
 public:
  void add(const Clip& clip) {
    if (clip.mute || clip.length == 0) return;
    start_ = std::min(start_, clip.start);
    end_ = std::max(end_, clip.end());
  }
  void add(const ClipExtent& other) {
    start_ = std::min(start_, other.start_);
    end_ = std::max(end_, other.end_);
  }
  std::optional<TimeSpan> span() const {
    return end_ < 0 ? std::nullopt : std::optional(TimeSpan{start_, end_ - start_});
  }

 private:
  Frame start_ = kMaxFrame;
  Frame end_ = -1;
};

class SpanChooser {
 public:
  SpanChooser(PlannedBrief& planned, const ClipFinder& finder)
      : planned_(planned), finder_(finder), session_(finder.session()), tree_(finder.tree()) {}

  void choose() {
    addRegions();
    addClipSets();
    addClips();
    addBetweenMarkers();
    const Brief::Where& where = planned_.brief.where;
    if (where.wholeSession) add(PlannedSpan::Kind::Session, {}, session_.displayName(), {0, session_.end()});
    if (where.range.length > 0) add(PlannedSpan::Kind::Range, {}, planned_.brief.name, where.range);
    if (where.extents) addExtents();
    std::sort(planned_.spans.begin(), planned_.spans.end(), [](const PlannedSpan& a, const PlannedSpan& b) {
      return std::tuple(a.start, -a.length, std::string_view(a.id), a.kind) <
             std::tuple(b.start, -b.length, std::string_view(b.id), b.kind);
    });
    findAsked();
  }

 private:
  PlannedSpan& add(PlannedSpan::Kind kind, const std::string& id, const std::string& name,
                   const TimeSpan& where) {
    PlannedSpan& span = planned_.spans.emplace_back(PlannedSpan::stretch(where.start, where.length));
    span.kind = kind;
    span.id = id;
    span.name = name;
    return span;
  }

  void addRegions() {
    Chooser chooser(planned_.brief.where.regions);
    for (const Region& region : session_.regions) {
      if (!chooser.takes({region.id, region.name, region.ink, &region.tags})) continue;
      PlannedSpan& span =
          add(PlannedSpan::Kind::Region, region.id, region.name, {region.start, region.length});
      span.finish = region.finish;
      span.channels = region.channels;
    }
    remarkIdle(planned_, chooser.idle(), RemarkCode::UnknownRegion, "region");
  }

  void addClipSets() {
    Chooser chooser(planned_.brief.where.clipSets);
    for (const ClipSet& set : session_.clipSets) {
      if (!chooser.takes({set.id, set.name, set.ink, &set.tags})) continue;
      if (set.mute) {
        planned_.remarks.push_back(
            {Severity::Note, RemarkCode::MutedSource, set.id,
             "The clip set " + printable(set.name) + " is muted and left out. Unmute it to print it"});
        continue;
      }
      PlannedSpan& span =
          add(PlannedSpan::Kind::ClipSet, set.id, set.name, finder_.extentOf(set).value_or(TimeSpan{}));
      span.finish = set.finish;
      span.channels = set.channels;
    }
    remarkIdle(planned_, chooser.idle(), RemarkCode::UnknownClipSet, "clip set");
  }

  /// Clips that never sound are none.
  void addClips() {
    if (planned_.brief.where.clips.empty()) return;
    Chooser chooser(planned_.brief.where.clips);
    std::unordered_map<std::string_view, std::string_view> files;
    for (const Medium& medium : session_.media) files.emplace(medium.id, medium.file);
    for (const Strip strip : tree_.order()) {
      const Track& track = session_.tracks[strip.track()];
      if (track.clips.empty() || tree_.isMuted(strip) || tree_.isHelper(strip)) continue;
      std::vector<std::string> above = groupsAbove(session_, tree_, strip);
      above.push_back(track.id);
      const int ink = inkOf(session_, tree_, strip);
      for (const Clip& clip : track.clips) {
        if (clip.mute || clip.length == 0) continue;
        const std::string name = clip.name.empty() ? stemOf(files[clip.medium]) : clip.name;
        if (chooser.takes({clip.id, name, clip.ink == 0 ? ink : clip.ink, nullptr, 0, &above}))
          add(PlannedSpan::Kind::Clip, clip.id, name, {clip.start, clip.length});
      }
    }
    remarkIdle(planned_, chooser.idle(), RemarkCode::UnknownRegion, "clip");
  }

  /// A medium's name without folder and ending.
  static std::string stemOf(std::string_view file) {
    const std::string_view name = lastPart(file);
    return std::string(name.substr(0, name.rfind('.')));
  }

  void addBetweenMarkers() {
    Chooser chooser(planned_.brief.where.betweenMarkers);
    for (const MarkerSet& set : session_.markerSets) {
      if (!chooser.takes({set.id, set.name})) continue;
      std::vector<const Marker*> markers;
      for (const Marker& marker : set.markers) markers.push_back(&marker);
      std::stable_sort(markers.begin(), markers.end(),
                       [](const Marker* a, const Marker* b) { return a->at < b->at; });
      for (std::size_t i = 0; i + 1 < markers.size(); ++i)
        if (markers[i + 1]->at > markers[i]->at)
          add(PlannedSpan::Kind::Markers, markers[i]->id, markers[i]->name,
              {markers[i]->at, markers[i + 1]->at - markers[i]->at});
    }
    remarkIdle(planned_, chooser.idle(), RemarkCode::UnknownRegion, "marker set");
  }

  void addExtents() {
    std::vector<ClipExtent> extents(tree_.size() + 1);  // by slot: of what is in it
    for (const Strip strip : tree_.order()) {
      if (tree_.isMuted(strip) || tree_.isHelper(strip)) continue;
      ClipExtent own;
      for (const Clip& clip : session_.tracks[strip.track()].clips) own.add(clip);
      for (Strip up = strip;; up = tree_.parent(up)) {
        extents[up.slot()].add(own);
        if (up.isMain()) break;
      }
    }
    for (const PlannedSource& source : planned_.sources) {
      if (!source.isEverywhere || source.kind == PlannedSource::Kind::Together) continue;
      ClipExtent extent;
      // What returns give comes of all there is.
      const bool isOfAll = source.isWhole() || source.kind == PlannedSource::Kind::Return;
      if (source.kind == PlannedSource::Kind::Sum)
        for (const Strip track : source.tracks) extent.add(extents[track.slot()]);
      else
        extent = extents[isOfAll ? Strip::main().slot() : source.track.slot()];
      if (const auto span = extent.span())
        add(PlannedSpan::Kind::Extent, source.key(), source.name, *span);
      else
        ++planned_.leftOutEmpty;
    }
  }

  /// Which sources that are not everywhere each span asks for.
  void findAsked() {
    planned_.asked.resize(planned_.spans.size());
    const OwnSources own(planned_.brief, session_, tree_);
    if (!own.isThere()) return;
    std::unordered_map<std::string_view, std::uint32_t> places;
    for (std::size_t i = planned_.sources.size(); i-- > 0;)
      places[planned_.sources[i].id] = static_cast<std::uint32_t>(i);
    std::unordered_map<std::string_view, std::vector<std::uint32_t>> regions, sets;
    const auto collect = [&](const auto& things, auto& found) {
      for (const auto& thing : things)
        for (const std::string& id : own.of(thing))
          if (const auto place = places.find(id); place != places.end())
            found[thing.id].push_back(place->second);
    };
    collect(session_.regions, regions);
    collect(session_.clipSets, sets);
    for (std::size_t i = 0; i < planned_.spans.size(); ++i) {
      const PlannedSpan& span = planned_.spans[i];
      if (span.kind == PlannedSpan::Kind::Region) planned_.asked[i] = regions[span.id];
      if (span.kind == PlannedSpan::Kind::ClipSet) planned_.asked[i] = sets[span.id];
    }
  }

  PlannedBrief& planned_;
  const ClipFinder& finder_;
  const Session& session_;
  const TrackTree& tree_;
};

}  // namespace

void chooseSpans(PlannedBrief& planned, const ClipFinder& finder) { SpanChooser(planned, finder).choose(); }

}  // namespace octaphon
