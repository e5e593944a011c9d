// The seam in the window: the join of the selected region, better places for it, and its laps heard.
#include "app/seam/own_loop_editor.h"
#include "app/seam/seam_panel.h"
#include "check/file_seam.h"
#include "opened.h"

using namespace octaphon;
using namespace octaphon::app;
using test::key;
using test::Opened;

namespace {

const Region& regionOf(Opened& o, const std::string& id) {
  for (const Region& region : o.now()->regions)
    if (region.id == id) return region;
  qFatal("no such region");
}

/// The panel in sight, with what is found of a region.
struct Seen {
  Opened o;
  explicit Seen(const std::string& region) {
    o.open();
    o.run("panel.seam");
    o.work.selected().set(Thing::Region, {region});
    waitForFound();
  }
  void waitForFound() { QTRY_VERIFY_WITH_TIMEOUT(o.work.seams().found() != nullptr, 20000); }
  SeamPanel& panel() { return o.view<SeamPanel>(); }
  QListWidget& places() { return *panel().findChild<QListWidget*>(); }
  SeamPicture& picture() { return *panel().findChild<SeamPicture*>(); }
  void choose(const QString& field, const QString& words) {
    auto* box = test::fieldNamed<QComboBox>(panel(), field);
    box->setFocus();
    for (int i = 0; i < box->count(); ++i) key(box, Qt::Key_Up);
    while (box->currentText() != words) key(box, Qt::Key_Down);
  }
  QToolButton& button(const QString& words) {
    for (QToolButton* button : panel().findChildren<QToolButton*>())
      if (button->text() == words || button->accessibleName() == words) return *button;
    qFatal("no such button");
  }
  bool says(const QString& words) {
    for (const QLabel* label : panel().findChildren<QLabel*>())
      if (label->isVisible() && label->text().contains(words)) return true;
    return false;
  }
};

}  // namespace

class SeamViewTest : public QObject {
  Q_OBJECT
 private slots:
  void withoutARegionItSaysWhatToDo() {
    Opened o;
    o.open();
    o.run("panel.seam");
    const auto labels = o.view<SeamPanel>().findChildren<QLabel*>();
    QVERIFY(std::any_of(labels.begin(), labels.end(), [](QLabel* label) {
      return label->isVisible() && label->text().startsWith("Select a region");
    }));
  }

  // What is shown is of the region that is selected now, not of one that was listened to before.
  void itFollowsTheSelection() {
    Seen seen("r18");
    QVERIFY(seen.says("Ambience/Calm") && seen.says("of 100"));
    seen.o.work.selected().set(Thing::Region, {"r19"});
    seen.o.work.selected().set(Thing::Region, {"r20"});
    QTRY_VERIFY(seen.o.work.seams().found() == nullptr);
    seen.waitForFound();
    QCOMPARE(seen.o.work.seams().place().start, regionOf(seen.o, "r20").start);
    QVERIFY(seen.says("Music/Tide A"));
    seen.o.work.document().edit("Make it shorter", [](Session& session) {
      for (Region& region : session.regions.writable())
        if (region.id == "r20") region.length -= 4800;
    });
    QTRY_COMPARE_WITH_TIMEOUT(seen.o.work.seams().place().length, regionOf(seen.o, "r20").length, 20000);
    // Out of sight it does not listen.
    seen.o.run("panel.sheet");
    seen.o.work.selected().set(Thing::Region, {"r18"});
    QTRY_VERIFY(seen.o.work.seams().found() == nullptr);
    seen.o.run("panel.seam");
    seen.waitForFound();
    seen.o.work.selected().clear();
    QTRY_VERIFY(seen.says("Select a region"));
  }

  void aBetterPlaceIsTakenAndGivenBack() {
    Seen seen("r18");
    const Region before = regionOf(seen.o, "r18");
    const auto found = seen.o.work.seams().found();
    const LoopPlace own = seen.o.work.seams().place();
    int row = 0;
    while (found->candidates[static_cast<std::size_t>(row)].place == own) ++row;
    const LoopPlace wanted = found->candidates[static_cast<std::size_t>(row)].place;
    QTest::mouseClick(seen.places().viewport(), Qt::LeftButton, {},
                      seen.places().visualItemRect(seen.places().item(row)).center());
    QTest::mouseClick(&seen.button("Take this place"), Qt::LeftButton);
    QCOMPARE(regionOf(seen.o, "r18").start, wanted.start);
    QCOMPARE(regionOf(seen.o, "r18").length, wanted.length);
    seen.waitForFound();
    seen.o.run("edit.undo");
    QVERIFY(regionOf(seen.o, "r18") == before);
  }

