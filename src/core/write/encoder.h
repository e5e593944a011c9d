// Encoders: what turns finished samples into a file.
#pragma once

#include <memory>

#include "base/hash.h"
#include "base/safe_folder.h"
#include "finish/sample_sink.h"
#include "formats/encoding.h"
#include "formats/wav_marks.h"

namespace octaphon {

/// A file that is done.
struct WrittenSound {
  Digest content;          ///< as digestOf(fd, place, head) gives it
  std::uint64_t head = 0;  ///< bytes before the samples
  Frame frames = 0;
};

/// What a file says of itself, in its frames.
struct FileData {
  Frame timeReference = 0;  ///< frames at the file's rate from midnight to its first sample
  std::vector<WavMark> marks = {};
  std::optional<WavLoop> loop = {};
};

/// Writes one file. Nothing written holds the time of day. Belongs to one thread at a time.
class Encoder : public SampleSink {
 public:
  /// Ends the file's headers; nothing may be written after it.
  virtual Result<WrittenSound> finish(const FileData& data) = 0;
};

/// `file` must live until finish(). Channels 1 … 8; rate in Hz.
Result<std::unique_ptr<Encoder>> openEncoder(const PendingFile& file, Encoding encoding, int channels,
                                             int rate);

}  // namespace octaphon
