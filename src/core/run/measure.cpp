#include "run/measure.h"

#include <tbb/global_control.h>
#include <tbb/parallel_for_each.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <iterator>
#include <limits>
#include <mutex>
#include <numeric>
#include <set>

#include "plan/fingerprints.h"
#include "run/sweep.h"

namespace octaphon {
namespace {

bool isUnheard(const PlannedBrief& brief, std::size_t span) {
  return brief.spans[span].ringsOut && !brief.rungOut[span].isKnown;
}

/// Of the first row of a sound. `besides`: what its level takes.
bool needsLevel(const Sheet& sheet, std::size_t row, LevelsAsked besides) {
  const TappedSound& sound = sheet.soundOf(sheet.rows[row]);
  const GainSet& set = sheet.gainSetOf(sound);
  if (&sheet.leadOf(sound) != &sheet.rows[row]) return false;
  const bool isAsked = set.isFound() || besides != LevelsAsked{};
  return isAsked && !(sound.levels && sound.levels->answers(set.measures().with(besides)));
}

const SafeFolder* noFolder(std::size_t) { return nullptr; }

struct ToMeasure {
  std::vector<std::size_t> tails, levels;  // rows
};

ToMeasure toMeasure(const Sheet& sheet, const std::vector<std::size_t>& rows, LevelsAsked besides) {
  ToMeasure found;
  std::set<std::pair<std::uint32_t, std::uint32_t>> seen;
  for (const std::size_t row : rows) {
    const TappedSound& sound = sheet.soundOf(sheet.rows[row]);
    if (sheet.rows[row].state == RowState::Fault) continue;
    if (needsLevel(sheet, row, besides)) found.levels.push_back(row);
    if (isUnheard(sheet.briefOf(sheet.rows[row]), sound.span) &&
        seen.insert({sound.brief, sound.span}).second)
      found.tails.push_back(row);
  }
  return found;
}

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
    const Sheet& sheet = *request_.sheet;
    const ToMeasure wanted = toMeasure(
        sheet, request_.rows.empty() ? rowsOfShare(sheet, context_.signal, request_.share) : request_.rows,
        request_.measures);
    const std::vector<PlannedPass> passes = passesFor(wanted);
    control_.filesAll = wanted.tails.size() + wanted.levels.size();
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

  /// Where levels are heard, so are the tails of their spans; of other spans the tails alone.
  std::vector<PlannedPass> passesFor(const ToMeasure& wanted) const {
    const Sheet& sheet = *request_.sheet;
    const auto spanOf = [&](std::size_t row) {
      const TappedSound& sound = sheet.soundOf(sheet.rows[row]);
      return std::pair(sound.brief, sound.span);
    };
    std::set<std::pair<std::uint32_t, std::uint32_t>> heard;
    for (const std::size_t row : wanted.levels) heard.insert(spanOf(row));
    std::vector<std::size_t> tails = wanted.tails;
    std::erase_if(tails, [&](std::size_t row) { return heard.contains(spanOf(row)); });
    constexpr std::size_t kAnyNumber = std::numeric_limits<std::size_t>::max() / 2;
    std::vector<PlannedPass> passes = passesOf(sheet, tails, kAnyNumber, noFolder);
    for (PlannedPass& pass : passes) pass.listensOnly = true;
    std::vector<PlannedPass> levels = passesOf(sheet, wanted.levels, kAnyNumber, noFolder);
    std::move(levels.begin(), levels.end(), std::back_inserter(passes));
    return passes;
  }

  void listen(std::vector<PlannedPass> group, const std::vector<double>& costs) {
    for (std::size_t i = 0; i < group.size(); ++i) group[i].cost = costs[i];
    const PassSetting setting{*request_.sheet,
                              data_,
                              context_.signal,
                              media_,
                              control_,
                              request_.pluginPasses,
                              [](std::uint32_t, std::uint32_t) { return Frame{0}; },
                              nullptr,
                              request_.measures};
    const auto done = [&](const PassResult& result) { take(result); };
    if (group.size() == 1)
      done(runPass(setting, group.front()));
    else
      runSweep(setting, group, done);
  }

  void take(const PassResult& result) {
    const Sheet& sheet = *request_.sheet;
    const std::scoped_lock lock(mutex_);
    for (const HeardTail& tail : result.tails) measured_.push_back(tail.measured);
    for (const HeardLevels& heard : result.levels) {
      const TappedSound& sound = sheet.sounds[heard.sound];
      if (!heard.levels) continue;
      Measured one{levelKeyOf(sheet, sheet.leadOf(sound)), heard.digest};
      one.levels = *heard.levels;
      measured_.push_back(std::move(one));
    }
    control_.filesDone += result.tails.size() + result.levels.size();
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

std::vector<std::size_t> rowsOfSet(const Sheet& sheet, const Row& row) {
  const auto leadOf = [&](const TappedSound& sound) {
    return static_cast<std::size_t>(&sheet.leadOf(sound) - sheet.rows.data());
  };
  const GainSet& set = sheet.gainSetOf(sheet.soundOf(row));
  if (!set.isFound()) return {leadOf(sheet.soundOf(row))};
  std::vector<std::size_t> rows;
  for (const std::uint32_t sound : set.sounds) rows.push_back(leadOf(sheet.sounds[sound]));
  return rows;
}

std::vector<std::string> keysToMeasure(const Sheet& sheet, const SignalContext& context, const Share& share) {
  const ToMeasure wanted = toMeasure(sheet, rowsOfShare(sheet, context, share), {});
  std::vector<std::string> keys;
  for (const std::size_t row : wanted.tails) {
    const TappedSound& sound = sheet.soundOf(sheet.rows[row]);
    keys.push_back(sheet.spanKeyOf(sound.brief, sound.span));
  }
  for (const std::size_t row : wanted.levels) keys.push_back(levelKeyOf(sheet, sheet.rows[row]));
  return keys;
}

std::vector<Measured> measureSounds(const MeasureRequest& request, MediaCache& cache, RunControl& control) {
  return Measuring(request, cache, control).run();
}

}  // namespace octaphon
