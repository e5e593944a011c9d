// octaphon-screenshots DEMO_FOLDER OUT_FOLDER: pictures of the main views, from the demo, for the documents.
// DEMO_FOLDER is written to. With --first FILE the picture of a first start.
#include <functional>
#include <map>
#include <numeric>
#include <QApplication>
#include <QComboBox>
#include <QDialog>
#include <QDir>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QSettings>
#include <QStandardPaths>
#include <QTest>
#include <tuple>

#include "app/brief/sentence_view.h"
#include "app/delivery/proof_panel.h"
#include "app/look/theme.h"
#include "app/prepare/names_panel.h"
#include "app/sheet/sheet_view.h"
#include "app/signal/signal_panel.h"
#include "app/window/main_window.h"
#include "brief/row_marks.h"
#include "bus.h"
#include "first_start.h"
#include "receiver/receiver_window.h"
#include "session/session_file.h"

namespace octaphon::app {
namespace {

bool wait(const std::function<bool()>& done, int ms = 120000) { return QTest::qWaitFor(done, ms); }

class Photographer {
 public:
  Photographer(QString demo, QString out) : demo_(std::move(demo)), out_(std::move(out)) {}

  void run() {
    QDir(demo_ + "/Deliveries").removeRecursively();
    MediaCache cache((demo_ + "/cache").toStdString());
    Work work(cache);
    MainWindow window(work);
    work_ = &work;
    window_ = &window;
    window.resize(1280, 800);
    window.show();
    window.sessions().open(demo_ + "/Tidewheel.octaphon");
    settle(window);
    makeGameSounds(window);
    view<TimelineView>().showSpan(0, 48000 * 33);
    work.places().go(Thing::Region, work.session()->regions[2].id);
    take(window, "main");
    takePhrase(window, PhraseKind::Template, "phrase-template");
    takeData(window);
    takeLevels(window);
    takeEnds(window);
    takeSeam(window);
    takeSignal(window);
    takePreparing(window);
    window.sessions().open(demo_ + "/Tidewheel.octaphon");
    settle(window);
    takeWorking(window);
    takePages(window);
    takeHandedOver(window);
  }

 private:
  void settle(MainWindow&) {
    wait([&] {
      return work_->jobs().jobs().empty() && !work_->sheets().isPlanning() &&
             !work_->sheets().sheet()->rows.empty();
    });
    QTest::qWait(1500);  // overviews
  }

  void take(QWidget& window, const QString& name) {
    QTest::qWait(120);
    window.grab().save(out_ + "/" + name + ".png");
  }

  /// Makes the files of the first brief, then changes one level so that some are stale.
  void makeGameSounds(MainWindow& window) {
    std::vector<std::string> rows;
    const auto sheet = work_->sheets().sheet();
    for (const Row& row : sheet->rows)
      if (sheet->soundOf(row).brief == 0 && rows.size() < 14) rows.push_back(sheet->keyOf(row));
    work_->maker().makeRows(rows, false);
    work_->maker().goOn();
    wait([&] { return !work_->making().isRunning(); });
    changeOneClip();
    window.sessions().open(demo_ + "/Tidewheel.octaphon");
    settle(window);
  }

  /// As if someone had worked on the session: the files that hear this clip are stale.
  void changeOneClip() {
    const std::string file = (demo_ + "/Tidewheel.octaphon").toStdString();
    Session session = *loadSession(file);
    for (Track& track : session.tracks)
      for (Clip& clip : track.clips.writable())
        if (clip.id == "gear-03") clip.gainDb = -1;
    (void)saveSession(session, file);
  }

  void takePhrase(MainWindow& window, PhraseKind kind, const QString& name) {
    view<SentenceView>().openEditor(kind);
    QTest::qWait(200);
    take(window, name);
    view<SentenceView>().closeEditor();
  }

