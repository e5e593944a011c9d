#include "run/worker_passes.h"

#include <algorithm>
#include <future>
#include <mutex>
#include <optional>
#include <set>
#include <thread>
#include <type_traits>

#include "base/unicode.h"
#include "run/plugin_json.h"
#include "run/plugin_trials.h"
#include "run/worker_process.h"
#include "session/session_json.h"

namespace octaphon {

/// A process, and which session it was given last.
struct WorkerPasses::Worker {
  WorkerProcess process;
  std::uint64_t session = 0;  // SignalContext::number; 0: none yet
};

/// Processes that wait for a pass. Sources hold it too, so that it outlives whoever gives one back.
struct WorkerPasses::Idle {
  std::mutex mutex;
  std::vector<Worker> workers;
  std::uint64_t session = 0;                       // of sessionText
  std::shared_ptr<const std::string> sessionText;  // what workers are told of the latest session

  /// One that has the session already, if there is one.
  Result<Worker> take(std::uint64_t wanted) {
    {
      const std::scoped_lock lock(mutex);
      if (!workers.empty()) {
        auto chosen = std::find_if(workers.begin(), workers.end(),
                                   [&](const Worker& worker) { return worker.session == wanted; });
        if (chosen == workers.end()) chosen = workers.end() - 1;
        std::swap(*chosen, workers.back());
        Worker worker = std::move(workers.back());
        workers.pop_back();
        return worker;
      }
    }
    OCTAPHON_ASSIGN(WorkerProcess process, WorkerProcess::start("play"));
    return Worker{std::move(process), 0};
  }
  void giveBack(Worker worker) {
    const std::scoped_lock lock(mutex);
    workers.push_back(std::move(worker));
  }

  std::shared_ptr<const std::string> textOf(const SignalContext& context) {
    const std::scoped_lock lock(mutex);
    if (session != context.number) {
      WorkerSession told{writeSession(context.session()), {}};
      for (const Insert& insert : pluginInserts(context.session()))
        if (const EffectInfo* info = effectInfo(insert, context.plugins))
          told.plugins.emplace_back(insert, *info);
      sessionText = std::make_shared<std::string>(
          asJson(told).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace));
      session = context.number;
    }
    return sessionText;
  }
};

namespace {

using nlohmann::json;

constexpr Frame kMostBlock = 65536;

/// What `read` gives of JSON, or nothing where the JSON is not of the form that it reads.
template <class Read>
std::optional<std::invoke_result_t<Read>> withoutExceptions(const Read& read) {
  try {
    return read();
  } catch (const json::exception&) {
    return std::nullopt;
  }
}

/// Runs on in another process. What a tap gives stays valid until the next process().
class WorkerSource : public TapSource {
 public:
  WorkerSource(WorkerPasses::Worker worker, std::size_t taps, std::shared_ptr<WorkerPasses::Idle> idle)
      : worker_(std::move(worker)), taps_(taps), idle_(std::move(idle)) {}

  /// A process that is well can do the next pass: plug-ins may crash while they are put away, too.
  ~WorkerSource() override {
    const Frame end[2]{0, 0};
    if (begun_ && !dead_ && process_.write(end, sizeof end) && process_.readText())
      idle_->giveBack(std::move(worker_));
  }

  Result<> begin(const SignalContext& context, const WorkerPass& pass) {
    if (worker_.session != context.number) {
      OCTAPHON_TRY(process_.writeText(*idle_->textOf(context)));
      worker_.session = context.number;
    }
    OCTAPHON_TRY(process_.writeText(asJson(pass).dump(-1, ' ', false, json::error_handler_t::replace)));
    auto text = process_.readText();
    if (!text) return tl::unexpected(named(std::move(text).error()));
    if (!takeAnswer(json::parse(*text, nullptr, false)))
      return fail(ErrorCode::PluginFailed, {}, "its process answered nonsense", "Try again, or take it out");
    begun_ = true;
    return {};
  }

  Frame blockFrames() const override { return blockFrames_; }
  int channels(std::size_t index) const override { return taps_[index].channels; }
  Frame latency(std::size_t index) const override { return taps_[index].latency; }

  void process(Frame at, Frame frames) override {
    if (dead_) return;
    const Frame wanted[2]{at, frames};
    if (auto sent = process_.write(wanted, sizeof wanted); !sent) return die(sent.error());
    for (TapBuffer& tap : taps_)
      if (auto taken = take(tap, frames); !taken) return die(taken.error());
  }

