#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QtTest>

#include <cmath>
#include <limits>
#include <set>

#include "base/decibels.h"
#include "level_yard.h"

using namespace octaphon;
using namespace octaphon::test;

class LevelsOfFilesTest : public QObject {
  Q_OBJECT
 private slots:
  void eachByItself_data() {
    QTest::addColumn<QString>("kind");
    QTest::addColumn<double>("target");
    QTest::addColumn<QString>("key");
    QTest::newRow("loudness") << "loudness" << -23.0 << "lufs";
    QTest::newRow("peak") << "peak" << -6.0 << "peak_db";
    QTest::newRow("true peak") << "true-peak" << -1.0 << "true_peak_db";
  }
  void eachByItself() {
    QFETCH(QString, kind);
    QFETCH(double, target);
    QFETCH(QString, key);
    Yard yard;
    const auto rows = yard.render(level(qPrintable(kind), target, "file"));
    QCOMPARE(rows.size(), 12u);
    for (const auto& [file, row] : rows) {
      QVERIFY2(std::fabs(row[key].toDouble() - target) < 0.01, qPrintable(file));
      const Judged found = judged(yard.file(file));
      if (kind == "loudness") QVERIFY2(std::fabs(found.lufs - target) <= 0.1, qPrintable(file));
      if (kind == "true-peak") QVERIFY2(std::fabs(found.truePeak - target) <= 0.2, qPrintable(file));
      const Samples sound = readSound(yard.file(file));
      double peak = 0;
      for (const auto& channel : sound)
        for (const double sample : channel) peak = std::max(peak, std::fabs(sample));
      QVERIFY(std::fabs(decibelsOf(peak) - row["peak_db"].toDouble()) < 0.001);
    }
  }

  // Balance of siblings stays, and the reference is at the target.
  void oneGain_data() {
    QTest::addColumn<QString>("per");
    QTest::addColumn<QStringList>("references");  // in file names
    QTest::addColumn<int>("gains");
    QTest::newRow("span") << "span" << QStringList{"Step 01_mix", "Step 02_mix", "Step 03_mix", "Bell_mix"}
                          << 4;
    QTest::newRow("name") << "name" << QStringList{"Step 02_mix", "Bell_mix"} << 2;
    QTest::newRow("brief") << "brief" << QStringList{"Step 02_mix"} << 1;
  }
  void oneGain() {
    QFETCH(QString, per);
    QFETCH(QStringList, references);
    QFETCH(int, gains);
    Yard yard;
    yard.session().briefs[0].files.encoding = Encoding::Float32;
    const auto plain = yard.render({});
    std::map<QString, Samples> before;
    for (const auto& [file, row] : plain) before[file] = readSound(yard.file(file));
    const auto rows = yard.render(level("loudness", -20, qPrintable(per)));
    QCOMPARE(rows.size(), 12u);
    std::set<double> different;
    for (const auto& [file, row] : rows) {
      const double gain = row["gain_db"].toDouble();
      different.insert(gain);
      const Samples after = readSound(yard.file(file));
      for (std::size_t i = 0; i < after[0].size(); i += 997)
        QVERIFY(std::fabs(after[0][i] - before[file][0][i] * gainOf(gain)) < 1e-6);
    }
    QCOMPARE(different.size(), static_cast<std::size_t>(gains));
    for (const QString& name : references)
      QVERIFY2(std::fabs(judged(yard.file(name + ".wav")).lufs + 20) <= 0.1, qPrintable(name));
  }

  // A ceiling holds for every file; where it is kept by gain, for the set.
  void ceiling() {
    Yard yard;
    const auto rows = yard.render(level("loudness", -6, "span"),
                                  {"--set", "ceiling_dbtp=-1", "--set", "encoding=\"pcm24\""});
    for (const auto& [file, row] : rows) {
      QVERIFY(row["true_peak_db"].toDouble() <= -1 + 1e-6);
      QVERIFY(judged(yard.file(file)).truePeak <= -0.8);
    }
    double highest = -144;
    for (const char* name : {"Bell_mix.wav", "Bell_heel.wav", "Bell_gravel.wav"})
      highest = std::max(highest, rows.at(name)["true_peak_db"].toDouble());
    QVERIFY2(std::fabs(highest + 1) < 0.01, qPrintable(QString::number(highest)));
    QCOMPARE(rows.at("Bell_mix.wav")["gain_db"], rows.at("Bell_heel.wav")["gain_db"]);
  }

