#include "plan/planner.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <tuple>
#include <unordered_map>
#include <unordered_set>

#include "base/safe_folder.h"
#include "base/unicode.h"
#include "formats/refusals.h"
#include "plan/choose_sources.h"
#include "plan/choose_spans.h"
#include "plan/collisions.h"
#include "plan/gain_sets.h"
#include "plan/loop_planner.h"
#include "plan/numbering.h"
#include "plan/outputs.h"
#include "plan/own_rows.h"
#include "plan/row_data.h"
#include "plan/row_names.h"
#include "plan/signal_words.h"
#include "plan/span_remarks.h"
#include "recipe/recipe.h"
#include "session/vocabulary.h"

namespace octaphon {
namespace {

class BriefPlanner {
 public:
  BriefPlanner(Sheet& sheet, const SignalContext& context)
      : sheet_(sheet),
        context_(context),
        finder_(context.finder),
        session_(context.session()),
        tree_(context.tree()),
        facts_(context.facts),
        endsPlanner_(session_) {
    if (session_.vocabulary.empty()) return;
    for (const Region& region : session_.regions) ownFacts_["region:" + region.id] = &region.facts;
    for (const ClipSet& set : session_.clipSets) ownFacts_["set:" + set.id] = &set.facts;
  }

  void plan(const Brief& brief, const PlanRequest& request) {
    index_ = sheet_.briefs.size();
    sheet_.briefs.emplace_back().brief = brief;
    chooseEdition(request);
    planOutputs(planned());
    rates_ = ratesOf(planned(), session_.rate);
    chooseBase(request.folder);
    checkOutputs();
    for (Remark& fault : dataFaults(brief)) briefFaults_.push_back(std::move(fault));
    chooseSources(planned(), session_, tree_);
    chooseSpans(planned(), finder_);
    const OwnSounds own(planned());
    planEnds(own);
    planLoops(planned(), endsPlanner_, context_, rates_);
    addOtherRates();
    planned().firstRow = sheet_.rows.size();
    addSounds();
    planned().rowCount = sheet_.rows.size() - planned().firstRow;
    takeExceptions();
    planGainSets(sheet_, index_);
    addBriefFaults();
    numberSounds(sheet_, planned());
    nameRows(sheet_, index_, session_, tree_);
    addNotCarried();
  }

 private:
  PlannedBrief& planned() { return sheet_.briefs[index_]; }
  const PlannedBrief& planned() const { return sheet_.briefs[index_]; }
  const Brief& brief() const { return planned().brief; }

  void chooseEdition(const PlanRequest& request) {
    const std::string& id = brief().id;
    const auto begun = request.editions.find(id);
    const auto another = request.newEditions.find(id);
    planned().isBegun = begun != request.editions.end() && another == request.newEditions.end();
    planned().edition = planned().isBegun ? begun->second : request.newEdition;
    planned().edition.brief = id;
    if (another != request.newEditions.end())
      planned().edition.version = another->second > 0               ? another->second
                                  : begun == request.editions.end() ? 1
                                                                    : begun->second.version + 1;
    planned().countsAnew = request.numberedAgain.contains(id);
    const auto fixed = request.numbers.find(id);
    if (fixed != request.numbers.end()) planned().fixed = fixed->second;
  }

  /// What the brief says of single rows; each then has the form that counts.
  void takeExceptions() {
    const RowMarks marks(brief());
    planned().accepted = marks.acceptedOfBrief();
    for (std::size_t i = planned().firstRow; i < sheet_.rows.size(); ++i) {
      Row& row = sheet_.rows[i];
      if (!marks.isEmpty()) marks.mark(row, sheet_.keyOf(row));
      setForm(row);
    }
  }

  void addOtherRates() {
    for (auto rate = rates_.begin() + 1; rate != rates_.end(); ++rate)
      for (std::size_t i = 0; i < planned().spans.size(); ++i)
        planned().endsAt[*rate].push_back(
            SpanEndsPlanner::converted(planned().ends[i], planned().spans[i], *rate));
  }

  void chooseBase(const std::optional<std::filesystem::path>& folder) {
    auto base = baseFolderOf(session_, brief(), folder);
    if (!base)
      briefFaults_.push_back({Severity::Fault, RemarkCode::BadFolder, brief().name,
                              base.error().text + ". " + base.error().cure});
    planned().base = base ? std::move(*base) : FolderPath{session_.folder()};
  }

