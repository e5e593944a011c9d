// What the window is made of: its commands, its panels, and the sentence. ctest runs this offscreen and again
// on a real X server.
#include <set>

#include "app/window/shortcut_page.h"
#include "opened.h"
#include "plan/sentence.h"

using namespace octaphon;
using namespace octaphon::app;
using test::key;
using test::Opened;

namespace {

constexpr auto kCtrl = Qt::ControlModifier;

QStringList enabledIn(Opened& o) {
  QStringList ids;
  for (const QString& id : o.window.commands().ids())
    if (o.window.commands().action(id)->isEnabled()) ids << id;
  return ids;
}

/// Where a part of the window is, in it.
QRect placeOf(const QWidget& part, const QWidget& window) {
  return {part.mapTo(&window, QPoint(0, 0)), part.size()};
}

}  // namespace

class WindowTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { state_ = test::prepareTests(); }

  // --- commands

  void everyCommandIsInAMenuUnderItsWordsAndKeys() {
    Opened o;
    o.open();
    std::set<const QAction*> inMenus;
    for (const QAction* menu : o.window.menuBar()->actions())
      for (const QAction* action : menu->menu()->actions()) inMenus.insert(action);
    std::map<QKeySequence, QString> keys;
    for (const QString& id : o.window.commands().ids()) {
      const QAction* action = o.window.commands().action(id);
      QVERIFY2(inMenus.contains(action), qPrintable(id));
      QVERIFY2(!Commands::title(*action).isEmpty(), qPrintable(id));
      for (const QKeySequence& sequence : action->shortcuts()) {
        const bool isLocal = action->shortcutContext() == Qt::WidgetWithChildrenShortcut;
        const QString other = keys.try_emplace(sequence, id).first->second;
        QVERIFY2(other == id || isLocal, qPrintable(id + " and " + other + ": " + sequence.toString()));
        // Letters and digits alone are for typing.
        const int code = sequence[0].key();
        const bool isPlain = sequence[0].keyboardModifiers() == Qt::NoModifier;
        QVERIFY2(!isPlain || code >= Qt::Key_Escape || code == Qt::Key_Space, qPrintable(id));
      }
    }
    key(&o.window, Qt::Key_F1, Qt::ShiftModifier);
    const auto* page = o.window.findChild<ShortcutPage*>();
    QVERIFY(page != nullptr);
    QStringList shown;
    for (const QLabel* label : page->findChildren<QLabel*>()) shown << label->text();
    for (const auto& [sequence, id] : keys)
      if (o.window.commands().action(id)->shortcut() == sequence)
        QVERIFY2(shown.contains(sequence.toString(QKeySequence::NativeText)), qPrintable(id));
  }

  // What can be done follows from what there is; nobody keeps a list.
  void commandsFollowWhatThereIs() {
    Opened o;
    const QStringList without = enabledIn(o);
    for (const char* id : {"session.new", "session.open", "session.demo", "program.quit", "view.night"})
      QVERIFY2(without.contains(id), id);
    for (const char* id :
         {"session.save", "edit.split", "brief.new", "make.due", "panel.sheet", "play.toggle"})
      QVERIFY2(!without.contains(id), id);
    o.open();
    const QStringList open = enabledIn(o);
    QVERIFY(open.contains("session.save") && open.contains("make.due") && open.contains("track.new"));
    for (const char* id : {"edit.undo", "edit.delete", "edit.split", "mark.region", "row.hear", "make.all"})
      QVERIFY2(open.contains(id) == (QString(id) == "make.all"), id);
    o.work.selected().set(Thing::Region, {o.now()->regions[0].id});
    QVERIFY(enabledIn(o).contains("mark.join") && !enabledIn(o).contains("mark.region"));
    QCOMPARE(Commands::title(*o.window.commands().action("edit.delete")), QString("Delete 1 region"));
    o.work.selected().setRange(TimeSpan{0, 48000});
    QVERIFY(enabledIn(o).contains("mark.region"));
    o.work.rows().show(o.rowKey(0));
    QVERIFY(enabledIn(o).contains("row.hear"));
    o.run("mark.region");
    QVERIFY(enabledIn(o).contains("edit.undo"));
    QCOMPARE(Commands::title(*o.window.commands().action("edit.undo")), QString("Undo Make a region"));
    o.settle();
    o.run("make.due");
    o.goOn();
    QVERIFY(o.work.making().isRunning());
    for (const char* id : {"make.due", "make.all", "session.open", "session.new"})
      QVERIFY2(!enabledIn(o).contains(id), id);
    o.waitForRun();
    QTRY_VERIFY(enabledIn(o).contains("session.open"));
  }

  void aRegionForEachIsland() {
    Opened o;
    o.open();
    Ids crane;
    for (const Track& track : o.now()->tracks)
      for (const Clip& clip : track.clips)
        if (clip.start >= 48'000 * 34 && clip.end() < 48'000 * 59) crane.insert(clip.id);
    o.work.selected().set(Thing::Clip, crane);
    const std::size_t regions = o.now()->regions.size();
    key(&o.window, Qt::Key_Insert, Qt::ShiftModifier);
    QCOMPARE(o.now()->regions.size(), regions + 3);
    QCOMPARE(o.work.selected().regions().size(), std::size_t{3});
    key(&o.window, Qt::Key_Z, kCtrl);
    o.work.selected().set(Thing::Clip, crane);
    key(&o.window, Qt::Key_Insert);
    QCOMPARE(o.now()->regions.size(), regions + 1);
  }

  void aNewSessionIsEmptyAndSavedWhereOneSays() {
    Opened o;
    key(&o.window, Qt::Key_N, kCtrl);
    QVERIFY(o.work.document().isOpen() && o.now()->tracks.empty() && o.now()->briefs.empty());
    QVERIFY(!o.window.findChild<FirstPage*>()->isVisible());
    key(&o.window, Qt::Key_T, kCtrl);
    QCOMPARE(o.now()->tracks.size(), std::size_t{1});
    QTRY_VERIFY(o.view<NamesPanel>().table().viewport()->findChild<QLineEdit*>() != nullptr);  // to be named
    const QString file = o.dir.filePath("Mine.octaphon");
    test::choosing(file, [&] { key(&o.window, Qt::Key_S, kCtrl); });  // nobody has said where yet
    o.finish();
    QVERIFY(QFile::exists(file));
    QVERIFY(!o.window.isWindowModified());
    o.run("track.new");
    key(&o.window, Qt::Key_S, kCtrl);  // now one has
    QTRY_VERIFY(!o.window.isWindowModified());
  }

  void takesOfOneNameGoOnOneTrack() {
    QTemporaryDir dir;
    for (const char* name : {"Rope 2", "Rope 10", "Rope 1", "Plank"})
      test::writeSound(dir.filePath(QString(name) + ".wav"), test::noise(1, 4800, 1));
    Opened o;
    o.window.sessions().makeFrom({dir.path()});
    o.finish();
    QCOMPARE(o.now()->tracks.size(), std::size_t{4});
    OfferBar& offers = o.view<OfferBar>();
    QPushButton* takes = nullptr;
    for (QPushButton* button : offers.buttons())
      if (button->text() == "Takes on one track") takes = button;
    QVERIFY(takes != nullptr && takes->isVisible());
    takes->setFocus();
    key(takes, Qt::Key_Return);
    QCOMPARE(o.now()->tracks.size(), std::size_t{2});
    const Track& rope = o.now()->tracks[1];
    QCOMPARE(rope.name, std::string("Rope"));
    QCOMPARE(rope.clips.size(), std::size_t{3});
    QStringList names;
    Frame at = 0;
    for (const Clip& clip : rope.clips) {
      names << QString::fromStdString(clip.name);
      QCOMPARE(clip.start, at);
      at = clip.end() + 48000;
    }
    QCOMPARE(names, QStringList({"Rope 1", "Rope 2", "Rope 10"}));
    key(&o.window, Qt::Key_Z, kCtrl);
    QCOMPARE(o.now()->tracks.size(), std::size_t{4});
  }

  void aProblemCanBeDismissed() {
    Opened o;
    o.open(o.dir.filePath("nothing.octaphon"));
    ProblemLine& line = o.view<ProblemLine>();
    QVERIFY(line.isVisible() && line.words().contains("nothing.octaphon"));
    auto* dismiss = line.findChild<QToolButton*>();
    dismiss->setFocus();
    key(dismiss, Qt::Key_Return);
    QVERIFY(!line.isVisible());
  }

  // --- panels

  // Choosing a panel moves nothing around it, whatever is in it.
  void choosingAPanelMovesNothing() {
    Opened o;
    o.open();
    o.work.selected().set(Thing::Track, {"gear"});
    const auto places = [&] {
      return std::vector<QRect>{
          placeOf(o.view<TimelineView>(), o.window), placeOf(o.view<OutlineView>(), o.window),
          placeOf(o.view<BriefsPanel>(), o.window), placeOf(o.view<StripBar>(), o.window)};
    };
    o.run("panel.sheet");
    const auto before = places();
    for (const QString& id : o.window.panels().commandIds()) {
      if (!id.startsWith("panel.")) continue;
      o.run(id);
      QTRY_VERIFY2(o.window.panels().content(id.mid(6))->isVisible(), qPrintable(id));
      QCOMPARE(places(), before);
    }
    // Two are never at work in one place.
    int visible = 0;
    for (const char* id : {"sheet", "mark", "names", "details", "check", "signal", "proof", "ends", "seam"})
      visible += o.window.panels().content(id)->isVisible() ? 1 : 0;
    QCOMPARE(visible, 1);
  }

  void panelsAreClosedTakenOutAndRemembered() {
    const auto isOut = [](Opened& o, const char* id) { return o.window.panels().dock(id)->isFloating(); };
    {
      Opened o;
      o.open();
      o.run("panel.signal");
      QTRY_VERIFY(o.view<SignalPanel>().isVisible());
      o.run("panels.window");
      QVERIFY(isOut(o, "signal"));
      QVERIFY(o.view<SignalPanel>().window() != &o.window && o.view<SignalPanel>().isVisible());
      o.run("panel.names");
      o.run("panels.close");
      QVERIFY(!o.view<NamesPanel>().isVisible());
      o.window.close();
    }
    Opened o;
    o.open();
    QVERIFY(isOut(o, "signal"));
    QVERIFY(o.window.panels().dock("names")->isHidden());
    // Keys of the window count in a panel that was taken out of it.
    key(&o.view<SignalPanel>().line(), Qt::Key_Space);
    QTRY_VERIFY(o.work.transport().isPlaying());
    o.work.transport().stop();
    o.run("panel.names");
    QTRY_VERIFY(o.view<NamesPanel>().isVisible());
    o.run("panels.anew");
    QVERIFY(!isOut(o, "signal"));
    QTRY_VERIFY(o.view<SheetView>().isVisible());
    o.window.close();
  }

  void theWindowFitsItsScreen() {
    {
      Opened o;
      o.window.setGeometry(-50, 40, 5000, 4000);
      o.window.close();
    }
    Opened o;
    QSettings settings;
    MainWindow again(o.work);
    const QRect room = again.screen()->availableGeometry();
    // No larger than that, but for what it needs at least.
    QVERIFY(again.width() <= std::max(room.width(), again.minimumWidth()));
    QVERIFY(again.height() <= std::max(room.height(), again.minimumHeight()));
    QVERIFY(again.width() < room.width() || again.x() == room.x());
    QVERIFY(again.y() >= room.y());
    settings.remove("layout");
  }

  // --- the sentence

  void whatIsUsualGoesWithoutSaying() {
    Opened o;
    o.open();
    SentenceView& sentence = o.view<SentenceView>();
    QVERIFY(sentence.phraseButton(PhraseKind::Counts) == nullptr);
    QVERIFY(sentence.phraseButton(PhraseKind::Sources) != nullptr);
    QCOMPARE(sentence.usualButton()->words(), QString("otherwise as usual"));
    sentence.usualButton()->setFocus();
    key(sentence.usualButton(), Qt::Key_Return);
    QVERIFY(sentence.phraseButton(PhraseKind::Counts) != nullptr);
    // All that is said is what the command line says.
    const QString line = QString::fromStdString(sentenceText(o.now()->briefs[0], *o.now()));
    for (const Phrase& phrase : sentenceOf(o.now()->briefs[0], *o.now())) {
      const bool isSaid = !phrase.isQuiet || !phrase.isDefault;
      QCOMPARE(line.contains(QString::fromStdString(phrase.text)), isSaid);
      if (phrase.kind != PhraseKind::Template)
        QCOMPARE(sentence.phraseButton(phrase.kind)->words(), QString::fromStdString(phrase.text));
    }
    key(sentence.usualButton(), Qt::Key_Return);
    QVERIFY(sentence.phraseButton(PhraseKind::Counts) == nullptr);
    // What is changed is said, in other ink; what is changed back is not.
    o.editBrief(0, [](Brief& brief) { brief.heard.counts = Counts::EverythingHeard; });
    QVERIFY(sentence.phraseButton(PhraseKind::Counts)->property("changed").toBool());
    key(&o.window, Qt::Key_Z, kCtrl);
    QVERIFY(sentence.phraseButton(PhraseKind::Counts) == nullptr);
  }

  void longPhrasesWrap() {
    Opened o;
    o.open();
    const std::string folder(180, 'o');
    o.editBrief(0, [&](Brief& brief) {
      brief.delivery.folder = "Deliveries/" + folder + "/And more of it";
      brief.delivery.existing = Existing::Keep;
    });
    PhraseButton* button = o.view<SentenceView>().phraseButton(PhraseKind::Folder);
    QVERIFY(button->words().contains(QString::fromStdString(folder)));
    const int line = button->sizeHint().height();
    QTRY_VERIFY(button->height() > 3 * line);
    QVERIFY(button->height() >= button->heightForWidth(button->width()));
    QVERIFY(placeOf(*button, o.view<BriefsPanel>()).right() <= o.view<BriefsPanel>().width());
    // The words behind it stand below it.
    PhraseButton* behind = nullptr;
    QTRY_VERIFY((behind = o.view<SentenceView>().phraseButton(PhraseKind::Existing)) != nullptr);
    QTRY_VERIFY(behind->y() >= button->geometry().bottom());
  }

  void aClickElsewhereClosesAnEditorAndCounts() {
    Opened o;
    o.open();
    TimelineView& timeline = o.view<TimelineView>();
    QVERIFY(o.openPhrase(PhraseKind::LeadIn) != nullptr);
    // Playing, undo and the timeline are in reach.
    QTRY_VERIFY(qobject_cast<QDoubleSpinBox*>(QApplication::focusWidget()) != nullptr);
    auto* box = qobject_cast<QDoubleSpinBox*>(QApplication::focusWidget());
    QVERIFY(box != nullptr);
    key(box, Qt::Key_Up);
    QCOMPARE(o.now()->briefs[0].ends.leadInSeconds, 0.25);
    QTest::mouseClick(timeline.viewport(), Qt::LeftButton, {}, timeline.ribbonOf(4).center().toPoint());
    QCOMPARE(o.work.selected().regions(), Ids{o.now()->regions[4].id});
    QTRY_VERIFY(o.view<SentenceView>().editor() == nullptr);
    // From phrase to phrase by mouse: the click meets the phrase, though the editor above it goes.
    QVERIFY(o.openPhrase(PhraseKind::Sources) != nullptr);
    QApplication::processEvents();
    PhraseButton* folder = o.view<SentenceView>().phraseButton(PhraseKind::Folder);
    QTest::mouseClick(folder, Qt::LeftButton);
    QTRY_VERIFY(o.view<SentenceView>().editor() != nullptr &&
                o.view<SentenceView>().editor()->kind() == PhraseKind::Folder);
  }

  void severalBriefsAreEditedTogether() {
    Opened o;
    o.open();
    QListView& list = o.view<BriefsPanel>().list();
    list.setFocus();
    list.setCurrentIndex(list.model()->index(0, 0));
    key(&list, Qt::Key_Down, Qt::ShiftModifier);
    key(&list, Qt::Key_Down, Qt::ShiftModifier);
    QCOMPARE(o.work.briefs().chosen().size(), std::size_t{3});
    const int steps = o.work.document().undoStack().count();
    const auto before = o.now()->briefs;
    PhraseEditor* editor = o.openPhrase(PhraseKind::Encoding);
    QVERIFY(editor != nullptr);
    auto* format = test::fieldNamed<QComboBox>(*editor, "Format of file 1");
    format->setFocus();
    key(format, Qt::Key_Up);
    QCOMPARE(o.work.document().undoStack().count(), steps + 1);
    for (const std::size_t brief : {0u, 1u, 2u})
      QVERIFY(o.now()->briefs[brief].files.encoding == Encoding::Pcm16);
    QVERIFY(o.now()->briefs[3] == before[3]);
    QVERIFY(o.now()->briefs[0].name != o.now()->briefs[1].name);
    key(QApplication::focusWidget(), Qt::Key_Z, kCtrl);
    QVERIFY(o.now()->briefs == before);
  }

  // A remark names the phrase it is about, and leads to it.
  void remarksNameTheirPhrase() {
    Opened o;
    o.open();
    o.editBrief(0, [](Brief& brief) {
      brief.names.format = "same";
      brief.delivery.folder = "../outside";
    });
    o.settle();
    auto* remarks = [&]() -> QLabel* {
      for (QLabel* label : o.view<SentenceView>().findChildren<QLabel*>())
        if (label->accessibleName() == "Remarks about the brief") return label;
      return nullptr;
    }();
    QTRY_VERIFY(remarks->isVisible() && remarks->text().contains(">folder</a>: "));
    QTRY_VERIFY(o.view<SentenceView>().phraseButton(PhraseKind::Folder)->property("wrong").toBool());
    remarks->setFocus();
    key(remarks, Qt::Key_Tab);  // to the first link
    QVERIFY(QMetaObject::invokeMethod(remarks, "linkActivated",
                                      Q_ARG(QString, QString::number(static_cast<int>(PhraseKind::Folder)))));
    QVERIFY(o.view<SentenceView>().editor() != nullptr);
    QCOMPARE(o.view<SentenceView>().editor()->kind(), PhraseKind::Folder);
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

QTEST_MAIN(WindowTest)
#include "tst_window.moc"
