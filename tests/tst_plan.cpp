#include <deque>
#include <QtTest>

#include "media/media_facts.h"
#include "naming/file_name.h"
#include "plan/fingerprints.h"
#include "plan/planner.h"
#include "plan/row_states.h"
#include "plan/sentence.h"
#include "recipe/heard_clips.h"
#include "support.h"

using namespace octaphon;
using test::SessionMaker;

namespace {

/// A session of names and times only; media are facts.
struct Bare {
  test::SessionMaker make{""};
  MediaFacts facts;

  Bare() {
    make.session.title = "Bare";
    add("m", 10'000'000);
  }
  void add(const std::string& id, Frame frames, int channels = 2) {
    make.session.media.push_back({id, id + ".wav", {}});
    MediumFact fact;
    fact.state = MediumFact::State::Ready;
    fact.info = {48000, channels, frames, false, false};
    fact.frames = frames;
    fact.content = Digest{hash64(id), 1};
    fact.file = id + ".wav";
    facts.set(id, fact);
  }
  Fingerprint fingerprint(std::size_t row) const {
    const SessionContext context(make.session, facts, nullptr);
    const Sheet sheet = plan();
    const RowData data(sheet, make.session, context.tree);
    return Fingerprints(sheet, data, context.signal).of(sheet.rows[row]);
  }
  /// Without the names, which are a part of their own.
  std::pair<Digest, Digest> soundAndForm(std::size_t row) const {
    const Fingerprint all = fingerprint(row);
    return {all.sound, all.form};
  }
  Sheet plan() const {
    PlanRequest request;
    for (std::size_t i = 0; i < make.session.briefs.size(); ++i) request.briefs.push_back(i);
    return planSheet(make.session, facts, request);
  }
};

bool hasCode(const std::vector<Remark>& remarks, RemarkCode code) {
  return std::any_of(remarks.begin(), remarks.end(), [&](const Remark& r) { return r.code == code; });
}

QStringList files(const Sheet& sheet) {
  QStringList names;
  for (const Row& row : sheet.rows) names << QString::fromStdString(row.file);
  return names;
}

}  // namespace

class PlanTest : public QObject {
  Q_OBJECT
 private slots:
  void whichSoundCounts_data() {
    QTest::addColumn<bool>("beginsHere");
    QTest::addColumn<bool>("fromStart");
    QTest::addColumn<bool>("finish");
    QTest::addColumn<qint64>("start");
    QTest::addColumn<qint64>("length");
    QTest::addColumn<qint64>("from");  // −1: not heard
    QTest::addColumn<qint64>("to");
    QTest::addColumn<qint64>("fade");
    // The span is [1000, 2000); the end fade has 240 frames (5 ms).
    const auto row = [](const char* name, bool begins, bool cross, bool finish, qint64 s, qint64 l,
                        qint64 from, qint64 to, qint64 fade) {
      QTest::newRow(name) << begins << cross << finish << s << l << from << to << fade;
    };
    row("inside", true, false, false, 1200, 100, 1200, 1300, 0);
    row("at the start", true, false, false, 1000, 100, 1000, 1100, 0);
    row("at the end", true, false, false, 2000, 100, -1, 0, 0);
    row("last frame", true, false, false, 1999, 1, 1999, 2000, 0);
    row("runs on", true, false, false, 1500, 1000, 1500, 2000, 240);
    row("ends with it", true, false, false, 1500, 500, 1500, 2000, 0);
    row("may finish", true, false, true, 1500, 1000, 1500, 2500, 0);
    row("longer than the tail", true, false, true, 1500, 2000, 1500, 2500, 240);
    row("crosses", true, false, false, 900, 200, -1, 0, 0);
    row("crosses, from the start", true, true, false, 900, 200, 1000, 1100, 0);
    row("over before", true, true, false, 900, 100, -1, 0, 0);
    row("covers, from the start", true, true, false, 0, 5000, 1000, 2000, 240);
    row("heard: crosses", false, false, false, 900, 200, 1000, 1100, 0);
    row("heard: runs on", false, false, false, 1500, 1000, 1500, 2000, 0);
    row("heard: never finishes", false, false, true, 1500, 1000, 1500, 2000, 0);
    row("heard: covers", false, false, false, 0, 5000, 1000, 2000, 0);
    row("heard: at the end", false, false, false, 2000, 100, -1, 0, 0);
    row("zero length", false, false, false, 1500, 0, -1, 0, 0);
  }
  void whichSoundCounts() {
    QFETCH(bool, beginsHere);
    QFETCH(bool, fromStart);
    QFETCH(bool, finish);
    QFETCH(qint64, start);
    QFETCH(qint64, length);
    QFETCH(qint64, from);
    QFETCH(qint64, to);
    QFETCH(qint64, fade);
    Bare bare;
    bare.make.track("t");
    bare.make.clip("t", "m", start, length);
    const TrackTree tree(bare.make.session);
    const ClipFinder finder(bare.make.session, tree);
    const Counting counting{beginsHere ? Counts::BeginsHere : Counts::EverythingHeard,
                            fromStart ? Crossing::FromStart : Crossing::LeftOut, 240};
    PlannedSpan span = PlannedSpan::stretch(1000, 1000);
    span.finish = finish;
    span.tail = 500;
    const auto heard = finder.heardIn(span, counting);
    QCOMPARE(heard.size(), from < 0 ? 0u : 1u);
    if (from < 0) return;
    QCOMPARE(heard[0].from, from);
    QCOMPARE(heard[0].to, to);
    QCOMPARE(heard[0].endFade, fade);
  }

