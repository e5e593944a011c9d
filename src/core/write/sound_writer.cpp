#include "write/sound_writer.h"

#include <sndfile.h>

#include <cerrno>

namespace octaphon {
namespace {

int sndfileFormat(Encoding encoding) {
  switch (encoding) {
    case Encoding::Pcm16: return SF_FORMAT_WAV | SF_FORMAT_PCM_16;
    case Encoding::Pcm24: return SF_FORMAT_WAV | SF_FORMAT_PCM_24;
    case Encoding::Float32: return SF_FORMAT_WAV | SF_FORMAT_FLOAT;
  }
  return 0;
}

}  // namespace

void SoundWriter::Close::operator()(sf_private_tag* file) const { sf_close(file); }

Result<SoundWriter> SoundWriter::open(const PendingFile& file, Encoding encoding, int channels, int rate) {
  SF_INFO info{};
  info.samplerate = rate;
  info.channels = channels;
  info.format = sndfileFormat(encoding);
  SoundWriter writer;
  writer.place_ = file.place();
  writer.channels_ = channels;
  writer.bytes_ = encodingInfo(encoding).bits / 8;
  writer.file_.reset(sf_open_fd(file.fd(), SFM_WRITE, &info, SF_FALSE));
  if (!writer.file_) return fail(ErrorCode::NotWritable, file.place(), sf_strerror(nullptr));
  // The PEAK chunk of float files holds the time of day.
  sf_command(writer.file_.get(), SFC_SET_ADD_PEAK_CHUNK, nullptr, SF_FALSE);
  return writer;
}

Result<> SoundWriter::checkWritten(std::int64_t done, std::int64_t wanted) {
  if (done == wanted) return {};
  if (errno != 0) return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  return fail(ErrorCode::NotWritable, place_, sf_strerror(file_.get()), "Make space or choose another folder");
}

Result<> SoundWriter::write(const std::int32_t* samples, Frame frames) {
  const auto count = static_cast<std::size_t>(frames * channels_);
  const auto width = static_cast<std::size_t>(bytes_);
  packed_.resize(count * width);
  std::uint8_t* out = packed_.data();
  for (std::size_t i = 0; i < count; ++i)
    for (std::size_t b = 0; b < width; ++b) *out++ = static_cast<std::uint8_t>(static_cast<std::uint32_t>(samples[i]) >> (8 * b));
  errno = 0;
  const auto wanted = static_cast<sf_count_t>(packed_.size());
  OCTAPHON_TRY(checkWritten(sf_write_raw(file_.get(), packed_.data(), wanted), wanted));
  written_ += frames;
  return {};
}

Result<> SoundWriter::write(const float* samples, Frame frames) {
  errno = 0;
  OCTAPHON_TRY(checkWritten(sf_writef_float(file_.get(), samples, frames), frames));
  written_ += frames;
  return {};
}

Result<> SoundWriter::finish(Frame planned) {
  if (written_ != planned)
    return fail(ErrorCode::BadValue, place_, "written " + std::to_string(written_) + " frames instead of " + std::to_string(planned));
  errno = 0;
  if (sf_close(file_.release()) != 0) return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  return {};
}

}  // namespace octaphon
