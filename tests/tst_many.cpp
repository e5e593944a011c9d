// One delivery by many processes, and what all commands print for programs.
#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <QtTest>

#include "yard.h"

using namespace octaphon;
using test::contentsOf;
using test::receiptOf;
using test::Yard;

namespace {

/// Regions of which each has sound, so that there are passes to share.
struct Large : Yard {
  explicit Large(int regions = 12, bool ringsOut = false) {
    std::erase_if(session.briefs, [](const Brief& brief) { return brief.id == "b2"; });
    for (int i = 0; i < regions; ++i) {
      const std::string name = "L" + std::to_string(i);
      make.region("r" + name, name, 20000 + i * 4000, 4000);
      for (const char* on : {"Gear", "Low", "High"}) make.clip(on, "a", 20000 + i * 4000 + i, 3000, i * 50);
    }
    brief().names.format = "{edition.date}_{n:2}_{region}_{source}";
    if (!ringsOut) return;
    brief().ends.tail = Tail::RingsOut;
    brief().ends.limitSeconds = 2;
  }
};

QStringList arguments(const QString& session, const QString& out, const QString& share,
                      const QStringList& more = {}) {
  return QStringList{"render", session, "--out", out, "--shard", share} + more;
}

QStringList writtenBy(const QByteArray& out) {
  QStringList written;
  for (const QByteArray& line : out.split('\n')) {
    const QJsonObject event = QJsonDocument::fromJson(line).object();
    if (event["event"] == "row" && event["result"] == "written") written << event["key"].toString();
  }
  return written;
}

}  // namespace

class ManyTest : public QObject {
  Q_OBJECT
 private slots:
  // --- shares

  void sharesAtOnceAreOneRun() {
    Large yard;
    const QString session = yard.make.save();
    QTemporaryDir one, many;
    QCOMPARE(test::cli({"render", session, "--out", one.path()}).exit, 0);
    std::vector<std::unique_ptr<QProcess>> shares;
    for (const char* share : {"1/3", "2/3", "3/3"}) {
      shares.push_back(std::make_unique<QProcess>());
      shares.back()->start(OCTAPHON_CLI_PATH, arguments(session, many.path(), share));
    }
    QStringList written;
    for (const auto& share : shares) {
      QVERIFY(share->waitForFinished(120000));
      const QByteArray out = share->readAllStandardOutput();
      QVERIFY2(share->exitCode() == 0, (share->readAllStandardError() + out.right(2000)).constData());
      const QStringList mine = writtenBy(out);
      QVERIFY(!mine.empty());
      written += mine;
    }
    QCOMPARE(QSet<QString>(written.begin(), written.end()).size(), written.size());
    QVERIFY(QFile::exists(many.path() + "/octaphon-receipt.2-of-3.jsonl"));
    // Before they are joined, all is known.
    QCOMPARE(test::cli({"status", session, "--out", many.path()}).exit, 0);
    QCOMPARE(test::cli({"render", session, "--out", many.path(), "--merge"}).exit, 0);
    QVERIFY(contentsOf(many.path()) == contentsOf(one.path()));
    QCOMPARE(receiptOf(many.path()), receiptOf(one.path()));
  }

  void sharesAreDisjointAndComplete() {
    Large yard(5);
    const QString session = yard.make.save();
    for (const int of : {1, 2, 5, 40}) {
      QTemporaryDir out;
      QStringList written;
      for (int i = 1; i <= of; ++i) {
        const auto ran = test::cli(arguments(session, out.path(), QString("%1/%2").arg(i).arg(of)));
        QVERIFY2(ran.exit == 0, ran.err.constData());
        written += writtenBy(ran.out);
      }
      QCOMPARE(QSet<QString>(written.begin(), written.end()).size(), written.size());
      QCOMPARE(test::cli({"status", session, "--out", out.path()}).exit, 0);
      // A run of its own joins what they wrote, and finds nothing to do.
      QVERIFY(writtenBy(test::cli({"render", session, "--out", out.path()}).out).empty());
      QCOMPARE(test::filesBelow(out.path()).filter("octaphon-receipt").size(), 0);
    }
  }

