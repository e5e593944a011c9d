#include <QtTest>

#include "naming/template.h"
#include "plan/sentence.h"
#include "session/schema.h"
#include "session/session_file.h"
#include "session/session_json.h"
#include "support.h"

using namespace octaphon;

namespace {

const char* kHead = R"("format":"octaphon-session","version":"1.0","rate":48000)";

std::string with(const std::string& keys) {
  return std::string("{") + kHead + (keys.empty() ? "" : ",") + keys + "}";
}

}  // namespace

class SessionTest : public QObject {
  Q_OBJECT
 private slots:
  void writtenAndReadBackIsTheSame() {
    const auto demo = loadSession(OCTAPHON_SOURCE "/demo/Tidewheel.octaphon");
    QVERIFY2(demo.has_value(), demo ? "" : demo.error().describe().c_str());
    const std::string text = writeSession(*demo);
    auto again = readSession(text, "again");
    QVERIFY(again.has_value());
    again->file = demo->file;
    QVERIFY(*again == *demo);
    QCOMPARE(QByteArray::fromStdString(text), test::bytesOf(OCTAPHON_SOURCE "/demo/Tidewheel.octaphon"));
  }

  void whatPreparingAddsIsKept() {
    const std::string text = with(
        R"("media":[{"id":"m","file":"m.wav","frames":9,"rate":44100,"content":"0123456789abcdef0123456789abcdef"}],)"
        R"("tracks":[{"id":"t","name":"T","helper":true,"pinned":true,"lock":true,"link":3,"clips":[)"
        R"({"id":"c","medium":"m","channel":2,"start":0,"length":9,"colour":4,"lock":true,"notes":"n"}]}],)"
        R"("regions":[{"id":"r","name":"A/B/R","start":0,"length":1,"lock":true,"fixed":true,"facts":{"mood":"own"}}],)"
        R"("marker_sets":[{"id":"s","name":"S","markers":[{"id":"k","name":"K","at":1,"lock":true,"notes":"n"}]}],)"
        R"("clip_sets":[{"id":"x","name":"X","clips":["c","gone"],"start":1,"length":5,"mute":true,"finish":true,"lock":true,)"
        R"("channels":1,"tail_seconds":0.5,"colour":2,"notes":"n","facts":{"a":"b"}}],)"
        R"("path_facts":{"A":{"mood":"far","place":"quay"},"A/B":{"mood":"near"}},)"
        R"("briefs":[{"id":"b","name":"B","regions":[],"clip_sets":["x"]}])");
    const auto session = readSession(text, "s");
    QVERIFY2(session.has_value(), session ? "" : session.error().describe().c_str());
    const std::string written = writeSession(*session);
    QCOMPARE(writeSession(*readSession(written, "s")), written);
    QCOMPARE(QJsonDocument::fromJson(QByteArray::fromStdString(written))
                 .object()["clip_sets"]
                 .toArray()[0]
                 .toObject(),
             QJsonDocument::fromJson(QByteArray::fromStdString(text))
                 .object()["clip_sets"]
                 .toArray()[0]
                 .toObject());
    const Facts facts = session->factsOf(session->regions[0].name, session->regions[0].facts);
    QCOMPARE(facts, (Facts{{"mood", "own"}, {"place", "quay"}}));
    QCOMPARE(session->factsOf("A/B/Other", {}).at("mood"), std::string("near"));
    for (const char* bad :
         {R"("clip_sets":[{"id":"x","start":1}])", R"("clip_sets":[{"id":"x","channels":3}])",
          R"("path_facts":{"A":{"k":1}})", R"("media":[{"id":"m","file":"m","content":"zz"}])",
          R"("clip_sets":[{"id":"x"},{"id":"x"}])", R"("clip_sets":[{"id":"x","tail_seconds":-1}])"})
      QVERIFY2(!readSession(with(bad), "s"), bad);
  }

