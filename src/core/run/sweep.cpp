#include "run/sweep.h"

#include <tbb/parallel_for_each.h>

#include <algorithm>

#include "run/pass_writer.h"

namespace octaphon {
namespace {

/// Everything up to the last end of the passes.
PlannedSpan stretchOf(const std::vector<PlannedPass>& passes) {
  Frame end = 0;
  for (const PlannedPass& pass : passes) end = std::max(end, lastHeard(pass.key.span(), pass.key.counting));
  PlannedSpan whole = passes.front().key.span();
  whole.start = 0;
  whole.length = end;
  whole.leadIn = whole.tail = whole.context = 0;
  return whole;
}

/// Where a pass takes over: with what it needs to hear before its first frame.
Frame sweptTo(const PassKey& key) { return std::max<Frame>(0, key.span().first() - key.context); }

/// What lies before a pass has its part of the pass's cost. False after a cancel.
bool goOnTo(Frame start, Frame& at, Graph& sweep, PlannedPass& pass, RunControl& control) {
  const double all = static_cast<double>(std::max<Frame>(0, start - at) + pass.key.span().heardFrames());
  const double perFrame = all > 0 ? pass.cost / all : 0;
  while (at < start) {
    if (!control.mayGoOn()) return false;
    const Frame block = std::min(sweep.blockFrames(), start - at);
    sweep.process(at, block);
    at += block;
    const double cost = perFrame * static_cast<double>(block);
    control.addCost(cost);
    pass.cost -= cost;
  }
  return true;
}

}  // namespace

void runSweep(const PassSetting& setting, std::vector<PlannedPass> passes,
              const std::function<void(PassResult)>& done) {
  std::stable_sort(passes.begin(), passes.end(), [](const PlannedPass& a, const PlannedPass& b) {
    return sweptTo(a.key) < sweptTo(b.key);
  });
  // One recipe for all, so that the states fit.
  const PlannedSpan whole = stretchOf(passes);
  const Counting& counting = passes.front().key.counting;
  SpanRecipe recipe(setting.context, whole, counting, setting.context.finder.heardIn(whole, counting));
  MediaWatch watch(recipe, setting.media);
  std::vector<std::unique_ptr<PassWriter>> writers;
  std::vector<NodeIndex> taps;
  for (const PlannedPass& pass : passes) {
    writers.push_back(std::make_unique<PassWriter>(setting, pass, recipe, watch));
    const std::vector<NodeIndex>& nodes = writers.back()->taps().nodes();
    taps.insert(taps.end(), nodes.begin(), nodes.end());
  }
  if (recipe.hasPlugins()) {  // their state cannot be copied: each pass goes all the way on its own
    writers.clear();
    tbb::parallel_for_each(passes.begin(), passes.end(),
                           [&](const PlannedPass& pass) { done(runPass(setting, pass)); });
    return;
  }
  Graph sweep(recipe, setting.media, std::move(taps));
  Frame at = 0;
  for (std::size_t i = 0; i < passes.size(); ++i) {
    const PassKey& key = passes[i].key;
    const Frame before = at;
    if (!goOnTo(sweptTo(key), at, sweep, passes[i], setting.control)) return;
    watch.look(before, at);
    const auto fork = sweep.fork(writers[i]->taps().nodes(), lastHeard(key.span(), key.counting));
    if (!writers[i]->play(*fork, at)) return;
    done(writers[i]->finish());
    writers[i].reset();
  }
}

}  // namespace octaphon