  TapBlock tap(std::size_t index) const override {
    TapBlock block;
    const TapBuffer& buffer = taps_[index];
    if (dead_)
      block.error = &*dead_;
    else if (buffer.error)
      block.error = &*buffer.error;
    else if (buffer.sounds)
      for (int c = 0; c < buffer.channels; ++c) block.channel[c] = buffer.samples.data() + c * buffer.frames;
    return block;
  }

 private:
  struct TapBuffer {
    int channels = 0;
    Frame latency = 0, frames = 0;
    bool sounds = false;
    std::vector<float> samples;
    std::optional<Error> error;
  };

  /// A plug-in can write into everything its process has: nothing that comes from there is taken for granted.
  bool takeAnswer(const json& answer) {
    const auto read = [&] {
      blockFrames_ = answer.at("block").get<Frame>();
      for (std::size_t i = 0; i < taps_.size(); ++i) {
        const json& tap = answer.at("taps").at(i);
        taps_[i].channels = tap.at(0).get<int>();
        taps_[i].latency = tap.at(1).get<Frame>();
        if (taps_[i].channels < 0 || taps_[i].channels > kMaxTapChannels || taps_[i].latency < 0)
          return false;
      }
      return blockFrames_ >= 512 && blockFrames_ <= kMostBlock && blockFrames_ % 512 == 0;
    };
    return withoutExceptions(read).value_or(false);
  }

  Result<> take(TapBuffer& tap, Frame frames) {
    std::uint32_t what = 0;  // 0 silence, 1 sound, 2 an error
    OCTAPHON_TRY(process_.read(&what, sizeof what));
    tap.sounds = what == 1;
    tap.frames = frames;
    if (what == 1) {
      tap.samples.resize(static_cast<std::size_t>(tap.channels * frames));
      OCTAPHON_TRY(process_.read(tap.samples.data(), tap.samples.size() * sizeof(float)));
    } else if (what == 2) {
      OCTAPHON_ASSIGN(const std::string text, process_.readText());
      const json error = json::parse(text, nullptr, false);
      const auto read = [&] {
        return Error{static_cast<ErrorCode>(error.at(0).get<int>()), error.at(1), error.at(2), error.at(3)};
      };
      tap.error = withoutExceptions(read).value_or(Error{ErrorCode::PluginFailed, {}, {}, {}});
    }
    return {};
  }

  /// With the insert that was running, whose id is the place.
  Error named(Error error) const {
    if (const std::string insert = process_.running(); !insert.empty()) error.place = insert;
    return error;
  }
  void die(Error error) { dead_ = named(std::move(error)); }

  WorkerPasses::Worker worker_;
  WorkerProcess& process_ = worker_.process;
  std::vector<TapBuffer> taps_;
  Frame blockFrames_ = 65536;
  std::shared_ptr<WorkerPasses::Idle> idle_;
  bool begun_ = false;
  std::optional<Error> dead_;
};

int briefIndex(const Session& session, const Brief& brief) {
  for (std::size_t i = 0; i < session.briefs.size(); ++i)
    if (session.briefs[i].id == brief.id) return static_cast<int>(i);
  return -1;
}

}  // namespace

WorkerPasses::WorkerPasses() : idle_(std::make_shared<Idle>()) {}
WorkerPasses::~WorkerPasses() = default;

Result<std::unique_ptr<TapSource>> WorkerPasses::open(const SpanRecipe& recipe, const PassKey& key,
                                                      const ReadableMedia& media,
                                                      const std::vector<TapRequest>& taps) {
  const SignalContext& context = recipe.context().original();
  WorkerPass pass;
  pass.key = key;
  std::set<std::string> seen;
  for (const HeardClip& clip : recipe.heard()) {
    const std::string& id = context.finder.clipOf(clip).medium;
    const ReadableMedium* medium = media.find(id);
    if (medium != nullptr && seen.insert(id).second) pass.media.emplace_back(id, *medium);
  }
  for (const TapRequest& tap : taps)
    pass.taps.push_back(
        {briefIndex(context.session(), *tap.brief), tap.sources, tap.isEverything, tap.channels});
  OCTAPHON_ASSIGN(Worker worker, idle_->take(context.number));
  auto source = std::make_unique<WorkerSource>(std::move(worker), taps.size(), idle_);
  OCTAPHON_TRY(source->begin(context, pass));
  return source;
}

