// WAV and RF64: RIFF/WAVE (IBM & Microsoft 1991, 1994); EBU Tech 3285 for `bext`; EBU Tech 3306 for RF64.
#include <algorithm>

#include "base/unicode.h"
#include "formats/facts_readers.h"
#include "formats/riff_bytes.h"

namespace octaphon {
namespace {

constexpr std::uint64_t kUnknownLength = 0x7FFF0000;  // written into a pipe: programs put a huge number there

std::string trimmedText(std::string_view bytes) {
  return printable(decodedText(bytes.substr(0, bytes.find('\0'))), 1000);
}

class WavReader {
 public:
  WavReader(const ByteSource& source, const std::string& place, FileFacts& facts)
      : source_(source), place_(place), facts_(facts), data_(facts) {}

  Result<> read() {
    isLarge_ = source_.upTo(0, 4) != "RIFF";
    facts_.container = isLarge_ ? Container::Rf64 : Container::Wav;
    std::uint64_t at = 12;
    for (std::size_t chunks = 0; at + 8 <= source_.size; ++chunks) {
      if (chunks == kMostParts) return wrongFile(place_, "there are too many chunks");
      OCTAPHON_ASSIGN(at, readChunk(at));
    }
    data_.finish();
    if (frameBytes_ > 0 && soundBytes_) facts_.frames = static_cast<Frame>(*soundBytes_ / frameBytes_);
    return {};
  }

 private:
  /// Gives where the next one begins.
  Result<std::uint64_t> readChunk(std::uint64_t at) {
    const std::string head = source_.upTo(at, 8);
    if (head.size() < 8) return wrongFile(place_, "a chunk's head cannot be read");
    Bytes size(std::string_view(head).substr(4));
    const std::string id = head.substr(0, 4);
    std::uint64_t bytes = size.little(4);
    if (isLarge_ && bytes == kSizeElsewhere && id == "data") bytes = dataBytes_;
    const std::uint64_t body = at + 8, there = source_.size - body;
    const bool isRead = id == "ds64" || id == "fmt " || RiffData::isRead(id);
    const bool isNeeded = isRead && id != "iXML" && id != "id3 " && id != "ID3 ";
    facts_.parts.push_back({printable(id, 16), bytes});
    if (id == "data") {
      soundBytes_ = std::min(bytes, there);
      facts_.soundAt = body;
    }
    if (bytes > there) {
      // The sound may be cut off or of unknown length; what says where something is may not.
      if (isNeeded) return wrongFile(place_, "the chunk '" + printable(id, 16) + "' is longer than the file");
      if (id == "data" && bytes < kUnknownLength) facts_.missingBytes = bytes - there;
      return source_.size;
    }
    if (isNeeded && bytes > kMostPartBytes)
      return wrongFile(place_, "the chunk '" + printable(id, 16) + "' is too large");
    if (isRead && bytes <= kMostPartBytes) {
      const std::string content = source_.upTo(body, bytes);
      if (content.size() < bytes) return wrongFile(place_, "a chunk cannot be read");
      take(id, content);
    }
    return body + bytes + (bytes & 1);
  }

  void take(const std::string& id, const std::string& content) {
    Bytes bytes(content);
    if (id == "ds64" && bytes.has(16)) {
      bytes.take(8);
      dataBytes_ = bytes.little(8);
    } else if (id == "fmt " && bytes.has(16)) {
      takeFormat(bytes);
    } else {
      data_.take(id, content);
    }
  }

  void takeFormat(Bytes& bytes) {
    std::uint64_t tag = bytes.little(2);
    facts_.channels = static_cast<int>(bytes.little(2));
    facts_.rate = static_cast<int>(std::min<std::uint64_t>(bytes.little(4), 0x7FFFFFFF));
    bytes.take(4);
    frameBytes_ = bytes.little(2);
    facts_.bits = static_cast<int>(bytes.little(2));
    if (tag == kWaveExtensible && bytes.has(24)) {
      bytes.take(8);
      tag = bytes.little(2);
    }
    if (tag == kWavePcm) facts_.encoding = "pcm" + std::to_string(facts_.bits);
    if (tag == kWaveFloat) facts_.encoding = "float" + std::to_string(facts_.bits);
  }

