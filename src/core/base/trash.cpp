#include "base/trash.h"

#include <fcntl.h>
#include <pwd.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>
#include <ctime>
#include <filesystem>
#include <optional>

namespace octaphon {
namespace {

namespace fs = std::filesystem;

constexpr int kTries = 10'000;
constexpr std::size_t kLongestStem = 200;  // bytes of a name that a number and `.trashinfo` come behind

std::optional<dev_t> deviceOf(const fs::path& path) {
  struct stat info;
  return ::stat(path.c_str(), &info) == 0 ? std::optional(info.st_dev) : std::nullopt;
}

/// A trash folder, and what paths in it count from (empty: from the root).
struct Trash {
  fs::path folder;
  fs::path top;
};

fs::path dataHome() {
  if (const char* named = std::getenv("XDG_DATA_HOME"); named != nullptr && named[0] == '/') return named;
  const char* home = std::getenv("HOME");
  if (home != nullptr && home[0] == '/') return fs::path(home) / ".local/share";
  const passwd* user = ::getpwuid(::geteuid());
  return user != nullptr ? fs::path(user->pw_dir) / ".local/share" : fs::path();
}

/// The nearest folder above that is there.
fs::path thereOf(fs::path path) {
  while (!deviceOf(path) && path.has_relative_path()) path = path.parent_path();
  return path;
}

bool makeOwn(const fs::path& folder) {
  if (::mkdir(folder.c_str(), 0700) != 0 && errno != EEXIST) return false;
  struct stat info;
  return ::lstat(folder.c_str(), &info) == 0 && S_ISDIR(info.st_mode) && info.st_uid == ::geteuid();
}

/// Where the file system that holds a folder is mounted.
fs::path topOf(fs::path folder, dev_t device) {
  while (folder.has_relative_path() && deviceOf(folder.parent_path()) == device)
    folder = folder.parent_path();
  return folder;
}

/// The administrator's, where it is safe; else one for the user alone.
std::optional<Trash> trashAtTop(const fs::path& top) {
  const std::string user = std::to_string(::geteuid());
  const fs::path shared = top / ".Trash";
  struct stat info;
  const bool isSafe =
      ::lstat(shared.c_str(), &info) == 0 && S_ISDIR(info.st_mode) && (info.st_mode & S_ISVTX) != 0;
  if (isSafe && makeOwn(shared / user)) return Trash{shared / user, top};
  const fs::path own = top / (".Trash-" + user);
  return makeOwn(own) ? std::optional(Trash{own, top}) : std::nullopt;
}

std::optional<Trash> trashFor(const fs::path& folder) {
  const auto device = deviceOf(folder);
  if (!device) return std::nullopt;
  const fs::path home = dataHome();
  if (home.empty() || deviceOf(thereOf(home)) != device) return trashAtTop(topOf(folder, *device));
  std::error_code ignored;
  fs::create_directories(home, ignored);
  return makeOwn(home / "Trash") ? std::optional(Trash{home / "Trash", {}}) : std::nullopt;
}

/// As in URIs (RFC 2396): all but letters, digits, and a few marks.
std::string escaped(const std::string& path) {
  constexpr std::string_view kPlain = "-_.!~*'()/";
  std::string text;
  for (const char c : path) {
    const bool isPlain = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') ||
                         kPlain.find(c) != std::string_view::npos;
    char code[4];
    std::snprintf(code, sizeof code, "%%%02X", static_cast<unsigned char>(c));
    text += isPlain ? std::string(1, c) : std::string(code);
  }
  return text;
}

std::string timeNow() {
  const std::time_t now = std::time(nullptr);
  std::tm local{};
  ::localtime_r(&now, &local);
  char text[32];
  std::strftime(text, sizeof text, "%Y-%m-%dT%H:%M:%S", &local);
  return text;
}

std::string infoText(const Trash& trash, const fs::path& file) {
  const fs::path path = trash.top.empty() ? file : file.lexically_relative(trash.top);
  return "[Trash Info]\nPath=" + escaped(path.string()) + "\nDeletionDate=" + timeNow() + "\n";
}

FileHandle openFolder(const fs::path& folder) {
  if (!makeOwn(folder)) return {};
  return FileHandle(::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC | O_NOFOLLOW));
}

Error noTrash(const fs::path& file) {
  return {ErrorCode::Unsupported, file.string(), "there is no trash on its file system",
          "Delete it instead, or move it away"};
}

/// At most so many bytes, and no half character at the end.
std::string shortened(std::string name) {
  if (name.size() <= kLongestStem) return name;
  std::size_t end = kLongestStem;
  while (end > 0 && (static_cast<unsigned char>(name[end]) & 0xC0) == 0x80) --end;
  name.resize(end);
  return name;
}

/// A name that nothing in the trash has, taken by its description.
Result<std::string> describe(int infos, const std::string& name, const std::string& text,
                             const std::string& place) {
  const fs::path path(name);
  for (int i = 1; i <= kTries; ++i) {
    const std::string number = i == 1 ? "" : "." + std::to_string(i);
    const std::string free = shortened(path.stem().string()) + number + path.extension().string();
    const FileHandle info(
        ::openat(infos, (free + ".trashinfo").c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0600));
    if (!info && errno == EEXIST) continue;
    if (!info) return tl::unexpected(systemError(errno, place, ErrorCode::NotWritable));
    if (const auto written = writeAll(info.get(), text, place); written) return free;
    ::unlinkat(infos, (free + ".trashinfo").c_str(), 0);
    break;
  }
  return fail(ErrorCode::NotWritable, place);
}

}  // namespace

Result<> moveToTrash(const SafeFolder& folder, std::string_view relative) {
  std::error_code unknown;
  const fs::path base = fs::canonical(folder.path(), unknown);
  const fs::path file = base / relative;
  const auto trash = unknown ? std::nullopt : trashFor(base);
  if (!trash) return tl::unexpected(noTrash(file));
  const FileHandle files = openFolder(trash->folder / "files");
  const FileHandle infos = openFolder(trash->folder / "info");
  if (!files || !infos) return tl::unexpected(noTrash(file));
  OCTAPHON_ASSIGN(const std::string name,
                  describe(infos.get(), file.filename().string(), infoText(*trash, file), file.string()));
  const Result<> moved = folder.moveOut(relative, files.get(), name);
  if (!moved) ::unlinkat(infos.get(), (name + ".trashinfo").c_str(), 0);
  return moved;
}

}  // namespace octaphon
