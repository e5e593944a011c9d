#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QtTest>

#include <cmath>
#include <fstream>

#include "base/decibels.h"
#include "level_yard.h"

using namespace octaphon;
using namespace octaphon::test;

namespace {

QString textOf(const QJsonObject& row, const QString& code) {
  for (const auto& remark : row["remarks"].toArray())
    if (remark.toObject()["code"] == code) return remark.toObject()["text"].toString();
  return {};
}

const QStringList kLimited{"--set", "ceiling_dbtp=-1", "--set", "ceiling_by=\"limiter\""};

}  // namespace

class LevelRemarksTest : public QObject {
  Q_OBJECT
 private slots:
  // What cannot be judged is left as it is, is said, and is still said when its files are there.
  void notJudged_data() {
    QTest::addColumn<QString>("kind");
    QTest::addColumn<Frame>("frames");
    QTest::addColumn<double>("gainDb");
    QTest::addColumn<bool>("isJudged");
    QTest::newRow("under 400 ms") << "loudness" << Frame{19100} << 0.0 << false;
    QTest::newRow("400 ms") << "loudness" << Frame{19200} << 0.0 << true;
    QTest::newRow("gated") << "loudness" << Frame{48000} << -80.0 << false;
    QTest::newRow("silence") << "true-peak" << Frame{48000} << kSilenceDb << false;
    QTest::newRow("a peak of a short one") << "peak" << Frame{19100} << 0.0 << true;
  }
  void notJudged() {
    QFETCH(QString, kind);
    QFETCH(Frame, frames);
    QFETCH(double, gainDb);
    QFETCH(bool, isJudged);
    Yard yard;
    yard.session().briefs[0].ends.lengths = Lengths::LinedUp;
    yard.session().briefs[0].ends.tail = Tail::None;
    Region& bell = yard.session().regions[3];
    bell.length = frames;
    for (Track& track : yard.session().tracks)
      for (Clip& clip : track.clips.writable())
        if (clip.start == bell.start) clip.gainDb = gainDb, clip.length = frames;
    const QString asked = level(qPrintable(kind), -20, "span");
    const QJsonObject made = yard.render(asked).at("Bell_mix.wav");
    QCOMPARE(codesOf(made).contains("level-not-judged"), !isJudged);
    if (!isJudged) QCOMPARE(made["gain_db"].toDouble(), 0.0);
    for (const auto& row :
         planOf(yard.save(), {"--out", yard.file(), "--set", "level=" + asked})["rows"].toArray())
      if (row.toObject()["file"] == "Bell_mix.wav")
        QCOMPARE(codesOf(row.toObject()).contains("level-not-judged"), !isJudged);
  }

  // A ceiling by gain keeps a set under its level: by how much is said, and is right.
  void ceilingKeepsItDown() {
    Yard yard;
    const auto rows = yard.render(level("loudness", -6, "span"), {"--set", "ceiling_dbtp=-3"});
    for (const auto& [file, row] : rows)
      QVERIFY2(codesOf(row).contains("level-not-reached"), qPrintable(file));
    const QJsonObject mix = rows.at("Bell_mix.wav");
    const double shortDb = -6 - mix["lufs"].toDouble();
    QVERIFY2(textOf(mix, "level-not-reached").contains(QString::fromStdString(decibelText(shortDb)) + " dB"),
             qPrintable(textOf(mix, "level-not-reached")));
    Yard reached;
    for (const auto& [file, row] :
         reached.render(level("loudness", -30, "span"), {"--set", "ceiling_dbtp=-3"}))
      QVERIFY2(!codesOf(row).contains("level-not-reached"), qPrintable(file));
  }

  // What a limiter leaves is said where it is not what was asked for, with what was reached.
  void limiterLeaves() {
    Yard yard;
    const auto near = yard.render(level("loudness", -10, "file"), kLimited);
    QVERIFY(!codesOf(near.at("Bell_mix.wav")).contains("level-not-reached"));
    QVERIFY(std::fabs(near.at("Bell_mix.wav")["lufs"].toDouble() + 10) <= 0.1);
    Yard hard;
    const QJsonObject far = hard.render(level("loudness", 0, "file"), kLimited).at("Bell_mix.wav");
    const QString told = textOf(far, "level-not-reached");
    QVERIFY2(told.contains(QString::fromStdString(decibelText(far["lufs"].toDouble())) + " LUFS"),
             qPrintable(told));
    QVERIFY(std::fabs(judged(hard.file("Bell_mix.wav")).lufs - far["lufs"].toDouble()) <= 0.1);
  }

