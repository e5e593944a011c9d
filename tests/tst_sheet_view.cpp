// The sheet and the briefs as people work on them: thousands of rows decided with the keyboard.
#include <QtTest>

#include "app/brief/brief_table.h"
#include "app/delivery/strip_bar.h"
#include "app/sheet/remarks_panel.h"
#include "app/sheet/row_panel.h"
#include "app/sheet/sheet_text.h"
#include "app/window/brief_flow.h"
#include "app/window/key_rules.h"
#include "base/remark_info.h"
#include "opened.h"
#include "session/session_file.h"

using namespace octaphon;
using namespace octaphon::app;
using test::key;
using test::Opened;

namespace {

/// 1 000 regions of four tracks and the mix: 5 000 rows, of which 800 run out of their sound.
struct Thousands : Opened {
  test::SessionMaker make{dir.path()};

  Thousands() {
    make.medium("a", test::noise(2, 2000, 1));
    for (const char* track : {"Gear", "Chain", "Low", "High"}) make.track(track);
    for (int i = 0; i < 1000; ++i) {
      const Frame start = i * 1000;
      make.region("r" + std::to_string(i), "Hit/" + std::to_string(1000 + i), start, 480);
      for (const char* track : {"Gear", "Chain", "Low", "High"}) {
        const bool runsOut = i < 400 && std::string_view(track) == "High";
        make.clip(track, "a", start, 400, runsOut ? 1800 : 0);
      }
    }
    make.brief("All").what.tracks = Selection::everything();
    make.session.briefs[0].delivery.existing = Existing::Replace;
    const QString file = make.save();
    open(file);
    settle();
  }
  SheetModel& model() { return view<SheetView>().model(); }
  QTableView& table() { return view<SheetView>().table(); }
  QLineEdit& filter() { return *test::fieldNamed<QLineEdit>(window, "Filter of the sheet"); }
  QComboBox& groups() { return *test::fieldNamed<QComboBox>(window, "Headings of the sheet"); }
  QString cell(int line, int column = SheetModel::File) {
    return model().index(line, column).data().toString();
  }
  void undo() { key(window.focusWidget(), Qt::Key_Z, Qt::ControlModifier); }
  QString undoWords() { return Commands::title(*window.commands().action("edit.undo")); }
};

QByteArray fileOf(const QString& path) {
  QFile file(path);
  return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}

}  // namespace

class SheetViewTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { state_ = test::prepareTests(); }

  // The way of the guide: 5 000 rows in 22 keystrokes and what is typed, each step taken back in one.
  void fiveThousandRowsAreMadeReady() {
    Thousands o;
    QCOMPARE(o.model().rowCount(), 5000);
    // Filter, and hold what is left back.
    key(&o.window, Qt::Key_F, Qt::ControlModifier | Qt::ShiftModifier);
    QTest::keyClicks(o.window.focusWidget(), "low");
    key(o.window.focusWidget(), Qt::Key_Down);
    QVERIFY(o.table().hasFocus());
    key(&o.table(), Qt::Key_A, Qt::ControlModifier);
    key(&o.table(), Qt::Key_Backspace, Qt::ControlModifier);
    QTRY_COMPARE(o.count(RowState::HeldBack), 1000);
    QCOMPARE(o.undoWords(), QString("Undo Hold 1000 files back"));
    o.undo();
    QTRY_COMPARE(o.count(RowState::HeldBack), 0);
    key(&o.table(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    QTRY_COMPARE(o.count(RowState::HeldBack), 1000);
    key(&o.window, Qt::Key_F, Qt::ControlModifier | Qt::ShiftModifier);
    key(o.window.focusWidget(), Qt::Key_A, Qt::ControlModifier);
    key(o.window.focusWidget(), Qt::Key_Delete);
    key(o.window.focusWidget(), Qt::Key_Down);
    // Three names of their own.
    for (const int line : {0, 1, 3}) {  // the third is held back
      o.table().setCurrentIndex(o.model().index(line, 0));
      key(&o.table(), Qt::Key_F2);
      auto* editor = test::fieldNamed<QLineEdit>(o.window, "Name of its own");
      QVERIFY(editor != nullptr);
      QVERIFY(o.cell(line).startsWith(editor->text()));
      editor->selectAll();
      QTest::keyClicks(editor, QString("Best/hit %1").arg(line));
      key(editor, Qt::Key_Return);
      QTRY_COMPARE(o.cell(line), QString("Best/hit %1.wav").arg(line));
      o.undo();
      QTRY_VERIFY(!o.cell(line).startsWith("Best"));
      key(&o.table(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
      QTRY_COMPARE(o.cell(line), QString("Best/hit %1.wav").arg(line));
    }
    QCOMPARE(o.now()->briefs[0].rowExceptions.size(), 3u);
    // 800 remarks of one cause at once, with a reason.
    const auto before = o.work.sheets().counts().remarks;
    QVERIFY(before >= 800);
    o.run("panel.remarks");
    auto& panel = o.view<RemarksPanel>();
    auto* tree = panel.findChild<QTreeWidget*>();
    QVERIFY(tree->hasFocus());
    QCOMPARE(tree->topLevelItem(0)->text(0), QString("A clip is longer than its sound"));
    QCOMPARE(tree->topLevelItem(0)->text(1), QString("800"));
    auto* reason = test::fieldNamed<QLineEdit>(panel, "Reason for accepting");
    QVERIFY(reason != nullptr);
    reason->setFocus();
    QTest::keyClicks(reason, "silence is meant");
    key(reason, Qt::Key_Return);
    QTRY_COMPARE(o.work.sheets().counts().remarks, before - 800);
    QCOMPARE(o.undoWords(), QString("Undo Accept 800 remarks"));
    QCOMPARE(o.now()->briefs[0].accepted[0].reason, std::string("silence is meant"));
    QTRY_VERIFY(tree->topLevelItem(0)->text(0).startsWith("Accepted"));
    key(tree, Qt::Key_Z, Qt::ControlModifier);
    QTRY_COMPARE(o.work.sheets().counts().remarks, before);
    key(tree, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    QTRY_COMPARE(o.work.sheets().counts().remarks, before - 800);
    // A last look, and print.
    key(tree, Qt::Key_Return, Qt::ControlModifier);
    QTRY_VERIFY(o.work.maker().look() != nullptr);
    QCOMPARE(o.work.maker().look()->files, 4000u);
    QCOMPARE(o.work.maker().look()->heldBack, 1000u);
    const QString look = o.view<StripBar>().lookText();
    QVERIFY2(look.startsWith("4000 files") && look.contains("into out") && look.contains("1000 held back"),
             qPrintable(look));
    o.goOn();
    o.waitForRun();
    QTRY_COMPARE(o.count(RowState::UpToDate), 4000);
    QVERIFY2(QFile::exists(o.dir.filePath("out/Best/hit 3.wav")),
             qPrintable(QDir(o.dir.filePath("out")).entryList().mid(0, 6).join(' ')));
  }

  void rowsStandUnderHeadings_data() {
    QTest::addColumn<int>("by");
    QTest::addColumn<int>("headings");
    QTest::addColumn<QString>("first");
    QTest::newRow("brief") << static_cast<int>(GroupBy::Brief) << 1 << "All  5000 rows";
    QTest::newRow("span") << static_cast<int>(GroupBy::Span) << 1000 << "Hit/1000  5 rows";
    QTest::newRow("source") << static_cast<int>(GroupBy::Source) << 5 << "Gear  1000 rows";
    QTest::newRow("state") << static_cast<int>(GroupBy::State) << 1 << "To make  5000 rows";
    QTest::newRow("remark") << static_cast<int>(GroupBy::Remark) << 2
                            << "A clip is longer than its sound  800 rows";
  }
  void rowsStandUnderHeadings() {
    QFETCH(int, by);
    QFETCH(int, headings);
    QFETCH(QString, first);
    Thousands o;
    o.groups().setCurrentIndex(by);
    QTRY_COMPARE(o.model().rowCount(), 5000 + headings);
    QCOMPARE(o.cell(0), first);
    o.table().setFocus();
    o.table().setCurrentIndex(o.model().index(0, 0));
    // A heading stands for all that is under it.
    const auto under = static_cast<std::size_t>(first.section("  ", 1).section(' ', 0, 0).toInt());
    QCOMPARE(o.work.rows().count(), under);
    key(&o.table(), Qt::Key_Left);
    QTRY_COMPARE(o.model().rowCount(), 5000 + headings - static_cast<int>(under));
    QCOMPARE(o.work.rows().count(), under);
    key(&o.table(), Qt::Key_Right);
    QTRY_COMPARE(o.model().rowCount(), 5000 + headings);
    // It stays so when a new sheet comes, and while it is filtered.
    key(&o.table(), Qt::Key_Backspace, Qt::ControlModifier);
    QTRY_COMPARE(o.count(RowState::HeldBack), static_cast<long>(under));
    o.filter().setText("no such row");
    QTRY_COMPARE(o.model().rowCount(), 0);
  }

  void filteredByOneColumn() {
    Thousands o;
    auto* columns = test::fieldNamed<QComboBox>(o.window, "Column that is filtered");
    const std::tuple<int, const char*, int> kCases[]{{-1, "gear", 1000},
                                                     {SheetModel::File, "1000_gear", 1},
                                                     {SheetModel::Source, "hit", 0},
                                                     {SheetModel::Region, "hit/100", 50},
                                                     {SheetModel::Channels, "mono", 0},
                                                     {SheetModel::Length, ">0.005", 5000},
                                                     {SheetModel::Length, "<0.005", 0},
                                                     {SheetModel::Start, ">20", 195},
                                                     {SheetModel::RemarkText, "beyond", 800},
                                                     {-1, "gear 1999", 1}};
    for (const auto& [column, words, rows] : kCases) {
      columns->setCurrentIndex(columns->findData(column));
      o.filter().clear();
      QTest::keyClicks(&o.filter(), words);
      QTRY_VERIFY2(o.model().rowCount() == rows && !o.model().isArranging(), words);
    }
  }

  void selectionIsInStep() {
    Opened o;
    o.open();
    auto& sheet = o.view<SheetView>();
    // From the outline to the sheet.
    o.work.selected().set(Thing::Region, {"r01"});
    const auto rowsOf = [&](const std::string& region) {
      std::size_t rows = 0;
      const Sheet& planned = *o.work.sheets().sheet();
      for (const Row& row : planned.rows) rows += planned.spanOf(row).id == region ? 1 : 0;
      return rows;
    };
    QVERIFY(rowsOf("r01") > 1);
    QCOMPARE(o.work.rows().count(), rowsOf("r01"));
    // And back.
    sheet.table().setFocus();
    sheet.table().setCurrentIndex(sheet.model().index(sheet.model().rowCount() - 1, 0));
    const Sheet& planned = *o.work.sheets().sheet();
    const PlannedSpan& last = planned.spanOf(planned.rows.back());
    if (last.kind == PlannedSpan::Kind::Region) QVERIFY(o.work.selected().regions().contains(last.id));
    QCOMPARE(o.work.rows().count(), 1u);
  }

  // Who goes to the place of one row has that row chosen, not all of its region.
  void aRowStaysChosenAtItsPlace() {
    Opened o;
    o.open();
    auto& table = o.view<SheetView>().table();
    table.setFocus();
    table.setCurrentIndex(o.view<SheetView>().model().index(4, 0));
    const std::string chosen = o.work.rows().current();
    test::key(&table, Qt::Key_Return);
    QCOMPARE(o.work.rows().count(), 1u);
    QCOMPARE(o.work.rows().current(), chosen);
    o.work.selected().clear();
    o.window.setFocus();
    o.work.places().goToRow(chosen);  // as from the remarks, or the search
    QVERIFY(!o.work.selected().regions().empty());
    QCOMPARE(o.work.rows().current(), chosen);
    QCOMPARE(o.work.rows().count(), 1u);
  }

  // All rows of a cause, also where another remark is graver, whatever the filter hides.
  void theRowsOfACauseAreShown() {
    Thousands o;
    o.work.document().edit("Mute", [](Session& session) { session.briefs[0].names.format = "same"; });
    o.settle();  // every row has a fault now
    o.filter().setText("no such row");
    o.run("panel.remarks");
    auto* tree = o.view<RemarksPanel>().findChild<QTreeWidget*>();
    const auto found = tree->findItems("A clip is longer than its sound", Qt::MatchExactly);
    QCOMPARE(found.size(), 1);
    tree->setCurrentItem(found[0]);
    QVERIFY(test::press(o.view<RemarksPanel>(), "On the sheet"));
    QTRY_COMPARE(o.work.rows().count(), 800u);
    QCOMPARE(o.model().rowCount(), 5000);
  }

  void aClosedHeadingStaysChosen() {
    Thousands o;
    o.groups().setCurrentIndex(static_cast<int>(GroupBy::Source));
    QTRY_COMPARE(o.model().rowCount(), 5005);
    o.table().setFocus();
    o.table().setCurrentIndex(o.model().index(0, 0));
    key(&o.table(), Qt::Key_Left);
    QTRY_COMPARE(o.model().rowCount(), 4005);
    key(&o.table(), Qt::Key_Backspace, Qt::ControlModifier);
    QTRY_COMPARE(o.count(RowState::HeldBack), 1000);
    QCOMPARE(o.work.rows().count(), 1000u);
    key(&o.table(), Qt::Key_Backspace, Qt::ControlModifier);
    QTRY_COMPARE(o.count(RowState::HeldBack), 0);
  }

  // The list may be another one before the mouse comes: what is pressed is what is seen. A heading that hides
  // rows is not what selects them.
  void whatIsPressedIsWhatIsSeen() {
    Thousands o;
    o.filter().setFocus();
    QTest::keyClicks(&o.filter(), "low");
    const QString seen = o.cell(2);
    const QRect place = o.table().visualRect(o.model().index(2, SheetModel::File));
    QTest::mouseClick(o.table().viewport(), Qt::LeftButton, {}, place.center());
    QTRY_COMPARE(o.model().rowCount(), 1000);
    QCOMPARE(o.work.rows().fileNames(), QStringList{seen});
  }

  void aClosedHeadingSelectsNothing() {
    Thousands o;
    o.groups().setCurrentIndex(static_cast<int>(GroupBy::Source));
    QTRY_COMPARE(o.model().rowCount(), 5005);
    o.table().setFocus();
    o.table().setCurrentIndex(o.model().index(0, 0));
    key(&o.table(), Qt::Key_Left);
    QTRY_COMPARE(o.model().rowCount(), 4005);
    o.work.selected().set(Thing::Region, {"r7"});
    QTRY_COMPARE(o.work.rows().count(), 4u);  // those that are seen, of five
  }

  void columnsAreRemembered() {
    {
      Opened o;
      o.open();
      auto& table = o.view<SheetView>().table();
      QVERIFY(table.isColumnHidden(SheetModel::Start));
      table.horizontalHeader()->moveSection(table.horizontalHeader()->visualIndex(SheetModel::State), 1);
      table.setColumnHidden(SheetModel::Start, false);
      table.horizontalHeader()->moveSection(2, 3);
    }
    Opened o;
    o.open();
    auto& table = o.view<SheetView>().table();
    QCOMPARE(table.horizontalHeader()->visualIndex(SheetModel::State), 1);
    QVERIFY(!table.isColumnHidden(SheetModel::Start));
    QSettings().remove("layout/sheet-columns");
  }

  void rowsAsTextAndAsTable() {
    Thousands o;
    o.filter().setText("1000_");
    o.table().setFocus();
    o.table().selectAll();
    key(&o.table(), Qt::Key_C, Qt::ControlModifier);
    const QStringList copied = QGuiApplication::clipboard()->text().split('\n', Qt::SkipEmptyParts);
    QCOMPARE(copied.size(), 6);
    QVERIFY(copied[0].startsWith("File\t") && copied[1].startsWith("Hit_1000_Gear.wav\t"));
    const QString file = o.dir.filePath("sheet.csv");
    test::choosing(file, [&] { o.run("sheet.export"); });
    o.finish();
    const QByteArray table = fileOf(file);
    QCOMPARE(table.count("\r\n"), 6);
    // As a reader of RFC 4180 sees it (csv of Python).
    const test::Ran ran = test::run(
        "/usr/bin/python3",
        {"-c",
         "import csv,sys\nrows=list(csv.DictReader(open(sys.argv[1],newline='',encoding='utf-8')))\n"
         "print(len(rows),rows[0]['File'],rows[4]['State'])",
         file});
    QCOMPARE(QString::fromUtf8(ran.out).trimmed(), QString("5 Hit_1000_Gear.wav to make"));
  }

  void textThatTablesTakeForFormulas() {
    Opened o;
    o.open();
    o.editBrief(0, [](Brief& brief) {
      brief.names.format = "=1+1,\"{region.base}\"{n}";
      brief.names.letterCase = LetterCase::AsIs;
    });
    o.settle();
    const QByteArray csv = asCsv(*o.work.sheets().sheet(), {0}, {SheetModel::File});
    QVERIFY2(csv.contains("'=1+1"), csv.mid(6).constData());
  }

  // What a row has of its own is seen on sheet, tile and sentence, and taken back with one key.
  void aRowOfItsOwn() {
    Opened o;
    o.open();
    o.run("panel.row");
    o.work.rows().show(o.rowKey(0));
    auto& panel = o.view<RowPanel>();
    auto* channels = test::fieldNamed<QComboBox>(panel, "Channels");
    QVERIFY(channels != nullptr);
    channels->setFocus();
    QTest::keyClicks(channels, "mono");
    QTRY_COMPARE(o.work.sheets().sheet()->rows[0].channels, 1);
    QTRY_VERIFY(o.work.sheets().sheet()->rows[0].exception.has_value());
    auto& sheet = o.view<SheetView>();
    QVERIFY(sheet.model().index(0, SheetModel::File).data(kOwnRole).toBool());
    QVERIFY(sheet.model().index(0, 0).data(Qt::ToolTipRole).toString().contains("mono"));
    auto* phrase = o.view<SentenceView>().phraseButton(PhraseKind::Rows);
    QVERIFY(phrase != nullptr && phrase->text().contains("1 row"));
    key(phrase, Qt::Key_Return);
    auto* list = o.view<SentenceView>().editor()->findChild<QTreeWidget*>();
    QCOMPARE(list->topLevelItemCount(), 1);
    QCOMPARE(list->topLevelItem(0)->text(1), QString("mono"));
    o.work.showPanel("sheet");
    key(&sheet.table(), Qt::Key_Backspace, Qt::ControlModifier | Qt::ShiftModifier);
    QTRY_VERIFY(o.now()->briefs[0].rowExceptions.empty());
    QTRY_COMPARE(o.work.sheets().sheet()->rows[0].channels, 2);
    QVERIFY(!o.window.commands().action("row.as-brief")->isEnabled());
  }

  // Typing goes on while another sheet comes.
  void aNameIsTypedWhileTheSheetChanges() {
    Opened o;
    o.open();
    auto& sheet = o.view<SheetView>();
    sheet.table().setFocus();
    sheet.table().setCurrentIndex(sheet.model().index(1, 0));
    key(&sheet.table(), Qt::Key_F2);
    auto* editor = test::fieldNamed<QLineEdit>(o.window, "Name of its own");
    QVERIFY(editor != nullptr);
    editor->selectAll();
    QTest::keyClicks(editor, "Half");
    o.work.sheets().refresh();
    o.settle();
    QTest::keyClicks(editor, " whole");
    key(editor, Qt::Key_Return);
    QTRY_COMPARE(o.now()->briefs[0].rowExceptions.size(), 1u);
    QCOMPARE(o.now()->briefs[0].rowExceptions[0].name, std::string("Half whole"));
  }

  // --- the last look

  void theLastLookIsLeft() {
    Opened o;
    o.open();
    auto& table = o.view<SheetView>().table();
    table.setFocus();
    key(&table, Qt::Key_Return, Qt::ControlModifier);
    QTRY_VERIFY(o.work.maker().look() != nullptr);
    const auto files = o.work.maker().look()->files;
    // It follows the session.
    o.editBrief(0, [](Brief& brief) { brief.isOn = false; });
    o.settle();
    QTRY_VERIFY(o.work.maker().look() != nullptr && o.work.maker().look()->files < files);
    key(o.window.focusWidget(), Qt::Key_Escape);
    QVERIFY(o.work.maker().look() == nullptr);
    QVERIFY(!o.work.making().isRunning());
    QVERIFY(table.hasFocus());
    // The same key once more goes on.
    key(&table, Qt::Key_Return, Qt::ControlModifier);
    QTRY_VERIFY(o.work.maker().look() != nullptr);
    key(o.window.focusWidget(), Qt::Key_Return, Qt::ControlModifier);
    QTRY_VERIFY(o.work.making().isRunning());
    o.waitForRun();
  }

  // --- the table of briefs

  void severalCellsAtOnce() {
    Opened o;
    o.open();
    o.run("panel.table");
    auto& table = *o.view<BriefTable>().findChild<QTableView*>();
    const auto columnOf = [&](const QString& title) {
      for (int column = 0; column < table.model()->columnCount(); ++column)
        if (table.model()->headerData(column, Qt::Horizontal).toString() == title) return column;
      return -1;
    };
    const int folder = columnOf("Folder");
    QVERIFY(folder > 0);
    table.setFocus();
    table.setCurrentIndex(table.model()->index(0, folder));
    key(&table, Qt::Key_Down, Qt::ShiftModifier);
    key(&table, Qt::Key_Down, Qt::ShiftModifier);
    QCOMPARE(o.work.briefs().chosen().size(), 3u);
    key(&table, Qt::Key_Return);
    auto* editor = o.view<BriefTable>().findChild<PhraseEditor*>();
    QVERIFY(editor != nullptr && editor->isVisible());
    auto* several = editor->findChild<QLabel*>("several");
    QVERIFY2(several->isVisible() && several->text().contains("Several values"), qPrintable(several->text()));
    auto* field = editor->findChild<QLineEdit*>();
    field->selectAll();
    QTest::keyClicks(field, "Together");
    QTRY_COMPARE(o.now()->briefs[2].delivery.folder, std::string("Together"));
    QCOMPARE(o.now()->briefs[0].delivery.folder, std::string("Together"));
    QVERIFY(o.now()->briefs[3].delivery.folder != "Together");
    QVERIFY(!several->isVisible());
    key(field, Qt::Key_Escape);
    QVERIFY(table.hasFocus());
    // What one says, for others.
    table.setCurrentIndex(table.model()->index(0, folder));
    key(&table, Qt::Key_C, Qt::ControlModifier);
    table.setCurrentIndex(table.model()->index(4, folder));
    key(&table, Qt::Key_V, Qt::ControlModifier);
    QTRY_COMPARE(o.now()->briefs[4].delivery.folder, std::string("Together"));
  }

  void briefsAreMovedSwitchedAndNoted() {
    Opened o;
    o.open();
    const std::string first = o.now()->briefs[0].id;
    o.run("brief.down");
    QCOMPARE(o.now()->briefs[1].id, first);
    o.run("brief.up");
    QCOMPARE(o.now()->briefs[0].id, first);
    auto* notes = test::fieldNamed<QPlainTextEdit>(o.window, "Notes on the brief");
    QTest::keyClicks(notes, "for the quay");
    QCOMPARE(o.now()->briefs[0].notes, std::string("for the quay"));
    auto& list = o.view<BriefsPanel>().list();
    list.setFocus();
    key(&list, Qt::Key_Return);
    QVERIFY(!o.now()->briefs[0].isOn);
    QVERIFY(o.window.isWindowModified());
    QCOMPARE(Commands::title(*o.window.commands().action("edit.undo")), QString("Undo Switch a brief off"));
  }

  // Three lengths, the mix and four sub-mixes, two files of each: from Print this in nine actions.
  void fifteenTourFilesTwice() {
    Opened o;
    o.open();
    Ids tours;
    for (const Region& region : o.now()->regions)
      if (region.name.starts_with("Tour/")) tours.insert(region.id);
    QCOMPARE(tours.size(), 3u);
    o.work.selected().set(Thing::Region, tours);     // 1: the heading in the outline
    key(&o.window, Qt::Key_P, Qt::ControlModifier);  // 2
    QCOMPARE(o.now()->briefs.size(), 7u);
    auto& sentence = o.view<SentenceView>();
    QTRY_VERIFY(sentence.editor() != nullptr);
    QCOMPARE(sentence.editor()->kind(), PhraseKind::Sources);
    QVERIFY(sentence.editor()->isAncestorOf(o.window.focusWidget()));
    int actions = 2;
    auto* tree = sentence.editor()->findChild<QTreeWidget*>();
    for (const char* group : {"Bells", "Weather", "Music", "Voice"}) {  // 3 to 6: ticks
      const auto items = tree->findItems(group, Qt::MatchExactly | Qt::MatchRecursive);
      QCOMPARE(items.size(), 1);
      tree->setCurrentItem(items[0]);
      key(tree, Qt::Key_Return);
      ++actions;
    }
    o.openPhrase(PhraseKind::Encoding);                        // 7
    QVERIFY(test::press(*sentence.editor(), "Another file"));  // 8
    actions += 2;
    o.settle();
    QVERIFY(actions < 10);
    const PlannedBrief& planned = o.work.sheets().sheet()->briefs.back();
    QCOMPARE(planned.rowCount, 30u);
    // Of one name: told, with what cures it.
    QVERIFY(o.count(RowState::Fault) >= 30);
    auto* suffix = test::fieldNamed<QLineEdit>(o.window, "Suffix of file 2");
    QVERIFY(suffix != nullptr);
    QTest::keyClicks(suffix, "_small");
    o.settle();
    QCOMPARE(o.count(RowState::Fault), 0);
  }

  void aBriefIsTakenFromAFile() {
    Opened o;
    o.open();
    const QString file = o.dir.filePath("layers.octaphon-brief");
    test::choosing(file, [&] { o.run("brief.save-file"); });
    o.finish();
    QVERIFY(QFile::exists(file));
    o.work.document().edit("Rename", [](Session& session) {
      for (Track& track : session.tracks)
        if (track.name == "Gear") track.name = "Cogs";
      session.briefs[0].name = "Mine";
    });
    o.settle();
    test::choosing(file, [&] { o.run("brief.take-file"); });
    auto& offer = o.view<OfferBar>();
    QVERIFY2(offer.isVisible() && offer.words().contains("'Gear'"), qPrintable(offer.words()));
    QCOMPARE(o.now()->briefs.size(), 6u);  // nothing yet
    QVERIFY(test::press(offer, "Take 1 brief"));
    QCOMPARE(o.now()->briefs.size(), 7u);
    o.run("edit.undo");
    QCOMPARE(o.now()->briefs.size(), 6u);
    // A file that is none.
    QFile bad(file);
    QVERIFY(bad.open(QIODevice::WriteOnly));
    bad.write("{\"format\":\"octaphon-brief\",\"version\":\"9.0\",\"briefs\":[]}");
    bad.close();
    test::choosing(file, [&] { o.run("brief.take-file"); });
    QVERIFY(o.view<ProblemLine>().words().contains("layers.octaphon-brief"));
  }

  void presetsAreKeptAndUsed() {
    Opened o;
    o.open();
    auto* editor = o.openPhrase(PhraseKind::Folder);
    QVERIFY(editor != nullptr);
    auto* button = editor->findChild<QToolButton*>();
    for (QToolButton* one : editor->findChildren<QToolButton*>())
      if (one->accessibleName() == "Presets of this phrase") button = one;
    const auto choose = [&](const QString& words) {
      emit button->menu()->aboutToShow();
      for (QAction* action : button->menu()->actions())
        if (action->text().startsWith(words)) return action->trigger();
      QFAIL("no such preset");
    };
    choose("Keep what it says now");
    QTest::keyClicks(test::fieldNamed<QLineEdit>(*editor, "Name of the preset"), "Quay");
    QVERIFY(test::press(*editor, "In the session"));
    QCOMPARE(o.now()->presets.size(), 1u);
    const std::string folder = o.now()->briefs[0].delivery.folder;
    o.work.briefs().choose(o.now()->briefs[1].id, {o.now()->briefs[1].id, o.now()->briefs[2].id});
    editor = o.openPhrase(PhraseKind::Folder);
    for (QToolButton* one : editor->findChildren<QToolButton*>())
      if (one->accessibleName() == "Presets of this phrase") button = one;
    choose("Quay");
    QCOMPARE(o.now()->briefs[1].delivery.folder, folder);
    QCOMPARE(o.now()->briefs[2].delivery.folder, folder);
    o.run("edit.undo");
    QVERIFY(o.now()->briefs[1].delivery.folder != folder && o.now()->briefs[2].delivery.folder != folder);
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

QTEST_MAIN(SheetViewTest)
#include "tst_sheet_view.moc"
