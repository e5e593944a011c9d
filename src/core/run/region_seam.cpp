#include "run/region_seam.h"

#include <algorithm>

#include "base/denormals.h"
#include "run/pass_key.h"
#include "signal/graph.h"

namespace octaphon {
namespace {

constexpr Frame kBlock = 4096;
constexpr double kAroundSeconds = 0.5;  // that are heard on either side: how it would have gone on

/// Takes the frames that a tap gives from a frame of the session on.
Result<> collect(TapSource& source, Frame from, Lap& sound, Frame frames, const std::atomic<bool>& cancel) {
  Frame skipped = source.latency(0);
  for (Frame at = from; sound.frames() < frames; at += kBlock) {
    if (cancel) return fail(ErrorCode::Cancelled, "seam");
    source.process(at, kBlock);
    const TapBlock whole = source.tap(0);
    if (whole.error != nullptr) return tl::unexpected(*whole.error);
    const Frame late = std::min(skipped, kBlock);
    skipped -= late;
    const TapBlock block = whole.after(late);
    const auto count = static_cast<std::size_t>(std::min(kBlock - late, frames - sound.frames()));
    for (std::size_t c = 0; c < sound.channels.size(); ++c) {
      std::vector<float>& channel = sound.channels[c];
      if (block.isSilent())
        channel.resize(channel.size() + count, 0.0f);
      else
        channel.insert(channel.end(), block.channel[c], block.channel[c] + count);
    }
  }
  return {};
}

/// Whether something goes on across a frame: then the session says how it would.
bool goesOnAt(const SpanRecipe& recipe, Frame frame) {
  return std::any_of(recipe.heard().begin(), recipe.heard().end(),
                     [&](const HeardClip& clip) { return clip.from < frame && clip.to > frame; });
}

}  // namespace

Result<RegionSeam> seamOf(const RegionSeamQuestion& question, MediaCache& cache,
                          const std::atomic<bool>& cancel) {
  const DenormalGuard guard;
  const LoopPlace& place = question.place;
  if (place.length <= 0) return fail(ErrorCode::NothingLeft, "seam", "the region has no length");
  const Session& session = *question.session;
  const Frame reach = framesOf(question.searchMs / 1000, session.rate);
  const Frame around = std::max(reach, framesOf(kAroundSeconds, session.rate));
  RegionSeam found;
  found.first = std::max<Frame>(0, place.start - around);
  const Frame frames = place.end() + around - found.first;
  const SessionContext context(session, *question.facts, question.plugins.get());
  const PlannedSpan span = PlannedSpan::stretch(found.first, frames);
  SpanRecipe recipe(context.signal, span, Counting{}, context.finder.heardIn(span, Counting{}));
  const Brief brief;
  PlannedSource mix;
  mix.id = "main";
  const Tap tap = recipe.tap(brief, mix);
  std::vector<std::string> needed;
  for (const HeardClip& clip : recipe.heard()) needed.push_back(context.finder.clipOf(clip).medium);
  const auto media = ReadableMedia::prepare(session, *question.facts, cache, needed, &cancel);
  std::unique_ptr<TapSource> player;
  if (!recipe.pluginsBefore(tap.node).empty() && question.pluginPasses != nullptr) {
    OCTAPHON_ASSIGN(player, question.pluginPasses->open(recipe, passKeyOf(span, Counting{}), media,
                                                        {{&brief, {mix}, false}}));
  } else {
    player = std::make_unique<Graph>(recipe, media, std::vector<NodeIndex>{tap.node});
  }
  found.sound.rate = session.rate;
  found.sound.channels.resize(static_cast<std::size_t>(tap.channels));
  OCTAPHON_TRY(collect(*player, found.first, found.sound, frames, cancel));
  const LoopPlace inside{place.start - found.first, place.length};
  const Lap goesOn = partOf(found.sound, inside.end(), framesOf(0.4, session.rate));
  found.seam = measureSeam(partOf(found.sound, inside.start, inside.length),
                           goesOnAt(recipe, place.end()) ? &goesOn : nullptr);
  if (reach > 0) found.candidates = searchLoop(found.sound, inside, {reach});
  for (LoopCandidate& candidate : found.candidates) candidate.place.start += found.first;
  return found;
}

}  // namespace octaphon