  void mutedIsNotHeard() {
    Bare bare;
    bare.make.group("g").mute = true;
    bare.make.track("a", 2, "g");
    bare.make.track("b");
    bare.make.clip("a", "m", 0, 100);
    bare.make.clip("b", "m", 0, 100).mute = true;
    const TrackTree tree(bare.make.session);
    QVERIFY(ClipFinder(bare.make.session, tree).heardIn(PlannedSpan::stretch(0, 1000), {}).empty());
  }

  // Order: spans by start, then longer first, then id; sources depth first in track order, the mix last.
  void orderNumbersAndCount() {
    Bare bare;
    auto& m = bare.make;
    m.track("late", 2, "g");
    m.group("g");
    m.track("first", 2, "g");
    m.track("top");
    for (const char* id : {"late", "first", "top"}) m.clip(id, "m", 0, 100000);
    m.region("z", "Short", 0, 100);
    m.region("b", "Twin", 0, 200);
    m.region("a", "Twin", 0, 200);
    m.region("c", "After", 50, 10);
    Brief& brief = m.brief("All");
    brief.heard.counts = Counts::EverythingHeard;
    brief.what.tracks = brief.what.groups = Selection::everything();
    brief.names.format = "{n} {region} {source} {n.name}";
    const Sheet sheet = bare.plan();
    QCOMPARE(sheet.rows.size(), 20u);
    QStringList order;
    for (const Row& row : sheet.rows)
      order << QString::fromStdString(sheet.spanOf(row).id + sheet.sourceOf(row).name);
    QCOMPARE(order.mid(0, 5), QStringList({"ag", "alate", "afirst", "atop", "amix"}));
    QCOMPARE(order[5], QString("bg"));
    QCOMPARE(order[10], QString("zg"));
    QCOMPARE(order[15], QString("cg"));
    QCOMPARE(files(sheet)[0], QString("01 Twin g 1.wav"));
    QCOMPARE(files(sheet)[19], QString("20 After mix 1.wav"));
    QCOMPARE(countText(sheet), std::string("20 files = 4 regions × 5 sources"));
  }

