// Reading audio files through libsndfile. Only regular files are opened, and never mapped into memory.
#pragma once

#include <filesystem>
#include <memory>

#include "base/files.h"
#include "base/frames.h"
#include "base/result.h"

struct sf_private_tag;

namespace octaphon {

struct SoundInfo {
  int rate = 0;  ///< Hz
  int channels = 0;
  Frame frames = 0;          ///< as the header says; of some lossy files an estimate
  bool isFloat = false;      ///< samples may be over full scale, NaN or infinite
  bool isLossy = false;      ///< decoding must begin at the start to be repeatable
  bool isEstimated = false;  ///< `frames` may be some off: MP3
};

inline constexpr int kMaxMediumChannels = 64;

/// One open file with a position. Not thread-safe; movable.
class SoundFile {
 public:
  /// MediumMissing or MediumUnreadable, with the reason.
  static Result<SoundFile> open(const std::filesystem::path& path);

  const SoundInfo& info() const { return info_; }
  /// As it was when it was opened.
  const FileIdentity& identity() const { return identity_; }
  /// Up to `frames` frames from the position on, interleaved, full scale ±1. Fewer only at the end.
  Frame read(float* interleaved, Frame frames);
  bool seek(Frame frame);
  Frame position() const { return position_; }

  /// How many are open in the program, and how many should be: a quarter of the handles it may have. Who has
  /// one open that could be opened again closes it where there are more.
  static std::size_t openNow();
  static std::size_t mostOpen();

 private:
  struct Close {
    void operator()(sf_private_tag* file) const;  // counts it out
  };
  SoundFile() = default;
  Frame readWhole(float* interleaved, Frame frames);
  std::unique_ptr<sf_private_tag, Close> file_;
  SoundInfo info_;
  int wholeBits_ = 0;  // of whole numbers that lie in the file as they are: 16 or 24; 0: of another kind
  FileIdentity identity_;
  Frame position_ = 0;
};

}  // namespace octaphon
