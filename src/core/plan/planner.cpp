#include "plan/planner.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <tuple>
#include <unordered_map>
#include <unordered_set>

#include "base/safe_folder.h"
#include "base/unicode.h"
#include "plan/loop_planner.h"
#include "plan/row_names.h"
#include "plan/signal_words.h"
#include "plan/span_remarks.h"
#include "recipe/recipe.h"

namespace octaphon {
namespace {

bool isChosen(const Selection& selection, const std::unordered_set<std::string>& ids, const std::string& id) {
  return selection.all || ids.contains(id);
}

std::unordered_set<std::string> asSet(const Selection& selection) {
  return {selection.ids.begin(), selection.ids.end()};
}

/// Says how many ids of a selection mean nothing. What they meant, nobody can tell any more.
void remarkUnknown(PlannedBrief& planned, const Selection& selection,
                   const std::unordered_set<std::string>& known, RemarkCode code, const char* what) {
  if (selection.all) return;
  const auto gone = std::count_if(selection.ids.begin(), selection.ids.end(),
                                  [&](const std::string& id) { return !known.contains(id); });
  if (gone > 0)
    planned.remarks.push_back({Severity::Warning, code, planned.brief.name,
                               "The brief asks for " + counted(static_cast<std::size_t>(gone), what) +
                                   " that the session does not have any more. Choose again"});
}

class BriefPlanner {
 public:
  BriefPlanner(Sheet& sheet, const SignalContext& context)
      : sheet_(sheet),
        context_(context),
        finder_(context.finder),
        session_(context.session()),
        tree_(context.tree()),
        facts_(context.facts),
        endsPlanner_(session_) {}

  void plan(const Brief& brief, const std::optional<std::filesystem::path>& folder) {
    index_ = sheet_.briefs.size();
    sheet_.briefs.emplace_back().brief = brief;
    outputs_ = brief.outputs();
    for (Output& output : outputs_) output.folder = withoutControls(output.folder, "_");
    chooseBase(folder);
    checkOutputs();
    chooseSpans();
    chooseSources();
    planLoops(planned(), endsPlanner_, context_);
    planned().firstRow = sheet_.rows.size();
    addSounds();
    planned().rowCount = sheet_.rows.size() - planned().firstRow;
    addBriefFaults();
    nameRows(sheet_, index_);
  }

 private:
  PlannedBrief& planned() { return sheet_.briefs[index_]; }
  const PlannedBrief& planned() const { return sheet_.briefs[index_]; }
  const Brief& brief() const { return planned().brief; }

  void chooseBase(const std::optional<std::filesystem::path>& folder) {
    std::string below = withoutControls(brief().delivery.folder, "_");
    while (below.size() > 1 && below.back() == '/') below.pop_back();
    if (folder) {
      planned().base = {*folder};
    } else if (isPlainRelativePath(below)) {
      planned().base = {session_.folder(), below};
    } else {
      planned().base = {session_.folder()};
      briefFaults_.push_back(
          {Severity::Fault, RemarkCode::BadFolder, brief().name,
           "The folder '" + printable(below, 80) +
               "' is not below the session's folder. Name a folder there, or give another one with --out"});
    }
  }

  /// Their folders stay below the brief's.
  void checkOutputs() {
    for (const Output& output : outputs_)
      if (!output.folder.empty() && !isPlainRelativePath(output.folder))
        briefFaults_.push_back({Severity::Fault, RemarkCode::BadFolder, brief().name,
                                "The folder '" + printable(output.folder, 80) +
                                    "' of an output is not below the brief's folder. Name a folder there"});
  }

  void chooseSpans() {
    const auto ids = asSet(brief().where.regions);
    std::unordered_set<std::string> known;
    for (const Region& region : session_.regions) {
      known.insert(region.id);
      if (isChosen(brief().where.regions, ids, region.id)) planned().spans.push_back(spanOf(region));
    }
    addClipSets();
    std::sort(planned().spans.begin(), planned().spans.end(), [](const PlannedSpan& a, const PlannedSpan& b) {
      return std::tuple(a.start, -a.length, std::string_view(a.id)) <
             std::tuple(b.start, -b.length, std::string_view(b.id));
    });
    planEnds();
    remarkUnknown(planned(), brief().where.regions, known, RemarkCode::UnknownRegion, "region");
  }

