// WAV, written by ourselves: heads and samples.
#pragma once

#include <cstdint>
#include <vector>

#include "formats/wav_head.h"
#include "write/encoder.h"

namespace octaphon {

class WavEncoder : public Encoder {
 public:
  static Result<std::unique_ptr<Encoder>> open(const PendingFile& file, Encoding encoding, int channels,
                                               int rate);

  Result<> write(const std::int32_t* const* channels, Frame frames) override;
  Result<> write(const float* const* channels, Frame frames) override;
  Result<WrittenSound> finish(const FileData& data) override;

  /// As in encoder.h.
  static bool saysTheSame(int file, const WrittenForm& form, const FileData& data);
  static Result<WrittenSound> rewrite(int file, const WrittenForm& form, const FileData& data,
                                      const PendingFile& to);

 private:
  WavEncoder() = default;
  Result<> writePacked();
  Result<> copySamples(int file, const WrittenForm& form);
  Result<> writeHead();

  std::string place_;
  int fd_ = -1;  // the pending file's
  WavHead head_;
  int bytes_ = 0;  // of a sample
  Frame written_ = 0;
  Hasher hasher_;  // of the samples' bytes so far
  std::vector<std::uint8_t> packed_;
};

}  // namespace octaphon
