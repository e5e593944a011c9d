// A tap of a session, rendered inside the test.
#pragma once

#include <cmath>

#include "media/media_cache.h"
#include "signal/graph.h"
#include "support.h"

namespace octaphon::test {

struct Rendered {
  std::vector<std::vector<float>> channels;
  std::vector<SignalIssue> issues;
  std::string error;
};

struct RenderSpec {
  Brief brief = {};
  PlannedSource source = {};  ///< the mix
  Frame start = 0, length = 48000;
  Frame tail = 0;                         ///< frames after the end
  Frame block = 1 << 20;                  ///< at most
  std::optional<Counting> counting = {};  ///< everything heard, where nothing is said
  const PluginCatalogue* plugins = nullptr;
  PluginHost* host = nullptr;
};

inline PlannedSource sourceOf(const Session& session, const std::string& id) {
  const TrackTree tree(session);
  PlannedSource source;
  source.track = tree.find(id).value();
  const Track& track = session.tracks[source.track.track()];
  source.kind = track.isGroup()    ? PlannedSource::Kind::Group
                : track.isReturn() ? PlannedSource::Kind::Return
                                   : PlannedSource::Kind::Track;
  return source;
}

inline Rendered render(const Session& session, const RenderSpec& spec) {
  QTemporaryDir folder;
  MediaCache cache(folder.path().toStdString());
  const auto facts = gatherFacts(session, cache);
  std::vector<std::string> ids;
  for (const Medium& medium : session.media) ids.push_back(medium.id);
  const auto media = ReadableMedia::prepare(session, *facts, cache, ids);
  const TrackTree tree(session);
  const ClipFinder finder(session, tree);
  const SignalContext context(finder, *facts, spec.plugins);
  const PlannedSpan span = PlannedSpan::stretch(spec.start, spec.length);
  const Counting counting = spec.counting.value_or(Counting{});
  SpanRecipe recipe(context, span, counting, finder.heardIn(span, counting));
  const Tap tap = recipe.tap(spec.brief, spec.source);
  Graph graph(recipe, media, {tap.node}, spec.host);
  Rendered result{std::vector<std::vector<float>>(static_cast<std::size_t>(tap.channels)), tap.issues, {}};
  const Frame block = std::min(spec.block, graph.blockFrames());
  const Frame latency = graph.latency(0);
  const Frame runUp = finder.runUpOf(span, counting);
  const Frame length = spec.length + spec.tail;
  for (Frame at = -runUp; at < length + latency; at += block) {
    const Frame frames = std::min(block, length + latency - at);
    graph.process(spec.start + at, frames);
    const TapBlock sound = graph.tap(0);
    if (sound.error != nullptr) result.error = sound.error->describe();
    for (std::size_t c = 0; c < result.channels.size(); ++c)
      for (Frame i = std::max<Frame>(0, latency - at); i < frames; ++i)
        result.channels[c].push_back(sound.isSilent() ? 0.0f : sound.channel[c][i]);
  }
  return result;
}

inline double loudest(const std::vector<float>& samples) {
  double peak = 0;
  for (const float s : samples) peak = std::max(peak, std::abs(static_cast<double>(s)));
  return peak;
}

inline double toDb(double ratio) { return ratio > 0 ? 20 * std::log10(ratio) : -200; }

}  // namespace octaphon::test
