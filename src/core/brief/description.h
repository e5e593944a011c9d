// The fields of a brief: key, place, kind, range, meaning, and the words they have in its sentence and for
// undo. The order is that of the keys in files; defaults are those of a new Brief.
#pragma once

#include "brief/clauses.h"
#include "brief/hand_over_fields.h"
#include "brief/level_fields.h"
#include "brief/loop_fields.h"
#include "brief/phrase.h"

namespace octaphon {

struct SelectionKind {};  ///< "all", or a list of ids and rules
struct ReachKind {};      ///< as reachName() gives it
struct RunUpKind {};      ///< seconds, or "start"
/// A name, or how many; null: as tapped.
struct OutputChannelsKind {};

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

constexpr auto describe(const Pick*) {
  return description(
      "pick",  //
      field<&Pick::by>("by", ChoiceKind<PickBy>{}, "what it goes by").always(),
      field<&Pick::value>("value", TextKind{},
                          "an id; a path, or of tracks the id of a group; a name with `*` and `?`; a tag"),
      field<&Pick::number>("number", IntegerKind{0, kMaxPickNumber}, "of `colour` (1 to 8) and `level`"),
      field<&Pick::out>("out", FlagKind{}, "taken out instead of in"));
}
static_assert(isDescribedWhole<Pick>());

constexpr auto describe(const TimeSpan*) {
  return description("span",  //
                     field<&TimeSpan::start>("start", FramesKind{true}).always(),
                     field<&TimeSpan::length>("length", FramesKind{true}).always());
}
static_assert(isDescribedWhole<TimeSpan>(0));

constexpr auto describe(const SumSource*) {
  return description(
      "sum",  //
      field<&SumSource::id>("id", IdKind{}).always(), field<&SumSource::name>("name", TextKind{}).always(),
      field<&SumSource::tracks>("tracks", SelectionKind{}, "of tracks, and of groups by their ids").always(),
      field<&SumSource::without>("without", FlagKind{}, "the mix without these, instead of their sum"));
}
static_assert(isDescribedWhole<SumSource>());

constexpr auto describe(const OwnEnds*) {
  using O = OwnEnds;
  constexpr OptionalNumberKind kSeconds{{0, kMaxTailSeconds, "s", 3}};
  constexpr OptionalNumberKind kBars{{0, kMaxEndBars, "bars", 2}};
  constexpr OptionalNumberKind kEdge{{0, kMaxEdgeMs, "ms", 1}};
  return description(
      "own-ends",  //
      field<&O::tail>("tail", OptionalChoiceKind<Tail>{}, "instead of the brief's, as all keys from here on")
          .labelled("Tail"),
      field<&O::tailSeconds>("tail_seconds", kSeconds, "without `tail`: a `fixed` one")
          .labelled("Tail's length"),
      field<&O::tailBars>("tail_bars", kBars).labelled("Tail in bars"),
      field<&O::silenceSeconds>("silence_seconds", kSeconds).labelled("Silence behind"),
      field<&O::leadInSeconds>("lead_in_seconds", kSeconds).labelled("Lead-in"),
      field<&O::leadInBars>("lead_in_bars", kBars).labelled("Lead-in in bars"),
      field<&O::fadeInMs>("fade_in_ms", kEdge).labelled("Fade in"),
      field<&O::fadeOutMs>("fade_out_ms", kEdge).labelled("Fade out"),
      field<&O::exactSeconds>("exact_seconds", OptionalNumberKind{{0, kMaxExactSeconds, "s", 4}},
                              "0: as long as it is")
          .labelled("Exact length"));
}
static_assert(isDescribedWhole<OwnEnds>(0));

constexpr OneOfKind fileRateKind(const char* zeroWords) {
  OneOfKind kind{{}, zeroWords, "Hz"};
  for (std::size_t i = 0; i < kFileRates.size(); ++i) kind.values[i] = kFileRates[i];
  return kind;
}
inline constexpr OneOfKind kFileRateKind = fileRateKind("as the brief says");

constexpr auto describe(const Coding*) {
  return description(
      "coding",  //
      field<&Coding::level>("level", IntegerKind{0, kMostFlacLevel}, "of FLAC: 0 is quick, 8 is small"),
      field<&Coding::quality>("quality", NumberKind{kLeastVorbisQuality, kMostVorbisQuality, "", 1},
                              "of Vorbis"),
      field<&Coding::bitRate>(
          "bit_rate", IntegerKind{0, kMostBitRate},
          "of Opus and MP3, in kbit/s of all channels; 0: 64 a channel in Opus, 96 in MP3"),
      field<&Coding::variable>("variable", FlagKind{}, "of MP3: as needed, `bit_rate` on average"));
}
static_assert(isDescribedWhole<Coding>(0));

constexpr auto describe(const Output*) {
  return description(
      "output",  //
      field<&Output::encoding>("encoding", ChoiceKind<Encoding>{}).always().labelled("Format"),
      field<&Output::rate>("rate", kFileRateKind, "in Hz; 0: the brief's").labelled("Rate"),
      field<&Output::channels>("channels", OutputChannelsKind{}, "also as a number, 0 as tapped")
          .labelled("Channels"),
      field<&Output::split>("split", FlagKind{}, "a file for each channel, named by it").labelled("Split"),
      field<&Output::together>(
          "together", FlagKind{},
          "one file of all sources of a span, their channels as tapped, behind each other"),
      field<&Output::suffix>("suffix", TextKind{}, "behind the name, before the ending").labelled("Suffix"),
      field<&Output::folder>("folder", TextKind{}, "below the brief's folder; empty: in it")
          .labelled("Folder"),
      field<&Output::coding>("", InlineKind<Coding>{}));
}
static_assert(isDescribedWhole<Output>());

constexpr auto describe(const DataFact*) {
  return description("fact",  //
                     field<&DataFact::name>("name", TextKind{"Name the fact"}).always(),
                     field<&DataFact::value>("value", TextKind{}, "a template").always());
}
static_assert(isDescribedWhole<DataFact>());

constexpr auto describe(const InsideData*) {
  using D = InsideData;
  return description(
      "data",  //
      field<&D::isPlain>("plain", FlagKind{}, "nothing is said but sound, loop and marks")
          .labelled("Sound alone"),
      field<&D::title>("title", TextKind{}, "a template, as all texts here").labelled("Title"),
      field<&D::artist>("artist", TextKind{}).labelled("Artist"),
      field<&D::album>("album", TextKind{}, "or library").labelled("Album"),
      field<&D::number>("number", TextKind{}, "on the album").labelled("Number on it"),
      field<&D::credit>("credit", TextKind{}).labelled("Credit"),
      field<&D::comment>("comment", TextKind{}).labelled("Comment"),
      field<&D::keywords>("keywords", TextKind{}).labelled("Keywords"),
      field<&D::category>("category", TextKind{}).labelled("Category"),
      field<&D::tempo>("tempo", TextKind{}, "quarter notes a minute").labelled("Tempo"),
      field<&D::key>("key", TextKind{}, "of the music: `Dm`").labelled("Key"),
      field<&D::isrc>("isrc", TextKind{}, "recording code (ISO 3901)").labelled("ISRC"),
      field<&D::description>("description", TextKind{}, "of `bext`: 256 letters of ASCII")
          .labelled("Description"),
      field<&D::originator>("originator", TextKind{}, "of `bext`: 32 letters").labelled("Originator"),
      field<&D::reference>("reference", TextKind{}, "of `bext`: 32 letters; empty: the row's mark")
          .labelled("Reference"),
      field<&D::project>("project", TextKind{}, "of `iXML`").labelled("Project"),
      field<&D::scene>("scene", TextKind{}, "of `iXML`").labelled("Scene"),
      field<&D::note>("note", TextKind{}, "of `iXML`").labelled("Note"),
      field<&D::facts>("facts", ListKind<DataFact>{kMaxDataFacts}, "free ones"),
      field<&D::regionFacts>("region_facts", FlagKind{}, "and all facts of the region or clip set")
          .labelled("All facts of the region"),
      field<&D::marks>("marks", FlagKind{}, "regions and markers that lie in the file, as cue points")
          .labelled("Regions and markers inside as cue points"),
      field<&D::loopComments>("loop_comments", FlagKind{},
                              "loops as `LOOPSTART` and `LOOPLENGTH` too, where a format has comments")
          .labelled("Loops as comments too"));
}
static_assert(isDescribedWhole<InsideData>());

constexpr auto describe(const RowException*) {
  using R = RowException;
  return description(
      "row-exception",  //
      field<&R::row>("row", TextKind{"Name the row by its key"}, "its key without the brief's id").always(),
      field<&R::name>("name", TextKind{},
                      "its path and name as they stand, without ending; empty: as the template says"),
      field<&R::channels>("channels", OutputChannelsKind{}, "instead of its output's"),
      field<&R::encoding>("encoding", OptionalChoiceKind<Encoding>{}, "the same"),
      field<&R::rate>("rate", kFileRateKind, "the same"), field<&R::ends>("", InlineKind<OwnEnds>{}),
      field<&R::loop>("loop", ObjectKind<OwnLoop>{}, "with the ends, of all files of its sound"));
}
static_assert(isDescribedWhole<RowException>());

constexpr auto describe(const AcceptedRemark*) {
  return description(
      "accepted",  //
      field<&AcceptedRemark::code>("code", TextKind{"Name the remark that is accepted"}, "of the remark")
          .always(),
      field<&AcceptedRemark::reason>("reason", TextKind{}, "in someone's own words").always(),
      field<&AcceptedRemark::rows>("rows", TextListKind{},
                                   "keys without the brief's id; an empty one: the brief as a whole")
          .always());
}
static_assert(isDescribedWhole<AcceptedRemark>());

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
           field<&B::ends, &Ends::tail>("tail", ChoiceKind<octaphon::Tail>{},
                                        "after the span's end; a session that has only `tail_seconds` or "
                                        "`tail_bars` means `fixed`"),
           "What is kept after the span", "Choose the tail", clauses::tail)
          .always(),
      said(Tail,
           field<&B::ends, &Ends::tailSeconds>("tail_seconds", NumberKind{0, kMaxTailSeconds, "s", 3},
                                               "length of a tail that is `fixed` or `as-heard`"),
           "Length of the tail", "Change the tail")
          .always()
          .when(clauses::hasTailOfLength));
}

