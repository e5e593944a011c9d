// What can change, break or be in the way under a run, from outside: media that are written to, links, files
// in the place of folders, receipts that vanish, few handles, signals, a full device. Nothing wrong is kept
// as right.
#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>
#include <csignal>
#include <QtTest>

#include "ledger/folder_listing.h"
#include "ledger/receipt_journal.h"
#include "media/media_cache.h"
#include "media/readable_media.h"
#include "plan/row_states.h"
#include "run/live_sheet.h"
#include "run/runner.h"
#include "support.h"

using namespace octaphon;
using test::Samples;

namespace {

/// One track, some regions one after the other, a brief of the track.
struct Yard {
  QTemporaryDir dir;
  test::SessionMaker make{dir.path()};

  explicit Yard(int regions = 3, int rate = 48000, Frame length = 9600) {
    make.medium("a", test::noise(2, regions * length, 1), rate);
    make.medium("b", test::noise(2, 4800, 2));
    make.track("t");
    make.track("other");
    make.clip("other", "b", 0, 4800);
    for (int i = 0; i < regions; ++i) {
      make.region("r" + std::to_string(i), "R" + std::to_string(i), i * length, length);
      make.clip("t", "a", i * length, length, rate == 48000 ? i * length : 0);
    }
    Brief& brief = make.brief("B");
    brief.what.tracks = {false, {"t"}};
    brief.what.mix = false;
  }
  QString path(const char* below) const { return dir.filePath(below); }
};

QStringList states(const QString& session, const QStringList& more = {}) {
  QStringList states;
  for (const auto& row : test::planOf(session, more)["rows"].toArray())
    states << row.toObject()["state"].toString();
  return states;
}

/// Texts of failed rows.
QStringList errors(const std::vector<QJsonObject>& events) {
  QStringList texts;
  for (const QJsonObject& event : events)
    if (event["result"] == "failed") texts << event["error"].toString();
  return texts;
}

void alter(const QString& file, qint64 at, const QByteArray& bytes) {
  QFile open(file);
  QVERIFY(open.open(QIODevice::ReadWrite));
  QVERIFY(open.seek(at));
  open.write(bytes);
}

/// Sets the time of last modification; the system's own note of a change stays.
void setTimes(const QString& file, const struct stat& as) {
  const timespec times[2]{as.st_atim, as.st_mtim};
  QCOMPARE(::utimensat(AT_FDCWD, file.toUtf8().constData(), times, 0), 0);
}

}  // namespace

class CareTest : public QObject {
  Q_OBJECT
 private slots:
  // --- media

  // Rows that hear a medium which changes between the look at it and the end of its pass fail; the others do
  // not. What was there before stays, and is not taken for up to date.
  void aMediumThatChangesUnderTheRun_data() {
    QTest::addColumn<QString>("how");
    for (const char* how :
         {"overwritten", "overwritten, time set back", "cut to half", "another file", "gone"})
      QTest::newRow(how) << QString(how);
  }
  void aMediumThatChangesUnderTheRun() {
    QFETCH(QString, how);
    Yard yard;
    yard.make.brief("Other").what.tracks = {false, {"other"}};
    yard.make.session.briefs[1].what.mix = false;
    yard.make.session.file = yard.make.save().toStdString();
    MediaCache cache(yard.path("cache").toStdString());
    RunRequest request;
    request.session = std::make_shared<Session>(yard.make.session);
    request.facts = gatherFacts(*request.session, cache);
    request.sheet = std::make_shared<Sheet>(planWithStates(*request.session, *request.facts, {{0, 1}, {}}));
    request.rows = rowsToMake(*request.sheet, false);
    const QString medium = yard.path("media/a.wav");
    struct stat before;
    QCOMPARE(::stat(medium.toUtf8().constData(), &before), 0);
    if (how.startsWith("overwritten")) alter(medium, 1000, QByteArray(400, 'x'));
    if (how.endsWith("set back")) setTimes(medium, before);
    if (how == "cut to half") QVERIFY(QFile::resize(medium, before.st_size / 2));
    if (how == "another file" || how == "gone") QVERIFY(QFile::remove(medium));
    if (how == "another file") test::writeSound(medium, test::noise(2, 28800, 7));
    RunControl control;
    std::vector<RowOutcome> outcomes;
    const RunSummary summary =
        makeFiles(request, cache, control, [&](const RowOutcome& outcome) { outcomes.push_back(outcome); });
    QCOMPARE(summary.failed, 3u);
    QCOMPARE(summary.written, 1u);
    for (const RowOutcome& outcome : outcomes)
      if (!outcome.result)
        QVERIFY(outcome.result.error().describe().find("media/a.wav") != std::string::npos);
    QCOMPARE(test::filesBelow(yard.path("out")).size(), 1);
  }