  void variationsAreNumberedByName() {
    Bare bare;
    auto& m = bare.make;
    for (const char* id : {"gear", "chain"}) m.track(id);
    m.clip("gear", "m", 0, 10);
    m.clip("chain", "m", 0, 10);
    m.clip("gear", "m", 200, 10);
    m.region("r1", "Winch/Start 01", 0, 100);
    m.region("r2", "winch/start 07", 200, 100);
    Brief& brief = m.brief("Game");
    brief.what.tracks = Selection::everything();
    brief.names.format = "{region.base}_{source}_{n.name:2}";
    brief.names.letterCase = LetterCase::Snake;
    const Sheet sheet = bare.plan();
    QCOMPARE(files(sheet),
             QStringList({"winch_start_gear_01.wav", "winch_start_chain_01.wav", "winch_start_mix_01.wav",
                          "winch_start_gear_02.wav", "winch_start_mix_02.wav"}));
    QCOMPARE(sheet.briefs[0].leftOutEmpty, 1u);
    QCOMPARE(countText(sheet), std::string("5 files = 2 regions × 3 sources, less 1 without clips"));
    QCOMPARE(sheet.keyOf(sheet.rows[0]), std::string("b1/region:r1/track:gear/wav/all"));
  }

  // Only members sound, from the first to the last of them or as set by hand; sources apply inside; sets
  // overlap freely.
  void clipSetsAreSpans() {
    Bare bare;
    SessionMaker& make = bare.make;
    make.group("g");
    make.track("a", 2, "g");
    make.track("b");
    make.clip("a", "m", 1000, 500);   // c1
    make.clip("a", "m", 1200, 1000);  // c2
    make.clip("b", "m", 1400, 900);   // c3
    make.clip("b", "m", 1500, 100);   // c4: in no set
    make.session.clipSets = {{"s1", "Hit 01", {"c1", "c3", "gone"}}, {"s2", "Hit 02", {"c2", "c3"}}};
    make.session.clipSets.push_back({"s3", "By hand", {"c1"}, TimeSpan{500, 3000}});
    make.session.clipSets[1].channels = 1;
    make.session.clipSets[1].ends.tailSeconds = 0.5;
    make.session.clipSets.push_back({"s4", "Muted", {"c1"}});
    make.session.clipSets.back().mute = true;
    make.session.clipSets.push_back({"s5", "Empty", {"gone"}});
    Brief& brief = make.brief("B");
    brief.where.regions = {};
    brief.where.clipSets = {true, {}};
    brief.what.groups = {true, {}};
    brief.what.tracks = {false, {"b"}};
    const Sheet sheet = bare.plan();
    QStringList rows;
    for (const Row& row : sheet.rows)
      rows << QString("%1 %2+%3/%4")
                  .arg(QString::fromStdString(row.file))
                  .arg(row.start)
                  .arg(row.frames())
                  .arg(row.channels);
    QCOMPARE(rows.join("; "),
             QString("Empty_mix.wav 0+0/2; By hand_g.wav 500+3000/2; By hand_mix.wav 500+3000/2; "
                     "Hit 01_g.wav 1000+1300/2; Hit 01_b.wav 1000+1300/2; Hit 01_mix.wav "
                     "1000+1300/2; Hit 02_g.wav 1200+25100/1; Hit 02_b.wav 1200+25100/1; "
                     "Hit 02_mix.wav 1200+25100/1"));
    QCOMPARE(countText(sheet), std::string("9 files = 4 clip sets × 3 sources, less 3 without clips"));
    QVERIFY(hasCode(sheet.remarksOf(sheet.rows[0]), RemarkCode::EmptySpan));
    QCOMPARE(sheet.briefs[0].remarks.at(0).code, RemarkCode::MutedSource);
    for (const std::size_t row : {4u, 5u})
      QVERIFY(hasCode(sheet.remarksOf(sheet.rows[row]), RemarkCode::NotInSet));
    QVERIFY(!hasCode(sheet.remarksOf(sheet.rows[3]), RemarkCode::NotInSet));  // c4 is not in the group
    for (const Row& row : sheet.rows) QVERIFY(!hasCode(sheet.remarksOf(row), RemarkCode::SharedClips));
    QVERIFY(sheet.keyOf(sheet.rows[3]).find("/set:s1/") != std::string::npos);
    QVERIFY(sentenceText(make.session.briefs[0], make.session).find("over all 5 clip sets") !=
            std::string::npos);
    // What is not a member does not count: the fingerprint of the mix stays when c4 goes.
    const Fingerprint before = bare.fingerprint(5);
    make.session.tracks[2].clips.writable().pop_back();
    QVERIFY(bare.fingerprint(5) == before);
    // One more member, and it does.
    make.session.clipSets[0].clips.push_back("c2");
    QVERIFY(bare.fingerprint(5).sound != before.sound);
  }

