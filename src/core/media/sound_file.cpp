#include "media/sound_file.h"

#include <sndfile.h>
#include <sys/resource.h>

#include <algorithm>
#include <atomic>
#include <bit>
#include <vector>

#include "base/samples.h"

namespace octaphon {
namespace {

bool isLossySubtype(int format) {
  switch (format & SF_FORMAT_SUBMASK) {
    case SF_FORMAT_PCM_S8:
    case SF_FORMAT_PCM_U8:
    case SF_FORMAT_PCM_16:
    case SF_FORMAT_PCM_24:
    case SF_FORMAT_PCM_32:
    case SF_FORMAT_FLOAT:
    case SF_FORMAT_DOUBLE:
    case SF_FORMAT_ALAC_16:
    case SF_FORMAT_ALAC_20:
    case SF_FORMAT_ALAC_24:
    case SF_FORMAT_ALAC_32: return false;
    default: return true;
  }
}

bool isFloatSubtype(int format) {
  const int subtype = format & SF_FORMAT_SUBMASK;
  return subtype == SF_FORMAT_FLOAT || subtype == SF_FORMAT_DOUBLE;
}

/// 16 or 24 of whole numbers that lie in the file in this machine's order of bytes; 0 of all else.
int wholeBitsOf(int format) {
  if constexpr (std::endian::native != std::endian::little) return 0;
  const int type = format & SF_FORMAT_TYPEMASK;
  const bool isWav = type == SF_FORMAT_WAV || type == SF_FORMAT_WAVEX || type == SF_FORMAT_RF64;
  if (!isWav || (format & SF_FORMAT_ENDMASK) == SF_ENDIAN_BIG) return 0;
  const int subtype = format & SF_FORMAT_SUBMASK;
  return subtype == SF_FORMAT_PCM_16 ? 16 : subtype == SF_FORMAT_PCM_24 ? 24 : 0;
}

Error asMediumError(Error error) {
  if (error.code == ErrorCode::TooManyFiles) return error;
  const bool missing = error.code == ErrorCode::NotFound;
  error.code = missing ? ErrorCode::MediumMissing : ErrorCode::MediumUnreadable;
  error.cure = missing ? "Put the file back, or point the medium at another one"
                       : "Replace the file by one that can be read";
  return error;
}

std::string withoutStop(std::string text) {
  while (!text.empty() && (text.back() == '.' || text.back() == ' ')) text.pop_back();
  return text;
}

}  // namespace

static std::atomic<std::size_t> openFiles{0};

void SoundFile::Close::operator()(sf_private_tag* file) const {
  sf_close(file);
  --openFiles;
}

std::size_t SoundFile::openNow() { return openFiles; }

std::size_t SoundFile::mostOpen() {
  rlimit limit{};
  if (::getrlimit(RLIMIT_NOFILE, &limit) != 0) return 64;
  return std::max<std::size_t>(4, std::min<std::size_t>(limit.rlim_cur, 1u << 20) / 4);
}

Result<SoundFile> SoundFile::open(const std::filesystem::path& path) {
  auto handle = openRegular(path);
  if (!handle) return tl::unexpected(asMediumError(std::move(handle).error()));
  SF_INFO info{};
  SoundFile result;
  result.identity_ = identityOf(handle->get()).value_or(FileIdentity{});
  result.file_.reset(sf_open_fd(handle->release(), SFM_READ, &info, SF_TRUE));
  if (result.file_) ++openFiles;
  if (!result.file_)
    return tl::unexpected(
        asMediumError({ErrorCode::MediumUnreadable, path.string(), withoutStop(sf_strerror(nullptr)), {}}));
  if (info.frames < 0 || info.frames > kMaxFrame)
    return tl::unexpected(asMediumError({ErrorCode::MediumUnreadable,
                                         path.string(),
                                         "it does not tell how long it is; it may be cut off",
                                         {}}));
  const bool sane = info.channels >= 1 && info.channels <= kMaxMediumChannels && info.samplerate >= 1000 &&
                    info.samplerate <= 1'536'000;
  if (!sane)
    return tl::unexpected(asMediumError({ErrorCode::MediumUnreadable,
                                         path.string(),
                                         "its header says " + std::to_string(info.channels) +
                                             " channels at " + std::to_string(info.samplerate) + " Hz",
                                         {}}));
  result.info_ = {info.samplerate,
                  info.channels,
                  info.frames,
                  isFloatSubtype(info.format),
                  isLossySubtype(info.format),
                  (info.format & SF_FORMAT_TYPEMASK) == SF_FORMAT_MPEG};
  result.wholeBits_ = wholeBitsOf(info.format);
  return result;
}

/// libsndfile turns them into floats one by one, which takes a fifth of the time of plain files.
Frame SoundFile::readWhole(float* interleaved, Frame frames) {
  const Frame frameBytes = static_cast<Frame>(info_.channels) * wholeBits_ / 8;
  thread_local std::vector<unsigned char> packed;
  packed.resize(static_cast<std::size_t>(std::max<Frame>(0, frames) * frameBytes));
  const Frame got =
      std::max<Frame>(0, sf_read_raw(file_.get(), packed.data(), frames * frameBytes)) / frameBytes;
  (wholeBits_ == 16 ? floatsOf16 : floatsOf24)(packed.data(), interleaved, got * info_.channels);
  return got;
}

Frame SoundFile::read(float* interleaved, Frame frames) {
  const Frame got = wholeBits_ != 0 ? readWhole(interleaved, frames)
                                    : std::max<Frame>(0, sf_readf_float(file_.get(), interleaved, frames));
  position_ += got;
  return got;
}

bool SoundFile::seek(Frame frame) {
  if (frame == position_) return true;
  const Frame reached = sf_seek(file_.get(), frame, SEEK_SET);
  if (reached < 0) return false;
  position_ = reached;
  return reached == frame;
}

}  // namespace octaphon
