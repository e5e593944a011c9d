// What remarks mean, for people: what a list groups them under, and why it matters.
#pragma once

#include "base/remark.h"

namespace octaphon {

struct RemarkInfo {
  RemarkCode code;
  std::string_view name;     ///< in JSON and in sessions: `missing-medium`
  std::string_view title;    ///< what has happened, in a few words
  std::string_view meaning;  ///< what follows from it, in a sentence
  std::string_view cure;     ///< what can be done, in a sentence; a remark's own text knows more
};

const RemarkInfo& remarkInfo(RemarkCode code);

}  // namespace octaphon
