// Delivering again, in the window.
#include "app/delivery/folder_panel.h"
#include "app/delivery/strip_bar.h"
#include "opened.h"
#include "yard.h"

using namespace octaphon;
using namespace octaphon::app;
using test::contentsOf;
using test::key;
using test::Opened;
using test::soundIn;

namespace {

/// A window on a demo whose first brief alone is ticked, and that brief's files.
struct Delivered : Opened {
  Delivered() {
    open();
    for (std::size_t i = 1; i < now()->briefs.size(); ++i)
      work.briefs().setTicked(now()->briefs[i].id, false);
    settle();
    make();
  }
  void make() {
    key(&window, Qt::Key_Return, Qt::ControlModifier);
    goOn();
    waitForRun();
  }
  QString out(const QString& file = {}) const { return dir.filePath("Deliveries/Game/" + file); }
  QTableView& table() { return *view<SheetView>().findChild<QTableView*>(); }
  FolderPanel& folder() {
    work.showPanel("folder");
    FolderPanel& panel = view<FolderPanel>();
    [&] { QTRY_VERIFY(panel.isVisible()); }();
    return panel;
  }
  /// The line of a group, null where there is none.
  QTreeWidgetItem* group(const QString& title) {
    QTreeWidget& tree = folder().tree();
    for (int i = 0; i < tree.topLevelItemCount(); ++i)
      if (tree.topLevelItem(i)->text(0).section(' ', 1) == title) return tree.topLevelItem(i);
    return nullptr;
  }
  QStringList filesOf(const QString& title) {
    QStringList files;
    if (const QTreeWidgetItem* found = group(title))
      for (int i = 0; i < found->childCount(); ++i) files << found->child(i)->text(0);
    return files;
  }
  std::string regionId(const char* name) {
    for (const Region& region : now()->regions)
      if (region.name == name) return region.id;
    return {};
  }
};

}  // namespace

class AgainViewTest : public QObject {
  Q_OBJECT
  std::unique_ptr<QTemporaryDir> state_ = test::prepareTests();