  /// Their folders stay below the brief's.
  void checkOutputs() {
    for (const Output& output : planned().outputs)
      if (!output.folder.empty() && !isPlainRelativePath(output.folder))
        briefFaults_.push_back({Severity::Fault, RemarkCode::BadFolder, brief().name,
                                "The folder '" + printable(output.folder, 80) +
                                    "' of an output is not below the brief's folder. Name a folder there"});
  }

  void planEnds(const OwnSounds& ownSounds) {
    using Own = std::pair<const OwnEnds*, const OwnLoop*>;
    std::unordered_map<std::string_view, Own> regions, sets;
    for (const Region& region : session_.regions) regions[region.id] = {&region.ends, &region.loop};
    for (const ClipSet& set : session_.clipSets) sets[set.id] = {&set.ends, &set.loop};
    static const OwnEnds kNoEnds;
    static const OwnLoop kNoLoop;
    for (std::size_t i = 0; i < planned().spans.size(); ++i) {
      PlannedSpan& span = planned().spans[i];
      Own own{&kNoEnds, &kNoLoop};
      if (span.kind == PlannedSpan::Kind::Region) own = regions.at(span.id);
      if (span.kind == PlannedSpan::Kind::ClipSet) own = sets.at(span.id);
      const RowException* single = ownSounds.of(i);
      const OwnEnds ends = single == nullptr ? *own.first : laidOver(*own.first, single->ends);
      const OwnLoop loop = single == nullptr ? *own.second : laidOver(*own.second, single->loop);
      planned().ends.push_back(endsPlanner_.plan(brief(), ends, loop, rates_, span));
    }
    planLevels();
    planned().rungOut.resize(planned().spans.size());
    if (*std::max_element(rates_.begin(), rates_.end()) > session_.rate)
      planned().remarks.push_back(
          {Severity::Note, RemarkCode::HigherRate, brief().name,
           "The files have a higher rate than the session, which makes them larger and no better. Choose the "
           "session's, unless the receiver asks for it"});
  }

  void planLevels() {
    std::unordered_map<std::string, const OwnLevelling*> own;
    for (const Region& region : session_.regions) own["region:" + region.id] = &region.levelling;
    for (const ClipSet& set : session_.clipSets) own["set:" + set.id] = &set.levelling;
    for (const PlannedSpan& span : planned().spans) {
      const auto found = own.find(span.key());
      planned().levellings.push_back(found == own.end() ? brief().levelling
                                                        : levellingWith(brief().levelling, *found->second));
    }
  }

  /// What comes of one span; worked out beside other spans.
  struct SpanSounds {
    std::vector<TappedSound> sounds;
    std::size_t leftOutEmpty = 0, leftOutMuted = 0;
    std::string outsideVocabulary;  // what its facts say that they may not
  };

