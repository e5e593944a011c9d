#include "base/job_files.h"

#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <vector>

#include "base/pending_file.h"

namespace octaphon {
namespace {

constexpr std::uint64_t kHashedAtOnce = 16 << 20;  // bytes between looks at the job
constexpr std::size_t kCopiedAtOnce = 1 << 20;

tl::unexpected<Error> stopped(const std::string& place) {
  return fail(ErrorCode::Cancelled, place, "it was stopped");
}

}  // namespace

Result<Digest> digestOf(int fd, const std::string& place, const JobControl* job) {
  const auto stamp = stampOf(fd);
  if (!stamp) return tl::unexpected(systemError(errno, place, ErrorCode::NotReadable));
  Hasher hasher;
  for (std::uint64_t at = 0; at < stamp->size; at += kHashedAtOnce) {
    if (isStopped(job)) return stopped(place);
    OCTAPHON_TRY(addToHash(hasher, fd, at, std::min(at + kHashedAtOnce, stamp->size), place));
  }
  return hasher.digest();
}

Result<> copyFile(const std::filesystem::path& from, const std::filesystem::path& to, const JobControl* job) {
  OCTAPHON_ASSIGN(const FileHandle source, openRegular(from));
  struct stat rights;
  if (::fstat(source.get(), &rights) != 0)
    return tl::unexpected(systemError(errno, from.string(), ErrorCode::NotReadable));
  OCTAPHON_ASSIGN(PendingFile copy, PendingFile::beside(to, rights.st_mode & 07777));
  std::vector<char> buffer(kCopiedAtOnce);
  while (true) {
    if (isStopped(job)) return stopped(to.string());
    const ssize_t got = ::read(source.get(), buffer.data(), buffer.size());
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return tl::unexpected(systemError(errno, from.string(), ErrorCode::NotReadable));
    if (got == 0) break;
    OCTAPHON_TRY(writeAll(copy.fd(), {buffer.data(), static_cast<std::size_t>(got)}, to.string()));
  }
  OCTAPHON_TRY(copy.sync());
  return copy.publish(false);
}

}  // namespace octaphon
