#include "plan/choose_sources.h"

#include <algorithm>
#include <unordered_set>

#include "base/unicode.h"
#include "brief/chooser.h"
#include "naming/file_name.h"
#include "plan/selection_words.h"
#include "plan/signal_words.h"

namespace octaphon {
namespace {

PlannedSource::Kind kindOf(const Track& track) {
  switch (track.kind) {
    case TrackKind::Group: return PlannedSource::Kind::Group;
    case TrackKind::Return: return PlannedSource::Kind::Return;
    case TrackKind::Track: break;
  }
  return PlannedSource::Kind::Track;
}

class SourceChooser {
 public:
  SourceChooser(PlannedBrief& planned, const Session& session, const TrackTree& tree)
      : planned_(planned),
        session_(session),
        tree_(tree),
        tracks_(brief().what.tracks),
        groups_(brief().what.groups),
        returns_(brief().what.returns) {}

  void choose() {
    findOwn();
    for (const Strip strip : tree_.order()) addStrip(strip);
    for (const SumSource& sum : brief().what.sums) addSum(sum);
    remarkIdle(planned_, tracks_.idle(), RemarkCode::UnknownSource, "track");
    remarkIdle(planned_, groups_.idle(), RemarkCode::UnknownSource, "group");
    remarkIdle(planned_, returns_.idle(), RemarkCode::UnknownSource, "return");
    addReturnsAndMix();
    for (PlannedSource& source : planned_.sources)
      source.heard = heardWords(session_, tree_, brief(), source);
  }

 private:
  const Brief& brief() const { return planned_.brief; }

  /// What single spans ask for.
  void findOwn() {
    const OwnSources own(brief(), session_, tree_);
    if (!own.isThere()) return;
    const auto take = [&](const auto& things, const Selection& chosen) {
      Chooser chooser(chosen);
      for (const auto& thing : things)
        if (chooser.takes({thing.id, thing.name, thing.ink, &thing.tags}))
          for (std::string& id : own.of(thing)) own_.insert(std::move(id));
    };
    take(session_.regions, brief().where.regions);
    take(session_.clipSets, brief().where.clipSets);
    if (own_.empty())
      remark(RemarkCode::FindsNoSource, brief().name,
             brief().what.matching == Matching::None
                 ? "The brief asks for what regions list themselves, and none lists anything. Lists are in "
                   "their details"
                 : "The brief asks for the groups that match regions, and no group does");
  }

  bool isChosen(const Track& track, Strip strip) {
    const std::vector<std::string> above = groupsAbove(session_, tree_, strip);
    const Choosable thing{
        track.id, track.name, inkOf(session_, tree_, strip), &track.tags, tree_.depth(strip) + 1, &above};
    if (track.isGroup()) return groups_.takes(thing);
    if (!track.isReturn()) return tracks_.takes(thing);
    return returns_.takes(thing) || brief().heard.withReturns == Returns::Files;
  }

  bool isByHand(const Track& track) const {
    const Brief::What& what = brief().what;
    const Selection& selection = track.isGroup()    ? what.groups
                                 : track.isReturn() ? what.returns
                                                    : what.tracks;
    return std::any_of(selection.picks.begin(), selection.picks.end(), [&](const Pick& pick) {
      return pick.by == PickBy::Id && !pick.out && pick.value == track.id;
    });
  }

  void addStrip(Strip strip) {
    const Track& track = session_.tracks[strip.track()];
    const bool isEverywhere = isChosen(track, strip);
    if (!isEverywhere && !own_.contains(track.id)) return;
    if (tree_.isHelper(strip)) {
      // Helpers are in no file: left out, and said so where one was chosen by hand.
      if (!isEverywhere || isByHand(track))
        remark(RemarkCode::HelperSource, track.id,
               printable(track.name) + " is a helper and in no file. Make it a usual track to print it");
      return;
    }
    PlannedSource source;
    source.kind = kindOf(track);
    source.track = strip;
    source.id = track.id;
    source.name = track.name;
    source.isEverywhere = isEverywhere;
    if (const Strip up = tree_.parent(strip); up != Strip::main())
      source.group = session_.tracks[up.track()].name;
    (track.isReturn() ? wet_ : planned_.sources).push_back(std::move(source));
    if (tree_.isMuted(strip))
      remark(RemarkCode::MutedSource, track.id,
             printable(track.name) + " is muted and left out. Unmute it to print it");
  }

  void addSum(const SumSource& sum) {
    PlannedSource source;
    source.kind = sum.without ? PlannedSource::Kind::MixWithout : PlannedSource::Kind::Sum;
    source.id = sum.id;
    source.name = sum.name;
    std::vector<const Pick*> idle;
    for (const Strip track : tracksOf(sum.tracks, session_, tree_, idle))
      if (!tree_.isHelper(track) && !tree_.isMuted(track)) source.tracks.push_back(track);
    remarkIdle(planned_, idle, RemarkCode::UnknownSource, "track");
    planned_.sources.push_back(std::move(source));
  }

  void addReturnsAndMix() {
    const bool isTwice =
        !wet_.empty() && brief().heard.withReturns == Returns::In && !planned_.sources.empty();
    if (isTwice)
      remark(
          RemarkCode::ReturnsTwice, wet_.front().id,
          "Returns are in the layers and files of their own; where layers are added up, their own files do "
          "not count");
    std::move(wet_.begin(), wet_.end(), std::back_inserter(planned_.sources));
    if (brief().what.mix || own_.contains("main")) {
      planned_.sources.push_back(PlannedSource::mix());
      planned_.sources.back().isEverywhere = brief().what.mix;
    }
    if (planned_.printsTogether) addTogether();
  }