/// In files an object of its own; people see its fields one by one (loopPhrase()).
constexpr auto loop() {
  return std::tuple(field<&Brief::loop>("loop", ObjectKind<Loop>{}, "files that are played over and over"));
}

/// The rest of tails.
constexpr auto tails() {
  using B = Brief;
  using enum PhraseKind;
  return std::tuple(
      said(Tail,
           field<&B::ends, &Ends::tailBars>("tail_bars", NumberKind{0, kMaxEndBars, "bars", 2},
                                            "the same in bars from the span's end; not both"),
           "Or in bars", "Change the tail")
          .when(clauses::hasTailOfLength),
      said(Tail,
           field<&B::ends, &Ends::thresholdDb>("tail_threshold_db", NumberKind{kLeastThresholdDb, 0, "dB", 1},
                                               "of `rings-out`: the tail ends with the last frame over it"),
           "Threshold", "Change the threshold of tails")
          .when(clauses::ringsOut),
      said(Tail,
           field<&B::ends, &Ends::relative>("tail_relative", FlagKind{},
                                            "the threshold counts from the span's peak, and is never under "
                                            "-90 dBFS; else it is in dBFS"),
           "Relative to the peak", "Change the threshold of tails")
          .when(clauses::ringsOut),
      said(Tail,
           field<&B::ends, &Ends::holdMs>("tail_hold_ms", NumberKind{10, kMaxHoldMs, "ms", 0},
                                          "quiet for so long, it has rung out; at least the longest delay on "
                                          "the way"),
           "Quiet for", "Change the hold of tails")
          .when(clauses::ringsOut),
      said(Tail,
           field<&B::ends, &Ends::limitSeconds>("tail_limit_seconds", NumberKind{0, kMaxTailSeconds, "s", 3},
                                                "the longest tail that rings out"),
           "At most", "Change the longest tail")
          .when(clauses::ringsOut),
      said(Tail,
           field<&B::ends, &Ends::silenceSeconds>("silence_seconds", NumberKind{0, kMaxTailSeconds, "s", 3},
                                                  "added after the tail"),
           "Silence after it", "Change the silence after the tail", clauses::silence));
}

