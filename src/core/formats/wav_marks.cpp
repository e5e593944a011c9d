#include "formats/wav_marks.h"

#include <unistd.h>

#include <algorithm>
#include <map>

#include "base/files.h"
#include "base/unicode.h"

namespace octaphon {
namespace {

constexpr std::size_t kMostChunks = 10'000;
constexpr std::uint64_t kMostBytes = 16 << 20;  // of one chunk that is read
constexpr std::uint32_t kSizeElsewhere = 0xFFFFFFFF;
constexpr std::uint64_t kUnknownLength = 0x7FFF0000;  // written into a pipe: programs put a huge number there

/// Little-endian numbers out of a chunk; nothing is read past its end.
class Bytes {
 public:
  explicit Bytes(std::string_view data) : data_(data) {}
  std::size_t left() const { return data_.size() - at_; }
  bool has(std::size_t bytes) const { return left() >= bytes; }
  std::uint32_t u32() {
    std::uint32_t value = 0;
    for (unsigned i = 0; i < 4; ++i)
      value |= static_cast<std::uint32_t>(static_cast<unsigned char>(data_[at_ + i])) << (8 * i);
    at_ += 4;
    return value;
  }
  std::uint64_t u64() {
    const std::uint64_t low = u32();
    return low | (static_cast<std::uint64_t>(u32()) << 32);
  }
  std::string_view take(std::size_t bytes) {
    const std::string_view part = data_.substr(at_, bytes);
    at_ += part.size();
    return part;
  }

 private:
  std::string_view data_;
  std::size_t at_ = 0;
};

std::string textOf(std::string_view bytes) {
  return printable(decodedText(bytes.substr(0, bytes.find('\0'))), 1000);
}

class WavReader {
 public:
  WavReader(const ByteSource& source, std::string place) : source_(source), place_(std::move(place)) {}

  Result<WavMarks> read() {
    char head[12];
    if (!source_.read(0, head, sizeof head)) return WavMarks{};
    const std::string_view kind(head, 4);
    isLarge_ = kind == "RF64" || kind == "BW64";
    if ((kind != "RIFF" && !isLarge_) || std::string_view(head + 8, 4) != "WAVE") return WavMarks{};
    std::uint64_t at = 12;
    for (std::size_t chunks = 0; at + 8 <= source_.size; ++chunks) {
      if (chunks == kMostChunks) return wrong("there are too many chunks");
      OCTAPHON_ASSIGN(at, readChunk(at));
    }
    return collected();
  }

 private:
  tl::unexpected<Error> wrong(const std::string& why) const {
    return fail(ErrorCode::Syntax, place_, why, "Write the file again with another program");
  }

  /// Gives where the next one begins.
  Result<std::uint64_t> readChunk(std::uint64_t at) {
    char head[8];
    if (!source_.read(at, head, sizeof head)) return wrong("a chunk's head cannot be read");
    Bytes size(std::string_view(head + 4, 4));
    const std::string_view id(head, 4);
    std::uint64_t bytes = size.u32();
    if (isLarge_ && bytes == kSizeElsewhere && id == "data") bytes = dataBytes_;
    const std::uint64_t body = at + 8;
    const bool isOurs = id == "ds64" || id == "cue " || id == "LIST" || id == "smpl" || id == "bext";
    if (bytes > source_.size - body) {
      // The sound may be cut off or of unknown length; what says something about it may not.
      if (isOurs) return wrong("the chunk '" + std::string(id) + "' is longer than the file");
      if (id == "data" && bytes < kUnknownLength) marks_.missingBytes = bytes - (source_.size - body);
      return source_.size;
    }
    if (isOurs) {
      if (bytes > kMostBytes) return wrong("the chunk '" + std::string(id) + "' is too large");
      std::string content(static_cast<std::size_t>(bytes), '\0');
      if (!source_.read(body, content.data(), content.size())) return wrong("a chunk cannot be read");
      take(id, Bytes(content));
    }
    return body + bytes + (bytes & 1);
  }

