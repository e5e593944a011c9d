#include "media/media_cache.h"

#include <sndfile.h>
#include <soxr.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cstdlib>
#include <fstream>
#include <sstream>
#include <vector>

#include "media/sound_file.h"

namespace octaphon {
namespace {

namespace fs = std::filesystem;

constexpr Frame kTurn = 16384;

/// What a conversion writes to; removed unless kept.
class CacheFile {
 public:
  explicit CacheFile(fs::path target)
      : target_(std::move(target)), temporary_(target_.parent_path() / temporaryName()) {}
  ~CacheFile() {
    if (file_ != nullptr) sf_close(file_);
    if (!kept_) {
      std::error_code ignored;
      fs::remove(temporary_, ignored);
    }
  }

  Result<> open(int channels, int rate) {
    SF_INFO info{};
    info.channels = channels;
    info.samplerate = rate;
    info.format = SF_FORMAT_W64 | SF_FORMAT_FLOAT;
    file_ = sf_open(temporary_.c_str(), SFM_WRITE, &info);
    if (file_ == nullptr)
      return fail(ErrorCode::NotWritable, temporary_.string(), sf_strerror(nullptr), kCure);
    return {};
  }

  Result<> write(const float* interleaved, Frame frames) {
    if (sf_writef_float(file_, interleaved, frames) == frames) return {};
    return fail(ErrorCode::DiskFull, temporary_.string(), "the cache cannot be written", kCure);
  }

  Result<> keep() {
    sf_write_sync(file_);
    const int closed = sf_close(std::exchange(file_, nullptr));
    std::error_code problem;
    if (closed == 0) fs::rename(temporary_, target_, problem);
    if (closed != 0 || problem)
      return fail(ErrorCode::NotWritable, target_.string(), "the cache cannot be written", kCure);
    kept_ = true;
    return {};
  }

 private:
  static constexpr const char* kCure = "Make space, or set OCTAPHON_CACHE to a folder with room";
  fs::path target_;
  fs::path temporary_;
  SNDFILE* file_ = nullptr;
  bool kept_ = false;
};

struct DeleteResampler {
  void operator()(soxr* resampler) const { soxr_delete(resampler); }
};
using Resampler = std::unique_ptr<soxr, DeleteResampler>;

Result<Resampler> makeResampler(int in, int out, int channels) {
  const soxr_io_spec_t io = soxr_io_spec(SOXR_FLOAT32_I, SOXR_FLOAT32_I);
  const soxr_quality_spec_t quality = soxr_quality_spec(SOXR_VHQ, 0);
  const soxr_runtime_spec_t runtime = soxr_runtime_spec(1);
  soxr_error_t problem = nullptr;
  Resampler resampler(
      soxr_create(in, out, static_cast<unsigned>(channels), &problem, &io, &quality, &runtime));
  if (problem != nullptr) return fail(ErrorCode::Unsupported, "rate conversion", problem);
  return resampler;
}

/// Decodes a whole file into another one, at the same rate or through a resampler.
class Conversion {
 public:
  Conversion(SoundFile& input, CacheFile& output, int rate, const std::atomic<bool>* cancel)
      : input_(input), output_(output), rate_(rate), cancel_(cancel), channels_(input.info().channels) {}

  Result<> run() {
    const bool sameRate = rate_ == input_.info().rate;
    if (!sameRate) {
      OCTAPHON_ASSIGN(resampler_, makeResampler(input_.info().rate, rate_, channels_));
      out_.resize(static_cast<std::size_t>((kTurn * rate_ / input_.info().rate + 1024) * channels_));
    }
    std::vector<float> in(static_cast<std::size_t>(kTurn * channels_));
    while (const Frame got = input_.read(in.data(), kTurn)) {
      if (cancel_ != nullptr && cancel_->load(std::memory_order_relaxed))
        return fail(ErrorCode::Cancelled, "conversion");
      read_ += got;
      OCTAPHON_TRY(sameRate ? output_.write(in.data(), got) : resample(in.data(), got));
    }
    if (!input_.info().isLossy && read_ < input_.info().frames)
      return fail(ErrorCode::MediumUnreadable, "conversion", "the file ends before its header says");
    return sameRate ? Result<>{} : finish();
  }

 private:
  Result<> resample(const float* in, Frame frames) {
    while (true) {
      std::size_t used = 0;
      std::size_t made = 0;
      const std::size_t space = out_.size() / static_cast<std::size_t>(channels_);
      if (soxr_process(resampler_.get(), in, static_cast<std::size_t>(frames), &used, out_.data(), space,
                       &made) != nullptr)
        return fail(ErrorCode::Unsupported, "rate conversion");
      OCTAPHON_TRY(write(static_cast<Frame>(made)));
      if (in == nullptr) {
        if (made == 0) return {};
        continue;
      }
      in += used * static_cast<std::size_t>(channels_);
      frames -= static_cast<Frame>(used);
      if (frames == 0 && made < space) return {};
    }
  }

  Result<> write(Frame frames) {
    const Frame wanted = atRate(read_, input_.info().rate, rate_);
    frames = finishing_ ? std::min(frames, wanted - written_) : frames;
    written_ += frames;
    return frames > 0 ? output_.write(out_.data(), frames) : Result<>{};
  }

  /// The rest, to the length promised.
  Result<> finish() {
    finishing_ = true;
    OCTAPHON_TRY(resample(nullptr, 0));
    std::fill(out_.begin(), out_.end(), 0.0f);
    const auto space = static_cast<Frame>(out_.size()) / channels_;
    while (written_ < atRate(read_, input_.info().rate, rate_)) OCTAPHON_TRY(write(space));
    return {};
  }

