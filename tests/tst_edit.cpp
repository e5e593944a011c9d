#include <algorithm>
#include <random>
#include <set>

#include "base/pattern.h"
#include "base/unicode.h"
#include "edit/clip_sets.h"
#include "edit/clips.h"
#include "edit/findings.h"
#include "edit/grouping.h"
#include "edit/inserts.h"
#include "edit/locks.h"
#include "edit/near_zero.h"
#include "edit/patch.h"
#include "edit/rename.h"
#include "edit/silence.h"
#include "edit/spans.h"
#include "edit/tracks.h"
#include "recipe/heard_clips.h"
#include "session/session_json.h"
#include "support.h"

using namespace octaphon;
using test::SessionMaker;

namespace {

using Names = std::vector<std::string>;

/// Two groups of two tracks, clips of 1000 frames at 0, 1500 and 4000 on each of the first two, one on the
/// others.
Session harbour() {
  SessionMaker make("");
  make.session.media.push_back({"m", "media/m.wav"});
  make.group("machines").name = "Machines";
  make.track("winch", 2, "machines").name = "Winch";
  make.track("chain", 2, "machines").name = "Chain";
  make.group("bells").name = "Bells";
  make.track("bell", 2, "bells").name = "Bell";
  make.track("empty", 2, "bells").name = "Track 2";
  for (const char* track : {"winch", "chain"})
    for (const Frame start : {0, 1500, 4000}) make.clip(track, "m", start, 1000, 500);
  make.clip("bell", "m", 9000, 1000);
  return make.session;
}

/// Whether a session still keeps all that a session file must keep.
bool isSound(const Session& session) {
  const auto again = readSession(writeSession(session), "test");
  return again && writeSession(*again) == writeSession(session);
}

const Clip* clipOf(const Session& session, const std::string& id) {
  for (const Track& track : session.tracks)
    for (const Clip& clip : track.clips)
      if (clip.id == id) return &clip;
  return nullptr;
}

}  // namespace

class EditTest : public QObject {
  Q_OBJECT
 private slots:
  // Numbers by value (Unicode UTS #35, collation setting "numeric"); accents and case as the root collation
  // (UTS #10) has them.
  void naturalOrder() {
    const Names sorted{"2 tin", "10 tin", "bell 1", "Bell 2", "bell 02 b", "bell 10",   "bell 100", "cote",
                       "coté",  "côte",   "gull",   "Öse",    "rain 9.5",  "rain 9.10", "winch"};
    Names shuffled = sorted;
    std::shuffle(shuffled.begin(), shuffled.end(), std::mt19937(7));
    std::sort(shuffled.begin(), shuffled.end(), naturalLess);
    // `rain 9.5` and `rain 9.10`: 9 = 9, then 5 < 10.
    QCOMPARE(shuffled, sorted);
    QCOMPARE(naturalCompare("a", "a"), 0);
    QVERIFY(naturalCompare("A", "a") != 0);
  }

  void islands_data() {
    QTest::addColumn<qint64>("gap");
    QTest::addColumn<int>("count");
    // The gaps are 500, 1500 and 4000 frames.
    for (const auto& [gap, count] : {std::pair<qint64, int>{0, 4},
                                     {499, 4},
                                     {500, 3},
                                     {501, 3},
                                     {1499, 3},
                                     {1500, 2},
                                     {1501, 2},
                                     {3999, 2},
                                     {4000, 1},
                                     {4001, 1}})
      QTest::addRow("%lld", static_cast<long long>(gap)) << gap << count;
  }
  void islands() {
    QFETCH(qint64, gap);
    QFETCH(int, count);
    const Session session = harbour();
    SpanRequest request;
    request.rule = SpanRule::Islands;
    request.gap = gap;
    const auto found = proposeSpans(session, request);
    QCOMPARE(static_cast<int>(found.size()), count);
    // Each begins and ends with a clip, and what lies between two is longer than the gap.
    QCOMPARE(found.front().span.start, Frame{0});
    QCOMPARE(found.back().span.end(), Frame{10000});
    for (std::size_t i = 1; i < found.size(); ++i)
      QVERIFY(found[i].span.start - found[i - 1].span.end() > gap);
    std::size_t clips = 0;
    for (const SpanProposal& proposal : found) clips += proposal.clips.size();
    QCOMPARE(clips, std::size_t{7});
  }

