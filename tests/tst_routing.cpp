// The way of a sound: groups, sends, returns, key inputs, reach and overrides; and whether layers add up to
// the mix.
#include <cfloat>
#include <cmath>
#include <QtTest>
#include <random>
#include <set>

#include "base/decibels.h"
#include "rendered.h"
#include "routing/signal_order.h"

using namespace octaphon;
using test::loudest;
using test::Rendered;
using test::RenderSpec;
using test::Samples;
using test::sourceOf;
using test::toDb;

namespace {

Insert insert(const std::string& id, const std::string& effect, std::map<std::string, double> values = {},
              std::vector<std::string> tags = {}) {
  Insert made;
  made.id = id;
  made.effect = effect;
  made.values = std::move(values);
  made.tags = std::move(tags);
  return made;
}

Send send(const std::string& id, const std::string& to, double gainDb = 0, bool preFader = false) {
  Send made;
  made.id = id;
  made.to = to;
  made.gainDb = gainDb;
  made.preFader = preFader;
  return made;
}

/// Main ← [Works ← [Gear, [Inner ← Chain, Motor]], Bell], returns Room and Tunnel; the room is heard in the
/// tunnel too.
struct Harbour {
  QTemporaryDir dir;
  test::SessionMaker make{dir.path()};
  Session& session = make.session;

  Harbour() {
    session.file = dir.filePath("test.octaphon").toStdString();
    for (int i = 0; i < 4; ++i) {
      const std::string id = "m" + std::to_string(i);
      make.medium(id, test::noise(i % 2 == 0 ? 1 : 2, 24000, static_cast<unsigned>(i + 1), 0.3), 48000,
                  test::Depth::Float);
    }
    make.group("works");
    make.track("gear", 1, "works");
    make.group("inner", "works");
    make.track("chain", 2, "inner");
    make.track("motor", 1, "inner");
    make.track("bell", 2);
    make.track("room", 2).kind = TrackKind::Return;
    make.track("tunnel", 2).kind = TrackKind::Return;
    const char* tracks[]{"gear", "chain", "motor", "bell"};
    for (int i = 0; i < 4; ++i) make.clip(tracks[i], "m" + std::to_string(i), 2000 * i, 20000);
    make.region("r", "Quay", 0, 30000);
    track("gear").gainDb = -3, track("gear").pan = -0.4;
    track("motor").pan = 0.7;
    track("works").gainDb = -1.5, track("works").pan = 0.2;
    track("gear").sends = {send("s1", "room", -6), send("s2", "tunnel", -9, true)};
    track("inner").sends = {send("s3", "room", -4)};
    track("room").sends = {send("s4", "tunnel", -8)};
    track("bell").sends = {send("s5", "tunnel", 0)};
    track("room").inserts = {insert("rv", "reverb", {{"decay", 0.3}})};
    track("tunnel").inserts = {insert("ec", "echo", {{"time", 30}, {"mix", 100}})};
    track("gear").inserts = {insert("eq", "equaliser", {{"bell1_gain", 6}})};
    track("works").inserts = {insert("eq2", "equaliser", {{"high_gain", -6}})};
    session.main.inserts = {insert("eq3", "equaliser", {{"low_gain", 3}})};
  }

  Track& track(const std::string& id) { return *findTrack(session, id); }
  Brief& layers() {
    Brief& brief = make.brief("Layers");
    brief.what.tracks = {true, {}};
    brief.what.mix = true;
    brief.names.format = "{region}_{source}";
    brief.files.encoding = Encoding::Float32;
    brief.ends.tail = Tail::Fixed;
    brief.ends.tailSeconds = 0.5;
    return brief;
  }
};

/// The sums that a run told of, by their verdicts.
std::vector<QJsonObject> sumsOf(const std::vector<QJsonObject>& events) {
  std::vector<QJsonObject> sums;
  for (const QJsonObject& event : events)
    if (event["event"] == "sum") sums.push_back(event);
  return sums;
}

std::set<RemarkCode> codesOf(const Rendered& rendered) {
  std::set<RemarkCode> codes;
  for (const SignalIssue& issue : rendered.issues) codes.insert(issue.code);
  return codes;
}

Automation curve(const std::string& target, std::vector<CurvePoint> points) {
  return {target, true, std::move(points), {}};
}
CurvePoint point(Frame at, double value, Segment segment = Segment::Linear, double bend = 0) {
  return {at, value, segment, bend, {}};
}

/// Ones on a mono track that goes to a mono main: what comes out is the gain.
struct Ones {
  QTemporaryDir dir;
  test::SessionMaker make{dir.path()};

