#include "write/wav_encoder.h"

#include <sndfile.h>

#include <bit>
#include <cerrno>
#include <cstring>
#include <vector>

namespace octaphon {
namespace {

int sampleFormat(Encoding encoding) {
  switch (encoding) {
    case Encoding::Pcm16: return SF_FORMAT_PCM_16;
    case Encoding::Pcm24: return SF_FORMAT_PCM_24;
    case Encoding::Float32: return SF_FORMAT_FLOAT;
  }
  return 0;
}

/// Where each channel is heard (dwChannelMask of WAVEFORMATEXTENSIBLE: 0x33, 0x60F, 0x63F). Mono and stereo
/// go without, in the plain form that everything reads.
std::vector<int> channelMap(int channels) {
  std::vector<int> map{SF_CHANNEL_MAP_LEFT, SF_CHANNEL_MAP_RIGHT};
  if (channels == 4) map.insert(map.end(), {SF_CHANNEL_MAP_REAR_LEFT, SF_CHANNEL_MAP_REAR_RIGHT});
  if (channels >= 6) map.insert(map.end(), {SF_CHANNEL_MAP_CENTER, SF_CHANNEL_MAP_LFE});
  if (channels == 8) map.insert(map.end(), {SF_CHANNEL_MAP_REAR_LEFT, SF_CHANNEL_MAP_REAR_RIGHT});
  if (channels >= 6) map.insert(map.end(), {SF_CHANNEL_MAP_SIDE_LEFT, SF_CHANNEL_MAP_SIDE_RIGHT});
  return map;
}

/// Little-endian integers of `width` bytes, channels interleaved.
void packBytes(const std::int32_t* const* channels, int count, int width, Frame frames, std::uint8_t* out) {
  for (Frame i = 0; i < frames; ++i)
    for (int c = 0; c < count; ++c)
      for (int b = 0; b < width; ++b)
        *out++ = static_cast<std::uint8_t>(static_cast<std::uint32_t>(channels[c][i]) >> (8 * b));
}

/// The same for stereo of 24 bits, the usual case: four frames at once, in three stores of 8 bytes.
void packPairs(const std::int32_t* left, const std::int32_t* right, Frame frames, std::uint8_t* out) {
  Frame i = 0;
  if constexpr (std::endian::native == std::endian::little) {
    const auto bits = [](std::int32_t sample) { return static_cast<std::uint64_t>(sample) & 0xFFFFFF; };
    for (; i + 4 <= frames; i += 4, out += 24) {
      const std::uint64_t l1 = bits(left[i + 1]), r2 = bits(right[i + 2]);
      const std::uint64_t packed[]{bits(left[i]) | bits(right[i]) << 24 | l1 << 48,
                                   l1 >> 16 | bits(right[i + 1]) << 8 | bits(left[i + 2]) << 32 | r2 << 56,
                                   r2 >> 8 | bits(left[i + 3]) << 16 | bits(right[i + 3]) << 40};
      std::memcpy(out, packed, sizeof packed);
    }
  }
  const std::int32_t* rest[]{left + i, right + i};
  packBytes(rest, 2, 3, frames - i, out);
}

}  // namespace

void WavEncoder::Close::operator()(sf_private_tag* file) const { sf_close(file); }

Result<std::unique_ptr<Encoder>> WavEncoder::open(const PendingFile& file, Encoding encoding, int channels,
                                                  int rate) {
  SF_INFO info{};
  info.samplerate = rate;
  info.channels = channels;
  info.format = (channels > 2 ? SF_FORMAT_WAVEX : SF_FORMAT_WAV) | sampleFormat(encoding);
  std::unique_ptr<WavEncoder> encoder(new WavEncoder);
  encoder->place_ = file.place();
  encoder->fd_ = file.fd();
  encoder->channels_ = channels;
  encoder->bytes_ = encodingInfo(encoding).bits / 8;
  encoder->file_.reset(sf_open_fd(file.fd(), SFM_WRITE, &info, SF_FALSE));
  if (!encoder->file_) return fail(ErrorCode::NotWritable, file.place(), sf_strerror(nullptr));
  if (channels > 2) {
    std::vector<int> map = channelMap(channels);
    const int size = static_cast<int>(map.size() * sizeof(int));
    if (sf_command(encoder->file_.get(), SFC_SET_CHANNEL_MAP_INFO, map.data(), size) != SF_TRUE)
      return fail(ErrorCode::Unsupported, file.place(), "its channels have no places");
  }
  // The PEAK chunk of float files holds the time of day.
  sf_command(encoder->file_.get(), SFC_SET_ADD_PEAK_CHUNK, nullptr, SF_FALSE);
  return encoder;
}

Result<> WavEncoder::checkWritten(std::int64_t done, std::int64_t wanted) {
  if (done == wanted) return {};
  if (errno != 0) return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  return fail(ErrorCode::NotWritable, place_, sf_strerror(file_.get()),
              "Make space or choose another folder");
}

Result<> WavEncoder::write(const std::int32_t* const* channels, Frame frames) {
  const std::size_t size = static_cast<std::size_t>(frames) * static_cast<std::size_t>(channels_ * bytes_);
  packed_.resize(size);
  if (channels_ == 2 && bytes_ == 3)
    packPairs(channels[0], channels[1], frames, packed_.data());
  else
    packBytes(channels, channels_, bytes_, frames, packed_.data());
  errno = 0;
  const auto wanted = static_cast<sf_count_t>(size);
  OCTAPHON_TRY(checkWritten(sf_write_raw(file_.get(), packed_.data(), wanted), wanted));
  hasher_.bytes(packed_.data(), size);
  written_ += frames;
  return {};
}

Result<> WavEncoder::write(const float* const* channels, Frame frames) {
  interleaved_.resize(static_cast<std::size_t>(frames * channels_));
  for (int c = 0; c < channels_; ++c)
    for (Frame i = 0; i < frames; ++i)
      interleaved_[static_cast<std::size_t>(i * channels_ + c)] = channels[c][i];
  errno = 0;
  OCTAPHON_TRY(checkWritten(sf_writef_float(file_.get(), interleaved_.data(), frames), frames));
  hasher_.bytes(interleaved_.data(), interleaved_.size() * sizeof(float));
  written_ += frames;
  return {};
}

Result<WrittenSound> WavEncoder::finish() {
  errno = 0;
  if (sf_close(file_.release()) != 0)
    return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  const auto stamp = stampOf(fd_);
  const std::uint64_t data =
      static_cast<std::uint64_t>(written_) * static_cast<std::uint64_t>(channels_ * bytes_);
  const std::uint64_t pad = data % 2;  // RIFF chunks have even lengths
  if (!stamp || stamp->size < data + pad)
    return fail(ErrorCode::NotWritable, place_, "the file is shorter than what was written");
  const std::uint64_t head = stamp->size - data - pad;
  if constexpr (std::endian::native != std::endian::little) {
    OCTAPHON_ASSIGN(const Digest content, digestOf(fd_, place_, head));
    return WrittenSound{content, head, written_};
  }
  OCTAPHON_TRY(addToHash(hasher_, fd_, head + data, stamp->size, place_));
  OCTAPHON_TRY(addToHash(hasher_, fd_, 0, head, place_));
  return WrittenSound{hasher_.digest(), head, written_};
}

}  // namespace octaphon
