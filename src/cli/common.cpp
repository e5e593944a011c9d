#include "common.h"

#include <fcntl.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <filesystem>

#include "base/unicode.h"
#include "run/worker_passes.h"
#include "session/mistakes.h"
#include "session/session_file.h"
#include "session/set_field.h"

namespace octaphon::cli {
namespace {

std::FILE* ownMessages = stderr;

}  // namespace

std::optional<Opened> openSession(const std::string& file, MediaCache& cache, bool json) {
  auto session = loadSession(file);
  if (!session) {
    printError(session.error(), json);
    return std::nullopt;
  }
  Opened opened;
  opened.session = std::make_shared<Session>(std::move(*session));
  opened.facts = gatherFacts(*opened.session, cache);
  opened.plugins = describePlugins(*opened.session, nullptr, nullptr, cache.pluginTrials());
  return opened;
}

bool applySettings(Opened& opened, const std::vector<std::string>& settings, bool json) {
  if (settings.empty()) return true;
  auto changed = std::make_shared<Session>(*opened.session);
  for (const std::string& setting : settings)
    if (const auto set = setField(*changed, setting); !set) {
      printError(set.error(), json);
      return false;
    }
  if (const auto mistake = mistakeIn(*changed)) {
    printError({ErrorCode::BadValue, "--set: " + mistake->key, mistake->text, mistake->cure}, json);
    return false;
  }
  opened.session = std::move(changed);
  return true;
}

std::optional<PlanRequest> requestOf(const Session& session, const BriefOptions& options) {
  auto request = requestFor(session, options.briefs);
  if (!request) {
    printError(request.error(), options.json);
    return std::nullopt;
  }
  request->thorough = options.thorough;
  if (options.numberAgain)
    for (const std::size_t index : request->briefs) request->numberedAgain.insert(session.briefs[index].id);
  if (options.out.empty()) return *request;
  std::error_code problem;
  request->folder = std::filesystem::absolute(options.out, problem);
  if (!problem) return *request;
  printError({ErrorCode::NotFound, options.out, "the folder that this is run in is gone",
              "Change to another one, or give a whole path"},
             options.json);
  return std::nullopt;
}

std::FILE* messages() { return ownMessages; }

void quietenLibraries() {
  for (const char* talks : {"OCTAPHON_TALKS", "OCTAPHON_WORKER_TALKS"})
    if (std::getenv(talks) != nullptr) return;
  const int own = ::fcntl(STDERR_FILENO, F_DUPFD_CLOEXEC, 3);
  std::FILE* file = own < 0 ? nullptr : ::fdopen(own, "w");
  const int nowhere = file == nullptr ? -1 : ::open("/dev/null", O_WRONLY | O_CLOEXEC);
  if (nowhere < 0) return;
  std::setvbuf(file, nullptr, _IONBF, 0);
  ::dup2(nowhere, STDERR_FILENO);
  ::close(nowhere);
  ownMessages = file;
}

void printError(const Error& error, bool json) {
  const std::string text = printable(error.describe(), 2000);
  std::fprintf(messages(), "octaphon-cli: %s\n", text.c_str());
  if (json) printJson({{"event", "error"}, {"code", errorName(error.code)}, {"text", text}});
}

int fails(const Error& error, Exit exit, bool json) {
  printError(error, json);
  return exit;
}

std::string jsonText(const Json& json) {
  // Strings hold them only as they are; what is JSON itself has none.
  const std::string line = json.dump(-1, ' ', false, Json::error_handler_t::replace);
  return withoutControls(line, "") == line ? line : json.dump(-1, ' ', true, Json::error_handler_t::replace);
}

void printJson(const Json& json) {
  Json whole{{"version", kJsonVersion}};
  whole.update(json);
  std::printf("%s\n", jsonText(whole).c_str());
  std::fflush(stdout);
}

int withOutputChecked(int exit) {
  const bool isFlushed = std::fflush(stdout) == 0;
  if (isFlushed && std::ferror(stdout) == 0) return exit;
  // What went wrong before the last lines, nobody remembers.
  const std::string why = isFlushed ? "" : std::string(": ") + std::strerror(errno);
  std::fprintf(messages(), "octaphon-cli: standard output cannot be written%s\n", why.c_str());
  return exit == kWell ? kFailed : exit;
}

Json asJson(const Remark& remark) {
  return {
      {"severity", severityName(remark.severity)}, {"code", remarkName(remark.code)}, {"text", remark.text}};
}

Json asJson(const std::vector<Remark>& remarks) {
  Json list = Json::array();
  for (const Remark& remark : remarks) list.push_back(asJson(remark));
  return list;
}

Json orNull(const std::optional<double>& number) { return number ? Json(*number) : Json(nullptr); }

Json asJson(const Levels& levels) {
  return {{"peak_db", orNull(levels.peakDb)},
          {"true_peak_db", orNull(levels.truePeakDb)},
          {"lufs", orNull(levels.lufs)},
          {"range_lu", orNull(levels.rangeLu)}};
}

Json asJson(const Seam& seam) {
  Json json{{"score", seam.score},
            {"click_db", orNull(seam.clickDb)},
            {"level_db", nullptr},
            {"spectrum_db", nullptr}};
  if (seam.level) {
    json["level_db"] = seam.level->levelDb;
    json["spectrum_db"] = seam.level->spectrumDb;
  }
  json["pulse_ms"] = orNull(seam.pulseMs());
  return json;
}

}  // namespace octaphon::cli
