// What is delivered and what it is called, end to end: selections, names, the command line.
#include <QtTest>
#include <set>

#include "base/letters.h"
#include "base/safe_folder.h"
#include "base/unicode.h"
#include "naming/file_name.h"
#include "naming/template.h"
#include "plan/name_cures.h"
#include "plan/planner.h"
#include "plan/row_names.h"
#include "plan/sentence.h"
#include "session/session_json.h"
#include "session/set_field.h"
#include "support.h"

using namespace octaphon;

namespace {

/// Groups inside groups, regions of several paths, colours, tags, a clip set, two sets of markers.
///
///   Machines (g1, tag loud)      Gear t1 (ink 2), Chain t2 (tag wet)
///     Inner (g2, ink 5)          Motor t3
///   Weather (g3, tag rain)       Rain t4 (tag wet)
///   Loose t5 (no clip)
struct Harbour {
  test::SessionMaker make{""};
  MediaFacts facts;

  Harbour() {
    Session& session = make.session;
    session.title = "Harbour";
    session.media.push_back({"m", "media/Long Rope.wav"});
    make.group("g1").name = "Machines";
    const auto track = [&](const char* id, const char* name, const char* group, Frame start, Frame length) {
      make.track(id, 2, group).name = name;
      if (length > 0) make.clip(id, "m", start, length);
    };
    track("t1", "Gear", "g1", 0, 100'000);
    track("t2", "Chain", "g1", 0, 400'000);
    make.group("g2", "g1").name = "Inner";
    track("t3", "Motor", "g2", 48'000, 300'000);
    make.group("g3").name = "Weather";
    track("t4", "Rain", "g3", 0, 500'000);
    track("t5", "Loose", "", 0, 0);
    find("g1").tags = {"loud"};
    find("g2").ink = 5;
    find("g3").tags = {"rain"};
    find("t1").ink = 2;
    find("t2").tags = find("t4").tags = {"wet"};
    make.region("r1", "Machines/Start 01", 0, 48'000);
    make.region("r2", "Machines/Start 02", 48'000, 48'000);
    make.region("r3", "Weather/Storm", 96'000, 96'000);
    make.region("r4", "Weather/Calm", 192'000, 48'000);
    session.regions[1].tags = {"draft"};
    session.regions[2].ink = 5;
    session.regions[3].tags = {"rain", "draft"};
    session.clipSets = {{"s1", "Hit", {find("t1").clips[0].id}}};
    session.markerSets = {
        {"m1", "Movements", {{"k1", "One", 0}, {"k2", "Two", 48'000}, {"k3", "Three", 96'000}}, {}},
        {"m2", "Cues", {{"k4", "Cue", 240'000}}, {}}};
    MediumFact fact;
    fact.state = MediumFact::State::Ready;
    fact.info = {48000, 2, 10'000'000, false, false};
    fact.frames = 10'000'000;
    fact.content = Digest{1, 1};
    fact.file = "media/Long Rope.wav";
    facts.set("m", fact);
    Brief& brief = make.brief("B");
    brief.heard.counts = Counts::EverythingHeard;
    brief.where.regions = {};
    brief.what.mix = false;
  }
  Track& find(const char* id) { return *findTrack(make.session, id); }
  Brief& brief() { return make.session.briefs[0]; }
  void set(const QString& setting) {
    const auto done = setField(make.session, setting.toStdString());
    QVERIFY2(done.has_value(), done ? "" : done.error().describe().c_str());
  }
  Sheet plan() const {
    PlanRequest request;
    for (std::size_t i = 0; i < make.session.briefs.size(); ++i) request.briefs.push_back(i);
    return planSheet(make.session, facts, request);
  }
  /// `region:r1/mix`, without brief and format.
  static QStringList pairs(const Sheet& sheet) {
    QStringList keys;
    for (const Row& row : sheet.rows) keys << QString::fromStdString(sheet.keyOf(row)).section('/', 1, 2);
    return keys;
  }
  QStringList files() const {
    QStringList names;
    for (const Row& row : plan().rows) names << QString::fromStdString(row.file);
    return names;
  }
};

bool hasCode(const std::vector<Remark>& remarks, RemarkCode code) {
  return std::any_of(remarks.begin(), remarks.end(), [&](const Remark& r) { return r.code == code; });
}

QString picks(const QString& key, const QString& list) { return key + "=[" + list + "]"; }
QString pick(const QString& by, const QString& value, bool out = false) {
  const bool isNumber = by == "colour" || by == "level";
  return QString(R"({"by":"%1",%2%3})")
      .arg(by, isNumber ? "\"number\":" + value : "\"value\":\"" + value + "\"", out ? ",\"out\":true" : "");
}

/// Lines of a file of the Unicode character database that are data, comments gone.
QStringList unicodeLines(const QString& name) {
  const QString file = "/usr/share/unicode/" + name;
  const bool isPacked = name.endsWith(".bz2");
  const QByteArray all = isPacked ? test::run("bzcat", {file}).out : test::bytesOf(file);
  if (all.isEmpty()) QTest::qFail(qPrintable(file + " is missing: package unicode-data"), __FILE__, __LINE__);
  QStringList lines;
  for (const QString& line : QString::fromUtf8(all).split('\n')) {
    const QString data = line.section('#', 0, 0).trimmed();
    if (!data.isEmpty() && !data.startsWith('@')) lines << data;
  }
  return lines;
}

std::string fromCodes(const QString& codes) {
  QString text;
  for (const QString& code : codes.split(' ', Qt::SkipEmptyParts)) {
    const char32_t c = code.toUInt(nullptr, 16);
    text += QString::fromUcs4(&c, 1);
  }
  return text.toStdString();
}

}  // namespace

class NamesTest : public QObject {
  Q_OBJECT
 private slots:
  // --- selections

  void whatIsChosen_data() {
    QTest::addColumn<QStringList>("settings");
    QTest::addColumn<QString>("rows");
    QTest::addColumn<QString>("said");
    const auto row = [](const char* name, const QStringList& settings, const QString& rows,
                        const QString& said) { QTest::newRow(name) << settings << rows << said; };
    const QString mix = "mix=true";
    row("all regions", {mix, "regions=all"}, "region:r1/mix region:r2/mix region:r3/mix region:r4/mix",
        "the mix over all 4 regions");
    row("by hand", {mix, R"(regions=["r2","r3"])"}, "region:r2/mix region:r3/mix", "over 2 regions");
    row("under a path", {mix, picks("regions", pick("under", "Machines"))}, "region:r1/mix region:r2/mix",
        "over 2 regions (under Machines)");
    row("under is no prefix", {mix, picks("regions", pick("under", "Mach"))}, "",
        "over 0 regions (under Mach)");
    row("by pattern", {mix, picks("regions", pick("named", "st*0?"))}, "region:r1/mix region:r2/mix",
        "over 2 regions (named st*0?)");
    row("by pattern of the path", {mix, picks("regions", pick("named", "weather/*"))},
        "region:r3/mix region:r4/mix", "(named weather/*)");
    row("by colour", {mix, picks("regions", pick("colour", "5"))}, "region:r3/mix",
        "over 1 region (in colour 5)");
    row("by tag", {mix, picks("regions", pick("tag", "draft"))}, "region:r2/mix region:r4/mix",
        "over 2 regions (tagged draft)");
    row("in and out", {mix, picks("regions", R"({"by":"all"},)" + pick("tag", "draft", true))},
        "region:r1/mix region:r3/mix", "over 2 regions (all, but not those tagged draft)");
    row("out and in again",
        {mix, picks("regions", R"({"by":"all"},)" + pick("tag", "draft", true) + "," + pick("tag", "rain"))},
        "region:r1/mix region:r3/mix region:r4/mix",
        "over 3 regions (all, but not those tagged draft, and again those tagged rain)");
    row("a rule and one by hand",
        {mix, picks("regions", pick("under", "Machines") + R"(,"r3",{"by":"id","value":"r1","out":true})")},
        "region:r2/mix region:r3/mix", "(under Machines and Weather/Storm, but not Machines/Start 01)");
    row("the whole session", {mix, "whole_session=true"}, "session/mix", "the mix over the whole session");
    row("a stretch of time", {mix, R"(range={"start":48000,"length":96000})"}, "range/mix",
        "over the time from 0:01.000 to 0:03.000");
    row("between markers", {mix, "between_markers=all"}, "markers:k1/mix markers:k2/mix",
        "over the spans between markers");
    row("between markers of a set", {mix, picks("between_markers", pick("named", "cues"))}, "",
        "between markers of named cues");
    row("each clip", {"tracks=all", picks("each_clip", pick("under", "g1"))},
        "clip:c2/track:t2 clip:c1/track:t1 clip:c3/track:t3", "each track over each clip under Machines");
    row("each clip on a track, and what is above it",
        {"groups=all", mix, picks("each_clip", pick("under", "t3"))},
        "clip:c3/group:g1 clip:c3/group:g2 clip:c3/mix", "over each clip under Motor");
    row("its own extents", {"tracks=all", "source_extents=true", mix},
        "extent:mix/mix extent:track:t4/track:t4 extent:track:t2/track:t2 extent:track:t1/track:t1 "
        "extent:track:t3/track:t3",
        "each track and the mix over each source's own extent");
    row("clip sets", {mix, "clip_sets=all"}, "set:s1/mix", "over the one clip set");
    row("several kinds", {mix, R"(regions=["r1"])", "whole_session=true", "clip_sets=all"},
        "session/mix set:s1/mix region:r1/mix",
        "over Machines/Start 01, the one clip set and the whole session");

    const QString one = R"(regions=["r2"])";
    row("each track", {"tracks=all", one},
        "region:r2/track:t1 region:r2/track:t2 region:r2/track:t3 region:r2/track:t4", "each track over");
    row("tracks in a group", {picks("tracks", pick("under", "g1")), one},
        "region:r2/track:t1 region:r2/track:t2 region:r2/track:t3", "each track under Machines over");
    row("tracks but those of a group", {picks("tracks", R"({"by":"all"},)" + pick("under", "g2", true)), one},
        "region:r2/track:t1 region:r2/track:t2 region:r2/track:t4",
        "each track, but not those under Inner over");
    row("tracks by pattern", {picks("tracks", pick("named", "*ai*")), one},
        "region:r2/track:t2 region:r2/track:t4", "each track named *ai* over");
    row("tracks by the colour that is seen", {picks("tracks", pick("colour", "5")), one},
        "region:r2/track:t3", "each track in colour 5 over");
    row("tracks by tag", {picks("tracks", pick("tag", "wet")), one}, "region:r2/track:t2 region:r2/track:t4",
        "each track tagged wet over");
    row("groups at a level", {picks("groups", pick("level", "1")), one},
        "region:r2/group:g1 region:r2/group:g3", "each group on level 1 over");
    row("inner groups", {picks("groups", pick("level", "2")), one}, "region:r2/group:g2",
        "each group on level 2 over");
    row("mix, sub-mixes and tracks", {"tracks=all", "groups=all", mix, one},
        "region:r2/group:g1 region:r2/track:t1 region:r2/track:t2 region:r2/group:g2 region:r2/track:t3 "
        "region:r2/group:g3 region:r2/track:t4 region:r2/mix",
        "each track, each group and the mix over");
    row("the sum of some",
        {"sums=[{\"id\":\"x\",\"name\":\"Wet\",\"tracks\":[" + pick("tag", "wet") + "]}]", one},
        "region:r2/sum:x", "Wet (the sum of tracks tagged wet) over");
    row("the mix without some",
        {"sums=[{\"id\":\"x\",\"name\":\"Dry\",\"without\":true,\"tracks\":[" + pick("under", "g3") + "]}]",
         one},
        "region:r2/without:x", "Dry (the mix without tracks under Weather) over");
    row("the group of its path", {"matching_groups=path", "regions=all"},
        "region:r1/group:g1 region:r2/group:g1 region:r3/group:g3 region:r4/group:g3",
        "of each region the group of its path over");
    row("the groups of its colour", {"matching_groups=colour", "regions=all"}, "region:r3/group:g2",
        "of each region the groups of its colour");
    row("the groups of its tags", {"matching_groups=tag", "regions=all"}, "region:r4/group:g3",
        "of each region the groups with its tags");
    row("what regions list", {"own_sources=true", "regions=all"},
        "region:r1/track:t2 region:r1/mix region:r3/group:g3", "what regions list themselves");
    row("a list and one everywhere", {"own_sources=true", R"(tracks=["t4"])", "regions=all"},
        "region:r1/track:t2 region:r1/track:t4 region:r1/mix region:r2/track:t4 region:r3/group:g3 "
        "region:r3/track:t4 region:r4/track:t4",
        "each track in Weather and what regions list themselves");
  }
  void whatIsChosen() {
    QFETCH(QStringList, settings);
    QFETCH(QString, rows);
    QFETCH(QString, said);
    Harbour harbour;
    harbour.make.session.regions[0].sources = {"t2", "main", "gone"};
    harbour.make.session.regions[2].sources = {"g3"};
    for (const QString& setting : settings) harbour.set(setting);
    const Sheet sheet = harbour.plan();
    QCOMPARE(Harbour::pairs(sheet).join(' '), rows);
    const QString sentence = QString::fromStdString(sentenceText(harbour.brief(), harbour.make.session));
    QVERIFY2(sentence.contains(said), qPrintable(sentence));
    // What the count says is what is there.
    const PlannedBrief& brief = sheet.briefs[0];
    QCOMPARE(brief.pairCount(), sheet.sounds.size() + brief.leftOutEmpty + brief.leftOutMuted -
                                    (settings.contains("source_extents=true") ? 1 : 0));
    // Files say the same.
    auto again = readSession(writeSession(harbour.make.session), "again");
    QVERIFY2(again.has_value(), again ? "" : again.error().describe().c_str());
    QVERIFY(again->briefs == harbour.make.session.briefs);
  }

  // In pairs: whatever two rules say of a thing, the last that fits it counts.
  void rulesInPairs() {
    struct Rule {
      QString json;
      QStringList fits;
    };
    const std::vector<Rule> rules{{R"({"by":"all"%1})", {"r1", "r2", "r3", "r4"}},
                                  {R"({"by":"under","value":"Weather"%1})", {"r3", "r4"}},
                                  {R"({"by":"named","value":"*start*"%1})", {"r1", "r2"}},
                                  {R"({"by":"colour","number":5%1})", {"r3"}},
                                  {R"({"by":"tag","value":"draft"%1})", {"r2", "r4"}},
                                  {R"({"by":"id","value":"r4"%1})", {"r4"}}};
    for (const Rule& first : rules)
      for (const Rule& second : rules)
        for (const bool out : {false, true}) {
          Harbour harbour;
          harbour.set("mix=true");
          const auto json = [](const Rule& rule, bool isOut) {
            return rule.json.arg(isOut ? ",\"out\":true" : "");
          };
          harbour.set(picks("regions", json(first, false) + "," + json(second, out)));
          QStringList expected;
          for (const QString id : {"r1", "r2", "r3", "r4"})
            if (second.fits.contains(id) ? !out : first.fits.contains(id))
              expected << "region:" + id + "/mix";
          QCOMPARE(Harbour::pairs(harbour.plan()), expected);
        }
  }

  void whatFitsJoinsAndWhatFindsNothingIsSaid() {
    Harbour harbour;
    harbour.set("mix=true");
    harbour.set(picks("regions", pick("under", "Crane")));
    Sheet sheet = harbour.plan();
    QVERIFY(sheet.rows.empty());
    QVERIFY(hasCode(sheet.briefs[0].remarks, RemarkCode::FindsNoSpan));
    harbour.make.region("new", "Crane/Down", 0, 48'000);
    sheet = harbour.plan();
    QCOMPARE(Harbour::pairs(sheet), QStringList{"region:new/mix"});
    QVERIFY(!hasCode(sheet.briefs[0].remarks, RemarkCode::FindsNoSpan));
    harbour.make.session.regions.back().name = "Winch/Down";  // renamed, it leaves
    QVERIFY(harbour.plan().rows.empty());
    harbour.set(picks("tracks", pick("tag", "nothing")));
    QVERIFY(hasCode(harbour.plan().briefs[0].remarks, RemarkCode::FindsNoSource));
    harbour.set("tracks=[]");
    harbour.set("own_sources=true");
    QVERIFY(hasCode(harbour.plan().briefs[0].remarks, RemarkCode::FindsNoSource));
    harbour.set(R"(regions=["gone"])");
    QVERIFY(hasCode(harbour.plan().briefs[0].remarks, RemarkCode::UnknownRegion));
  }

  // Sources that only regions outside the brief ask for are none of it; what was left out and is gone is not
  // missed.
  void onlyWhatIsChosenAsks() {
    Harbour harbour;
    harbour.make.session.regions[2].sources = {"g3", "t1"};
    harbour.make.session.regions[0].sources = {"t2"};
    harbour.set("own_sources=true");
    harbour.set(R"(regions=["r1"])");
    Sheet sheet = harbour.plan();
    QCOMPARE(Harbour::pairs(sheet), QStringList{"region:r1/track:t2"});
    QCOMPARE(sheet.briefs[0].sources.size(), std::size_t{1});
    harbour.set(R"(regions=[{"by":"all"},{"by":"id","value":"gone","out":true}])");
    sheet = harbour.plan();
    QVERIFY(!hasCode(sheet.briefs[0].remarks, RemarkCode::UnknownRegion));
    harbour.set(picks("regions", R"({"by":"all"},)" + pick("tag", "nothing", true)));
    sheet = harbour.plan();
    QVERIFY(sheet.briefs[0].remarks[0].text.find("stays out") != std::string::npos);
  }

  // In their order of time, clip sets by their clips; a region and a clip set of one id are two things.
  void takesAreCountedInTime() {
    Harbour harbour;
    Session& session = harbour.make.session;
    const auto clip = [&](const char* track) { return harbour.find(track).clips[0].id; };
    harbour.find("t3").clips[0].start = 200'000;
    session.clipSets = {{"r2", "Hit 02", {clip("t3")}}, {"s2", "Hit 01", {clip("t1")}}};
    harbour.set("clip_sets=all");
    harbour.set(R"(regions=["r1","r2"])");
    harbour.set("tracks=[]");
    harbour.set("mix=true");
    harbour.set("template={region.last} {take}");
    QCOMPARE(harbour.files(),
             QStringList({"Hit 01 1.wav", "Start 01 1.wav", "Start 02 2.wav", "Hit 02 2.wav"}));
    const auto values = fieldValues(harbour.plan(), 3, session, TrackTree(session));
    QCOMPARE(values[static_cast<std::size_t>(NameField::Take)], std::string("2"));
    QCOMPARE(values[static_cast<std::size_t>(NameField::Region)], std::string("Hit 02"));
  }

  void clipsAloneAreHeardAlone() {
    Harbour harbour;
    harbour.set("mix=true");
    harbour.set(R"(each_clip=["c3"])");
    const Sheet sheet = harbour.plan();
    const SessionContext context(harbour.make.session, harbour.facts, nullptr);
    const auto heard = context.finder.heardIn(sheet.briefs[0].spans[0], {});
    QCOMPARE(heard.size(), std::size_t{1});
    QCOMPARE(context.finder.clipOf(heard[0]).id, std::string("c3"));
    QCOMPARE(sheet.rows[0].frames(), Frame{300'000});
    QCOMPARE(sheet.briefs[0].spans[0].name, std::string("Long Rope"));
  }

  // --- numbers

  void numbersOverWhatIsDelivered() {
    Harbour harbour;
    Session& session = harbour.make.session;
    session.tracks.clear();
    for (int i = 1; i <= 9; ++i) {
      harbour.make.track("t" + std::to_string(i)).name = "Track " + std::to_string(i);
      if (i != 4) harbour.make.clip("t" + std::to_string(i), "m", 0, 500'000);
    }
    harbour.set(R"(tracks=["t1","t4","t7","t9"])");  // the fourth has no clip
    harbour.set(R"(regions=["r1","r2"])");
    harbour.set("template={source.number:2} {track.number} {n}");
    QCOMPARE(harbour.files(), QStringList({"01 1 1.wav", "02 7 2.wav", "03 9 3.wav", "01 1 4.wav",
                                           "02 7 5.wav", "03 9 6.wav"}));
    harbour.set("template={n.region} {n.source:3 from 10 step 10}");
    QCOMPARE(harbour.files().mid(0, 4), QStringList({"1 010.wav", "2 010.wav", "3 010.wav", "1 020.wav"}));
    harbour.set(R"(more_outputs=[{"encoding":"pcm16","folder":"small"}])");  // formats do not count
    harbour.set("template={n:from 0}");
    QCOMPARE(harbour.files().mid(0, 4), QStringList({"0.wav", "small/0.wav", "1.wav", "small/1.wav"}));
    harbour.set("template={region.base}<_{n.name:2 several}>_{source.number}");
    QCOMPARE(harbour.files()[0], QString("Machines_Start_01_1.wav"));
    QCOMPARE(harbour.files()[6], QString("Machines_Start_02_1.wav"));
  }

  void fieldsOfTheSession() {
    Harbour harbour;
    Session& session = harbour.make.session;
    session.author = "Some/one";
    session.tempo = {{0, 120, 4, 4, {}}, {48'000 * 2, 90, 3, 8, {}}};
    session.startPicture = 90'000;  // one hour at 25
    session.regions[1].facts = {{"place", "north quay"}};
    session.pathFacts["Machines"] = {{"mood", "busy"}};
    session.regions[1].skipLevels = 1;
    session.regions[3].tags = {"b", "a/c"};
    harbour.find("g2").skipInNames = true;
    harbour.set(R"(tracks=["t3"])");
    harbour.set(R"(regions=["r2","r4"])");
    const std::vector<std::pair<const char*, QStringList>> cases{
        {"{author}", {"Some_one", "Some_one"}},
        {"{region}", {"Start 02", "Weather_Calm"}},
        {"{region.path}|", {"_", "Weather_"}},
        {"{region.last}", {"Start 02", "Calm"}},
        {"{region.1}", {"Start 02", "Weather"}},
        {"{region.number:3}|", {"002_", "_"}},
        {"{region.tags:+}|", {"draft_", "b+a_c_"}},
        {"{region.fact:place}|{region.fact:mood}", {"north quay_busy", "_"}},
        {"{take} {take:several}", {"2 2", "1"}},
        {"{marker}", {"Two", "Three"}},
        {"{marker:cues}|", {"_", "_"}},
        {"{group}", {"Machines", "Machines"}},
        {"{groups:/}/{source}", {"Machines/Motor", "Machines/Motor"}},
        {"{groups.2}|", {"_", "_"}},
        {"{track.number}", {"3", "3"}},
        {"{tempo} {metre}", {"120 4-4", "90 3-8"}},
        {"{bars}", {"0.5", "1"}},
        {"{start} {start:seconds} {start:bars} {start:frames}",
         {"0-00-01.000 1 1.3 48000", "0-00-04.000 4 4.1 192000"}},
        {"{start:timecode}", {"01-00-01-00", "01-00-04-00"}},
        {"{length} {length:time} {length:milliseconds} {length:frames}",
         {"1 0-01.000 1000 48000", "1 0-01.000 1000 48000"}},
        {"{channels}{channel} {rate} {rate:kHz} {depth} {format}",
         {"stereo 48000 48 24 wav", "stereo 48000 48 24 wav"}},
    };
    for (const auto& [format, expected] : cases) {
      harbour.brief().names.format = format;
      QStringList names = harbour.files();
      for (QString& name : names) name.chop(4);
      QCOMPARE(names, expected);
    }
    harbour.set("separator=/");
    harbour.brief().names.format = "{region}_{source}";
    QCOMPARE(harbour.files(), QStringList({"Start 02_Motor.wav", "Weather/Calm_Motor.wav"}));
  }

  void aLengthThatIsNotKnownIsNoName() {
    Harbour harbour;
    harbour.set("mix=true");
    harbour.set(R"(regions=["r1"])");
    harbour.set("template={length}");
    QVERIFY(harbour.plan().rows[0].remarks.empty());
    harbour.set("tail=rings-out");
    QVERIFY(hasCode(harbour.plan().rows[0].remarks, RemarkCode::UnmeasuredName));
  }

  // The edition's date is that of its first run, and stays; another folder begins its own.
  void editionsStay() {
    QTemporaryDir folder;
    test::SessionMaker make(folder.path());
    make.medium("a", test::sine(1, 4800, 440, 0.5));
    make.track("t", 1);
    make.clip("t", "a", 0, 4800);
    make.region("r", "R", 0, 4800);
    make.brief("B").names.format = "{edition.date:yyyy-MM-dd}_v{edition.version:2}_{region}";
    const QString session = make.save();
    const QString today = QDate::currentDate().toString("yyyy-MM-dd");
    test::renderOf(session);
    QCOMPARE(test::filesBelow(folder.path() + "/out"), QStringList{today + "_v01_R.wav"});
    // As if it had been delivered long ago.
    const QString receipt = folder.path() + "/out/octaphon-receipt.jsonl";
    QByteArray text = test::bytesOf(receipt);
    QVERIFY(text.contains("\"kind\":\"edition\"") && text.count("\"kind\":\"edition\"") == 1);
    text.replace(today.toUtf8(), "2024-02-29").replace("\"version\":1", "\"version\":3");
    QFile file(receipt);
    QVERIFY(file.open(QIODevice::WriteOnly) && file.write(text) == text.size());
    file.close();
    const auto fileOf = [&](const QStringList& more) {
      return test::planOf(session, more)["rows"].toArray()[0].toObject()["file"].toString();
    };
    QCOMPARE(fileOf({}), QString("2024-02-29_v03_R.wav"));
    QCOMPARE(fileOf({"--out", folder.path() + "/elsewhere"}), today + "_v01_R.wav");
    test::renderOf(session);
    QCOMPARE(test::bytesOf(receipt).count("\"kind\":\"edition\""), 1);
  }

  // --- safe names

  // UAX #15, NormalizationTest.txt (package unicode-data): NFC of columns 1 to 3 is column 2, of 4 and 5
  // column 4. CaseFolding.txt: what folds to the same is the same name.
  void normalisationAndFoldingAreThoseOfUnicode() {
    int checked = 0;
    for (const QString& line : unicodeLines("NormalizationTest.txt.bz2")) {
      const QStringList columns = line.split(';');
      const auto column = [&](int i) { return fromCodes(columns[i - 1]); };
      for (const int i : {1, 2, 3}) QVERIFY2(composed(column(i)) == column(2), qPrintable(line));
      for (const int i : {4, 5}) QVERIFY2(composed(column(i)) == column(4), qPrintable(line));
      QVERIFY2(foldedName(column(1)) == foldedName(column(3)), qPrintable(line));
      ++checked;
    }
    QVERIFY2(checked > 15'000, qPrintable(QString::number(checked)));
    int folded = 0;
    for (const QString& line : unicodeLines("CaseFolding.txt")) {
      const QStringList columns = line.split(';');
      const QString status = columns[1].trimmed();
      if (status != "C" && status != "F") continue;
      QVERIFY2(foldedName(fromCodes(columns[0])) == foldedName(fromCodes(columns[2])), qPrintable(line));
      ++folded;
    }
    QVERIFY2(folded > 1'400, qPrintable(QString::number(folded)));
  }

  void collisions_data() {
    QTest::addColumn<QString>("first");
    QTest::addColumn<QString>("second");
    QTest::addColumn<bool>("collide");
    const auto row = [](const char* name, const QString& first, const QString& second, bool collide) {
      QTest::newRow(name) << first << second << collide;
    };
    row("case", "Storm", "sTORM", true);
    row("sharp s", "Straße", "STRASSE", true);
    row("composed and not", "\u00c4pfel", "A\u0308pfel", true);
    row("Angstrom sign", "\u212b", "\u00e5", true);
    row("a joiner", "a\u200db", "ab", true);
    row("a variation selector", "a\ufe0f", "a", true);
    row("forbidden characters", "a:b", "a?b", true);
    row("trailing dots", "a.", "a", true);
    row("reserved", "NUL", "nul_", true);
    row("accents differ", "re", "ré", false);
    row("kana differ", "か", "が", false);
    row("digits differ", "1", "01", false);
  }
  void collisions() {
    QFETCH(QString, first);
    QFETCH(QString, second);
    QFETCH(bool, collide);
    Harbour harbour;
    harbour.make.session.regions[0].name = first.toStdString();
    harbour.make.session.regions[1].name = second.toStdString();
    harbour.set("mix=true");
    harbour.set(R"(regions=["r1","r2"])");
    harbour.set("template={region}");
    const Sheet sheet = harbour.plan();
    for (const Row& row : sheet.rows) QCOMPARE(hasCode(row.remarks, RemarkCode::Collision), collide);
    // Two briefs, one below the other.
    harbour.set(R"(regions=["r1"])");
    Brief below = harbour.brief();
    below.id = "b2";
    below.where.regions = {false, {"r2"}};
    harbour.brief().names.format = "IN/{region}";
    below.delivery.folder += "/in";
    harbour.make.session.briefs.push_back(below);
    for (const Row& row : harbour.plan().rows) QCOMPARE(hasCode(row.remarks, RemarkCode::Collision), collide);
  }

  // A file that is there already, and another only to those who look at letter case.
  void whatIsOnTheDiskCollidesToo() {
    QTemporaryDir folder;
    const QString session = twoBriefs(folder.path());
    QVERIFY(QDir(folder.path()).mkpath("out/A\u0308"));
    for (const char* name : {"out/r_MIX.wav", "out/A\u0308/x.wav", "out/other.wav"}) {
      QFile file(folder.path() + "/" + name);
      QVERIFY(file.open(QIODevice::WriteOnly));
    }
    const auto codes = [&](const QStringList& more) {
      QStringList found;
      for (const auto row : test::planOf(session, QStringList{"--brief", "One"} + more)["rows"].toArray())
        for (const auto remark : row.toObject()["remarks"].toArray())
          found << remark.toObject()["code"].toString();
      return found;
    };
    QCOMPARE(codes({}), QStringList{"alike-on-disk"});
    QCOMPARE(codes({"--set", "template={region}x"}), QStringList());
    QCOMPARE(codes({"--set", "template=OTHER"}), QStringList{"alike-on-disk"});
    // Nothing of it is touched.
    test::renderOf(session, {"--brief", "One"});
    QCOMPARE(test::filesBelow(folder.path() + "/out").filter("ix.wav", Qt::CaseInsensitive).size(), 2);
  }

  // Offered, never taken by themselves; each of them helps.
  void curesHelp() {
    Harbour harbour;
    harbour.set("tracks=all");
    harbour.set("mix=true");
    harbour.set("regions=all");
    for (const char* format : {"x", "{region}", "{source}", "{region.base}_{source}", "{author}"}) {
      harbour.brief().names.format = format;
      const Sheet before = harbour.plan();
      const std::vector<NameCure> cures = nameCures(before, 0, format);
      QVERIFY2(!cures.empty(), format);
      bool helped = false;
      for (const NameCure& cure : cures) {
        harbour.brief().names.format = cure.format;
        const Sheet after = harbour.plan();
        const auto faults = [](const Sheet& sheet) {
          return std::count_if(sheet.rows.begin(), sheet.rows.end(),
                               [&](const Row& row) { return sheet.faultOf(row) != nullptr; });
        };
        QVERIFY2(faults(after) <= faults(before), cure.words.c_str());
        helped = helped || faults(after) == 0 || faults(after) < faults(before);
      }
      QVERIFY2(helped, format);
    }
    harbour.brief().names.format = "{region}_{source}";
    QVERIFY(nameCures(harbour.plan(), 0, "{region}_{source}").empty());
    QCOMPARE(nameCures(harbour.plan(), 0, "{regoin}")[0].format, std::string("{region}"));
    harbour.make.session.regions[0].name = std::string(300, 'x');
    const auto cures = nameCures(harbour.plan(), 0, "{region}_{source}");
    QCOMPARE(cures[0].format, std::string("{region|max 40}_{source}"));
    harbour.make.session.regions[0].name = "\u6771\u4eac";
    harbour.brief().names.format = "{region|ascii|upper}_{source}";
    const Sheet lost = harbour.plan();
    QVERIFY(hasCode(lost.rows[0].remarks, RemarkCode::LettersLost));
    QCOMPARE(nameCures(lost, 0, harbour.brief().names.format)[0].format,
             std::string("{region|upper}_{source}"));
  }

  // Whatever sessions and templates say: every file that is planned has a name that goes everywhere, below
  // its folder, and no other row's.
  void hostileNamesStaySafe() {
    const std::vector<std::string> nasty{"..",
                                         ".",
                                         "",
                                         "/",
                                         "//",
                                         "a/../../b",
                                         "CON",
                                         "nul.wav",
                                         "COM1",
                                         "aux ",
                                         " x ",
                                         "x.",
                                         "...",
                                         "\u202eevil",
                                         "a\u200db",
                                         "\u200b",
                                         "e\u0301",
                                         "\u00e9",
                                         "\u6771\u4eac",
                                         "\u0627\u0644\u0645\u064a\u0646\u0627\u0621",
                                         std::string(300, 'a'),
                                         "\u00fc\u00fc/" + std::string(252, 'b'),
                                         "tab\there",
                                         "new\nline",
                                         "\x7f",
                                         "a\\b",
                                         "C:\\x",
                                         "\U0001F3B5",
                                         "<b>",
                                         "{n}",
                                         "Straße",
                                         "STRASSE",
                                         "\u0130stanbul",
                                         "\ufb03"};
    std::string deep, wide;
    for (int i = 0; i < 40; ++i) deep += "f" + std::to_string(i) + "/";
    for (int i = 0; i < 85; ++i) wide += "\u20ac";  // 255 bytes
    std::vector<std::string> names = nasty;
    names.push_back(deep + "x");
    names.push_back(wide);
    names.push_back(wide + "\u0301");
    Harbour harbour;
    Session& session = harbour.make.session;
    session.regions.clear();
    for (std::size_t i = 0; i < names.size(); ++i)
      harbour.make.region("r" + std::to_string(i), names[i], static_cast<Frame>(i) * 100, 100);
    harbour.find("t4").name = "../\u202e:";
    harbour.set("tracks=[\"t4\"]");
    harbour.set("regions=all");
    int files = 0, faults = 0;
    for (const char* format :
         {"{region}", "{region:/}", "{region:/}/{source:/}", "{source}/{region|words 1}", "{region|ascii}",
          "{region|max 9}<{region.2}/>x", "{region:\"/../\"}x", "{region:/|snake}"})
      for (const char* separator : {"_", "/", "..", ""}) {
        harbour.brief().names.separator = separator;
        harbour.brief().names.format = format;
        if (!Template::parse(format)) continue;
        const Sheet sheet = harbour.plan();
        std::set<std::string> taken;
        for (const Row& row : sheet.rows) {
          if (sheet.faultOf(row) != nullptr) {
            ++faults;
            continue;
          }
          QVERIFY2(isPlainRelativePath(row.file), row.file.c_str());
          for (const QString& part : QString::fromStdString(row.file).split('/')) {
            QCOMPARE(allowedName(part.toStdString()), part.toStdString());
            QVERIFY(part.toUtf8().size() <= 255 && !part.isEmpty());
          }
          QVERIFY2(taken.insert(comparableName(row.file)).second, row.file.c_str());
          ++files;
        }
      }
    QVERIFY(files > 300 && faults > 100);
  }

  // --- the command line

  // docs/names.md: the examples of the page.
  void theExamplesOfThePageAreTrue() {
    const QString page = test::bytesOf(OCTAPHON_SOURCE "/docs/names.md");
    int examples = 0;
    const QString block = page.section("```names\n", 1).section("```", 0, 0);
    for (const QString& line : block.split('\n', Qt::SkipEmptyParts)) {
      const QString format = line.section("  \u2192 ", 0, 0).trimmed();
      const auto ran = test::cli({"names", OCTAPHON_SOURCE "/demo/Tidewheel.octaphon", "--brief",
                                  "Stems of the theme", "--json", "--template", format});
      QCOMPARE(ran.exit, 0);
      QString name;
      for (const QByteArray& row : ran.out.split('\n')) {
        const QJsonObject json = QJsonDocument::fromJson(row).object();
        if (json["key"].toString().contains("region:r20/track:harmonium/")) name = json["name"].toString();
      }
      QCOMPARE(name, line.section("  \u2192 ", 1).trimmed());
      ++examples;
    }
    QVERIFY(examples > 15);
  }

  void namesAreListed() {
    QTemporaryDir folder;
    const QString session = twoBriefs(folder.path());
    auto ran = test::cli({"names", session, "--template", "{region}-{n}"});
    QCOMPARE(ran.exit, 0);
    QCOMPARE(ran.out, QByteArray("R-1.wav\n"));
    ran = test::cli({"names", session, "--template", "x", "--brief", "Two", "--json"});
    QCOMPARE(ran.exit, 0);
    const QList<QByteArray> lines = ran.out.trimmed().split('\n');
    QCOMPARE(lines.size(), 2);
    const QJsonObject row = QJsonDocument::fromJson(lines[0]).object();
    QCOMPARE(row.keys(), QStringList({"key", "name", "remarks", "version"}));
    QCOMPARE(row["key"].toString(), QString("b2/region:r/track:t/wav/all"));
    QCOMPARE(row["name"].toString(), QString("x.wav"));
    QCOMPARE(row["remarks"].toArray()[0].toObject()["code"].toString(), QString("collision"));
    ran = test::cli({"names", session, "--template", "\u00e4{regin}"});
    QCOMPARE(ran.exit, 1);
    QVERIFY(ran.out.isEmpty());
    QVERIFY2(ran.err.contains("character 2") && ran.err.contains("{region}"), ran.err.constData());
    QCOMPARE(test::cli({"names", session, "--template", "x", "--brief", "Three"}).exit, 2);
    QCOMPARE(test::cli({"names", session}).exit, 2);
    QCOMPARE(test::cli({"names", folder.path() + "/none.octaphon", "--template", "x"}).exit, 3);
  }

  void fieldsAreSetForOneTime() {
    QTemporaryDir folder;
    const QString session = twoBriefs(folder.path());
    const QByteArray before = test::bytesOf(session);
    const auto filesWith = [&](const QStringList& settings) {
      QStringList more;
      for (const QString& setting : settings) more << "--set" << setting;
      QStringList files;
      for (const auto row : test::planOf(session, more)["rows"].toArray())
        files << row.toObject()["file"].toString();
      return files;
    };
    QCOMPARE(filesWith({"template=a_{source}"}), QStringList({"a_mix.wav", "a_t.wav", "a_mix.wav"}));
    QCOMPARE(filesWith({"Two:template=a_{source}", "Two:case=upper"}),
             QStringList({"R_mix.wav", "A_T.wav", "A_MIX.wav"}));
    QCOMPARE(filesWith({"mix=false", "One:tracks=all"}), QStringList({"R_t.wav", "R_t.wav"}));
    const auto frames = [&](const QString& setting) {
      return test::planOf(session, {"--brief", "One", "--set", setting})["rows"]
          .toArray()[0]
          .toObject()["frames"]
          .toInt();
    };
    QCOMPARE(frames("exact_seconds=0.5"), 24'000);
    QCOMPARE(frames("tail_seconds=1"), 4'800 + 48'000);
    QCOMPARE(test::planOf(session, {"--brief", "One", "--set", "loop.way=overlap"})["rows"]
                 .toArray()[0]
                 .toObject()["loop"]
                 .toObject()["way"]
                 .toString(),
             QString("overlap"));
    for (const char* wrong :
         {"templat=x", "loop.wya=fold", "Three:template=x", "encoding=pcm99", "exact_seconds=-1",
          "exact_seconds=x", "template", "=x", "regions=[{\"by\":\"tag\"}]", "tail=7"})
      for (const char* command : {"plan", "render"}) {
        QStringList arguments{command, session, "--set", wrong};
        if (arguments[0] == "render") arguments << "--text";
        const auto ran = test::cli(arguments);
        QVERIFY2(ran.exit == 2, wrong);
        QVERIFY(ran.out.isEmpty() && !ran.err.isEmpty());
      }
    QVERIFY(test::cli({"plan", session, "--set", "templat=x"}).err.contains("template"));
    test::renderOf(session, {"--brief", "One", "--set", "folder=other", "--set", "encoding=pcm16"});
    QCOMPARE(test::filesBelow(folder.path() + "/other"), QStringList{"R_mix.wav"});
    QCOMPARE(test::bytesOf(session), before);
    QVERIFY(!QFile::exists(folder.path() + "/out"));
  }

  // Every key of the description can be set to what it is.
  void everyKeyCanBeSet() {
    Harbour harbour;
    const QJsonObject json =
        QJsonDocument::fromJson(QByteArray::fromStdString(writeBrief(harbour.brief()))).object();
    int set = 0;
    for (const std::string& key : briefKeys()) {
      const QJsonValue value = json[QString::fromStdString(key)];
      if (value.isUndefined()) continue;
      Brief brief = harbour.brief();
      const QByteArray text = value.isString()
                                  ? value.toString().toUtf8()
                                  : QJsonDocument(QJsonArray{value}).toJson(QJsonDocument::Compact);
      const std::string given =
          value.isString() ? text.toStdString() : text.mid(1, text.size() - 2).toStdString();
      const auto done = setField(brief, key, given);
      QVERIFY2(done.has_value(), key.c_str());
      QVERIFY2(brief == harbour.brief(), key.c_str());
      ++set;
    }
    QVERIFY(set > 12 && briefKeys().size() > 60);
  }

  // 60 files = 3 formats × 4 sources × 5 regions, 35 = (4 tracks + 3 groups) × 5.
  void productsAreCounted() {
    QTemporaryDir folder;
    test::SessionMaker make(folder.path());
    make.medium("a", test::sine(1, 4800, 440, 0.5));
    for (const char* group : {"g1", "g2", "g3"}) make.group(group);
    for (int i = 1; i <= 4; ++i) {
      const std::string id = "t" + std::to_string(i);
      make.track(id, 1, "g" + std::to_string(1 + i % 3));
      make.clip(id, "a", 0, 4800);
    }
    for (int i = 0; i < 5; ++i) make.region("r" + std::to_string(i), "R " + std::to_string(i), i * 960, 960);
    make.session.briefs.clear();
    Brief& brief = make.brief("B");
    brief.what.mix = false;
    brief.what.tracks = Selection::everything();
    brief.heard.counts = Counts::EverythingHeard;
    const QString session = make.save();
    const QString outputs =
        R"(more_outputs=[{"encoding":"pcm16","folder":"a"},{"encoding":"float32","folder":"b"}])";
    QCOMPARE(test::planOf(session, {"--set", outputs})["rows"].toArray().size(), 60);
    QVERIFY(test::cli({"plan", session, "--set", outputs})
                .out.contains("60 files = 5 regions × 4 sources × 3 outputs"));
    QVERIFY(
        test::cli({"plan", session, "--set", "groups=all"}).out.contains("35 files = 5 regions × 7 sources"));
    QCOMPARE(test::renderOf(session, {"--set", "groups=all", "--set", "template={n:2}_{region}_{source}"})
                 .back()["written"]
                 .toInt(),
             35);
    QCOMPARE(test::filesBelow(folder.path() + "/out").size(), 35);
    QCOMPARE(test::filesBelow(folder.path() + "/out").front(), QString("01_R 0_g1.wav"));
  }

 private:
  static QString twoBriefs(const QString& folder) {
    test::SessionMaker make(folder);
    make.medium("a", test::sine(1, 4800, 440, 0.5));
    make.track("t", 1).name = "t";
    make.clip("t", "a", 0, 4800);
    make.region("r", "R", 0, 4800);
    make.brief("One");
    Brief& two = make.brief("Two");
    two.delivery.folder = "second";
    two.what.tracks = Selection::everything();
    return make.save();
  }
};

QTEST_GUILESS_MAIN(NamesTest)
#include "tst_names.moc"