  // Dates in names are the first share's.
  void aShareOnTheNextDay() {
    Large yard(4);
    const QString session = yard.make.save();
    QTemporaryDir out;
    QCOMPARE(test::cli(arguments(session, out.path(), "1/2")).exit, 0);
    const auto second = test::run(
        "faketime", QStringList{"-f", "+1d", OCTAPHON_CLI_PATH} + arguments(session, out.path(), "2/2"));
    QVERIFY2(second.exit == 0, second.err.constData());
    QStringList dates;
    for (const QString& file : test::filesBelow(out.path()))
      if (file.endsWith(".wav")) dates << file.left(10);
    QCOMPARE(QSet<QString>(dates.begin(), dates.end()).size(), 1);
    QCOMPARE(test::cli({"status", session, "--out", out.path()}).exit, 0);
  }

  void tailsAreMeasuredBefore() {
    Large yard(6, true);
    const QString session = yard.make.save();
    QTemporaryDir one, many;
    const auto refused = test::cli(arguments(session, many.path(), "1/2", {"--text"}));
    QCOMPARE(refused.exit, 1);
    QVERIFY2(refused.err.contains("octaphon-cli measure"), refused.err.constData());
    QCOMPARE(test::filesBelow(many.path()).filter(".wav").size(), 0);
    QStringList measured;
    for (const char* share : {"1/2", "2/2"}) {
      const QString file = yard.dir.filePath(QString("tails%1").arg(measured.size() / 2));
      const auto ran = test::cli({"measure", session, "--shard", share, "--write", file, "--json"});
      QVERIFY2(ran.exit == 0, ran.err.constData());
      measured << "--measured" << file;
    }
    for (const char* share : {"1/2", "2/2"}) {
      const auto ran = test::cli(arguments(session, many.path(), share, measured));
      QVERIFY2(ran.exit == 0, (ran.err + ran.out).constData());
    }
    QCOMPARE(test::cli({"render", session, "--out", many.path(), "--merge"}).exit, 0);
    QCOMPARE(test::cli({"render", session, "--out", one.path()}).exit, 0);
    QVERIFY(contentsOf(many.path()) == contentsOf(one.path()));
    QCOMPARE(receiptOf(many.path()), receiptOf(one.path()));
    // Once the receipt knows them, shares need nothing more.
    QCOMPARE(test::cli(arguments(session, many.path(), "1/2")).exit, 0);
  }

  void aRunWaitsForShares() {
    Large yard(4);
    const QString session = yard.make.save();
    QTemporaryDir out;
    QCOMPARE(test::cli(arguments(session, out.path(), "1/2")).exit, 0);
    const QString journal = out.path() + "/octaphon-receipt.1-of-2.jsonl";
    const int held = ::open(journal.toUtf8().constData(), O_RDWR | O_CLOEXEC);  // as one that is running
    QCOMPARE(::flock(held, LOCK_EX), 0);
    const auto ran = test::cli({"render", session, "--out", out.path(), "--text"});
    QCOMPARE(ran.exit, 1);
    QVERIFY2(ran.err.contains("another run"), ran.err.constData());
    QCOMPARE(test::cli(arguments(session, out.path(), "1/2", {"--all"})).exit, 1);  // it is at work
    QCOMPARE(test::cli(arguments(session, out.path(), "2/2")).exit, 0);
    ::close(held);
    QCOMPARE(test::cli({"render", session, "--out", out.path()}).exit, 0);
  }

  void aKilledShareGoesOn() {
    Large yard(30);
    const QString session = yard.make.save();
    QTemporaryDir one, many;
    QCOMPARE(test::cli({"render", session, "--out", one.path()}).exit, 0);
    for (int moment = 0; moment < 10; ++moment) {
      QProcess process;
      process.start(OCTAPHON_CLI_PATH, arguments(session, many.path(), "1/2"));
      QVERIFY(process.waitForStarted());
      process.waitForFinished(10 + moment * 9);
      process.kill();
      process.waitForFinished();
    }
    for (const char* share : {"2/2", "1/2"})
      QCOMPARE(test::cli(arguments(session, many.path(), share)).exit, 0);
    QCOMPARE(test::cli({"render", session, "--out", many.path(), "--merge"}).exit, 0);
    QVERIFY(contentsOf(many.path()) == contentsOf(one.path()));
    QCOMPARE(receiptOf(many.path()), receiptOf(one.path()));
  }