  void helpersAreInNoFile() {
    Bare bare;
    bare.make.group("g").helper = true;
    bare.make.track("inside", 2, "g");
    bare.make.track("plain");
    bare.make.clip("inside", "m", 0, 100);
    bare.make.clip("plain", "m", 0, 50);
    bare.make.region("r", "R", 0, 100);
    bare.make.brief("B").what.tracks = {true, {}};
    QCOMPARE(files(bare.plan()), (QStringList{"R_plain.wav", "R_mix.wav"}));
    QVERIFY(bare.plan().briefs[0].remarks.empty());
    const Fingerprint mix = bare.fingerprint(1);
    bare.make.session.tracks[1].clips[0].gainDb = -6;
    QVERIFY(bare.fingerprint(1) == mix);  // it is in no sum
    bare.make.session.briefs[0].what.tracks = {false, {"inside"}};
    QCOMPARE(bare.plan().rows.size(), std::size_t{1});
    QCOMPARE(bare.plan().briefs[0].remarks.at(0).code, RemarkCode::HelperSource);
  }

  void mutedSourcesAreLeftOutAndCounted() {
    Bare bare;
    bare.make.track("a").mute = true;
    bare.make.clip("a", "m", 0, 10);
    bare.make.region("r", "R", 0, 100);
    bare.make.brief("B").what.tracks = Selection::everything();
    const Sheet sheet = bare.plan();
    QCOMPARE(sheet.rows.size(), 1u);
    QVERIFY(hasCode(sheet.remarksOf(sheet.rows[0]), RemarkCode::NothingSounding));
    QCOMPARE(sheet.briefs[0].leftOutMuted, 1u);
    QCOMPARE(sheet.briefs[0].remarks.at(0).code, RemarkCode::MutedSource);
    QCOMPARE(countText(sheet), std::string("1 file = 1 region × 2 sources, less 1 muted"));
  }

  void remarks_data() {
    QTest::addColumn<QString>("what");
    QTest::addColumn<QString>("code");
    QTest::addColumn<bool>("fault");
    for (const auto& [what, code, fault] : {std::tuple{"template", "bad-template", true},
                                            {"folder", "bad-folder", true},
                                            {"folder-up", "bad-folder", true},
                                            {"empty", "empty-name", true},
                                            {"long", "name-too-long", true},
                                            {"same", "collision", true},
                                            {"missing", "missing-medium", true},
                                            {"damaged", "unreadable-medium", true},
                                            {"no effect", "missing-effect", true},
                                            {"feedback", "feedback-send", true},
                                            {"huge", "too-long", true},
                                            {"no length", "empty-span", true},
                                            {"different", "different-medium", true},
                                            {"flawed", "flawed-medium", false},
                                            {"tail", "cut-by-tail", false},
                                            {"short medium", "beyond-medium", false},
                                            {"many channels", "medium-channels", false},
                                            {"crosses", "crosses-start", false},
                                            {"at end", "starts-at-end", false},
                                            {"shared", "shared-clips", false},
                                            {"silent", "nothing-sounding", false}})
      QTest::newRow(what) << what << code << fault;
  }
  void remarks() {
    QFETCH(QString, what);
    QFETCH(QString, code);
    QFETCH(bool, fault);
    Bare bare;
    auto& m = bare.make;
    Track& track = m.track("t");
    Clip& clip = m.clip("t", "m", 0, 4800);
    Region& region = m.region("r", "R", 0, 48000);
    Brief& brief = m.brief("B");
    if (what == "template") brief.names.format = "{oops}";
    if (what == "folder") brief.delivery.folder = "/tmp";
    if (what == "folder-up") brief.delivery.folder = "a/../..";
    if (what == "empty") brief.names.format = "{group}";
    if (what == "long") region.name = std::string(300, 'x');
    if (what == "same") brief.names.format = "x", m.region("r2", "X", 0, 48000);
    if (what == "missing" || what == "damaged") {
      MediumFact fact;
      fact.state = what == "missing" ? MediumFact::State::Missing : MediumFact::State::Unreadable;
      fact.problem = "m.wav: gone";
      bare.facts.set("m", fact);
    }
    if (what == "different" || what == "flawed") {
      MediumFact fact = *bare.facts.find("m");
      if (what == "different") fact.state = MediumFact::State::Different;
      if (what == "flawed") fact.flaw = MediumFlaw::WrongChecksum;
      bare.facts.set("m", fact);
    }
    if (what == "no effect") track.inserts.push_back({"i1", "polisher", {}, true, {}, {}, {}, {}});
    if (what == "feedback") {
      Track& room = m.track("room");
      room.kind = TrackKind::Return;
      room.sends.push_back({"s2", "room", 0, false, true, {}});
      m.session.tracks[0].sends.push_back({"s1", "room", 0, false, true, {}});
    }
    if (what == "huge")
      region.length = 48000LL * 60 * 60 * 24, m.session.briefs[0].files.encoding = Encoding::Aiff24;
    if (what == "no length") region.length = 0;
    if (what == "short medium") clip.offset = 9'999'000;
    if (what == "tail") clip.length = 60000, region.finish = true;
    if (what == "many channels") bare.add("six", 10'000'000, 6), clip.medium = "six";
    if (what == "crosses") region.start = 2400;
    if (what == "at end") clip.start = 47000;
    if (what == "shared") {
      clip.start = 30000;
      m.region("r2", "Other", 24000, 48000);
    }
    if (what == "silent") clip.mute = true;
    const Sheet sheet = bare.plan();
    const Row& row = sheet.rows.back();
    QStringList codes;
    for (const Remark& remark : sheet.remarksOf(row))
      codes << QString::fromUtf8(remarkName(remark.code).data());
    QVERIFY2(codes.contains(code), qPrintable(codes.join(' ')));
    QCOMPARE(row.state == RowState::Fault, fault);
    for (const Remark& remark : sheet.remarksOf(row)) QVERIFY(!remark.text.empty());
  }

