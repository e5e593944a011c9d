// Encoders, through libsndfile. Nothing written holds the time of day.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "base/frames.h"
#include "base/hash.h"
#include "base/result.h"
#include "base/safe_folder.h"
#include "formats/encoding.h"

struct sf_private_tag;

namespace octaphon {

/// The hash of a file that is done, as digestOf(fd, place, head) gives it.
struct WrittenSound {
  Digest content;
  std::uint64_t head = 0;  ///< bytes before the samples
};

/// Writes one file. Not thread-safe; movable.
class SoundWriter {
 public:
  /// `file` must live until finish().
  static Result<SoundWriter> open(const PendingFile& file, Encoding encoding, int channels, int rate);

  /// Integers of the encoding's bits, a pointer for each channel. For integer encodings.
  Result<> write(const std::int32_t* const* channels, Frame frames);
  /// Full scale ±1, a pointer for each channel. For Float32.
  Result<> write(const float* const* channels, Frame frames);
  /// Ends the file's headers. What was written must be `planned` frames.
  Result<WrittenSound> finish(Frame planned);

 private:
  struct Close {
    void operator()(sf_private_tag* file) const;
  };
  SoundWriter() = default;
  Result<> checkWritten(std::int64_t done, std::int64_t wanted);

  std::unique_ptr<sf_private_tag, Close> file_;
  std::string place_;
  int channels_ = 0;
  int bytes_ = 0;  // of a sample
  int fd_ = -1;    // the pending file's
  Frame written_ = 0;
  Hasher hasher_;  // of the samples' bytes so far
  std::vector<std::uint8_t> packed_;
  std::vector<float> interleaved_;
};

}  // namespace octaphon
