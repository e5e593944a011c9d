// A folder that nothing written through it can leave. Folders below the base are opened one by one without
// following links; files are made under a temporary name and appear whole or not at all.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "base/files.h"
#include "base/result.h"

namespace octaphon {

/// Whether `relative` is a plain path below a folder: not empty, not absolute, no empty, `.` or `..` part, no
/// NUL.
bool isPlainRelativePath(std::string_view relative);

/// A new file under a temporary name. Unless published, it is removed when the object goes.
class PendingFile {
 public:
  PendingFile(std::shared_ptr<FileHandle> folder, FileHandle handle, std::string temporary, std::string name,
              std::string place);
  ~PendingFile();
  PendingFile(PendingFile&&) noexcept = default;
  PendingFile& operator=(PendingFile&& other) noexcept;

  int fd() const { return handle_.get(); }
  const std::string& place() const { return place_; }  ///< the path it will have, for messages
  const std::shared_ptr<FileHandle>& folder() const { return folder_; }

  Result<> sync();  ///< contents to the disk
  /// Closes and gives the file its name. Without `replace`, a file that is there by now is left alone:
  /// Occupied.
  Result<> publish(bool replace);

 private:
  std::shared_ptr<FileHandle> folder_;
  FileHandle handle_;
  std::string temporary_;  // empty once published
  std::string name_;
  std::string place_;
};

class SafeFolder {
 public:
  /// Opens the base folder, making it and its parents when `create`. Links in the base path itself are
  /// followed.
  static Result<SafeFolder> open(const std::filesystem::path& base, bool create);

  const std::filesystem::path& path() const { return base_; }

  /// A new file for `relative` (`/` between parts), with the folders it needs. Thread-safe.
  Result<PendingFile> create(std::string_view relative) const;

  /// Opens a file below the base for reading, following no link.
  Result<FileHandle> openFile(std::string_view relative) const;

  /// Opens a file below the base for appending, made when missing.
  Result<FileHandle> openForAppend(std::string_view relative) const;

  /// Names and kinds in a folder below the base ("" is the base); empty when it is not there.
  struct Entry {
    std::string name;
    bool isFile;  ///< a regular file; false for folders, links, pipes …
    FileStamp stamp;
  };
  std::vector<Entry> list(std::string_view relativeFolder) const;

  /// Removes temporary files that a run which ended badly left in a folder.
  void removeTemporaries(std::string_view relativeFolder) const;

  /// Bytes that can still be written; the largest number where the system does not say.
  std::uint64_t freeSpace() const;

 private:
  SafeFolder(std::filesystem::path base, std::shared_ptr<FileHandle> handle)
      : base_(std::move(base)), handle_(std::move(handle)) {}
  Result<std::shared_ptr<FileHandle>> descend(std::string_view relativeFolder, bool create) const;

  std::filesystem::path base_;
  std::shared_ptr<FileHandle> handle_;
};

}  // namespace octaphon
