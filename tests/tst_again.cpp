// Delivering again: the same names, just what changed, nothing of others touched.
#include <fcntl.h>
#include <sys/stat.h>

#include <csignal>
#include <QtTest>
#include <random>

#include "session/session_file.h"
#include "yard.h"

using namespace octaphon;
using test::contentsOf;
using test::receiptOf;
using test::soundIn;
using test::Yard;

namespace {

QStringList texts(const QJsonValue& list) {
  QStringList texts;
  for (const auto& value : list.toArray()) texts << value.toString();
  return texts;
}

void write(const QString& file, const QByteArray& bytes) {
  QDir().mkpath(QFileInfo(file).path());
  QFile out(file);
  QVERIFY(out.open(QIODevice::WriteOnly));
  out.write(bytes);
}

/// What the trash-cli package lists, by path.
QStringList trashed(const QString& home) {
  QProcess list;
  QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
  environment.insert("XDG_DATA_HOME", home);
  list.setProcessEnvironment(environment);
  list.start("trash-list", {});
  QStringList paths;
  if (!list.waitForFinished()) return {"trash-list cannot be run"};
  for (const QByteArray& line : list.readAllStandardOutput().split('\n'))
    if (line.mid(20).startsWith(QFileInfo(home).path().toUtf8()))  // behind date and time; not others' trash
      paths << QString::fromUtf8(line.mid(20));
  paths.sort();
  return paths;
}

}  // namespace

class AgainTest : public QObject {
  Q_OBJECT
 private slots:
  // --- just what changed

  void deliverChangeThreeDeliverAgain() {
    Yard yard;
    yard.render();
    auto before = contentsOf(yard.out());
    yard.track("Chain").gainDb = -3;      // rows of Chain, and mixes
    yard.region("rB").name = "Brig";      // names
    yard.region("rC").ends.fadeInMs = 4;  // C
    const auto results = Yard::results(yard.render());
    QCOMPARE(results.at("written"),
             QStringList({"A/Chain", "A/mix", "B/Chain", "B/mix", "C/Gear", "C/Low", "C/mix", "W/Machines"}));
    // What has another name and another sound is rendered under its new one.
    QCOMPARE(results.at("renamed"), QStringList({"B/Gear"}));
    const auto after = contentsOf(yard.out());
    QCOMPARE(soundIn(after.at("Brig_Gear.wav")), soundIn(before.at("B_Gear.wav")));
    QCOMPARE(after.at("A_Gear.wav"), before.at("A_Gear.wav"));
    QVERIFY(yard.status()["up_to_date"].toBool());
  }

  void nothingChangedNothingMade() {
    Yard yard;
    yard.render();
    const QByteArray receipt = test::bytesOf(yard.out("octaphon-receipt.jsonl"));
    const auto events = yard.render();
    QCOMPARE(Yard::results(events).size(), 0u);
    QCOMPARE(events.back()["up_to_date"].toInt(), 13);
    QCOMPARE(test::bytesOf(yard.out("octaphon-receipt.jsonl")), receipt);
  }

  // --- names

  void aCircleOfNames() {
    Yard yard;
    yard.render();
    const auto before = contentsOf(yard.out());
    std::swap(yard.region("rA").name, yard.region("rB").name);
    std::swap(yard.region("rB").name, yard.region("rC").name);  // A is B, B is C, C is A
    const auto results = Yard::results(yard.render());
    QVERIFY(!results.contains("written") && !results.contains("failed"));
    QCOMPARE(results.at("renamed").size(), 11);
    const auto after = contentsOf(yard.out());
    QCOMPARE(after.size(), before.size());
    for (const auto& [to, from] : std::map<QString, QString>{{"B", "A"}, {"C", "B"}, {"A", "C"}})
      QCOMPARE(soundIn(after.at(to + "_mix.wav")), soundIn(before.at(from + "_mix.wav")));
    QVERIFY(yard.status()["up_to_date"].toBool());
    QVERIFY(Yard::results(yard.render()).empty());
  }

