// Ogg Vorbis through libvorbis (Vorbis I).
#pragma once

#include <vorbis/codec.h>

#include "write/ogg_shell.h"
#include "write/ogg_writer.h"
#include "write/shelled_encoder.h"

namespace octaphon {

class VorbisEncoder : public ShelledEncoder {
 public:
  static Result<std::unique_ptr<Encoder>> open(const PendingFile& file, const FileForm& form,
                                               const FileData& planned, std::string_view key);
  ~VorbisEncoder() override;
  using ShelledEncoder::write;
  Result<> write(const float* const* channels, Frame frames) override;

 private:
  VorbisEncoder(const PendingFile& file, const FileForm& form, std::string_view key);
  Result<> setUp(const FileData& planned);
  void setStream(OggShell& shell);
  Result<> drain();
  Result<> end() override;

  std::uint32_t serial_;
  OggWriter pages_;
  std::array<int, kMostFileChannels> order_;
  vorbis_info info_;
  vorbis_dsp_state state_;
  vorbis_block block_;
  bool isSetUp_ = false;
};

}  // namespace octaphon
