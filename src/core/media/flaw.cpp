#include "media/flaw.h"

#include <FLAC/stream_decoder.h>
#include <ogg/ogg.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <memory>
#include <string_view>

#include <taglib/id3v2framefactory.h>
#include <taglib/mpegfile.h>
#include <taglib/mpegproperties.h>
#include <taglib/tfilestream.h>
#include <taglib/xingheader.h>

namespace octaphon {
namespace {

constexpr std::size_t kTurn = 1 << 16;

/// Bytes that were read at a place; fewer at the end, −1 where the system refuses.
ssize_t readAt(int fd, void* data, std::size_t size, std::uint64_t at) {
  while (true) {
    const ssize_t got = ::pread(fd, data, size, static_cast<off_t>(at));
    if (got >= 0 || errno != EINTR) return got;
  }
}

// --- Ogg

/// Pages as they come; what lies between them is damage.
class OggWalk {
 public:
  OggWalk() { ogg_sync_init(&sync_); }
  ~OggWalk() { ogg_sync_clear(&sync_); }
  OggWalk(const OggWalk&) = delete;

  Result<MediumFlaw> run(int fd, const std::string& place) {
    for (std::uint64_t at = 0;;) {
      char* buffer = ogg_sync_buffer(&sync_, static_cast<long>(kTurn));
      const ssize_t got = buffer == nullptr ? -1 : readAt(fd, buffer, kTurn, at);
      if (got < 0) return tl::unexpected(systemError(errno, place, ErrorCode::NotReadable));
      if (got == 0) break;
      at += static_cast<std::uint64_t>(got);
      ogg_sync_wrote(&sync_, static_cast<long>(got));
      takePages();
    }
    if (hasGap_) return MediumFlaw::Damaged;
    if (!hasEnded_ || sync_.fill > sync_.returned) return MediumFlaw::CutOff;
    return isChained_ ? MediumFlaw::Chained : MediumFlaw::None;
  }

 private:
  void takePages() {
    ogg_page page;
    while (const long bytes = ogg_sync_pageseek(&sync_, &page)) {
      if (bytes < 0) {
        hasGap_ = true;
        continue;
      }
      const bool begins = ogg_page_bos(&page) != 0;
      isChained_ = isChained_ || (begins && hasBody_);
      hasBody_ = hasBody_ || !begins;
      hasEnded_ = ogg_page_eos(&page) != 0;
    }
  }