  Ones() {
    make.session.file = dir.filePath("test.octaphon").toStdString();
    make.session.main.channels = 1;
    make.medium("m",
                test::sound(
                    1, 48000, [](int, Frame) { return 0.5; }, false),
                48000, test::Depth::Float);
    make.track("t", 1);
    make.clip("t", "m", 0, 48000);
  }
  Track& track() { return make.session.tracks[0]; }
  std::vector<double> gains(RenderSpec spec = {}) {
    const auto rendered = test::render(make.session, spec);
    std::vector<double> gains;
    for (const float s : rendered.channels[0]) gains.push_back(s / 0.5);
    return gains;
  }
};

}  // namespace

class RoutingTest : public QObject {
  Q_OBJECT
 private slots:
  void layersAddUpAtEveryReach_data() {
    QTest::addColumn<QString>("reach");
    QTest::addColumn<int>("returns");
    for (const char* reach : {"clips", "inserts", "track", "group-inserts:works", "group:works", "groups",
                              "main-inserts", "main"})
      for (const Returns returns : {Returns::In, Returns::Files})
        QTest::addRow("%s, returns %s", reach, std::string(nameOf(returns)).c_str())
            << QString(reach) << static_cast<int>(returns);
  }
  void layersAddUpAtEveryReach() {
    QFETCH(QString, reach);
    QFETCH(int, returns);
    Harbour h;
    Brief& brief = h.layers();
    brief.heard.reach = *parseReach(reach.toStdString());
    brief.heard.withReturns = static_cast<Returns>(returns);
    const auto sums = sumsOf(test::renderOf(h.make.save()));
    QCOMPARE(sums.size(), 1u);
    if (brief.heard.withReturns == Returns::In && !reach.startsWith("main")) {
      // The returns stand beside the groups and join in main: they are in no layer.
      QCOMPARE(sums[0]["verdict"].toString(), QString("not-judged"));
      QVERIFY2(sums[0]["text"].toString().contains("joins beyond the reach and is in none of the layers"),
               qPrintable(sums[0]["text"].toString()));
      return;
    }
    // Before their faders layers have the channels of their tracks, which differ here; mono ones count in the
    // centre.
    QCOMPARE(sums[0]["verdict"].toString(), QString("adds-up"));
    QVERIFY(!sums[0]["text"].toString().isEmpty());
    QVERIFY2(sums[0]["residual_db"].toDouble() < -120, qPrintable(sums[0]["text"].toString()));
    if (reach != "main") return;
    // The same seen from outside: the files.
    const QString out = h.dir.path() + "/out/";
    const Samples mix = test::readSound(out + "Quay_mix.wav");
    std::vector<std::string> names{"gear", "chain", "motor", "bell"};
    if (brief.heard.withReturns == Returns::Files) names.insert(names.end(), {"room", "tunnel"});
    Samples total(2, std::vector<double>(mix[0].size(), 0.0));
    for (const std::string& name : names) {
      const Samples layer = test::readSound(out + "Quay_" + QString::fromStdString(name) + ".wav");
      for (std::size_t c = 0; c < 2; ++c)
        for (std::size_t i = 0; i < mix[c].size(); ++i) total[c][i] += layer[c][i];
    }
    double residual = 0;
    for (std::size_t c = 0; c < 2; ++c)
      for (std::size_t i = 0; i < mix[c].size(); ++i)
        residual = std::max(residual, std::abs(total[c][i] - mix[c][i]));
    QVERIFY2(toDb(residual) < -120, qPrintable(QString::number(toDb(residual))));
  }

  // A session of equalisers, gains, pans and a delay, built again with scipy: float files differ by rounding
  // only.
  void theSameInScipy() {
    Harbour h;
    for (Track& track : h.session.tracks) track.inserts.clear(), track.sends.clear();
    h.session.main.inserts.clear();
    h.track("gear").inserts = {
        insert("a", "equaliser", {{"bell1_freq", 900}, {"bell1_gain", 7}, {"bell1_q", 1.3}})};
    h.track("works").inserts = {insert("b", "equaliser", {{"high_cut", 1}, {"high_cut_freq", 6000}})};
    h.track("chain").inserts = {insert("c", "echo", {{"time", 25}, {"feedback", 0}, {"mix", 40}})};
    h.layers();
    test::renderOf(h.make.save());
    const auto python =
        test::run("/usr/bin/python3", {OCTAPHON_SOURCE "/tests/same_in_scipy.py", h.dir.path()});
    QVERIFY2(python.exit == 0, python.err + python.out);
    QVERIFY2(python.out.toDouble() < -120, python.out);
  }

