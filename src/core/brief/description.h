// The fields of a brief: key, place, kind, range, meaning, and the words they have in its sentence and for
// undo. The order is that of the keys in files; defaults are those of a new Brief.
#pragma once

#include "base/decibels.h"
#include "base/unicode.h"
#include "brief/phrase.h"

namespace octaphon {

struct SelectionKind {};  ///< "all", or a list of ids
struct ReachKind {};      ///< as reachName() gives it
struct RunUpKind {};      ///< seconds, or "start"

constexpr auto describe(const Overrides*) {
  return description(
      "overrides",  //
      field<&Overrides::faders>("faders", ChoiceKind<Faders>{}, "`value`: at `fader_db`").labelled("Faders"),
      field<&Overrides::faderDb>("fader_db", NumberKind{kSilenceDb, kMaxGainDb, "dB", 1})
          .labelled("Level of the faders"),
      field<&Overrides::pans>("pans", ChoiceKind<Pans>{}).labelled("Pans"),
      field<&Overrides::volumeAutomation>("volume_automation", FlagKind{}, "whether this curve is heard")
          .labelled("Volume moves as drawn"),
      field<&Overrides::panAutomation>("pan_automation", FlagKind{}, "the same")
          .labelled("Pan moves as drawn"),
      field<&Overrides::muteAutomation>("mute_automation", FlagKind{}, "the same").labelled("Mutes as drawn"),
      field<&Overrides::inserts>("inserts", ChoiceKind<InsertChoice>{},
                                 "`tagged`: those with one of `insert_tags`")
          .labelled("Inserts"),
      field<&Overrides::tags>("insert_tags", TagsKind{}).labelled("Tags of inserts that are heard"));
}
static_assert(isDescribedWhole<Overrides>(0));

constexpr auto describe(const TrackException*) {
  return description(
      "exception",  //
      field<&TrackException::track>("track", StripReferenceKind{}, "an id, or `main`").always(),
      field<&TrackException::overrides>("", InlineKind<Overrides>{}));
}
static_assert(isDescribedWhole<TrackException>());

constexpr auto describe(const SumSource*) {
  return description(
      "sum",  //
      field<&SumSource::id>("id", IdKind{}).always(), field<&SumSource::name>("name", TextKind{}).always(),
      field<&SumSource::tracks>("tracks", TextListKind{}, "ids of tracks and groups").always(),
      field<&SumSource::without>("without", FlagKind{}, "the mix without these, instead of their sum"));
}
static_assert(isDescribedWhole<SumSource>());

constexpr auto describe(const Output*) {
  return description("output",  //
                     field<&Output::encoding>("encoding", ChoiceKind<Encoding>{}).always(),
                     field<&Output::folder>("folder", TextKind{}, "below the brief's folder; empty: in it"));
}
static_assert(isDescribedWhole<Output>());

/// What fields say in the sentence.
namespace clauses {

constexpr bool onlyWhatBegins(const Brief& brief) { return brief.heard.counts == Counts::BeginsHere; }
constexpr bool everythingHeard(const Brief& brief) { return brief.heard.counts == Counts::EverythingHeard; }

inline std::string counts(const Brief& brief) { return std::string(choiceOf(brief.heard.counts).words); }

inline std::string crossing(const Brief& brief) {
  return onlyWhatBegins(brief) && brief.heard.crossing == Crossing::FromStart ? " or runs in" : "";
}

inline std::string endFade(const Brief& brief) {
  if (!onlyWhatBegins(brief) || brief.heard.endFadeMs == kDefaultEndFadeMs) return {};
  return ", ends faded in " + plainNumber(brief.heard.endFadeMs) + " ms";
}

inline std::string withReturns(const Brief& brief) {
  if (brief.heard.withReturns == Returns::In) return {};
  return ", " + std::string(choiceOf(brief.heard.withReturns).words);
}

inline std::string keyed(const Brief& brief) {
  return brief.heard.keyed ? "keyed by the mix" : "each keyed alone";
}

inline std::string runUp(const Brief& brief) {
  if (brief.heard.runUp.isNone()) return "without run-up";
  if (brief.heard.runUp.fromStart) return "run up to from the session's start";
  return "run up to for " + plainNumber(brief.heard.runUp.seconds) + " s";
}

inline std::string withoutMissing(const Brief& brief) {
  return brief.heard.withoutMissing ? ", plug-ins that are missing passed over" : "";
}

inline std::string tail(const Brief& brief) {
  return brief.ends.tailSeconds > 0 ? "a tail of " + plainNumber(brief.ends.tailSeconds) + " s" : "no tail";
}

inline std::string encoding(const Brief& brief) { return std::string(choiceOf(brief.files.encoding).words); }

inline std::string moreOutputs(const Brief& brief) {
  std::string text;
  for (const Output& output : brief.files.more) {
    text += " and " + std::string(choiceOf(output.encoding).words);
    if (!output.folder.empty()) text += " into " + output.folder;
  }
  return text;
}

inline std::string format(const Brief& brief) { return brief.names.format; }
inline std::string letterCase(const Brief& brief) {
  return std::string(choiceOf(brief.names.letterCase).words);
}
inline std::string folder(const Brief& brief) { return brief.delivery.folder; }
inline std::string existing(const Brief& brief) {
  return std::string(choiceOf(brief.delivery.existing).words);
}

}  // namespace clauses

namespace fields {

/// What, where, which sound counts, and how it ends: always written.
constexpr auto whatWhereHeard() {
  using B = Brief;
  using enum PhraseKind;
  return std::tuple(
      field<&B::id>("id", IdKind{}).always(), field<&B::name>("name", TextKind{}).always(),
      said(Regions, field<&B::where, &B::Where::regions>("regions", SelectionKind{}, "the spans")).always(),
      said(Sources, field<&B::what, &B::What::mix>("mix", FlagKind{}, "whether the mix is a source"))
          .always(),
      said(Sources, field<&B::what, &B::What::tracks>("tracks", SelectionKind{}, "of tracks")).always(),
      said(Sources, field<&B::what, &B::What::groups>("groups", SelectionKind{},
                                                      "of groups: one file of a group's sum each"))
          .always(),
      said(Counts,
           field<&B::heard, &B::Heard::counts>("counts", ChoiceKind<octaphon::Counts>{},
                                               "`begins-here`: clips that start in the region; "
                                               "`everything-heard`: all that sounds in it"),
           "Which sound counts", "Choose which sound counts", clauses::counts)
          .always(),
      said(Counts,
           field<&B::heard, &B::Heard::crossing>(
               "crossing", ChoiceKind<Crossing>{},
               "under `begins-here`, a clip that began earlier is `left-out`, or "
               "heard `from-start`"),
           "What began earlier", "Choose what becomes of earlier clips", clauses::crossing)
          .always()
          .when(clauses::onlyWhatBegins),
      said(Counts,
           field<&B::heard, &B::Heard::endFadeMs>(
               "end_fade_ms", NumberKind{0, kMaxEndFadeMs, "ms", 1},
               "under `begins-here`, a clip that runs across the end is faded "
               "out in the last … ms"),
           "Fade at the end", "Change the fade at the end", clauses::endFade)
          .always()
          .when(clauses::onlyWhatBegins),
      said(Tail,
           field<&B::ends, &B::Ends::tailSeconds>("tail_seconds", NumberKind{0, kMaxTailSeconds, "s", 3},
                                                  "frames after the region's end"),
           "Length of the tail", "Change the tail", clauses::tail)
          .always());
}

/// Files, names and where they go.
constexpr auto filesNamesDelivery() {
  using B = Brief;
  using enum PhraseKind;
  return std::tuple(
      said(Template, field<&B::names, &B::Names::format>("template", TextKind{}, "see [names](names.md)"), "",
           "Change the template", clauses::format)
          .always(),
      said(Case, field<&B::names, &B::Names::letterCase>("case", ChoiceKind<LetterCase>{}), "Letters",
           "Choose the letter case", clauses::letterCase)
          .always(),
      said(Folder,
           field<&B::delivery, &B::Delivery::folder>(
               "folder", TextKind{}, "below the session's folder; the base folder of the brief"),
           "Folder below the session", "Change the folder", clauses::folder)
          .always(),
      said(PhraseKind::Encoding,
           field<&B::files, &B::Files::encoding>("encoding", ChoiceKind<octaphon::Encoding>{},
                                                 "all WAV at the session's rate"),
           "As what", "Choose the format", clauses::encoding)
          .always(),
      said(Existing,
           field<&B::delivery, &B::Delivery::existing>("existing", ChoiceKind<octaphon::Existing>{},
                                                       "files of ours that are out of date"),
           "Files that are there", "Choose what becomes of files that are there", clauses::existing)
          .always(),
      said(PhraseKind::Encoding,
           field<&B::files, &B::Files::more>("more_outputs", ListKind<Output>{},
                                             "more files of each sound, from the same pass"),
           "", "Choose the format", clauses::moreOutputs));
}

/// More spans and sources, and how far they are heard.
constexpr auto moreSpansSourcesReach() {
  using B = Brief;
  using enum PhraseKind;
  return std::tuple(
      said(Regions, field<&B::where, &B::Where::clipSets>("clip_sets", SelectionKind{}, "more spans")),
      said(Sources, field<&B::what, &B::What::returns>("returns", SelectionKind{},
                                                       "of returns: files of what goes through them")),
      said(Sources, field<&B::what, &B::What::sums>("sums", ListKind<SumSource>{},
                                                    "files of several tracks, or of the mix without some")),
      said(Reach,
           field<&B::heard, &B::Heard::reach>(
               "reach", ReachKind{}, "how far along its way a source is heard; the mix always through main"),
           "Heard", "Choose the reach"),
      said(Reach,
           field<&B::heard, &B::Heard::withReturns>(
               "with_returns", ChoiceKind<Returns>{},
               "each source carries its share of the returns; `out`; or `files` "
               "of their own"),
           "What becomes of returns", "Choose what becomes of returns", clauses::withReturns));
}

/// What is changed on the way, and how it is played.
constexpr auto signal() {
  using B = Brief;
  using enum PhraseKind;
  return std::tuple(
      said(Overrides, field<&B::heard, &B::Heard::overrides>("", InlineKind<octaphon::Overrides>{})),
      said(
          Overrides,
          field<&B::heard, &B::Heard::overrideGroups>(
              "override_groups", FlagKind{}, "whether what stands above touches groups too, not just tracks"),
          "On groups too", "Change overrides of groups"),
      said(
          Overrides,
          field<&B::heard, &B::Heard::overrideReturns>("override_returns", FlagKind{}, "the same of returns"),
          "On returns too", "Change overrides of returns"),
      said(Overrides,
           field<&B::heard, &B::Heard::overrideMain>("override_main", FlagKind{}, "the same of main"),
           "On main too", "Change overrides of main"),
      said(Overrides,
           field<&B::heard, &B::Heard::exceptions>("exceptions", ListKind<TrackException>{},
                                                   "such keys for one track, group, return or main alone")),
      said(Keyed,
           field<&B::heard, &B::Heard::keyed>("keyed", FlagKind{},
                                              "shared dynamics take their gain from the full sum"),
           "Keyed by the mix", "Choose the key", clauses::keyed),
      said(
          RunUp,
          field<&B::heard, &B::Heard::runUp>("run_up", RunUpKind{},
                                             "seconds processed before the span under `everything-heard`, or "
                                             "`\"start\"`: from the session's start"),
          "Length of the run-up", "Change the run-up", clauses::runUp)
          .when(clauses::everythingHeard),
      said(Overrides,
           field<&B::heard, &B::Heard::withoutMissing>("without_missing", FlagKind{},
                                                       "plug-ins that are not there are passed over"),
           "Pass over plug-ins that are missing", "Pass over plug-ins that are missing",
           clauses::withoutMissing));
}

}  // namespace fields

constexpr auto describe(const Brief*) {
  return describedBy("brief", std::tuple_cat(fields::whatWhereHeard(), fields::filesNamesDelivery(),
                                             fields::moreSpansSourcesReach(), fields::signal(),
                                             std::tuple(field<&Brief::notes>("notes", TextKind{}))));
}
static_assert(isDescribedWhole<Brief>(8) && isDescribedWhole<Brief, Brief::What>(0) &&
              isDescribedWhole<Brief, Brief::Where>(0) && isDescribedWhole<Brief, Brief::Heard>(0) &&
              isDescribedWhole<Brief, Brief::Ends>(0) && isDescribedWhole<Brief, Brief::Files>(0) &&
              isDescribedWhole<Brief, Brief::Names>(0) && isDescribedWhole<Brief, Brief::Delivery>(0));

}  // namespace octaphon
