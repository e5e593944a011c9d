// Finds rows of a large sheet by their keys.
#pragma once

#include <cstdint>
#include <optional>
#include <string_view>
#include <utility>
#include <vector>

namespace octaphon {

struct Sheet;

class RowIndex {
 public:
  explicit RowIndex(const Sheet& sheet);
  /// In that sheet. Nothing where no row has this key.
  std::optional<std::size_t> find(const Sheet& sheet, std::string_view key) const;

 private:
  using Entry = std::pair<std::uint64_t, std::uint32_t>;
  std::vector<Entry> rows_;  // hash of the key, and place; in order
};

}  // namespace octaphon
