#include "base/safe_folder.h"

#include <dirent.h>
#include <fcntl.h>
#include <sys/stat.h>
#include <sys/statvfs.h>
#include <unistd.h>

#include <cerrno>
#include <cstdio>
#include <limits>

namespace octaphon {
namespace {

struct SplitPath {
  std::string_view folder;
  std::string_view name;
};

SplitPath split(std::string_view relative) {
  const std::size_t slash = relative.rfind('/');
  if (slash == std::string_view::npos) return {{}, relative};
  return {relative.substr(0, slash), relative.substr(slash + 1)};
}

template <class Visit>
void forEachPart(std::string_view path, Visit&& visit) {
  while (true) {
    const std::size_t slash = path.find('/');
    if (!visit(path.substr(0, slash)) || slash == std::string_view::npos) return;
    path.remove_prefix(slash + 1);
  }
}

FileStamp stampOf(const struct stat& info) {
  return {static_cast<std::uint64_t>(info.st_size),
          std::int64_t{info.st_mtim.tv_sec} * 1'000'000'000 + info.st_mtim.tv_nsec};
}

int renameWithoutReplacing(int folder, const char* from, const char* to) {
  if (::renameat2(folder, from, folder, to, RENAME_NOREPLACE) == 0) return 0;
  if (errno != EINVAL && errno != ENOSYS) return -1;
  // File systems without that: a second name, then the first one away.
  if (::linkat(folder, from, folder, to, 0) != 0) return -1;
  return ::unlinkat(folder, from, 0);
}

}  // namespace

bool isPlainRelativePath(std::string_view relative) {
  if (relative.find('\0') != std::string_view::npos) return false;
  bool plain = true;
  forEachPart(relative, [&](std::string_view part) {
    plain = !part.empty() && part != "." && part != "..";
    return plain;
  });
  return plain;
}

PendingFile::PendingFile(std::shared_ptr<FileHandle> folder, FileHandle handle, std::string temporary,
                         std::string name, std::string place)
    : folder_(std::move(folder)),
      handle_(std::move(handle)),
      temporary_(std::move(temporary)),
      name_(std::move(name)),
      place_(std::move(place)) {}

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

Result<> PendingFile::sync() {
  if (::fsync(handle_.get()) != 0) return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  return {};
}

Result<> PendingFile::publish(bool replace) {
  OCTAPHON_TRY(handle_.close(place_));
  const int outcome = replace ? ::renameat(folder_->get(), temporary_.c_str(), folder_->get(), name_.c_str())
                              : renameWithoutReplacing(folder_->get(), temporary_.c_str(), name_.c_str());
  if (outcome != 0) return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  temporary_.clear();
  return {};
}

Result<SafeFolder> SafeFolder::open(const std::filesystem::path& base, bool create) {
  if (create) {
    std::error_code problem;
    std::filesystem::create_directories(base, problem);
    if (problem && !std::filesystem::is_directory(base))
      return tl::unexpected(systemError(problem.value(), base.string(), ErrorCode::NotWritable));
  }
  auto handle = std::make_shared<FileHandle>(::open(base.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
  if (!*handle) return tl::unexpected(systemError(errno, base.string(), ErrorCode::NotReadable));
  return SafeFolder(base, std::move(handle));
}

Result<std::shared_ptr<FileHandle>> SafeFolder::descend(std::string_view relativeFolder, bool create) const {
  std::shared_ptr<FileHandle> current = handle_;
  if (relativeFolder.empty()) return current;
  const std::string place = (base_ / relativeFolder).string();
  if (!isPlainRelativePath(relativeFolder)) return fail(ErrorCode::OutsideFolder, place);
  int problem = 0;
  forEachPart(relativeFolder, [&](std::string_view part) {
    const std::string name(part);
    if (create && ::mkdirat(current->get(), name.c_str(), 0777) != 0 && errno != EEXIST) {
      problem = errno;
      return false;
    }
    FileHandle next(::openat(current->get(), name.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC | O_NOFOLLOW));
    if (!next) {
      // A link to a folder gives ENOTDIR with these flags.
      struct stat info;
      const bool isLink =
          ::fstatat(current->get(), name.c_str(), &info, AT_SYMLINK_NOFOLLOW) == 0 && S_ISLNK(info.st_mode);
      problem = isLink ? ELOOP : errno;
      return false;
    }
    current = std::make_shared<FileHandle>(std::move(next));
    return true;
  });
  if (problem != 0) return tl::unexpected(systemError(problem, place, ErrorCode::NotWritable));
  return current;
}

Result<PendingFile> SafeFolder::create(std::string_view relative) const {
  const std::string place = (base_ / relative).string();
  if (!isPlainRelativePath(relative)) return fail(ErrorCode::OutsideFolder, place);
  const auto [folder, name] = split(relative);
  OCTAPHON_ASSIGN(std::shared_ptr<FileHandle> directory, descend(folder, true));
  std::string temporary = temporaryName();
  FileHandle handle(::openat(directory->get(), temporary.c_str(),
                             O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, 0666));
  if (!handle) return tl::unexpected(systemError(errno, place, ErrorCode::NotWritable));
  return PendingFile(std::move(directory), std::move(handle), std::move(temporary), std::string(name), place);
}

Result<FileHandle> SafeFolder::openFile(std::string_view relative) const {
  const std::string place = (base_ / relative).string();
  if (!isPlainRelativePath(relative)) return fail(ErrorCode::OutsideFolder, place);
  const auto [folder, name] = split(relative);
  OCTAPHON_ASSIGN(const std::shared_ptr<FileHandle> directory, descend(folder, false));
  const std::string text(name);
  FileHandle handle(::openat(directory->get(), text.c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK));
  if (!handle) return tl::unexpected(systemError(errno, place, ErrorCode::NotReadable));
  return handle;
}

Result<FileHandle> SafeFolder::openForAppend(std::string_view relative) const {
  const std::string place = (base_ / relative).string();
  if (!isPlainRelativePath(relative)) return fail(ErrorCode::OutsideFolder, place);
  const auto [folder, name] = split(relative);
  OCTAPHON_ASSIGN(const std::shared_ptr<FileHandle> directory, descend(folder, true));
  const std::string text(name);
  FileHandle handle(
      ::openat(directory->get(), text.c_str(), O_RDWR | O_CREAT | O_APPEND | O_CLOEXEC | O_NOFOLLOW, 0666));
  if (!handle) return tl::unexpected(systemError(errno, place, ErrorCode::NotWritable));
  return handle;
}

std::vector<SafeFolder::Entry> SafeFolder::list(std::string_view relativeFolder) const {
  const auto directory = descend(relativeFolder, false);
  if (!directory) return {};
  // A descriptor of its own: reading moves the position of the one that is shared.
  const int own = ::openat((*directory)->get(), ".", O_RDONLY | O_DIRECTORY | O_CLOEXEC);
  DIR* stream = own >= 0 ? ::fdopendir(own) : nullptr;
  if (stream == nullptr) return {};
  std::vector<Entry> entries;
  while (const dirent* found = ::readdir(stream)) {
    const std::string_view name = found->d_name;
    if (name == "." || name == "..") continue;
    struct stat info;
    if (::fstatat((*directory)->get(), found->d_name, &info, AT_SYMLINK_NOFOLLOW) != 0) continue;
    entries.push_back({std::string(name), S_ISREG(info.st_mode), stampOf(info)});
  }
  ::closedir(stream);
  return entries;
}

void SafeFolder::removeTemporaries(std::string_view relativeFolder) const {
  const auto directory = descend(relativeFolder, false);
  if (!directory) return;
  for (const Entry& entry : list(relativeFolder))
    if (entry.isFile && isTemporaryName(entry.name)) ::unlinkat((*directory)->get(), entry.name.c_str(), 0);
}

std::uint64_t SafeFolder::freeSpace() const {
  struct statvfs info;
  if (::fstatvfs(handle_->get(), &info) != 0) return std::numeric_limits<std::uint64_t>::max();
  return static_cast<std::uint64_t>(info.f_bavail) * info.f_frsize;
}

}  // namespace octaphon
