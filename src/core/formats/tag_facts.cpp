// Texts of a file, as they stand in iXML, ID3v2 and Vorbis comments.
#include <algorithm>
#include <charconv>
#include <map>

#include <taglib/chapterframe.h>
#include <taglib/commentsframe.h>
#include <taglib/id3v2framefactory.h>
#include <taglib/id3v2tag.h>
#include <taglib/mpegfile.h>
#include <taglib/tbytevectorstream.h>
#include <taglib/textidentificationframe.h>
#include <pugixml.hpp>

#include "base/unicode.h"
#include "formats/facts_readers.h"
#include "formats/vorbis_comment.h"

namespace octaphon {
namespace {

constexpr int kDeepestXml = 16;

void walk(FileFacts& facts, const pugi::xml_node& node, const std::string& path, int depth) {
  if (depth > kDeepestXml || facts.texts.size() == kMostTexts) return;
  for (const pugi::xml_node child : node.children()) {
    if (child.type() != pugi::node_element) continue;
    std::string name = (path.empty() ? "" : path + "/") + printable(child.name(), 200);
    if (const char* of = child.attribute("name").value(); *of != '\0') name += ":" + printable(of, 200);
    addText(facts, "iXML", name, child.child_value());
    walk(facts, child, name, depth + 1);
  }
}

std::string text(const TagLib::String& words) { return words.to8Bit(true); }

void takeFrame(FileFacts& facts, const TagLib::ID3v2::Frame& frame, int rate) {
  const TagLib::ByteVector bytes = frame.frameID();
  const std::string id(bytes.data(), bytes.size());
  if (const auto* own = dynamic_cast<const TagLib::ID3v2::UserTextIdentificationFrame*>(&frame)) {
    const TagLib::StringList fields = own->fieldList();
    if (fields.size() > 1) addText(facts, "ID3", "TXXX:" + printable(text(fields[0]), 200), text(fields[1]));
  } else if (const auto* chapter = dynamic_cast<const TagLib::ID3v2::ChapterFrame*>(&frame)) {
    FileMark mark;
    mark.at = atRate(chapter->startTime(), 1000, rate);
    mark.length = std::max<Frame>(0, atRate(chapter->endTime(), 1000, rate) - mark.at);
    const TagLib::ID3v2::FrameList titles = chapter->embeddedFrameList("TIT2");
    if (!titles.isEmpty()) mark.label = printable(text(titles.front()->toString()), 1000);
    facts.marks.push_back(std::move(mark));
  } else if (dynamic_cast<const TagLib::ID3v2::CommentsFrame*>(&frame) != nullptr ||
             dynamic_cast<const TagLib::ID3v2::TextIdentificationFrame*>(&frame) != nullptr) {
    addText(facts, "ID3", printable(id, 16), text(frame.toString()));
  }
}

std::optional<Frame> number(const std::string& words) {
  Frame value = 0;
  const auto [end, mistake] = std::from_chars(words.data(), words.data() + words.size(), value);
  const bool isWell = mistake == std::errc() && end == words.data() + words.size();
  return isWell && value >= 0 && value <= kMaxFrame ? std::optional(value) : std::nullopt;
}

/// `00:00:01.500` in frames.
std::optional<Frame> chapterPlace(const std::string& words, int rate) {
  int hours = 0, minutes = 0, seconds = 0, ms = 0;
  if (std::sscanf(words.c_str(), "%4d:%2d:%2d.%3d", &hours, &minutes, &seconds, &ms) != 4)
    return std::nullopt;
  if (hours < 0 || minutes < 0 || seconds < 0 || ms < 0) return std::nullopt;
  return atRate(((Frame{hours} * 60 + minutes) * 60 + seconds) * 1000 + ms, 1000, rate);
}

/// Chapters and loops among comments.
class CommentPlaces {
 public:
  explicit CommentPlaces(int rate) : rate_(rate) {}

