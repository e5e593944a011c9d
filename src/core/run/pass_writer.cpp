#include "run/pass_writer.h"

#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

#include <algorithm>

#include "base/denormals.h"

namespace octaphon {

static constexpr Frame kBlockStep = 512;  // TapSource::process

PassWriter::PassWriter(const PassSetting& setting, const PlannedPass& pass, SpanRecipe& recipe,
                       MediaWatch& watch)
    : setting_(setting), pass_(pass), recipe_(recipe), watch_(watch), sums_(setting.sheet, recipe, taps_) {
  // A recipe of a longer stretch says where in it the span lies, which is no part of the fingerprint.
  const PlannedSpan& span = recipe.span();
  const bool isOwn =
      span.start == pass.key.start && span.length == pass.key.length && span.tail == pass.key.tail;
  const Sheet& sheet = setting.sheet;
  Fingerprints fingerprints(sheet, setting.context);
  for (const PassRow& place : pass.rows) {
    const Row& row = sheet.rows[place.row];
    const Brief& brief = sheet.briefOf(row).brief;
    const PlannedSource& source = sheet.sourceOf(row);
    const Tap tap = recipe.tap(brief, source);
    outputs_.push_back({std::make_unique<RowOutput>(sheet, place.row, *place.folder),
                        taps_.add(tap.node, {&brief, {source}, false}),
                        isOwn ? fingerprintOf(sheet, row, recipe, tap) : fingerprints.of(row)});
  }
  for (const PassRow& place : pass.rows)
    if (pass.judgesSums) sums_.add(place.row);
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
    output.row->begin(output.latency);
  }
  sums_.begin(source);
}

/// Frames after the span's start that have to be played for the rows that want more, and for the sums.
Frame PassWriter::framesWanted() const {
  Frame frames = sums_.framesWanted();
  for (const Output& output : outputs_)
    if (output.row->wantsMore()) frames = std::max(frames, output.row->row().frames + output.latency);
  return frames;
}

bool PassWriter::play(TapSource& source, Frame at) {
  begin(source);
  playedFrom_ = at;
  const Frame start = pass_.key.start;
  while (at < start + framesWanted()) {
    if (!setting_.control.mayGoOn()) return false;
    // Whole blocks for plug-ins, wherever the span starts and ends in them.
    const Frame left = start + framesWanted() - at;
    const Frame block = std::min(source.blockFrames(), (left + kBlockStep - 1) / kBlockStep * kBlockStep);
    source.process(at, block);
    take(source, at - start, block);
    at += block;
  }
  return true;
}

/// The block that begins `at` frames after the span's start, before it while it is run up to.
void PassWriter::take(TapSource& source, Frame at, Frame frames) {
  const Frame before = std::clamp<Frame>(-at, 0, frames);
  if (before < frames)
    forEachOutput([&](Output& output) {
      const Frame taken = output.row->taken();
      output.row->take(source.tap(output.tap).after(before), frames - before);
      setting_.control.framesDone += std::max<Frame>(0, output.row->taken() - taken);
    });
  sums_.take(source, at, frames);
}

bool PassWriter::failWhereMediaChanged() {
  watch_.look(playedFrom_, pass_.key.span().end() + pass_.key.tail);
  const auto& changed = watch_.changed();
  if (changed.empty()) return false;
  for (Output& output : outputs_)
    recipe_.forEachClipBefore(taps_.nodes()[output.tap], [&](const HeardClip& clip) {
      const auto found = changed.find(setting_.context.finder.clipOf(clip).medium);
      if (found != changed.end()) output.row->stop(found->second);
    });
  return true;
}

PassResult PassWriter::failed(const Error& error) const {
  PassResult result;
  for (const PassRow& row : pass_.rows) result.rows.push_back({row.row, tl::unexpected(error)});
  return result;
}

PassResult PassWriter::finish() {
  const bool changed = failWhereMediaChanged();
  std::vector<std::optional<RowResult>> finished(outputs_.size());
  forEachOutput([&](Output& output) {
    const auto i = static_cast<std::size_t>(&output - outputs_.data());
    finished[i].emplace(output.row->finish(output.fingerprint));
  });
  PassResult result;
  for (std::optional<RowResult>& row : finished) result.rows.push_back(std::move(*row));
  if (!changed) result.sums = sums_.outcomes();
  return result;
}

}  // namespace octaphon
