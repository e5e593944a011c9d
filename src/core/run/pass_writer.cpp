#include "run/pass_writer.h"

#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <map>
#include <set>

#include "base/denormals.h"

namespace octaphon {

static constexpr double kPlayed = 0.97;              // of a pass's cost, once it is played
static constexpr Frame kBlockStep = 512;             // TapSource::process
static constexpr Frame kTailBlock = 8 * kBlockStep;  // where any block may be the last that is needed

PassWriter::PassWriter(const PassSetting& setting, const PlannedPass& pass, SpanRecipe& recipe,
                       MediaWatch& watch)
    : setting_(setting),
      pass_(pass),
      recipe_(recipe),
      watch_(watch),
      span_(pass.key.span()),
      tails_(setting.sheet, recipe, taps_, setting.floorOf),
      loops_(setting.sheet, recipe, taps_),
      sums_(setting.sheet, recipe, taps_) {
  if (pass.listensOnly)
    for (const PassRow& place : pass.rows) (void)tails_.add(place.row);
  for (const PassRow& place : pass.rows) {
    if (pass.listensOnly) break;
    const Row& row = setting.sheet.rows[place.row];
    const Brief& brief = setting.sheet.briefOf(row).brief;
    const PlannedSource& source = setting.sheet.sourceOf(row);
    outputs_.push_back({std::make_unique<RowOutput>(setting.sheet, setting.data, place.row, place.folder,
                                                    setting.spool, setting.measures),
                        taps_.add(recipe.tap(brief, source).node, {&brief, {source}, false}),
                        tails_.add(place.row), loops_.add(place.row)});
  }
  for (const PassRow& place : pass.rows)
    if (pass.judgesSums && !pass.listensOnly && place.folder != nullptr) sums_.add(place.row);
}

/// Rows in parallel, each by one worker; no worker leaves for another pass meanwhile.
template <class Work>
void PassWriter::forEachOutput(const Work& work) {
  tbb::this_task_arena::isolate([&] {
    tbb::parallel_for(std::size_t{0}, outputs_.size(), [&](std::size_t i) {
      const DenormalGuard guard;
      work(outputs_[i]);
    });
  });
}

void PassWriter::begin(const TapSource& source) {
  for (Output& output : outputs_) {
    output.latency = source.latency(output.tap);
    output.row->begin(output.latency, before_);
  }
  tails_.begin(source);
  loops_.begin(source);
  sums_.begin(source);
}

/// Frames after the files' first one that have to be played for the rows that want more, for their tails and
/// for the sums.
Frame PassWriter::framesWanted() const {
  Frame frames = std::max({sums_.framesWanted(), tails_.framesWanted(), loops_.framesWanted()});
  for (const Output& output : outputs_)
    if (output.row->wantsMore()) frames = std::max(frames, output.row->framesWanted() + output.latency);
  return frames;
}

/// Whole blocks for plug-ins, wherever the span starts and ends in them.
Frame PassWriter::nextBlock(const TapSource& source, Frame at) const {
  const Frame left = span_.first() + framesWanted() - at;
  const bool mayEnd = tails_.framesWanted() > 0 && at >= span_.end();
  const Frame most = mayEnd ? std::min(source.blockFrames(), kTailBlock) : source.blockFrames();
  return std::min(most, (left + kBlockStep - 1) / kBlockStep * kBlockStep);
}

/// Of all rows of the pass that still go on.
void PassWriter::tellStage(RowStage stage) const {
  for (const PassRow& place : pass_.rows) setting_.control.stages.set(place.row, stage);
}

bool PassWriter::play(TapSource& source, Frame at) {
  tellStage(pass_.listensOnly ? RowStage::Measuring : RowStage::Playing);
  playedFrom_ = at;
  before_ = std::min(span_.context, span_.first() - at);
  begin(source);
  const Frame all = std::max<Frame>(1, span_.last() - at);
  double told = 0;
  while (at < span_.first() + framesWanted()) {
    if (!setting_.control.mayGoOn()) return false;
    const Frame block = nextBlock(source, at);
    source.process(at, block);
    take(source, at - span_.first(), block);
    at += block;
    // The rest is done when its files are.
    const double done = std::min(1.0, static_cast<double>(at - playedFrom_) / static_cast<double>(all));
    setting_.control.addCost((done - told) * kPlayed * pass_.cost);
    told = done;
  }
  setting_.control.addCost((1 - told) * kPlayed * pass_.cost);
  steps_ = source.clipSteps();
  decideLoops();
  return true;
}

/// Each once, for all its rows.
void PassWriter::decideLoops() {
  std::map<std::size_t, LoopDecision> decisions;
  for (const Output& output : outputs_)
    if (output.loop && !decisions.contains(*output.loop))
      decisions[*output.loop] = loops_.decide(*output.loop);
  for (Output& output : outputs_)
    if (output.loop) output.row->decide(decisions.at(*output.loop));
}

/// Of a lap that is played several times: of the clip that was repeated.
ClipStep PassWriter::inSession(ClipStep step) const {
  const Session& played = recipe_.context().session();
  const Session& session = setting_.context.session();
  if (&played == &session) return step;
  const std::string& id = played.tracks[step.track.track()].clips[step.clip].id;
  const std::vector<Clip>& clips = session.tracks[step.track.track()].clips;
  const auto found =
      std::find_if(clips.begin(), clips.end(), [&](const Clip& clip) { return clip.id == id; });
  step.clip = static_cast<std::size_t>(found - clips.begin());
  return step;
}

/// Those of clips on the way to an output's tap.
std::vector<ClipStep> PassWriter::stepsOf(const Output& output) const {
  std::set<std::pair<Strip, std::size_t>> heard;
  if (!steps_.empty())
    recipe_.forEachClipBefore(taps_.nodes()[output.tap], [&](const HeardClip& clip) {
      heard.insert({clip.track, clip.clip});
    });
  std::vector<ClipStep> steps;
  for (const ClipStep& step : steps_)
    if (heard.contains({step.track, step.clip})) steps.push_back(inSession(step));
  return steps;
}

/// The block that begins `at` frames after the files' first one, before it while it is run up to.
void PassWriter::take(TapSource& source, Frame at, Frame frames) {
  tails_.take(source, at, frames);
  loops_.take(source, at, frames);
  for (std::size_t i = 0; i < tails_.size(); ++i)
    if (tails_.decided(i)) {
      const TappedSound& sound = tails_.soundOf(i);
      sums_.endAt(sound.brief, sound.span, tails_.heardTo(i));
    }
  if (at + frames > -before_)
    forEachOutput([&](Output& output) {
      const Frame taken = output.row->taken();
      takeOne(output, source, at, frames);
      setting_.control.framesDone += std::max<Frame>(0, output.row->taken() - taken);
    });
  sums_.take(source, at, frames);
}

void PassWriter::takeOne(Output& output, TapSource& source, Frame at, Frame frames) {
  const Frame skipped = std::clamp<Frame>(-output.row->framesBefore(before_) - at, 0, frames);
  if (skipped < frames) output.row->take(source.tap(output.tap).after(skipped), frames - skipped);
  if (!output.tail) return;
  if (const auto tail = tails_.decided(*output.tail))
    output.row->decide(*tail);
  else
    output.row->openTo(tails_.certain(*output.tail));
}

bool PassWriter::failWhereMediaChanged() {
  watch_.look(playedFrom_, lastHeard(span_, pass_.key.counting));
  const auto& changed = watch_.changed();
  if (changed.empty()) return false;
  for (Output& output : outputs_)
    recipe_.forEachClipBefore(taps_.nodes()[output.tap], [&](const HeardClip& clip) {
      const auto found = changed.find(recipe_.context().finder.clipOf(clip).medium);
      if (found != changed.end()) output.row->stop(found->second);
    });
  return true;
}

PassResult PassWriter::failed(const Error& error) const {
  PassResult result;
  for (const Output& output : outputs_) {
    if (output.row->isFile()) result.rows.push_back({output.row->index(), tl::unexpected(error)});
    if (output.row->wouldMeasure()) result.levels.push_back({output.row->row().sound, tl::unexpected(error)});
  }
  return result;
}

/// A recipe of a longer stretch says where in it the span lies, which is no part of fingerprints.
bool PassWriter::hasOwnRecipe() const { return passKeyOf(recipe_.span(), pass_.key.counting) == pass_.key; }

/// What a row's file has of it: nothing where it is folded.
Frame PassWriter::tailOf(std::size_t tail, const Row& row) const {
  const Frame limit = setting_.sheet.endsOf(row).limit;
  return setting_.sheet.spanOf(row).ringsOut ? tails_.decided(tail).value_or(limit) : limit;
}

/// Of each output.
std::vector<PassWriter::Print> PassWriter::fingerprints() {
  Fingerprints others(setting_.sheet, setting_.data, setting_.context);
  std::vector<Print> made;
  for (const Output& output : outputs_) {
    const Row& row = output.row->row();
    const Frame tail = output.tail ? tailOf(*output.tail, row) : setting_.sheet.tailOf(row);
    if (hasOwnRecipe())
      made.push_back(
          {fingerprintOf(setting_.sheet, setting_.data, row, recipe_,
                         recipe_.tap(setting_.sheet.briefOf(row).brief, setting_.sheet.sourceOf(row)), tail,
                         setting_.sheet.gainSetOf(setting_.sheet.soundOf(row)).gainDb),
           tail});
    else
      made.push_back({others.of(row, tail), tail});
  }
  return made;
}

/// What is known of an output once its sound has ended.
void PassWriter::put(PassResult& result, Output& output, const Print& print, Fingerprints& others) {
  RowOutput& row = *output.row;
  if (row.measures()) {
    HeardLevels heard{row.row().sound, row.levels()};
    const Brief& brief = setting_.sheet.briefOf(row.row()).brief;
    const PlannedSource& source = setting_.sheet.sourceOf(row.row());
    heard.digest = hasOwnRecipe() ? levelDigest(setting_.sheet, row.row(), recipe_,
                                                recipe_.tap(brief, source), print.tail)
                                  : others.levelOf(row.row(), print.tail);
    result.levels.push_back(std::move(heard));
  }
  if (!row.isFile()) return;
  std::optional<double> foldLeftDb;
  if (output.tail) foldLeftDb = tails_.leftOfFold(*output.tail);
  if (row.isWaiting()) {
    setting_.control.stages.set(row.index(), RowStage::Measuring);
    result.waiting.push_back(
        {std::move(output.row), print.fingerprint, print.tail, stepsOf(output), foldLeftDb});
    return;
  }
  RowResult& made = result.rows.emplace_back(row.finish(print.fingerprint));
  made.steps = stepsOf(output);
  made.facts.foldLeftDb = foldLeftDb;
}

PassResult PassWriter::finish() {
  setting_.control.addCost((1 - kPlayed) * pass_.cost);
  if (!pass_.listensOnly) tellStage(RowStage::Writing);
  const bool changed = failWhereMediaChanged();
  const std::vector<Print> prints = fingerprints();
  forEachOutput([&](Output& output) {
    // What did not have to be played counts as done.
    setting_.control.framesDone += setting_.sheet.soundOf(output.row->row()).frames - output.row->taken();
    output.row->end();
  });
  PassResult result;
  Fingerprints others(setting_.sheet, setting_.data, setting_.context);
  for (Output& output : outputs_) output.row->setSum(sums_.partOf(output.row->row()));
  for (std::size_t i = 0; i < outputs_.size(); ++i) put(result, outputs_[i], prints[i], others);
  if (changed) return result;
  result.sums = sums_.outcomes();
  for (std::size_t i = 0; i < tails_.size(); ++i) {
    const TappedSound& sound = tails_.soundOf(i);
    if (!setting_.sheet.briefs[sound.brief].spans[sound.span].ringsOut) continue;  // no file is as long as it
    const Digest digest = hasOwnRecipe() ? tailDigest(setting_.sheet, sound, recipe_) : others.tailOf(sound);
    result.tails.push_back(tails_.heard(i, digest));
  }
  return result;
}

}  // namespace octaphon