  void planEnds() {
    using Own = std::pair<const OwnEnds*, const OwnLoop*>;
    std::unordered_map<std::string_view, Own> regions, sets;
    for (const Region& region : session_.regions) regions[region.id] = {&region.ends, &region.loop};
    for (const ClipSet& set : session_.clipSets) sets[set.id] = {&set.ends, &set.loop};
    for (PlannedSpan& span : planned().spans) {
      const auto& [ends, loop] = (span.kind == PlannedSpan::Kind::Region ? regions : sets).at(span.id);
      planned().ends.push_back(endsPlanner_.plan(brief(), *ends, *loop, span));
    }
    planned().rungOut.resize(planned().spans.size());
    if (brief().files.rate > session_.rate)
      planned().remarks.push_back(
          {Severity::Note, RemarkCode::HigherRate, brief().name,
           "The files have a higher rate than the session, which makes them larger and no better. Choose the "
           "session's, unless the receiver asks for it"});
  }

  PlannedSpan spanOf(const Region& region) const {
    PlannedSpan span = PlannedSpan::stretch(region.start, region.length);
    span.finish = region.finish;
    span.id = region.id;
    span.name = region.name;
    return span;
  }

  void addClipSets() {
    const auto ids = asSet(brief().where.clipSets);
    std::unordered_set<std::string> known;
    for (const ClipSet& set : session_.clipSets) {
      known.insert(set.id);
      if (!isChosen(brief().where.clipSets, ids, set.id)) continue;
      if (set.mute)
        planned().remarks.push_back(
            {Severity::Note, RemarkCode::MutedSource, set.id,
             "The clip set " + printable(set.name) + " is muted and left out. Unmute it to print it"});
      else
        planned().spans.push_back(spanOf(set));
    }
    remarkUnknown(planned(), brief().where.clipSets, known, RemarkCode::UnknownClipSet, "clip set");
  }

  PlannedSpan spanOf(const ClipSet& set) const {
    const TimeSpan extent = finder_.extentOf(set).value_or(TimeSpan{});
    PlannedSpan span = PlannedSpan::stretch(extent.start, extent.length);
    span.finish = set.finish;
    span.kind = PlannedSpan::Kind::ClipSet;
    span.id = set.id;
    span.name = set.name;
    span.channels = set.channels;
    return span;
  }

  /// Helpers are in no file: left out, and said so where one was chosen by hand.
  bool isHelper(Strip index, bool byHand) {
    if (!tree_.isHelper(index)) return false;
    const Track& track = session_.tracks[index.track()];
    if (byHand)
      planned().remarks.push_back(
          {Severity::Note, RemarkCode::HelperSource, track.id,
           printable(track.name) + " is a helper and in no file. Make it a usual track to print it"});
    return true;
  }

  void chooseSources() {
    std::vector<PlannedSource> wet;
    chooseStrips(wet);
    for (const SumSource& sum : brief().what.sums) planned().sources.push_back(sourceOf(sum));
    if (!wet.empty() && brief().heard.withReturns == Returns::In && !planned().sources.empty())
      planned().remarks.push_back(
          {Severity::Note, RemarkCode::ReturnsTwice, wet.front().id,
           "Returns are in the layers and files of their own; where layers are added up, their "
           "own files do not count"});
    std::move(wet.begin(), wet.end(), std::back_inserter(planned().sources));
    if (brief().what.mix) {
      PlannedSource mix;
      mix.id = "main";
      mix.name = "mix";
      planned().sources.push_back(std::move(mix));
    }
    for (PlannedSource& source : planned().sources)
      source.heard = heardWords(session_, tree_, brief(), source);
  }

  /// What a brief chooses of one kind of strip.
  struct Choice {
    const Selection* selection;
    PlannedSource::Kind kind;
    const char* name;
    std::unordered_set<std::string> ids, known;
  };

