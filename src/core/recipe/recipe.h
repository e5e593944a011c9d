// How the sound of one span comes about, as data: clips, effects, faders and sums, and where rows are taken
// off. Nodes are found by their content, so that what taps share is there once. Planning takes fingerprints
// from it, and the graph plays it.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/hash.h"
#include "base/remark.h"
#include "media/media_facts.h"
#include "recipe/heard_clips.h"
#include "recipe/node_index.h"
#include "recipe/source.h"
#include "routing/effect_info.h"
#include "routing/signal_order.h"

namespace octaphon {

/// What recipes of one session share. Keeps references.
struct SignalContext {
  SignalContext(const ClipFinder& clips, const MediaFacts& media, const PluginCatalogue* known)
      : finder(clips),
        facts(media),
        plugins(known),
        order(clips.tree(), clips.session()),
        number(nextNumber()) {}
  const Session& session() const { return finder.session(); }
  /// Of the session on disk: who is told of a pass repeats its laps for himself.
  const SignalContext& original() const { return repeats != nullptr ? *repeats : *this; }
  const TrackTree& tree() const { return finder.tree(); }

  const ClipFinder& finder;
  const MediaFacts& facts;
  const PluginCatalogue* plugins;  ///< may be null
  SignalOrder order;
  const std::uint64_t number;              ///< no other context of this process has it
  const SignalContext* repeats = nullptr;  ///< the one whose laps are repeated in this; null: it is none

 private:
  static std::uint64_t nextNumber();
};

/// A session ready to be asked for recipes. Keeps references to its arguments.
struct SessionContext {
  SessionContext(const Session& session, const MediaFacts& facts, const PluginCatalogue* plugins)
      : tree(session), finder(session, tree), signal(finder, facts, plugins) {}
  SessionContext(const SessionContext&) = delete;

  TrackTree tree;
  ClipFinder finder;
  SignalContext signal;
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
    Stack,     ///< the channels of its inputs behind each other
  };
  Kind kind = Kind::Sum;
  int channels = 0;
  Frame latency = 0;              ///< frames that it lies behind the session
  std::vector<NodeIndex> inputs;  ///< nodes that stand before this one

  Strip track;                               ///< Player
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
  std::vector<int> widths = {};  ///< Stack: channels of each part; below 0: so many silent ones, no input
  bool operator==(const RecipeNode&) const = default;
};

/// What was noticed on the way of a tap.
struct SignalIssue {
  RemarkCode code;
  Strip strip;       ///< where; Strip::main() for main
  std::string what;  ///< effect, send or group it is about
  bool operator==(const SignalIssue&) const = default;
};

/// Where a source is taken off.
struct Tap {
  NodeIndex node;  ///< silent: nothing sounds there
  int channels = 2;
  std::vector<SignalIssue> issues;
  std::vector<int> partChannels = {};  ///< of sources together
};