  void aMediumThatChangesWhileItIsPlayed() {
    Yard yard(1);
    yard.make.session.file = yard.make.save().toStdString();
    MediaCache cache(yard.path("cache").toStdString());
    const auto facts = gatherFacts(yard.make.session, cache);
    const auto media = ReadableMedia::prepare(yard.make.session, *facts, cache, {"a"});
    QVERIFY(media.find("a")->open().has_value());
    QVERIFY(media.find("a")->checkUnchanged().has_value());
    alter(yard.path("media/a.wav"), 500, "y");
    QCOMPARE(media.find("a")->open().error().code, ErrorCode::MediumChanged);
    QCOMPARE(media.find("a")->checkUnchanged().error().code, ErrorCode::MediumChanged);
  }

  // A copy in the cache is not believed: cut or zeroed, it is made anew, and the files are the same.
  void aDamagedCopyInTheCache() {
    unsigned seed = 100;
    for (const QString& how : {QString("cut"), QString("zeroed"), QString("zeroed, time set back")}) {
      Yard yard(1, 44100);
      test::writeSound(yard.path("media/a.wav"), test::noise(2, 9600, ++seed), 44100);
      const QString session = yard.make.save();
      const auto copies = [] {
        const QString cache = qEnvironmentVariable("OCTAPHON_CACHE");
        return test::filesBelow(cache)
            .filter(QRegularExpression("w64$"))
            .replaceInStrings(QRegularExpression("^"), cache + "/");
      };
      test::cli({"--version"});  // the cache is there then
      const QStringList earlier = copies();
      test::renderOf(session);
      const QByteArray right = test::bytesOf(yard.path("out/R0_t.wav"));
      QStringList made = copies();
      for (const QString& old : earlier) made.removeAll(old);
      QCOMPARE(made.size(), 1);
      const QString copy = made[0];
      struct stat before;
      QCOMPARE(::stat(copy.toUtf8().constData(), &before), 0);
      if (how == "cut") QVERIFY(QFile::resize(copy, before.st_size / 2));
      if (how != "cut") alter(copy, 2000, QByteArray(20000, '\0'));
      if (how.endsWith("back")) setTimes(copy, before);
      QVERIFY(QDir(yard.path("out")).removeRecursively());
      test::renderOf(session);
      QVERIFY2(test::bytesOf(yard.path("out/R0_t.wav")) == right, qPrintable(how));
    }
  }

  // 96 000 frames when it was brought in, 40 000 now: no silent file, but a fault, with a cure.
  void aMediumThatIsNotWhatTheSessionKnows() {
    Yard yard(1);
    yard.make.session.media[0].frames = 96000;
    yard.make.session.media[0].rate = 48000;
    const QString session = yard.make.save();
    QCOMPARE(states(session), QStringList{"fault"});
    const auto failed = test::renderOf(session, {}, 1);
    QVERIFY2(errors(failed)[0].contains("96000 frames") && errors(failed)[0].contains("take it as it is"),
             qPrintable(errors(failed)[0]));
    QVERIFY(test::filesBelow(yard.path("out")).isEmpty());
    const auto listed = test::cli({"media", session, "--json"});
    const auto media = QJsonDocument::fromJson(listed.out).object()["media"].toArray();
    QCOMPARE(media[0].toObject()["state"].toString(), QString("different"));
    QCOMPARE(media[1].toObject()["state"].toString(), QString("ready"));
    QCOMPARE(test::cli({"media", session, "--take-as-is", "media/nothing.wav"}).exit, 2);
    QCOMPARE(test::cli({"media", session, "--take-as-is", "media/a.wav"}).exit, 0);
    QCOMPARE(states(session), QStringList{"to-make"});
  }