  // A compressor on a group and a limiter on main: keyed by the mix layers add up; each alone they do not,
  // and what cannot be split is said to be so.
  void keyedLayersAddUp_data() {
    QTest::addColumn<bool>("keyed");
    QTest::addColumn<QString>("effect");
    QTest::addColumn<QString>("verdict");
    QTest::newRow("keyed compressor") << true << "compressor"
                                      << "adds-up";
    QTest::newRow("each alone") << false << "compressor"
                                << "differs";
    QTest::newRow("keyed limiter") << true << "limiter"
                                   << "adds-up";
    QTest::newRow("saturation") << true << "saturation"
                                << "differs";
  }
  void keyedLayersAddUp() {
    QFETCH(bool, keyed);
    QFETCH(QString, effect);
    QFETCH(QString, verdict);
    Harbour h;
    const std::map<std::string, double> heavy{{"threshold", -40}, {"ratio", 20}, {"makeup", 12},
                                              {"mix", 80},        {"gain", 20},  {"drive", 24}};
    h.track("works").inserts.push_back(insert("x", effect.toStdString(), heavy));
    h.session.main.inserts.push_back(insert("y", effect.toStdString(), heavy));
    h.layers().heard.keyed = keyed;
    const QString session = h.make.save();
    const auto sums = sumsOf(test::renderOf(session));
    QCOMPARE(sums.size(), 1u);
    QCOMPARE(sums[0]["verdict"].toString(), verdict);
    const double residual = sums[0]["residual_db"].toDouble();
    QVERIFY2(verdict == "adds-up" ? residual < -120 : residual > -40, qPrintable(QString::number(residual)));
    const auto remarks = test::planOf(session)["rows"].toArray()[0].toObject()["remarks"].toArray();
    QStringList codes;
    for (const auto& remark : remarks) codes << remark.toObject()["code"].toString();
    QCOMPARE(codes.contains("cannot-split"), effect == "saturation");
    QCOMPARE(codes.contains("keyed-alone"), !keyed);
  }

  void sumsNeedAPartition_data() {
    QTest::addColumn<QString>("what");
    QTest::addColumn<QString>("said");
    QTest::newRow("one is missing") << "missing"
                                    << "bell is in none of the layers";
    QTest::newRow("a track and its group") << "double"
                                           << "chain is in several of the layers";
    QTest::newRow("returns left out") << "dry"
                                      << "what goes through room is in none of the layers";
    QTest::newRow("only the mix") << "mix"
                                  << "there are no layers to add up";
  }
  void sumsNeedAPartition() {
    QFETCH(QString, what);
    QFETCH(QString, said);
    Harbour h;
    Brief& brief = h.layers();
    if (what == "missing") brief.what.tracks = {false, {"gear", "chain", "motor"}};
    if (what == "double") brief.what.groups = {false, {"inner"}};
    if (what == "dry") brief.heard.withReturns = Returns::Out;
    if (what == "mix") brief.what.tracks = {};
    const auto sums = sumsOf(test::renderOf(h.make.save()));
    QCOMPARE(sums.size(), 1u);
    QCOMPARE(sums[0]["verdict"].toString(), QString("not-judged"));
    QCOMPARE(sums[0]["text"].toString(), said);
    QVERIFY(sums[0]["residual_db"].isNull());
  }

  // Sums of some, and the mix without some, are files like others; together they are the mix.
  void sumsOfSome() {
    Harbour h;
    Brief& brief = h.layers();
    brief.what.tracks = {};
    brief.what.sums = {{"a", "low", {"inner", "bell"}, false},
                       {"b", "rest", {"gear"}, false},
                       {"c", "without", {"gear"}, true}};
    const auto sums = sumsOf(test::renderOf(h.make.save()));
    QCOMPARE(sums[0]["verdict"].toString(), QString("adds-up"));
    const QString out = h.dir.path() + "/out/";
    const Samples low = test::readSound(out + "Quay_low.wav"),
                  without = test::readSound(out + "Quay_without.wav");
    for (std::size_t i = 0; i < low[0].size(); ++i) QVERIFY(std::abs(low[0][i] - without[0][i]) < 1e-6);
  }

