// AIFF (Apple 1989) and AIFF-C (Apple 1991).
#include <algorithm>
#include <cmath>
#include <map>

#include "base/unicode.h"
#include "formats/facts_readers.h"

namespace octaphon {
namespace {

class AiffReader {
 public:
  AiffReader(const ByteSource& source, const std::string& place, FileFacts& facts)
      : source_(source), place_(place), facts_(facts) {}

  Result<> read() {
    facts_.container = Container::Aiff;
    std::uint64_t at = 12;
    for (std::size_t chunks = 0; at + 8 <= source_.size; ++chunks) {
      if (chunks == kMostParts) return wrongFile(place_, "there are too many chunks");
      const std::string head = source_.upTo(at, 8);
      if (head.size() < 8) return wrongFile(place_, "a chunk's head cannot be read");
      Bytes size(std::string_view(head).substr(4));
      const std::uint64_t bytes = size.big(4), there = source_.size - at - 8;
      const std::string id = head.substr(0, 4);
      facts_.parts.push_back({printable(id, 16), bytes});
      if (id == "SSND") {
        facts_.soundAt = at + 16;
        facts_.missingBytes = bytes > there ? bytes - there : 0;
      }
      const bool isRead = id == "COMM" || id == "MARK" || id == "INST" || id == "ID3 ";
      if (isRead && bytes > std::min(there, kMostPartBytes))
        return wrongFile(place_, "the chunk '" + id + "' is longer than the file, or too large");
      if (isRead) take(id, source_.upTo(at + 8, bytes));
      at += 8 + std::min(bytes + (bytes & 1), there);
    }
    if (hasLoop_ && markers_.contains(loop_.first) && markers_.contains(loop_.second)) {
      const FileLoop loop{markers_[loop_.first].at, markers_[loop_.second].at};
      if (loop.end > loop.start) facts_.loops.push_back(loop);
    }
    for (const auto& [id, marker] : markers_)
      if (!hasLoop_ || (id != loop_.first && id != loop_.second)) facts_.marks.push_back(marker);
    return {};
  }

 private:
  void take(const std::string& id, const std::string& content) {
    Bytes bytes(content);
    if (id == "COMM" && bytes.has(18)) takeCommon(bytes);
    if (id == "MARK" && bytes.has(2)) takeMarkers(bytes);
    if (id == "INST" && bytes.has(20)) takeInstrument(bytes);
    if (id == "ID3 ") takeId3(facts_, content, facts_.rate);
  }

  void takeCommon(Bytes& bytes) {
    facts_.channels = static_cast<int>(bytes.big(2));
    facts_.frames = static_cast<Frame>(bytes.big(4));
    facts_.bits = static_cast<int>(bytes.big(2));
    const auto exponent = static_cast<int>(bytes.big(2));
    const double rate = std::ldexp(static_cast<double>(bytes.big(8)), exponent - 16383 - 63);
    facts_.rate = rate >= 1 && rate < 1e9 ? static_cast<int>(std::lround(rate)) : 0;
    const std::string kind(bytes.take(4));
    if (kind.empty() || kind == "NONE" || kind == "twos")
      facts_.encoding = "aiff" + std::to_string(facts_.bits);
    else if (kind == "fl32" || kind == "FL32")
      facts_.encoding = "aiff-float32";
    else
      facts_.encoding = printable(kind, 16);
  }

  void takeMarkers(Bytes& bytes) {
    for (std::uint64_t left = bytes.big(2); left > 0 && bytes.has(7); --left) {
      const std::uint64_t id = bytes.big(2);
      FileMark marker;
      marker.at = static_cast<Frame>(bytes.big(4));
      const std::size_t size = static_cast<std::size_t>(bytes.big(1));
      marker.label = printable(decodedText(bytes.take(size)), 1000);
      if (size % 2 == 0) bytes.take(1);
      markers_.emplace(id, std::move(marker));
    }
  }

  void takeInstrument(Bytes& bytes) {
    bytes.take(8);
    hasLoop_ = bytes.big(2) == 1;
    loop_.first = bytes.big(2);
    loop_.second = bytes.big(2);
  }

  const ByteSource& source_;
  const std::string& place_;
  FileFacts& facts_;
  std::map<std::uint64_t, FileMark> markers_;
  std::pair<std::uint64_t, std::uint64_t> loop_;
  bool hasLoop_ = false;
};

}  // namespace

Result<> readAiffFacts(const ByteSource& source, const std::string& place, FileFacts& facts) {
  return AiffReader(source, place, facts).read();
}

}  // namespace octaphon
