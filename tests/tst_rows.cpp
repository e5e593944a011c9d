// What a brief decides about single files: several outputs of a sound, rows of their own, remarks that were
// accepted, briefs in files of their own.
#include <QtTest>

#include "brief/row_marks.h"
#include "edit/aimed_brief.h"
#include "plan/sentence.h"
#include "session/brief_file.h"
#include "session/presets.h"
#include "session/session_file.h"
#include "session/session_json.h"
#include "session/set_field.h"
#include "yard.h"

using namespace octaphon;
using test::Samples;
using test::Yard;

namespace {

using Rows = std::map<QString, QJsonObject>;

/// Rows of a plan by file.
Rows rowsOf(Yard& yard, const QStringList& more = {}) {
  Rows rows;
  for (const auto& value : test::planOf(yard.make.save(), more)["rows"].toArray())
    rows[value.toObject()["file"].toString()] = value.toObject();
  return rows;
}

/// What ffprobe says of a file: `pcm_s16le 44100 1`.
QString probed(const QString& file) {
  const test::Ran ran = test::run(
      "ffprobe",
      {"-v", "error", "-show_entries", "stream=codec_name,sample_rate,channels", "-of", "csv=p=0", file});
  return QString::fromUtf8(ran.out).trimmed().replace(',', ' ');
}

/// With its first brief alone.
struct YardOfOne : Yard {
  YardOfOne() { session.briefs.resize(1); }
};

QStringList codesOf(const QJsonObject& row, bool accepted) {
  QStringList codes;
  for (const auto& value : row["remarks"].toArray())
    if (value.toObject()["accepted"].isNull() != accepted) codes << value.toObject()["code"].toString();
  return codes;
}

}  // namespace

class RowsTest : public QObject {
  Q_OBJECT
 private slots:
  // --- outputs

  void eachOutputIsAFileOfItsOwn() {
    Yard yard;
    yard.session.briefs.resize(1);
    yard.render();
    const auto alone = test::contentsOf(yard.out());
    yard.brief().files.outputs = {
        {Encoding::Pcm24},
        {Encoding::Pcm16, 44100, OutputChannels::Mono, false, false, "_small", "Small"},
        {Encoding::Float32, 96000, OutputChannels::AsTapped, true},
        {Encoding::Float32, 0, OutputChannels::Stereo, false, false, "", "Wide"}};
    const Rows rows = rowsOf(yard);
    QCOMPARE(rows.at("A_mix.wav")["key"].toString(), QString("b1/region:rA/mix/wav/all"));
    QCOMPARE(rows.at("Small/A_mix_small.wav")["key"].toString(), QString("b1/region:rA/mix/pcm16/all"));
    QCOMPARE(rows.at("A_mix_L.wav")["key"].toString(), QString("b1/region:rA/mix/float32/L"));
    QCOMPARE(rows.at("A_mix_R.wav")["output"].toInt(), 2);
    QCOMPARE(rows.at("A_mix.wav")["state"].toString(), QString("up-to-date"));
    std::set<QString> keys;
    for (const auto& [file, row] : rows) keys.insert(row["key"].toString());
    QCOMPARE(keys.size(), rows.size());
    yard.render();
    // The first is what it was without the others, though they ask for more of the session around it.
    auto together = test::contentsOf(yard.out());
    for (const auto& [file, bytes] : alone) QCOMPARE(together[file], bytes);
    QCOMPARE(probed(yard.out("A_mix.wav")), QString("pcm_s24le 48000 2"));
    QCOMPARE(probed(yard.out("Small/A_mix_small.wav")), QString("pcm_s16le 44100 1"));
    QCOMPARE(probed(yard.out("A_mix_R.wav")), QString("pcm_f32le 96000 1"));
    QCOMPARE(probed(yard.out("Wide/A_Chain.wav")), QString("pcm_f32le 48000 2"));
    // Anew, alone: the same bytes whatever else comes out of the pass.
    QVERIFY(QDir(yard.out()).removeRecursively());
    yard.render();
    QVERIFY(test::contentsOf(yard.out()) == together);
    QVERIFY(yard.status()["up_to_date"].toBool());
  }