  ogg_sync_state sync_{};
  bool hasGap_ = false, hasBody_ = false, hasEnded_ = false, isChained_ = false;
};

// --- FLAC

struct FlacInput {
  int fd;
  std::uint64_t at = 0;
  std::uint64_t decoded = 0;  // frames
  bool isRefused = false;     // by the system
  bool isDamaged = false;
};

FLAC__StreamDecoderReadStatus readFlac(const FLAC__StreamDecoder*, FLAC__byte* buffer, std::size_t* bytes,
                                       void* data) {
  auto& input = *static_cast<FlacInput*>(data);
  const ssize_t got = readAt(input.fd, buffer, *bytes, input.at);
  input.isRefused = got < 0;
  *bytes = got > 0 ? static_cast<std::size_t>(got) : 0;
  input.at += *bytes;
  if (got < 0) return FLAC__STREAM_DECODER_READ_STATUS_ABORT;
  return got == 0 ? FLAC__STREAM_DECODER_READ_STATUS_END_OF_STREAM
                  : FLAC__STREAM_DECODER_READ_STATUS_CONTINUE;
}

FLAC__StreamDecoderWriteStatus countFlac(const FLAC__StreamDecoder*, const FLAC__Frame* frame,
                                         const FLAC__int32* const*, void* data) {
  static_cast<FlacInput*>(data)->decoded += frame->header.blocksize;
  return FLAC__STREAM_DECODER_WRITE_STATUS_CONTINUE;
}

void noteFlac(const FLAC__StreamDecoder*, FLAC__StreamDecoderErrorStatus, void* data) {
  static_cast<FlacInput*>(data)->isDamaged = true;
}

struct DeleteFlac {
  void operator()(FLAC__StreamDecoder* decoder) const { FLAC__stream_decoder_delete(decoder); }
};

Result<MediumFlaw> flawOfFlac(int fd, const std::string& place) {
  const std::unique_ptr<FLAC__StreamDecoder, DeleteFlac> decoder(FLAC__stream_decoder_new());
  FlacInput input{fd};
  FLAC__stream_decoder_set_md5_checking(decoder.get(), true);
  if (FLAC__stream_decoder_init_stream(decoder.get(), readFlac, nullptr, nullptr, nullptr, nullptr, countFlac,
                                       nullptr, noteFlac, &input) != FLAC__STREAM_DECODER_INIT_STATUS_OK)
    return fail(ErrorCode::NotReadable, place);
  const bool isRead = FLAC__stream_decoder_process_until_end_of_stream(decoder.get()) != 0;
  const std::uint64_t promised = FLAC__stream_decoder_get_total_samples(decoder.get());
  const bool isRight = FLAC__stream_decoder_finish(decoder.get()) != 0;
  if (input.isRefused) return fail(ErrorCode::NotReadable, place);
  if (!isRead || input.isDamaged) return MediumFlaw::Damaged;
  if (input.decoded < promised) return MediumFlaw::CutOff;
  return isRight ? MediumFlaw::None : MediumFlaw::WrongChecksum;
}

// --- MP3

/// Its first frame may be one without sound that tells how many bytes there are from it on.
Result<MediumFlaw> flawOfMp3(int fd, const std::string& place) {
  const int own = ::dup(fd);
  if (own < 0) return tl::unexpected(systemError(errno, place, ErrorCode::NotReadable));
  TagLib::FileStream stream(own, true);
  TagLib::MPEG::File file(&stream, TagLib::ID3v2::FrameFactory::instance());
  const auto* properties = file.audioProperties();
  const auto* head = properties == nullptr ? nullptr : properties->xingHeader();
  if (head == nullptr || !head->isValid() || file.firstFrameOffset() < 0) return MediumFlaw::None;
  const long there = stream.length() - file.firstFrameOffset();
  return there < static_cast<long>(head->totalSize()) ? MediumFlaw::CutOff : MediumFlaw::None;
}

/// MPEG-1 or 2, layer III: eleven bits of a frame's beginning, version and layer (ISO 11172-3); or an ID3
/// tag.
bool beginsLikeMp3(std::string_view head) {
  if (head.starts_with("ID3")) return true;
  const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(head[i]); };
  return head.size() >= 2 && byte(0) == 0xFF && (byte(1) & 0xE6) == 0xE2;
}

}  // namespace

std::string flawText(MediumFlaw flaw) {
  switch (flaw) {
    case MediumFlaw::None: return {};
    case MediumFlaw::CutOff: return "it is cut off: its end is missing";
    case MediumFlaw::Damaged: return "it is damaged: not all of it can be decoded";
    case MediumFlaw::WrongChecksum: return "its sound is not the one whose checksum it carries";
    case MediumFlaw::Chained: return "it holds several recordings in a row, only the first is heard";
  }
  return {};
}

Result<MediumFlaw> findFlaw(int fd, const std::string& place) {
  std::array<char, 4> bytes{};
  const ssize_t got = readAt(fd, bytes.data(), bytes.size(), 0);
  if (got < 0) return tl::unexpected(systemError(errno, place, ErrorCode::NotReadable));
  const std::string_view head(bytes.data(), static_cast<std::size_t>(got));
  if (head == "OggS") return OggWalk().run(fd, place);
  if (head == "fLaC") return flawOfFlac(fd, place);
  if (beginsLikeMp3(head)) return flawOfMp3(fd, place);
  return MediumFlaw::None;
}

}  // namespace octaphon
