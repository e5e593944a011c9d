#include "plan/planner.h"

#include <algorithm>
#include <tuple>
#include <unordered_map>
#include <unordered_set>

#include "base/safe_folder.h"
#include "base/unicode.h"
#include "plan/recipe.h"
#include "plan/row_names.h"
#include "plan/row_states.h"
#include "plan/signal_words.h"
#include "plan/span_remarks.h"

namespace octaphon {
namespace {

bool isChosen(const Selection& selection, const std::unordered_set<std::string>& ids, const std::string& id) {
  return selection.all || ids.contains(id);
}

std::unordered_set<std::string> asSet(const Selection& selection) {
  return {selection.ids.begin(), selection.ids.end()};
}

/// Says which ids of a selection mean nothing.
void remarkUnknown(PlannedBrief& planned, const Selection& selection,
                   const std::unordered_set<std::string>& known, RemarkCode code, const char* what) {
  if (selection.all) return;
  for (const std::string& id : selection.ids)
    if (!known.contains(id))
      planned.remarks.push_back({Severity::Warning, code, planned.brief.name,
                                 "The brief asks for the " + std::string(what) + " '" + printable(id, 80) +
                                     "', which the session does not have. Choose again"});
}

class BriefPlanner {
 public:
  BriefPlanner(Sheet& sheet, const SignalContext& context)
      : sheet_(sheet),
        context_(context),
        finder_(context.finder),
        session_(context.session()),
        tree_(context.tree()),
        facts_(context.facts) {}

  void plan(const Brief& brief, const std::optional<std::filesystem::path>& folder) {
    index_ = sheet_.briefs.size();
    sheet_.briefs.emplace_back().brief = brief;
    chooseBase(folder);
    chooseSpans();
    chooseSources();
    planned().firstRow = sheet_.rows.size();
    addRows();
    planned().rowCount = sheet_.rows.size() - planned().firstRow;
    addBriefFaults();
    nameRows(sheet_, index_);
  }

 private:
  PlannedBrief& planned() { return sheet_.briefs[index_]; }
  const Brief& brief() { return planned().brief; }

  void chooseBase(const std::optional<std::filesystem::path>& folder) {
    std::string below = brief().folder;
    while (below.size() > 1 && below.back() == '/') below.pop_back();
    if (folder) {
      planned().base = *folder;
    } else if (isPlainRelativePath(below)) {
      planned().base = session_.folder() / below;
    } else {
      planned().base = session_.folder();
      briefFaults_.push_back(
          {Severity::Fault, RemarkCode::BadFolder, brief().name,
           "The folder '" + printable(below, 80) +
               "' is not below the session's folder. Name a folder there, or give another one with --out"});
    }
  }

  void chooseSpans() {
    const auto ids = asSet(brief().regions);
    std::unordered_set<std::string> known;
    for (const Region& region : session_.regions) {
      known.insert(region.id);
      if (isChosen(brief().regions, ids, region.id)) planned().spans.push_back(spanOf(region));
    }
    addClipSets();
    std::sort(planned().spans.begin(), planned().spans.end(), [](const PlannedSpan& a, const PlannedSpan& b) {
      return std::tuple(a.start, -a.length, std::string_view(a.id)) <
             std::tuple(b.start, -b.length, std::string_view(b.id));
    });
    remarkUnknown(planned(), brief().regions, known, RemarkCode::UnknownRegion, "region");
  }

  static PlannedSpan spanOf(const Region& region) {
    PlannedSpan span = PlannedSpan::stretch(region.start, region.length, region.finish);
    span.id = region.id;
    span.name = region.name;
    return span;
  }

  void addClipSets() {
    const auto ids = asSet(brief().clipSets);
    std::unordered_set<std::string> known;
    for (const ClipSet& set : session_.clipSets) {
      known.insert(set.id);
      if (!isChosen(brief().clipSets, ids, set.id)) continue;
      if (set.mute)
        planned().remarks.push_back(
            {Severity::Note, RemarkCode::MutedSource, set.id,
             "The clip set " + printable(set.name) + " is muted and left out. Unmute it to print it"});
      else
        planned().spans.push_back(spanOf(set));
    }
    remarkUnknown(planned(), brief().clipSets, known, RemarkCode::UnknownClipSet, "clip set");
  }

