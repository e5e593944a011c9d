// The parts of the window on their own: what they arrange, hold and hand over.
#include <deque>
#include <QtTest>
#include <QtWidgets>
#include <set>

#include "app/brief/template_edit.h"
#include "app/commands/brief_commands.h"
#include "app/commands/edit_commands.h"
#include "app/commands/listen_commands.h"
#include "app/look/flow_layout.h"
#include "app/look/theme.h"
#include "app/outline/outline_view.h"
#include "app/sheet/sheet_model.h"
#include "app/timeline/timeline_model.h"
#include "app/work/work.h"
#include "session/session_file.h"
#include "support.h"

using namespace octaphon;
using namespace octaphon::app;

namespace {

const QString kDemo = OCTAPHON_SOURCE "/demo/Tidewheel.octaphon";

std::shared_ptr<const Session> demoSession() {
  return std::make_shared<Session>(*loadSession(kDemo.toStdString()));
}

/// The commands that need no view.
void addCommandsOf(Commands& commands, Work& work) {
  addEditCommands(commands, work);
  addMarkCommands(commands, work);
  addTrackCommands(commands, work);
  addListenCommands(commands, work);
  addBriefCommands(commands, work);
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
    QTemporaryDir dir;
    MediaCache cache(dir.path().toStdString());
    Work work(cache);
    QWidget window;
    Commands commands(work, &window);
    addCommandsOf(commands, work);
    OutlineView view(work, commands, &window);
    Session session;
    session.regions = {region("B/Two", 500, 10), region("A/x/One", 100, 10), region("Top", 900, 10),
                       region("", 300, 10)};
    session.regions[3].id = "nameless";
    work.document().adopt(session, true);
    QStringList top;
    for (int i = 0; i < view.model()->rowCount(); ++i) top << view.model()->index(i, 0).data().toString();
    QCOMPARE(top, QStringList({"A", "(no name)", "B", "Top"}));
    QStringList order;
    for (int i = 0; i < 5; ++i) {
      work.places().stepRegion(1);
      order << QString::fromStdString(*work.selected().regions().begin());
    }
    QCOMPARE(order, QStringList({"A/x/One", "nameless", "B/Two", "Top", "Top"}));
    work.selected().clear();
    work.places().stepRegion(-1);
    QCOMPARE(work.selected().regions(), Ids{"Top"});
  }

  void typingMergesAndOtherEditsDoNot() {
    Document document;
    document.open(std::move(*Document::read(kDemo.toStdString())));
    const std::string first = document.session()->briefs[0].id;
    for (const char* text : {"a", "ab", "abc"})
      document.editBriefs(
          {first}, "Change the template", [&](Brief& b) { b.names.format = text; }, "template");
    QCOMPARE(document.undoStack().count(), 1);
    const auto setTail = [](Brief& brief) { brief.ends.tail = Tail::Fixed, brief.ends.tailSeconds = 3; };
    document.editBriefs({first}, "Change the tail", setTail, "tail game");
    QVERIFY(!document.editBriefs({first}, "Nothing new", setTail));
    QCOMPARE(document.undoStack().count(), 2);
    QCOMPARE(document.undoStack().undoText(), QString("Change the tail"));
    document.undoStack().undo();
    document.undoStack().undo();
    QVERIFY(document.session()->briefs == demoSession()->briefs);
    QVERIFY(!document.isModified());
    document.removeBriefs({first}, "Delete brief");
    QCOMPARE(document.addBrief(Brief(), "New brief"), std::string("brief-1"));
    QCOMPARE(document.session()->briefs.back().id, std::string("brief-1"));
  }

