// octaphon-screenshots DEMO_FOLDER OUT_FOLDER: pictures of the main views, from the demo, for the documents.
// DEMO_FOLDER is written to.
#include <functional>
#include <QApplication>
#include <QComboBox>
#include <QDir>
#include <QElapsedTimer>
#include <QPainter>
#include <QPushButton>
#include <QSettings>
#include <QStandardPaths>
#include <QTest>

#include "edit/spans.h"
#include "app/window/main_window.h"
#include "session/session_file.h"
#include "app/look/theme.h"

namespace octaphon::app {
namespace {

bool wait(const std::function<bool()>& done, int ms = 20000) { return QTest::qWaitFor(done, ms); }

class Photographer {
 public:
  Photographer(QString demo, QString out) : demo_(std::move(demo)), out_(std::move(out)) {}

  void run() {
    QDir(demo_ + "/Deliveries").removeRecursively();
    MediaCache cache((demo_ + "/cache").toStdString());
    MainWindow window(cache);
    window.resize(1280, 800);
    window.show();
    take(window, "first-start");
    Session empty;
    empty.title = "A new one";
    (void)saveSession(empty, (demo_ + "/empty.octaphon").toStdString());
    window.openSession(demo_ + "/empty.octaphon");
    take(window, "empty");
    window.openSession(demo_ + "/Tidewheel.octaphon");
    settle(window);
    makeGameSounds(window);
    window.timeline().showSpan(0, 48000 * 33);
    window.outline().select(2);
    emit window.outline().regionChosen(2);
    take(window, "main");
    Theme::instance().setLook(Look::Night);
    take(window, "main-night");
    Theme::instance().setLook(Look::Day);
    takePhrase(window, PhraseKind::Sources, "phrase-sources");
    takeSignal(window);
    takePreparing(window);
    window.openSession(demo_ + "/Tidewheel.octaphon");
    settle(window);
    takeWorking(window);
    takeBringingIn(window);
  }

 private:
  void settle(MainWindow& window) {
    wait([&] { return !window.keeper().isPlanning() && !window.keeper().sheet()->rows.empty(); });
    QTest::qWait(1500);  // overviews
  }

  void take(QWidget& window, const QString& name) {
    QTest::qWait(120);
    window.grab().save(out_ + "/" + name + ".png");
  }

  /// Makes the files of the first brief, then changes one level so that some are stale.
  void makeGameSounds(MainWindow& window) {
    std::vector<std::size_t> rows;
    const auto sheet = window.keeper().sheet();
    for (std::size_t i = 0; i < sheet->rows.size() && rows.size() < 14; ++i)
      if (sheet->soundOf(sheet->rows[i]).brief == 0) rows.push_back(i);
    emit window.sheetView().makeRows(rows, false);
    wait([&] { return !window.making().isRunning(); });
    changeOneClip();
    window.openSession(demo_ + "/Tidewheel.octaphon");
    settle(window);
  }

  /// As if someone had worked on the session: the files that hear this clip are stale.
  void changeOneClip() {
    const std::string file = (demo_ + "/Tidewheel.octaphon").toStdString();
    Session session = *loadSession(file);
    for (Track& track : session.tracks)
      for (Clip& clip : track.clips)
        if (clip.id == "gear-03") clip.gainDb = -1;
    (void)saveSession(session, file);
  }

  void takePhrase(MainWindow& window, PhraseKind kind, const QString& name) {
    window.briefs().sentence().phraseButton(kind)->click();
    QTest::qWait(200);
    QWidget* popup = QApplication::activePopupWidget();
    if (popup == nullptr) return;
    QPixmap picture = window.grab();
    QPainter painter(&picture);
    painter.drawPixmap(popup->pos() - window.pos(), popup->grab());
    painter.end();
    picture.save(out_ + "/" + name + ".png");
    popup->close();
  }

  /// The way of a track to main, and a curve on its lane.
  void takeSignal(MainWindow& window) {
    window.lower().setCurrentWidget(&window.signalPanel());
    window.selected().set(Thing::Track, {"gear"});
    window.timeline().showSpan(0, 48000 * 33);
    QTest::qWait(400);
    window.signalPanel().line().setCurrent(3);
    take(window, "signal");
    Theme::instance().setLook(Look::Night);
    take(window, "signal-night");
    Theme::instance().setLook(Look::Day);
    takePhrase(window, PhraseKind::Overrides, "phrase-overrides");
    window.selected().set(Thing::Track, {"rain"});
    window.timeline().showSpan(48000 * 126, 48000 * 160);
    QTest::qWait(300);
    window.signalPanel().line().setCurrent(1);
    auto* target = window.findChild<QComboBox*>("curveTarget");
    target->setCurrentIndex(target->findData("gain"));
    emit target->activated(target->currentIndex());
    take(window, "curve");
    target->setCurrentIndex(0);
    emit target->activated(0);
    window.timeline().revealTrack(Strip(0));
    window.selected().clear();
    window.lower().setCurrentIndex(0);
  }

