// The parts of the window on their own: what they arrange, hold and hand over.
#include <QtTest>
#include <QtWidgets>
#include <set>

#include "app/work/document.h"
#include "app/look/flow_layout.h"
#include "app/outline/outline_view.h"
#include "session/session_file.h"
#include "app/work/sheet_keeper.h"
#include "app/sheet/sheet_model.h"
#include "support.h"
#include "app/brief/template_edit.h"
#include "app/look/theme.h"
#include "app/timeline/timeline_model.h"
#include "app/work/transport.h"

using namespace octaphon;
using namespace octaphon::app;

namespace {

const QString kDemo = OCTAPHON_SOURCE "/demo/Tidewheel.octaphon";

std::shared_ptr<const Session> demoSession() {
  return std::make_shared<Session>(*loadSession(kDemo.toStdString()));
}

Region region(const char* name, Frame start, Frame length) {
  Region made;
  made.id = made.name = name;
  made.start = start;
  made.length = length;
  return made;
}

}  // namespace

class ViewsTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { Theme::instance().install(); }

  void lanesFollowTheTree() {
    const auto session = demoSession();
    const TimelineModel model(session);
    QCOMPARE(model.lanes().size(), session->tracks.size() + 1);
    QVERIFY(model.lanes().back().track.isMain());
    int top = 0;
    for (std::size_t i = 0; i < model.lanes().size(); ++i) {
      const Lane& lane = model.lanes()[i];
      QCOMPARE(lane.top, top);
      QCOMPARE(model.laneAt(lane.top), i);
      QCOMPARE(model.laneAt(lane.top + lane.height - 1), i);
      top += lane.height;
    }
    QCOMPARE(model.height(), top);
    QCOMPARE(model.inkOf(*model.tree().find("chain")), 1);  // its group's
  }

  void overlappingRegionsGetLanesOfTheirOwn() {
    auto session = std::make_shared<Session>();
    session->regions = {region("long", 0, 1000), region("inside", 100, 100), region("after", 200, 100),
                        region("third", 120, 500), region("fourth", 130, 500)};
    const TimelineModel model(session);
    QCOMPARE(model.regionLanes(), TimelineModel::kMostRegionLanes);
    QCOMPARE(model.regionLane(0), 0);
    QCOMPARE(model.regionLane(1), 1);
    QCOMPARE(model.regionLane(2), 1);
    QCOMPARE(model.regionLane(3), 2);
    std::set<std::uint32_t> found;
    model.regionsIn(250, 260, [&](const IntervalIndex::Interval& one) { found.insert(one.item); });
    QVERIFY((found == std::set<std::uint32_t>{0, 2, 3, 4}));
  }

  void tilesStandWhereTheirRowsAre() {
    const auto session = demoSession();
    MediaFacts facts;
    const auto sheet = std::make_shared<Sheet>(planSheet(*session, facts, *requestFor(*session, {})));
    const TileModel tiles(sheet, 0);
    const TrackTree tree(*session);
    int count = 0;
    tiles.tilesIn(*tree.find("gear"), 0, session->end(), [&](const IntervalIndex::Interval& tile) {
      QCOMPARE(sheet->sourceOf(sheet->rows[tile.item]).id, std::string("gear"));
      QCOMPARE(sheet->rows[tile.item].start, tile.start);
      ++count;
    });
    QCOMPARE(count, 7);
    TileModel(sheet, 99).tilesIn(*tree.find("gear"), 0, session->end(),
                                 [](const auto&) { QFAIL("no such brief"); });
  }

  void theOutlineIsATreeInTimeOrder() {
    OutlineView view;
    auto session = std::make_shared<Session>();
    session->regions = {region("B/Two", 500, 10), region("A/x/One", 100, 10), region("Top", 900, 10),
                        region("", 300, 10)};
    view.setSession(session);
    QStringList top;
    for (int i = 0; i < view.model()->rowCount(); ++i) top << view.model()->index(i, 0).data().toString();
    QCOMPARE(top, QStringList({"A", "(no name)", "B", "Top"}));
    std::vector<int> way;
    for (int at = view.neighbour(1); at >= 0; at = view.neighbour(1)) {
      way.push_back(at);
      view.select(at);
    }
    QCOMPARE(way, (std::vector<int>{1, 3, 0, 2}));
    QCOMPARE(view.neighbour(-1), 0);
  }

  void typingMergesAndOtherEditsDoNot() {
    Document document;
    QVERIFY(document.open(kDemo).has_value());
    Brief brief = document.session()->briefs[0];
    for (const char* text : {"a", "ab", "abc"}) {
      brief.names.format = text;
      document.editBrief(0, brief, "Change the template", "template game");
    }
    QCOMPARE(document.undoStack().count(), 1);
    brief.ends.tailSeconds = 3;
    document.editBrief(0, brief, "Change the tail", "tail game");
    document.editBrief(0, brief, "Nothing new");
    QCOMPARE(document.undoStack().count(), 2);
    QCOMPARE(document.undoStack().undoText(), QString("Change the tail"));
    document.undoStack().undo();
    document.undoStack().undo();
    QVERIFY(document.session()->briefs == demoSession()->briefs);
    QVERIFY(!document.isModified());
    document.removeBrief(0, "Delete brief");
    QCOMPARE(document.addBrief(Brief(), "New brief"), 3u);
    QCOMPARE(document.session()->briefs[3].id, std::string("brief-1"));
  }

  void savedElsewhereTheMediaAreStillFound() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("m", test::noise(1, 100, 1));
    const QString file = make.save();
    Document document;
    QVERIFY(document.open(file).has_value());
    QDir(dir.path()).mkpath("other/deep");
    const QString moved = dir.filePath("other/deep/moved.octaphon");
    QVERIFY(document.saveAs(moved).has_value());
    const Session session = *loadSession(moved.toStdString());
    QCOMPARE(session.media[0].file, std::string("../../media/m.wav"));
    QVERIFY(std::filesystem::exists(session.folder() / session.media[0].file));
    QVERIFY(!document.saveAs(dir.filePath("not/there.octaphon")));
    QVERIFY(document.isOpen());
  }

  void onlyTheNewestPlanIsShown() {
    QTemporaryDir dir;
    MediaCache cache(dir.path().toStdString());
    SheetKeeper keeper(cache);
    QSignalSpy changed(&keeper, &SheetKeeper::sheetChanged);
    const auto session = demoSession();
    for (int i = 0; i < 20; ++i) keeper.request(session, {0});
    keeper.request(session, {1});
    QVERIFY(keeper.isPlanning());
    QTRY_VERIFY(!keeper.isPlanning());
    QCOMPARE(changed.size(), 1);
    QCOMPARE(keeper.sheet()->briefs.size(), 1u);
    QCOMPARE(keeper.sheet()->briefs[0].brief.id, std::string("single"));
  }

  void theModelTellsWhatTheSheetHolds() {
    const auto session = demoSession();
    SheetModel model;
    model.setSheet(std::make_shared<Sheet>(
        planSheet(*session, MediaFacts(), *requestFor(*session, {"Game sounds, layers"}))));
    const auto cell = [&](int row, int column) { return model.index(row, column).data().toString(); };
    QCOMPARE(model.rowCount(), 30);
    QCOMPARE(cell(0, SheetModel::Heard), QString("Machines and main"));
    QCOMPARE(cell(2, SheetModel::Heard), QString("main"));
    QCOMPARE(cell(0, SheetModel::Length), QString("0:03.450"));
    QCOMPARE(cell(0, SheetModel::Format), QString("WAV 24 bit"));
    model.sort(SheetModel::File, Qt::AscendingOrder);
    for (int row = 1; row < 30; ++row) QVERIFY(cell(row - 1, 0) <= cell(row, 0));
    for (std::size_t row = 0; row < 30; ++row) QCOMPARE(model.sheetRow(model.viewRow(row)), row);
    model.setFilter("nothing like it");
    QCOMPARE(model.rowCount(), 0);
    QCOMPARE(model.viewRow(3), -1);
    for (int column = 0; column < SheetModel::kColumns; ++column)
      QVERIFY(!model.headerData(column, Qt::Horizontal, Qt::DisplayRole).toString().isEmpty());
  }

  void wordsFlowAndCommasStay() {
    QWidget widget;
    FlowLayout layout(&widget, 4, 5);
    std::vector<QLabel*> labels;
    for (int i = 0; i < 12; ++i) {
      labels.push_back(new QLabel(i % 3 == 2 ? "," : "word", &widget));
      labels.back()->setProperty("tight", i % 3 == 2);
      layout.addWidget(labels.back());
    }
    const int width = labels[0]->sizeHint().width() * 2 + 8;
    layout.setGeometry(QRect(0, 0, width, 500));
    for (std::size_t i = 2; i < labels.size(); i += 3) {
      QCOMPARE(labels[i]->y(), labels[i - 1]->y());
      QVERIFY(labels[i]->x() >= labels[i - 1]->geometry().right());
    }
    QVERIFY(labels.back()->y() > labels.front()->y());
    QVERIFY(layout.heightForWidth(width) > layout.heightForWidth(width * 4));
  }

  void aPastedTemplateIsOneLine() {
    TemplateEdit edit;
    QGuiApplication::clipboard()->setText("{region}\n_{source}\t");
    edit.paste();
    QCOMPARE(edit.text(), QString("{region} _{source}"));
    QSignalSpy edited(&edit, &TemplateEdit::edited);
    edit.setText("{region} _{source}");
    QVERIFY(edited.isEmpty());
  }

  void withoutADeviceTimeGoesOn() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("m", test::noise(2, 48000, 1));
    make.track("t");
    make.clip("t", "m", 0, 24000);
    make.session.file = make.save().toStdString();
    MediaCache cache((dir.path() + "/cache").toStdString());
    const auto session = std::make_shared<Session>(make.session);
    Transport transport(cache);
    QSignalSpy playing(&transport, &Transport::playingChanged);
    QElapsedTimer clock;
    clock.start();
    transport.setPosition(4800);
    transport.play(session, gatherFacts(*session, cache));
    QTRY_VERIFY(!transport.isPlaying());
    QCOMPARE(transport.position(), Frame{24000});
    QVERIFY(clock.elapsed() >= 300);  // 0.4 s of sound: not faster than time
    QCOMPARE(playing.size(), 2);
    transport.play(session, nullptr);
    QVERIFY(!transport.isPlaying());
  }
};

QTEST_MAIN(ViewsTest)
#include "tst_views.moc"
