// Where passes with plug-ins are run.
#pragma once

#include <memory>
#include <vector>

#include "run/pass_key.h"
#include "signal/graph.h"

namespace octaphon {

/// A tap as another process can make it again: what SpanRecipe::tap() or, with several sources, everything()
/// is asked for.
struct TapRequest {
  const Brief* brief;
  std::vector<PlannedSource> sources;
  bool isEverything = false;
  int channels = 0;  ///< brought to so many (SpanRecipe::asWide); 0: as it is
};

class PluginPasses {
 public:
  virtual ~PluginPasses() = default;
  /// Any thread. PluginFailed where the pass cannot begin; its place is the insert's id.
  virtual Result<std::unique_ptr<TapSource>> open(const SpanRecipe& recipe, const PassKey& key,
                                                  const ReadableMedia& media,
                                                  const std::vector<TapRequest>& taps) = 0;
};

}  // namespace octaphon
