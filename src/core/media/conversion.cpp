#include "media/conversion.h"

#include <sndfile.h>

#include <algorithm>
#include <cerrno>
#include <optional>
#include <vector>

#include "base/pending_file.h"
#include "media/resampler.h"

namespace octaphon {
namespace {

namespace fs = std::filesystem;

constexpr Frame kTurn = 16384;

/// What a conversion writes to; removed unless kept.
class CacheFile {
 public:
  explicit CacheFile(fs::path target) : target_(std::move(target)) {}
  ~CacheFile() {
    if (file_ != nullptr) sf_close(file_);
  }
  CacheFile(const CacheFile&) = delete;

  Result<> open(int channels, int rate) {
    OCTAPHON_ASSIGN(pending_, PendingFile::beside(target_));
    SF_INFO info{};
    info.channels = channels;
    info.samplerate = rate;
    info.format = SF_FORMAT_W64 | SF_FORMAT_FLOAT;
    file_ = sf_open_fd(pending_.fd(), SFM_WRITE, &info, SF_FALSE);
    if (file_ == nullptr) return fail(ErrorCode::NotWritable, target_.string(), sf_strerror(nullptr), kCure);
    return {};
  }

  Result<> write(const float* interleaved, Frame frames) {
    if (sf_writef_float(file_, interleaved, frames) == frames) return {};
    return fail(ErrorCode::DiskFull, target_.string(), "the cache cannot be written", kCure);
  }

  Result<> keep() {
    if (sf_close(std::exchange(file_, nullptr)) != 0)
      return fail(ErrorCode::NotWritable, target_.string(), "the cache cannot be written", kCure);
    OCTAPHON_TRY(pending_.sync());
    return pending_.publish(true);
  }

 private:
  static constexpr const char* kCure = "Make space, or set OCTAPHON_CACHE to a folder with room";
  fs::path target_;
  PendingFile pending_;
  SNDFILE* file_ = nullptr;
};

/// Decodes a whole file into another one, at the same rate or through a resampler.
class Conversion {
 public:
  Conversion(SoundFile& input, CacheFile& output, int rate, const std::atomic<bool>* cancel)
      : input_(input), output_(output), rate_(rate), cancel_(cancel), channels_(input.info().channels) {}

  Result<> run() {
    const bool sameRate = rate_ == input_.info().rate;
    if (!sameRate) {
      OCTAPHON_ASSIGN(Resampler made, Resampler::make(input_.info().rate, rate_, channels_));
      resampler_.emplace(std::move(made));
    }
    std::vector<float> in(static_cast<std::size_t>(kTurn * channels_));
    while (const Frame got = input_.read(in.data(), kTurn)) {
      if (cancel_ != nullptr && cancel_->load(std::memory_order_relaxed))
        return fail(ErrorCode::Cancelled, "conversion");
      read_ += got;
      OCTAPHON_TRY(sameRate ? output_.write(in.data(), got) : resample(in.data(), got));
    }
    if (!input_.info().isEstimated && read_ < input_.info().frames)
      return fail(ErrorCode::MediumUnreadable, {},
                  "of its " + std::to_string(input_.info().frames) + " frames only " + std::to_string(read_) +
                      " can be decoded",
                  "Replace the file by one that is whole");
    return sameRate ? Result<>{} : finish();
  }

 private:
  Result<> resample(const float* in, Frame frames) {
    return resampler_->process(in, frames, [this](const float* out, Frame made) { return write(out, made); });
  }

  Result<> write(const float* out, Frame frames) {
    const Frame wanted = atRate(read_, input_.info().rate, rate_);
    frames = finishing_ ? std::min(frames, wanted - written_) : frames;
    written_ += frames;
    return frames > 0 ? output_.write(out, frames) : Result<>{};
  }

  /// The rest, to the length promised.
  Result<> finish() {
    finishing_ = true;
    OCTAPHON_TRY(resample(nullptr, 0));
    const std::vector<float> silence(static_cast<std::size_t>(kTurn * channels_), 0.0f);
    while (written_ < atRate(read_, input_.info().rate, rate_)) OCTAPHON_TRY(write(silence.data(), kTurn));
    return {};
  }

  SoundFile& input_;
  CacheFile& output_;
  int rate_;
  const std::atomic<bool>* cancel_;
  int channels_;
  std::optional<Resampler> resampler_;
  Frame read_ = 0;
  Frame written_ = 0;
  bool finishing_ = false;
};

}  // namespace

Result<> convertMedium(SoundFile& input, const fs::path& target, int rate, const std::atomic<bool>* cancel) {
  CacheFile output(target);
  OCTAPHON_TRY(output.open(input.info().channels, rate));
  OCTAPHON_TRY(Conversion(input, output, rate, cancel).run());
  return output.keep();
}

}  // namespace octaphon