  void channelsAreThoseOfTheWhole() {
    YardOfOne yard;
    yard.brief().files.outputs = {{Encoding::Float32, 0, OutputChannels::AsTapped, false, false, "", "whole"},
                                  {Encoding::Float32, 0, OutputChannels::AsTapped, true, false, "", "split"},
                                  {Encoding::Float32, 0, OutputChannels::Mono, false, false, "", "mono"}};
    yard.render();
    const Samples whole = test::readSound(yard.out("whole/A_mix.wav"));
    const Samples left = test::readSound(yard.out("split/A_mix_L.wav"));
    const Samples right = test::readSound(yard.out("split/A_mix_R.wav"));
    const Samples mono = test::readSound(yard.out("mono/A_mix.wav"));
    QCOMPARE(whole.size(), 2u);
    QVERIFY(left == Samples{whole[0]} && right == Samples{whole[1]});
    // Half of each side (docs/session-format.md; ITU-R BS.775).
    double worst = 0;
    for (std::size_t i = 0; i < whole[0].size(); ++i)
      worst = std::max(worst, std::abs(mono[0][i] - (whole[0][i] + whole[1][i]) / 2));
    QVERIFY2(worst < 1e-7, qPrintable(QString::number(worst)));
    // What is one channel stays one file.
    QVERIFY(rowsOf(yard).contains("split/A_Chain_L.wav"));  // after its pan it has two
    yard.brief().heard.reach = {ReachStage::Inserts, {}};
    QVERIFY(rowsOf(yard).contains("split/A_Chain.wav"));
  }

  void channelInTheNameWhereTheTemplateSaysSo() {
    YardOfOne yard;
    yard.brief().files.outputs = {{Encoding::Pcm24, 0, OutputChannels::AsTapped, true, false, "-x"}};
    yard.brief().names.format = "<{channel}->{source}_{region}";
    const Rows rows = rowsOf(yard);
    QVERIFY(rows.contains("L-mix_A-x.wav") && rows.contains("R-mix_A-x.wav"));
    QCOMPARE(rows.at("L-mix_A-x.wav")["key"].toString(), QString("b1/region:rA/mix/wav/L"));
  }

  // Names that would be one are faults, and nothing leaves the folder.
  void outputsThatCollide_data() {
    QTest::addColumn<QString>("outputs");
    QTest::addColumn<QString>("file");
    QTest::newRow("no suffix") << R"([{"encoding":"pcm24"},{"encoding":"pcm16"}])"
                               << "A_mix.wav";
    QTest::newRow("suffix of folders") << R"([{"encoding":"pcm24","suffix":"/../x"}])"
                                       << "A_mix_.._x.wav";
    QTest::newRow("folder outside") << R"([{"encoding":"pcm24","folder":"../x"}])"
                                    << "../x/A_mix.wav";
  }
  void outputsThatCollide() {
    QFETCH(QString, outputs);
    QFETCH(QString, file);
    YardOfOne yard;
    QVERIFY(setField(yard.brief(), "outputs", outputs.toStdString()).has_value());
    const Rows rows = rowsOf(yard);
    QVERIFY2(rows.contains(file), qPrintable(QStringList(rows.begin()->first).join(' ')));
    const bool isFault = rows.at(file)["state"] == "fault";
    QCOMPARE(isFault, !outputs.contains("suffix"));
    QVERIFY(!QFile::exists(yard.dir.filePath("x")));
  }

  void outputsAreReadAsTheyMayBeWritten_data() {
    QTest::addColumn<QString>("key");
    QTest::addColumn<QString>("value");
    QTest::addColumn<int>("rows");
    QTest::newRow("names") << "outputs"
                           << R"([{"encoding":"pcm16","channels":"mono"}])" << 1;
    QTest::newRow("numbers") << "outputs"
                             << R"([{"encoding":"pcm16","channels":1}])" << 1;
    QTest::newRow("null") << "outputs"
                          << R"([{"encoding":"pcm16","channels":null,"rate":null}])" << 1;
    QTest::newRow("words") << "outputs"
                           << R"([{"encoding":"pcm16","channels":"as tapped"}])" << 1;
    QTest::newRow("none") << "outputs"
                          << "[]" << 1;
    QTest::newRow("of first versions")
        << "outputs"
        << R"([{"encoding":"pcm24"},{"encoding":"pcm16","folder":"small"}])" << 2;
    QTest::newRow("seven channels") << "outputs"
                                    << R"([{"encoding":"pcm16","channels":7}])" << -1;
    QTest::newRow("a rate that nobody has") << "outputs"
                                            << R"([{"encoding":"pcm16","rate":4711}])" << -1;
    QTest::newRow("a format that nobody has") << "outputs"
                                              << R"([{"encoding":"wax"}])" << -1;
  }
  void outputsAreReadAsTheyMayBeWritten() {
    QFETCH(QString, key);
    QFETCH(QString, value);
    QFETCH(int, rows);
    Brief brief;
    brief.id = "b";
    const auto set = setField(brief, key.toStdString(), value.toStdString());
    QCOMPARE(set.has_value(), rows > 0);
    if (rows > 0) QCOMPARE(brief.outputs().size(), static_cast<std::size_t>(rows));
  }

