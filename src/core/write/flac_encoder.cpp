#include "write/flac_encoder.h"

#include "formats/flac_head.h"

namespace octaphon {
namespace {

void put(std::string& out, std::uint64_t value, int bytes) {
  for (int i = bytes - 1; i >= 0; --i) out.push_back(static_cast<char>(value >> (8 * i)));
}

/// STREAMINFO as a file has it (RFC 9639, 8.2).
std::string packedInfo(const FLAC__StreamMetadata_StreamInfo& info) {
  std::string bytes;
  put(bytes, info.min_blocksize, 2);
  put(bytes, info.max_blocksize, 2);
  put(bytes, info.min_framesize, 3);
  put(bytes, info.max_framesize, 3);
  put(bytes,
      static_cast<std::uint64_t>(info.sample_rate) << 44 |
          static_cast<std::uint64_t>(info.channels - 1) << 41 |
          static_cast<std::uint64_t>(info.bits_per_sample - 1) << 36 | info.total_samples,
      8);
  return bytes.append(reinterpret_cast<const char*>(info.md5sum), sizeof info.md5sum);
}

}  // namespace

Result<std::unique_ptr<Encoder>> FlacEncoder::open(const PendingFile& file, const FileForm& form,
                                                   const FileData& planned) {
  std::unique_ptr<FlacEncoder> encoder(new FlacEncoder(file, form, std::make_unique<FlacShell>(form)));
  OCTAPHON_TRY(encoder->begin(planned));
  OCTAPHON_TRY(encoder->setUp());
  return encoder;
}

Result<> FlacEncoder::setUp() {
  encoder_.reset(FLAC__stream_encoder_new());
  if (!encoder_) return tl::unexpected(lacks("there is no memory"));
  FLAC__StreamEncoder* const encoder = encoder_.get();
  FLAC__stream_encoder_set_channels(encoder, static_cast<std::uint32_t>(form_.channels));
  FLAC__stream_encoder_set_bits_per_sample(encoder,
                                           static_cast<std::uint32_t>(encodingInfo(form_.encoding).bits));
  FLAC__stream_encoder_set_sample_rate(encoder, static_cast<std::uint32_t>(form_.rate));
  FLAC__stream_encoder_set_compression_level(encoder, static_cast<std::uint32_t>(form_.coding.level));
  // The subset leaves out rates that are no whole tens or thousands of hertz.
  FLAC__stream_encoder_set_streamable_subset(encoder, form_.rate <= 65535 || form_.rate % 10 == 0 ? 1 : 0);
  const auto status = FLAC__stream_encoder_init_stream(encoder, &take, nullptr, nullptr, &takeInfo, this);
  if (status != FLAC__STREAM_ENCODER_INIT_STATUS_OK)
    return tl::unexpected(lacks(FLAC__StreamEncoderInitStatusString[status]));
  return outcome_;
}

FLAC__StreamEncoderWriteStatus FlacEncoder::take(const FLAC__StreamEncoder*, const FLAC__byte* bytes,
                                                 size_t size, std::uint32_t frames, std::uint32_t,
                                                 void* self) {
  auto& own = *static_cast<FlacEncoder*>(self);
  if (frames == 0) return FLAC__STREAM_ENCODER_WRITE_STATUS_OK;  // its own head: the file has ours
  own.outcome_ = own.bytes_.append({reinterpret_cast<const char*>(bytes), size});
  return own.outcome_ ? FLAC__STREAM_ENCODER_WRITE_STATUS_OK : FLAC__STREAM_ENCODER_WRITE_STATUS_FATAL_ERROR;
}

void FlacEncoder::takeInfo(const FLAC__StreamEncoder*, const FLAC__StreamMetadata* info, void* self) {
  static_cast<FlacEncoder*>(self)->flacShell_->setStreamInfo(packedInfo(info->data.stream_info));
}

Error FlacEncoder::mistake() const {
  return outcome_ ? lacks(FLAC__stream_encoder_get_resolved_state_string(encoder_.get())) : outcome_.error();
}

Result<> FlacEncoder::write(const std::int32_t* const* channels, Frame frames) {
  written_ += frames;
  if (FLAC__stream_encoder_process(encoder_.get(), channels, static_cast<std::uint32_t>(frames)) == 0)
    return tl::unexpected(mistake());
  return {};
}

Result<> FlacEncoder::end() {
  if (FLAC__stream_encoder_finish(encoder_.get()) == 0) return tl::unexpected(mistake());
  return {};
}

}  // namespace octaphon
