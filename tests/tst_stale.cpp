// What makes a file out of date: each single change touches the rows that hear it, and no other.
#include <QtTest>

#include "yard.h"

using namespace octaphon;
using test::Yard;

namespace {

using Change = std::function<void(Yard&)>;

struct Case {
  const char* name;
  const char* stale;    ///< rows: `A/Gear`, a span, a source, `all`
  const char* renamed;  ///< the same
  Change change;
};

bool isMeant(const QString& place, const char* words) {
  const QStringList parts = place.split('/');
  for (const QString& word : QString(words).split(' ', Qt::SkipEmptyParts))
    if (word == "all" || word == place || parts.contains(word)) return true;
  return false;
}

std::vector<CurvePoint> curve(std::initializer_list<std::pair<Frame, double>> points) {
  std::vector<CurvePoint> made(points.size());
  std::transform(points.begin(), points.end(), made.begin(), [](const auto& point) {
    CurvePoint at;
    at.at = point.first;
    at.value = point.second;
    return at;
  });
  return made;
}

Clip& clipOf(Yard& yard, const char* track, std::size_t index = 0) { return yard.track(track).clips[index]; }

/// A group's or track's rows, with the mixes that hear it.
constexpr const char* kGearInA = "A/Gear A/mix W/Machines";
constexpr const char* kGear = "Gear mix W/Machines";
constexpr const char* kBells = "Low High A/mix C/mix W/Bells";

const std::vector<Case>& clips() {
  static const std::vector<Case> kCases{
      {"gain", kGearInA, "", [](Yard& y) { clipOf(y, "Gear").gainDb = -1; }},
      {"start", kGearInA, "", [](Yard& y) { clipOf(y, "Gear").start += 1; }},
      {"offset", kGearInA, "", [](Yard& y) { clipOf(y, "Gear").offset += 1; }},
      {"length", kGearInA, "", [](Yard& y) { clipOf(y, "Gear").length += 1; }},
      {"fade in", kGearInA, "", [](Yard& y) { clipOf(y, "Gear").fadeIn.length = 100; }},
      {"fade out", kGearInA, "", [](Yard& y) { clipOf(y, "Gear").fadeOut.length = 100; }},
      {"medium", kGearInA, "", [](Yard& y) { clipOf(y, "Gear").medium = "b"; }},
      {"channel", kGearInA, "", [](Yard& y) { clipOf(y, "Gear").channel = 2; }},
      {"insert", kGearInA, "",
       [](Yard& y) {
         clipOf(y, "Gear").inserts = {Yard::insert("ci", "trim", {{"gain", -3}})};
       }},
      {"moved to another track", "A/Gear A/Chain A/mix W/Machines", "",
       [](Yard& y) {
         y.track("Chain").clips.push_back(clipOf(y, "Gear"));
         y.track("Gear").clips.eraseIf(
             [first = clipOf(y, "Gear")](const Clip& clip) { return clip == first; });
         y.make.clip("Gear", "a", 200, 50);
       }},
      {"one more", kGearInA, "", [](Yard& y) { y.make.clip("Gear", "a", 500, 700, 9); }},
      {"one more outside", "W/Machines", "", [](Yard& y) { y.make.clip("Gear", "a", 4500, 700, 9); }},
      {"one more that is muted", "", "", [](Yard& y) { y.make.clip("Gear", "a", 500, 700, 9).mute = true; }},
      {"one more without length", "", "", [](Yard& y) { y.make.clip("Gear", "a", 500, 0, 9); }},
      {"keyed along", kBells, "",
       [](Yard& y) {
         clipOf(y, "Low").gainDb = -1;
         clipOf(y, "Low", 1).gainDb = -1;
       }},
      {"keyed along in one region", "A/Low A/High A/mix W/Bells", "",
       [](Yard& y) { clipOf(y, "High").gainDb = -1; }},
      {"name", "", "", [](Yard& y) { clipOf(y, "Gear").name = "other"; }},
      {"colour", "", "", [](Yard& y) { clipOf(y, "Gear").ink = 3; }},
      {"notes", "", "", [](Yard& y) { clipOf(y, "Gear").notes = "n"; }},
      {"lock", "", "", [](Yard& y) { clipOf(y, "Gear").lock = true; }},
      {"order on the track", "", "", [](Yard& y) { std::swap(clipOf(y, "Gear"), clipOf(y, "Gear", 1)); }},
      {"fade of no length", "", "", [](Yard& y) { clipOf(y, "Gear").fadeIn.shape = FadeShape::Power; }},
  };
  return kCases;
}

const std::vector<Case>& strips() {
  static const std::vector<Case> kCases{
      {"fader", kGear, "", [](Yard& y) { y.track("Gear").gainDb = -1; }},
      {"pan", kGear, "", [](Yard& y) { y.track("Gear").pan = 0.5; }},
      {"polarity", kGear, "", [](Yard& y) { y.track("Gear").invert = true; }},
      {"insert", kGear, "",
       [](Yard& y) {
         y.track("Gear").inserts = {Yard::insert("x", "trim", {{"gain", -3}})};
       }},
      {"insert that is off", "", "",
       [](Yard& y) {
         y.track("Gear").inserts = {Yard::insert("x", "trim", {{"gain", -3}})};
         y.track("Gear").inserts[0].on = false;
       }},
      {"curve of the fader", kGear, "",
       [](Yard& y) {
         y.track("Gear").automation = {{"gain", true, curve({{0, -3}, {9000, 0}}), {}}};
       }},
      {"curve that is off", "", "",
       [](Yard& y) {
         y.track("Gear").automation = {{"gain", false, curve({{0, -3}, {9000, 0}}), {}}};
       }},
      {"curve of pan", kGear, "",
       [](Yard& y) {
         y.track("Gear").automation = {{"pan", true, curve({{0, -1}, {9000, 1}}), {}}};
       }},
      {"one more send", kGear, "",
       [](Yard& y) {
         y.track("Gear").sends = {{"s2", "Hall", 0, false, true, {}}};
       }},
      {"send that is off", "", "",
       [](Yard& y) {
         y.track("Gear").sends = {{"s2", "Hall", 0, false, false, {}}};
       }},
      {"mute", "mix W/Machines", "", [](Yard& y) { y.track("Gear").mute = true; }},
      {"helper", "mix W/Machines", "", [](Yard& y) { y.track("Gear").helper = true; }},
      {"out of its group", kGear, "", [](Yard& y) { y.track("Gear").group.clear(); }},
      {"fader of a group", "Gear Chain mix W/Machines", "", [](Yard& y) { y.track("Machines").gainDb = -1; }},
      {"insert of a group", "Gear Chain mix W/Machines", "",
       [](Yard& y) { y.track("Machines").inserts[0].values["bell1_gain"] = 4; }},
      {"insert of a group off", "Gear Chain mix W/Machines", "",
       [](Yard& y) { y.track("Machines").inserts[0].on = false; }},
      {"shared dynamics", kBells, "", [](Yard& y) { y.track("Bells").inserts[0].values["threshold"] = -40; }},
      {"fader under shared dynamics", "A/Low A/High A/mix W/Bells", "",
       [](Yard& y) { y.track("High").gainDb = -2; }},
      {"level of a send", "Low A/mix C/mix W/Bells", "",
       [](Yard& y) { y.track("Low").sends[0].gainDb = -9; }},
      {"send before the fader", "Low A/mix C/mix W/Bells", "",
       [](Yard& y) {
         y.track("Low").sends[0].preFader = true;
         y.track("Low").gainDb = 0;
         y.track("Low").sends[0].gainDb = -7;
       }},
      {"fader of a return", "Low A/mix C/mix W/Bells", "", [](Yard& y) { y.track("Hall").gainDb = -3; }},
      {"insert of a return", "Low A/mix C/mix W/Bells", "",
       [](Yard& y) { y.track("Hall").inserts[0].values["decay"] = 0.5; }},
      {"main", "all", "", [](Yard& y) { y.session.main.gainDb = -1; }},
      {"insert of main", "all", "",
       [](Yard& y) {
         y.session.main.inserts = {Yard::insert("m", "trim", {{"gain", -3}})};
       }},
      {"curve of main", "all", "",
       [](Yard& y) {
         y.session.main.automation = {{"gain", true, curve({{0, -3}, {90000, 0}}), {}}};
       }},
      {"name of a track", "", "Gear", [](Yard& y) { y.track("Gear").name = "Cog"; }},
      {"name of a group", "", "W/Machines", [](Yard& y) { y.track("Machines").name = "Works"; }},
      {"name of a return", "", "", [](Yard& y) { y.track("Hall").name = "Room"; }},
      {"name of an insert", "", "", [](Yard& y) { y.track("Machines").inserts[0].name = "n"; }},
      {"tag of an insert", "", "", [](Yard& y) { y.track("Machines").inserts[0].tags = {"mix"}; }},
      {"colour", "", "", [](Yard& y) { y.track("Gear").ink = 4; }},
      {"notes", "", "", [](Yard& y) { y.track("Gear").notes = "n"; }},
      {"tags", "", "", [](Yard& y) { y.track("Gear").tags = {"t"}; }},
      {"pin", "", "", [](Yard& y) { y.track("Gear").pinned = true; }},
      {"lock", "", "", [](Yard& y) { y.track("Gear").lock = true; }},
      {"link", "", "", [](Yard& y) { y.track("Gear").link = 2; }},
      {"one more track without clips", "", "", [](Yard& y) { y.make.track("More", 2, "Machines"); }},
      {"one more return that nothing is sent to", "", "",
       [](Yard& y) { y.make.track("More", 2).kind = TrackKind::Return; }},
  };
  return kCases;
}

const std::vector<Case>& spans() {
  static const std::vector<Case> kCases{
      // Regions and markers are cue points of the files that they lie in: of the whole session's, too.
      {"length", "A W", "", [](Yard& y) { y.region("rA").length += 10; }},
      {"start", "A W", "", [](Yard& y) { y.region("rA").start += 10; }},
      {"tail of its own", "A", "", [](Yard& y) { y.region("rA").ends.tailSeconds = 0.01; }},
      {"lead-in of its own", "B", "", [](Yard& y) { y.region("rB").ends.leadInSeconds = 0.01; }},
      {"fade of its own", "A", "", [](Yard& y) { y.region("rA").ends.fadeInMs = 3; }},
      {"exact length of its own", "C", "", [](Yard& y) { y.region("rC").ends.exactSeconds = 0.2; }},
      {"silence of its own", "C", "", [](Yard& y) { y.region("rC").ends.silenceSeconds = 0.1; }},
      {"loop of its own", "A", "", [](Yard& y) { y.region("rA").loop.way = LoopWay::Fold; }},
      {"name", "W", "A", [](Yard& y) { y.region("rA").name = "Anchor"; }},
      {"name in another folder", "W", "A", [](Yard& y) { y.region("rA").name = "Winch/A"; }},
      {"colour", "", "", [](Yard& y) { y.region("rA").ink = 4; }},
      {"notes", "", "", [](Yard& y) { y.region("rA").notes = "n"; }},
      {"facts", "A", "", [](Yard& y) { y.region("rA").facts["k"] = "v"; }},
      {"tags", "A", "", [](Yard& y) { y.region("rA").tags = {"t"}; }},
      {"lock", "", "", [](Yard& y) { y.region("rA").lock = true; }},
      {"fixed length", "", "", [](Yard& y) { y.region("rA").fixed = true; }},
      {"order in the file", "", "", [](Yard& y) { std::swap(y.session.regions[0], y.session.regions[2]); }},
      {"one more marker", "A W", "",
       [](Yard& y) {
         y.session.markerSets.push_back({"s", "S", {{"m1", "M", 300}}, {}});
       }},
      {"title", "all", "", [](Yard& y) { y.session.title = "Other"; }},
      {"author", "all", "", [](Yard& y) { y.session.author = "Other"; }},
      {"notes of the session", "", "", [](Yard& y) { y.session.notes = "n"; }},
      {"abbreviations", "", "", [](Yard& y) { y.session.abbreviations["machines"] = "mch"; }},
      {"facts of a path", "", "", [](Yard& y) { y.session.pathFacts["A"]["k"] = "v"; }},
      {"one more medium", "", "", [](Yard& y) { y.make.medium("c", test::noise(2, 500, 9)); }},
      {"tempo", "all", "",
       [](Yard& y) {
         y.session.tempo = {{0, 100, 4, 4, {}}};
       }},
      {"start timecode", "all", "", [](Yard& y) { y.session.startPicture = 90000; }},
      {"content of a medium", "Chain A/mix B/mix W/Machines", "",
       [](Yard& y) { test::writeSound(y.dir.filePath("media/b.wav"), test::noise(1, 30000, 77)); }},
      {"a medium under another name", "", "",
       [](Yard& y) {
         QFile::rename(y.dir.filePath("media/b.wav"), y.dir.filePath("media/other.wav"));
         y.session.media[1].file = "media/other.wav";
       }},
  };
  return kCases;
}

const std::vector<Case>& briefs() {
  static constexpr const char* kAll = "A B C";
  static const std::vector<Case> kCases{
      {"encoding", kAll, "", [](Yard& y) { y.brief().files.encoding = Encoding::Pcm16; }},
      {"rate", kAll, "", [](Yard& y) { y.brief().files.rate = 44100; }},
      {"tail", kAll, "",
       [](Yard& y) {
         y.brief().ends.tail = Tail::Fixed;
         y.brief().ends.tailSeconds = 0.1;
       }},
      {"lead-in", kAll, "", [](Yard& y) { y.brief().ends.leadInSeconds = 0.1; }},
      {"fade", kAll, "", [](Yard& y) { y.brief().ends.fadeOutMs = 7; }},
      {"trim", kAll, "", [](Yard& y) { y.brief().ends.trimDb = -60; }},
      {"reach", "A/Gear B/Gear C/Gear A/Chain B/Chain Low High", "",
       [](Yard& y) { y.brief().heard.reach.stage = ReachStage::Track; }},
      {"not keyed", "A/Low A/High", "", [](Yard& y) { y.brief().heard.keyed = false; }},
      {"returns out", "A/Low C/Low", "", [](Yard& y) { y.brief().heard.withReturns = Returns::Out; }},
      {"faders at unity, which they are", "", "",
       [](Yard& y) { y.brief().heard.overrides.faders = Faders::Unity; }},
      {"faders at a level", "A B C", "",
       [](Yard& y) {
         y.brief().heard.overrides.faders = Faders::Value;
         y.brief().heard.overrides.faderDb = -6;
       }},
      {"exception of one track", "A/Gear B/Gear C/Gear A/mix B/mix C/mix", "",
       [](Yard& y) {
         TrackException own;
         own.track = "Gear";
         own.overrides.faders = Faders::Value;
         own.overrides.faderDb = -6;
         y.brief().heard.exceptions = {own};
       }},
      {"template", "", kAll, [](Yard& y) { y.brief().names.format = "x_{region}_{source}"; }},
      {"letter case", "", kAll, [](Yard& y) { y.brief().names.letterCase = LetterCase::Upper; }},
      {"separator that no name has", "", "", [](Yard& y) { y.brief().names.separator = "-"; }},
      {"name", "", "", [](Yard& y) { y.brief().name = "Other"; }},
      {"notes", "", "", [](Yard& y) { y.brief().notes = "n"; }},
      {"what is there", "", "", [](Yard& y) { y.brief().delivery.existing = Existing::Keep; }},
      {"order of briefs", "", "", [](Yard& y) { std::swap(y.session.briefs[0], y.session.briefs[1]); }},
      {"one source fewer", "", "",
       [](Yard& y) {
         y.brief().what.tracks = Selection(false, {"Gear", "Chain", "Low"});
       }},
      {"one region fewer", "", "",
       [](Yard& y) {
         y.brief().where.regions = Selection(false, {"rA", "rB"});
       }},
      {"run-up that nothing needs", "", "", [](Yard& y) { y.brief().heard.runUp.seconds = 1; }},
      {"edges of another brief", "W", "", [](Yard& y) { y.session.briefs[1].ends.fadeOutMs = 7; }},
  };
  return kCases;
}

}  // namespace

