// Ids to be looked up among, in lists of many thousands: flat, as a node for each would be slow to reach.
#pragma once

#include <tsl/robin_set.h>
#include <functional>
#include <iterator>
#include <memory>
#include <string>

#include "base/hash.h"

namespace octaphon {

struct IdHash {
  std::size_t operator()(const std::string& id) const { return hash64(id); }
};

using IdSet = tsl::robin_set<std::string, IdHash, std::equal_to<>, std::allocator<std::string>, true>;

template <class Goes>
void eraseIf(IdSet& ids, const Goes& goes) {
  for (auto id = ids.begin(); id != ids.end();) id = goes(*id) ? ids.erase(id) : std::next(id);
}

}  // namespace octaphon
