// Nodes of a recipe: each found by its content, or made.
#include <algorithm>

#include "base/decibels.h"
#include "plan/recipe.h"
#include "routing/mixing_law.h"

namespace octaphon {
namespace {

void addFade(Hasher& hasher, const Fade& fade) {
  hasher.add(fade.length);
  if (fade.length > 0) hasher.add(fade.shape);
}

}  // namespace

int SpanRecipe::add(RecipeNode node) {
  Hasher hasher;
  hasher.add(node.kind);
  for (const int input : node.inputs) hasher.add(nodes_[static_cast<std::size_t>(input)].digest);
  const RecipeNode* first =
      node.inputs.empty() ? nullptr : &nodes_[static_cast<std::size_t>(node.inputs.front())];
  switch (node.kind) {
    case RecipeNode::Kind::Polarity:
      node.channels = first->channels;
      node.latency = first->latency;
      break;
    case RecipeNode::Kind::Strip:
      node.latency = first->latency;
      hasher.add(node.inputChannels);
      hasher.add(node.channels);
      if (node.gainCurve == nullptr) hasher.add(node.gainDb);
      if (node.panCurve == nullptr) hasher.add(node.pan);
      addCurve(hasher, node.gainCurve);
      addCurve(hasher, node.panCurve);
      addCurve(hasher, node.muteCurve);
      break;
    case RecipeNode::Kind::Delay:
      node.channels = first->channels;
      node.latency = first->latency + node.delay;
      hasher.add(node.delay);
      break;
    default: break;
  }
  node.digest = hasher.digest();
  const auto [found, isNew] = byDigest_.try_emplace(node.digest, static_cast<int>(nodes_.size()));
  if (isNew) nodes_.push_back(std::move(node));
  return found->second;
}

int SpanRecipe::late(int input, Frame latency) {
  const Frame own = nodes_[static_cast<std::size_t>(input)].latency;
  if (own == latency) return input;
  RecipeNode node;
  node.kind = RecipeNode::Kind::Delay;
  node.inputs = {input};
  node.delay = latency - own;
  return add(std::move(node));
}

int SpanRecipe::sum(std::vector<int> inputs, int channels) {
  std::erase(inputs, kSilentNode);
  if (inputs.empty()) return kSilentNode;
  if (inputs.size() == 1) return inputs.front();
  Frame latest = 0;
  for (const int input : inputs) latest = std::max(latest, nodes_[static_cast<std::size_t>(input)].latency);
  for (int& input : inputs) input = late(input, latest);
  RecipeNode node;
  node.kind = RecipeNode::Kind::Sum;
  node.channels = channels;
  node.latency = latest;
  node.inputs = std::move(inputs);
  return add(std::move(node));
}

int SpanRecipe::strip(RecipeNode node, int input) {
  const bool moves = node.gainCurve != nullptr || node.panCurve != nullptr || node.muteCurve != nullptr;
  if (input == kSilentNode || (node.gainCurve == nullptr && node.gainDb <= kSilenceDb)) return kSilentNode;
  if (!moves && isPlainWire(node.inputChannels, node.channels, node.gainDb, node.pan)) return input;
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

int SpanRecipe::insertNode(RecipeNode::Kind kind, const Insert& insert, const EffectInfo& info,
                           const std::vector<Automation>* automation, std::vector<int> inputs, int channels,
                           Frame latency) {
  RecipeNode node;
  node.kind = kind;
  node.insert = &insert;
  node.info = &info;
  node.channels = channels;
  if (kind == RecipeNode::Kind::Apply) {
    // The gain is worked out `latency` frames after its key, and the sound waits for it.
    const Frame gainTime = nodes_[static_cast<std::size_t>(inputs[1])].latency;
    const Frame soundTime = nodes_[static_cast<std::size_t>(inputs[0])].latency;
    if (soundTime + latency > gainTime && !nodes_[static_cast<std::size_t>(inputs[1])].inputs.empty())
      inputs[1] = late(inputs[1], soundTime + latency);
    node.latency = std::max(soundTime + latency, gainTime);
    node.delay = node.latency - soundTime;
  } else {
    Frame latest = 0;
    for (const int input : inputs) latest = std::max(latest, nodes_[static_cast<std::size_t>(input)].latency);
    for (int& input : inputs) input = late(input, latest);
    node.latency = latest + latency;
  }
  if (kind != RecipeNode::Kind::Apply) node.curves = curvesFor(insert, info, automation);
  Hasher hasher;
  hasher.add(kind);
  hasher.add(channels);
  hasher.add(std::string_view(info.id));
  hasher.add(node.delay);
  for (std::size_t i = 0; i < info.parameters.size(); ++i) {
    hasher.add(valueOf(insert, info.parameters[i]));
    if (!node.curves.empty()) addCurve(hasher, node.curves[i]);
  }
  hasher.add(std::string_view(insert.state));
  for (const int input : inputs) hasher.add(nodes_[static_cast<std::size_t>(input)].digest);
  node.inputs = std::move(inputs);
  node.digest = hasher.digest();
  hasPlugins_ |= info.isPlugin;
  const auto [found, isNew] = byDigest_.try_emplace(node.digest, static_cast<int>(nodes_.size()));
  if (isNew) nodes_.push_back(std::move(node));
  return found->second;
}

/// Only what is heard of it: the points inside the window, and one on either side that they come from and
/// lead to.
void SpanRecipe::addCurve(Hasher& hasher, const Automation* curve) const {
  hasher.add(curve != nullptr);
  if (curve == nullptr) return;
  const auto& points = curve->points;
  std::size_t first = 0;
  while (first + 1 < points.size() && points[first + 1].at <= curvesFrom_) ++first;
  for (std::size_t i = first; i < points.size(); ++i) {
    hasher.add(points[i].at - span_.start);
    hasher.add(points[i].value);
    hasher.add(points[i].segment);
    hasher.add(points[i].bend);
    if (points[i].at >= curvesTo_) break;
  }
}

void SpanRecipe::addClip(Hasher& hasher, const HeardClip& heard) const {
  const Clip& clip = context_.finder.clipOf(heard);
  hasher.add(heard.from - span_.start);
  hasher.add(heard.to - span_.start);
  hasher.add(heard.endFade);
  hasher.add(heard.from - clip.start + clip.offset);  // where in the medium it begins
  if (clip.channel > 0) hasher.add(clip.channel);
  hasher.add(clip.gainDb);
  const bool fades = clip.fadeIn.length > 0 || clip.fadeOut.length > 0;
  hasher.add(fades);
  if (fades) {
    hasher.add(heard.from - clip.start);
    hasher.add(clip.length);
    addFade(hasher, clip.fadeIn);
    addFade(hasher, clip.fadeOut);
  }
  const MediumFact* fact = context_.facts.find(clip.medium);
  if (fact != nullptr && !fact->content.empty())
    hasher.add(fact->content);
  else
    hasher.add(std::string_view(clip.medium));  // where nothing is known of what is in it
}

}  // namespace octaphon
