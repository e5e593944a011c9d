#include "recipe/span.h"

#include <array>

namespace octaphon {
namespace {

/// By kind.
constexpr std::array<std::string_view, 7> kKinds{"region", "set",  "session", "markers",
                                                 "extent", "clip", "range"};

}  // namespace

std::string PlannedSpan::key() const {
  const std::string word(kKinds[static_cast<std::size_t>(kind)]);
  return kind == Kind::Session || kind == Kind::Range ? word : word + ":" + id;
}

std::optional<std::pair<PlannedSpan::Kind, std::string>> parseSpanKey(std::string_view key) {
  const std::size_t colon = key.find(':');
  for (std::size_t i = 0; i < kKinds.size(); ++i)
    if (key.substr(0, colon) == kKinds[i])
      return std::pair(static_cast<PlannedSpan::Kind>(i),
                       std::string(colon == std::string_view::npos ? "" : key.substr(colon + 1)));
  return std::nullopt;
}

}  // namespace octaphon