  void returnsBeyondTheReachAreSaid() {
    Harbour h;
    Brief brief;
    brief.heard.reach = {ReachStage::Group, "works"};
    RenderSpec spec;
    spec.brief = brief;
    spec.source = sourceOf(h.session, "gear");
    QVERIFY(codesOf(test::render(h.session, spec)).contains(RemarkCode::ReturnBeyondReach));
    spec.source = sourceOf(h.session, "motor");  // its group sends for it
    QVERIFY(codesOf(test::render(h.session, spec)).contains(RemarkCode::ReturnBeyondReach));
    spec.brief.heard.reach = {};
    QVERIFY(codesOf(test::render(h.session, spec)).empty());
    // A return inside the group joins before the reach.
    h.track("room").group = "works";
    h.track("room").sends.clear();
    h.track("gear").sends.pop_back();
    spec.brief = brief;
    spec.source = sourceOf(h.session, "gear");
    QVERIFY(codesOf(test::render(h.session, spec)).empty());
  }

  // No sound may come back to where it left; sends that close a circle are found in track order, whatever
  // their way.
  void feedbackIsFound_data() {
    QTest::addColumn<QString>("from");
    QTest::addColumn<QString>("to");
    QTest::addColumn<bool>("closes");
    const auto row = [](const char* from, const char* to, bool closes) {
      QTest::addRow("%s to %s", from, to) << QString(from) << QString(to) << closes;
    };
    row("tunnel", "room", true), row("room", "room", true), row("works", "eq", true);
    row("room", "eq2", false), row("bell", "room", false), row("room", "eq3", false),
        row("tunnel", "rv", true);
  }
  void feedbackIsFound() {
    QFETCH(QString, from);
    QFETCH(QString, to);
    QFETCH(bool, closes);
    Harbour h;
    h.track(from.toStdString()).sends.push_back(send("loop", to.toStdString()));
    const TrackTree tree(h.session);
    const SignalOrder order(tree, h.session);
    QCOMPARE(!order.feedback().empty(), closes);
    for (const Strip strip : tree.order()) QVERIFY(order.rank(strip) < order.rank(tree.parent(strip)));
    const Rendered mix = test::render(h.session, {});
    QCOMPARE(codesOf(mix).contains(RemarkCode::FeedbackSend), closes);
    QVERIFY(mix.error.empty());
  }

  // A limiter that has nothing to do is late by its latency; its siblings wait for it, to the frame.
  void latenciesAreMadeUpFor() {
    Harbour h;
    const auto before = test::render(h.session, {});
    h.track("chain").inserts.push_back(insert("l1", "limiter", {{"ceiling", 0}}));
    h.track("room").inserts.push_back(insert("l2", "limiter", {{"ceiling", 0}}));
    h.track("bell").inserts.push_back(insert("s", "saturation", {{"mix", 0}}));
    const auto after = test::render(h.session, {});
    QCOMPARE(after.channels[0].size(), before.channels[0].size());
    for (std::size_t c = 0; c < 2; ++c)
      for (std::size_t i = 0; i < before.channels[c].size(); ++i)
        QVERIFY(std::abs(after.channels[c][i] - before.channels[c][i]) < 1e-6);
  }

  // A helper is in no sum, and still moves the compressor that listens to it.
  void helpersFeedKeys() {
    Ones ones;
    ones.make.track("duck", 1).helper = true;
    ones.make.clip("duck", "m", 24000, 12000);
    ones.track().inserts = {insert(
        "c", "compressor", {{"threshold", -20}, {"ratio", 100}, {"knee", 0}, {"attack", 1}, {"release", 1}})};
    ones.make.session.tracks[1].sends = {send("k", "c")};
    RenderSpec spec;
    const auto gains = ones.gains(spec);
    QCOMPARE(gains[12000], 1.0);
    const double ducked = (toDb(0.5) + 20) * -0.99;
    QVERIFY2(std::abs(toDb(gains[30000]) - ducked) < 0.01, qPrintable(QString::number(toDb(gains[30000]))));
    QVERIFY(std::abs(gains[40000] - 1) < 1e-4);
    spec.source = sourceOf(ones.make.session, "t");  // and so does its layer
    QCOMPARE(ones.gains(spec)[30000], gains[30000]);
    ones.make.session.tracks[1].sends[0].on = false;
    QCOMPARE(ones.gains(spec)[30000], 1.0);  // switched off, the key is silent
  }

