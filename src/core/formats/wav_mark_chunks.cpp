#include "formats/wav_mark_chunks.h"

#include <algorithm>
#include <iterator>

#include "formats/riff_bytes.h"

namespace octaphon {
namespace {

constexpr std::uint64_t kMiddleC = 60;  // the note that plays the file as it is
constexpr std::uint64_t kUtf8 = 65001;  // code page
constexpr std::uint64_t kNanoseconds = 1'000'000'000;

std::string samplerData(const FileLoop& loop, int rate) {
  std::string data;
  for (const std::uint64_t value :
       {std::uint64_t{0}, std::uint64_t{0}, kNanoseconds / static_cast<std::uint64_t>(rate), kMiddleC,
        std::uint64_t{0}, std::uint64_t{0}, std::uint64_t{0}, std::uint64_t{1}, std::uint64_t{0}})
    putNumber(data, value, 4);
  // Identifier, forward, first and last frame played, fraction, for ever.
  for (const std::uint64_t value :
       {std::uint64_t{1}, std::uint64_t{0}, static_cast<std::uint64_t>(loop.start),
        static_cast<std::uint64_t>(loop.end - 1), std::uint64_t{0}, std::uint64_t{0}})
    putNumber(data, value, 4);
  return data;
}

std::string cueData(const std::vector<FileMark>& marks) {
  std::string data;
  putNumber(data, marks.size(), 4);
  for (std::size_t i = 0; i < marks.size(); ++i) {
    putNumber(data, i + 1, 4);
    putNumber(data, static_cast<std::uint64_t>(marks[i].at), 4);
    data += "data";
    putNumber(data, 0, 4);
    putNumber(data, 0, 4);
    putNumber(data, static_cast<std::uint64_t>(marks[i].at), 4);
  }
  return data;
}

std::string listData(const std::vector<FileMark>& marks) {
  std::string data = "adtl";
  for (std::size_t i = 0; i < marks.size(); ++i) {
    std::string label;
    putNumber(label, i + 1, 4);
    data += riffChunk("labl", label + marks[i].label + '\0');
  }
  // Behind all labels: some readers stop at what they do not know.
  for (std::size_t i = 0; i < marks.size(); ++i) {
    if (marks[i].length == 0) continue;
    std::string text;
    putNumber(text, i + 1, 4);
    putNumber(text, static_cast<std::uint64_t>(marks[i].length), 4);
    text += "rgn ";
    for (const std::uint64_t value : {std::uint64_t{0}, std::uint64_t{0}, std::uint64_t{0}, kUtf8})
      putNumber(text, value, 2);
    data += riffChunk("ltxt", text);
  }
  return data;
}

}  // namespace

std::vector<std::string> wavMarkChunks(const std::vector<FileMark>& marks,
                                       const std::optional<FileLoop>& loop, int rate) {
  std::vector<std::string> chunks;
  if (loop && loop->end - 1 <= kLastRiffFrame) chunks.push_back(riffChunk("smpl", samplerData(*loop, rate)));
  std::vector<FileMark> fitting;
  std::copy_if(marks.begin(), marks.end(), std::back_inserter(fitting), [](const FileMark& mark) {
    return mark.at <= kLastRiffFrame && mark.length <= kLastRiffFrame;
  });
  if (fitting.empty()) return chunks;
  chunks.push_back(riffChunk("cue ", cueData(fitting)));
  chunks.push_back(riffChunk("LIST", listData(fitting)));
  return chunks;
}

}  // namespace octaphon
