// Plain samples, written by ourselves: WAV, RF64 and AIFF.
#pragma once

#include <cstdint>
#include <vector>

#include "write/shelled_encoder.h"

namespace octaphon {

class PcmEncoder : public ShelledEncoder {
 public:
  static Result<std::unique_ptr<Encoder>> open(const PendingFile& file, const FileForm& form,
                                               const FileData& planned);

  Result<> write(const std::int32_t* const* channels, Frame frames) override;
  Result<> write(const float* const* channels, Frame frames) override;

 private:
  using ShelledEncoder::ShelledEncoder;
  std::size_t sizeOf(Frame frames) const;
  Result<> writePacked(Frame frames);

  std::vector<std::uint8_t> packed_;
};

}  // namespace octaphon
