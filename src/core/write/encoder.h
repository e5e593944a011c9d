// Encoders: what turns finished samples into a file.
#pragma once

#include <memory>
#include <string_view>

#include "base/hash.h"
#include "base/safe_folder.h"
#include "finish/sample_sink.h"
#include "formats/encoding.h"
#include "formats/file_data.h"

namespace octaphon {

/// A file that is done.
struct WrittenSound {
  Digest content;          ///< as digestOf(fd, place, head) gives it
  std::uint64_t head = 0;  ///< bytes before the sound
  Frame frames = 0;
};

/// Writes one file. Nothing written holds the time of day. Belongs to one thread at a time.
class Encoder : public SampleSink {
 public:
  /// Ends the file; nothing may be written after it.
  virtual Result<WrittenSound> finish(const FileData& data) = 0;
};

/// `file` must live until finish(). Of a form that refusalOf() lets through; else Unsupported. `planned`:
/// what the file will say, as far as that is known, so that its head has room. `key` chooses the serial
/// number of Ogg streams.
Result<std::unique_ptr<Encoder>> openEncoder(const PendingFile& file, const FileForm& form,
                                             const FileData& planned, std::string_view key);

/// What of a file that was written is written anew: all but its sound.
struct WrittenForm {
  FileForm form = {};
  Frame frames = 0;
  std::uint64_t head = 0;  ///< as WrittenSound has it
};

/// Whether an open file says just this of itself.
bool saysTheSame(int file, const WrittenForm& written, const FileData& data);
/// The sound of an open file into a new one, which says this of itself. BadValue where the file is not what
/// its form says.
Result<WrittenSound> rewrite(int file, const WrittenForm& written, const FileData& data,
                             const PendingFile& to);

}  // namespace octaphon
