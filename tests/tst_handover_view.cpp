// Handing over as people do it in the window: what goes out with the files, trying it, results on tracks, and
// the way back from a file.
#include <QClipboard>

#include "app/delivery/strip_bar.h"
#include "opened.h"
#include "session/session_file.h"

using namespace octaphon;
using namespace octaphon::app;
using test::key;
using test::Opened;

namespace {

/// Stands in for the receiver: notes what it was started with.
class FakeReceiver {
 public:
  explicit FakeReceiver(const QString& folder) : script_(folder + "/receiver"), noted_(folder + "/started") {
    QFile script(script_);
    if (!script.open(QIODevice::WriteOnly)) qFatal("cannot write");
    script.write("#!/bin/sh\ncat \"$3\" > '" + noted_.toUtf8() + ".manifest'\nprintf '%s\\n' \"$@\" > '" +
                 noted_.toUtf8() + "'\n");
    script.setPermissions(QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
    qputenv("OCTAPHON_RECEIVER", script_.toUtf8());
  }
  ~FakeReceiver() { qunsetenv("OCTAPHON_RECEIVER"); }
  QStringList started() const {
    return QString::fromUtf8(test::bytesOf(noted_)).split('\n', Qt::SkipEmptyParts);
  }
  QByteArray manifest() const { return test::bytesOf(noted_ + ".manifest"); }
  bool isStarted() const { return QFile::exists(noted_) && !started().isEmpty(); }

 private:
  QString script_, noted_;
};

/// The first three rows are made: two layers and their mix.
struct Made : Opened {
  std::vector<std::string> rows;
  QStringList names;

  Made() {
    open();
    work.document().edit("Files alone", [](Session& session) {
      for (Brief& brief : session.briefs) brief.handOver = {};
    });
    run("session.save");
    settle();
    for (std::size_t row = 0; row < 3; ++row) {
      rows.push_back(rowKey(row));
      names << files().at(static_cast<qsizetype>(row));
    }
    make();
  }
  void make() {
    work.maker().makeRows(rows, true);
    work.maker().goOn();
    waitForRun();
    finish();
  }
  QString folder(const QString& file = {}) const { return dir.filePath("Deliveries/Game/" + file); }
  QString path(qsizetype row) const { return folder(names[row]); }
  QString selected() { return work.rows().fileNames().join(' '); }
};

}  // namespace

class HandoverViewTest : public QObject {
  Q_OBJECT
 private slots:
  void init() { QSettings().clear(); }

  // Ticked in the sentence, the note lies there when the files do, and says what was typed; undo takes the
  // tick back.
  void theSentenceSaysWhatGoesOut() {
    Made o;
    o.run("delivery.report");  // nothing is asked for: it leads to where that is said
    QTRY_VERIFY(o.view<SentenceView>().editor() != nullptr);
    PhraseEditor* editor = o.view<SentenceView>().editor();
    QCOMPARE(editor->kind(), PhraseKind::HandOver);
    auto* title = test::fieldNamed<QLineEdit>(*editor, "Title");
    QVERIFY(title != nullptr);
    title->setFocus();
    QTest::keyClicks(title, "Sounds of the quay");
    for (const char* name : {"Note as a page", "Checksums"}) {
      QCheckBox* tick = nullptr;
      for (QCheckBox* box : editor->findChildren<QCheckBox*>())
        if (box->text() == name) tick = box;
      QVERIFY2(tick != nullptr && tick->isVisible() && !tick->isChecked(), name);
      tick->setFocus();
      key(tick, Qt::Key_Return);
      QVERIFY2(tick->isChecked(), name);
    }
    o.settle();
    QCOMPARE(o.phrase(PhraseKind::HandOver)->text(),
             QString("as 'Sounds of the quay', with a note and checksums"));
    o.make();
    QVERIFY(test::bytesOf(o.folder("delivery-note.html")).contains("Sounds of the quay"));
    QCOMPARE(test::bytesOf(o.folder("SHA256SUMS")).count('\n'), 3);
    o.settle();
    QVERIFY(o.work.sheets().sheet()->folders.front().foreign.empty());
    // Written by somebody meanwhile: it stays, and that is told.
    QFile note(o.folder("delivery-note.html"));
    QVERIFY(note.open(QIODevice::Append));
    note.write("<!-- seen -->");
    note.close();
    QSignalSpy problems(&o.work.news(), &News::problem);
    o.run("delivery.report");
    o.finish();
    QTRY_VERIFY(!problems.isEmpty());
    QVERIFY(problems.last()[0].toString().contains("delivery-note.html"));
    QVERIFY(test::bytesOf(note.fileName()).endsWith("<!-- seen -->"));
    o.run("edit.undo");
    QVERIFY(!o.now()->briefs[0].handOver.checksums);
  }

  // The receiver is started on the folder, with a manifest that lies elsewhere.
  void itIsTried() {
    Made o;
    const FakeReceiver receiver(o.dir.path());
    o.run("delivery.try");
    o.finish();
    QTRY_VERIFY(receiver.isStarted());
    QCOMPARE(QDir(receiver.started()[0]).canonicalPath(), QDir(o.folder()).canonicalPath());
    QVERIFY(receiver.manifest().contains("octaphon-manifest"));
    QVERIFY(!QFile::exists(o.folder("manifest.json")));
  }

