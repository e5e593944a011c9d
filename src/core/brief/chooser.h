// A selection, ready to be asked about thousands of things.
#pragma once

#include <optional>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "base/name_pattern.h"
#include "brief/selection.h"

namespace octaphon {

/// What rules ask of a thing.
struct Choosable {
  std::string_view id;
  std::string_view name;  ///< a path, of regions and clip sets
  int ink = 0;            ///< as it is drawn
  const std::vector<std::string>* tags = nullptr;
  int level = 0;                                    ///< of groups: 1 right below main
  const std::vector<std::string>* above = nullptr;  ///< ids of the groups it is in; null: its path counts
};

/// Keeps a reference to the selection. For one thread.
class Chooser {
 public:
  explicit Chooser(const Selection& selection);

  bool takes(const Choosable& thing);
  /// Lines that fitted nothing so far.
  std::vector<const Pick*> idle() const;

 private:
  bool fits(std::size_t pick, const Choosable& thing) const;

  const Selection& selection_;
  std::unordered_map<std::string_view, std::vector<std::size_t>> byId_;
  std::vector<std::size_t> rules_;                    // picks that are none by id
  std::vector<std::optional<NamePattern>> patterns_;  // by pick
  std::vector<char> isUsed_;                          // by pick
};

}  // namespace octaphon
