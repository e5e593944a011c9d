#include "run/region_seam.h"

#include <algorithm>

#include "base/denormals.h"
#include "loop/first_onset.h"
#include "run/pass_key.h"
#include "signal/graph.h"

namespace octaphon {
namespace {

constexpr Frame kBlock = 4096;

/// Takes the frames that a tap gives from the first one on that is held.
Result<> collect(TapSource& source, HeardLoop& heard, const std::atomic<bool>& cancel) {
  Frame skipped = source.latency(0), at = heard.first;
  for (Frame played = at; at < heard.last; played += kBlock) {
    if (cancel) return fail(ErrorCode::Cancelled, "seam");
    source.process(played, kBlock);
    const TapBlock whole = source.tap(0);
    if (whole.error != nullptr) return tl::unexpected(*whole.error);
    const Frame late = std::min(skipped, kBlock);
    skipped -= late;
    const TapBlock block = whole.after(late);
    heard.take(block.isSilent() ? nullptr : block.channel, at, kBlock - late);
    at += kBlock - late;
  }
  return {};
}

Result<> hear(const RegionSeamQuestion& question, HeardLoop& heard, MediaCache& cache,
              const std::atomic<bool>& cancel) {
  const DenormalGuard guard;
  const Session& session = *question.session;
  const SessionContext context(session, *question.facts, question.plugins.get());
  const PlannedSpan span = PlannedSpan::stretch(heard.first, heard.last - heard.first);
  SpanRecipe recipe(context.signal, span, Counting{}, context.finder.heardIn(span, Counting{}));
  const Brief brief;
  const PlannedSource mix = PlannedSource::mix();
  const Tap tap = recipe.tap(brief, mix);
  heard.sound.channels.resize(static_cast<std::size_t>(tap.channels));
  std::vector<std::string> needed;
  for (const HeardClip& clip : recipe.heard()) {
    needed.push_back(context.finder.clipOf(clip).medium);
    heard.goesOn.push_back({clip.from, clip.to - clip.from});
  }
  const auto media = ReadableMedia::prepare(session, *question.facts, cache, needed, &cancel);
  std::unique_ptr<TapSource> player;
  if (!recipe.pluginsBefore(tap.node).empty() && question.pluginPasses != nullptr) {
    OCTAPHON_ASSIGN(player, question.pluginPasses->open(recipe, passKeyOf(span, Counting{}), media,
                                                        {{&brief, {mix}, false}}));
  } else {
    player = std::make_unique<Graph>(recipe, media, std::vector<NodeIndex>{tap.node});
  }
  return collect(*player, heard, cancel);
}

}  // namespace

Result<FoundSeam> seamOf(const RegionSeamQuestion& question, MediaCache& cache,
                         const std::atomic<bool>& cancel) {
  const LoopPlace& place = question.place;
  if (place.length <= 0) return fail(ErrorCode::NothingLeft, "seam", "the region has no length");
  const Frame reach = framesOf(question.searchMs / 1000, question.session->rate);
  HeardLoop heard = HeardLoop::around(place, reach, question.session->rate, 0, {0, kMaxFrame});
  OCTAPHON_TRY(hear(question, heard, cache, cancel));
  return judged(std::move(heard), place, reach);
}

Result<std::optional<double>> firstOnsetOf(const RegionSeamQuestion& question, MediaCache& cache,
                                           const std::atomic<bool>& cancel) {
  constexpr double kAroundSeconds = 0.5;
  const Frame around = framesOf(kAroundSeconds, question.session->rate);
  const Frame start = question.place.start;
  HeardLoop heard;
  heard.sound.rate = question.session->rate;
  heard.first = std::max<Frame>(0, start - around);
  heard.last = heard.headTo = heard.tailFrom = start + around;
  OCTAPHON_TRY(hear(question, heard, cache, cancel));
  return firstOnsetMs(heard.sound, start - heard.first);
}

}  // namespace octaphon
