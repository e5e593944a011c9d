// The graph of one pass: clips, faders and pans, groups, main, and taps of any of them through main. Nodes
// are found by their content, so what taps share is computed once.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "base/result.h"
#include "media/readable_media.h"
#include "plan/heard_clips.h"
#include "routing/mixing_law.h"
#include "signal/clip_player.h"

namespace octaphon {

/// What a tap gives for the frames of the last process(). Planar; channels as main has them: left, right.
struct TapBlock {
  const float* channel[kMaxMixChannels] = {};  ///< null where it is silent
  const Error* error = nullptr;                ///< why there is no sound; set for good once set
  bool isSilent() const { return channel[0] == nullptr; }
};

class Graph {
 public:
  /// `heard` in track order; `taps` are tracks or groups, or TrackTree::kMain for the mix. All arguments must
  /// outlive the graph. Tracks and main have at most kMaxMixChannels channels where they sound.
  Graph(const ClipFinder& finder, const ReadableMedia& media, const std::vector<HeardClip>& heard,
        const std::vector<int>& taps);
  ~Graph();

  int channels() const { return channels_; }
  /// Most frames process() takes at once: 65 536, less where the graph is so wide that blocks would take over
  /// 64 MB; always a multiple of 256.
  Frame blockFrames() const { return blockFrames_; }
  /// The next block; blocks follow each other without gaps. Nodes that do not depend on each other run in
  /// parallel on the caller's TBB arena.
  void process(Frame at, Frame frames);
  TapBlock tap(std::size_t index) const;

 private:
  enum class Kind { Player, Strip, Sum };
  struct Node {
    Kind kind;
    int channels;
    std::vector<int> inputs;
    MixMatrix matrix;                    // of strips
    std::unique_ptr<ClipPlayer> player;  // of players
    std::vector<float> samples;          // channels · blockFrames, planar
    bool silent = true;
    std::optional<Error> error;
  };
  static constexpr int kSilence = -1;

  int addNode(Node node);
  int playerOf(int track);
  int strip(int input, const MixMatrix& matrix);
  int sum(std::vector<int> inputs);
  int outputOf(int track);  // after its fader and pan
  int throughMain(int track);
  MixMatrix matrixOf(int track) const;
  MixMatrix mainMatrix() const;
  int widthAround(int track) const;
  void arrange();

  float* channel(Node& node, int c) const {
    return node.samples.data() + static_cast<std::size_t>(c * blockFrames_);
  }
  const float* channel(const Node& node, int c) const {
    return node.samples.data() + static_cast<std::size_t>(c * blockFrames_);
  }
  void run(Node& node, Frame at, Frame frames);
  void runStrip(Node& node, Frame frames);
  void runSum(Node& node, Frame frames);

  const ClipFinder& finder_;
  const ReadableMedia& media_;
  std::map<int, std::vector<HeardClip>> clips_;  // by track
  int channels_;
  Frame blockFrames_ = 0;
  std::vector<Node> nodes_;
  std::vector<std::vector<int>> levels_;  // nodes whose inputs are all in earlier levels
  std::vector<int> taps_;                 // nodes, or kSilence
  std::map<int, int> outputs_;            // by track
  std::map<std::pair<int, MixMatrix>, int> strips_;
  std::map<std::vector<int>, int> sums_;
};

}  // namespace octaphon
