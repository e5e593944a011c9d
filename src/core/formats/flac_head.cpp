#include "formats/flac_head.h"

#include "formats/broadcast.h"
#include "formats/riff_bytes.h"
#include "formats/riff_data.h"
#include "formats/vorbis_comment.h"

namespace octaphon {
namespace {

enum BlockKind : unsigned char { kStreamInfo = 0, kPadding = 1, kApplication = 2, kComments = 4 };
constexpr unsigned char kLast = 0x80;
constexpr std::size_t kSpare = 1024, kWhole = 4096;

/// A block that is too large for FLAC is left out.
void addBlock(std::string& out, unsigned char kind, const std::string& data) {
  if (data.size() > kMostFlacBlock) return;
  out.push_back(static_cast<char>(kind));
  for (int shift = 16; shift >= 0; shift -= 8) out.push_back(static_cast<char>(data.size() >> shift));
  out += data;
}

}  // namespace

std::string flacHead(const std::string& streamInfo, std::string_view vendor, const FileData& data,
                     const FileForm& form) {
  std::string head = "fLaC";
  addBlock(head, kStreamInfo, streamInfo);
  addBlock(head, kApplication, "riff" + riffChunk("bext", broadcastData(data)));
  for (const std::string& chunk : riffDataChunks(data, form)) addBlock(head, kApplication, "riff" + chunk);
  addBlock(head, kComments, packedComments(vendor, commentsOf(data, form)));
  const std::size_t used = head.size() + 4 + kSpare;
  addBlock(head, kPadding | kLast, std::string(kSpare + (kWhole - used % kWhole) % kWhole, '\0'));
  return head;
}

}  // namespace octaphon
