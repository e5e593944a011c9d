#include "media/media_cache.h"

#include <unistd.h>

#include <algorithm>
#include <chrono>
#include <cstdlib>
#include <fstream>
#include <sstream>
#include <vector>

#include "base/job_files.h"
#include "base/pending_file.h"
#include "base/unicode.h"
#include "media/conversion.h"
#include "media/sound_file.h"

namespace octaphon {
namespace {

namespace fs = std::filesystem;

constexpr const char* kContents = "contents.txt";

/// Of a copy in the cache; its time tells when the copy was last used, which then stays as it is.
fs::path checksumOf(const fs::path& copy) { return copy.string() + ".sum"; }

/// Whether its last change lies so far back that another one would have another time: clocks of file systems
/// tick.
bool hasRested(const FileIdentity& identity) {
  constexpr std::int64_t kTick = 50'000'000;
  const auto now = std::chrono::system_clock::now().time_since_epoch();
  return identity.changed + kTick < std::chrono::duration_cast<std::chrono::nanoseconds>(now).count();
}

void touch(const fs::path& file) {
  std::error_code ignored;
  fs::last_write_time(file, fs::file_time_type::clock::now(), ignored);
}

constexpr const char* kConverted = ".w64";

struct CachedFile {
  fs::path path;
  std::uint64_t size;
  fs::file_time_type used;
};

/// Removes on the way what programs that ended badly left there.
std::vector<CachedFile> filesBelow(const fs::path& folder) {
  std::vector<CachedFile> files;
  removeAbandonedIn(folder);
  std::error_code problem;
  for (fs::recursive_directory_iterator it(folder, problem), end; !problem && it != end;
       it.increment(problem)) {
    std::error_code ignored;
    if (it->is_directory(ignored) && !it->is_symlink(ignored)) removeAbandonedIn(it->path());
    if (!it->is_regular_file(ignored) || it->is_symlink(ignored)) continue;
    const fs::file_time_type own = it->last_write_time(ignored);
    const fs::file_time_type used = fs::last_write_time(checksumOf(it->path()), ignored);
    files.push_back({it->path(), it->file_size(ignored), ignored ? own : used});
  }
  return files;
}

}  // namespace

MediaCache::MediaCache(fs::path folder, std::uint64_t maxBytes)
    : folder_(std::move(folder)), maxBytes_(maxBytes) {
  loadContents();
}

MediaCache::~MediaCache() { saveContents(); }

fs::path MediaCache::defaultFolder() {
  const auto set = [](const char* name) -> const char* {
    const char* value = std::getenv(name);
    return value != nullptr && *value != '\0' ? value : nullptr;
  };
  if (const char* own = set("OCTAPHON_CACHE")) return own;
  if (const char* shared = set("XDG_CACHE_HOME")) return fs::path(shared) / "octaphon";
  if (const char* home = set("HOME")) return fs::path(home) / ".cache" / "octaphon";
  return fs::path("/tmp") / ("octaphon-" + std::to_string(::getuid()));
}

std::uint64_t MediaCache::defaultSize() {
  const char* megabytes = std::getenv("OCTAPHON_CACHE_MB");
  const unsigned long long set = megabytes != nullptr ? std::strtoull(megabytes, nullptr, 10) : 0;
  return (set > 0 ? set : 10'000ull) * 1'000'000ull;
}

// A line: hash, flaw, and which file it was (FileIdentity) in what state.

void MediaCache::loadContents() {
  std::ifstream file(folder_ / kContents);
  std::string hex;
  int flaw = 0;
  FileIdentity of;
  while (file >> hex >> flaw >> of.device >> of.inode >> of.size >> of.modified >> of.changed) {
    const Digest digest = Digest::fromHex(hex);
    if (!digest.empty() && flaw >= 0 && flaw < kMediumFlaws)
      contents_[of] = {digest, static_cast<MediumFlaw>(flaw), of};
  }
}

void MediaCache::saveContents() {
  const std::scoped_lock lock(mutex_);
  if (!contentsChanged_) return;
  std::ostringstream text;
  for (const auto& [of, content] : contents_)
    text << content.digest.hex() << ' ' << static_cast<int>(content.flaw) << ' ' << of.device << ' '
         << of.inode << ' ' << of.size << ' ' << of.modified << ' ' << of.changed << '\n';
  std::error_code ignored;
  fs::create_directories(folder_, ignored);
  // A cache that cannot be written only costs time.
  if (replaceFile(folder_ / kContents, text.str())) contentsChanged_ = false;
}

Result<MediumContent> MediaCache::contentOf(const fs::path& file, const JobControl* job) {
  OCTAPHON_ASSIGN(const FileHandle handle, openRegular(file));
  const auto before = identityOf(handle.get());
  if (!before) return fail(ErrorCode::NotReadable, file.string());
  {
    const std::scoped_lock lock(mutex_);
    if (const auto known = contents_.find(*before); known != contents_.end()) return known->second;
  }
  MediumContent content;
  OCTAPHON_ASSIGN(content.digest, digestOf(handle.get(), file.string(), job));
  OCTAPHON_ASSIGN(content.flaw, findFlaw(handle.get(), file.string()));
  content.identity = *before;
  if (identityOf(handle.get()) != before)
    return fail(ErrorCode::MediumChanged, file.string(), "it changes while it is read");
  if (!hasRested(*before)) return content;
  const std::scoped_lock lock(mutex_);
  contents_[*before] = content;
  contentsChanged_ = true;
  return content;
}

fs::path MediaCache::pathFor(const Digest& content, const std::string& ending) const {
  const std::string name = content.hex();
  const fs::path folder = folder_ / name.substr(0, 2);
  std::error_code ignored;
  fs::create_directories(folder, ignored);
  return folder / (name + ending);
}

/// Whether the copy is there and has the checksum that it was given.
std::optional<ConvertedFile> MediaCache::wholeCopy(const fs::path& copy) {
  const auto checksum = readFile(checksumOf(copy), 100);
  const auto content = checksum ? contentOf(copy) : Result<MediumContent>();
  if (!checksum || !content || content->digest.hex() != *checksum) return std::nullopt;
  return ConvertedFile{copy, content->identity};
}

Result<ConvertedFile> MediaCache::converted(const fs::path& file, const FileIdentity& identity,
                                            const Digest& content, int rate,
                                            const std::atomic<bool>* cancel) {
  const fs::path target = pathFor(content, "-" + std::to_string(rate) + kConverted);
  const std::scoped_lock lock(converting_[content.high % converting_.size()]);
  if (auto copy = wholeCopy(target)) {
    touch(checksumOf(target));
    return std::move(*copy);
  }
  OCTAPHON_ASSIGN(SoundFile input, SoundFile::open(file));
  if (input.identity() != identity) return fail(ErrorCode::MediumChanged, file.string());
  OCTAPHON_TRY(convertMedium(input, target, rate, cancel));
  if (identityOf(file) != identity) {
    std::error_code ignored;
    fs::remove(target, ignored);
    return fail(ErrorCode::MediumChanged, file.string());
  }
  OCTAPHON_ASSIGN(const MediumContent made, contentOf(target));
  OCTAPHON_TRY(replaceFile(checksumOf(target), made.digest.hex()));
  return ConvertedFile{target, made.identity};
}

KeptInCache MediaCache::kept() const {
  KeptInCache kept;
  for (const CachedFile& file : filesBelow(folder_)) {
    kept.bytes += file.size;
    kept.media += file.path.extension() == kConverted;
    kept.overviews += file.path.extension() == kOverview;
  }
  return kept;
}

std::string KeptInCache::words() const {
  return counted(media, "converted medium", "converted media") + ", " + counted(overviews, "overview");
}

void MediaCache::shrinkTo(std::uint64_t bytes) {
  std::vector<CachedFile> files = filesBelow(folder_);
  std::sort(files.begin(), files.end(),
            [](const CachedFile& a, const CachedFile& b) { return a.used < b.used; });
  std::uint64_t total = 0;
  for (const CachedFile& file : files) total += file.size;
  for (const CachedFile& file : files) {
    if (total <= bytes) return;
    std::error_code problem;
    if (fs::remove(file.path, problem)) total -= file.size;
  }
}

std::uint64_t MediaCache::clear() {
  const std::uint64_t before = kept().bytes;
  {
    const std::scoped_lock lock(mutex_);
    contents_.clear();
    contentsChanged_ = false;
  }
  shrinkTo(0);
  const std::uint64_t after = kept().bytes;  // others may write meanwhile
  return before > after ? before - after : 0;
}

}  // namespace octaphon
