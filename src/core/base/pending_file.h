// Files that appear whole or not at all.
#pragma once

#include <filesystem>
#include <functional>
#include <memory>
#include <string>
#include <string_view>

#include <sys/types.h>

#include "base/files.h"
#include "base/result.h"

namespace octaphon {

/// A new file under a temporary name. Unless published, it is removed when the object goes. It is locked
/// until then, so that what a program left when it ended badly can be told from what another one is writing.
class PendingFile {
 public:
  PendingFile() = default;
  /// In an open folder; `place` is the path it will have, for messages.
  static Result<PendingFile> create(std::shared_ptr<FileHandle> folder, std::string name, std::string place,
                                    mode_t mode = 0666);
  /// In the folder of `path`, which must be there.
  static Result<PendingFile> beside(const std::filesystem::path& path, mode_t mode = 0666);
  ~PendingFile();
  PendingFile(PendingFile&&) noexcept = default;
  PendingFile& operator=(PendingFile&& other) noexcept;

  int fd() const { return handle_.get(); }
  const std::string& place() const { return place_; }
  const std::shared_ptr<FileHandle>& folder() const { return folder_; }

  /// From now on it has none, and is gone once it is closed.
  void dropName();
  Result<> sync();  ///< contents to the disk
  /// The regular file that has its name now, open for reading: it can be read for as long as that stays open,
  /// though another one takes the name. Null where there is none.
  std::shared_ptr<FileHandle> openReplaced() const;
  /// Closes and gives the file its name. Without `replace`, a file that is there by now is left alone:
  /// Occupied.
  Result<> publish(bool replace);
  /// Gives it its name, whatever has that now, and stays open and locked: the handle of it.
  Result<FileHandle> publishOpen();

 private:
  std::shared_ptr<FileHandle> folder_;
  FileHandle handle_;
  std::string temporary_;  // empty once published
  std::string name_;
  std::string place_;
};

/// rename() of names in two folders; without `replace`, EEXIST where the new one is taken.
int renameFile(int fromFolder, const char* from, int toFolder, const char* to, bool replace);

/// `.oct-<16 hex>.part`: the names of files that are not done.
std::string temporaryName();
bool isTemporaryName(std::string_view name);
/// Removes the temporary files of a folder, but for those that a program is still writing, and those to be
/// kept: each is asked about, open for reading.
void removeAbandonedIn(int folder, const std::function<bool(int fd)>& isKept = {});
/// All of them; a folder that is not there has none.
void removeAbandonedIn(const std::filesystem::path& folder);

/// Writes beside the file under a temporary name, syncs, renames and syncs the folder: after a crash there is
/// the old file or the new one. Keeps the permissions of a file that is there.
Result<> replaceFile(const std::filesystem::path& path, std::string_view content);

}  // namespace octaphon
