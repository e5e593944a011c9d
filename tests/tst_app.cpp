// The real window, driven by keys and mouse. ctest runs this offscreen and again on a real X server.
#include <QtTest>
#include <QtWidgets>
#include <set>

#include "app/look/state_mark.h"
#include "opened.h"
#include "session/session_file.h"

using namespace octaphon;
using namespace octaphon::app;
using test::key;
using test::Opened;

namespace {

double luminance(const QColor& colour) {
  const auto linear = [](double c) { return c <= 0.04045 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4); };
  return 0.2126 * linear(colour.redF()) + 0.7152 * linear(colour.greenF()) + 0.0722 * linear(colour.blueF());
}

double contrast(const QColor& a, const QColor& b) {
  const double high = std::max(luminance(a), luminance(b));
  return (high + 0.05) / (std::min(luminance(a), luminance(b)) + 0.05);
}

}  // namespace

class AppTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { state_ = test::prepareTests(); }

  void theDemoOpens() {
    Opened o;
    QVERIFY(o.window.findChild<FirstPage*>()->isVisible());
    o.open();
    QVERIFY(!o.window.findChild<FirstPage*>()->isVisible());
    QVERIFY(o.files().size() >= 60);
    QCOMPARE(o.view<SheetView>().model().rowCount(), o.files().size());
    QCOMPARE(o.view<BriefsPanel>().list().model()->rowCount(), 6);
    QVERIFY(
        o.view<StripBar>().countText().startsWith(QString("%1 files from 5 briefs").arg(o.files().size())));
    QVERIFY(o.view<SheetView>().model().index(0, SheetModel::File).data().toString() ==
            "winch_start_gear_01.wav");
  }

  void typingATemplateChangesTheNames() {
    Opened o;
    o.open();
    TemplateEdit& edit = o.view<TemplateEdit>();
    edit.setFocus();
    edit.selectAll();
    QTest::keyClicks(&edit, "{n:3} {source}");
    o.settle();
    QTRY_COMPARE(o.files()[0], QString("001_gear.wav"));  // the brief is in snake case
    QCOMPARE(o.view<SheetView>().model().index(0, SheetModel::File).data().toString(),
             QString("001_gear.wav"));
    QVERIFY(o.window.isWindowModified());
    edit.selectAll();
    QTest::keyClicks(&edit, "{oops}");
    QTRY_VERIFY(o.count(RowState::Fault) > 0);
    QTRY_VERIFY(edit.property("wrong").toBool());
    key(&edit, Qt::Key_Z, Qt::ControlModifier);  // the whole typing is one step
    QTRY_COMPARE(o.files()[0], QString("winch_start_gear_01.wav"));
    QVERIFY(!o.window.isWindowModified());
    key(&edit, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    QTRY_VERIFY(o.count(RowState::Fault) > 0);
  }

  void makingFilesFromTheKeyboard() {
    Opened o;
    o.open();
    const auto rows = o.files().size();
    key(&o.window, Qt::Key_Return, Qt::ControlModifier);
    o.goOn();
    QVERIFY(o.work.making().isRunning());
    o.waitForRun();
    QTRY_COMPARE(o.count(RowState::UpToDate), rows);
    QVERIFY(QFile::exists(o.dir.filePath("Deliveries/Game/winch_start_gear_01.wav")));
    QVERIFY(o.view<StripBar>().stateText().contains(QString("%1 files made").arg(rows)));
    QCOMPARE(o.view<SheetView>().model().index(0, SheetModel::State).data().toString(),
             QString("up to date"));
    // One change, and just what hears it is stale; a file removed behind our back is noticed.
    o.editBrief(0, [](Brief& brief) { brief.ends.tail = Tail::Fixed, brief.ends.tailSeconds = 0.5; });
    QTRY_COMPARE(o.count(RowState::Stale), 30);
    QFile::remove(o.dir.filePath("Deliveries/Single/gull-call-01.wav"));
    o.work.sheets().refresh();
    QTRY_COMPARE(o.count(RowState::ToMake), 1);
    key(&o.window, Qt::Key_Return, Qt::ControlModifier);
    o.goOn();
    o.waitForRun();
    QTRY_COMPARE(o.count(RowState::UpToDate), rows);
    key(&o.window, Qt::Key_Return, Qt::ControlModifier | Qt::ShiftModifier);
    o.goOn();
    QVERIFY(o.work.making().isRunning());
    o.waitForRun();
    QTRY_COMPARE(o.count(RowState::UpToDate), rows);
  }

  void stoppedHalfWayNothingIsHalfWritten() {
    Opened o;
    Session session = *loadSession(o.session().toStdString());
    for (int i = 0; i < 60; ++i) {  // enough to be caught in the middle
      Region region;
      region.id = "more" + std::to_string(i);
      region.name = "More/" + std::to_string(i);
      region.start = 204 * 48000 + i;
      region.length = 60 * 48000;
      session.regions.push_back(region);
      session.briefs[3].where.regions.setByHand(region.id, true);
    }
    QVERIFY(saveSession(session, o.session().toStdString()).has_value());
    o.open();
    key(&o.window, Qt::Key_Return, Qt::ControlModifier);
    o.goOn();
    QTRY_VERIFY_WITH_TIMEOUT(o.work.making().control() == nullptr || o.work.making().control()->filesDone > 3,
                             60000);
    QVERIFY(o.work.making().isRunning());
    o.view<StripBar>().stopButton().click();
    o.waitForRun();
    QVERIFY(o.view<StripBar>().stateText().contains("stopped"));
    const QStringList left = test::filesBelow(o.dir.filePath("Deliveries"));
    QVERIFY(!left.isEmpty() && left.size() < o.files().size());
    for (const QString& file : left) {
      QVERIFY2(!file.endsWith(".part"), qPrintable(file));
      QVERIFY(!test::readSound(o.dir.filePath("Deliveries/" + file)).empty());
    }
    QTRY_COMPARE(o.count(RowState::UpToDate), left.size());
  }

  void phrasesOpenWithReturnAndCountAtOnce_data() {
    QTest::addColumn<int>("kind");
    for (const PhraseKind kind :
         {PhraseKind::Sources, PhraseKind::Regions, PhraseKind::Counts, PhraseKind::Reach,
          PhraseKind::Overrides, PhraseKind::Tail, PhraseKind::Encoding, PhraseKind::Case, PhraseKind::Folder,
          PhraseKind::Existing})
      QTest::addRow("%d", static_cast<int>(kind)) << static_cast<int>(kind);
  }
  void phrasesOpenWithReturnAndCountAtOnce() {
    QFETCH(int, kind);
    Opened o;
    o.open();
    const auto phrase = static_cast<PhraseKind>(kind);
    PhraseEditor* editor = o.openPhrase(phrase);
    QVERIFY(editor != nullptr && editor->isVisible());
    QVERIFY(!editor->accessibleName().isEmpty());
    // It stands in the sentence, below its phrase, and over nothing.
    PhraseButton* button = o.view<SentenceView>().phraseButton(phrase);
    QTRY_VERIFY(editor->mapTo(&o.window, QPoint()).y() >=
                button->mapTo(&o.window, QPoint(0, button->height())).y());
    const QString before = button->words();
    QWidget* field = QApplication::focusWidget();
    QVERIFY(field != nullptr && editor->isAncestorOf(field));
    if (qobject_cast<QAbstractSpinBox*>(field) != nullptr) {
      key(field, Qt::Key_Up);
    } else if (auto* line = qobject_cast<QLineEdit*>(field)) {
      QTest::keyClicks(line, "X");
    } else if (auto* tree = qobject_cast<QTreeWidget*>(field)) {
      tree->setCurrentItem(tree->topLevelItem(1));
      key(tree, Qt::Key_Return);
    } else if (qobject_cast<QRadioButton*>(field) != nullptr) {
      key(field, Qt::Key_Down);
      if (button->words() == before) key(QApplication::focusWidget(), Qt::Key_Up);
    } else if (qobject_cast<QComboBox*>(field) != nullptr) {
      key(field, Qt::Key_Down);
    } else {
      key(field, Qt::Key_Return);
    }
    QTRY_VERIFY(button->words() != before);
    // Undo is in reach while it is open, and shows in it.
    key(QApplication::focusWidget(), Qt::Key_Z, Qt::ControlModifier);
    QTRY_COMPARE(button->words(), before);
    QVERIFY(!o.window.isWindowModified());
    QCOMPARE(o.view<SentenceView>().editor(), editor);
    key(QApplication::focusWidget(), Qt::Key_Escape);
    QVERIFY(o.view<SentenceView>().editor() == nullptr);
    QCOMPARE(QApplication::focusWidget(), static_cast<QWidget*>(button));
  }

  void jumpingPlayingAndStopping() {
    Opened o;
    o.open();
    key(&o.window, Qt::Key_Down, Qt::AltModifier);
    key(&o.window, Qt::Key_Down, Qt::AltModifier);
    const auto chosen = [&] { return o.work.selected().regions(); };
    QCOMPARE(chosen(), Ids{o.now()->regions[1].id});
    const Frame start = o.work.document().session()->regions[1].start;
    QCOMPARE(o.work.transport().position(), start);
    QVERIFY2(o.view<HeaderBar>().positionText() == "bar 5, beat 2.50 0:07.500",
             qPrintable(o.view<HeaderBar>().positionText()));  // 13.5 beats of 60/108 s, three to a bar
    key(&o.window, Qt::Key_Space);
    QVERIFY(o.work.transport().isPlaying());
    QTRY_VERIFY(o.work.transport().position() > start + 4800);
    key(&o.window, Qt::Key_Space);
    QVERIFY(!o.work.transport().isPlaying());
    // Space is a letter in text.
    TemplateEdit& edit = o.view<TemplateEdit>();
    edit.setFocus();
    key(&edit, Qt::Key_Space);
    QVERIFY(!o.work.transport().isPlaying());
    QVERIFY(edit.text().contains(' '));
    key(&o.window, Qt::Key_Up, Qt::AltModifier);
    QCOMPARE(chosen(), Ids{o.now()->regions[0].id});
  }

  void theTimelineZoomsAndChooses() {
    Opened o;
    o.open();
    TimelineView& timeline = o.view<TimelineView>();
    const double whole = timeline.framesPerPixel();
    key(&o.window, Qt::Key_Down, Qt::AltModifier);
    key(&o.window, Qt::Key_Right, Qt::ControlModifier | Qt::ShiftModifier);
    QVERIFY(timeline.framesPerPixel() < whole / 20);
    QVERIFY(timeline.leftFrame() < o.work.document().session()->regions[0].start);
    key(&o.window, Qt::Key_Left, Qt::ControlModifier | Qt::ShiftModifier);
    QCOMPARE(timeline.framesPerPixel(), whole);
    QTest::mouseClick(timeline.viewport(), Qt::LeftButton, {}, timeline.ribbonOf(4).center().toPoint());
    QCOMPARE(o.work.selected().regions(), Ids{o.work.document().session()->regions[4].id});
    QCOMPARE(o.view<OutlineView>().currentIndex().data().toString(), QString("Stop 01"));
    timeline.showSpan(0, 48000 * 10);
    QCOMPARE(o.work.rows().count(), 3u);  // those of the region
    for (int y = 90; y < timeline.viewport()->height() && o.work.rows().count() != 1; y += 6)
      QTest::mouseClick(timeline.viewport(), Qt::LeftButton, {}, QPoint(330, y));
    QCOMPARE(o.work.rows().keys().size(), 1u);
    QVERIFY(o.view<SheetView>().table().selectionModel()->hasSelection());
  }

  void briefsAreTickedMadeAndUndone() {
    Opened o;
    o.open();
    const auto all = o.files().size();
    QListView& list = o.view<BriefsPanel>().list();
    list.setFocus();
    key(&list, Qt::Key_Return);  // unticks the first
    QTRY_COMPARE(o.files().size(), all - 30);
    key(&list, Qt::Key_Return);
    QTRY_COMPARE(o.files().size(), all);
    key(&o.window, Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
    QCOMPARE(list.model()->rowCount(), 7);
    QTRY_COMPARE(o.files().size(), all + 28);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(list.model()->rowCount(), 6);
    QTRY_COMPARE(o.files().size(), all);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);  // a tick is a step as any other
    QTRY_COMPARE(o.files().size(), all - 30);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QVERIFY(!o.window.isWindowModified());
  }

  void savedAndOpenedAgain() {
    Opened o;
    o.open();
    o.editBrief(1, [](Brief& brief) { brief.names.format = "{region} saved"; });
    key(&o.window, Qt::Key_S, Qt::ControlModifier);
    QTRY_VERIFY(!o.window.isWindowModified());
    QCOMPARE(loadSession(o.session().toStdString())->briefs[1].names.format, std::string("{region} saved"));
    QVERIFY(QSettings().value("recent").toStringList().first().endsWith("Tidewheel.octaphon"));
  }

  void badSessionsAreToldInTheWindow() {
    Opened o;
    QFile bad(o.dir.filePath("bad.octaphon"));
    QVERIFY(bad.open(QIODevice::WriteOnly));
    bad.write(R"({"format":"octaphon-session","version":"1.0","rate":"fast"})");
    bad.close();
    o.open(bad.fileName());
    QVERIFY(!o.work.document().isOpen());
    bool told = false;
    for (const QLabel* label : o.window.findChildren<QLabel*>())
      told = told || (label->isVisible() && label->text().contains("bad.octaphon: rate"));
    QVERIFY(told);
    QFile::remove(o.dir.filePath("media/gear.wav"));
    o.open();
    QTRY_VERIFY(o.count(RowState::Fault) > 0);
    QVERIFY(o.view<StripBar>().stateText().contains("cannot be made"));
  }

  void theSheetSortsFiltersAndKeepsItsPlace() {
    Opened o;
    o.open();
    SheetModel& model = o.view<SheetView>().model();
    model.setFilter("mix STOP");
    QCOMPARE(model.rowCount(), 2);
    model.setFilter("");
    model.sort(SheetModel::Length, Qt::DescendingOrder);
    QCOMPARE(model.index(0, SheetModel::Length).data().toString(), QString("1:00.000"));
    o.work.rows().show(o.rowKey(3));
    o.editBrief(0, [](Brief& brief) { brief.names.letterCase = LetterCase::Kebab; });
    QTRY_COMPARE(o.files()[3], QString("winch-start-gear-02.wav"));
    QCOMPARE(o.currentRow(), std::optional<std::size_t>(3));
  }

  // WCAG 2.1: 4.5:1 for text, 3:1 for shapes that matter, on every ground they stand on.
  void contrasts() {
    for (const Look look : {Look::Day, Look::Night})
      for (const Role ground : {Role::Paper, Role::Sheet, Role::Selection, Role::GroupBand}) {
        for (const Role ink :
             {Role::Ink, Role::SecondInk, Role::Accent, Role::Attention, Role::Fault, Role::Good})
          QVERIFY2(contrast(Theme::colour(look, ink), Theme::colour(look, ground)) >= 4.5,
                   qPrintable(QString("%1 on %2").arg(int(ink)).arg(int(ground))));
        if (ground == Role::Selection) continue;
        QVERIFY(contrast(Theme::colour(look, Role::Frame), Theme::colour(look, ground)) >= 2.9);
        for (int ink = 1; ink <= kInks; ++ink)
          QVERIFY2(contrast(Theme::trackInk(look, ink), Theme::colour(look, ground)) >= 3,
                   qPrintable(QString("ink %1").arg(ink)));
      }
    QVERIFY(contrast(Theme::colour(Look::Day, Role::OnAccent), Theme::colour(Look::Day, Role::Accent)) >=
            4.5);
    QVERIFY(contrast(Theme::colour(Look::Night, Role::OnAccent), Theme::colour(Look::Night, Role::Accent)) >=
            4.5);
  }

  // Without its colour each state still looks like no other.
  void statesDifferByForm() {
    std::set<QByteArray> marks, tiles;
    for (const RowState state : {RowState::ToMake, RowState::UpToDate, RowState::Stale, RowState::Changed,
                                 RowState::Foreign, RowState::Fault}) {
      const auto drawn = [&](auto draw) {
        QImage image(40, 20, QImage::Format_ARGB32);
        image.fill(Qt::white);
        QPainter painter(&image);
        draw(painter);
        painter.end();
        QImage form(40, 20, QImage::Format_Grayscale8);
        for (int y = 0; y < 20; ++y)
          for (int x = 0; x < 40; ++x)
            form.setPixelColor(x, y, image.pixelColor(x, y) == QColor(Qt::white) ? Qt::white : Qt::black);
        return QByteArray(reinterpret_cast<const char*>(form.constBits()), form.sizeInBytes());
      };
      marks.insert(drawn([&](QPainter& p) { drawStateMark(p, QRectF(0, 0, 40, 20), state); }));
      tiles.insert(drawn([&](QPainter& p) { drawTile(p, QRectF(2.5, 2.5, 34, 14), state); }));
    }
    QCOMPARE(marks.size(), 6u);
    QCOMPARE(tiles.size(), 6u);
  }

  void everythingHasANameAndFits_data() {
    QTest::addColumn<QSize>("size");
    QTest::newRow("small") << QSize(1100, 700);
    QTest::newRow("usual") << QSize(1280, 800);
  }
  void everythingHasANameAndFits() {
    QFETCH(QSize, size);
    Opened o;
    o.window.resize(size);
    o.open();
    QCOMPARE(o.window.size(), size);
    for (const QWidget* widget : o.window.findChildren<QWidget*>()) {
      if (!widget->isVisible() || !(widget->focusPolicy() & Qt::TabFocus)) continue;
      const auto* button = qobject_cast<const QAbstractButton*>(widget);
      const bool named =
          !widget->accessibleName().isEmpty() || (button != nullptr && !button->text().isEmpty());
      QVERIFY2(named,
               qPrintable(QString("%1 %2").arg(widget->metaObject()->className(), widget->objectName())));
      if (const auto* push = qobject_cast<const QPushButton*>(widget);
          push != nullptr && push->objectName() != "phrase")
        QVERIFY2(push->width() >= push->fontMetrics().horizontalAdvance(push->text()),
                 qPrintable(push->text()));
    }
  }

  void figuresHaveOneWidth() {
    for (const QFont& font : {Theme::body(), Theme::sentence(), Theme::caption()}) {
      QCOMPARE(QFontInfo(font).family(), QString("Octaphon Text"));
      std::set<int> widths;
      for (char digit = '0'; digit <= '9'; ++digit)
        widths.insert(QFontMetrics(font).horizontalAdvance(QString(10, digit)));
      QCOMPARE(widths.size(), 1u);
    }
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

QTEST_MAIN(AppTest)
#include "tst_app.moc"
