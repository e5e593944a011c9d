#include "plan/sentence.h"

#include <algorithm>

#include "base/decibels.h"
#include "base/unicode.h"
#include "brief/description.h"
#include "plan/chosen_words.h"
#include "plan/signal_words.h"
#include "routing/track_tree.h"

namespace octaphon {
namespace {

std::string nameOfTrack(const Session& session, const TrackTree& tree, const std::string& id) {
  const std::optional<Strip> track = tree.find(id);
  return track ? printable(session.tracks[track->track()].name, 60) : "?";
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
  const std::string group = nameOfTrack(session, tree, brief.heard.reach.group);
  std::string text;
  switch (brief.heard.reach.stage) {
    case ReachStage::Clips: text = "before their inserts"; break;
    case ReachStage::Inserts: text = "before their faders"; break;
    case ReachStage::Track: text = "through their own faders"; break;
    case ReachStage::GroupInserts: text = "through " + group + "'s inserts, before its fader"; break;
    case ReachStage::Group: text = "through " + group; break;
    case ReachStage::Groups: text = "through their groups"; break;
    case ReachStage::MainInserts: text = "through main's inserts, before its fader"; break;
    case ReachStage::Main: text = "through main"; break;
  }
  return text;
}

/// Whose overrides are their own: by name, where they are few.
std::string exceptionsText(const Brief& brief, const Session& session) {
  constexpr std::size_t kNamed = 2;
  if (brief.heard.exceptions.size() > kNamed) return counted(brief.heard.exceptions.size(), "track");
  std::vector<std::string> names;
  for (const TrackException& exception : brief.heard.exceptions) {
    const Track* track = findTrack(session, exception.track);
    names.push_back(track == nullptr ? "main" : printable(track->name, 60));
  }
  return listed(names);
}

std::string overridesText(const Brief& brief, const Session& session) {
  const Overrides& o = brief.heard.overrides;
  std::string text = (o.faders == Faders::AsMixed ? ", faders as mixed" : "") + overrideWords(o);
  text.erase(0, 2);
  if (brief.heard.overrideGroups || brief.heard.overrideReturns || brief.heard.overrideMain) {
    std::vector<std::string> also;
    if (brief.heard.overrideGroups) also.push_back("groups");
    if (brief.heard.overrideReturns) also.push_back("returns");
    if (brief.heard.overrideMain) also.push_back("main");
    text += ", on " + listed(also) + " too";
  }
  if (!brief.heard.exceptions.empty()) text += ", but for " + exceptionsText(brief, session);
  return text;
}

/// What has to be looked up in the session; other phrases are put together of their fields' clauses alone.
std::string beginningOf(PhraseKind kind, const Brief& brief, const Session& session) {
  switch (kind) {
    case PhraseKind::Sources: return sourcesText(brief, session);
    case PhraseKind::Regions: return spansText(brief, session);
    case PhraseKind::Reach: return reachText(brief, session, TrackTree(session));
    case PhraseKind::Overrides: return overridesText(brief, session);
    default: return {};
  }
}

/// Calls visit(field) for each field that people see.
template <class Visit>
void forEachBriefField(const Visit& visit) {
  forEachField<Brief>([&](const auto& field) {
    if constexpr (requires { field.phrase; }) visit(field);
  });
  std::apply([&](const auto&... fields) { (visit(fields), ...); }, fields::loopPhrase());
  std::apply([&](const auto&... fields) { (visit(fields), ...); }, fields::levelPhrase());
  std::apply([&](const auto&... fields) { (visit(fields), ...); }, fields::dataPhrase());
}

std::string textOf(PhraseKind kind, const Brief& brief, const Session& session) {
  std::string text = beginningOf(kind, brief, session);
  forEachBriefField([&](const auto& field) {
    if (field.phrase == kind && field.clause != nullptr) text += field.clause(brief);
  });
  return text;
}

/// Whether all that matters of a phrase's fields is as a new brief has it.
bool isUsual(PhraseKind kind, const Brief& brief) {
  static const Brief kNew = newBrief();
  bool usual = true;
  forEachBriefField([&](const auto& field) {
    const bool counts = field.phrase == kind && (field.matters == nullptr || field.matters(brief));
    if (counts) usual = usual && field.in(brief) == field.in(kNew);
  });
  return usual;
}

/// A phrase, where it stands, and the words around it.
struct Part {
  PhraseKind kind;
  Paragraph paragraph;
  std::string_view mark, lead;
  bool isNeeded = false;
  bool (*isSaid)(const Brief& brief, const Session& session) = nullptr;  // null: always
  std::string_view trail = {};
  bool isQuiet = false;
};

bool isKeySaid(const Brief& brief, const Session& session) {
  return !brief.heard.keyed || hasInserts(session);
}

bool isRunUpSaid(const Brief& brief, const Session& session) {
  return brief.heard.counts == Counts::EverythingHeard &&
         (!brief.heard.runUp.isNone() || hasInserts(session));
}

constexpr Part kParts[]{
    {PhraseKind::Sources, Paragraph::WhatAndWhere, "", "Print", true},
    {PhraseKind::Regions, Paragraph::WhatAndWhere, "", "over", true},
    {PhraseKind::Counts, Paragraph::WhatAndWhere, ",", ""},
    {PhraseKind::Reach, Paragraph::Heard, ",", "heard"},
    {PhraseKind::Overrides, Paragraph::Heard, ",", ""},
    {PhraseKind::Keyed, Paragraph::Heard, ",", "", false, isKeySaid},
    {PhraseKind::RunUp, Paragraph::Heard, ",", "", false, isRunUpSaid},
    {PhraseKind::Loops, Paragraph::Ends, ",", "", false, nullptr, "", true},
    {PhraseKind::Tail, Paragraph::Ends, ",", "with"},
    {PhraseKind::LeadIn, Paragraph::Ends, ",", "with", false, nullptr, "", true},
    {PhraseKind::Edges, Paragraph::Ends, ",", "with", false, nullptr, "", true},
    {PhraseKind::Length, Paragraph::Ends, ",", "", false, nullptr, "", true},
    {PhraseKind::Trim, Paragraph::Ends, ",", "", false, nullptr, "", true},
    {PhraseKind::Level, Paragraph::Ends, ",", "", false, nullptr, "", true},
    {PhraseKind::Encoding, Paragraph::Files, ",", "as", true},
    {PhraseKind::Rate, Paragraph::Files, "", "at", false, nullptr, "", true},
    {PhraseKind::Data, Paragraph::Files, ",", "with", false, nullptr, "", true},
    {PhraseKind::Template, Paragraph::NamesAndFolder, ",", "named", true},
    {PhraseKind::Case, Paragraph::NamesAndFolder, "", "in"},
    {PhraseKind::Folder, Paragraph::NamesAndFolder, "", "into", true},
    {PhraseKind::Existing, Paragraph::NamesAndFolder, ";", "", false, nullptr, "what is there"},
    {PhraseKind::HandOver, Paragraph::NamesAndFolder, ";", "handed over", false, nullptr, "", true},
    {PhraseKind::Rows, Paragraph::NamesAndFolder, ";", "", false, nullptr, "", true},
};

}  // namespace

std::vector<Phrase> sentenceOf(const Brief& brief, const Session& session) {
  static const Brief kNew = newBrief();
  std::vector<Phrase> phrases;
  for (const Part& part : kParts) {
    if (part.isSaid != nullptr && !part.isSaid(brief, session)) continue;
    std::string text = textOf(part.kind, brief, session);
    // A level that no fader is set to, say, changes no words.
    const bool isDefault = isUsual(part.kind, brief) || text == textOf(part.kind, kNew, session);
    phrases.push_back({part.kind, part.paragraph, part.mark, part.lead, std::move(text), part.trail,
                       isDefault, part.isNeeded, part.isQuiet});
  }
  return phrases;
}

std::string sentenceText(const Brief& brief, const Session& session) {
  std::string text;
  const auto add = [&](std::string_view words) {
    if (!words.empty()) text.append(text.empty() ? "" : " ").append(words);
  };
  for (const Phrase& phrase : sentenceOf(brief, session)) {
    if (phrase.isQuiet && phrase.isDefault) continue;
    text += phrase.mark;
    add(phrase.lead);
    add(printable(phrase.text, 400));
    add(phrase.trail);
  }
  return text + '.';
}

/// Where what they are about is said, and mended; of the others no phrase is.
struct About {
  PhraseKind phrase;
  std::vector<RemarkCode> codes;
};

static std::vector<About> whatRemarksAreAbout() {
  using enum RemarkCode;
  using enum PhraseKind;
  return {{Template,
           {BadTemplate, EmptyName, NameTooLong, LongPath, UnmeasuredName, LettersLost, AlikeOnDisk,
            Collision, RenamedFile, EarlierEdition}},
          {Folder, {UnusableFolder, BadFolder, DamagedReceipt}},
          {Regions, {UnknownRegion, FindsNoSpan, UnknownClipSet, SharedClips, EmptySpan}},
          {Sources, {UnknownSource, FindsNoSource, MutedSource, HelperSource}},
          {Counts, {CrossesStart, StartsAtEnd}},
          {Reach, {ReturnBeyondReach, ReachElsewhere, ReturnsTwice}},
          {Overrides, {MissingEffect, PluginChannels}},
          {Keyed, {KeyedAlone}},
          {Tail, {NoBars, TailLimited, TailGrew, CutByTail}},
          {Loops, {UnequalLoops, FoldOfDynamics, LapsDiffer}},
          {LeadIn, {BeforeMidnight}},
          {Length, {ContradictingEnds, CutAtExact}},
          {Rate, {HigherRate}},
          {Encoding,
           {TooLong, RateRefused, ChannelsRefused, BitRateRefused, NotSeamless, WholeNumbers, LossyLayer,
            Clipped}},
          {Level, {LevelNotJudged, LevelNotReached, GainMoved, OverCeiling}},
          {Data, {BadDataTemplate, NotCarried}},
          {Existing, {Kept, ChangedFile, ForeignFile, Stopped}}};
}

PhraseKind phraseOf(RemarkCode code) {
  static const std::vector<About> kAll = whatRemarksAreAbout();
  const auto found = std::find_if(kAll.begin(), kAll.end(), [code](const About& about) {
    return std::find(about.codes.begin(), about.codes.end(), code) != about.codes.end();
  });
  return found == kAll.end() ? PhraseKind::Plain : found->phrase;
}

}  // namespace octaphon
