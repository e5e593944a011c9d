// Fuzz target for all readers of text: the first byte chooses one. Checks properties, not only that nothing
// crashes: what was read can be written and read back as the same; a name never leaves its folder.
//
// With clang: cmake -DOCTAPHON_FUZZ=ON, then `fuzz_readers tests/fuzz/corpus`. Without: tests/fuzz/replay.cpp
// runs it on the saved inputs and on mutations of them.
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <source_location>
#include <string_view>

#include "base/safe_folder.h"
#include "base/timecode.h"
#include "base/unicode.h"
#include "exchange/midi_file.h"
#include "exchange/region_table.h"
#include "formats/file_facts.h"
#include "ledger/receipt.h"
#include "naming/expand.h"
#include "naming/file_name.h"
#include "session/brief_file.h"
#include "session/session_json.h"

namespace {

using namespace octaphon;

void require(bool holds, const std::source_location& where = std::source_location::current()) {
  if (holds) return;
  std::fprintf(stderr, "line %u does not hold\n", static_cast<unsigned>(where.line()));
  std::abort();
}

void session(std::string_view text) {
  const auto read = readSession(text, "fuzz");
  if (!read) return require(!read.error().describe().empty());
  const std::string written = writeSession(*read);
  const auto again = readSession(written, "fuzz");
  require(again.has_value());
  require(*again == *read);
  require(writeSession(*again) == written);
}

/// Every field has the same hostile text, and makes folders of it.
class SameText : public NameValues {
 public:
  explicit SameText(std::string text) : text_(std::move(text)) {}
  bool append(const TemplatePart& field, std::string& text, bool& isLost) const override {
    static const Abbreviations kAbbreviations(AbbreviationTable{{"a", "b"}, {"a b", ""}});
    const std::string value = filteredValue(field, text_, &kAbbreviations, isLost);
    text += value;
    return !value.empty();
  }

 private:
  std::string text_;
};

void naming(std::string_view text) {
  const std::size_t half = text.size() / 2;
  const auto format = Template::parse(text.substr(0, half));
  if (format) {
    const auto again = Template::parse(format->text());
    require(again && *again == *format && again->text() == format->text());
    const SameText values{std::string(text.substr(half))};
    for (const Choice<LetterCase>& choice : kChoices<LetterCase>) {
      const std::string name = expandName(*format, values, choice.value).path;
      require(name.empty() || isPlainRelativePath(name));
      for (std::size_t begin = 0; begin < name.size();) {
        const std::size_t slash = std::min(name.find('/', begin), name.size());
        const std::string part = name.substr(begin, slash - begin);
        require(!part.empty() && allowedName(part) == part);
        begin = slash + 1;
      }
    }
  } else {
    const auto mistake = *Template::mistakeIn(text.substr(0, half));
    require(mistake.position + mistake.length <= std::max<std::size_t>(1, half) && !mistake.text.empty());
  }
  const std::string allowed = allowedName(text);
  require(allowed.find('/') == std::string::npos && allowed != "." && allowed != "..");
  require(allowedName(allowed) == allowed);
  const std::string compared = comparableName(text);
  require(comparableName(compared) == compared);
}

void receipt(std::string_view text) {
  const Receipt read = Receipt::parse(text);
  for (const auto& [file, lines] : read.byFile()) require(isPlainRelativePath(file) && !lines.empty());
  const std::string written = read.compacted();
  const Receipt again = Receipt::parse(written);
  require(again.damagedLines() == 0 && again.compacted() == written);
  require(again.numbers() == read.numbers() && again.editions() == read.editions());
}

void briefs(std::string_view text) {
  const auto read = readBriefs(text, "fuzz");
  if (!read) return require(!read.error().describe().empty());
  const std::string written = writeBriefs(*read);
  const auto again = readBriefs(written, "fuzz");
  require(again && writeBriefs(*again) == written);
  Session session;
  for (const Brief& brief : read->briefs) applyBrief(session, brief, read->names);
}

void timecode(std::string_view text) {
  for (const char* name : {"25", "29.97df", "59.94df"}) {
    const PictureRate rate = *parsePictureRate(name);
    const auto frame = parseTimecode(text, rate);
    if (frame) require(*parseTimecode(timecodeText(*frame, rate), rate) == *frame);
  }
}

void fileFacts(std::string_view bytes) {
  ByteSource source;
  source.size = bytes.size();
  source.read = [&](std::uint64_t at, void* to, std::size_t size) {
    if (at > bytes.size() || size > bytes.size() - at) return false;
    bytes.copy(static_cast<char*>(to), size, at);
    return true;
  };
  const auto marks = readFileFacts(source, "fuzz");
  if (!marks) return require(!marks.error().describe().empty());
  for (const FileMark& mark : marks->marks) require(mark.at >= 0 && mark.length >= 0);
  for (const FileLoop& loop : marks->loops) require(loop.start < loop.end);
}

void midi(std::string_view bytes) {
  const auto map = readMidi(bytes, 48000, "fuzz");
  if (!map) return require(!map.error().describe().empty());
  for (std::size_t i = 0; i < map->tempo.size(); ++i) {
    require(map->tempo[i].bpm >= 1 && map->tempo[i].bpm <= 1000);
    require(i == 0 ? map->tempo[i].at == 0 : map->tempo[i].at > map->tempo[i - 1].at);
  }
  for (const MidiMark& mark : map->markers) require(mark.at >= 0 && mark.at <= kMaxFrame);
}

/// What was read makes a session that can be saved, and a table that reads back as itself.
void table(std::string_view bytes) {
  Session session;
  if (!readRegionTable(session, bytes, "fuzz")) return;
  require(readSession(writeSession(session), "fuzz").has_value());
  const std::string written = writeRegionTable(session);
  const auto again = readRegionTable(session, written, "fuzz");
  require(again && again->refused.empty() && writeRegionTable(session) == written);
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size == 0) return 0;
  const std::string_view text(reinterpret_cast<const char*>(data) + 1, size - 1);
  switch (data[0]) {
    case 's': session(text); break;
    case 'n': naming(text); break;
    case 'r': receipt(text); break;
    case 'b': briefs(text); break;
    case 't': timecode(text); break;
    case 'w': fileFacts(text); break;
    case 'm': midi(text); break;
    case 'c': table(text); break;
    default: break;
  }
  return 0;
}