  void proposals_data() {
    QTest::addColumn<SpanRequest>("request");
    QTest::addColumn<QString>("expected");
    const auto row = [](const char* name, SpanRequest request, const char* expected) {
      QTest::newRow(name) << request << QString(expected);
    };
    const ClipIds two{"c1", "c2"};
    row("around", {SpanRule::Around, two, {}, 0, {}, NameFrom::Track, {}}, "Winch 0+2500/3");
    row("around a range", {SpanRule::Around, two, TimeSpan{100, 9000}, 0, {}, NameFrom::Track, {}},
        "Winch 100+9000/3");
    row("a range without clips", {SpanRule::Around, {}, TimeSpan{6000, 50}, 0, {}, NameFrom::Track, {}},
        "Region 6000+50/0");
    row("each clip", {SpanRule::EachClip, {"c1", "c2", "c7"}, {}, 0, {}, NameFrom::Track, {}},
        "Winch 01 0+1000/3;Winch 02 1500+1000/3;Bell 9000+1000/0");
    row("group names", {SpanRule::EachClip, {"c1", "c7"}, {}, 0, {}, NameFrom::Group, {}},
        "Machines 0+1000/5;Bells 9000+1000/0");
    row("clip names", {SpanRule::EachClip, {"c1", "c2"}, {}, 0, {}, NameFrom::Clip, {}},
        "Heave 0+1000/4;m 1500+1000/3");
    row("each track", {SpanRule::EachTrack, {}, {}, 0, {}, NameFrom::Track, {}},
        "Winch 0+5000/3;Chain 0+5000/5;Bell 9000+1000/0");
    row("a name", {SpanRule::EachClip, two, {}, 0, {}, NameFrom::Track, "Deck"},
        "Deck 02 0+1000/3;Deck 03 1500+1000/3");
    row("between markers", {SpanRule::BetweenMarkers, {}, {}, 0, "s", NameFrom::Track, {}},
        "A 100+200/0;Parts 300+700/0");
    row("islands of a range", {SpanRule::Islands, {}, TimeSpan{0, 2000}, 0, {}, NameFrom::Track, {}},
        "Winch 01 0+1000/3;Winch 02 1500+1000/3");
  }
  void proposals() {
    QFETCH(SpanRequest, request);
    QFETCH(QString, expected);
    Session session = harbour();
    session.tracks[0].ink = 5;  // Machines
    session.tracks[1].ink = 3;  // Winch
    session.tracks[1].clips[0].name = "Heave";
    session.tracks[1].clips[0].ink = 4;
    Region deck;
    deck.id = "deck";
    deck.name = "Deck 01";
    session.regions.push_back(deck);
    session.markerSets.push_back({"s", "Parts", {{"m1", "A", 100}, {"m3", "C", 1000}, {"m2", "", 300}}, {}});
    QStringList found;
    for (const SpanProposal& p : proposeSpans(session, request))
      found << QString("%1 %2+%3/%4")
                   .arg(QString::fromStdString(p.name))
                   .arg(p.span.start)
                   .arg(p.span.length)
                   .arg(p.ink);
    QCOMPARE(found.join(';'), expected);
  }