  PlannedSpan spanOf(const ClipSet& set) const {
    const TimeSpan extent = finder_.extentOf(set).value_or(TimeSpan{});
    PlannedSpan span = PlannedSpan::stretch(extent.start, extent.length, set.finish);
    span.kind = PlannedSpan::Kind::ClipSet;
    span.id = set.id;
    span.name = set.name;
    span.channels = set.channels;
    span.tailSeconds = set.tailSeconds;
    return span;
  }

  /// Helpers are in no file: left out, and said so where one was chosen by hand.
  bool isHelper(int index, bool byHand) {
    if (!tree_.isHelper(index)) return false;
    const Track& track = session_.tracks[static_cast<std::size_t>(index)];
    if (byHand)
      planned().remarks.push_back(
          {Severity::Note, RemarkCode::HelperSource, track.id,
           printable(track.name) + " is a helper and in no file. Make it a usual track to print it"});
    return true;
  }

  void chooseSources() {
    const auto tracks = asSet(brief().tracks);
    const auto groups = asSet(brief().groups);
    const auto returns = asSet(brief().returns);
    std::unordered_set<std::string> known[3];
    std::vector<PlannedSource> wet;
    for (const int index : tree_.order()) {
      const Track& track = session_.tracks[static_cast<std::size_t>(index)];
      const auto kind = static_cast<std::size_t>(track.kind);
      known[kind].insert(track.id);
      const Selection& selection = track.isGroup()    ? brief().groups
                                   : track.isReturn() ? brief().returns
                                                      : brief().tracks;
      const bool asFile = track.isReturn() && brief().withReturns == Returns::Files;
      if (!asFile && !isChosen(selection,
                               track.isGroup()    ? groups
                               : track.isReturn() ? returns
                                                  : tracks,
                               track.id))
        continue;
      if (isHelper(index, !selection.all && !asFile)) continue;
      PlannedSource source;
      source.kind = track.isGroup()    ? PlannedSource::Kind::Group
                    : track.isReturn() ? PlannedSource::Kind::Return
                                       : PlannedSource::Kind::Track;
      source.track = index;
      source.id = track.id;
      source.name = track.name;
      const int up = tree_.parent(index);
      if (up != TrackTree::kMain) source.group = session_.tracks[static_cast<std::size_t>(up)].name;
      (track.isReturn() ? wet : planned().sources).push_back(std::move(source));
      if (tree_.isMuted(index))
        planned().remarks.push_back(
            {Severity::Note, RemarkCode::MutedSource, track.id,
             printable(track.name) + " is muted and left out. Unmute it to print it"});
    }
    for (const SumSource& sum : brief().sums) planned().sources.push_back(sourceOf(sum));
    if (!wet.empty() && brief().withReturns == Returns::In && !planned().sources.empty())
      planned().remarks.push_back(
          {Severity::Note, RemarkCode::ReturnsTwice, wet.front().id,
           "Returns are in the layers and files of their own; where layers are added up, their "
           "own files do not count"});
    std::move(wet.begin(), wet.end(), std::back_inserter(planned().sources));
    if (brief().mix) {
      PlannedSource mix;
      mix.id = "main";
      mix.name = "mix";
      planned().sources.push_back(std::move(mix));
    }
    for (PlannedSource& source : planned().sources)
      source.heard = heardWords(session_, tree_, brief(), source);
    remarkUnknown(planned(), brief().tracks, known[0], RemarkCode::UnknownSource, "track");
    remarkUnknown(planned(), brief().groups, known[1], RemarkCode::UnknownSource, "group");
    remarkUnknown(planned(), brief().returns, known[2], RemarkCode::UnknownSource, "return");
  }

