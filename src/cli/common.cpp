#include "common.h"

#include "run/worker_passes.h"

#include <cstdio>
#include <filesystem>

#include "base/unicode.h"
#include "session/session_file.h"

namespace octaphon::cli {

std::optional<Opened> openSession(const std::string& file, MediaCache& cache) {
  auto session = loadSession(file);
  if (!session) {
    printError(session.error());
    return std::nullopt;
  }
  Opened opened;
  opened.session = std::make_shared<Session>(std::move(*session));
  opened.facts = gatherFacts(*opened.session, cache);
  opened.plugins = describePlugins(*opened.session, nullptr);
  return opened;
}

std::optional<PlanRequest> requestOf(const Session& session, const BriefOptions& options) {
  auto request = requestFor(session, options.briefs);
  if (!request) {
    printError(request.error());
    return std::nullopt;
  }
  if (!options.out.empty()) request->folder = std::filesystem::absolute(options.out);
  return *request;
}

void printError(const Error& error) {
  std::fprintf(stderr, "octaphon-cli: %s\n", printable(error.describe(), 2000).c_str());
}

void printJson(const Json& json) {
  const std::string line = json.dump(-1, ' ', false, Json::error_handler_t::replace);
  std::printf("%s\n", line.c_str());
  std::fflush(stdout);
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

}  // namespace octaphon::cli
