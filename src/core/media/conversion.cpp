#include "media/conversion.h"

#include <sndfile.h>
#include <soxr.h>

#include <algorithm>
#include <cerrno>
#include <memory>
#include <vector>

#include "base/pending_file.h"

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
    if (!input_.info().isEstimated && read_ < input_.info().frames)
      return fail(ErrorCode::MediumUnreadable, {},
                  "of its " + std::to_string(input_.info().frames) + " frames only " + std::to_string(read_) +
                      " can be decoded",
                  "Replace the file by one that is whole");
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

}  // namespace

Result<> convertMedium(SoundFile& input, const fs::path& target, int rate, const std::atomic<bool>* cancel) {
  CacheFile output(target);
  OCTAPHON_TRY(output.open(input.info().channels, rate));
  OCTAPHON_TRY(Conversion(input, output, rate, cancel).run());
  return output.keep();
}

}  // namespace octaphon
