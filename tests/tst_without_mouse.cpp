// The window without a mouse and without eyes: the way of the guide by keyboard alone, and what assistive
// programs are told of views that paint themselves. Keys go to whatever has the keyboard, as a person's do;
// nothing is given the focus but by keys.
#include "opened.h"

#include <limits>

#include "app/brief/phrase_editor.h"
#include "app/look/system_scale.h"
#include "app/sheet/sheet_table.h"
#include "app/signal/signal_line.h"
#include "app/timeline/timeline_view.h"
#include "session/session_file.h"

using namespace octaphon;
using namespace octaphon::app;
using test::Opened;

namespace {

/// What a person hears of a widget.
QString heardOf(const QWidget* widget) {
  if (widget == nullptr) return {};
  if (!widget->accessibleName().isEmpty()) return widget->accessibleName();
  if (const auto* button = qobject_cast<const QAbstractButton*>(widget)) return button->text().remove('&');
  return {};
}

class Hands : public Opened {
 public:
  /// To what has the keyboard.
  void keys(const QString& combination) {
    const QKeyCombination pressed = QKeySequence(combination)[0];
    QWidget* target = QApplication::activePopupWidget();
    if (target != nullptr && target->focusWidget() != nullptr) target = target->focusWidget();
    if (target == nullptr) target = QApplication::focusWidget();
    if (target == nullptr) target = QApplication::activeWindow();
    if (target == nullptr) target = &window;
    QTest::keyClick(target, pressed.key(), pressed.keyboardModifiers());
  }
  void write(const QString& words) { QTest::keyClicks(QApplication::focusWidget(), words); }

  /// Tab by Tab; what was heard on the way where it is not come by.
  void tabTo(const QString& name) {
    QStringList heard;
    for (int i = 0; i < 300; ++i) {
      const QString now = heardOf(QApplication::focusWidget());
      if (now.startsWith(name)) return;
      heard << now;
      keys("Tab");
    }
    heard.removeDuplicates();
    QFAIL(qPrintable(name + " is not come by: " + heard.join(" | ")));
  }

  /// Types the name of a file or folder into the dialog that asks for it, once it is there.
  void answerWith(const QString& path) {
    auto* answer = new QTimer(&window);
    QObject::connect(answer, &QTimer::timeout, answer, [answer, path] {
      auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
      auto* field = dialog == nullptr ? nullptr : dialog->findChild<QLineEdit*>("fileNameEdit");
      if (field == nullptr || !field->hasFocus()) return;
      answer->deleteLater();
      field->selectAll();
      QTest::keyClicks(field, path);
      QTest::keyClick(field, Qt::Key_Return);
    });
    answer->start(20);
  }
  TimelineView& timeline() { return view<TimelineView>(); }
  QStringList trackNames() {
    QStringList names;
    for (const Track& track : now()->tracks) names << QString::fromStdString(track.name);
    return names;
  }
};

/// Name, value and states of each child, in a line.
QStringList childrenOf(QWidget* view) {
  QStringList lines;
  QAccessibleInterface* access = QAccessible::queryAccessibleInterface(view);
  for (int i = 0; i < access->childCount(); ++i) {
    const QAccessibleInterface* child = access->child(i);
    if (child == nullptr || child->text(QAccessible::Name).isEmpty()) continue;
    QStringList said{child->text(QAccessible::Name), child->text(QAccessible::Value)};
    const QAccessible::State state = child->state();
    if (state.selected) said << "selected";
    if (state.focused) said << "focused";
    if (state.disabled) said << "off";
    lines << said.join(" | ");
  }
  return lines;
}

/// The line of a child whose name begins so; empty where there is none.
QString lineOf(QWidget* view, const QString& name) {
  const QStringList lines = childrenOf(view);
  const auto found = std::find_if(lines.begin(), lines.end(),
                                  [&](const QString& line) { return line.startsWith(name + " | "); });
  return found == lines.end() ? QString() : *found;
}

QAccessibleInterface* childNamed(QWidget* view, const QString& name) {
  QAccessibleInterface* access = QAccessible::queryAccessibleInterface(view);
  for (int i = 0; i < access->childCount(); ++i)
    if (access->child(i) != nullptr && access->child(i)->text(QAccessible::Name) == name)
      return access->child(i);
  return nullptr;
}

}  // namespace