  Choice choiceOf(TrackKind kind) {
    switch (kind) {
      case TrackKind::Group:
        return {&brief().what.groups, PlannedSource::Kind::Group, "group", asSet(brief().what.groups), {}};
      case TrackKind::Return:
        return {
            &brief().what.returns, PlannedSource::Kind::Return, "return", asSet(brief().what.returns), {}};
      case TrackKind::Track: break;
    }
    return {&brief().what.tracks, PlannedSource::Kind::Track, "track", asSet(brief().what.tracks), {}};
  }

  /// Tracks and groups in their order; returns go to `wet`.
  void chooseStrips(std::vector<PlannedSource>& wet) {
    Choice choices[]{choiceOf(TrackKind::Track), choiceOf(TrackKind::Group), choiceOf(TrackKind::Return)};
    for (const Strip index : tree_.order()) {
      const Track& track = session_.tracks[index.track()];
      Choice& choice = choices[static_cast<std::size_t>(track.kind)];
      choice.known.insert(track.id);
      const bool asFile = track.isReturn() && brief().heard.withReturns == Returns::Files;
      if (!asFile && !isChosen(*choice.selection, choice.ids, track.id)) continue;
      if (isHelper(index, !choice.selection->all && !asFile)) continue;
      (track.isReturn() ? wet : planned().sources).push_back(sourceOf(index, choice.kind));
      if (tree_.isMuted(index))
        planned().remarks.push_back(
            {Severity::Note, RemarkCode::MutedSource, track.id,
             printable(track.name) + " is muted and left out. Unmute it to print it"});
    }
    for (const Choice& choice : choices)
      remarkUnknown(planned(), *choice.selection, choice.known, RemarkCode::UnknownSource, choice.name);
  }

  PlannedSource sourceOf(Strip index, PlannedSource::Kind kind) const {
    const Track& track = session_.tracks[index.track()];
    PlannedSource source;
    source.kind = kind;
    source.track = index;
    source.id = track.id;
    source.name = track.name;
    const Strip up = tree_.parent(index);
    if (up != Strip::main()) source.group = session_.tracks[up.track()].name;
    return source;
  }

  PlannedSource sourceOf(const SumSource& sum) {
    PlannedSource source;
    source.kind = sum.without ? PlannedSource::Kind::MixWithout : PlannedSource::Kind::Sum;
    source.id = sum.id;
    source.name = sum.name;
    Selection gone{false, {}};
    for (const std::string& id : sum.tracks) {
      const std::optional<Strip> track = tree_.find(id);
      if (!track)
        gone.ids.push_back(id);
      else if (!tree_.isHelper(*track) && !tree_.isMuted(*track))
        source.tracks.push_back(*track);
    }
    remarkUnknown(planned(), gone, {}, RemarkCode::UnknownSource, "track");
    return source;
  }

  /// What comes of one span; worked out beside other spans.
  struct SpanSounds {
    std::vector<TappedSound> sounds;
    std::size_t leftOutEmpty = 0, leftOutMuted = 0;
  };

  void addSounds() {
    const std::vector<PlannedSpan>& spans = planned().spans;
    const auto countingIn = [&](std::size_t i) { return countingOf(brief(), spans[i], session_.rate); };
    std::vector<std::vector<HeardClip>> heard(spans.size());
    tbb::parallel_for(std::size_t{0}, spans.size(),
                      [&](std::size_t i) { heard[i] = finder_.heardIn(spans[i], countingIn(i)); });
    std::vector<std::vector<TrackRemark>> shared(spans.size());
    SharedClips sharing;
    for (std::size_t i = 0; i < spans.size(); ++i) shared[i] = sharing.add(spans[i], heard[i]);
    std::vector<SpanSounds> made(spans.size());
    tbb::parallel_for(std::size_t{0}, spans.size(), [&](std::size_t i) {
      made[i] = soundsOf(i, countingIn(i), std::move(heard[i]), std::move(shared[i]));
    });
    for (SpanSounds& span : made) {
      planned().leftOutEmpty += span.leftOutEmpty;
      planned().leftOutMuted += span.leftOutMuted;
      for (TappedSound& sound : span.sounds) {
        addRows(sound);
        sheet_.sounds.push_back(std::move(sound));
      }
    }
  }

