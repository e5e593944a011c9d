#include "write/wav_encoder.h"

#include <unistd.h>

#include <algorithm>
#include <bit>
#include <cerrno>
#include <cstring>

#include "base/files.h"
#include "formats/wav_mark_chunks.h"

namespace octaphon {
namespace {

/// Little-endian integers of so many bytes, channels interleaved.
template <int kWidth>
void packBytes(const std::int32_t* const* channels, int count, Frame frames, std::uint8_t* out) {
  for (Frame i = 0; i < frames; ++i)
    for (int c = 0; c < count; ++c)
      for (int b = 0; b < kWidth; ++b)
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
  packBytes<3>(rest, 2, frames - i, out);
}

}  // namespace

Result<std::unique_ptr<Encoder>> WavEncoder::open(const PendingFile& file, Encoding encoding, int channels,
                                                  int rate) {
  std::unique_ptr<WavEncoder> encoder(new WavEncoder);
  encoder->place_ = file.place();
  encoder->fd_ = file.fd();
  encoder->head_.encoding = encoding;
  encoder->head_.channels = channels;
  encoder->head_.rate = rate;
  encoder->bytes_ = encodingInfo(encoding).bits / 8;
  OCTAPHON_TRY(writeAll(file.fd(), encoder->head_.bytes(), encoder->place_));
  return encoder;
}

Result<> WavEncoder::writePacked() {
  OCTAPHON_TRY(writeAll(fd_, {reinterpret_cast<const char*>(packed_.data()), packed_.size()}, place_));
  hasher_.bytes(packed_.data(), packed_.size());
  return {};
}

Result<> WavEncoder::write(const std::int32_t* const* channels, Frame frames) {
  packed_.resize(static_cast<std::size_t>(frames) * static_cast<std::size_t>(head_.channels * bytes_));
  if (head_.channels == 2 && bytes_ == 3)
    packPairs(channels[0], channels[1], frames, packed_.data());
  else if (bytes_ == 3)
    packBytes<3>(channels, head_.channels, frames, packed_.data());
  else
    packBytes<2>(channels, head_.channels, frames, packed_.data());
  written_ += frames;
  return writePacked();
}

Result<> WavEncoder::write(const float* const* channels, Frame frames) {
  packed_.resize(static_cast<std::size_t>(frames) * static_cast<std::size_t>(head_.channels) * sizeof(float));
  std::uint8_t* out = packed_.data();
  for (Frame i = 0; i < frames; ++i)
    for (int c = 0; c < head_.channels; ++c) {
      const auto bits = std::bit_cast<std::uint32_t>(channels[c][i]);
      for (unsigned b = 0; b < sizeof bits; ++b) *out++ = static_cast<std::uint8_t>(bits >> (8 * b));
    }
  written_ += frames;
  return writePacked();
}

/// In the place of the one that knew nothing yet.
Result<> WavEncoder::writeHead() {
  const std::string head = head_.bytes();
  for (std::size_t done = 0; done < head.size();) {
    const ssize_t wrote = ::pwrite(fd_, head.data() + done, head.size() - done, static_cast<off_t>(done));
    if (wrote < 0 && errno == EINTR) continue;
    if (wrote <= 0) return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
    done += static_cast<std::size_t>(wrote);
  }
  hasher_.bytes(head.data(), head.size());
  return {};
}

namespace {

constexpr std::size_t kCopied = 1 << 20;  // bytes at once

std::uint64_t dataBytesOf(const WrittenForm& form) {
  return static_cast<std::uint64_t>(form.frames) *
         static_cast<std::uint64_t>(form.channels * encodingInfo(form.encoding).bits / 8);
}

bool holds(int file, std::uint64_t at, const std::string& text) {
  std::string there(text.size(), '\0');
  const ssize_t got = ::pread(file, there.data(), there.size(), static_cast<off_t>(at));
  return got == static_cast<ssize_t>(text.size()) && there == text;
}

}  // namespace

bool WavEncoder::saysTheSame(int file, const WrittenForm& form, const FileData& data) {
  const std::uint64_t samples = dataBytesOf(form);
  const std::string behind = wavMarkChunks(data.marks, data.loop, form.rate);
  const std::string head =
      WavHead{form.encoding, form.channels, form.rate, data.timeReference, behind.size(), samples}.bytes();
  const std::uint64_t end = head.size() + samples + samples % 2;
  const auto stamp = stampOf(file);
  return stamp && stamp->size == end + behind.size() && holds(file, 0, head) && holds(file, end, behind);
}

Result<> WavEncoder::copySamples(int file, const WrittenForm& form) {
  const std::uint64_t all = dataBytesOf(form);
  for (std::uint64_t done = 0; done < all;) {
    packed_.resize(static_cast<std::size_t>(std::min<std::uint64_t>(kCopied, all - done)));
    const ssize_t got = ::pread(file, packed_.data(), packed_.size(), static_cast<off_t>(form.head + done));
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return tl::unexpected(systemError(errno, place_, ErrorCode::NotReadable));
    if (got == 0) return fail(ErrorCode::BadValue, place_, "the file that was made is shorter than it was");
    packed_.resize(static_cast<std::size_t>(got));
    OCTAPHON_TRY(writePacked());
    done += static_cast<std::uint64_t>(got);
  }
  written_ = form.frames;
  return {};
}

Result<WrittenSound> WavEncoder::rewrite(int file, const WrittenForm& form, const FileData& data,
                                         const PendingFile& to) {
  OCTAPHON_ASSIGN(const std::unique_ptr<Encoder> encoder, open(to, form.encoding, form.channels, form.rate));
  OCTAPHON_TRY(static_cast<WavEncoder&>(*encoder).copySamples(file, form));
  return encoder->finish(data);
}

Result<WrittenSound> WavEncoder::finish(const FileData& data) {
  head_.timeReference = data.timeReference;
  head_.dataBytes =
      static_cast<std::uint64_t>(written_) * static_cast<std::uint64_t>(head_.channels * bytes_);
  packed_.assign(head_.dataBytes % 2, 0);  // RIFF chunks have even lengths
  OCTAPHON_TRY(writePacked());
  const std::string marks = wavMarkChunks(data.marks, data.loop, head_.rate);
  head_.behindBytes = marks.size();
  packed_.assign(marks.begin(), marks.end());
  OCTAPHON_TRY(writePacked());
  OCTAPHON_TRY(writeHead());
  return WrittenSound{hasher_.digest(), head_.bytes().size(), written_};
}

}  // namespace octaphon
