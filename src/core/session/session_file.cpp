#include "session/session_file.h"

#include "base/log.h"
#include "base/pending_file.h"
#include "base/unicode.h"
#include "session/session_json.h"

namespace octaphon {
namespace {

std::string sizesOf(const Session& session) {
  std::size_t clips = 0;
  for (const Track& track : session.tracks) clips += track.clips.size();
  return listed({counted(session.tracks.size(), "track"), counted(clips, "clip"),
                 counted(session.regions.size(), "region"), counted(session.briefs.size(), "brief")});
}

Result<Session> readFrom(const std::filesystem::path& file, JobControl* job) {
  OCTAPHON_ASSIGN(const std::string text, readFile(file, kMaxSessionBytes));
  OCTAPHON_ASSIGN(Session session, readSession(text, file.string(), job));
  session.file = file;
  return session;
}

}  // namespace

Result<Session> loadSession(const std::filesystem::path& file, JobControl* job) {
  Result<Session> session = readFrom(file, job);
  if (session)
    writeLog(LogLevel::Note, "opened a session of " + sizesOf(*session), file.native());
  else
    writeLog(LogLevel::Error,
             "a session could not be opened: " + std::string(errorName(session.error().code)),
             session.error().describe());
  return session;
}

Result<> saveSession(const Session& session, const std::filesystem::path& file, JobControl* job) {
  expectParts(job, 2);
  const std::string text = writeSession(session);
  finishPart(job);
  if (isStopped(job)) return fail(ErrorCode::Cancelled, file.string(), "it was stopped");
  OCTAPHON_TRY(replaceFile(file, text));
  writeLog(LogLevel::Note, "saved a session of " + sizesOf(session), file.native());
  finishPart(job);
  return {};
}

}  // namespace octaphon