  void outputsOfFirstVersions() {
    YardOfOne yard;
    yard.brief().files.encoding = Encoding::Float32;
    QFile file(yard.make.save());
    QVERIFY(file.open(QIODevice::ReadOnly));
    QJsonObject session = QJsonDocument::fromJson(file.readAll()).object();
    QJsonArray briefs = session["briefs"].toArray();
    QJsonObject brief = briefs[0].toObject();
    brief["more_outputs"] = QJsonArray{QJsonObject{{"encoding", "pcm16"}, {"folder", "small"}}};
    session["briefs"] = QJsonArray{brief};
    const auto read = readSession(QJsonDocument(session).toJson().toStdString(), "old");
    QVERIFY(read.has_value());
    QVERIFY((read->briefs[0].files.outputs ==
             std::vector<Output>{{Encoding::Float32},
                                 {Encoding::Pcm16, 0, OutputChannels::AsTapped, false, false, "", "small"}}));
    QVERIFY(writeSession(*read).find("more_outputs") == std::string::npos);
  }

  // --- rows of their own

  void aRowHasWhatItsBriefHasNot_data() {
    QTest::addColumn<QString>("own");
    QTest::addColumn<QString>("key");
    QTest::addColumn<QJsonValue>("value");
    const auto row = [](const char* name, const char* own, const char* key, const QJsonValue& value) {
      QTest::newRow(name) << QString(own) << QString(key) << value;
    };
    row("name", R"("name":"By/Hand")", "file", "By/Hand.wav");
    row("name, told", R"("name":"By/Hand")", "name_of_its_own", "By/Hand");
    row("name that no system takes", R"("name":"a:b*c")", "file", "a_b_c.wav");
    row("name that leads away", R"("name":"../../x")", "file", "x.wav");
    row("name of nothing", R"("name":" /. ")", "file", "A_Gear.wav");
    row("channels", R"("channels":"mono")", "channels", 1);
    row("format", R"("encoding":"pcm16")", "encoding", "pcm16");
    row("rate", R"("rate":44100)", "rate", 44100);
    row("rate, its length", R"("rate":96000)", "frames", 8000);
    row("tail", R"("tail_seconds":1)", "frames", 4000 + 48000);
    row("exact length", R"("exact_seconds":0.5)", "frames", 24000);
    row("lead-in", R"("lead_in_seconds":0.25)", "lead_in", 12000);
    row("loop", R"("loop":{"way":"fold"})", "loop",
        QJsonObject{{"way", "fold"}, {"start", 0}, {"length", 4000}, {"beats", QJsonValue()}, {"laps", 1}});
  }
  void aRowHasWhatItsBriefHasNot() {
    QFETCH(QString, own);
    QFETCH(QString, key);
    QFETCH(QJsonValue, value);
    YardOfOne yard;
    const auto before = rowsOf(yard);
    const QString exceptions = "[{\"row\":\"region:rA/track:Gear/wav/all\"," + own + "}]";
    QVERIFY2(setField(yard.brief(), "row_exceptions", exceptions.toStdString()).has_value(), qPrintable(own));
    std::size_t others = 0;
    for (const auto& [file, row] : rowsOf(yard)) {
      if (row["key"] == "b1/region:rA/track:Gear/wav/all")
        QCOMPARE(row[key], value);
      else
        others += before.at(file) == row ? 1 : 0;
    }
    QCOMPARE(others, before.size() - 1);  // nothing else has changed
    yard.render();
    QVERIFY(yard.status()["up_to_date"].toBool());
  }

  // Ends of its own take a row out of step with its siblings, and change none of their files.
  void endsOfItsOwnLeaveItsSiblings() {
    YardOfOne yard;
    yard.brief().ends.tail = Tail::RingsOut;
    yard.brief().names.format = "{n}_{n.region}_{source}_{region}";
    yard.render();
    const auto before = test::contentsOf(yard.out());
    changeException(yard.brief(), "b1/region:rA/track:Gear/wav/all",
                    [](RowException& own) { own.ends.tail = Tail::None; });
    const auto results = Yard::results(yard.render());
    QCOMPARE(results.at("written"), QStringList{"A/Gear"});
    const auto after = test::contentsOf(yard.out());
    QCOMPARE(after.size(), before.size());  // numbers have not changed either
    std::size_t same = 0;
    for (const auto& [file, bytes] : before) same += after.at(file) == bytes ? 1 : 0;
    QCOMPARE(same, before.size() - 1);
    QCOMPARE(test::readSound(yard.out("01_1_Gear_A.wav"))[0].size(), 4000u);
    QVERIFY(yard.status()["up_to_date"].toBool());
  }

