// octaphon-worker: runs plug-ins in a process of its own, for octaphon and octaphon-cli. It speaks with them
// over standard input and output, and is not meant to be started by hand.
//   list      names of plug-ins
//   describe  one plug-in after the other: what it is, as an insert has set it
//   play      a session, then pass after pass: a request, then blocks
#include <sys/mman.h>
#include <sys/resource.h>
#include <tbb/task_arena.h>
#include <unistd.h>

#include <cstdio>
#include <cstring>
#include <exception>
#include <memory>
#include <new>

#include "base/denormals.h"
#include "plugin/lv2_host.h"
#include "recipe/unrolled.h"
#include "run/plugin_json.h"
#include "run/worker_process.h"
#include "session/session_json.h"

namespace octaphon {
namespace {

using nlohmann::json;

bool readAll(void* data, std::size_t size) { return std::fread(data, 1, size, stdin) == size; }
void writeAll(const void* data, std::size_t size) { std::fwrite(data, 1, size, stdout); }

bool readText(std::string& text) {
  std::uint64_t size = 0;
  if (!readAll(&size, sizeof size)) return false;
  text.resize(static_cast<std::size_t>(size));
  return readAll(text.data(), text.size());
}

void writeText(const std::string& text) {
  const std::uint64_t size = text.size();
  writeAll(&size, sizeof size);
  writeAll(text.data(), text.size());
  std::fflush(stdout);
}

std::string dumped(const json& value) { return value.dump(-1, ' ', false, json::error_handler_t::replace); }

int list() {
  const PluginWorld world;
  json names = json::array();
  for (const PluginName& plugin : world.list()) names.push_back({plugin.uri, plugin.name, plugin.kind});
  writeText(dumped(names));
  return 0;
}

int describe() {
  PluginWorld world;
  for (std::string text; readText(text);) {
    const json request = json::parse(text);
    const auto info = world.describe(insertFrom(request), request.at("rate"));
    writeText(
        dumped(info ? asJson(*info) : json{{"problem", info.error().place + ": " + info.error().text}}));
  }
  return 0;
}

void writeTap(const TapBlock& block, int channels, Frame frames) {
  const std::uint32_t what = block.error != nullptr ? 2 : block.isSilent() ? 0 : 1;
  writeAll(&what, sizeof what);
  if (what == 1)
    for (int c = 0; c < channels; ++c)
      writeAll(block.channel[c], static_cast<std::size_t>(frames) * sizeof(float));
  if (what == 2)
    writeText(dumped(
        {static_cast<int>(block.error->code), block.error->place, block.error->text, block.error->cure}));
}

/// The session that passes are played in, and what all of them need of it.
class PlayedSession {
 public:
  /// Null where the text makes no sense.
  static std::unique_ptr<PlayedSession> read(const WorkerSession& told) {
    auto session = readSession(told.session, "session");
    return session ? std::unique_ptr<PlayedSession>(new PlayedSession(std::move(*session), told)) : nullptr;
  }
  const Session& session() const { return session_; }
  const SessionContext& context() const { return context_; }

 private:
  PlayedSession(Session session, const WorkerSession& told)
      : session_(std::move(session)),
        catalogue_(catalogueOf(told)),
        context_(session_, facts_, &catalogue_) {}
  static PluginCatalogue catalogueOf(const WorkerSession& told) {
    PluginCatalogue catalogue;
    for (const auto& [insert, info] : told.plugins) catalogue.add(insert, info);
    return catalogue;
  }

