// What a file is in a sum of files.
#pragma once

#include <string>

namespace octaphon {

struct SumPart {
  std::string addsTo = {};  ///< key of the row whose file it adds up to, with the other layers
  int layers = 0;           ///< that add up to it
};

}  // namespace octaphon
