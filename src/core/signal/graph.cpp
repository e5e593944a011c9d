#include "signal/graph.h"

#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <cfloat>
#include <cmath>

#include "base/decibels.h"
#include "base/denormals.h"
#include "base/samples.h"
#include "base/unicode.h"

namespace octaphon {
namespace {

constexpr Frame kLargestBlock = 65536;
constexpr Frame kUsualBlock = 4096;
constexpr Frame kSmallestBlock = 1024;
constexpr std::size_t kCacheBytes = 4u << 20;  // what is made by one node is near when the next one reads it
constexpr std::size_t kMostBytes = 64u << 20;
constexpr Frame kPluginBlock = 512;
constexpr double kMuteSeconds = 0.001;

}  // namespace

Graph::Graph(const SpanRecipe& recipe, const ReadableMedia& media) : recipe_(recipe), media_(media) {}

Graph::Graph(const SpanRecipe& recipe, const ReadableMedia& media, std::vector<NodeIndex> taps,
             PluginHost* plugins)
    : Graph(recipe, media) {
  taps_ = std::move(taps);
  arrange();
  for (const std::vector<std::size_t>& level : levels_)
    for (const std::size_t index : level) prepare(nodes_[index], plugins);
}

Graph::~Graph() = default;

std::unique_ptr<Graph> Graph::fork(std::vector<NodeIndex> taps, Frame end) const {
  std::unique_ptr<Graph> copy(new Graph(recipe_, media_));
  copy->taps_ = std::move(taps);
  copy->arrange();
  for (const std::vector<std::size_t>& level : copy->levels_)
    for (const std::size_t index : level) {
      const Node& from = nodes_[index];
      Node& to = copy->nodes_[index];
      if (to.plan->kind == Kind::Player) copy->makePlayer(to, end);
      if (from.strip) to.strip = std::make_unique<StripRunner>(*from.strip);
      to.effect = from.effect.clone();
      to.delay = from.delay;
      to.error = from.error;
    }
  return copy;
}

/// Which nodes the taps need, in levels, and how large a block may be.
void Graph::arrange() {
  const std::vector<RecipeNode>& plan = recipe_.nodes();
  nodes_.resize(plan.size());
  std::vector<char> needed(plan.size(), 0);
  for (const NodeIndex tap : taps_)
    if (!tap.isSilent()) needed[tap.place()] = 1;
  std::size_t bytesPerFrame = 0;
  for (std::size_t i = plan.size(); i-- > 0;) {
    nodes_[i].plan = &plan[i];
    if (needed[i] == 0) continue;
    bytesPerFrame += static_cast<std::size_t>(plan[i].channels) * sizeof(float);
    for (const NodeIndex input : plan[i].inputs) needed[input.place()] = 1;
  }
  const auto fitting = [&](std::size_t bytes) {
    return static_cast<Frame>(bytes / std::max<std::size_t>(1, bytesPerFrame)) / kPluginBlock * kPluginBlock;
  };
  blockFrames_ = std::clamp(std::min(std::max(fitting(kCacheBytes), kUsualBlock), fitting(kMostBytes)),
                            kSmallestBlock, kLargestBlock);
  zeros_.assign(static_cast<std::size_t>(blockFrames_), 0.0f);
  std::vector<std::size_t> level(plan.size(), 0);
  for (std::size_t i = 0; i < plan.size(); ++i) {
    if (needed[i] == 0) continue;
    for (const NodeIndex input : plan[i].inputs) level[i] = std::max(level[i], level[input.place()] + 1);
    if (levels_.size() <= level[i]) levels_.resize(level[i] + 1);
    levels_[level[i]].push_back(i);
    nodes_[i].samples.resize(static_cast<std::size_t>(plan[i].channels * blockFrames_));
  }
}

void Graph::makePlayer(Node& node, Frame end) {
  const RecipeNode& plan = *node.plan;
  std::vector<HeardClip> clips;
  for (std::size_t i = plan.firstClip; i < plan.firstClip + plan.clipCount; ++i) {
    HeardClip clip = recipe_.heard()[i];
    if (clip.from >= end) continue;
    clip.to = std::min(clip.to, end);
    clips.push_back(clip);
  }
  node.player =
      std::make_unique<ClipPlayer>(recipe_.context().session(), media_, plan.track, std::move(clips));
}

EffectSetting Graph::settingOf(const RecipeNode& plan, int channels) const {
  EffectSetting setting;
  setting.info = plan.info;
  setting.rate = recipe_.context().session().rate;
  setting.channels = channels;
  const CurveWindow window{recipe_.curvesFrom(), recipe_.curvesTo()};
  for (std::size_t i = 0; i < plan.info->parameters.size(); ++i) {
    const ParameterInfo& parameter = plan.info->parameters[i];
    const Automation* curve = plan.curves.empty() ? nullptr : plan.curves[i];
    setting.values.emplace_back(valueOf(*plan.insert, parameter), curve, window,
                                framesOf(parameter.smoothingMs / 1000, setting.rate), parameter.least,
                                parameter.most);
  }
  return setting;
}

void Graph::prepare(Node& node, PluginHost* plugins) {
  const RecipeNode& plan = *node.plan;
  const CurveWindow window{recipe_.curvesFrom(), recipe_.curvesTo()};
  switch (plan.kind) {
    case Kind::Player: makePlayer(node, kMaxFrame); break;
    case Kind::Strip: {
      StripSetting setting;
      setting.inputs = plan.inputChannels;
      setting.outputs = plan.channels;
      setting.gainDb = ValueCurve(plan.gainDb, plan.gainCurve, window, 0, kSilenceDb, kMaxGainDb);
      setting.pan = ValueCurve(plan.pan, plan.panCurve, window, 0, -1, 1);
      setting.mute = ValueCurve(0, plan.muteCurve, window,
                                framesOf(kMuteSeconds, recipe_.context().session().rate), 0, 1);
      node.strip = std::make_unique<StripRunner>(setting);
      break;
    }
    case Kind::Effect:
    case Kind::Gain: prepareEffect(node, plugins); break;
    case Kind::Apply:
    case Kind::Delay: node.delay = DelayLine(plan.channels, plan.delay); break;
    case Kind::Sum:
    case Kind::Stack:
    case Kind::Polarity: break;
  }
}

void Graph::prepareEffect(Node& node, PluginHost* plugins) {
  const RecipeNode& plan = *node.plan;
  if (plan.info->isPlugin) {
    if (plan.inputs.size() > 1) node.keyChannels = recipe_.node(plan.inputs[1]).channels;
    if (plugins == nullptr) {
      node.error = Error{ErrorCode::Unsupported, stageName(plan), "plug-ins are not run in this program", {}};
    } else if (auto made = plugins->make(plan, settingOf(plan, plan.channels), node.keyChannels)) {
      node.plugin = std::move(*made);
    } else {
      node.error = std::move(made).error();
      node.error->place = stageName(plan);
    }
    return;
  }
  const bool computesGain = plan.kind == Kind::Gain;
  const int inputs = plan.inputs.empty() ? 1 : recipe_.node(plan.inputs[0]).channels;
  EffectSetting setting = settingOf(plan, inputs);
  const bool isFixed = setting.isConstant();
  node.effect = EffectRunner(makeProcessor(std::move(setting), plan.channels), inputs, plan.channels,
                             computesGain, isFixed);
}

void Graph::process(Frame at, Frame frames) {
  // Without isolation a worker that waits here would start another pass inside this one.
  tbb::this_task_arena::isolate([&] {
    for (const std::vector<std::size_t>& level : levels_)
      tbb::parallel_for(std::size_t{0}, level.size(), [&](std::size_t i) {
        const DenormalGuard guard;
        run(nodes_[static_cast<std::size_t>(level[i])], at, frames);
      });
  });
}

const float* const* Graph::inputsOf(const Node& node, const float** pointers) const {
  bool sounds = false;
  const float** next = pointers;
  for (std::size_t i = 0; i < node.plan->inputs.size(); ++i) {
    const Node& from = input(node, i);
    sounds |= !from.silent;
    for (int c = 0; c < from.plan->channels; ++c) *next++ = from.silent ? zeros_.data() : channel(from, c);
  }
  return sounds ? pointers : nullptr;
}

void Graph::run(Node& node, Frame at, Frame frames) {
  if (node.error) return;
  for (std::size_t i = 0; i < node.plan->inputs.size(); ++i)
    if (input(node, i).error) {
      node.error = input(node, i).error;
      return;
    }
  const RecipeNode& plan = *node.plan;
  const float* pointers[2 * kMaxTapChannels];
  float* out[kMaxTapChannels];
  for (int c = 0; c < plan.channels; ++c) out[c] = channel(node, c);
  // Inputs were brought to one time; a node's own latency comes on top.
  const Frame sessionAt = plan.inputs.empty() ? at : at - input(node, 0).plan->latency;
  switch (plan.kind) {
    case Kind::Player: {
      const auto sounds = node.player->render(at, frames, out);
      if (!sounds) node.error = sounds.error();
      node.silent = !sounds.value_or(false);
      return;
    }
    case Kind::Sum: return runSum(node, frames);
    case Kind::Polarity:
      node.silent = input(node, 0).silent;
      for (int c = 0; c < plan.channels && !node.silent; ++c)
        for (Frame i = 0; i < frames; ++i) out[c][i] = -channel(input(node, 0), c)[i];
      return;
    case Kind::Strip:
      node.silent = input(node, 0).silent;
      if (!node.silent) node.strip->process(inputsOf(node, pointers), out, sessionAt, frames);
      return;
    case Kind::Effect:
      if (node.plugin) {
        runPlugin(node, sessionAt, frames);
      } else {
        node.silent = !node.effect.process(inputsOf(node, pointers), out, sessionAt, frames);
      }
      return checkFinite(node, frames);
    case Kind::Gain:
      node.silent = false;
      (void)node.effect.process(inputsOf(node, pointers), out, sessionAt, frames);
      return;
    case Kind::Apply: runApply(node, frames); return checkFinite(node, frames);
    case Kind::Stack: return runStack(node, frames);
    case Kind::Delay: node.silent = !node.delay.process(inputsOf(node, pointers), out, frames); return;
  }
}

void Graph::runSum(Node& node, Frame frames) {
  constexpr Frame kTurn = 1024;
  double totals[kTurn];
  std::vector<const Node*> sounding;
  for (std::size_t i = 0; i < node.plan->inputs.size(); ++i)
    if (!input(node, i).silent) sounding.push_back(&input(node, i));
  node.silent = sounding.empty();
  std::vector<const float*> sounds(sounding.size());
  for (int c = 0; c < node.plan->channels && !node.silent; ++c) {
    for (Frame at = 0; at < frames; at += kTurn) {
      const Frame count = std::min(kTurn, frames - at);
      std::fill_n(totals, count, 0.0);
      for (std::size_t i = 0; i < sounds.size(); ++i) sounds[i] = channel(*sounding[i], c) + at;
      addSamples(totals, sounds.data(), sounds.size(), count);
      roundSamples(totals, channel(node, c) + at, count);
    }
  }
}

void Graph::runPlugin(Node& node, Frame at, Frame frames) {
  const float* pointers[2 * kMaxMixChannels];
  const int inputs = node.plan->channels + node.keyChannels;
  if (inputsOf(node, pointers) == nullptr) std::fill_n(pointers, inputs, zeros_.data());
  node.silent = false;
  for (Frame done = 0; done < frames; done += kPluginBlock) {
    const float* in[2 * kMaxMixChannels];
    float* out[kMaxMixChannels];
    for (int c = 0; c < inputs; ++c) in[c] = pointers[c] + done;
    for (int c = 0; c < node.plan->channels; ++c) out[c] = channel(node, c) + done;
    node.plugin->process(in, out, at + done, std::min(kPluginBlock, frames - done));
  }
  if (std::string problem = node.plugin->problem(); !problem.empty())
    node.error = Error{ErrorCode::PluginFailed, node.plan->insert->id, std::move(problem),
                       "Take it out, or use another one"};
}

void Graph::runStack(Node& node, Frame frames) {
  node.silent = true;
  for (std::size_t i = 0; i < node.plan->inputs.size(); ++i)
    node.silent = node.silent && input(node, i).silent;
  int to = 0;
  std::size_t next = 0;
  for (const int width : node.plan->widths) {
    if (node.silent) return;
    const Node* from = width > 0 ? &input(node, next++) : nullptr;
    const bool isHeard = from != nullptr && !from->silent;
    for (int c = 0; c < std::abs(width); ++c, ++to)
      std::copy_n(isHeard ? channel(*from, c) : zeros_.data(), frames, channel(node, to));
  }
}

void Graph::runApply(Node& node, Frame frames) {
  const Node& sound = input(node, 0);
  const Node& gain = input(node, 1);
  const float* in[kMaxMixChannels];
  float* out[kMaxMixChannels];
  for (int c = 0; c < node.plan->channels; ++c) {
    in[c] = sound.silent ? nullptr : channel(sound, c);
    out[c] = channel(node, c);
  }
  node.silent = !node.delay.process(sound.silent ? nullptr : in, out, frames);
  for (int c = 0; c < node.plan->channels && !node.silent; ++c) {
    const float* factor = channel(gain, gain.plan->channels == 1 ? 0 : c);
    for (Frame i = 0; i < frames; ++i) out[c][i] *= factor[i];
  }
}

void Graph::checkFinite(Node& node, Frame frames) {
  int bad = 0;
  for (int c = 0; c < node.plan->channels && !node.silent; ++c) {
    const float* samples = channel(node, c);
    for (Frame i = 0; i < frames; ++i) bad |= !(std::fabs(samples[i]) <= FLT_MAX);
  }
  if (bad != 0)
    node.error = Error{ErrorCode::NotFinite, stageName(*node.plan),
                       "it gave what is not a number, or infinity", "Change its settings, or take it out"};
}

std::string Graph::stageName(const RecipeNode& plan) const {
  if (plan.insert == nullptr) return "the signal";
  return printable(plan.insert->name.empty() ? plan.info->name : plan.insert->name, 60) + " (" +
         plan.insert->id + ")";
}

TapBlock Graph::tap(std::size_t index) const {
  TapBlock block;
  if (taps_[index].isSilent()) return block;
  const Node& node = nodes_[taps_[index].place()];
  if (node.error)
    block.error = &*node.error;
  else if (!node.silent)
    for (int c = 0; c < node.plan->channels; ++c) block.channel[c] = channel(node, c);
  return block;
}

int Graph::channels(std::size_t index) const {
  return taps_[index].isSilent() ? 0 : recipe_.node(taps_[index]).channels;
}

std::vector<ClipStep> Graph::clipSteps() const {
  std::vector<ClipStep> steps;
  for (const Node& node : nodes_)
    if (node.player) steps.insert(steps.end(), node.player->steps().begin(), node.player->steps().end());
  return steps;
}

Frame Graph::latency(std::size_t index) const {
  return taps_[index].isSilent() ? 0 : recipe_.node(taps_[index]).latency;
}

}  // namespace octaphon
