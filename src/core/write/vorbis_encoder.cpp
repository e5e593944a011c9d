#include "write/vorbis_encoder.h"

#include <algorithm>

#include <vorbis/vorbisenc.h>

namespace octaphon {
namespace {

constexpr Frame kTurn = 4096;  // frames handed over at once

std::string bytesOf(const ogg_packet& packet) {
  return {reinterpret_cast<const char*>(packet.packet), static_cast<std::size_t>(packet.bytes)};
}

/// The library's name, as its own comments begin.
std::string vendorOf(const ogg_packet& comments) {
  const std::string bytes = bytesOf(comments);
  std::size_t size = 0;
  for (std::size_t i = 4; i > 0; --i) size = size << 8 | static_cast<unsigned char>(bytes[6 + i]);
  return bytes.substr(11, size);
}

}  // namespace

VorbisEncoder::VorbisEncoder(const PendingFile& file, const FileForm& form, std::string_view key)
    : ShelledEncoder(file, form, nullptr),
      serial_(oggSerial(key)),
      pages_(serial_, bytes_),
      order_(channelOrder(form.encoding, form.channels)) {
  vorbis_info_init(&info_);
}

VorbisEncoder::~VorbisEncoder() {
  if (isSetUp_) {
    vorbis_block_clear(&block_);
    vorbis_dsp_clear(&state_);
  }
  vorbis_info_clear(&info_);
}

Result<std::unique_ptr<Encoder>> VorbisEncoder::open(const PendingFile& file, const FileForm& form,
                                                     const FileData& planned, std::string_view key) {
  std::unique_ptr<VorbisEncoder> encoder(new VorbisEncoder(file, form, key));
  OCTAPHON_TRY(encoder->setUp(planned));
  return encoder;
}

Result<> VorbisEncoder::setUp(const FileData& planned) {
  if (vorbis_encode_init_vbr(&info_, form_.channels, form_.rate,
                             static_cast<float>(form_.coding.quality / 10)) != 0)
    return tl::unexpected(lacks("it does not take this rate, quality and number of channels"));
  vorbis_analysis_init(&state_, &info_);
  vorbis_block_init(&state_, &block_);
  isSetUp_ = true;
  auto shell = std::make_unique<OggShell>(form_);
  setStream(*shell);
  pages_.beginAt(shell->pagesOf(shell->head(planned, 0)));
  shell_ = std::move(shell);
  return begin(planned);
}

void VorbisEncoder::setStream(OggShell& shell) {
  vorbis_comment none;
  vorbis_comment_init(&none);
  ogg_packet identification, comments, setup;
  vorbis_analysis_headerout(&state_, &none, &identification, &comments, &setup);
  shell.setStream(serial_, bytesOf(identification), vendorOf(comments), bytesOf(setup));
  vorbis_comment_clear(&none);
}

Result<> VorbisEncoder::write(const float* const* channels, Frame frames) {
  for (Frame done = 0; done < frames; done += kTurn) {
    const Frame count = std::min(kTurn, frames - done);
    float** const buffer = vorbis_analysis_buffer(&state_, static_cast<int>(count));
    for (int c = 0; c < form_.channels; ++c)
      std::copy_n(channels[order_[static_cast<std::size_t>(c)]] + done, count, buffer[c]);
    vorbis_analysis_wrote(&state_, static_cast<int>(count));
    OCTAPHON_TRY(drain());
  }
  written_ += frames;
  return {};
}

Result<> VorbisEncoder::drain() {
  while (vorbis_analysis_blockout(&state_, &block_) == 1) {
    vorbis_analysis(&block_, nullptr);
    vorbis_bitrate_addblock(&block_);
    ogg_packet packet;
    while (vorbis_bitrate_flushpacket(&state_, &packet) != 0) OCTAPHON_TRY(pages_.add(packet));
  }
  return {};
}

Result<> VorbisEncoder::end() {
  vorbis_analysis_wrote(&state_, 0);
  OCTAPHON_TRY(drain());
  return pages_.flush();
}

}  // namespace octaphon