  // One that is left out would lose its file to the other.
  void halfOfACircleIsRefused() {
    Yard yard;
    yard.render();
    const auto before = contentsOf(yard.out());
    std::swap(yard.region("rA").name, yard.region("rB").name);
    const auto results = Yard::results(yard.render({"--only", "A_Gear*"}, 1));
    QCOMPARE(results.at("failed"), QStringList{"B/Gear"});
    QVERIFY(contentsOf(yard.out()) == before);
  }

  void dataInTheFileAloneAreRewritten() {
    Yard yard;
    yard.region("rA").loop.way = LoopWay::Overlap;
    yard.session.markerSets.push_back({"s", "S", {{"m1", "Here", 300}}, {}});
    yard.render();
    const QByteArray before = test::bytesOf(yard.out("A_Gear.wav"));
    yard.session.markerSets[0].markers[0].name = "There, with a longer name";
    const auto results = Yard::results(yard.render());
    QCOMPARE(results.at("rewritten"),
             QStringList({"A/Chain", "A/Gear", "A/High", "A/Low", "A/mix", "W/Bells", "W/Machines"}));
    QVERIFY(!results.contains("written"));
    const QByteArray after = test::bytesOf(yard.out("A_Gear.wav"));
    QVERIFY(after.contains("There, with") && !after.contains("Here"));
    QCOMPARE(test::readSound(yard.out("A_Gear.wav")).size(), 2u);
    const auto data = [](const QByteArray& file) { return file.mid(file.indexOf("data"), 4000 * 6); };
    QCOMPARE(data(after), data(before));
    QVERIFY(yard.status()["up_to_date"].toBool());
    // As if it had been made so at once.
    QVERIFY(QDir(yard.out()).removeRecursively());
    yard.render();
    QCOMPARE(test::bytesOf(yard.out("A_Gear.wav")), after);
  }

  void aFileOfOthersIsInTheWayOfAName() {
    Yard yard;
    yard.render();
    write(yard.out("New_Gear.wav"), "theirs");
    yard.region("rA").name = "New";
    const auto events = yard.render({}, 1);
    QCOMPARE(Yard::results(events).at("failed"), QStringList{"A/Gear"});
    QCOMPARE(test::bytesOf(yard.out("New_Gear.wav")), QByteArray("theirs"));
    QVERIFY(QFile::exists(yard.out("A_Gear.wav")));
  }

  // Bits that changed while size and time stayed are not made ours by writing the data anew.
  void damagedSoundIsNotTakenOver() {
    Yard yard;
    yard.region("rA").loop.way = LoopWay::Overlap;
    yard.session.markerSets.push_back({"s", "S", {{"m1", "Here", 300}}, {}});
    yard.render();
    struct stat stamp;
    const QByteArray file = yard.out("A_Gear.wav").toUtf8();
    QCOMPARE(::stat(file.constData(), &stamp), 0);
    QByteArray bytes = test::bytesOf(file);
    bytes[3000] = static_cast<char>(bytes[3000] ^ 1);
    write(file, bytes);
    const timespec times[]{stamp.st_atim, stamp.st_mtim};
    QCOMPARE(::utimensat(AT_FDCWD, file.constData(), times, 0), 0);
    yard.session.markerSets[0].markers[0].name = "There";
    const auto results = Yard::results(yard.render({}, 1));
    QCOMPARE(results.at("failed"), QStringList{"A/Gear"});
    QCOMPARE(test::bytesOf(file), bytes);
  }

  // --- numbers

