// Ends in the window: phrases, what regions have of their own, the sheet, tiles, and the level over a tail.
#include "app/delivery/strip_bar.h"
#include "app/delivery/tail_panel.h"
#include "app/timeline/timeline_view.h"
#include "app/window/problem_line.h"
#include "opened.h"
#include "plan/sentence.h"

using namespace octaphon;
using namespace octaphon::app;
using test::fieldNamed;
using test::key;
using test::Opened;
using test::press;
using test::type;

namespace {

constexpr auto kCtrl = Qt::ControlModifier;

QString tailText(Opened& o, std::size_t brief = 0) {
  for (const Phrase& phrase : sentenceOf(o.now()->briefs[brief], *o.now()))
    if (phrase.kind == PhraseKind::Tail) return QString::fromStdString(phrase.text);
  return {};
}

/// The cell of the table of names, by its row and the words above it.
QModelIndex cell(NamesPanel& names, int row, const QString& heading) {
  for (int column = 0; column < names.model().columnCount(); ++column)
    if (names.model().headerData(column, Qt::Horizontal, Qt::DisplayRole).toString().startsWith(heading))
      return names.model().index(row, column);
  return {};
}

}  // namespace

class EndsViewTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { state_ = test::prepareTests(); }

  // Of a tail's fields those are shown that change something.
  void aTailIsChosenAndSet() {
    Opened o;
    o.open();
    PhraseEditor* editor = o.openPhrase(PhraseKind::Tail);
    QVERIFY(editor != nullptr);
    QVERIFY(fieldNamed<QDoubleSpinBox>(*editor, "Threshold") != nullptr);
    QVERIFY(fieldNamed<QDoubleSpinBox>(*editor, "Length of the tail") == nullptr);
    QVERIFY(press(*editor, "Of one length"));
    QCOMPARE(o.now()->briefs[0].ends.tail, Tail::Fixed);
    QVERIFY(fieldNamed<QDoubleSpinBox>(*editor, "Threshold") == nullptr);
    type(fieldNamed<QDoubleSpinBox>(*editor, "Length of the tail"), "1.25");
    QCOMPARE(o.now()->briefs[0].ends.tailSeconds, 1.25);
    QCOMPARE(tailText(o), QString("a tail of 1.25 s"));
    o.settle();
    const Sheet& sheet = *o.work.sheets().sheet();
    QCOMPARE(sheet.rows[0].extent.tail, Frame{60000});
    QVERIFY(!sheet.rows[0].isMeasured);
    // Each in its own step of undo.
    key(&o.window, Qt::Key_Z, kCtrl);
    key(&o.window, Qt::Key_Z, kCtrl);
    QCOMPARE(o.now()->briefs[0].ends.tail, Tail::RingsOut);
    QVERIFY(!o.window.isWindowModified());
  }

  // All of an editor is to be seen, also when lines of it come and go.
  void editorsAreAsTallAsWhatIsInThem() {
    Opened o;
    o.open();
    const auto isWhole = [&](PhraseEditor& editor) {
      const QWidget* paragraph = editor.parentWidget();
      return editor.height() >= editor.heightForWidth(editor.width()) &&
             editor.geometry().bottom() <= paragraph->height() &&
             paragraph->height() >= paragraph->heightForWidth(paragraph->width());
    };
    for (const PhraseKind kind : {PhraseKind::Edges, PhraseKind::Tail, PhraseKind::Length}) {
      PhraseEditor* editor = o.openPhrase(kind);
      QTRY_VERIFY2(isWhole(*editor), phraseInfo(kind).name.data());
    }
    PhraseEditor* editor = o.openPhrase(PhraseKind::Tail);
    for (const char* words : {"None", "Of one length", "Until it rings out"}) {
      QVERIFY(press(*editor, words));
      QTRY_VERIFY2(isWhole(*editor), words);
    }
  }

  // A remark about lengths that contradict leads to their phrase.
  void contradictionsLeadToTheirPhrase() {
    Opened o;
    o.open();
    o.editBrief(0, [](Brief& brief) {
      brief.ends.exactSeconds = 2;
      brief.ends.trimDb = -60;
    });
    o.settle();
    QCOMPARE(o.count(RowState::Fault), 30);
    PhraseEditor* editor = o.openPhrase(PhraseKind::Trim);
    auto* tick = editor->findChild<QCheckBox*>();
    QVERIFY(tick->isChecked());
    tick->setFocus();
    key(tick, Qt::Key_Return);
    QVERIFY(!o.now()->briefs[0].ends.trimDb);
    o.settle();
    QCOMPARE(o.count(RowState::Fault), 0);
    QCOMPARE(o.work.sheets().sheet()->rows[0].frames(), Frame{96000});
  }

  void aRateIsChosenFromAList() {
    Opened o;
    o.open();
    PhraseEditor* editor = o.openPhrase(PhraseKind::Rate);
    auto* list = editor->findChild<QComboBox*>();
    QCOMPARE(list->currentText(), QString("the session's"));
    list->setFocus();
    QTest::keyClicks(list, "44");
    QCOMPARE(o.now()->briefs[0].files.rate, 44100);
    o.settle();
    QCOMPARE(o.work.sheets().sheet()->rows[0].rate, 44100);
    key(list, Qt::Key_Escape);
    QVERIFY(o.view<SentenceView>().editor() == nullptr);
    // Several briefs that differ are changed together.
    o.work.briefs().choose(o.now()->briefs[0].id, {o.now()->briefs[0].id, o.now()->briefs[1].id});
    editor = o.openPhrase(PhraseKind::Rate);
    QVERIFY(editor != nullptr);
    list = editor->findChild<QComboBox*>();
    list->setFocus();
    key(list, Qt::Key_End);
    QCOMPARE(o.now()->briefs[0].files.rate, 192000);
    QCOMPARE(o.now()->briefs[1].files.rate, 192000);
  }

  // Many regions at once in Details; what differs says so, and is only changed where one means it.
  void regionsHaveEndsOfTheirOwn() {
    Opened o;
    o.open();
    const auto own = [&](std::size_t region) -> const OwnEnds& { return o.now()->regions[region].ends; };
    o.work.selected().set(Thing::Region, {o.now()->regions[0].id, o.now()->regions[1].id});
    key(&o.window, Qt::Key_4, kCtrl);
    DetailsPanel& details = o.view<DetailsPanel>();
    QCheckBox* tick = nullptr;
    QTRY_VERIFY((tick = fieldNamed<QCheckBox>(details, "Lead-in of its own")) != nullptr);
    tick->setFocus();
    key(tick, Qt::Key_Return);
    QCOMPARE(own(0).leadInSeconds, std::optional(0.0));
    auto* box = fieldNamed<QDoubleSpinBox>(details, "Lead-in");
    QTRY_VERIFY(box->isEnabled());
    type(box, "0.5");
    QCOMPARE(own(0).leadInSeconds, std::optional(0.5));
    QCOMPARE(own(1).leadInSeconds, std::optional(0.5));
    QVERIFY(!own(2).leadInSeconds);
    o.settle();
    QCOMPARE(o.work.sheets().sheet()->rows[0].extent.leadIn, Frame{24000});
    auto* tail = fieldNamed<QComboBox>(details, "Tail");
    QVERIFY(tail != nullptr);
    QCOMPARE(tail->currentText(), QString("as the brief"));
    tail->setFocus();
    key(tail, Qt::Key_Down);
    QCOMPARE(own(1).tail, std::optional(Tail::None));

    // One of them changes beside it: the two differ.
    o.work.document().edit("Another", [](Session& session) { session.regions[1].ends.leadInSeconds = 0.25; });
    QTRY_COMPARE(fieldNamed<QDoubleSpinBox>(details, "Lead-in")->text(), QString("several"));
    QCOMPARE(own(0).leadInSeconds, std::optional(0.5));
    tick = fieldNamed<QCheckBox>(details, "Lead-in of its own");
    tick->setFocus();
    key(tick, Qt::Key_Return);
    QVERIFY(!own(0).leadInSeconds && !own(1).leadInSeconds);
    // Locked ones stay as they are.
    o.work.document().edit(
        "Lock", [](Session& session) { session.regions[0].lock = session.regions[1].lock = true; });
    QTRY_VERIFY(!fieldNamed<QCheckBox>(details, "Lead-in of its own")->isEnabled());
  }

  void theTableOfNamesHasThemAsColumns() {
    Opened o;
    o.open();
    key(&o.window, Qt::Key_3, kCtrl);
    NamesPanel& names = o.view<NamesPanel>();
    QTRY_VERIFY(names.model().rowCount() > 3);
    QTableView& table = names.table();
    const auto edited = [&](const QModelIndex& at, const QString& typed) {
      table.setCurrentIndex(at);
      table.edit(at);
      auto* editor = table.viewport()->findChild<QLineEdit*>();
      QVERIFY(editor != nullptr);
      editor->selectAll();
      QTest::keyClicks(editor, typed);
      key(editor, Qt::Key_Return);
    };
    const std::string first = names.model().things()[0].id;
    const auto ends = [&](const std::string& id) {
      for (const Region& region : o.now()->regions)
        if (region.id == id) return region.ends;
      return OwnEnds{};
    };
    edited(cell(names, 0, "lead-in, s"), "0.75");
    QTRY_COMPARE(ends(first).leadInSeconds, std::optional(0.75));
    QTRY_COMPARE(cell(names, 0, "lead-in, s").data().toString(), QString("0.75"));
    edited(cell(names, 0, "lead-in, s"), "loud");  // no number: it stays
    QCOMPARE(ends(first).leadInSeconds, std::optional(0.75));
    key(&o.window, Qt::Key_Z, kCtrl);
    QTRY_COMPARE(cell(names, 0, "lead-in, s").data().toString(), QString());
    // Pasted from a table elsewhere, from the current cell down.
    QApplication::clipboard()->setText("0.1\n\n9999999\n");
    table.setCurrentIndex(cell(names, 0, "silence behind"));
    table.setFocus();
    QTest::keyClick(&table, Qt::Key_V, kCtrl);
    QCOMPARE(ends(first).silenceSeconds, std::optional(0.1));
    QVERIFY(!ends(names.model().things()[1].id).silenceSeconds);
    QCOMPARE(ends(names.model().things()[2].id).silenceSeconds, std::optional(kMaxTailSeconds));
    // A tail is chosen from a list, or pasted by its words.
    QApplication::clipboard()->setText("Until it rings out\nno such tail");
    table.setCurrentIndex(cell(names, 0, "tail"));
    QTest::keyClick(&table, Qt::Key_V, kCtrl);
    QCOMPARE(ends(first).tail, std::optional(Tail::RingsOut));
    QVERIFY(!ends(names.model().things()[1].id).tail);
    QTRY_COMPARE(cell(names, 0, "tail").data().toString(), QString("Until it rings out"));
  }

  // A length that is heard first is at least so long, then what it is; tiles are drawn by it.
  void lengthsAreHeardWhileFilesAreMade() {
    Opened o;
    o.open();
    // Else each source hears what the others do.
    o.editBrief(0, [](Brief& brief) { brief.heard.keyed = false; });
    o.settle();
    SheetModel& model = *qobject_cast<SheetModel*>(o.window.findChild<QTableView*>("sheet")->model());
    const auto at = [&](int column) { return model.index(0, column).data().toString(); };
    const auto tip = [&] { return model.index(0, SheetModel::Tail).data(Qt::ToolTipRole).toString(); };
    QCOMPARE(at(SheetModel::Length), QString("at least 0:03.200"));
    QCOMPARE(at(SheetModel::Tail), QString("rings out"));
    QVERIFY(tip().contains("which is heard when it is made"));
    const Row before = o.work.sheets().sheet()->rows[0];
    QCOMPARE(o.work.sheets().sheet()->shownEndOf(before), before.start + before.extent.body);
    const std::string made = o.rowKey(0);
    o.work.maker().makeRows({made}, false);
    o.work.maker().goOn();
    o.waitForRun();
    const Row after = o.work.sheets().sheet()->rows[0];
    QVERIFY(!after.isMeasured && after.extent.tail > 0 && after.extent.tail % 480 == 0);
    QCOMPARE(at(SheetModel::Tail),
             QString("%1 s").arg(static_cast<double>(after.extent.tail) / 48000, 0, 'f', 3));
    QVERIFY(!at(SheetModel::Length).contains("least"));
    QVERIFY(tip().contains("dB under its peak") && tip().contains("quieter"));
    // Its siblings, which are not made, will be as long.
    QCOMPARE(o.work.sheets().sheet()->rows[1].extent, after.extent);
    QCOMPARE(o.work.sheets().sheet()->rows[1].state, RowState::ToMake);
    // Another source changes: what is there stays as long, what is to come is open again.
    o.work.document().edit("Louder", [](Session& session) {
      for (Track& track : session.tracks)
        if (track.id == "chain") track.clips[0].gainDb += 3;
    });
    o.settle();
    QCOMPARE(o.work.sheets().sheet()->rows[0].extent, after.extent);
    QVERIFY(o.work.sheets().sheet()->rows[1].isMeasured);
  }

  // A row that is right is made with the others, and what all of them are made of has changed since.
  void allAnewAreAsLongAsTheyAre() {
    Opened o;
    o.open();
    o.work.document().edit("One brief", [](Session& session) { session.briefs.resize(1); });
    o.editBrief(0, [](Brief& brief) {
      brief.heard.keyed = false;
      brief.ends.relative = false;
      brief.ends.thresholdDb = -60;
    });
    o.settle();
    o.run("make.all");
    o.goOn();
    o.waitForRun();
    const auto all = o.count(RowState::UpToDate);
    QVERIFY(all > 3);
    const Sheet first = *o.work.sheets().sheet();
    std::size_t row = 0;
    while (first.rows.at(row).file.find("winch_stop_chain_01") == std::string::npos) ++row;
    const TappedSound& sound = first.soundOf(first.rows[row]);
    const std::string mine = first.briefOf(first.rows[row]).sources[sound.source].id;
    const auto change = [&](double decibels) {
      o.work.document().edit("Change the others", [&](Session& session) {
        for (Track& track : session.tracks)
          if (track.id != mine)
            for (Clip& clip : track.clips.writable()) clip.gainDb += decibels;
      });
      o.settle();
      QCOMPARE(o.work.sheets().sheet()->rows[row].state, RowState::UpToDate);
    };
    const auto tailNow = [&] { return o.work.sheets().sheet()->rows[row].extent.tail; };
    const auto made = [&](const char* how) {
      o.run(how);
      o.goOn();
      o.waitForRun();
      return o.count(RowState::UpToDate);
    };
    change(24);
    QCOMPARE(made("make.all"), all);
    const Frame grown = tailNow();
    QVERIFY(grown > first.rows[row].extent.tail);
    // What stays keeps its siblings long, until all are made anew.
    change(-24);
    QCOMPARE(made("make.due"), all);
    QCOMPARE(tailNow(), grown);
    QCOMPARE(made("make.all"), all);
    QCOMPARE(tailNow(), first.rows[row].extent.tail);
    // And again behind what stays: that is told.
    change(24);
    made("make.due");
    QVERIFY(o.count(RowState::Stale) > 0);
    QVERIFY2(o.view<ProblemLine>().words().contains("longer than before"),
             qPrintable(o.view<ProblemLine>().words() + o.view<StripBar>().stateText()));
  }

  // What is told of a run in the strip names the trouble by what it is.
  void theStripSaysWhatWasFound() {
    Opened o;
    o.open();
    o.editBrief(0, [](Brief& brief) { brief.ends.limitSeconds = 0.05; });
    o.settle();
    o.work.maker().makeRows({o.rowKey(0)}, false);
    o.work.maker().goOn();
    o.waitForRun();
    const QString words = o.view<StripBar>().stateText();
    QVERIFY2(words.contains("1 remark on the sound in Proof"), qPrintable(words));
    QVERIFY(!words.contains("full scale"));
  }

  // The level over the tail of whatever row is selected: another one while it is being listened to, a brief
  // that changes, a row that goes.
  void theLevelOverATail() {
    Opened o;
    o.open();
    o.run("panel.ends");
    TailPanel& panel = o.view<TailPanel>();
    auto* picture = panel.findChild<TailPicture*>();
    QVERIFY(panel.isVisible() && !picture->isVisible());
    QTableView& table = *o.window.findChild<QTableView*>("sheet");
    o.work.rows().show(o.rowKey(0));
    QTRY_VERIFY(picture->isVisible());
    auto levels = o.work.tails().levels();
    QCOMPARE(levels->rate, 48000);
    QVERIFY(levels->end.has_value());
    QVERIFY(levels->thresholdDb < -60 && levels->thresholdDb >= -90);
    QVERIFY(levels->cells.size() > levels->bodyCells + static_cast<std::size_t>(*levels->end / 480));
    o.work.rows().show(o.rowKey(3));
    o.work.rows().show(o.rowKey(6));
    QTRY_VERIFY(o.work.tails().levels() != nullptr && o.work.tails().levels() != levels);
    levels = o.work.tails().levels();
    o.editBrief(0, [](Brief& brief) {
      brief.ends.relative = false;
      brief.ends.thresholdDb = -30;
    });
    o.settle();
    QTRY_VERIFY(o.work.tails().levels() != nullptr && o.work.tails().levels() != levels);
    QCOMPARE(o.work.tails().levels()->thresholdDb, -30.0);
    QVERIFY(*o.work.tails().levels()->end < *levels->end);
    // What is out of sight is not listened to.
    o.run("panel.sheet");
    QVERIFY(table.isVisible());
    o.work.rows().show(o.rowKey(9));
    QTRY_VERIFY(o.work.tails().levels() == nullptr);
    o.run("panel.ends");
    QTRY_VERIFY(o.work.tails().levels() != nullptr);
    o.editBrief(0, [](Brief& brief) { brief.where.regions = {false, {}}; });
    o.settle();
    QTRY_VERIFY(!picture->isVisible());
  }

  void lockedAndGoneThingsKeepQuiet() {
    Opened o;
    o.open();
    o.work.document().edit("Lock one", [](Session& session) { session.regions[0].lock = true; });
    key(&o.window, Qt::Key_3, kCtrl);
    NamesPanel& names = o.view<NamesPanel>();
    QTRY_VERIFY(names.model().rowCount() > 3);
    int locked = -1;
    for (int row = 0; row < names.model().rowCount(); ++row)
      if (names.model().things()[static_cast<std::size_t>(row)].id == o.now()->regions[0].id) locked = row;
    QVERIFY((cell(names, locked, "lead-in, s").flags() & Qt::ItemIsEditable) == 0);
    QApplication::clipboard()->setText("0.3\n0.3");
    names.table().setCurrentIndex(cell(names, locked, "lead-in, s"));
    QTest::keyClick(&names.table(), Qt::Key_V, kCtrl);
    QVERIFY(!o.now()->regions[0].ends.leadInSeconds);
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

QTEST_MAIN(EndsViewTest)
#include "tst_ends_view.moc"