/// What lies before the span, and how files begin and end.
constexpr auto leadInAndEdges() {
  using B = Brief;
  using enum PhraseKind;
  return std::tuple(
      said(LeadIn,
           field<&B::ends, &Ends::leadInSeconds>("lead_in_seconds", NumberKind{0, kMaxTailSeconds, "s", 3},
                                                 "kept before the span's start"),
           "Length of the lead-in", "Change the lead-in", clauses::leadIn),
      said(LeadIn,
           field<&B::ends, &Ends::leadInBars>("lead_in_bars", NumberKind{0, kMaxEndBars, "bars", 2},
                                              "the same in bars back from the span's start; not both"),
           "Or in bars", "Change the lead-in"),
      said(Edges,
           field<&B::ends, &Ends::fadeInMs>("fade_in_ms", NumberKind{0, kMaxEdgeMs, "ms", 1},
                                            "from the file's first frame on"),
           "Fade in", "Change the fade in", clauses::edges),
      said(Edges, field<&B::ends, &Ends::fadeInShape>("fade_in_shape", ChoiceKind<FadeShape>{true}),
           "Shape of the fade in", "Choose the shape of the fade in")
          .when(clauses::fadesIn),
      said(Edges,
           field<&B::ends, &Ends::fadeOutMs>("fade_out_ms", NumberKind{0, kMaxEdgeMs, "ms", 1},
                                             "up to the file's last frame"),
           "Fade out", "Change the fade out"),
      said(Edges, field<&B::ends, &Ends::fadeOutShape>("fade_out_shape", ChoiceKind<FadeShape>{true}),
           "Shape of the fade out", "Choose the shape of the fade out")
          .when(clauses::fadesOut));
}