  void numbersStick_data() {
    QTest::addColumn<QString>("format");
    for (const char* format : {"{n}_{region}", "{n.region}_{source}_{region}", "{n.source}_{source}",
                               "take_{n.name}", "{source.number}_{region}_{source}"})
      QTest::newRow(format) << format;
  }
  void numbersStick() {
    QFETCH(QString, format);
    Yard yard;
    yard.brief().names.format = format.toStdString();
    yard.render();
    const auto first = yard.files();
    // Held back, a track moved, a region deleted, others added before and after.
    yard.brief().heldBack = {"region:rA/track:Gear/wav/all"};
    std::swap(yard.session.tracks[1], yard.session.tracks[2]);
    yard.session.regions.eraseIf([](const Region& region) { return region.id == "rB"; });
    yard.make.region("rE", "E", 5, 3000);
    yard.make.region("rD", "D", 12500, 3000);
    yard.make.clip("Gear", "a", 12600, 500, 3);
    const auto second = yard.files();
    for (const auto& [place, file] : first)
      if (second.contains(place)) QCOMPARE(second.at(place), file);
    yard.render();
    // Back again, and gone.
    yard.brief().heldBack.clear();
    yard.session.regions.eraseIf([](const Region& region) { return region.id == "rE"; });
    yard.make.region("rB", "B", 6000, 4000);
    yard.render();
    const auto third = yard.files();
    for (const auto& [place, file] : first) QCOMPARE(third.at(place), file);
    for (const auto& [place, file] : second)
      if (third.contains(place)) QCOMPARE(third.at(place), file);
    std::set<QString> names;
    for (const auto& [place, file] : third) names.insert(file);
    QCOMPARE(names.size(), third.size());
  }

  void digitsStick() {
    Yard yard;
    yard.brief().names.format = "{n}_{region}_{source}";
    yard.brief().where.regions = Selection(false, {"rB"});
    yard.render();
    QCOMPARE(yard.files().at("B/Gear"), QString("1_B_Gear.wav"));
    yard.brief().where.regions = Selection::everything();
    QCOMPARE(yard.files().at("B/Gear"), QString("1_B_Gear.wav"));
    QCOMPARE(yard.files().at("A/Gear"), QString("4_A_Gear.wav"));
    QCOMPARE(yard.files().at("C/mix"), QString("11_C_mix.wav"));
  }

  void numberAgain() {
    Yard yard;
    yard.brief().names.format = "{n:2}_{source}";
    yard.render();
    yard.session.regions.eraseIf([](const Region& region) { return region.id == "rA"; });
    yard.render();
    QCOMPARE(yard.files().at("B/Gear"), QString("06_Gear.wav"));
    QCOMPARE(yard.files({"--number-again"}).at("B/Gear"), QString("01_Gear.wav"));  // a look at it
    QCOMPARE(yard.files().at("B/Gear"), QString("06_Gear.wav"));
    const auto results = Yard::results(yard.render({"--number-again"}));
    QVERIFY(!results.contains("written"));
    QCOMPARE(yard.files().at("B/Gear"), QString("01_Gear.wav"));
    QVERIFY(QFile::exists(yard.out("01_Gear.wav")));
    QVERIFY(yard.status()["up_to_date"].toBool());
  }

  // --- editions

  void anotherEditionLeavesTheFirstAlone() {
    Yard yard;
    yard.brief().names.format = "v{edition.version}/{region}_{source}";
    QVERIFY(test::planOf(yard.make.save())["rows"].toArray()[0].toObject()["edition"].isNull());
    yard.render({"--brief", "Game"});
    const auto first = contentsOf(yard.out());
    yard.track("Gear").gainDb = -6;
    const auto events = yard.render({"--brief", "Game", "--new-edition"});
    QCOMPARE(events.back()["written"].toInt(), 11);
    QCOMPARE(Yard::event(events, "report")["left_over"].toArray().size(), 0);
    const auto second = contentsOf(yard.out());
    QCOMPARE(second.size(), 2 * first.size());
    for (const auto& [file, bytes] : first) QCOMPARE(second.at(file), bytes);
    const QJsonObject row = test::planOf(yard.make.save())["rows"].toArray()[0].toObject();
    QCOMPARE(row["edition"].toObject()["version"].toInt(), 2);
    QCOMPARE(row["file"].toString(), QString("v2/A_Gear.wav"));
    QCOMPARE(test::cli({"render", yard.make.save(), "--new-edition", "2"}).exit, 2);
    QCOMPARE(test::cli({"render", yard.make.save(), "--new-edition", "soon"}).exit, 2);
    yard.render({"--brief", "Game", "--new-edition", "7"});
    QVERIFY(QFile::exists(yard.out("v7/A_mix.wav")));
  }