  // A lossy file is judged as it decodes, and how far it is over its ceiling is said.
  void lossyIsDecoded_data() {
    QTest::addColumn<QString>("encoding");
    for (const char* encoding : {"mp3", "vorbis", "opus"}) QTest::newRow(encoding) << encoding;
  }
  void lossyIsDecoded() {
    QFETCH(QString, encoding);
    Yard yard;
    const QStringList more{"--set", "encoding=\"" + encoding + "\""};
    bool isAnyOver = false;
    for (const auto& [file, row] : yard.render(level("true-peak", -1, "file"), more)) {
      const double truePeak = row["true_peak_db"].toDouble();
      QVERIFY2(std::fabs(judged(yard.file(file)).truePeak - truePeak) <= 0.2,
               qPrintable(file + QString(" %1 %2").arg(truePeak).arg(judged(yard.file(file)).truePeak)));
      const bool isOver = truePeak > -1 + 0.1;
      QCOMPARE(codesOf(row).contains("over-ceiling"), isOver);
      isAnyOver = isAnyOver || isOver;
    }
    QVERIFY(isAnyOver || encoding == "mp3");  // at its usual bit rate it keeps noise that is so dull
  }

  // A file in another form of its sound is judged by itself: two channels that are alike add up in one.
  void otherFormsAreJudged() {
    Yard yard;
    Output low;
    low.encoding = Encoding::Float32;
    low.suffix = "_low";
    low.rate = 22050;
    low.channels = OutputChannels::Mono;
    Output whole;
    whole.encoding = Encoding::Float32;
    yard.session().briefs[0].files.outputs = {whole, low};
    const auto rows = yard.render(level("true-peak", -1, "file"));
    int lows = 0;
    for (const auto& [file, row] : rows) {
      if (!file.contains("low")) continue;
      ++lows;
      QVERIFY2(std::fabs(judged(yard.file(file)).truePeak - row["true_peak_db"].toDouble()) <= 0.2,
               qPrintable(file));
    }
    QCOMPARE(lows, 12);
  }

  // A gain that moved: files that stayed are told of, and are stale.
  void movedGain() {
    Yard yard;
    const QString asked = level("loudness", -20, "name");
    yard.render(asked);
    for (Track& track : yard.session().tracks)
      for (Clip& clip : track.clips.writable())
        if (clip.start == 96000) clip.gainDb = -3;  // of Step 02, the loudest
    QStringList told;
    QString words;
    for (const QJsonObject& event :
         renderOf(yard.save(), {"--out", yard.file(), "--json", "--set", "level=" + asked})) {
      told << event["event"].toString() + event["code"].toString();
      if (event["code"] == "gain-moved") words = event["text"].toString();
    }
    QCOMPARE(told.count("row"), 3);
    QCOMPARE(told.count("remarkgain-moved"), 1);
    QVERIFY2(words.contains("5 more files"), qPrintable(words));
    int stale = 0;
    for (const auto& [file, state] : yard.states(asked)) stale += state == "stale" ? 1 : 0;
    QCOMPARE(stale, 6);
  }

