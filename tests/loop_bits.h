// What comes out of all loops that are compiled for wide registers too, as digests.
#pragma once

#include <string>
#include <utility>
#include <vector>

namespace octaphon::test {

using LoopBits = std::vector<std::pair<std::string, std::string>>;  ///< what, and its digest

LoopBits bitsAsBuilt();
LoopBits bitsOfNarrowLoops();  // in octaphon_narrow

}  // namespace octaphon::test
