// What was found wrong with a delivery: a closed list, for people and programs.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/remark.h"
#include "ledger/accepted.h"

namespace octaphon {

enum class FindingCode {
  Missing,          ///< a file is not there
  Unreadable,       ///< a file cannot be decoded
  CutShort,         ///< a file is shorter than it was made
  Padded,           ///< it is longer
  WrongRate,        ///< its sample rate is another one
  WrongChannels,    ///< it has more or fewer channels
  ChannelsSwapped,  ///< it has the same channels in another order
  WrongFormat,      ///< its container or encoding is another one
  EqualChannels,    ///< all its channels are the same, and were not
  Altered,          ///< its sound is another one
  BytesChanged,     ///< its bytes are others, though nothing that was looked at is
  Swapped,          ///< it holds what another file should hold
  Renamed,          ///< it is there under another name
  Silent,           ///< no sample is anything but zero
  Clipped,          ///< its sound was, or is now, over full scale
  Dc,               ///< its samples have a mean
  OverCeiling,      ///< it is over the ceiling that its brief asks for
  Seam,             ///< its loop joins worse than when it was made
  SumDiffers,       ///< layers do not add up to the mix
  SiblingLength,    ///< files of one span that should be equally long are not
  OutOfLine,        ///< a variation is much louder, quieter, longer or shorter than the others
  Duplicate,        ///< two files have the same sound
  TagsLost,         ///< texts in a file are gone, or others
  MarksLost,        ///< marks or loop points in a file are gone, or elsewhere
  Foreign,          ///< a file is there that nobody delivered
  LeftOver,         ///< a file of ours is there that is not delivered any more
};
inline constexpr int kFindingCodes = static_cast<int>(FindingCode::LeftOver) + 1;

struct FindingInfo {
  FindingCode code;
  std::string_view name;   ///< in JSON and in sessions: `cut-short`
  Severity severity;       ///< Warning or Fault
  std::string_view title;  ///< what has happened, in a few words
  std::string_view cure;   ///< what to do, in a sentence
  std::string_view remark =
      {};  ///< name of a remark that says the same before: accepted there, accepted here
};
const FindingInfo& findingInfo(FindingCode code);
std::optional<FindingCode> findingCodeOf(std::string_view name);

struct FileFinding {
  FindingCode code;
  std::string file;                          ///< relative to the base folder
  std::string value = {};                    ///< what is there, with its unit; empty: it says itself
  std::string expected = {};                 ///< what was asked for
  std::string text;                          ///< what is wrong with it, and the cure; a sentence or two
  std::string row = {};                      ///< its key; empty: none
  std::optional<std::string> accepted = {};  ///< why it was accepted; nothing: it was not
  bool operator==(const FileFinding&) const = default;
};

/// `−1.25 dB`, with a real minus sign.
std::string figureText(double value, int decimals, std::string_view unit);

/// Why a finding is accepted by what is accepted of its brief; nothing where it is not.
std::optional<std::string> reasonFor(const FileFinding& finding, const std::vector<Accepted>& accepted);

/// `what` goes on where the file's name ends: `is silent`. The cure is added.
FileFinding findingAbout(const std::string& file, const std::string& row, FindingCode code,
                         const std::string& what, std::string value = {}, std::string expected = {});

}  // namespace octaphon
