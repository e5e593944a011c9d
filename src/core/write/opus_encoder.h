// Ogg Opus through libopus (RFC 6716; RFC 7845).
#pragma once

#include <vector>

#include <opus/opus_multistream.h>

#include "write/ogg_shell.h"
#include "write/ogg_writer.h"
#include "write/shelled_encoder.h"

namespace octaphon {

class OpusFileEncoder : public ShelledEncoder {
 public:
  static Result<std::unique_ptr<Encoder>> open(const PendingFile& file, const FileForm& form,
                                               const FileData& planned, std::string_view key);
  using ShelledEncoder::write;
  Result<> write(const float* const* channels, Frame frames) override;

 private:
  struct Destroy {
    void operator()(OpusMSEncoder* encoder) const { opus_multistream_encoder_destroy(encoder); }
  };
  OpusFileEncoder(const PendingFile& file, const FileForm& form, std::string_view key);
  Result<> setUp(const FileData& planned);
  Result<> encode();
  Result<> end() override;
  /// Of 48 kHz, from what the file holds.
  std::int64_t played(Frame frames) const { return frames * (48000 / form_.rate); }

  std::uint32_t serial_;
  OggWriter pages_;
  std::array<int, kMostFileChannels> order_;
  std::unique_ptr<OpusMSEncoder, Destroy> encoder_;
  Frame packetFrames_;
  Frame delay_ = 0;  // of the encoder, in frames of the file
  std::int64_t packets_ = 0;
  std::vector<float> held_;  // interleaved, a packet
  Frame heldFrames_ = 0;
  std::vector<unsigned char> packet_;
};

}  // namespace octaphon
