// octaphon-bench-window SESSION [timeline|selecting|editing|naming|sheet]: what the window does with a large
// session. For each thing that somebody does, the clock until all of it is there, and the longest that one
// event took of the interface thread's processor time, with the event and where it went to.
#include <algorithm>
#include <cstdio>
#include <ctime>
#include <functional>
#include <QApplication>
#include <QComboBox>
#include <QElapsedTimer>
#include <QHeaderView>
#include <QLineEdit>
#include <QMetaEnum>
#include <QScrollBar>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTimer>
#include <QtTest>
#include <string>
#include <vector>

#include "app/brief/template_edit.h"
#include "app/look/theme.h"
#include "app/outline/outline_view.h"
#include "app/sheet/sheet_view.h"
#include "app/window/main_window.h"
#include "edit/clips.h"
#include "edit/rename.h"

using namespace octaphon;

namespace {

double threadMs() {
  timespec now{};
  ::clock_gettime(CLOCK_THREAD_CPUTIME_ID, &now);
  return static_cast<double>(now.tv_sec) * 1e3 + static_cast<double>(now.tv_nsec) / 1e6;
}

/// Looks at what each event takes, with those within it; and of the longest which one of those took most
/// itself.
class TimedApplication : public QApplication {
 public:
  using QApplication::QApplication;

  bool notify(QObject* receiver, QEvent* event) override {
    const std::string what = nameOf(*receiver, *event);
    within_.push_back(0);
    const double began = threadMs();
    const bool taken = QApplication::notify(receiver, event);
    const double took = threadMs() - began;
    const double itself = took - within_.back();
    within_.pop_back();
    if (itself > most_) most_ = itself, mostWhat_ = what;
    if (!within_.empty()) {
      within_.back() += took;
      return taken;
    }
    if (took > longest_) longest_ = took, what_ = mostWhat_;
    most_ = 0;
    return taken;
  }
  void forget() { longest_ = 0, what_.clear(); }
  double longest() const { return longest_; }
  const std::string& what() const { return what_; }

 private:
  static std::string nameOf(const QObject& receiver, const QEvent& event) {
    const char* type = QMetaEnum::fromType<QEvent::Type>().valueToKey(event.type());
    const QObject* named = &receiver;  // the viewport of a view is a plain widget
    if (receiver.objectName() == "qt_scrollarea_viewport") named = receiver.parent();
    return std::string(type == nullptr ? "Event" : type) + " of " + named->metaObject()->className();
  }

  std::vector<double> within_;  // of events that go on, what those within them took
  double longest_ = 0, most_ = 0;
  std::string what_, mostWhat_;
};

bool waitFor(const std::function<bool()>& done, int ms = 60000) {
  QElapsedTimer clock;
  clock.start();
  QTimer awake;
  awake.start(2);
  while (!done() && clock.elapsed() < ms) QApplication::processEvents(QEventLoop::WaitForMoreEvents);
  return done();
}

class Bench {
 public:
  Bench(TimedApplication& application, app::Work& work, app::MainWindow& window)
      : application_(application),
        work_(work),
        window_(window),
        timeline_(*window.findChild<app::TimelineView*>()),
        sheet_(*window.findChild<app::SheetView*>()) {}

  /// One part, or (empty) all.
  void run(const QString& file, const QByteArray& part) {
    std::printf("%-46s %9s %9s   %9s\n", "", "median", "worst", "event, ms");
    measure(
        "open, until the sheet is there", 1, [&](int) { window_.sessions().open(file); },
        [this] { return !work_.sheets().isPlanning() && !work_.sheets().sheet()->rows.empty(); });
    std::printf("%zu rows\n", work_.sheets().sheet()->rows.size());
    const std::pair<const char*, void (Bench::*)()> kParts[]{{"timeline", &Bench::timelineMoves},
                                                             {"selecting", &Bench::selects},
                                                             {"editing", &Bench::edits},
                                                             {"naming", &Bench::names},
                                                             {"sheet", &Bench::sheetMoves}};
    for (const auto& [name, measures] : kParts)
      if (part.isEmpty() || part == name) (this->*measures)();
  }

 private:
  using Act = std::function<void(int)>;
  using Done = std::function<bool()>;

  /// As an event of its own, as what somebody does is.
  void asEvent(const std::function<void()>& act) {
    bool isDone = false;
    QMetaObject::invokeMethod(
        &timeline_, [&] { act(), isDone = true; }, Qt::QueuedConnection);
    waitFor([&] { return isDone; });
  }

  void measure(const char* name, int times, const Act& act, const Done& done) {
    std::vector<double> ms;
    double longest = 0;
    std::string what;
    for (int i = 0; i < times; ++i) {
      application_.forget();
      QElapsedTimer clock;
      clock.start();
      asEvent([&] { act(i); });
      if (!waitFor(done)) std::printf("%s: not done\n", name);
      QApplication::processEvents();  // what is to be painted
      ms.push_back(static_cast<double>(clock.nsecsElapsed()) / 1e6);
      settle();
      if (application_.longest() > longest) longest = application_.longest(), what = application_.what();
    }
    std::sort(ms.begin(), ms.end());
    std::printf("%-46s %9.1f %9.1f   %9.1f   %s\n", name, ms[ms.size() / 2], ms.back(), longest,
                what.c_str());
    std::fflush(stdout);
  }
  /// A frame: no more than to draw.
  void frames(const char* name, int times, const Act& act) {
    measure(name, times, act, [] { return true; });
  }

  /// What an act set going counts as part of it.
  void settle() {
    waitFor([this] { return !work_.sheets().isPlanning() && !sheet_.model().isArranging(); });
    QElapsedTimer clock;
    clock.start();
    waitFor([&] { return clock.elapsed() > 60; });
  }
  bool isPlanned() const { return !work_.sheets().isPlanning(); }

