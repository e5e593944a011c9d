#include "run/mixed_source.h"

namespace octaphon {

Result<std::unique_ptr<TapSource>> MixedSource::open(const SpanRecipe& recipe, const PassKey& key,
                                                     const ReadableMedia& media, const TapList& taps,
                                                     PluginPasses& plugins) {
  auto mixed = std::make_unique<MixedSource>();
  std::vector<NodeIndex> here;
  std::vector<TapRequest> inWorker;
  for (std::size_t i = 0; i < taps.nodes().size(); ++i) {
    const NodeIndex node = taps.nodes()[i];
    if (recipe.pluginsBefore(node).empty()) {
      mixed->places_.push_back({false, here.size()});
      here.push_back(node);
    } else {
      mixed->places_.push_back({true, inWorker.size()});
      inWorker.push_back(taps.requests()[i]);
    }
  }
  if (!inWorker.empty()) {
    OCTAPHON_ASSIGN(mixed->worker_, plugins.open(recipe, key, media, inWorker));
  }
  mixed->graph_ = std::make_unique<Graph>(recipe, media, std::move(here));
  return mixed;
}

Frame MixedSource::blockFrames() const {
  return worker_ ? std::min(graph_->blockFrames(), worker_->blockFrames()) : graph_->blockFrames();
}

void MixedSource::process(Frame at, Frame frames) {
  graph_->process(at, frames);
  if (worker_) worker_->process(at, frames);
}

}  // namespace octaphon
