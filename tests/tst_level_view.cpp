// Levels in the window: the phrase, what regions have of their own, columns, and rows that are listened to.
#include "level_yard.h"
#include "opened.h"
#include "plan/row_levels.h"
#include "plan/sentence.h"

using namespace octaphon;
using namespace octaphon::app;
using test::fieldNamed;
using test::key;
using test::Opened;
using test::press;
using test::type;

namespace {

/// Chooses a line of a list with the keyboard.
void choose(QComboBox* box, const QString& words) {
  box->setFocus();
  key(box, Qt::Key_Home);
  for (int i = 0; i < box->count() && box->currentText() != words; ++i) key(box, Qt::Key_Down);
  QCOMPARE(box->currentText(), words);
}

/// A window on steps and a bell, differently loud.
class Room : public Opened {
 public:
  test::Yard yard;

  Room() {
    yard.session().briefs[0].what.tracks = {};
    open(yard.save());
    settle();
  }
  QString words(PhraseKind kind) {
    for (const Phrase& phrase : sentenceOf(now()->briefs[0], *now()))
      if (phrase.kind == kind) return QString::fromStdString(phrase.text);
    return {};
  }
  SheetTable& table() { return view<SheetTable>(); }
  QModelIndex cell(const QString& file, int column) {
    for (int line = 0; line < table().model()->rowCount(); ++line)
      if (table().model()->index(line, SheetColumns::File).data().toString() == file)
        return table().model()->index(line, column);
    return {};
  }
  QString text(const QString& file, int column) { return cell(file, column).data().toString(); }
  void select(const QString& file) {
    table().setFocus();
    key(&table(), Qt::Key_Home, Qt::ControlModifier);
    for (int line = 0;
         line < table().model()->rowCount() && table().currentIndex().row() != cell(file, 0).row(); ++line)
      key(&table(), Qt::Key_Down);
    QCOMPARE(table().currentIndex().row(), cell(file, 0).row());
  }
  void selectAll() {
    table().setFocus();
    key(&table(), Qt::Key_A, Qt::ControlModifier);
  }
};

}  // namespace

class LevelViewTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { state_ = test::prepareTests(); }

  // What the aim counts follows its kind; a ceiling is one click.
  void thePhrase() {
    Room o;
    PhraseEditor* editor = o.openPhrase(PhraseKind::Level);
    QVERIFY(editor != nullptr);
    auto* at = fieldNamed<QDoubleSpinBox>(*editor, "At");
    QVERIFY(at == nullptr);  // there is no aim
    choose(fieldNamed<QComboBox>(*editor, "Aim"), "Loudness");
    at = fieldNamed<QDoubleSpinBox>(*editor, "At");
    QVERIFY(at != nullptr);
    QCOMPARE(at->suffix(), QString(" LUFS"));
    QCOMPARE(at->value(), -23.0);
    choose(fieldNamed<QComboBox>(*editor, "Aim"), "True peak");
    QCOMPARE(at->suffix(), QString(" dBTP"));
    QCOMPARE(at->value(), -1.0);
    QVERIFY(press(*editor, "At"));
    QCOMPARE(o.now()->briefs[0].levelling.level.target, std::optional(-1.0));
    type(at, "-3");
    QCOMPARE(o.now()->briefs[0].levelling.level.target, std::optional(-3.0));
    QVERIFY(press(*editor, "Ceiling"));
    QCOMPARE(o.now()->briefs[0].levelling.ceilingDb, std::optional(-0.5));
    // The aim stands before what it is kept under, on the screen too.
    QVERIFY(at->mapTo(editor, QPoint()).y() <
            fieldNamed<QDoubleSpinBox>(*editor, "Ceiling")->mapTo(editor, QPoint()).y());
    QCOMPARE(o.words(PhraseKind::Level),
             QString("brought to −3.0 dBTP, each sound by itself, under −0.5 dBTP by gain"));
    for (const QComboBox* box : editor->findChildren<QComboBox*>())
      for (int i = 0; i < box->count() && box->isVisible(); ++i)
        QVERIFY2(box->fontMetrics().horizontalAdvance(box->itemText(i)) + 30 <= box->width(),
                 qPrintable(box->itemText(i)));
  }

  // A region's own level, instead of the brief's; undone in its steps.
  void aRegionsOwn() {
    Room o;
    o.run("region.next");
    QVERIFY(!o.work.selected().regions().empty());
    o.work.showPanel("details");
    auto& details = o.view<DetailsPanel>();
    QTRY_VERIFY(fieldNamed<QComboBox>(details, "Aim") != nullptr);
    choose(fieldNamed<QComboBox>(details, "Aim"), "Peak");
    QTRY_COMPARE(fieldNamed<QDoubleSpinBox>(details, "At")->suffix(), QString(" dBFS"));
    const Region* region = o.work.selected().firstRegion(*o.now());
    QCOMPARE(region->levelling.level.kind, std::optional(LevelKind::Peak));
    o.settle();
    const Sheet& sheet = *o.work.sheets().sheet();
    for (const Row& row : sheet.rows)
      QCOMPARE(sheet.gainSetOf(sheet.soundOf(row)).asked.level.kind,
               sheet.spanOf(row).id == region->id ? LevelKind::Peak : LevelKind::None);
    while (o.work.document().undoStack().canUndo()) key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    for (const Region& each : o.now()->regions) QVERIFY(each.levelling == OwnLevelling{});
  }

  // Levels that are measured without making files are shown, with what is out of line with its variations.
  void columns() {
    Room o;
    QVERIFY(o.table().isColumnHidden(SheetColumns::Loudness));
    o.editBrief(0, [](Brief& brief) { brief.levelling.level.kind = LevelKind::Gain; });
    o.settle();
    QVERIFY(!o.table().isColumnHidden(SheetColumns::Loudness) &&
            !o.table().isColumnHidden(SheetColumns::Gain));
    // In a small window the names come first.
    o.window.resize(1100, 700);
    QTRY_VERIFY(o.table().isColumnHidden(SheetColumns::Loudness));
    QTRY_VERIFY(o.table().fontMetrics().horizontalAdvance("Step 01_mix.wav") + 16 <=
                o.table().columnWidth(SheetColumns::File));
    o.window.resize(1280, 800);
    QTRY_VERIFY(!o.table().isColumnHidden(SheetColumns::Loudness));
    // What is selected, and no more where each has a gain that nothing is heard for.
    o.select("Bell_mix.wav");
    o.run("row.measure");
    QTRY_VERIFY_WITH_TIMEOUT(o.text("Bell_mix.wav", SheetColumns::Loudness).endsWith(" LUFS"), 20000);
    QCOMPARE(o.text("Step 01_mix.wav", SheetColumns::Loudness), QString());
    // Playing meanwhile does not stop it.
    o.selectAll();
    o.run("row.measure");
    o.run("play.toggle");
    QVERIFY(o.work.transport().isPlaying());
    QTRY_VERIFY_WITH_TIMEOUT(o.text("Step 01_mix.wav", SheetColumns::Loudness).endsWith(" LUFS"), 20000);
    o.run("play.stop");
    o.settle();
    QVERIFY(!QFileInfo::exists(o.yard.file("Bell_mix.wav")));
    QVERIFY(o.text("Bell_mix.wav", SheetColumns::TruePeak).endsWith(" dBTP"));
    QVERIFY(o.text("Bell_mix.wav", SheetColumns::LoudnessRange) == QString(QChar(0x2013)) ||
            o.text("Bell_mix.wav", SheetColumns::LoudnessRange).endsWith(" LU"));
    // 0.5 of 0.2 is 8 dB more, 0.1 is 6 dB less; the bell has no variations.
    const QChar up(0x25B2), down(0x25BC);
    QVERIFY(o.text("Step 02_mix.wav", SheetColumns::Loudness).contains(up));
    QVERIFY(o.text("Step 03_mix.wav", SheetColumns::Loudness).contains(down));
    QVERIFY(o.cell("Step 02_mix.wav", SheetColumns::Loudness)
                .data(Qt::ToolTipRole)
                .toString()
                .contains("louder"));
    for (const char* file : {"Step 01_mix.wav", "Bell_mix.wav"})
      QVERIFY(o.text(file, SheetColumns::Loudness).endsWith(" LUFS"));
    // What is not known stands at one end, whichever way it is sorted.
    o.editBrief(0, [](Brief& brief) { brief.levelling.level.target = 6; });
    o.settle();
    QVERIFY(o.text("Bell_mix.wav", SheetColumns::Gain).startsWith("+6.0"));
    // One file is made: what is known of the others stays.
    o.select("Bell_mix.wav");
    o.run("row.make");
    o.goOn();
    o.waitForRun();
    QCOMPARE(o.count(RowState::UpToDate), 1L);
    for (const char* file : {"Step 01_mix.wav", "Bell_mix.wav"})
      QVERIFY(o.text(file, SheetColumns::Loudness).endsWith(" LUFS"));
  }

  // Once files are made their columns say what was measured of them, also after the program was closed.
  void columnsOfFiles() {
    Room o;
    o.editBrief(0, [](Brief& brief) {
      brief.levelling.level.kind = LevelKind::Loudness;
      brief.levelling.level.target = -20;
    });
    o.settle();
    o.run("make.all");
    o.goOn();
    o.waitForRun();
    for (const char* file : {"Step 01_mix.wav", "Step 02_mix.wav", "Bell_mix.wav"}) {
      QCOMPARE(o.text(file, SheetColumns::Loudness), QString("−20.0 LUFS"));
      const Sheet& sheet = *o.work.sheets().sheet();
      QVERIFY(sheet.rows[0].made != nullptr);
      const QString path = QString::fromStdString((sheet.briefs[0].base.full() / file).string());
      QVERIFY(std::fabs(test::judged(path).lufs + 20) <= 0.1);
    }
  }

  // Rows compared equally loud: the second one is heard as much softer as it is louder than the first.
  void comparedEquallyLoud_data() {
    QTest::addColumn<QString>("command");
    QTest::newRow("as they will be written") << "row.hear";
    QTest::newRow("their files") << "row.hear-file";
  }
  void comparedEquallyLoud() {
    QFETCH(QString, command);
    Room o;
    if (command == "row.hear-file") {  // made when nobody asked how loud they are
      o.run("make.all");
      o.goOn();
      o.waitForRun();
      QVERIFY(!o.work.sheets().sheet()->rows[0].made->levels.measured.loudness);
    }
    QStringList said;
    QObject::connect(&o.work.news(), &News::said, &o.window, [&](const QString& words) { said << words; });
    o.run("row.equally-loud");
    std::map<QString, double> loudness;
    for (const char* file : {"Step 03_mix.wav", "Step 02_mix.wav"}) {
      o.select(file);
      o.run(command);
      QTRY_VERIFY_WITH_TIMEOUT(o.work.transport().isPlaying(), 20000);
      o.run("play.stop");
      const Sheet& sheet = *o.work.sheets().sheet();
      loudness[file] = sheet.soundOf(sheet.rows[*o.currentRow()]).levels->lufs.value_or(0);
    }
    const double softer = loudness["Step 02_mix.wav"] - loudness["Step 03_mix.wav"];
    QVERIFY(softer > 10);
    const QString words = said.filter("first row").value(0);
    QVERIFY2(words.startsWith("Heard ") && words.contains("softer"), qPrintable(said.join('|')));
    QVERIFY2(std::fabs(words.section(' ', 1, 1).toDouble() - softer) < 0.15, qPrintable(words));
    // Without it each is heard as it is.
    o.run("row.equally-loud");
    said.clear();
    o.run(command);
    QTRY_VERIFY_WITH_TIMEOUT(o.work.transport().isPlaying(), 20000);
    QCOMPARE(said.filter("first row").size(), 0);
    o.run("play.stop");
  }

  // A row whose level is not known is measured, and then heard; an edit meanwhile does no harm.
  void measuredThenHeard() {
    Room o;
    o.editBrief(0, [](Brief& brief) {
      brief.levelling.level.kind = LevelKind::Loudness;
      brief.levelling.level.per = LevelPer::Brief;
    });
    o.settle();
    o.select("Step 03_mix.wav");
    o.run("row.hear");
    QTRY_VERIFY_WITH_TIMEOUT(o.work.transport().isPlaying(), 20000);
    const Sheet& sheet = *o.work.sheets().sheet();
    QVERIFY(heardGainOf(sheet, sheet.rows[*o.currentRow()]).has_value());
    o.run("play.stop");
    // Stopped while it is being measured, nothing plays by itself later.
    o.editBrief(0, [](Brief& brief) { brief.levelling.level.kind = LevelKind::TruePeak; });
    o.settle();
    o.run("row.hear");
    QVERIFY(o.work.levels().isBusy());
    o.run("play.stop");
    QVERIFY(!o.work.levels().isBusy());
    o.run("row.measure");  // one after the other
    QTRY_VERIFY_WITH_TIMEOUT(!o.work.levels().isBusy(), 20000);
    o.settle();
    QVERIFY(!o.work.transport().isPlaying());
    // The brief is changed while its level is being heard.
    o.editBrief(0, [](Brief& brief) { brief.levelling.level.kind = LevelKind::TruePeak; });
    o.run("row.hear");
    o.editBrief(0, [](Brief& brief) { brief.levelling.level.kind = LevelKind::None; });
    o.settle();
    QTRY_VERIFY_WITH_TIMEOUT(o.work.transport().isPlaying(), 20000);
    o.run("play.stop");
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

QTEST_MAIN(LevelViewTest)
#include "tst_level_view.moc"