  PlannedSource sourceOf(const SumSource& sum) {
    PlannedSource source;
    source.kind = sum.without ? PlannedSource::Kind::MixWithout : PlannedSource::Kind::Sum;
    source.id = sum.id;
    source.name = sum.name;
    for (const std::string& id : sum.tracks) {
      const int index = tree_.find(id);
      if (index != TrackTree::kMain && !tree_.isHelper(index) && !tree_.isMuted(index))
        source.tracks.push_back(index);
      if (index == TrackTree::kMain)
        remarkUnknown(planned(), {false, {id}}, {}, RemarkCode::UnknownSource, "track");
    }
    return source;
  }

  void addRows() {
    const Counting counting = countingOf(brief(), session_.rate);
    SharedClips sharing;
    for (std::size_t i = 0; i < planned().spans.size(); ++i) {
      const PlannedSpan& span = planned().spans[i];
      const std::vector<HeardClip> heard = finder_.heardIn(span, counting);
      SpanRecipe recipe(context_, span, counting, heard);
      std::vector<TrackRemark> remarks = spanRemarks(finder_, facts_, span, counting, heard);
      for (TrackRemark& shared : sharing.add(span, heard)) remarks.push_back(std::move(shared));
      std::stable_sort(remarks.begin(), remarks.end(), [&](const TrackRemark& a, const TrackRemark& b) {
        return tree_.place(a.track) < tree_.place(b.track);
      });
      for (std::size_t s = 0; s < planned().sources.size(); ++s) addRow(i, s, recipe, remarks);
    }
  }

  void addRow(std::size_t spanIndex, std::size_t sourceIndex, SpanRecipe& recipe,
              const std::vector<TrackRemark>& remarks) {
    const PlannedSpan& span = planned().spans[spanIndex];
    const PlannedSource& source = planned().sources[sourceIndex];
    if (source.track != TrackTree::kMain && tree_.isMuted(source.track)) {
      ++planned().leftOutMuted;
      return;
    }
    const bool isWhole =
        source.kind == PlannedSource::Kind::Mix || source.kind == PlannedSource::Kind::MixWithout;
    const Tap tap = isWhole || recipe.sounds(source) ? recipe.tap(brief(), source) : Tap{};
    const bool isReturn = source.kind == PlannedSource::Kind::Return;
    if (isReturn ? tap.node == kSilentNode : !isWhole && !recipe.sounds(source)) {
      ++planned().leftOutEmpty;
      return;
    }
    Row row;
    row.brief = static_cast<std::uint32_t>(index_);
    row.span = static_cast<std::uint32_t>(spanIndex);
    row.source = static_cast<std::uint32_t>(sourceIndex);
    row.tapped = tap.channels;
    row.channels = span.channels > 0 ? span.channels : tap.channels;
    row.encoding = brief().encoding;
    row.start = span.start;
    row.frames = span.length + framesOf(span.tailSeconds.value_or(brief().tailSeconds), session_.rate);
    row.fingerprint = fingerprintOf(row, recipe, tap);
    addRowRemarks(row, span, recipe.sounds(source));
    for (const SignalIssue& issue : tap.issues) row.remarks.push_back(remarkOf(issue, session_, brief()));
    addTrackRemarks(row, source, remarks);
    sheet_.rows.push_back(std::move(row));
  }

  /// What the row hears and how it is written. Names, colours, notes and the place in the session do not
  /// count.
  Digest fingerprintOf(const Row& row, const SpanRecipe& recipe, const Tap& tap) const {
    Hasher hasher;
    hasher.add(kEngineVersion);
    hasher.add(session_.rate);
    if (tap.node != kSilentNode) hasher.add(recipe.node(tap.node).digest);
    hasher.add(row.tapped);
    hasher.add(row.frames);
    hasher.add(row.channels);
    hasher.add(encodingInfo(row.encoding).name);
    return hasher.digest();
  }

