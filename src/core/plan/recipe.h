// How the sound of one span comes about, as data: clips, effects, faders and sums, and where rows are taken
// off. Nodes are found by their content, so that what taps share is there once; a node's digest is all that
// its sound depends on, relative to the span's start. Planning takes fingerprints from it, and the graph
// plays it.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/hash.h"
#include "base/remark.h"
#include "media/media_facts.h"
#include "plan/heard_clips.h"
#include "plan/sheet.h"
#include "routing/effect_info.h"
#include "routing/signal_order.h"

namespace octaphon {

/// What recipes of one session share. Keeps references.
struct SignalContext {
  SignalContext(const ClipFinder& clips, const MediaFacts& media, const PluginCatalogue* known)
      : finder(clips), facts(media), plugins(known), order(clips.tree(), clips.session()) {}
  const Session& session() const { return finder.session(); }
  const TrackTree& tree() const { return finder.tree(); }

  const ClipFinder& finder;
  const MediaFacts& facts;
  const PluginCatalogue* plugins;  ///< may be null
  SignalOrder order;
};

struct RecipeNode {
  enum class Kind {
    Player,    ///< clips of a track
    Sum,       ///< of its inputs, in their order
    Polarity,  ///< upside down
    Strip,     ///< a fader with pan, or a send
    Effect,    ///< an insert; a second input is its key
    Gain,      ///< the gain that dynamics take from a key, one channel or as many as the key has
    Apply,     ///< a sound (first input), late by `delay`, times a gain (second input)
    Delay,     ///< late by `delay`
  };
  Kind kind = Kind::Sum;
  int channels = 0;
  Frame latency = 0;  ///< frames that it lies behind the session
  Digest digest;
  std::vector<int> inputs;  ///< nodes that stand before this one

  int track = TrackTree::kMain;              ///< Player
  std::size_t firstClip = 0, clipCount = 0;  ///< Player: of heard()
  int inputChannels = 0;                     ///< Strip
  double gainDb = 0, pan = 0;                ///< Strip
  const Automation* gainCurve = nullptr;     ///< Strip; dB
  const Automation* panCurve = nullptr;      ///< Strip
  const Automation* muteCurve = nullptr;     ///< Strip; 1 from 0.5 on
  const Insert* insert = nullptr;            ///< Effect, Gain, Apply
  const EffectInfo* info = nullptr;          ///< Effect, Gain, Apply
  std::vector<const Automation*> curves;  ///< Effect, Gain: by parameter, null where none; empty: none at all
  Frame delay = 0;                        ///< Apply, Delay
};

/// What was noticed on the way of a tap.
struct SignalIssue {
  RemarkCode code;
  int strip;         ///< where; TrackTree::kMain for main
  std::string what;  ///< effect, send or group it is about
  bool operator==(const SignalIssue&) const = default;
};

/// Where a source is taken off.
struct Tap {
  int node = -1;  ///< kSilentNode: nothing sounds there
  int channels = 2;
  std::vector<SignalIssue> issues;
};
inline constexpr int kSilentNode = -1;

class SpanRecipe {
 public:
  /// `heard` as ClipFinder gives it for the span.
  SpanRecipe(const SignalContext& context, const PlannedSpan& span, const Counting& counting,
             std::vector<HeardClip> heard);
  ~SpanRecipe();

  /// Whether any clip sounds on the track, below the group, or (for a return, a sum or the mix) on its way.
  bool sounds(const PlannedSource& source) const;
  /// The brief must live as long as the recipe.
  Tap tap(const Brief& brief, const PlannedSource& source);
  /// What `sources`, which hold every audible sound once, should add up to: the same sounds taken together,
  /// at the same reach; through main, the mix.
  Tap everything(const Brief& brief, const std::vector<PlannedSource>& sources);
  /// A node as `channels` channels hear it, with its pan in the centre.
  int asWide(int node, int channels);

  const std::vector<RecipeNode>& nodes() const { return nodes_; }
  const RecipeNode& node(int index) const { return nodes_[static_cast<std::size_t>(index)]; }
  const std::vector<HeardClip>& heard() const { return heard_; }
  const SignalContext& context() const { return context_; }
  /// Curves are held at these frames and outside them.
  Frame curvesFrom() const { return curvesFrom_; }
  Frame curvesTo() const { return curvesTo_; }
  /// Whether any node is a plug-in.
  bool hasPlugins() const { return hasPlugins_; }

 private:
  struct StripRun;
  struct Run;
  struct Way;  // a brief, and its full run

  // signal lines
  Way& wayOf(const Brief& brief);
  Run& fullRun(Way& way);
  void runAll(Run& run);
  void work(Run& run, StripRun& strip);
  void sendFrom(Run& run, const StripRun& strip, bool preFader, int node);
  void give(Run& run, int strip, int place, int node);
  int effect(Run& run, StripRun& strip, std::size_t index, const Insert& insert, int input);
  int keyOf(Run& run, int strip, std::size_t index, int input, int fullInput);
  int fullInput(Run& run, int strip, std::size_t index, int input);
  const EffectInfo* usable(Run& run, int strip, const Insert& insert, int channels) const;
  int clipsOf(Run& run, int track);
  int clipChain(Run& run, int track, std::size_t clip, std::size_t count);
  const Overrides& overridesOf(const Way& way, int strip) const;
  bool isTapped(const Run& run, int strip) const;
  bool leadsToTap(const Run& run, int strip) const;
  bool joinsBeforeTap(const Run& run, int from, int to) const;
  Tap collect(Run& run);

  // nodes
  int add(RecipeNode node);
  int sum(std::vector<int> inputs, int channels);
  int strip(RecipeNode node, int input);
  int late(int input, Frame latency);
  int insertNode(RecipeNode::Kind kind, const Insert& insert, const EffectInfo& info,
                 const std::vector<Automation>* automation, std::vector<int> inputs, int channels,
                 Frame latency);
  std::vector<const Automation*> curvesFor(const Insert& insert, const EffectInfo& info,
                                           const std::vector<Automation>* automation) const;
  void addCurve(Hasher& hasher, const Automation* curve) const;
  void addClip(Hasher& hasher, const HeardClip& heard) const;

  // the session
  const Track* trackOf(int strip) const;  // null for main
  const std::vector<Insert>& insertsOf(int strip) const;
  const std::vector<Automation>& automationOf(int strip) const;
  int widthOf(int strip) const;
  int widthAround(int strip) const;

  const SignalContext& context_;
  PlannedSpan span_;
  Counting counting_;
  std::vector<HeardClip> heard_;
  Frame curvesFrom_, curvesTo_;
  std::vector<std::pair<std::uint32_t, std::uint32_t>> clips_;  // by track: first and number in heard_
  std::vector<int> active_;                                     // tracks with clips, in track order
  std::vector<char> sounds_;                                    // by track, groups included
  std::vector<int> clipNodes_;                                  // by track; −2: not made yet
  std::vector<RecipeNode> nodes_;
  struct HashDigest {
    std::size_t operator()(const Digest& digest) const { return digest.low; }
  };
  std::unordered_map<Digest, int, HashDigest> byDigest_;
  std::map<const Brief*, std::unique_ptr<Way>> ways_;
  bool hasPlugins_ = false;
};

}  // namespace octaphon
