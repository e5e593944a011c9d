// Digests of a recipe: of the sound of its nodes, and of what processed it.
#include <set>

#include "recipe/recipe.h"

namespace octaphon {
namespace {

/// Revision of everything that is no effect: clip players, faders, sums. Bumped whenever the same session
/// would sound different.
constexpr int kMixingRevision = 4;

void addFade(Hasher& hasher, const Fade& fade) {
  hasher.add(fade.length);
  if (fade.length > 0) hasher.add(fade.shape);
}

}  // namespace

const Digest& SpanRecipe::digestOf(NodeIndex index) {
  digests_.resize(nodes_.size());
  // Inputs stand before their nodes, and groups may be nested too deep for a recursion.
  for (std::size_t i = 0; i <= index.place(); ++i)
    if (!digests_[i]) digests_[i] = digestOf(nodes_[i]);
  return *digests_[index.place()];
}

Digest SpanRecipe::digestOf(const RecipeNode& node) {
  Hasher hasher;
  hasher.add(node.kind);
  hasher.add(node.channels);
  for (const NodeIndex input : node.inputs) hasher.add(*digests_[input.place()]);
  switch (node.kind) {
    case RecipeNode::Kind::Player:
      for (std::size_t i = node.firstClip; i < node.firstClip + node.clipCount; ++i)
        addClip(hasher, heard_[i]);
      break;
    case RecipeNode::Kind::Strip:
      hasher.add(node.inputChannels);
      if (node.gainCurve == nullptr) hasher.add(node.gainDb);
      if (node.panCurve == nullptr) hasher.add(node.pan);
      addCurve(hasher, node.gainCurve);
      addCurve(hasher, node.panCurve);
      addCurve(hasher, node.muteCurve);
      break;
    case RecipeNode::Kind::Effect:
    case RecipeNode::Kind::Gain:
    case RecipeNode::Kind::Apply: addEffect(hasher, node); break;
    case RecipeNode::Kind::Delay: hasher.add(node.delay); break;
    case RecipeNode::Kind::Stack:
      for (const int width : node.widths) hasher.add(width);
      break;
    case RecipeNode::Kind::Sum:
    case RecipeNode::Kind::Polarity: break;
  }
  return hasher.digest();
}

void SpanRecipe::addEffect(Hasher& hasher, const RecipeNode& node) const {
  hasher.add(std::string_view(node.info->id));
  hasher.add(node.delay);
  for (std::size_t i = 0; i < node.info->parameters.size(); ++i) {
    hasher.add(valueOf(*node.insert, node.info->parameters[i]));
    if (!node.curves.empty()) addCurve(hasher, node.curves[i]);
  }
  hasher.add(std::string_view(node.insert->state));
  // What rings on and what moves is judged in cells from the session's start.
  if (!node.info->isPlugin) hasher.add(span_.first() - floorOf(span_.first(), kEffectCell) * kEffectCell);
}

/// Only what is heard of it: the points inside the time heard, and one on either side that they come from and
/// lead to.
void SpanRecipe::addCurve(Hasher& hasher, const Automation* curve) const {
  hasher.add(curve != nullptr);
  if (curve == nullptr) return;
  // Heard from the run-up on, to the end of the tail.
  const Frame from = std::max(curvesFrom_, span_.first() - context_.finder.runUpOf(span_, counting_));
  const Frame to = std::min(curvesTo_, span_.last() + span_.context);
  const auto& points = curve->points;
  std::size_t first = 0;
  while (first + 1 < points.size() && points[first + 1].at <= from) ++first;
  for (std::size_t i = first; i < points.size(); ++i) {
    hasher.add(points[i].at - span_.first());
    hasher.add(points[i].value);
    hasher.add(points[i].segment);
    hasher.add(points[i].bend);
    if (points[i].at >= to) break;
  }
}

void SpanRecipe::addClip(Hasher& hasher, const HeardClip& heard) const {
  const Clip& clip = context_.finder.clipOf(heard);
  hasher.add(heard.from - span_.first());
  hasher.add(heard.to - span_.first());
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

Digest SpanRecipe::soundDigest(const Tap& tap) {
  Hasher hasher;
  hasher.add(context_.session().rate);
  hasher.add(tap.channels);
  if (tap.node != kSilentNode) hasher.add(digestOf(tap.node));
  return hasher.digest();
}

Digest SpanRecipe::engineDigest(const Tap& tap) const {
  std::set<std::pair<std::string_view, int>> effects;
  forEachBefore(tap.node, [&](const RecipeNode& node) {
    if (node.info != nullptr) effects.emplace(node.info->id, node.info->revision);
  });
  Hasher hasher;
  hasher.add(kMixingRevision);
  for (const auto& [id, revision] : effects) {
    hasher.add(id);
    hasher.add(revision);
  }
  return hasher.digest();
}

}  // namespace octaphon
