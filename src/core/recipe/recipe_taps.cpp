// Where sources are taken off, and what they hear on their way there.
#include <algorithm>

#include "recipe/recipe_walk.h"

namespace octaphon {

bool SpanRecipe::sounds(const PlannedSource& source) const {
  const auto has = [&](Strip track) { return sounds_[track.track()] != 0; };
  switch (source.kind) {
    case PlannedSource::Kind::Track:
    case PlannedSource::Kind::Group: return has(source.track);
    case PlannedSource::Kind::Sum: return std::any_of(source.tracks.begin(), source.tracks.end(), has);
    case PlannedSource::Kind::Together:
      return std::any_of(source.parts.begin(), source.parts.end(),
                         [&](const PlannedSource& part) { return sounds(part); });
    case PlannedSource::Kind::MixWithout:
    case PlannedSource::Kind::Return:
    case PlannedSource::Kind::Mix:
      return std::any_of(active_.begin(), active_.end(),
                         [&](Strip track) { return !context_.tree().isHelper(track); });
  }
  return false;
}

Tap SpanRecipe::collect(Walk& walk) {
  Tap tap;
  std::vector<NodeIndex> nodes;
  tap.channels = 0;
  for (const Walk::Point& point : walk.points) {
    const int width = point.stage == ReachStage::Track ? widthAround(point.strip) : widthOf(point.strip);
    tap.channels = std::max(tap.channels, width);
    const auto found = walk.strips.find(point.strip);
    if (found == walk.strips.end()) continue;
    nodes.push_back(point.stage == ReachStage::Clips     ? found->second.clips
                    : point.stage == ReachStage::Inserts ? found->second.pre
                                                         : found->second.out);
  }
  for (NodeIndex& node : nodes) node = asWide(node, tap.channels);
  tap.node = sum(std::move(nodes), tap.channels);
  tap.issues = walk.issues;
  return tap;
}

NodeIndex SpanRecipe::asWide(NodeIndex node, int channels) {
  if (node == kSilentNode || this->node(node).channels == channels) return node;
  RecipeNode wider;
  wider.kind = RecipeNode::Kind::Strip;
  wider.inputChannels = this->node(node).channels;
  wider.channels = channels;
  return strip(std::move(wider), node);
}

/// Where the reach takes a strip off.
void SpanRecipe::addPoint(Walk& walk, Strip strip) const {
  const TrackTree& tree = context_.tree();
  const Reach& reach = walk.walks->brief->heard.reach;
  const auto pointOf = [&]() -> Walk::Point {
    switch (reach.stage) {
      case ReachStage::Clips:
      case ReachStage::Inserts:
      case ReachStage::Track: return {strip, reach.stage};
      case ReachStage::GroupInserts:
      case ReachStage::Group: {
        const std::optional<Strip> group = tree.find(reach.group);
        if (!group || !tree.isInside(strip, *group)) {
          walk.note(RemarkCode::ReachElsewhere, strip, reach.group);
          return {strip, ReachStage::Track};
        }
        return {*group, reach.stage == ReachStage::Group ? ReachStage::Track : ReachStage::Inserts};
      }
      case ReachStage::Groups: return {tree.outermost(strip), ReachStage::Track};
      case ReachStage::MainInserts: return {Strip::main(), ReachStage::Inserts};
      case ReachStage::Main: break;
    }
    return {Strip::main(), ReachStage::Track};
  };
  const Walk::Point point = pointOf();
  if (std::find(walk.points.begin(), walk.points.end(), point) == walk.points.end())
    walk.points.push_back(point);
}

void SpanRecipe::startTracksIn(Walk& walk, Strip top) {
  for (const Strip track : active_)
    if (context_.tree().isInside(track, top) && !context_.tree().isHelper(track))
      giveInputTo(walk, track, 0, kSilentNode);
}

/// The points where a source is taken off, and the strips that it begins with.
void SpanRecipe::beginWith(Walk& walk, const PlannedSource& source) {
  const TrackTree& tree = context_.tree();
  switch (source.kind) {
    case PlannedSource::Kind::Track: {
      addPoint(walk, source.track);
      const bool isActive = clips_[source.track.track()].second > 0;
      if (isActive && !tree.isHelper(source.track)) giveInputTo(walk, source.track, 0, kSilentNode);
      break;
    }
    case PlannedSource::Kind::Group:
      addPoint(walk, source.track);
      startTracksIn(walk, source.track);
      break;
    case PlannedSource::Kind::Sum:
      for (const Strip track : source.tracks) {
        addPoint(walk, track);
        startTracksIn(walk, track);
      }
      break;
    case PlannedSource::Kind::MixWithout:
      walk.points = {{Strip::main(), ReachStage::Track}};
      walk.followsReturns = true;
      for (const Strip track : active_) {
        const bool isOut =
            tree.isHelper(track) || std::any_of(source.tracks.begin(), source.tracks.end(),
                                                [&](Strip without) { return tree.isInside(track, without); });
        if (!isOut) giveInputTo(walk, track, 0, kSilentNode);
      }
      break;
    case PlannedSource::Kind::Return: {
      // All that is sent to it; what it sends on is in the files of those returns.
      addPoint(walk, source.track);
      walk.followsReturns = false;
      const Walk& full = fullWalk(*walk.walks);
      if (const auto found = full.strips.find(source.track); found != full.strips.end())
        for (const VisitedStrip::Input& input : found->second.inputs)
          giveInputTo(walk, source.track, input.place, input.node);
      break;
    }
    case PlannedSource::Kind::Mix:
    case PlannedSource::Kind::Together: break;
  }
}

/// What its parts give, brought to one time. Those that are silent keep their channels.
Tap SpanRecipe::togetherTap(const Brief& brief, const PlannedSource& source) {
  Tap together;
  RecipeNode stack;
  stack.kind = RecipeNode::Kind::Stack;
  together.channels = 0;
  for (const PlannedSource& part : source.parts) {
    const Tap tap = this->tap(brief, part);
    together.channels += tap.channels;
    together.partChannels.push_back(tap.channels);
    for (const SignalIssue& issue : tap.issues)
      if (std::find(together.issues.begin(), together.issues.end(), issue) == together.issues.end())
        together.issues.push_back(issue);
    stack.widths.push_back(tap.node == kSilentNode ? -tap.channels : tap.channels);
    if (tap.node != kSilentNode) stack.inputs.push_back(tap.node);
  }
  if (stack.inputs.empty()) return together;
  stack.channels = together.channels;
  stack.latency = latestOf(stack.inputs);
  for (NodeIndex& input : stack.inputs) input = delayed(input, stack.latency);
  together.node = add(std::move(stack));
  return together;
}

Tap SpanRecipe::mixTap(BriefWalks& walks) {
  Walk& full = fullWalk(walks);
  Tap tap;
  tap.channels = widthOf(Strip::main());
  const auto main = full.strips.find(Strip::main());
  if (main != full.strips.end()) tap.node = main->second.out;
  tap.issues = full.issues;
  return tap;
}

Tap SpanRecipe::tap(const Brief& brief, const PlannedSource& source) {
  if (source.kind == PlannedSource::Kind::Together) return togetherTap(brief, source);
  BriefWalks& walks = walksOf(brief);
  if (source.kind == PlannedSource::Kind::Mix) return mixTap(walks);
  Walk walk;
  walk.walks = &walks;
  walk.followsReturns = brief.heard.withReturns == Returns::In;
  beginWith(walk, source);
  walkAll(walk);
  return collect(walk);
}

Tap SpanRecipe::everything(const Brief& brief, const std::vector<PlannedSource>& sources) {
  if (brief.heard.reach.stage == ReachStage::Main) return tap(brief, {});
  PlannedSource dry;
  dry.kind = PlannedSource::Kind::Sum;
  std::vector<Strip> returns;
  for (const PlannedSource& source : sources) {
    if (source.kind == PlannedSource::Kind::Return) returns.push_back(source.track);
    if (source.kind == PlannedSource::Kind::Sum)
      dry.tracks.insert(dry.tracks.end(), source.tracks.begin(), source.tracks.end());
    if (source.kind == PlannedSource::Kind::Track || source.kind == PlannedSource::Kind::Group)
      dry.tracks.push_back(source.track);
  }
  Tap all = tap(brief, dry);
  std::vector<NodeIndex> nodes{all.node};
  for (const Strip strip : returns) {
    PlannedSource wet;
    wet.kind = PlannedSource::Kind::Return;
    wet.track = strip;
    const Tap made = tap(brief, wet);
    nodes.push_back(made.node);
    all.channels = std::max(all.channels, made.channels);
  }
  for (NodeIndex& node : nodes) node = asWide(node, all.channels);
  all.node = sum(std::move(nodes), all.channels);
  return all;
}

std::map<std::string, const RecipeNode*> SpanRecipe::pluginsBefore(NodeIndex tapped) const {
  std::map<std::string, const RecipeNode*> plugins;
  forEachBefore(tapped, [&](const RecipeNode& node) {
    if (node.info != nullptr && node.info->isPlugin) plugins[node.insert->id] = &node;
  });
  return plugins;
}

Frame SpanRecipe::longestDelay(NodeIndex tapped) const {
  Frame longest = 0;
  forEachBefore(tapped, [&](const RecipeNode& node) {
    if (node.info == nullptr || node.info->isPlugin) return;
    for (const ParameterInfo& parameter : node.info->parameters)
      if (parameter.isDelay)
        longest =
            std::max(longest, framesOf(valueOf(*node.insert, parameter) / 1000, context_.session().rate));
  });
  return longest;
}

Frame SpanRecipe::longestTail(NodeIndex tapped) const {
  if (tapped == kSilentNode) return 0;
  std::vector<Frame> rings(tapped.place() + 1, 0);  // inputs stand before their nodes
  for (std::size_t i = 0; i < rings.size(); ++i) {
    for (const NodeIndex input : nodes_[i].inputs) rings[i] = std::max(rings[i], rings[input.place()]);
    if (nodes_[i].info != nullptr)
      rings[i] += framesOf(ringSeconds(*nodes_[i].insert, *nodes_[i].info), context_.session().rate);
    rings[i] += nodes_[i].delay;
  }
  Frame last = span_.end();
  forEachClipBefore(tapped, [&](const HeardClip& clip) { last = std::max(last, clip.to); });
  return last - span_.end() + rings.back();
}

const EffectInfo* SpanRecipe::notAdding(NodeIndex tapped) const {
  const EffectInfo* found = nullptr;
  forEachBefore(tapped, [&](const RecipeNode& node) {
    if (node.info != nullptr && node.info->linearity != EffectInfo::Linearity::Linear) found = node.info;
  });
  return found;
}

void SpanRecipe::forEachClipBefore(NodeIndex tapped,
                                   const std::function<void(const HeardClip&)>& visit) const {
  forEachBefore(tapped, [&](const RecipeNode& node) {
    for (std::size_t i = 0; i < node.clipCount; ++i) visit(heard_[node.firstClip + i]);
  });
}

void SpanRecipe::forEachBefore(NodeIndex tapped, const std::function<void(const RecipeNode&)>& visit) const {
  std::vector<char> seen(nodes_.size(), 0);
  std::vector<NodeIndex> open;
  if (tapped != kSilentNode) open.push_back(tapped);
  while (!open.empty()) {
    const NodeIndex index = open.back();
    open.pop_back();
    if (std::exchange(seen[index.place()], 1) != 0) continue;
    visit(node(index));
    open.insert(open.end(), node(index).inputs.begin(), node(index).inputs.end());
  }
}

}  // namespace octaphon