  void unknownIdsAreSaid() {
    Bare bare;
    bare.make.region("r", "R", 0, 10);
    Brief& brief = bare.make.brief("B");
    brief.where.regions = {false, {"r", "gone"}};
    brief.what.tracks = {false, {"nobody"}};
    const Sheet sheet = bare.plan();
    QCOMPARE(sheet.briefs[0].remarks.size(), 2u);
    for (const Remark& remark : sheet.briefs[0].remarks) {  // how many, not which: ids mean nothing to people
      QVERIFY(remark.text.find("gone") == std::string::npos &&
              remark.text.find("nobody") == std::string::npos);
      QVERIFY(remark.text.find("1 ") != std::string::npos);
    }
    QVERIFY(!requestFor(bare.make.session, {"No such"}));
    QCOMPARE(requestFor(bare.make.session, {"B", "B"})->briefs.size(), 1u);
  }

  // A medium that is missing is a fault of what hears it, on whatever way, and of nothing else.
  void faultsGoByWhatIsHeard_data() {
    QTest::addColumn<QString>("source");
    QTest::addColumn<QString>("reach");
    QTest::addColumn<QString>("keyed");
    QTest::addColumn<bool>("fault");
    const auto row = [](const char* source, const char* reach, const char* keyed, bool fault) {
      QTest::addRow("%s, %s, keyed by %s", source, reach, keyed)
          << QString(source) << QString(reach) << QString(keyed) << fault;
    };
    for (const char* keyed : {"itself", "a send", "the mix"}) {
      const bool isElse = QString(keyed) != "itself";
      row("lost", "track", keyed, true), row("own", "track", keyed, false), row("own", "main", keyed, isElse);
      row("without", "main", keyed, isElse), row("room", "main", keyed, true),
          row("mix", "main", keyed, true);
    }
  }
  void faultsGoByWhatIsHeard() {
    QFETCH(QString, source);
    QFETCH(QString, reach);
    QFETCH(QString, keyed);
    QFETCH(bool, fault);
    Bare bare;
    auto& m = bare.make;
    MediumFact gone;
    gone.problem = "gone.wav: it is not there";
    bare.facts.set("gone", gone);
    m.session.media.push_back({"gone", "gone.wav"});
    m.track("own");
    m.track("lost");
    m.track("room").kind = TrackKind::Return;
    m.clip("own", "m", 0, 4800);
    m.clip("lost", "gone", 0, 4800);
    m.region("r", "R", 0, 9600);
    m.session.main.inserts = {{"c", "compressor", {}, true, {}, {}, {}, {}}};
    m.session.tracks[1].sends = {{"s1", "room", 0, false, true, {}}};
    if (keyed == "a send") m.session.tracks[1].sends.push_back({"s2", "c", 0, false, true, {}});
    Brief& brief = m.brief("B");
    brief.what.mix = source == "mix";
    if (source == "own" || source == "lost") brief.what.tracks = {false, {source.toStdString()}};
    if (source == "room") brief.what.returns = {false, {"room"}};
    if (source == "without") brief.what.sums = {{"w", "without", {"lost"}, true}};
    brief.heard.reach = *parseReach(reach.toStdString());
    brief.heard.withReturns = Returns::Out;
    brief.heard.keyed = keyed == "the mix";
    const Sheet sheet = bare.plan();
    QCOMPARE(sheet.rows.size(), 1u);
    QCOMPARE(sheet.rows[0].state == RowState::Fault, fault);
    QCOMPARE(hasCode(sheet.remarksOf(sheet.rows[0]), RemarkCode::MissingMedium), fault);
  }

