#include "run/measure.h"

#include <tbb/global_control.h>
#include <tbb/parallel_for_each.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <limits>
#include <mutex>
#include <numeric>
#include <set>

#include "run/sweep.h"

namespace octaphon {
namespace {

bool isUnheard(const PlannedBrief& brief, std::size_t span) {
  return brief.spans[span].ringsOut && !brief.rungOut[span].isKnown;
}

const SafeFolder* noFolder(std::size_t) { return nullptr; }

class Measuring {
 public:
  Measuring(const MeasureRequest& request, MediaCache& cache, RunControl& control)
      : request_(request),
        cache_(cache),
        control_(control),
        context_(*request.session, *request.facts, request.plugins.get()),
        data_(*request.sheet, *request.session, context_.signal.tree()) {}

  std::vector<Measured> run() {
    const int jobs = request_.jobs > 0 ? request_.jobs : tbb::this_task_arena::max_concurrency();
    const tbb::global_control limit(tbb::global_control::max_allowed_parallelism,
                                    static_cast<std::size_t>(std::max(jobs, 2)));
    tbb::task_arena arena(jobs);
    arena.execute([&] { work(); });
    control_.begin(RunStage::Done);
    std::sort(measured_.begin(), measured_.end(),
              [](const Measured& a, const Measured& b) { return a.key < b.key; });
    return std::move(measured_);
  }

 private:
  void work() {
    const std::vector<std::size_t> rows = rowsToMeasure(*request_.sheet, context_.signal, request_.share);
    std::vector<PlannedPass> passes =
        passesOf(*request_.sheet, rows, std::numeric_limits<std::size_t>::max() / 2, noFolder);
    control_.filesAll = rows.size();
    const std::set<std::string> media = mediaOf(passes, context_.finder);
    control_.begin(RunStage::Media);
    control_.mediaAll = media.size();
    media_ = ReadableMedia::prepare(*request_.session, *request_.facts, cache_, {media.begin(), media.end()},
                                    &control_.cancelled, [&] { ++control_.mediaDone; });
    const auto groups = groupsOf(passes, context_.finder);
    const std::vector<std::vector<double>> costs = costsOf(*request_.sheet, context_.signal, groups);
    for (const std::vector<double>& ofGroup : costs)
      control_.costAll = std::accumulate(ofGroup.begin(), ofGroup.end(), control_.costAll.load());
    control_.begin(RunStage::Sound);
    tbb::parallel_for_each(groups.begin(), groups.end(), [&](const std::vector<PlannedPass>& group) {
      listen(group, costs[static_cast<std::size_t>(&group - groups.data())]);
    });
  }

  void listen(std::vector<PlannedPass> group, const std::vector<double>& costs) {
    for (std::size_t i = 0; i < group.size(); ++i) {
      group[i].listensOnly = true;
      group[i].cost = costs[i];
    }
    const PassSetting setting{*request_.sheet,
                              data_,
                              context_.signal,
                              media_,
                              control_,
                              request_.pluginPasses,
                              [](std::uint32_t, std::uint32_t) { return Frame{0}; }};
    const auto done = [&](const PassResult& result) {
      const std::scoped_lock lock(mutex_);
      for (const HeardTail& tail : result.tails) measured_.push_back(tail.measured);
      control_.filesDone += result.tails.size();
    };
    if (group.size() == 1)
      done(runPass(setting, group.front()));
    else
      runSweep(setting, group, done);
  }

  const MeasureRequest& request_;
  MediaCache& cache_;
  RunControl& control_;
  SessionContext context_;
  RowData data_;
  ReadableMedia media_;
  std::mutex mutex_;
  std::vector<Measured> measured_;
};

}  // namespace

bool needsMeasuring(const PlannedBrief& brief) {
  for (std::size_t span = 0; span < brief.spans.size(); ++span)
    if (isUnheard(brief, span)) return true;
  return false;
}

std::vector<std::size_t> rowsToMeasure(const Sheet& sheet, const SignalContext& context, const Share& share) {
  std::vector<std::size_t> mine = rowsOfShare(sheet, context, share);
  std::set<std::pair<std::uint32_t, std::uint32_t>> seen;
  std::erase_if(mine, [&](std::size_t row) {
    const TappedSound& sound = sheet.soundOf(sheet.rows[row]);
    return !isUnheard(sheet.briefOf(sheet.rows[row]), sound.span) ||
           sheet.rows[row].state == RowState::Fault || !seen.insert({sound.brief, sound.span}).second;
  });
  return mine;
}

std::vector<Measured> measureTails(const MeasureRequest& request, MediaCache& cache, RunControl& control) {
  return Measuring(request, cache, control).run();
}

}  // namespace octaphon
