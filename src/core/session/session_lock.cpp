#include "session/session_lock.h"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>

namespace octaphon {
namespace {

/// Whether the open file is still the one of that name: another program may have removed it meanwhile.
bool isStill(int fd, const std::filesystem::path& file) {
  struct stat open {};
  struct stat named {};
  return ::fstat(fd, &open) == 0 && ::stat(file.c_str(), &named) == 0 && open.st_ino == named.st_ino &&
         open.st_dev == named.st_dev;
}

}  // namespace

SessionLock& SessionLock::operator=(SessionLock&& other) noexcept {
  release();
  handle_ = std::move(other.handle_);
  file_ = std::move(other.file_);
  return *this;
}

Result<SessionLock> SessionLock::take(const std::filesystem::path& session) {
  std::error_code error;
  std::filesystem::path full =
      std::filesystem::weakly_canonical(std::filesystem::absolute(session, error), error);
  if (error) full = session;
  const std::filesystem::path file = full.parent_path() / ("." + full.filename().string() + ".lock");
  for (int tries = 0; tries < 8; ++tries) {
    FileHandle handle(::open(file.c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0666));
    if (!handle) return SessionLock();
    if (::flock(handle.get(), LOCK_EX | LOCK_NB) != 0) {
      if (errno != EWOULDBLOCK) return SessionLock();
      return fail(ErrorCode::Busy, session.string(), "another Octaphon has this session open",
                  "Close it there, or save under another name here");
    }
    if (!isStill(handle.get(), file)) continue;
    SessionLock lock;
    lock.handle_ = std::move(handle);
    lock.file_ = file;
    return lock;
  }
  return fail(ErrorCode::Busy, session.string());
}

void SessionLock::release() {
  if (!handle_) return;
  ::unlink(file_.c_str());
  handle_.reset();
}

}  // namespace octaphon