  // Only the points of a curve that can be heard count: from the run-up to the end of the tail.
  void curvesFarAway_data() {
    QTest::addColumn<int>("point");
    QTest::addColumn<bool>("effects");
    QTest::addColumn<bool>("counts");
    const auto row = [](int point, bool effects, bool counts) {
      QTest::addRow("point %d%s", point, effects ? ", run up to" : "") << point << effects << counts;
    };
    // The span from second 60 to 61, a tail of two, a run-up of ten.
    row(0, false, false), row(1, false, false), row(2, false, true), row(3, false, true), row(4, false, true);
    row(5, false, false), row(0, true, true), row(5, true, false);
  }
  void curvesFarAway() {
    QFETCH(int, point);
    QFETCH(bool, effects);
    QFETCH(bool, counts);
    Bare bare;
    auto& m = bare.make;
    Track& track = m.track("own");
    m.clip("own", "m", 0, 9'000'000);
    m.region("r", "R", 60 * 48000, 48000);
    Brief& brief = m.brief("B");
    brief.heard.counts = Counts::EverythingHeard;
    brief.heard.runUp = {10, false};
    brief.ends.tail = Tail::Fixed;
    brief.ends.tailSeconds = 2;
    if (effects) track.inserts = {{"e", "echo", {}, true, {}, {}, {}, {}}};
    Automation curve{"gain", true, {}, {}};
    for (const Frame second : {48, 55, 60, 62, 64, 70})
      curve.points.push_back({second * 48000, -3, Segment::Linear, 0, {}});
    track.automation = {curve};
    const auto before = bare.soundAndForm(0);
    bare.make.session.tracks[0].automation[0].points[static_cast<std::size_t>(point)].value = -9;
    QCOMPARE(bare.soundAndForm(0) != before, counts);
  }

