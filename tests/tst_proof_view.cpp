// The proof as people use it: what was found is looked at, heard, accepted and taken back; and what changes
// while it is.
#include "app/delivery/file_view.h"
#include "app/delivery/strip_bar.h"
#include "opened.h"
#include "wav_bytes.h"

using namespace octaphon;
using namespace octaphon::app;
using test::key;
using test::Opened;
using test::proofLines;
using test::WavBytes;

namespace {

constexpr auto kCtrl = Qt::ControlModifier;

/// The first three rows are made: two layers and their mix.
struct Made : Opened {
  std::vector<std::string> rows;
  QStringList names;

  Made() {
    open();
    for (std::size_t row = 0; row < 3; ++row) {
      rows.push_back(rowKey(row));
      names << files().at(static_cast<qsizetype>(row));
    }
    make(false);
  }
  void make(bool any) {
    work.maker().makeRows(rows, any);
    work.maker().goOn();
    waitForRun();
  }
  QString path(qsizetype row) const { return dir.filePath("Deliveries/Game/" + names[row]); }
  void silence(qsizetype row) const {
    WavBytes wav(path(row));
    wav.chunk("data").fill('\0');
    wav.save();
  }
  /// As the button does, and waits.
  void check() {
    run("delivery.check");
    settle();
    finish();
  }
  QString words() {
    for (const QLabel* label : view<ProofPanel>().findChildren<QLabel*>())
      if (label->font().pixelSize() == Theme::sentence().pixelSize()) return label->text();
    return {};
  }
  QTreeWidget& table() { return view<ProofPanel>().table(); }
  void choose(QTreeWidgetItem* line) {
    table().setFocus();
    table().setCurrentItem(line);
  }
};

}  // namespace

class ProofViewTest : public QObject {
  Q_OBJECT
 private slots:
  void init() { QSettings().clear(); }

  // What is made is read back by itself; nothing has to be asked for.
  void whatIsMadeIsChecked() {
    Made o;
    QCOMPARE(proofLines(o, "Nothing found").size(), 3);
    QVERIFY2(o.words().startsWith("3 files checked at "), qPrintable(o.words()));
    QVERIFY(o.words().contains("nothing found"));
    QCOMPARE(proofLines(o, "Layers add up").size(), 1);
  }

  // Damaged afterwards it is found, leads to its row, is accepted with a reason and counts again, and undo
  // takes either back.
  void aFindingIsAcceptedAndTakenBack() {
    Made o;
    o.silence(0);
    o.check();
    auto lines = proofLines(o, "Silence");
    QCOMPARE(lines.size(), 1);
    QCOMPARE(lines[0]->text(0), o.names[0]);
    o.choose(lines[0]);
    key(&o.table(), Qt::Key_Return);
    QTRY_COMPARE(o.work.rows().current(), o.rows[0]);
    o.run("panel.proof");
    auto* reason = test::fieldNamed<QLineEdit>(o.view<ProofPanel>(), "Reason for accepting");
    QVERIFY(reason != nullptr);
    reason->setFocus();
    QTest::keyClicks(reason, "a pause");
    key(reason, Qt::Key_Return);
    o.settle();
    QVERIFY(proofLines(o, "Silence").isEmpty());
    lines = proofLines(o, "Accepted: Silence");
    QCOMPARE(lines.size(), 1);
    QVERIFY(lines[0]->text(1).contains("a pause"));
    QVERIFY2(o.words().contains("1 accepted"), qPrintable(o.words()));
    o.check();  // what was accepted stays so
    QCOMPARE(proofLines(o, "Accepted: Silence").size(), 1);
    key(&o.window, Qt::Key_Z, kCtrl);
    o.settle();
    QCOMPARE(proofLines(o, "Silence").size(), 1);
    key(&o.window, Qt::Key_Z, kCtrl | Qt::ShiftModifier);
    o.settle();
    lines = proofLines(o, "Accepted: Silence");
    QCOMPARE(lines.size(), 1);
    o.choose(lines[0]);
    QVERIFY(test::press(o.view<ProofPanel>(), "Count 1 again"));
    o.settle();
    QCOMPARE(proofLines(o, "Silence").size(), 1);
    // Made again it is well.
    o.make(true);
    QVERIFY(proofLines(o, "Silence").isEmpty());
  }

