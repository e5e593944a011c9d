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

/// What of a file that was written is written anew: all but its samples.
struct WrittenForm {
  Encoding encoding = Encoding::Pcm24;
  int channels = 2;
  int rate = 48000;  ///< Hz
  Frame frames = 0;
  std::uint64_t head = 0;  ///< as WrittenSound has it
};

/// Whether an open file says just this of itself.
bool saysTheSame(int file, const WrittenForm& form, const FileData& data);
/// The samples of an open file into a new one, which says this of itself. BadValue where the file is shorter
/// than its form says.
Result<WrittenSound> rewrite(int file, const WrittenForm& form, const FileData& data, const PendingFile& to);

/// `file` must live until finish(). Channels 1 … 8; rate in Hz.
Result<std::unique_ptr<Encoder>> openEncoder(const PendingFile& file, Encoding encoding, int channels,
                                             int rate);

}  // namespace octaphon