  void sumsSayWhatIsMissing() {
    YardOfOne yard;
    changeException(yard.brief(), "b1/region:rA/track:Gear/wav/all",
                    [](RowException& own) { own.ends.tailSeconds = 1; });
    QStringList verdicts;
    for (const QJsonObject& event : yard.render())
      if (event["event"] == "sum") verdicts << event["span"].toString() + " " + event["verdict"].toString();
    verdicts.sort();
    QVERIFY2(verdicts.contains("A not-judged"), qPrintable(verdicts.join(", ")));
    QVERIFY2(verdicts.contains("B adds-up"), qPrintable(verdicts.join(", ")));
  }

  void exceptionsAreChangedAndDropped() {
    Brief brief;
    brief.id = "b";
    changeException(brief, "b/x", [](RowException& own) { own.name = "n"; });
    changeException(brief, "other/x", [](RowException& own) { own.name = "n"; });
    QCOMPARE(brief.rowExceptions.size(), 1u);
    QCOMPARE(exceptionOfRow(brief, "b/x").name, std::string("n"));
    changeException(brief, "b/x", [](RowException& own) { own.name.clear(); });
    QVERIFY(brief.rowExceptions.empty());
    changeException(brief, "b/y", [](RowException& own) { own.rate = 44100; });
    dropExceptions(brief, {"b/y", "b/z"});
    QVERIFY(brief.rowExceptions.empty());
  }

  // --- on and off

  void briefsThatAreOff() {
    Yard yard;
    const auto all = rowsOf(yard).size();
    yard.session.briefs[1].isOn = false;
    QVERIFY(rowsOf(yard).size() < all);
    QVERIFY(rowsOf(yard, {"--brief", "Groups"}).size() > 0);  // where it is named
    yard.render();
    QVERIFY(!QFile::exists(yard.dir.filePath("groups")));
  }

  // --- accepted remarks

  void acceptedRemarksDoNotCount() {
    YardOfOne yard;
    const QString code = "beyond-medium";
    yard.make.clip("Gear", "a", 400, 400, 29900);
    Rows rows = rowsOf(yard);
    QVERIFY(codesOf(rows.at("A_Gear.wav"), false).contains(code));
    acceptRemarks(
        yard.brief(), code.toStdString(),
        {"b1/region:rA/track:Gear/wav/all", "b1/region:rA/mix/wav/all", "other/region:rA/mix/wav/all"},
        "rings on in silence");
    QCOMPARE(yard.brief().accepted[0].rows.size(), 2u);
    rows = rowsOf(yard);
    QVERIFY(!codesOf(rows.at("A_Gear.wav"), false).contains(code));
    QVERIFY(codesOf(rows.at("A_Gear.wav"), true).contains(code));
    for (const auto& value : rows.at("A_mix.wav")["remarks"].toArray())
      if (value.toObject()["code"] == code)
        QCOMPARE(value.toObject()["accepted"].toString(), QString("rings on in silence"));
    takeBackAccepted(yard.brief(), code.toStdString(), {"b1/region:rA/mix/wav/all"});
    rows = rowsOf(yard);
    QVERIFY(codesOf(rows.at("A_mix.wav"), false).contains(code));
    QVERIFY(codesOf(rows.at("A_Gear.wav"), true).contains(code));
  }

  void aFaultIsNotAccepted() {
    YardOfOne yard;
    yard.brief().names.format = "same";
    acceptRemarks(yard.brief(), "collision", {"b1/region:rA/mix/wav/all"}, "never mind");
    for (const auto& value : test::planOf(yard.make.save(), {})["rows"].toArray()) {
      QCOMPARE(value.toObject()["state"].toString(), QString("fault"));
      QVERIFY(codesOf(value.toObject(), true).isEmpty());
    }
  }

