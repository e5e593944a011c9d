#include "brief/reach.h"

namespace octaphon {
namespace {

bool isOfGroup(ReachStage stage) { return stage == ReachStage::GroupInserts || stage == ReachStage::Group; }

}  // namespace

std::string reachName(const Reach& reach) {
  const std::string name(nameOf(reach.stage));
  return isOfGroup(reach.stage) ? name + ":" + reach.group : name;
}

std::optional<Reach> parseReach(std::string_view name) {
  const std::size_t colon = name.find(':');
  const auto stage = parseChoice<ReachStage>(name.substr(0, colon));
  const std::string_view group =
      colon == std::string_view::npos ? std::string_view() : name.substr(colon + 1);
  if (!stage || isOfGroup(*stage) != !group.empty()) return std::nullopt;
  return Reach{*stage, std::string(group)};
}

}  // namespace octaphon