  void take(std::string_view id, Bytes bytes) {
    if (id == "ds64" && bytes.has(16)) {
      bytes.take(8);
      dataBytes_ = bytes.u64();
    } else if (id == "cue ") {
      takeCues(bytes);
    } else if (id == "LIST" && bytes.has(4) && bytes.take(4) == "adtl") {
      takeLabels(bytes);
    } else if (id == "smpl") {
      takeLoops(bytes);
    } else if (id == "bext" && bytes.has(346)) {
      bytes.take(338);  // description, originator, its reference, date, time
      const std::uint64_t stamp = bytes.u64();
      if (stamp <= static_cast<std::uint64_t>(kMaxFrame)) marks_.timeStamp = static_cast<Frame>(stamp);
    }
  }

  void takeCues(Bytes& bytes) {
    if (!bytes.has(4)) return;
    for (std::uint32_t left = bytes.u32(); left > 0 && bytes.has(24); --left) {
      const std::uint32_t id = bytes.u32();
      bytes.take(16);  // play order, chunk, its start, block
      cues_.push_back({id, bytes.u32()});
    }
  }

  void takeLabels(Bytes& bytes) {
    while (bytes.has(8)) {
      const std::string_view kind = bytes.take(4);
      const std::uint32_t size = bytes.u32();
      Bytes body(bytes.take(size));
      if ((size & 1) != 0 && bytes.has(1)) bytes.take(1);
      if (!body.has(4)) continue;
      WavMark& about = about_[body.u32()];
      if (kind == "labl") about.label = textOf(body.take(body.left()));
      if (kind == "note") about.note = textOf(body.take(body.left()));
      if (kind == "ltxt" && body.has(4)) {
        about.length = body.u32();
        body.take(12);  // purpose, country, language, dialect, code page
        if (about.label.empty()) about.label = textOf(body.take(body.left()));
      }
    }
  }

  void takeLoops(Bytes& bytes) {
    if (!bytes.has(36)) return;
    bytes.take(28);
    const std::uint32_t count = bytes.u32();
    bytes.u32();  // bytes of the sampler's own
    for (std::uint32_t i = 0; i < count && bytes.has(24); ++i) {
      bytes.take(8);  // id, kind
      const Frame start = bytes.u32();
      const Frame last = bytes.u32();
      bytes.take(8);  // fraction, count
      if (last >= start) marks_.loops.push_back({start, last + 1});
    }
  }

  Result<WavMarks> collected() {
    for (const auto& [id, at] : cues_) {
      WavMark mark = about_[id];
      mark.at = at;
      marks_.marks.push_back(std::move(mark));
    }
    std::stable_sort(marks_.marks.begin(), marks_.marks.end(),
                     [](const WavMark& a, const WavMark& b) { return a.at < b.at; });
    return std::move(marks_);
  }

  const ByteSource& source_;
  std::string place_;
  bool isLarge_ = false;
  std::uint64_t dataBytes_ = 0;
  std::vector<std::pair<std::uint32_t, std::uint32_t>> cues_;  // id and frame
  std::map<std::uint32_t, WavMark> about_;                     // by id of the cue point
  WavMarks marks_;
};

}  // namespace

Result<WavMarks> readWavMarks(const ByteSource& source, const std::string& place) {
  return WavReader(source, place).read();
}

Result<WavMarks> readWavMarks(const std::filesystem::path& file) {
  OCTAPHON_ASSIGN(const FileHandle handle, openRegular(file));
  const auto stamp = stampOf(handle.get());
  if (!stamp) return fail(ErrorCode::NotReadable, file.string());
  ByteSource source;
  source.size = stamp->size;
  source.read = [&](std::uint64_t at, void* to, std::size_t size) {
    return ::pread(handle.get(), to, size, static_cast<off_t>(at)) == static_cast<ssize_t>(size);
  };
  return readWavMarks(source, file.string());
}

}  // namespace octaphon
