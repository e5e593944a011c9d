#include "recipe/recipe.h"

#include <algorithm>
#include <atomic>

#include "recipe/recipe_walk.h"

namespace octaphon {

namespace {

const Automation* curveOf(const std::vector<Automation>& automation, std::string_view target) {
  for (const Automation& curve : automation)
    if (curve.on && curve.target == target) return &curve;
  return nullptr;
}

bool isHeard(const Insert& insert, const Overrides& overrides) {
  switch (overrides.inserts) {
    case InsertChoice::All: return true;
    case InsertChoice::None: return false;
    case InsertChoice::Tagged:
      return std::any_of(insert.tags.begin(), insert.tags.end(), [&](const std::string& tag) {
        return std::find(overrides.tags.begin(), overrides.tags.end(), tag) != overrides.tags.end();
      });
  }
  return true;
}

}  // namespace

std::uint64_t SignalContext::nextNumber() {
  static std::atomic<std::uint64_t> last = 0;
  return ++last;
}

SpanRecipe::SpanRecipe(const SignalContext& context, const PlannedSpan& span, const Counting& counting,
                       std::vector<HeardClip> heard)
    : context_(context),
      span_(span),
      counting_(counting),
      heard_(std::move(heard)),
      curvesFrom_(0),
      curvesTo_(kMaxFrame),
      clips_(context.tree().size()),
      sounds_(context.tree().size(), 0),
      clipNodes_(context.tree().size()) {
  if (counting.counts == Counts::BeginsHere) {
    curvesFrom_ = span.first();
    // A point on the end belongs to what follows.
    curvesTo_ = std::max(span.first(), (span.asHeard ? span.last() : span.end()) - 1);
  }
  const TrackTree& tree = context.tree();
  for (std::size_t i = 0; i < heard_.size();) {
    const Strip track = heard_[i].track;
    std::size_t end = i;
    while (end < heard_.size() && heard_[end].track == track) ++end;
    clips_[track.track()] = {static_cast<std::uint32_t>(i), static_cast<std::uint32_t>(end - i)};
    active_.push_back(track);
    const bool inSpan = std::any_of(heard_.begin() + static_cast<std::ptrdiff_t>(i),
                                    heard_.begin() + static_cast<std::ptrdiff_t>(end),
                                    [&](const HeardClip& clip) { return clip.to > span.first(); });
    if (inSpan && !tree.isHelper(track))
      for (Strip at = track; !at.isMain() && sounds_[at.track()] == 0; at = tree.parent(at))
        sounds_[at.track()] = 1;
    i = end;
  }
  nodes_.reserve(2 * active_.size() + 8);
  byContent_.reserve(2 * active_.size() + 8);
}

SpanRecipe::~SpanRecipe() = default;

// --- the session

const Track* SpanRecipe::trackOf(Strip strip) const {
  return strip == Strip::main() ? nullptr : &context_.session().tracks[strip.track()];
}

const std::vector<Insert>& SpanRecipe::insertsOf(Strip strip) const {
  const Track* track = trackOf(strip);
  return track == nullptr ? context_.session().main.inserts : track->inserts;
}

const std::vector<Automation>& SpanRecipe::automationOf(Strip strip) const {
  const Track* track = trackOf(strip);
  return track == nullptr ? context_.session().main.automation : track->automation;
}

int SpanRecipe::widthOf(Strip strip) const {
  const Track* track = trackOf(strip);
  return track == nullptr ? context_.session().main.channels : track->channels;
}

int SpanRecipe::widthAround(Strip strip) const {
  return strip == Strip::main() ? widthOf(strip) : widthOf(context_.tree().parent(strip));
}

// --- what a brief changes

SpanRecipe::BriefWalks& SpanRecipe::walksOf(const Brief& brief) {
  std::unique_ptr<BriefWalks>& walks = walks_[&brief];
  if (!walks) {
    walks = std::make_unique<BriefWalks>();
    walks->brief = &brief;
    for (const TrackException& exception : brief.heard.exceptions) {
      const auto strip =
          exception.track == "main" ? std::optional(Strip::main()) : context_.tree().find(exception.track);
      if (strip) walks->exceptions[*strip] = &exception.overrides;
    }
  }
  return *walks;
}

const Overrides& SpanRecipe::overridesOf(const BriefWalks& walks, Strip strip) const {
  static const Overrides kNone;
  if (!walks.exceptions.empty())
    if (const auto found = walks.exceptions.find(strip); found != walks.exceptions.end())
      return *found->second;
  return overridesTouch(*walks.brief, trackOf(strip)) ? walks.brief->heard.overrides : kNone;
}

// --- runs

SpanRecipe::Walk& SpanRecipe::fullWalk(BriefWalks& walks) {
  if (!walks.full) {
    walks.full = std::make_unique<Walk>();
    walks.full->walks = &walks;
    walks.full->isFull = true;
    walks.full->points = {{Strip::main(), ReachStage::Track}};
    for (const Strip track : active_) giveInputTo(*walks.full, track, 0, kSilentNode);
    walkAll(*walks.full);
  }
  return *walks.full;
}

void SpanRecipe::giveInputTo(Walk& walk, Strip strip, int place, NodeIndex node) {
  const auto [found, isNew] = walk.strips.try_emplace(strip);
  if (isNew) {
    found->second.strip = strip;
    walk.open.emplace(context_.order.rank(strip), strip);
  }
  if (node != kSilentNode) found->second.inputs.push_back({place, node});
}

void SpanRecipe::walkAll(Walk& walk) {
  while (!walk.open.empty()) {
    const Strip strip = walk.open.top().second;
    walk.open.pop();
    processStrip(walk, walk.strips.at(strip));
  }
}

bool SpanRecipe::isTapped(const Walk& walk, Strip strip) const {
  return std::any_of(walk.points.begin(), walk.points.end(),
                     [&](const Walk::Point& p) { return p.strip == strip; });
}

bool SpanRecipe::leadsToTap(const Walk& walk, Strip strip) const {
  return walk.isFull || std::any_of(walk.points.begin(), walk.points.end(), [&](const Walk::Point& point) {
           return point.strip == Strip::main() ||
                  (strip != Strip::main() && context_.tree().isInside(strip, point.strip));
         });
}

/// Whether a return is heard where the strip itself is tapped. Of several sources each has its own share, so
/// that a sum of some is the sum of their files.
bool SpanRecipe::joinsBeforeTap(const Walk& walk, Strip from, Strip to) const {
  return walk.isFull || std::any_of(walk.points.begin(), walk.points.end(), [&](const Walk::Point& point) {
           return point.strip == Strip::main() ||
                  (context_.tree().isInside(from, point.strip) && context_.tree().isInside(to, point.strip));
         });
}

void SpanRecipe::processStrip(Walk& walk, VisitedStrip& strip) {
  const Strip index = strip.strip;
  const Track* track = trackOf(index);
  if (track != nullptr && context_.tree().isMuted(index)) return;
  const Overrides& overrides = overridesOf(*walk.walks, index);
  std::vector<NodeIndex> inputs;
  if (track != nullptr && track->holdsClips()) inputs.push_back(clipsOf(walk, index));
  std::sort(strip.inputs.begin(), strip.inputs.end(),
            [](const VisitedStrip::Input& a, const VisitedStrip::Input& b) { return a.place < b.place; });
  for (const VisitedStrip::Input& input : strip.inputs) inputs.push_back(input.node);
  strip.clips = sum(std::move(inputs), widthOf(index));
  if (strip.clips == kSilentNode && !walk.isFull) return;

  strip.pre = insertChain(walk, strip, overrides, polarity(track, strip.clips));
  sendFrom(walk, strip, true, strip.pre);
  strip.out = this->strip(faderOf(index, overrides), strip.pre);
  sendFrom(walk, strip, false, strip.out);
  if (track != nullptr && (walk.isFull || !isTapped(walk, index))) goUp(walk, index, strip.out);
}

NodeIndex SpanRecipe::polarity(const Track* track, NodeIndex node) {
  if (track == nullptr || !track->invert || node == kSilentNode) return node;
  RecipeNode inverted;
  inverted.kind = RecipeNode::Kind::Polarity;
  inverted.inputs = {node};
  inverted.channels = this->node(node).channels;
  inverted.latency = this->node(node).latency;
  return add(std::move(inverted));
}

NodeIndex SpanRecipe::insertChain(Walk& walk, VisitedStrip& strip, const Overrides& overrides,
                                  NodeIndex node) {
  const std::vector<Insert>& inserts = insertsOf(strip.strip);
  if (walk.isFull) strip.beforeInsert.assign(inserts.size(), kSilentNode);
  for (std::size_t i = 0; i < inserts.size(); ++i) {
    if (walk.isFull) strip.beforeInsert[i] = node;
    if (node != kSilentNode && inserts[i].on && isHeard(inserts[i], overrides))
      node = effect(walk, strip, i, inserts[i], node);
  }
  return node;
}

RecipeNode SpanRecipe::faderOf(Strip strip, const Overrides& overrides) const {
  const Track* track = trackOf(strip);
  const std::vector<Automation>& automation = automationOf(strip);
  RecipeNode fader;
  fader.kind = RecipeNode::Kind::Strip;
  fader.inputChannels = widthOf(strip);
  fader.channels = widthAround(strip);
  if (overrides.faders == Faders::AsMixed) {
    fader.gainDb = track == nullptr ? context_.session().main.gainDb : track->gainDb;
    if (overrides.volumeAutomation) fader.gainCurve = curveOf(automation, "gain");
  } else if (overrides.faders == Faders::Value) {
    fader.gainDb = overrides.faderDb;
  }
  if (track != nullptr && overrides.pans == Pans::AsMixed) {
    fader.pan = track->pan;
    if (overrides.panAutomation) fader.panCurve = curveOf(automation, "pan");
  }
  if (overrides.muteAutomation) fader.muteCurve = curveOf(automation, "mute");
  return fader;
}

/// Into what the strip is in. Helpers go no further than the outermost helper.
void SpanRecipe::goUp(Walk& walk, Strip strip, NodeIndex node) {
  const TrackTree& tree = context_.tree();
  const Strip up = tree.parent(strip);
  const bool staysOut = tree.isHelper(strip) && (up == Strip::main() || !tree.isHelper(up));
  if (!staysOut && leadsToTap(walk, up)) giveInputTo(walk, up, tree.place(strip), node);
}

/// Whether what a strip sends to a return is heard where this walk ends.
bool SpanRecipe::mayReachReturn(Walk& walk, Strip from, Strip to) const {
  if (!walk.isFull && !walk.followsReturns) return false;
  if (context_.tree().isHelper(from) || context_.tree().isMuted(to)) return false;
  if (joinsBeforeTap(walk, from, to)) return true;
  walk.note(RemarkCode::ReturnBeyondReach, to, {});
  return false;
}

void SpanRecipe::sendFrom(Walk& walk, const VisitedStrip& from, bool preFader, NodeIndex node) {
  const Track* track = trackOf(from.strip);
  if (track == nullptr || node == kSilentNode) return;
  for (std::size_t s = 0; s < track->sends.size(); ++s) {
    const Send& send = track->sends[s];
    if (!send.on || send.preFader != preFader) continue;
    const std::optional<SendTarget> to = context_.order.target(send.to);
    if (!to) continue;
    if (context_.order.isFeedback(from.strip, s)) {
      walk.note(RemarkCode::FeedbackSend, from.strip, send.to);
      continue;
    }
    const bool toReturn = !to->insert;
    if (toReturn ? !mayReachReturn(walk, from.strip, to->strip) : !walk.isFull) continue;
    RecipeNode copy;
    copy.kind = RecipeNode::Kind::Strip;
    copy.inputChannels = this->node(node).channels;
    copy.channels = widthOf(to->strip);
    copy.gainDb = send.gainDb;
    copy.gainCurve = curveOf(track->automation, "send:" + send.id);
    const NodeIndex sent = strip(std::move(copy), node);
    if (toReturn)
      giveInputTo(walk, to->strip, context_.tree().place(from.strip), sent);
    else if (sent != kSilentNode)
      walk.keys[{to->strip, *to->insert}].push_back(sent);
  }
}

/// What the same insert gets when everything sounds.
NodeIndex SpanRecipe::fullInput(Walk& walk, Strip strip, std::size_t index, NodeIndex input) {
  if (walk.isFull) return input;
  const Walk& full = fullWalk(*walk.walks);
  const auto found = full.strips.find(strip);
  return found == full.strips.end() || index >= found->second.beforeInsert.size()
             ? kSilentNode
             : found->second.beforeInsert[index];
}

/// What dynamics listen to: what is sent to their key input; where nothing is, their own full input (keyed by
/// the mix), or what they are given.
NodeIndex SpanRecipe::keyOf(Walk& walk, Strip strip, std::size_t index, NodeIndex input, NodeIndex full) {
  if (!context_.order.keySends(strip, index).empty()) {
    const Walk& all = walk.isFull ? walk : fullWalk(*walk.walks);
    const auto sent = all.keys.find({strip, index});
    return sent == all.keys.end() ? kSilentNode : sum(sent->second, widthOf(strip));
  }
  return walk.walks->brief->heard.keyed && full != kSilentNode ? full : input;
}

NodeIndex SpanRecipe::effect(Walk& walk, VisitedStrip& strip, std::size_t index, const Insert& insert,
                             NodeIndex input) {
  const int channels = node(input).channels;
  const EffectInfo* info = usable(walk, strip.strip, insert, channels);
  if (info == nullptr) return input;
  const std::string& name = insert.name.empty() ? info->name : insert.name;
  const std::vector<Automation>* automation = &automationOf(strip.strip);
  const Frame latency = info->latency(context_.session().rate);
  if (info->linearity == EffectInfo::Linearity::Linear && !info->hasKey)
    return insertNode(RecipeNode::Kind::Effect, insert, *info, automation, {input}, channels, latency);

  const NodeIndex full = fullInput(walk, strip.strip, index, input);
  if (info->linearity == EffectInfo::Linearity::Nonlinear && full != input)
    walk.note(RemarkCode::CannotSplit, strip.strip,
              info->isPlugin && !info->about.empty()
                  ? name + " ('" + info->about + "' may say what it listens to)"
                  : name);
  if (!info->hasKey)
    return insertNode(RecipeNode::Kind::Effect, insert, *info, automation, {input}, channels, latency);
  const bool isFed = !context_.order.keySends(strip.strip, index).empty();
  if (!walk.walks->brief->heard.keyed && full != input && !isFed)
    walk.note(RemarkCode::KeyedAlone, strip.strip, name);
  return keyedEffect(walk, strip, index, insert, *info, input, full);
}

/// Dynamics: a gain worked out of a key, and its application. Plug-ins do both themselves.
NodeIndex SpanRecipe::keyedEffect(Walk& walk, const VisitedStrip& strip, std::size_t index,
                                  const Insert& insert, const EffectInfo& info, NodeIndex input,
                                  NodeIndex full) {
  using Kind = RecipeNode::Kind;
  const int channels = node(input).channels;
  const std::vector<Automation>* automation = &automationOf(strip.strip);
  const Frame latency = info.latency(context_.session().rate);
  const NodeIndex key = keyOf(walk, strip.strip, index, input, full);
  if (info.isPlugin)
    return insertNode(Kind::Effect, insert, info, automation,
                      key == kSilentNode ? std::vector<NodeIndex>{input} : std::vector<NodeIndex>{input, key},
                      channels, latency);
  if (key == kSilentNode)  // the gain of silence
    return insertNode(Kind::Apply, insert, info, automation,
                      {input, insertNode(Kind::Gain, insert, info, automation, {}, 1, latency)}, channels,
                      latency);
  const int linked = info.find("linked");
  const bool isLinked = linked < 0 ||
                        valueOf(insert, info.parameters[static_cast<std::size_t>(linked)]) > 0.5 ||
                        node(key).channels != channels;
  const NodeIndex gain =
      insertNode(Kind::Gain, insert, info, automation, {key}, isLinked ? 1 : channels, latency);
  return insertNode(Kind::Apply, insert, info, automation, {input, gain}, channels, latency);
}

/// An insert's effect; null, with a remark, where it is not there or does not take so many channels.
const EffectInfo* SpanRecipe::usable(Walk& walk, Strip strip, const Insert& insert, int channels) const {
  const EffectInfo* info = effectInfo(insert, context_.plugins);
  if (info == nullptr) {
    const std::string why = context_.plugins == nullptr ? std::string() : context_.plugins->problemOf(insert);
    walk.note(RemarkCode::MissingEffect, strip, why.empty() ? "'" + insert.effect + "' is not there" : why);
    return nullptr;
  }
  const bool fits =
      info->inputs == 0 || (info->inputs == info->outputs && (info->inputs == channels || info->inputs == 1));
  if (!fits) {
    walk.note(RemarkCode::PluginChannels, strip, info->name);
    return nullptr;
  }
  if (!info->repeats)
    walk.note(RemarkCode::NeverRepeats, strip, insert.name.empty() ? info->name : insert.name);
  return info;
}

/// All clips of a track as one sound: those without inserts in one player, each other by its own chain.
NodeIndex SpanRecipe::clipsOf(Walk& walk, Strip track) {
  std::optional<NodeIndex>& made = clipNodes_[track.track()];
  if (made && !walk.isFull) return *made;
  const auto [first, count] = clips_[track.track()];
  std::vector<NodeIndex> parts;
  std::size_t plain = first;
  const auto flush = [&](std::size_t end) {
    if (end > plain) parts.push_back(clipChain(walk, track, plain, end - plain));
  };
  for (std::size_t i = first; i < first + count; ++i) {
    if (context_.finder.clipOf(heard_[i]).inserts.empty()) continue;
    flush(i);
    parts.push_back(clipChain(walk, track, i, 1));
    plain = i + 1;
  }
  flush(first + count);
  const bool isPlain =
      parts.size() <= 1 && (count != 1 || context_.finder.clipOf(heard_[first]).inserts.empty());
  const NodeIndex node = sum(std::move(parts), widthOf(track));
  if (isPlain) made = node;  // inserts of clips may be heard by one brief and not by the next
  return node;
}

NodeIndex SpanRecipe::clipChain(Walk& walk, Strip track, std::size_t clip, std::size_t count) {
  RecipeNode player;
  player.kind = RecipeNode::Kind::Player;
  player.channels = widthOf(track);
  player.track = track;
  player.firstClip = clip;
  player.clipCount = count;
  NodeIndex node = add(std::move(player));
  if (count > 1) return node;
  for (const Insert& insert : context_.finder.clipOf(heard_[clip]).inserts) {
    if (!insert.on || !isHeard(insert, overridesOf(*walk.walks, track))) continue;
    const int channels = this->node(node).channels;
    const EffectInfo* info = usable(walk, track, insert, channels);
    if (info == nullptr) continue;
    const Frame latency = info->latency(context_.session().rate);
    if (info->linearity == EffectInfo::Linearity::Dynamics && !info->isPlugin) {
      const NodeIndex gain = insertNode(RecipeNode::Kind::Gain, insert, *info, nullptr, {node}, 1, latency);
      node = insertNode(RecipeNode::Kind::Apply, insert, *info, nullptr, {node, gain}, channels, latency);
    } else {
      node = insertNode(RecipeNode::Kind::Effect, insert, *info, nullptr, {node}, channels, latency);
    }
  }
  return node;
}

}  // namespace octaphon