  const ByteSource& source_;
  const std::string& place_;
  FileFacts& facts_;
  RiffData data_;
  bool isLarge_ = false;
  std::uint64_t dataBytes_ = 0, frameBytes_ = 0;
  std::optional<std::uint64_t> soundBytes_;
};

}  // namespace

Result<> readRiffFacts(const ByteSource& source, const std::string& place, FileFacts& facts) {
  return WavReader(source, place, facts).read();
}

bool RiffData::isRead(std::string_view id) {
  static constexpr std::array<std::string_view, 7> kRead{"cue ", "LIST", "smpl", "bext",
                                                         "iXML", "id3 ", "ID3 "};
  return std::find(kRead.begin(), kRead.end(), id) != kRead.end();
}

void RiffData::take(std::string_view id, const std::string& content) {
  Bytes bytes(content);
  if (id == "cue ") return takeCues(bytes);
  if (id == "smpl") return takeLoops(bytes);
  if (id == "bext") return takeBroadcast(bytes);
  if (id == "iXML") return takeIxml(facts_, content);
  if (id == "id3 " || id == "ID3 ") return takeId3(facts_, content, facts_.rate);
  if (id != "LIST" || !bytes.has(4)) return;
  const std::string_view list = bytes.take(4);
  if (list == "adtl") takeLabels(bytes);
  if (list == "INFO") takeInfo(bytes);
}

void RiffData::takeBroadcast(Bytes& bytes) {
  if (!bytes.has(346)) return;
  static constexpr std::array<std::pair<const char*, std::size_t>, 5> kTexts{{{"Description", 256},
                                                                              {"Originator", 32},
                                                                              {"OriginatorReference", 32},
                                                                              {"OriginationDate", 10},
                                                                              {"OriginationTime", 8}}};
  for (const auto& [name, size] : kTexts) addText(facts_, "bext", name, bytes.take(size));
  const std::uint64_t stamp = bytes.little(8);
  if (stamp <= static_cast<std::uint64_t>(kMaxFrame)) facts_.timeReference = static_cast<Frame>(stamp);
}

void RiffData::takeCues(Bytes& bytes) {
  if (!bytes.has(4)) return;
  for (std::uint64_t left = bytes.little(4); left > 0 && bytes.has(24); --left) {
    const auto id = static_cast<std::uint32_t>(bytes.little(4));
    bytes.take(16);  // play order, chunk, its start, block
    cues_.emplace_back(id, static_cast<std::uint32_t>(bytes.little(4)));
  }
}

void RiffData::takeLabels(Bytes& bytes) {
  while (bytes.has(8)) {
    const std::string_view kind = bytes.take(4);
    const std::uint64_t size = bytes.little(4);
    Bytes body(bytes.take(size));
    if ((size & 1) != 0 && bytes.has(1)) bytes.take(1);
    if (!body.has(4)) continue;
    FileMark& about = about_.emplace_back(static_cast<std::uint32_t>(body.little(4)), FileMark()).second;
    if (kind == "labl") about.label = trimmedText(body.take(body.left()));
    if (kind == "note") about.note = trimmedText(body.take(body.left()));
    if (kind != "ltxt" || !body.has(4)) continue;
    about.length = static_cast<Frame>(body.little(4));
    body.take(12);  // purpose, country, language, dialect, code page
    about.label = trimmedText(body.take(body.left()));
  }
}

void RiffData::takeLoops(Bytes& bytes) {
  if (!bytes.has(36)) return;
  bytes.take(28);
  const std::uint64_t count = bytes.little(4);
  bytes.take(4);  // bytes of the sampler's own
  for (std::uint64_t i = 0; i < count && bytes.has(24); ++i) {
    bytes.take(8);  // id, kind
    const auto start = static_cast<Frame>(bytes.little(4));
    const auto last = static_cast<Frame>(bytes.little(4));
    bytes.take(8);  // fraction, count
    if (last >= start) facts_.loops.push_back({start, last + 1});
  }
}

void RiffData::takeInfo(Bytes& bytes) {
  while (bytes.has(8)) {
    const std::string id(bytes.take(4));
    const std::uint64_t size = bytes.little(4);
    addText(facts_, "INFO", printable(id, 16), bytes.take(size));
    if ((size & 1) != 0 && bytes.has(1)) bytes.take(1);
  }
}

/// A label of `labl` counts more than one of `ltxt`.
void RiffData::finish() {
  std::stable_sort(about_.begin(), about_.end(),
                   [](const auto& a, const auto& b) { return a.first < b.first; });
  for (const auto& [id, at] : cues_) {
    FileMark mark;
    mark.at = at;
    const auto [first, last] =
        std::equal_range(about_.begin(), about_.end(), std::pair(id, FileMark()),
                         [](const auto& a, const auto& b) { return a.first < b.first; });
    std::string ofStretch;
    for (auto about = first; about != last; ++about) {
      const FileMark& said = about->second;
      if (said.length > 0) mark.length = said.length;
      if (!said.note.empty()) mark.note = said.note;
      if (!said.label.empty()) (said.length > 0 ? ofStretch : mark.label) = said.label;
    }
    if (mark.label.empty()) mark.label = ofStretch;
    facts_.marks.push_back(std::move(mark));
  }
  cues_.clear();
}

}  // namespace octaphon
