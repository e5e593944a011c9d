// The fields of a session and of everything in it: key, place, kind, range and meaning, in the order of the
// keys in files. Defaults are those of a new value.
#pragma once

#include "base/description.h"
#include "brief/description.h"
#include "session/session.h"

namespace octaphon {

struct PictureRateKind {};  ///< as pictureRateText() gives it
struct TimecodeKind {};     ///< picture frames since midnight, as timecode at the session's picture rate

inline constexpr NumberKind kGainKind{kSilenceDb, kMaxGainDb, "dB", 1};
inline constexpr IntegerKind kInkKind{0, kInks};
inline constexpr OneOfKind kChannelsKind{{1, 2, 4, 6, 8}};

constexpr auto describe(const TempoPoint*) {
  using T = TempoPoint;
  return description(
      "tempo",  //
      field<&T::at>("at", FramesKind{true}, "the first is 0; points come in order of time").always(),
      field<&T::bpm>("bpm", NumberKind{1, 1000}, "quarter notes a minute").always(),
      field<&T::beats>("beats", IntegerKind{1, 64}, "in a bar").always(),
      field<&T::unit>("unit", OneOfKind{{1, 2, 4, 8, 16, 32, 64}}, "note value of a beat").always());
}
static_assert(isDescribedWhole<TempoPoint>());

constexpr auto describe(const Medium*) {
  return description(
      "medium",  //
      field<&Medium::id>("id", IdKind{}).always(),
      field<&Medium::file>("file", TextKind{"Give a path relative to the session file"},
                           "a path relative to the session file")
          .always(),
      field<&Medium::frames>("frames", FramesKind{}, "when it was last seen, at its own rate; 0: not known"),
      field<&Medium::rate>("rate", IntegerKind{0, 10'000'000}, "its own, in Hz; 0: not known"),
      field<&Medium::content>("content", TextKind{}, "hash of its bytes, 32 hexadecimal digits"));
}
static_assert(isDescribedWhole<Medium>());

constexpr auto describe(const Fade*) {
  return description(
      "fade",  //
      field<&Fade::length>("length", FramesKind{}, "frames; at most the clip's length").always(),
      field<&Fade::shape>("shape", ChoiceKind<FadeShape>{}).always());
}
static_assert(isDescribedWhole<Fade>());

constexpr auto describe(const Insert*) {
  return description("insert",  //
                     field<&Insert::id>("id", IdKind{}, "given once among all inserts").always(),
                     field<&Insert::effect>("effect", TextKind{"Name a built-in effect or a plug-in"},
                                            "a built-in effect, or the URI of an LV2 plug-in")
                         .always(),
                     field<&Insert::name>("name", TextKind{}, "for people; empty: the effect's own"),
                     field<&Insert::on>("on", FlagKind{}, "off: the sound passes as it is"),
                     field<&Insert::tags>("tags", TagsKind{}, "`sound`, `mix`, or others"),
                     field<&Insert::values>("values", NumberMapKind{kMaxParameter},
                                            "of parameters, where they are not at their default"),
                     field<&Insert::state>("state", TextKind{}, "of a plug-in, as Turtle"));
}
static_assert(isDescribedWhole<Insert>());

constexpr auto describe(const Send*) {
  return description(
      "send",  //
      field<&Send::id>("id", IdKind{}, "given once among all sends").always(),
      field<&Send::to>("to", ReferenceKind{true}, "a return, or an insert whose key input it feeds").always(),
      field<&Send::gainDb>("gain_db", kGainKind).always(),
      field<&Send::preFader>("pre_fader", FlagKind{}, "leaves before fader and pan"),
      field<&Send::on>("on", FlagKind{}));
}
static_assert(isDescribedWhole<Send>());

constexpr auto describe(const CurvePoint*) {
  using P = CurvePoint;
  return description(
      "point",  //
      field<&P::at>("at", FramesKind{true}, "points come in order of time").always(),
      field<&P::value>("value", NumberKind{-kMaxParameter, kMaxParameter}).always(),
      field<&P::segment>("segment", ChoiceKind<Segment>{}, "how the curve runs to the next point"),
      field<&P::bend>("bend", NumberKind{-1, 1}, "of `curve`: over 0 starts slowly, under 0 fast"));
}
static_assert(isDescribedWhole<CurvePoint>());

constexpr auto describe(const Automation*) {
  return description("curve",  //
                     field<&Automation::target>("target", TextKind{"Name what the curve moves"},
                                                "`gain`, `pan`, `mute`, `send:ID`, `insert:ID:PARAMETER`")
                         .always(),
                     field<&Automation::on>("on", FlagKind{}),
                     field<&Automation::points>("points", ListKind<CurvePoint>{}, "at least one").always());
}
static_assert(isDescribedWhole<Automation>());

constexpr auto describe(const Clip*) {
  return description(
      "clip",  //
      field<&Clip::id>("id", IdKind{}, "given once among all clips").always(),
      field<&Clip::medium>("medium", ReferenceKind{true}, "id of a medium").always(),
      field<&Clip::channel>("channel", IntegerKind{0, kMaxClipChannel},
                            "first channel of the medium that is played, from 1, and no more than the track "
                            "has; 0: all of it"),
      field<&Clip::start>("start", FramesKind{true}, "in the session").always(),
      field<&Clip::offset>("offset", FramesKind{}, "into the medium, in frames at the session's rate"),
      field<&Clip::length>("length", FramesKind{true}, "0 never sounds").always(),
      field<&Clip::gainDb>("gain_db", kGainKind), field<&Clip::mute>("mute", FlagKind{}),
      field<&Clip::fadeIn>("fade_in", ObjectKind<Fade>{}, "`length` and `shape`"),
      field<&Clip::fadeOut>("fade_out", ObjectKind<Fade>{}, "the same"),
      field<&Clip::name>("name", TextKind{}),
      field<&Clip::ink>("colour", kInkKind, "ink 1 to 8; 0 takes the track's"),
      field<&Clip::lock>("lock", FlagKind{}, "edits leave it as it is"),
      field<&Clip::notes>("notes", TextKind{}),
      field<&Clip::inserts>("inserts", ListKind<Insert>{kMaxInserts}, "before it is added to its track"));
}
static_assert(isDescribedWhole<Clip>());

constexpr auto describe(const Track*) {
  return description(
      "track",  //
      field<&Track::id>("id", IdKind{}).always(),
      field<&Track::name>("name", TextKind{}, "`{source}` in names").always(),
      field<&Track::kind>(
          "kind", ChoiceKind<TrackKind>{},
          "`group`: sums what is in it; `return`: sums what is sent to it. Only tracks hold clips"),
      field<&Track::group>("group", ReferenceKind{},
                           "id of the group it is in; without one it is right below main"),
      field<&Track::channels>("channels", kChannelsKind).always(),
      field<&Track::gainDb>("gain_db", kGainKind, "fader"), field<&Track::pan>("pan", NumberKind{-1, 1}),
      field<&Track::mute>("mute", FlagKind{}),
      field<&Track::invert>("invert", FlagKind{}, "polarity, before the first insert"),
      field<&Track::helper>(
          "helper", FlagKind{},
          "in no sum and no file, with all that is in it; what it sends to key inputs is heard "
          "there"),
      field<&Track::tags>("tags", TagsKind{}, "for selections and names"),
      field<&Track::skipInNames>("skip_in_names", FlagKind{}, "`{group}` and `{groups}` pass over it"),
      field<&Track::pinned>("pinned", FlagKind{}, "stays in view in the window"),
      field<&Track::lock>("lock", FlagKind{}, "the window leaves it and its clips as they are"),
      field<&Track::link>("link", IntegerKind{0, kMaxLink},
                          "tracks of one number over 0 are edited together"),
      field<&Track::ink>("colour", kInkKind, "ink 1 to 8; 0 takes the group's"),
      field<&Track::notes>("notes", TextKind{}),
      field<&Track::inserts>("inserts", ListKind<Insert>{kMaxInserts}, "see [the signal](signal.md)"),
      field<&Track::sends>("sends", ListKind<Send>{}),
      field<&Track::automation>("automation", ListKind<Automation>{}),
      field<&Track::clips>("clips", ListKind<Clip>{}));
}
static_assert(isDescribedWhole<Track>());

constexpr auto describe(const Main*) {
  return description("main",  //
                     field<&Main::channels>("channels", kChannelsKind).always(),
                     field<&Main::gainDb>("gain_db", kGainKind, "fader").always(),
                     field<&Main::inserts>("inserts", ListKind<Insert>{kMaxInserts}),
                     field<&Main::automation>("automation", ListKind<Automation>{}, "of gain and inserts"));
}
static_assert(isDescribedWhole<Main>());

inline constexpr OneOfKind kSpanChannelsKind{{1, 2, 4, 6, 8}, "as tapped", ""};

constexpr auto describe(const Region*) {
  return description(
      "region",  //
      field<&Region::id>("id", IdKind{}).always(),
      field<&Region::name>("name", TextKind{}, "a path: `Winch/Start 01`").always(),
      field<&Region::start>("start", FramesKind{true}).always(),
      field<&Region::length>("length", FramesKind{true}).always(),
      field<&Region::finish>("finish", FlagKind{},
                             "clips that run across its end may finish in the tail, under `begins-here`"),
      field<&Region::lock>("lock", FlagKind{}, "edits leave it as it is"),
      field<&Region::fixed>("fixed", FlagKind{}, "its length stays as it is"),
      field<&Region::ends>("", InlineKind<OwnEnds>{}),
      field<&Region::loop>("loop", ObjectKind<OwnLoop>{}, "where it is otherwise than the brief's"),
      field<&Region::levelling>("", InlineKind<OwnLevelling>{}),
      field<&Region::tags>("tags", TagsKind{}, "for selections and names"),
      field<&Region::skipLevels>("skip_levels", IntegerKind{0, kMaxSkippedLevels},
                                 "parts of its path that names leave out, from the front")
          .labelled("Parts of its path that names leave out"),
      field<&Region::sources>(
          "sources", TextListKind{},
          "what briefs with `own_sources` print over it: ids of tracks, groups and returns, or `main`"),
      field<&Region::channels>(
          "channels", kSpanChannelsKind,
          "of its files, where their output says none; 1 is half of each side; 0 as tapped"),
      field<&Region::ink>("colour", kInkKind), field<&Region::notes>("notes", TextKind{}),
      field<&Region::facts>(
          "facts", TextMapKind{},
          "free keys and texts; what it has not itself it takes from the nearest part of its path "
          "in `path_facts`"));
}
static_assert(isDescribedWhole<Region>());

constexpr auto describe(const Marker*) {
  return description("marker",  //
                     field<&Marker::id>("id", IdKind{}, "given once among all markers").always(),
                     field<&Marker::name>("name", TextKind{}).always(),
                     field<&Marker::at>("at", FramesKind{true}).always(),
                     field<&Marker::lock>("lock", FlagKind{}), field<&Marker::notes>("notes", TextKind{}));
}
static_assert(isDescribedWhole<Marker>());

constexpr auto describe(const MarkerSet*) {
  return description("marker-set",  //
                     field<&MarkerSet::id>("id", IdKind{}).always(),
                     field<&MarkerSet::name>("name", TextKind{}).always(),
                     field<&MarkerSet::markers>("markers", ListKind<Marker>{}).always());
}
static_assert(isDescribedWhole<MarkerSet>());

constexpr auto describe(const ClipSet*) {
  using S = ClipSet;
  return description(
      "clip-set",  //
      field<&S::id>("id", IdKind{}).always(),
      field<&S::name>("name", TextKind{}, "a path, as a region's").always(),
      field<&S::clips>("clips", TextListKind{}, "ids; those that are gone are passed over").always(),
      field<&S::span>(
          "start", InlineKind<std::optional<TimeSpan>>{},
          "its span set by hand, to take silence in; both or neither; else from its first to its last clip"),
      field<&S::mute>("mute", FlagKind{}, "printed by no brief"),
      field<&S::finish>("finish", FlagKind{}, "as a region's"),
      field<&S::lock>("lock", FlagKind{}, "as a region's"),
      field<&S::channels>("channels", kSpanChannelsKind, "as a region's"),
      field<&S::ends>("", InlineKind<OwnEnds>{}),
      field<&S::loop>("loop", ObjectKind<OwnLoop>{}, "as a region's"),
      field<&S::levelling>("", InlineKind<OwnLevelling>{}),
      field<&S::tags>("tags", TagsKind{}, "as a region's"),
      field<&S::skipLevels>("skip_levels", IntegerKind{0, kMaxSkippedLevels}, "as a region's"),
      field<&S::sources>("sources", TextListKind{}, "as a region's"), field<&S::ink>("colour", kInkKind),
      field<&S::notes>("notes", TextKind{}), field<&S::facts>("facts", TextMapKind{}, "as a region's"));
}
static_assert(isDescribedWhole<ClipSet>());

struct JsonKind {};  ///< text: an object that is kept as it is

constexpr auto describe(const Preset*) {
  return description(
      "preset",  //
      field<&Preset::name>("name", TextKind{"Give it a name"}).always(),
      field<&Preset::phrase>("phrase", TextKind{"Say which phrase it is for"},
                             "of the sentence that it is for: `tail`, `format` …")
          .always(),
      field<&Preset::values>("values", JsonKind{}, "keys of a brief, and their values").always());
}
static_assert(isDescribedWhole<Preset>());

constexpr auto describe(const VocabularyValue*) {
  return description("value",  //
                     field<&VocabularyValue::value>("value", TextKind{}).always(),
                     field<&VocabularyValue::meaning>("meaning", TextKind{}));
}
static_assert(isDescribedWhole<VocabularyValue>());

constexpr auto describe(const VocabularyFact*) {
  return description("vocabulary",  //
                     field<&VocabularyFact::fact>("fact", TextKind{"Name the fact"}).always(),
                     field<&VocabularyFact::meaning>("meaning", TextKind{}),
                     field<&VocabularyFact::values>("values", ListKind<VocabularyValue>{},
                                                    "those that are allowed; none: any"));
}
static_assert(isDescribedWhole<VocabularyFact>());

constexpr auto describe(const Session*) {
  using S = Session;
  return description(
      "session",  //
      field<&S::version>("version", TextKind{}, "of the format").always(),
      field<&S::rate>("rate", IntegerKind{kMinRate, kMaxRate, "Give the session's sample rate in Hz"},
                      "sample rate in Hz")
          .always(),
      field<&S::title>("title", TextKind{}, "`{session}` in names; without one, the file's name"),
      field<&S::author>("author", TextKind{}), field<&S::notes>("notes", TextKind{}),
      field<&S::startPicture>("start_timecode", TimecodeKind{}, "timecode of frame 0, `hh:mm:ss:ff`")
          .always(),
      field<&S::pictureRate>("picture_rate", PictureRateKind{}, "picture frames a second; `df` is drop-frame")
          .always(),
      field<&S::main>("main", ObjectKind<Main>{}, "where everything ends").always(),
      field<&S::tempo>("tempo", ListKind<TempoPoint>{}, "without a point the session has no bars"),
      field<&S::media>("media", ListKind<Medium>{}).always(),
      field<&S::tracks>("tracks", ListKind<Track>{}, "one flat list; order among siblings is order here")
          .always(),
      field<&S::regions>("regions", ListKind<Region>{}).always(),
      field<&S::markerSets>("marker_sets", ListKind<MarkerSet>{}).always(),
      field<&S::clipSets>("clip_sets", ListKind<ClipSet>{}),
      field<&S::abbreviations>("abbreviations", TextMapKind{},
                               "long forms and what the filter `short` makes of them"),
      field<&S::pathFacts>("path_facts", TextMapsKind{},
                           "facts of everything below a path: `{ \"Winch\": { \"place\": \"quay\" } }`"),
      field<&S::vocabulary>("vocabulary", ListKind<VocabularyFact>{},
                            "which facts there are, and what they may say"),
      field<&S::briefs>("briefs", ListKind<Brief>{}).always(),
      field<&S::presets>("presets", ListKind<Preset>{}, "settings of phrases, by name"));
}
static_assert(isDescribedWhole<Session>(2));  // unknownKeys, and the file, which is where it lies

}  // namespace octaphon