  // Onto new tracks beside their originals, which are muted, in one step; undone in one.
  void resultsArePlacedBack() {
    Made o;
    const Session before = *o.now();
    o.work.rows().choose(o.work.sheets().sheet(), {0, 1});
    o.run("delivery.place-back");
    o.settle();
    const auto after = o.now();
    QCOMPARE(after->tracks.size(), before.tracks.size() + 2);
    std::size_t muted = 0;
    for (const Track& track : after->tracks) {
      const Track* was = findTrack(before, track.id);
      if (was != nullptr && track.mute != was->mute) ++muted;
      if (was == nullptr) {
        QVERIFY(track.name.ends_with("(result)"));
        QVERIFY(track.group.empty());
        QCOMPARE(track.clips.size(), std::size_t{1});
        QCOMPARE(track.clips[0].start, after->regions[0].start);
      }
    }
    QCOMPARE(muted, std::size_t{2});
    QStringList results;  // as they stand: in the order of the sheet
    for (const Track& track : after->tracks)
      if (findTrack(before, track.id) == nullptr) results << QString::fromStdString(track.name);
    QCOMPARE(results, (QStringList{"Gear (result)", "Chain (result)"}));
    o.run("edit.undo");
    QVERIFY(*o.now() == before);
  }

  // A new session of the results is opened when it is there.
  void resultsBecomeASession() {
    Made o;
    const QString file = o.dir.filePath("Results.octaphon");
    test::choosing(file, [&] { o.run("delivery.collect"); });
    QTRY_VERIFY_WITH_TIMEOUT(o.work.document().isOpen() && o.now()->file.filename() == "Results.octaphon",
                             20000);
    o.settle();
    QCOMPARE(o.files().size(), 3);
    QCOMPARE(QSet<QString>(o.names.begin(), o.names.end()).contains(QFileInfo(o.files()[0]).fileName()),
             true);
  }

  // What a dialog asks is about the session that it was opened over: another one waits until it is answered.
  void aDialogIsNotOvertaken() {
    Made o;
    const QString results = o.dir.filePath("Results.octaphon");
    const auto isOpen = [&](const char* file) { return o.now()->file.filename() == file; };
    bool hasStayed = false;
    test::choosing(results, [&] { o.run("delivery.collect"); });
    QTimer::singleShot(0, &o.window, [&] {
      const bool isThere =
          QTest::qWaitFor([&] { return QFile::exists(results) && o.work.jobs().jobs().empty(); }, 20000);
      hasStayed = isThere && isOpen("Tidewheel.octaphon");
      QApplication::activeModalWidget()->close();
    });
    o.run("session.save-as");
    QVERIFY(hasStayed);
    QTRY_VERIFY_WITH_TIMEOUT(isOpen("Results.octaphon"), 20000);
  }

  // Where there is no brief, nothing can be handed over, nor asked.
  void nothingIsHandedOver() {
    Opened o;
    o.open();
    o.work.document().edit("None", [](Session& session) { session.briefs.clear(); });
    QTRY_VERIFY(!o.work.sheets().isPlanning());
    QSignalSpy said(&o.work.news(), &News::said);
    o.run("delivery.report");
    QVERIFY(said.last()[0].toString().contains("No ticked brief"));
    QVERIFY(o.view<SentenceView>().editor() == nullptr);
  }

  // Under whatever name, a delivered file leads to its row, from this session or from none.
  void filesLeadBack() {
    Made o;
    const QString file = o.dir.filePath("came back.wav");
    QVERIFY(QFile::copy(o.path(1), file));
    test::drop(&o.window, {file}, QPoint(600, 700));
    QTRY_COMPARE(o.selected(), o.names[1]);
    o.work.rows().show(o.rows[0]);
    QTRY_COMPARE(o.selected(), o.names[0]);
    test::choosing(file, [&] { o.run("delivery.find"); });
    QTRY_COMPARE(o.selected(), o.names[1]);

    // Somebody else's is brought in, as before.
    const QString foreign = o.dir.filePath("foreign.wav");
    test::writeSound(foreign, test::noise(1, 4800, 7));
    const std::size_t tracks = o.now()->tracks.size();
    test::drop(&o.window, {foreign}, QPoint(600, 700));
    QTRY_COMPARE(o.now()->tracks.size(), tracks + 1);
    o.run("edit.undo");
    o.settle();

    o.run("session.close");
    QTRY_VERIFY(!o.work.document().isOpen());
    test::drop(&o.window, {file}, QPoint(600, 400));
    QTRY_VERIFY_WITH_TIMEOUT(o.work.document().isOpen(), 20000);
    o.settle();
    QTRY_COMPARE(o.selected(), o.names[1]);
  }

  // To a folder, or another program: only what is there.
  void filesAreCopied() {
    Made o;
    o.work.rows().choose(o.work.sheets().sheet(), {0, 1, 5});
    o.run("row.copy-files");
    const QList<QUrl> urls = QGuiApplication::clipboard()->mimeData()->urls();
    QCOMPARE(urls.size(), 2);
    QCOMPARE(QFileInfo(urls[1].toLocalFile()).canonicalFilePath(), QFileInfo(o.path(1)).canonicalFilePath());
    QVERIFY(o.view<SheetView>().model().flags(o.view<SheetView>().model().index(0, 0)) &
            Qt::ItemIsDragEnabled);
    o.work.rows().choose(o.work.sheets().sheet(), {5});
    QSignalSpy said(&o.work.news(), &News::said);
    o.run("row.copy-files");
    QVERIFY(said.last()[0].toString().contains("None of these files is there"));
  }

 private:
  std::unique_ptr<QTemporaryDir> state_ = test::prepareTests();
};

QTEST_MAIN(HandoverViewTest)
#include "tst_handover_view.moc"