class WithoutMouseTest : public QObject {
  Q_OBJECT
  std::unique_ptr<QTemporaryDir> state_;

 private slots:
  void initTestCase() { state_ = test::prepareTests(); }

  // The guide from its first section to its last, by keys: bring in, order, mark, name, listen, write, read,
  // make, save.
  void theWholeWay() {
    QTemporaryDir dir;
    for (const char* layer : {"Body", "Click"})
      for (int i = 1; i <= 2; ++i) {
        QDir(dir.path()).mkpath(QString("Hatch/") + layer);
        test::writeSound(dir.filePath(QString("Hatch/%1/Hatch %1 %2.wav").arg(layer).arg(i)),
                         test::noise(1, 24'000, static_cast<unsigned>(i)));
      }
    Hands o;
    // 1 Bring the material in, by the menu.
    o.answerWith(dir.filePath("Hatch"));
    o.keys("Alt+S");
    QTRY_VERIFY(QApplication::activePopupWidget() != nullptr);
    o.keys("L");
    test::activateMainWindow();
    o.finish();
    QCOMPARE(o.trackNames(), QStringList({"Hatch Body 1", "Hatch Body 2", "Hatch Click 1", "Hatch Click 2"}));
    o.tabTo("Group by folder");
    o.keys("Return");
    QCOMPARE(o.now()->tracks.size(), std::size_t{6});
    // 2 Order tracks: the second one of the first group goes up.
    o.tabTo("Timeline");
    const auto select = [&](const QString& track) {
      for (int i = 0; i < 20; ++i) {
        o.keys("Down");
        if (lineOf(&o.timeline(), track).contains("focused")) break;
      }
      QVERIFY2(lineOf(&o.timeline(), track).contains("focused"), qPrintable(track));
      o.keys("Return");
    };
    select("Track Hatch Body 2");
    QVERIFY(lineOf(&o.timeline(), "Track Hatch Body 2").contains("selected"));
    o.keys("Ctrl+PgUp");
    QVERIFY(o.trackNames().indexOf("Hatch Body 2") < o.trackNames().indexOf("Hatch Body 1"));
    o.keys("Ctrl+Z");
    QVERIFY(o.trackNames().indexOf("Hatch Body 2") > o.trackNames().indexOf("Hatch Body 1"));
    // 3 Mark: move every second clip behind, then a region for each island.
    o.keys("Esc");
    for (int i = 0; i < 20; ++i) o.keys("Up");
    o.keys("Home");
    o.keys("Right");
    QVERIFY(o.timeline().playhead() > 0);
    const Frame line = o.timeline().playhead();
    o.keys("Shift+Right");
    o.keys("Shift+Right");
    QCOMPARE(o.work.selected().range().value().start, line);
    QCOMPARE(o.work.selected().range().value().end(), o.timeline().playhead());
    o.keys("Shift+Left");
    QCOMPARE(o.work.selected().range().value().end(), o.timeline().playhead());
    o.keys("Insert");  // a region around it
    QCOMPARE(o.now()->regions.size(), std::size_t{1});
    QCOMPARE(o.now()->regions[0].start, line);
    o.keys("F2");
    QTRY_VERIFY(qobject_cast<QLineEdit*>(QApplication::focusWidget()) != nullptr);
    o.write("Hatch/Open 01");
    o.keys("Return");
    QTRY_COMPARE(o.now()->regions[0].name, std::string("Hatch/Open 01"));
    o.tabTo("Timeline");
    o.keys("Ctrl+End");
    QCOMPARE(o.timeline().playhead(), o.now()->regions[0].end());
    // A marker, nudged and taken out again.
    o.keys("Esc");
    o.keys("Ctrl+K");
    QCOMPARE(o.now()->markerCount(), std::size_t{1});
    o.tabTo("Timeline");
    o.keys("Down");
    QVERIFY(lineOf(&o.timeline(), "Markers").contains("focused"));
    o.keys("Return");
    const Frame at = o.now()->markerSets[0].markers[0].at;
    o.keys("Alt+Right");
    QCOMPARE(o.now()->markerSets[0].markers[0].at, at + 480);
    o.keys("Delete");
    QCOMPARE(o.now()->markerCount(), std::size_t{0});
    // 4 Listen, and a point of a curve.
    o.keys("Home");
    QTRY_VERIFY(o.work.sheets().facts() != nullptr);  // a person is slower
    o.keys("Space");
    QVERIFY(o.work.transport().isPlaying());
    o.keys("Space");
    QVERIFY(!o.work.transport().isPlaying());
    o.tabTo("Timeline");
    select("Track Hatch Body 1");
    o.keys("Ctrl+6");
    o.tabTo("Curve shown on the timeline");
    QTRY_VERIFY(o.window.findChild<QComboBox*>("curveTarget")->count() > 1);
    o.keys("Down");
    o.tabTo("Point here");
    o.keys("Return");
    const Track* body = findTrack(*o.now(), *o.work.selected().tracks().begin());
    QCOMPARE(body->automation.size(), std::size_t{1});
    QCOMPARE(body->automation[0].points.size(), std::size_t{1});
    // 5 Write the brief.
    o.tabTo("Timeline");
    o.keys("Esc");
    for (int i = 0; i < 20; ++i) o.keys("Up");
    o.keys("Home");
    o.keys("Return");
    QVERIFY(lineOf(&o.timeline(), "Region Hatch/Open 01").contains("selected"));
    o.keys("Ctrl+P");
    QTRY_COMPARE(o.now()->briefs.size(), std::size_t{1});
    o.settle();
    QTRY_VERIFY(o.view<SentenceView>().editor() != nullptr);
    o.keys("Esc");
    // 6 Read the sheet, and its columns.
    o.keys("Ctrl+1");
    o.tabTo("Sheet");
    o.keys("Down");
    QTRY_VERIFY(!o.work.rows().isEmpty());
    o.keys("Alt+V");
    QTRY_VERIFY(QApplication::activePopupWidget() != nullptr);
    o.keys("U");
    QVERIFY(test::activate("Columns of the sheet"));
    o.keys("Down");
    const auto& table = o.view<SheetTable>();
    QVERIFY(table.isColumnHidden(SheetModel::BriefName));
    o.keys("Space");
    QVERIFY(!table.isColumnHidden(SheetModel::BriefName));
    o.keys("Ctrl+PgDown");
    QCOMPARE(table.horizontalHeader()->visualIndex(SheetModel::BriefName), 2);
    o.keys("Esc");
    test::activateMainWindow();
    // 7 Make and save.
    o.keys("Ctrl+Return");
    o.goOn();
    o.waitForRun();
    QVERIFY(o.count(RowState::UpToDate) > 0);
    QCOMPARE(o.count(RowState::UpToDate), static_cast<long>(o.files().size()));
    o.keys("Ctrl+S");
    o.finish();
    QVERIFY(QFile::exists(dir.filePath("Hatch/Hatch.octaphon")));
    QVERIFY(!o.window.isWindowModified());
  }

  // The menu key opens the menu of what has the keyboard, where it is to be seen.
  void theMenuKey_data() {
    QTest::addColumn<QString>("view");
    QTest::addColumn<QString>("offered");
    QTest::newRow("timeline") << "Timeline"
                              << "Split at the playhead";
    QTest::newRow("outline") << "Regions"
                             << "Zoom to the region";
    QTest::newRow("sheet") << "Sheet"
                           << "Hear the row as it will be written";
  }
  void theMenuKey() {
    QFETCH(QString, view);
    QFETCH(QString, offered);
    Hands o;
    o.open();
    o.keys("Ctrl+1");
    o.work.places().go(Thing::Region, o.now()->regions[1].id);
    o.settle();
    o.tabTo(view);
    if (view == "Sheet") o.keys("Down");
    QWidget* focused = QApplication::focusWidget();
    QStringList words;
    QRect at;
    QTimer::singleShot(0, &o.window, [&] {
      auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
      if (menu == nullptr) return;
      at = menu->geometry();
      for (const QAction* action : menu->actions())
        if (action->isEnabled()) words << action->text().remove('&');
      menu->close();
    });
    // As the system does for the key.
    QContextMenuEvent event(QContextMenuEvent::Keyboard, focused->rect().center(),
                            focused->mapToGlobal(focused->rect().center()));
    QApplication::sendEvent(focused, &event);
    QVERIFY2(words.contains(offered), qPrintable(words.join(" | ")));
    const QRect seen(focused->mapToGlobal(QPoint()), focused->size());
    QVERIFY(seen.intersects(at));
    QVERIFY(at.topLeft() != focused->mapToGlobal(focused->rect().center()));
  }

  void listsOpenAndChooseByKeys() {
    Hands o;
    o.open();
    o.keys("Ctrl+1");
    o.tabTo("Headings of the sheet");
    auto* list = qobject_cast<QComboBox*>(QApplication::focusWidget());
    QVERIFY(list != nullptr);
    o.keys("Return");
    QTRY_VERIFY(QApplication::activePopupWidget() != nullptr);
    o.keys("Down");
    o.keys("Return");
    QTRY_VERIFY(QApplication::activePopupWidget() == nullptr);
    QCOMPARE(list->currentIndex(), 1);
  }

  void theTimelineIsTold() {
    Hands o;
    o.open();
    TimelineView& timeline = o.timeline();
    timeline.showSpan(0, 48000 * 20);
    o.tabTo("Timeline");
    QVERIFY(lineOf(&timeline, "Group Machines").contains("focused"));
    for (int i = 0; i < 3; ++i) o.keys("Up");
    const Region& region = o.now()->regions[0];
    QCOMPARE(lineOf(&timeline, "Region Winch/Start 01"),
             QString("Region Winch/Start 01 | %1, %2 long")
                 .arg(QString::fromStdString(timeText(region.start, 48000)),
                      QString::fromStdString(timeText(region.length, 48000))));
    QCOMPARE(lineOf(&timeline, "Regions"), QString("Regions | 28 regions | focused"));
    QCOMPARE(lineOf(&timeline, "Group Machines"), QString("Group Machines | 0.0 dB"));
    QVERIFY(lineOf(&timeline, "Track Gear").startsWith("Track Gear | −3.0 dB"));
    QVERIFY(!childrenOf(&timeline).filter(QRegularExpression("^Clip ")).isEmpty());
    QVERIFY(!childrenOf(&timeline).filter(QRegularExpression("^File .* to make$")).isEmpty());
    // What is not to be seen is not there; what is, is where it is painted.
    QVERIFY(lineOf(&timeline, "Region Tour/60 s").isEmpty());
    QAccessibleInterface* child = childNamed(&timeline, "Region Winch/Start 01");
    QVERIFY(child != nullptr);
    const QRect place(timeline.viewport()->mapFromGlobal(child->rect().topLeft()), child->rect().size());
    QVERIFY(timeline.ribbonOf(0).toRect().intersects(place));
    QCOMPARE(QAccessible::queryAccessibleInterface(&timeline)->childAt(child->rect().center().x(),
                                                                       child->rect().center().y()),
             child);
    // What is done to it is what a click does; a child stays the same one.
    child->actionInterface()->doAction(QAccessibleActionInterface::pressAction());
    QCOMPARE(o.work.selected().regions(), Ids{region.id});
    QVERIFY(child->state().selected);
    QCOMPARE(childNamed(&timeline, "Region Winch/Start 01"), child);
    // The keyboard's place is told as it moves.
    o.keys("Down");
    o.keys("Down");
    const QAccessibleInterface* current = QAccessible::queryAccessibleInterface(&timeline)->focusChild();
    QVERIFY(current != nullptr && current->state().focused);
    QVERIFY(current->text(QAccessible::Name) != "Regions");
    // What goes is told to be gone.
    o.keys("Delete");
    QVERIFY(!child->isValid());
    QVERIFY(child->text(QAccessible::Name).isEmpty());
  }

  void theOutlineIsTold() {
    Opened o;
    o.open();
    QTreeView& outline = o.view<OutlineView>();
    QAccessibleInterface* access = QAccessible::queryAccessibleInterface(&outline);
    QVERIFY(access->tableInterface() != nullptr);
    QStringList names;
    for (int row = 0; row < access->tableInterface()->rowCount(); ++row)
      names << access->tableInterface()->cellAt(row, 0)->text(QAccessible::Name);
    QCOMPARE(names.first(), QString("Winch"));
    QVERIFY(names.contains("Start 01, to make"));
    o.work.selected().set(Thing::Region, {o.now()->regions[0].id});
    bool isSelected = false;
    for (int row = 0; row < access->tableInterface()->rowCount(); ++row) {
      const QAccessibleInterface* cell = access->tableInterface()->cellAt(row, 0);
      if (cell->state().selected) isSelected = cell->text(QAccessible::Name).startsWith("Start 01");
    }
    QVERIFY(isSelected);
  }

  void theSheetIsTold() {
    Opened o;
    o.open();
    o.run("panel.sheet");
    SheetTable& table = o.view<SheetTable>();
    QAccessibleTableInterface* told = QAccessible::queryAccessibleInterface(&table)->tableInterface();
    QVERIFY(told != nullptr);
    QCOMPARE(told->rowCount(), static_cast<int>(o.files().size()));
    int state = -1;
    for (int column = 0; column < told->columnCount(); ++column)
      if (told->columnDescription(column) == SheetModel::title(SheetModel::State)) state = column;
    QVERIFY(state >= 0);
    QCOMPARE(told->columnDescription(0), SheetModel::title(SheetModel::File));
    QVERIFY(o.files().contains(told->cellAt(0, 0)->text(QAccessible::Name)));
    QCOMPARE(told->cellAt(0, state)->text(QAccessible::Name), QString("to make"));
    table.selectRow(2);
    QVERIFY(told->cellAt(2, 0)->state().selected && !told->cellAt(1, 0)->state().selected);
  }

  // Text of the desktop makes everything larger, in quarters; smaller text nothing smaller.
  void theInterfaceFollowsTheText_data() {
    QTest::addColumn<double>("pixels");
    QTest::addColumn<double>("scale");
    QTest::newRow("9 points") << 12.0 << 1.0;
    QTest::newRow("10 points") << 40 / 3.0 << 1.0;
    QTest::newRow("11 points") << 44 / 3.0 << 1.0;
    QTest::newRow("12 points") << 16.0 << 1.25;
    QTest::newRow("15 points") << 20.0 << 1.5;
    QTest::newRow("20 points") << 80 / 3.0 << 2.0;
    QTest::newRow("a mistake") << 1e9 << 3.0;
    QTest::newRow("none") << std::numeric_limits<double>::quiet_NaN() << 1.0;
  }
  void theInterfaceFollowsTheText() {
    QFETCH(double, pixels);
    QFETCH(double, scale);
    QCOMPARE(scaleForText(pixels), scale);
  }

  void theSignalLineIsTold() {
    Hands o;
    o.open();
    const auto& tracks = o.now()->tracks;
    const auto gear =
        std::find_if(tracks.begin(), tracks.end(), [](const Track& track) { return track.name == "Gear"; });
    o.work.selected().set(Thing::Track, {gear->id});
    o.run("panel.signal");
    o.tabTo("Signal line");
    auto& line = o.view<SignalLine>();
    QTRY_VERIFY(line.stations().size() > 2);
    const QStringList told = childrenOf(&line);
    QCOMPARE(told.size(), static_cast<qsizetype>(line.stations().size()));
    QVERIFY(told.first().startsWith("Gear: clips | "));
    QVERIFY(told.first().contains("focused"));
    QVERIFY(lineOf(&line, "Gear: fader").contains("−3.0"));
    QAccessibleInterface* fader = childNamed(&line, "Gear: fader");
    fader->actionInterface()->doAction(QAccessibleActionInterface::pressAction());
    QVERIFY(fader->state().focused && fader->state().selected);
    QCOMPARE(line.currentStation()->name, QString("fader"));
  }
};

QTEST_MAIN(WithoutMouseTest)
#include "tst_without_mouse.moc"