  SpanSounds soundsOf(std::size_t spanIndex, const Counting& counting, std::vector<HeardClip> heard,
                      std::vector<TrackRemark> shared) const {
    const PlannedSpan& span = planned().spans[spanIndex];
    std::vector<TrackRemark> remarks = spanRemarks(finder_, span, counting, heard);
    const std::vector<ClipRemark> media = mediaRemarks(finder_, facts_, heard);
    std::move(shared.begin(), shared.end(), std::back_inserter(remarks));
    std::stable_sort(remarks.begin(), remarks.end(), [&](const TrackRemark& a, const TrackRemark& b) {
      return tree_.place(a.track) < tree_.place(b.track);
    });
    SpanRecipe recipe(context_, span, counting, std::move(heard));
    SpanSounds made;
    for (std::size_t s = 0; s < planned().sources.size(); ++s)
      addSound(made, spanIndex, s, recipe, remarks, media);
    return made;
  }

  void addSound(SpanSounds& made, std::size_t spanIndex, std::size_t sourceIndex, SpanRecipe& recipe,
                const std::vector<TrackRemark>& remarks, const std::vector<ClipRemark>& media) const {
    const PlannedSpan& span = planned().spans[spanIndex];
    const PlannedSource& source = planned().sources[sourceIndex];
    if (!source.track.isMain() && tree_.isMuted(source.track)) {
      ++made.leftOutMuted;
      return;
    }
    const bool sounds = recipe.sounds(source);
    const bool isKept = source.isWhole() || brief().ends.lengths == Lengths::LinedUp;
    const Tap tap = isKept || sounds ? recipe.tap(brief(), source) : Tap{};
    const bool isReturn = source.kind == PlannedSource::Kind::Return;
    if (!isKept && (isReturn ? tap.node.isSilent() : !sounds)) {
      ++made.leftOutEmpty;
      return;
    }
    TappedSound& sound = made.sounds.emplace_back();
    sound.brief = static_cast<std::uint32_t>(index_);
    sound.span = static_cast<std::uint32_t>(spanIndex);
    sound.source = static_cast<std::uint32_t>(sourceIndex);
    sound.channels = tap.channels;
    sound.start = span.first();
    sound.frames = span.heardFrames();
    addSoundRemarks(sound, span, sounds && !(isReturn && tap.node.isSilent()));
    const std::vector<Remark>& faults = planned().ends[spanIndex].faults;
    sound.remarks.insert(sound.remarks.end(), faults.begin(), faults.end());
    for (const SignalIssue& issue : tap.issues) sound.remarks.push_back(remarkOf(issue, session_, brief()));
    if (const auto remark = loopRemark(planned().ends[spanIndex], span, recipe, tap.node))
      sound.remarks.push_back(*remark);
    addTrackRemarks(sound, source, remarks);
    if (!media.empty()) addMediaRemarks(sound, recipe, tap, media);
  }

  /// Those about clips that the tap hears: its own, those that key it, those of returns.
  static void addMediaRemarks(TappedSound& sound, const SpanRecipe& recipe, const Tap& tap,
                              const std::vector<ClipRemark>& media) {
    std::vector<char> isHeard(recipe.heard().size(), 0);
    recipe.forEachClipBefore(tap.node, [&](const HeardClip& clip) {
      isHeard[static_cast<std::size_t>(&clip - recipe.heard().data())] = 1;
    });
    std::unordered_set<std::string_view> said;
    for (const ClipRemark& about : media)
      if (isHeard[about.clip] != 0 && said.insert(about.remark.text).second)
        sound.remarks.push_back(about.remark);
  }

  /// Those about the source and what is inside it; `remarks` are in track order, so they stand together.
  void addTrackRemarks(TappedSound& sound, const PlannedSource& source,
                       const std::vector<TrackRemark>& remarks) const {
    if (source.kind == PlannedSource::Kind::Return) return;
    auto found = remarks.begin();
    if (source.track != Strip::main())
      found = std::lower_bound(
          found, remarks.end(), tree_.place(source.track),
          [&](const TrackRemark& remark, int place) { return tree_.place(remark.track) < place; });
    for (; found != remarks.end() && tree_.isInside(found->track, source.track); ++found) {
      const bool isPart = source.kind != PlannedSource::Kind::Sum ||
                          std::any_of(source.tracks.begin(), source.tracks.end(),
                                      [&](Strip part) { return tree_.isInside(found->track, part); });
      if (!isPart) continue;
      // What is true of several tracks in the same words is said once.
      const bool again =
          (found->remark.code == RemarkCode::SharedClips || found->remark.code == RemarkCode::NotInSet) &&
          std::find(sound.remarks.begin(), sound.remarks.end(), found->remark) != sound.remarks.end();
      if (!again) sound.remarks.push_back(found->remark);
    }
  }

