#include "plan/partition.h"

#include <algorithm>

#include "base/unicode.h"

namespace octaphon {
SumCheck sumCheckOf(SpanRecipe& recipe, const PlannedBrief& brief, const PlannedSpan& span,
                    const std::vector<std::size_t>& present) {
  const Session& session = recipe.context().session();
  const TrackTree& tree = recipe.context().tree();
  const auto nameOf = [&](Strip strip) { return printable(session.tracks[strip.track()].name, 60); };
  SumCheck check;
  std::vector<int> times(session.tracks.size(), 0);
  std::vector<char> isReturnPrinted(session.tracks.size(), 0);
  const bool carried = brief.brief.heard.withReturns == Returns::In;
  for (const std::size_t index : present) {
    const PlannedSource& source = brief.sources[index];
    if (source.kind == PlannedSource::Kind::Mix || source.kind == PlannedSource::Kind::MixWithout) continue;
    if (source.kind == PlannedSource::Kind::Return) {
      if (carried) continue;  // the layers carry their shares already
      isReturnPrinted[source.track.track()] = 1;
    } else {
      const std::vector<Strip> tops =
          source.kind == PlannedSource::Kind::Sum ? source.tracks : std::vector{source.track};
      for (std::size_t t = 0; t < times.size(); ++t)
        for (const Strip top : tops) times[t] += tree.isInside(Strip(t), top) ? 1 : 0;
    }
    check.sources.push_back(index);
  }
  const auto refuse = [&](std::string why) {
    check.text = std::move(why);
    return check;
  };
  if (check.sources.empty()) return refuse("there are no layers to add up");
  std::vector<char> active(session.tracks.size(), 0);  // 1: rings on from before, 2: sounds in the span
  for (const HeardClip& clip : recipe.heard())
    if (!tree.isHelper(clip.track) && clip.from < span.end())
      active[clip.track.track()] |= clip.to > span.start ? 2 : 1;
  for (const Strip track : tree.order()) {
    const auto t = track.track();
    if (active[t] == 1 && times[t] == 0)
      return refuse(nameOf(track) + " may ring on from before the span and is in none of the layers");
    if (active[t] != 0 && times[t] == 0) return refuse(nameOf(track) + " is in none of the layers");
    if (active[t] != 0 && times[t] > 1) return refuse(nameOf(track) + " is in several of the layers");
  }
  for (const Strip strip : tree.order()) {
    const Track& track = session.tracks[strip.track()];
    if (carried || !track.isReturn() || tree.isMuted(strip) || isReturnPrinted[strip.track()] != 0) continue;
    PlannedSource through;
    through.kind = PlannedSource::Kind::Return;
    through.track = strip;
    const bool isFed = recipe.tap(brief.brief, through).node != kSilentNode;
    if (isFed) return refuse("what goes through " + nameOf(strip) + " is in none of the layers");
  }
  check.isJudged = true;
  return check;
}

}  // namespace octaphon