  void reasonsOfTheSameRowsGo() {
    Brief brief;
    brief.id = "b";
    acceptRemarks(brief, "clipped", {"b/1", "b/2"}, "loud");
    acceptRemarks(brief, "clipped", {"b/2", "b/3"}, "meant");
    acceptRemarks(brief, "clipped", {"b/4"}, "meant");
    QCOMPARE(brief.accepted.size(), 2u);
    QVERIFY(brief.accepted[0].rows == std::vector<std::string>{"1"});
    QVERIFY((brief.accepted[1].rows == std::vector<std::string>{"2", "3", "4"}));
    takeBackAccepted(brief, "clipped", {"b/1"});
    QCOMPARE(brief.accepted.size(), 1u);
  }

  // --- briefs as files

  // What fits is taken, by name, whatever its id; what does not is named, and aims at nothing else.
  void aBriefGoesToAnotherSession() {
    Yard from;
    Brief& brief = from.brief();
    brief.name = "Layers";
    brief.what.tracks = {"Gear", "Chain", "Low"};
    brief.what.sums = {{"s", "Both", {"Gear", "High"}, false}};
    brief.where.regions = {"rA", "rB"};
    brief.heard.reach = {ReachStage::Group, "Machines"};
    brief.heldBack = {"region:rA/mix/wav/all"};
    brief.isOn = false;
    const QString session = from.make.save(), file = from.dir.filePath("layers.octaphon-brief");
    QCOMPARE(test::cli({"briefs", session, "--brief", "Layers", "--export", file}).exit, 0);

    Yard to;
    to.session.briefs.resize(1);
    to.track("Gear").id = "t7";  // its clips and sends go with it
    to.track("Chain").name = "Rope";
    to.region("rA").id = "rX";
    std::swap(to.region("rX").name, to.region("rB").name);
    const QByteArray untouched = test::bytesOf(to.make.save());
    const test::Ran dry = test::cli({"briefs", to.make.save(), "--apply", file, "--dry-run", "--json"});
    QCOMPARE(dry.exit, 0);
    QCOMPARE(test::bytesOf(to.make.save()), untouched);
    const test::Ran ran = test::cli({"briefs", to.make.save(), "--apply", file, "--json"});
    QCOMPARE(ran.out, dry.out);
    const QJsonObject told = QJsonDocument::fromJson(ran.out).object();
    QCOMPARE(told["result"].toString(), QString("added"));
    QCOMPARE(told["missing"].toArray(), QJsonArray{"track 'Chain'"});
    const Session after = *loadSession(to.dir.filePath("test.octaphon").toStdString());
    const Brief& there = after.briefs.back();
    QVERIFY((there.what.tracks == Selection{"t7", "Low"}));
    QVERIFY((there.what.sums[0].tracks == Selection{"t7", "High"}));
    QVERIFY((there.where.regions == Selection{"rB", "rX"}));
    QVERIFY(there.heldBack.empty());
  }

  void applyingAgainReplacesAndKeepsTheRows() {
    Yard yard;
    Session& session = yard.session;
    setHeldBack(session.briefs[0], {"b1/region:rA/mix/wav/all"}, true);
    acceptRemarks(session.briefs[0], "clipped", {"b1/region:rA/mix/wav/all"}, "loud");
    const BriefFile file = briefFileOf(session, session.briefs);
    QVERIFY(file.briefs[0].heldBack.empty() && file.briefs[0].accepted.empty());
    const auto read = readBriefs(writeBriefs(file), "file");
    QVERIFY(read.has_value());
    session.briefs[0].names.format = "other";
    const AppliedBrief applied = applyBrief(session, read->briefs[0], read->names);
    QVERIFY(applied.isReplaced && applied.missing.empty());
    QCOMPARE(session.briefs.size(), 2u);
    QCOMPARE(session.briefs[0].heldBack.size(), 1u);
    QCOMPARE(session.briefs[0].accepted.size(), 1u);
    QVERIFY(session.briefs[0].names.format != "other");
  }

  void idsGoByName() {
    Yard from, to;
    from.brief().where.regions = {"rA", "rC"};
    from.brief().what.tracks = Selection::everything();
    from.brief().what.tracks.picks.push_back({true, PickBy::Under, "Machines"});
    from.brief().heard.exceptions = {{"Gear", {}}, {"main", {}}};
    const ThingNames names = namesIn(from.session, {from.brief()});
    for (Track& track : to.session.tracks) track.id += "-there";
    to.region("rA").name = "Z";
    std::swap(to.region("rB").name, to.region("rC").name);
    Brief brief = from.brief();
    const auto missing = aimAnew(brief, names, to.session);
    QCOMPARE(missing.size(), 1u);
    QCOMPARE(missing[0].words(), std::string("region 'A'"));
    QVERIFY(brief.where.regions == Selection{"rB"});  // which is called C there
    QCOMPARE(brief.what.tracks.picks[1].value, std::string("Machines-there"));
    QCOMPARE(brief.heard.exceptions[0].track, std::string("Gear-there"));
    QCOMPARE(brief.heard.exceptions[1].track, std::string("main"));
  }

