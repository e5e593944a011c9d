// Plug-ins, from this side: what they are, and passes that need them, both asked of the worker.
#pragma once

#include <filesystem>
#include <memory>

#include "base/job_control.h"
#include "run/plugin_passes.h"

namespace octaphon {

/// What the worker knows of the plug-ins of a session, on top of what `known` knows already (may be null). A
/// plug-in that crashes while it is looked at is one that cannot be used. Takes as long as each takes to
/// start: a part of the job. Those it did not come to before it was stopped are not known, and asked for
/// again the next time. `trials` is a file that keeps what was found (see plugin_trials.h); empty: none.
std::shared_ptr<const PluginCatalogue> describePlugins(const Session& session,
                                                       std::shared_ptr<const PluginCatalogue> known,
                                                       JobControl* job = nullptr,
                                                       const std::filesystem::path& trials = {});

struct InstalledPlugin {
  std::string uri, name, kind;
};
/// Those that could be inserts; empty where the worker cannot be started.
std::vector<InstalledPlugin> installedPlugins();

class WorkerProcess;

/// Passes in worker processes: one for each that runs at a time, used again by the next. A worker is told the
/// session once, not once a pass. Threads may share one.
class WorkerPasses : public PluginPasses {
 public:
  WorkerPasses();
  ~WorkerPasses() override;  ///< after all sources that it opened
  Result<std::unique_ptr<TapSource>> open(const SpanRecipe& recipe, const PassKey& key,
                                          const ReadableMedia& media,
                                          const std::vector<TapRequest>& taps) override;

  struct Worker;
  struct Idle;

 private:
  std::shared_ptr<Idle> idle_;
};

}  // namespace octaphon
