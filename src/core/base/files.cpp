#include "base/files.h"

#include <fcntl.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <vector>

namespace octaphon {
namespace {

std::int64_t nanoseconds(const timespec& time) {
  return std::int64_t{time.tv_sec} * 1'000'000'000 + time.tv_nsec;
}

FileIdentity asIdentity(const struct stat& info) {
  return {info.st_dev, info.st_ino, static_cast<std::uint64_t>(info.st_size), nanoseconds(info.st_mtim),
          nanoseconds(info.st_ctim)};
}

}  // namespace

FileHandle& FileHandle::operator=(FileHandle&& other) noexcept {
  if (this != &other) {
    reset();
    fd_ = other.release();
  }
  return *this;
}

int FileHandle::release() { return std::exchange(fd_, -1); }

void FileHandle::reset() {
  if (fd_ >= 0) ::close(release());
}

Result<> FileHandle::close(const std::string& place) {
  if (fd_ >= 0 && ::close(release()) != 0)
    return tl::unexpected(systemError(errno, place, ErrorCode::NotWritable));
  return {};
}

std::optional<FileStamp> stampOf(int fd) {
  struct stat info;
  if (::fstat(fd, &info) != 0) return std::nullopt;
  return FileStamp{static_cast<std::uint64_t>(info.st_size), nanoseconds(info.st_mtim)};
}

std::optional<FileIdentity> identityOf(int fd) {
  struct stat info;
  return ::fstat(fd, &info) == 0 ? std::optional(asIdentity(info)) : std::nullopt;
}

std::optional<FileIdentity> identityOf(const std::filesystem::path& path) {
  struct stat info;
  return ::stat(path.c_str(), &info) == 0 ? std::optional(asIdentity(info)) : std::nullopt;
}

std::filesystem::path absoluteOf(const std::filesystem::path& path) {
  std::error_code error;
  const std::filesystem::path absolute = std::filesystem::absolute(path, error);
  return (error ? path : absolute).lexically_normal();
}

Result<FileHandle> openRegular(const std::filesystem::path& path) {
  FileHandle handle(::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY));
  if (!handle) return tl::unexpected(systemError(errno, path.string(), ErrorCode::NotReadable));
  struct stat info;
  if (::fstat(handle.get(), &info) != 0)
    return tl::unexpected(systemError(errno, path.string(), ErrorCode::NotReadable));
  if (!S_ISREG(info.st_mode)) return fail(ErrorCode::NotRegularFile, path.string());
  return handle;
}

Result<std::string> readFile(const std::filesystem::path& path, std::uint64_t limit) {
  OCTAPHON_ASSIGN(const FileHandle handle, openRegular(path));
  return readAll(handle.get(), limit, path.string());
}

Result<std::string> readAll(int fd, std::uint64_t limit, const std::string& place) {
  const auto stamp = stampOf(fd);
  if (stamp && stamp->size > limit) return fail(ErrorCode::TooLarge, place);
  std::string content(stamp ? stamp->size : 0, '\0');
  std::size_t filled = 0;
  for (;;) {
    if (filled == content.size()) content.resize(content.size() + 4096);
    const ssize_t got =
        ::pread(fd, content.data() + filled, content.size() - filled, static_cast<off_t>(filled));
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return tl::unexpected(systemError(errno, place, ErrorCode::NotReadable));
    if (got == 0) break;
    filled += static_cast<std::size_t>(got);
    if (filled > limit) return fail(ErrorCode::TooLarge, place);
  }
  content.resize(filled);
  return content;
}

Result<> writeAll(int fd, std::string_view content, const std::string& place) {
  while (!content.empty()) {
    const ssize_t done = ::write(fd, content.data(), content.size());
    if (done < 0 && errno == EINTR) continue;
    if (done < 0) return tl::unexpected(systemError(errno, place, ErrorCode::NotWritable));
    content.remove_prefix(static_cast<std::size_t>(done));
  }
  return {};
}

Result<> syncFolder(int folder, const std::string& place) {
  if (::fsync(folder) == 0 || errno == EINVAL) return {};
  return tl::unexpected(systemError(errno, place, ErrorCode::NotWritable));
}

Result<> addToHash(Hasher& hasher, int fd, std::uint64_t from, std::uint64_t to, const std::string& place) {
  constexpr std::size_t kTurn = 1 << 20;
  std::vector<char> buffer(std::min<std::uint64_t>(kTurn, to - from));
  while (from < to) {
    const std::size_t wanted = std::min<std::uint64_t>(buffer.size(), to - from);
    const ssize_t got = ::pread(fd, buffer.data(), wanted, static_cast<off_t>(from));
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return tl::unexpected(systemError(errno, place, ErrorCode::NotReadable));
    if (got == 0) return {};
    hasher.bytes(buffer.data(), static_cast<std::size_t>(got));
    from += static_cast<std::uint64_t>(got);
  }
  return {};
}

Result<Digest> digestOf(int fd, const std::string& place, std::uint64_t head) {
  const auto stamp = stampOf(fd);
  if (!stamp) return tl::unexpected(systemError(errno, place, ErrorCode::NotReadable));
  Hasher hasher;
  OCTAPHON_TRY(addToHash(hasher, fd, std::min(head, stamp->size), stamp->size, place));
  OCTAPHON_TRY(addToHash(hasher, fd, 0, std::min(head, stamp->size), place));
  return hasher.digest();
}

void raiseFileLimit() {
  rlimit limit;
  if (::getrlimit(RLIMIT_NOFILE, &limit) != 0) return;
  limit.rlim_cur = limit.rlim_max;
  ::setrlimit(RLIMIT_NOFILE, &limit);
}

}  // namespace octaphon