  void aLockedRegionStays() {
    Seen seen("r18");
    seen.o.work.document().edit("Lock", [](Session& session) {
      for (Region& region : session.regions.writable())
        if (region.id == "r18") region.lock = true;
    });
    QTRY_VERIFY(seen.o.work.seams().found() == nullptr);
    seen.waitForFound();
    const Region before = regionOf(seen.o, "r18");
    for (int row = 0; row < seen.places().count(); ++row) {
      seen.places().setCurrentRow(row);
      key(&seen.places(), Qt::Key_Return);
      QVERIFY(regionOf(seen.o, "r18") == before);
    }
  }

  // Down to single samples, by keys: nothing is changed before it is taken, and then it is one step.
  void keysMoveThePlace() {
    Seen seen("r18");
    const Region before = regionOf(seen.o, "r18");
    const LoopPlace own{before.start, before.length};
    SeamListener& seams = seen.o.work.seams();
    key(&seen.picture(), Qt::Key_Right);
    QCOMPARE(seams.place(), (LoopPlace{own.start, own.length + 1}));
    key(&seen.picture(), Qt::Key_Left);
    key(&seen.picture(), Qt::Key_Left);
    QCOMPARE(seams.place(), (LoopPlace{own.start, own.length - 1}));
    seen.choose("What is moved", "start");
    key(&seen.picture(), Qt::Key_Right);
    QCOMPARE(seams.place(), (LoopPlace{own.start + 1, own.length - 2}));
    seen.choose("What is moved", "both");
    key(&seen.picture(), Qt::Key_Right);
    QCOMPARE(seams.place(), (LoopPlace{own.start + 2, own.length - 2}));
    // To the next place near zero, and by a beat.
    seen.choose("What is moved", "end");
    key(&seen.picture(), Qt::Key_Left, Qt::ShiftModifier);
    const Frame zero = seams.place().end();
    QVERIFY(zero < own.end() && zero > own.end() - 48000);
    const auto sumAt = [&](Frame frame) {
      const HeardLoop& heard = seams.found()->heard;
      return heard.at(0, frame) + heard.at(1, frame);
    };
    QVERIFY((sumAt(zero - 1) < 0) != (sumAt(zero) < 0));
    key(&seen.picture(), Qt::Key_Left, Qt::ControlModifier);
    const TempoMap tempo(seen.o.now()->tempo, seen.o.now()->rate);
    QCOMPARE(seams.place().end(), tempo.nearestBeat(seams.place().end()));
    QVERIFY(seams.place().end() < zero);
    QVERIFY(regionOf(seen.o, "r18") == before);
    // What else changes in the session does not move it back.
    const LoopPlace moved = seams.place();
    seen.o.work.document().edit("Rename", [](Session& session) { session.tracks[0].name = "Another"; });
    QTRY_VERIFY(seams.found() == nullptr);
    seen.waitForFound();
    QCOMPARE(seams.place(), moved);
    QTRY_VERIFY(seams.seam() != nullptr);
    QCOMPARE(seams.seam()->score, seams.found()->heard.seamAt(moved).score);
    key(&seen.picture(), Qt::Key_Return);
    QCOMPARE((LoopPlace{regionOf(seen.o, "r18").start, regionOf(seen.o, "r18").length}), moved);
    QTRY_VERIFY(seams.found() == nullptr);
    seen.waitForFound();
    QCOMPARE(seams.place(), moved);
    seen.o.run("edit.undo");
    QVERIFY(regionOf(seen.o, "r18") == before);
    QTRY_COMPARE(seams.place(), own);
  }

  // The left half holds the end, the right one the beginning; nearer, a pixel is less than a sample.
  void theMouseMovesThePlace() {
    Seen seen("r18");
    const LoopPlace own = seen.o.work.seams().place();
    SeamPicture& picture = seen.picture();
    const double frames = 2 * picture.milliseconds() * 48;  // that are shown
    const auto drag = [&](int from, int by) {
      const int y = picture.height() / 2;
      QTest::mousePress(&picture, Qt::LeftButton, {}, {from, y});
      QTest::mouseMove(&picture, {from + by, y});
      QTest::mouseRelease(&picture, Qt::LeftButton, {}, {from + by, y});
    };
    drag(picture.width() / 4, -30);
    const auto moved = static_cast<Frame>(std::llround(30 * frames / picture.width()));
    QCOMPARE(seen.o.work.seams().place(), (LoopPlace{own.start, own.length + moved}));
    drag(picture.width() * 3 / 4, 30);
    QCOMPARE(seen.o.work.seams().place(), (LoopPlace{own.start - moved, own.length + 2 * moved}));
    const double before = picture.milliseconds();
    key(&picture, Qt::Key_Plus);
    QVERIFY(picture.milliseconds() < before);
    QTest::mouseClick(&seen.button("Show more around the join"), Qt::LeftButton);
    QCOMPARE(picture.milliseconds(), before);
    // Not out of what is heard.
    for (int i = 0; i < 40; ++i) {
      key(&picture, Qt::Key_Minus);
      drag(picture.width() / 4, -100);
    }
    QVERIFY(seen.o.work.seams().found()->heard.holds(seen.o.work.seams().place()));
  }