  void timelineMoves() {
    frames("timeline: whole session", 20, [&](int) { timeline_.viewport()->update(); });
    frames("timeline: scrolling down", 60, [&](int i) { timeline_.verticalScrollBar()->setValue(i * 120); });
    timeline_.showSpan(0, 48000 * 30);
    timeline_.verticalScrollBar()->setValue(0);
    frames("timeline: scrolling along", 60,
           [&](int i) { timeline_.horizontalScrollBar()->setValue(i * 90); });
    frames("timeline: zooming", 40, [&](int i) { timeline_.zoomBy(i < 20 ? 1.3 : 1 / 1.3); });
    frames("playing: the play line moves", 60,
           [&](int i) { work_.transport().setPosition(48000 * 5 + i * 1600); });
    timeline_.showAll();
  }

  void selects() {
    const auto ids = [this](int i) { return work_.session()->regions[static_cast<std::size_t>(i) * 37].id; };
    frames("selecting a region", 20, [&](int i) { work_.selected().set(app::Thing::Region, {ids(i)}); });
    frames("selecting all clips", 3, [&](int) {
      work_.selected().clear();
      window_.commands().action("edit.select-all")->trigger();
    });
    work_.selected().clear();
    frames("selecting a row", 20, [&](int i) { sheet_.table().selectRow(i * 101); });
    frames("selecting all rows", 3, [&](int) { sheet_.table().selectAll(); });
    sheet_.table().clearSelection();
    work_.selected().clear();
  }

  void edits() {
    app::Document& document = work_.document();
    const Done planned = [this] { return isPlanned(); };
    measure(
        "nudging a clip, until the sheet is there", 8,
        [&](int i) {
          document.edit("Nudge", [&](Session& session) { session.tracks[1].clips[0].start += i + 1; });
        },
        planned);
    measure(
        "trimming a region, until the sheet is there", 8,
        [&](int i) { document.edit("Trim", [&](Session& session) { session.regions[3].length -= i + 1; }); },
        planned);
    const auto& selected = work_.selected();
    window_.commands().action("edit.select-all")->trigger();
    settle();
    measure(
        "moving all clips", 3,
        [&](int i) {
          document.edit("Move", [&](Session& session) {
            moveClips(session, selected.clips(), i % 2 == 0 ? 480 : -480);
          });
        },
        planned);
    work_.selected().clear();
    measure(
        "renaming all regions", 3,
        [&](int i) {
          document.edit("Rename", [&](Session& session) {
            RenameRequest request;
            request.step = RenameStep::Suffix;
            request.with = std::to_string(i);
            applyNames(session, *previewRename(session, namedThings(session, NamedKind::Region), request));
          });
        },
        planned);
    measure(
        "undoing that", 3, [&](int) { document.undoStack().undo(); }, planned);
  }

  /// Letters typed in the template of the brief that is looked at.
  void names() {
    auto* edit = window_.findChild<app::TemplateEdit*>();
    edit->setFocus();
    edit->moveCursor(QTextCursor::End);
    const auto onView = [this] { return sheet_.model().index(0, app::SheetModel::File).data().toString(); };
    QString before;
    measure(
        "a letter typed, until names on view follow", 8,
        [&](int) {
          before = onView();
          QTest::keyClick(edit, Qt::Key_X);
        },
        [&] { return onView() != before; });
    measure(
        "a letter typed, until the sheet is there", 4, [&](int) { QTest::keyClick(edit, Qt::Key_Backspace); },
        [this] { return isPlanned(); });
  }

  void sheetMoves() {
    QTableView& table = sheet_.table();
    const Done arranged = [this] { return !sheet_.model().isArranging(); };
    frames("sheet: scrolling", 60, [&](int i) { table.verticalScrollBar()->setValue(i * 13); });
    for (const int column : {app::SheetModel::File, app::SheetModel::Length})
      measure(
          column == app::SheetModel::File ? "sheet: sorting by name" : "sheet: sorting by length", 3,
          [&](int i) {
            table.horizontalHeader()->setSortIndicator(column,
                                                       i % 2 ? Qt::AscendingOrder : Qt::DescendingOrder);
          },
          arranged);
    table.horizontalHeader()->setSortIndicator(-1, Qt::AscendingOrder);
    settle();
    auto* filter = sheet_.findChild<QLineEdit*>();
    measure(
        "sheet: filtering", 4, [&](int i) { filter->setText(i % 2 ? "1" : "10"); }, arranged);
    filter->clear();
    settle();
    auto* groups = sheet_.findChild<QComboBox*>();
    measure(
        "sheet: under headings", 5, [&](int i) { groups->setCurrentIndex(1 + i); }, arranged);
    frames("sheet: scrolling under headings", 60,
           [&](int i) { table.verticalScrollBar()->setValue(i * 13); });
    groups->setCurrentIndex(0);
    settle();
  }

  TimedApplication& application_;
  app::Work& work_;
  app::MainWindow& window_;
  app::TimelineView& timeline_;
  app::SheetView& sheet_;
};

}  // namespace

int main(int argc, char** argv) {
  if (argc < 2 || argc > 3) return 2;
  qputenv("QT_QPA_PLATFORM", "offscreen");
  QStandardPaths::setTestModeEnabled(true);
  TimedApplication application(argc, argv);
  app::Theme::instance().install();
  QTemporaryDir folder;
  MediaCache cache(folder.path().toStdString());
  app::Work work(cache);
  app::MainWindow window(work);
  window.resize(1280, 800);
  window.show();
  Bench(application, work, window).run(argv[1], argc > 2 ? argv[2] : "");
  return 0;
}