constexpr auto lengthsAndRate() {
  using B = Brief;
  using enum PhraseKind;
  return std::tuple(
      said(Length,
           field<&B::ends, &Ends::exactSeconds>("exact_seconds", NumberKind{0, kMaxExactSeconds, "s", 4},
                                                "of the whole file, lead-in and tail included: cut with the "
                                                "fade out, or filled with silence; 0: as long as it is"),
           "Exact length (0: as it is)", "Change the exact length", clauses::exact),
      said(Length,
           field<&B::ends, &Ends::lengths>("lengths", ChoiceKind<Lengths>{},
                                           "`lined-up`: sources without clips have files too, so that all "
                                           "files of a span begin together and are equally long"),
           "Files of one span", "Choose whether files line up", clauses::lengths),
      said(Length,
           field<&B::ends, &Ends::pictureFrames>("picture_frames", FlagKind{},
                                                 "both ends are moved out to whole picture frames, with "
                                                 "silence"),
           "Move ends out to whole picture frames", "Change picture frames", clauses::pictureFrames),
      said(Trim,
           field<&B::ends, &Ends::trimDb>("trim_db",
                                          OptionalNumberKind{{kLeastThresholdDb, 0, "dBFS", 1}, -60},
                                          "what is quieter at head and end is trimmed off; null: kept"),
           "Trim what is under", "Change the trimming", clauses::trim),
      said(PhraseKind::Rate,
           field<&B::files, &B::Files::rate>("rate", fileRateKind("the session's"),
                                             "of the files, in Hz; 0: the session's"),
           "Sample rate", "Choose the rate", clauses::rate));
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
      said(Case,
           field<&B::names, &B::Names::separator>("separator", TextKind{},
                                                  "between the levels of paths, and tags; `/` makes folders"),
           "Between levels", "Change the separator", clauses::separator),
      said(Folder,
           field<&B::delivery, &B::Delivery::folder>(
               "folder", TextKind{}, "below the session's folder; the base folder of the brief"),
           "Folder below the session", "Change the folder", clauses::folder)
          .always(),
      said(PhraseKind::Encoding,
           field<&B::files, &B::Files::encoding>("encoding", ChoiceKind<octaphon::Encoding>{},
                                                 "where there are no `outputs`"),
           "", "Choose the format", clauses::outputs)
          .always(),
      said(Existing,
           field<&B::delivery, &B::Delivery::existing>("existing", ChoiceKind<octaphon::Existing>{},
                                                       "files that are there and not up to date"),
           "Files that are there", "Choose what becomes of files that are there", clauses::existing)
          .always(),
      said(PhraseKind::Encoding,
           field<&B::files, &B::Files::outputs>("outputs", ListKind<Output>{kMaxOutputs},
                                                "the files of each sound, from one pass; none: one of "
                                                "`encoding`"),
           "", "Choose the files"));
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
      said(Regions, field<&B::where, &B::Where::clips>(
                        "each_clip", SelectionKind{},
                        "clips that are spans of their own, each alone; `under` a track or group")),
      said(Regions,
           field<&B::where, &B::Where::betweenMarkers>(
               "between_markers", SelectionKind{}, "of sets of markers: spans from each marker to the next")),
      said(Regions, field<&B::where, &B::Where::wholeSession>("whole_session", FlagKind{},
                                                              "from the session's start to its end")),
      said(Regions, field<&B::where, &B::Where::extents>(
                        "source_extents", FlagKind{},
                        "each source over its own span, from its first clip to its last")),
      said(Regions, field<&B::where, &B::Where::range>("range", ObjectKind<TimeSpan>{},
                                                       "one stretch of time; null, or no length: none")),
      said(Sources, field<&B::what, &B::What::matching>(
                        "matching_groups", ChoiceKind<Matching>{},
                        "over each region the groups that match it: by its `path` (the deepest part that is "
                        "a group's name), its `colour` or one of its `tag`s")),
      said(Sources,
           field<&B::what, &B::What::ownLists>(
               "own_sources", FlagKind{}, "over each region and clip set the `sources` it names itself")),
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