  /// Of all that is printed everywhere and not muted.
  void addTogether() {
    PlannedSource together;
    together.kind = PlannedSource::Kind::Together;
    together.id = together.key();
    together.name = "all";
    for (const PlannedSource& source : planned_.sources)
      if (source.isEverywhere && (source.track.isMain() || !tree_.isMuted(source.track)))
        together.parts.push_back(source);
    planned_.sources.push_back(std::move(together));
  }

  void remark(RemarkCode code, const std::string& place, std::string text) {
    planned_.remarks.push_back({Severity::Note, code, place, std::move(text)});
  }

  PlannedBrief& planned_;
  const Session& session_;
  const TrackTree& tree_;
  Chooser tracks_, groups_, returns_;
  std::unordered_set<std::string> own_;
  std::vector<PlannedSource> wet_;
};

}  // namespace

void chooseSources(PlannedBrief& planned, const Session& session, const TrackTree& tree) {
  SourceChooser(planned, session, tree).choose();
}

OwnSources::OwnSources(const Brief& brief, const Session& session, const TrackTree& tree)
    : brief_(brief), session_(session), tree_(tree) {
  if (brief.what.matching != Matching::Path) return;
  for (const Strip strip : tree.order())
    if (const Track& track = session.tracks[strip.track()]; track.isGroup())
      groupsByName_[foldedName(track.name)].push_back(strip);
}

std::vector<std::string> OwnSources::matching(const std::string& name, int ink,
                                              const std::vector<std::string>& tags) const {
  if (brief_.what.matching == Matching::None) return {};
  if (brief_.what.matching == Matching::Path) return onPath(name);
  std::vector<std::string> ids;
  for (const Strip strip : tree_.order()) {
    const Track& group = session_.tracks[strip.track()];
    if (!group.isGroup()) continue;
    const bool isEqual =
        brief_.what.matching == Matching::Colour
            ? ink != 0 && inkOf(session_, tree_, strip) == ink
            : std::any_of(tags.begin(), tags.end(), [&](const std::string& tag) {
                return std::find(group.tags.begin(), group.tags.end(), tag) != group.tags.end();
              });
    if (isEqual) ids.push_back(group.id);
  }
  return ids;
}

/// The deepest part that is a group's name; of several groups the one whose own path agrees longest.
std::vector<std::string> OwnSources::onPath(const std::string& name) const {
  const std::vector<std::string> parts = pathParts(foldedName(name));
  for (std::size_t at = parts.size(); at-- > 0;) {
    const auto found = groupsByName_.find(parts[at]);
    if (found == groupsByName_.end()) continue;
    const auto agreement = [&](Strip strip) {
      std::size_t equal = 0;
      for (Strip up = strip; !up.isMain() && equal <= at; up = tree_.parent(up), ++equal)
        if (foldedName(session_.tracks[up.track()].name) != parts[at - equal]) break;
      return equal;
    };
    const Strip best = *std::max_element(found->second.begin(), found->second.end(),
                                         [&](Strip a, Strip b) { return agreement(a) < agreement(b); });
    return {session_.tracks[best.track()].id};
  }
  return {};
}

std::vector<Strip> tracksOf(const Selection& selection, const Session& session, const TrackTree& tree,
                            std::vector<const Pick*>& idle) {
  Chooser chooser(selection);
  std::vector<Strip> found;
  for (const Strip strip : tree.order()) {
    const Track& track = session.tracks[strip.track()];
    const std::vector<std::string> above = groupsAbove(session, tree, strip);
    const bool isByHand = std::any_of(selection.picks.begin(), selection.picks.end(), [&](const Pick& pick) {
      return pick.by == PickBy::Id && pick.value == track.id;
    });
    if (!track.holdsClips() && !isByHand) continue;
    const Choosable thing{
        track.id, track.name, inkOf(session, tree, strip), &track.tags, tree.depth(strip) + 1, &above};
    if (chooser.takes(thing)) found.push_back(strip);
  }
  idle = chooser.idle();
  return found;
}

void remarkIdle(PlannedBrief& planned, const std::vector<const Pick*>& idle, RemarkCode gone,
                const char* singular) {
  // What was left out by hand and is gone is missed by nobody.
  const auto lost = static_cast<std::size_t>(std::count_if(
      idle.begin(), idle.end(), [](const Pick* pick) { return pick->by == PickBy::Id && !pick->out; }));
  if (lost > 0)
    planned.remarks.push_back({Severity::Warning, gone, planned.brief.name,
                               "The brief asks for " + counted(lost, singular) +
                                   " that the session does not have any more. Choose again"});
  for (const Pick* pick : idle) {
    if (pick->by == PickBy::Id) continue;
    const std::string rule = pick->by == PickBy::All
                                 ? "all " + std::string(singular) + "s"
                                 : std::string(singular) + "s " + pickWords(*pick, {singular, nullptr});
    planned.remarks.push_back(
        {Severity::Note,
         gone == RemarkCode::UnknownSource ? RemarkCode::FindsNoSource : RemarkCode::FindsNoSpan,
         planned.brief.name,
         "The brief " + std::string(pick->out ? "leaves out " : "asks for ") + rule +
             ", and there are none. What fits later " + (pick->out ? "stays out" : "joins by itself")});
  }
}

}  // namespace octaphon