 private slots:
  void deliverChangeThreeDeliverAgain() {
    Delivered o;
    const auto before = contentsOf(o.out());
    QCOMPARE(before.size(), 30u);
    QCOMPARE(o.filesOf("made by the last run").size(), 30);
    // A name, in Details; a level, in one clip; a row held back, on the sheet.
    o.work.selected().set(Thing::Region, {o.regionId("Crane/Lift 01")});
    o.work.showPanel("details");
    QLineEdit* name = nullptr;
    QTRY_VERIFY((name = test::fieldNamed<QLineEdit>(o.view<DetailsPanel>(), "Name")) != nullptr);
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "Crane/Hoist 01");
    key(name, Qt::Key_Return);
    QTRY_COMPARE(o.count(RowState::Renamed), 4);
    o.work.document().edit("Change a clip", [](Session& session) {
      for (Track& track : session.tracks)
        if (track.name == "Brake") track.clips[0].gainDb -= 1;
    });
    QTRY_COMPARE(o.count(RowState::Stale), 3);  // itself, what is keyed along, the mix
    o.work.showPanel("sheet");
    o.work.rows().show(o.rowKey(0));
    key(&o.table(), Qt::Key_Backspace, Qt::ControlModifier);
    QTRY_COMPARE(o.count(RowState::HeldBack), 1);
    // Told before: in the folder's list, and on the button.
    QCOMPARE(o.filesOf("renamed").size(), 4);
    QVERIFY(o.group("renamed")->child(0)->text(1).startsWith("was crane_lift"));
    QCOMPARE(o.filesOf("replaced").size(), 3);
    QCOMPARE(o.window.commands().action("make.due")->text(), QString("Make 7 files"));
    o.make();
    QTRY_COMPARE(o.count(RowState::UpToDate), 29);
    QVERIFY(o.view<StripBar>().stateText().contains("3 files made"));
    QVERIFY(o.view<StripBar>().stateText().contains("4 renamed"));
    QCOMPARE(o.filesOf("replaced by the last run").size(), 3);
    QCOMPARE(o.filesOf("renamed by the last run").size(), 4);
    const auto after = contentsOf(o.out());
    QCOMPARE(after.size(), 30u);
    int changed = 0;
    for (const auto& [file, bytes] : after) {
      const auto same = before.find(QString(file).replace("hoist", "lift"));
      QVERIFY2(same != before.end(), qPrintable(file));
      changed += soundIn(same->second) == soundIn(bytes) ? 0 : 1;
    }
    QCOMPARE(changed, 3);
    key(&o.window, Qt::Key_Return, Qt::ControlModifier);  // nothing more
    QVERIFY(!o.work.making().isRunning());
  }

  void rowsAreHeldBackAndLetGo() {
    Delivered o;
    o.work.showPanel("sheet");
    o.work.rows().show(o.rowKey(0));
    key(&o.table(), Qt::Key_Down, Qt::ShiftModifier);
    key(&o.table(), Qt::Key_Down, Qt::ShiftModifier);
    key(&o.table(), Qt::Key_Backspace, Qt::ControlModifier);
    QTRY_COMPARE(o.count(RowState::HeldBack), 3);
    QCOMPARE(Commands::title(*o.window.commands().action("edit.undo")), QString("Undo Hold 3 files back"));
    QVERIFY(QString::fromStdString(countText(*o.work.sheets().sheet())).endsWith("3 held back"));
    key(&o.table(), Qt::Key_Backspace, Qt::ControlModifier);
    QTRY_COMPARE(o.count(RowState::HeldBack), 0);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QTRY_COMPARE(o.count(RowState::HeldBack), 3);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QTRY_COMPARE(o.count(RowState::HeldBack), 0);
    QVERIFY(o.now()->briefs[0].heldBack.empty());
  }

  // In a text the keys take a word away, and no file.
  void textKeepsItsKeys() {
    Delivered o;
    o.work.showPanel("sheet");
    o.work.rows().show(o.rowKey(0));
    auto* filter = o.view<SheetView>().findChild<QLineEdit*>();
    filter->setFocus();
    QTest::keyClicks(filter, "winch start");
    key(filter, Qt::Key_Backspace, Qt::ControlModifier);
    QCOMPARE(filter->text(), QString("winch "));
    auto& names = o.view<TemplateEdit>();
    names.setFocus();
    names.moveCursor(QTextCursor::End);
    QTest::keyClicks(&names, " more");
    key(&names, Qt::Key_Backspace, Qt::ControlModifier);
    QVERIFY(!names.toPlainText().contains("more"));
    QCOMPARE(o.now()->briefs[0].heldBack.size(), 0u);
  }

  // What a run of another brief does is none of what this one waits for.
  void anEditionWaitsForItsBrief() {
    Delivered o;
    o.run("brief.edition");
    o.settle();
    o.work.briefs().setTicked(o.now()->briefs[1].id, true);
    o.settle();
    std::vector<std::string> others;
    const auto sheet = o.work.sheets().sheet();
    for (const Row& row : sheet->rows)
      if (sheet->briefOf(row).brief.id == o.now()->briefs[1].id) others.push_back(sheet->keyOf(row));
    o.work.maker().makeRows(others, false);
    o.work.maker().goOn();
    o.waitForRun();
    QCOMPARE(o.work.acts().newEditions().count(o.now()->briefs[0].id), 1u);
  }

  void leftOverFilesGoToTheTrash() {
    Delivered o;
    const QString home = o.dir.filePath("home");
    qputenv("XDG_DATA_HOME", home.toLocal8Bit());
    QFile foreign(o.out("notes.txt"));
    QVERIFY(foreign.open(QIODevice::WriteOnly));
    foreign.close();
    o.work.selected().set(Thing::Region, {o.regionId("Winch/Stop 02")});
    o.run("edit.delete");
    QTRY_COMPARE(o.work.sheets().counts().leftOver, 3u);
    QCOMPARE(o.filesOf("left over").size(), 3);
    QCOMPARE(o.filesOf("foreign"), QStringList{"notes.txt"});
    QVERIFY(test::press(o.folder(), "Move 3 left-over files"));
    QTRY_COMPARE(o.work.sheets().counts().leftOver, 0u);
    QCOMPARE(QDir(home + "/Trash/files").entryList(QDir::Files).size(), 3);
    QVERIFY(QFile::exists(o.out("notes.txt")));
    QVERIFY(!o.window.commands().action("folder.clean")->isEnabled());
    // Deleting the region is undone: its files are to make.
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QTRY_COMPARE(o.count(RowState::ToMake), 3);
    qunsetenv("XDG_DATA_HOME");
  }

  void anotherEdition() {
    Delivered o;
    o.editBrief(0, [](Brief& brief) { brief.names.format = "v{edition.version}_{region}_{source}"; });
    QTRY_COMPARE(o.count(RowState::Renamed), 30);
    o.make();
    QTRY_COMPARE(o.count(RowState::UpToDate), 30);
    o.run("brief.edition");
    QTRY_COMPARE(o.count(RowState::ToMake), 30);
    QVERIFY(o.files()[0].startsWith("v2_"));
    QVERIFY(
        test::fieldNamed<QLabel>(o.folder(), "What the next run begins with")->text().contains("Edition 2"));
    o.run("brief.edition");  // not yet
    QTRY_COMPARE(o.count(RowState::UpToDate), 30);
    o.run("brief.edition");
    QTRY_COMPARE(o.count(RowState::ToMake), 30);
    o.make();
    QTRY_COMPARE(o.count(RowState::UpToDate), 30);
    QCOMPARE(contentsOf(o.out()).size(), 60u);
    QCOMPARE(o.work.sheets().counts().leftOver, 0u);
    QVERIFY(o.work.acts().newEditions().empty());
  }

  void numbersAreGivenAgain() {
    Delivered o;
    o.editBrief(0, [](Brief& brief) { brief.names.format = "{n:2}_{source}"; });
    QTRY_COMPARE(o.count(RowState::Renamed), 30);
    o.make();
    QTRY_COMPARE(o.count(RowState::UpToDate), 30);
    o.work.selected().set(Thing::Region, {o.regionId("Winch/Start 01")});
    o.run("edit.delete");
    QTRY_VERIFY(o.files().size() < 30);
    const auto left = o.files().size();
    QVERIFY(o.files()[0].startsWith("04_"));
    o.run("brief.number-again");
    QTRY_VERIFY(o.files()[0].startsWith("01_"));
    QCOMPARE(o.count(RowState::Renamed), left);
    QCOMPARE(o.filesOf("renamed").size(), left);
    o.run("brief.number-again");
    QTRY_VERIFY(o.files()[0].startsWith("04_"));
    o.run("brief.number-again");
    QTRY_VERIFY(o.files()[0].startsWith("01_"));
    o.make();
    QTRY_COMPARE(o.count(RowState::UpToDate), left);
    QVERIFY(o.files()[0].startsWith("01_"));
  }

  void theBriefStopsWhereFilesAre() {
    Delivered o;
    o.editBrief(0, [](Brief& brief) {
      brief.ends.fadeInMs = 3;
      brief.delivery.existing = Existing::Stop;
    });
    QTRY_COMPARE(o.count(RowState::Stale), 30);
    QVERIFY(!o.window.commands().action("make.due")->isEnabled());
    QVERIFY(!o.window.commands().action("make.all")->isEnabled());
    QCOMPARE(o.filesOf("kept").size(), 30);
  }
};

QTEST_MAIN(AgainViewTest)
#include "tst_again_view.moc"