  Session session_;
  MediaFacts facts_;
  PluginCatalogue catalogue_;
  SessionContext context_;
};

std::vector<NodeIndex> nodesOf(const WorkerPass& pass, const Session& session, SpanRecipe& recipe) {
  static const Brief kPlain;
  std::vector<NodeIndex> nodes;
  for (const WorkerPass::Request& request : pass.taps) {
    const Brief& brief =
        request.brief < 0 ? kPlain : session.briefs.at(static_cast<std::size_t>(request.brief));
    const Tap tap = request.isEverything ? recipe.everything(brief, request.sources)
                                         : recipe.tap(brief, request.sources.at(0));
    nodes.push_back(request.channels == 0 ? tap.node : recipe.asWide(tap.node, request.channels));
  }
  return nodes;
}

/// One pass; false where the other side is gone.
bool playOne(const PlayedSession& played, const WorkerPass& pass, PluginHost& host) {
  ReadableMedia media;
  for (const auto& [id, medium] : pass.media) media.set(id, medium);
  const PlayedContext unrolled(played.context().signal, pass.key.span(), pass.key.counting);
  SpanRecipe recipe(unrolled.context(), unrolled.span(), pass.key.counting, unrolled.heard());
  const std::vector<NodeIndex> nodes = nodesOf(pass, unrolled.context().session(), recipe);
  // One thread, so that it is known whose turn it is when something happens.
  tbb::task_arena arena(1);
  Graph graph(recipe, media, nodes, &host);
  json answer{{"block", graph.blockFrames()}, {"taps", json::array()}};
  for (std::size_t i = 0; i < nodes.size(); ++i)
    answer["taps"].push_back({graph.channels(i), graph.latency(i)});
  writeText(dumped(answer));
  for (Frame wanted[2]; readAll(wanted, sizeof wanted);) {
    if (wanted[1] == 0) return true;  // the pass is over
    arena.execute([&] { graph.process(wanted[0], wanted[1]); });
    for (std::size_t i = 0; i < nodes.size(); ++i) writeTap(graph.tap(i), graph.channels(i), wanted[1]);
    std::fflush(stdout);
  }
  return false;
}

/// Sessions, and passes in the latest of them, until the other side has no more.
int play(WorkerStatus& status) {
  PluginWorld world;
  InstancePool pool;
  Lv2Host host(world, pool, [&](const std::string& insert) {
    std::strncpy(status.insert, insert.c_str(), sizeof status.insert - 1);
  });
  std::unique_ptr<PlayedSession> played;
  for (std::string text; readText(text);) {
    const json request = json::parse(text);
    if (request.contains("session")) {
      played = PlayedSession::read(sessionFrom(request));
      continue;
    }
    if (!played || !playOne(*played, passFrom(request), host)) return 1;
    pool.endPass();
    writeText("{}");  // well, with all of the pass put away
  }
  return 0;
}

/// Plug-ins may write to standard output; what is meant for the other side goes through a copy of it.
void keepOutput() {
  const int kept = ::dup(STDOUT_FILENO);
  ::dup2(STDERR_FILENO, STDOUT_FILENO);
  std::FILE* channel = ::fdopen(kept, "wb");
  std::setvbuf(channel, nullptr, _IOFBF, 1 << 20);
  stdout = channel;
}

int run(const char* task) {
  rlimit memory{kWorkerMemory, kWorkerMemory};
#if !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__)  // these map far more than they use
  ::setrlimit(RLIMIT_AS, &memory);
#endif
  std::set_new_handler([] { ::_exit(9); });
  void* mapped =
      ::mmap(nullptr, sizeof(WorkerStatus), PROT_READ | PROT_WRITE, MAP_SHARED, kWorkerStatusFd, 0);
  if (mapped == MAP_FAILED) {
    std::fputs("octaphon-worker is started by octaphon and octaphon-cli, not by hand.\n", stderr);
    return 2;
  }
  keepOutput();
  const DenormalGuard guard;
  if (std::strcmp(task, "list") == 0) return list();
  if (std::strcmp(task, "describe") == 0) return describe();
  if (std::strcmp(task, "play") == 0) return play(*static_cast<WorkerStatus*>(mapped));
  return 2;
}

}  // namespace
}  // namespace octaphon

int main(int count, char** arguments) {
  try {
    return octaphon::run(count == 2 ? arguments[1] : "");
  } catch (const std::exception& problem) {  // the other side is told by the end of what it reads
    std::fprintf(stderr, "octaphon-worker: %s\n", problem.what());
    return 1;
  }
}