  // Break points to the frame: linear, curved and held segments of the volume against their formulas.
  void automationOfTheFader() {
    Ones ones;
    ones.track().automation = {
        curve("gain", {point(1000, -20), point(3000, 0, Segment::Hold), point(5001, -6),
                       point(7001, -6, Segment::Curve, 0.5), point(9001, -12)})};
    const auto gains = ones.gains();
    const auto db = [&](std::size_t frame) { return toDb(gains[frame]); };
    QVERIFY(std::abs(db(0) + 20) < 1e-4 && std::abs(db(1000) + 20) < 1e-4);
    QVERIFY(std::abs(db(2500) + 5) < 1e-4);
    QVERIFY(std::abs(db(5000)) < 1e-4 && std::abs(db(5001) + 6) < 1e-4);
    QVERIFY(std::abs(db(8001) + 6 + 6 * std::pow(0.5, 2)) < 1e-4);
    QVERIFY(std::abs(db(9001) + 12) < 1e-4 && std::abs(db(40000) + 12) < 1e-4);
    // Under 'only what begins here' it is held outside the span.
    RenderSpec spec;
    spec.start = 0, spec.length = 2001, spec.tail = 4000;
    spec.counting = Counting{Counts::BeginsHere, Crossing::LeftOut, 0, 0};
    ones.make.session.tracks[0].clips[0].length = 1500;
    ones.track().inserts = {insert("e", "echo", {{"time", 60}, {"mix", 50}, {"feedback", 0}})};
    const auto held = ones.gains(spec);
    QVERIFY2(std::abs(toDb(held[3500] / 0.5) + 10) < 0.01,
             qPrintable(QString::number(toDb(held[3500] / 0.5))));
  }

  void automationOfTheRest() {
    Ones ones;
    ones.track().automation = {
        curve("mute", {point(0, 0, Segment::Hold), point(10000, 1, Segment::Hold), point(20000, 0)}),
        curve("insert:i:gain", {point(0, 0), point(30000, 0), point(40000, -10)})};
    ones.track().inserts = {insert("i", "trim")};
    const auto gains = ones.gains();
    QCOMPARE(gains[9999], 1.0);
    QCOMPARE(gains[10048], 0.0);  // muted within a millisecond, from the point on
    QCOMPARE(gains[20048], 1.0);
    QVERIFY(std::abs(toDb(gains[35000]) + 5) < 0.001);
    // Pan of mono into stereo keeps its power at every frame; a send's level moves too.
    ones.make.session.main.channels = 2;
    ones.make.track("room", 2).kind = TrackKind::Return;
    ones.make.session.tracks[0].automation = {curve("pan", {point(0, -1), point(40000, 1)})};
    ones.make.session.tracks[0].inserts.clear();
    const auto panned = test::render(ones.make.session, {});
    for (const std::size_t frame : {0u, 10000u, 20000u, 39999u})
      QVERIFY(std::abs(std::hypot(panned.channels[0][frame], panned.channels[1][frame]) - 0.5) < 1e-6);
    QVERIFY(panned.channels[1][0] == 0 && panned.channels[0][20000] == panned.channels[1][20000]);
    ones.make.session.tracks[0].automation = {
        curve("send:s", {point(0, -144), point(24000, -144, Segment::Hold), point(24001, 0)})};
    ones.make.session.tracks[0].sends = {send("s", "room")};
    const auto sent = test::render(ones.make.session, {});
    QVERIFY(std::abs(sent.channels[0][30000] / sent.channels[0][10000] - 2) < 1e-6);
  }

