#include "run/pass.h"

#include "recipe/unrolled.h"
#include "run/blame.h"
#include "run/mixed_source.h"
#include "run/pass_writer.h"

namespace octaphon {

PassResult runPass(const PassSetting& setting, const PlannedPass& pass) {
  if (!setting.control.mayGoOn()) return {};
  const PlayedContext played(setting.context, pass.key.span(), pass.key.counting);
  const PlannedSpan& span = played.span();
  SpanRecipe recipe(played.context(), span, pass.key.counting, played.heard());
  MediaWatch watch(recipe, setting.media);
  PassWriter writer(setting, pass, recipe, watch);
  const Frame at = span.first() - played.context().finder.runUpOf(span, pass.key.counting);
  if (!recipe.hasPlugins() || setting.plugins == nullptr) {
    Graph graph(recipe, setting.media, writer.taps().nodes());
    return writer.play(graph, at) ? writer.finish() : PassResult{};
  }
  auto source = MixedSource::open(recipe, pass.key, setting.media, writer.taps(), *setting.plugins);
  if (source && !writer.play(**source, at)) return {};
  PassResult result = source ? writer.finish() : writer.failed(source.error());
  const auto mergeInto = [&](auto& all, auto& more) {
    std::move(more.begin(), more.end(), std::back_inserter(all));
  };
  const PlannedPass rest{pass.key, takeRowsNotToBlame(recipe, setting.sheet, pass, result), false};
  if (rest.rows.empty()) return result;
  PassResult again = runPass(setting, rest);
  for (const HeardLevels& levels : again.levels)
    std::erase_if(result.levels, [&](const HeardLevels& first) { return first.sound == levels.sound; });
  mergeInto(result.rows, again.rows);
  mergeInto(result.tails, again.tails);
  mergeInto(result.levels, again.levels);
  mergeInto(result.waiting, again.waiting);
  return result;
}

}  // namespace octaphon
