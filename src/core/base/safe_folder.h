// A folder that nothing written through it can leave. Folders below the base are opened one by one without
// following links; files are made under a temporary name and appear whole or not at all.
#pragma once

#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/files.h"
#include "base/pending_file.h"
#include "base/result.h"

namespace octaphon {

/// Whether `relative` is a plain path below a folder: not empty, not absolute, no empty, `.` or `..` part, no
/// NUL.
bool isPlainRelativePath(std::string_view relative);

/// All but the last part of a relative path; empty where it has one only.
std::string folderOf(std::string_view relative);

/// Where a folder is, and how far links may lead there.
struct FolderPath {
  std::filesystem::path named;  ///< by the user: links are followed
  std::string below = {};       ///< on from there, never through a link; `/` between parts, may be empty
  std::filesystem::path full() const { return below.empty() ? named : named / below; }
  auto operator<=>(const FolderPath&) const = default;
};

/// Thread-safe.
class SafeFolder {
 public:
  /// Opens a folder, making it and its parents when `create`. NotFound where it is not there, OutsideFolder
  /// where a link is in the way.
  static Result<SafeFolder> open(const FolderPath& folder, bool create);
  static Result<SafeFolder> open(const std::filesystem::path& folder, bool create) {
    return open(FolderPath{folder}, create);
  }

  const std::filesystem::path& path() const { return base_; }

  /// A new file for `relative` (`/` between parts), with the folders it needs.
  Result<PendingFile> create(std::string_view relative) const;

  /// Opens a file below the base for reading, following no link.
  Result<FileHandle> openFile(std::string_view relative) const;

  /// Opens a file below the base for appending, made when missing.
  Result<FileHandle> openForAppend(std::string_view relative) const;

  /// Gives a file below the base another name there, with the folders it needs. Without `replace`, a file
  /// that has the name is left alone: Occupied. Names count once their folders are synced.
  Result<> move(std::string_view from, std::string_view to, bool replace) const;
  /// The same into an open folder anywhere on the file system; a file that has the name there stays:
  /// Occupied.
  Result<> moveOut(std::string_view from, int toFolder, const std::string& name) const;
  /// Removes a file below the base; that it is not there is no error.
  Result<> remove(std::string_view relative) const;
  /// Whether a folder below the base was empty, and is gone.
  bool removeEmptyFolder(std::string_view relative) const;
  /// The names in a folder below the base to the disk.
  Result<> sync(std::string_view relativeFolder) const;

  /// Names and kinds in a folder below the base ("" is the base); empty when it is not there.
  struct Entry {
    std::string name;
    bool isFile;  ///< a regular file; false for folders, links, pipes …
    FileStamp stamp;
  };
  Result<std::vector<Entry>> list(std::string_view relativeFolder) const;

  /// What keeps files of a folder below the base from being written; nothing where it is only not there yet.
  std::optional<Error> problemOf(std::string_view relativeFolder) const;

  /// Removes temporary files that a program which ended badly left in a folder, but for those to be kept.
  void removeTemporaries(std::string_view relativeFolder,
                         const std::function<bool(int fd)>& isKept = {}) const;

  struct Space {
    std::uint64_t device = 0;  ///< which file system
    std::uint64_t free = 0;    ///< bytes; the largest number where the system does not say
  };
  Space space() const;

 private:
  struct OpenFolders;
  SafeFolder(std::filesystem::path base, std::shared_ptr<FileHandle> handle);
  Result<std::shared_ptr<FileHandle>> descend(std::string_view relativeFolder, bool create) const;

  std::filesystem::path base_;
  std::shared_ptr<FileHandle> handle_;
  std::shared_ptr<OpenFolders> folders_;  // below it, as long as someone uses them
};

}  // namespace octaphon
