// Preparing a session in the real window: bringing in, marking, naming, finding, and what is safe. ctest runs
// this offscreen and again on a real X server. Started with --work SESSION it edits and waits to be killed.
#include <csignal>
#include <set>

#include "app/timeline/timeline_gestures.h"
#include "edit/clip_sets.h"
#include "opened.h"
#include "session/session_file.h"

using namespace octaphon;
using namespace octaphon::app;
using test::key;
using test::Opened;
using test::press;

namespace {

QPoint at(const TimelineView& timeline, Frame frame, double y) {
  return QPoint(qRound(timeline.xOf(frame)), qRound(y));
}

void drag(QWidget* widget, QPoint from, QPoint to, Qt::KeyboardModifiers modifiers = {}, bool drop = true) {
  QTest::mousePress(widget, Qt::LeftButton, modifiers, from);
  for (int i = 1; i <= 4; ++i) {
    const QPoint now = from + (to - from) * i / 4;
    QMouseEvent move(QEvent::MouseMove, now, widget->mapToGlobal(now), Qt::NoButton, Qt::LeftButton,
                     modifiers);
    QApplication::sendEvent(widget, &move);
  }
  if (drop) QTest::mouseRelease(widget, Qt::LeftButton, modifiers, to);
}

const Clip& clipOf(const Session& session, const std::string& id) {
  for (const Track& track : session.tracks)
    for (const Clip& clip : track.clips)
      if (clip.id == id) return clip;
  qFatal("no such clip");
}

QByteArray stampedWav(quint64 stamp, int frames) {
  const auto little = [](quint64 value, int bytes) {
    QByteArray result;
    for (int i = 0; i < bytes; ++i) result += static_cast<char>(value >> (8 * i));
    return result;
  };
  const QByteArray bext =
      "bext" + little(602, 4) + QByteArray(338, '\0') + little(stamp, 8) + QByteArray(256, '\0');
  const QByteArray format = "fmt " + little(16, 4) + little(1, 2) + little(1, 2) + little(48000, 4) +
                            little(96000, 4) + little(2, 2) + little(16, 2);
  QByteArray samples;
  for (int i = 0; i < frames; ++i) samples += little(static_cast<quint64>((i * 37) % 4000), 2);
  const QByteArray body =
      "WAVE" + bext + format + "data" + little(static_cast<quint64>(samples.size()), 4) + samples;
  return "RIFF" + little(static_cast<quint64>(body.size()), 4) + body;
}

/// A few things of a kind, not the first ones.
Ids someOf(const Session& session, Thing thing) {
  std::vector<std::string> ids;
  const auto take = [&](const auto& list) {
    for (const auto& item : list) ids.push_back(item.id);
  };
  if (thing == Thing::Clip) take(session.tracks[1].clips);
  if (thing == Thing::Region) take(session.regions);
  if (thing == Thing::Track) ids = {"gear", "motor"};
  if (thing == Thing::ClipSet) take(session.clipSets);
  if (thing == Thing::Marker) take(session.markerSets[0].markers);
  if (thing == Thing::Region) ids = {ids[6], ids[7]};  // one of them lies where the playhead is put
  return {ids.begin(), ids.end()};
}

}  // namespace

class PrepareTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { state_ = test::prepareTests(); }

  // A newcomer's path, as the guide has it: 40 recordings in two folders, stamped where they were recorded,
  // become 60 files. Each act is counted.
  void fromAFolderOf40FilesTo60Deliveries() {
    QTemporaryDir dir;
    for (int i = 0; i < 20; ++i)
      for (const char* layer : {"Body", "Click"}) {
        QDir(dir.path()).mkpath(QString("Hatch/") + layer);
        QFile file(dir.filePath(QString("Hatch/%1/Hatch %2.wav").arg(layer).arg(i + 1)));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write(stampedWav(36'000ull * 48'000 + static_cast<quint64>(i) * 96'000, 9600));
      }
    Opened o;
    int acts = 0;
    const auto act = [&] { ++acts; };
    act();
    o.window.sessions().makeFrom({dir.filePath("Hatch")});
    o.finish();
    QCOMPARE(o.work.document().session()->tracks.size(), std::size_t{40});
    QCOMPARE(o.work.document().session()->tracks[9].name, std::string("Hatch 10"));
    act();
    QVERIFY(press(o.view<OfferBar>(), "Place by time stamp"));
    act();
    QVERIFY(press(o.view<OfferBar>(), "Group by folder"));
    QVERIFY(!o.view<OfferBar>().isVisible());
    act(), key(&o.window, Qt::Key_A, Qt::ControlModifier | Qt::ShiftModifier);
    act(), key(&o.window, Qt::Key_2, Qt::ControlModifier);
    auto* rule = o.window.findChild<QComboBox*>("markRule");
    act(), rule->setFocus(), key(rule, Qt::Key_Down);
    QTRY_COMPARE(o.view<MarkPanel>().proposals().size(), std::size_t{20});
    act();
    QVERIFY(press(o.view<MarkPanel>(), "Make 20 regions"));
    QCOMPARE(o.work.document().session()->regions.size(), std::size_t{20});
    act(), key(&o.window, Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
    const Brief brief = o.work.document().session()->briefs.at(0);
    QVERIFY(brief.what.mix && brief.where.regions.isEverything());
    act();  // the sources' phrase: each group
    PhraseEditor* editor = o.openPhrase(PhraseKind::Sources);
    QVERIFY(editor != nullptr);
    for (QCheckBox* box : editor->findChildren<QCheckBox*>())
      if (box->text().startsWith("Each group")) key(box, Qt::Key_Return);
    key(QApplication::focusWidget(), Qt::Key_Escape);
    o.settle();
    QTRY_COMPARE(o.files().size(), 60);
    QCOMPARE(o.count(RowState::Fault), 0);
    act(), key(&o.window, Qt::Key_Return, Qt::ControlModifier);
    act(), o.goOn();
    o.waitForRun();
    QTRY_COMPARE(o.count(RowState::UpToDate), 60);
    QCOMPARE(QDir(dir.filePath("Hatch/Deliveries")).entryList({"*.wav"}).size(), 60);
    QCOMPARE(acts, 11);  // docs/guide.md says so
    // Nothing was saved unasked; saving writes beside the folder's files.
    QVERIFY(!QFile::exists(dir.filePath("Hatch/Hatch.octaphon")));
    key(&o.window, Qt::Key_S, Qt::ControlModifier);
    o.finish();
    QVERIFY(QFile::exists(dir.filePath("Hatch/Hatch.octaphon")));
    QVERIFY(!o.window.isWindowModified());
  }

  void clipsByMouse() {
    Opened o;
    o.open();
    TimelineView& timeline = o.view<TimelineView>();
    QWidget* view = timeline.viewport();
    key(&o.window, Qt::Key_Down, Qt::AltModifier);
    timeline.showSpan(0, 48000 * 8);
    const auto session = [&] { return o.work.document().session(); };
    const Strip track = *timeline.model().tree().find("gear");
    const Clip before = session()->tracks[track.track()].clips[0];
    const QRectF box = timeline.clipBox({track, 0});
    // A click selects, Ctrl adds, a drag moves; Esc drops it, Alt does not snap.
    QTest::mouseClick(view, Qt::LeftButton, {}, box.center().toPoint());
    QCOMPARE(o.work.selected().clips(), Ids{before.id});
    drag(view, box.center().toPoint(), box.center().toPoint() + QPoint(60, 0), Qt::AltModifier, false);
    key(&timeline, Qt::Key_Escape);
    QTest::mouseRelease(view, Qt::LeftButton, {}, box.center().toPoint());
    QCOMPARE(clipOf(*session(), before.id), before);
    drag(view, box.center().toPoint(), box.center().toPoint() + QPoint(60, 0), Qt::AltModifier);
    const Frame moved = clipOf(*session(), before.id).start - before.start;
    QVERIFY(std::abs(static_cast<double>(moved) - 60 * timeline.framesPerPixel()) <=
            timeline.framesPerPixel() + 1);
    QCOMPARE(o.work.document().undoStack().undoText(), QString("Move a clip"));
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(clipOf(*session(), before.id), before);
    // Snapping: let go near the end of a region, it starts there exactly.
    const Frame end = session()->regions[0].end();
    drag(view, box.center().toPoint(),
         box.center().toPoint() + QPoint(qRound(timeline.xOf(end) - box.left()) + 4, 0));
    QCOMPARE(clipOf(*session(), before.id).start, end);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    // Edges trim, upper corners fade.
    drag(view, QPoint(qRound(box.left()) + 2, qRound(box.bottom()) - 4),
         QPoint(qRound(box.left()) + 22, qRound(box.bottom()) - 4), Qt::AltModifier);
    const Clip trimmed = clipOf(*session(), before.id);
    QVERIFY(trimmed.start > before.start);
    QCOMPARE(trimmed.end(), before.end());
    QCOMPARE(trimmed.offset - before.offset, trimmed.start - before.start);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    drag(view, QPoint(qRound(timeline.xOf(before.start + before.fadeIn.length)), qRound(box.top()) + 3),
         QPoint(qRound(box.left()) + 40, qRound(box.top()) + 3), Qt::AltModifier);
    QVERIFY(clipOf(*session(), before.id).fadeIn.length > before.fadeIn.length);
    QCOMPARE(clipOf(*session(), before.id).start, before.start);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    // A rubber band over an empty place takes what it touches.
    // A menu is about what lies under the mouse.
    const Clip next = session()->tracks[track.track()].clips[1];
    QTimer::singleShot(100, [] {
      if (QWidget* menu = QApplication::activePopupWidget()) menu->close();
    });
    const QPoint there = timeline.clipBox({track, 1}).center().toPoint();
    QContextMenuEvent menu(QContextMenuEvent::Mouse, there, view->mapToGlobal(there));
    QApplication::sendEvent(view, &menu);
    QCOMPARE(o.work.selected().clips(), Ids{next.id});
    const QRectF last = timeline.clipBox({track, 1});
    drag(view, QPoint(qRound(timeline.xOf(0)) + 2, qRound(box.top()) - 20),
         QPoint(qRound(last.left()) + 3, qRound(box.bottom()) - 2));
    QVERIFY(o.work.selected().clips().contains(before.id));
    QVERIFY(o.work.selected().clips().size() >= 2);
    QCOMPARE(*session(), *std::make_shared<Session>(*loadSession(o.session().toStdString())));
  }

  void regionsByMouse() {
    Opened o;
    o.open();
    TimelineView& timeline = o.view<TimelineView>();
    QWidget* view = timeline.viewport();
    const auto& regions = [&]() -> const std::vector<Region>& {
      return o.work.document().session()->regions;
    };
    timeline.showSpan(0, 48000 * 20);
    const QRectF box = timeline.ribbonOf(0);
    const Region before = regions()[0];
    drag(view, QPoint(qRound(box.right()) - 1, qRound(box.center().y())),
         QPoint(qRound(box.right()) + 15, qRound(box.center().y())), Qt::AltModifier);
    QVERIFY(regions()[0].length > before.length);
    QCOMPARE(regions()[0].start, before.start);
    drag(view, timeline.ribbonOf(0).center().toPoint(),
         timeline.ribbonOf(0).center().toPoint() + QPoint(-20, 0), Qt::AltModifier);
    QVERIFY(regions()[0].start < before.start);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(regions()[0], before);
    // Drawn in an empty place: a region with a name, selected, ready to be named.
    const std::size_t count = regions().size();
    drag(view, at(timeline, 0, box.center().y()), at(timeline, 48000, box.center().y()));
    QCOMPARE(regions().size(), count + 1);
    QCOMPARE(o.work.selected().regions(), Ids{regions().back().id});
    // Along the ruler: a time range, and a region of exactly that.
    drag(view, at(timeline, 48000 * 3, 10), at(timeline, 48000 * 9, 10), Qt::AltModifier);
    const TimeSpan range = o.work.selected().range().value();
    key(&o.window, Qt::Key_Insert);
    QCOMPARE(regions().back().start, range.start);
    QCOMPARE(regions().back().length, range.length);
    // Markers go with the mouse too.
    const Marker marker = o.work.document().session()->markerSets[0].markers[0];
    const QRectF flag = timeline.markerBox(0);
    drag(view, flag.center().toPoint(), flag.center().toPoint() + QPoint(30, 0), Qt::AltModifier);
    QVERIFY(o.work.document().session()->markerSets[0].markers[0].at > marker.at);
  }

  void whatDragsSnapTo_data() {
    QTest::addColumn<uint>("to");
    QTest::addColumn<qint64>("frame");
    QTest::addColumn<qint64>("expected");
    // 108 beats a minute: a beat is 26 666.7 frames; 25 pictures a second: 1 920 frames each. The first
    // region begins at 2 s, 96 000; the playhead stands at 50 000. The view has 100 frames a pixel, so 800
    // frames are within reach.
    const auto row = [](const char* name, unsigned to, qint64 frame, qint64 expected) {
      QTest::newRow(name) << to << frame << expected;
    };
    row("nothing", 0, 96'100, 96'100);
    row("a region's start", kSnapThings, 96'700, 96'000);
    row("out of reach", kSnapThings, 94'900, 94'900);
    row("the playhead", kSnapThings, 50'300, 50'000);
    row("the session's start", kSnapThings, 700, 0);
    row("a beat", kSnapBeats, 53'000, 53'333);
    row("no beat near", kSnapBeats, 60'000, 60'000);
    row("things before beats", kSnapThings | kSnapBeats, 50'500, 50'000);
    row("a picture frame", kSnapPictures, 59'000, 59'520);
    row("the picture frame before", kSnapPictures, 57'700, 57'600);
  }
  void whatDragsSnapTo() {
    QFETCH(uint, to);
    QFETCH(qint64, frame);
    QFETCH(qint64, expected);
    Opened o;
    o.open();
    TimelineView& timeline = o.view<TimelineView>();
    timeline.showSpan(0, 50'000);
    timeline.zoomBy(100 / timeline.framesPerPixel());
    o.work.transport().setPosition(50'000);
    timeline.setSnapping(to);
    QCOMPARE(timeline.gestures().snapped(frame, false), Frame{expected});
    QCOMPARE(timeline.gestures().snapped(frame, true), Frame{frame});  // Alt
  }

  // Each rule of the panel over the crane's nine clips: three lifts of three clips on three tracks.
  void rulesOfMarking_data() {
    QTest::addColumn<int>("rule");
    QTest::addColumn<int>("count");
    QTest::addColumn<bool>("canBeSets");
    for (const auto& [name, rule, count, sets] : std::vector<std::tuple<const char*, SpanRule, int, bool>>{
             {"around", SpanRule::Around, 1, true},
             {"islands", SpanRule::Islands, 3, true},
             {"each clip", SpanRule::EachClip, 9, true},
             {"each track", SpanRule::EachTrack, 3, true},
             {"between markers", SpanRule::BetweenMarkers, 4, false}})
      QTest::newRow(name) << static_cast<int>(rule) << count << sets;
  }
  void rulesOfMarking() {
    QFETCH(int, rule);
    QFETCH(int, count);
    QFETCH(bool, canBeSets);
    Opened o;
    o.open();
    Ids crane;
    for (const Track& track : o.work.document().session()->tracks)
      for (const Clip& clip : track.clips)
        if (clip.start >= 48'000 * 34 && clip.end() < 48'000 * 59) crane.insert(clip.id);
    QCOMPARE(crane.size(), std::size_t{9});
    o.work.selected().set(Thing::Clip, crane);
    key(&o.window, Qt::Key_2, Qt::ControlModifier);
    o.window.findChild<QComboBox*>("markRule")->setCurrentIndex(rule);
    QTRY_COMPARE(static_cast<int>(o.view<MarkPanel>().proposals().size()), count);
    const auto before = *o.work.document().session();
    const std::size_t sets = o.view<MarkPanel>().makeClipSets();
    QCOMPARE(sets, canBeSets ? static_cast<std::size_t>(count) : 0u);
    QCOMPARE(o.work.document().session()->clipSets.size(), before.clipSets.size() + sets);
    QTRY_COMPARE(static_cast<int>(o.view<MarkPanel>().proposals().size()),
                 canBeSets ? 0 : count);  // the sets are selected now
  }

  void positionInBarsTimeAndTimecode() {
    Opened o;
    o.open();
    o.work.transport().setPosition(48'000 * 61);
    QCOMPARE(o.view<HeaderBar>().positionText(), QString("bar 37, beat 2.80 1:01.000"));
    o.run("view.timecode");
    QVERIFY(o.view<HeaderBar>().positionText().endsWith("10:01:01:00"));  // the session begins at ten
  }

  void severalInTheOutline() {
    Opened o;
    o.open();
    OutlineView& outline = o.view<OutlineView>();
    outline.setFocus();
    outline.setCurrentIndex(outline.model()->index(0, 0));  // the path Winch
    QCOMPARE(o.work.selected().regions().size(), std::size_t{6});
    key(&outline, Qt::Key_Down);
    QCOMPARE(o.work.selected().regions().size(), std::size_t{1});
    key(&outline, Qt::Key_Down, Qt::ShiftModifier);
    QCOMPARE(o.work.selected().regions().size(), std::size_t{2});
    key(&o.window, Qt::Key_L, Qt::ControlModifier);
    QVERIFY(o.work.document().session()->regions[0].lock && o.work.document().session()->regions[1].lock);
  }

  void everythingByKeyboard() {
    Opened o;
    o.open();
    TimelineView& timeline = o.view<TimelineView>();
    const auto session = [&] { return o.work.document().session(); };
    timeline.setFocus();
    key(&timeline, Qt::Key_Right, Qt::ControlModifier);  // the clip nearest to the playhead, and the next one
    key(&timeline, Qt::Key_Right, Qt::ControlModifier);
    QCOMPARE(o.work.selected().clips().size(), std::size_t{1});
    const std::string id = *o.work.selected().clips().begin();
    const Clip before = clipOf(*session(), id);
    key(&timeline, Qt::Key_Right, Qt::AltModifier);
    key(&timeline, Qt::Key_Right, Qt::AltModifier | Qt::ShiftModifier);
    QCOMPARE(clipOf(*session(), id).start, before.start + 480 + 48);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);  // nudges in a row are one step
    QCOMPARE(clipOf(*session(), id), before);
    o.work.transport().setPosition(before.start + before.length / 2);
    const std::size_t clips = session()->clipCount();
    key(&o.window, Qt::Key_Slash, Qt::ControlModifier);
    QCOMPARE(session()->clipCount(), clips + 1);
    key(&o.window, Qt::Key_D, Qt::ControlModifier);
    QCOMPARE(session()->clipCount(), clips + 2);
    key(&o.window, Qt::Key_M, Qt::ControlModifier);
    QVERIFY(clipOf(*session(), *o.work.selected().clips().begin()).mute);
    key(&o.window, Qt::Key_L, Qt::ControlModifier);
    key(&timeline, Qt::Key_Delete);
    QCOMPARE(session()->clipCount(), clips + 2);  // locked
    QVERIFY(o.view<StripBar>().stateText().contains("locked"));
    key(&o.window, Qt::Key_L, Qt::ControlModifier);
    key(&timeline, Qt::Key_Delete);
    QCOMPARE(session()->clipCount(), clips + 1);
    key(&o.window, Qt::Key_K, Qt::ControlModifier);
    QCOMPARE(session()->markerSets[0].markers.size(), std::size_t{6});
    // A clip set of two clips, printed by a brief as its own span.
    key(&timeline, Qt::Key_Right, Qt::ControlModifier);
    key(&timeline, Qt::Key_Right, Qt::ControlModifier | Qt::AltModifier);
    QCOMPARE(o.work.selected().clips().size(), std::size_t{2});
    key(&o.window, Qt::Key_Insert, Qt::ControlModifier);
    QCOMPARE(session()->clipSets.size(), std::size_t{4});
    QCOMPARE(session()->clipSets.back().clips.size(), std::size_t{2});
    const int steps = o.work.document().undoStack().count();
    for (int i = 0; i < steps; ++i) key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QVERIFY(!o.window.isWindowModified());
    QCOMPARE(*session(), *std::make_shared<Session>(*loadSession(o.session().toStdString())));
  }

  void tracksAreNestedAndNamed() {
    Opened o;
    o.open();
    TimelineView& timeline = o.view<TimelineView>();
    QWidget* view = timeline.viewport();
    const auto session = [&] { return o.work.document().session(); };
    const auto head = [&](const char* id) {
      return timeline.headOf(*timeline.model().tree().find(id)).center();
    };
    QTest::mouseClick(view, Qt::LeftButton, {}, head("gear"));
    QTest::mouseClick(view, Qt::LeftButton, Qt::ControlModifier, head("chain"));
    QCOMPARE(o.work.selected().tracks(), (Ids{"gear", "chain"}));
    key(&o.window, Qt::Key_G, Qt::ControlModifier);
    // The new group's name is open for typing at once.
    auto* editor = o.view<NamesPanel>().table().findChild<QLineEdit*>();
    QVERIFY(editor != nullptr);
    QTest::keyClicks(editor, "Ratchets");
    key(editor, Qt::Key_Return);
    const auto group = [&] {
      return std::find_if(session()->tracks.begin(), session()->tracks.end(),
                          [](const Track& track) { return track.name == "Ratchets"; });
    };
    QTRY_VERIFY(group() != session()->tracks.end() && group()->isGroup());
    const std::string id = group()->id;
    QCOMPARE(std::count_if(session()->tracks.begin(), session()->tracks.end(),
                           [&](const Track& track) { return track.group == id; }),
             2);
    // Dragged in front of the first group.
    drag(view, timeline.headOf(*timeline.model().tree().find(id)).center(), head("machines") - QPoint(0, 8));
    QVERIFY(timeline.model().tree().order().front() == timeline.model().tree().find(id));
    // Only what sounds here, and what is pinned.
    o.work.document().edit("Pin", [](Session& s) { s.tracks[s.tracks.size() - 1].pinned = true; });
    key(&o.window, Qt::Key_Down, Qt::AltModifier);
    timeline.setOnlySounding(true);
    QCOMPARE(timeline.model().pinned().size(), std::size_t{1});
    QVERIFY(timeline.model().lanes().size() < 8);
  }

  void soundsBetweenSilences() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    // Three bursts of a second in ten seconds of silence.
    make.medium("long", test::sound(1, 480'000, [](int, Frame i) {
                  return i / 48'000 % 3 == 1 ? 0.5 * std::sin(static_cast<double>(i) * 0.05) : 0.0;
                }));
    make.track("t", 1).name = "Takes";
    make.clip("t", "long", 24'000, 480'000);
    Opened o;
    o.open(make.save());
    QTRY_VERIFY(o.work.sheets().facts() != nullptr && o.work.sheets().facts()->find("long") != nullptr);
    key(&o.window, Qt::Key_A, Qt::ControlModifier | Qt::ShiftModifier);
    key(&o.window, Qt::Key_2, Qt::ControlModifier);
    o.window.findChild<QComboBox*>("markRule")->setCurrentIndex(5);
    QTRY_COMPARE(o.view<MarkPanel>().proposals().size(), std::size_t{3});
    QCOMPARE(o.view<MarkPanel>().proposals()[1].name, std::string("Takes 02"));
    QVERIFY(std::abs(o.view<MarkPanel>().proposals()[1].span.start - (24'000 + 4 * 48'000)) < 10);
    QVERIFY(press(o.view<MarkPanel>(), "Make 3 regions"));
    QCOMPARE(o.work.document().session()->regions.size(), std::size_t{3});
  }

  void filesAreDroppedAndSplit() {
    QTemporaryDir dir;
    const QString wide = dir.filePath("Wide.wav");
    test::writeSound(wide, test::noise(4, 1000, 1));
    Opened o;
    o.open();
    const std::size_t tracks = o.work.document().session()->tracks.size();
    TimelineView& timeline = o.view<TimelineView>();
    timeline.showSpan(48000 * 6, 48000 * 9);
    test::drop(timeline.viewport(), {wide}, at(timeline, o.now()->regions[1].start, 200));
    o.finish();
    const auto session = [&] { return o.work.document().session(); };
    QCOMPARE(session()->tracks.size(), tracks + 1);
    QCOMPARE(session()->tracks.back().channels, 4);
    QCOMPARE(session()->tracks.back().clips[0].start, session()->regions[1].start);  // it snapped
    QVERIFY(press(o.view<OfferBar>(), "A track for each channel"));
    QCOMPARE(session()->tracks.size(), tracks + 4);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(session()->tracks.size(), tracks);
    QVERIFY(!o.window.isWindowModified());
  }

  void namesAreTypedPastedAndReplaced() {
    Opened o;
    o.open();
    const auto& regions = [&]() -> const std::vector<Region>& {
      return o.work.document().session()->regions;
    };
    key(&o.window, Qt::Key_3, Qt::ControlModifier);
    NamesPanel& names = o.view<NamesPanel>();
    QTableView& table = names.table();
    QTRY_COMPARE(names.model().rowCount(), 28);
    table.setCurrentIndex(names.model().index(0, 0));
    for (const char* name : {"Winch/Heave 01", "Winch/Heave 02"}) {
      if (table.findChild<QLineEdit*>() == nullptr) key(&table, Qt::Key_Return);
      QLineEdit* editor = table.viewport()->findChild<QLineEdit*>();
      QVERIFY(editor != nullptr);
      editor->selectAll();
      QTest::keyClicks(editor, name);
      key(editor, Qt::Key_Tab);
      QTRY_COMPARE(table.viewport()->findChildren<QLineEdit*>().size(), 1);  // the next one
    }
    QCOMPARE(regions()[0].name, std::string("Winch/Heave 01"));
    QCOMPARE(regions()[1].name, std::string("Winch/Heave 02"));
    key(table.viewport()->findChild<QLineEdit*>(), Qt::Key_Escape);
    table.setCurrentIndex(names.model().index(2, 0));
    QApplication::clipboard()->setText("A\nB\tmore\nC\n");
    key(&table, Qt::Key_V, Qt::ControlModifier);
    QCOMPARE(regions()[3].name, std::string("B"));
    QCOMPARE(o.work.document().undoStack().undoText(), QString("Paste 3 names"));
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(regions()[3].name, std::string("Winch/Start 04"));
    RenameRequest request;
    request.find = "Winch";
    request.with = "Capstan";
    names.setRequest(request);
    QTRY_COMPARE(names.model().index(0, NamesModel::After).data().toString(), QString("Capstan/Heave 01"));
    QCOMPARE(names.model().index(8, NamesModel::Why).data().toString(), QString("stays the same"));
    QVERIFY(press(names, "Rename 6 regions"));
    QCOMPARE(std::count_if(regions().begin(), regions().end(),
                           [](const Region& r) { return r.name.starts_with("Capstan/"); }),
             6);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(regions()[0].name, std::string("Winch/Heave 01"));
  }

  void detailsOfSeveral() {
    Opened o;
    o.open();
    o.work.selected().set(Thing::Track, {"gear", "chain"});
    key(&o.window, Qt::Key_4, Qt::ControlModifier);
    DetailsPanel& details = o.view<DetailsPanel>();
    QDoubleSpinBox* fader = nullptr;
    QTRY_VERIFY((fader = details.findChild<QDoubleSpinBox*>()) != nullptr && fader->isVisible());
    QCOMPARE(fader->text(), QString("several"));
    fader->setFocus();
    fader->selectAll();
    QTest::keyClicks(fader, "-6");
    key(fader, Qt::Key_Return);
    for (const Track& track : o.work.document().session()->tracks)
      if (track.id == "gear" || track.id == "chain") QCOMPARE(track.gainDb, -6.0);
    QCOMPARE(o.work.document().undoStack().undoText(), QString("Fader of 2 tracks"));
  }

  void searchJumpsAndPlays() {
    Opened o;
    o.open();
    SearchField& search = o.view<SearchField>();
    key(&o.window, Qt::Key_F, Qt::ControlModifier);
    QTRY_VERIFY(search.hasFocus());
    QTest::keyClicks(&search, "toll 02");
    QVERIFY(search.hits().size() >= 1);
    QCOMPARE(search.hits()[0].words, QString("Bell/Toll 02"));
    key(&search, Qt::Key_Return, Qt::ShiftModifier);
    const Region& region = *std::find_if(o.work.document().session()->regions.begin(),
                                         o.work.document().session()->regions.end(),
                                         [](const Region& r) { return r.name == "Bell/Toll 02"; });
    QCOMPARE(o.work.selected().regions(), Ids{region.id});
    QVERIFY(o.work.transport().isPlaying());
    QVERIFY(std::abs(o.view<TimelineView>().leftFrame() - region.start) < 48000);
    key(&o.window, Qt::Key_Space);
    for (const auto& [words, what] : {std::pair{"whole session", SearchHit::What::Command},
                                      {"ratchet", SearchHit::What::ClipSet},
                                      {"breakwater", SearchHit::What::Marker},
                                      {"gulls.wav", SearchHit::What::Medium},
                                      {"gull-call-01", SearchHit::What::Row},
                                      {"buoy", SearchHit::What::Region}}) {
      search.setFocus();
      search.clear();
      QTest::keyClicks(&search, words);
      QVERIFY2(!search.hits().empty(), words);
      QVERIFY2(search.hits()[0].what == what, words);
      key(&search, Qt::Key_Return);
    }
    QTest::keyClicks(&search, "no such thing");
    QVERIFY(search.hits().empty());
    key(&search, Qt::Key_Escape);
  }

  void checksLeadAndCure() {
    Opened o;
    o.open();
    o.work.document().edit("Draw", [](Session& session) {
      addRegions(session, {{{48000 * 400, 48000}, "", 0, {}}});
    });
    key(&o.window, Qt::Key_5, Qt::ControlModifier);
    ChecksPanel& checks = o.view<ChecksPanel>();
    const auto has = [&](FindingKind kind) {
      return std::any_of(checks.findings().begin(), checks.findings().end(), [&](const Finding& finding) {
        return finding.kind == kind && finding.place == "r1";
      });
    };
    QTRY_VERIFY(has(FindingKind::EmptyRegion));
    QTreeWidgetItem* found = nullptr;
    for (QTreeWidgetItem* item :
         checks.tree().findItems("No clip sounds", Qt::MatchStartsWith | Qt::MatchRecursive))
      found = item;
    QVERIFY(found != nullptr);
    checks.tree().setCurrentItem(found);
    key(&checks.tree(), Qt::Key_Return);
    QCOMPARE(o.work.selected().regions(), Ids{"r1"});
    QVERIFY(press(checks, "Delete it"));
    QTRY_VERIFY(!has(FindingKind::EmptyRegion));
  }

  // A file that is not what the session knows is told, and taken as it is where one says so; saved, it stays
  // so.
  void aMediumThatIsNotWhatItWas() {
    Opened o;
    o.open();
    o.work.document().edit("Another length", [](Session& session) { session.media[0].frames = 777; });
    key(&o.window, Qt::Key_5, Qt::ControlModifier);
    ChecksPanel& checks = o.view<ChecksPanel>();
    const auto isDifferent = [&] {
      return std::any_of(checks.findings().begin(), checks.findings().end(),
                         [](const Finding& finding) { return finding.kind == FindingKind::DifferentMedium; });
    };
    QTRY_VERIFY(isDifferent());
    const auto items = checks.tree().findItems("session knows", Qt::MatchContains | Qt::MatchRecursive);
    QCOMPARE(items.size(), 1);
    checks.tree().setCurrentItem(items[0]);
    QVERIFY(press(checks, "Take it as it is"));
    QTRY_VERIFY(!isDifferent());
    const Medium& taken = o.work.document().session()->media[0];
    QVERIFY(taken.frames > 777 && taken.rate > 0 && taken.content.size() == 32);
    key(&o.window, Qt::Key_Z, Qt::ControlModifier);
    QTRY_VERIFY(isDifferent());
  }

  void variationsAndLayers() {
    Opened o;
    o.open();
    key(&o.window, Qt::Key_Down, Qt::AltModifier);
    std::vector<std::string> heard;
    for (int i = 0; i < 12; ++i) {
      key(&o.window, Qt::Key_V, Qt::ControlModifier | Qt::ShiftModifier);
      QVERIFY(o.work.transport().isPlaying());
      heard.push_back(*o.work.selected().regions().begin());
    }
    // Four variations: each is none of the last three, so every four in a row are all of them.
    for (std::size_t i = 0; i + 4 <= heard.size(); ++i)
      QCOMPARE(std::set<std::string>(heard.begin() + static_cast<std::ptrdiff_t>(i),
                                     heard.begin() + static_cast<std::ptrdiff_t>(i) + 4)
                   .size(),
               std::size_t{4});
    o.work.selected().set(Thing::Track, {"gear"});
    key(&o.window, Qt::Key_T, Qt::ControlModifier | Qt::ShiftModifier);
    bool said = false;
    for (const QLabel* label : o.view<HeaderBar>().findChildren<QLabel*>())
      said |= label->text() == "hearing 1 track only";
    QVERIFY(said);
    QVERIFY(!o.window.isWindowModified());  // listening is never saved
  }

  // Every command of the menus that shape a session, on every kind of thing: what it changes is one step with
  // words, taken back and done again exactly; locked things stay as they are.
  void everyCommandIsUndone_data() {
    QTest::addColumn<int>("thing");
    QTest::addColumn<bool>("locked");
    for (const auto& [name, thing] : {std::pair{"clips", Thing::Clip},
                                      {"regions", Thing::Region},
                                      {"tracks", Thing::Track},
                                      {"clip sets", Thing::ClipSet},
                                      {"markers", Thing::Marker}})
      for (const bool locked : {false, true})
        QTest::addRow("%s%s", name, locked ? ", locked" : "") << static_cast<int>(thing) << locked;
  }
  void everyCommandIsUndone() {
    QFETCH(int, thing);
    QFETCH(bool, locked);
    Opened o;
    o.open();
    Document& document = o.work.document();
    if (locked)
      document.edit("Lock all", [](Session& session) {
        for (Track& track : session.tracks) {
          track.lock = true;
          for (Clip& clip : track.clips.writable()) clip.lock = true;
        }
        for (Region& region : session.regions.writable()) region.lock = true;
        for (ClipSet& set : session.clipSets.writable()) set.lock = true;
        for (MarkerSet& set : session.markerSets)
          for (Marker& marker : set.markers) marker.lock = true;
      });
    int changed = 0;
    for (const QString& id : o.window.commands().ids()) {
      QAction* action = o.window.commands().action(id);
      const QString words = Commands::title(*action);
      const bool shapes = id.startsWith("edit.") || id.startsWith("mark.") || id.startsWith("track.");
      const bool isHistory = id == "edit.undo" || id == "edit.redo";
      if (!shapes || isHistory || words.contains("…") || (locked && id == "edit.lock")) continue;
      o.work.selected().clear();
      o.work.selected().set(static_cast<Thing>(thing),
                            someOf(*document.session(), static_cast<Thing>(thing)));
      o.work.transport().setPosition(48000 * 37);
      const Session before = *document.session();
      const int steps = document.undoStack().index();
      action->trigger();
      const Session after = *document.session();
      if (before == after) {
        QCOMPARE(document.undoStack().index(), steps);
        continue;
      }
      ++changed;
      QCOMPARE(document.undoStack().index(), steps + 1);
      QVERIFY2(!document.undoStack().undoText().isEmpty(), qPrintable(words));
      // What was there is still there, or locked things would have gone.
      if (locked) {
        QVERIFY2(after.clipCount() >= before.clipCount() && after.regions.size() >= before.regions.size() &&
                     after.tracks.size() >= before.tracks.size() &&
                     after.clipSets.size() >= before.clipSets.size(),
                 qPrintable(words));
      }
      document.undoStack().undo();
      QVERIFY2(*document.session() == before, qPrintable(words));
      document.undoStack().redo();
      QVERIFY2(*document.session() == after, qPrintable(words));
      document.undoStack().undo();
      if (auto* editor = o.view<NamesPanel>().table().viewport()->findChild<QLineEdit*>())
        key(editor, Qt::Key_Escape);
    }
    QVERIFY(changed >= 2);
  }

  // Each switch, number and text of the details changes something of what is selected, and undo takes it
  // back.
  void everyDetailIsUndone_data() {
    QTest::addColumn<int>("thing");
    for (const auto& [name, thing] : {std::pair{"clips", Thing::Clip},
                                      {"regions", Thing::Region},
                                      {"tracks", Thing::Track},
                                      {"clip sets", Thing::ClipSet},
                                      {"markers", Thing::Marker}})
      QTest::addRow("%s", name) << static_cast<int>(thing);
  }
  void everyDetailIsUndone() {
    QFETCH(int, thing);
    Opened o;
    o.open();
    Document& document = o.work.document();
    o.work.selected().set(static_cast<Thing>(thing), someOf(*document.session(), static_cast<Thing>(thing)));
    key(&o.window, Qt::Key_4, Qt::ControlModifier);
    DetailsPanel& details = o.view<DetailsPanel>();
    const auto named = [&]() -> QLineEdit* {
      for (QLineEdit* line : details.findChildren<QLineEdit*>())
        if (line->isVisible() && line->accessibleName() == "Name") return line;
      return nullptr;
    };
    QTRY_VERIFY(named() != nullptr);
    int fields = 0;
    // `shows` is what the field says: after undo, what it said before.
    const auto check = [&](const QString& name, QWidget* field, const std::function<void()>& act,
                           const std::function<QVariant()>& shows) {
      const Session before = *document.session();
      const QVariant was = shows();
      field->setFocus();
      act();
      QTRY_VERIFY2(!(*document.session() == before), qPrintable(name));
      key(field, Qt::Key_Z, Qt::ControlModifier);
      QVERIFY2(*document.session() == before, qPrintable(name));
      QTRY_COMPARE(shows(), was);
      ++fields;
    };
    const auto type = [](QWidget* field, const char* words) {
      key(field, Qt::Key_A, Qt::ControlModifier);
      QTest::keyClicks(field, words);
    };
    for (QCheckBox* box : details.findChildren<QCheckBox*>())
      if (box->isVisible())
        check(
            box->text(), box, [&] { key(box, Qt::Key_Return); },
            [box] { return QVariant(box->checkState()); });
    for (QDoubleSpinBox* box : details.findChildren<QDoubleSpinBox*>())
      if (box->isVisible() && box->isEnabled())
        check(
            box->accessibleName(), box,
            [&] { type(box, box->decimals() == 0 ? "3" : "0.375"), key(box, Qt::Key_Return); },
            [box] { return QVariant(box->value()); });
    for (QToolButton* swatch : details.findChildren<QToolButton*>())
      if (swatch->isVisible() && swatch->accessibleName() == "Colour 7")
        check(
            "colour", swatch, [&] { key(swatch, Qt::Key_Return); },
            [swatch] { return QVariant(swatch->isChecked()); });
    for (QPlainTextEdit* text : details.findChildren<QPlainTextEdit*>())
      if (text->isVisible() && text->isEnabled())
        check(
            text->accessibleName(), text, [&] { QTest::keyClicks(text, "mood = calm"); },
            [text] { return QVariant(text->toPlainText()); });
    check(
        "name", named(), [&] { type(named(), "Quay"); }, [&] { return QVariant(named()->text()); });
    QVERIFY(fields >= 3);
  }

  void tablesAndTempoAreDropped() {
    QTemporaryDir dir;
    const auto write = [&](const char* name, const QByteArray& bytes) {
      QFile file(dir.filePath(name));
      QVERIFY(file.open(QIODevice::WriteOnly));
      file.write(bytes);
    };
    write("marks.csv", "name;start;end\nQuay/Rope 01;0:07,5;0:09\nlost;soon;\n");
    write("beat.mid",
          QByteArray("MThd\0\0\0\6\0\0\0\1\0\x60MTrk\0\0\0\x0b\0\xff\x51\3\x0f\x42\x40\0\xff\x2f\0", 33));
    Opened o;
    o.open();
    test::drop(&o.window, {dir.filePath("marks.csv"), dir.filePath("beat.mid")}, QPoint(5, 5));
    o.finish();
    const auto session = o.work.document().session();
    QCOMPARE(session->regions.back().name, std::string("Quay/Rope 01"));
    QCOMPARE(session->regions.back().start, Frame{360'000});
    QCOMPARE(session->tempo[0].bpm, 60.0);
    bool told = false;  // the row that could not be taken
    for (const QLabel* label : o.window.findChildren<QLabel*>())
      told |= label->text().contains("line 3") && label->isVisible();
    QVERIFY(told);
    // And out again: nothing in the table is new to the session it came from.
    test::choosing(dir.filePath("out.csv"), [&] { o.run("regions.write"); });
    o.finish();
    const int steps = o.work.document().undoStack().count();
    test::drop(&o.window, {dir.filePath("out.csv")}, QPoint(5, 5));
    o.finish();
    QCOMPARE(o.work.document().undoStack().count(), steps);
    QVERIFY(test::bytesOf(dir.filePath("out.csv")).contains("Quay/Rope 01"));
    o.work.document().undoStack().undo();  // one step
    QVERIFY(!o.window.isWindowModified());
  }

  void lostMediaAreFoundAgain() {
    Opened o;
    o.open();
    QTRY_VERIFY(o.work.sheets().facts() != nullptr);
    o.work.document().edit("Note", [](Session& session) { session.notes += "."; });
    o.settle();
    key(&o.window, Qt::Key_S, Qt::ControlModifier);
    o.finish();
    QVERIFY(!o.work.document().session()->media[0].content.empty());  // what it was is saved along
    QDir(o.dir.path()).mkpath("elsewhere");
    QVERIFY(QFile::rename(o.dir.filePath("media/gear.wav"), o.dir.filePath("elsewhere/another name.wav")));
    o.work.sheets().refresh();
    QTRY_VERIFY(o.count(RowState::Fault) > 0);
    test::choosing(o.dir.filePath("elsewhere"), [&] { o.run("media.find"); });
    o.finish();
    QCOMPARE(o.work.document().session()->media[0].file, std::string("elsewhere/another name.wav"));
    QTRY_COMPARE(o.count(RowState::Fault), 0);
  }

  void savedUnderAnotherName() {
    QTemporaryDir other;
    Opened o;
    o.open();
    const auto rows = o.files();
    o.work.document().edit("Name", [](Session& session) { session.title = "Second"; });
    const QString file = other.filePath("Second.octaphon");
    test::choosing(file, [&] { o.run("session.save-as"); });
    o.settle();
    QVERIFY(!o.window.isWindowModified());
    QCOMPARE(o.count(RowState::Fault), 0);  // media are told from the new folder
    QCOMPARE(loadSession(file.toStdString())->title, std::string("Second"));
    QCOMPARE(loadSession(o.session().toStdString())->title, std::string("Tidewheel"));
    // The first is free for others again, the second is ours.
    QVERIFY(SessionLock::take(o.session().toStdString()).has_value());
    QVERIFY(!SessionLock::take(file.toStdString()).has_value());
  }

  void workIsThereAfterAKill() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.region("r1", "Before", 0, 10);
    const QString file = make.save();
    const QByteArray saved = test::bytesOf(file);
    QProcess program;
    program.start(QCoreApplication::applicationFilePath(), {"--work", file});
    QVERIFY(program.waitForReadyRead(20000));
    QCOMPARE(program.readLine(), QByteArray("working\n"));
    // While it lives, nobody else is offered its work, and the session is known to be open.
    QVERIFY(Rescue::found().empty());
    {
      Opened o;
      o.open(file);
      QVERIFY(o.work.document().isShared());
      QVERIFY(!Document::write(o.work.document().beginSaving()));
    }
    ::kill(static_cast<pid_t>(program.processId()), SIGKILL);
    QVERIFY(program.waitForFinished());
    QCOMPARE(test::bytesOf(file), saved);
    Opened o;
    o.window.sessions().offerRescue();
    QVERIFY(o.view<OfferBar>().isVisible());
    QVERIFY(o.view<OfferBar>().words().contains("test"));
    QVERIFY(press(o.view<OfferBar>(), "Bring them back"));
    o.finish();
    QCOMPARE(o.work.document().session()->regions[0].name, std::string("After"));
    QVERIFY(o.window.isWindowModified());
    key(&o.window, Qt::Key_S, Qt::ControlModifier);
    o.finish();
    QCOMPARE(loadSession(file.toStdString())->regions[0].name, std::string("After"));
    QTRY_VERIFY(Rescue::found().empty());
  }

  void everyWidgetHasAName() {
    Opened o;
    o.open();
    o.work.selected().set(Thing::Region, {o.work.document().session()->regions[0].id});
    for (const QString& id : o.window.panels().commandIds()) {
      if (!id.startsWith("panel.")) continue;
      o.run(id);
      QTRY_VERIFY(o.window.panels().content(id.mid(6))->isVisible());
      for (QWidget* widget : o.window.findChildren<QWidget*>()) {
        if (!widget->isVisible() || widget->focusPolicy() == Qt::NoFocus) continue;
        const QAccessibleInterface* accessible = QAccessible::queryAccessibleInterface(widget);
        const QString name = accessible != nullptr ? accessible->text(QAccessible::Name) : QString();
        const bool inner = qobject_cast<QAbstractScrollArea*>(widget->parentWidget()) != nullptr ||
                           qobject_cast<QAbstractSpinBox*>(widget->parentWidget()) != nullptr ||
                           qobject_cast<QTabBar*>(widget) != nullptr;
        QVERIFY2(inner || !name.isEmpty(),
                 qPrintable(QString("%1 %2").arg(widget->metaObject()->className(), widget->objectName())));
      }
    }
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

/// Edits a session, waits until that is kept, says so, and goes on living.
static int work(const QString& file) {
  return test::live(file, [](Work& work, MainWindow&) {
    work.document().edit("Rename", [](Session& session) { session.regions[0].name = "After"; });
    work.rescue().keep([](bool isKept) {
      std::puts(isKept ? "working" : "not kept");
      std::fflush(stdout);
    });
    return true;
  });
}

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  if (argc == 3 && QByteArray(argv[1]) == "--work") return work(argv[2]);
  PrepareTest test;
  return QTest::qExec(&test, argc, argv);
}
#include "tst_prepare.moc"
