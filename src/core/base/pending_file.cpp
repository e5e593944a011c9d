#include "base/pending_file.h"

#include <dirent.h>
#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstdio>
#include <random>

namespace octaphon {
namespace {

/// Creates and locks it. Someone who cleans up between the two takes it away: then another one.
FileHandle createLocked(int folder, std::string& name, mode_t mode) {
  while (true) {
    name = temporaryName();
    FileHandle handle(
        ::openat(folder, name.c_str(), O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, mode));
    if (!handle) return handle;
    struct stat info;
    const bool isLocked = ::flock(handle.get(), LOCK_EX | LOCK_NB) == 0 || errno != EWOULDBLOCK;
    if (isLocked && ::fstat(handle.get(), &info) == 0 && info.st_nlink > 0) return handle;
  }
}

void removeIfAbandoned(int folder, const char* name, const std::function<bool(int fd)>& isKept) {
  const FileHandle handle(::openat(folder, name, O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK));
  if (!handle || ::flock(handle.get(), LOCK_EX | LOCK_NB) != 0) return;
  if (!isKept || !isKept(handle.get())) ::unlinkat(folder, name, 0);
}

}  // namespace

Result<PendingFile> PendingFile::create(std::shared_ptr<FileHandle> folder, std::string name,
                                        std::string place, mode_t mode) {
  PendingFile file;
  file.folder_ = std::move(folder);
  file.name_ = std::move(name);
  file.place_ = std::move(place);
  std::string temporary;
  file.handle_ = createLocked(file.folder_->get(), temporary, mode);
  if (!file.handle_) return tl::unexpected(systemError(errno, file.place_, ErrorCode::NotWritable));
  file.temporary_ = std::move(temporary);
  return file;
}

Result<PendingFile> PendingFile::beside(const std::filesystem::path& path, mode_t mode) {
  const std::filesystem::path folder = path.has_parent_path() ? path.parent_path() : ".";
  auto handle = std::make_shared<FileHandle>(::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
  if (!*handle) return tl::unexpected(systemError(errno, path.string(), ErrorCode::NotWritable));
  return create(std::move(handle), path.filename().string(), path.string(), mode);
}

PendingFile& PendingFile::operator=(PendingFile&& other) noexcept {
  std::swap(folder_, other.folder_);
  std::swap(handle_, other.handle_);
  temporary_.swap(other.temporary_);
  name_.swap(other.name_);
  place_.swap(other.place_);
  return *this;
}

PendingFile::~PendingFile() {
  if (folder_ && !temporary_.empty()) ::unlinkat(folder_->get(), temporary_.c_str(), 0);
}

void PendingFile::dropName() {
  if (folder_ && !temporary_.empty()) ::unlinkat(folder_->get(), temporary_.c_str(), 0);
  temporary_.clear();
}

Result<> PendingFile::sync() {
  if (::fsync(handle_.get()) != 0) return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  return {};
}

std::shared_ptr<FileHandle> PendingFile::openReplaced() const {
  FileHandle handle(::openat(folder_->get(), name_.c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK));
  struct stat info;
  const bool isFile = handle && ::fstat(handle.get(), &info) == 0 && S_ISREG(info.st_mode);
  return isFile ? std::make_shared<FileHandle>(std::move(handle)) : nullptr;
}

Result<> PendingFile::publish(bool replace) {
  const FileHandle locked(::dup(handle_.get()));  // until it has its name
  OCTAPHON_TRY(handle_.close(place_));
  if (renameFile(folder_->get(), temporary_.c_str(), folder_->get(), name_.c_str(), replace) != 0)
    return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  temporary_.clear();
  return {};
}

Result<FileHandle> PendingFile::publishOpen() {
  if (::renameat(folder_->get(), temporary_.c_str(), folder_->get(), name_.c_str()) != 0)
    return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  temporary_.clear();
  return std::move(handle_);
}

int renameFile(int fromFolder, const char* from, int toFolder, const char* to, bool replace) {
  if (replace) return ::renameat(fromFolder, from, toFolder, to);
  if (::renameat2(fromFolder, from, toFolder, to, RENAME_NOREPLACE) == 0) return 0;
  if (errno != EINVAL && errno != ENOSYS) return -1;
  // File systems without that: a second name, then the first one away.
  if (::linkat(fromFolder, from, toFolder, to, 0) != 0) return -1;
  return ::unlinkat(fromFolder, from, 0);
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

void removeAbandonedIn(int folder, const std::function<bool(int fd)>& isKept) {
  // A descriptor of its own: reading moves the position of one that is shared.
  const int own = ::openat(folder, ".", O_RDONLY | O_DIRECTORY | O_CLOEXEC);
  DIR* stream = own >= 0 ? ::fdopendir(own) : nullptr;
  if (stream == nullptr) return;
  while (const dirent* found = ::readdir(stream))
    if (isTemporaryName(found->d_name)) removeIfAbandoned(folder, found->d_name, isKept);
  ::closedir(stream);
}

void removeAbandonedIn(const std::filesystem::path& folder) {
  const FileHandle handle(::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
  if (handle) removeAbandonedIn(handle.get());
}

Result<> replaceFile(const std::filesystem::path& path, std::string_view content) {
  std::filesystem::path target = path;
  std::error_code ignored;
  // Through a link, so that a linked file stays linked.
  if (std::filesystem::is_symlink(path, ignored)) target = std::filesystem::weakly_canonical(path, ignored);
  struct stat old;
  const mode_t mode = ::stat(target.c_str(), &old) == 0 ? old.st_mode & 07777 : 0644;
  OCTAPHON_ASSIGN(PendingFile file, PendingFile::beside(target, mode));
  OCTAPHON_TRY(writeAll(file.fd(), content, path.string()));
  OCTAPHON_TRY(file.sync());
  OCTAPHON_TRY(file.publish(true));
  return syncFolder(file.folder()->get(), path.string());
}

}  // namespace octaphon