  void namesGoRoundOnce() {
    Large yard(4);
    QTemporaryDir out;
    QCOMPARE(test::cli({"render", yard.make.save(), "--out", out.path()}).exit, 0);
    std::swap(yard.region("rL0").name, yard.region("rL1").name);
    std::swap(yard.region("rL1").name, yard.region("rL2").name);
    const QString session = yard.make.save();
    std::vector<std::unique_ptr<QProcess>> shares;
    for (const char* share : {"1/2", "2/2"}) {
      shares.push_back(std::make_unique<QProcess>());
      shares.back()->start(OCTAPHON_CLI_PATH, arguments(session, out.path(), share));
    }
    for (const auto& share : shares) {
      QVERIFY(share->waitForFinished(120000));
      QVERIFY2(share->exitCode() == 0, share->readAllStandardError().constData());
      QVERIFY(writtenBy(share->readAllStandardOutput()).empty());
    }
    QCOMPARE(test::cli({"status", session, "--out", out.path()}).exit, 0);
  }

  void anEditionForAllShares() {
    Large yard(4);
    yard.brief().names.format = "v{edition.version}_{region}_{source}";
    const QString session = yard.make.save();
    QTemporaryDir out;
    QCOMPARE(test::cli({"render", session, "--out", out.path()}).exit, 0);
    QCOMPARE(test::cli(arguments(session, out.path(), "1/2", {"--new-edition"})).exit, 2);
    for (const char* share : {"1/2", "2/2"})
      QCOMPARE(test::cli(arguments(session, out.path(), share, {"--new-edition", "2"})).exit, 0);
    QCOMPARE(test::filesBelow(out.path()).filter(QRegularExpression("^v2_.*wav$")).size(),
             test::filesBelow(out.path()).filter(QRegularExpression("^v1_.*wav$")).size());
    QCOMPARE(test::cli({"status", session, "--out", out.path()}).exit, 0);
  }

  void wrongShares() {
    Large yard(1);
    const QString session = yard.make.save();
    for (const char* share : {"0/3", "4/3", "1", "1/0", "a/b", "-1/3", "1/3x", "1/99999"})
      QCOMPARE(test::cli({"render", session, "--shard", share}).exit, 2);
    QCOMPARE(test::cli({"render", session, "--measured", yard.dir.filePath("none")}).exit, 2);
    QFile wrong(yard.dir.filePath("wrong"));
    QVERIFY(wrong.open(QIODevice::WriteOnly));
    wrong.write(
        "{\"format\":\"octaphon-measured\",\"version\":\"1.0\"}\n{\"kind\":\"measured\",\"tail\":-5}\n");
    wrong.close();
    QCOMPARE(test::cli({"render", session, "--measured", wrong.fileName()}).exit, 2);
    QCOMPARE(test::cli({"measure", session}).exit, 2);
  }

  // --- briefs

