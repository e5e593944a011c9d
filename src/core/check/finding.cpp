#include "check/finding.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>

#include "base/unicode.h"

namespace octaphon {
namespace {

constexpr auto kFault = Severity::Fault;
constexpr auto kWarning = Severity::Warning;

/// In the order of the codes.
constexpr std::array<FindingInfo, kFindingCodes> kFindings{{
    {FindingCode::Missing, "missing", kFault, "A file is missing", "Make it again, or bring it back."},
    {FindingCode::Unreadable, "unreadable", kFault, "A file cannot be read", "Make it again."},
    {FindingCode::CutShort, "cut-short", kFault, "A file was cut short", "Make it again."},
    {FindingCode::Padded, "padded", kFault, "A file is longer than it was made", "Make it again."},
    {FindingCode::WrongRate, "wrong-rate", kFault, "Another sample rate", "Make it again."},
    {FindingCode::WrongChannels, "wrong-channels", kFault, "More or fewer channels", "Make it again."},
    {FindingCode::ChannelsSwapped, "channels-swapped", kFault, "Channels in another order", "Make it again."},
    {FindingCode::WrongFormat, "wrong-format", kFault, "Another format", "Make it again."},
    {FindingCode::EqualChannels, "equal-channels", kFault, "All channels are the same", "Make it again."},
    {FindingCode::Altered, "altered", kFault, "The sound was altered",
     "Make it again, or deliver what was done to it from the session."},
    {FindingCode::BytesChanged, "bytes-changed", kWarning, "Written by another program",
     "Nothing that was looked at is lost; make it again where its bytes matter."},
    {FindingCode::Swapped, "swapped", kFault, "Files were swapped",
     "Give each its name, or make them again."},
    {FindingCode::Renamed, "renamed", kFault, "A file has another name", "Give it its name back."},
    {FindingCode::Silent, "silent", kFault, "Silence",
     "Look whether its tracks are muted or its clips lie elsewhere; or make it again.", "nothing-sounding"},
    {FindingCode::Clipped, "clipped", kWarning, "Over full scale",
     "Lower a fader, ask for a ceiling, or choose 32 bit float.", "clipped"},
    {FindingCode::Dc, "dc", kWarning, "An offset", "Take it out of the recording with a filter.", "offset"},
    {FindingCode::OverCeiling, "over-ceiling", kWarning, "Over the ceiling",
     "Lower the ceiling of the brief by as much.", "over-ceiling"},
    {FindingCode::Seam, "seam", kWarning, "A loop joins worse than it did", "Make it again."},
    {FindingCode::SumDiffers, "sum-differs", kFault, "Layers do not add up", "Make all of them again."},
    {FindingCode::SiblingLength, "sibling-length", kWarning, "Files of one span of different lengths",
     "Make all of them again."},
    {FindingCode::OutOfLine, "out-of-line", kWarning, "A variation is out of line",
     "Listen to it beside the others, and level it with them."},
    {FindingCode::Duplicate, "duplicate", kWarning, "The same sound twice",
     "Look whether one of them has the wrong source or region."},
    {FindingCode::TagsLost, "tags-lost", kWarning, "Texts are lost", "Make it again."},
    {FindingCode::MarksLost, "marks-lost", kWarning, "Marks or loop points are lost or elsewhere",
     "Make it again."},
    {FindingCode::Foreign, "foreign", kWarning, "A file that nobody delivered", "Take it out of the folder."},
    {FindingCode::LeftOver, "left-over", kWarning, "A file that is not delivered any more",
     "Move it to the trash."},
}};

}  // namespace

const FindingInfo& findingInfo(FindingCode code) { return kFindings[static_cast<std::size_t>(code)]; }

std::optional<std::string> reasonFor(const FileFinding& finding, const std::vector<Accepted>& accepted) {
  const std::size_t brief = finding.row.find('/');
  if (brief == std::string::npos) return std::nullopt;
  const FindingInfo& info = findingInfo(finding.code);
  const std::string row = finding.row.substr(brief + 1);
  for (const Accepted& one : accepted) {
    const bool isIt = one.code == info.name || (!info.remark.empty() && one.code == info.remark);
    if (isIt && std::find(one.rows.begin(), one.rows.end(), row) != one.rows.end()) return one.reason;
  }
  return std::nullopt;
}

std::string figureText(double value, int decimals, std::string_view unit) {
  char text[64];
  std::snprintf(text, sizeof text, "%s%.*f ", value < 0 ? "−" : "", decimals, std::fabs(value));
  return text + std::string(unit);
}

FileFinding findingAbout(const std::string& file, const std::string& row, FindingCode code,
                         const std::string& what, std::string value, std::string expected) {
  const std::string cure(findingInfo(code).cure);
  return {code, file, std::move(value), std::move(expected), printable(file, 400) + " " + what + ". " + cure,
          row};
}

std::optional<FindingCode> findingCodeOf(std::string_view name) {
  const auto found = std::find_if(kFindings.begin(), kFindings.end(),
                                  [&](const FindingInfo& info) { return info.name == name; });
  return found == kFindings.end() ? std::nullopt : std::optional(found->code);
}

}  // namespace octaphon
