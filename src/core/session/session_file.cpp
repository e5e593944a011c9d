#include "session/session_file.h"

#include "base/pending_file.h"
#include "session/session_json.h"

namespace octaphon {

Result<Session> loadSession(const std::filesystem::path& file) {
  OCTAPHON_ASSIGN(const std::string text, readFile(file, kMaxSessionBytes));
  OCTAPHON_ASSIGN(Session session, readSession(text, file.string()));
  session.file = file;
  return session;
}

Result<> saveSession(const Session& session, const std::filesystem::path& file) {
  return replaceFile(file, writeSession(session));
}

}  // namespace octaphon
