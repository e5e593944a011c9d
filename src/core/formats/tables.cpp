#include "formats/tables.h"

#include "base/unicode.h"
#include "formats/encoding.h"
#include "formats/file_data.h"

namespace octaphon {
namespace {

std::string ratesText(const EncodingInfo& info) {
  if (info.rates.empty()) return "all";
  std::vector<std::string> rates;
  for (const int rate : info.rates) rates.push_back(plainNumber(rate / 1000.0));
  return listed(rates) + " kHz";
}

std::string limitText(const EncodingInfo& info) {
  switch (info.container) {
    case Container::Wav:
    case Container::Rf64: return "none: over 4 GB it is RF64";
    case Container::Aiff: return "2 GB";
    case Container::Flac: return "2^36 frames";
    default: return "none";
  }
}

std::string orderText(const EncodingInfo& info) {
  return info.order == ChannelOrder::Vorbis ? "as Vorbis has it: L C R Ls Rs LFE" : "L R C LFE …";
}

std::string code(std::string_view text) { return text.empty() ? "" : "`" + std::string(text) + "`"; }

}  // namespace

std::string formatsTable() {
  std::string table =
      "\n| `encoding` | | ending | rates | channels | order of 5.1 | limit | comes back "
      "|\n|---|---|---|---|---|---|---|---|\n";
  for (const EncodingInfo& info : kEncodings)
    table += "| " + code(info.name) + " | " + std::string(info.text) + " | " + code(info.extension) + " | " +
             ratesText(info) + " | 1 to " + std::to_string(info.mostChannels) + " | " +
             (info.mostChannels < 6 ? "" : orderText(info)) + " | " + limitText(info) + " | " +
             (!info.isLossy()  ? "to the bit"
              : info.isGapless ? "lossy, of equal length"
                               : "lossy, with silence around it in old players") +
             " |\n";
  return table + "\n";
}

std::string textsTable() {
  std::string table =
      "\n| text | comments (FLAC, Ogg, Opus) | ID3v2.4 (MP3, AIFF, WAV) | `LIST INFO` (WAV) | else in WAV "
      "and FLAC |\n|---|---|---|---|---|\n";
  for (const TagInfo& info : kTagInfos)
    table += "| " + code(info.name) + " | " + code(info.vorbis) + " | " + code(info.id3) + " | " +
             code(info.info) + " | " + code(info.other) + " |\n";
  return table + "\n";
}

}  // namespace octaphon
