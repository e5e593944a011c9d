// The signal view and curves on the timeline, in the real window.
#include "app/timeline/curve_gestures.h"
#include "edit/inserts.h"
#include "opened.h"
#include "session/session_file.h"

using namespace octaphon;
using namespace octaphon::app;
using test::key;
using test::Opened;

namespace {

QStringList namesOf(const SignalLine& line) {
  QStringList names;
  for (const Station& station : line.stations()) names << station.name;
  return names;
}

/// The demo with the signal view open on a track.
struct View : Opened {
  explicit View(const char* track) {
    open();
    work.selected().set(Thing::Track, {track});
    key(&window, Qt::Key_6, Qt::ControlModifier);
    [&] { QTRY_VERIFY(panel().isVisible() && panel().line().stations().size() > 2); }();
  }
  SignalPanel& panel() { return view<SignalPanel>(); }
  SignalLine& line() { return panel().line(); }
  Session now() { return *work.session(); }
  void undo() { key(&window, Qt::Key_Z, Qt::ControlModifier); }
  void press(const QString& words) {
    for (QPushButton* button : panel().findChildren<QPushButton*>())
      if (button->text() == words && button->isVisible()) return button->click();
    QTest::qFail(qPrintable("no button " + words), __FILE__, __LINE__);
  }
};

/// Chooses an entry of a list that is shut, by keyboard: opened, gone to, taken.
void choose(QComboBox* box, int entry) {
  box->setFocus();
  box->showPopup();
  QAbstractItemView* list = box->view();
  list->setCurrentIndex(box->model()->index(entry, 0));
  key(list, Qt::Key_Return);
}

}  // namespace

class SignalViewTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() {
    state_ = test::prepareTests();
    qputenv("OCTAPHON_WORKER", OCTAPHON_WORKER_PATH);
  }

  void theLineIsTheWay() {
    View v("gear");
    QCOMPARE(namesOf(v.line()), QStringList({"clips", "fader", "Tone", "Hold", "fader", "Ceiling", "fader"}));
    // As far as the brief hears it.
    const auto heard = [&] {
      return std::count_if(v.line().stations().begin(), v.line().stations().end(),
                           [](const Station& s) { return s.isHeard; });
    };
    QCOMPARE(heard(), 7);
    for (const auto& [reach, count] :
         std::vector<std::pair<Reach, int>>{{{ReachStage::Clips, {}}, 1},
                                            {{ReachStage::Inserts, {}}, 1},
                                            {{ReachStage::Track, {}}, 2},
                                            {{ReachStage::GroupInserts, "machines"}, 4},
                                            {{ReachStage::Group, "machines"}, 5},
                                            {{ReachStage::Groups, {}}, 5},
                                            {{ReachStage::MainInserts, {}}, 6}}) {
      v.editBrief(0, [&reach = reach](Brief& brief) { brief.heard.reach = reach; });
      QTRY_COMPARE(static_cast<int>(heard()), count);
    }
  }

  void insertsFromTheKeyboard() {
    View v("gear");
    const auto before = v.now().tracks;
    v.line().setFocus();
    key(&v.line(), Qt::Key_Home);
    v.press("Add effect …");
    // Which plug-ins there are is asked first.
    QTRY_VERIFY_WITH_TIMEOUT(QApplication::activePopupWidget() != nullptr, 60000);
    QWidget* popup = QApplication::activePopupWidget();
    auto* field = popup->findChild<QLineEdit*>();
    QTest::keyClicks(field, "satur");
    key(field, Qt::Key_Return);
    QCOMPARE(v.now().tracks[1].inserts.size(), std::size_t{1});
    QCOMPARE(v.now().tracks[1].inserts[0].effect, std::string("saturation"));
    QTRY_COMPARE(v.line().current(), 1);
    v.panel().addEffect("trim");
    QTRY_COMPARE(v.line().current(), 2);
    QTRY_VERIFY(QApplication::activePopupWidget() == nullptr);
    key(&v.line(), Qt::Key_Left, Qt::ControlModifier);  // the trim in front
    QCOMPARE(v.now().tracks[1].inserts[0].effect, std::string("trim"));
    auto* gain = [&]() -> QDoubleSpinBox* {
      for (QDoubleSpinBox* box : v.panel().findChildren<QDoubleSpinBox*>())
        if (box->accessibleName() == "Gain") return box;
      return nullptr;
    }();
    QVERIFY(gain != nullptr && gain->suffix() == " dB" && gain->maximum() == 48);
    gain->setValue(-7.5);
    QCOMPARE(v.now().tracks[1].inserts[0].values.at("gain"), -7.5);
    v.press("Off");
    QVERIFY(!v.now().tracks[1].inserts[0].on);
    key(&v.line(), Qt::Key_Delete);
    QCOMPARE(v.now().tracks[1].inserts.size(), std::size_t{1});
    v.window.activateWindow();
    const int steps = v.work.document().undoStack().count();
    QCOMPARE(steps, 6);
    for (int i = 0; i < steps; ++i) v.work.document().undoStack().undo();
    QVERIFY(v.now().tracks == before);
  }

  void insertsOfAClip() {
    View v("gear");
    v.work.selected().set(Thing::Clip, {"gear-01"});
    QTRY_COMPARE(v.line().stations().size(), std::size_t{7});
    v.line().setCurrent(0);
    v.panel().addEffect("echo");
    QTRY_COMPARE(v.line().current(), 1);
    QVERIFY(v.line().stations()[1].isOfClip && v.line().stations().size() == 8);
    const auto clip = [&] { return v.now().tracks[1].clips[0]; };
    QCOMPARE(clip().inserts.size(), std::size_t{1});
    v.press("Off");
    QVERIFY(!clip().inserts[0].on);
    v.line().setFocus();
    key(&v.line(), Qt::Key_Delete);
    QVERIFY(clip().inserts.empty());
    QCOMPARE(v.now().tracks[1].clips.size(), std::size_t{7});
  }

  void sendsAreEditedAndFeedbackRefused() {
    View v("quay");
    const auto before = v.now().tracks;
    v.line().setCurrent(2);  // its fader
    QComboBox* send = nullptr;
    QTRY_VERIFY((send = v.panel().findChild<QComboBox*>("newSend")) != nullptr);
    const int tunnel = send->findText("Tunnel");  // which sends to the hall already
    QVERIFY(tunnel > 0);
    choose(send, tunnel);
    QVERIFY(v.now().tracks == before);
    QVERIFY(v.view<StripBar>().stateText().contains("come back"));
    v.work.selected().set(Thing::Track, {"motor"});
    QTRY_VERIFY(v.line().stations()[0].strip == Strip(4));
    v.line().setCurrent(1);
    QTRY_VERIFY((send = v.panel().findChild<QComboBox*>("newSend")) != nullptr &&
                send->findText("Quay Hall") > 0);
    choose(send, send->findText("Quay Hall"));
    QCOMPARE(v.now().tracks[4].sends.size(), std::size_t{1});
    v.work.document().undoStack().undo();
    QVERIFY(v.now().tracks == before);
  }

  void curvesByMouseAndTable() {
    View v("gear");
    const auto before = v.now().tracks;
    v.line().setCurrent(1);
    auto* target = v.panel().findChild<QComboBox*>("curveTarget");
    choose(target, target->findData("gain"));
    TimelineView& timeline = v.view<TimelineView>();
    timeline.showSpan(0, 48000 * 20);
    CurveGestures& gestures = timeline.curve();
    const auto curve = [&] { return findCurve(*v.work.document().session(), "gear", "gain"); };
    const auto click = [&](const QPointF& at, Qt::KeyboardModifiers modifiers = {}) {
      QTest::mouseClick(timeline.viewport(), Qt::LeftButton, modifiers, at.toPoint());
    };
    click(gestures.pointAt(48000 * 3, -3));
    click(gestures.pointAt(48000 * 9, -3));
    QVERIFY(curve() != nullptr);
    QCOMPARE(curve()->points.size(), std::size_t{2});
    QVERIFY(std::abs(curve()->points[0].value + 3) < 3);
    const QPoint from = gestures.pointAt(curve()->points[1].at, curve()->points[1].value).toPoint();
    QTest::mousePress(timeline.viewport(), Qt::LeftButton, {}, from);
    const QPoint to = from + QPoint(30, 8);
    QMouseEvent move(QEvent::MouseMove, to, timeline.viewport()->mapToGlobal(to), Qt::NoButton,
                     Qt::LeftButton, {});
    QApplication::sendEvent(timeline.viewport(), &move);
    QTest::mouseRelease(timeline.viewport(), Qt::LeftButton, {}, to);
    QVERIFY(curve()->points[1].value < curve()->points[0].value);
    QVERIFY(curve()->points[1].at > 48000 * 9);
    auto* table = v.panel().findChild<QTableWidget*>("curvePoints");
    QTRY_COMPARE(table->rowCount(), 2);
    table->item(0, 1)->setText("−12,5");
    QCOMPARE(curve()->points[0].value, -12.5);
    table->item(0, 2)->setText("curved −0.3");
    QCOMPARE(curve()->points[0].segment, Segment::Curve);
    QCOMPARE(curve()->points[0].bend, -0.3);
    click(gestures.pointAt(curve()->points[1].at, curve()->points[1].value), Qt::AltModifier);
    QCOMPARE(curve()->points.size(), std::size_t{1});
    v.work.transport().setPosition(48000 * 5);
    v.press("Point here");
    QCOMPARE(curve()->points.size(), std::size_t{2});
    QCOMPARE(curve()->points[1].at, Frame{48000 * 5});
    while (v.work.document().undoStack().canUndo()) v.work.document().undoStack().undo();
    QVERIFY(v.now().tracks == before);
  }

  // What a change makes stale is what hears it: keyed layers all hear each other.
  void sumsAreTold() {
    View v("gear");
    v.work.maker().makeRows({v.rowKey(0), v.rowKey(1), v.rowKey(2)}, false);
    v.work.maker().goOn();
    v.waitForRun();
    QTRY_VERIFY2(v.view<StripBar>().stateText().contains("layers add up in 1 span"),
                 qPrintable(v.view<StripBar>().stateText()));
    // The proof has a line for it, that leads to its region.
    key(&v.window, Qt::Key_7, Qt::ControlModifier);
    QTreeWidget& proof = v.view<ProofPanel>().table();
    QTRY_VERIFY(proof.isVisible());
    const auto sums = test::proofLines(v, "Layers add up");
    QCOMPARE(sums.size(), 1);
    const Session session = v.now();
    QCOMPARE(sums[0]->text(0), QString::fromStdString(session.regions[0].name));
    QVERIFY(sums[0]->text(1).contains(" add up to the mix"));
    proof.setCurrentItem(sums[0]);
    key(&proof, Qt::Key_Return);
    QCOMPARE(v.work.selected().of(Thing::Region), Ids{session.regions[0].id});
    v.work.document().edit("Louder", [](Session& s) { s.tracks[1].gainDb = 3; });
    v.settle();
    QTRY_COMPARE(v.count(RowState::Stale), 3);
  }

  // Layers over full scale stand in the proof with what cures them.
  void filesOverFullScaleAreTold() {
    View v("gear");
    v.work.document().edit("Loud", [](Session& session) {
      session.main.inserts.clear();
      session.main.gainDb = 12;
    });
    v.settle();
    v.work.maker().makeRows({v.rowKey(0), v.rowKey(1), v.rowKey(2)}, false);
    v.work.maker().goOn();
    v.waitForRun();
    QTRY_VERIFY(v.view<StripBar>().stateText().contains("over full scale"));
    const auto found = test::proofLines(v, "Noticed while they were made");
    QVERIFY(!found.isEmpty() && found[0]->text(1).contains("over full scale"));
    QVERIFY(found[0]->text(1).contains("32 bit float") && found[0]->text(0).endsWith(".wav"));
  }

  // A brief changes all tracks, or one of them apart, and that can be taken back.
  void aTrackGoesItsOwnWay() {
    View v("gear");
    PhraseEditor* popup = v.openPhrase(PhraseKind::Overrides);
    QVERIFY(popup != nullptr);
    PhraseButton* phrase = v.view<SentenceView>().phraseButton(PhraseKind::Overrides);
    auto* whose = popup->findChild<QComboBox*>();
    const auto choose = [&](const QString& id) {
      const int place = whose->findData(id);
      whose->setFocus();
      while (whose->currentIndex() != place)
        key(whose, whose->currentIndex() < place ? Qt::Key_Down : Qt::Key_Up);
    };
    const auto option = [&](const char* words) {
      for (QRadioButton* button : popup->findChildren<QRadioButton*>())
        if (button->text() == words) return button;
      return static_cast<QRadioButton*>(nullptr);
    };
    const auto take = [&](const char* words) {
      option(words)->setFocus();
      key(option(words), Qt::Key_Return);
    };
    take("Faders at unity");
    choose("machines");
    QVERIFY(option("Faders as mixed")->isChecked());  // groups are not touched
    choose("gear");
    QVERIFY(option("Faders at unity")->isChecked());  // as all others, to begin with
    take("Faders as mixed");
    take("No inserts");
    const Brief brief = v.now().briefs[0];
    QCOMPARE(brief.heard.overrides.faders, Faders::Unity);
    QCOMPARE(brief.heard.overrides.inserts, InsertChoice::All);
    QCOMPARE(brief.heard.exceptions.size(), std::size_t{1});
    QCOMPARE(brief.heard.exceptions[0].track, std::string("gear"));
    QCOMPARE(brief.heard.exceptions[0].overrides.faders, Faders::AsMixed);
    QCOMPARE(brief.heard.exceptions[0].overrides.inserts, InsertChoice::None);
    v.settle();
    QStringList heard;
    for (const Row& row : v.work.sheets().sheet()->rows)
      heard << QString::fromStdString(v.work.sheets().sheet()->sourceOf(row).heard);
    QVERIFY(heard.filter("faders at unity").size() > 0 && heard.filter("no inserts").size() > 0);
    QVERIFY(heard.filter("faders at unity, no inserts").isEmpty());
    QTRY_VERIFY2(phrase->words().contains("faders at unity, but for Gear"), qPrintable(phrase->words()));
    choose("");
    QVERIFY(option("Faders at unity")->isChecked());
    choose("gear");
    for (QPushButton* button : popup->findChildren<QPushButton*>())
      if (button->isVisible()) button->setFocus(), key(button, Qt::Key_Return);
    QVERIFY(v.now().briefs[0].heard.exceptions.empty());
    QVERIFY(option("Faders at unity")->isChecked());
  }

  void everythingHasAName() {
    View v("gear");
    for (int station = 0; station < 7; ++station) {
      v.line().setCurrent(station);
      QTest::qWait(30);
      for (QWidget* widget : v.panel().findChildren<QWidget*>()) {
        const bool needs = qobject_cast<QAbstractButton*>(widget) || qobject_cast<QComboBox*>(widget) ||
                           qobject_cast<QAbstractSpinBox*>(widget) || qobject_cast<QTableWidget*>(widget);
        if (!needs || !widget->isVisible()) continue;
        const auto* button = qobject_cast<QAbstractButton*>(widget);
        const bool named =
            !widget->accessibleName().isEmpty() || (button != nullptr && !button->text().isEmpty());
        QVERIFY2(named || qobject_cast<QTableWidget*>(widget->parentWidget()) != nullptr,
                 widget->metaObject()->className());
      }
    }
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

QTEST_MAIN(SignalViewTest)
#include "tst_signal_view.moc"