  void overridesAndExceptions() {
    Harbour h;
    Ones ones;
    ones.track().gainDb = -8;
    ones.track().inserts = {insert("a", "trim", {{"gain", -2}}, {"sound"}),
                            insert("b", "trim", {{"gain", -4}}, {"mix"})};
    const auto gainOfBrief = [&](const std::function<void(Brief&)>& change) {
      RenderSpec spec;
      change(spec.brief);
      spec.source = sourceOf(ones.make.session, "t");
      return toDb(ones.gains(spec)[1000]);
    };
    const auto is = [](double found, double expected) { return std::abs(found - expected) < 1e-4; };
    QVERIFY(is(gainOfBrief([](Brief&) {}), -14));
    QVERIFY(is(gainOfBrief([](Brief& b) { b.heard.overrides.faders = Faders::Unity; }), -6));
    QVERIFY(is(gainOfBrief([](Brief& b) {
                 b.heard.overrides.faders = Faders::Value, b.heard.overrides.faderDb = -3;
               }),
               -9));
    QVERIFY(is(gainOfBrief([](Brief& b) { b.heard.overrides.inserts = InsertChoice::None; }), -8));
    QVERIFY(is(gainOfBrief([](Brief& b) {
                 b.heard.overrides.inserts = InsertChoice::Tagged, b.heard.overrides.tags = {"sound"};
               }),
               -10));
    QVERIFY(is(gainOfBrief([](Brief& b) {
                 b.heard.overrides.faders = Faders::Unity;
                 b.heard.exceptions = {{"t", Overrides{}}};
               }),
               -14));
    ones.make.session.main.gainDb = -5;
    QVERIFY(is(gainOfBrief([](Brief& b) { b.heard.overrides.faders = Faders::Unity; }),
               -11));  // main only where it is said
    QVERIFY(is(
        gainOfBrief([](Brief& b) { b.heard.overrides.faders = Faders::Unity, b.heard.overrideMain = true; }),
        -6));
    QVERIFY(is(gainOfBrief([](Brief& b) { b.heard.reach = {ReachStage::Inserts, {}}; }), -6));
    QVERIFY(is(gainOfBrief([](Brief& b) { b.heard.reach = {ReachStage::Clips, {}}; }), 0));
  }

  // Channels are those of the place where a source is taken off, never those of its sound.
  void channelsByStructure_data() {
    QTest::addColumn<int>("track");
    QTest::addColumn<int>("main");
    QTest::addColumn<QString>("reach");
    QTest::addColumn<int>("expected");
    for (const int track : {1, 2, 4, 6, 8})
      for (const int main : {2, 6}) {
        QTest::addRow("%d in %d, inserts", track, main) << track << main << "inserts" << track;
        QTest::addRow("%d in %d, track", track, main) << track << main << "track" << main;
      }
  }
  void channelsByStructure() {
    QFETCH(int, track);
    QFETCH(int, main);
    QFETCH(QString, reach);
    QFETCH(int, expected);
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.session.main.channels = main;
    make.medium("m", test::noise(track, 4800, 3));
    make.track("t", track);
    make.clip("t", "m", 0, 4800);
    make.region("r", "R", 0, 4800);
    Brief& brief = make.brief("B");
    brief.what.tracks = {true, {}};
    brief.heard.reach = *parseReach(reach.toStdString());
    const QString session = make.save();
    QCOMPARE(test::planOf(session)["rows"].toArray()[0].toObject()["channels"].toInt(), expected);
    test::renderOf(session);
    QCOMPARE(test::readSound(dir.path() + "/out/R_t.wav").size(), static_cast<std::size_t>(expected));
  }

  // Down-mixes by ITU-R BS.775: centre and surrounds at −3.01 dB, no LFE.
  void downMix() {
    const MixMatrix m = mixMatrix(6, 2, 1, 0);
    const double half = std::sqrt(0.5);
    const double left[]{1, 0, half, 0, half, 0};
    for (std::size_t c = 0; c < 6; ++c) QVERIFY(std::abs(m.gain[0][c] - left[c]) < 1e-12);
    for (const int from : {1, 2, 4, 6, 8})
      for (const int to : {1, 2, 4, 6, 8})
        for (const double pan : {-1.0, 0.0, 0.3}) {
          const MixMatrix matrix = mixMatrix(from, to, 1, pan);
          for (const auto& row : matrix.gain)
            for (const double gain : row) QVERIFY(gain >= 0 && gain <= 1);
          QCOMPARE(matrix.isIdentity(), from == to && (from == 1 || pan == 0));
        }
  }

