// Formats, the data inside files and the vocabulary, as people set them in the window.
#include <QtTest>

#include "app/prepare/facts_panel.h"
#include "app/sheet/data_panel.h"
#include "opened.h"
#include "plan/sentence.h"

using namespace octaphon;
using namespace octaphon::app;
using test::key;
using test::Opened;

namespace {

/// The demo with one brief ticked: two regions, quickly made.
struct Few : Opened {
  Few() {
    open();
    editBrief(1, [](Brief& brief) {
      brief.where.regions = {brief.where.regions.picks[0].value, brief.where.regions.picks[1].value};
      brief.ends.tail = Tail::None;
    });
    work.document().edit("Tick one", [](Session& session) {
      for (Brief& brief : session.briefs) brief.isOn = brief.id == "single";
    });
    settle();
    QListView& list = view<BriefsPanel>().list();
    list.setCurrentIndex(list.model()->index(1, 0));
    settle();
  }
  const Brief& brief() { return now()->briefs[1]; }
  const Row& row(std::size_t i) { return work.sheets().sheet()->rows[i]; }
  void undo() { key(window.focusWidget(), Qt::Key_Z, Qt::ControlModifier); }
  void choose(QComboBox* box, const QString& words) {
    box->setFocus();
    for (int i = 0; i < box->count() && box->currentText() != words; ++i)
      key(box, box->findText(words) > box->currentIndex() ? Qt::Key_Down : Qt::Key_Up);
    QCOMPARE(box->currentText(), words);
  }
  void select(int line) {
    QTableView& table = view<SheetView>().table();
    table.setFocus();
    table.setCurrentIndex(table.model()->index(line, 0));
  }
  /// Of the panel: field by name, as planned or as in the file.
  QString data(const QString& name, int column) {
    const auto found = view<DataPanel>().findChild<QTreeWidget*>()->findItems(name, Qt::MatchExactly, 1);
    return found.isEmpty() ? QString() : found.front()->text(column);
  }
};

constexpr int kPlanned = 2, kThere = 3;

}  // namespace

class FormatsViewTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { state_ = test::prepareTests(); }

  // Another format: names, what its encoder is asked, and what was held back stays so.
  void formatsOfOutputs() {
    Few o;
    o.select(0);
    key(&o.view<SheetView>().table(), Qt::Key_Backspace, Qt::ControlModifier);
    QTRY_COMPARE(o.count(RowState::HeldBack), 1);
    PhraseEditor* editor = o.openPhrase(PhraseKind::Encoding);
    auto* format = test::fieldNamed<QComboBox>(*editor, "Format of file 1");
    QVERIFY(test::fieldNamed<QDoubleSpinBox>(*editor, "Encoder setting of file 1") == nullptr);
    o.choose(format, "FLAC 24 bit");
    QTRY_VERIFY(o.files().front().endsWith(".flac"));
    QCOMPARE(o.count(RowState::HeldBack), 1);
    auto* level = test::fieldNamed<QDoubleSpinBox>(*editor, "Encoder setting of file 1");
    QVERIFY(level != nullptr);
    level->setFocus();
    level->selectAll();
    QTest::keyClicks(level, "8\t");
    QTRY_COMPARE(o.brief().files.outputs.front().coding.level, 8);
    QVERIFY(o.phrase(PhraseKind::Encoding)->text().contains("FLAC 24 bit, level 8"));
    o.choose(format, "MP3");
    QTRY_VERIFY(o.files().front().endsWith(".mp3"));
    auto* variable = test::fieldNamed<QCheckBox>(*editor, "Bit rate as needed of file 1");
    QVERIFY(variable != nullptr);
    variable->setFocus();
    key(variable, Qt::Key_Return);
    QVERIFY(o.brief().files.outputs.front().coding.variable);
    QCOMPARE(o.count(RowState::HeldBack), 1);
    // A rate that it does not have is refused before anything is made.
    o.choose(test::fieldNamed<QComboBox>(*editor, "Rate of file 1"), "96 kHz");
    QTRY_VERIFY(o.work.sheets().sheet()->faultOf(o.row(1)) != nullptr);
    QVERIFY(o.work.sheets().sheet()->faultOf(o.row(1))->code == RemarkCode::RateRefused);
    QCOMPARE(phraseOf(RemarkCode::RateRefused), PhraseKind::Encoding);  // where it is mended
    const auto isAsBefore = [&] {
      return o.brief().files.outputs.empty() && o.brief().files.encoding == Encoding::Pcm16;
    };
    while (!isAsBefore() && o.work.document().undoStack().canUndo()) o.undo();
    QTRY_VERIFY(o.files().front().endsWith(".wav"));
    QCOMPARE(o.count(RowState::HeldBack), 1);
  }

  // Outputs for a receiver, out of the menu.
  void presetsOfOutputs() {
    Few o;
    PhraseEditor* editor = o.openPhrase(PhraseKind::Encoding);
    auto* button = test::fieldNamed<QToolButton>(*editor, "Presets of this phrase");
    emit button->menu()->aboutToShow();
    for (QAction* action : button->menu()->actions())
      if (action->text() == "WAV, and MP3 to listen to") action->trigger();
    QTRY_COMPARE(o.brief().files.outputs.size(), std::size_t{2});
    o.settle();
    QCOMPARE(o.files().size(), 4);
    QVERIFY(o.files()[1].startsWith("Listen/") && o.files()[1].endsWith(".mp3"));
    o.undo();
    QVERIFY(o.brief().files.outputs.empty());
  }

  // What files say is typed like names; the panel shows what comes of it, and what the file that is there
  // says.
  void dataInside() {
    Few o;
    o.run("panel.data");
    QVERIFY(o.view<DataPanel>().isVisible());
    o.select(0);
    QTRY_COMPARE(o.data("INAM", kPlanned), QString("Bell Toll 01"));
    PhraseEditor* editor = o.openPhrase(PhraseKind::Data);
    QVERIFY(editor != nullptr);
    auto* title = test::fieldNamed<QLineEdit>(*editor, "Title");
    title->setFocus();
    title->selectAll();
    QTest::keyClicks(title, "{region.last} of {session}");
    QTRY_COMPARE(o.data("INAM", kPlanned), QString("Toll 01 of Tidewheel"));
    QCOMPARE(o.brief().data.title, std::string("{region.last} of {session}"));
    QVERIFY(o.phrase(PhraseKind::Data)->text().contains("data of its own inside"));
    // A mistake is shown where it is, and no file is made with it.
    QTest::keyClicks(title, " {regoin}");
    QTRY_VERIFY(title->property("wrong").toBool());
    QVERIFY(title->toolTip().contains("{region}"));
    QTRY_COMPARE(o.count(RowState::Fault), 2);
    o.undo();
    QTRY_COMPARE(o.count(RowState::Fault), 0);
    QTRY_COMPARE(o.data("INAM", kPlanned), QString("Bell Toll 01"));
    QVERIFY(!title->property("wrong").toBool());
    // Facts of one's own.
    QVERIFY(test::press(*editor, "Another fact"));
    auto* name = qobject_cast<QLineEdit*>(o.window.focusWidget());
    QVERIFY(name != nullptr && name->accessibleName() == "fact");
    QTest::keyClicks(name, "Receiver");
    auto* value = test::fieldNamed<QLineEdit>(*editor, "what it says");
    value->setFocus();
    QTest::keyClicks(value, "{brief}");
    QTRY_COMPARE(o.data("OCTAPHON/FACT:Receiver", kPlanned), QString("Single sounds"));
    // Made: the file says just that, but for the mark of its making.
    o.run("make.due");
    o.goOn();
    o.waitForRun();
    QTRY_COMPARE(o.data("INAM", kThere), QString("Bell Toll 01"));
    auto* lines = o.view<DataPanel>().findChild<QTreeWidget*>();
    int others = 0;
    for (int i = 0; i < lines->topLevelItemCount(); ++i)
      others += lines->topLevelItem(i)->text(kPlanned) != lines->topLevelItem(i)->text(kThere) ? 1 : 0;
    QCOMPARE(others, 2);  // in iXML and in ID3
    // Another title: the file that is there still says the old one, and is written anew without sound.
    title->setFocus();
    title->selectAll();
    QTest::keyClicks(title, "New");
    QTRY_COMPARE(o.data("INAM", kPlanned), QString("New"));
    QTRY_COMPARE(o.data("INAM", kThere), QString("Bell Toll 01"));
    QTRY_COMPARE(o.count(RowState::Stale), 2);
    o.run("make.due");
    o.goOn();
    o.waitForRun();
    QTRY_COMPARE(o.data("INAM", kThere), QString("New"));
    QCOMPARE(o.count(RowState::UpToDate), 2);
    // No row: the panel says what to do.
    o.work.rows().clear();
    QTRY_VERIFY(!lines->isVisible());
  }

  // Facts come from the vocabulary; what is outside is seen at once; many are pasted at once.
  void factsFromAVocabulary() {
    Few o;
    o.run("panel.facts");
    auto& panel = o.view<FactsPanel>();
    auto* table = panel.findChild<QTableView*>();
    QTRY_VERIFY(table->model()->rowCount() > 10);
    const auto columnOf = [&](const QString& fact) {
      for (int i = 1; i < table->model()->columnCount(); ++i)
        if (table->model()->headerData(i, Qt::Horizontal).toString() == fact) return i;
      return -1;
    };
    const int place = columnOf("place"), category = columnOf("category");
    QVERIFY(place > 0 && category > 0);
    const auto cell = [&](int row, int column) { return table->model()->index(row, column); };
    QCOMPARE(cell(0, category).data().toString(), QString("machine"));  // from its path
    table->setFocus();
    table->setCurrentIndex(cell(0, place));
    key(table, Qt::Key_F2);
    auto* box = qobject_cast<QComboBox*>(QApplication::focusWidget()->parentWidget());
    if (box == nullptr) box = qobject_cast<QComboBox*>(QApplication::focusWidget());
    QVERIFY(box != nullptr);
    QCOMPARE(box->count(), 3);
    box->lineEdit()->selectAll();
    QTest::keyClicks(box->lineEdit(), "moon");
    key(box, Qt::Key_Return);
    QTRY_COMPARE(cell(0, place).data().toString(), QString("moon"));
    QTRY_VERIFY(panel.findChild<QLabel*>() != nullptr);
    QTRY_VERIFY([&] {
      for (const QLabel* label : panel.findChildren<QLabel*>())
        if (label->text() == "1 value outside the vocabulary") return true;
      return false;
    }());
    o.run("panel.check");
    auto* checks = o.view<ChecksPanel>().findChild<QTreeWidget*>();
    QTRY_VERIFY(!checks->findItems("Facts outside the vocabulary", Qt::MatchStartsWith).isEmpty());
    o.run("panel.facts");
    o.undo();
    QTRY_COMPARE(cell(0, place).data().toString(), QString("quay"));
    QApplication::clipboard()->setText("tower\tbell\nbreakwater\tmachine");
    table->setFocus();
    table->setCurrentIndex(cell(0, std::min(place, category)));
    const int steps = o.work.document().undoStack().index();
    key(table, Qt::Key_V, Qt::ControlModifier);
    QCOMPARE(o.work.document().undoStack().index(), steps + 1);
    QTRY_COMPARE(cell(1, std::min(place, category)).data().toString(), QString("breakwater"));
    QCOMPARE(cell(0, std::max(place, category)).data().toString(), QString("bell"));
    // A locked region keeps its facts, whatever is typed or pasted.
    o.work.document().edit("Lock", [](Session& session) { session.regions[0].lock = true; });
    const Facts before = o.now()->regions[0].facts;
    key(table, Qt::Key_V, Qt::ControlModifier);
    QVERIFY(o.now()->regions[0].facts == before);
    // Another vocabulary, out of a table.
    QFile file(o.dir.filePath("v.csv"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write("fact,value,meaning\nmood,calm,\nmood,wild,\n");
    file.close();
    test::choosing(file.fileName(), [&] {
      auto* button = test::fieldNamed<QPushButton>(panel, "Vocabulary");
      button->menu()->actions().front()->trigger();
    });
    QTRY_COMPARE(o.now()->vocabulary.size(), std::size_t{1});
    QTRY_VERIFY(columnOf("mood") > 0);
    o.undo();
    QCOMPARE(o.now()->vocabulary.size(), std::size_t{2});
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

QTEST_MAIN(FormatsViewTest)
#include "tst_formats_view.moc"