  // By a limiter: the loudness is reached all the same; layers are kept under the ceiling by gain.
  void ceilingByLimiter() {
    Yard yard;
    const auto rows = yard.render(level("loudness", -12, "file"),
                                  {"--set", "ceiling_dbtp=-1", "--set", "ceiling_by=\"limiter\""});
    for (const auto& [file, row] : rows) {
      const Judged found = judged(yard.file(file));
      QVERIFY2(found.truePeak <= -0.8, qPrintable(file));
      QVERIFY(row["true_peak_db"].toDouble() <= -0.9);
      const bool isMix = file.contains("mix");
      QVERIFY2(!isMix || std::fabs(found.lufs + 12) <= 0.1, qPrintable(file));
      QVERIFY2(!isMix || std::fabs(row["lufs"].toDouble() + 12) <= 0.05, qPrintable(file));
    }
    QCOMPARE(yard.render(level("loudness", -12, "file"),
                         {"--set", "ceiling_dbtp=-1", "--set", "ceiling_by=\"limiter\""})
                 .size(),
             0u);
  }

  // The loudest of a set counts, whether it is made or not; what is known is not measured again.
  void heldBackAndKnown() {
    Yard yard;
    const QString asked = level("loudness", -20, "brief");
    const auto all = yard.render(asked);
    const double gain = all.at("Step 01_heel.wav")["gain_db"].toDouble();
    const QByteArray bytes = bytesOf(yard.file("Step 01_heel.wav"));
    QVERIFY(yard.render(asked).empty());
    QVERIFY(QFile::remove(yard.file("Step 01_heel.wav")));
    const auto again = yard.render(asked);
    QCOMPARE(again.size(), 1u);
    QCOMPARE(again.begin()->second["gain_db"].toDouble(), gain);
    QCOMPARE(bytesOf(yard.file("Step 01_heel.wav")), bytes);

    Yard other;
    for (const auto& [file, row] : all)
      if (file != "Step 01_heel.wav")
        other.session().briefs[0].heldBack.push_back(row["key"].toString().section('/', 1).toStdString());
    const auto alone = other.render(asked);
    QCOMPARE(alone.size(), 1u);
    QCOMPARE(alone.begin()->second["gain_db"].toDouble(), gain);
    QCOMPARE(bytesOf(other.file("Step 01_heel.wav")), bytes);
  }

  // A sibling that gets louder: all of the set are stale, others are not.
  void changedGainIsStale() {
    Yard yard;
    const QString asked = level("loudness", -20, "name");
    yard.render(asked);
    for (const auto& [file, state] : yard.states(asked)) QCOMPARE(state, QString("up-to-date"));
    for (Track& track : yard.session().tracks)
      for (Clip& clip : track.clips.writable())
        if (clip.start == 96000) clip.gainDb = -3;  // of Step 02, the loudest
    const auto made = yard.render(asked);
    QCOMPARE(made.size(), 3u);
    for (const auto& [file, state] : yard.states(asked))
      QCOMPARE(state, file.startsWith("Bell") || file.startsWith("Step 02") ? QString("up-to-date")
                                                                            : QString("stale"));
    yard.render(asked);
    for (const auto& [file, state] : yard.states(asked)) QCOMPARE(state, QString("up-to-date"));
  }

  // The same bytes however the work is dealt out.
  void sameBytes() {
    std::map<QString, QByteArray> first;
    for (const char* jobs : {"1", "2", "8"}) {
      Yard yard;
      yard.render(level("true-peak", -3, "name"), {"--jobs", jobs, "--set", "encoding=\"pcm16\""});
      const auto bytes = contentsOf(yard.file());
      if (first.empty()) first = bytes;
      QCOMPARE(bytes.size(), 12u);
      QVERIFY(bytes == first);
    }
  }

