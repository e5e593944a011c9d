// Nodes of a recipe: each found by its content, or made.
#include <algorithm>
#include <bit>

#include "base/decibels.h"
#include "recipe/recipe.h"
#include "routing/mixing_law.h"

namespace octaphon {
namespace {

/// A cheap hash of what finds a node; equal ones are compared.
class ContentHash {
 public:
  void add(std::uint64_t value) {
    value_ = (value_ ^ value) * 0x9E3779B97F4A7C15ull;
    value_ ^= value_ >> 29;
  }
  std::uint64_t value() const { return value_; }

 private:
  std::uint64_t value_ = 0;
};

std::uint64_t contentHash(const RecipeNode& node) {
  ContentHash hash;
  hash.add(static_cast<std::uint64_t>(node.kind));
  for (const NodeIndex input : node.inputs) hash.add(input.place());
  hash.add(node.track.slot() << 32 ^ node.firstClip);
  hash.add(std::bit_cast<std::uint64_t>(node.gainDb));
  hash.add(std::bit_cast<std::uint64_t>(node.pan));
  hash.add(reinterpret_cast<std::uintptr_t>(node.insert));
  hash.add(static_cast<std::uint64_t>(node.delay));
  for (const int width : node.widths) hash.add(static_cast<std::uint64_t>(width));
  return hash.value();
}

}  // namespace

NodeIndex SpanRecipe::add(RecipeNode node) {
  const std::uint64_t hash = contentHash(node);
  const auto [first, last] = byContent_.equal_range(hash);
  for (auto found = first; found != last; ++found)
    if (this->node(found->second) == node) return found->second;
  const NodeIndex index(nodes_.size());
  nodes_.push_back(std::move(node));
  byContent_.emplace(hash, index);
  return index;
}

Frame SpanRecipe::latestOf(const std::vector<NodeIndex>& inputs) const {
  Frame latest = 0;
  for (const NodeIndex input : inputs) latest = std::max(latest, node(input).latency);
  return latest;
}

NodeIndex SpanRecipe::delayed(NodeIndex input, Frame latency) {
  const RecipeNode& from = node(input);
  if (from.latency == latency) return input;
  RecipeNode node;
  node.kind = RecipeNode::Kind::Delay;
  node.inputs = {input};
  node.channels = from.channels;
  node.latency = latency;
  node.delay = latency - from.latency;
  return add(std::move(node));
}

NodeIndex SpanRecipe::sum(std::vector<NodeIndex> inputs, int channels) {
  std::erase(inputs, kSilentNode);
  if (inputs.empty()) return kSilentNode;
  if (inputs.size() == 1) return inputs.front();
  const Frame latest = latestOf(inputs);
  for (NodeIndex& input : inputs) input = delayed(input, latest);
  RecipeNode node;
  node.kind = RecipeNode::Kind::Sum;
  node.channels = channels;
  node.latency = latest;
  node.inputs = std::move(inputs);
  return add(std::move(node));
}

NodeIndex SpanRecipe::strip(RecipeNode node, NodeIndex input) {
  const bool moves = node.gainCurve != nullptr || node.panCurve != nullptr || node.muteCurve != nullptr;
  if (input == kSilentNode || (node.gainCurve == nullptr && node.gainDb <= kSilenceDb)) return kSilentNode;
  if (!moves && isPlainWire(node.inputChannels, node.channels, node.gainDb, node.pan)) return input;
  node.latency = this->node(input).latency;
  node.inputs = {input};
  return add(std::move(node));
}

std::vector<const Automation*> SpanRecipe::curvesFor(const Insert& insert, const EffectInfo& info,
                                                     const std::vector<Automation>* automation) const {
  std::vector<const Automation*> curves;
  if (automation == nullptr || automation->empty()) return curves;
  const std::string prefix = "insert:" + insert.id + ":";
  for (const Automation& curve : *automation) {
    if (!curve.on || !curve.target.starts_with(prefix)) continue;
    const int parameter = info.find(std::string_view(curve.target).substr(prefix.size()));
    if (parameter < 0 || !info.parameters[static_cast<std::size_t>(parameter)].automatable) continue;
    curves.resize(info.parameters.size(), nullptr);
    curves[static_cast<std::size_t>(parameter)] = &curve;
  }
  return curves;
}

NodeIndex SpanRecipe::insertNode(RecipeNode::Kind kind, const Insert& insert, const EffectInfo& info,
                                 const std::vector<Automation>* automation, std::vector<NodeIndex> inputs,
                                 int channels, Frame latency) {
  RecipeNode node;
  node.kind = kind;
  node.insert = &insert;
  node.info = &info;
  node.channels = channels;
  if (kind == RecipeNode::Kind::Apply) {
    // The gain is worked out `latency` frames after its key, and the sound waits for it.
    const Frame gainTime = this->node(inputs[1]).latency;
    const Frame soundTime = this->node(inputs[0]).latency;
    if (soundTime + latency > gainTime && !this->node(inputs[1]).inputs.empty())
      inputs[1] = delayed(inputs[1], soundTime + latency);
    node.latency = std::max(soundTime + latency, gainTime);
    node.delay = node.latency - soundTime;
  } else {
    const Frame latest = latestOf(inputs);
    for (NodeIndex& input : inputs) input = delayed(input, latest);
    node.latency = latest + latency;
    node.curves = curvesFor(insert, info, automation);
  }
  node.inputs = std::move(inputs);
  hasPlugins_ |= info.isPlugin;
  return add(std::move(node));
}

}  // namespace octaphon
