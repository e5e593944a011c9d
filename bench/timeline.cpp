// octaphon-bench-timeline SESSION: how long the window takes to open a large session, and to draw the
// timeline and the sheet while someone scrolls and zooms.
#include <algorithm>
#include <cstdio>
#include <functional>
#include <QApplication>
#include <QElapsedTimer>
#include <QScrollBar>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <vector>

#include "app/look/theme.h"
#include "app/sheet/remark_causes.h"
#include "app/sheet/sheet_view.h"
#include "app/window/main_window.h"
#include "edit/clips.h"
#include "edit/findings.h"
#include "edit/rename.h"

namespace {

void report(const char* name, int times, const std::function<void(int)>& work) {
  std::vector<double> ms;
  for (int i = 0; i < times; ++i) {
    QElapsedTimer clock;
    clock.start();
    work(i);
    ms.push_back(static_cast<double>(clock.nsecsElapsed()) / 1e6);
  }
  std::sort(ms.begin(), ms.end());
  std::printf("%-28s median %7.2f ms, worst %7.2f ms\n", name, ms[ms.size() / 2], ms.back());
}

bool waitFor(const std::function<bool()>& done, int ms) {
  QElapsedTimer clock;
  clock.start();
  while (!done() && clock.elapsed() < ms) QApplication::processEvents(QEventLoop::AllEvents, 20);
  return done();
}

}  // namespace

int main(int argc, char** argv) {
  using namespace octaphon;
  if (argc != 2) return 2;
  qputenv("QT_QPA_PLATFORM", "offscreen");
  QStandardPaths::setTestModeEnabled(true);
  QApplication application(argc, argv);
  app::Theme::instance().install();
  QTemporaryDir folder;
  MediaCache cache(folder.path().toStdString());
  app::Work work(cache);
  app::MainWindow window(work);
  window.resize(1280, 800);
  window.show();
  report("open, until the window is back", 1, [&](int) { window.sessions().open(argv[1]); });
  report("open, until the sheet is there", 1,
         [&](int) { waitFor([&] { return !work.sheets().sheet()->rows.empty(); }, 60000); });
  waitFor([] { return false; }, 1500);
  app::TimelineView& timeline = *window.findChild<app::TimelineView*>();
  const auto draw = [&] { timeline.viewport()->repaint(); };
  report("timeline, whole session", 40, [&](int) { draw(); });
  report("scrolling down", 200, [&](int i) {
    timeline.verticalScrollBar()->setValue(i * 120);
    draw();
  });
  timeline.showSpan(0, 48000 * 30);
  timeline.verticalScrollBar()->setValue(0);
  report("scrolling along", 200, [&](int i) {
    timeline.horizontalScrollBar()->setValue(i * 90);
    draw();
  });
  report("zooming", 60, [&](int i) {
    timeline.zoomBy(i < 30 ? 1.3 : 1 / 1.3);
    draw();
  });
  app::Document& document = work.document();
  const auto pass = [](bool started) { waitFor([] { return false; }, started ? 400 : 0); };
  report("selecting all clips", 5, [&](int) {
    work.selected().clear();
    window.commands().action("edit.select-all")->trigger();
    draw();
  });
  report("moving all clips", 5, [&](int i) {
    const ClipIds ids = work.selected().clips();
    document.edit("Move", [&](Session& session) { moveClips(session, ids, i % 2 == 0 ? 480 : -480); });
    draw();
  });
  work.selected().clear();
  pass(true);
  report("renaming all regions", 5, [&](int i) {
    document.edit("Rename", [&](Session& session) {
      RenameRequest request;
      request.step = RenameStep::Suffix;
      request.with = std::to_string(i);
      applyNames(session, *previewRename(session, namedThings(session, NamedKind::Region), request));
    });
    draw();
  });
  report("undoing that", 5, [&](int) {
    document.undoStack().undo();
    draw();
  });
  report("nudging one clip", 20, [&](int i) {
    document.edit("Nudge", [&](Session& session) { session.tracks[1].clips[0].start += i + 1; });
    draw();
  });
  report("checking the session", 5,
         [&](int) { (void)checkSession(*document.session(), work.sheets().facts().get()); });
  report("islands of all clips", 5, [&](int) {
    SpanRequest request;
    request.rule = SpanRule::Islands;
    (void)proposeSpans(*document.session(), request);
  });
  auto& sheetView = *window.findChild<app::SheetView*>();
  QTableView& sheet = sheetView.table();
  report("scrolling the sheet", 200, [&](int i) {
    sheet.verticalScrollBar()->setValue(i * 13);
    sheet.viewport()->repaint();
  });
  report("sorting the sheet", 5,
         [&](int i) { sheetView.model().sort(0, i % 2 ? Qt::AscendingOrder : Qt::DescendingOrder); });
  sheetView.model().sort(-1, Qt::AscendingOrder);
  std::printf("rows %zu\n", sheetView.model().sheet().rows.size());
  for (const auto& [name, by] : {std::pair("headings by span", app::GroupBy::Span),
                                 std::pair("headings by source", app::GroupBy::Source),
                                 std::pair("headings by state", app::GroupBy::State),
                                 std::pair("headings by remark", app::GroupBy::Remark)})
    report(name, 3, [&, by = by](int) {
      sheetView.model().groupBy(app::GroupBy::Nothing);
      sheetView.model().groupBy(by);
      sheet.viewport()->repaint();
    });
  report("scrolling under headings", 200, [&](int i) {
    sheet.verticalScrollBar()->setValue(i * 13);
    sheet.viewport()->repaint();
  });
  sheetView.model().groupBy(app::GroupBy::Nothing);
  report("filtering the sheet", 3, [&](int i) {
    sheetView.model().setFilter(i % 2 == 0 ? "1" : "10", app::SheetModel::File);
    sheet.viewport()->repaint();
  });
  sheetView.model().setFilter({});
  report("remarks by their causes", 5, [&](int) { (void)app::causesOf(sheetView.model().sheet()); });
  return 0;
}