  /// What files say of themselves.
  void takeData(MainWindow& window) {
    const auto sheet = work_->sheets().sheet();
    work_->rows().show(sheet->keyOf(sheet->rows.front()));
    window.panels().show("data");
    view<SentenceView>().openEditor(PhraseKind::Data);
    QTest::qWait(600);
    take(window, "data");
    view<SentenceView>().closeEditor();
    window.panels().show("sheet");
  }

  /// Files at one loudness, one of them out of line with its variations, and the phrase that says it.
  void takeLevels(MainWindow& window) {
    work_->document().edit("Set levels", [](Session& session) {
      Levelling& asked = session.briefs[0].levelling;
      asked.level = {LevelKind::Loudness, -20, LevelPer::Name};
      asked.ceilingDb = -1;
      for (Track& track : session.tracks)
        for (Clip& clip : track.clips.writable())
          if (clip.id == "gear-02") clip.gainDb = 8;
    });
    settle(window);
    const auto sheet = work_->sheets().sheet();
    std::vector<std::size_t> rows(std::min<std::size_t>(sheet->rows.size(), 18));
    std::iota(rows.begin(), rows.end(), std::size_t{0});
    bool isMeasured = false;
    work_->levels().find(rows, {true, true}, [&] { isMeasured = true; });
    wait([&] { return isMeasured; });
    takePhrase(window, PhraseKind::Level, "level");
    work_->document().undoStack().undo();
    settle(window);
  }

  /// The level over the tail of a row.
  void takeEnds(MainWindow& window) {
    const auto sheet = work_->sheets().sheet();
    work_->rows().show(sheet->keyOf(sheet->rows.front()));
    window.panels().show("ends");
    wait([&] { return work_->tails().levels() != nullptr; });
    take(window, "ends");
    window.panels().show("sheet");
  }

  /// A region of a recording that goes on beyond it, and better places for it.
  void takeSeam(MainWindow& window) {
    work_->selected().set(Thing::Region, {"r25"});
    const auto& tracks = work_->session()->tracks;
    const auto rain =
        std::find_if(tracks.begin(), tracks.end(), [](const Track& t) { return t.id == "rain"; });
    view<TimelineView>().revealTrack(Strip(static_cast<std::size_t>(rain - tracks.begin())));
    view<TimelineView>().showSpan(48000 * 98, 48000 * 132);
    window.panels().show("seam");
    wait([&] { return work_->seams().found() != nullptr; });
    take(window, "seam");
    view<TimelineView>().revealTrack(Strip(0));
    work_->selected().clear();
    window.panels().show("sheet");
  }

  /// The way of a track to main.
  void takeSignal(MainWindow& window) {
    window.panels().show("signal");
    work_->selected().set(Thing::Track, {"gear"});
    view<TimelineView>().showSpan(0, 48000 * 33);
    QTest::qWait(400);
    view<SignalPanel>().line().setCurrent(3);
    take(window, "signal");
    view<TimelineView>().revealTrack(Strip(0));
    work_->selected().clear();
    window.panels().show("sheet");
  }

  /// Naming and checks, as the guide shows them.
  void takePreparing(MainWindow& window) {
    window.panels().show("names");
    RenameRequest request;
    request.find = "Start";
    request.with = "Heave";
    view<NamesPanel>().setRequest(request);
    QTest::qWait(300);
    take(window, "names");
    window.panels().show("sheet");
    work_->document().undoStack().setClean();
  }

  void takeWorking(MainWindow& window) {
    work_->maker().makeAll();
    work_->maker().goOn();
    wait([&] {
      const RunControl* control = work_->making().control();
      return control == nullptr || control->filesDone >= 4;
    });
    work_->making().pause(true);
    QTest::qWait(250);  // all that shows it has looked
    work_->making().pause(false);
    QTest::qWait(85);
    window.grab().save(out_ + "/working.png");
    wait([&] { return !work_->making().isRunning(); });
    takeProof(window);
    takeAgain(window);
  }

