// Listening, without a device: what comes out of the player is compared with files and sums.
#include <QtTest>

#include "media/media_cache.h"
#include "plan/planner.h"
#include "play/player.h"
#include "run/live_sheet.h"
#include "support.h"

using namespace octaphon;
using test::Samples;

namespace {

/// Two tracks in a group and one outside, a region over a part of it, and its files.
class Harbour {
 public:
  QTemporaryDir dir;
  test::SessionMaker make{dir.path()};
  MediaCache cache{(dir.path() + "/cache").toStdString()};
  Samples a = test::noise(2, 20'000, 1);
  Samples b = test::noise(2, 20'000, 2);
  Samples c = test::noise(2, 20'000, 3);

  Harbour() {
    make.medium("a", a);
    make.medium("b", b);
    make.medium("c", c);
    make.group("g");
    make.track("ta", 2, "g");
    make.track("tb", 2, "g");
    make.track("tc");
    make.clip("ta", "a", 0, 20'000);
    make.clip("tb", "b", 0, 20'000);
    make.clip("tc", "c", 0, 20'000);
    make.region("r", "R", 5'000, 10'000);
    Brief& brief = make.brief("B");
    brief.what.tracks = {true, {}};
    brief.heard.counts = Counts::EverythingHeard;
    brief.files.encoding = Encoding::Float32;
    make.session.file = make.save().toStdString();
  }

  /// All that comes from `from` to `to`; the device asks for blocks of odd lengths.
  Samples listen(Frame from, Frame to, Listening listening = {}) {
    auto session = std::make_shared<Session>(make.session);
    Player player(session, gatherFacts(*session, cache), cache);
    player.start(from, to, std::move(listening));
    Samples heard(2);
    std::vector<float> block;
    QElapsedTimer clock;
    clock.start();
    while (!player.atEnd() && player.problem().empty() && clock.elapsed() < 20'000) {
      const Frame before = player.position();
      block.resize(2 * 331);
      player.read(block.data(), 331);
      const auto got = static_cast<std::size_t>(player.position() - before);
      for (std::size_t i = 0; i < got; ++i)
        for (std::size_t side = 0; side < 2; ++side)
          heard[side].push_back(static_cast<double>(block[2 * i + side]));
      if (got == 0) QTest::qWait(1);
    }
    problem = player.problem();
    peaks = player.takePeaks();
    return heard;
  }

  std::string problem;
  std::array<float, 2> peaks{};
};

/// Largest difference from a sum of some sounds, `from` frames into them.
double differs(const Samples& heard, const std::vector<const Samples*>& parts, Frame from) {
  double most = 0;
  for (std::size_t side = 0; side < 2; ++side)
    for (std::size_t i = 0; i < heard[side].size(); ++i) {
      double sum = 0;
      for (const Samples* part : parts) sum += (*part)[side][i + static_cast<std::size_t>(from)];
      most = std::max(most, std::abs(heard[side][i] - sum));
    }
  return most;
}

}  // namespace

class ListenTest : public QObject {
  Q_OBJECT
 private slots:
  void everythingOrSomeOfIt_data() {
    QTest::addColumn<QStringList>("only");
    QTest::addColumn<QString>("parts");
    QTest::newRow("everything") << QStringList() << "abc";
    QTest::newRow("a track") << QStringList{"tb"} << "b";
    QTest::newRow("two tracks") << QStringList{"ta", "tc"} << "ac";
    QTest::newRow("a group") << QStringList{"g"} << "ab";
    QTest::newRow("a group and what is in it") << QStringList{"g", "ta"} << "ab";
  }
  void everythingOrSomeOfIt() {
    QFETCH(QStringList, only);
    QFETCH(QString, parts);
    Harbour harbour;
    Listening listening;
    for (const QString& id : only) listening.only.push_back(id.toStdString());
    const Samples heard = harbour.listen(3'000, 12'000, listening);
    QCOMPARE(heard[0].size(), std::size_t{9'000});
    std::vector<const Samples*> sounds;
    if (parts.contains('a')) sounds.push_back(&harbour.a);
    if (parts.contains('b')) sounds.push_back(&harbour.b);
    if (parts.contains('c')) sounds.push_back(&harbour.c);
    QVERIFY(differs(heard, sounds, 3'000) < 1e-6);
    double peak = 0;
    for (const double sample : heard[0]) peak = std::max(peak, std::abs(sample));
    QVERIFY(std::abs(static_cast<double>(harbour.peaks[0]) - peak) < 1e-6);
  }

  // Laps follow each other frame by frame: the first begins where one is, the others where they are to.
  void lapsFollowWithoutAGap() {
    Harbour harbour;
    auto session = std::make_shared<Session>(harbour.make.session);
    Player player(session, gatherFacts(*session, harbour.cache), harbour.cache);
    player.start(9'000, 12'000, {}, Frame{5'000});
    std::vector<float> block(2 * 331);
    Frame expected = 9'000;
    std::size_t frames = 0;
    QElapsedTimer clock;
    clock.start();
    while (frames < 40'000 && clock.elapsed() < 20'000) {
      const Frame before = player.position();
      QCOMPARE(before, expected);
      player.read(block.data(), 331);
      for (Frame i = 0; i < 331; ++i) {
        const auto at = static_cast<std::size_t>(expected);
        const double sum = harbour.a[0][at] + harbour.b[0][at] + harbour.c[0][at];
        if (std::abs(static_cast<double>(block[2 * static_cast<std::size_t>(i)]) - sum) > 1e-6) {
          QVERIFY2(player.position() == expected, "a gap inside a lap");  // the thread is behind: silence
          break;
        }
        ++frames;
        expected = expected + 1 == 12'000 ? 5'000 : expected + 1;
      }
      QVERIFY(!player.atEnd());
      if (player.position() != expected) QFAIL("the position is not what is heard");
      if (player.position() == before) QTest::qWait(1);
    }
    QVERIFY(frames >= 40'000);
  }

  // EBU Tech 3341, case 1: a stereo sine of 1 kHz at −23.0 dBFS on both sides is −23.0 ±0.1 LUFS.
  void loudnessWhileListening() {
    LoudnessMeter meter(48'000);
    std::vector<float> block(2 * 480);
    for (int b = 0; b < 2000; ++b) {
      for (int i = 0; i < 480; ++i)
        block[2 * static_cast<std::size_t>(i)] = block[2 * static_cast<std::size_t>(i) + 1] =
            static_cast<float>(std::pow(10, -23.0 / 20) *
                               std::sin(2 * M_PI * 1000 * (b * 480 + i) / 48'000.0));
      meter.add(block.data(), 480);
    }
    QVERIFY(std::abs(meter.now().integrated + 23) < 0.1);
    QVERIFY(std::abs(meter.now().momentary + 23) < 0.1);
  }

  // A row as it will be written, the file, and nothing between them; after an edit, what was edited.
  void rowFileAndDifference() {
    Harbour harbour;
    test::renderOf(QString::fromStdString(harbour.make.session.file.string()));
    const auto facts = gatherFacts(harbour.make.session, harbour.cache);
    const Sheet sheet = planSheet(harbour.make.session, *facts, {{0}, std::nullopt});
    QCOMPARE(sheet.rows.size(), std::size_t{4});
    const auto hear = [&](std::size_t row, Listening::Of of) {
      return harbour.listen(5'000, 15'000, listeningTo(sheet, sheet.rows[row], of));
    };
    QVERIFY(differs(hear(1, Listening::Of::Session), {&harbour.b}, 5'000) < 1e-6);
    QVERIFY(differs(hear(1, Listening::Of::File), {&harbour.b}, 5'000) < 1e-6);
    QVERIFY(differs(hear(1, Listening::Of::Difference), {}, 5'000) == 0);
    QVERIFY(differs(hear(3, Listening::Of::Difference), {}, 5'000) == 0);
    harbour.make.session.tracks[2].mute = true;  // tb: the mix lacks it, the file has it
    Samples negative = harbour.b;
    for (auto& side : negative)
      for (double& sample : side) sample = -sample;
    QVERIFY(differs(hear(3, Listening::Of::Difference), {&negative}, 5'000) < 1e-6);
    // From the middle of a row, at the same place.
    const Samples late =
        harbour.listen(9'000, 15'000, listeningTo(sheet, sheet.rows[0], Listening::Of::File));
    QVERIFY(differs(late, {&harbour.a}, 9'000) < 1e-6);
  }

  // With all its ends; a file of another rate is heard at the session's.
  void rowsAreHeardWithTheirEnds_data() {
    QTest::addColumn<QString>("what");
    QTest::addColumn<Frame>("frames");
    QTest::newRow("lead-in and fades") << "faded" << Frame{1'000 + 10'000};
    QTest::newRow("cut") << "cut" << Frame{4'800};
    QTest::newRow("filled") << "filled" << Frame{14'400};
    QTest::newRow("another rate") << "rate" << Frame{1'000 + 10'000};
  }
  void rowsAreHeardWithTheirEnds() {
    QFETCH(QString, what);
    QFETCH(Frame, frames);
    Harbour harbour;
    Brief& brief = harbour.make.session.briefs[0];
    brief.ends.leadInSeconds = 1'000.0 / 48'000;
    brief.ends.fadeInMs = brief.ends.fadeOutMs = 20;
    if (what == "cut") brief.ends.exactSeconds = 0.1;
    if (what == "filled") brief.ends.exactSeconds = 0.3;
    if (what == "rate") {
      brief.files.rate = 96'000;
      harbour.b = test::sine(2, 20'000, 1'000, 0.25);
      test::writeSound(harbour.dir.filePath("media/b.wav"), harbour.b);
    }
    test::renderOf(harbour.make.save());
    const auto facts = gatherFacts(harbour.make.session, harbour.cache);
    const Sheet sheet = planSheet(harbour.make.session, *facts, {{0}, std::nullopt});
    const Row& row = sheet.rows[1];
    QCOMPARE(sheet.endOf(row) - row.start, frames);
    const auto hear = [&](Frame from, Listening::Of of) {
      return harbour.listen(from, sheet.endOf(row), listeningTo(sheet, row, of));
    };
    const Samples heard = hear(row.start, Listening::Of::Session);
    QCOMPARE(heard[0].size(), static_cast<std::size_t>(frames));
    QCOMPARE(heard[0][0], 0.0);  // its fade in
    QVERIFY(std::abs(heard[0][480] - harbour.b[0][4'480] * 0.5) < 1e-5);
    // There and back, and cut off at the ends.
    const double least = what == "rate" ? 2e-3 : 0;
    QVERIFY(differs(hear(row.start, Listening::Of::Difference), {}, 0) <= least);
    QVERIFY(differs(hear(row.start + 3'000, Listening::Of::Difference), {}, 0) <= least);
    const Samples file = hear(row.start, Listening::Of::File);
    QCOMPARE(file[0].size(), static_cast<std::size_t>(frames));
    QVERIFY(differs(file, {&heard}, 0) <= least);
  }

  // With gain and ceiling: before files are there with what is known of it, behind a limiter as it was made.
  void rowsAreHeardAsLoudAsTheyAreWritten_data() {
    QTest::addColumn<LevelKind>("kind");
    QTest::addColumn<double>("target");
    QTest::addColumn<double>("ceilingDb");
    QTest::addColumn<CeilingBy>("by");
    QTest::newRow("gain") << LevelKind::Gain << -7.5 << 0.0 << CeilingBy::Gain;
    QTest::newRow("peak") << LevelKind::Peak << -1.0 << 0.0 << CeilingBy::Gain;
    QTest::newRow("under a ceiling") << LevelKind::Peak << 0.0 << -6.0 << CeilingBy::Gain;
    QTest::newRow("through a limiter") << LevelKind::Gain << 12.0 << -6.0 << CeilingBy::Limiter;
    QTest::newRow("loudness through it") << LevelKind::Loudness << -9.0 << -1.0 << CeilingBy::Limiter;
  }
  void rowsAreHeardAsLoudAsTheyAreWritten() {
    QFETCH(LevelKind, kind);
    QFETCH(double, target);
    QFETCH(double, ceilingDb);
    QFETCH(CeilingBy, by);
    Harbour harbour;
    Region& region = harbour.make.session.regions[0];
    region = {};
    region.id = "r";
    region.name = "R";
    region.length = 20'000;
    Brief& brief = harbour.make.session.briefs[0];
    brief.what.tracks = {};
    brief.what.mix = true;
    brief.levelling.level.kind = kind;
    brief.levelling.level.target = target;
    if (ceilingDb < 0) brief.levelling.ceilingDb = ceilingDb;
    brief.levelling.ceilingBy = by;
    test::renderOf(harbour.make.save());
    const auto facts = gatherFacts(harbour.make.session, harbour.cache);
    const Sheet sheet = planWithStates(harbour.make.session, *facts, {{0}, std::nullopt});
    QCOMPARE(sheet.rows.size(), std::size_t{1});
    QCOMPARE(sheet.rows[0].state, RowState::UpToDate);
    const auto hear = [&](Listening::Of of) {
      return harbour.listen(0, sheet.endOf(sheet.rows[0]), listeningTo(sheet, sheet.rows[0], of));
    };
    const Samples heard = hear(Listening::Of::Session);
    QVERIFY(differs(heard, {}, 0) > 0.1);
    QVERIFY(differs(heard, {&harbour.a, &harbour.b, &harbour.c}, 0) > 0.01);
    QVERIFY(differs(hear(Listening::Of::Difference), {}, 0) < 1e-6);
    // Louder for comparison, and nothing else.
    Listening compared = listeningTo(sheet, sheet.rows[0], Listening::Of::File);
    compared.compareDb = -6;
    const Samples softer = harbour.listen(0, sheet.endOf(sheet.rows[0]), compared);
    for (std::size_t i = 0; i < softer[0].size(); i += 101)
      QVERIFY(std::abs(softer[0][i] - heard[0][i] * std::pow(10, -0.3)) < 1e-5);
  }

  // A loop is heard as its file will be, whichever way it is made: places and gains that are found in the mix
  // are the same.
  void loopsAreHeardAsTheyAreMade_data() {
    QTest::addColumn<LoopWay>("way");
    for (const Choice<LoopWay>& way : kChoices<LoopWay>)
      QTest::newRow(std::string(way.name).c_str()) << way.value;
  }
  void loopsAreHeardAsTheyAreMade() {
    QFETCH(LoopWay, way);
    Harbour harbour;
    harbour.make.session.main.inserts = {
        {"v", "reverb", {}, true, {}, {{"mix", 30}, {"decay", 0.3}}, {}, {}}};
    harbour.make.session.briefs[0].delivery.folder = "out";
    Loop& loop = harbour.make.session.briefs[0].loop;
    loop.way = way;
    loop.blendMs = 60;
    loop.searchMs = 10;
    test::renderOf(harbour.make.save());
    const auto facts = gatherFacts(harbour.make.session, harbour.cache);
    const Sheet sheet = planSheet(harbour.make.session, *facts, {{0}, std::nullopt});
    for (const Row& row : sheet.rows) {
      const auto hear = [&](Listening::Of of) {
        return harbour.listen(row.start, sheet.endOf(row), listeningTo(sheet, row, of));
      };
      const Samples file = hear(Listening::Of::File);
      QVERIFY2(harbour.problem.empty(), harbour.problem.c_str());
      QVERIFY(differs(file, {}, 0) > 0.05);
      const Samples made = hear(Listening::Of::Session);
      const Samples written =
          test::readSound(harbour.dir.filePath(QString::fromStdString("out/" + row.file)));
      QCOMPARE(made[0].size(), written[0].size());
      QVERIFY(differs(made, {&file}, 0) < 1e-6);
    }
  }

  // Folded or wide: what differs is looked for in the file's own channels.
  void nothingDiffersInOtherChannels_data() {
    QTest::addColumn<int>("tapped");
    QTest::addColumn<int>("written");
    for (const auto& [tapped, written] : {std::pair{2, 1}, {6, 6}, {8, 2}, {1, 2}, {4, 1}})
      QTest::addRow("%d to %d", tapped, written) << tapped << written;
  }
  void nothingDiffersInOtherChannels() {
    QFETCH(int, tapped);
    QFETCH(int, written);
    Harbour harbour;
    Session& session = harbour.make.session;
    harbour.make.medium("wide", test::noise(tapped, 20'000, 9));
    Track& track = harbour.make.track("wide", tapped);
    track.clips.clear();
    harbour.make.clip("wide", "wide", 5'000, 10'000);
    ClipSet set;
    set.id = "s";
    set.name = "S";
    set.clips = {findTrack(session, "wide")->clips[0].id};
    set.channels = written <= 2 ? written : 0;
    session.clipSets = {set};
    Brief& brief = session.briefs[0];
    brief.where.regions = {false, {}};
    brief.where.clipSets = {true, {}};
    brief.what.tracks = {false, {"wide"}};
    brief.what.mix = false;
    brief.heard.reach = {ReachStage::Inserts, {}};
    test::renderOf(harbour.make.save());
    const auto facts = gatherFacts(session, harbour.cache);
    const Sheet sheet = planSheet(session, *facts, {{0}, std::nullopt});
    QCOMPARE(sheet.rows.size(), std::size_t{1});
    QCOMPARE(sheet.rows[0].channels, written);
    const Samples heard =
        harbour.listen(5'000, 15'000, listeningTo(sheet, sheet.rows[0], Listening::Of::Session));
    QVERIFY(differs(heard, {}, 5'000) > 0.01);
    const Samples rest =
        harbour.listen(5'000, 15'000, listeningTo(sheet, sheet.rows[0], Listening::Of::Difference));
    QVERIFY(differs(rest, {}, 5'000) == 0);
  }

  // Through effects, as far as the brief reaches and with its run-up, from the middle of a row too.
  void rowsAreHeardThroughTheirEffects() {
    Harbour harbour;
    Session& session = harbour.make.session;
    session.tracks[1].inserts = {{"l", "limiter", {}, true, {}, {{"gain", 9}}, {}, {}}};
    session.tracks[0].inserts = {{"c", "compressor", {}, true, {}, {{"threshold", -40}}, {}, {}}};
    session.main.inserts = {{"v", "reverb", {}, true, {}, {{"mix", 30}}, {}, {}}};
    session.briefs[0].heard.runUp.seconds = 0.05;
    session.briefs[0].heard.reach = {ReachStage::Group, "g"};
    harbour.make.save();
    test::renderOf(QString::fromStdString(session.file.string()));
    const auto facts = gatherFacts(session, harbour.cache);
    const Sheet sheet = planSheet(session, *facts, {{0}, std::nullopt});
    for (const std::size_t row : {0u, 1u, 3u}) {
      const Samples difference =
          harbour.listen(9'000, 15'000, listeningTo(sheet, sheet.rows[row], Listening::Of::Difference));
      QCOMPARE(difference[0].size(), std::size_t{6'000});
      QVERIFY(differs(difference, {}, 9'000) == 0);
      const Samples heard =
          harbour.listen(9'000, 15'000, listeningTo(sheet, sheet.rows[row], Listening::Of::Session));
      QVERIFY(differs(heard, {}, 9'000) > 0.01);
    }
  }

  void aFileThatIsNotThereIsSaidToBe() {
    Harbour harbour;
    const auto facts = gatherFacts(harbour.make.session, harbour.cache);
    const Sheet sheet = planSheet(harbour.make.session, *facts, {{0}, std::nullopt});
    harbour.listen(5'000, 15'000, listeningTo(sheet, sheet.rows[0], Listening::Of::File));
    QVERIFY(harbour.problem.find("R_ta.wav") != std::string::npos);
    QVERIFY(harbour.problem.find("Make it first") != std::string::npos);
  }

  void stoppedInTheMiddleAndStartedAgain() {
    Harbour harbour;
    auto session = std::make_shared<Session>(harbour.make.session);
    Player player(session, gatherFacts(*session, harbour.cache), harbour.cache);
    std::vector<float> block(2 * 512);
    for (int i = 0; i < 30; ++i) {
      player.start(i * 100, 20'000);
      player.read(block.data(), 512);
      if (i % 3 == 0) player.stop();
    }
    // Nobody reads, the store is full: it stops all the same, at whatever moment.
    for (int i = 0; i < 60; ++i) {
      player.start(0, 20'000);
      if (i % 2 == 0) QTest::qWait(i % 7);
      player.stop();
    }
    player.start(0, 1000);
    QTRY_VERIFY((player.read(block.data(), 512), player.atEnd()));
  }
};

QTEST_GUILESS_MAIN(ListenTest)
#include "tst_listen.moc"
