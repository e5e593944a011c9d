// MP3 through LAME (ISO 11172-3, 13818-3).
#pragma once

#include <vector>

#include <lame/lame.h>

#include "write/shelled_encoder.h"

namespace octaphon {

class Mp3Encoder : public ShelledEncoder {
 public:
  static Result<std::unique_ptr<Encoder>> open(const PendingFile& file, const FileForm& form,
                                               const FileData& planned);
  using ShelledEncoder::write;
  Result<> write(const float* const* channels, Frame frames) override;

 private:
  struct Close {
    void operator()(lame_global_flags* encoder) const { lame_close(encoder); }
  };
  using ShelledEncoder::ShelledEncoder;
  Result<> setUp();
  Result<> take(int bytes);
  Result<> end() override;

  std::unique_ptr<lame_global_flags, Close> encoder_;
  std::vector<unsigned char> packed_;
};

}  // namespace octaphon