  // Each bad in a way of its own: what is lost fails, what is only odd is said.
  void badMedia_data() {
    QTest::addColumn<QString>("kind");
    QTest::addColumn<QString>("damage");
    QTest::addColumn<QString>("code");
    const auto row = [](const char* kind, const char* damage, const char* code) {
      QTest::addRow("%s, %s", kind, damage) << QString(kind) << QString(damage) << QString(code);
    };
    for (const char* kind : {"ogg", "opus", "flac"}) row(kind, "flipped", "unreadable-medium");
    for (const char* kind : {"ogg", "opus", "flac", "mp3"}) row(kind, "cut", "unreadable-medium");
    for (const char* kind : {"ogg", "opus", "flac", "mp3"}) row(kind, "whole", "");
    row("ogg", "chained", "flawed-medium");
    row("flac", "md5", "flawed-medium");
  }
  void badMedia() {
    QFETCH(QString, kind);
    QFETCH(QString, damage);
    QFETCH(QString, code);
    Yard yard(1);
    const QString name = "media/c." + kind, file = yard.path(name.toUtf8().constData());
    const auto made = test::run("ffmpeg", {"-v", "error", "-y", "-stream_loop", "9", "-i",
                                           yard.path("media/a.wav"), "-ac", "2", file});
    QCOMPARE(made.exit, 0);
    QByteArray bytes = test::bytesOf(file);
    const qsizetype half = bytes.size() / 2;
    if (damage == "flipped") bytes[half] = static_cast<char>(bytes[half] ^ 0x10);
    if (damage == "cut") bytes.truncate(half);
    if (damage == "chained") bytes += bytes;
    if (damage == "md5")
      bytes[26] = static_cast<char>(bytes[26] ^ 1);  // RFC 9639, 8.2: the last 16 of STREAMINFO
    QFile out(file);
    QVERIFY(out.open(QIODevice::WriteOnly));
    out.write(bytes);
    out.close();
    yard.make.session.media[0].file = name.toStdString();
    const QString session = yard.make.save();
    const auto row = test::planOf(session)["rows"].toArray()[0].toObject();
    QStringList codes;
    for (const auto& remark : row["remarks"].toArray()) codes << remark.toObject()["code"].toString();
    QCOMPARE(codes, code.isEmpty() ? QStringList() : QStringList{code});
    const bool isLost = code == "unreadable-medium";
    const auto ran = test::cli({"render", session});
    QCOMPARE(ran.exit, isLost ? 1 : 0);
    QVERIFY(code.isEmpty() || (ran.err + ran.out).contains("c." + kind.toUtf8()));
    QVERIFY2(!ran.err.contains("Warning: Xing"), ran.err.constData());  // of a library
    const auto brought = test::cli({"new", yard.path("new.octaphon"), file});
    QCOMPARE(brought.exit, isLost ? 1 : 0);
    QVERIFY2(code.isEmpty() || brought.err.contains("c." + kind.toUtf8()), brought.err.constData());
    QCOMPARE(brought.err.contains("none of the files could be brought in"), isLost);
  }

  // --- folders