  void briefsGoToAnotherSession() {
    Yard yard, other;
    yard.brief().what.tracks = Selection(false, {"Gear", "Chain"});
    const QString file = yard.dir.filePath("game.octaphon-brief");
    QCOMPARE(test::cli({"briefs", yard.make.save(), "--brief", "Game", "--export", file}).exit, 0);
    std::erase_if(other.session.tracks, [](const Track& track) { return track.id == "Chain"; });
    other.session.briefs[0].name = "Other";
    const QString session = other.make.save();
    auto ran = test::cli({"briefs", session, "--apply", file, "--json"});
    QVERIFY2(ran.exit == 0, ran.err.constData());
    QJsonObject told = QJsonDocument::fromJson(ran.out).object();
    QCOMPARE(told["result"].toString(), QString("added"));
    QCOMPARE(told["remarks"].toArray()[0].toObject()["code"].toString(), QString("unknown-source"));
    QCOMPARE(test::planOf(session)["briefs"].toArray().size(), 3);
    ran = test::cli({"briefs", session, "--apply", file, "--json"});
    QCOMPARE(QJsonDocument::fromJson(ran.out).object()["result"].toString(), QString("replaced"));
    QCOMPARE(test::planOf(session)["briefs"].toArray().size(), 3);
    QVERIFY(test::cli({"briefs", session, "--list"}).out.contains("Print "));
    QCOMPARE(test::cli({"briefs", session, "--brief", "None", "--list"}).exit, 2);
    QCOMPARE(test::cli({"briefs", session}).exit, 2);
    const QByteArray before = test::bytesOf(session);
    for (const char* wrong :
         {"{}", "{\"format\":\"octaphon-brief\",\"version\":\"2.0\"}", "[",
          "{\"format\":\"octaphon-brief\",\"version\":\"1.0\",\"briefs\":[{\"id\":\"b\",\"name\":"
          "\"B\",\"tail\":\"long\"}]}"}) {
      QFile damaged(yard.dir.filePath("damaged"));
      QVERIFY(damaged.open(QIODevice::WriteOnly));
      damaged.write(wrong);
      damaged.close();
      QCOMPARE(test::cli({"briefs", session, "--apply", damaged.fileName()}).exit, 1);
    }
    QCOMPARE(test::bytesOf(session), before);
  }

  // --- what programs read

  void outputsFitTheirSchemas() {
    Large yard(2, true);
    yard.region("rA").loop.way = LoopWay::Fold;
    yard.session.media.push_back({"gone", "media/gone.wav"});
    const QString session = yard.make.save();
    const auto fits = [&](const QString& schema, const QStringList& arguments, bool isError = false) {
      const QString file = yard.dir.filePath("printed");
      QFile printed(file);
      QVERIFY(printed.open(QIODevice::WriteOnly));
      const QByteArray out = test::cli(arguments).out;
      QVERIFY2(out.contains("\"event\":\"error\"") == isError, out.constData());  // its schema fits always
      printed.write(out);
      printed.close();
      const auto ran =
          test::run("/usr/bin/python3", {OCTAPHON_SOURCE "/tests/check_json.py",
                                         OCTAPHON_SOURCE "/docs/schemas/" + schema + ".schema.json", file});
      QVERIFY2(ran.exit == 0, ran.err.constData());
    };
    fits("info", {"info", session, "--json"});
    fits("media", {"media", session, "--json"});
    fits("names", {"names", session, "--template", "{region}{n}", "--json"});
    fits("plan", {"plan", session, "--json"});
    fits("status", {"status", session, "--json"});
    fits("inspect", {"inspect", yard.dir.filePath("media/a.wav"), "--json"});
    fits("measure", {"measure", session, "--write", yard.dir.filePath("m"), "--json"});
    fits("render", {"render", session});
    yard.region("rB").name = "New";
    yard.track("Gear").gainDb = -1;
    yard.session.regions.eraseIf([](const Region& region) { return region.id == "rC"; });
    yard.make.save();
    fits("plan", {"plan", session, "--json"});
    fits("render", {"render", session, "--progress"});
    fits("status", {"status", session, "--json"});
    fits("check", {"check", session, "--json"});
    fits("check", {"check", session, "--figures", "--before", yard.dir.filePath("out"), "--json"});
    fits("render", {"render", session, "--all", "--check"});
    fits("locate", {"locate", yard.dir.filePath("media/a.wav"), "--json"});
    fits("check", {"check", yard.dir.filePath("media"), "--json"}, true);
    fits("clean", {"clean", session, "--dry-run", "--json"});
    fits("clean", {"clean", session, "--delete", "--json"});
    fits("briefs", {"briefs", session, "--list", "--json"});
    fits("briefs", {"briefs", session, "--export", yard.dir.filePath("b"), "--json"});
    fits("briefs", {"briefs", session, "--apply", yard.dir.filePath("b"), "--json"});
    fits("seam", {"seam", session, "--region", "A", "--json"});
    fits("plan", {"plan", yard.dir.filePath("none"), "--json"}, true);
    fits("render", {"render", session, "--brief", "None"}, true);
  }
};

QTEST_GUILESS_MAIN(ManyTest)
#include "tst_many.moc"