  // What a row can hear changes its fingerprint; what it cannot does not.
  void fingerprints_data() {
    QTest::addColumn<QString>("what");
    QTest::addColumn<bool>("track");
    QTest::addColumn<bool>("mix");
    for (const auto& [what, track, mix] : {std::tuple{"names", false, false},
                                           {"colour", false, false},
                                           {"moved together", false, false},
                                           {"other clip gain", false, true},
                                           {"own clip gain", true, true},
                                           {"own pan", true, true},
                                           {"group fader", true, true},
                                           {"main fader", true, true},
                                           {"medium", true, true},
                                           {"tail", true, true},
                                           {"encoding", true, true},
                                           {"clip outside", false, false},
                                           {"offset", true, true}})
      QTest::newRow(what) << what << track << mix;
  }
  void fingerprints() {
    QFETCH(QString, what);
    QFETCH(bool, track);
    QFETCH(bool, mix);
    Bare bare;
    auto& m = bare.make;
    m.group("g");
    m.track("own", 2, "g");
    m.track("other");
    m.clip("own", "m", 1000, 500);
    m.clip("other", "m", 1000, 500);
    m.clip("own", "m", 90000, 500);
    m.region("r", "R", 1000, 1000);
    m.brief("B").what.tracks = {false, {"own"}};
    const std::pair<Digest, Digest> before[]{bare.soundAndForm(0), bare.soundAndForm(1)};
    auto& s = m.session;
    if (what == "names") s.title = s.tracks[1].name = s.regions[0].name = s.briefs[0].name = "new";
    if (what == "colour") s.tracks[1].ink = s.regions[0].ink = 3;
    if (what == "moved together")
      s.regions[0].start += 7, s.tracks[1].clips[0].start += 7, s.tracks[2].clips[0].start += 7;
    if (what == "other clip gain") s.tracks[2].clips[0].gainDb = -1;
    if (what == "own clip gain") s.tracks[1].clips[0].gainDb = -1;
    if (what == "own pan") s.tracks[1].pan = 0.1;
    if (what == "group fader") s.tracks[0].gainDb = -1;
    if (what == "main fader") s.main.gainDb = -1;
    if (what == "medium")
      bare.add("m", 10'000'000), bare.facts.set("m", [&] {
        MediumFact f = *bare.facts.find("m");
        f.content.low ^= 1;
        return f;
      }());
    if (what == "tail") s.briefs[0].ends.tail = Tail::Fixed, s.briefs[0].ends.tailSeconds = 1;
    if (what == "encoding") s.briefs[0].files.encoding = Encoding::Pcm16;
    if (what == "clip outside") s.tracks[1].clips[1].gainDb = -9;
    if (what == "offset") s.tracks[1].clips[0].offset = 3;
    QCOMPARE(bare.soundAndForm(0) != before[0], track);
    QCOMPARE(bare.soundAndForm(1) != before[1], mix);
  }

  void statesFromTheFolder() {
    Bare bare;
    bare.make.track("t");
    bare.make.clip("t", "m", 0, 100);
    for (int i = 0; i < 5; ++i) bare.make.region("r" + std::to_string(i), "R" + std::to_string(i), i, 100);
    bare.make.brief("B");
    Sheet sheet = bare.plan();
    FolderFacts folder;
    std::deque<ReceiptLine> lines;
    const auto found = [&](std::size_t row, FileVerdict verdict, Fingerprint fingerprint) {
      ReceiptLine& line = lines.emplace_back();
      line.key = sheet.keyOf(sheet.rows[row]);
      line.file = sheet.rows[row].file;
      line.fingerprint = fingerprint;
      folder.files[sheet.rows[row].file] = {verdict,
                                            verdict == FileVerdict::Foreign ? nullptr : &lines.back()};
    };
    found(0, FileVerdict::Ours, bare.fingerprint(0));
    found(1, FileVerdict::Ours, {Digest{1, 2}, {}, {}, {}});
    found(2, FileVerdict::Changed, bare.fingerprint(2));
    found(3, FileVerdict::Foreign, {});
    const SessionContext context(bare.make.session, bare.facts, nullptr);
    setStates(sheet, context.signal, {{sheet.briefs[0].base, folder}});
    const std::vector<RowState> expected{RowState::UpToDate, RowState::Stale, RowState::Changed,
                                         RowState::Foreign, RowState::ToMake};
    for (std::size_t i = 0; i < 5; ++i) QCOMPARE(sheet.rows[i].state, expected[i]);
    QCOMPARE(countRows(sheet).makeable, 2u);
    sheet.briefs[0].brief.delivery.existing = Existing::Keep;
    QCOMPARE(countRows(sheet).makeable, 1u);
  }