  // Measured by shares first, then made by shares: the bytes of one run.
  void sharesThatMeasure_data() {
    QTest::addColumn<bool>("hasTails");
    QTest::newRow("levels") << false;
    QTest::newRow("levels, and tails of other files too") << true;
  }
  void sharesThatMeasure() {
    QFETCH(bool, hasTails);
    const QString asked = level("loudness", -20, "brief");
    Yard one, many;
    for (Yard* yard : {&one, &many}) {
      if (!hasTails) continue;
      Session& session = yard->session();
      session.briefs[0].ends.tail = Tail::RingsOut;
      session.briefs.push_back(session.briefs[0]);
      session.briefs[1].id = "other";
      session.briefs[1].name = "Other";
      session.briefs[1].names.format = "other_{source}_{region}";
      session.briefs[1].levelling.ceilingDb.reset();
      session.regions[3].levelling.level.kind = LevelKind::None;
    }
    one.render(asked);
    const QString session = many.save();
    QStringList measured;
    for (const char* share : {"1/3", "2/3", "3/3"}) {
      const QString file =
          QFileInfo(session).dir().filePath("measured" + QString::number(measured.size() / 2));
      const Ran ran = cli({"measure", session, "--out", many.file(), "--shard", share, "--write", file,
                           "--json", "--set", "level=" + asked});
      QVERIFY2(ran.exit == 0, ran.err.constData());
      measured << "--measured" << file;
    }
    for (const char* share : {"1/3", "2/3", "3/3"}) {
      const Ran ran = cli(
          QStringList{"render", session, "--out", many.file(), "--shard", share, "--set", "level=" + asked} +
          measured);
      QVERIFY2(ran.exit == 0, (ran.err + ran.out).constData());
    }
    QCOMPARE(cli({"render", session, "--out", many.file(), "--merge", "--set", "level=" + asked}).exit, 0);
    QCOMPARE(contentsOf(many.file()).size(), hasTails ? 24u : 12u);
    QVERIFY(contentsOf(many.file()) == contentsOf(one.file()));
    QCOMPARE(receiptOf(many.file()), receiptOf(one.file()));
    for (const auto& [file, state] : many.states(asked)) QCOMPARE(state, QString("up-to-date"));
  }

  // Killed while sound waits: what is left is whole files alone, and the next run makes the rest, the same.
  void killedWhileItWaits() {
    const QString asked = level("loudness", -20, "brief");
    Yard whole;
    whole.render(asked);
    const auto wanted = contentsOf(whole.file());
    Yard yard;
    const QString session = yard.save();
    const QStringList arguments{"render", session,          "--out",          yard.file(), "--json",
                                "--set",  "level=" + asked, "--spool-memory", "0"};
    for (int turn = 0; turn < 12; ++turn) {
      QProcess process;
      process.start(OCTAPHON_CLI_PATH, arguments);
      QVERIFY(process.waitForStarted());
      process.waitForFinished(10 + 15 * turn);
      process.kill();
      process.waitForFinished();
      for (const auto& [file, bytes] : contentsOf(yard.file())) {
        if (!file.endsWith(".wav")) continue;
        QVERIFY2(wanted.contains(file), qPrintable(file));
        QVERIFY(bytes == wanted.at(file));
      }
    }
    yard.render(asked);
    QVERIFY(contentsOf(yard.file()) == wanted);
    // Nothing that waited has left a trace.
    QCOMPARE(QDir(yard.file()).entryList(QDir::AllEntries | QDir::Hidden | QDir::NoDotAndDotDot).size(), 13);
  }

  // A thousand rows wait at once: memory stays within the budget and what the program takes itself.
  void thousandRowsAtOnce() {
    QTemporaryDir dir;
    QDir(dir.path()).mkpath("media");
    SessionMaker maker(dir.path());
    maker.medium("m", dull(5, 0.3, 48000));
    constexpr int kRows = 1000;
    for (int i = 0; i < kRows; ++i) {
      const std::string id = "t" + std::to_string(i);
      maker.track(id).gainDb = -0.01 * i;
      maker.clip(id, "m", 0, 48000);
    }
    maker.region("r", "R", 0, 48000);
    Brief& brief = maker.brief("B");
    brief.where.regions = {true, {}};
    brief.what.tracks = {true, {}};
    brief.what.mix = false;
    brief.files.encoding = Encoding::Pcm16;
    const QString session = maker.save();
    const auto peakMegabytes = [&](const QString& out, const QStringList& more) {
      const Ran ran = run("/usr/bin/time", QStringList{"-f", "%M", OCTAPHON_CLI_PATH, "render", session,
                                                       "--out", dir.filePath(out), "--jobs", "2"} +
                                               more);
      return ran.exit == 0 ? ran.err.trimmed().split('\n').last().toDouble() / 1024 : -1;
    };
    const QStringList levelled{"--set", "level=" + level("loudness", -20, "brief"), "--spool-memory", "64"};
    const double plain = peakMegabytes("plain", {}), waiting = peakMegabytes("levelled", levelled);
    QCOMPARE(filesBelow(dir.filePath("levelled")).size(), kRows);
    QVERIFY(plain > 0 && waiting > 0);
    // 384 MB of sound wait.
    QVERIFY2(waiting < plain + 64 + 64, qPrintable(QString("%1 %2").arg(plain).arg(waiting)));
  }
};

QTEST_GUILESS_MAIN(LevelRemarksTest)
#include "tst_level_remarks.moc"
