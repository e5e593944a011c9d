// Single files, with every call checked.
#pragma once

#include <compare>
#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>
#include <string_view>

#include "base/hash.h"
#include "base/result.h"

namespace octaphon {

/// Owns a file descriptor.
class FileHandle {
 public:
  FileHandle() = default;
  explicit FileHandle(int fd) : fd_(fd) {}
  ~FileHandle() { reset(); }
  FileHandle(FileHandle&& other) noexcept : fd_(other.release()) {}
  FileHandle& operator=(FileHandle&& other) noexcept;

  int get() const { return fd_; }
  explicit operator bool() const { return fd_ >= 0; }
  int release();
  void reset();
  /// Closes and reports what close() says.
  Result<> close(const std::string& place);

 private:
  int fd_ = -1;
};

struct FileStamp {
  std::uint64_t size = 0;    ///< bytes
  std::int64_t changed = 0;  ///< last modification, nanoseconds since 1970
  bool operator==(const FileStamp&) const = default;
};
std::optional<FileStamp> stampOf(int fd);

/// Which file it is and in what state: writing to it changes this, though programs may set size and time of a
/// file back.
struct FileIdentity {
  std::uint64_t device = 0, inode = 0;
  std::uint64_t size = 0;     ///< bytes
  std::int64_t modified = 0;  ///< nanoseconds since 1970
  std::int64_t changed = 0;   ///< the same, of content, name or rights; no program can set it
  auto operator<=>(const FileIdentity&) const = default;
};
std::optional<FileIdentity> identityOf(int fd);
/// Through links; nothing where there is no file.
std::optional<FileIdentity> identityOf(const std::filesystem::path& path);

/// From the root on, without `.` and `..`; as it is where the system does not say where we are.
std::filesystem::path absoluteOf(const std::filesystem::path& path);

/// Opens for reading; only a regular file is opened, and a pipe never blocks.
Result<FileHandle> openRegular(const std::filesystem::path& path);

/// The whole file; TooLarge where it has more than `limit` bytes.
Result<std::string> readFile(const std::filesystem::path& path, std::uint64_t limit);

/// The same of an open file, from its beginning on; its position stays.
Result<std::string> readAll(int fd, std::uint64_t limit, const std::string& place);

/// write() until all is written.
Result<> writeAll(int fd, std::string_view content, const std::string& place);

/// Hash of all bytes: those from `head` on, then the first `head`. So a file whose header is only complete at
/// its end can be hashed while it is written.
Result<Digest> digestOf(int fd, const std::string& place, std::uint64_t head = 0);

/// Names in an open folder to the disk. Some file systems have nothing to do for that.
Result<> syncFolder(int folder, const std::string& place);

/// Adds the bytes [from, to) of a file to a hash; fewer where it ends before.
Result<> addToHash(Hasher& hasher, int fd, std::uint64_t from, std::uint64_t to, const std::string& place);

/// Lifts the soft limit of open files to the hard one.
void raiseFileLimit();

}  // namespace octaphon