namespace {

using Described = std::pair<const Insert*, Result<EffectInfo>>;

Result<EffectInfo> describedBy(const json& answer) {
  const auto read = [&]() -> Result<EffectInfo> {
    if (answer.contains("problem"))
      return fail(ErrorCode::Unsupported, {}, answer.at("problem").get<std::string>());
    return effectFrom(answer);
  };
  return withoutExceptions(read).value_or(fail(ErrorCode::PluginFailed, {}, "its process answered nonsense"));
}

/// One after the other; where one takes the worker with it, the next begins with a new one.
std::vector<Described> describeAll(const std::vector<const Insert*>& inserts, int rate, JobControl* job) {
  std::vector<Described> described;
  const auto put = [&](Result<EffectInfo> info) {
    described.emplace_back(inserts[described.size()], std::move(info));
    finishPart(job);
  };
  while (described.size() < inserts.size() && !isStopped(job)) {
    auto worker = WorkerProcess::start("describe", job);
    if (!worker) {
      put(tl::unexpected(worker.error()));
      continue;
    }
    for (bool isWell = true; isWell && described.size() < inserts.size() && !isStopped(job);) {
      json request = asJson(*inserts[described.size()]);
      request["rate"] = rate;
      const auto sent = worker->writeText(request.dump());
      const auto text = sent ? worker->readText() : Result<std::string>(tl::unexpected(sent.error()));
      if (isStopped(job)) break;
      isWell = text.has_value();
      put(isWell ? describedBy(json::parse(*text, nullptr, false)) : tl::unexpected(text.error()));
    }
  }
  return described;
}

/// Whether it would fail the next time, too. Where nothing answers at all, it may be the worker that is at
/// fault.
bool isItsOwnFault(const Insert& insert, const Error& error) {
  if (error.code == ErrorCode::Unsupported) return true;
  if (error.code != ErrorCode::PluginFailed) return false;
  const std::vector<InstalledPlugin> installed = installedPlugins();
  return std::any_of(installed.begin(), installed.end(),
                     [&](const InstalledPlugin& plugin) { return plugin.uri == insert.effect; });
}

}  // namespace

std::shared_ptr<const PluginCatalogue> describePlugins(const Session& session,
                                                       std::shared_ptr<const PluginCatalogue> known,
                                                       JobControl* job, const std::filesystem::path& trials) {
  if (known != nullptr && known->rate() != session.rate) known = nullptr;
  std::vector<Insert> asked = pluginInserts(session);
  std::erase_if(asked, [&](const Insert& insert) { return known != nullptr && known->knows(insert); });
  if (asked.empty()) return known;
  auto catalogue =
      known ? std::make_shared<PluginCatalogue>(*known) : std::make_shared<PluginCatalogue>(session.rate);
  std::optional<PluginTrials> kept;
  if (!trials.empty()) {
    kept.emplace(trials);
    std::erase_if(asked, [&](const Insert& insert) { return kept->tell(insert, *catalogue); });
  }
  // Dealt out to as many processes as there are cores: trying a plug-in takes a while.
  std::vector<std::vector<const Insert*>> shares(std::max(1u, std::thread::hardware_concurrency()));
  for (std::size_t i = 0; i < asked.size(); ++i) shares[i % shares.size()].push_back(&asked[i]);
  expectParts(job, asked.size());
  std::vector<std::future<std::vector<Described>>> running;
  for (const auto& share : shares)
    if (!share.empty())
      running.push_back(
          std::async(std::launch::async, [&] { return describeAll(share, session.rate, job); }));
  for (auto& share : running)
    for (auto& [insert, info] : share.get()) {
      if (info) {
        if (kept) kept->note(*insert, session.rate, *info);
        catalogue->add(*insert, std::move(*info));
        continue;
      }
      info.error().cure.clear();  // the remark has its own
      if (kept && isItsOwnFault(*insert, info.error()))
        kept->noteProblem(*insert, session.rate, info.error().describe());
      catalogue->addProblem(*insert, info.error().describe());
    }
  if (kept && !asked.empty()) kept->save();
  return catalogue;
}

std::vector<InstalledPlugin> installedPlugins() {
  std::vector<InstalledPlugin> plugins;
  auto worker = WorkerProcess::start("list");
  const auto text = worker ? worker->readText() : Result<std::string>(tl::unexpected(worker.error()));
  if (!text) return plugins;
  const auto read = [&] {
    for (const json& plugin : json::parse(*text, nullptr, false))
      plugins.push_back({plugin.at(0), plugin.at(1), plugin.at(2)});
    return true;
  };
  (void)withoutExceptions(read);
  return plugins;
}

}  // namespace octaphon