  // --- presets

  // Whatever a phrase says goes over to a new brief whole, and nothing else does.
  void everyPhraseIsAPreset() {
    Yard yard;
    Brief brief = yard.brief();
    brief.ends.tail = Tail::RingsOut;
    brief.ends.fadeOutMs = 7;
    brief.ends.exactSeconds = 3;
    brief.ends.trimDb = -40;
    brief.ends.leadInSeconds = 1;
    brief.loop.way = LoopWay::Blend;
    brief.heard.counts = Counts::EverythingHeard;
    brief.heard.reach = {ReachStage::Track, {}};
    brief.heard.overrides.faders = Faders::Unity;
    brief.heard.keyed = false;
    brief.heard.runUp = {2, false};
    brief.files.rate = 44100;
    brief.files.outputs = {{Encoding::Pcm16}, {Encoding::Float32, 96000}};
    brief.names.format = "{source}";
    brief.names.letterCase = LetterCase::Snake;
    brief.delivery.folder = "there";
    brief.delivery.existing = Existing::Stop;
    brief.what.mix = false;
    brief.where.wholeSession = true;
    const auto textOf = [&](const Brief& of, PhraseKind kind) {
      for (const Phrase& phrase : sentenceOf(of, yard.session))
        if (phrase.kind == kind) return phrase.text;
      return std::string();
    };
    for (const PhraseInfo& info : kPhrases) {
      if (info.kind == PhraseKind::Plain || info.kind == PhraseKind::Rows) continue;
      Brief other = newBrief();
      other.id = "other";
      const auto read = readPreset(writePreset(presetOf(brief, info.kind, "kept")));
      QVERIFY(read.has_value());
      QVERIFY2(usePreset(other, *read).has_value(), info.name.data());
      if (info.kind != PhraseKind::RunUp) QCOMPARE(textOf(other, info.kind), textOf(brief, info.kind));
      QVERIFY2(other != newBrief(), info.name.data());
      for (const PhraseInfo& rest : kPhrases)
        if (rest.kind != info.kind && rest.kind != PhraseKind::RunUp && rest.kind != PhraseKind::Counts)
          QCOMPARE(textOf(other, rest.kind), textOf(newBrief(), rest.kind));
    }
    Brief other;
    QVERIFY(!usePreset(other, {"bad", "tail", R"({"tail":"for ever"})"}).has_value());
    QVERIFY(other == Brief());
  }

  // --- print this

  void aimedAtWhatIsPointedAt() {
    Yard yard;
    Session& session = yard.session;
    const Brief region = aimedBrief(session, {{"rB"}, {}, {}, {}, {}});
    QCOMPARE(region.name, std::string("B"));
    QVERIFY(region.where.regions == Selection{"rB"} && region.what.mix);
    const Brief three = aimedBrief(session, {{"rA", "rB", "rC"}, {}, {}, {}, {}});
    QCOMPARE(three.name, std::string("3 regions"));
    const Brief group = aimedBrief(session, {{}, {}, {}, {"Bells"}, {}});
    QVERIFY(!group.what.mix && group.what.groups == Selection{"Bells"} && group.where.extents);
    const Brief hall = aimedBrief(session, {{}, {}, {}, {"Hall"}, {}});
    QVERIFY(hall.what.returns == Selection{"Hall"});
    const std::string clip = session.tracks[1].clips[0].id;
    QVERIFY(aimedBrief(session, {{}, {}, {clip}, {}, {}}).where.clips == Selection{clip});
    const Brief range = aimedBrief(session, {{}, {}, {}, {}, TimeSpan{10, 20}});
    QCOMPARE(range.where.range.start, Frame{10});
    session.briefs.push_back(region);
    QCOMPARE(aimedBrief(session, {{"rB"}, {}, {}, {}, {}}).name, std::string("B 2"));
    // Each makes files.
    for (const Brief& brief : {three, group, hall, range}) {
      session.briefs = {brief};
      session.briefs[0].id = "b1";
      QVERIFY2(!rowsOf(yard).empty(), brief.name.c_str());
    }
  }
};

QTEST_APPLESS_MAIN(RowsTest)
#include "tst_rows.moc"