  // A brief's folder is never reached through a link, itself or on the way; what the user names is.
  void linksLeadNowhere_data() {
    QTest::addColumn<QString>("folder");
    QTest::addColumn<QString>("link");
    QTest::newRow("the folder itself") << "out"
                                       << "out";
    QTest::newRow("on the way") << "far/out"
                                << "far";
    QTest::newRow("the last of two") << "near/out"
                                     << "near/out";
  }
  void linksLeadNowhere() {
    QFETCH(QString, folder);
    QFETCH(QString, link);
    Yard yard(1);
    QTemporaryDir outside;
    QDir(yard.dir.path()).mkpath("near");
    QVERIFY(QFile::link(outside.path(), yard.dir.filePath(link)));
    yard.make.session.briefs[0].delivery.folder = folder.toStdString();
    const QString session = yard.make.save();
    const auto row = test::planOf(session)["rows"].toArray()[0].toObject();
    QCOMPARE(row["state"].toString(), QString("fault"));
    QCOMPARE(row["remarks"].toArray()[0].toObject()["code"].toString(), QString("unusable-folder"));
    const auto events = test::renderOf(session, {}, 1);
    QVERIFY(errors(events)[0].contains("link"));
    QVERIFY(test::filesBelow(outside.path()).isEmpty());
    test::renderOf(session, {"--out", yard.dir.filePath(link)});
    QCOMPARE(test::filesBelow(outside.path()).size(), 1);
  }

  void rowsInEachOthersWay() {
    Yard yard(1);
    Brief& other = yard.make.brief("Other");
    other.what = yard.make.session.briefs[0].what;
    yard.make.session.briefs[0].names.format = "Sub/x";
    // The same file through a base folder inside the other one; letters of another case.
    other.delivery.folder = "out/sub";
    other.names.format = "X";
    QCOMPARE(states(yard.make.save()), (QStringList{"fault", "fault"}));
    // A file where the other needs a folder.
    other.delivery.folder = "out";
    other.names.format = "sub/X.wav/y";
    QCOMPARE(states(yard.make.save()), (QStringList{"fault", "fault"}));
    other.names.format = "sub/x2.wav/y";
    QCOMPARE(states(yard.make.save()), (QStringList{"to-make", "to-make"}));
  }