  void whatTheSignalAddsIsKept() {
    Session session;
    Track track;
    track.id = "t";
    track.invert = true;
    track.inserts = {{"i", "echo", "Far", false, {"mix", "own"}, {{"time", 90.5}}, "state", {}}};
    track.sends = {{"s", "room", -3, true, false, {}}};
    track.automation = {
        {"gain", false, {{5, -2, Segment::Curve, 0.5, {}}, {9, 0, Segment::Hold, 0, {}}}, {}}};
    Track room;
    room.id = "room";
    room.kind = TrackKind::Return;
    session.tracks = {track, room};
    session.main.inserts = {{"m", "limiter", {}, true, {}, {}, {}, {}}};
    Brief brief;
    brief.id = "b";
    brief.what.returns = {false, {"room"}};
    brief.what.sums = {{"x", "Some", {"t"}, true}};
    brief.heard.reach = {ReachStage::GroupInserts, "g"};
    brief.heard.withReturns = Returns::Files;
    brief.heard.overrides = {Faders::Value, -6,    Pans::Centred,        false,
                             false,         false, InsertChoice::Tagged, {"sound"}};
    brief.heard.overrideGroups = brief.heard.overrideReturns = brief.heard.overrideMain = true;
    brief.heard.exceptions = {
        {"t", {Faders::Unity, 0, Pans::AsMixed, true, true, true, InsertChoice::None, {}}}};
    brief.heard.keyed = false;
    brief.heard.runUp.fromStart = true;
    brief.heard.withoutMissing = true;
    session.briefs = {brief};
    const auto read = readSession(writeSession(session), "x");
    QVERIFY2(read.has_value(), read ? "" : read.error().describe().c_str());
    QCOMPARE(*read, session);
  }

  void unknownKeysAreKept() {
    const std::string text = with(
        R"("later":{"a":[1,2]},"media":[{"id":"m","file":"m.wav","x1":1}],)"
        R"("tracks":[{"id":"t","name":"T","x2":"two","clips":[{"id":"c","medium":"m","start":0,"length":9,"x3":null,"fade_in":{"length":2,"x4":4}}]}],)"
        R"("regions":[{"id":"r","name":"R","start":0,"length":1,"x5":5}],"tempo":[{"at":0,"bpm":90,"x6":6}],"main":{"x7":7},)"
        R"("marker_sets":[{"id":"s","name":"S","x8":8,"markers":[{"id":"k","name":"K","at":1,"x9":9}]}],"briefs":[{"id":"b","name":"B","x10":10}])");
    auto session = readSession(text, "s");
    QVERIFY2(session.has_value(), session ? "" : session.error().describe().c_str());
    session->regions[0].name = "renamed";
    const auto written = QString::fromStdString(writeSession(*session)).simplified().remove(' ');
    for (const char* key :
         {R"("later":{"a":[1,2]})", R"("x1":1)", R"("x2":"two")", R"("x3":null)", R"("x4":4)", R"("x5":5)",
          R"("x6":6)", R"("x7":7)", R"("x8":8)", R"("x9":9)", R"("x10":10)"})
      QVERIFY2(written.contains(key), key);
  }

