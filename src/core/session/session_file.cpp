#include "session/session_file.h"

#include "base/pending_file.h"
#include "session/session_json.h"

namespace octaphon {

Result<Session> loadSession(const std::filesystem::path& file, JobControl* job) {
  OCTAPHON_ASSIGN(const std::string text, readFile(file, kMaxSessionBytes));
  OCTAPHON_ASSIGN(Session session, readSession(text, file.string(), job));
  session.file = file;
  return session;
}

Result<> saveSession(const Session& session, const std::filesystem::path& file, JobControl* job) {
  expectParts(job, 2);
  const std::string text = writeSession(session);
  finishPart(job);
  if (isStopped(job)) return fail(ErrorCode::Cancelled, file.string(), "it was stopped");
  OCTAPHON_TRY(replaceFile(file, text));
  finishPart(job);
  return {};
}

}  // namespace octaphon
