// What could be lost under one's hands, and is not: lists that change while they are used, selections that
// move while one types, sessions that go, locks.
// Started with --type SESSION it types without a pause until it is killed.
#include <csignal>
#include <QRandomGenerator>

#include "edit/inserts.h"
#include "opened.h"
#include "session/session_file.h"
#include "session/session_json.h"

using namespace octaphon;
using namespace octaphon::app;
using test::choosing;
using test::fieldNamed;
using test::key;
using test::Opened;
using test::press;

namespace {

constexpr auto kCtrl = Qt::ControlModifier;

/// Opens the context menu of a table's current row; `whileOpen` runs in it.
void withMenu(QTableView& table, const std::function<void(QMenu&)>& whileOpen) {
  QTimer opened;
  QObject::connect(&opened, &QTimer::timeout, &opened, [&] {
    auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
    if (menu == nullptr) return;
    opened.stop();
    whileOpen(*menu);
  });
  opened.start(20);
  const QPoint at = table.visualRect(table.currentIndex()).center();
  QContextMenuEvent wanted(QContextMenuEvent::Mouse, at, table.viewport()->mapToGlobal(at));
  QApplication::sendEvent(table.viewport(), &wanted);
}

QAction* entry(const QMenu& menu, const QString& words) {
  for (QAction* action : menu.actions())
    if (action->text().remove('&') == words) return action;
  return nullptr;
}

/// A file of a session that a program which is gone has left.
void leaveWork(const QString& session, const QString& name) {
  Session kept = *loadSession(session.toStdString());
  kept.title = name.toStdString();
  const QJsonObject head{{"file", session},
                         {"name", name},
                         {"new", false},
                         {"when", QDateTime::currentDateTime().toString(Qt::ISODateWithMs)}};
  QDir().mkpath(Rescue::folder());
  QFile file(Rescue::folder() + "/" + name + ".work");
  QVERIFY(file.open(QIODevice::WriteOnly));
  file.write(QJsonDocument(head).toJson(QJsonDocument::Compact) + '\n' +
             QByteArray::fromStdString(writeSession(kept)));
}

/// Answers the next question with the button of these words.
void answering(const QString& words, const std::function<void()>& act) {
  QTimer answer;
  bool answered = false;
  QObject::connect(&answer, &QTimer::timeout, &answer, [&] {
    auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
    if (box == nullptr) return;
    answer.stop();
    for (QAbstractButton* button : box->buttons())
      if (button->text().remove('&') == words) answered = true, button->click();
  });
  answer.start(20);
  act();
  QVERIFY2(answered, "it was not asked");
  test::activateMainWindow();
}

}  // namespace

class LostTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { state_ = test::prepareTests(); }
  void init() { QDir(Rescue::folder()).removeRecursively(); }

  // --- what is typed goes to what it was typed for

  void notesStayWithTheirRegion() {
    Opened o;
    o.open();
    key(&o.window, Qt::Key_Down, Qt::AltModifier);
    key(&o.window, Qt::Key_4, kCtrl);
    QPlainTextEdit* notes = nullptr;
    QTRY_VERIFY((notes = fieldNamed<QPlainTextEdit>(o.view<DetailsPanel>(), "Notes")) != nullptr);
    notes->setFocus();
    QTest::keyClicks(notes, "first");
    key(notes, Qt::Key_Down, Qt::AltModifier);
    QTRY_COMPARE(notes->toPlainText(), QString());
    QTest::keyClicks(notes, "second");
    QCOMPARE(o.now()->regions[0].notes, std::string("first"));
    QCOMPARE(o.now()->regions[1].notes, std::string("second"));
    key(notes, Qt::Key_Z, kCtrl);
    QTRY_COMPARE(notes->toPlainText(), QString());
    key(notes, Qt::Key_Z, kCtrl);
    QVERIFY(!o.window.isWindowModified());
  }

  void aNumberThatIsTypedCountsForWhatItWasTypedFor() {
    Opened o;
    o.open();
    o.work.selected().set(Thing::Track, {"gear"});
    key(&o.window, Qt::Key_4, kCtrl);
    QDoubleSpinBox* fader = nullptr;
    QTRY_VERIFY((fader = fieldNamed<QDoubleSpinBox>(o.view<DetailsPanel>(), "Fader")) != nullptr);
    fader->setFocus();
    fader->selectAll();
    QTest::keyClicks(fader, "-9");
    const double before = findTrack(*o.now(), "chain")->gainDb;
    o.work.selected().set(Thing::Track, {"chain"});
    QTRY_COMPARE(findTrack(*o.now(), "gear")->gainDb, -9.0);
    QCOMPARE(findTrack(*o.now(), "chain")->gainDb, before);
    QTRY_COMPARE(fader->value(), before);
  }

  // Steps of undo are of one property of the same things.
  void mutingOneSetAndThenAnotherIsTwoSteps() {
    Opened o;
    o.open();
    key(&o.window, Qt::Key_4, kCtrl);
    const int steps = o.work.document().undoStack().count();
    for (const std::size_t set : {0u, 1u}) {
      o.work.selected().set(Thing::ClipSet, {o.now()->clipSets[set].id});
      QCheckBox* mute = nullptr;
      QTRY_VERIFY((mute = fieldNamed<QCheckBox>(o.view<DetailsPanel>(), "Muted: printed by no brief")) !=
                      nullptr &&
                  !mute->isChecked());
      mute->setFocus();
      key(mute, Qt::Key_Return);
      QTRY_VERIFY(o.now()->clipSets[set].mute);
    }
    QCOMPARE(o.work.document().undoStack().count(), steps + 2);
    key(&o.window, Qt::Key_Z, kCtrl);
    QVERIFY(o.now()->clipSets[0].mute && !o.now()->clipSets[1].mute);
  }

  // --- places in a list go with the list

  void theSheetsMenuMeansTheRowItWasOpenedOn() {
    Opened o;
    o.open();
    QTableView& table = o.view<SheetView>().table();
    o.work.rows().show(o.rowKey(6));
    const std::string wanted = o.rowKey(6);
    QString file;
    withMenu(table, [&](QMenu& menu) {
      // While the menu is open, another sheet comes, in which other rows have these places.
      o.work.document().edit("Delete", [](Session& session) {
        session.regions.erase(session.regions.begin(), session.regions.begin() + 1);
      });
      o.settle();
      QVERIFY(o.rowKey(6) != wanted);
      file = o.files()[static_cast<qsizetype>(o.work.sheets().sheet()->find(wanted).value())];
      menu.setActiveAction(entry(menu, "Make the selected 1 file"));
      key(&menu, Qt::Key_Return);
    });
    o.goOn();
    o.waitForRun();
    QCOMPARE(test::filesBelow(o.dir.filePath("Deliveries")), QStringList{"Game/" + file});
  }

  void whatIsSelectedInTheSheetIsStillThat() {
    Opened o;
    o.open();
    const std::string key6 = o.rowKey(6);
    o.work.rows().show(key6);
    o.work.document().edit("Delete", [](Session& session) {
      session.regions.erase(session.regions.begin(), session.regions.begin() + 1);
    });
    o.settle();
    QTRY_COMPARE(o.work.rows().keys(), std::vector<std::string>{key6});
    QCOMPARE(o.currentRow(), std::optional<std::size_t>(3));
    const QTableView& table = o.view<SheetView>().table();
    QCOMPARE(table.selectionModel()->selectedRows().size(), 1);
    QCOMPARE(table.selectionModel()->selectedRows()[0].row(), 3);
    // Gone from the sheet, it is selected no more.
    o.editBrief(0, [](Brief& brief) { brief.where.regions = {}; });
    QTRY_VERIFY(o.work.rows().isEmpty());
  }

  void namesKeepWhatIsSelectedWhenTheirOrderChanges() {
    Opened o;
    o.open();
    key(&o.window, Qt::Key_3, kCtrl);
    NamesPanel& names = o.view<NamesPanel>();
    QTRY_COMPARE(names.model().rowCount(), 28);
    names.table().selectRow(2);
    const std::string chosen = names.model().things()[2].id;
    QTest::mouseClick(names.table().horizontalHeader()->viewport(), Qt::LeftButton, {}, QPoint(20, 8));
    QTest::mouseClick(names.table().horizontalHeader()->viewport(), Qt::LeftButton, {}, QPoint(20, 8));
    QTRY_VERIFY(names.model().things()[2].id != chosen);
    const QModelIndexList rows = names.table().selectionModel()->selectedRows();
    QCOMPARE(rows.size(), 1);
    QCOMPARE(names.model().things()[static_cast<std::size_t>(rows[0].row())].id, chosen);
    QCOMPARE(o.work.selected().regions(), Ids{chosen});
  }

  void theSearchForgetsASessionThatIsGone() {
    Opened o;
    o.open();
    SearchField& search = o.view<SearchField>();
    key(&o.window, Qt::Key_F, kCtrl);
    QTest::keyClicks(&search, "toll");
    QVERIFY(!search.hits().empty());
    o.run("session.close");
    QVERIFY(search.hits().empty());
    key(&search, Qt::Key_Return);
    o.open();
    key(&o.window, Qt::Key_F, kCtrl);
    QTest::keyClicks(&search, "toll 02");
    o.work.document().edit("Delete all", [](Session& session) { session.regions.clear(); });
    for (const SearchHit& hit : search.hits()) QVERIFY(hit.what != SearchHit::What::Region);
    key(&search, Qt::Key_Return);
    QVERIFY(o.work.selected().regions().empty());
  }

  void theOutlineStaysAsItIsFoldedAndShowsAllThatIsSelected() {
    Opened o;
    o.open();
    OutlineView& outline = o.view<OutlineView>();
    const auto child = [&](int row) { return outline.model()->index(row, 0); };
    outline.setFocus();
    outline.setCurrentIndex(child(0));
    key(&outline, Qt::Key_Left);  // folds the first path up
    QVERIFY(!outline.isExpanded(child(0)) && outline.isExpanded(child(1)));
    o.work.document().edit("Rename", [](Session& session) { session.regions.back().name += " x"; });
    QVERIFY(!outline.isExpanded(child(0)) && outline.isExpanded(child(1)));
    const Ids two{o.now()->regions[7].id, o.now()->regions[9].id};
    o.work.selected().set(Thing::Region, two);
    QCOMPARE(outline.selectionModel()->selectedRows().size(), 2);
    o.work.document().edit("Rename", [](Session& session) { session.regions.back().name += " y"; });
    QCOMPARE(outline.selectionModel()->selectedRows().size(), 2);
    QCOMPARE(o.work.selected().regions(), two);
  }

  void theNewsGoesWithTheNextEdit() {
    Opened o;
    o.open();
    o.work.news().say("Something was done");
    QVERIFY(o.view<StripBar>().stateText().contains("Something was done"));
    o.work.document().edit("Note", [](Session& session) { session.notes += "."; });
    QVERIFY(!o.view<StripBar>().stateText().contains("Something was done"));
  }

  // --- what one asks for while a plan is made

  void makingAndHearingWaitForTheSheet() {
    Opened o;
    o.open();
    o.work.rows().show(o.rowKey(4));
    QTableView& table = o.view<SheetView>().table();
    const QString file = o.files()[4];
    o.work.document().edit("Louder", [](Session& session) { session.tracks[1].gainDb = 1; });
    QVERIFY(o.work.sheets().isPlanning());
    o.run("row.hear");
    QVERIFY(!o.view<StripBar>().stateText().contains("Select a row"));
    QTRY_VERIFY(o.work.transport().isPlaying());
    o.work.transport().stop();
    o.work.document().edit("Louder", [](Session& session) { session.tracks[1].gainDb = 2; });
    QVERIFY(o.work.sheets().isPlanning());
    withMenu(table, [&](QMenu& menu) {
      menu.setActiveAction(entry(menu, "Make the selected 1 file"));
      key(&menu, Qt::Key_Return);
    });
    o.goOn();
    QTRY_VERIFY(o.work.making().isRunning() || QFile::exists(o.dir.filePath("Deliveries/Game/" + file)));
    o.waitForRun();
    QVERIFY(QFile::exists(o.dir.filePath("Deliveries/Game/" + file)));
  }

  // --- sessions come and go

  void saveAsKeepsWhatOneSees() {
    QTemporaryDir other;
    Opened o;
    o.open();
    QListView& list = o.view<BriefsPanel>().list();
    list.setCurrentIndex(list.model()->index(2, 0));
    list.setFocus();
    key(&list, Qt::Key_Return);  // unticks it
    o.settle();
    o.work.maker().makeRows({o.rowKey(0), o.rowKey(1), o.rowKey(2)}, false);
    o.work.maker().goOn();
    o.waitForRun();
    o.run("panel.proof");
    QTRY_VERIFY(o.view<ProofPanel>().table().topLevelItemCount() > 0);
    key(&o.window, Qt::Key_Down, Qt::AltModifier);
    key(&o.window, Qt::Key_Right, kCtrl | Qt::ShiftModifier);
    const double zoom = o.view<TimelineView>().framesPerPixel();
    const Ids chosen = o.work.selected().regions();
    const int files = static_cast<int>(o.files().size());
    const QString file = other.filePath("Second.octaphon");
    choosing(file, [&] { o.run("session.save-as"); });
    o.settle();
    QVERIFY(QFile::exists(file));
    QCOMPARE(o.files().size(), files);
    QCOMPARE(o.view<TimelineView>().framesPerPixel(), zoom);
    QCOMPARE(o.work.selected().regions(), chosen);
    QCOMPARE(o.work.briefs().currentId(), o.now()->briefs[2].id);
    QVERIFY(o.view<ProofPanel>().table().topLevelItemCount() > 0);
    QVERIFY(o.window.windowTitle().contains("Tidewheel"));
    // Ticks are the session's: there where they were saved.
    for (const auto& [again, ticked] : {std::pair(file, 4u), std::pair(o.session(), 5u)}) {
      o.open(again);
      o.settle();
      QCOMPARE(o.work.briefs().ticked().size(), ticked);
    }
  }

  void broughtInAndMovedItIsStillThereAfterUndoAndRedo() {
    QTemporaryDir sounds, other;
    const QString sound = sounds.filePath("Rope.wav");
    test::writeSound(sound, test::noise(2, 4800, 1));
    Opened o;
    o.open();
    const Session first = *o.now();
    test::drop(o.view<TimelineView>().viewport(), {sound}, QPoint(400, 200));
    o.finish();
    QCOMPARE(o.now()->media.size(), first.media.size() + 1);
    QDir(other.path()).mkpath("deep/down");  // from where other paths lead to the media
    choosing(other.filePath("deep/down/Deep.octaphon"), [&] { o.run("session.save-as"); });
    o.finish();
    QVERIFY(QFile::exists(other.filePath("deep/down/Deep.octaphon")));
    const Session moved = *o.now();
    key(&o.window, Qt::Key_Z, kCtrl);
    QCOMPARE(o.now()->media.size(), first.media.size());
    key(&o.window, Qt::Key_Z, kCtrl | Qt::ShiftModifier);
    QVERIFY(o.now()->media == moved.media);
    o.settle();
    for (const Medium& medium : o.now()->media)
      QVERIFY2(std::filesystem::exists(o.now()->folder() / medium.file), medium.file.c_str());
    QCOMPARE(o.count(RowState::Fault), 0);
  }

  void bringingWorkBackAsksForWhatIsOpen() {
    Opened o;
    o.open();
    leaveWork(o.session(), "Kept one");
    leaveWork(o.session(), "Kept two");
    o.work.document().edit("Name", [](Session& session) { session.title = "Mine"; });
    o.window.sessions().offerRescue();
    OfferBar& offers = o.view<OfferBar>();
    QVERIFY(offers.isVisible());
    answering("Cancel", [&] { QVERIFY(press(offers, "Bring them back")); });
    QCOMPARE(o.now()->title, std::string("Mine"));
    QVERIFY(offers.isVisible());
    QCOMPARE(Rescue::found().size(), std::size_t{2});
    // Each of what was left is offered, one after the other.
    // One that cannot be read is told, and does not stand before the others.
    QFile damaged(Rescue::folder() + "/Damaged.work");
    QVERIFY(damaged.open(QIODevice::WriteOnly));
    damaged.write("{\"file\":\"x\",\"name\":\"Damaged\",\"new\":true}\n{");
    damaged.close();
    o.window.sessions().offerRescue();
    QVERIFY(offers.words().contains("Damaged"));
    QTRY_VERIFY(offers.buttons().front()->isVisible());
    answering("Discard", [&] { QVERIFY(press(offers, "Bring them back")); });
    o.finish();
    QCOMPARE(o.now()->title, std::string("Mine"));
    QVERIFY(damaged.exists() && offers.isVisible() && !offers.words().contains("Damaged"));
    QVERIFY(damaged.remove());
    QTRY_VERIFY(offers.buttons().front()->isVisible());
    answering("Discard",
              [&] { QVERIFY(press(offers, "Bring them back")); });  // for nothing before: asked again
    QTRY_COMPARE(Rescue::found().size(), std::size_t{1});
    const std::string one = o.now()->title;
    QVERIFY(one.starts_with("Kept "));
    QVERIFY(offers.isVisible());
    QVERIFY(press(offers, "Throw them away"));
    QVERIFY(!offers.isVisible());
    QVERIFY(Rescue::found().empty());
    QCOMPARE(o.now()->title, one);
    QVERIFY(o.window.isWindowModified());
  }

  // Killed while one types without a pause: what was typed more than two seconds before is offered back.
  void whatIsTypedOutlivesAKill_data() {
    QTest::addColumn<int>("after");  // ms of typing
    for (int round = 0; round < 4; ++round) {
      const int after = 2100 + static_cast<int>(QRandomGenerator::global()->bounded(2500));
      QTest::addRow("after %d ms", after) << after;
    }
  }
  void whatIsTypedOutlivesAKill() {
    QFETCH(int, after);
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.region("r1", "Winch", 0, 10);
    make.brief("One").names.format = "";
    const QString file = make.save();
    QProcess program;
    program.start(QCoreApplication::applicationFilePath(), {"--type", file});
    QElapsedTimer clock;
    std::vector<qint64> typed;            // when each letter was, after the first
    constexpr std::size_t kLetters = 50;  // a slow machine needs longer for them
    while (typed.size() <= kLetters || clock.elapsed() < after) {
      QVERIFY(program.waitForReadyRead(20000));
      if (typed.empty()) clock.start();
      for (const char letter : program.readAllStandardOutput())
        if (letter == '.') typed.push_back(clock.elapsed());
    }
    ::kill(static_cast<pid_t>(program.processId()), SIGKILL);
    const qint64 killed = clock.elapsed();
    QVERIFY(program.waitForFinished());
    const auto due = static_cast<std::size_t>(
        std::count_if(typed.begin(), typed.end(), [&](qint64 at) { return at < killed - 2000; }));
    const auto found = Rescue::found();
    QCOMPARE(found.size(), due > 0 ? std::size_t{1} : found.size());
    if (found.empty()) return;
    Opened o;
    o.window.sessions().offerRescue();
    QVERIFY(press(o.view<OfferBar>(), "Bring them back"));
    o.finish();
    const std::string& kept = o.now()->briefs[0].names.format;
    QVERIFY2(kept.size() >= due, qPrintable(QString("%1 of %2").arg(kept.size()).arg(due)));
    QCOMPARE(kept, std::string(kept.size(), 'x'));
    QTRY_VERIFY(Rescue::found().empty());
  }

  // --- Delete is for what has the focus

  void deleteTakesWhatHasTheFocus_data() {
    QTest::addColumn<QString>("where");
    QTest::addColumn<bool>("takesTheTrack");
    for (const auto& [where, takes] : {std::pair{"curve", false},
                                       {"briefs", false},
                                       {"sheet", false},
                                       {"proof", false},
                                       {"names", false},
                                       {"search", false},
                                       {"timeline", true},
                                       {"outline", true}})
      QTest::newRow(where) << where << takes;
  }
  void deleteTakesWhatHasTheFocus() {
    QFETCH(QString, where);
    QFETCH(bool, takesTheTrack);
    Opened o;
    o.open();
    o.work.document().edit("Curve", [](Session& session) {
      for (const Frame at : {48000, 96000})
        setCurvePoint(session, "gear", "gain", {at, -3, Segment::Linear, 0, {}});
    });
    o.work.selected().set(Thing::Track, {"gear"});
    const std::size_t tracks = o.now()->tracks.size();
    const auto points = [&] { return findCurve(*o.now(), "gear", "gain")->points.size(); };
    QWidget* focus = nullptr;
    if (where == "curve") {
      key(&o.window, Qt::Key_6, kCtrl);
      QTRY_VERIFY(o.view<SignalPanel>().line().stations().size() > 2);
      o.view<SignalPanel>().line().setCurrent(1);
      auto* target = o.window.findChild<QComboBox*>("curveTarget");
      target->setFocus();
      while (target->currentData() != "gain") key(target, Qt::Key_Down);
      auto* table = o.window.findChild<QTableWidget*>("curvePoints");
      QTRY_COMPARE(table->rowCount(), 2);
      table->selectRow(1);
      focus = table;
    } else if (where == "briefs") {
      focus = &o.view<BriefsPanel>().list();
    } else if (where == "sheet") {
      o.work.rows().show(o.rowKey(0));
      focus = &o.view<SheetView>().table();
    } else if (where == "proof") {
      key(&o.window, Qt::Key_7, kCtrl);
      focus = QApplication::focusWidget();
    } else if (where == "names") {
      key(&o.window, Qt::Key_3, kCtrl);
      focus = &o.view<NamesPanel>().table();
    } else if (where == "search") {
      focus = &o.view<SearchField>();
    } else if (where == "timeline") {
      focus = &o.view<TimelineView>();
    } else {
      focus = &o.view<OutlineView>();
    }
    focus->setFocus();
    key(QApplication::focusWidget() != nullptr ? QApplication::focusWidget() : focus, Qt::Key_Delete);
    QCOMPARE(o.now()->tracks.size(), takesTheTrack ? tracks - 1 : tracks);
    if (!takesTheTrack) QCOMPARE(points(), where == "curve" ? 1u : 2u);
    QCOMPARE(o.now()->briefs.size(), where == "briefs" ? 5u : 6u);
  }

  // --- locks

  void locksHoldEverywhere() {
    Opened o;
    o.open();
    o.work.document().edit("Lock", [](Session& session) {
      for (Track& track : session.tracks)
        if (track.id == "gear" || track.id == "motor" || track.id == "machines") track.lock = true;
      session.regions[0].lock = session.clipSets[0].lock = true;
    });
    const Session before = *o.now();
    const auto unchanged = [&] { return *o.now() == before; };
    // Fields of the details are shut but for the lock.
    const std::tuple<Thing, std::string, const char*> things[]{
        {Thing::Track, "gear", "Name"},
        {Thing::Region, before.regions[0].id, "Name"},
        {Thing::ClipSet, before.clipSets[0].id, "Name"},
        {Thing::Clip, before.tracks[1].clips[0].id, "Name"}};
    key(&o.window, Qt::Key_4, kCtrl);
    for (const auto& [thing, id, name] : things) {
      o.work.selected().set(thing, {id});
      QLineEdit* field = nullptr;
      const bool byTrack = thing == Thing::Clip;  // locked by its track: told, and left
      QTRY_VERIFY((field = fieldNamed<QLineEdit>(o.view<DetailsPanel>(), name)) != nullptr &&
                  field->isEnabled() == byTrack);
      if (!byTrack) continue;
      field->setFocus();
      QTest::keyClicks(field, "x");
      QVERIFY(unchanged());
      QVERIFY(o.view<StripBar>().stateText().contains("locked"));
    }
    // Faders, switches, sends and parameters of the signal view.
    key(&o.window, Qt::Key_6, kCtrl);
    for (const char* track : {"gear", "machines"}) {
      o.work.selected().set(Thing::Track, {track});
      const Strip strip = TrackTree(*o.now()).find(track).value();
      const auto& stations = o.view<SignalPanel>().line().stations();
      QTRY_VERIFY(!stations.empty() && stations.front().strip == strip);
      for (int station = 0; station < static_cast<int>(stations.size()); ++station) {
        o.view<SignalPanel>().line().setCurrent(station);
        if (o.view<SignalPanel>().place() == "main") break;
        QApplication::processEvents();
        for (QDoubleSpinBox* box : o.view<SignalPanel>().findChildren<QDoubleSpinBox*>())
          if (box->isVisible()) box->setFocus(), key(box, Qt::Key_Up), key(box, Qt::Key_Return);
        for (QCheckBox* box : o.view<SignalPanel>().findChildren<QCheckBox*>())
          if (box->isVisible()) box->setFocus(), key(box, Qt::Key_Return);
      }
    }
    QVERIFY(unchanged());
    // Commands.
    o.work.selected().set(Thing::Region, {before.regions[0].id});
    o.run("mark.fix");
    o.work.selected().set(Thing::Track, {"gear", "motor"});
    for (const char* id : {"track.link", "track.take-out", "track.nest", "edit.mute", "edit.delete"})
      o.run(id);
    QVERIFY(unchanged());
    o.work.selected().set(Thing::Track, {"gear"});
    o.run("edit.lock");
    QVERIFY(!findTrack(*o.now(), "gear")->lock);
  }

  // --- listening

  void whatElseIsSelectedChangesNothingOfWhatIsHeard() {
    Opened o;
    o.open();
    QTRY_VERIFY(o.work.sheets().facts() != nullptr);
    o.work.selected().set(Thing::Track, {"gear"});
    o.run("play.only");
    key(&o.window, Qt::Key_Space);
    QVERIFY(o.work.transport().isPlaying());
    QSignalSpy playing(&o.work.transport(), &Transport::playingChanged);
    o.work.selected().set(Thing::Clip, {o.now()->tracks[2].clips[0].id});
    o.work.selected().clear();
    o.work.selected().set(Thing::Track, {"gear"});  // as it was
    QCOMPARE(playing.size(), 0);
    QCOMPARE(o.work.listener().only(), std::vector<std::string>{"gear"});
    o.work.document().edit("Delete", [](Session& session) {
      std::erase_if(session.tracks, [](const Track& track) { return track.id == "gear"; });
    });
    QVERIFY(o.work.listener().only().empty());  // not silence for ever
    o.work.selected().set(Thing::Track, {"chain"});
    QCOMPARE(o.work.listener().only(), std::vector<std::string>{"chain"});
    o.work.transport().stop();
    o.work.document().undoStack().setClean();
    o.open();
    QVERIFY(o.work.listener().only().empty());
    QVERIFY(o.view<HeaderBar>().listeningText().isEmpty());
  }

  void regionAfterRegionWhilePlaying() {
    Opened o;
    o.open();
    QTRY_VERIFY(o.work.sheets().facts() != nullptr);
    key(&o.window, Qt::Key_Down, Qt::AltModifier);
    key(&o.window, Qt::Key_Space, Qt::ShiftModifier);
    for (const std::size_t region : {1u, 2u, 3u}) {
      key(&o.window, Qt::Key_Down, Qt::AltModifier);
      QVERIFY(o.work.transport().isPlaying());
      const Region& chosen = o.now()->regions[region];
      QCOMPARE(o.work.transport().end(), chosen.end());
      QVERIFY(o.work.transport().position() >= chosen.start);
    }
  }

  // --- drags

  void onlyTracksThatSoundHereLeavesDragsAlone() {
    Opened o;
    o.open();
    TimelineView& timeline = o.view<TimelineView>();
    o.run("view.only-sounding");
    timeline.showSpan(0, 48000 * 20);
    const Region before = o.now()->regions[1];
    const QPoint from = timeline.ribbonOf(1).center().toPoint();
    QTest::mousePress(timeline.viewport(), Qt::LeftButton, Qt::AltModifier, from);
    for (const int by : {8, 20, 40}) {
      const QPoint to = from + QPoint(by, 0);
      QMouseEvent move(QEvent::MouseMove, to, timeline.viewport()->mapToGlobal(to), Qt::NoButton,
                       Qt::LeftButton, Qt::AltModifier);
      QApplication::sendEvent(timeline.viewport(), &move);
    }
    QTest::mouseRelease(timeline.viewport(), Qt::LeftButton, Qt::AltModifier, from + QPoint(40, 0));
    QCOMPARE(o.work.selected().regions(), Ids{before.id});
    QVERIFY(o.now()->regions[1].start > before.start);
  }

  // --- phrases

  void aFolderThatIsTickedIsOneEdit() {
    Opened o;
    o.open();
    PhraseEditor* editor = o.openPhrase(PhraseKind::Regions);
    QVERIFY(editor != nullptr);
    auto* tree = editor->findChild<QTreeWidget*>();
    QSignalSpy changes(&o.work.document(), &Document::changed);
    const int steps = o.work.document().undoStack().count();
    const auto before = *o.now()->briefs[0].where.regions.handPicked();
    tree->setFocus();
    tree->setCurrentItem(tree->topLevelItem(0));  // the path Winch, with six regions
    QCOMPARE(tree->topLevelItem(0)->childCount(), 6);
    key(tree, Qt::Key_Return);
    QTRY_VERIFY(!changes.isEmpty());
    QCOMPARE(changes.size(), 1);
    QCOMPARE(o.work.document().undoStack().count(), steps + 1);
    QCOMPARE(
        static_cast<int>(before.size()) - static_cast<int>(o.now()->briefs[0].where.regions.picks.size()), 6);
  }

  void sumsKeepTheirPlaceAndEverythingCanBeTicked() {
    Opened o;
    o.open();
    o.editBrief(0, [](Brief& brief) {
      brief.where.regions = {true, {}};
      brief.what.sums = {{"sum1", "One", {"gear"}, false, {}}, {"sum2", "Two", {"chain"}, false, {}}};
    });
    PhraseEditor* sources = o.openPhrase(PhraseKind::Sources);
    QLineEdit* name = nullptr;
    for (QLineEdit* field : sources->findChildren<QLineEdit*>())
      if (field->text() == "One") name = field;
    QVERIFY(name != nullptr);
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "First of all");
    QCOMPARE(o.now()->briefs[0].what.sums[0].name, std::string("First of all"));
    QCOMPARE(o.now()->briefs[0].what.sums[1].name, std::string("Two"));
    QVERIFY(press(*sources, "Each return"));
    QVERIFY(o.now()->briefs[0].what.returns.isEverything());
    PhraseEditor* spans = o.openPhrase(PhraseKind::Regions);
    auto* tree = spans->findChild<QTreeWidget*>();
    const auto heading = tree->findItems("Clip sets", Qt::MatchExactly);
    QCOMPARE(heading.size(), 1);
    tree->setFocus();
    tree->setCurrentItem(heading[0]->child(1));
    key(tree, Qt::Key_Return);  // while all regions are
    QTRY_COMPARE(o.now()->briefs[0].where.clipSets.handPicked().value_or(std::vector<std::string>{}),
                 std::vector<std::string>{o.now()->clipSets[1].id});
    QVERIFY(o.now()->briefs[0].where.regions.isEverything());
    QVERIFY(press(*spans, "All clip sets"));
    QVERIFY(o.now()->briefs[0].where.clipSets.isEverything());
  }

  void aSetsOwnTailCanBeNothing() {
    Opened o;
    o.open();
    o.work.selected().set(Thing::ClipSet, {o.now()->clipSets[0].id});
    key(&o.window, Qt::Key_4, kCtrl);
    QCheckBox* own = nullptr;
    QTRY_VERIFY((own = fieldNamed<QCheckBox>(o.view<DetailsPanel>(), "Tail's length of its own")) != nullptr);
    QVERIFY(!o.now()->clipSets[0].ends.tailSeconds.has_value());
    own->setFocus();
    key(own, Qt::Key_Return);
    QCOMPARE(o.now()->clipSets[0].ends.tailSeconds, std::optional(0.0));
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

/// A letter of a template every few milliseconds; a point on the standard output for each.
static int typeForEver(const QString& file) {
  return test::live(file, [](Work&, MainWindow& window) {
    auto* edit = window.findChild<TemplateEdit*>();
    edit->setFocus();
    auto* typing = new QTimer(&window);
    QObject::connect(typing, &QTimer::timeout, edit, [edit] {
      QTest::keyClick(edit, Qt::Key_X);
      std::putchar('.');
      std::fflush(stdout);
    });
    typing->start(15);
    return true;
  });
}

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  if (argc == 3 && QByteArray(argv[1]) == "--type") return typeForEver(argv[2]);
  LostTest test;
  return QTest::qExec(&test, argc, argv);
}
#include "tst_lost.moc"
