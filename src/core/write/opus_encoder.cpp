#include "write/opus_encoder.h"

#include <algorithm>

#include "formats/riff_bytes.h"

namespace octaphon {
namespace {

constexpr int kPacketsASecond = 50;
constexpr std::size_t kMostPacket = 1275 * 3 + 7;  // bytes of a stream (RFC 6716, 3.2.1)

/// OpusHead (RFC 7845, 5.1). Streams and their places only where there are more than two channels.
std::string identification(const FileForm& form, int preSkip, int streams, int coupled,
                           const unsigned char* places) {
  std::string head = "OpusHead";
  putNumber(head, 1, 1);
  putNumber(head, static_cast<std::uint64_t>(form.channels), 1);
  putNumber(head, static_cast<std::uint64_t>(preSkip), 2);
  putNumber(head, static_cast<std::uint64_t>(form.rate), 4);
  putNumber(head, 0, 2);  // gain
  putNumber(head, form.channels > 2 ? 1 : 0, 1);
  if (form.channels <= 2) return head;
  putNumber(head, static_cast<std::uint64_t>(streams), 1);
  putNumber(head, static_cast<std::uint64_t>(coupled), 1);
  return head.append(reinterpret_cast<const char*>(places), static_cast<std::size_t>(form.channels));
}

}  // namespace

OpusFileEncoder::OpusFileEncoder(const PendingFile& file, const FileForm& form, std::string_view key)
    : ShelledEncoder(file, form, nullptr),
      serial_(oggSerial(key)),
      pages_(serial_, bytes_),
      order_(channelOrder(form.encoding, form.channels)),
      packetFrames_(form.rate / kPacketsASecond),
      held_(static_cast<std::size_t>(packetFrames_ * form.channels)),
      packet_(kMostPacket * static_cast<std::size_t>(form.channels)) {}

Result<std::unique_ptr<Encoder>> OpusFileEncoder::open(const PendingFile& file, const FileForm& form,
                                                       const FileData& planned, std::string_view key) {
  std::unique_ptr<OpusFileEncoder> encoder(new OpusFileEncoder(file, form, key));
  OCTAPHON_TRY(encoder->setUp(planned));
  return encoder;
}

Result<> OpusFileEncoder::setUp(const FileData& planned) {
  int mistake = OPUS_OK, streams = 0, coupled = 0;
  unsigned char places[kMostFileChannels] = {};
  encoder_.reset(opus_multistream_surround_encoder_create(form_.rate, form_.channels,
                                                          form_.channels > 2 ? 1 : 0, &streams, &coupled,
                                                          places, OPUS_APPLICATION_AUDIO, &mistake));
  if (!encoder_) return tl::unexpected(lacks(opus_strerror(mistake)));
  if (opus_multistream_encoder_ctl(encoder_.get(), OPUS_SET_BITRATE(1000 * bitRateOf(form_))) != OPUS_OK)
    return tl::unexpected(lacks("it does not take this bit rate"));
  opus_int32 delay = 0;
  opus_multistream_encoder_ctl(encoder_.get(), OPUS_GET_LOOKAHEAD(&delay));
  delay_ = delay;
  auto shell = std::make_unique<OggShell>(form_);
  const int preSkip = static_cast<int>(played(delay_));
  shell->setStream(serial_, identification(form_, preSkip, streams, coupled, places),
                   opus_get_version_string(), {});
  pages_.beginAt(shell->pagesOf(shell->head(planned, 0)));
  shell_ = std::move(shell);
  return begin(planned);
}

Result<> OpusFileEncoder::write(const float* const* channels, Frame frames) {
  for (Frame i = 0; i < frames; ++i) {
    float* const to = held_.data() + heldFrames_ * form_.channels;
    for (int c = 0; c < form_.channels; ++c) to[c] = channels[order_[static_cast<std::size_t>(c)]][i];
    ++written_;
    if (++heldFrames_ == packetFrames_) OCTAPHON_TRY(encode());
  }
  return {};
}

/// The packet that is held. The last one says how many frames there are in all (RFC 7845, 4.3).
Result<> OpusFileEncoder::encode() {
  const opus_int32 size =
      opus_multistream_encode_float(encoder_.get(), held_.data(), static_cast<int>(packetFrames_),
                                    packet_.data(), static_cast<opus_int32>(packet_.size()));
  if (size < 0) return tl::unexpected(lacks(opus_strerror(size)));
  const bool isFull = heldFrames_ == packetFrames_;
  heldFrames_ = 0;
  const std::int64_t all = played(written_ + delay_), encoded = played(++packets_ * packetFrames_);
  ogg_packet packet{};
  packet.packet = packet_.data();
  packet.bytes = size;
  packet.e_o_s = !isFull && encoded >= all ? 1 : 0;
  packet.granulepos = packet.e_o_s != 0 ? all : encoded;
  packet.packetno = packets_ + 1;
  return pages_.add(packet);
}

/// Silence pushes out what the encoder has not given yet.
Result<> OpusFileEncoder::end() {
  do {
    std::fill(held_.begin() + static_cast<std::ptrdiff_t>(heldFrames_ * form_.channels), held_.end(), 0.0f);
    OCTAPHON_TRY(encode());
  } while (packets_ * packetFrames_ < written_ + delay_);
  return pages_.flush();
}

}  // namespace octaphon
