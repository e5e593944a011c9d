// Runs inside the process: what is reported, pausing and stopping, and the same graph in real time.
#include <QtTest>
#include <set>
#include <thread>

#include "play/player.h"
#include "run/live_sheet.h"
#include "run/runner.h"
#include "support.h"
#include "yard.h"

using namespace octaphon;

namespace {

struct Job {
  QTemporaryDir dir;
  test::SessionMaker make{dir.path()};
  std::unique_ptr<MediaCache> cache;
  RunRequest request;
  RunControl control;
  std::vector<RowOutcome> outcomes;

  explicit Job(int regions = 4, Frame length = 20000) {
    make.medium("n", test::noise(2, length * 2, 1));
    make.track("t").gainDb = -2;
    for (int i = 0; i < regions; ++i) {
      make.region("r" + std::to_string(i), "R " + std::to_string(i), i * 7, length);
      make.clip("t", "n", i * 7, length, i);
    }
    make.brief("B").heard.counts = Counts::EverythingHeard;
  }

  void prepare() {
    make.session.file = make.save().toStdString();
    cache = std::make_unique<MediaCache>((dir.path() + "/cache").toStdString());
    request.session = std::make_shared<Session>(make.session);
    request.facts = gatherFacts(*request.session, *cache);
    PlanRequest plan;
    for (std::size_t i = 0; i < make.session.briefs.size(); ++i) plan.briefs.push_back(i);
    request.sheet = std::make_shared<Sheet>(planWithStates(*request.session, *request.facts, plan));
    request.rows = rowsToMake(*request.sheet, false);
    request.sync = false;
  }

  RunSummary run() {
    return makeFiles(request, *cache, control,
                     [this](const RowOutcome& outcome) { outcomes.push_back(outcome); });
  }
};

/// A run that has begun and is held in its middle; goes on and ends with the object at the latest.
class PausedRun {
 public:
  explicit PausedRun(Job& job) : job_(job), thread_([this] { summary_ = job_.run(); }) {
    while (job_.control.framesDone == 0) std::this_thread::sleep_for(std::chrono::milliseconds(1));
    job_.control.pause(true);
    QTest::qWait(500);  // blocks that were going on end
  }
  ~PausedRun() { finish(); }

  RunSummary finish() {
    job_.control.pause(false);
    if (thread_.joinable()) thread_.join();
    return summary_;
  }

 private:
  Job& job_;
  RunSummary summary_;
  std::thread thread_;
};

}  // namespace

class RunTest : public QObject {
  Q_OBJECT
 private slots:
  // What is in a name's way may come after the plan: who waits for the name of one that cannot go would write
  // over it.
  void whoWaitsForAFileThatStays_data() {
    QTest::addColumn<bool>("isRendered");
    QTest::newRow("renamed") << false;
    QTest::newRow("made") << true;
  }
  void whoWaitsForAFileThatStays() {
    QFETCH(bool, isRendered);
    Job job(2);
    job.make.session.briefs[0].delivery.existing = Existing::Replace;
    job.prepare();
    job.run();
    const QString out = job.dir.filePath("out/");
    const QByteArray first = test::bytesOf(out + "R 0_mix.wav");
    job.make.session.regions[0].name = "New";
    job.make.session.regions[1].name = "R 0";  // its file waits for that of the other
    if (isRendered) job.make.session.regions[1].length -= 10;
    job.prepare();
    QFile theirs(out + "New_mix.wav");
    QVERIFY(theirs.open(QIODevice::WriteOnly));
    theirs.write("theirs");
    theirs.close();
    QCOMPARE(job.run().failed, 2u);
    QCOMPARE(test::bytesOf(out + "New_mix.wav"), QByteArray("theirs"));
    QCOMPARE(test::bytesOf(out + "R 0_mix.wav"), first);
    QVERIFY(theirs.remove());
    job.prepare();
    QCOMPARE(job.run().failed, 0u);
    QCOMPARE(test::soundIn(test::bytesOf(out + "New_mix.wav")), test::soundIn(first));
    QVERIFY(test::bytesOf(out + "R 0_mix.wav") != first);
  }

  void everyRowIsReportedOnce() {
    Job job;
    job.make.brief("Second").delivery.folder = "other";
    job.prepare();
    const RunSummary summary = job.run();
    QCOMPARE(summary.written, 8u);
    QCOMPARE(summary.failed, 0u);
    QVERIFY(std::abs(summary.soundSeconds - 8 * 20000 / 48000.0) < 1e-9);
    std::set<std::size_t> rows;
    for (const RowOutcome& outcome : job.outcomes) {
      QVERIFY(outcome.result.has_value());
      QVERIFY(outcome.level.peak > 0.1f);
      rows.insert(outcome.row);
    }
    QCOMPARE(rows.size(), 8u);
    QCOMPARE(job.control.fraction(), 1.0);
    QCOMPARE(job.control.framesDone.load(), job.control.framesAll.load());
    QCOMPARE(test::filesBelow(job.dir.filePath("other")).size(), 4);
  }

