// Reading and replacing single files, with every call checked.
#pragma once

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

/// Opens for reading; only a regular file is opened, and a pipe never blocks.
Result<FileHandle> openRegular(const std::filesystem::path& path);

/// The whole file; TooLarge where it has more than `limit` bytes.
Result<std::string> readFile(const std::filesystem::path& path, std::uint64_t limit);

/// Writes beside the file under a temporary name, syncs, renames and syncs the folder: after a crash there is
/// the old file or the new one. Keeps the permissions of a file that is there.
Result<> replaceFile(const std::filesystem::path& path, std::string_view content);

/// write() until all is written.
Result<> writeAll(int fd, std::string_view content, const std::string& place);

/// Hash of all bytes: those from `head` on, then the first `head`. So a file whose header is only complete at
/// its end can be hashed while it is written.
Result<Digest> digestOf(int fd, const std::string& place, std::uint64_t head = 0);

/// Adds the bytes [from, to) of a file to a hash; fewer where it ends before.
Result<> addToHash(Hasher& hasher, int fd, std::uint64_t from, std::uint64_t to, const std::string& place);

/// Lifts the soft limit of open files to the hard one.
void raiseFileLimit();

/// `.oct-<16 hex>.part`: the names of files that are not done.
std::string temporaryName();
bool isTemporaryName(std::string_view name);

}  // namespace octaphon