  /// Those about the source and what is inside it; `remarks` are in track order, so they stand together.
  void addTrackRemarks(Row& row, const PlannedSource& source, const std::vector<TrackRemark>& remarks) const {
    if (source.kind == PlannedSource::Kind::Return) return;
    auto found = remarks.begin();
    if (source.track != TrackTree::kMain)
      found = std::lower_bound(
          found, remarks.end(), tree_.place(source.track),
          [&](const TrackRemark& remark, int place) { return tree_.place(remark.track) < place; });
    for (; found != remarks.end() && tree_.isInside(found->track, source.track); ++found) {
      const bool isPart = source.kind != PlannedSource::Kind::Sum ||
                          std::any_of(source.tracks.begin(), source.tracks.end(),
                                      [&](int part) { return tree_.isInside(found->track, part); });
      if (!isPart) continue;
      // What is true of several tracks in the same words is said once.
      const bool again =
          (found->remark.code == RemarkCode::SharedClips || found->remark.code == RemarkCode::NotInSet) &&
          std::find(row.remarks.begin(), row.remarks.end(), found->remark) != row.remarks.end();
      if (!again) row.remarks.push_back(found->remark);
    }
  }

  void addRowRemarks(Row& row, const PlannedSpan& span, bool sounds) {
    if (span.length == 0)
      row.remarks.push_back(
          {Severity::Fault, RemarkCode::EmptySpan, span.id,
           span.kind == PlannedSpan::Kind::Region
               ? "The region has no length. Draw it longer"
               : "The clip set has no clips that could sound. Add clips to it, or delete it"});
    if (!sounds)
      row.remarks.push_back({Severity::Warning, RemarkCode::NothingSounding, span.id,
                             "No clip sounds in " + printable(span.name) + "; the file will be silent"});
    if (dataBytes(row.encoding, row.frames, row.channels) > encodingInfo(row.encoding).maxBytes)
      row.remarks.push_back({Severity::Fault, RemarkCode::TooLong, span.id,
                             "The file would be larger than a WAV file can be (4 GB). Make the span shorter, "
                             "or choose fewer bits"});
  }

  void addBriefFaults() {
    for (const Remark& fault : briefFaults_) {
      planned().remarks.push_back(fault);
      for (std::size_t i = 0; i < planned().rowCount; ++i)
        sheet_.rows[planned().firstRow + i].remarks.push_back(fault);
    }
    briefFaults_.clear();
  }

  Sheet& sheet_;
  const SignalContext& context_;
  const ClipFinder& finder_;
  const Session& session_;
  const TrackTree& tree_;
  const MediaFacts& facts_;
  std::size_t index_ = 0;
  std::vector<Remark> briefFaults_;
};

}  // namespace

Result<PlanRequest> requestFor(const Session& session, const std::vector<std::string>& briefNames) {
  PlanRequest request;
  for (std::size_t i = 0; i < session.briefs.size() && briefNames.empty(); ++i) request.briefs.push_back(i);
  for (const std::string& name : briefNames) {
    const std::size_t before = request.briefs.size();
    for (std::size_t i = 0; i < session.briefs.size(); ++i) {
      const bool taken = std::find(request.briefs.begin(), request.briefs.end(), i) != request.briefs.end();
      if (session.briefs[i].name == name && !taken) request.briefs.push_back(i);
    }
    const bool known =
        request.briefs.size() > before || std::any_of(session.briefs.begin(), session.briefs.end(),
                                                      [&](const Brief& b) { return b.name == name; });
    if (!known) {
      std::string names;
      for (const Brief& brief : session.briefs)
        names += (names.empty() ? "'" : ", '") + printable(brief.name, 60) + "'";
      return fail(ErrorCode::UnknownName, "brief '" + printable(name, 60) + "'",
                  "the session has no brief of this name",
                  names.empty() ? "It has no briefs" : "It has " + names);
    }
  }
  return request;
}

Sheet planSheet(const Session& session, const MediaFacts& facts, const PlanRequest& request,
                const PluginCatalogue* plugins) {
  Sheet sheet;
  sheet.session = session.displayName();
  sheet.rate = session.rate;
  const TrackTree tree(session);
  const ClipFinder finder(session, tree);
  const SignalContext context(finder, facts, plugins);
  BriefPlanner planner(sheet, context);
  for (const std::size_t brief : request.briefs) planner.plan(session.briefs[brief], request.folder);
  findCollisions(sheet);
  setStates(sheet, {});
  return sheet;
}

}  // namespace octaphon
