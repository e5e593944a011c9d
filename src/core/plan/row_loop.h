// The loop of a row's file, as players are told of it.
#pragma once

#include <optional>

#include "plan/sheet.h"

namespace octaphon {

struct RowLoop {
  LoopWay way = LoopWay::None;
  Frame start = 0, length = 0;  ///< of one lap, in frames of the file
  std::optional<double> beats;  ///< of a lap; nothing without a tempo
  int laps = 1;                 ///< that are played for it
};

/// Nothing where it is none. `extent`: of the file, once its places are known.
std::optional<RowLoop> loopOf(const Sheet& sheet, const Row& row, const Extent& extent);

}  // namespace octaphon
