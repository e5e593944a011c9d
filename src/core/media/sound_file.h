// Reading audio files through libsndfile. Only regular files are opened, and never mapped into memory.
#pragma once

#include <filesystem>
#include <memory>

#include "base/frames.h"
#include "base/result.h"

struct sf_private_tag;

namespace octaphon {

struct SoundInfo {
  int rate = 0;  ///< Hz
  int channels = 0;
  Frame frames = 0;      ///< as the header says; of some lossy files an estimate
  bool isFloat = false;  ///< samples may be over full scale, NaN or infinite
  bool isLossy = false;  ///< decoding must begin at the start to be repeatable
};

inline constexpr int kMaxMediumChannels = 64;

/// One open file with a position. Not thread-safe; movable.
class SoundFile {
 public:
  /// MediumMissing or MediumUnreadable, with the reason.
  static Result<SoundFile> open(const std::filesystem::path& path);

  const SoundInfo& info() const { return info_; }
  /// Up to `frames` frames from the position on, interleaved, full scale ±1. Fewer only at the end.
  Frame read(float* interleaved, Frame frames);
  bool seek(Frame frame);
  Frame position() const { return position_; }

 private:
  struct Close {
    void operator()(sf_private_tag* file) const;
  };
  SoundFile() = default;
  std::unique_ptr<sf_private_tag, Close> file_;
  SoundInfo info_;
  Frame position_ = 0;
};

}  // namespace octaphon
