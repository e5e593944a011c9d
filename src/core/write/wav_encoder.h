// WAV, through libsndfile. Whole numbers are packed here, which is several times faster.
#pragma once

#include <cstdint>
#include <vector>

#include "write/encoder.h"

struct sf_private_tag;

namespace octaphon {

class WavEncoder : public Encoder {
 public:
  static Result<std::unique_ptr<Encoder>> open(const PendingFile& file, Encoding encoding, int channels,
                                               int rate);

  Result<> write(const std::int32_t* const* channels, Frame frames) override;
  Result<> write(const float* const* channels, Frame frames) override;
  Result<WrittenSound> finish() override;

 private:
  struct Close {
    void operator()(sf_private_tag* file) const;
  };
  WavEncoder() = default;
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