/// Belongs to one thread while it is asked: taps and digests are worked out and kept. The nodes, once the
/// taps are known, may be read from any.
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
  NodeIndex asWide(NodeIndex node, int channels);

  /// All that the sound of a tap depends on, relative to the span's start; and to the session's where effects
  /// count from there. Worked out when it is asked for.
  Digest soundDigest(const Tap& tap);
  /// The revisions of all processors on its way.
  Digest engineDigest(const Tap& tap) const;

  const std::vector<RecipeNode>& nodes() const { return nodes_; }
  const RecipeNode& node(NodeIndex index) const { return nodes_[index.place()]; }
  const std::vector<HeardClip>& heard() const { return heard_; }
  const SignalContext& context() const { return context_; }
  const PlannedSpan& span() const { return span_; }
  /// Curves are held at these frames and outside them.
  Frame curvesFrom() const { return curvesFrom_; }
  Frame curvesTo() const { return curvesTo_; }
  /// Clips on the way to a node (or kSilentNode), keys included.
  void forEachClipBefore(NodeIndex node, const std::function<void(const HeardClip&)>& visit) const;
  /// Plug-ins on the way to a node (or kSilentNode), by the ids of their inserts.
  std::map<std::string, const RecipeNode*> pluginsBefore(NodeIndex node) const;
  /// Frames of the longest delay on the way to a node (or kSilentNode), of built-in effects.
  Frame longestDelay(NodeIndex node) const;
  /// Frames after the span's end by which all has rung out on the way to a node (or kSilentNode), down to
  /// −126 dB, as far as settings tell.
  Frame longestTail(NodeIndex node) const;
  /// The first effect on the way to a node whose sound is not the sum of what each part gives; null: none.
  const EffectInfo* notAdding(NodeIndex node) const;
  /// Whether any node is a plug-in.
  bool hasPlugins() const { return hasPlugins_; }

 private:
  struct VisitedStrip;
  struct Walk;
  struct BriefWalks;  // a brief, and its walk through everything

  // signal lines
  BriefWalks& walksOf(const Brief& brief);
  Walk& fullWalk(BriefWalks& walks);
  void walkAll(Walk& walk);
  void processStrip(Walk& walk, VisitedStrip& strip);
  NodeIndex insertChain(Walk& walk, VisitedStrip& strip, const Overrides& overrides, NodeIndex node);
  NodeIndex polarity(const Track* track, NodeIndex node);
  RecipeNode faderOf(Strip strip, const Overrides& overrides) const;
  void goUp(Walk& walk, Strip strip, NodeIndex node);
  void sendFrom(Walk& walk, const VisitedStrip& strip, bool preFader, NodeIndex node);
  bool mayReachReturn(Walk& walk, Strip from, Strip to) const;
  void giveInputTo(Walk& walk, Strip strip, int place, NodeIndex node);
  NodeIndex effect(Walk& walk, VisitedStrip& strip, std::size_t index, const Insert& insert, NodeIndex input);
  NodeIndex keyedEffect(Walk& walk, const VisitedStrip& strip, std::size_t index, const Insert& insert,
                        const EffectInfo& info, NodeIndex input, NodeIndex fullInput);
  NodeIndex keyOf(Walk& walk, Strip strip, std::size_t index, NodeIndex input, NodeIndex fullInput);
  NodeIndex fullInput(Walk& walk, Strip strip, std::size_t index, NodeIndex input);
  const EffectInfo* usable(Walk& walk, Strip strip, const Insert& insert, int channels) const;
  NodeIndex clipsOf(Walk& walk, Strip track);
  NodeIndex clipChain(Walk& walk, Strip track, std::size_t clip, std::size_t count);
  const Overrides& overridesOf(const BriefWalks& walks, Strip strip) const;
  bool isTapped(const Walk& walk, Strip strip) const;
  bool leadsToTap(const Walk& walk, Strip strip) const;
  bool joinsBeforeTap(const Walk& walk, Strip from, Strip to) const;
  Tap mixTap(BriefWalks& walks);
  Tap togetherTap(const Brief& brief, const PlannedSource& source);
  void addPoint(Walk& walk, Strip strip) const;
  void beginWith(Walk& walk, const PlannedSource& source);
  void startTracksIn(Walk& walk, Strip top);
  Tap collect(Walk& walk);

  // nodes
  NodeIndex add(RecipeNode node);  // the one with this content
  NodeIndex sum(std::vector<NodeIndex> inputs, int channels);
  NodeIndex strip(RecipeNode node, NodeIndex input);
  NodeIndex delayed(NodeIndex input, Frame latency);
  Frame latestOf(const std::vector<NodeIndex>& inputs) const;
  NodeIndex insertNode(RecipeNode::Kind kind, const Insert& insert, const EffectInfo& info,
                       const std::vector<Automation>* automation, std::vector<NodeIndex> inputs, int channels,
                       Frame latency);
  std::vector<const Automation*> curvesFor(const Insert& insert, const EffectInfo& info,
                                           const std::vector<Automation>* automation) const;

  // visits each node once that a node hears, itself included
  void forEachBefore(NodeIndex node, const std::function<void(const RecipeNode&)>& visit) const;

  // digests
  const Digest& digestOf(NodeIndex node);
  Digest digestOf(const RecipeNode& node);
  void addEffect(Hasher& hasher, const RecipeNode& node) const;
  void addCurve(Hasher& hasher, const Automation* curve) const;
  void addClip(Hasher& hasher, const HeardClip& heard) const;

  // the session
  const Track* trackOf(Strip strip) const;  // null for main
  const std::vector<Insert>& insertsOf(Strip strip) const;
  const std::vector<Automation>& automationOf(Strip strip) const;
  int widthOf(Strip strip) const;
  int widthAround(Strip strip) const;

  const SignalContext& context_;
  PlannedSpan span_;
  Counting counting_;
  std::vector<HeardClip> heard_;
  Frame curvesFrom_, curvesTo_;
  std::vector<std::pair<std::uint32_t, std::uint32_t>> clips_;  // by track: first and number in heard_
  std::vector<Strip> active_;                                   // tracks with clips, in track order
  std::vector<char> sounds_;                                    // by track, groups included
  std::vector<std::optional<NodeIndex>> clipNodes_;             // by track, once made
  std::vector<RecipeNode> nodes_;
  std::unordered_multimap<std::uint64_t, NodeIndex> byContent_;
  std::vector<std::optional<Digest>> digests_;  // by node, once asked for
  std::map<const Brief*, std::unique_ptr<BriefWalks>> walks_;
  bool hasPlugins_ = false;
};

}  // namespace octaphon
