#include "signal/graph.h"

#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

#include <algorithm>

#include "base/decibels.h"
#include "base/denormals.h"

namespace octaphon {
namespace {

constexpr Frame kLargestBlock = 65536;
constexpr Frame kSmallestBlock = 1024;
constexpr std::size_t kBlockBytes = 64u << 20;
constexpr Frame kBlockStep = 256;

const Track& trackOf(const ClipFinder& finder, int track) {
  return finder.session().tracks[static_cast<std::size_t>(track)];
}

/// Of wider tracks the first channels are played; planning refuses to write them.
int playedWidth(int channels) { return std::min(channels, kMaxMixChannels); }

}  // namespace

Graph::Graph(const ClipFinder& finder, const ReadableMedia& media, const std::vector<HeardClip>& heard,
             const std::vector<int>& taps)
    : finder_(finder), media_(media), channels_(playedWidth(finder.session().main.channels)) {
  for (const HeardClip& clip : heard) clips_[clip.track].push_back(clip);
  // Every node gets its inputs first, and groups inside groups go before the ones around them.
  const TrackTree& tree = finder.tree();
  for (auto it = tree.order().rbegin(); it != tree.order().rend(); ++it) outputOf(*it);
  for (const int source : taps) taps_.push_back(throughMain(source));
  arrange();
}

Graph::~Graph() = default;

int Graph::addNode(Node node) {
  nodes_.push_back(std::move(node));
  return static_cast<int>(nodes_.size()) - 1;
}

int Graph::playerOf(int track) {
  const auto found = clips_.find(track);
  if (found == clips_.end()) return kSilence;
  Node node{Kind::Player, 0, {}, {}, nullptr, {}, true, {}};
  node.player = std::make_unique<ClipPlayer>(finder_.session(), media_, track, found->second);
  node.channels = node.player->channels();
  return addNode(std::move(node));
}

int Graph::strip(int input, const MixMatrix& matrix) {
  if (input == kSilence || matrix.isSilent()) return kSilence;
  if (matrix.isIdentity()) return input;
  const auto [found, isNew] = strips_.try_emplace({input, matrix}, 0);
  if (isNew) found->second = addNode({Kind::Strip, matrix.outputs, {input}, matrix, nullptr, {}, true, {}});
  return found->second;
}

int Graph::sum(std::vector<int> inputs) {
  std::erase(inputs, kSilence);
  if (inputs.empty()) return kSilence;
  if (inputs.size() == 1) return inputs.front();
  const auto [found, isNew] = sums_.try_emplace(inputs, 0);
  if (isNew) {
    const int channels = nodes_[static_cast<std::size_t>(inputs.front())].channels;
    found->second = addNode({Kind::Sum, channels, std::move(inputs), {}, nullptr, {}, true, {}});
  }
  return found->second;
}

int Graph::widthAround(int track) const {
  const int up = finder_.tree().parent(track);
  return up == TrackTree::kMain ? channels_ : playedWidth(trackOf(finder_, up).channels);
}

MixMatrix Graph::matrixOf(int track) const {
  const Track& t = trackOf(finder_, track);
  return mixMatrix(playedWidth(t.channels), widthAround(track), gainOf(t.gainDb), t.pan);
}

MixMatrix Graph::mainMatrix() const {
  return mixMatrix(channels_, channels_, gainOf(finder_.session().main.gainDb), 0);
}

int Graph::outputOf(int track) {
  if (const auto found = outputs_.find(track); found != outputs_.end()) return found->second;
  int input = kSilence;
  if (trackOf(finder_, track).isGroup) {
    std::vector<int> inputs;
    for (const int child : finder_.tree().children(track)) inputs.push_back(outputOf(child));
    input = sum(std::move(inputs));
  } else {
    input = playerOf(track);
  }
  return outputs_[track] = strip(input, matrixOf(track));
}

int Graph::throughMain(int track) {
  const TrackTree& tree = finder_.tree();
  if (track == TrackTree::kMain) {
    std::vector<int> inputs;
    for (const int child : tree.children(TrackTree::kMain)) inputs.push_back(outputOf(child));
    return strip(sum(std::move(inputs)), mainMatrix());
  }
  int node = outputOf(track);
  for (int up = tree.parent(track); up != TrackTree::kMain; up = tree.parent(up))
    node = strip(node, matrixOf(up));
  return strip(node, mainMatrix());
}

void Graph::arrange() {
  std::vector<char> needed(nodes_.size(), 0);
  for (const int tap : taps_)
    if (tap != kSilence) needed[static_cast<std::size_t>(tap)] = 1;
  std::size_t bytesPerFrame = 0;
  for (std::size_t i = nodes_.size(); i-- > 0;) {
    if (!needed[i]) continue;
    bytesPerFrame += static_cast<std::size_t>(nodes_[i].channels) * sizeof(float);
    for (const int input : nodes_[i].inputs) needed[static_cast<std::size_t>(input)] = 1;
  }
  const auto fitting =
      static_cast<Frame>(kBlockBytes / std::max<std::size_t>(1, bytesPerFrame)) / kBlockStep * kBlockStep;
  blockFrames_ = std::clamp(fitting, kSmallestBlock, kLargestBlock);
  std::vector<std::size_t> level(nodes_.size(), 0);
  for (std::size_t i = 0; i < nodes_.size(); ++i) {
    if (!needed[i]) continue;
    for (const int input : nodes_[i].inputs)
      level[i] = std::max(level[i], level[static_cast<std::size_t>(input)] + 1);
    if (levels_.size() <= level[i]) levels_.resize(level[i] + 1);
    levels_[level[i]].push_back(static_cast<int>(i));
    nodes_[i].samples.resize(static_cast<std::size_t>(nodes_[i].channels * blockFrames_));
  }
}

void Graph::process(Frame at, Frame frames) {
  // Without isolation a worker that waits here would start another pass inside this one.
  tbb::this_task_arena::isolate([&] {
    for (const std::vector<int>& level : levels_)
      tbb::parallel_for(std::size_t{0}, level.size(), [&](std::size_t i) {
        const DenormalGuard guard;
        run(nodes_[static_cast<std::size_t>(level[i])], at, frames);
      });
  });
}

void Graph::run(Node& node, Frame at, Frame frames) {
  if (node.error) return;
  node.silent = true;
  for (const int input : node.inputs) {
    const Node& from = nodes_[static_cast<std::size_t>(input)];
    if (from.error) {
      node.error = from.error;
      return;
    }
    node.silent = node.silent && from.silent;
  }
  if (node.kind == Kind::Player) {
    float* out[8];
    for (int c = 0; c < node.channels; ++c) out[c] = channel(node, c);
    const auto sounds = node.player->render(at, frames, out);
    if (!sounds) node.error = sounds.error();
    node.silent = !sounds.value_or(false);
    return;
  }
  if (node.silent) return;
  if (node.kind == Kind::Strip)
    runStrip(node, frames);
  else
    runSum(node, frames);
}

void Graph::runStrip(Node& node, Frame frames) {
  const Node& input = nodes_[static_cast<std::size_t>(node.inputs.front())];
  for (int out = 0; out < node.channels; ++out) {
    const auto& gains = node.matrix.gain[static_cast<std::size_t>(out)];
    float* target = channel(node, out);
    if (node.matrix.inputs == 2 && gains[0] != 0 && gains[1] != 0) {
      const float* left = channel(input, 0);
      const float* right = channel(input, 1);
      for (Frame i = 0; i < frames; ++i)
        target[i] = static_cast<float>(left[i] * gains[0] + right[i] * gains[1]);
      continue;
    }
    const int from = node.matrix.inputs == 2 && gains[0] == 0 ? 1 : 0;
    const float* source = channel(input, from);
    const double gain = gains[static_cast<std::size_t>(from)];
    for (Frame i = 0; i < frames; ++i) target[i] = static_cast<float>(source[i] * gain);
  }
}

void Graph::runSum(Node& node, Frame frames) {
  constexpr Frame kTurn = 1024;
  double totals[kTurn];
  for (int c = 0; c < node.channels; ++c) {
    for (Frame at = 0; at < frames; at += kTurn) {
      const Frame count = std::min(kTurn, frames - at);
      std::fill_n(totals, count, 0.0);
      for (const int input : node.inputs) {
        const Node& from = nodes_[static_cast<std::size_t>(input)];
        if (from.silent) continue;
        const float* source = channel(from, c) + at;
        for (Frame i = 0; i < count; ++i) totals[i] += source[i];
      }
      float* target = channel(node, c) + at;
      for (Frame i = 0; i < count; ++i) target[i] = static_cast<float>(totals[i]);
    }
  }
}

TapBlock Graph::tap(std::size_t index) const {
  TapBlock block;
  const int tapped = taps_[index];
  if (tapped == kSilence) return block;
  const Node& node = nodes_[static_cast<std::size_t>(tapped)];
  if (node.error)
    block.error = &*node.error;
  else if (!node.silent)
    for (int c = 0; c < node.channels; ++c) block.channel[c] = channel(node, c);
  return block;
}

}  // namespace octaphon