  SoundFile& input_;
  CacheFile& output_;
  int rate_;
  const std::atomic<bool>* cancel_;
  int channels_;
  Resampler resampler_;
  std::vector<float> out_;
  Frame read_ = 0;
  Frame written_ = 0;
  bool finishing_ = false;
};

void touch(const fs::path& file) {
  std::error_code ignored;
  fs::last_write_time(file, fs::file_time_type::clock::now(), ignored);
}

struct CachedFile {
  fs::path path;
  std::uint64_t size;
  fs::file_time_type used;
};

std::vector<CachedFile> filesBelow(const fs::path& folder) {
  std::vector<CachedFile> files;
  std::error_code problem;
  for (fs::recursive_directory_iterator it(folder, problem), end; !problem && it != end;
       it.increment(problem)) {
    std::error_code ignored;
    if (it->is_regular_file(ignored) && !it->is_symlink(ignored))
      files.push_back({it->path(), it->file_size(ignored), it->last_write_time(ignored)});
  }
  return files;
}

}  // namespace

MediaCache::MediaCache(fs::path folder, std::uint64_t maxBytes)
    : folder_(std::move(folder)), maxBytes_(maxBytes) {
  loadHashes();
}

MediaCache::~MediaCache() { saveHashes(); }

fs::path MediaCache::defaultFolder() {
  const auto set = [](const char* name) -> const char* {
    const char* value = std::getenv(name);
    return value != nullptr && *value != '\0' ? value : nullptr;
  };
  if (const char* own = set("OCTAPHON_CACHE")) return own;
  if (const char* shared = set("XDG_CACHE_HOME")) return fs::path(shared) / "octaphon";
  if (const char* home = set("HOME")) return fs::path(home) / ".cache" / "octaphon";
  return fs::temp_directory_path() / ("octaphon-" + std::to_string(::getuid()));
}

std::uint64_t MediaCache::defaultSize() {
  const char* megabytes = std::getenv("OCTAPHON_CACHE_MB");
  const unsigned long long set = megabytes != nullptr ? std::strtoull(megabytes, nullptr, 10) : 0;
  return (set > 0 ? set : 10'000ull) * 1'000'000ull;
}

void MediaCache::loadHashes() {
  std::ifstream file(folder_ / "hashes.txt");
  std::string line;
  while (std::getline(file, line)) {
    const std::size_t space = line.find(' ');
    if (space == std::string::npos) continue;
    const Digest digest = Digest::fromHex(std::string_view(line).substr(0, space));
    if (!digest.empty()) hashes_[line.substr(space + 1)] = digest;
  }
}

void MediaCache::saveHashes() {
  const std::scoped_lock lock(mutex_);
  if (!hashesChanged_) return;
  std::string text;
  for (const auto& [key, digest] : hashes_) text += digest.hex() + " " + key + "\n";
  std::error_code ignored;
  fs::create_directories(folder_, ignored);
  // A cache that cannot be written only costs time.
  if (replaceFile(folder_ / "hashes.txt", text)) hashesChanged_ = false;
}

Result<Digest> MediaCache::contentOf(const fs::path& file) {
  OCTAPHON_ASSIGN(const FileHandle handle, openRegular(file));
  struct stat info;
  if (::fstat(handle.get(), &info) != 0) return fail(ErrorCode::NotReadable, file.string());
  std::ostringstream key;
  key << info.st_dev << '.' << info.st_ino << '.' << info.st_size << '.' << info.st_mtim.tv_sec << '.'
      << info.st_mtim.tv_nsec;
  {
    const std::scoped_lock lock(mutex_);
    if (const auto known = hashes_.find(key.str()); known != hashes_.end()) return known->second;
  }
  OCTAPHON_ASSIGN(const Digest digest, digestOf(handle.get(), file.string()));
  const std::scoped_lock lock(mutex_);
  hashes_[key.str()] = digest;
  hashesChanged_ = true;
  return digest;
}

fs::path MediaCache::pathFor(const Digest& content, const std::string& ending) const {
  const std::string name = content.hex();
  const fs::path folder = folder_ / name.substr(0, 2);
  std::error_code ignored;
  fs::create_directories(folder, ignored);
  return folder / (name + ending);
}

Result<fs::path> MediaCache::converted(const fs::path& file, const Digest& content, int rate,
                                       const std::atomic<bool>* cancel) {
  const fs::path target = pathFor(content, "-" + std::to_string(rate) + ".w64");
  if (SoundFile::open(target)) {
    touch(target);
    return target;
  }
  OCTAPHON_ASSIGN(SoundFile input, SoundFile::open(file));
  CacheFile output(target);
  OCTAPHON_TRY(output.open(input.info().channels, rate));
  if (auto done = Conversion(input, output, rate, cancel).run(); !done) {
    if (done.error().code == ErrorCode::MediumUnreadable) done.error().place = file.string();
    return tl::unexpected(done.error());
  }
  OCTAPHON_TRY(output.keep());
  return target;
}

std::uint64_t MediaCache::size() const {
  std::uint64_t total = 0;
  for (const CachedFile& file : filesBelow(folder_)) total += file.size;
  return total;
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
  const std::uint64_t before = size();
  {
    const std::scoped_lock lock(mutex_);
    hashes_.clear();
    hashesChanged_ = false;
  }
  shrinkTo(0);
  return before - size();
}

}  // namespace octaphon