  // What a run replaces is held against what comes; it can still be heard.
  void againstTheLastTime() {
    Made o;
    o.work.document().edit("Softer", [](Session& session) {
      for (Track& track : session.tracks)
        if (track.id == "gear") track.gainDb -= 6;
    });
    o.settle();
    o.make(false);
    const auto lines = proofLines(o, "Otherwise than last time");
    QVERIFY(!lines.isEmpty());
    QVERIFY(lines[0]->text(1).startsWith("differs by "));
    o.choose(lines[0]);
    FileView& view = o.view<FileView>();
    QTRY_VERIFY(view.accessibleDescription().contains("LUFS over 400 ms"));
    QVERIFY(view.spot() > 0 || lines[0]->text(1).contains("at 0:00"));
    QVERIFY(test::press(o.view<ProofPanel>(), "Before"));
    QTRY_VERIFY(o.work.transport().isPlaying());
    o.work.transport().stop();
    QVERIFY(test::press(o.view<ProofPanel>(), "Between"));
    QTRY_VERIFY(o.work.transport().isPlaying());
    o.work.transport().stop();
  }

  // Asked for, the edition that is there is held against the one before; that can be heard too.
  void againstTheEditionBefore() {
    Opened o;
    o.open();
    o.editBrief(0, [](Brief& brief) { brief.names.format = "v{edition.version}/" + brief.names.format; });
    o.settle();
    const std::vector<std::string> rows{o.rowKey(0), o.rowKey(1), o.rowKey(2)};
    const auto make = [&] {
      o.work.maker().makeRows(rows, false);
      o.work.maker().goOn();
      o.waitForRun();
    };
    make();
    o.work.document().edit("Softer", [](Session& session) {
      for (Track& track : session.tracks)
        if (track.id == "gear") track.gainDb -= 6;
    });
    o.work.briefs().choose(o.now()->briefs[0].id);
    o.run("brief.edition");
    o.settle();
    make();
    o.run("delivery.check");
    o.settle();
    const auto lines = proofLines(o, "Otherwise than last time");
    QVERIFY(!lines.isEmpty());
    QVERIFY2(lines[0]->text(0).startsWith("v2/") && lines[0]->text(1).startsWith("was v1/"),
             qPrintable(lines[0]->text(1)));
    o.view<ProofPanel>().table().setCurrentItem(lines[0]);
    QVERIFY(test::press(o.view<ProofPanel>(), "Before"));
    QTRY_VERIFY(o.work.transport().isPlaying());
    o.work.transport().stop();
  }

  // The spot by keys and mouse; frequencies and figures where they are asked for; nobody is left with a
  // picture of another file.
  void lookingAtAFile() {
    Made o;
    const auto lines = proofLines(o, "Nothing found");
    o.choose(lines[0]);
    FileView& view = o.view<FileView>();
    QTRY_VERIFY(o.work.looker().picture() != nullptr);
    view.setFocus();
    key(&view, Qt::Key_Right);
    const Frame step = view.spot();
    QVERIFY(step > 0);
    key(&view, Qt::Key_End);
    QCOMPARE(view.spot(), o.work.looker().picture()->frames - 1);
    key(&view, Qt::Key_Home);
    QCOMPARE(view.spot(), Frame{0});
    QTest::mouseClick(&view, Qt::LeftButton, {}, QPoint(view.width() / 2, view.height() / 2));
    QVERIFY(std::abs(view.spot() - o.work.looker().picture()->frames / 2) <
            o.work.looker().picture()->frames / 50);
    QVERIFY(o.work.looker().frequencies() == nullptr);
    QVERIFY(test::press(o.view<ProofPanel>(), "Frequencies"));
    QTRY_VERIFY(o.work.looker().frequencies() != nullptr);
    QVERIFY(test::press(o.view<ProofPanel>(), "Figures"));
    auto* figures = test::fieldNamed<QTreeWidget>(o.view<ProofPanel>(), "Figures of the file");
    QVERIFY(figures != nullptr && figures->findItems("First onset", Qt::MatchExactly).size() == 1);
    QVERIFY(QFile::remove(o.dir.filePath("Deliveries/Game/" + lines[0]->text(0))));
    QVERIFY(test::press(o.view<ProofPanel>(), "Wave"));
    o.choose(lines[1]);
    o.choose(lines[0]);
    QTRY_VERIFY(!o.work.looker().problem().isEmpty());
    QVERIFY(o.work.looker().picture() == nullptr);
  }