  /// Marking, naming, details, checks and the search, as the guide shows them.
  void takePreparing(MainWindow& window) {
    window.document().edit("Forget the crane's regions", [](Session& session) {
      std::erase_if(session.regions, [](const Region& region) { return region.name.starts_with("Crane"); });
    });
    window.timeline().showSpan(48000 * 33, 48000 * 60);
    Ids clips;
    for (const Track& track : window.document().session()->tracks)
      for (const Clip& clip : track.clips)
        if (clip.start >= 48000 * 34 && clip.end() < 48000 * 59) clips.insert(clip.id);
    window.selected().set(Thing::Clip, clips);
    window.lower().setCurrentWidget(&window.markPanel());
    window.findChild<QComboBox*>("markRule")->setCurrentIndex(static_cast<int>(SpanRule::Islands));
    QTest::qWait(300);
    take(window, "mark");
    window.document().undoStack().undo();
    window.timeline().showSpan(48000 * 34, 48000 * 49);
    window.selected().set(Thing::ClipSet, {window.document().session()->clipSets[0].id});
    window.lower().setCurrentWidget(&window.details());
    QTest::qWait(300);
    take(window, "clip-sets");
    window.lower().setCurrentWidget(&window.namesPanel());
    RenameRequest request;
    request.find = "Start";
    request.with = "Heave";
    window.namesPanel().setRequest(request);
    QTest::qWait(300);
    take(window, "names");
    Theme::instance().setLook(Look::Night);
    QTest::qWait(300);
    take(window, "names-night");
    Theme::instance().setLook(Look::Day);
    window.document().edit("Leave things undone", [](Session& session) {
      session.tracks[1].clips.clear();
      addRegions(session, {{{48000 * 100, 48000 * 3}, "Region 1", 0, {}},
                           {{48000 * 400, 48000}, "Gull/Call 01", 0, {}}});
    });
    window.lower().setCurrentWidget(&window.checksPanel());
    QTest::qWait(400);
    take(window, "check");
    window.document().undoStack().undo();
    window.lower().setCurrentIndex(0);
    window.search().setFocus();
    QTest::keyClicks(&window.search(), "crane");
    QTest::qWait(200);
    take(window, "search");
    QTest::keyClick(&window.search(), Qt::Key_Escape);
    window.document().undoStack().setClean();
  }

  /// A folder of recordings, as a newcomer drops it.
  void takeBringingIn(MainWindow& window) {
    for (int i = 1; i <= 20; ++i)
      for (const char* layer : {"Body", "Click"}) {
        QDir(demo_).mkpath(QString("Hatch/") + layer);
        const QString target = demo_ + QString("/Hatch/%1/Hatch %2.wav").arg(layer).arg(i);
        if (!QFile::exists(target))
          QFile::copy(demo_ + (layer[0] == 'B' ? "/media/gear.wav" : "/media/chain.wav"), target);
      }
    window.document().undoStack().setClean();
    window.newSession({demo_ + "/Hatch"});
    QTest::qWait(1500);
    take(window, "brought-in");
    window.document().undoStack().setClean();
  }

  void takeWorking(MainWindow& window) {
    std::vector<std::size_t> rows;
    for (std::size_t i = 0; i < window.keeper().sheet()->rows.size(); ++i) rows.push_back(i);
    emit window.sheetView().makeRows(rows, false);
    wait([&] {
      const RunControl* control = window.making().control();
      return control == nullptr || (control->stage == RunStage::Sound && control->fraction() > 0.3);
    });
    window.making().pause(true);
    window.making().pause(false);
    QTest::qWait(90);
    window.grab().save(out_ + "/working.png");
    wait([&] { return !window.making().isRunning(); });
    window.lower().setCurrentWidget(&window.proof());
    take(window, "proof");
    window.lower().setCurrentIndex(0);
  }

  QString demo_;
  QString out_;
};

}  // namespace
}  // namespace octaphon::app

int main(int argc, char** argv) {
  QStandardPaths::setTestModeEnabled(true);
  QApplication application(argc, argv);
  QApplication::setOrganizationName("octaphon-screenshots");
  QSettings().clear();
  if (argc != 3) return 2;
  octaphon::app::Theme::instance().install();
  octaphon::app::Photographer(argv[1], argv[2]).run();
  return 0;
}
