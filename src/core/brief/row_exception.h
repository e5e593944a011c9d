// What single rows of a brief have otherwise than it says, and remarks about them that were accepted.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "brief/ends.h"
#include "brief/loop.h"
#include "brief/output.h"

namespace octaphon {

struct RowException {
  std::string row;        ///< its key without the brief's id
  std::string name = {};  ///< path and name without ending, as it stands; empty: as the template says
  OutputChannels channels = OutputChannels::AsTapped;  ///< AsTapped: as its output says
  std::optional<Encoding> encoding = {};
  int rate = 0;       ///< Hz, one of kFileRates; 0: as its output says
  OwnEnds ends = {};  ///< with `loop` of its sound, and so of all files of it
  OwnLoop loop = {};
  std::string unknownKeys = {};
  bool operator==(const RowException&) const = default;

  bool changesSound() const { return !(ends == OwnEnds{} && loop == OwnLoop{}); }
  bool changesFile() const {
    return channels != OutputChannels::AsTapped || encoding.has_value() || rate != 0;
  }
  bool isNone() const { return name.empty() && !changesSound() && !changesFile() && unknownKeys.empty(); }
};

/// Of a row's key, the part that names its sound: `region:r1/track:t1` of `region:r1/track:t1/wav/all`.
std::string pairOfRow(std::string_view row);

struct AcceptedRemark {
  std::string code;               ///< remarkName() of what was accepted
  std::string reason;             ///< in someone's own words; may be empty
  std::vector<std::string> rows;  ///< keys without the brief's id; an empty one: of the brief as a whole
  std::string unknownKeys = {};
  bool operator==(const AcceptedRemark&) const = default;
};

}  // namespace octaphon