  // What finds no room in memory waits in a file, which leaves no trace.
  void waitsInAFile() {
    std::map<QString, QByteArray> first;
    for (const char* megabytes : {"512", "1", "0"}) {
      Yard yard;
      yard.render(level("loudness", -18, "brief"), {"--spool-memory", megabytes});
      QCOMPARE(QDir(yard.file()).entryList(QDir::AllEntries | QDir::Hidden | QDir::NoDotAndDotDot).size(),
               13);
      const auto bytes = contentsOf(yard.file());
      if (first.empty()) first = bytes;
      QVERIFY(bytes == first);
    }
  }

  // No room there either: those rows fail, each with the reason, and nothing is left of them.
  void noRoomToWait() {
    Yard yard;
    const QString session = yard.save();
    const Ran ran = run(
        "sh", {"-c", QString("ulimit -f 100; exec '%1' render '%2' --out '%3' --json --spool-memory 0 --set "
                             "'level=%4' --set 'encoding=\"pcm16\"'")
                         .arg(OCTAPHON_CLI_PATH, session, yard.file(), level("loudness", -18, "span"))});
    QCOMPARE(ran.exit, 1);
    int failed = 0;
    for (const QByteArray& line : ran.out.split('\n')) {
      const QJsonObject event = QJsonDocument::fromJson(line).object();
      if (event["event"] != "row") continue;
      QCOMPARE(event["result"], QString("failed"));
      QVERIFY2(event["error"].toString().contains("waits for its level"),
               qPrintable(event["error"].toString()));
      ++failed;
    }
    QCOMPARE(failed, 12);
    QVERIFY(filesBelow(yard.file()).isEmpty());
  }

  // One sound is no number, or without end: it fails, and so do those whose gain goes by it; none is silent.
  void noNumber_data() {
    QTest::addColumn<double>("sample");
    QTest::newRow("NaN") << std::nan("");
    QTest::newRow("infinity") << std::numeric_limits<double>::infinity();
  }
  void noNumber() {
    QFETCH(double, sample);
    Yard yard;
    yard.spoil("heel0", sample);
    std::map<QString, QString> errors;
    for (const QJsonObject& event : renderOf(
             yard.save(), {"--out", yard.file(), "--json", "--set", "level=" + level("peak", -3, "name")}, 1))
      if (event["event"] == "row") errors[event["file"].toString()] = event["error"].toString();
    QCOMPARE(errors.size(), 12u);
    for (const auto& [file, error] : errors)
      QVERIFY2(error.isEmpty() == file.startsWith("Bell"), qPrintable(file));
    QCOMPARE(filesBelow(yard.file()).size(), 3);
  }

  // A name that two files would have is no reason not to hear them.
  void faultOfAName() {
    Yard yard;
    yard.session().briefs[0].names.format = "{region}_{source}";
    yard.session().regions[1].name = "Step 01";
    const auto rows = yard.render(level("peak", -3, "brief"), {"--only", "Bell*"});
    QCOMPARE(rows.size(), 3u);
    for (const auto& [file, row] : rows) QCOMPARE(row["result"], QString("written"));
  }

  // A region has a level of its own; nothing that could be judged stays as it is.
  void ownLevelAndSilence() {
    Yard yard;
    yard.session().regions[3].levelling.level.kind = LevelKind::Peak;
    yard.session().regions[3].levelling.level.target = -12;
    yard.session().tracks[0].clips[0].mute = yard.session().tracks[1].clips[0].mute = true;
    yard.session().briefs[0].ends.lengths = Lengths::LinedUp;
    const auto rows = yard.render(level("loudness", -23, "file"));
    QVERIFY(std::fabs(rows.at("Bell_mix.wav")["peak_db"].toDouble() + 12) < 0.01);
    QVERIFY(std::fabs(rows.at("Step 02_mix.wav")["lufs"].toDouble() + 23) < 0.01);
    const QJsonObject silent = rows.at("Step 01_mix.wav");
    QCOMPARE(silent["gain_db"].toDouble(), 0.0);
    QCOMPARE(silent["lufs"].toDouble(), -144.0);
    QCOMPARE(silent["peak_db"].toDouble(), -144.0);
  }
};

QTEST_GUILESS_MAIN(LevelsOfFilesTest)
#include "tst_levels_of_files.moc"