  /// One fader moved since the last delivery; after that, damage on the disk; what is meant so is accepted.
  void takeProof(MainWindow& window) {
    work_->document().edit("Softer", [](Session& session) {
      for (Track& track : session.tracks)
        if (track.id == "brake") track.gainDb -= 1.5;
    });
    settle(window);
    work_->maker().makeDue();
    work_->maker().goOn();
    wait([&] { return !work_->making().isRunning() && !work_->checking().isChecking(); });
    const QString game = demo_ + "/Deliveries/Game/";
    std::map<QString, QByteArray> before;
    const auto damage = [&](const QString& name, const std::function<void(QByteArray&)>& change) {
      QFile file(game + name);
      if (!file.open(QIODevice::ReadOnly)) return;
      QByteArray bytes = before[name] = file.readAll();
      file.close();
      change(bytes);
      if (file.open(QIODevice::WriteOnly)) file.write(bytes);
    };
    constexpr qsizetype kHead = 6000;
    damage("crane_lift_chain_02.wav", [](QByteArray& bytes) { bytes.chop(bytes.size() / 3); });
    damage("winch_start_gear_03.wav",
           [](QByteArray& bytes) { std::fill(bytes.begin() + kHead, bytes.end(), '\0'); });
    damage("winch_stop_brake_01.wav", [](QByteArray& bytes) {
      std::fill(bytes.begin() + bytes.size() / 2, bytes.begin() + bytes.size() / 2 + 60000, '\0');
    });
    spoil("take list.txt", "foreign");
    work_->checking().check();
    settle(window);
    wait([&] { return !work_->checking().isChecking(); });
    window.panels().show("proof");
    auto& table = view<ProofPanel>().table();
    for (QTreeWidgetItem* line :
         table.findItems("winch_stop_brake_01.wav", Qt::MatchExactly | Qt::MatchRecursive))
      if (line->parent() != nullptr && line->parent()->text(0).startsWith("The sound"))
        table.setCurrentItem(line);
    wait([&] { return work_->looker().picture() != nullptr; });
    take(window, "proof");
    for (const auto& [name, bytes] : before) {
      QFile file(game + name);
      if (file.open(QIODevice::WriteOnly)) file.write(bytes);
    }
    QFile::remove(game + "take list.txt");
    while (work_->document().undoStack().canUndo()) work_->document().undoStack().undo();
    settle(window);
    work_->maker().makeDue();
    work_->maker().goOn();
    wait([&] { return !work_->making().isRunning() && !work_->checking().isChecking(); });
    window.panels().show("sheet");
  }

  void spoil(const QString& file, const QByteArray& bytes) {
    QFile to(demo_ + "/Deliveries/Game/" + file);
    if (to.open(QIODevice::Append)) to.write(bytes);
  }

  /// All was delivered; since then things have changed, here and in the folder.
  void takeAgain(MainWindow& window) {
    work_->document().edit("Change", [](Session& session) {
      for (Region& region : session.regions.writable()) {
        if (region.name == "Winch/Start 02") region.name = "Winch/Heave 02";
        if (region.name == "Winch/Start 03") region.length -= 4800;
      }
      session.regions.eraseIf([](const Region& region) { return region.name == "Winch/Stop 02"; });
      session.briefs[0].heldBack = {"region:r04/mix/wav/all", "region:r04/track:chain/wav/all"};
    });
    spoil("winch_start_gear_01.wav", "someone else's");
    QFile::remove(demo_ + "/Deliveries/Game/crane_lift_motor_01.wav");
    QFile::remove(demo_ + "/Deliveries/Game/crane_lift_gear_01.wav");
    spoil("crane_lift_gear_01.wav", "foreign");
    spoil("take list.txt", "foreign");
    work_->sheets().refresh();
    settle(window);
    work_->briefs().choose(work_->session()->briefs[0].id);
    view<TimelineView>().showSpan(0, 48000 * 58);
    work_->places().go(Thing::Region, work_->session()->regions[0].id);
    take(window, "states");
    takeDeciding(window);
    while (work_->document().undoStack().canUndo()) work_->document().undoStack().undo();
    work_->document().undoStack().setClean();
  }