  // The seam alone, over and over, wherever it is moved meanwhile.
  void theSeamIsHeard() {
    Seen seen("r18");
    Transport& transport = seen.o.work.transport();
    const LoopPlace own = seen.o.work.seams().place();
    QTest::mouseClick(&seen.button("Play the seam"), Qt::LeftButton);
    QVERIFY(transport.isPlaying() && seen.button("Play the seam").isChecked());
    for (int round = 0; round < 2; ++round) {
      QTRY_VERIFY_WITH_TIMEOUT(transport.position() > own.end() - 2 * 48000, 5000);
      QTRY_VERIFY_WITH_TIMEOUT(transport.position() < own.start + 2 * 48000, 5000);
      QVERIFY(transport.position() >= own.start);
    }
    key(&seen.picture(), Qt::Key_Right);
    QVERIFY(transport.isPlaying() && seen.button("Play the seam").isChecked());
    seen.o.run("panel.sheet");
    QVERIFY(!transport.isPlaying());
    seen.o.run("panel.seam");
    seen.waitForFound();
    QTest::mouseClick(&seen.button("Play the seam"), Qt::LeftButton);
    QVERIFY(transport.isPlaying());
    seen.o.work.selected().set(Thing::Region, {"r19"});  // another one is not played unasked
    QTRY_VERIFY(!transport.isPlaying());
    seen.waitForFound();
    QVERIFY(!seen.button("Play the seam").isChecked());
  }

  // A row that was made is heard as its file is; what has gone says so.
  void aFileIsHeard() {
    Seen seen("r18");
    Opened& o = seen.o;
    QVERIFY(!seen.button("In the file").isEnabled());
    const auto sheet = o.work.sheets().sheet();
    const auto found = std::find_if(sheet->rows.begin(), sheet->rows.end(), [&](const Row& row) {
      return sheet->endsOf(row).loop.asked.way == LoopWay::Blend;
    });
    QVERIFY(found != sheet->rows.end());
    const std::string made = sheet->keyOf(*found);
    const std::string file = found->file;
    const std::filesystem::path path = sheet->briefOf(*found).base.full() / file;
    o.work.maker().makeRows({made}, false);
    o.work.maker().goOn();
    o.waitForRun();
    o.work.rows().show(made);
    QTRY_VERIFY(seen.button("In the file").isEnabled());
    QTest::mouseClick(&seen.button("In the file"), Qt::LeftButton);
    QTRY_VERIFY(o.work.seams().found() == nullptr || o.work.seams().subject() == file);
    seen.waitForFound();
    QCOMPARE(o.work.seams().found()->seam.score, seamOf(path, std::nullopt, 20)->seam.score);
    QVERIFY(!seen.button("Take this place").isEnabled());
    const Session before = *o.now();
    key(&seen.picture(), Qt::Key_Right);
    key(&seen.picture(), Qt::Key_Return);
    QVERIFY(*o.now() == before);
    QTest::mouseClick(&seen.button("Play the seam"), Qt::LeftButton);
    QVERIFY(o.work.transport().isPlaying());
    QTest::mouseClick(&seen.button("Play laps"), Qt::LeftButton);
    QVERIFY(o.work.transport().isPlaying() && !seen.button("Play the seam").isChecked());
    o.work.transport().stop();
    // The region is made shorter: the file is stale, and still joined where it says itself.
    const Frame frames = o.work.seams().found()->place.length;
    o.work.document().edit("Shorter", [](Session& session) {
      for (Region& region : session.regions.writable())
        region.length = std::max<Frame>(48000, region.length - 96000);
    });
    QTRY_VERIFY(o.work.seams().found() == nullptr);
    seen.waitForFound();
    QCOMPARE(o.work.seams().subject(), file);
    QCOMPARE(o.work.seams().found()->place.length, frames);
    o.run("edit.undo");
    o.settle();
    QVERIFY(QFile::remove(QString::fromStdString(path.string())));
    o.work.sheets().refresh();
    o.settle();
    QTRY_VERIFY(!seen.button("In the file").isEnabled());
    seen.waitForFound();
    QCOMPARE(o.work.seams().subject(), std::string("r18"));
  }