  void addSounds() {
    const std::vector<PlannedSpan>& spans = planned().spans;
    const auto countingIn = [&](std::size_t i) { return countingOf(brief(), spans[i], session_.rate); };
    std::vector<std::vector<HeardClip>> heard(spans.size());
    tbb::parallel_for(std::size_t{0}, spans.size(),
                      [&](std::size_t i) { heard[i] = finder_.heardIn(spans[i], countingIn(i)); });
    std::vector<std::vector<TrackRemark>> shared(spans.size());
    SharedClips sharing;
    for (std::size_t i = 0; i < spans.size(); ++i)
      if (!planned().isOwn(i)) shared[i] = sharing.add(spans[i], heard[i]);
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
    if (const auto facts = ownFacts_.find(span.key()); facts != ownFacts_.end())
      made.outsideVocabulary = outsideVocabulary(session_, session_.factsOf(span.name, *facts->second));
    for (std::size_t s = 0; s < planned().sources.size(); ++s)
      if (planned().isPair(spanIndex, s)) addSound(made, spanIndex, s, recipe, remarks, media);
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
    sound.partChannels = tap.partChannels;
    sound.start = span.first();
    sound.frames = span.heardFrames();
    addSoundRemarks(sound, span, sounds && !(isReturn && tap.node.isSilent()));
    if (!made.outsideVocabulary.empty())
      sound.remarks.push_back({Severity::Warning, RemarkCode::OutsideVocabulary, span.id,
                               "Of " + printable(span.name, 60) + ", " + made.outsideVocabulary +
                                   ". Choose one of those, or add it to the vocabulary"});
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

  static const char* emptyText(PlannedSpan::Kind kind) {
    switch (kind) {
      case PlannedSpan::Kind::ClipSet:
        return "The clip set has no clips that could sound. Add clips to it, or delete it";
      case PlannedSpan::Kind::Session: return "The session is empty. Bring sounds in";
      default: return "The region has no length. Draw it longer";
    }
  }

  void addSoundRemarks(TappedSound& sound, const PlannedSpan& span, bool sounds) const {
    if (span.length == 0)
      sound.remarks.push_back({Severity::Fault, RemarkCode::EmptySpan, span.id, emptyText(span.kind)});
    if (!sounds)
      sound.remarks.push_back({brief().ends.lengths == Lengths::LinedUp ? Severity::Note : Severity::Warning,
                               RemarkCode::NothingSounding, span.id,
                               "No clip sounds in " + printable(span.name) + "; the file will be silent"});
  }

  /// A file for each output of the brief, or for each channel of it.
  void addRows(const TappedSound& sound) {
    const PlannedSpan& span = planned().spans[sound.span];
    for (std::size_t i = 0; i < planned().outputs.size(); ++i) {
      const Output& output = planned().outputs[i];
      const bool isTogether = planned().sources[sound.source].kind == PlannedSource::Kind::Together;
      if (output.together != isTogether) continue;
      Row row;
      row.isLead =
          sheet_.rows.size() == planned().firstRow || sheet_.rows.back().sound != sheet_.sounds.size();
      row.sound = static_cast<std::uint32_t>(sheet_.sounds.size());
      row.output = static_cast<std::uint32_t>(i);
      row.folded = isTogether                                    ? sound.channels
                   : output.channels != OutputChannels::AsTapped ? channelsOf(output.channels)
                   : span.channels > 0                           ? span.channels
                                                                 : sound.channels;
      row.encoding = output.encoding;
      row.rate = brief().rateOf(output, session_.rate);
      if (output.split && row.folded > 1 && !isTogether)
        for (row.part = 1; row.part <= row.folded; ++row.part) {
          sheet_.rows.push_back(row);
          row.isLead = false;
        }
      else
        sheet_.rows.push_back(std::move(row));
    }
  }

  /// Channels and length, once it is known what is its own.
  void setForm(Row& row) const {
    const PlannedSpan& span = sheet_.spanOf(row);
    const RowException* own = sheet_.exceptionOf(row);
    if (own != nullptr && own->encoding) row.encoding = *own->encoding;
    if (own != nullptr && own->rate > 0) row.rate = own->rate;
    const bool isTogether = sheet_.sourceOf(row).kind == PlannedSource::Kind::Together;
    if (own != nullptr && own->channels != OutputChannels::AsTapped && row.part == 0 && !isTogether)
      row.folded = channelsOf(own->channels);
    row.channels = row.part > 0 ? 1 : row.folded;
    const SpanEnds& ends = sheet_.endsOf(row);
    row.extent = ends.most();
    row.start = sessionStart(ends.extent, row.extent);
    row.isMeasured = ends.isMeasured();
    row.least = row.isMeasured ? ends.least() : row.frames();
    row.isLarge = needsRf64(sheet_.formOf(row), row.frames());
    addTimeRemark(row, span);
    addFormRemarks(row, span);
  }

  /// What its format cannot be, and what is hardly wanted of it.
  void addFormRemarks(Row& row, const PlannedSpan& span) const {
    const auto add = [&](Severity severity, RemarkCode code, std::string text) {
      row.remarks.push_back({severity, code, span.id, std::move(text)});
    };
    const FileForm form = sheet_.formOf(row);
    if (const auto refusal = refusalOf(form, row.frames(), sheet_.endsOf(row).loop.isLap()))
      add(Severity::Fault, codeOf(refusal->kind), refusal->text);
    if (row.encoding == Encoding::Pcm32)
      add(Severity::Warning, RemarkCode::WholeNumbers,
          "Some programs refuse WAV files of 32 bit whole numbers. Choose 24 bit, or 32 bit float");
    if (encodingInfo(row.encoding).isLossy() && isLayer(row))
      add(Severity::Warning, RemarkCode::LossyLayer,
          "This file is one of several that are mixed together, and what a lossy format leaves out of each "
          "is "
          "heard then; they no longer add up. Write layers and stems as WAV or FLAC");
  }

  static RemarkCode codeOf(RefusalKind kind) {
    switch (kind) {
      case RefusalKind::Rate: return RemarkCode::RateRefused;
      case RefusalKind::Channels: return RemarkCode::ChannelsRefused;
      case RefusalKind::Length: return RemarkCode::TooLong;
      case RefusalKind::BitRate: return RemarkCode::BitRateRefused;
      case RefusalKind::Seamless: return RemarkCode::NotSeamless;
    }
    return RemarkCode::TooLong;
  }

  /// One of several sources of its span that sound together.
  bool isLayer(const Row& row) const {
    return !sheet_.sourceOf(row).isWhole() && sheet_.soundsBeside(sheet_.soundOf(row)).size() > 1;
  }

  void addTimeRemark(Row& row, const PlannedSpan& span) const {
    if (nearestAudioFrame(session_.startPicture, session_.pictureRate, row.rate) + row.extent.start >= 0)
      return;
    row.remarks.push_back({Severity::Note, RemarkCode::BeforeMidnight, span.id,
                           "The file begins before midnight, and its time stamp is late the day before. Give "
                           "the session a later "
                           "start timecode"});
  }

  /// What the format of a row has no place for. Once rows have names and numbers.
  void addNotCarried() {
    const RowData data(sheet_, session_, tree_);
    for (std::size_t i = planned().firstRow; i < sheet_.rows.size(); ++i) {
      Row& row = sheet_.rows[i];
      const EncodingInfo& info = encodingInfo(row.encoding);
      const bool mayLack = info.container == Container::Aiff || row.isLarge ||
                           (!info.hasLoops && sheet_.endsOf(row).loop.isThere());
      if (!mayLack) continue;
      const std::string what = notCarried(sheet_.formOf(row), data.of(row, row.extent));
      if (!what.empty())
        row.remarks.push_back({Severity::Note, RemarkCode::NotCarried, sheet_.spanOf(row).id,
                               std::string(info.text) + " has no place for " + what +
                                   ". Write WAV or FLAC where a receiver needs that, or let loops be written "
                                   "as comments too"});
    }
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
  std::unordered_map<std::string, const Facts*> ownFacts_;  // by key of the span, where there is a vocabulary
  std::size_t index_ = 0;
  std::vector<int> rates_;  // of the brief's files, in Hz; that of its first output first
  std::vector<Remark> briefFaults_;
};

}  // namespace

Result<FolderPath> baseFolderOf(const Session& session, const Brief& brief,
                                const std::optional<std::filesystem::path>& instead) {
  if (instead) return FolderPath{*instead};
  std::string below = withoutControls(brief.delivery.folder, "_");
  while (below.size() > 1 && below.back() == '/') below.pop_back();
  if (isPlainRelativePath(below)) return FolderPath{session.folder(), below};
  return fail(ErrorCode::BadValue, {},
              "The folder '" + printable(below, 80) + "' is not below the session's folder",
              "Name a folder there, or give another one with --out");
}

Result<PlanRequest> requestFor(const Session& session, const std::vector<std::string>& briefNames) {
  PlanRequest request;
  for (std::size_t i = 0; i < session.briefs.size() && briefNames.empty(); ++i)
    if (session.briefs[i].isOn) request.briefs.push_back(i);
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
  sheet.sessionFile = session.file.filename().string();
  sheet.rate = session.rate;
  sheet.startPicture = session.startPicture;
  sheet.picture = session.pictureRate;
  for (const Brief& brief : session.briefs) sheet.otherBriefs.insert(brief.id);
  for (const std::size_t brief : request.briefs) sheet.otherBriefs.erase(session.briefs[brief].id);
  for (const MarkerSet& set : session.markerSets)
    for (const Marker& marker : set.markers) sheet.marks.push_back({marker.at, marker.name});
  for (const Region& region : session.regions)
    sheet.marks.push_back({region.start, region.name, region.length, region.id});
  std::stable_sort(sheet.marks.begin(), sheet.marks.end(),
                   [](const SheetMark& a, const SheetMark& b) { return a.at < b.at; });
  BriefPlanner planner(sheet, context.signal);
  for (const std::size_t brief : request.briefs) planner.plan(session.briefs[brief], request);
  findCollisions(sheet);
  for (Row& row : sheet.rows)
    row.state = row.isHeldBack                  ? RowState::HeldBack
                : sheet.faultOf(row) != nullptr ? RowState::Fault
                                                : RowState::ToMake;
  return sheet;
}

Sheet planSheet(const Session& session, const MediaFacts& facts, const PlanRequest& request,
                const PluginCatalogue* plugins) {
  return planSheet(SessionContext(session, facts, plugins), request);
}

}  // namespace octaphon