/// The aim is an object of its own in files; people see all of it in another order (levelPhrase()).
constexpr auto level() {
  using B = Brief;
  return std::tuple(
      field<&B::levelling, &Levelling::level>("level", ObjectKind<LevelAim>{}, "how loud files are made"),
      field<&B::levelling, &Levelling::ceilingDb>("ceiling_dbtp", kCeilingKind,
                                                  "no true peak is over it; null: none"),
      field<&B::levelling, &Levelling::ceilingBy>("ceiling_by", ChoiceKind<CeilingBy>{},
                                                  "layers are kept under it by gain in any case"));
}

/// In files an object of its own; people see its fields one by one (dataPhrase()).
constexpr auto data() {
  return std::tuple(field<&Brief::data>("data", ObjectKind<InsideData>{}, "what files say of themselves"));
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

namespace fields {

template <auto Member, class Kind, auto... Path>
constexpr Field<Kind, Member, Path...> inside(const Field<Kind, Path...>& field) {
  return {field.key, field.kind, field.meaning, field.isAlwaysWritten, field.label};
}

/// The fields of a brief's loop as fields of the brief.
constexpr auto loopPhrase() {
  return std::apply(
      [](const auto&... fields) {
        return std::tuple([&] {
          auto said = octaphon::said(PhraseKind::Loops, inside<&Brief::loop>(fields), fields.label,
                                     "Change the loop");
          if (isField<&Loop::way>(fields))
            said.clause = clauses::loop;
          else
            said.matters = clauses::loopsBy(wayOfField<Loop>(fields));
          return said;
        }()...);
      },
      describe(static_cast<const Loop*>(nullptr)).fields);
}

/// The fields of a brief's aim as fields of the brief.
constexpr auto aimPhrase() {
  return std::apply(
      [](const auto&... fields) {
        return std::tuple([&] {
          auto said =
              octaphon::said(PhraseKind::Level, inside<&Brief::levelling>(inside<&Levelling::level>(fields)),
                             fields.label, "Change the level");
          if (isField<&LevelAim::kind>(fields)) said.clause = clauses::levelKind;
          if (isField<&LevelAim::target>(fields)) {
            said.matters = clauses::hasAim;
            said.sense = clauses::targetSense;
          }
          if (isField<&LevelAim::per>(fields)) {
            said.clause = clauses::levelPer;
            said.matters = clauses::findsGains;
          }
          return said;
        }()...);
      },
      describe(static_cast<const LevelAim*>(nullptr)).fields);
}

/// The aim, then what it is kept under.
constexpr auto levelPhrase() {
  const auto [aim, ceiling, by] = level();
  return std::tuple_cat(
      aimPhrase(),
      std::tuple(octaphon::said(PhraseKind::Level, ceiling, "Ceiling", "Change the ceiling"),
                 octaphon::said(PhraseKind::Level, by, "Kept under it", "Choose what keeps files under it")
                     .when(clauses::hasCeiling)));
}

/// The fields of what files say, as fields of the brief.
constexpr auto dataPhrase() {
  return std::apply(
      [](const auto&... fields) {
        return std::tuple([&] {
          auto said = octaphon::said(PhraseKind::Data, inside<&Brief::data>(fields), fields.label,
                                     "Change what files say");
          if (isField<&InsideData::isPlain>(fields)) said.clause = clauses::data;
          return said;
        }()...);
      },
      describe(static_cast<const InsideData*>(nullptr)).fields);
}

}  // namespace fields

constexpr auto describe(const Brief*) {
  return describedBy(
      "brief", std::tuple_cat(
                   fields::whatWhereHeard(), fields::filesNamesDelivery(), fields::moreSpansSourcesReach(),
                   fields::signal(), fields::loop(), fields::tails(), fields::leadInAndEdges(),
                   fields::lengthsAndRate(), fields::level(), fields::data(), fields::handOver(),
                   std::tuple(field<&Brief::heldBack>("held_back", TextListKind{},
                                                      "keys of rows taken out by hand, without the "
                                                      "brief's id"),
                              said(PhraseKind::Rows,
                                   field<&Brief::rowExceptions>("row_exceptions", ListKind<RowException>{},
                                                                "what single rows have otherwise"),
                                   "", "Change rows of their own", clauses::rows),
                              field<&Brief::accepted>("accepted", ListKind<AcceptedRemark>{},
                                                      "remarks that do not count"),
                              field<&Brief::isOn>("on", FlagKind{},
                                                  "whether its files are asked for where no brief is named"),
                              field<&Brief::notes>("notes", TextKind{}))));
}
static_assert(isDescribedWhole<Brief>(10) && isDescribedWhole<Brief, Levelling>(0) &&
              isDescribedWhole<Brief, Brief::What>(0) && isDescribedWhole<Brief, Brief::Where>(0) &&
              isDescribedWhole<Brief, Brief::Heard>(0) && isDescribedWhole<Brief, Ends>(0) &&
              isDescribedWhole<Brief, Brief::Files>(0) && isDescribedWhole<Brief, Brief::Names>(0) &&
              isDescribedWhole<Brief, Brief::Delivery>(0) && isDescribedWhole<Brief, HandOver>(0));

}  // namespace octaphon