  void badSessionsNameThePlace_data() {
    QTest::addColumn<QByteArray>("text");
    QTest::addColumn<QString>("place");
    const auto row = [](const char* name, const std::string& text, const char* place) {
      QTest::newRow(name) << QByteArray::fromStdString(text) << QString(place);
    };
    const std::string medium = R"("media":[{"id":"m","file":"m.wav"}],)";
    const auto clip = [&](const std::string& keys) {
      return with(medium + R"("tracks":[{"id":"t","name":"T","clips":[{"id":"c","medium":"m",)" + keys +
                  "}]}]");
    };
    row("empty", "", "s, line 1");
    row("not json", "hello", "s, line 1, column 1");
    row("cut off", with("").substr(0, 40), "s, line 1");
    row("second line", "{\n \"a\" 1}", "s, line 2");
    row("other json", "{}", "s");
    row("array", "[]", "s");
    row("no rate", R"({"format":"octaphon-session","version":"1.0"})", "s: rate");
    row("rate text", R"({"format":"octaphon-session","version":"1.0","rate":"48000"})", "s: rate");
    row("rate huge", R"({"format":"octaphon-session","version":"1.0","rate":1e9})", "s: rate");
    row("too new", R"({"format":"octaphon-session","version":"2.0","rate":48000})", "s: version");
    row("version", R"({"format":"octaphon-session","version":1,"rate":48000})", "s: version");
    row("key twice", with(R"("title":"a","title":"b")"), "s");
    row("deep", with("\"x\":" + std::string(100000, '[') + std::string(100000, ']')), "s");
    row("infinite", with(R"("main":{"gain_db":1e999})"), "s, line 1");
    row("not utf-8", with("\"title\":\"\xFF\xFE\""), "s, line 1");
    row("lone surrogate", with(R"("title":"\ud800")"), "s, line 1");
    row("zero character", with(R"("title":"a\u0000b")"), "s: title");
    row("tracks no list", with(R"("tracks":{})"), "s: tracks");
    row("track no object", with(R"("tracks":[1])"), "s: tracks[0]");
    row("id missing", with(R"("tracks":[{"name":"T"}])"), "s: tracks[0].id");
    row("id hostile", with(R"("tracks":[{"id":"../x"}])"), "s: tracks[0].id");
    row("id main", with(R"("tracks":[{"id":"main"}])"), "s: tracks[0].id");
    row("id twice", with(R"("tracks":[{"id":"t"},{"id":"t"}])"), "s: tracks[1].id");
    row("channels", with(R"("tracks":[{"id":"t","channels":3}])"), "s: tracks[0].channels");
    row("pan", with(R"("tracks":[{"id":"t","pan":1.5}])"), "s: tracks[0].pan");
    row("gain", with(R"("tracks":[{"id":"t","gain_db":4000}])"), "s: tracks[0].gain_db");
    row("group missing", with(R"("tracks":[{"id":"t","group":"g"}])"), "s: tracks[0].group");
    row("group is a track", with(R"("tracks":[{"id":"t","group":"u"},{"id":"u"}])"), "s: tracks[0].group");
    row("circle",
        with(R"("tracks":[{"id":"a","kind":"group","group":"b"},{"id":"b","kind":"group","group":"a"}])"),
        "s: tracks[0].group");
    row("clips in a group",
        with(
            medium +
            R"("tracks":[{"id":"g","kind":"group","clips":[{"id":"c","medium":"m","start":0,"length":1}]}])"),
        "s: tracks[0].clips");
    row("medium missing",
        with(R"("tracks":[{"id":"t","clips":[{"id":"c","medium":"m","start":0,"length":1}]}])"),
        "s: tracks[0].clips[0].medium");
    row("start missing", clip(R"("length":1)"), "s: tracks[0].clips[0].start");
    row("start negative", clip(R"("start":-1,"length":1)"), "s: tracks[0].clips[0].start");
    row("start half", clip(R"("start":0.5,"length":1)"), "s: tracks[0].clips[0].start");
    row("start huge", clip(R"("start":9007199254740992,"length":1)"), "s: tracks[0].clips[0].start");
    row("end huge", clip(R"("start":9007199254740991,"length":1)"), "s: tracks[0].clips[0].length");
    row("fade too long", clip(R"("start":0,"length":5,"fade_in":{"length":6})"),
        "s: tracks[0].clips[0].fade_in.length");
    row("fade shape", clip(R"("start":0,"length":5,"fade_in":{"shape":"odd"})"),
        "s: tracks[0].clips[0].fade_in.shape");
    row("absolute medium", with(R"("media":[{"id":"m","file":"/etc/passwd"}])"), "s: media[0].file");
    row("tempo order", with(R"("tempo":[{"at":0},{"at":0}])"), "s: tempo[1].at");
    row("tempo zero", with(R"("tempo":[{"at":0,"bpm":0}])"), "s: tempo[0].bpm");
    row("timecode", with(R"("start_timecode":"25:00:00:00")"), "s: start_timecode");
    row("encoding", with(R"("briefs":[{"id":"b","encoding":"mp9"}])"), "s: briefs[0].encoding");
    row("selection", with(R"("briefs":[{"id":"b","regions":"some"}])"), "s: briefs[0].regions");
    row("tail", with(R"("briefs":[{"id":"b","tail_seconds":-1}])"), "s: briefs[0].tail_seconds");
  }
  void badSessionsNameThePlace() {
    QFETCH(QByteArray, text);
    QFETCH(QString, place);
    const auto session = readSession(text.toStdString(), "s");
    QVERIFY(!session);
    const QString told = QString::fromStdString(session.error().place);
    QVERIFY2(told.startsWith(place), qPrintable(told + " instead of " + place));
    QVERIFY(!session.error().describe().empty());
  }

