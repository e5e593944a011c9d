// Taps without plug-ins from a graph in this process, the others from a worker.
#pragma once

#include <memory>

#include "run/plugin_passes.h"
#include "run/tap_list.h"

namespace octaphon {

class MixedSource : public TapSource {
 public:
  /// All arguments must outlive the source. PluginFailed where the worker cannot begin.
  static Result<std::unique_ptr<TapSource>> open(const SpanRecipe& recipe, const PassKey& key,
                                                 const ReadableMedia& media, const TapList& taps,
                                                 PluginPasses& plugins);

  Frame blockFrames() const override;
  void process(Frame at, Frame frames) override;
  TapBlock tap(std::size_t index) const override { return sourceOf(index).tap(places_[index].tap); }
  int channels(std::size_t index) const override { return sourceOf(index).channels(places_[index].tap); }
  std::vector<ClipStep> clipSteps() const override { return graph_->clipSteps(); }
  Frame latency(std::size_t index) const override { return sourceOf(index).latency(places_[index].tap); }

 private:
  struct Place {
    bool isInWorker;
    std::size_t tap;  // its number there
  };
  const TapSource& sourceOf(std::size_t index) const {
    return places_[index].isInWorker ? *worker_ : *graph_;
  }

  std::unique_ptr<TapSource> graph_, worker_;
  std::vector<Place> places_;
};

}  // namespace octaphon