  // Adjacent spans, everything heard, run up to from the start, without tails and edges: joined they are the
  // whole, bit for bit, though effects remember.
  void adjacentSpansJoinedAreTheWhole() {
    Harbour h;
    h.track("works").inserts.push_back(insert("x", "compressor", {{"threshold", -30}, {"makeup", 6}}));
    // A limiter that has nothing to do: one that works looks ahead, and never hears the next span.
    h.session.main.inserts.push_back(insert("y", "limiter", {{"gain", -20}, {"ceiling", 0}}));
    h.track("chain").automation = {curve("gain", {point(3000, 0), point(15000, -20)})};
    h.session.regions.clear();
    const Frame cuts[]{0, 7777, 12288, 20001, 30000};
    for (int i = 0; i < 4; ++i)
      h.make.region("p" + std::to_string(i), "Part " + std::to_string(i), cuts[i], cuts[i + 1] - cuts[i]);
    h.make.region("w", "Whole", 0, 30000);
    Brief& brief = h.layers();
    brief.heard.counts = Counts::EverythingHeard;
    brief.ends.tailSeconds = 0;
    brief.heard.runUp.fromStart = true;
    const QString session = h.make.save();
    for (const QJsonObject& sum : sumsOf(test::renderOf(session))) QVERIFY(sum["verdict"] != "differs");
    for (const char* source : {"mix", "gear", "bell"}) {
      Samples joined(2);
      for (int i = 0; i < 4; ++i) {
        const QString file = QString("%1/out/Part %2_%3.wav").arg(h.dir.path()).arg(i).arg(source);
        if (!QFile::exists(file)) continue;  // no clips there
        const Samples part = test::readSound(file);
        for (std::size_t c = 0; c < 2; ++c) joined[c].insert(joined[c].end(), part[c].begin(), part[c].end());
      }
      Samples whole = test::readSound(QString("%1/out/Whole_%2.wav").arg(h.dir.path(), source));
      for (auto& channel : whole) channel.resize(joined[0].size());
      QCOMPARE(joined, whole);
    }
  }

  void theSameBytesForAnyNumberOfWorkers() {
    Harbour h;
    h.track("works").inserts.push_back(insert("x", "compressor", {{"threshold", -30}}));
    h.track("bell").inserts = {insert("z", "saturation"), insert("l", "limiter")};
    Brief& brief = h.layers();
    brief.files.encoding = Encoding::Pcm24;
    for (int i = 0; i < 5; ++i)
      h.make.region("q" + std::to_string(i), "Q" + std::to_string(i), 3000 * i, 6000);
    const QString session = h.make.save();
    QMap<QString, QByteArray> first;
    for (const char* jobs : {"1", "2", "8"}) {
      QTemporaryDir out;
      test::renderOf(session, {"--jobs", jobs, "--out", out.path()});
      for (const QString& file : test::filesBelow(out.path())) {
        const QByteArray bytes = test::bytesOf(out.path() + "/" + file);
        if (QString(jobs) == "1") first[file] = bytes;
        QVERIFY(first[file] == bytes);
      }
    }
    QVERIFY(first.size() > 15);
  }

  // What dies away ends as exact silence: no effect gives denormals, however long it rings.
  void noDenormals() {
    for (const EffectInfo& info : builtInEffects()) {
      Ones ones;
      ones.make.session.tracks[0].clips[0].length = 100;
      ones.track().inserts = {
          insert("x", info.id, {{"mix", 50}, {"decay", 0.2}, {"feedback", 60}, {"low_gain", 6}})};
      RenderSpec spec;
      spec.tail = 48000 * 20;
      const auto gains = test::render(ones.make.session, spec);
      for (const float sample : gains.channels[0])
        QVERIFY2(sample == 0 || std::abs(sample) >= FLT_MIN, info.id.c_str());
      QCOMPARE(gains.channels[0].back(), 0.0f);
    }
  }

  // Inserts of a clip ring on behind it and stay on their clip.
  void insertsOnClips() {
    Ones ones;
    ones.make.session.tracks[0].clips[0].length = 10000;
    ones.make.session.tracks[0].clips[0].inserts = {
        insert("e", "echo", {{"time", 500}, {"feedback", 0}, {"mix", 50}})};
    ones.make.clip("t", "m", 12000, 5000);
    const auto gains = ones.gains();
    QVERIFY(std::abs(gains[5000] - 0.5) < 1e-6);
    QVERIFY(std::abs(gains[13000] - 1) < 1e-6);
    QVERIFY(std::abs(gains[24000 + 5000] - 0.5) < 1e-6);
    QCOMPARE(gains[11000], 0.0);
  }

  // Sessions out of seeds: whatever the way, layers that can be judged add up (the files added outside as
  // well), and adjacent spans joined are the whole, bit for bit.
  void randomSessions_data() {
    QTest::addColumn<QString>("check");
    QTest::newRow("layers add up") << "adds-up";
    QTest::newRow("parts joined are the whole") << "joined";
  }
  void randomSessions() {
    QFETCH(QString, check);
    QTemporaryDir dir;
    const auto python = test::run("/usr/bin/python3", {OCTAPHON_SOURCE "/tests/random_sessions.py",
                                                       OCTAPHON_CLI_PATH, dir.path(), check, "0", "40"});
    QVERIFY2(python.exit == 0 && python.out.isEmpty(), python.err + python.out);
  }