  void aRunWorksOnItsSnapshot() {
    Job job;
    job.prepare();
    job.make.session.tracks[0].mute = true;  // the window went on editing
    QCOMPARE(job.run().written, 4u);
    QVERIFY(!test::readSound(job.dir.filePath("out/R 0_mix.wav"))[0].empty());
  }

  void overFullScaleIsCountedAndSaturated() {
    Job job(1);
    job.make.session.tracks[0].gainDb = 20;
    job.prepare();
    job.run();
    QVERIFY(job.outcomes[0].level.clipped > 100);
    QVERIFY(job.outcomes[0].level.peak > 2);
    double peak = 0;
    const test::Samples written = test::readSound(job.dir.filePath("out/R 0_mix.wav"));
    for (const double s : written[0]) peak = std::max(peak, std::abs(s));
    QCOMPARE(peak, 1.0);
  }

  void soundThatOverflowsFailsItsRow() {
    Job job(1);
    for (int i = 0; i < 20; ++i)
      job.make.group("g" + std::to_string(i), i == 0 ? "" : "g" + std::to_string(i - 1)).gainDb = 48;
    job.make.session.tracks[0].group = "g19";
    job.prepare();
    QCOMPARE(job.run().failed, 1u);
    QCOMPARE(job.outcomes[0].result.error().code, ErrorCode::NotFinite);
    QVERIFY(test::filesBelow(job.dir.filePath("out")).isEmpty());
  }

  void faultsAreNeverMadeHoweverAskedFor() {
    Job job(2);
    job.make.session.briefs[0].names.format = "same";
    job.prepare();
    QVERIFY(job.request.rows.empty());
    job.request.rows = {0, 1};
    QCOMPARE(job.run().failed, 2u);
    QVERIFY(test::filesBelow(job.dir.filePath("out")).isEmpty());
  }

  void pausedNothingMoves() {
    Job job(30, 400000);
    job.prepare();
    PausedRun run(job);
    const Frame before = job.control.framesDone;
    QTest::qWait(150);
    QCOMPARE(job.control.framesDone.load(), before);
    QVERIFY(before < job.control.framesAll);
    QCOMPARE(run.finish().written, 30u);
  }

  // Read from the open file, so nobody opens it again: who looks when the pass ends finds it. From the start
  // of the session as well, where all spans share one sweep.
  void aMediumThatChangesUnderAPass_data() {
    QTest::addColumn<bool>("sweep");
    QTest::newRow("a pass") << false;
    QTest::newRow("a sweep") << true;
  }
  void aMediumThatChangesUnderAPass() {
    QFETCH(bool, sweep);
    Job job(sweep ? 3 : 1, 3'000'000);
    if (sweep) {
      job.make.session.tracks[0].inserts = {{"e", "echo", {}, true, {}, {}, {}, {}}};
      job.make.session.briefs[0].heard.runUp.fromStart = true;
    }
    job.prepare();
    job.request.jobs = 1;
    PausedRun run(job);
    QFile medium(job.dir.filePath("media/n.wav"));
    QVERIFY(medium.open(QIODevice::ReadWrite) && medium.seek(medium.size() - 12));
    medium.write("y");
    medium.close();
    QCOMPARE(run.finish().written, 0u);
    QCOMPARE(job.outcomes.size(), sweep ? 3u : 1u);
    for (const RowOutcome& outcome : job.outcomes)
      QCOMPARE(outcome.result.error().code, ErrorCode::MediumChanged);
    QVERIFY(test::filesBelow(job.dir.filePath("out")).isEmpty());
  }

  void aFolderThatVanishesFailsItsRowsWithAReason() {
    Job job(30, 400000);
    job.prepare();
    PausedRun run(job);
    QVERIFY(QDir(job.dir.filePath("out")).removeRecursively());
    const RunSummary summary = run.finish();
    QCOMPARE(summary.written + summary.failed, 30u);
    QVERIFY(summary.failed > 0);
    for (const RowOutcome& outcome : job.outcomes)
      if (!outcome.result) QVERIFY(outcome.result.error().describe().find("out") != std::string::npos);
    QVERIFY(test::filesBelow(job.dir.filePath("out")).isEmpty());
  }

  // --- where each row is

  /// How many of the run's rows are where.
  static std::map<RowStage, int> stagesOf(const Job& job) {
    std::map<RowStage, int> stages;
    for (const std::size_t row : job.request.rows) ++stages[job.control.stages.of(row)];
    return stages;
  }

