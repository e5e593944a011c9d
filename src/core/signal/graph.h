// A recipe that sounds: the nodes that some taps need, block after block.
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "base/result.h"
#include "media/readable_media.h"
#include "recipe/recipe.h"
#include "signal/clip_player.h"
#include "signal/delay_line.h"
#include "signal/effect_runner.h"
#include "signal/strip_runner.h"

namespace octaphon {

/// What a tap gives for the frames of the last process(). Planar.
struct TapBlock {
  const float* channel[kMaxTapChannels] = {};  ///< null where it is silent
  const Error* error = nullptr;                ///< why there is no sound; set for good once set
  bool isSilent() const { return channel[0] == nullptr; }
  /// What comes `frames` after its beginning.
  TapBlock after(Frame frames) const {
    TapBlock rest = *this;
    for (const float*& samples : rest.channel)
      if (samples != nullptr) samples += frames;
    return rest;
  }
};

/// Makes plug-ins sound; only the program that may crash has one.
class PluginHost {
 public:
  virtual ~PluginHost() = default;
  /// A processor that takes the main channels and behind them `keyChannels` of key, and gives the main
  /// channels. It is called with whole blocks counted from the pass's start.
  virtual Result<std::unique_ptr<Processor>> make(const RecipeNode& node, EffectSetting setting,
                                                  int keyChannels) = 0;
};

/// Where the sound of taps comes from, block by block: a graph here, or one in another process.
class TapSource {
 public:
  virtual ~TapSource() = default;
  /// Most frames process() takes at once; always a multiple of 512.
  virtual Frame blockFrames() const = 0;
  /// The next block; blocks follow each other without gaps. All but the last have a multiple of 512 frames
  /// where plug-ins sound: they are given no others. A graph works in parallel on the caller's TBB arena.
  virtual void process(Frame at, Frame frames) = 0;
  virtual TapBlock tap(std::size_t index) const = 0;
  virtual int channels(std::size_t index) const = 0;
  /// Frames that a tap lies behind the session.
  virtual Frame latency(std::size_t index) const = 0;
  /// Clips that were heard to begin or end with a step; none where that is not looked for.
  virtual std::vector<ClipStep> clipSteps() const { return {}; }
};

/// One thread calls it; inside, process() plays the nodes that do not wait for each other on all cores. After
/// it, and until the next, tap() may be called from any thread.
class Graph : public TapSource {
 public:
  /// `taps` are nodes of the recipe, or kSilentNode. All arguments must outlive the graph.
  Graph(const SpanRecipe& recipe, const ReadableMedia& media, std::vector<NodeIndex> taps,
        PluginHost* plugins = nullptr);
  ~Graph() override;

  /// The same graph in its state of now, with clips that only sound before `end`. Not with plug-ins.
  std::unique_ptr<Graph> fork(std::vector<NodeIndex> taps, Frame end) const;

  Frame blockFrames() const override { return blockFrames_; }
  void process(Frame at, Frame frames) override;
  TapBlock tap(std::size_t index) const override;
  int channels(std::size_t index) const override;
  Frame latency(std::size_t index) const override;
  std::vector<ClipStep> clipSteps() const override;

 private:
  using Kind = RecipeNode::Kind;
  struct Node {
    const RecipeNode* plan = nullptr;
    std::unique_ptr<ClipPlayer> player;
    std::unique_ptr<StripRunner> strip;
    EffectRunner effect;
    std::unique_ptr<Processor> plugin;
    int keyChannels = 0;
    DelayLine delay;
    std::vector<float> samples;  // channels · blockFrames, planar
    bool silent = true;
    std::optional<Error> error;
  };

  Graph(const SpanRecipe& recipe, const ReadableMedia& media);
  void arrange();
  void prepare(Node& node, PluginHost* plugins);
  void prepareEffect(Node& node, PluginHost* plugins);
  void makePlayer(Node& node, Frame end);
  EffectSetting settingOf(const RecipeNode& plan, int channels) const;
  float* channel(Node& node, int c) const {
    return node.samples.data() + static_cast<std::size_t>(c * blockFrames_);
  }
  const float* channel(const Node& node, int c) const {
    return node.samples.data() + static_cast<std::size_t>(c * blockFrames_);
  }
  const Node& input(const Node& node, std::size_t index) const {
    return nodes_[node.plan->inputs[index].place()];
  }
  /// Channels of the inputs behind each other; null where all are silent. Silent ones among them are zeros.
  const float* const* inputsOf(const Node& node, const float** pointers) const;
  void run(Node& node, Frame at, Frame frames);
  void runSum(Node& node, Frame frames);
  void runPlugin(Node& node, Frame at, Frame frames);
  void runStack(Node& node, Frame frames);
  void runApply(Node& node, Frame frames);
  void checkFinite(Node& node, Frame frames);
  std::string stageName(const RecipeNode& plan) const;

  const SpanRecipe& recipe_;
  const ReadableMedia& media_;
  Frame blockFrames_ = 0;
  std::vector<Node> nodes_;                       // by index in the recipe
  std::vector<std::vector<std::size_t>> levels_;  // nodes whose inputs are all in earlier levels
  std::vector<NodeIndex> taps_;
  std::vector<float> zeros_;  // a block of silence
};

}  // namespace octaphon
