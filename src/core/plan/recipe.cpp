#include "plan/recipe.h"

#include <algorithm>
#include <queue>

namespace octaphon {

/// One strip in one run: what comes in, and what it becomes.
struct SpanRecipe::StripRun {
  struct Input {
    int place;
    int node;
  };
  int strip = TrackTree::kMain;
  std::vector<Input> inputs;
  int clips = kSilentNode, pre = kSilentNode, out = kSilentNode;
  std::vector<int> beforeInsert;  // by insert; only in full runs
  bool isDone = false;
};

/// Some sources on their way, or (full) everything.
struct SpanRecipe::Run {
  struct Point {
    int strip;
    ReachStage stage;  // Clips, Inserts or Track
    bool operator==(const Point&) const = default;
  };
  Way* way = nullptr;
  bool isFull = false;
  bool followsReturns = true;
  std::vector<Point> points;
  std::map<int, StripRun> strips;
  std::priority_queue<std::pair<int, int>, std::vector<std::pair<int, int>>, std::greater<>>
      open;                                              // rank, strip
  std::map<std::pair<int, int>, std::vector<int>> keys;  // full: by strip and insert, what is sent there
  std::vector<SignalIssue> issues;

  void note(RemarkCode code, int strip, std::string what) {
    SignalIssue issue{code, strip, std::move(what)};
    if (std::find(issues.begin(), issues.end(), issue) == issues.end()) issues.push_back(std::move(issue));
  }
};

struct SpanRecipe::Way {
  const Brief* brief = nullptr;
  std::map<int, const Overrides*> exceptions;  // by strip
  std::unique_ptr<Run> full;
};

namespace {

constexpr int kNotMade = -2;

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
      clipNodes_(context.tree().size(), kNotMade) {
  if (counting.counts == Counts::BeginsHere) {
    curvesFrom_ = span.start;
    curvesTo_ = span.end();
  }
  const TrackTree& tree = context.tree();
  for (std::size_t i = 0; i < heard_.size();) {
    const int track = heard_[i].track;
    std::size_t end = i;
    while (end < heard_.size() && heard_[end].track == track) ++end;
    clips_[static_cast<std::size_t>(track)] = {static_cast<std::uint32_t>(i),
                                               static_cast<std::uint32_t>(end - i)};
    active_.push_back(track);
    const bool inSpan = std::any_of(heard_.begin() + static_cast<std::ptrdiff_t>(i),
                                    heard_.begin() + static_cast<std::ptrdiff_t>(end),
                                    [&](const HeardClip& clip) { return clip.to > span.start; });
    if (inSpan && !tree.isHelper(track))
      for (int at = track; at != TrackTree::kMain && sounds_[static_cast<std::size_t>(at)] == 0;
           at = tree.parent(at))
        sounds_[static_cast<std::size_t>(at)] = 1;
    i = end;
  }
}

SpanRecipe::~SpanRecipe() = default;

// --- the session

const Track* SpanRecipe::trackOf(int strip) const {
  return strip == TrackTree::kMain ? nullptr : &context_.session().tracks[static_cast<std::size_t>(strip)];
}

const std::vector<Insert>& SpanRecipe::insertsOf(int strip) const {
  const Track* track = trackOf(strip);
  return track == nullptr ? context_.session().main.inserts : track->inserts;
}

const std::vector<Automation>& SpanRecipe::automationOf(int strip) const {
  const Track* track = trackOf(strip);
  return track == nullptr ? context_.session().main.automation : track->automation;
}

int SpanRecipe::widthOf(int strip) const {
  const Track* track = trackOf(strip);
  return track == nullptr ? context_.session().main.channels : track->channels;
}

int SpanRecipe::widthAround(int strip) const {
  return strip == TrackTree::kMain ? widthOf(strip) : widthOf(context_.tree().parent(strip));
}

// --- what a brief changes

SpanRecipe::Way& SpanRecipe::wayOf(const Brief& brief) {
  std::unique_ptr<Way>& way = ways_[&brief];
  if (!way) {
    way = std::make_unique<Way>();
    way->brief = &brief;
    for (const TrackException& exception : brief.exceptions) {
      const int strip = context_.tree().find(exception.track);
      if (strip != TrackTree::kMain || exception.track == "main")
        way->exceptions[strip] = &exception.overrides;
    }
  }
  return *way;
}

const Overrides& SpanRecipe::overridesOf(const Way& way, int strip) const {
  static const Overrides kNone;
  if (!way.exceptions.empty())
    if (const auto found = way.exceptions.find(strip); found != way.exceptions.end()) return *found->second;
  return overridesTouch(*way.brief, trackOf(strip)) ? way.brief->overrides : kNone;
}

// --- runs

SpanRecipe::Run& SpanRecipe::fullRun(Way& way) {
  if (!way.full) {
    way.full = std::make_unique<Run>();
    way.full->way = &way;
    way.full->isFull = true;
    way.full->points = {{TrackTree::kMain, ReachStage::Track}};
    for (const int track : active_) give(*way.full, track, 0, kSilentNode);
    runAll(*way.full);
  }
  return *way.full;
}

void SpanRecipe::give(Run& run, int strip, int place, int node) {
  const auto [found, isNew] = run.strips.try_emplace(strip);
  if (isNew) {
    found->second.strip = strip;
    run.open.emplace(context_.order.rank(strip), strip);
  }
  if (node != kSilentNode) found->second.inputs.push_back({place, node});
}

void SpanRecipe::runAll(Run& run) {
  while (!run.open.empty()) {
    const int strip = run.open.top().second;
    run.open.pop();
    work(run, run.strips.at(strip));
  }
}

bool SpanRecipe::isTapped(const Run& run, int strip) const {
  return std::any_of(run.points.begin(), run.points.end(),
                     [&](const Run::Point& p) { return p.strip == strip; });
}

bool SpanRecipe::leadsToTap(const Run& run, int strip) const {
  return run.isFull || std::any_of(run.points.begin(), run.points.end(), [&](const Run::Point& point) {
           return point.strip == TrackTree::kMain ||
                  (strip != TrackTree::kMain && context_.tree().isInside(strip, point.strip));
         });
}

/// Whether a return is heard where the strip itself is tapped. Of several sources each has its own share, so
/// that a sum of some is the sum of their files.
bool SpanRecipe::joinsBeforeTap(const Run& run, int from, int to) const {
  return run.isFull || std::any_of(run.points.begin(), run.points.end(), [&](const Run::Point& point) {
           return point.strip == TrackTree::kMain ||
                  (context_.tree().isInside(from, point.strip) && context_.tree().isInside(to, point.strip));
         });
}

void SpanRecipe::work(Run& run, StripRun& strip) {
  strip.isDone = true;
  const int index = strip.strip;
  const Track* track = trackOf(index);
  if (track != nullptr && context_.tree().isMuted(index)) return;
  const Overrides& overrides = overridesOf(*run.way, index);
  std::vector<int> inputs;
  if (track != nullptr && track->holdsClips()) inputs.push_back(clipsOf(run, index));
  std::sort(strip.inputs.begin(), strip.inputs.end(),
            [](const StripRun::Input& a, const StripRun::Input& b) { return a.place < b.place; });
  for (const StripRun::Input& input : strip.inputs) inputs.push_back(input.node);
  int node = strip.clips = sum(std::move(inputs), widthOf(index));
  if (node == kSilentNode && !run.isFull) return;

  if (track != nullptr && track->invert && node != kSilentNode) {
    RecipeNode inverted;
    inverted.kind = RecipeNode::Kind::Polarity;
    inverted.inputs = {node};
    node = add(std::move(inverted));
  }
  const std::vector<Insert>& inserts = insertsOf(index);
  if (run.isFull) strip.beforeInsert.assign(inserts.size(), kSilentNode);
  for (std::size_t i = 0; i < inserts.size(); ++i) {
    if (run.isFull) strip.beforeInsert[i] = node;
    if (node != kSilentNode && inserts[i].on && isHeard(inserts[i], overrides))
      node = effect(run, strip, i, inserts[i], node);
  }
  strip.pre = node;
  sendFrom(run, strip, true, node);

  RecipeNode fader;
  fader.kind = RecipeNode::Kind::Strip;
  fader.inputChannels = widthOf(index);
  fader.channels = widthAround(index);
  const std::vector<Automation>& automation = automationOf(index);
  if (overrides.faders == Faders::AsMixed) {
    fader.gainDb = track == nullptr ? context_.session().main.gainDb : track->gainDb;
    if (overrides.volumeAutomation) fader.gainCurve = curveOf(automation, "gain");
  } else if (overrides.faders == Faders::Value) {
    fader.gainDb = overrides.faderDb;
  }
  if (track != nullptr && !overrides.pansCentred) {
    fader.pan = track->pan;
    if (overrides.panAutomation) fader.panCurve = curveOf(automation, "pan");
  }
  if (overrides.muteAutomation) fader.muteCurve = curveOf(automation, "mute");
  node = strip.out = this->strip(std::move(fader), node);
  sendFrom(run, strip, false, node);
  if (track == nullptr || (isTapped(run, index) && !run.isFull)) return;
  const int up = context_.tree().parent(index);
  const bool staysOut =
      context_.tree().isHelper(index) && (up == TrackTree::kMain || !context_.tree().isHelper(up));
  if (!staysOut && leadsToTap(run, up)) give(run, up, context_.tree().place(index), node);
}

void SpanRecipe::sendFrom(Run& run, const StripRun& from, bool preFader, int node) {
  const Track* track = trackOf(from.strip);
  if (track == nullptr || node == kSilentNode) return;
  for (std::size_t s = 0; s < track->sends.size(); ++s) {
    const Send& send = track->sends[s];
    if (!send.on || send.preFader != preFader) continue;
    const SendTarget to = context_.order.target(send.to);
    if (!to.isKnown) continue;
    if (context_.order.isFeedback(from.strip, static_cast<int>(s))) {
      run.note(RemarkCode::FeedbackSend, from.strip, send.to);
      continue;
    }
    const bool toReturn = to.insert < 0;
    if (toReturn ? !run.isFull && !run.followsReturns : !run.isFull) continue;
    if (toReturn && context_.tree().isHelper(from.strip)) continue;
    if (toReturn && context_.tree().isMuted(to.strip)) continue;
    if (toReturn && !joinsBeforeTap(run, from.strip, to.strip)) {
      run.note(RemarkCode::ReturnBeyondReach, to.strip, {});
      continue;
    }
    RecipeNode copy;
    copy.kind = RecipeNode::Kind::Strip;
    copy.inputChannels = nodes_[static_cast<std::size_t>(node)].channels;
    copy.channels = widthOf(to.strip);
    copy.gainDb = send.gainDb;
    copy.gainCurve = curveOf(track->automation, "send:" + send.id);
    const int sent = strip(std::move(copy), node);
    if (toReturn)
      give(run, to.strip, context_.tree().place(from.strip), sent);
    else if (sent != kSilentNode)
      run.keys[{to.strip, to.insert}].push_back(sent);
  }
}

/// What the same insert gets when everything sounds.
int SpanRecipe::fullInput(Run& run, int strip, std::size_t index, int input) {
  if (run.isFull) return input;
  const Run& full = fullRun(*run.way);
  const auto found = full.strips.find(strip);
  return found == full.strips.end() || index >= found->second.beforeInsert.size()
             ? kSilentNode
             : found->second.beforeInsert[index];
}

/// What dynamics listen to: what is sent to their key input; where nothing is, their own full input (keyed by
/// the mix), or what they are given.
int SpanRecipe::keyOf(Run& run, int strip, std::size_t index, int input, int full) {
  if (!context_.order.keySends(strip, static_cast<int>(index)).empty()) {
    const Run& all = run.isFull ? run : fullRun(*run.way);
    const auto sent = all.keys.find({strip, static_cast<int>(index)});
    return sent == all.keys.end() ? kSilentNode : sum(sent->second, widthOf(strip));
  }
  return run.way->brief->keyed && full != kSilentNode ? full : input;
}

int SpanRecipe::effect(Run& run, StripRun& strip, std::size_t index, const Insert& insert, int input) {
  const int channels = nodes_[static_cast<std::size_t>(input)].channels;
  const EffectInfo* info = usable(run, strip.strip, insert, channels);
  if (info == nullptr) return input;
  const std::string& name = insert.name.empty() ? info->name : insert.name;
  const std::vector<Automation>* automation = &automationOf(strip.strip);
  const Frame latency = info->latency(context_.session().rate);
  if (info->sort == EffectInfo::Sort::Linear && !info->hasKey)
    return insertNode(RecipeNode::Kind::Effect, insert, *info, automation, {input}, channels, latency);

  const int full = fullInput(run, strip.strip, index, input);
  if (info->sort == EffectInfo::Sort::Nonlinear && full != input)
    run.note(RemarkCode::CannotSplit, strip.strip,
             info->isPlugin && !info->about.empty()
                 ? name + " ('" + info->about + "' may say what it listens to)"
                 : name);
  if (!info->hasKey)
    return insertNode(RecipeNode::Kind::Effect, insert, *info, automation, {input}, channels, latency);
  const int key = keyOf(run, strip.strip, index, input, full);
  const bool isFed = !context_.order.keySends(strip.strip, static_cast<int>(index)).empty();
  if (!run.way->brief->keyed && full != input && !isFed) run.note(RemarkCode::KeyedAlone, strip.strip, name);
  if (info->isPlugin)
    return insertNode(RecipeNode::Kind::Effect, insert, *info, automation,
                      key == kSilentNode ? std::vector<int>{input} : std::vector<int>{input, key}, channels,
                      latency);
  if (key == kSilentNode)  // the key is silent: the gain of silence
    return insertNode(RecipeNode::Kind::Apply, insert, *info, automation,
                      {input, insertNode(RecipeNode::Kind::Gain, insert, *info, automation, {}, 1, latency)},
                      channels, latency);
  const int linked = info->find("linked");
  const bool isLinked = linked < 0 ||
                        valueOf(insert, info->parameters[static_cast<std::size_t>(linked)]) > 0.5 ||
                        nodes_[static_cast<std::size_t>(key)].channels != channels;
  const int gain =
      insertNode(RecipeNode::Kind::Gain, insert, *info, automation, {key}, isLinked ? 1 : channels, latency);
  return insertNode(RecipeNode::Kind::Apply, insert, *info, automation, {input, gain}, channels, latency);
}

/// An insert's effect; null, with a remark, where it is not there or does not take so many channels.
const EffectInfo* SpanRecipe::usable(Run& run, int strip, const Insert& insert, int channels) const {
  const EffectInfo* info = effectInfo(insert, context_.plugins);
  if (info == nullptr) {
    const std::string why = context_.plugins == nullptr ? std::string() : context_.plugins->problemOf(insert);
    run.note(RemarkCode::MissingEffect, strip, why.empty() ? "'" + insert.effect + "' is not there" : why);
    return nullptr;
  }
  const bool fits =
      info->inputs == 0 || (info->inputs == info->outputs && (info->inputs == channels || info->inputs == 1));
  if (!fits) {
    run.note(RemarkCode::PluginChannels, strip, info->name);
    return nullptr;
  }
  if (!info->repeats)
    run.note(RemarkCode::NeverRepeats, strip, insert.name.empty() ? info->name : insert.name);
  return info;
}

/// All clips of a track as one sound: those without inserts in one player, each other by its own chain.
int SpanRecipe::clipsOf(Run& run, int track) {
  int& made = clipNodes_[static_cast<std::size_t>(track)];
  if (made != kNotMade && !run.isFull) return made;
  const auto [first, count] = clips_[static_cast<std::size_t>(track)];
  std::vector<int> parts;
  std::size_t plain = first;
  const auto flush = [&](std::size_t end) {
    if (end > plain) parts.push_back(clipChain(run, track, plain, end - plain));
  };
  for (std::size_t i = first; i < first + count; ++i) {
    if (context_.finder.clipOf(heard_[i]).inserts.empty()) continue;
    flush(i);
    parts.push_back(clipChain(run, track, i, 1));
    plain = i + 1;
  }
  flush(first + count);
  const bool isPlain =
      parts.size() <= 1 && (count != 1 || context_.finder.clipOf(heard_[first]).inserts.empty());
  const int node = sum(std::move(parts), widthOf(track));
  if (isPlain) made = node;  // inserts of clips may be heard by one brief and not by the next
  return node;
}

int SpanRecipe::clipChain(Run& run, int track, std::size_t clip, std::size_t count) {
  Hasher hasher;
  hasher.add(RecipeNode::Kind::Player);
  hasher.add(widthOf(track));
  for (std::size_t i = clip; i < clip + count; ++i) addClip(hasher, heard_[i]);
  RecipeNode player;
  player.kind = RecipeNode::Kind::Player;
  player.channels = widthOf(track);
  player.track = track;
  player.firstClip = clip;
  player.clipCount = count;
  player.digest = hasher.digest();
  // Two tracks with the same sound are two players all the same: their files are read apart.
  hasher.add(track);
  const auto [found, isNew] = byDigest_.try_emplace(hasher.digest(), static_cast<int>(nodes_.size()));
  if (isNew) nodes_.push_back(std::move(player));
  int node = found->second;
  if (count > 1) return node;
  for (const Insert& insert : context_.finder.clipOf(heard_[clip]).inserts) {
    if (!insert.on || !isHeard(insert, overridesOf(*run.way, track))) continue;
    const int channels = nodes_[static_cast<std::size_t>(node)].channels;
    const EffectInfo* info = usable(run, track, insert, channels);
    if (info == nullptr) continue;
    const Frame latency = info->latency(context_.session().rate);
    if (info->sort == EffectInfo::Sort::Dynamics && !info->isPlugin) {
      const int gain = insertNode(RecipeNode::Kind::Gain, insert, *info, nullptr, {node}, 1, latency);
      node = insertNode(RecipeNode::Kind::Apply, insert, *info, nullptr, {node, gain}, channels, latency);
    } else {
      node = insertNode(RecipeNode::Kind::Effect, insert, *info, nullptr, {node}, channels, latency);
    }
  }
  return node;
}

// --- taps

bool SpanRecipe::sounds(const PlannedSource& source) const {
  const auto has = [&](int track) { return sounds_[static_cast<std::size_t>(track)] != 0; };
  switch (source.kind) {
    case PlannedSource::Kind::Track:
    case PlannedSource::Kind::Group: return has(source.track);
    case PlannedSource::Kind::Sum: return std::any_of(source.tracks.begin(), source.tracks.end(), has);
    case PlannedSource::Kind::MixWithout:
    case PlannedSource::Kind::Return:
    case PlannedSource::Kind::Mix:
      return std::any_of(active_.begin(), active_.end(),
                         [&](int track) { return !context_.tree().isHelper(track); });
  }
  return false;
}

Tap SpanRecipe::collect(Run& run) {
  Tap tap;
  std::vector<int> nodes;
  tap.channels = 0;
  for (const Run::Point& point : run.points) {
    const int width = point.stage == ReachStage::Track ? widthAround(point.strip) : widthOf(point.strip);
    tap.channels = std::max(tap.channels, width);
    const auto found = run.strips.find(point.strip);
    if (found == run.strips.end()) continue;
    nodes.push_back(point.stage == ReachStage::Clips     ? found->second.clips
                    : point.stage == ReachStage::Inserts ? found->second.pre
                                                         : found->second.out);
  }
  for (int& node : nodes) node = asWide(node, tap.channels);
  tap.node = sum(std::move(nodes), tap.channels);
  tap.issues = run.issues;
  return tap;
}

int SpanRecipe::asWide(int node, int channels) {
  if (node == kSilentNode || nodes_[static_cast<std::size_t>(node)].channels == channels) return node;
  RecipeNode wider;
  wider.kind = RecipeNode::Kind::Strip;
  wider.inputChannels = nodes_[static_cast<std::size_t>(node)].channels;
  wider.channels = channels;
  return strip(std::move(wider), node);
}

Tap SpanRecipe::tap(const Brief& brief, const PlannedSource& source) {
  Way& way = wayOf(brief);
  const TrackTree& tree = context_.tree();
  if (source.kind == PlannedSource::Kind::Mix) {
    Run& full = fullRun(way);
    Tap tap;
    tap.channels = widthOf(TrackTree::kMain);
    const auto main = full.strips.find(TrackTree::kMain);
    if (main != full.strips.end()) tap.node = main->second.out;
    tap.issues = full.issues;
    return tap;
  }
  Run run;
  run.way = &way;
  run.followsReturns = brief.withReturns == Returns::In;
  const auto addPoint = [&](Run::Point point) {
    if (std::find(run.points.begin(), run.points.end(), point) == run.points.end())
      run.points.push_back(point);
  };
  const auto outermost = [&](int strip) {
    while (tree.parent(strip) != TrackTree::kMain) strip = tree.parent(strip);
    return strip;
  };
  const auto pointOf = [&](int strip) -> Run::Point {
    const int group = brief.reach.group.empty() ? TrackTree::kMain : tree.find(brief.reach.group);
    switch (brief.reach.stage) {
      case ReachStage::Clips: return {strip, ReachStage::Clips};
      case ReachStage::Inserts: return {strip, ReachStage::Inserts};
      case ReachStage::Track: return {strip, ReachStage::Track};
      case ReachStage::GroupInserts:
      case ReachStage::Group:
        if (group == TrackTree::kMain || !tree.isInside(strip, group)) {
          run.note(RemarkCode::ReachElsewhere, strip, brief.reach.group);
          return {strip, ReachStage::Track};
        }
        return {group, brief.reach.stage == ReachStage::Group ? ReachStage::Track : ReachStage::Inserts};
      case ReachStage::Groups: return {outermost(strip), ReachStage::Track};
      case ReachStage::MainInserts: return {TrackTree::kMain, ReachStage::Inserts};
      case ReachStage::Main: return {TrackTree::kMain, ReachStage::Track};
    }
    return {TrackTree::kMain, ReachStage::Track};
  };
  const auto seed = [&](int top) {
    for (const int track : active_)
      if (tree.isInside(track, top) && !tree.isHelper(track)) give(run, track, 0, kSilentNode);
  };
  switch (source.kind) {
    case PlannedSource::Kind::Track:
    case PlannedSource::Kind::Group:
      addPoint(pointOf(source.track));
      seed(source.track);
      break;
    case PlannedSource::Kind::Sum:
      for (const int track : source.tracks) {
        addPoint(pointOf(track));
        seed(track);
      }
      break;
    case PlannedSource::Kind::MixWithout:
      run.points = {{TrackTree::kMain, ReachStage::Track}};
      run.followsReturns = true;
      for (const int track : active_) {
        const bool out =
            tree.isHelper(track) || std::any_of(source.tracks.begin(), source.tracks.end(),
                                                [&](int without) { return tree.isInside(track, without); });
        if (!out) give(run, track, 0, kSilentNode);
      }
      break;
    case PlannedSource::Kind::Return: {
      // All that is sent to it; what it sends on is in the files of those returns.
      addPoint(pointOf(source.track));
      run.followsReturns = false;
      const Run& full = fullRun(way);
      if (const auto found = full.strips.find(source.track); found != full.strips.end())
        for (const StripRun::Input& input : found->second.inputs)
          give(run, source.track, input.place, input.node);
      break;
    }
    case PlannedSource::Kind::Mix: break;
  }
  runAll(run);
  return collect(run);
}

Tap SpanRecipe::everything(const Brief& brief, const std::vector<PlannedSource>& sources) {
  if (brief.reach.stage == ReachStage::Main) return tap(brief, {});
  PlannedSource dry;
  dry.kind = PlannedSource::Kind::Sum;
  std::vector<int> returns;
  for (const PlannedSource& source : sources) {
    if (source.kind == PlannedSource::Kind::Return) returns.push_back(source.track);
    if (source.kind == PlannedSource::Kind::Sum)
      dry.tracks.insert(dry.tracks.end(), source.tracks.begin(), source.tracks.end());
    if (source.kind == PlannedSource::Kind::Track || source.kind == PlannedSource::Kind::Group)
      dry.tracks.push_back(source.track);
  }
  Tap all = tap(brief, dry);
  std::vector<int> nodes{all.node};
  for (const int strip : returns) {
    PlannedSource wet;
    wet.kind = PlannedSource::Kind::Return;
    wet.track = strip;
    const Tap made = tap(brief, wet);
    nodes.push_back(made.node);
    all.channels = std::max(all.channels, made.channels);
  }
  for (int& node : nodes) node = asWide(node, all.channels);
  all.node = sum(std::move(nodes), all.channels);
  return all;
}

}  // namespace octaphon
