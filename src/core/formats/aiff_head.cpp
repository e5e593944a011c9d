#include "formats/aiff_head.h"

#include <algorithm>
#include <cmath>

#include "formats/id3.h"

namespace octaphon {
namespace {

void put(std::string& out, std::uint64_t value, int bytes) {
  for (int i = bytes - 1; i >= 0; --i) out.push_back(static_cast<char>(value >> (8 * i)));
}

std::string chunk(std::string_view name, const std::string& data) {
  std::string made(name);
  put(made, data.size(), 4);
  return made + data + std::string(data.size() % 2, '\0');
}

/// IEEE 754 with 80 bits: exponent of 15, mantissa of 64 with its leading one.
void putExtended(std::string& out, int rate) {
  int exponent = 0;
  (void)std::frexp(static_cast<double>(rate), &exponent);  // rate = 0.5 … 1 times 2^exponent
  put(out, static_cast<std::uint64_t>(16382 + exponent), 2);
  put(out, static_cast<std::uint64_t>(rate) << (64 - exponent), 8);
}

/// A text behind its length, of an even number of bytes; cut between letters.
void putPaddedText(std::string& out, std::string text) {
  std::size_t size = std::min<std::size_t>(255, text.size());
  while (size > 0 && size < text.size() && (static_cast<unsigned char>(text[size]) & 0xC0) == 0x80) --size;
  text.resize(size);
  out.push_back(static_cast<char>(size));
  out += text;
  if (size % 2 == 0) out.push_back('\0');
}

std::string commonData(const AiffHead& head, bool isFloat) {
  const int bits = encodingInfo(head.form.encoding).bits;
  std::string data;
  put(data, static_cast<std::uint64_t>(head.form.channels), 2);
  put(data, head.dataBytes / static_cast<std::uint64_t>(head.form.channels * bits / 8), 4);
  put(data, static_cast<std::uint64_t>(bits), 2);
  putExtended(data, head.form.rate);
  if (isFloat) {
    data += "fl32";
    putPaddedText(data, "");
  }
  return data;
}

std::string markerData(const std::vector<std::pair<Frame, std::string>>& markers) {
  std::string data;
  put(data, markers.size(), 2);
  for (std::size_t i = 0; i < markers.size(); ++i) {
    put(data, i + 1, 2);
    put(data, static_cast<std::uint64_t>(markers[i].first), 4);
    putPaddedText(data, markers[i].second);
  }
  return data;
}

/// Plays all keys as they are, and loops forward between two markers.
std::string instrumentData(std::size_t from, std::size_t to) {
  std::string data("\x3C\x00\x00\x7F\x01\x7F\x00\x00",
                   8);  // middle C, no detuning, all notes and velocities, 0 dB
  put(data, 1, 2);
  put(data, from, 2);
  put(data, to, 2);
  return data + std::string(6, '\0');  // none on release
}

}  // namespace

std::string AiffHead::bytes() const {
  const bool isFloat = !encodingInfo(form.encoding).isInteger;
  std::string chunks;
  if (isFloat) chunks += chunk("FVER", std::string("\xA2\x80\x51\x40", 4));
  chunks += chunk("COMM", commonData(*this, isFloat));
  std::string head = "FORM";
  put(head, 4 + chunks.size() + 16 + dataBytes + dataBytes % 2 + behindBytes, 4);
  head += (isFloat ? "AIFC" : "AIFF") + chunks + "SSND";
  put(head, 8 + dataBytes, 4);
  put(head, 0, 8);  // offset and block
  return head;
}

std::string aiffDataChunks(const FileData& data, const FileForm& form) {
  std::vector<std::pair<Frame, std::string>> markers;
  for (const FileMark& mark : data.marks)
    if (markers.size() < kMostAiffMarks) markers.emplace_back(mark.at, mark.label);
  std::string chunks, instrument;
  if (data.loop) {
    markers.emplace_back(data.loop->start, "loop start");
    markers.emplace_back(data.loop->end, "loop end");
    instrument = chunk("INST", instrumentData(markers.size() - 1, markers.size()));
  }
  if (!markers.empty()) chunks += chunk("MARK", markerData(markers)) + instrument;
  if (!data.isPlain) chunks += chunk("ID3 ", id3Tag(data, form));
  return chunks;
}

}  // namespace octaphon
