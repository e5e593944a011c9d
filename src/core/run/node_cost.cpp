#include "run/node_cost.h"

#include <algorithm>
#include <array>
#include <string_view>
#include <vector>

namespace octaphon {
namespace {

struct EffectCost {
  std::string_view effect;
  double perChannel;  // nanoseconds a frame
};
constexpr std::array<EffectCost, 7> kEffects{{{"trim", 2.7},
                                              {"equaliser", 22},
                                              {"compressor", 31},
                                              {"limiter", 18},
                                              {"saturation", 337},
                                              {"echo", 4.3},
                                              {"reverb", 10}}};
constexpr double kPluginCost = 60;

double effectCost(const RecipeNode& node) {
  if (node.info == nullptr || node.info->isPlugin) return kPluginCost;
  const auto found = std::find_if(kEffects.begin(), kEffects.end(),
                                  [&](const EffectCost& cost) { return cost.effect == node.info->id; });
  return found == kEffects.end() ? kPluginCost : found->perChannel;
}

double nanoseconds(const RecipeNode& node) {
  switch (node.kind) {
    case RecipeNode::Kind::Player: return 1.2;
    case RecipeNode::Kind::Sum: return 0.75 * static_cast<double>(node.inputs.size());
    case RecipeNode::Kind::Polarity:
    case RecipeNode::Kind::Stack: return 0.3;
    case RecipeNode::Kind::Strip: return node.gainCurve != nullptr || node.panCurve != nullptr ? 32 : 0.9;
    case RecipeNode::Kind::Effect:
    case RecipeNode::Kind::Gain: return effectCost(node);
    case RecipeNode::Kind::Apply: return 1.5;
    case RecipeNode::Kind::Delay: return 0.7;
  }
  return 1;
}

}  // namespace

namespace {

constexpr double kIdle = 0.03;  // of its cost, while nothing sounds

/// How much of a stretch something sounds in, and how often it begins anew.
struct Activity {
  double share = 0;  // 0 … 1
  double begins = 0;
};

Activity ofClips(const SpanRecipe& recipe, const RecipeNode& node, Frame from, Frame to) {
  Frame sounds = 0;
  Activity activity;
  for (std::size_t i = node.firstClip; i < node.firstClip + node.clipCount; ++i) {
    const HeardClip& clip = recipe.heard()[i];
    const Frame part = std::min(clip.to, to) - std::max(clip.from, from);
    if (part <= 0) continue;
    sounds += part;
    ++activity.begins;
  }
  activity.share = std::min(1.0, static_cast<double>(sounds) / static_cast<double>(to - from));
  return activity;
}

/// As if they sounded independently of each other.
Activity ofAll(const std::vector<Activity>& all, const std::vector<NodeIndex>& inputs) {
  Activity activity;
  double silent = 1;
  for (const NodeIndex input : inputs) {
    if (input.isSilent()) continue;
    silent *= 1 - all[input.place()].share;
    activity.begins += all[input.place()].begins;
  }
  activity.share = 1 - silent;
  return activity;
}

}  // namespace

double playingCost(const SpanRecipe& recipe, Frame from, Frame to) {
  if (to <= from) return 0;
  const auto frames = static_cast<double>(to - from);
  const int rate = recipe.context().session().rate;
  std::vector<Activity> activities;
  double cost = 0;
  for (const RecipeNode& node : recipe.nodes()) {
    Activity activity = node.kind == RecipeNode::Kind::Player ? ofClips(recipe, node, from, to)
                                                              : ofAll(activities, node.inputs);
    if (node.kind == RecipeNode::Kind::Effect && node.insert != nullptr && node.info != nullptr) {
      const double rings = ringSeconds(*node.insert, *node.info) * rate * activity.begins;
      activity.share = std::min(1.0, activity.share + rings / frames);
    }
    cost += nodeCost(node) * frames * std::max(kIdle, activity.share);
    activities.push_back(activity);
  }
  return cost;
}

double nodeCost(const RecipeNode& node) { return nanoseconds(node) * 1e-9 * std::max(1, node.channels); }

}  // namespace octaphon
