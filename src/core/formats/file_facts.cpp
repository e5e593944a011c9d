#include "formats/file_facts.h"

#include <unistd.h>

#include <algorithm>

#include "base/files.h"
#include "base/unicode.h"
#include "formats/facts_readers.h"

namespace octaphon {

ByteSource bytesOfFile(int fd, std::uint64_t size) {
  return {size, [fd](std::uint64_t at, void* to, std::size_t bytes) {
            return ::pread(fd, to, bytes, static_cast<off_t>(at)) == static_cast<ssize_t>(bytes);
          }};
}

tl::unexpected<Error> wrongFile(const std::string& place, const std::string& why) {
  return fail(ErrorCode::Syntax, place, why, "Write the file again with another program");
}

void addText(FileFacts& facts, std::string_view where, std::string name, std::string_view value) {
  value = value.substr(0, kLongestText);
  value = value.substr(0, value.find('\0'));
  if (value.empty() || facts.texts.size() == kMostTexts) return;
  facts.texts.push_back({std::string(where), std::move(name), decodedText(value)});
}

namespace {

struct Place {
  std::string_view where, name;
};

/// Whether a text is what a tag calls its own there.
bool isOf(const TagInfo& info, const FileText& text) {
  if (text.where == "comment") return text.name == info.vorbis;
  if (text.where == "ID3")
    return text.name == info.id3 || (info.tag == Tag::Tempo && text.name == "TXXX:TEMPO") ||
           (info.tag == Tag::Key && text.name == "TXXX:KEY");
  if (text.where == "INFO") return text.name == info.info;
  return !info.other.empty() && info.other == text.where + " " + text.name;
}

constexpr std::array<Place, 4> kDates{
    {{"bext", "OriginationDate"}, {"comment", "DATE"}, {"ID3", "TDRC"}, {"INFO", "ICRD"}}};
constexpr std::array<Place, 3> kRowMarks{
    {{"iXML", "OCTAPHON/ROW"}, {"comment", "OCTAPHON_ROW"}, {"ID3", "TXXX:OCTAPHON_ROW"}}};
constexpr std::array<Place, 3> kMadeMarks{
    {{"iXML", "OCTAPHON/MADE"}, {"comment", "OCTAPHON_MADE"}, {"ID3", "TXXX:OCTAPHON_MADE"}}};

template <std::size_t kCount>
std::string firstOf(const FileFacts& facts, const std::array<Place, kCount>& places) {
  for (const Place& place : places)
    if (std::string text = facts.text(place.where, place.name); !text.empty()) return text;
  return {};
}

std::string markIn(std::string text) {
  const bool isMark = text.size() == 16 && text.find_first_not_of("0123456789abcdef") == std::string::npos;
  return isMark ? text : std::string();
}

constexpr std::string_view kFactPrefix = "OCTAPHON/FACT:";

}  // namespace

std::string FileFacts::text(std::string_view where, std::string_view name) const {
  const auto found = std::find_if(texts.begin(), texts.end(), [&](const FileText& text) {
    return text.where == where && text.name == name;
  });
  return found == texts.end() ? std::string() : found->value;
}

std::vector<std::pair<std::string, std::string>> FileFacts::tags() const {
  std::vector<std::pair<std::string, std::string>> tags;
  for (const TagInfo& info : kTagInfos) {
    // What is exact is preferred: a tempo stands in TBPM as a whole number.
    const FileText* best = nullptr;
    for (const FileText& text : texts)
      if (isOf(info, text) && (best == nullptr || text.name.starts_with("TXXX:"))) best = &text;
    if (best != nullptr) tags.emplace_back(std::string(info.name), best->value);
  }
  if (std::string date = firstOf(*this, kDates); !date.empty()) tags.emplace_back("date", std::move(date));
  for (const FileText& text : texts)
    if (text.where == "iXML" && text.name.starts_with(kFactPrefix))
      tags.emplace_back(text.name.substr(kFactPrefix.size()), text.value);
  return tags;
}

std::string FileFacts::rowMark() const { return markIn(firstOf(*this, kRowMarks)); }
std::string FileFacts::madeMark() const { return markIn(firstOf(*this, kMadeMarks)); }

/// Fewer bytes than tell the kinds apart are none of them.
static Result<> readAny(const ByteSource& source, const std::string& place, FileFacts& facts) {
  const std::string head = source.upTo(0, 12);
  if (head.size() < 12) return {};
  const std::string_view kind = std::string_view(head).substr(0, 4), form = std::string_view(head).substr(8);
  if ((kind == "RIFF" || kind == "RF64" || kind == "BW64") && form == "WAVE")
    return readRiffFacts(source, place, facts);
  if (kind == "FORM" && (form == "AIFF" || form == "AIFC")) return readAiffFacts(source, place, facts);
  if (kind == "OggS") return readOggFacts(source, facts);
  // ID3v2 stands before MP3, and some write it before FLAC.
  const std::uint64_t tag = id3Bytes(head);
  if (tag > 0) facts.parts.push_back({"ID3", tag});
  if (source.upTo(tag, 4) == "fLaC") {
    OCTAPHON_TRY(readFlacFacts(source, place, tag, facts));
  } else if (!readMp3Facts(source, tag, facts)) {
    facts = {};
    return {};
  }
  if (tag > 0 && tag <= kMostPartBytes) takeId3(facts, source.upTo(0, tag), facts.rate);
  return {};
}

Result<FileFacts> readFileFacts(const ByteSource& source, const std::string& place) {
  FileFacts facts;
  OCTAPHON_TRY(readAny(source, place, facts));
  std::stable_sort(facts.marks.begin(), facts.marks.end(),
                   [](const FileMark& a, const FileMark& b) { return a.at < b.at; });
  return facts;
}

Result<FileFacts> readFileFacts(const std::filesystem::path& file) {
  OCTAPHON_ASSIGN(const FileHandle handle, openRegular(file));
  const auto stamp = stampOf(handle.get());
  if (!stamp) return fail(ErrorCode::NotReadable, file.string());
  return readFileFacts(bytesOfFile(handle.get(), stamp->size), file.string());
}

}  // namespace octaphon
