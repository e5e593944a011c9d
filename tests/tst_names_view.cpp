// Names and what is chosen, in the window: the template with all that is offered for it, rules, tags.
#include "opened.h"

using namespace octaphon;
using namespace octaphon::app;
using test::fieldNamed;
using test::key;
using test::Opened;
using test::press;

namespace {

constexpr auto kCtrl = Qt::ControlModifier;

TemplateEdit& templateOf(Opened& o) {
  TemplateEdit& edit = o.view<TemplateEdit>();
  edit.setFocus();
  return edit;
}

/// As a person replaces what is there.
void typeTemplate(Opened& o, const QString& format) {
  TemplateEdit& edit = templateOf(o);
  key(&edit, Qt::Key_A, kCtrl);
  QTest::keyClicks(&edit, format);
}

PhraseEditor* openWords(Opened& o) {
  key(&templateOf(o), Qt::Key_Return);
  return o.view<SentenceView>().editor();
}

const std::string& formatOf(Opened& o) { return o.now()->briefs[0].names.format; }

QString shownFile(Opened& o, int row) {
  const SheetModel& model = o.view<SheetView>().model();
  return model.index(row, SheetModel::File).data().toString();
}

QWidget* linesNamed(QWidget& editor, const QString& name) {
  for (QWidget* lines : editor.findChildren<QWidget*>())
    if (lines->accessibleName() == name &&
        lines->metaObject()->className() == QByteArray("octaphon::app::SelectionLines"))
      return lines;
  return nullptr;
}

template <class Field>
QList<Field*> fieldsNamed(QWidget& parent, const QString& name) {
  QList<Field*> found;
  for (Field* field : parent.findChildren<Field*>())
    if (field->isVisible() && field->accessibleName() == name) found << field;
  return found;
}

/// Opens a box and chooses one of what it offers.
void choose(QComboBox* box, const QString& words) {
  box->setFocus();
  const int wanted = box->findText(words);
  QVERIFY2(wanted >= 0, qPrintable(words));
  key(box, Qt::Key_Home);
  for (int i = 0; i < wanted; ++i) key(box, Qt::Key_Down);
  QCOMPARE(box->currentText(), words);
}

/// As soon as it is there.
bool pressSoon(QWidget& parent, const QString& words) {
  return QTest::qWaitFor([&] { return press(parent, words); });
}

QStringList chosen(Opened& o) {
  QStringList names;
  const Sheet& sheet = *o.work.sheets().sheet();
  for (const PlannedBrief& brief : sheet.briefs)
    if (brief.brief.id == o.now()->briefs[0].id)
      for (const PlannedSpan& span : brief.spans) names << QString::fromStdString(span.name);
  return names;
}

}  // namespace

class NamesViewTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { state_ = test::prepareTests(); }
  void init() { QSettings().clear(); }

  // --- the template

  void namesFollowTheTemplateWhileOneTypes() {
    Opened o;
    o.open();
    o.window.panels().show("sheet");
    const int steps = o.work.document().undoStack().count();
    typeTemplate(o, "{source.number:2} {source} - {region|words -1}");
    QCOMPARE(o.work.document().undoStack().count(), steps + 1);
    // Seen before it is planned, and as it is planned.
    QTRY_COMPARE(shownFile(o, 0), QString("01_gear_01.wav"));
    o.settle();
    QCOMPARE(shownFile(o, 0), QString("01_gear_01.wav"));
    QCOMPARE(o.files()[0], QString("01_gear_01.wav"));
    // A mistake on the way: the last names stay until the plan says otherwise, and the place is told.
    QTest::keyClicks(&o.view<TemplateEdit>(), "{regio}");
    o.settle();
    QTRY_VERIFY(o.count(RowState::Fault) > 0);
    bool told = false;
    for (const QLabel* label : o.view<SentenceView>().findChildren<QLabel*>())
      told = told || (label->isVisible() && label->text().contains("Did you mean {region}?"));
    QVERIFY(told);
    o.run("edit.undo");
    o.settle();
    QCOMPARE(o.view<TemplateEdit>().text(), QString("{region.base}_{source}_{n.name:2}"));
  }

  void wordsThatGoOnAreOffered() {
    Opened o;
    o.open();
    typeTemplate(o, "x{reg");
    QListView* offered = nullptr;
    for (QWidget* widget : QApplication::topLevelWidgets())
      if (auto* list = qobject_cast<QListView*>(widget); list && list->isVisible()) offered = list;
    QVERIFY(offered != nullptr);
    QCOMPARE(offered->model()->index(0, 0).data().toString(), QString("region"));
    key(offered, Qt::Key_Down);
    key(offered, Qt::Key_Return);
    QCOMPARE(o.view<TemplateEdit>().text(), QString("x{region.base}"));
    QTest::keyClicks(&o.view<TemplateEdit>(), "|up");
    QTRY_VERIFY(offered->isVisible());
    QCOMPARE(offered->model()->rowCount(), 1);
    key(offered, Qt::Key_Return);
    QCOMPARE(o.view<TemplateEdit>().text(), QString("x{region.base|upper}"));
    // Esc closes the list, and nothing else.
    typeTemplate(o, "{so");
    QTRY_VERIFY(offered->isVisible());
    key(offered, Qt::Key_Escape);
    QTRY_VERIFY(!offered->isVisible());
    QCOMPARE(formatOf(o), std::string("{so"));
  }

  void fieldsAreFoundAndPutIn() {
    Opened o;
    o.open();
    typeTemplate(o, "a_");
    PhraseEditor* editor = openWords(o);
    QVERIFY(editor != nullptr);
    auto* find = fieldNamed<QLineEdit>(*editor, "Find a field or filter");
    auto* words = fieldNamed<QTreeWidget>(*editor, "Fields and filters");
    QVERIFY(find != nullptr && words != nullptr);
    // What each gives for the row that is selected.
    const auto valueOf = [&](const QString& field) {
      return words->findItems(field, Qt::MatchExactly).value(0)->text(1);
    };
    o.work.rows().show(o.rowKey(4));
    QTRY_COMPARE(valueOf("{source}"), QString("Chain"));
    QCOMPARE(valueOf("{region.number}"), QString("02"));
    find->setFocus();
    QTest::keyClicks(find, "otherwise equal");
    QVERIFY(words->currentItem() != nullptr);
    key(find, Qt::Key_Return);
    QCOMPARE(formatOf(o), std::string("a_{n.name}"));
    find->clear();
    QTest::keyClicks(find, "initials");
    key(find, Qt::Key_Return);
    QCOMPARE(formatOf(o), std::string("a_{n.name|initials}"));
    find->clear();
    QTest::keyClicks(find, "no such thing");
    key(find, Qt::Key_Return);
    QCOMPARE(formatOf(o), std::string("a_{n.name|initials}"));
    // Ours and kept ones.
    auto* saved = fieldNamed<QComboBox>(*editor, "Saved templates");
    // A sheet that arrives while the list is open leaves it as it is.
    saved->showPopup();
    saved->view()->setCurrentIndex(saved->model()->index(2, 0));
    o.work.sheets().refresh();
    o.settle();
    QCOMPARE(saved->view()->currentIndex().row(), 2);
    saved->hidePopup();
    choose(saved, "Game sound with variation");
    QCOMPARE(formatOf(o), std::string("{region.base|snake}<_{source|snake}>_{n.name:2}"));
    QVERIFY(fieldNamed<QPushButton>(*editor, "Forget this saved template") == nullptr);
    typeTemplate(o, "mine_{n}");
    auto* name = fieldNamed<QLineEdit>(*editor, "Name to keep the template under");
    name->setFocus();
    QTest::keyClicks(name, "Album");  // a name of ours
    key(name, Qt::Key_Return);
    QCOMPARE(name->text(), QString("Album"));
    name->clear();
    QTest::keyClicks(name, "Quay");
    key(name, Qt::Key_Return);
    QCOMPARE(saved->currentText(), QString("Quay"));
    choose(saved, "Album");
    choose(saved, "Quay");
    QCOMPARE(formatOf(o), std::string("mine_{n}"));
    QVERIFY(press(*editor, "Forget"));
    QCOMPARE(saved->findText("Quay"), -1);
  }

  void waysOutAreOfferedAndTakenByHandOnly() {
    Opened o;
    o.open();
    typeTemplate(o, "{region.base}");
    o.settle();
    QVERIFY(o.count(RowState::Fault) > 0);
    QCOMPARE(formatOf(o), std::string("{region.base}"));
    PhraseEditor* editor = openWords(o);
    QVERIFY(pressSoon(*editor, "Add {source}"));
    QCOMPARE(formatOf(o), std::string("{region.base}_{source}"));
    o.settle();
    QVERIFY(pressSoon(*editor, "Add {n.name:2}"));
    o.settle();
    QCOMPARE(o.count(RowState::Fault), 0);
    QCOMPARE(formatOf(o), std::string("{region.base}_{source}_{n.name:2}"));
    typeTemplate(o, "{region}_{souce}");
    QVERIFY(pressSoon(*editor, "Write {source}"));
    QCOMPARE(formatOf(o), std::string("{region}_{source}"));
  }

  void abbreviationsBelongToTheSession() {
    Opened o;
    o.open();
    PhraseEditor* editor = openWords(o);
    auto* lines = fieldNamed<QPlainTextEdit>(*editor, "Abbreviations");
    QVERIFY(lines != nullptr);
    const int steps = o.work.document().undoStack().count();
    lines->setFocus();
    QTest::keyClicks(lines, "Gear = Gr");
    QCOMPARE(o.now()->abbreviations, (std::map<std::string, std::string>{{"Gear", "Gr"}}));
    QCOMPARE(o.work.document().undoStack().count(), steps + 1);
    typeTemplate(o, "{source|short}_{n}");
    o.settle();
    QCOMPARE(o.files()[0], QString("gr_01.wav"));
    o.run("edit.undo");
    o.run("edit.undo");
    QVERIFY(o.now()->abbreviations.empty());
    QVERIFY(lines->toPlainText().isEmpty());
  }

  // --- what is chosen

  void rulesAreMadeAndTakenBack() {
    Opened o;
    o.open();
    o.editBrief(0, [](Brief& brief) { brief.where.regions = {}; });
    PhraseEditor* editor = o.openPhrase(PhraseKind::Regions);
    QWidget* lines = linesNamed(*editor, "Regions");
    QVERIFY(lines != nullptr);
    QVERIFY(press(*lines, "Add a rule"));
    QVERIFY(o.now()->briefs[0].where.regions.empty());  // without a value it is none
    choose(fieldNamed<QComboBox>(*lines, "What it goes by"), "under");
    auto* value = fieldNamed<QComboBox>(*lines, "Value");
    value->setFocus();
    QTest::keyClicks(value->lineEdit(), "Crane");
    o.settle();
    QTRY_COMPARE(chosen(o), QStringList({"Crane/Lift 01", "Crane/Lift 02", "Crane/Lift 03"}));
    QVERIFY(press(*lines, "Add a rule"));
    auto values = fieldsNamed<QComboBox>(*lines, "Value");
    QCOMPARE(values.size(), 2);
    values[1]->setFocus();
    QTest::keyClicks(values[1]->lineEdit(), "*02");  // offered as one that leaves out
    o.settle();
    QTRY_COMPARE(chosen(o), QStringList({"Crane/Lift 01", "Crane/Lift 03"}));
    QTRY_VERIFY(o.phrase(PhraseKind::Regions)->text().contains("under Crane, but not those named *02"));
    // A new region that fits is there by itself.
    o.work.document().edit("Another", [](Session& session) {
      Region region = session.regions[0];
      region.id = "late";
      region.name = "Crane/Swing";
      session.regions.push_back(region);
    });
    o.settle();
    QTRY_COMPARE(chosen(o), QStringList({"Crane/Swing", "Crane/Lift 01", "Crane/Lift 03"}));
    // By hand, against the rules.
    auto* tree = editor->findChild<QTreeWidget*>();
    tree->setFocus();
    const auto item = tree->findItems("Swing", Qt::MatchExactly | Qt::MatchRecursive);
    QCOMPARE(item.size(), 1);
    tree->setCurrentItem(item[0]);
    key(tree, Qt::Key_Return);
    o.settle();
    QTRY_COMPARE(chosen(o), QStringList({"Crane/Lift 01", "Crane/Lift 03"}));
    QCOMPARE(o.now()->briefs[0].where.regions.picks.size(), std::size_t{3});
    o.run("edit.undo");
    o.settle();
    QTRY_COMPARE(chosen(o).size(), 3);
    QCOMPARE(fieldsNamed<QComboBox>(*lines, "Value").size(), 2);
    // In instead of out, and out with the line.
    auto* way = fieldsNamed<QToolButton>(*lines, "Out instead of in").value(1);
    way->setFocus();
    key(way, Qt::Key_Return);
    o.settle();
    QTRY_COMPARE(chosen(o).filter("02").isEmpty(), false);
    auto out = fieldsNamed<QToolButton>(*lines, "Take this line out");
    out[1]->setFocus();
    key(out[1], Qt::Key_Return);
    QTRY_COMPARE(o.now()->briefs[0].where.regions.picks.size(), std::size_t{1});
  }

  void otherSpansAndSources() {
    Opened o;
    o.open();
    o.editBrief(0, [](Brief& brief) { brief.where.regions = {}; });
    o.work.selected().setRange(TimeSpan{48000, 96000});
    PhraseEditor* editor = o.openPhrase(PhraseKind::Regions);
    QVERIFY(press(*editor, "The whole session"));
    auto* range = fieldNamed<QCheckBox>(*editor, "One stretch of time");
    range->setFocus();
    key(range, Qt::Key_Return);
    QCOMPARE(o.now()->briefs[0].where.range, (TimeSpan{48000, 96000}));
    auto* to = fieldNamed<QDoubleSpinBox>(*editor, "End of the stretch of time");
    to->setFocus();
    to->selectAll();
    QTest::keyClicks(to, "2.5");
    key(to, Qt::Key_Tab);
    QCOMPARE(o.now()->briefs[0].where.range, (TimeSpan{48000, 72000}));
    QVERIFY(o.phrase(PhraseKind::Regions)
                ->text()
                .contains("the whole session and the time from 0:01.000 to 0:02.500"));
    o.settle();
    QCOMPARE(chosen(o).size(), 2);
    PhraseEditor* sources = o.openPhrase(PhraseKind::Sources);
    choose(fieldNamed<QComboBox>(*sources, "Groups that match a region"),
           "The group named as a part of its path");
    QCOMPARE(o.now()->briefs[0].what.matching, Matching::Path);
    QWidget* groups = linesNamed(*sources, "Groups");
    QVERIFY(press(*groups, "Add a rule"));
    choose(fieldNamed<QComboBox>(*groups, "What it goes by"), "on level");
    choose(fieldNamed<QComboBox>(*groups, "Value"), "1");
    QVERIFY(o.now()->briefs[0].what.groups.picks.size() == 1 &&
            o.now()->briefs[0].what.groups.picks[0].number == 1);
    QVERIFY(o.phrase(PhraseKind::Sources)->text().contains("each group on level 1"));
  }

  // 60 = 3 × 4 × 5 files, 35 = (4 + 3) × 5, numbered 01 … over tracks 1, 7 and 9.
  void productsAreCountedInTheWindow() {
    Opened o;
    o.open();
    o.work.document().edit("A plain yard", [](Session& session) {
      const Clip clip = [&] {
        for (const Track& track : session.tracks)
          if (!track.clips.empty()) return track.clips[0];
        return Clip();
      }();
      session.tracks.clear();
      session.clipSets.clear();
      session.regions.clear();
      for (int i = 1; i <= 3; ++i) {
        Track group;
        group.id = "g" + std::to_string(i);
        group.name = "Group " + std::to_string(i);
        group.kind = TrackKind::Group;
        session.tracks.push_back(group);
      }
      for (int i = 1; i <= 9; ++i) {
        Track track;
        track.id = "t" + std::to_string(i);
        track.name = "Track " + std::to_string(i);
        track.group = "g" + std::to_string(1 + i % 3);
        track.clips = {clip};
        track.clips[0].id = "c" + std::to_string(i);
        track.clips[0].start = 0;
        session.tracks.push_back(track);
      }
      for (int i = 0; i < 5; ++i) {
        Region region;
        region.id = "r" + std::to_string(i);
        region.name = "R " + std::to_string(i);
        region.start = i * 960;
        region.length = 960;
        session.regions.push_back(region);
      }
      Brief brief;
      brief.id = "b";
      brief.name = "Yard";
      brief.what.mix = false;
      brief.heard.counts = Counts::EverythingHeard;
      brief.what.tracks = {"t1", "t2", "t3", "t4"};
      brief.files.outputs = {{Encoding::Pcm24},
                             {Encoding::Pcm16, 0, OutputChannels::AsTapped, false, false, "", "a"},
                             {Encoding::Float32, 0, OutputChannels::AsTapped, false, false, "", "b"}};
      session.briefs = {brief};
    });
    o.settle();
    const auto says = [&](const QString& words) {
      for (const QLabel* label : o.window.findChildren<QLabel*>())
        if (label->isVisible() && label->text().contains(words)) return true;
      return false;
    };
    QTRY_COMPARE(o.files().size(), 60);
    QTRY_VERIFY(says("60 files = 5 regions × 4 sources × 3 outputs"));
    o.editBrief(0, [](Brief& brief) { brief.files.outputs.clear(); });
    PhraseEditor* sources = o.openPhrase(PhraseKind::Sources);
    QVERIFY(press(*sources, "Each group"));
    o.settle();
    QTRY_COMPARE(o.files().size(), 35);
    QTRY_VERIFY(says("35 files = 5 regions × 7 sources"));
    QVERIFY(press(*sources, "Each group"));
    auto* tree = sources->findChild<QTreeWidget*>();
    tree->setFocus();
    for (const char* name : {"Track 2", "Track 3", "Track 4", "Track 7", "Track 9"}) {
      tree->setCurrentItem(tree->findItems(name, Qt::MatchExactly | Qt::MatchRecursive)[0]);
      key(tree, Qt::Key_Return);
    }
    o.settle();
    typeTemplate(o, "{source.number:2}_{source}_{region}");
    o.settle();
    QTRY_COMPARE(o.files().size(), 15);
    QStringList firsts = o.files().mid(0, 3);
    std::sort(firsts.begin(), firsts.end());
    QStringList numbers;
    for (const QString& file : firsts) numbers << file.left(2);
    QCOMPARE(numbers, QStringList({"01", "02", "03"}));
  }

  // --- tags

  void tagsOfManyAtOnce() {
    Opened o;
    o.open();
    o.work.document().edit("Tags", [](Session& session) {
      session.regions[0].tags = {"both", "mine"};
      session.regions[1].tags = {"both"};
    });
    o.window.panels().show("details");
    const Ids two{o.now()->regions[0].id, o.now()->regions[1].id};
    o.work.selected().set(Thing::Region, two);
    auto* details = &o.view<DetailsPanel>();
    QTRY_VERIFY(fieldNamed<QLineEdit>(*details, "Tags") != nullptr);
    auto* tags = fieldNamed<QLineEdit>(*details, "Tags");
    QTRY_COMPARE(tags->text(), QString("both"));
    tags->setFocus();
    tags->end(false);
    QTest::keyClicks(tags, ", wet");
    key(tags, Qt::Key_Return);
    using Tags = std::vector<std::string>;
    QCOMPARE(o.now()->regions[0].tags, (Tags{"both", "mine", "wet"}));
    QCOMPARE(o.now()->regions[1].tags, (Tags{"both", "wet"}));
    tags->selectAll();
    QTest::keyClicks(tags, "wet");
    // The selection moves while one types: it is meant for those it was typed for.
    o.work.selected().set(Thing::Region, {o.now()->regions[2].id});
    QTRY_COMPARE(o.now()->regions[0].tags, (Tags{"mine", "wet"}));
    QCOMPARE(o.now()->regions[1].tags, Tags{"wet"});
    QVERIFY(o.now()->regions[2].tags.empty());
    QTRY_COMPARE(fieldNamed<QLineEdit>(*details, "Tags")->text(), QString());
    o.run("edit.undo");
    QCOMPARE(o.now()->regions[0].tags, (Tags{"both", "mine", "wet"}));
    // Found by them.
    auto* search = fieldNamed<QLineEdit>(o.window, "Search everything");
    QVERIFY(search != nullptr);
    search->setFocus();
    QTest::keyClicks(search, "mine");
    key(search, Qt::Key_Return);
    QTRY_COMPARE(o.work.selected().of(Thing::Region), Ids{o.now()->regions[0].id});
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

QTEST_MAIN(NamesViewTest)
#include "tst_names_view.moc"