  // Names that do not tell editions apart would cost the earlier one its files.
  void anotherEditionUnderTheSameNamesIsRefused() {
    Yard yard;
    yard.render();
    const auto before = contentsOf(yard.out());
    const QStringList receipt = receiptOf(yard.out());
    yard.track("Gear").gainDb = -6;
    const auto ran = test::cli({"render", yard.make.save(), "--new-edition", "--text"});
    QCOMPARE(ran.exit, 1);
    QVERIFY2(ran.err.contains("{edition.version}"), ran.err);
    QVERIFY(contentsOf(yard.out()) == before);
    QCOMPARE(receiptOf(yard.out()), receipt);
  }

  // --- if there is a file

  void whatIsThere_data() {
    QTest::addColumn<Existing>("existing");
    QTest::addColumn<int>("written");
    QTest::addColumn<int>("failed");
    QTest::newRow("replace") << Existing::Replace << 3 << 0;
    QTest::newRow("keep") << Existing::Keep << 1 << 0;
    QTest::newRow("stop") << Existing::Stop << 0 << 3;
  }
  void whatIsThere() {
    QFETCH(Existing, existing);
    QFETCH(int, written);
    QFETCH(int, failed);
    Yard yard;
    std::erase_if(yard.session.briefs, [](const Brief& brief) { return brief.id == "b2"; });
    yard.render();
    clipOf(yard, "Chain").gainDb = -1;  // A/Chain, A/mix
    QFile::remove(yard.out("B_Gear.wav"));
    yard.brief().delivery.existing = existing;
    const auto events = yard.render({}, failed > 0 ? 1 : 0);
    QCOMPARE(events.back()["written"].toInt(), written);
    QCOMPARE(events.back()["failed"].toInt(), failed);
    QCOMPARE(QFile::exists(yard.out("B_Gear.wav")), written > 0);
    // Whatever it is, what is out of date is not up to date.
    QCOMPARE(yard.status()["up_to_date"].toBool(), existing == Existing::Replace);
  }

  void allAndOnly() {
    Yard yard;
    yard.render();
    write(yard.out("A_Gear.wav"), "altered");
    QFile::remove(yard.out("A_Low.wav"));
    write(yard.out("A_Low.wav"), "theirs");
    auto events = yard.render({"--all"}, 1);
    QCOMPARE(events.back()["written"].toInt(), 11);
    QCOMPARE(test::bytesOf(yard.out("A_Gear.wav")), QByteArray("altered"));
    QCOMPARE(Yard::results(events).at("failed"), QStringList({"A/Gear", "A/Low"}));
    events = yard.render({"--all", "--only", "?_mix*"});
    QCOMPARE(Yard::results(events).at("written"), QStringList({"A/mix", "B/mix", "C/mix"}));
    yard.brief().names.format = "{region}/{source}";
    events = yard.render({"--only", "B*r.wav"});
    QCOMPARE(Yard::results(events).at("renamed"), QStringList{"B/Gear"});
    QCOMPARE(test::cli({"render", yard.make.save(), "--only", "nothing*"}).exit, 2);
  }

  // --- the folder