  void savedElsewhereTheMediaAreStillFound() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("m", test::noise(1, 100, 1));
    const QString file = make.save();
    Document document;
    document.open(std::move(*Document::read(file.toStdString())));
    QDir(dir.path()).mkpath("other/deep");
    const QString moved = dir.filePath("other/deep/moved.octaphon");
    document.noteSaved(std::move(*Document::write(document.beginSaving(moved.toStdString()))));
    const Session session = *loadSession(moved.toStdString());
    QCOMPARE(session.media[0].file, std::string("../../media/m.wav"));
    QVERIFY(std::filesystem::exists(session.folder() / session.media[0].file));
    QVERIFY(!Document::write(document.beginSaving(dir.filePath("not/there.octaphon").toStdString())));
    QVERIFY(document.isOpen());
  }

  void onlyTheNewestPlanIsShown() {
    QTemporaryDir dir;
    MediaCache cache(dir.path().toStdString());
    SheetKeeper keeper(cache);
    QSignalSpy changed(&keeper, &SheetKeeper::sheetChanged);
    const auto session = demoSession();
    const auto only = [](std::size_t brief) {
      PlanRequest request;
      request.briefs = {brief};
      return request;
    };
    for (int i = 0; i < 20; ++i) keeper.request(session, only(0));
    keeper.request(session, only(1));
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
                       planSheet(*session, MediaFacts(), *requestFor(*session, {"Game sounds, layers"}))),
                   false);
    const auto cell = [&](int row, int column) { return model.index(row, column).data().toString(); };
    QCOMPARE(model.rowCount(), 30);
    QCOMPARE(cell(0, SheetModel::Heard), QString("Machines and main"));
    QCOMPARE(cell(2, SheetModel::Heard), QString("main"));
    QCOMPARE(cell(0, SheetModel::Length), QString("at least 0:03.200"));
    QCOMPARE(cell(0, SheetModel::Tail), QString("rings out"));
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

  // A device that holds a third of a second: playing ends when the last frame was heard, not when it was
  // taken.
  void whatADeviceHoldsIsHeardToTheEnd() {
    constexpr Frame kHeld = 16'000;
    struct Heard {
      std::vector<float> left;
    };
    class HoldingDevice : public SoundOutput {
     public:
      HoldingDevice(Player& player, Heard& heard) : player_(player), heard_(heard) { clock_.start(); }
      void tick() override {
        const auto due = static_cast<std::size_t>(clock_.elapsed() * 48);  // 48 kHz
        while (held_.size() + heard_.left.size() < due + kHeld) {
          const bool ended = player_.atEnd();
          float block[2 * 480];
          player_.read(block, 480);
          if (ended) silence_ += 480;
          for (int i = 0; i < 480; ++i) held_.push_back(block[2 * i]);
        }
        while (heard_.left.size() < due) heard_.left.push_back(held_.front()), held_.pop_front();
      }
      Frame waiting() const override {
        return player_.atEnd() ? std::max<Frame>(0, kHeld - silence_) : static_cast<Frame>(held_.size());
      }

     private:
      Player& player_;
      Heard& heard_;
      QElapsedTimer clock_;
      std::deque<float> held_;
      Frame silence_ = 0;
    };
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("m", test::sound(2, 24'000, [](int, Frame i) { return i == 23'999 ? 0.75 : 0.25; }));
    make.track("t");
    make.clip("t", "m", 0, 24'000);
    make.session.file = make.save().toStdString();
    MediaCache cache((dir.path() + "/cache").toStdString());
    const auto session = std::make_shared<Session>(make.session);
    Heard heard;
    Transport transport(cache, nullptr, [&](Player& player, int) -> std::unique_ptr<SoundOutput> {
      return std::make_unique<HoldingDevice>(player, heard);
    });
    Frame furthest = 0;
    connect(&transport, &Transport::positionChanged, this,
            [&](Frame at) { furthest = std::max(furthest, at); });
    transport.play(session, gatherFacts(*session, cache));
    QTRY_VERIFY(transport.isPlaying() && transport.position() > 4'800);
    // The playhead is where one hears, not where the device takes.
    QVERIFY(transport.position() <= static_cast<Frame>(heard.left.size()) + 960);
    QTRY_VERIFY(!transport.isPlaying());
    QCOMPARE(furthest, Frame{24'000});
    QVERIFY(std::find_if(heard.left.begin(), heard.left.end(), [](float f) { return f > 0.5f; }) !=
            heard.left.end());
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