  void anyTruncationIsAnError() {
    const std::string text = writeSession(*loadSession(OCTAPHON_SOURCE "/demo/Tidewheel.octaphon"));
    for (std::size_t i = 0; i + 3 < text.size(); i += 97) QVERIFY(!readSession(text.substr(0, i), "s"));
  }

  void deepGroupsAndZeroClipsAreRead() {
    std::string tracks = R"("tracks":[{"id":"g0","kind":"group"})";
    for (int i = 1; i < 1000; ++i)
      tracks += QString(R"(,{"id":"g%1","kind":"group","group":"g%2"})").arg(i).arg(i - 1).toStdString();
    QVERIFY(readSession(with(tracks + "]"), "s").has_value());
    QVERIFY(
        readSession(
            with(
                R"("media":[{"id":"m","file":"m"}],"tracks":[{"id":"t","clips":[{"id":"c","medium":"m","start":0,"length":0}]}])"),
            "s")
            .has_value());
  }

  void onlyFilesAreRead() {
    QTemporaryDir dir;
    QCOMPARE(loadSession(dir.filePath("no.octaphon").toStdString()).error().code, ErrorCode::NotFound);
    QCOMPARE(loadSession(dir.path().toStdString()).error().code, ErrorCode::NotRegularFile);
    const QString pipe = dir.filePath("pipe.octaphon");
    QCOMPARE(test::run("mkfifo", {pipe}).exit, 0);
    QCOMPARE(loadSession(pipe.toStdString()).error().code, ErrorCode::NotRegularFile);
  }

  // What the documents show is read as it stands there, and the README's sentence is what the program says.
  void documentsAreTrue() {
    const QString page = test::bytesOf(OCTAPHON_SOURCE "/docs/session-format.md");
    int examples = 0;
    for (qsizetype at = page.indexOf("```json"); at >= 0; at = page.indexOf("```json", at + 7)) {
      const QString block = page.mid(at + 7, page.indexOf("```", at + 7) - at - 7);
      const auto session = readSession(block.toStdString(), "session-format.md");
      QVERIFY2(session.has_value(), session ? "" : session.error().describe().c_str());
      ++examples;
    }
    QCOMPARE(examples, 2);
    const auto demo = loadSession(OCTAPHON_SOURCE "/demo/Tidewheel.octaphon");
    const QString readme =
        QString(test::bytesOf(OCTAPHON_SOURCE "/README.md")).remove('`').remove('*').simplified();
    QVERIFY(readme.contains(QString::fromStdString(sentenceText(demo->briefs[0], *demo))));
    const QString names = test::bytesOf(OCTAPHON_SOURCE "/docs/names.md");
    for (const NameFieldInfo& field : kNameFields)
      QVERIFY2(names.contains(QString("`{%1%2}`").arg(field.name.data(), field.hasLevel ? "1" : "")),
               field.name.data());
    const QString commands = test::bytesOf(OCTAPHON_SOURCE "/docs/command-line.md");
    for (const char* command : {"info", "plan", "render", "cache"}) {
      const QString help = test::cli({command, "--help"}).out;
      for (const auto& option :
           {"--json", "--brief", "--out", "--jobs", "--replace-foreign", "--no-sync", "--clear"})
        if (help.contains(option)) QVERIFY2(commands.contains(option), option);
    }
  }

