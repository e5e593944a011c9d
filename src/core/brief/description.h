// The fields of a brief: key, place, kind, range, meaning, and the words they have in its sentence and for
// undo. The order is that of the keys in files; defaults are those of a new Brief.
#pragma once

#include "base/decibels.h"
#include "brief/phrase.h"

namespace octaphon {

struct SelectionKind {};  ///< "all", or a list of ids
struct ReachKind {};      ///< as reachName() gives it
struct RunUpKind {};      ///< seconds, or "start"

constexpr auto describe(const Overrides*) {
  return description(
      "overrides",  //
      field<&Overrides::faders>("faders", ChoiceKind<Faders>{}, "`value`: at `fader_db`"),
      field<&Overrides::faderDb>("fader_db", NumberKind{kSilenceDb, kMaxGainDb, "dB", 1}),
      field<&Overrides::pans>("pans", ChoiceKind<Pans>{}),
      field<&Overrides::volumeAutomation>("volume_automation", FlagKind{}, "whether this curve is heard"),
      field<&Overrides::panAutomation>("pan_automation", FlagKind{}, "the same"),
      field<&Overrides::muteAutomation>("mute_automation", FlagKind{}, "the same"),
      field<&Overrides::inserts>("inserts", ChoiceKind<InsertChoice>{},
                                 "`tagged`: those with one of `insert_tags`"),
      field<&Overrides::tags>("insert_tags", TagsKind{}));
}
static_assert(isDescribedWhole<Overrides>(0));

constexpr auto describe(const TrackException*) {
  return description("exception",  //
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

namespace clauses {

std::string counts(const Brief& brief);
std::string crossing(const Brief& brief);
std::string endFade(const Brief& brief);
std::string withReturns(const Brief& brief);
std::string keyed(const Brief& brief);
std::string runUp(const Brief& brief);
std::string withoutMissing(const Brief& brief);
std::string tail(const Brief& brief);
std::string encoding(const Brief& brief);
std::string moreOutputs(const Brief& brief);
std::string format(const Brief& brief);
std::string letterCase(const Brief& brief);
std::string folder(const Brief& brief);
std::string existing(const Brief& brief);

constexpr bool onlyWhatBegins(const Brief& brief) { return brief.heard.counts == Counts::BeginsHere; }
constexpr bool everythingHeard(const Brief& brief) { return brief.heard.counts == Counts::EverythingHeard; }

}  // namespace clauses

constexpr auto describe(const Brief*) {
  using B = Brief;
  constexpr auto what = &B::what;
  constexpr auto where = &B::where;
  constexpr auto heard = &B::heard;
  constexpr auto names = &B::names;
  using enum PhraseKind;
  return description(
      "brief",  //
      field<&B::id>("id", IdKind{}).always(), field<&B::name>("name", TextKind{}).always(),
      said(Regions, field<where, &B::Where::regions>("regions", SelectionKind{}, "the spans")).always(),
      said(Sources, field<what, &B::What::mix>("mix", FlagKind{}, "whether the mix is a source")).always(),
      said(Sources, field<what, &B::What::tracks>("tracks", SelectionKind{}, "of tracks")).always(),
      said(Sources,
           field<what, &B::What::groups>("groups", SelectionKind{}, "of groups: one file of a group's sum each"))
          .always(),
      said(Counts,
           field<heard, &B::Heard::counts>("counts", ChoiceKind<octaphon::Counts>{},
                                           "`begins-here`: clips that start in the region; "
                                           "`everything-heard`: all that sounds in it"),
           "Which sound counts", "Choose which sound counts", clauses::counts)
          .always(),
      said(Counts,
           field<heard, &B::Heard::crossing>("crossing", ChoiceKind<Crossing>{},
                                             "under `begins-here`, a clip that began earlier is `left-out`, or "
                                             "heard `from-start`"),
           "What began earlier", "Choose what becomes of earlier clips", clauses::crossing)
          .always()
          .when(clauses::onlyWhatBegins),
      said(Counts,
           field<heard, &B::Heard::endFadeMs>("end_fade_ms", NumberKind{0, kMaxEndFadeMs, "ms", 1},
                                              "under `begins-here`, a clip that runs across the end is faded "
                                              "out in the last … ms"),
           "Fade at the end", "Change the fade at the end", clauses::endFade)
          .always()
          .when(clauses::onlyWhatBegins),
      said(Tail,
           field<&B::ends, &B::Ends::tailSeconds>("tail_seconds", NumberKind{0, kMaxTailSeconds, "s", 3},
                                                  "frames after the region's end"),
           "Length of the tail", "Change the tail", clauses::tail)
          .always(),
      said(Template, field<names, &B::Names::format>("template", TextKind{}, "see [names](names.md)"), "",
           "Change the template", clauses::format)
          .always(),
      said(Case, field<names, &B::Names::letterCase>("case", ChoiceKind<LetterCase>{}),
           "", "Choose the letter case", clauses::letterCase)
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
           "", "Choose the format", clauses::moreOutputs),
      said(Regions, field<where, &B::Where::clipSets>("clip_sets", SelectionKind{}, "more spans")),
      said(Sources,
           field<what, &B::What::returns>("returns", SelectionKind{},
                                          "of returns: files of what goes through them")),
      said(Sources,
           field<what, &B::What::sums>("sums", ListKind<SumSource>{},
                                       "files of several tracks, or of the mix without some")),
      said(Reach,
           field<heard, &B::Heard::reach>("reach", ReachKind{},
                                          "how far along its way a source is heard; the mix always through main")),
      said(Reach,
           field<heard, &B::Heard::withReturns>("with_returns", ChoiceKind<Returns>{},
                                                "each source carries its share of the returns; `out`; or `files` "
                                                "of their own"),
           "", "Choose what becomes of returns", clauses::withReturns),
      said(Overrides, field<heard, &B::Heard::overrides>("", InlineKind<octaphon::Overrides>{})),
      said(Overrides,
           field<heard, &B::Heard::overrideGroups>("override_groups", FlagKind{},
                                                   "whether what stands above touches groups too, not just tracks")),
      said(Overrides, field<heard, &B::Heard::overrideReturns>("override_returns", FlagKind{}, "the same of returns")),
      said(Overrides, field<heard, &B::Heard::overrideMain>("override_main", FlagKind{}, "the same of main")),
      said(Overrides,
           field<heard, &B::Heard::exceptions>("exceptions", ListKind<TrackException>{},
                                               "such keys for one track, group, return or main alone")),
      said(Keyed,
           field<heard, &B::Heard::keyed>("keyed", FlagKind{}, "shared dynamics take their gain from the full sum"),
           "Keyed by the mix", "Choose the key", clauses::keyed),
      said(RunUp,
           field<heard, &B::Heard::runUp>("run_up", RunUpKind{},
                                          "seconds processed before the span under `everything-heard`, or "
                                          "`\"start\"`: from the session's start"),
           "", "Change the run-up", clauses::runUp)
          .when(clauses::everythingHeard),
      said(Overrides,
           field<heard, &B::Heard::withoutMissing>("without_missing", FlagKind{},
                                                   "plug-ins that are not there are passed over"),
           "Pass over plug-ins that are missing", "Pass over plug-ins that are missing", clauses::withoutMissing),
      field<&B::notes>("notes", TextKind{}));
}
static_assert(isDescribedWhole<Brief>(8) && isDescribedWhole<Brief, Brief::What>(0) &&
              isDescribedWhole<Brief, Brief::Where>(0) && isDescribedWhole<Brief, Brief::Heard>(0) &&
              isDescribedWhole<Brief, Brief::Ends>(0) && isDescribedWhole<Brief, Brief::Files>(0) &&
              isDescribedWhole<Brief, Brief::Names>(0) && isDescribedWhole<Brief, Brief::Delivery>(0));

}  // namespace octaphon
