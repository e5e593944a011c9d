#include "base/files.h"

#include <fcntl.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <random>
#include <vector>

namespace octaphon {

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
  return FileStamp{static_cast<std::uint64_t>(info.st_size),
                   std::int64_t{info.st_mtim.tv_sec} * 1'000'000'000 + info.st_mtim.tv_nsec};
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
  OCTAPHON_ASSIGN(FileHandle handle, openRegular(path));
  const auto stamp = stampOf(handle.get());
  if (stamp && stamp->size > limit) return fail(ErrorCode::TooLarge, path.string());
  std::string content(stamp ? stamp->size : 0, '\0');
  std::size_t filled = 0;
  for (;;) {
    if (filled == content.size()) content.resize(content.size() + 4096);
    const ssize_t got = ::read(handle.get(), content.data() + filled, content.size() - filled);
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return tl::unexpected(systemError(errno, path.string(), ErrorCode::NotReadable));
    if (got == 0) break;
    filled += static_cast<std::size_t>(got);
    if (filled > limit) return fail(ErrorCode::TooLarge, path.string());
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

Result<> replaceFile(const std::filesystem::path& path, std::string_view content) {
  const std::string place = path.string();
  std::filesystem::path target = path;
  std::error_code ignored;
  // Through a link, so that a linked file stays linked.
  if (std::filesystem::is_symlink(path, ignored)) target = std::filesystem::weakly_canonical(path, ignored);
  const std::filesystem::path folder = target.has_parent_path() ? target.parent_path() : ".";
  const std::filesystem::path temporary = folder / temporaryName();
  struct stat old;
  const mode_t mode = ::stat(target.c_str(), &old) == 0 ? old.st_mode & 07777 : 0644;
  FileHandle handle(::open(temporary.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, mode));
  if (!handle) return tl::unexpected(systemError(errno, place, ErrorCode::NotWritable));
  const auto abandon = [&](Error error) {
    ::unlink(temporary.c_str());
    return tl::unexpected(std::move(error));
  };
  if (auto written = writeAll(handle.get(), content, place); !written) return abandon(written.error());
  if (::fsync(handle.get()) != 0) return abandon(systemError(errno, place, ErrorCode::NotWritable));
  if (auto closed = handle.close(place); !closed) return abandon(closed.error());
  if (::rename(temporary.c_str(), target.c_str()) != 0)
    return abandon(systemError(errno, place, ErrorCode::NotWritable));
  FileHandle directory(::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
  if (directory) ::fsync(directory.get());
  return {};
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

std::string temporaryName() {
  thread_local std::mt19937_64 random{std::random_device{}()};
  Digest digest{random(), 0};
  return ".oct-" + digest.hex().substr(16) + ".part";
}

bool isTemporaryName(std::string_view name) {
  constexpr std::string_view kHead = ".oct-";
  constexpr std::string_view kTail = ".part";
  return name.size() == kHead.size() + 16 + kTail.size() && name.starts_with(kHead) && name.ends_with(kTail);
}

}  // namespace octaphon
