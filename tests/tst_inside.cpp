// What files say of themselves, from the brief to the file and back: templates, places, row marks, other data
// without other sound, a lost receipt; sources together; the vocabulary.
#include <QDir>
#include <QFile>

#include "brief/row_marks.h"
#include "exchange/region_table.h"
#include "exchange/vocabulary_table.h"
#include "session/session_file.h"
#include "session/vocabulary.h"
#include "support.h"

using namespace octaphon;
using namespace octaphon::test;

namespace {

constexpr const char* kFormats[]{"pcm24", "flac24", "aiff24", "vorbis", "opus", "mp3"};

/// Two tracks over a region with everything that can be said of it, markers and smaller regions inside.
struct Quay {
  QTemporaryDir dir;
  SessionMaker make{dir.path()};
  Session& session = make.session;

  Quay() {
    session.title = "Tidewheel";
    session.author = "The harbour workshop";
    session.tempo = {{0, 108, 3, 4, {}}};
    make.medium("wide", noise(2, 60'000, 1));
    make.medium("thin", sine(1, 60'000, 440, 0.25));
    make.track("Wind", 2);
    make.track("Bell", 1);
    make.clip("Wind", "wide", 1000, 48'000);
    make.clip("Bell", "thin", 2000, 40'000);
    Region& region = make.region("r1", "Quay/Größe 01", 1000, 48'000);
    region.tags = {"wind", "ключ"};
    region.notes = "first\nsecond / third";
    region.facts = {{"category", "AMB"}, {"key", "Dm"}, {"isrc", "QZTID2600001"}, {"place", "Kai 3"}};
    make.region("r2", "Gust", 13'000, 4800).facts = {};
    session.markerSets = {
        {"s1", "Cues", {{"m1", "in", 900}, {"m2", "höchst", 25'000}, {"m3", "after", 49'000}}, {}}};
    Brief& brief = make.brief("All");
    brief.where.regions = {"r1"};
    brief.what.tracks = Selection::everything();
    for (const char* name : kFormats) {
      Output output{*parseChoice<Encoding>(name)};
      if (output.encoding == Encoding::Opus) output.rate = 48000;
      brief.files.outputs.push_back(output);
    }
    brief.files.outputs[4].suffix = "_o";
  }
  Brief& brief() { return session.briefs[0]; }
  QString out(const QString& file = {}) const { return dir.filePath(file.isEmpty() ? "out" : "out/" + file); }
  std::vector<QJsonObject> render(const QStringList& more = {}, int exit = 0) {
    return renderOf(make.save(), QStringList{"--out", out()} + more, exit);
  }
  QJsonArray rows(const QStringList& more = {}) {
    return planOf(make.save(), QStringList{"--out", out()} + more)["rows"].toArray();
  }
  std::map<QString, int> states() {
    std::map<QString, int> states;
    for (const auto& row : rows()) ++states[row.toObject()["state"].toString()];
    return states;
  }
};

QJsonObject inspected(const QString& file) {
  const Ran ran = cli({"inspect", file, "--json"});
  return QJsonDocument::fromJson(ran.out).object();
}

/// Decoded, as ffmpeg gives it.
QByteArray soundOf(const QString& file) {
  return run("ffmpeg", {"-v", "error", "-i", file, "-f", "s32le", "-"}).out;
}

QStringList codesOf(const QJsonObject& row) {
  QStringList codes;
  for (const auto& remark : row["remarks"].toArray()) codes << remark.toObject()["code"].toString();
  return codes;
}

}  // namespace

class TestInside : public QObject {
  Q_OBJECT

 private slots:
  /// The usual texts of a brief that says nothing, in every format.
  void usualData() {
    Quay quay;
    quay.render();
    for (const QString& file : filesBelow(quay.out())) {
      const QJsonObject facts = inspected(quay.out(file));
      const QJsonObject tags = facts["tags"].toObject();
      const bool isMix = file.contains("mix");
      const QString track = file.contains("Wind") ? "Wind" : "Bell";
      QCOMPARE(tags["title"].toString(), isMix ? QString("Quay Größe 01") : "Quay Größe 01 - " + track);
      QCOMPARE(tags["artist"].toString(), QString("The harbour workshop"));
      QCOMPARE(tags["album"].toString(), QString("Tidewheel"));
      QVERIFY(!tags.contains("comment"));  // notes are said where someone asks for them alone
      QCOMPARE(tags["keywords"].toString(), QString("wind, ключ"));
      QCOMPARE(tags["category"].toString(), QString("AMB"));
      QCOMPARE(tags["tempo"].toString(), QString("108"));
      QCOMPARE(tags["key"].toString(), QString("Dm"));
      QCOMPARE(tags["isrc"].toString(), QString("QZTID2600001"));
      QCOMPARE(facts["row_mark"].toString().size(), 16);
      // The marker inside and the region inside; its own span is all of the file, and said by nobody.
      const QJsonArray marks = facts["marks"].toArray();
      const double slack = file.endsWith(".mp3") ? 48 : 0;
      QCOMPARE(marks.size(), 2);
      QVERIFY(std::abs(marks[0].toObject()["at"].toDouble() - 12'000) <= slack);
      QCOMPARE(marks[0].toObject()["label"].toString(), QString("Gust"));
      if (!file.endsWith(".aif")) QVERIFY(std::abs(marks[0].toObject()["length"].toDouble() - 4800) <= slack);
      QVERIFY(std::abs(marks[1].toObject()["at"].toDouble() - 24'000) <= slack);
      QCOMPARE(marks[1].toObject()["label"].toString(), QString("höchst"));
      if (!file.endsWith(".aif")) QCOMPARE(facts["time_reference"].toInt(), 1000);
    }
  }

  /// Templates of one's own, free facts, nothing at all.
  void ownData() {
    Quay quay;
    quay.brief().files.outputs.resize(2);
    InsideData& data = quay.brief().data;
    data.title = "{region.last|upper} / {source}";
    data.credit = "© {edition.date:yyyy} {author}";
    data.comment = "{region.notes}";
    data.facts = {{"Receiver", "{brief} v{edition.version}"}, {"place", "elsewhere"}};
    quay.render();
    const QString year = QDate::currentDate().toString("yyyy");
    for (const char* file : {"Quay_Größe 01_Wind.wav", "Quay_Größe 01_Wind.flac"}) {
      const QJsonObject facts = inspected(quay.out(file));
      QCOMPARE(facts["tags"].toObject()["title"].toString(), QString("GRÖSSE 01 / Wind"));
      QCOMPARE(facts["tags"].toObject()["credit"].toString(), "© " + year + " The harbour workshop");
      QCOMPARE(facts["tags"].toObject()["comment"].toString(), QString("first\nsecond / third"));
      QCOMPARE(facts["tags"].toObject()["Receiver"].toString(), QString("All v1"));
      QCOMPARE(facts["tags"].toObject()["place"].toString(), QString("elsewhere"));
    }
    data = {};
    data.isPlain = true;
    data.marks = false;
    quay.render();
    const QJsonObject plain = inspected(quay.out("Quay_Größe 01_Wind.wav"));
    QVERIFY(plain["tags"].toObject().isEmpty() && plain["marks"].toArray().isEmpty());
    QCOMPARE(plain["time_reference"].toInt(), 1000);
    data.isPlain = false;
    data.title = "{region.lats}";
    const QJsonArray rows = quay.rows();
    QVERIFY(codesOf(rows[0].toObject()).contains("bad-data-template"));
    QCOMPARE(rows[0].toObject()["state"].toString(), QString("fault"));
  }

  /// Notes are for people, and for files: never for names.
  void notesAreInNoName() {
    Quay quay;
    quay.brief().names.format = "{region.notes}";
    QVERIFY(codesOf(quay.rows()[0].toObject()).contains("bad-template"));
  }

  /// Another text is written into the files: their sound stays to the bit, whatever the format.
  void otherTextSameSound() {
    Quay quay;
    quay.render();
    std::map<QString, QByteArray> sounds;
    for (const QString& file : filesBelow(quay.out())) sounds[file] = soundOf(quay.out(file));
    QCOMPARE(sounds.size(), std::size(kFormats) * 3);
    quay.session.author = std::string(3000, 'w');
    quay.session.markerSets[0].markers[1].at += 10;
    QCOMPARE(quay.states(), (std::map<QString, int>{{"stale", 18}}));
    const auto events = quay.render();
    for (const QJsonObject& event : events)
      if (event["event"] == "row") QCOMPARE(event["result"].toString(), QString("rewritten"));
    for (const auto& [file, sound] : sounds) {
      QVERIFY2(soundOf(quay.out(file)) == sound, qPrintable(file));
      QCOMPARE(inspected(quay.out(file))["tags"].toObject()["artist"].toString().size(), 3000);
    }
    QCOMPARE(quay.states(), (std::map<QString, int>{{"up-to-date", 18}}));
    QCOMPARE(quay.render().back()["written"].toInt(), 0);
  }

  /// Lossless files of one sound have the same samples, dither and all.
  void losslessFilesAreAlike() {
    Quay quay;
    findTrack(quay.session, "Wind")->gainDb = -3.3;
    quay.brief().files.outputs.resize(3);
    quay.render();
    const QByteArray wav = soundOf(quay.out("Quay_Größe 01_Wind.wav"));
    QVERIFY(wav.size() == 48'000 * 8);
    QVERIFY(soundOf(quay.out("Quay_Größe 01_Wind.flac")) == wav);
    QVERIFY(soundOf(quay.out("Quay_Größe 01_Wind.aif")) == wav);
  }

  /// A day later, with any number of workers: the same bytes, for dates are the edition's.
  void anotherDay() {
    Quay quay;
    quay.render({"--jobs", "1"});
    const auto first = contentsOf(quay.out());
    const QString session = quay.make.save();
    for (const char* jobs : {"2", "8"}) {
      const Ran ran = run("faketime", {"-f", "+3d", OCTAPHON_CLI_PATH, "render", session, "--out", quay.out(),
                                       "--all", "--jobs", jobs, "--json"});
      QCOMPARE(ran.exit, 0);
      QVERIFY(ran.out.contains("\"written\":18"));
      QVERIFY(contentsOf(quay.out()) == first);
    }
  }

  /// Loops: as `smpl` in WAV, in a block of FLAC, between markers of AIFF; as comments where that is asked
  /// for.
  void loops() {
    Quay quay;
    quay.brief().loop.way = LoopWay::Overlap;
    quay.brief().ends.leadInSeconds = 0.1;
    quay.brief().data.loopComments = true;
    quay.brief().what.mix = false;
    quay.brief().what.tracks = {"Wind"};
    quay.render();
    for (const QString& file : filesBelow(quay.out())) {
      const QJsonArray loops = inspected(quay.out(file))["loops"].toArray();
      QCOMPARE(loops.size(), 1);
      QCOMPARE(loops[0].toObject()["start"].toInt(), 4800);
      QCOMPARE(loops[0].toObject()["length"].toInt(), 48'000);
    }
    QCOMPARE(run("metaflac",
                 {"--show-tag=LOOPSTART", "--show-tag=LOOPLENGTH", quay.out("Quay_Größe 01_Wind.flac")})
                 .out,
             QByteArray("LOOPSTART=4800\nLOOPLENGTH=48000\n"));
    quay.brief().data.loopComments = false;
    for (const auto& row : quay.rows()) {
      const QString encoding = row.toObject()["encoding"].toString();
      const bool lacks =
          encoding == "vorbis" || encoding == "opus" || encoding == "mp3" || encoding == "aiff24";
      QCOMPARE(codesOf(row.toObject()).contains("not-carried"), lacks);
    }
    // A lap without a gap is refused where players leave one.
    quay.brief().loop.way = LoopWay::Fold;
    for (const auto& row : quay.rows())
      QCOMPARE(codesOf(row.toObject()).contains("not-seamless"), row.toObject()["encoding"] == "mp3");
  }

  /// What a session cannot be written as is refused before, with the way out.
  void refusedInPlan() {
    Quay quay;
    quay.session.rate = 44100;
    quay.brief().files.outputs[4].rate = 0;
    quay.brief().files.outputs.push_back({Encoding::Pcm32, 0, OutputChannels::AsTapped, false, false, "_32"});
    quay.brief().files.outputs.push_back({Encoding::Aiff16, 0, OutputChannels::Surround, false, false, "_s"});
    std::map<QString, QStringList> codes;
    for (const auto& row : quay.rows()) {
      const QJsonObject r = row.toObject();
      if (r["source"] == "Wind") codes[r["encoding"].toString()] = codesOf(r);
      if (r["encoding"] == "opus")
        QVERIFY(r["remarks"].toArray()[0].toObject()["text"].toString().contains("48 kHz"));
    }
    QVERIFY(codes["opus"].contains("rate-refused"));
    QVERIFY(codes["aiff16"].contains("channels-refused"));
    QVERIFY(codes["pcm32"].contains("whole-numbers"));
    for (const char* lossy : {"vorbis", "mp3", "opus"}) QVERIFY(codes[lossy].contains("lossy-layer"));
    for (const char* well : {"pcm24", "flac24"}) QVERIFY(codes[well].isEmpty());
  }

  /// What may pass 4 GB is RF64 from the plan on.
  void rf64IsPlanned() {
    Quay quay;
    quay.brief().files.outputs = {{Encoding::Pcm24},
                                  {Encoding::Pcm16, 0, OutputChannels::AsTapped, false, false, "_16"}};
    quay.session.regions[0].length = 720'000'000;
    for (const auto& row : quay.rows())
      if (row.toObject()["source"] == "Wind")
        QCOMPARE(row.toObject()["container"].toString(),
                 row.toObject()["encoding"] == "pcm24" ? QString("rf64") : QString("wav"));
  }

  /// The receipt is lost; the files say themselves which row they are of, under whatever name.
  void adopt() {
    Quay quay;
    quay.brief().ends.tail = Tail::RingsOut;  // a length that is only known by hearing
    quay.render();
    const auto files = contentsOf(quay.out());
    QVERIFY(QFile::remove(quay.out("octaphon-receipt.jsonl")));
    QVERIFY(QFile::rename(quay.out("Quay_Größe 01_Bell.flac"), quay.out("other name.flac")));
    QFile foreign(quay.out("foreign.wav"));
    QVERIFY(foreign.open(QIODevice::WriteOnly) && foreign.write("no sound") > 0);
    foreign.close();
    const auto before = quay.states();
    QCOMPARE(before.at("foreign"), 17);
    const auto events = quay.render({"--adopt"});
    int adopted = 0;
    for (const QJsonObject& event : events)
      if (event["event"] == "adopted") {
        ++adopted;
        QVERIFY2(event["as_planned"].toBool(), qPrintable(event["file"].toString()));
      }
    QCOMPARE(adopted, 18);
    QCOMPARE(events.back()["written"].toInt(), 0);
    QCOMPARE(events.back()["renamed"].toInt(), 1);
    QFile::remove(quay.out("foreign.wav"));
    QVERIFY(contentsOf(quay.out()) == files);
    QCOMPARE(quay.states(), (std::map<QString, int>{{"up-to-date", 18}}));
    // What is not as planned any more is stale, and made anew.
    QVERIFY(QFile::remove(quay.out("octaphon-receipt.jsonl")));
    findTrack(quay.session, "Bell")->gainDb = -3;
    const auto again = quay.render({"--adopt"});
    QCOMPARE(again.back()["written"].toInt(), 12);  // the bell and the mix
    QCOMPARE(again.back()["up_to_date"].toInt(), 6);
  }

  /// All sources of a span in one file: each on its channels, by its name.
  void together() {
    Quay quay;
    quay.brief().heard.reach.stage = ReachStage::Inserts;
    quay.brief().files.outputs = {{Encoding::Float32},
                                  {Encoding::Float32, 0, OutputChannels::AsTapped, false, true, "_poly"}};
    const auto events = quay.render();
    QCOMPARE(events.back()["written"].toInt(), 4);
    const Samples all = readSound(quay.out("Quay_Größe 01_all_poly.wav"));
    QCOMPARE(all.size(), std::size_t{5});  // stereo, mono, and the mix
    const Samples wind = readSound(quay.out("Quay_Größe 01_Wind.wav")),
                  bell = readSound(quay.out("Quay_Größe 01_Bell.wav")),
                  mix = readSound(quay.out("Quay_Größe 01_mix.wav"));
    QVERIFY(all[0] == wind[0] && all[1] == wind[1] && all[2] == bell[0] && all[3] == mix[0] &&
            all[4] == mix[1]);
    const QJsonObject facts = inspected(quay.out("Quay_Größe 01_all_poly.wav"));
    QStringList names;
    for (const auto& text : facts["texts"].toArray())
      if (text.toObject()["name"] == "TRACK_LIST/TRACK/NAME") names << text.toObject()["value"].toString();
    QCOMPARE(names, (QStringList{"Wind L", "Wind R", "Bell", "mix L", "mix R"}));
    QCOMPARE(quay.render().back()["written"].toInt(), 0);
    // Without files of each of them, the count says so.
    quay.brief().files.outputs.erase(quay.brief().files.outputs.begin());
    QCOMPARE(quay.rows().size(), 1);
    const Ran ran = cli({"plan", quay.make.save()});
    QVERIFY(ran.out.contains("1 file = 1 region, all sources in one file"));
  }

  /// Channels of a region's own: as its files have them, where their output says none.
  void channelsOfARegion() {
    Quay quay;
    quay.session.regions[0].channels = 1;
    quay.brief().files.outputs = {{Encoding::Pcm24},
                                  {Encoding::Pcm24, 0, OutputChannels::Stereo, false, false, "_st"}};
    for (const auto& row : quay.rows())
      QCOMPARE(row.toObject()["channels"].toInt(), row.toObject()["output"].toInt() == 0 ? 1 : 2);
  }

  /// What was said of rows stays with their files when these get another format.
  void anotherFormatKeepsRows() {
    Brief brief = newBrief();
    brief.heldBack = {"region:r1/mix/wav/all"};
    brief.rowExceptions = {{"region:r1/mix/pcm16/L", "own"}};
    brief.accepted = {{"clipped", "", {"region:r2/mix/wav/all", ""}}};
    brief.files.outputs = {{Encoding::Pcm24},
                           {Encoding::Pcm16, 0, OutputChannels::Stereo, true, false, "_s"}};
    auto outputs = brief.outputs();
    outputs[0].encoding = Encoding::Flac24;
    changeOutputs(brief, outputs, {0, 1});
    QCOMPARE(brief.heldBack, (std::vector<std::string>{"region:r1/mix/flac/all"}));
    QCOMPARE(brief.rowExceptions[0].row, std::string("region:r1/mix/wav/L"));  // the first WAV now
    QCOMPARE(brief.accepted[0].rows, (std::vector<std::string>{"region:r2/mix/flac/all", ""}));
    changeOutputs(brief, {brief.files.outputs[1]}, {1});
    QCOMPARE(brief.rowExceptions[0].row, std::string("region:r1/mix/wav/L"));
  }

  /// A vocabulary comes and goes as a table, and says what is outside it.
  void vocabulary() {
    const auto read = readVocabulary(
        "meaning;value;fact\nby the sea;quay;place\n;boat;place\n\"a; b\";;mood\n;quay;place\n", "v.csv");
    QVERIFY(read.has_value());
    QCOMPARE(read->size(), std::size_t{2});
    QCOMPARE((*read)[0].values, (std::vector<VocabularyValue>{{"quay", "by the sea"}, {"boat", ""}}));
    QCOMPARE((*read)[1].meaning, std::string("a; b"));
    QVERIFY(*readVocabulary(writeVocabulary(*read), "again") == *read);
    QVERIFY(!readVocabulary("", "empty") && !readVocabulary(std::string_view("a\0b", 3), "binary"));

    Quay quay;
    QFile file(quay.dir.filePath("v.csv"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(QByteArray::fromStdString(writeVocabulary(*read)));
    file.close();
    const QString session = quay.make.save();
    QCOMPARE(cli({"vocabulary", session, "--import", file.fileName()}).exit, 0);
    const Ran check = cli({"vocabulary", session, "--check"});
    QCOMPARE(check.exit, 1);
    QVERIFY(check.out.contains("place says 'Kai 3', which is none of quay and boat"));
    QVERIFY(codesOf(planOf(session)["rows"].toArray()[0].toObject()).contains("outside-vocabulary"));
    QCOMPARE(cli({"vocabulary", session, "--export", "-"}).out,
             QByteArray::fromStdString(writeVocabulary(*read)));
  }

  /// Facts of many regions, out to a table and in again.
  void factsAsATable() {
    Quay quay;
    Session& session = quay.session;
    const std::string table = writeRegionTable(session);
    QVERIFY(table.find("fact:category") != std::string::npos);
    Session before = session;
    QCOMPARE(readRegionTable(session, table, "same")->regionsChanged, std::size_t{0});
    QVERIFY(session == before);
    const auto outcome =
        readRegionTable(session, "id,fact:place,Fact:mood\nr1,boat,calm\nr2,,wild\n", "facts");
    QVERIFY(outcome && outcome->refused.empty());
    QCOMPARE(outcome->regionsChanged, std::size_t{2});
    QCOMPARE(session.regions[0].facts["place"], std::string("boat"));
    QCOMPARE(session.regions[0].facts["mood"], std::string("calm"));
    QCOMPARE(session.regions[0].start, before.regions[0].start);
    QCOMPARE(session.regions[1].facts, (Facts{{"mood", "wild"}}));
  }

  /// Files that are none of ours, or damaged: told of, each by its name.
  void inspectOthers() {
    QTemporaryDir dir;
    writeSound(dir.filePath("plain.wav"), noise(2, 1000, 1));
    QFile text(dir.filePath("text.wav"));
    QVERIFY(text.open(QIODevice::WriteOnly) &&
            text.write("RIFF\xff\xff\xff\xffWAVEbext\xff\xff\xff\x7f") > 0);
    text.close();
    const Ran ran = cli(
        {"inspect", dir.filePath("plain.wav"), dir.filePath("text.wav"), dir.filePath("none.wav"), "--json"});
    QCOMPARE(ran.exit, 1);
    const QList<QByteArray> lines = ran.out.trimmed().split('\n');
    QCOMPARE(lines.size(), 3);
    const QJsonObject first = QJsonDocument::fromJson(lines[0]).object();
    QCOMPARE(first["encoding"].toString(), QString("pcm24"));
    QCOMPARE(first["frames"].toInt(), 1000);
    QVERIFY(first["row_mark"].isNull() && first["tags"].toObject().isEmpty());
    QVERIFY(lines[1].contains("text.wav") && lines[2].contains("none.wav"));
  }
};

QTEST_GUILESS_MAIN(TestInside)
#include "tst_inside.moc"
