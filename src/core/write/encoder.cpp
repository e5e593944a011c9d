#include "write/encoder.h"

#include <unistd.h>

#include "base/files.h"
#include "write/flac_encoder.h"
#include "write/mp3_encoder.h"
#include "write/opus_encoder.h"
#include "write/pcm_encoder.h"
#include "write/vorbis_encoder.h"

namespace octaphon {

Result<std::unique_ptr<Encoder>> openEncoder(const PendingFile& file, const FileForm& form,
                                             const FileData& planned, std::string_view key) {
  switch (form.container()) {
    case Container::Wav:
    case Container::Rf64:
    case Container::Aiff: return PcmEncoder::open(file, form, planned);
    case Container::Flac: return FlacEncoder::open(file, form, planned);
    case Container::Ogg:
      return form.encoding == Encoding::Opus ? OpusFileEncoder::open(file, form, planned, key)
                                             : VorbisEncoder::open(file, form, planned, key);
    case Container::Mp3: return Mp3Encoder::open(file, form, planned);
  }
  return fail(ErrorCode::Unsupported, file.place());
}

namespace {

/// A file that was written, taken apart.
struct OpenFile {
  std::unique_ptr<Shell> shell;
  std::string head;
  std::uint64_t soundBytes = 0, size = 0;
};

Result<OpenFile> takeApart(int file, const WrittenForm& written, const std::string& place) {
  OpenFile open;
  open.shell = makeShell(written.form);
  const auto stamp = stampOf(file);
  if (!stamp) return fail(ErrorCode::NotReadable, place);
  open.size = stamp->size;
  const std::uint64_t sound =
      open.shell->soundBytes(written.frames).value_or(open.size - std::min(open.size, written.head));
  if (written.head > open.size || sound > open.size - written.head)
    return fail(ErrorCode::BadValue, place, "the file that was made is shorter than it was");
  open.soundBytes = sound;
  open.head.resize(static_cast<std::size_t>(written.head));
  if (::pread(file, open.head.data(), open.head.size(), 0) != static_cast<ssize_t>(open.head.size()))
    return fail(ErrorCode::NotReadable, place);
  OCTAPHON_TRY(open.shell->take(open.head, place));
  return open;
}

}  // namespace

bool saysTheSame(int file, const WrittenForm& written, const FileData& data) {
  const auto open = takeApart(file, written, {});
  if (!open || open->head != open->shell->head(data, written.frames)) return false;
  const std::string tail = open->shell->tail(data, written.frames);
  const std::uint64_t end = written.head + open->soundBytes;
  if (open->size != end + tail.size()) return false;
  std::string there(tail.size(), '\0');
  return ::pread(file, there.data(), there.size(), static_cast<off_t>(end)) ==
             static_cast<ssize_t>(there.size()) &&
         there == tail;
}

Result<WrittenSound> rewrite(int file, const WrittenForm& written, const FileData& data,
                             const PendingFile& to) {
  OCTAPHON_ASSIGN(const OpenFile open, takeApart(file, written, to.place()));
  FileBytes bytes(to);
  OCTAPHON_TRY(bytes.begin(open.shell->head(data, written.frames)));
  OCTAPHON_TRY(bytes.copy(file, written.head, open.soundBytes));
  return closeFile(bytes, *open.shell, data, written.frames);
}

}  // namespace octaphon
