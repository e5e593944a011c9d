#include "plan/row_index.h"

#include <tbb/parallel_for.h>
#include <tbb/parallel_sort.h>

#include <algorithm>

#include "base/hash.h"
#include "plan/sheet.h"

namespace octaphon {

RowIndex::RowIndex(const Sheet& sheet) : rows_(sheet.rows.size()) {
  tbb::parallel_for(std::size_t{0}, rows_.size(), [&](std::size_t i) {
    rows_[i] = {hash64(sheet.keyOf(sheet.rows[i])), static_cast<std::uint32_t>(i)};
  });
  tbb::parallel_sort(rows_.begin(), rows_.end());
}

std::optional<std::size_t> RowIndex::find(const Sheet& sheet, std::string_view key) const {
  const std::uint64_t hash = hash64(key);
  auto at = std::lower_bound(rows_.begin(), rows_.end(), Entry{hash, 0});
  for (; at != rows_.end() && at->first == hash; ++at)
    if (sheet.keyOf(sheet.rows[at->second]) == key) return at->second;
  return std::nullopt;
}

}  // namespace octaphon