  // What the program says of its fields stands in the documents; `cmake --build … --target documents` writes
  // both.
  void theDocumentsComeFromTheDescription() {
    QCOMPARE(test::bytesOf(OCTAPHON_SOURCE "/docs/brief.schema.json"),
             QByteArray::fromStdString(briefFileSchema()));
    QCOMPARE(test::bytesOf(OCTAPHON_SOURCE "/docs/session.schema.json"),
             QByteArray::fromStdString(sessionSchema()));
    const std::string page = test::bytesOf(OCTAPHON_SOURCE "/docs/session-format.md").toStdString();
    QVERIFY(withFieldTables(page) == page);
    for (const std::string_view rate : kPictureRates) QVERIFY(parsePictureRate(rate).has_value());
  }

  // The schema that ships is proved by another implementation: jsonschema for Python.
  void theSchemaFits() {
    QTemporaryDir dir;
    Session full = *loadSession(OCTAPHON_SOURCE "/demo/Tidewheel.octaphon");
    full.tracks[1].clips[0].mute = true;
    full.tracks[1].clips[0].name = "named";
    full.regions[0].finish = true;
    full.regions[0].notes = "noted";
    full.briefs[0].where.regions = Selection::everything();
    full.main.gainDb = -1;
    QVERIFY(saveSession(full, dir.filePath("full.octaphon").toStdString()).has_value());
    QFile wrong(dir.filePath("wrong.octaphon"));
    QVERIFY(wrong.open(QIODevice::WriteOnly));
    wrong.write(QByteArray::fromStdString(with(R"("tracks":[{"id":"t","channels":3}])")));
    wrong.close();
    const QString check = OCTAPHON_SOURCE "/tests/check_schema.py";
    const QString schema = OCTAPHON_SOURCE "/docs/session.schema.json";
    const auto good = test::run("/usr/bin/python3", {check, schema, dir.filePath("full.octaphon"),
                                                     OCTAPHON_SOURCE "/demo/Tidewheel.octaphon"});
    QVERIFY2(good.exit == 0, good.err.constData());
    QCOMPARE(test::run("/usr/bin/python3", {check, schema, dir.filePath("wrong.octaphon")}).exit, 1);
  }

  // What it would take in memory is counted while it is read: a hostile file is refused, not swallowed.
  void hostileJsonCostsLittle_data() {
    QTest::addColumn<QByteArray>("piece");
    for (const char* piece : {"[],", "{},", "{\"a\":0},", "\"\",", "1,"})
      QTest::newRow(piece) << QByteArray(piece);
  }
  void hostileJsonCostsLittle() {
    QFETCH(QByteArray, piece);
    const QByteArray text = "{\"x\":[" + piece.repeated(75'000'000 / piece.size()) + "0]}";
    const auto read = readSession(text.toStdString(), "x.octaphon");
    QVERIFY(!read);
    QVERIFY2(read.error().describe().find("more than a session can") != std::string::npos,
             read.error().describe().c_str());
#if !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__)  // these take memory of their own
    QFile status("/proc/self/status");
    QVERIFY(status.open(QIODevice::ReadOnly));
    const auto peak = QRegularExpression("VmHWM:\\s+(\\d+)").match(status.readAll()).captured(1).toLongLong();
    QVERIFY2(peak < 1'200'000, qPrintable(QString::number(peak)));  // kB
#endif
  }
};

QTEST_GUILESS_MAIN(SessionTest)
#include "tst_session.moc"
