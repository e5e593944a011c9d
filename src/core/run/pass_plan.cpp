#include "run/pass_plan.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <limits>
#include <map>
#include <numeric>
#include <optional>

#include "recipe/unrolled.h"
#include "run/node_cost.h"

namespace octaphon {

std::vector<PlannedPass> passesOf(const Sheet& sheet, const std::vector<std::size_t>& rows,
                                  std::size_t mostRows,
                                  const std::function<const SafeFolder*(std::size_t row)>& folderOf,
                                  const std::vector<std::size_t>& heard) {
  std::map<PassKey, std::vector<PassRow>> byKey;
  for (const std::size_t row : rows) byKey[passKeyOf(sheet, sheet.rows[row])].push_back({row, folderOf(row)});
  for (const std::size_t row : heard) byKey[passKeyOf(sheet, sheet.rows[row])].push_back({row, nullptr});
  std::vector<PlannedPass> passes;
  for (auto& [key, passRows] : byKey)
    for (std::size_t i = 0; i < passRows.size(); i += mostRows)
      passes.push_back(
          {key,
           {passRows.begin() + static_cast<std::ptrdiff_t>(i),
            passRows.begin() + static_cast<std::ptrdiff_t>(std::min(passRows.size(), i + mostRows))},
           i == 0});
  return passes;
}

std::vector<std::vector<PlannedPass>> groupsOf(const std::vector<PlannedPass>& passes,
                                               const ClipFinder& finder) {
  std::vector<std::vector<PlannedPass>> groups;
  std::map<Counting, std::size_t> sweeps;
  for (const PlannedPass& pass : passes) {
    const bool isSwept = pass.key.only.empty() && pass.key.counting.runUp == kMaxFrame &&
                         finder.runUpOf(pass.key.span(), pass.key.counting) > pass.key.context;
    if (!isSwept) {
      groups.push_back({pass});
      continue;
    }
    const auto [found, isNew] = sweeps.try_emplace(pass.key.counting, groups.size());
    if (isNew) groups.emplace_back();
    groups[found->second].push_back(pass);
  }
  return groups;
}

std::set<std::string> mediaOf(const std::vector<PlannedPass>& passes, const ClipFinder& finder) {
  std::set<std::string> media;
  for (const PlannedPass& pass : passes)
    for (const HeardClip& heard : finder.heardIn(pass.key.span(), pass.key.counting))
      media.insert(finder.clipOf(heard).medium);
  return media;
}

namespace {

/// The recipe of a stretch as the rows of a pass hear it.
class HeardStretch {
 public:
  HeardStretch(const Sheet& sheet, const SignalContext& context, const PlannedPass& pass, PlannedSpan span)
      : played_(context, span, pass.key.counting),
        recipe_(played_.context(), played_.span(), pass.key.counting, played_.heard()) {
    for (const PassRow& row : pass.rows)
      (void)recipe_.tap(sheet.briefOf(sheet.rows[row.row]).brief, sheet.sourceOf(sheet.rows[row.row]));
  }
  const PlannedSpan& span() const { return played_.span(); }
  double cost(Frame from, Frame to) const { return playingCost(recipe_, from, to); }

 private:
  PlayedContext played_;
  SpanRecipe recipe_;
};

/// Frames that a pass's tail is likely to have.
Frame tailOf(const Sheet& sheet, const PlannedPass& pass, const PlannedSpan& span) {
  Frame longest = 0;
  for (const PassRow& place : pass.rows) {
    const Row& row = sheet.rows[place.row];
    const RungOut& heard = sheet.briefOf(row).rungOut[sheet.soundOf(row).span];
    const bool isOpen = sheet.spanOf(row).ringsOut && !heard.isKept;
    longest = std::max(longest, isOpen ? span.tail / 2 : std::min(span.tail, sheet.tailOf(row)));
  }
  return longest;
}

/// `swept`: up to where a sweep has come that the pass is part of; nothing: it stands alone.
double costOf(const Sheet& sheet, const SignalContext& context, const PlannedPass& pass,
              std::optional<Frame> swept) {
  const HeardStretch own(sheet, context, pass, pass.key.span());
  const PlannedSpan& span = own.span();
  double cost = kPassCost;
  Frame from = span.first();
  if (!swept) {
    from -= context.finder.runUpOf(pass.key.span(), pass.key.counting);
  } else if (*swept < from) {
    const PlannedSpan before = PlannedSpan::stretch(*swept, from - *swept);
    cost += HeardStretch(sheet, context, pass, before).cost(*swept, from);
  }
  cost += own.cost(from, span.end() + tailOf(sheet, pass, span));
  for (const PassRow& row : pass.rows) cost += writingCost(sheet.rows[row.row]);
  return cost;
}

std::vector<double> costsOf(const Sheet& sheet, const SignalContext& context,
                            const std::vector<PlannedPass>& group) {
  std::vector<double> costs;
  Frame swept = 0;
  for (const PlannedPass& pass : group) {
    costs.push_back(costOf(sheet, context, pass, group.size() == 1 ? std::nullopt : std::optional(swept)));
    swept = std::max(swept, pass.key.span().first());
  }
  return costs;
}

}  // namespace

double writingCost(const Row& row) {
  return kFileCost + kSampleCost * static_cast<double>(row.frames()) * row.channels;
}

std::vector<std::vector<double>> costsOf(const Sheet& sheet, const SignalContext& context,
                                         const std::vector<std::vector<PlannedPass>>& groups) {
  std::vector<std::vector<double>> costs(groups.size());
  tbb::parallel_for(std::size_t{0}, groups.size(),
                    [&](std::size_t i) { costs[i] = costsOf(sheet, context, groups[i]); });
  return costs;
}

std::vector<std::size_t> rowsOfShare(const Sheet& sheet, const SignalContext& context, const Share& share) {
  std::vector<std::size_t> all(sheet.rows.size());
  std::iota(all.begin(), all.end(), std::size_t{0});
  const auto groups = groupsOf(
      passesOf(sheet, all, std::numeric_limits<std::size_t>::max() / 2, [](std::size_t) { return nullptr; }),
      context.finder);
  std::vector<double> costs;
  for (const std::vector<double>& passes : costsOf(sheet, context, groups))
    costs.push_back(std::accumulate(passes.begin(), passes.end(), 0.0));
  std::vector<std::size_t> order(groups.size());
  std::iota(order.begin(), order.end(), std::size_t{0});
  std::stable_sort(order.begin(), order.end(),
                   [&](std::size_t a, std::size_t b) { return costs[a] > costs[b]; });
  // The dearest first, each to whom has the least so far.
  std::vector<double> loads(static_cast<std::size_t>(share.of), 0);
  std::vector<std::size_t> rows;
  for (const std::size_t group : order) {
    const auto least = std::min_element(loads.begin(), loads.end());
    *least += costs[group];
    if (least - loads.begin() != share.index - 1) continue;
    for (const PlannedPass& pass : groups[group])
      for (const PassRow& row : pass.rows) rows.push_back(row.row);
  }
  std::sort(rows.begin(), rows.end());
  return rows;
}

}  // namespace octaphon