  /// Whether it is one of them.
  bool take(const std::string& field, const std::string& value) {
    if (field == "LOOPSTART" || field == "LOOPLENGTH") {
      (field == "LOOPSTART" ? loopStart_ : loopLength_) = number(value);
      return true;
    }
    constexpr std::string_view kChapter = "CHAPTER";
    if (!field.starts_with(kChapter)) return false;
    const std::size_t digits = std::min(field.find_first_not_of("0123456789", kChapter.size()), field.size());
    if (digits < kChapter.size() + 3) return false;
    Chapter& chapter = chapters_[field.substr(0, digits)];
    const std::string_view what = std::string_view(field).substr(digits);
    if (what.empty()) chapter.time = chapterPlace(value, rate_);
    if (what == "NAME") chapter.name = value;
    if (what == "FRAME") chapter.frame = number(value);
    if (what == "FRAMES") chapter.frames = number(value);
    return true;
  }

  void finish(FileFacts& facts) const {
    for (const auto& [name, chapter] : chapters_) {
      const auto at = chapter.frame ? chapter.frame : chapter.time;
      if (at) facts.marks.push_back({*at, chapter.frames.value_or(0), printable(chapter.name, 1000), {}});
    }
    if (loopStart_ && loopLength_ && *loopLength_ > 0 && facts.loops.empty())
      facts.loops.push_back({*loopStart_, *loopStart_ + *loopLength_});
  }

 private:
  struct Chapter {
    std::optional<Frame> time, frame, frames;
    std::string name;
  };
  int rate_;
  std::map<std::string, Chapter> chapters_;
  std::optional<Frame> loopStart_, loopLength_;
};

}  // namespace

void takeIxml(FileFacts& facts, const std::string& xml) {
  pugi::xml_document document;
  if (document.load_buffer(xml.data(), xml.size(), pugi::parse_default | pugi::parse_ws_pcdata_single))
    walk(facts, document.child("BWFXML"), "", 0);
}

std::uint64_t id3Bytes(std::string_view head) {
  if (head.size() < 10 || !head.starts_with("ID3")) return 0;
  std::uint64_t size = 0;
  for (std::size_t i = 6; i < 10; ++i) size = size << 7 | (static_cast<unsigned char>(head[i]) & 0x7F);
  const bool hasFooter = (static_cast<unsigned char>(head[5]) & 0x10) != 0;
  return 10 + size + (hasFooter ? 10 : 0);
}

/// Places that ID3 has no frames for.
static void takeFreePlaces(FileFacts& facts) {
  const auto of = [&](std::string_view name) { return number(facts.text("ID3", name)); };
  if (!facts.timeReference) facts.timeReference = of("TXXX:TIME_REFERENCE");
  const auto start = of("TXXX:LOOPSTART"), length = of("TXXX:LOOPLENGTH");
  if (start && length && *length > 0 && facts.loops.empty())
    facts.loops.push_back({*start, *start + *length});
}

void takeId3(FileFacts& facts, const std::string& tag, int rate) {
  TagLib::ByteVectorStream stream(TagLib::ByteVector(tag.data(), static_cast<unsigned>(tag.size())));
  TagLib::MPEG::File file(&stream, TagLib::ID3v2::FrameFactory::instance(), false);
  const TagLib::ID3v2::Tag* read = file.ID3v2Tag();
  if (read == nullptr) return;
  for (const TagLib::ID3v2::Frame* frame : read->frameList())
    if (facts.texts.size() < kMostTexts) takeFrame(facts, *frame, std::max(1, rate));
  takeFreePlaces(facts);
}

void takeComments(FileFacts& facts, std::string_view bytes, int placesAt) {
  std::string vendor;
  Comments comments;
  (void)readComments(bytes, vendor, comments);  // those before a mistake count
  CommentPlaces places(std::max(1, placesAt));
  addText(facts, "comment", "vendor", vendor);
  for (const auto& [field, value] : comments) {
    const std::string name = upperCase(printable(field, 200));
    if (name == "TIME_REFERENCE" && !facts.timeReference) facts.timeReference = number(value);
    places.take(name, value);
    addText(facts, "comment", name, value);
  }
  places.finish(facts);
}

}  // namespace octaphon
