// While files are made: how far each row is, on sheet and outline, what was edited meanwhile, listening; what
// could not be made, and making it again; the notification at the end.
#include <map>
#include <QDBusConnection>
#include <QDBusConnectionInterface>

#include "app/delivery/strip_bar.h"
#include "app/window/notifier.h"
#include "bus.h"
#include "opened.h"

using namespace octaphon;
using namespace octaphon::app;
using test::key;
using test::Opened;

namespace {

/// What the column of states says, and how often.
std::map<QString, int> statesOf(Opened& o) {
  const SheetModel& model = o.view<SheetView>().model();
  std::map<QString, int> states;
  for (int line = 0; line < model.rowCount(); ++line)
    ++states[model.index(line, SheetModel::State).data().toString()];
  return states;
}

/// What one hears of the regions of the outline, one after the other.
QStringList heardOf(const QAbstractItemModel& model, const QModelIndex& below = {}) {
  QStringList heard;
  for (int i = 0; i < model.rowCount(below); ++i) {
    const QModelIndex index = model.index(i, 0, below);
    heard << index.data(Qt::AccessibleTextRole).toString() << heardOf(model, index);
  }
  return heard;
}

/// Makes all that is due, and holds it once something is being played.
void makeHalf(Opened& o) {
  o.open();
  key(&o.window, Qt::Key_Return, Qt::ControlModifier);
  o.goOn();
  QTRY_VERIFY_WITH_TIMEOUT(statesOf(o).contains("playing"), 60000);
  QVERIFY(test::press(o.view<StripBar>(), "Pause"));
}

/// Who takes notifications on it.
class Desktop : public QObject {
  Q_OBJECT
  Q_CLASSINFO("D-Bus Interface", "org.freedesktop.Notifications")
 public:
  QStringList told;

  bool isThere() {
    QDBusConnection bus = QDBusConnection::sessionBus();
    return bus.registerObject("/org/freedesktop/Notifications", this, QDBusConnection::ExportAllSlots) &&
           bus.registerService("org.freedesktop.Notifications");
  }

 public slots:
  uint Notify(const QString& program, uint, const QString&, const QString& summary, const QString& body,
              const QStringList&, const QVariantMap&, int) {
    told << program + ": " + summary + " / " + body;
    return static_cast<uint>(told.size());
  }
};

}  // namespace

class MakingViewTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { state_ = test::prepareTests(); }

  void eachRowSaysWhereItIs() {
    Opened o;
    makeHalf(o);
    auto states = statesOf(o);
    QVERIFY(states["waiting"] + states["done"] > 0);
    QCOMPARE(states["to make"] + states["stale"], 0);
    const auto* outline = o.view<OutlineView>().model();
    const auto isToldOf = [&] {
      const QStringList heard = heardOf(*outline);
      return !(heard.filter(", playing") + heard.filter(", waiting") + heard.filter(", done")).isEmpty();
    };
    QTRY_VERIFY(isToldOf());
    // Listening goes on meanwhile.
    o.view<TimelineView>().setFocus();
    key(&o.view<TimelineView>(), Qt::Key_Space);
    QTRY_VERIFY(o.work.transport().position() > 0);
    key(&o.view<TimelineView>(), Qt::Key_Space);
    // Names may be others by now: it is the same file that is played.
    const auto was = statesOf(o);
    o.editBrief(0, [](Brief& brief) { brief.names.format = "x" + brief.names.format; });
    o.settle();
    QVERIFY(o.files()[0].startsWith("x"));
    QCOMPARE(statesOf(o), was);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    o.settle();
    // Nor are there the same rows, nor is the outline as it was.
    o.work.document().edit("Rename", [](Session& session) {
      session.regions[0].name = "Capstan/1";
      session.briefs[1].isOn = false;
    });
    o.settle();
    QVERIFY(statesOf(o).contains("waiting") && !statesOf(o).contains("to make") && isToldOf());
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    o.settle();
    QVERIFY(test::press(o.view<StripBar>(), "Go on"));
    o.waitForRun();
    states = statesOf(o);
    QCOMPARE(states["up to date"], static_cast<int>(o.files().size()));
    QVERIFY(!isToldOf());
  }

  void whatWasStoppedIsToMakeAgain() {
    Opened o;
    makeHalf(o);
    QVERIFY(test::press(o.view<StripBar>(), "Stop"));
    o.waitForRun();
    const auto states = statesOf(o);
    for (const auto& [state, count] : states)
      QVERIFY2(state == "to make" || state == "up to date", qPrintable(state));
    QVERIFY(states.at("to make") > 0);
  }

  // What is in the way is told with each file; once it has gone, those and no others are made.
  void whatFailedIsTriedAgain() {
    Opened o;
    o.open();
    const QString folder = o.dir.filePath("Deliveries/Tour/Tour_20 s");
    QVERIFY(o.files().filter("Tour_20 s/").size() == 5 && QDir().mkpath(QFileInfo(folder).path()));
    QFile inTheWay(folder);
    QVERIFY(inTheWay.open(QIODevice::WriteOnly));
    inTheWay.close();
    ProofPanel& proof = o.view<ProofPanel>();
    QVERIFY(!o.window.commands().action("make.failed")->isEnabled());
    key(&o.window, Qt::Key_Return, Qt::ControlModifier);
    o.goOn();
    o.waitForRun();
    QTRY_VERIFY(o.window.commands().action("make.failed")->isEnabled());
    o.run("panel.proof");
    const auto failed = test::proofLines(o, "Not made");
    QCOMPARE(failed.size(), 5);
    for (const QTreeWidgetItem* line : failed)
      QVERIFY2(line->text(1).contains(QFileInfo(folder).fileName()), qPrintable(line->text(1)));
    const auto made = o.count(RowState::UpToDate);
    QCOMPARE(made, static_cast<long>(o.files().size()) - 5);
    QVERIFY(inTheWay.remove());
    QVERIFY(test::press(proof, "Try 5 failed files again"));
    o.goOn();
    o.waitForRun();
    QTRY_COMPARE(o.count(RowState::UpToDate), static_cast<long>(o.files().size()));
    QVERIFY(!o.window.commands().action("make.failed")->isEnabled());
    QVERIFY(test::proofLines(o, "Not made").isEmpty());
  }

  // What nobody asks for any more is not tried again, and what still cannot be made is told.
  void whatFailedMayGoOrStay_data() {
    QTest::addColumn<bool>("goes");
    QTest::newRow("its region is deleted") << true;
    QTest::newRow("it is still in the way") << false;
  }
  void whatFailedMayGoOrStay() {
    QFETCH(bool, goes);
    Opened o;
    o.open();
    const QString folder = o.dir.filePath("Deliveries/Tour/Tour_20 s");
    QVERIFY(QDir().mkpath(QFileInfo(folder).path()));
    QFile inTheWay(folder);
    QVERIFY(inTheWay.open(QIODevice::WriteOnly));
    inTheWay.close();
    key(&o.window, Qt::Key_Return, Qt::ControlModifier);
    o.goOn();
    o.waitForRun();
    const QAction& again = *o.window.commands().action("make.failed");
    QTRY_VERIFY(again.isEnabled());
    if (goes) {
      o.work.document().edit("Delete", [](Session& session) {
        session.regions.eraseIf([](const Region& region) { return region.name == "Tour/20 s"; });
      });
      QTRY_VERIFY(!again.isEnabled());
      return;
    }
    o.run("make.failed");
    QTRY_VERIFY(o.view<StripBar>().stateText().contains("the sheet says why"));
    QVERIFY(o.work.maker().look() == nullptr && again.isEnabled());
  }

  void theDesktopIsToldWhereNobodyLooks() {
    Desktop desktop;
    QVERIFY(desktop.isThere());
    Opened o;
    const Notifier notifier(o.work, &o.window, 0);  // any run is long
    o.open();
    QVERIFY(o.window.isActiveWindow());
    key(&o.window, Qt::Key_Return, Qt::ControlModifier);
    o.goOn();
    o.waitForRun();
    QVERIFY(desktop.told.isEmpty());
    o.window.hide();  // as one that others are in front of
    QTRY_VERIFY(QApplication::activeWindow() == nullptr);
    QFile::remove(o.dir.filePath("Deliveries/Single/gull-call-01.wav"));
    o.work.sheets().refresh();
    o.settle();
    o.run("make.due");
    QTRY_VERIFY(o.work.maker().look() != nullptr);
    o.work.maker().goOn();
    o.waitForRun();
    QTRY_COMPARE(desktop.told, QStringList{"Octaphon: 1 file made / "});
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

int main(int argc, char** argv) {
  const test::Bus bus;
  QApplication application(argc, argv);
  MakingViewTest test;
  return QTest::qExec(&test, argc, argv);
}
#include "tst_making_view.moc"
