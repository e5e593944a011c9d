// What takes long, in the real window: it is shown with words and how far it is, one goes on working
// meanwhile, and stopped half-way it leaves nothing half done and loses nothing.
#include "opened.h"

#include <filesystem>

#include "app/window/job_lines.h"
#include "session/session_file.h"
#include "session/session_json.h"

using namespace octaphon;
using namespace octaphon::app;
using test::key;
using test::Opened;
using test::press;

namespace {

namespace fs = std::filesystem;

constexpr Frame kHour = Frame{3600} * 48000;

void append(QByteArray& bytes, quint32 value, int width) {
  for (int i = 0; i < width; ++i) bytes.append(static_cast<char>(value >> (8 * i)));
}

/// A stereo WAV file of 16 bit that is silence, and takes no room on the disk.
void writeSilence(const QString& path, Frame frames, int rate = 48000) {
  const auto size = static_cast<quint32>(frames * 4);
  QByteArray head = "RIFF";
  append(head, size + 36, 4);
  head += "WAVEfmt ";
  append(head, 16, 4);
  append(head, 1, 2);
  append(head, 2, 2);
  append(head, static_cast<quint32>(rate), 4);
  append(head, static_cast<quint32>(rate) * 4, 4);
  append(head, 4, 2);
  append(head, 16, 2);
  head += "data";
  append(head, size, 4);
  QDir().mkpath(QFileInfo(path).path());
  QFile file(path);
  QVERIFY(file.open(QIODevice::WriteOnly) && file.write(head) == head.size());
  QVERIFY(file.resize(static_cast<qint64>(head.size()) + size));
}

/// Silent sounds of hours, in a folder beside the session's or in it.
class Hours : public test::SessionMaker {
 public:
  explicit Hours(const QString& folder) : SessionMaker(folder), folder_(folder) {}

  void add(const std::string& id, const QString& file, Frame frames, int rate = 48000) {
    writeSilence(QDir::cleanPath(folder_ + "/" + file), frames, rate);
    Medium medium;
    medium.id = id;
    medium.file = file.toStdString();
    medium.frames = frames;
    medium.rate = rate;
    session.media.push_back(medium);
    track(id);
    clip(id, id, 0, atRate(frames, rate, 48000));
  }

 private:
  QString folder_;
};

class Waiting : public Opened {
 public:
  JobLines& lines() { return view<JobLines>(); }

  /// Waits until the job is there to be looked at, and on its way.
  void lookAt(const QString& words) {
    QTRY_VERIFY_WITH_TIMEOUT(!lines().words().filter(words).isEmpty(), 20000);
    QVERIFY(lines().isVisible());
    const auto bar = [&]() -> QProgressBar* {
      for (QProgressBar* one : lines().findChildren<QProgressBar*>())
        if (one->isVisible() && one->accessibleName().contains(words)) return one;
      return nullptr;
    };
    QVERIFY(bar() != nullptr);
    // Where nobody knows how far it is, the bar says that it goes on.
    QTRY_VERIFY(bar() == nullptr || bar()->maximum() == 0 || bar()->value() < bar()->maximum());
  }
  void stop(const QString& words) {
    lookAt(words);
    QVERIFY(press(lines(), "Stop"));
    QTRY_VERIFY_WITH_TIMEOUT(work.jobs().jobs().empty(), 20000);
    QTRY_VERIFY(!lines().isVisible());
  }
  QString problem() { return view<ProblemLine>().isVisible() ? view<ProblemLine>().words() : QString(); }
  QString state() { return view<StripBar>().stateText(); }
};

QStringList leftBehind(const QString& folder) {
  return QDir(folder).entryList({".oct-*"}, QDir::Files | QDir::Hidden);
}

}  // namespace

class LongJobsTest : public QObject {
  Q_OBJECT
  std::unique_ptr<QTemporaryDir> state_;
  QTemporaryDir large_;
  QString file_;

  /// So many clips that reading and writing them takes longer than a moment.
  void writeLarge() {
    test::SessionMaker make(large_.path());
    make.medium("m", test::noise(2, 480, 1));
    for (int t = 0; t < 40; ++t) make.track("t" + std::to_string(t));
    for (Track& track : make.session.tracks)
      for (Frame c = 0; c < 8000; ++c) {
        Clip clip;
        clip.id = track.id + "-" + std::to_string(c);
        clip.medium = "m";
        clip.start = c * 500;
        clip.length = 480;
        track.clips.push_back(clip);
      }
    file_ = make.save();
  }

