// What goes out with the files: notes, lists, checksums, a session of the results, and the way back.
#include <QtTest>

#include "session/session_file.h"
#include "support.h"
#include "wav_bytes.h"

using namespace octaphon;
using test::cli;
using test::Ran;
using test::SessionMaker;

namespace {

/// Longer than a line of a page.
const QString kLongWord = QString("flaschenzug").repeated(14);

/// Variations and layers with their mix, a loop that overlaps, and a brief in another form.
struct Quay {
  QTemporaryDir dir;
  SessionMaker make{dir.path()};

  Quay() {
    Session& session = make.session;
    session.title = "Quay";
    session.author = "The workshop";
    session.tempo = {{0, 120, 4, 4, {}}};
    make.group("machines");
    for (const char* id : {"gear", "chain"}) {
      make.medium(id, test::noise(2, 96000, id[0], 0.2));
      make.track(id, 2, "machines").ink = 3;
      make.clip(id, id, 0, 96000);
    }
    make.region("a", "Winch/Start 01", 2000, 9000).facts = {{"material", "iron"}};
    make.region("b", "Winch/Start 02", 12000, 9000);
    make.region("c", "Wasser & Flöße <neu>", 24000, 24000).ink = 5;
    make.region("d", "時計台", 50000, 9000);
    make.region("e", "ميناء", 62000, 9000);
    session.markerSets.push_back({"set", "Places", {}, {}});
    session.markerSets[0].markers.push_back({"m", "Bell", 30000});
    Brief& game = make.brief("Game");
    game.what.tracks = Selection::everything();
    game.names.format = "{region}_{source}";
    game.handOver.title = "Harbour sounds";
    game.handOver.client = "The exhibit \"Tides\"";
    game.handOver.notes = "First line\nسطر ثان\n" + kLongWord.toStdString();
    Brief& loops = make.brief("Loops");
    loops.where.regions = {"c"};
    loops.loop.way = LoopWay::Overlap;
    loops.ends.tail = Tail::Fixed;
    loops.ends.tailSeconds = 0.1;
    loops.ends.leadInSeconds = 0.05;
    loops.names.format = "loops/{region}";
    Brief& small = make.brief("Small");
    small.where.regions = {"a", "b"};
    small.files.encoding = Encoding::Flac16;
    small.names.format = "small/{region}";
    for (Brief& brief : session.briefs) {
      brief.heard.counts = Counts::EverythingHeard;
      brief.delivery.folder = "out";
    }
  }

  Brief& brief(std::size_t index) { return make.session.briefs[index]; }
  QString out(const QString& file = {}) const { return dir.filePath("out/" + file); }
  QString path(const QString& file) const { return dir.filePath(file); }
  QString rendered() {
    const QString session = make.save();
    test::renderOf(session);
    return session;
  }
  /// A list of `report`, as it prints it.
  QByteArray report(const QString& option, const QStringList& more = {}) const {
    const Ran ran = cli(QStringList{"report", out(), "--" + option, "-"} + more);
    if (ran.exit != 0) QTest::qFail(ran.err, __FILE__, __LINE__);
    return ran.out;
  }
  /// The same, written into a file.
  QString reported(const QString& option, const QString& file) const {
    const Ran ran = cli({"report", out(), "--" + option, file});
    if (ran.exit != 0) QTest::qFail(ran.err, __FILE__, __LINE__);
    return file;
  }
};

QJsonObject objectOf(const QByteArray& json) { return QJsonDocument::fromJson(json).object(); }

QJsonObject located(const QString& file, const QStringList& more = {}) {
  return objectOf(cli(QStringList{"locate", file, "--json"} + more).out);
}

void fitsSchema(const QString& schema, const QString& file) {
  const Ran ran =
      test::run("/usr/bin/python3", {OCTAPHON_SOURCE "/tests/check_schema.py",
                                     OCTAPHON_SOURCE "/docs/schemas/" + schema + ".schema.json", file});
  QVERIFY2(ran.exit == 0, ran.err.constData());
}

}  // namespace

class HandoverTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { qputenv("XDG_STATE_HOME", state_.path().toUtf8()); }

  /// Every figure is the one that plan, render and check give.
  void listsAgreeWithTheRest() {
    Quay quay;
    const QString session = quay.make.save();
    std::map<QString, QJsonObject> rows, planned;
    for (const QJsonObject& line : test::renderOf(session))
      if (line["event"] == "row") rows[line["file"].toString()] = line;
    for (const QJsonValue row : test::planOf(session)["rows"].toArray())
      planned[row["file"].toString()] = row.toObject();
    const QString file = quay.reported("json", quay.path("list.json"));
    fitsSchema("delivery", file);
    const QJsonObject list = objectOf(test::bytesOf(file));
    QCOMPARE(list["files"].toArray().size(), static_cast<qsizetype>(rows.size()));
    QCOMPARE(list["totals"]["findings"].toInt(-1), 0);
    QStringList order;
    for (const QJsonValue one : list["files"].toArray()) {
      const QString name = one["file"].toString();
      order << name;
      for (const char* key : {"frames", "lead_in", "body", "tail", "start", "rate"})
        QCOMPARE(one[key], rows[name][key]);
      for (const char* key : {"span", "source", "channels", "layout", "encoding", "start", "key"})
        QCOMPARE(one[key], planned[name][key]);
      QVERIFY(std::abs(one["peak_db"].toDouble() - rows[name]["peak_db"].toDouble()) < 0.011);
      const QJsonObject loop = one["loop"].toObject(), plannedLoop = planned[name]["loop"].toObject();
      for (const QString& key : plannedLoop.keys()) QCOMPARE(loop[key], plannedLoop[key]);
    }
    QStringList inPlan;
    for (const QJsonValue row : test::planOf(session)["rows"].toArray()) inPlan << row["file"].toString();
    QCOMPARE(order, inPlan);

    // The table holds the same.
    const QString table = quay.reported("csv", quay.path("list.csv"));
    const Ran same = test::run(
        "/usr/bin/python3", {"-c",
                             "import csv,json,sys\n"
                             "rows=list(csv.DictReader(open(sys.argv[1],newline='',encoding='utf-8')))\n"
                             "files=json.load(open(sys.argv[2],encoding='utf-8'))['files']\n"
                             "assert len(rows)==len(files)\n"
                             "for r,f in zip(rows,files):\n"
                             "  for k in ('file','span','sha256','layout','key'): assert r[k]==f[k],(k,r,f)\n"
                             "  for k in ('frames','bytes','lead_in'): assert int(r[k])==f[k],(k,r,f)\n"
                             "  assert (r['loop_way'] or None)==(f['loop'] or {}).get('way')\n",
                             table, file});
    QVERIFY2(same.exit == 0, same.err.constData());
  }

  /// GNU coreutils reads them.
  void checksumsAreTaken() {
    Quay quay;
    quay.rendered();
    QFile odd(quay.out("SHA256SUMS"));
    quay.reported("sums", odd.fileName());
    QProcess process;
    process.setWorkingDirectory(quay.out());
    process.start("sha256sum", {"-c", "--strict", "SHA256SUMS"});
    QVERIFY(process.waitForFinished());
    QCOMPARE(process.exitCode(), 0);
    QCOMPARE(process.readAllStandardOutput().count(": OK\n"), test::filesBelow(quay.out()).size());
    // What was reported into the folder is no stranger there, whatever it is called.
    quay.reported("json", quay.out("all of it.json"));
    QCOMPARE(cli({"check", quay.out()}).exit, 0);
  }

  /// HTML by `tidy` (HTACG), PDF by `pdftotext` and `pdftoppm` (poppler).
  void notesHoldEveryFile() {
    Quay quay;
    quay.rendered();
    const QString page = quay.reported("html", quay.path("note.html"));
    const Ran tidy = test::run("/usr/bin/tidy", {"-quiet", "-errors", page});
    QVERIFY2(tidy.exit == 0, tidy.err.constData());
    const QString html = QString::fromUtf8(test::bytesOf(page));
    for (const char* never : {"<script", "src=", "http:", "https:", "@import", "url("})
      QVERIFY2(!html.contains(never), never);
    const QString pdf = quay.reported("pdf", quay.path("note.pdf"));
    const QString paper = QString::fromUtf8(test::run("/usr/bin/pdftotext", {"-layout", pdf, "-"}).out);
    QStringList words{"Harbour sounds", "Game", "Small", "0:00.188", "24 bit"};
    for (const QString& file : test::filesBelow(quay.out()))
      if (!file.contains(QRegularExpression("[^\\x20-\\x7e]"))) words << file;
    for (const QString& word : words) {
      QVERIFY2(html.contains(word.toHtmlEscaped()), qPrintable(word));
      QVERIFY2(paper.contains(word), qPrintable(word));
    }
    QVERIFY(html.contains("時計台") && html.contains("ميناء") && html.contains("Flöße &lt;neu&gt;"));
    QVERIFY(paper.contains("時計台"));
    QVERIFY(QString(paper).remove(QRegularExpression("\\s")).contains(kLongWord));  // broken without a hyphen
    const Ran picture = test::run("/usr/bin/pdftoppm", {"-r", "40", "-png", pdf, quay.path("page")});
    QCOMPARE(picture.exit, 0);
    for (const auto& [size, points] :
         {std::pair{"a4", "595.276 x 841.89"}, std::pair{"letter", "612 x 792"}}) {
      QCOMPARE(cli({"report", quay.out(), "--pdf", pdf, "--paper", size}).exit, 0);
      QVERIFY(test::run("/usr/bin/pdfinfo", {pdf}).out.contains(points));
    }
    // The clock is in none of them.
    const Ran later = test::run(
        "faketime", {"-f", "+400d", OCTAPHON_CLI_PATH, "report", quay.out(), "--html",
                     quay.path("again.html"), "--pdf", quay.path("again.pdf"), "--paper", "letter"});
    QVERIFY2(later.exit == 0, later.err.constData());
    QCOMPARE(test::bytesOf(quay.path("again.html")), test::bytesOf(page));
    QCOMPARE(test::bytesOf(quay.path("again.pdf")), test::bytesOf(pdf));
  }

  /// It is loaded when it is asked for, and nothing else needs it.
  void withoutWhatDrawsPages() {
    Quay quay;
    quay.rendered();
    QVERIFY(QDir().mkpath(quay.path("alone")));
    const QString alone = quay.path("alone/octaphon-cli"), pdf = quay.path("note.pdf");
    QVERIFY(QFile::copy(OCTAPHON_CLI_PATH, alone));
    const Ran refused = test::run(alone, {"report", quay.out(), "--pdf", pdf});
    QCOMPARE(refused.exit, 1);
    QVERIFY2(refused.err.contains("what writes PDF is not there"), refused.err.constData());
    QVERIFY(!QFile::exists(pdf));
    QCOMPARE(test::run(alone, {"report", quay.out(), "--html", quay.path("note.html")}).exit, 0);
  }

  /// The example importer of docs, and the schema.
  void gameToolsReadTheManifest() {
    Quay quay;
    quay.rendered();
    const QString file = quay.reported("manifest", quay.out("manifest.json"));
    fitsSchema("manifest", file);
    const Ran ran = test::run("/usr/bin/python3", {OCTAPHON_SOURCE "/docs/import_manifest.py", quay.out()});
    QVERIFY2(ran.exit == 0, ran.err.constData());
    const QString said = QString::fromUtf8(ran.out);
    QVERIFY2(said.contains("Winch/Start: 2 variations"), qPrintable(said));
    QVERIFY(said.contains("again every 24000 frames, while the last one rings on"));
    for (const QJsonValue sound : objectOf(test::bytesOf(file))["sounds"].toArray())
      if (sound["name"] == "Winch/Start" && sound["brief"] == "Game")
        QCOMPARE(sound["variations"][0]["facts"]["material"].toString(), QString("iron"));
  }

  void albumsHaveCues() {
    Quay quay;
    Brief& album = quay.brief(0);
    album.what.tracks = {};
    album.data.isrc = "QZ-QUA-26-{n:5}";
    album.data.title = "{region.last}";
    album.ends.leadInSeconds = 0.02;
    quay.make.session.briefs.resize(1);
    quay.rendered();
    const QString cue = QString::fromUtf8(quay.report("cue"));
    QVERIFY2(
        cue.startsWith("TITLE \"Harbour sounds\"\nFILE \"Winch_Start 01_mix.wav\" WAVE\n  TRACK 01 AUDIO\n"
                       "    TITLE \"Start 01\"\n    PERFORMER \"The workshop\"\n    ISRC QZQUA2600001\n"
                       "    INDEX 00 00:00:00\n    INDEX 01 00:00:02\n"),
        qPrintable(cue));
    QCOMPARE(cue.count("TRACK "), 5);
  }

  /// mido reads the MIDI file; places within 0.1 ms.
  void markersTravel() {
    Quay quay;
    quay.make.session.tempo.push_back({48000, 93.7, 3, 4, {}});
    quay.rendered();
    const QString midi = quay.reported("midi", quay.path("m.mid"));
    const Ran ran = test::run("/usr/bin/python3",
                              {"-c",
                               "import mido,sys\n"
                               "t=0\n"
                               "for m in mido.MidiFile(sys.argv[1],charset='utf-8'):\n"
                               "  t+=m.time\n"
                               "  if m.type=='marker': print(f'{t:.6f} {m.text}')\n"
                               "  if m.type=='time_signature': print('metre',m.numerator,m.denominator)\n",
                               midi});
    QVERIFY2(ran.exit == 0, ran.err.constData());
    const QString said = QString::fromUtf8(ran.out);
    QVERIFY2(said.contains("metre 3 4"), qPrintable(said));
    const std::map<QString, double> places{
        {"Bell", 30000}, {"Winch/Start 02", 12000}, {"ميناء", 62000}, {"ميناء (end)", 71000}};
    for (const auto& [name, frame] : places) {
      const auto match = QRegularExpression("^([0-9.]+) " + QRegularExpression::escape(name) + "$",
                                            QRegularExpression::MultilineOption)
                             .match(said);
      QVERIFY2(match.hasMatch(), qPrintable(said));
      QVERIFY2(std::abs(match.captured(1).toDouble() - frame / 48000) < 1e-4, qPrintable(match.captured(0)));
    }
    QVERIFY(quay.report("table").contains("Bell"));
  }

  /// What comes out of a session of the results is what was delivered, whatever became of the originals.
  void resultsComeOutAgain() {
    Quay quay;
    const QString session = quay.rendered();
    QDir(quay.path("media")).removeRecursively();
    QFile::remove(session);
    const QString results = quay.path("results/Results.octaphon");
    QDir().mkpath(quay.path("results"));
    const Ran ran = cli({"collect", quay.out(), results});
    QVERIFY2(ran.exit == 0, ran.err.constData());
    QCOMPARE(cli({"collect", quay.out(), results}).exit, 2);  // nothing is replaced
    test::renderOf(results, {"--out", quay.path("again")});
    const QStringList files = test::filesBelow(quay.out());
    QCOMPARE(test::filesBelow(quay.path("again")), files);
    for (const QString& file : files)
      QCOMPARE(test::readSound(quay.path("again/" + file)), test::readSound(quay.out(file)));
    const auto made = loadSession(results.toStdString());
    QVERIFY(made.has_value());
    QCOMPARE(made->regions.size(), std::size_t{5});
    const auto gear = std::find_if(made->tracks.begin(), made->tracks.end(),
                                   [](const Track& track) { return track.name == "gear"; });
    QVERIFY(gear != made->tracks.end());
    QCOMPARE(gear->ink, 3);
    QCOMPARE(findTrack(*made, gear->group)->name, std::string("machines"));
    QCOMPARE(gear->clips[0].start, Frame{2000});
    QVERIFY(cli({"briefs", results, "--list"}).out.contains(", ends cut without a fade,"));
  }

  /// A lead-in before the session's start, another rate, and what a track cannot hold.
  void resultsLieWhereTheyWere() {
    Quay quay;
    quay.make.session.briefs.resize(1);
    quay.brief(0).ends.leadInSeconds = 0.5;
    quay.brief(0).files.rate = 44100;
    quay.rendered();
    QCOMPARE(cli({"collect", quay.out(), quay.path("R.octaphon")}).exit, 0);
    const auto made = loadSession(quay.path("R.octaphon").toStdString());
    QVERIFY(made.has_value());
    QCOMPARE(made->rate, 44100);
    const Frame start = atRate(2000 - 24000, 48000, 44100) + 44100;  // a second later
    Frame first = kMaxFrame;
    for (const Track& track : made->tracks)
      for (const Clip& clip : track.clips) first = std::min(first, clip.start);
    QCOMPARE(first, start);
    QCOMPARE(made->regions[0].start, atRate(2000, 48000, 44100) + 44100);
    test::renderOf(quay.path("R.octaphon"), {"--out", quay.path("again")});
    for (const QString& file : test::filesBelow(quay.out()))
      QCOMPARE(test::readSound(quay.path("again/" + file)), test::readSound(quay.out(file)));
  }

  void waysBack() {
    Quay quay;
    const QString session = quay.rendered();
    const QString file = quay.out("Winch_Start 02_chain.wav");
    QJsonObject found = located(file);
    QVERIFY(found["found"].toBool());
    QCOMPARE(found["by"].toString(), QString("bytes"));
    QCOMPARE(found["session"].toString(), session);
    QCOMPARE(found["span"].toString(), QString("Winch/Start 02"));
    QCOMPARE(found["source"].toString(), QString("chain"));
    QCOMPARE(found["start"].toInt(), 12000);

    QVERIFY(QFile::rename(file, quay.out("nobody knows.wav")));
    QCOMPARE(located(quay.out("nobody knows.wav"))["key"], found["key"]);
    // Moved away: where this user's files were delivered is known.
    QTemporaryDir elsewhere;
    const QString moved = elsewhere.filePath("x.wav");
    QVERIFY(QFile::rename(quay.out("nobody knows.wav"), moved));
    QCOMPARE(located(moved)["key"], found["key"]);
    QCOMPARE(located(moved)["session"].toString(), session);
    // Written anew by another program, without what it said of itself (ffmpeg).
    const QString bare = elsewhere.filePath("bare.wav");
    QCOMPARE(
        test::run("/usr/bin/ffmpeg", {"-v", "error", "-i", moved, "-map_metadata", "-1", "-c", "copy", bare})
            .exit,
        0);
    const QJsonObject byName = located(bare);
    QCOMPARE(byName["by"].toString(), QString("sound"));
    QCOMPARE(byName["key"], found["key"]);
    // Altered, and it still says which row it is.
    test::WavBytes wav(moved);
    wav.changeSamples([](const auto& all, std::size_t c, std::size_t i) { return all[c][i] / 2; });
    wav.save();
    QCOMPARE(located(moved)["by"].toString(), QString("mark"));
    QCOMPARE(located(moved)["as_delivered"].toBool(true), false);
    // Nobody's.
    test::writeSound(elsewhere.filePath("foreign.wav"), test::noise(2, 9000, 99));
    const Ran foreign = cli({"locate", elsewhere.filePath("foreign.wav"), "--json"});
    QCOMPARE(foreign.exit, 1);
    QVERIFY(!objectOf(foreign.out)["found"].toBool(true));
    QCOMPARE(cli({"locate", elsewhere.filePath("gone.wav")}).exit, 1);
  }

  /// Lists that a brief asks for lie there when its files do; what is not ours stays.
  void runsHandOver() {
    Quay quay;
    quay.brief(0).handOver.notePage = quay.brief(0).handOver.checksums = true;
    quay.brief(2).handOver.manifest = true;
    QDir().mkpath(quay.out());
    QFile theirs(quay.out("manifest.json"));
    QVERIFY(theirs.open(QIODevice::WriteOnly));
    theirs.write("{}");
    theirs.close();
    const QString session = quay.make.save();
    QStringList written;
    for (const QJsonObject& line : test::renderOf(session, {}, 1))
      if (line["event"] == "list") written << line["file"].toString();
    QCOMPARE(written, QStringList({"delivery-note.html", "SHA256SUMS"}));
    QCOMPARE(test::bytesOf(theirs.fileName()), QByteArray("{}"));
    theirs.remove();
    test::renderOf(session);
    QVERIFY(test::bytesOf(theirs.fileName()).contains("octaphon-manifest"));
    // They are ours: none is a stranger, and a second run leaves them.
    QCOMPARE(cli({"check", session}).exit, 0);
    QCOMPARE(objectOf(cli({"status", session, "--json"}).out)["folders"][0]["foreign"].toArray().size(), 0);
    for (const QJsonObject& line : test::renderOf(session))
      if (line["event"] == "list") QCOMPARE(line["result"].toString(), QString("unchanged"));
    // Killed before a list got its name: the receipt knows the next one, and that which lies there is still
    // ours.
    QFile receipt(quay.out("octaphon-receipt.jsonl"));
    QVERIFY(receipt.open(QIODevice::Append));
    receipt.write("{\"kind\":\"list\",\"file\":\"delivery-note.html\",\"hash\":\"" + QByteArray(32, '1') +
                  "\"}\n");
    receipt.close();
    // A title alone changes the note; one that somebody wrote into stays as it is.
    quay.brief(0).handOver.title = "Second title";
    quay.make.save();
    test::renderOf(session, {"--all"});
    QVERIFY(test::bytesOf(quay.out("delivery-note.html")).contains("Second title"));
    QFile note(quay.out("delivery-note.html"));
    QVERIFY(note.open(QIODevice::Append));
    note.write("<!-- seen -->");
    note.close();
    quay.brief(0).handOver.title = "Third title";
    quay.make.save();
    test::renderOf(session, {"--all"}, 1);
    QVERIFY(test::bytesOf(note.fileName()).endsWith("<!-- seen -->"));
  }

  // --- the stand-in receiver

  /// From folder and manifest alone: the session is gone, and all that made the files.
  void receiversPlayByThePoints() {
    Quay quay;
    Brief& lap = quay.brief(1);
    lap.loop.way = LoopWay::InnerLap;
    lap.loop.keepIntro = true;
    lap.ends.leadInSeconds = 0.05;
    quay.make.session.briefs.erase(quay.make.session.briefs.begin());  // the layers
    quay.rendered();
    quay.reported("manifest", quay.out("manifest.json"));
    QTemporaryDir alone;
    QVERIFY(QFile::rename(quay.out(), alone.filePath("in")));
    QVERIFY(quay.dir.remove());
    const QString folder = alone.filePath("in"), played = alone.filePath("played.wav");
    const QJsonObject manifest = objectOf(test::bytesOf(folder + "/manifest.json"));
    QJsonObject file;
    QString name;
    for (const QJsonValue sound : manifest["sounds"].toArray())
      if (const QJsonObject one = sound["variations"][0]["files"][0].toObject(); one["loop"].isObject())
        file = one, name = sound["name"].toString();
    const QJsonObject loop = file["loop"].toObject();
    const auto start = loop["start"].toInteger(), length = loop["length"].toInteger();
    QVERIFY(start > 0 && length == 24000);
    const Ran ran =
        test::run(OCTAPHON_RECEIVER, {folder, "--record", played, "--seconds", "5", "--play", name + "@0.1"});
    QVERIFY2(ran.exit == 0, ran.err.constData());
    const auto in = test::readSound(folder + "/" + file["file"].toString()), out = test::readSound(played);
    QCOMPARE(out[0].size(), std::size_t{240000});
    for (std::size_t c = 0; c < 2; ++c)
      for (std::size_t i = 4800; i < out[c].size(); ++i) {
        auto at = static_cast<qint64>(i) - 4800;
        if (at >= start + length) at = start + (at - start) % length;
        if (out[c][i] != in[c][static_cast<std::size_t>(at)]) QFAIL(qPrintable(QString::number(i)));
      }
  }

  /// Each begins a loop's length after the last, which rings on; stopped, it rings out.
  void receiversRestartWhatOverlaps() {
    Quay quay;
    quay.rendered();
    quay.reported("manifest", quay.out("manifest.json"));
    const QString played = quay.path("played.wav"), name = "Wasser & Flöße <neu>";
    QJsonObject file;
    for (const QJsonValue sound : objectOf(test::bytesOf(quay.out("manifest.json")))["sounds"].toArray())
      for (const QJsonValue one : sound["variations"][0]["files"].toArray())
        if (one["loop"].isObject()) file = one.toObject();
    // The sound of that name which is no loop goes before: it is the game's.
    QFile::remove(quay.out("manifest.json"));
    QCOMPARE(cli({"report", quay.out(), "--brief", "b2", "--manifest", quay.out("manifest.json")}).exit, 0);
    QCOMPARE(test::run(OCTAPHON_RECEIVER, {quay.out(), "--record", played, "--seconds", "2.2", "--play", name,
                                           "--stop", name + "@1.4"})
                 .exit,
             0);
    const auto in = test::readSound(quay.out(file["file"].toString())), out = test::readSound(played);
    const auto frames = static_cast<qint64>(in[0].size()),
               length = file["loop"].toObject()["length"].toInteger();
    QVERIFY(length == 24000 && frames > length);
    double most = 0;
    for (qint64 i = 0; i < static_cast<qint64>(out[0].size()); ++i) {
      double expected = 0;
      for (const qint64 begin :
           {qint64{0}, length, 2 * length})  // the third begins at 1.0 s, a fourth would at 1.5
        if (i >= begin && i - begin < frames) expected += in[0][static_cast<std::size_t>(i - begin)];
      most = std::max(most, std::abs(expected - out[0][static_cast<std::size_t>(i)]));
    }
    QVERIFY2(most < 1e-6, qPrintable(QString::number(most)));
  }

  /// None of the last three; all of them come.
  void receiversVary() {
    Quay quay;
    quay.make.session.briefs.resize(1);
    quay.brief(0).what.tracks = {};
    quay.make.session.regions.clear();
    for (int i = 1; i <= 6; ++i)
      quay.make.region("v" + std::to_string(i), "Drop 0" + std::to_string(i), i * 2000, 1000);
    quay.rendered();
    quay.reported("manifest", quay.out("manifest.json"));
    QStringList arguments{quay.out(), "--record", quay.path("p.wav"), "--seconds", "5"};
    for (int i = 0; i < 60; ++i)
      arguments << "--play"
                << "Drop@" + QString::number(i * 0.05);
    const Ran ran = test::run(OCTAPHON_RECEIVER, arguments);
    QVERIFY2(ran.exit == 0, ran.err.constData());
    QStringList chosen;
    for (const QByteArray& line : ran.out.split('\n'))
      if (!line.isEmpty()) chosen << objectOf(line)["variation"].toString();
    QCOMPARE(chosen.size(), 60);
    for (qsizetype i = 0; i < chosen.size(); ++i)
      for (qsizetype k = std::max<qsizetype>(0, i - 3); k < i; ++k) QVERIFY(chosen[i] != chosen[k]);
    QCOMPARE(QSet<QString>(chosen.begin(), chosen.end()).size(), 6);
  }

  /// It fails where a receiver would fail.
  void receiversAreParticular() {
    Quay quay;
    quay.rendered();
    const QString manifest = quay.reported("manifest", quay.out("manifest.json")),
                  played = quay.path("p.wav");
    const QStringList play{quay.out(), "--record", played, "--play", "Winch/Start"};
    QCOMPARE(test::run(OCTAPHON_RECEIVER, play).exit, 0);
    const QByteArray good = test::bytesOf(manifest);
    const auto with = [&](const QByteArray& from, const QByteArray& to) {
      QFile file(manifest);
      if (!file.open(QIODevice::WriteOnly)) qFatal("cannot write");
      file.write(QByteArray(good).replace(from, to));
      file.close();
      return test::run(OCTAPHON_RECEIVER, play);
    };
    QCOMPARE(with("\"file\": \"", "\"file\": \"../").exit, 1);
    QCOMPARE(with("\"frames\": 9000", "\"frames\": 9001").exit, 1);
    QCOMPARE(with("octaphon-manifest", "another").exit, 1);
    QCOMPARE(with("\"version\": \"1.", "\"version\": \"2.").exit, 1);
    QCOMPARE(with("{", "[").exit, 1);
    QCOMPARE(with("x", "x").exit, 0);
    QVERIFY(QFile::remove(manifest));
    QVERIFY(test::run(OCTAPHON_RECEIVER, play).err.contains("manifest.json"));
  }

  /// What lay there before is no remark about the file that took its place.
  void remarksAreAboutWhatIsThere() {
    Quay quay;
    const QString session = quay.rendered();
    test::writeSound(quay.out("Winch_Start 01_mix.wav"), test::noise(2, 9000, 3));
    test::renderOf(session, {"--replace-foreign"});
    for (const QJsonValue file : objectOf(quay.report("json"))["files"].toArray())
      for (const QJsonValue remark : file["remarks"].toArray())
        QVERIFY2(remark["code"] != "changed-file", qPrintable(file["file"].toString()));
  }

  /// What was accepted, what is missing, and a receipt that knows less.
  void notesTellWhatIsWrong() {
    Quay quay;
    quay.rendered();
    QVERIFY(QFile::remove(quay.out("Winch_Start 01_gear.wav")));
    const QJsonObject list = objectOf(quay.report("json"));
    QCOMPARE(list["totals"]["findings"].toInt(), 1);
    QVERIFY(!quay.report("sums").contains("Start 01_gear"));
    QVERIFY(quay.report("html").contains("found: "));
    // As the first versions wrote them: by their bytes alone.
    QByteArray anew;
    for (const QByteArray& line : test::bytesOf(quay.out("octaphon-receipt.jsonl")).split('\n')) {
      if (line.isEmpty()) continue;
      QJsonObject json = objectOf(line);
      if (json["kind"] == "outline" || json["kind"] == "brief") continue;
      json.remove("made");
      anew += QJsonDocument(json).toJson(QJsonDocument::Compact) + "\n";
    }
    QFile receipt(quay.out("octaphon-receipt.jsonl"));
    QVERIFY(receipt.open(QIODevice::WriteOnly));
    receipt.write(anew);
    receipt.close();
    const QString file = quay.reported("json", quay.path("old.json"));
    fitsSchema("delivery", file);
    QVERIFY(quay.report("html").contains("small/"));
    QCOMPARE(cli({"report", quay.out(), "--midi", quay.path("m.mid")}).exit, 1);
    QVERIFY(!QFile::exists(quay.path("m.mid")));
    QCOMPARE(cli({"report", quay.path("media"), "--json", quay.path("n.json")}).exit, 1);
    QCOMPARE(cli({"report", quay.out(), "--json", quay.path("none/n.json")}).exit, 1);
  }

 private:
  QTemporaryDir state_;
};

QTEST_GUILESS_MAIN(HandoverTest)
#include "tst_handover.moc"
