#include "formats/planned_facts.h"

#include <cstring>

#include "formats/aiff_head.h"
#include "formats/broadcast.h"
#include "formats/facts_readers.h"
#include "formats/id3.h"
#include "formats/riff_data.h"
#include "formats/vorbis_comment.h"

namespace octaphon {
namespace {

void takeRiff(FileFacts& facts, const FileForm& form, const FileData& data) {
  RiffData riff(facts);
  riff.take("bext", broadcastData(data));
  constexpr std::size_t kHead = 8;
  for (const std::string& chunk : riffDataChunks(data, form))
    riff.take(chunk.substr(0, 4), chunk.substr(kHead));
  riff.finish();
}

/// Through the whole of a file without sound.
void takeAiff(FileFacts& facts, const FileForm& form, const FileData& data) {
  const std::string behind = aiffDataChunks(data, form);
  const std::string bytes = AiffHead{form, behind.size(), 0}.bytes() + behind;
  const ByteSource source{bytes.size(), [&](std::uint64_t at, void* to, std::size_t size) {
                            if (at + size > bytes.size()) return false;
                            std::memcpy(to, bytes.data() + at, size);
                            return true;
                          }};
  (void)readAiffFacts(source, {}, facts);
}

void takeCommentsOf(FileFacts& facts, const FileForm& form, const FileData& data) {
  const int placesAt = form.encoding == Encoding::Opus ? 48000 : form.rate;
  takeComments(facts, packedComments({}, commentsOf(data, form)), placesAt);
}

}  // namespace

FileFacts plannedFacts(const FileForm& form, const FileData& data) {
  FileFacts facts;
  const EncodingInfo& info = encodingInfo(form.encoding);
  facts.rate = form.rate;
  switch (info.container) {
    case Container::Wav:
    case Container::Rf64: takeRiff(facts, form, data); break;
    case Container::Aiff: takeAiff(facts, form, data); break;
    case Container::Flac:
      takeRiff(facts, form, data);
      takeCommentsOf(facts, form, data);
      break;
    case Container::Ogg: takeCommentsOf(facts, form, data); break;
    case Container::Mp3: takeId3(facts, id3Tag(data, form), form.rate); break;
  }
  facts.container = form.container();
  facts.encoding = info.name;
  facts.channels = form.channels;
  facts.bits = info.bits;
  facts.frames.reset();
  facts.parts.clear();
  return facts;
}

}  // namespace octaphon