 private slots:
  void initTestCase() {
    state_ = test::prepareTests();
    qputenv("LV2_PATH", OCTAPHON_TEST_PLUGINS);
    qputenv("OCTAPHON_WORKER", OCTAPHON_WORKER_PATH);
    writeLarge();
  }

  // What was open stays; what is opened comes whole, or not at all.
  void opening() {
    Waiting o;
    o.open();
    const auto before = o.now();
    o.window.sessions().open(file_);
    o.stop("Opening test");
    QCOMPARE(o.now(), before);
    QVERIFY(o.state().contains("test.octaphon: it was stopped"));
    QVERIFY(o.problem().isEmpty());
    o.open(file_);
    QCOMPARE(o.now()->tracks.size(), std::size_t{40});
  }

  // Installed, it is made where one can work in it; stopped half-way, it is finished the next time.
  void makingTheDemo() {
    QTemporaryDir home;
    const QByteArray before = qgetenv("HOME");
    qputenv("HOME", home.path().toUtf8());
    qputenv("OCTAPHON_DEMO_MAKER", OCTAPHON_DEMO_MAKER);
    const auto restore = qScopeGuard([&] { qputenv("HOME", before), qunsetenv("OCTAPHON_DEMO_MAKER"); });
    Waiting o;
    QSignalSpy said(&o.work.news(), &News::said);
    o.run("session.demo");
    o.stop("Making the sounds of the demo");
    QVERIFY(!o.work.document().isOpen());
    QVERIFY(!said.isEmpty() && said.last()[0].toString().contains("stopped"));
    o.run("session.demo");
    QTRY_VERIFY_WITH_TIMEOUT(o.work.document().isOpen(), 60000);
    QCOMPARE(QString::fromStdString(o.now()->file.string()),
             QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation) +
                 "/Tidewheel/Tidewheel.octaphon");
    QVERIFY(o.now()->file.string().starts_with(home.path().toStdString()));
    o.settle();
    QCOMPARE(o.count(RowState::ToMake), o.files().size());
  }

  // Edited while another is on its way: nothing of it is lost unasked.
  void openingAsksForWhatWasDoneMeanwhile_data() {
    QTest::addColumn<QString>("answer");
    QTest::newRow("keeps what was done") << "Cancel";
    QTest::newRow("saves what was done") << "Save";
    QTest::newRow("gives up what was done") << "Discard";
  }
  void openingAsksForWhatWasDoneMeanwhile() {
    QFETCH(QString, answer);
    Waiting o;
    o.open();
    o.window.sessions().open(file_);
    o.lookAt("Opening test");
    QVERIFY(!o.window.commands().action("session.open")->isEnabled());
    o.run("track.new");
    const std::size_t tracks = o.now()->tracks.size();
    QTimer answers;
    connect(&answers, &QTimer::timeout, &answers, [&] {
      auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
      if (box == nullptr) return;
      answers.stop();
      press(*box, answer);
    });
    answers.start(20);
    QTRY_VERIFY_WITH_TIMEOUT(!answers.isActive(), 20000);
    o.finish();
    QCOMPARE(o.now()->tracks.size(), answer == "Cancel" ? tracks : std::size_t{40});
    QCOMPARE(loadSession(o.session().toStdString())->tracks.size(), answer == "Save" ? tracks : tracks - 1);
    o.work.document().undoStack().setClean();
  }

  // Given up for a session that did not come: it is asked for again before it goes.
  void whatWasGivenUpForNothingStays() {
    Waiting o;
    o.open();
    o.run("track.new");
    int asked = 0;
    QStringList answers{"Discard", "Cancel"};
    QTimer answering;
    connect(&answering, &QTimer::timeout, &answering, [&] {
      auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
      if (box != nullptr && press(*box, answers.value(asked))) ++asked;
    });
    answering.start(20);
    o.open(o.dir.filePath("nothing.octaphon"));
    QTRY_VERIFY(o.problem().contains("nothing.octaphon"));
    o.window.close();
    QTRY_COMPARE(asked, 2);
    QVERIFY(o.window.isVisible() && o.window.isWindowModified());
    answering.stop();
    o.work.document().undoStack().setClean();
  }

  // What is edited while the session is written is not saved, and counts as such.
  void saving() {
    QFile::copy(file_, file_ + ".before");
    Waiting o;
    o.open(file_);
    o.run("track.new");
    const QByteArray before = test::bytesOf(file_);
    key(&o.window, Qt::Key_S, Qt::ControlModifier);
    o.stop("Saving test");
    QCOMPARE(test::bytesOf(file_), before);
    QVERIFY(leftBehind(large_.path()).isEmpty());
    QVERIFY(o.window.isWindowModified());
    key(&o.window, Qt::Key_S, Qt::ControlModifier);
    o.run("track.new");
    o.finish();
    QCOMPARE(loadSession(file_.toStdString())->tracks.size(), std::size_t{41});
    QVERIFY(o.window.isWindowModified());
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QVERIFY(o.window.isWindowModified());  // undone beyond what is in the file
    key(&o.window, Qt::Key_S, Qt::ControlModifier);
    o.finish();
    QVERIFY(!o.window.isWindowModified());
    QCOMPARE(loadSession(file_.toStdString())->tracks.size(), std::size_t{40});
  }

  // Closed while it is saved: the window goes when it is in its file.
  void closingWaitsForSaving() {
    Waiting o;
    o.open(file_);
    o.run("track.new");
    key(&o.window, Qt::Key_S, Qt::ControlModifier);
    o.window.close();
    QTRY_VERIFY_WITH_TIMEOUT(!o.window.isVisible(), 20000);
    QCOMPARE(loadSession(file_.toStdString())->tracks.size(), std::size_t{41});
    QVERIFY(Rescue::found().empty());
    QFile::remove(file_);
    QFile::rename(file_ + ".before", file_);
  }

  void bringingIn() {
    QTemporaryDir sounds;
    test::writeSound(sounds.filePath("0.wav"), test::noise(1, 48, 1));
    for (int i = 1; i < 20'000; ++i)
      fs::create_hard_link(sounds.filePath("0.wav").toStdString(),
                           sounds.filePath(QString::number(i) + ".wav").toStdString());
    Waiting o;
    o.open();
    const auto before = o.now();
    test::drop(o.view<TimelineView>().viewport(), {sounds.path()}, QPoint(400, 200));
    o.stop("Bringing in files");
    QCOMPARE(o.now(), before);
    QVERIFY(o.state().contains("nothing was brought in"));
    // What is done meanwhile stays done.
    test::drop(o.view<TimelineView>().viewport(), {sounds.filePath("7.wav")}, QPoint(400, 200));
    o.run("track.new");
    o.finish();
    QCOMPARE(o.now()->tracks.size(), before->tracks.size() + 2);
  }

  void lookingAtMedia() {
    QTemporaryDir dir;
    Hours make(dir.path());
    for (const char* id : {"a", "b"}) make.add(id, QString("media/%1.wav").arg(id), 3 * kHour);
    make.region("r", "Long", 0, 48000);
    make.brief("One").what.tracks = Selection::everything();
    Waiting o;
    o.window.sessions().open(make.save());
    o.stop("Looking at media");
    o.settle();
    QVERIFY(o.count(RowState::Fault) > 0);
    QVERIFY(o.state().contains("cannot be made"));
    o.work.sheets().refresh();  // as when one comes back to the window
    QTRY_VERIFY_WITH_TIMEOUT(o.count(RowState::Fault) == 0, 60000);
  }

  void findingMedia() {
    QTemporaryDir dir;
    Hours make(dir.path());
    make.add("a", "media/a.wav", 3 * kHour);
    make.session.media[0].content = std::string(32, 'f');  // of the same length, and never found
    const QString file = make.save();
    for (int i = 0; i < 6; ++i) writeSilence(dir.filePath(QString("elsewhere/%1.wav").arg(i)), 3 * kHour);
    QVERIFY(QFile::remove(dir.filePath("media/a.wav")));
    Waiting o;
    o.open(file);
    QTRY_VERIFY(o.work.sheets().facts() != nullptr);
    test::choosing(dir.filePath("elsewhere"), [&] { o.run("media.find"); });
    o.stop("Looking for missing media");
    QVERIFY(o.state().contains("Stopped: 0 of 1 missing file found"));
    QCOMPARE(o.now()->media[0].file, std::string("media/a.wav"));
    QVERIFY(!o.window.isWindowModified());
  }

  void copyingMedia() {
    QTemporaryDir dir;
    QDir(dir.path()).mkpath("session");
    Hours make(dir.filePath("session"));
    for (const char* id : {"a", "b", "c", "d"}) make.add(id, QString("../far/%1.wav").arg(id), kHour);
    Waiting o;
    o.open(make.save());
    QTRY_VERIFY_WITH_TIMEOUT(o.work.sheets().facts() != nullptr, 30000);
    o.finish();
    o.run("media.copy");
    o.stop("Copying media");
    QVERIFY(o.state().contains("Stopped: "));
    const QString media = dir.filePath("session/media");
    QVERIFY(leftBehind(media).isEmpty());
    std::size_t copied = 0;
    for (const Medium& medium : o.now()->media) {
      const fs::path there = o.now()->folder() / medium.file;
      QCOMPARE(fs::file_size(there), std::uintmax_t{kHour} * 4 + 44);
      copied += medium.file.starts_with("media/") ? 1 : 0;
    }
    QCOMPARE(static_cast<std::size_t>(QDir(media).entryList(QDir::Files).size()), copied);
    QVERIFY(copied < 4);
  }

  void measuring() {
    QTemporaryDir dir;
    Hours make(dir.path());
    make.add("a", "media/a.wav", 3 * kHour);
    make.region("r", "Long", 0, 3 * kHour);
    make.brief("One").what.tracks = Selection::everything();
    Waiting o;
    o.open(make.save());
    o.settle();
    o.view<SheetView>().table().setFocus();
    o.view<SheetView>().table().selectAll();
    o.run("row.measure");
    o.stop("Measuring how loud");
    QVERIFY(o.state().contains("Measuring was stopped"));
  }

  // One plug-in answers, the other never does.
  void askingPlugins() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("m", test::noise(2, 4800, 1));
    for (const char* id : {"late", "sleeps"}) {
      Insert insert;
      insert.id = id;
      insert.effect = std::string("urn:octaphon:test:") + id;
      make.track(id);
      make.session.tracks.back().inserts.push_back(insert);
      make.clip(id, "m", 0, 4800);
    }
    make.region("r", "All", 0, 4800);
    Brief& brief = make.brief("One");
    brief.what.mix = false;
    brief.what.tracks = Selection::everything();
    Waiting o;
    o.window.sessions().open(make.save());
    o.lookAt("Asking plug-ins");
    key(&o.window, Qt::Key_Period, Qt::ControlModifier | Qt::ShiftModifier);
    QTRY_VERIFY_WITH_TIMEOUT(o.work.jobs().jobs().empty(), 20000);
    o.settle();
    QCOMPARE(o.count(RowState::Fault), 1L);  // the other is known by now
  }

  // To be heard, a medium of another rate is converted first: stopped, nothing is left of it, and nobody
  // waits.
  void convertingToListen() {
    QTemporaryDir dir;
    Hours make(dir.path());
    make.add("a", "media/a.wav", 2 * kHour, 44100);
    Waiting o;
    o.open(make.save());
    QTRY_VERIFY_WITH_TIMEOUT(o.work.sheets().facts() != nullptr, 30000);
    o.finish();
    key(o.view<TimelineView>().viewport(), Qt::Key_Space);
    QVERIFY(o.work.transport().isPlaying());
    o.stop("Converting media");
    QVERIFY(!o.work.transport().isPlaying());
    o.work.transport().setPosition(48000);
    QVERIFY(test::filesBelow(o.dir.filePath("cache")).filter(".w64").isEmpty());
  }

  void writingTheSheet() {
    Waiting o;
    o.open();
    const QString file = o.dir.filePath("out/sheet.csv");  // whose folder is not there
    test::choosing(file, [&] { o.run("sheet.export"); });
    o.finish();
    QVERIFY(o.problem().contains("sheet.csv"));
    QVERIFY(!QFile::exists(file));
  }
};

QTEST_MAIN(LongJobsTest)
#include "tst_long_jobs.moc"