  // A region's own loop is changed beside its join, a step each, and taken back.
  void aRegionLoopsItsOwnWay() {
    Seen seen("r18");
    QTest::mouseClick(&seen.button("Loop …"), Qt::LeftButton);
    auto* editor = seen.panel().findChild<OwnLoopEditor*>();
    QVERIFY(editor != nullptr && editor->isVisible());
    auto* way = test::fieldNamed<QComboBox>(*editor, "Way");
    QCOMPARE(way->currentText(), QString("as the brief"));
    way->setFocus();
    while (way->currentText() != "Blend") key(way, Qt::Key_Down);
    QCOMPARE(regionOf(seen.o, "r18").loop.way, std::optional(LoopWay::Blend));
    QVERIFY(test::fieldNamed<QDoubleSpinBox>(*editor, "Laps") == nullptr);
    auto* length = test::fieldNamed<QDoubleSpinBox>(*editor, "Length of the blend");
    length->setFocus();
    length->selectAll();
    QTest::keyClicks(length, "800");
    key(length, Qt::Key_Return);
    QCOMPARE(regionOf(seen.o, "r18").loop.blendMs, 800.0);
    editor->close();
    while (regionOf(seen.o, "r18").loop.way) seen.o.run("edit.undo");
    QVERIFY(regionOf(seen.o, "r18").loop == OwnLoop{});
  }

  void howLateVariationsBeginIsSaid() {
    Seen seen("r18");
    seen.o.work.document().edit("Three takes", [](Session& session) {
      Region region = session.regions[0];
      const Frame start = region.start;
      for (int i = 0; i < 3; ++i) {
        region.id = "take" + std::to_string(i);
        region.name = "Knock 0" + std::to_string(i + 1);
        region.start = start - i * 960;
        session.regions.push_back(region);
      }
    });
    seen.o.work.selected().set(Thing::Region, {"take0"});
    QTRY_COMPARE(seen.o.work.seams().subject(), std::string("take0"));
    QTRY_VERIFY_WITH_TIMEOUT(seen.o.work.seams().found() != nullptr, 20000);
    const auto& variations = seen.o.work.seams().found()->variations;
    QCOMPARE(variations.size(), std::size_t{3});
    QVERIFY(variations[0].ms && variations[1].ms);
    QVERIFY(std::abs(*variations[1].ms - *variations[0].ms - 20) < 1.5);
    QVERIFY(seen.says("late"));
    // One whose sound is lost is no reason to show nothing of the others.
    seen.o.work.document().edit("A take of something lost", [](Session& session) {
      session.media.push_back({"gone", "media/gone.wav"});
      const auto track = std::find_if(session.tracks.begin(), session.tracks.end(),
                                      [](const Track& each) { return !each.clips.empty(); });
      Clip clip = track->clips[0];
      clip.id = "lost";
      clip.medium = "gone";
      clip.start = 48000 * 600;
      track->clips.push_back(clip);
      Region region = session.regions.back();
      region.id = "take3";
      region.name = "Knock 04";
      region.start = clip.start;
      session.regions.push_back(region);
    });
    QTRY_VERIFY(seen.o.work.seams().found() == nullptr);
    QTRY_VERIFY_WITH_TIMEOUT(seen.o.work.seams().found() != nullptr, 20000);
    QCOMPARE(seen.o.work.seams().found()->variations.size(), std::size_t{4});
    QVERIFY(!seen.o.work.seams().found()->variations[3].ms);
  }

  // From before the end into the beginning, without a stop.
  void itsLapsAreHeard() {
    Seen seen("r18");
    const Region& region = regionOf(seen.o, "r18");
    QTest::mouseClick(&seen.button("Play laps"), Qt::LeftButton);
    QVERIFY(seen.o.work.transport().isPlaying());
    QVERIFY(seen.o.work.transport().position() >= region.end() - 2 * 48000);
    QTRY_VERIFY_WITH_TIMEOUT(seen.o.work.transport().position() < region.end() - 4 * 48000, 10000);
    QVERIFY(seen.o.work.transport().isPlaying());
    QVERIFY(seen.o.work.transport().position() >= region.start);
    seen.o.work.transport().stop();
  }
};

QTEST_MAIN(SeamViewTest)
#include "tst_seam_view.moc"