  void whatCannotBeWrittenIsSaid() {
    Yard yard(2);
    const QString session = yard.make.save();
    QFile file(yard.path("out"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.close();
    const auto inTheWay = test::cli({"render", session, "--text"});
    QCOMPARE(inTheWay.exit, 1);
    QVERIFY2(inTheWay.err.contains("a file stands where a folder is needed"), inTheWay.err.constData());
    QCOMPARE(inTheWay.err.trimmed().count('\n'), 0);  // once, not for each file
    QVERIFY(QFile::remove(yard.path("out")));
    yard.make.session.briefs[0].delivery.folder = std::string(300, 'n');
    const auto tooLong = test::cli({"render", yard.make.save(), "--text"});
    QCOMPARE(tooLong.exit, 1);
    QVERIFY2(tooLong.err.contains("longer than the file system takes"), tooLong.err.constData());
    const auto gone =
        test::run("bash", {"-c", "mkdir x && cd x && rmdir ../x && exec \"$0\" plan \"$1\" --out y",
                           OCTAPHON_CLI_PATH, session});
    QCOMPARE(gone.exit, 2);
    QVERIFY2(gone.err.contains("is gone"), gone.err.constData());
  }

  // Controls of a terminal and of the direction of writing are in no name and on no screen.
  void noControlsInNames() {
    Yard yard(1);
    yard.make.session.regions[0].name =
        "a\xC2\x9B"
        "31m\xE2\x80\xAE"
        "b\x1b[2J\xE2\x80\xA8\xEF\xBB\xBF";
    yard.make.session.briefs[0].name = "B\xC2\x85";
    yard.make.session.briefs[0].delivery.folder = "o\xC2\x9Bt";
    const QString session = yard.make.save();
    for (const QStringList& arguments : {QStringList{"plan", session},
                                         {"plan", session, "--json"},
                                         {"info", session},
                                         {"render", session, "--json"}}) {
      const auto ran = test::cli(arguments);
      QCOMPARE(ran.exit, 0);
      for (const char* bad : {"\xC2\x9B", "\xE2\x80\xAE", "\x1b", "\xE2\x80\xA8", "\xC2\x85"})
        QVERIFY2(!(ran.out + ran.err).contains(bad), qPrintable(arguments.join(' ')));
    }
    QCOMPARE(test::filesBelow(yard.path("o_t")).size(), 1);
    QVERIFY(test::filesBelow(yard.path("o_t"))[0].startsWith("a_31m_b_[2J_"));
  }

  // --- receipts

  // Deleted while files are made: it is there again, with what it held, and somebody is told.
  void aReceiptThatVanishes() {
    QTemporaryDir dir;
    const auto folder = SafeFolder::open(dir.path().toStdString(), false);
    const auto line = [](const char* file) {
      return ReceiptLine{std::string("k ") + file, file, Digest{1, 2}, {}, 0, {}, {}};
    };
    auto journal = ReceiptJournal::open(*folder);
    QVERIFY(journal->append({line("a.wav")}, false).has_value());
    QVERIFY(!journal->wasLost());
    QVERIFY(QFile::remove(dir.filePath("octaphon-receipt.jsonl")));
    QVERIFY(journal->append({line("b.wav")}, false).has_value());
    QVERIFY(journal->wasLost());
    const Receipt receipt = Receipt::load(*folder);
    QCOMPARE(receipt.linesOf("a.wav").size(), 1u);
    QCOMPARE(receipt.linesOf("b.wav").size(), 1u);
    // The new one is locked like the old one.
    QCOMPARE(ReceiptJournal::open(*folder).error().code, ErrorCode::Busy);
  }

  // Writing a receipt anew gives its name to another file; the lock goes with the name.
  void aReceiptWrittenAnewStaysLocked() {
    QTemporaryDir dir;
    const auto folder = SafeFolder::open(dir.path().toStdString(), false);
    auto journal = ReceiptJournal::open(*folder);
    for (std::uint64_t i = 0; i < 9; ++i)
      QVERIFY(journal->append({{"k", "a.wav", Digest{1, i}, {}, 0, {}, {}}}, false).has_value());
    const QString file = dir.filePath("octaphon-receipt.jsonl");
    const auto inode = identityOf(std::filesystem::path(file.toStdString()))->inode;
    QVERIFY(journal->compact().has_value());
    QVERIFY(identityOf(std::filesystem::path(file.toStdString()))->inode != inode);
    QCOMPARE(ReceiptJournal::open(*folder).error().code, ErrorCode::Busy);
    QVERIFY(journal->append({{"k", "late.wav", Digest{1, 2}, {}, 0, {}, {}}}, false).has_value());
    QCOMPARE(Receipt::load(*folder).linesOf("late.wav").size(), 1u);
    QVERIFY(!journal->wasLost());
  }

  // A bit that changed while size and time stayed is found by who asks for it.
  void aBitIsFoundWhereAsked() {
    Yard yard(2);
    const QString session = yard.make.save();
    test::renderOf(session);
    const QString file = yard.path("out/R1_t.wav");
    struct stat before;
    QCOMPARE(::stat(file.toUtf8().constData(), &before), 0);
    alter(file, 3000, "?");
    setTimes(file, before);
    QCOMPARE(states(session), (QStringList{"up-to-date", "up-to-date"}));
    QCOMPARE(states(session, {"--thorough"}), (QStringList{"up-to-date", "changed"}));
    QCOMPARE(test::cli({"render", session}).exit, 0);
    QCOMPARE(test::cli({"render", session, "--thorough"}).exit, 1);
    test::renderOf(session, {"--thorough", "--replace-foreign"});
    QCOMPARE(states(session, {"--thorough"}), (QStringList{"up-to-date", "up-to-date"}));
  }

  // Looking twice says things once.
  void statesMaySetTwice() {
    Yard yard(1);
    yard.make.session.file = yard.make.save().toStdString();
    QDir(yard.dir.path()).mkpath("out");
    alter(yard.path("out/R0_t.wav"), 0, "foreign");
    MediaCache cache(yard.path("cache").toStdString());
    const auto facts = gatherFacts(yard.make.session, cache);
    Sheet sheet = planWithStates(yard.make.session, *facts, {{0}, {}});
    QCOMPARE(sheet.rows[0].remarks.size(), 1u);
    const SessionContext context(yard.make.session, *facts, nullptr);
    setStates(sheet, context.signal,
              {{sheet.briefs[0].base, lookAtFolder(sheet.briefs[0].base, {"R0_t.wav"})}});
    QCOMPARE(sheet.rows[0].remarks.size(), 1u);
    setStates(sheet, context.signal, {});
    QCOMPARE(sheet.rows[0].state, RowState::ToMake);
    QCOMPARE(sheet.rows[0].remarks.size(), 0u);
  }

  // A session is locked before it is read, so that what another program saves is not lost.
  void tablesWaitForTheSession() {
    Yard yard(1);
    const QString session = yard.make.save(), table = yard.path("regions.csv");
    QCOMPARE(test::cli({"regions", session, "--export", table}).exit, 0);
    const QByteArray before = test::bytesOf(session);
    const QString lock = yard.path(".test.octaphon.lock");
    const int held = ::open(lock.toUtf8().constData(), O_RDWR | O_CREAT | O_CLOEXEC, 0666);
    QCOMPARE(::flock(held, LOCK_EX), 0);
    alter(session, 0, "}");                                                // half saved by who holds it
    QCOMPARE(test::cli({"regions", session, "--import", table}).exit, 1);  // busy, not unreadable
    QCOMPARE(test::cli({"media", session, "--take-all-as-is"}).exit, 1);
    alter(session, 0, before.left(1));
    ::close(held);
    QCOMPARE(test::cli({"regions", session, "--import", table}).exit, 0);
  }

  // --- what is left, and what is another's

  // What a killed program left goes; what another one is writing stays, also where its folder lies in ours.
  void temporaryFiles() {
    Yard yard(1);
    yard.make.session.briefs[0].names.format = "sub/x";
    const QString session = yard.make.save();
    test::renderOf(session);
    const QString dead = yard.path("out/sub/.oct-0123456789abcdef.part"),
                  deadReceipt = yard.path("out/.oct-0123456789abcdee.part"),
                  alive = yard.path("out/sub/.oct-fedcba9876543210.part");
    for (const QString& file : {dead, deadReceipt, alive}) alter(file, 0, "half");
    const int held = ::open(alive.toUtf8().constData(), O_RDWR | O_CLOEXEC);
    QCOMPARE(::flock(held, LOCK_EX), 0);
    test::renderOf(session);  // nothing to make
    QVERIFY(!QFile::exists(dead) && !QFile::exists(deadReceipt));
    QVERIFY(QFile::exists(alive));
    ::close(held);
    test::renderOf(session);
    QVERIFY(!QFile::exists(alive));
  }

  // --- the system

  // A pass of 41 rows, and one sweep over many: with hardly any handles, and with as many media as there are.
  void fewHandles_data() {
    QTest::addColumn<int>("limit");
    QTest::addColumn<int>("tracks");
    QTest::addColumn<int>("regions");
    QTest::newRow("48, wide") << 48 << 40 << 1;
    QTest::newRow("100, wide") << 100 << 70 << 1;
    QTest::newRow("64, a long sweep") << 64 << 2 << 120;
  }
  void fewHandles() {
    QFETCH(int, limit);
    QFETCH(int, tracks);
    QFETCH(int, regions);
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    for (int t = 0; t < tracks; ++t) {
      const std::string id = "t" + std::to_string(t);
      make.medium(id, test::noise(1, 480 * regions, static_cast<unsigned>(t)));
      make.track(id, 1);
      for (int r = 0; r < regions; ++r) make.clip(id, id, r * 480, 480, r * 480);
    }
    for (int r = 0; r < regions; ++r)
      make.region("r" + std::to_string(r), "R" + std::to_string(r), r * 480, 480);
    Brief& brief = make.brief("B");
    brief.what.tracks = {true, {}};
    brief.heard.counts = Counts::EverythingHeard;
    brief.heard.runUp.fromStart = true;
    brief.ends.tail = Tail::Fixed;
    brief.ends.tailSeconds = 0.01;
    make.session.tracks[0].inserts = {{"e", "echo", {}, true, {}, {}, {}, {}}};  // what a run-up is for
    const QString session = make.save();
    const auto ran =
        test::run("bash", {"-c", QString("ulimit -n %1; exec \"$0\" render \"$1\" --json").arg(limit),
                           OCTAPHON_CLI_PATH, session});
    QVERIFY2(ran.exit == 0, (ran.out.right(600) + ran.err).constData());
    QCOMPARE(test::filesBelow(dir.path() + "/out").size(), regions * (tracks + 1));
    QCOMPARE(states(session).count("up-to-date"), regions * (tracks + 1));
  }

  void signalsStopARun_data() {
    QTest::addColumn<int>("signal");
    for (const int signal : {SIGINT, SIGTERM, SIGHUP}) QTest::addRow("%s", strsignal(signal)) << signal;
  }
  void signalsStopARun() {
    QFETCH(int, signal);
    Yard yard(40, 48000, 200'000);
    const QString session = yard.make.save();
    QProcess process;
    process.start(OCTAPHON_CLI_PATH, {"render", session, "--json", "--jobs", "1"});
    QVERIFY(process.waitForStarted());
    QVERIFY(process.waitForReadyRead(60'000));  // the first row is done
    ::kill(static_cast<pid_t>(process.processId()), signal);
    QVERIFY(process.waitForFinished(60'000));
    QCOMPARE(process.exitStatus(), QProcess::NormalExit);
    const auto last =
        QJsonDocument::fromJson(process.readAllStandardOutput().trimmed().split('\n').last()).object();
    QCOMPARE(last["event"].toString(), QString("done"));
    QCOMPARE(process.exitCode(), last["cancelled"].toBool() ? 1 : 0);
    for (const QString& file : test::filesBelow(yard.path("out"))) QVERIFY(!file.contains(".part"));
    test::renderOf(session);
    QCOMPARE(test::filesBelow(yard.path("out")).size(), 40);
  }

  void aFullDeviceIsNoSuccess() {
    Yard yard(1);
    const QString session = yard.make.save();
    for (const char* command : {"info", "plan", "plan --json", "regions --export -", "--help"})
      QVERIFY2(
          test::run(
              "bash",
              {"-c",
               QString("\"$0\" %1 %2 > /dev/full").arg(command, QString(command) == "--help" ? "" : "\"$1\""),
               OCTAPHON_CLI_PATH, session})
                  .exit != 0,
          command);
  }

  // With --json, programs are told too.
  void errorsAreObjects_data() {
    QTest::addColumn<QStringList>("arguments");
    QTest::addColumn<QString>("code");
    QTest::addColumn<int>("exit");
    QTest::newRow("no session") << QStringList{"plan", "none.octaphon", "--json"} << "not-found" << 3;
    QTest::newRow("no brief") << QStringList{"plan", "@", "--brief", "Nobody", "--json"} << "unknown-name"
                              << 2;
    QTest::newRow("no command") << QStringList{"fly", "--json"} << "unknown-name" << 2;
    QTest::newRow("no folder") << QStringList{"plan", "@", "--out", "", "--json"} << "bad-value" << 2;
    QTest::newRow("no number") << QStringList{"render", "@", "--jobs", "many", "--json"} << "bad-value" << 2;
  }
  void errorsAreObjects() {
    QFETCH(QStringList, arguments);
    QFETCH(QString, code);
    QFETCH(int, exit);
    Yard yard(1);
    arguments.replaceInStrings("@", yard.make.save());
    const auto ran = test::cli(arguments);
    QCOMPARE(ran.exit, exit);
    const auto error = QJsonDocument::fromJson(ran.out).object();
    QCOMPARE(error["event"].toString(), QString("error"));
    QCOMPARE(error["code"].toString(), code);
    QVERIFY(!error["text"].toString().isEmpty());
    QVERIFY(!ran.err.isEmpty());
    QVERIFY(test::cli({"plan", "--help"}).out.contains("Exit codes: 0"));
    QVERIFY(!test::cli({"new", "--help"}).out.contains("ENUM"));
  }
};

QTEST_GUILESS_MAIN(CareTest)
#include "tst_care.moc"
