#include "check/as_made.h"

#include <algorithm>

#include "base/unicode.h"

namespace octaphon {
namespace {

constexpr double kLossyToleranceDb = 3;  // what a lossy format leaves out
constexpr Frame kMp3Padding = 4608;      // frames that decoders of MP3 may give more or fewer

}  // namespace

bool isLossy(const MadeFile& made) {
  const EncodingInfo* info = encodingNamed(made.encoding);
  return info != nullptr && info->isLossy();
}

double energyTolerance(const MadeFile& made) { return isLossy(made) ? kLossyToleranceDb : 0; }

Frame lengthTolerance(const MadeFile& made, const ReadBack& there) {
  return made.encoding == "mp3" || there.facts.encoding == "mp3" ? kMp3Padding : 0;
}

std::string encodingText(const std::string& encoding) {
  const EncodingInfo* info = encodingNamed(encoding);
  return info != nullptr ? std::string(info->text) : encoding.empty() ? "unknown" : printable(encoding, 40);
}

std::string framesText(Frame frames) { return counted(static_cast<std::size_t>(frames), "frame"); }

std::string loopsText(const std::vector<FileLoop>& loops) {
  if (loops.empty()) return "none";
  return "frames " + std::to_string(loops.front().start) + " to " + std::to_string(loops.front().end - 1);
}

std::vector<std::string> lostTexts(const MadeFile& made, const FileFacts& there) {
  const auto now = there.tags();
  std::vector<std::string> lost;
  for (const auto& tag : made.tags)
    if (std::find(now.begin(), now.end(), tag) == now.end()) lost.push_back(tag.first);
  return lost;
}

std::size_t keptMarks(const MadeFile& made, const FileFacts& there) {
  const auto isThere = [&](const FileMark& mark) {
    return std::any_of(there.marks.begin(), there.marks.end(), [&](const FileMark& other) {
      return mark.at == other.at && mark.length == other.length && mark.label == other.label;
    });
  };
  return static_cast<std::size_t>(std::count_if(made.marks.begin(), made.marks.end(), isThere));
}

bool hasItsLoops(const MadeFile& made, const FileFacts& there) {
  return std::all_of(made.loops.begin(), made.loops.end(), [&](const FileLoop& loop) {
    return std::find(there.loops.begin(), there.loops.end(), loop) != there.loops.end();
  });
}

}  // namespace octaphon