  // Bursts of known place in noise of known level: exact to the frame, for a pause of one frame less and one
  // more.
  void silences_data() {
    QTest::addColumn<qint64>("pause");
    QTest::addColumn<int>("sounds");
    for (const qint64 pause : {4799, 4800, 4801})
      QTest::addRow("%lld", static_cast<long long>(pause)) << pause << (pause < 4800 ? 2 : 3);
  }
  void silences() {
    QFETCH(qint64, pause);
    QFETCH(int, sounds);
    const double threshold = 0.01;
    // 10 000 quiet, 3 000 loud, the pause, 2 000 loud, 20 000 quiet, 1 loud frame on the right only, 5 000
    // quiet.
    const Frame second = 13'000 + pause;
    const Frame last = second + 22'000;
    const test::Samples quiet = test::noise(2, last + 5001, 3, 0.0099);
    std::vector<float> interleaved;
    for (Frame i = 0; i < last + 5001; ++i)
      for (std::size_t c = 0; c < 2; ++c) {
        const bool loud =
            (i >= 10'000 && i < 13'000) || (i >= second && i < second + 2000) || (i == last && c == 1);
        interleaved.push_back(static_cast<float>(loud ? 0.5 : quiet[c][static_cast<std::size_t>(i)]));
      }
    SoundFinder finder(threshold, 4800);
    for (std::size_t at = 0; at < interleaved.size(); at += 2 * 777)  // blocks of any length
      finder.add(interleaved.data() + at, 2,
                 static_cast<Frame>(std::min<std::size_t>(777, (interleaved.size() - at) / 2)));
    const std::vector<TimeSpan> found = finder.finish();
    QCOMPARE(static_cast<int>(found.size()), sounds);
    QCOMPARE(found.front().start, Frame{10'000});
    QCOMPARE(found.back(), (TimeSpan{last, 1}));
    if (sounds == 3) QCOMPARE(found[1], (TimeSpan{second, 2000}));
    QCOMPARE(found[0].end(), sounds == 3 ? Frame{13'000} : second + 2000);
  }

  void clipsAreCut() {
    Session session = harbour();
    session.tracks[1].clips[0].fadeIn.length = 100;
    session.tracks[1].clips[0].fadeOut.length = 700;
    session.clipSets.push_back({"s1", "Heave", {"c1", "c7"}});
    const EditCount count = splitClips(session, {"c1", "c2"}, 400);
    QCOMPARE(count.changed, std::size_t{1});  // c2 does not lie there
    const std::string piece = session.clipSets[0].clips[1];
    const Clip* second = clipOf(session, piece);
    QVERIFY(second != nullptr);
    QCOMPARE(session.clipSets[0].clips, (Names{"c1", piece, "c7"}));
    QCOMPARE(second->start, Frame{400});
    QCOMPARE(second->offset, Frame{900});
    QCOMPARE(second->length, Frame{600});
    QCOMPARE(second->fadeOut.length, Frame{600});  // as long as it has room
    QCOMPARE(clipOf(session, "c1")->length, Frame{400});
    QCOMPARE(clipOf(session, "c1")->fadeIn.length, Frame{100});
    QVERIFY(isSound(session));
  }

  void clipsMoveAndTrim() {
    Session session = harbour();
    session.tracks[1].clips[1].lock = true;
    EditCount count = moveClips(session, {"c1", "c2", "c3"}, -10'000);
    QCOMPARE(count.changed, std::size_t{2});
    QCOMPARE(count.locked, std::size_t{1});
    QCOMPARE(clipOf(session, "c1")->start, Frame{0});  // as far as the first can go
    QCOMPARE(clipOf(session, "c3")->start, Frame{4000});
    moveClips(session, {"c3"}, 200, 1);
    QCOMPARE(session.tracks[2].clips.back().id, std::string("c3"));
    QCOMPARE(session.tracks[2].clips.back().start, Frame{4200});
    moveClips(session, {"c3"}, 0, 99);  // to the last track, past the group
    QCOMPARE(session.tracks[5].clips.size(), std::size_t{1});
    trimStarts(session, {"c4"}, -2000);  // no further than the medium's start, and not before the session
    QCOMPARE(clipOf(session, "c4")->start, Frame{0});
    trimStarts(session, {"c5"}, -2000);
    QCOMPARE(clipOf(session, "c5")->start, Frame{1000});
    QCOMPARE(clipOf(session, "c5")->offset, Frame{0});
    QCOMPARE(clipOf(session, "c5")->length, Frame{1500});
    trimEnds(session, {"c5"}, -9000);
    QCOMPARE(clipOf(session, "c5")->length, Frame{1});
    QVERIFY(isSound(session));
  }

  void linkedClipsGoTogether() {
    Session session = harbour();
    linkTracks(session, {"winch", "chain"}, true);
    QCOMPARE(withLinked(session, {"c1"}), (ClipIds{"c1", "c4"}));
    for (Clip& clip : session.tracks[2].clips.writable())
      clip.start += 500;  // half covered: no more than half
    QCOMPARE(withLinked(session, {"c1"}), (ClipIds{"c1"}));
    session.tracks[2].clips[0].start -= 1;
    QCOMPARE(withLinked(session, {"c1"}), (ClipIds{"c1", "c4"}));
  }

  void channelsAreSplit() {
    SessionMaker make("");
    make.session.media.push_back({"m", "m.wav"});
    make.track("six", 6);
    make.track("two", 2);
    make.clip("six", "m", 5, 10);
    Session pairs = make.session;
    QCOMPARE(splitChannels(make.session, {"six", "two"}, 1).size(), std::size_t{8});
    QCOMPARE(make.session.tracks.size(), std::size_t{8});
    QCOMPARE(make.session.tracks[4].name, std::string("six 5"));
    QCOMPARE(make.session.tracks[4].clips[0].channel, 5);
    QCOMPARE(make.session.tracks[0].id, std::string("six"));
    QVERIFY(isSound(make.session));
    QVERIFY(splitChannels(make.session, {"six"}, 1).empty());
    QCOMPARE(splitChannels(pairs, {"six", "two"}, 2).size(), std::size_t{3});
    QCOMPARE(pairs.tracks[1].name, std::string("six 3-4"));
    QCOMPARE(pairs.tracks[1].clips[0].channel, 3);
    QVERIFY(isSound(pairs));
  }

  void markersAreSorted() {
    Session session = harbour();
    addMarker(session, {}, "B", 20);
    const std::string c = addMarker(session, session.markerSets[0].id, "C", 30);
    const std::string a = addMarker(session, session.markerSets[0].id, "A", 10);
    QCOMPARE(session.markerSets[0].markers[0].name, std::string("A"));
    QCOMPARE(putMarkersInto(session, {a, c}, "Parts").changed, std::size_t{2});
    QCOMPARE(session.markerSets.size(), std::size_t{2});
    QCOMPARE(session.markerSets[1].markers[1].name, std::string("C"));
    QCOMPARE(putMarkersInto(session, {session.markerSets[0].markers[0].id}, "Parts").changed, std::size_t{1});
    QCOMPARE(session.markerSets.size(), std::size_t{1});  // an empty set goes
    QVERIFY(isSound(session));
  }

  // A sine of 100 frames a period goes through zero every 50 frames.
  void edgesFindZero() {
    QTemporaryDir dir;
    SessionMaker make(dir.path());
    make.medium("m", test::sine(1, 4800, 480, 0.5), 48000);
    make.track("t", 1);
    make.clip("t", "m", 1000, 2000, 25);
    MediaFacts facts;
    MediumFact fact;
    fact.state = MediumFact::State::Ready;
    fact.info = {48000, 1, 4800, false, false};
    fact.file = dir.filePath("media/m.wav").toStdString();
    facts.set("m", fact);
    for (const auto& [at, expected] :
         {std::pair<Frame, Frame>{1070, 1076}, {1031, 1026}, {1990, 1976}, {1055, 1076}}) {
      const auto found = nearestZero(make.session, facts, at, std::nullopt, 480);
      QVERIFY(found.has_value());
      QVERIFY2(std::abs(*found - expected) <= 1, qPrintable(QString::number(*found)));
    }
    QVERIFY(!nearestZero(make.session, facts, 500, std::nullopt, 480));
    QVERIFY(!nearestZero(make.session, facts, 1010, Strip(0), 10));
  }

  void deletingLeavesNothingBehind() {
    Session session = harbour();
    session.clipSets = {{"s1", "Both", {"c1", "c7"}}, {"s2", "Bell", {"c7"}}};
    QCOMPARE(deleteTracks(session, {"bells"}).changed, std::size_t{1});
    QCOMPARE(session.tracks.size(), std::size_t{3});
    QCOMPARE(session.clipSets.size(), std::size_t{1});
    QCOMPARE(session.clipSets[0].clips, Names{"c1"});
    session.tracks[1].clips[0].lock = true;
    QCOMPARE(deleteTracks(session, {"machines"}).locked, std::size_t{1});
    QCOMPARE(deleteClips(session, {"c1", "c2"}).changed, std::size_t{1});
    QVERIFY(isSound(session));
  }

  void tracksAreOrdered() {
    Session session = harbour();
    QVERIFY(placeTracks(session, {"bell"}, "machines", "chain"));
    const auto order = [&] {
      QStringList names;
      for (const NamedThing& thing : namedThings(session, NamedKind::Track))
        names << QString::fromStdString(thing.id);
      return names.join(' ');
    };
    QCOMPARE(order(), QString("machines winch bell chain bells empty"));
    QVERIFY(!placeTracks(session, {"machines"}, "machines", {}));
    QVERIFY(placeTracks(session, {"machines"}, "bells", {}));
    QVERIFY(!placeTracks(session, {"bells"}, "machines", {}));  // it is inside
    QCOMPARE(order(), QString("bells empty machines winch bell chain"));
    QVERIFY(takeOutTracks(session, {"winch", "bell"}));
    QCOMPARE(order(), QString("bells empty machines chain winch bell"));
    const auto nested = nestTracks(session, {"winch", "chain"}, "Deck");
    QVERIFY(nested.has_value());
    const auto copies = duplicateTracks(session, {"machines"});
    QCOMPARE(copies.size(), std::size_t{1});
    QVERIFY(isSound(session));
    std::string deep = "bells";
    for (int i = 0; i < kMaxDepth + 5; ++i) {
      const std::string inner = addTrack(session, "deeper", TrackKind::Group, {});
      if (auto placed = placeTracks(session, {inner}, deep, {}); !placed) {
        QCOMPARE(placed.error().code, ErrorCode::TooLarge);
        return;
      }
      deep = inner;
    }
    QFAIL("groups can be nested without end");
  }

  // A send's curve follows it where the id of one send begins like that of another.
  void copiedSendsKeepTheirCurves() {
    SessionMaker make("");
    make.track("t");
    make.track("room").kind = TrackKind::Return;
    Track& track = make.session.tracks[0];
    for (const char* id : {"send1", "send10", "send100"}) {
      track.sends.push_back({id, "room", 0, false, true, {}});
      track.automation.push_back({std::string("send:") + id, true, {{0, -3, Segment::Hold, 0, {}}}, {}});
    }
    const std::string copy = duplicateTracks(make.session, {"t"})[0];
    const Track& twin = *findTrack(make.session, copy);
    QCOMPARE(twin.automation.size(), 3u);
    for (std::size_t i = 0; i < 3; ++i) QCOMPARE(twin.automation[i].target, "send:" + twin.sends[i].id);
    QVERIFY(isSound(make.session));
  }

  // The window, planning and edits know one time of a clip set: of its clips that could sound.
  void aClipSetHasOneExtent() {
    SessionMaker make("");
    make.session.media.push_back({"m", "m.wav"});
    make.track("t");
    make.track("off").mute = true;
    make.track("key").helper = true;
    make.clip("t", "m", 1000, 500);
    make.clip("t", "m", 2000, 500).mute = true;
    make.clip("off", "m", 0, 100);
    make.clip("key", "m", 5000, 100);
    Session& session = make.session;
    ClipSet set;
    set.id = "s";
    for (const Track& track : session.tracks)
      for (const Clip& clip : track.clips) set.clips.push_back(clip.id);
    session.clipSets = {set};
    const TrackTree tree(session);
    const TimeSpan expected{1000, 500};
    QVERIFY(extentOf(session, set) == expected);
    QVERIFY(ClipFinder(session, tree).extentOf(set) == expected);
  }

  void regionsAreCutAndJoined() {
    SessionMaker make("");
    make.region("r1", "Winch/Start 01", 0, 1000);
    make.region("r2", "Bell", 2000, 500);
    make.region("r3", "Fixed", 0, 1000).fixed = true;
    Session& session = make.session;
    const auto made = splitRegions(session, {"r1", "r3"}, 400);
    QCOMPARE(made.size(), std::size_t{1});
    QCOMPARE(session.regions.back().name, std::string("Winch/Start 02"));
    QCOMPARE(session.regions[0].length, Frame{400});
    QCOMPARE(endRegion(session, "r3", 50).locked, std::size_t{1});
    QCOMPARE(moveRegions(session, {"r3"}, 50).changed, std::size_t{1});
    QCOMPARE(joinRegions(session, {"r1", "r2"}).changed, std::size_t{2});
    QCOMPARE(session.regions[0].end(), Frame{2500});
    QCOMPARE(session.regions[0].name, std::string("Winch/Start 01"));
    QCOMPARE(session.regions.size(), std::size_t{3});
    startRegion(session, "r1", 99'999);
    QCOMPARE(session.regions[0].length, Frame{1});
  }

  void renaming_data() {
    QTest::addColumn<RenameRequest>("request");
    QTest::addColumn<QString>("expected");
    const auto row = [](const char* name, RenameRequest request, const char* expected) {
      QTest::newRow(name) << request << QString::fromUtf8(expected);
    };
    // Given: "Winch/Start 01" "winch/start 07" " Rain  on/ tin " "Region 3" "" "Lock" (locked), by start.
    RenameRequest r;
    r.step = RenameStep::Replace, r.find = "start", r.with = "St$1";
    row("replace", r, "=|winch/St$1 07|=|=|=|locked");
    r.ignoreCase = true, r.with = "Go";
    row("replace, case ignored", r, "Winch/Go 01|winch/Go 07|=|=|=|locked");
    r = {RenameStep::ReplacePattern, R"((\w+)/(\w+) 0*(\d+))", "$2 of $1 $3"};
    row("pattern", r, "Start of Winch 1|start of winch 7|=|=|=|locked");
    r = {RenameStep::Trim};
    row("trim", r, "=|=|Rain on/tin|=|=|locked");
    r = {RenameStep::Case};
    r.letterCase = LetterCase::Snake;
    row("case", r, "winch/start_01|winch/start_07|rain_on/tin|region_3|=|locked");
    r = {RenameStep::Prefix, {}, "Deck "};
    row("prefix", r,
        "Winch/Deck Start 01|winch/Deck start 07| Rain  on/Deck  tin |Deck Region 3|Deck |locked");
    r = {RenameStep::Suffix, {}, "_b"};
    row("suffix", r, "Winch/Start 01_b|winch/start 07_b| Rain  on/ tin _b|Region 3_b|_b|locked");
    r = {RenameStep::Number};
    r.digits = 3, r.first = 5;
    row("number", r, "Winch/Start 005|winch/start 005| Rain  on/ tin  005|Region 005|Part 005|locked");
    r = {RenameStep::FromHierarchy};
    r.onlyDefault = true;
    row("from hierarchy", r, "own|own|own|Machines/Winch|Bells/Bell|locked");
  }
  void renaming() {
    QFETCH(RenameRequest, request);
    QFETCH(QString, expected);
    Session session = harbour();
    const Names names{"Winch/Start 01", "winch/start 07", " Rain  on/ tin ", "Region 3", "", "Lock"};
    const std::vector<TimeSpan> spans{{0, 10}, {1500, 10}, {1600, 10}, {4000, 900}, {9000, 100}, {9500, 5}};
    for (std::size_t i = 0; i < names.size(); ++i) {
      Region region;
      region.id = "r" + std::to_string(i);
      region.name = names[i];
      region.start = spans[i].start;
      region.length = spans[i].length;
      region.lock = names[i] == "Lock";
      session.regions.push_back(region);
    }
    session.tracks[2].clips[2].length = 400;  // Winch sounds longer than Chain in Region 3
    const auto preview = previewRename(session, namedThings(session, NamedKind::Region), request);
    QVERIFY(preview.has_value());
    QStringList found;
    for (const Renaming& renaming : *preview)
      found << (renaming.skipped == "stays the same"          ? QString("=")
                : renaming.skipped == "has a name of its own" ? QString("own")
                : !renaming.skipped.empty()                   ? QString::fromStdString(renaming.skipped)
                                                              : QString::fromStdString(renaming.after));
    QCOMPARE(found.join('|'), expected);
    const auto changed = std::count_if(preview->begin(), preview->end(),
                                       [](const Renaming& renaming) { return renaming.skipped.empty(); });
    QCOMPARE(applyNames(session, *preview).changed, static_cast<std::size_t>(changed));
    for (const Renaming& renaming : *preview)
      QCOMPARE(findRegion(session, renaming.thing.id)->name,
               renaming.skipped.empty() ? renaming.after : renaming.thing.name);
  }

  void gapsInNumbersClose() {
    SessionMaker make("");
    const Names names{"Gull 03", "Gull 07", "Gull 12", "Bell9", "Bell11", "Gull", "Gull 07"};
    for (std::size_t i = 0; i < names.size(); ++i)
      make.region("r" + std::to_string(i), names[i], static_cast<Frame>(i), 1);
    const auto preview =
        previewRename(make.session, namedThings(make.session, NamedKind::Region), {RenameStep::CloseGaps});
    Names after;
    for (const Renaming& renaming : *preview) after.push_back(renaming.after);
    QCOMPARE(after, (Names{"Gull 03", "Gull 04", "Gull 05", "Bell9", "Bell10", "Gull", "Gull 04"}));
  }

  void patternsThatHurt() {
    QVERIFY(!Pattern::compile("(winch", false));
    const auto noGroup = Pattern::compile("winch", false)->replaceAll("winch", "$4");
    QVERIFY(!noGroup && noGroup.error().code == ErrorCode::Syntax);
    const auto endless = Pattern::compile("(a+)+$", false)->replaceAll(std::string(4000, 'a') + "b", "x");
    QVERIFY(!endless && endless.error().code == ErrorCode::TooLarge);
  }

  // Whatever an edit does, what was locked before it is as it was; consequences of what has gone are none.
  void whatIsLockedIsPutBack_data() {
    using Change = std::function<void(Session&)>;
    QTest::addColumn<Change>("change");
    QTest::addColumn<int>("kept");
    QTest::newRow("a track's fader") << Change([](Session& s) { s.tracks[1].gainDb = -6; }) << 1;
    QTest::newRow("its lock") << Change([](Session& s) { s.tracks[1].lock = false; }) << 0;
    QTest::newRow("a clip on it") << Change([](Session& s) { s.tracks[1].clips[0].start += 5; }) << 1;
    QTest::newRow("a clip beside it") << Change([](Session& s) { s.tracks[2].clips[0].start += 5; }) << 0;
    QTest::newRow("a region and a track") << Change([](Session& s) {
      s.regions[0].name = "Other";
      s.tracks[1].mute = true;
    }) << 2;
    QTest::newRow("a marker that went to another set") << Change([](Session& s) {
      Marker marker = s.markerSets[0].markers[0];
      marker.at = 9;
      s.markerSets[0].markers.clear();
      s.markerSets.push_back(s.markerSets[0]);
      s.markerSets.back().id = "other";
      s.markerSets.back().markers = {marker};
    }) << 1;
    QTest::newRow("a set whose clip is gone") << Change([](Session& s) {
      const std::string gone = s.clipSets[0].clips[0];
      for (Track& track : s.tracks) track.clips.eraseIf([&](const Clip& clip) { return clip.id == gone; });
      std::erase(s.clipSets[0].clips, gone);
    }) << 0;
    QTest::newRow("a set's clips") << Change([](Session& s) { s.clipSets[0].clips.pop_back(); }) << 1;
  }
  void whatIsLockedIsPutBack() {
    QFETCH(std::function<void(Session&)>, change);
    QFETCH(int, kept);
    Session before = harbour();
    Region region;
    region.id = "r";
    region.length = 10;
    region.lock = true;
    before.regions = {region};
    addMarker(before, "set", "Quay", 4);
    before.markerSets[0].markers[0].lock = true;
    ClipSet set;
    set.id = "s";
    set.clips = {before.tracks[2].clips[0].id, before.tracks[2].clips[1].id};
    set.lock = true;
    before.clipSets = {set};
    before.tracks[1].lock = true;
    Session after = before;
    change(after);
    const Session asked = after;
    QCOMPARE(static_cast<int>(keepLocked(before, after)), kept);
    QCOMPARE(after == asked, kept == 0);
    QVERIFY(isSound(after));
    QCOMPARE(keepLocked(before, after), std::size_t{0});  // nothing is left to put back
  }

  void groupsAreGuessed() {
    const auto folders =
        groupsByFolder({"/a/in/Bells/x.wav", "/a/in/Bells/deep/y.wav", "/a/in/z.wav", "/a/in/Winch/w.wav"});
    QCOMPARE(folders, (std::vector<GroupGuess>{{"Bells", {0, 1}}, {"Winch", {3}}}));
    const auto prefixes = groupsByPrefix({"Gull_10", "Gull_2", "Bell-1", "Bell 2", "Rain"});
    QCOMPARE(prefixes, (std::vector<GroupGuess>{{"Bell", {2, 3}}, {"Gull", {0, 1}}}));
    QVERIFY(groupsByPrefix({"a_1", "a_2"}).empty());  // all of them: nothing would be told apart
    const auto takes = takesIn({"Rope 10", "Rope 2", "Rope 2", "Rope 3", "Plank"},
                               {"H/Body/Rope 10.wav", "H/Body/Rope 2.wav", "H/Click/Rope 2.wav",
                                "H/Click/Rope 3.wav", "H/Click/Plank.wav"});
    QCOMPARE(takes.size(), std::size_t{2});  // layers of one name are not takes of each other
    QVERIFY((takes[0] == GroupGuess{"Body Rope", {1, 0}}));
    QVERIFY((takes[1] == GroupGuess{"Click Rope", {2, 3}}));
  }

  void findingsAndCures() {
    Session session = harbour();
    for (const auto& [id, name, start, length] :
         std::vector<std::tuple<std::string, std::string, Frame, Frame>>{{"r1", "Bells/Peal", 0, 2500},
                                                                         {"r2", "Region 2", 4000, 1000},
                                                                         {"r3", "Quiet", 6000, 10},
                                                                         {"r4", "Quiet", 6000, 10}}) {
      addRegions(session, {{{start, length}, name, 0, {}}});
      QCOMPARE(session.regions.back().id, id);
    }
    MediaFacts facts;
    MediumFact fact;
    fact.state = MediumFact::State::Ready;
    fact.info.channels = 1;
    facts.set("m", fact);
    const auto found = checkSession(session, &facts);
    std::set<std::pair<FindingKind, std::string>> places;
    for (const Finding& finding : found) places.emplace(finding.kind, finding.place);
    const std::set<std::pair<FindingKind, std::string>> expected{
        {FindingKind::DefaultName, "r2"},   {FindingKind::DefaultName, "empty"},
        {FindingKind::DuplicateName, "r4"}, {FindingKind::SilentSource, "empty"},
        {FindingKind::EmptyRegion, "r3"},   {FindingKind::EmptyRegion, "r4"},
        {FindingKind::OutsideGroup, "r1"},  {FindingKind::OutsideRegions, "c7"},
        {FindingKind::MonoOnWide, "winch"}, {FindingKind::MonoOnWide, "chain"},
        {FindingKind::MonoOnWide, "bell"}};
    QCOMPARE(places, expected);
    // Cures that the program can do leave nothing to cure.
    for (int round = 0; round < 4; ++round)
      for (const Finding& finding : checkSession(session, &facts))
        if (!finding.cure.empty()) QVERIFY(cure(session, finding, &facts));
    for (const Finding& finding : checkSession(session, &facts)) QVERIFY(finding.cure.empty());
    QVERIFY(isSound(session));
  }

  void clipSetsAreMade() {
    Session session = harbour();
    SpanRequest request;
    request.rule = SpanRule::Islands;
    request.gap = 500;
    const auto made = addClipSets(session, proposeSpans(session, request));
    QCOMPARE(made.size(), std::size_t{3});
    QCOMPARE(session.clipSets[0].name, std::string("Winch 01"));
    QVERIFY(!session.clipSets[0].span);
    removeFromClipSet(session, made[0], {"c2"});
    addToClipSet(session, made[0], {"c3", "c1"});
    QCOMPARE(session.clipSets[0].clips, (Names{"c1", "c4", "c5", "c3"}));
    QCOMPARE(*extentOf(session, session.clipSets[0]), (TimeSpan{0, 5000}));
    QCOMPARE(splitUpClipSet(session, made[0], 0).size(), std::size_t{3});
    QVERIFY(isSound(session));
  }

  void insertsAndSendsGoTogether() {
    Session session = harbour();
    const std::string room = addTrack(session, "Room", TrackKind::Return, {});
    const std::string first = session.tracks[1].id;
    const std::string echo = addInsert(session, first, "echo", 0);
    const std::string hold = addInsert(session, first, "compressor", 9);
    QVERIFY(moveInsert(session, hold, -1) && !moveInsert(session, hold, -1));
    QVERIFY(addSend(session, first, room).has_value());
    QVERIFY(addSend(session, room, hold).error().text.find("come back") != std::string::npos);
    QVERIFY(addSend(session, session.tracks[2].id, hold).has_value());
    setCurvePoint(session, first, "insert:" + echo + ":mix", {500, 20, Segment::Linear, 0, {}});
    setCurvePoint(session, first, "insert:" + echo + ":mix", {100, 10, Segment::Hold, 0, {}});
    QCOMPARE(findCurve(session, first, "insert:" + echo + ":mix")->points[0].at, Frame{100});
    // A copy has ids of its own, and its curves follow them; it can be read back.
    const std::string copy = duplicateTracks(session, {first})[0];
    const auto& twin = *std::find_if(session.tracks.begin(), session.tracks.end(),
                                     [&](const Track& t) { return t.id == copy; });
    QVERIFY(twin.inserts[1].id != echo && twin.inserts[1].effect == "echo");
    QVERIFY(findCurve(session, copy, "insert:" + twin.inserts[1].id + ":mix") != nullptr);
    const auto read = readSession(writeSession(session), "x");
    QVERIFY2(read.has_value(), read ? "" : read.error().describe().c_str());
    // What a send led to goes, and the send with it.
    removeInsert(session, hold);
    for (const Track& track : session.tracks)
      for (const Send& left : track.sends) QVERIFY(left.to != hold);
    removeInsert(session, echo);
    QVERIFY(findCurve(session, first, "insert:" + echo + ":mix") == nullptr);
    deleteTracks(session, {room});
    for (const Track& track : session.tracks) QVERIFY(track.sends.empty());
    QVERIFY(isSound(session));
  }

  // Whatever is done, undo gives back what was there and redo what came of it.
  void patchesGoBothWays() {
    std::mt19937 random(11);
    Session session = harbour();
    for (int i = 0; i < 400; ++i) {
      const Session before = session;
      const auto pick = [&](unsigned most) { return static_cast<Frame>(random() % most); };
      ClipIds some;
      for (const Track& track : session.tracks)
        for (const Clip& clip : track.clips)
          if (random() % 3 == 0) some.insert(clip.id);
      switch (random() % 9) {
        case 0: moveClips(session, some, pick(4000) - 2000, static_cast<int>(pick(3)) - 1); break;
        case 1: splitClips(session, some, pick(12000)); break;
        case 2: deleteClips(session, some); break;
        case 3:
          if (session.clipCount() < 60) duplicateClips(session, some);
          break;
        case 4:
          addClipSets(
              session,
              proposeSpans(session, {SpanRule::Islands, some, {}, pick(900), {}, NameFrom::Track, {}}));
          break;
        case 5: addTrack(session, "t", static_cast<TrackKind>(random() % 3), {}); break;
        case 6:
          (void)placeTracks(session, {session.tracks[random() % session.tracks.size()].id}, {}, {});
          break;
        case 7:
          addRegions(session,
                     proposeSpans(session, {SpanRule::EachClip, some, {}, 0, {}, NameFrom::Clip, {}}));
          break;
        default: session.title += "x"; break;
      }
      const SessionPatch patch(before, session);
      QCOMPARE(patch.empty(), before == session);
      Session copy = session;
      patch.undo(copy);
      QVERIFY(copy == before);
      patch.redo(copy);
      QVERIFY(copy == session);
      if (i % 40 == 0) QVERIFY(isSound(session));
    }
  }

  // A few clips of a long track are kept one by one, many as the lists that they are in.
  void fewOrManyClipsGoBothWays() {
    Session before;
    Track& track = before.tracks.emplace_back();
    track.id = "t";
    for (int i = 0; i < 150; ++i) {
      Clip clip;
      clip.id = "c" + std::to_string(i);
      clip.start = i * 100;
      clip.length = 50;
      track.clips.push_back(clip);
    }
    for (const int moved : {1, 74, 76, 150}) {
      Session after = before;
      for (int i = 0; i < moved; ++i) after.tracks[0].clips[static_cast<std::size_t>(i)].start += 7;
      const SessionPatch patch(before, after);
      QCOMPARE(patch.parts(), static_cast<unsigned>(kTracks));
      Session session = after;
      patch.undo(session);
      QVERIFY(session == before);
      session.tracks[0].clips[0].gainDb =
          -1;  // whoever changes it now changes what was undone for nobody else
      QCOMPARE(before.tracks[0].clips.all()[0].gainDb, 0.0);
      session = before;
      patch.redo(session);
      QVERIFY(session == after);
    }
  }
};
QTEST_APPLESS_MAIN(EditTest)
#include "tst_edit.moc"