  void addSoundRemarks(TappedSound& sound, const PlannedSpan& span, bool sounds) const {
    if (span.length == 0)
      sound.remarks.push_back(
          {Severity::Fault, RemarkCode::EmptySpan, span.id,
           span.kind == PlannedSpan::Kind::Region
               ? "The region has no length. Draw it longer"
               : "The clip set has no clips that could sound. Add clips to it, or delete it"});
    if (!sounds)
      sound.remarks.push_back({brief().ends.lengths == Lengths::LinedUp ? Severity::Note : Severity::Warning,
                               RemarkCode::NothingSounding, span.id,
                               "No clip sounds in " + printable(span.name) + "; the file will be silent"});
  }

  /// A file for each output of the brief.
  void addRows(const TappedSound& sound) {
    const PlannedSpan& span = planned().spans[sound.span];
    const SpanEnds& ends = planned().ends[sound.span];
    for (std::size_t i = 0; i < outputs_.size(); ++i) {
      Row row;
      row.sound = static_cast<std::uint32_t>(sheet_.sounds.size());
      row.output = static_cast<std::uint32_t>(i);
      row.channels = span.channels > 0 ? span.channels : sound.channels;
      row.encoding = outputs_[i].encoding;
      row.rate = ends.extent.rate;
      row.extent = ends.most();
      row.start = sessionStart(ends.extent, row.extent);
      row.isMeasured = ends.isMeasured();
      row.least = row.isMeasured ? ends.least() : row.frames();
      addTimeRemark(row, span);
      if (dataBytes(row.encoding, row.frames(), row.channels) > encodingInfo(row.encoding).maxBytes)
        row.remarks.push_back({Severity::Fault, RemarkCode::TooLong, span.id,
                               "The file would be larger than a WAV file can be (4 GB). Make the span or its "
                               "tail shorter, or choose fewer bits"});
      sheet_.rows.push_back(std::move(row));
    }
  }

  void addTimeRemark(Row& row, const PlannedSpan& span) const {
    if (nearestAudioFrame(session_.startPicture, session_.pictureRate, row.rate) + row.extent.start >= 0)
      return;
    row.remarks.push_back({Severity::Note, RemarkCode::BeforeMidnight, span.id,
                           "The file begins before midnight, and its time stamp is late the day before. Give "
                           "the session a later "
                           "start timecode"});
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
  SpanEndsPlanner endsPlanner_;
  std::size_t index_ = 0;
  std::vector<Output> outputs_;  // of the brief
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

Sheet planSheet(const SessionContext& context, const PlanRequest& request) {
  const Session& session = context.signal.session();
  Sheet sheet;
  sheet.session = session.displayName();
  sheet.rate = session.rate;
  sheet.startPicture = session.startPicture;
  sheet.picture = session.pictureRate;
  for (const MarkerSet& set : session.markerSets)
    for (const Marker& marker : set.markers) sheet.marks.push_back({marker.at, marker.name});
  std::stable_sort(sheet.marks.begin(), sheet.marks.end(),
                   [](const SheetMark& a, const SheetMark& b) { return a.at < b.at; });
  BriefPlanner planner(sheet, context.signal);
  for (const std::size_t brief : request.briefs) planner.plan(session.briefs[brief], request.folder);
  findCollisions(sheet);
  for (Row& row : sheet.rows)
    if (sheet.faultOf(row) != nullptr) row.state = RowState::Fault;
  return sheet;
}

Sheet planSheet(const Session& session, const MediaFacts& facts, const PlanRequest& request,
                const PluginCatalogue* plugins) {
  return planSheet(SessionContext(session, facts, plugins), request);
}

}  // namespace octaphon