  /// What was noticed, and the last look.
  void takeDeciding(MainWindow& window) {
    const std::string brief = work_->session()->briefs[0].id;
    work_->document().edit("Decide", [&](Session& session) {
      Brief& game = session.briefs[0];
      acceptRemarks(game, "renamed-file",
                    {brief + "/region:r02/track:gear/wav/all", brief + "/region:r02/track:chain/wav/all"},
                    "The game goes by our list of names");
      changeException(game, brief + "/region:r01/mix/wav/all", [](RowException& own) {
        own.name = "winch_start_first";
        own.channels = OutputChannels::Mono;
      });
      changeException(game, brief + "/region:r03/track:gear/wav/all",
                      [](RowException& own) { own.ends.tailSeconds = 2; });
    });
    settle(window);
    window.panels().show("remarks");
    take(window, "remarks");
    window.panels().show("sheet");
    work_->maker().makeDue();
    wait([&] { return work_->maker().look() != nullptr; });
    take(window, "last-look");
    work_->maker().leave();
  }

  /// Help, and preferences by night.
  void takePages(MainWindow& window) {
    const QByteArray home = qgetenv("HOME");
    qputenv("HOME", "/home/harbour");  // folders of whoever takes the pictures are nobody's business
    for (const auto& [command, night, name] : {std::tuple{"program.help", false, "help"},
                                               std::tuple{"program.preferences", true, "preferences"}}) {
      Theme::instance().setLook(night ? Look::Night : Look::Day);
      window.commands().action(command)->trigger();
      wait([&] { return work_->jobs().jobs().empty(); });
      QDialog* page = nullptr;
      for (QWidget* widget : QApplication::topLevelWidgets())
        if (widget->isVisible() && qobject_cast<QDialog*>(widget) != nullptr)
          page = qobject_cast<QDialog*>(widget);
      if (page == nullptr) continue;
      if (auto* field = page->findChild<QLineEdit*>(); !night && field != nullptr)
        field->setText("seam loop");
      QTest::qWait(800);  // what was found is laid out after a pause
      take(*page, name);
      page->close();
    }
    qputenv("HOME", home);
    Theme::instance().setLook(Look::Day);
  }

  /// The receiver on what was delivered, and a session of it.
  void takeHandedOver(MainWindow& window) {
    const FolderPath base = work_->sheets().sheet()->briefs[0].base;
    wait([&] { return work_->jobs().jobs().empty(); });
    if (auto sounds = receiver::readManifest(base.full() / "manifest.json")) {
      receiver::ReceiverWindow receiver(std::move(*sounds), base.full());
      receiver.show();
      for (const Qt::Key key : {Qt::Key_A, Qt::Key_C}) QTest::keyClick(&receiver, key, Qt::NoModifier, 500);
      take(receiver, "try");
    }
    work_->handingOver().collect(base, demo_ + "/Results.octaphon");
    wait([&] { return work_->session()->file.filename() == "Results.octaphon"; });
    settle(window);
    view<TimelineView>().showSpan(0, 48000 * 33);
    take(window, "results");
  }

  template <class View>
  View& view() {
    return *window_->findChild<View*>();
  }

  QString demo_;
  QString out_;
  Work* work_ = nullptr;
  MainWindow* window_ = nullptr;
};

}  // namespace
}  // namespace octaphon::app

int main(int argc, char** argv) {
  const octaphon::test::Bus bus;
  QStandardPaths::setTestModeEnabled(true);
  QApplication application(argc, argv);
  QApplication::setOrganizationName("octaphon-screenshots");
  QSettings().clear();
  if (argc != 3) return 2;
  octaphon::app::Theme::instance().install();
  if (qstrcmp(argv[1], "--first") == 0) return octaphon::app::takeFirstStart(argv[2]) ? 0 : 1;
  octaphon::app::Photographer(argv[1], argv[2]).run();
  return 0;
}