  // A file that is another one by now is drawn anew; what nobody delivered is found; what is chosen stays so
  // when a list comes while one types.
  void whatComesMeanwhile() {
    Made o;
    const auto lines = proofLines(o, "Nothing found");
    const auto row = o.names.indexOf(lines[0]->text(0));
    o.choose(lines[0]);
    FileView& view = o.view<FileView>();
    QTRY_VERIFY(view.accessibleDescription().contains("LUFS"));
    o.silence(row);
    o.silence((row + 1) % 3);
    QFile foreign(o.dir.filePath("Deliveries/Game/notes.txt"));
    QVERIFY(foreign.open(QIODevice::WriteOnly));
    o.check();
    QCOMPARE(proofLines(o, "A file that nobody delivered").size(), 1);
    auto silent = proofLines(o, "Silence");
    QCOMPARE(silent.size(), 2);
    for (QTreeWidgetItem* line : silent)
      if (line->text(0) == o.names[row]) o.choose(line);
    QTRY_VERIFY(view.accessibleDescription().contains("silent"));
    o.table().clearSelection();
    for (QTreeWidgetItem* line : silent) line->setSelected(true);
    auto* reason = test::fieldNamed<QLineEdit>(o.view<ProofPanel>(), "Reason for accepting");
    QVERIFY(reason != nullptr);
    reason->setFocus();
    QTest::keyClicks(reason, "a pa");
    o.check();
    QTest::keyClicks(reason, "use");
    key(reason, Qt::Key_Return);
    o.settle();
    QCOMPARE(proofLines(o, "Accepted: Silence").size(), 2);
    QVERIFY(proofLines(o, "Silence").isEmpty());
  }

  // A finding outlives its row, and its brief; it leads nowhere then, and nothing is accepted of it.
  void whatItIsAboutMayGo() {
    Made o;
    o.silence(0);
    o.check();
    o.choose(proofLines(o, "Silence")[0]);
    o.work.document().edit("Delete", [](Session& session) { session.briefs.clear(); });
    o.finish();
    const auto lines = proofLines(o, "Silence");
    QCOMPARE(lines.size(), 1);
    o.choose(lines[0]);
    key(&o.table(), Qt::Key_Return);
    QTRY_VERIFY(!o.view<ProofPanel>().findChild<QToolButton*>("framed")->isEnabled());
    if (auto* reason = test::fieldNamed<QLineEdit>(o.view<ProofPanel>(), "Reason for accepting")) {
      reason->setFocus();
      key(reason, Qt::Key_Return);
    }
    QCOMPARE(proofLines(o, "Silence").size(), 1);
  }

  // Another session has nothing of the first one's, though that is still being checked.
  void anotherSessionIsOpened() {
    Made o;
    o.silence(0);
    o.run("delivery.check");
    o.open();
    QVERIFY(proofLines(o, "Silence").isEmpty());
    QVERIFY(o.words().startsWith("Nothing was made or checked yet"));
  }

  // Stopped half-way, it says so, and what it did not read is as it was known before.
  void checkingIsStopped() {
    Made o;
    o.work.maker().makeAll();
    o.work.maker().goOn();
    o.waitForRun();
    o.silence(0);
    o.run("delivery.check");
    const auto isHalf = [&] {
      const auto& jobs = o.work.jobs().jobs();
      return !jobs.empty() && jobs.front().words.startsWith("Checking") && jobs.front().portion() > 0;
    };
    QVERIFY(QTest::qWaitFor(isHalf, 20000));
    QVERIFY2(o.words().startsWith("Checking"), qPrintable(o.words()));
    key(&o.window, Qt::Key_Period, kCtrl | Qt::ShiftModifier);
    o.finish();
    QTRY_VERIFY(!o.work.checking().isChecking());
    QVERIFY(o.view<StripBar>().stateText().contains("Checking was stopped"));
    QVERIFY(proofLines(o, "Silence").isEmpty());
    o.check();
    QCOMPARE(proofLines(o, "Silence").size(), 1);
  }

  // On slow disks bytes are compared, and it says so; or nothing is read.
  void lessIsReadBack() {
    Opened first;
    first.open();
    first.run("delivery.only-bytes");
    {
      Made o;
      QVERIFY2(o.words().contains("by their bytes") || proofLines(o, "Nothing found").size() == 3,
               qPrintable(o.words()));
      QVERIFY2(o.words().startsWith("3 files checked by their bytes"), qPrintable(o.words()));
    }
    first.run("delivery.only-bytes");
    first.run("delivery.reads-back");
    Made o;
    QVERIFY(proofLines(o, "Nothing found").isEmpty());
  }
};

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  const auto state = test::prepareTests();
  ProofViewTest test;
  return QTest::qExec(&test, argc, argv);
}
#include "tst_proof_view.moc"