  void theFolderIsReported() {
    Yard yard;
    yard.brief().what.groups = Selection(false, {"Bells"});
    std::erase_if(yard.session.tracks[3].sends, [](const Send&) { return true; });
    yard.render();
    write(yard.out("notes.txt"), "theirs");
    write(yard.out("deep/er/take.wav"), "theirs");
    write(yard.out("octaphon-receipt.jsonl.bak"), "theirs");
    yard.session.regions.eraseIf([](const Region& region) { return region.id == "rB"; });
    yard.track("Gear").gainDb = -3;
    yard.region("rC").name = "Cove";
    yard.make.region("rD", "D", 100, 2000);
    const QJsonObject report = Yard::event(yard.render(), "report", "/out");
    const auto sorted = [&](const char* key) {
      QStringList list = texts(report[key]);
      list.sort();
      return list;
    };
    QCOMPARE(sorted("new"), QStringList({"Cove_Gear.wav", "Cove_mix.wav", "D_Bells.wav", "D_Chain.wav",
                                         "D_Gear.wav", "D_High.wav", "D_Low.wav", "D_mix.wav"}));
    QCOMPARE(sorted("replaced"), QStringList({"A_Gear.wav", "A_mix.wav"}));
    QCOMPARE(report["renamed"].toArray().size(), 2);  // Low and Bells of C
    QCOMPARE(sorted("left_over"),
             QStringList({"B_Chain.wav", "B_Gear.wav", "B_mix.wav", "C_Gear.wav", "C_mix.wav"}));
    QCOMPARE(sorted("foreign"), QStringList({"deep/er/take.wav", "notes.txt", "octaphon-receipt.jsonl.bak"}));
    // Low is all there is of Bells in C.
    QCOMPARE(report["same_sound"].toArray().size(), 1);
    QCOMPARE(texts(report["same_sound"].toArray()[0]).size(), 2);
    QVERIFY(texts(report["same_sound"].toArray()[0]).contains("Cove_Bells.wav"));
  }

  void leftOverFilesGoToTheTrash() {
    Yard yard;
    const QString home = yard.dir.filePath("home");
    qputenv("XDG_DATA_HOME", home.toLocal8Bit());
    yard.render();
    write(yard.out("notes.txt"), "theirs");
    yard.session.regions.eraseIf([](const Region& region) { return region.id == "rB"; });
    write(yard.out("B_mix.wav"), "altered");
    QDir(yard.dir.path()).mkdir("other");
    const QString session = yard.make.save();
    auto ran = test::cli({"clean", session, "--dry-run"});
    QCOMPARE(ran.exit, 0);
    QVERIFY(ran.out.contains("B_Gear.wav") && !ran.out.contains("B_mix.wav") && !ran.out.contains("notes"));
    QVERIFY(QFile::exists(yard.out("B_Gear.wav")));
    QCOMPARE(test::cli({"clean", session}).exit, 0);
    QCOMPARE(trashed(home), QStringList({yard.out("B_Chain.wav"), yard.out("B_Gear.wav")}));
    QVERIFY(!QFile::exists(yard.out("B_Gear.wav")) && QFile::exists(yard.out("B_mix.wav")));
    QVERIFY(QFile::exists(yard.out("notes.txt")));
    // Made anew and left over again: the trash has both.
    yard.make.region("rB", "B", 6000, 4000);
    yard.render({}, 1);
    yard.session.regions.eraseIf([](const Region& region) { return region.id == "rB"; });
    QCOMPARE(test::cli({"clean", yard.make.save()}).exit, 0);
    QCOMPARE(trashed(home).count(yard.out("B_Gear.wav")), 2);
    // For good.
    yard.session.regions.eraseIf([](const Region& region) { return region.id == "rA"; });
    QCOMPARE(test::cli({"clean", yard.make.save(), "--delete"}).exit, 0);
    QVERIFY(!QFile::exists(yard.out("A_Gear.wav")));
    QCOMPARE(trashed(home).size(), 4);
    qunsetenv("XDG_DATA_HOME");
  }

  // Files of another session that goes into the same folder are none of ours to clear away.
  void anotherSessionsFilesAreNotLeftOver() {
    Yard yard;
    yard.render();
    yard.make.save();
    QVERIFY(QFile::copy(yard.dir.filePath("test.octaphon"), yard.dir.filePath("other.octaphon")));
    QVERIFY(QFile::exists(yard.dir.filePath("other.octaphon")));
    for (Region& region : yard.session.regions.writable()) region.id += "2";
    const auto saved = saveSession(yard.session, yard.dir.filePath("other.octaphon").toStdString());
    QVERIFY(saved.has_value());
    const auto ran = test::cli({"clean", yard.dir.filePath("other.octaphon"), "--dry-run", "--json"});
    QVERIFY2(!ran.out.contains(".wav"), ran.out);
  }