  // A track beside a group sends to a return inside it: the share joins behind what the track's file reaches,
  // so no file has it, and it is said.
  void aReturnInAnotherGroup() {
    Harbour h;
    h.track("room").group = "works";
    h.track("room").sends.clear();
    h.track("bell").sends = {send("s5", "room")};
    h.layers().heard.reach = {ReachStage::Groups, {}};
    const QString session = h.make.save();
    const auto sums = sumsOf(test::renderOf(session));
    QCOMPARE(sums[0]["verdict"].toString(), QString("not-judged"));
    QVERIFY2(sums[0]["text"].toString().contains("joins beyond the reach"),
             QJsonDocument(sums[0]).toJson().constData());
    bool isSaid = false;
    for (const auto& value : test::planOf(session)["rows"].toArray()) {
      const QJsonObject row = value.toObject();
      const bool here = QJsonDocument(row["remarks"].toArray()).toJson().contains("return-beyond-reach");
      isSaid |= here && row["source"] == "bell";
      QVERIFY(!here || row["source"] != "mix");
    }
    QVERIFY(isSaid);
  }

  // A point on the end's very frame belongs to what follows: the tail keeps what was just before.
  void aJumpOnTheEnd_data() {
    QTest::addColumn<QString>("target");
    for (const char* target : {"gain", "mute"}) QTest::newRow(target) << QString(target);
  }
  void aJumpOnTheEnd() {
    QFETCH(QString, target);
    Ones ones;
    const bool isMute = target == "mute";
    ones.track().automation = {
        {target.toStdString(),
         true,
         {{0, 0, Segment::Hold, 0, {}}, {20'000, isMute ? 1.0 : -60.0, Segment::Hold, 0, {}}},
         {}}};
    ones.make.region("r", "R", 0, 20'000).finish = true;
    Brief& brief = ones.make.brief("B");
    brief.ends.tail = Tail::Fixed;
    brief.ends.tailSeconds = 0.25;
    brief.files.encoding = Encoding::Float32;
    brief.names.format = "x";
    test::renderOf(ones.make.save());
    const Samples file = test::readSound(ones.dir.path() + "/out/x.wav");
    QCOMPARE(file[0].size(), 32'000u);
    for (std::size_t i = 0; i < 32'000 - 240; ++i) QCOMPARE(file[0][i], 0.5);
    QVERIFY(std::abs(file[0].back()) < 0.01);  // the clip goes on behind the tail: faded, not cut
  }

  void oddSessionsHaveAnOutcome() {
    Ones ones;
    ones.make.session.tracks[0].clips[0].length = 0;
    ones.track().inserts = {insert("r", "reverb")};
    QVERIFY(loudest(test::render(ones.make.session, {}).channels[0]) == 0);
    // A thousand nested groups, each with an effect.
    QTemporaryDir dir;
    test::SessionMaker deep(dir.path());
    deep.session.file = dir.filePath("test.octaphon").toStdString();
    deep.medium("m", test::noise(2, 2000, 5));
    std::string inside;
    for (int i = 0; i < 1000; ++i) {
      deep.group("g" + std::to_string(i), inside).inserts = {
          insert("i" + std::to_string(i), "trim", {{"gain", i % 2 == 0 ? 1.0 : -1.0}})};
      inside = "g" + std::to_string(i);
    }
    deep.track("t", 2, inside);
    deep.clip("t", "m", 0, 2000);
    RenderSpec spec;
    spec.length = 2000;
    spec.source = sourceOf(deep.session, "t");
    const auto layer = test::render(deep.session, spec);
    QVERIFY(std::abs(loudest(layer.channels[0]) - 0.25) < 0.01);
    // What is not a number names its stage.
    Ones loud;
    loud.track().inserts = {insert("boom", "trim", {{"gain", 48}})};
    for (int i = 0; i < 20; ++i)
      loud.track().inserts.push_back(insert("b" + std::to_string(i), "trim", {{"gain", 48}}));
    QVERIFY(QString::fromStdString(test::render(loud.make.session, {}).error).contains("Trim (b"));
  }
};

QTEST_GUILESS_MAIN(RoutingTest)
#include "tst_routing.moc"
