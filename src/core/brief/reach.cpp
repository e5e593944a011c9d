#include "brief/reach.h"

#include <array>
#include <utility>

namespace octaphon {
namespace {

constexpr std::array<std::pair<ReachStage, std::string_view>, 8> kStages{{
    {ReachStage::Clips, "clips"},
    {ReachStage::Inserts, "inserts"},
    {ReachStage::Track, "track"},
    {ReachStage::GroupInserts, "group-inserts"},
    {ReachStage::Group, "group"},
    {ReachStage::Groups, "groups"},
    {ReachStage::MainInserts, "main-inserts"},
    {ReachStage::Main, "main"},
}};

bool isOfGroup(ReachStage stage) { return stage == ReachStage::GroupInserts || stage == ReachStage::Group; }

}  // namespace

std::string reachName(const Reach& reach) {
  std::string name(kStages[static_cast<std::size_t>(reach.stage)].second);
  return isOfGroup(reach.stage) ? name + ":" + reach.group : name;
}

std::optional<Reach> parseReach(std::string_view name) {
  const std::size_t colon = name.find(':');
  const std::string_view stage = name.substr(0, colon);
  const std::string_view group =
      colon == std::string_view::npos ? std::string_view() : name.substr(colon + 1);
  for (const auto& [value, text] : kStages)
    if (text == stage && isOfGroup(value) == !group.empty()) return Reach{value, std::string(group)};
  return std::nullopt;
}

std::string_view returnsName(Returns returns) {
  switch (returns) {
    case Returns::In: return "in";
    case Returns::Out: return "out";
    case Returns::Files: return "files";
  }
  return {};
}

std::string_view fadersName(Faders faders) {
  switch (faders) {
    case Faders::AsMixed: return "as-mixed";
    case Faders::Unity: return "unity";
    case Faders::Value: return "value";
  }
  return {};
}

std::string_view insertChoiceName(InsertChoice choice) {
  switch (choice) {
    case InsertChoice::All: return "all";
    case InsertChoice::Tagged: return "tagged";
    case InsertChoice::None: return "none";
  }
  return {};
}

}  // namespace octaphon