  void someWaitWhileOthersPlay() {
    Job job(30, 400000);
    job.prepare();
    job.request.rows.pop_back();
    job.request.jobs = 2;
    PausedRun run(job);
    const auto stages = stagesOf(job);
    QVERIFY(stages.contains(RowStage::Waiting) && stages.contains(RowStage::Playing));
    QVERIFY(!stages.contains(RowStage::Failed) && !stages.contains(RowStage::None));
    QCOMPARE(job.control.stages.of(29), RowStage::None);  // no row of the run
    job.control.cancel();
    run.finish();
    for (const auto& [stage, count] : stagesOf(job))
      QVERIFY(stage == RowStage::None || stage == RowStage::Done);
  }

  // Before the first of a set has its gain, all of it has been heard.
  void setsAreMeasuredBeforeTheyAreWritten() {
    Job job(6);
    job.make.session.briefs[0].levelling.level = {LevelKind::Loudness, -30, LevelPer::Brief};
    job.prepare();
    job.request.jobs = 1;
    std::optional<std::map<RowStage, int>> atFirst;
    makeFiles(job.request, *job.cache, job.control, [&](const RowOutcome& outcome) {
      QVERIFY(outcome.result.has_value());
      QCOMPARE(job.control.stages.of(outcome.row), RowStage::Done);
      if (!atFirst) atFirst = stagesOf(job);
    });
    QVERIFY(atFirst && !atFirst->contains(RowStage::Waiting) && !atFirst->contains(RowStage::Playing));
    QCOMPARE(stagesOf(job), (std::map<RowStage, int>{{RowStage::Done, 6}}));
  }

  void whatFailsSaysSo() {
    Job job(4);
    job.make.session.briefs[0].names.separator = "/";
    job.make.session.regions[2].name = "A/R";
    job.prepare();
    QFile inTheWay(job.dir.filePath("out/A"));
    QVERIFY(QDir(job.dir.path()).mkpath("out") && inTheWay.open(QIODevice::WriteOnly));
    inTheWay.close();
    QCOMPARE(job.run().failed, 1u);
    QCOMPARE(stagesOf(job), (std::map<RowStage, int>{{RowStage::Done, 3}, {RowStage::Failed, 1}}));
    QCOMPARE(job.control.stages.of(job.request.rows[2]), RowStage::Failed);
  }

  void stoppedBeforeItBegan() {
    Job job;
    job.prepare();
    job.control.cancel();
    const RunSummary summary = job.run();
    QVERIFY(summary.cancelled);
    QCOMPARE(summary.written, 0u);
    QVERIFY(test::filesBelow(job.dir.filePath("out")).isEmpty());
  }

  void passesLargerThanTheOpenFilesAllowAreSplit() {
    Job job(1);
    for (int i = 0; i < 70; ++i) {
      Brief& brief = job.make.brief("More " + std::to_string(i));
      brief.names.format = "{brief}";
      brief.heard.counts = Counts::EverythingHeard;
    }
    job.prepare();
    const QString script = QString("ulimit -n 96; exec \"$0\" render \"$1\" --json --jobs 1");
    test::cli({"info", job.dir.filePath("test.octaphon")});
    const auto ran = test::run("bash", {"-c", script, OCTAPHON_CLI_PATH, job.dir.filePath("test.octaphon")});
    QCOMPARE(ran.exit, 0);
    QCOMPARE(test::filesBelow(job.dir.filePath("out")).size(), 71);
  }

  // What one hears is what is written: the mix in real time against the same mix as a file in 32 float.
  void playingIsTheSameSound() {
    Job job(1, 30000);
    job.make.session.briefs[0].files.encoding = Encoding::Float32;
    job.prepare();
    job.run();
    const auto file = test::readSound(job.dir.filePath("out/R 0_mix.wav"));
    Player player(job.request.session, job.request.facts, *job.cache);
    player.start(0);
    std::vector<float> heard;
    QVERIFY(QTest::qWaitFor(
        [&] {
          std::vector<float> block(2 * 512);
          const Frame before = player.position();
          player.read(block.data(), 512);
          heard.insert(heard.end(), block.begin(),
                       block.begin() + static_cast<std::ptrdiff_t>(2 * (player.position() - before)));
          return player.atEnd();
        },
        20000));
    QCOMPARE(heard.size(), 60000u);
    for (std::size_t i = 0; i < 30000; ++i) QCOMPARE(static_cast<double>(heard[2 * i + 1]), file[1][i]);
    std::vector<float> after(64, 1.0f);
    player.read(after.data(), 32);
    QCOMPARE(after[0], 0.0f);
    player.start(20000, 20100);
    QTRY_VERIFY([&] {
      player.read(after.data(), 32);
      return player.atEnd();
    }());
    QCOMPARE(player.position(), Frame{20100});
  }
};

QTEST_GUILESS_MAIN(RunTest)
#include "tst_run.moc"
