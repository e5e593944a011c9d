// The seam in the window: the join of the selected region, better places for it, and its laps heard.
#include "app/seam/seam_panel.h"
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
      for (Region& region : session.regions)
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
      for (Region& region : session.regions)
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