  void heldBackFilesStay() {
    Yard yard;
    yard.render();
    yard.brief().heldBack = {"region:rA/track:Gear/wav/all"};
    yard.track("Gear").gainDb = -3;
    const auto events = yard.render();
    QVERIFY(!Yard::results(events).at("written").contains("A/Gear"));
    QCOMPARE(Yard::event(events, "report", "/out")["left_over"].toArray().size(), 0);
    const QJsonObject status = yard.status();
    QVERIFY(status["up_to_date"].toBool());
    QCOMPARE(status["counts"].toObject()["held-back"].toInt(), 1);
  }

  // --- what may happen meanwhile

  /// Killed at any moment and gone on with: the files, and what the receipt says of them, are as if nothing
  /// had been.
  void killedAtAnyMoment() {
    Yard yard;
    for (int i = 0; i < 8; ++i) {
      const std::string name = "K" + std::to_string(i);
      yard.make.region("r" + name, name, i * 500, 20000);
    }
    yard.brief().names.format = "{n:2}_{region}_{source}";
    yard.make.save();
    QTemporaryDir whole;
    const QString session = yard.dir.filePath("test.octaphon");
    QElapsedTimer clock;
    clock.start();
    QCOMPARE(test::cli({"render", session, "--out", whole.path()}).exit, 0);
    const auto takes = static_cast<int>(clock.elapsed());
    const auto expected = contentsOf(whole.path());
    const QStringList receipt = receiptOf(whole.path());
    std::minstd_rand random(5);
    for (int moment = 0; moment < 50; ++moment) {
      QTemporaryDir out;
      for (int again = 0; again < 3; ++again) {
        QProcess process;
        process.start(OCTAPHON_CLI_PATH, {"render", session, "--out", out.path()});
        QVERIFY(process.waitForStarted());
        process.waitForFinished(static_cast<int>(random() % static_cast<unsigned>(takes + 10)));
        process.kill();
        process.waitForFinished();
      }
      QCOMPARE(test::cli({"render", session, "--out", out.path()}).exit, 0);
      QCOMPARE(test::filesBelow(out.path()), test::filesBelow(whole.path()));
      for (const auto& [file, bytes] : contentsOf(out.path()))
        QVERIFY2(bytes == expected.at(file), qPrintable(file));
      QCOMPARE(receiptOf(out.path()), receipt);
    }
  }

  /// The same while names go round.
  void killedWhileNamesGoRound() {
    Yard yard;
    yard.render();
    const auto before = contentsOf(yard.out());
    std::minstd_rand random(7);
    for (int round = 0; round < 20; ++round) {
      std::swap(yard.region("rA").name, yard.region("rB").name);
      std::swap(yard.region("rB").name, yard.region("rC").name);
      const QString session = yard.make.save();
      QProcess process;
      process.start(OCTAPHON_CLI_PATH, {"render", session});
      QVERIFY(process.waitForStarted());
      process.waitForFinished(static_cast<int>(random() % 60));
      process.kill();
      process.waitForFinished();
      const auto results = Yard::results(yard.render());
      QVERIFY(!results.contains("failed"));  // what only lacked its name counts as written
      QCOMPARE(contentsOf(yard.out()).size(), before.size());
    }
    const auto after = contentsOf(yard.out());
    std::map<QString, QString> names;
    for (const Region& region : yard.session.regions)
      names[QString::fromStdString(region.id).mid(1)] = QString::fromStdString(region.name);
    for (const auto& [was, is] : names)
      QCOMPARE(soundIn(after.at(is + "_mix.wav")), soundIn(before.at(was + "_mix.wav")));
  }

 private:
  static Clip& clipOf(Yard& yard, const char* track) { return yard.track(track).clips[0]; }
};

QTEST_GUILESS_MAIN(AgainTest)
#include "tst_again.moc"
