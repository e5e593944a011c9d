#include "base/safe_folder.h"

#include <dirent.h>
#include <fcntl.h>
#include <sys/stat.h>
#include <sys/statvfs.h>
#include <unistd.h>

#include <cerrno>
#include <limits>
#include <map>
#include <mutex>

namespace octaphon {
namespace {

struct SplitPath {
  std::string folder;
  std::string_view name;
};

SplitPath split(std::string_view relative) {
  std::string folder = folderOf(relative);
  return {folder, relative.substr(folder.empty() ? 0 : folder.size() + 1)};
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

Error folderError(int number, std::string place, ErrorCode otherwise) {
  if (number == ENOTDIR)
    return {ErrorCode::Occupied, std::move(place), "a file stands where a folder is needed",
            "Move the file, or choose another folder"};
  return systemError(number, std::move(place), otherwise);
}

}  // namespace

std::string folderOf(std::string_view relative) {
  const std::size_t slash = relative.rfind('/');
  return slash == std::string_view::npos ? std::string() : std::string(relative.substr(0, slash));
}

bool isPlainRelativePath(std::string_view relative) {
  if (relative.find('\0') != std::string_view::npos) return false;
  bool plain = true;
  forEachPart(relative, [&](std::string_view part) {
    plain = !part.empty() && part != "." && part != "..";
    return plain;
  });
  return plain;
}

struct SafeFolder::OpenFolders {
  std::mutex mutex;
  std::map<std::string, std::weak_ptr<FileHandle>, std::less<>> byPath;
};

SafeFolder::SafeFolder(std::filesystem::path base, std::shared_ptr<FileHandle> handle)
    : base_(std::move(base)), handle_(std::move(handle)), folders_(std::make_shared<OpenFolders>()) {}

Result<SafeFolder> SafeFolder::open(const FolderPath& folder, bool create) {
  const std::string place = folder.full().string();
  std::error_code making;
  if (create) std::filesystem::create_directories(folder.named, making);
  const char* named = folder.named.empty() ? "." : folder.named.c_str();
  auto handle = std::make_shared<FileHandle>(::open(named, O_RDONLY | O_DIRECTORY | O_CLOEXEC));
  const bool isUnmade = !*handle && errno == ENOENT && making;
  if (isUnmade) return tl::unexpected(folderError(making.value(), place, ErrorCode::NotWritable));
  if (!*handle)
    return tl::unexpected(
        folderError(errno, place, create ? ErrorCode::NotWritable : ErrorCode::NotReadable));
  SafeFolder outer(folder.named, std::move(handle));
  if (folder.below.empty()) return outer;
  OCTAPHON_ASSIGN(auto inner, outer.descend(folder.below, create));
  return SafeFolder(folder.full(), std::move(inner));
}

/// Opens the folder `name` in another one, making it when `create`.
static Result<std::shared_ptr<FileHandle>> openInside(int parent, const std::string& name, bool create,
                                                      const std::string& place) {
  if (create && ::mkdirat(parent, name.c_str(), 0777) != 0 && errno != EEXIST)
    return tl::unexpected(folderError(errno, place, ErrorCode::NotWritable));
  FileHandle next(::openat(parent, name.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC | O_NOFOLLOW));
  if (next) return std::make_shared<FileHandle>(std::move(next));
  const int problem = errno;
  struct stat info;  // a link to a folder gives ENOTDIR with these flags
  const bool isLink =
      ::fstatat(parent, name.c_str(), &info, AT_SYMLINK_NOFOLLOW) == 0 && S_ISLNK(info.st_mode);
  return tl::unexpected(folderError(isLink ? ELOOP : problem, place, ErrorCode::NotReadable));
}

Result<std::shared_ptr<FileHandle>> SafeFolder::descend(std::string_view relativeFolder, bool create) const {
  if (relativeFolder.empty()) return handle_;
  const std::string place = (base_ / relativeFolder).string();
  if (!isPlainRelativePath(relativeFolder)) return fail(ErrorCode::OutsideFolder, place);
  const std::scoped_lock lock(folders_->mutex);
  if (const auto known = folders_->byPath.find(relativeFolder); known != folders_->byPath.end())
    if (auto open = known->second.lock()) return open;
  Result<std::shared_ptr<FileHandle>> current = handle_;
  forEachPart(relativeFolder, [&](std::string_view part) {
    current = openInside((*current)->get(), std::string(part), create, place);
    return current.has_value();
  });
  if (current) folders_->byPath.insert_or_assign(std::string(relativeFolder), *current);
  return current;
}

std::optional<Error> SafeFolder::problemOf(std::string_view relativeFolder) const {
  const auto folder = descend(relativeFolder, false);
  if (folder || folder.error().code == ErrorCode::NotFound) return std::nullopt;
  return folder.error();
}

Result<PendingFile> SafeFolder::create(std::string_view relative) const {
  const std::string place = (base_ / relative).string();
  if (!isPlainRelativePath(relative)) return fail(ErrorCode::OutsideFolder, place);
  const auto [folder, name] = split(relative);
  OCTAPHON_ASSIGN(std::shared_ptr<FileHandle> directory, descend(folder, true));
  return PendingFile::create(std::move(directory), std::string(name), place);
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

Result<> SafeFolder::move(std::string_view from, std::string_view to, bool replace) const {
  const std::string place = (base_ / to).string();
  if (!isPlainRelativePath(from) || !isPlainRelativePath(to)) return fail(ErrorCode::OutsideFolder, place);
  const auto [fromFolder, fromName] = split(from);
  const auto [toFolder, toName] = split(to);
  OCTAPHON_ASSIGN(const std::shared_ptr<FileHandle> source, descend(fromFolder, false));
  OCTAPHON_ASSIGN(const std::shared_ptr<FileHandle> target, descend(toFolder, true));
  const std::string before(fromName), after(toName);
  if (renameFile(source->get(), before.c_str(), target->get(), after.c_str(), replace) != 0)
    return tl::unexpected(systemError(errno, place, ErrorCode::NotWritable));
  return {};
}

Result<> SafeFolder::moveOut(std::string_view from, int toFolder, const std::string& name) const {
  const std::string place = (base_ / from).string();
  if (!isPlainRelativePath(from)) return fail(ErrorCode::OutsideFolder, place);
  const auto [fromFolder, fromName] = split(from);
  OCTAPHON_ASSIGN(const std::shared_ptr<FileHandle> source, descend(fromFolder, false));
  if (renameFile(source->get(), std::string(fromName).c_str(), toFolder, name.c_str(), false) != 0)
    return tl::unexpected(systemError(errno, place, ErrorCode::NotWritable));
  return {};
}

Result<> SafeFolder::remove(std::string_view relative) const {
  const std::string place = (base_ / relative).string();
  if (!isPlainRelativePath(relative)) return fail(ErrorCode::OutsideFolder, place);
  const auto [folder, name] = split(relative);
  OCTAPHON_ASSIGN(const std::shared_ptr<FileHandle> directory, descend(folder, false));
  const std::string text(name);
  if (::unlinkat(directory->get(), text.c_str(), 0) != 0 && errno != ENOENT)
    return tl::unexpected(systemError(errno, place, ErrorCode::NotWritable));
  return {};
}

bool SafeFolder::removeEmptyFolder(std::string_view relative) const {
  if (!isPlainRelativePath(relative)) return false;
  const auto [folder, name] = split(relative);
  const auto directory = descend(folder, false);
  return directory && ::unlinkat((*directory)->get(), std::string(name).c_str(), AT_REMOVEDIR) == 0;
}

Result<> SafeFolder::sync(std::string_view relativeFolder) const {
  OCTAPHON_ASSIGN(const std::shared_ptr<FileHandle> directory, descend(relativeFolder, false));
  return syncFolder(directory->get(), (base_ / relativeFolder).string());
}

Result<std::vector<SafeFolder::Entry>> SafeFolder::list(std::string_view relativeFolder) const {
  const auto directory = descend(relativeFolder, false);
  if (!directory) return tl::unexpected(directory.error());
  // A descriptor of its own: reading moves the position of the one that is shared.
  const int own = ::openat((*directory)->get(), ".", O_RDONLY | O_DIRECTORY | O_CLOEXEC);
  DIR* stream = own >= 0 ? ::fdopendir(own) : nullptr;
  if (stream == nullptr)
    return tl::unexpected(systemError(errno, (base_ / relativeFolder).string(), ErrorCode::NotReadable));
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

void SafeFolder::removeTemporaries(std::string_view relativeFolder,
                                   const std::function<bool(int fd)>& isKept) const {
  const auto directory = descend(relativeFolder, false);
  if (directory) removeAbandonedIn((*directory)->get(), isKept);
}

SafeFolder::Space SafeFolder::space() const {
  Space space{0, std::numeric_limits<std::uint64_t>::max()};
  struct stat info;
  if (::fstat(handle_->get(), &info) == 0) space.device = info.st_dev;
  struct statvfs system;
  if (::fstatvfs(handle_->get(), &system) == 0)
    space.free = static_cast<std::uint64_t>(system.f_bavail) * system.f_frsize;
  return space;
}

}  // namespace octaphon
