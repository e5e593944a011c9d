#include "plan/sentence.h"

#include <algorithm>
#include <set>

#include "base/decibels.h"
#include "base/unicode.h"
#include "naming/file_name.h"
#include "plan/signal_words.h"
#include "routing/track_tree.h"

namespace octaphon {
namespace {

std::string plainNumber(double value) {
  char text[32];
  std::snprintf(text, sizeof text, "%.3f", value);
  std::string number = text;
  while (number.back() == '0') number.pop_back();
  if (number.back() == '.') number.pop_back();
  return number;
}

std::set<std::string> idsOf(const Selection& selection) {
  return {selection.ids.begin(), selection.ids.end()};
}

/// The group of which `ids` are exactly the tracks, or TrackTree::kMain.
int groupOfTracks(const Session& session, const TrackTree& tree, const std::set<std::string>& ids) {
  for (const int group : tree.order()) {
    if (!session.tracks[static_cast<std::size_t>(group)].isGroup()) continue;
    std::set<std::string> inside;
    for (const int track : tree.order())
      if (tree.isInside(track, group) && session.tracks[static_cast<std::size_t>(track)].holdsClips())
        inside.insert(session.tracks[static_cast<std::size_t>(track)].id);
    if (!inside.empty() && inside == ids) return group;
  }
  return TrackTree::kMain;
}

std::string nameOfTrack(const Session& session, const TrackTree& tree, const std::string& id) {
  const int track = tree.find(id);
  return track == TrackTree::kMain ? "?"
                                   : printable(session.tracks[static_cast<std::size_t>(track)].name, 60);
}

std::string tracksText(const Selection& selection, const Session& session, const TrackTree& tree) {
  if (selection.all) return "each track";
  const std::set<std::string> ids = idsOf(selection);
  if (const int group = groupOfTracks(session, tree, ids); group != TrackTree::kMain)
    return "each track in " + printable(session.tracks[static_cast<std::size_t>(group)].name, 60);
  return ids.size() == 1 ? nameOfTrack(session, tree, *ids.begin()) : std::to_string(ids.size()) + " tracks";
}

std::string groupsText(const Selection& selection, const Session& session, const TrackTree& tree) {
  if (selection.all) return "each group";
  return selection.ids.size() == 1 ? nameOfTrack(session, tree, selection.ids.front())
                                   : std::to_string(selection.ids.size()) + " groups";
}

std::string joined(const std::vector<std::string>& parts) {
  std::string text;
  for (std::size_t i = 0; i < parts.size(); ++i)
    text += (i == 0 ? "" : i + 1 == parts.size() ? " and " : ", ") + parts[i];
  return text;
}

std::string sourcesText(const Brief& brief, const Session& session) {
  const TrackTree tree(session);
  std::vector<std::string> parts;
  if (!brief.tracks.empty()) parts.push_back(tracksText(brief.tracks, session, tree));
  if (!brief.groups.empty()) parts.push_back(groupsText(brief.groups, session, tree));
  if (brief.returns.all) parts.push_back("each return");
  if (!brief.returns.ids.empty())
    parts.push_back(brief.returns.ids.size() == 1 ? nameOfTrack(session, tree, brief.returns.ids.front())
                                                  : counted(brief.returns.ids.size(), "return"));
  for (const SumSource& sum : brief.sums)
    parts.push_back(printable(sum.name, 60) + (sum.without ? " (the mix without some)" : " (a sum)"));
  if (brief.mix) parts.push_back("the mix");
  return parts.empty() ? "nothing yet" : joined(parts);
}

/// Path that all these regions lie under; empty where they have none in common.
std::string commonPath(const std::vector<const Region*>& regions) {
  std::string common;
  for (std::size_t i = 0; i < regions.size(); ++i) {
    const std::string_view name = regions[i]->name;
    const std::string_view path = name.substr(0, name.size() - lastPart(name).size());
    if (i == 0) common = path;
    while (!path.starts_with(common)) {
      common.pop_back();
      while (!common.empty() && common.back() != '/') common.pop_back();
    }
  }
  if (!common.empty()) common.pop_back();
  return common;
}

std::string clipSetsText(const Brief& brief, const Session& session) {
  if (brief.clipSets.all)
    return session.clipSets.size() == 1 ? "the one clip set"
                                        : "all " + counted(session.clipSets.size(), "clip set");
  const std::set<std::string> ids = idsOf(brief.clipSets);
  std::vector<std::string> names;
  for (const ClipSet& set : session.clipSets)
    if (ids.contains(set.id)) names.push_back(printable(set.name, 60));
  return names.size() == 1 ? names[0] : counted(names.size(), "clip set");
}

std::string regionsText(const Brief& brief, const Session& session) {
  if (brief.regions.all)
    return session.regions.size() == 1 ? "the one region"
                                       : "all " + counted(session.regions.size(), "region");
  const std::set<std::string> ids = idsOf(brief.regions);
  std::vector<const Region*> chosen;
  for (const Region& region : session.regions)
    if (ids.contains(region.id)) chosen.push_back(&region);
  if (chosen.empty()) return "no region yet";
  if (chosen.size() == 1) return printable(chosen[0]->name, 60);
  const std::string path = commonPath(chosen);
  return counted(chosen.size(), "region") + (path.empty() ? "" : " under " + printable(path, 60));
}

std::string spansText(const Brief& brief, const Session& session) {
  if (brief.clipSets.empty()) return regionsText(brief, session);
  if (brief.regions.empty()) return clipSetsText(brief, session);
  return regionsText(brief, session) + " and " + clipSetsText(brief, session);
}

std::string countsText(const Brief& brief) {
  if (brief.counts == Counts::EverythingHeard) return "everything heard";
  std::string text =
      brief.crossing == Crossing::FromStart ? "only what begins here or runs in" : "only what begins here";
  if (brief.endFadeMs != kDefaultEndFadeMs) text += ", ends faded in " + plainNumber(brief.endFadeMs) + " ms";
  return text;
}

bool hasInserts(const Session& session) {
  return !session.main.inserts.empty() ||
         std::any_of(session.tracks.begin(), session.tracks.end(), [](const Track& track) {
           return !track.inserts.empty() ||
                  std::any_of(track.clips.begin(), track.clips.end(),
                              [](const Clip& clip) { return !clip.inserts.empty(); });
         });
}

std::string reachText(const Brief& brief, const Session& session, const TrackTree& tree) {
  const std::string group = nameOfTrack(session, tree, brief.reach.group);
  std::string text;
  switch (brief.reach.stage) {
    case ReachStage::Clips: text = "before their inserts"; break;
    case ReachStage::Inserts: text = "before their faders"; break;
    case ReachStage::Track: text = "through their own faders"; break;
    case ReachStage::GroupInserts: text = "through " + group + "'s inserts, before its fader"; break;
    case ReachStage::Group: text = "through " + group; break;
    case ReachStage::Groups: text = "through their groups"; break;
    case ReachStage::MainInserts: text = "through main's inserts, before its fader"; break;
    case ReachStage::Main: text = "through main"; break;
  }
  if (brief.withReturns == Returns::Out) text += ", without returns";
  if (brief.withReturns == Returns::Files) text += ", returns as files of their own";
  return text;
}

/// Whose overrides are their own: by name, where they are few.
std::string exceptionsText(const Brief& brief, const Session& session) {
  constexpr std::size_t kNamed = 2;
  if (brief.exceptions.size() > kNamed) return counted(brief.exceptions.size(), "track");
  std::vector<std::string> names;
  for (const TrackException& exception : brief.exceptions) {
    const Track* track = findTrack(session, exception.track);
    names.push_back(track == nullptr ? "main" : printable(track->name, 60));
  }
  return joined(names);
}

std::string overridesText(const Brief& brief, const Session& session) {
  const Overrides& o = brief.overrides;
  std::string text = (o.faders == Faders::AsMixed ? ", faders as mixed" : "") + overrideWords(o);
  text.erase(0, 2);
  if (brief.overrideGroups || brief.overrideReturns || brief.overrideMain) {
    std::vector<std::string> also;
    if (brief.overrideGroups) also.push_back("groups");
    if (brief.overrideReturns) also.push_back("returns");
    if (brief.overrideMain) also.push_back("main");
    text += ", on " + joined(also) + " too";
  }
  if (!brief.exceptions.empty()) text += ", but for " + exceptionsText(brief, session);
  if (brief.withoutMissing) text += ", plug-ins that are missing passed over";
  return text;
}

std::string runUpText(const Brief& brief) {
  if (brief.runUpFromStart) return "run up to from the session's start";
  return brief.runUpSeconds > 0 ? "run up to for " + plainNumber(brief.runUpSeconds) + " s"
                                : "without run-up";
}

std::string_view caseText(LetterCase letterCase) {
  switch (letterCase) {
    case LetterCase::AsIs: return "letters as they are";
    case LetterCase::Lower: return "small letters";
    case LetterCase::Upper: return "capitals";
    case LetterCase::Snake: return "snake case";
    case LetterCase::Kebab: return "kebab case";
    case LetterCase::Camel: return "camel case";
    case LetterCase::Pascal: return "pascal case";
  }
  return {};
}

}  // namespace

std::vector<Phrase> sentenceOf(const Brief& brief, const Session& session) {
  const Brief fresh;
  std::vector<Phrase> phrases;
  const auto plain = [&](std::string text) { phrases.push_back({PhraseKind::Plain, std::move(text), true}); };
  const auto phrase = [&](PhraseKind kind, std::string text, bool isDefault) {
    phrases.push_back({kind, std::move(text), isDefault});
  };
  plain("Print");
  phrase(PhraseKind::Sources, sourcesText(brief, session),
         brief.tracks == fresh.tracks && brief.groups == fresh.groups && brief.mix == fresh.mix &&
             brief.returns == fresh.returns && brief.sums == fresh.sums);
  plain("over");
  phrase(PhraseKind::Regions, spansText(brief, session),
         brief.regions == fresh.regions && brief.clipSets == fresh.clipSets);
  plain(",");
  phrase(
      PhraseKind::Counts, countsText(brief),
      brief.counts == fresh.counts && brief.crossing == fresh.crossing && brief.endFadeMs == fresh.endFadeMs);
  plain(", heard");
  const TrackTree tree(session);
  phrase(PhraseKind::Reach, reachText(brief, session, tree),
         brief.reach == fresh.reach && brief.withReturns == fresh.withReturns);
  plain(",");
  const std::string overrides = overridesText(brief, session);
  phrase(PhraseKind::Overrides, overrides, overrides == overridesText(fresh, session));
  const bool effects = hasInserts(session);
  if (effects || brief.keyed != fresh.keyed) {
    plain(",");
    phrase(PhraseKind::Keyed, brief.keyed ? "keyed by the mix" : "each keyed alone",
           brief.keyed == fresh.keyed);
  }
  const bool runsUp = brief.runUpFromStart || brief.runUpSeconds > 0;
  if (brief.counts == Counts::EverythingHeard && (effects || runsUp)) {
    plain(",");
    phrase(PhraseKind::RunUp, runUpText(brief), !runsUp);
  }
  plain(", with");
  phrase(PhraseKind::Tail,
         brief.tailSeconds > 0 ? "a tail of " + plainNumber(brief.tailSeconds) + " s" : "no tail",
         brief.tailSeconds == 0);
  plain(", as");
  phrase(PhraseKind::Encoding, std::string(encodingInfo(brief.encoding).text),
         brief.encoding == fresh.encoding);
  plain(", named");
  phrase(PhraseKind::Template, brief.nameTemplate, brief.nameTemplate == fresh.nameTemplate);
  plain("in");
  phrase(PhraseKind::Case, std::string(caseText(brief.letterCase)), brief.letterCase == fresh.letterCase);
  plain("into");
  phrase(PhraseKind::Folder, brief.folder, brief.folder == fresh.folder);
  plain(";");
  phrase(PhraseKind::Existing, std::string(existingName(brief.existing)), brief.existing == fresh.existing);
  plain("what is there.");
  return phrases;
}

std::string sentenceText(const Brief& brief, const Session& session) {
  std::string text;
  for (const Phrase& phrase : sentenceOf(brief, session)) {
    const bool closes = phrase.kind == PhraseKind::Plain && (phrase.text[0] == ',' || phrase.text[0] == ';');
    if (!text.empty() && !closes) text += ' ';
    text += phrase.kind == PhraseKind::Plain ? phrase.text : printable(phrase.text, 400);
  }
  return text;
}

}  // namespace octaphon