class StaleTest : public QObject {
  Q_OBJECT
 private:
  QTemporaryDir delivered_;

 private slots:
  /// Delivered once; each change begins with a copy of that.
  void initTestCase() {
    Yard yard;
    QVERIFY(yard.render().back()["failed"].toInt() == 0);
    QVERIFY(yard.status()["up_to_date"].toBool());
    QCOMPARE(QProcess::execute("cp", {"-a", yard.dir.path() + "/.", delivered_.path()}), 0);
  }

  void oneChange_data() {
    QTest::addColumn<Case>("change");
    const std::pair<const char*, const std::vector<Case>*> kTables[]{
        {"clip", &clips()}, {"strip", &strips()}, {"span", &spans()}, {"brief", &briefs()}};
    for (const auto& [of, cases] : kTables)
      for (const Case& one : *cases) QTest::addRow("%s: %s", of, one.name) << one;
  }
  void oneChange() {
    QFETCH(Case, change);
    Yard yard;
    QCOMPARE(QProcess::execute("cp", {"-a", delivered_.path() + "/.", yard.dir.path()}), 0);
    change.change(yard);
    QStringList wrong;
    for (const auto& [place, state] : yard.states()) {
      const QString wanted = isMeant(place, change.stale)     ? "stale"
                             : isMeant(place, change.renamed) ? "renamed"
                                                              : "up-to-date";
      if (state != wanted) wrong << place + " is " + state + ", not " + wanted;
    }
    QVERIFY2(wrong.isEmpty(), qPrintable(wrong.join("; ")));
  }
};

QTEST_GUILESS_MAIN(StaleTest)
#include "tst_stale.moc"
