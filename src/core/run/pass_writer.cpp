#include "run/pass_writer.h"

#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

#include <algorithm>

#include "base/denormals.h"

namespace octaphon {

PassWriter::PassWriter(const Sheet& sheet, const SignalContext& context, const PlannedPass& pass,
                       SpanRecipe& recipe)
    : sheet_(sheet), pass_(pass), sums_(sheet, recipe, taps_) {
  // A recipe of a longer stretch says where in it the span lies, which is no part of the fingerprint.
  const bool isOwn = recipe.span().start == pass.key.start && recipe.span().length == pass.key.length;
  Fingerprints fingerprints(sheet, context);
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

bool PassWriter::play(TapSource& source, Frame at, RunControl& control) {
  begin(source);
  const Frame start = pass_.key.start;
  while (at < start) {  // a run-up ends with a block of its own, so that the rest begins with one
    if (!control.mayGoOn()) return false;
    const Frame block = std::min(source.blockFrames(), start - at);
    source.process(at, block);
    at += block;
  }
  for (Frame done = 0; done < framesWanted();) {
    if (!control.mayGoOn()) return false;
    const Frame block = std::min(source.blockFrames(), framesWanted() - done);
    source.process(start + done, block);
    take(source, done, block, control);
    done += block;
  }
  return true;
}

void PassWriter::take(TapSource& source, Frame at, Frame frames, RunControl& control) {
  forEachOutput([&](Output& output) {
    const Frame before = output.row->taken();
    output.row->take(source.tap(output.tap), frames);
    control.framesDone += std::max<Frame>(0, output.row->taken() - before);
  });
  sums_.take(source, at, frames);
}

PassResult PassWriter::failed(const Error& error) const {
  PassResult result;
  for (const PassRow& row : pass_.rows) result.rows.push_back({row.row, tl::unexpected(error)});
  return result;
}

PassResult PassWriter::finish() {
  std::vector<std::optional<RowResult>> finished(outputs_.size());
  forEachOutput([&](Output& output) {
    const auto i = static_cast<std::size_t>(&output - outputs_.data());
    finished[i].emplace(output.row->finish(output.fingerprint));
  });
  PassResult result;
  for (std::optional<RowResult>& row : finished) result.rows.push_back(std::move(*row));
  result.sums = sums_.outcomes();
  return result;
}

}  // namespace octaphon
