// What was measured of a file, figure by figure, against what was asked for.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "check/file_findings.h"

namespace octaphon {

struct FileFigure {
  std::string name;       ///< for programs: `true-peak`
  std::string title;      ///< `True peak`
  std::string value;      ///< with its unit
  std::string asked;      ///< what was asked for, or what it was when it was made; empty: neither is known
  std::string tolerance;  ///< empty: none, it has to be the very same
  std::optional<bool> isRight;  ///< nothing: nothing was asked
};

/// Of a file that was read back; empty of others.
std::vector<FileFigure> figuresOf(const CheckedFile& file);

}  // namespace octaphon