  // The place in the session counts where an effect judges time from its start, and only there.
  void movedAlongTheSession() {
    Bare bare;
    bare.make.track("t");
    bare.make.clip("t", "m", 5000, 100);
    bare.make.region("r", "R", 5000, 200);
    bare.make.brief("B");
    const auto moved = [&](Frame by) {
      bare.make.session.regions[0].start = bare.make.session.tracks[0].clips[0].start = 5000 + by;
      return bare.fingerprint(0);
    };
    QVERIFY(moved(0).sound == moved(7).sound);
    QVERIFY(moved(0).tags != moved(7).tags);  // the time stamp is another
    bare.make.session.tracks[0].inserts = {{"i", "reverb", {}, true, {}, {}, {}, {}}};
    QVERIFY(moved(0).sound != moved(7).sound);
    QVERIFY(moved(0).sound == moved(kEffectCell).sound);
    const Fingerprint wet = moved(0);
    bare.make.session.tracks[0].inserts.clear();
    QVERIFY(moved(0).engine != wet.engine);
  }

  // Several outputs are several rows of one sound: same remarks, same numbers, keys and names of their own.
  void outputsShareTheirSound() {
    Bare bare;
    bare.make.track("t");
    bare.make.clip("t", "m", 0, 100);
    for (int i = 0; i < 3; ++i) bare.make.region("r" + std::to_string(i), "R", i * 10, 100);
    Brief& brief = bare.make.brief("B");
    brief.names.format = "{region}_{n.name:2}";
    brief.files.outputs = {{Encoding::Pcm24},
                           {Encoding::Pcm16, 0, OutputChannels::AsTapped, false, false, "", "small"}};
    const Sheet sheet = bare.plan();
    QCOMPARE(sheet.sounds.size(), 3u);
    QCOMPARE(files(sheet), (QStringList{"R_01.wav", "small/R_01.wav", "R_02.wav", "small/R_02.wav",
                                        "R_03.wav", "small/R_03.wav"}));
    QCOMPARE(sheet.keyOf(sheet.rows[0]), bare.make.session.briefs[0].id + "/region:r0/mix/wav/all");
    QCOMPARE(sheet.keyOf(sheet.rows[1]), bare.make.session.briefs[0].id + "/region:r0/mix/pcm16/all");
    QVERIFY(bare.fingerprint(0).sound == bare.fingerprint(1).sound);
    QVERIFY(bare.fingerprint(0).form != bare.fingerprint(1).form);
    QCOMPARE(countText(sheet), std::string("6 files = 3 regions × 1 source × 2 outputs"));
    bare.make.session.briefs[0].files.outputs.push_back(
        {Encoding::Pcm16, 0, OutputChannels::AsTapped, false, false, "", "again"});
    const Sheet three = bare.plan();
    QVERIFY(three.keyOf(three.rows[2]) != three.keyOf(three.rows[1]));
    bare.make.session.briefs[0].files.outputs.pop_back();
    bare.make.session.briefs[0].files.outputs[1].folder = "../out";
    const Sheet bad = bare.plan();
    for (const Row& row : bad.rows) QCOMPARE(row.state, RowState::Fault);
    bare.make.session.briefs[0].files.outputs[1].folder.clear();
    const Sheet same = bare.plan();
    QVERIFY(hasCode(same.rows[1].remarks, RemarkCode::Collision));
  }

  void theSentenceSaysIt() {
    Bare bare;
    auto& m = bare.make;
    m.group("Machines");
    m.track("Gear", 1, "Machines");
    m.track("Chain", 1, "Machines");
    m.region("a", "Winch/Start 01", 0, 10);
    m.region("b", "Winch/Start 02", 20, 10);
    m.region("c", "Bell", 40, 10);
    Brief& brief = m.brief("Game");
    brief.what.tracks = {false, {"Chain", "Gear"}};
    brief.where.regions = {false, {"a", "b"}};
    brief.ends.tail = Tail::Fixed;
    brief.ends.tailSeconds = 0.5;
    brief.names.letterCase = LetterCase::Snake;
    brief.delivery.folder = "Deliveries/Game";
    QCOMPARE(QString::fromStdString(sentenceText(brief, m.session)),
             QString("Print each track in Machines and the mix over 2 regions under Winch, only what begins "
                     "here, heard through main, faders as mixed, "
                     "with a tail of 0.5 s, as WAV 24 bit, named {region}_{source} in snake case into "
                     "Deliveries/Game; replace what is there."));
  }
};

QTEST_APPLESS_MAIN(PlanTest)
#include "tst_plan.moc"
