#include <sndfile.h>

#include <cstring>

#include "base/files.h"
#include "exchange/bring_in.h"
#include "exchange/find_media.h"
#include "exchange/midi_file.h"
#include "exchange/region_table.h"
#include "formats/file_facts.h"
#include "session/session_file.h"
#include "support.h"

using namespace octaphon;
using test::SessionMaker;

namespace {

QByteArray little(quint32 value, int bytes = 4) {
  QByteArray result;
  for (int i = 0; i < bytes; ++i) result += static_cast<char>(value >> (8 * i));
  return result;
}
QByteArray big(quint32 value, int bytes = 4) {
  QByteArray result = little(value, bytes);
  std::reverse(result.begin(), result.end());
  return result;
}
QByteArray chunk(const char* id, const QByteArray& body) {
  return QByteArray(id, 4) + little(static_cast<quint32>(body.size())) + body +
         QByteArray(body.size() % 2, '\0');
}
QByteArray cuePoint(quint32 id, quint32 at) {
  return little(id) + little(at) + "data" + little(0) + little(0) + little(at);
}

/// A mono 16-bit WAV of `frames` with more chunks behind the sound.
QByteArray wav(quint32 rate, quint32 frames, const QByteArray& more, const QByteArray& before = {}) {
  const QByteArray format =
      little(1, 2) + little(1, 2) + little(rate) + little(rate * 2) + little(2, 2) + little(16, 2);
  const QByteArray body = "WAVE" + before + chunk("fmt ", format) +
                          chunk("data", QByteArray(static_cast<int>(frames) * 2, 'x')) + more;
  return "RIFF" + little(static_cast<quint32>(body.size())) + body;
}

void writeBytes(const QString& file, const QByteArray& bytes) {
  QFile out(file);
  QVERIFY(out.open(QIODevice::WriteOnly));
  out.write(bytes);
}

Result<FileFacts> marksOf(const QByteArray& bytes) {
  ByteSource source;
  source.size = static_cast<std::uint64_t>(bytes.size());
  source.read = [&](std::uint64_t at, void* to, std::size_t size) {
    if (at + size > source.size) return false;
    std::memcpy(to, bytes.constData() + at, size);
    return true;
  };
  return readFileFacts(source, "test.wav");
}

QByteArray midiTrack(const QByteArray& events) {
  const QByteArray body = events + QByteArray("\x00\xff\x2f\x00", 4);
  return "MTrk" + big(static_cast<quint32>(body.size())) + body;
}
QByteArray midiFile(quint32 format, quint32 division, const std::vector<QByteArray>& tracks) {
  QByteArray file =
      "MThd" + big(6) + big(format, 2) + big(static_cast<quint32>(tracks.size()), 2) + big(division, 2);
  for (const QByteArray& track : tracks) file += midiTrack(track);
  return file;
}
QByteArray delta(quint32 ticks) {
  QByteArray bytes(1, static_cast<char>(ticks & 0x7F));
  while ((ticks >>= 7) > 0) bytes.prepend(static_cast<char>((ticks & 0x7F) | 0x80));
  return bytes;
}
QByteArray meta(quint32 ticks, int type, const QByteArray& data) {
  return delta(ticks) + '\xff' + static_cast<char>(type) + delta(static_cast<quint32>(data.size())) + data;
}
Result<MidiMap> midi(const QByteArray& bytes, int rate = 48000) {
  return readMidi(std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size())), rate,
                  "test.mid");
}

/// Two tempos, a change of metre, markers in two tracks, running status and a long delta between.
QByteArray harbourMidi() {
  return midiFile(1, 480,
                  {meta(0, 0x58, QByteArray("\x03\x02\x18\x08", 4)) + meta(0, 0x51, big(500'000, 3)) +
                       meta(1440, 0x51, big(600'000, 3)) +
                       meta(960, 0x58, QByteArray("\x06\x03\x18\x08", 4)) + meta(1000, 0x51, big(428'571, 3)),
                   meta(720, 0x06, "Winch") + delta(10) + QByteArray("\x90\x40\x40\x10\x40\x00", 6) +
                       delta(0) + QByteArray("\xf0\x02\x01\xf7", 4) + meta(3500, 0x07, "Bell")});
}

Session sessionAt(int rate, const char* pictures = "25", Frame startPicture = 0) {
  Session session;
  session.rate = rate;
  session.pictureRate = *parsePictureRate(pictures);
  session.startPicture = startPicture;
  return session;
}

QString names(const Session& session) {
  QStringList all;
  for (const Track& track : session.tracks)
    all << QString("%1/%2@%3+%4")
               .arg(QString::fromStdString(track.name))
               .arg(track.channels)
               .arg(track.clips.empty() ? -1 : track.clips[0].start)
               .arg(track.clips.empty() ? -1 : track.clips[0].length);
  return all.join(' ');
}

}  // namespace

class ExchangeTest : public QObject {
  Q_OBJECT
 private slots:
  // Bytes after RIFF/WAVE (IBM & Microsoft 1991, 1994) and EBU Tech 3285: the loop's end in `smpl` is the
  // last frame played; TimeReference stands 338 bytes into `bext`, low word first.
  void marksLaidOutByHand() {
    const QByteArray cue = chunk("cue ", little(3) + cuePoint(7, 900) + cuePoint(1, 100) + cuePoint(2, 300));
    const QByteArray labels =
        chunk("LIST", "adtl" + chunk("labl", little(1) + "Odd") +
                          chunk("note", little(1) + QByteArray("seen\0", 5)) +
                          chunk("ltxt", little(2) + little(250) + "rgn " + little(0) + little(0)) +
                          chunk("labl", little(2) + QByteArray("Heave \xe9\0", 8)));
    const QByteArray smpl = chunk("smpl", QByteArray(28, '\0') + little(1) + little(0) + little(0) +
                                              little(0) + little(200) + little(799) + little(0) + little(0));
    const QByteArray bext =
        chunk("bext", QByteArray(338, '\0') + little(0x00000002) + little(1) + QByteArray(256, '\0'));
    const auto marks = marksOf(wav(48000, 1000, cue + labels + smpl, bext));
    QVERIFY(marks.has_value());
    QCOMPARE(marks->marks.size(), std::size_t{3});
    QCOMPARE(marks->marks[0].at, Frame{100});
    QCOMPARE(marks->marks[0].label, std::string("Odd"));
    QCOMPARE(marks->marks[0].note, std::string("seen"));
    QCOMPARE(marks->marks[1].length, Frame{250});
    QCOMPARE(marks->marks[1].label, std::string("Heave é"));  // Windows-1252
    QCOMPARE(marks->marks[2].at, Frame{900});
    QCOMPARE(marks->loops.size(), std::size_t{1});
    QCOMPARE(marks->loops[0].start, Frame{200});
    QCOMPARE(marks->loops[0].end, Frame{800});
    QCOMPARE(*marks->timeReference, (Frame{1} << 32) + 2);
  }

  // The same written by another program: libsndfile's cue points, instrument and broadcast chunk.
  void marksFromLibsndfile() {
    for (const int format : {SF_FORMAT_WAV, SF_FORMAT_RF64}) {
      QTemporaryDir dir;
      const QByteArray file = dir.filePath("a.wav").toLocal8Bit();
      SF_INFO info{};
      info.samplerate = 44100;
      info.channels = 2;
      info.format = format | SF_FORMAT_PCM_24;
      SNDFILE* out = sf_open(file.constData(), SFM_WRITE, &info);
      SF_BROADCAST_INFO broadcast{};
      broadcast.time_reference_low = 158'760'000;  // one hour at 44.1 kHz
      QVERIFY(sf_command(out, SFC_SET_BROADCAST_INFO, &broadcast, sizeof broadcast));
      if (format == SF_FORMAT_WAV) {
        SF_CUES cues{};
        cues.cue_count = 2;
        cues.cue_points[0].indx = 1, cues.cue_points[0].sample_offset = 4410;
        cues.cue_points[1].indx = 2, cues.cue_points[1].sample_offset = 8820;
        QVERIFY(sf_command(out, SFC_SET_CUE, &cues, sizeof cues));
        SF_INSTRUMENT instrument{};
        instrument.loop_count = 1;
        instrument.loops[0].mode = SF_LOOP_FORWARD;
        instrument.loops[0].start = 1000;
        instrument.loops[0].end = 5000;  // exclusive in libsndfile
        QVERIFY(sf_command(out, SFC_SET_INSTRUMENT, &instrument, sizeof instrument));
      }
      const std::vector<float> silence(2 * 22050);
      sf_writef_float(out, silence.data(), 22050);
      sf_close(out);
      const auto marks = readFileFacts(std::filesystem::path(file.constData()));
      QVERIFY(marks.has_value());
      QCOMPARE(*marks->timeReference, Frame{158'760'000});
      if (format != SF_FORMAT_WAV) continue;
      QCOMPARE(marks->marks.size(), std::size_t{2});
      QCOMPARE(marks->marks[1].at, Frame{8820});
      QCOMPARE(marks->loops[0].start, Frame{1000});
      QCOMPARE(marks->loops[0].end, Frame{5000});
    }
  }

  void chunksThatLie_data() {
    QTest::addColumn<QByteArray>("bytes");
    QTest::addColumn<bool>("isError");
    QTest::newRow("no WAV") << QByteArray("OggS and so on, long enough") << false;
    QTest::newRow("a thousand cues in 24 bytes")
        << wav(48000, 10, chunk("cue ", little(1000) + cuePoint(1, 5))) << false;
    QTest::newRow("chunk past the end") << wav(48000, 10, "cue " + little(4000) + "xx") << true;
    QTest::newRow("label longer than its list")
        << wav(48000, 10, chunk("LIST", "adtl" + QByteArray("labl") + little(0xFFFFFFFF) + "x")) << false;
    QTest::newRow("data of unknown length")
        << wav(48000, 10, {}).replace("data" + little(20), "data" + little(0xFFFFFFF0)) << false;
    QTest::newRow("bext cut off") << wav(48000, 10, chunk("bext", "short")) << false;
  }
  void chunksThatLie() {
    QFETCH(QByteArray, bytes);
    QFETCH(bool, isError);
    const auto marks = marksOf(bytes);
    QCOMPARE(!marks.has_value(), isError);
    if (isError) QVERIFY(marks.error().describe().find("cue ") != std::string::npos);
  }

  void soundThatIsCutOffIsSaid() {
    const QByteArray whole = wav(48000, 1000, {});
    QCOMPARE(marksOf(whole)->missingBytes, std::uint64_t{0});
    QCOMPARE(marksOf(whole.chopped(1500))->missingBytes, std::uint64_t{1500});
    QTemporaryDir dir;
    QFile file(dir.filePath("Cut.wav"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(whole.chopped(1500));
    file.close();
    const auto made = test::cli({"new", dir.filePath("a.octaphon"), file.fileName()});
    QCOMPARE(made.exit, 0);
    QVERIFY(made.err.contains("Cut.wav: it is cut off: 1500 bytes"));
  }

  // By hand, ticks of 480 to a quarter: 120 BPM for 1440 ticks is 1.5 s; at 100 BPM (600 000 µs) 960 more
  // are 1.2 s, and 1000 more 1.25 s. Markers: 720 ticks are 0.75 s; the other lies at 720 + 10 + 16 + 3500 =
  // 4246 ticks, 846 ticks behind 3.95 s at 428 571 µs a quarter.
  void tempoByHand() {
    const auto map = midi(harbourMidi());
    QVERIFY(map.has_value());
    const std::vector<TempoPoint>& t = map->tempo;
    QCOMPARE(t.size(), std::size_t{4});
    QCOMPARE(t[0].at, Frame{0});
    QCOMPARE(t[0].bpm, 120.0);
    QCOMPARE(t[0].beats, 3);
    QCOMPARE(t[1].at, Frame{72'000});
    QCOMPARE(t[1].bpm, 100.0);
    QCOMPARE(t[2].at, Frame{129'600});
    QCOMPARE(t[2].beats, 6);
    QCOMPARE(t[2].unit, 8);
    QCOMPARE(t[3].at, Frame{189'600});
    QCOMPARE(map->markers[0], (MidiMark{36'000, "Winch"}));
    const Frame bell = 189'600 + std::llround(846.0 / 480 * 0.428571 * 48000);
    QCOMPARE(map->markers[1], (MidiMark{bell, "Bell"}));
  }

  void tempoByAnotherReader() {
    QTemporaryDir dir;
    const QString file = dir.filePath("a.mid");
    writeBytes(file, harbourMidi());
    const QByteArray script =
        "import mido, sys\nat = 0\nfor m in mido.MidiFile(sys.argv[1]):\n at += m.time\n"
        " if m.type in ('marker', 'cue_marker', 'set_tempo'): print(m.type, at)\n";
    const test::Ran ran = test::run("/usr/bin/python3", {"-c", script, file});
    QCOMPARE(ran.err, QByteArray());
    const auto map = midi(harbourMidi());
    std::vector<Frame> ours{map->tempo[0].at, map->markers[0].at, map->tempo[1].at, map->tempo[3].at,
                            map->markers[1].at};
    std::size_t i = 0;
    for (const QByteArray& line : ran.out.trimmed().split('\n'))
      QCOMPARE(ours.at(i++), static_cast<Frame>(std::llround(line.split(' ')[1].toDouble() * 48000)));
    QCOMPARE(i, ours.size());
  }

  void ticksOfPictureFrames() {
    // 25 frames a second, 40 ticks each: a tick is a millisecond.
    const auto map = midi(midiFile(0, 0xE728, {meta(1500, 0x06, "Go")}));
    QVERIFY(map && map->tempo.empty());
    QCOMPARE(map->markers[0].at, Frame{72'000});
    // 29 means 30/1.001: 30 000 frames take 1001 s.
    const auto drop = midi(midiFile(0, 0xE350, {meta(80 * 30'000, 0x06, "Go")}));
    QCOMPARE(drop->markers[0].at, Frame{1001 * 48'000});
  }

  void midiThatLies_data() {
    QTest::addColumn<QByteArray>("bytes");
    const QByteArray good = harbourMidi();
    QTest::newRow("empty") << QByteArray();
    QTest::newRow("sound") << wav(48000, 10, {});
    QTest::newRow("cut off") << good.left(60);
    QTest::newRow("no ticks") << midiFile(0, 0, {});
    QTest::newRow("format 2") << midiFile(2, 96, {});
    QTest::newRow("tempo 0") << midiFile(0, 96, {meta(0, 0x51, big(0, 3))});
    QTest::newRow("metre of 0") << midiFile(0, 96, {meta(0, 0x58, QByteArray("\x00\x02\x18\x08", 4))});
    QTest::newRow("endless delta") << midiFile(0, 96, {QByteArray("\xff\xff\xff\xff\xff\x00", 6)});
    QTest::newRow("status missing") << midiFile(0, 96, {QByteArray("\x00\x40\x40", 3)});
    QTest::newRow("track longer than the file") << good.left(18) + big(0x7FFFFFFF) + good.mid(22);
  }
  void midiThatLies() {
    QFETCH(QByteArray, bytes);
    const auto map = midi(bytes);
    QVERIFY(!map.has_value());
    QVERIFY(map.error().describe().starts_with("test.mid"));
  }

  void tableTimes_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<bool>("isLength");
    QTest::addColumn<qint64>("frames");  // −1: refused
    const auto row = [](const char* text, qint64 frames, bool isLength = false) {
      QTest::addRow("%s %d", text, isLength) << QString(text) << isLength << frames;
    };
    row("0:00:01.5", 72'000);
    row("0:01,25", 60'000);
    row("1:00:00", 172'800'000);
    row("00:00:00.000020", 1);  // 0.96 of a frame
    row("96000", 96'000);
    row("96000 samples", 96'000);
    row("2.5", 120'000);
    row("2,5", 120'000);
    row("2s", 96'000);
    row("250 ms", 12'000);
    row("01:00:00:00", 0);       // the session begins at an hour
    row("01:00:01:12", 71'040);  // 37 pictures of 1/25 s
    row("00:00:01:00", 48'000, true);
    row("00:59:59:24", -1);
    row("-1", -1);
    row("1:2:3:4:5", -1);
    row("soon", -1);
    row("", -1);
    row("99999999999999999999", -1);
    row("9999999999:00:00", -1);
    row("1:-2", -1);
    row("nan", -1);
    row("12 apples", -1);
  }
  void tableTimes() {
    QFETCH(QString, text);
    QFETCH(bool, isLength);
    QFETCH(qint64, frames);
    const auto parsed = parseTableTime(text.toStdString(), sessionAt(48000, "25", 90'000), isLength);
    QCOMPARE(parsed.value_or(-1), Frame{frames});
  }

  // Written times come back to the frame at every rate.
  void tableTimesAreExact() {
    for (const int rate : {8000, 22050, 44100, 48000, 96000, 192000, 352800, 384000})
      for (Frame frame = 0; frame < kMaxFrame / 2; frame = frame * 3 / 2 + 1) {
        const auto back = parseTableTime(tableTime(frame, rate), sessionAt(rate), false);
        QCOMPARE(back.value_or(-1), frame);
      }
  }

  void tablesInManyHands_data() {
    QTest::addColumn<QByteArray>("table");
    const QByteArray expected;
    QTest::newRow("ours") << QByteArray(
        "kind,name,start,end\nregion,\"Rain; tin\",0:00:01.5,0:00:02\nmarker,Go,0:00:03,\n");
    QTest::newRow("semicolons and commas")
        << QByteArray("Title;Begin;Duration\r\n\"Rain; tin\";1,5;0,5\r\nGo;3,0;\r\n");
    QTest::newRow("tabs, units in the head") << QByteArray(
        "#\tLabel\tStart (samples)\tLength (samples)\n1\tRain; tin\t72000\t24000\n2\tGo\t144000\t\n");
    QTest::newRow("no head")
        << QByteArray("Rain; tin,0:01.5,0:02\nGo,0:03\n").replace("Rain; tin", "\"Rain; tin\"");
    QTest::newRow("decimal commas without quotes")
        << QByteArray("name,start,end,colour\n\"Rain; tin\",0:01,5,0:02,#ff8800\nGo,0:00:03,000,,\n");
    QTest::newRow("seconds in the head")
        << QByteArray("start sec,end sec,name\n1.5,2,\"Rain; tin\"\n3,,Go\n");
    QTest::newRow("timecode") << QByteArray(
                                     "In,Out,Name\n00:00:01:12,00:00:02:00,Rain; tin\n00:00:03:00,,Go\n")
                                     .replace("01:12,", "01:12,")
                                     .replace("00:00:01:12", "0:00:01.5");
    QTest::newRow("UTF-16, byte order mark") << QByteArray("\xff\xfe") + [] {
      QByteArray wide;
      for (const char c : QByteArray("name\tstart\tend\nRain; tin\t72000\t96000\nGo\t144000\t\n"))
        wide += c, wide += '\0';
      return wide;
    }();
  }
  void tablesInManyHands() {
    QFETCH(QByteArray, table);
    Session session = sessionAt(48000);
    const auto outcome = readRegionTable(
        session, std::string_view(table.constData(), static_cast<std::size_t>(table.size())), "t.csv");
    QVERIFY(outcome.has_value());
    for (const Error& error : outcome->refused) qWarning("%s", error.describe().c_str());
    QVERIFY(outcome->refused.empty());
    QCOMPARE(session.regions.size(), std::size_t{1});
    QCOMPARE(session.regions[0].name, std::string("Rain; tin"));
    QCOMPARE(session.regions[0].start, Frame{72'000});
    QCOMPARE(session.regions[0].length, Frame{24'000});
    QCOMPARE(session.markerCount(), std::size_t{1});
    QCOMPARE(session.markerSets[0].markers[0].at, Frame{144'000});
    // A second time nothing is added.
    const std::string before = writeRegionTable(session);
    QVERIFY(readRegionTable(
        session, std::string_view(table.constData(), static_cast<std::size_t>(table.size())), "t.csv"));
    QCOMPARE(writeRegionTable(session), before);
  }

  // Out to a file, read by Python's csv module, and back in: into itself nothing changes, into an empty
  // session all is there again.
  void tableRoundTrip() {
    QTemporaryDir dir;
    SessionMaker make(dir.path());
    make.session.rate = 44100;
    make.region("r1", "Winch/Heave, \"slow\" 01", 12'345, 67'891).ink = 3;
    make.region("r2", "", 0, 0).notes = "two\nlines; and ümlaut";
    make.session.markerSets.push_back({"s", "Parts; all", {{"m1", " edge ", 1}, {"m2", "B", 88'201}}, {}});
    const QString file = make.save();
    const QString table = dir.filePath("t.csv");
    QCOMPARE(test::cli({"regions", file, "--export", table}).exit, 0);
    const test::Ran python = test::run(
        "/usr/bin/python3", {"-c",
                             "import csv,sys\nr=list(csv.DictReader(open(sys.argv[1],newline='')))\n"
                             "print(len(r), r[1]['name'], r[0]['notes'].count('\\n'), r[2]['name']+'|')",
                             table});
    QCOMPARE(python.out, QByteArray("4 Winch/Heave, \"slow\" 01 1  edge |\n"));
    const QByteArray before = test::bytesOf(file);
    const test::Ran again = test::cli({"regions", file, "--import", table});
    QCOMPARE(again.exit, 0);
    QCOMPARE(test::bytesOf(file), before);
    Session empty = sessionAt(44100);
    empty.file = dir.filePath("e.octaphon").toStdString();
    QVERIFY(saveSession(empty, empty.file));
    QCOMPARE(test::cli({"regions", dir.filePath("e.octaphon"), "--import", table}).exit, 0);
    const auto back = loadSession(dir.filePath("e.octaphon").toStdString());
    QCOMPARE(writeRegionTable(*back), writeRegionTable(make.session));
    // Another unit, the same places.
    QCOMPARE(test::cli({"regions", file, "--export", table, "--times", "samples"}).exit, 0);
    QVERIFY(test::bytesOf(table).contains("r1,region,\"Winch/Heave, \"\"slow\"\" 01\",12345,80236,67891,3,"));
  }

  void tableRowsThatCannotBe() {
    Session session = sessionAt(48000);
    Region locked;
    locked.id = "r1";
    locked.name = "Kept";
    locked.length = 10;
    locked.lock = true;
    session.regions.push_back(locked);
    const auto outcome =
        readRegionTable(session,
                        "id,name,start,end,colour\nr1,New,5,20,\n,Back,20,10,\n,Good,1,2,8\n,Ink,1,2,9\n,"
                        "\"x\ny\",soon,,\n,Late,9007199254740991,9007199254740999,\n",
                        "t.csv");
    QVERIFY(outcome.has_value());
    QStringList lines;
    for (const Error& error : outcome->refused)
      lines << QString::fromStdString(error.place).section(':', 0, 0);
    QCOMPARE(lines, (QStringList{"t.csv, line 2", "t.csv, line 3", "t.csv, line 6", "t.csv, line 8"}));
    QCOMPARE(session.regions.size(), std::size_t{3});  // a colour that is none takes nothing away
    QCOMPARE(session.regions[0], locked);
    for (const char* hopeless : {"", "\n\n", "name,colour\na,b\n"})
      QVERIFY(!readRegionTable(session, hopeless, "t.csv"));
  }

  void regionsByCommand() {
    QTemporaryDir dir;
    SessionMaker make(dir.path());
    const QString file = make.save();
    QCOMPARE(test::cli({"regions", file}).exit, 2);
    QCOMPARE(test::cli({"regions", file, "--export", "a", "--import", "b"}).exit, 2);
    QCOMPARE(test::cli({"regions", dir.filePath("none"), "--export", "-"}).exit, 3);
    QCOMPARE(test::cli({"regions", file, "--import", dir.filePath("none.csv")}).exit, 1);
    QCOMPARE(test::cli({"regions", file, "--export", dir.filePath("no/such/t.csv")}).exit, 1);
  }

  void newFromFiles() {
    QTemporaryDir dir;
    QDir(dir.path()).mkpath("in/Bells");
    QDir(dir.path()).mkpath("in/.hidden");
    const auto sound = [&](const char* name, int channels, int rate, Frame frames) {
      test::writeSound(dir.filePath(QString("in/") + name), test::noise(channels, frames, 1), rate);
    };
    sound("Winch 10.wav", 2, 48000, 4800);
    sound("Winch 9.wav", 1, 48000, 480);
    sound("Bells/small.flac", 2, 96000, 9600);
    sound("Rain.aiff", 6, 48000, 1000);
    sound(".hidden/not.wav", 2, 48000, 10);
    writeBytes(dir.filePath("in/broken.wav"), "RIFF");
    writeBytes(dir.filePath("in/words.txt"), "no sound");
    const QString file = dir.filePath("made.octaphon");
    const test::Ran ran = test::cli({"new", file, dir.filePath("in")});
    QCOMPARE(ran.exit, 1);  // broken.wav is named, the others are there
    QVERIFY(ran.err.contains("broken.wav"));
    QVERIFY(!ran.err.contains("words.txt"));
    const auto made = loadSession(file.toStdString());
    QVERIFY(made.has_value());
    QCOMPARE(made->rate, 48000);
    QCOMPARE(names(*made), QString("small/2@0+4800 Rain/6@0+1000 Winch 9/1@0+480 Winch 10/2@0+4800"));
    QCOMPARE(made->media[0].file, std::string("in/Bells/small.flac"));
    QCOMPARE(test::cli({"new", file, dir.filePath("in/Rain.aiff")}).exit, 2);  // it is there already
    // As command-line users have it: files in any order, one of them missing; channels one by one; a copy.
    const QString other = dir.filePath("other.octaphon");
    const test::Ran second =
        test::cli({"new", other, "--channels", "pairs", "--copy", dir.filePath("in/Winch 10.wav"),
                   dir.filePath("in/Rain.aiff"), dir.filePath("in/gone.wav")});
    QCOMPARE(second.exit, 1);
    QVERIFY(second.err.contains("gone.wav"));
    const auto pairs = loadSession(other.toStdString());
    QCOMPARE(names(*pairs),
             QString("Rain 1-2/2@0+1000 Rain 3-4/2@0+1000 Rain 5-6/2@0+1000 Winch 10/2@0+4800"));
    QCOMPARE(pairs->tracks[1].clips[0].channel, 3);
    QCOMPARE(pairs->media.size(), std::size_t{2});
    QCOMPARE(pairs->media[0].file, std::string("media/Rain.aiff"));
    QVERIFY(QFile::exists(dir.filePath("media/Rain.aiff")));
    QCOMPARE(test::cli({"new", dir.filePath("none.octaphon"), dir.filePath("in/.hidden/x.wav")}).exit, 1);
    QVERIFY(!QFile::exists(dir.filePath("none.octaphon")));
    QCOMPARE(test::cli({"new", dir.filePath("none.octaphon"), dir.filePath("in"), "--place", "there"}).exit,
             2);
  }

  void newWithGroups() {
    QTemporaryDir dir;
    for (const char* name : {"in/Bells/a.wav", "in/Bells/b.wav", "in/Gulls/c.wav", "in/d.wav"}) {
      QDir(dir.path()).mkpath(QFileInfo(name).path());
      test::writeSound(dir.filePath(name), test::noise(1, 100, 1));
    }
    const test::Ran offered = test::cli({"new", dir.filePath("a.octaphon"), dir.filePath("in")});
    QVERIFY(offered.out.contains("2 groups could be made (--groups folders): Bells, Gulls"));
    QCOMPARE(test::cli({"new", dir.filePath("b.octaphon"), dir.filePath("in"), "--groups", "folders"}).exit,
             0);
    const auto made = loadSession(dir.filePath("b.octaphon").toStdString());
    QStringList tree;
    for (const Track& track : made->tracks)
      tree << QString::fromStdString(track.name + (track.group.empty() ? "" : "<")) +
                  (track.isGroup() ? ":" : "");
    QCOMPARE(tree.join(' '), QString("Bells: d Gulls: a< b< c<"));
  }

  // Rule of the stamp: samples since midnight at the file's own rate.
  void newByStamps_data() {
    QTest::addColumn<qint64>("hours");
    for (const qint64 hours : {0, 1, 10}) QTest::addRow("%lld h", static_cast<long long>(hours)) << hours;
  }
  void newByStamps() {
    QFETCH(qint64, hours);
    QTemporaryDir dir;
    const auto stamped = [&](const char* name, quint32 rate, double seconds) {
      const auto stamp =
          static_cast<quint64>(std::llround((static_cast<double>(hours) * 3600 + seconds) * rate));
      const QByteArray bext =
          chunk("bext", QByteArray(338, '\0') + little(static_cast<quint32>(stamp)) +
                            little(static_cast<quint32>(stamp >> 32)) + QByteArray(256, '\0'));
      writeBytes(dir.filePath(name), wav(rate, 1000, {}, bext));
    };
    stamped("a.wav", 48000, 2.0);
    stamped("b.wav", 44100, 7.5);
    stamped("c.wav", 48000, 3.25);
    writeBytes(dir.filePath("d.wav"), wav(48000, 1000, {}));
    const test::Ran ran = test::cli({"new", dir.filePath("s.octaphon"), dir.path(), "--place", "stamp"});
    QCOMPARE(ran.exit, 0);
    QVERIFY(ran.err.contains("d.wav"));
    const auto made = loadSession(dir.filePath("s.octaphon").toStdString());
    QCOMPARE(names(*made), QString("a/1@96000+1000 b/1@360000+1088 c/1@156000+1000 d/1@0+1000"));
    QCOMPARE(made->startPicture, Frame{hours * 3600 * 25});
  }

  // By content where that is known, else by name and length; never one of the same name and another length.
  void lostMediaAreFound() {
    QTemporaryDir dir;
    QDir(dir.path()).mkpath("far/away");
    const auto write = [&](const char* name, unsigned seed, Frame frames) {
      test::writeSound(dir.filePath(QString("far/") + name), test::noise(1, frames, seed));
    };
    write("moved and renamed.wav", 1, 500);
    write("away/same.wav", 2, 700);
    write("away/Name.WAV", 3, 300);
    write("short.wav", 4, 90);
    Session session;
    session.file = dir.filePath("s.octaphon").toStdString();
    const auto digest = [&](const char* name) {
      const auto handle = openRegular(dir.filePath(QString("far/") + name).toStdString());
      return digestOf(handle->get(), name)->hex();
    };
    session.media = {{"content", "gone/old.wav", 500, 48000, digest("moved and renamed.wav")},
                     {"length", "gone/same.wav", 700, 48000},
                     {"name", "gone/name.wav"},
                     {"short", "gone/short.wav", 91, 48000},
                     {"none", "gone/none.wav"},
                     {"not asked", "gone/same.wav"}};
    const auto found =
        findMedia(session, {"content", "length", "name", "short", "none"}, dir.filePath("far").toStdString());
    QCOMPARE(found.size(), std::size_t{3});
    QVERIFY(found.at("content").likeness == Likeness::Content);
    QCOMPARE(mediaPath(found.at("content").file, session.folder()), std::string("far/moved and renamed.wav"));
    QVERIFY(found.at("length").likeness == Likeness::Length);
    QVERIFY(found.at("name").likeness == Likeness::Name);
  }

  void newWithMarks() {
    QTemporaryDir dir;
    const QByteArray cue = chunk("cue ", little(2) + cuePoint(1, 441) + cuePoint(2, 882));
    const QByteArray labels =
        chunk("LIST", "adtl" + chunk("labl", little(1) + QByteArray("Go\0", 3)) +
                          chunk("ltxt", little(2) + little(441) + "rgn " + little(0) + little(0)));
    const QByteArray smpl = chunk("smpl", QByteArray(28, '\0') + little(1) + little(0) + little(0) +
                                              little(0) + little(0) + little(440) + little(0) + little(0));
    writeBytes(dir.filePath("Bell.wav"), wav(44100, 4410, cue + labels + smpl));
    writeBytes(dir.filePath("beat.mid"), harbourMidi());
    const test::Ran ran = test::cli({"new", dir.filePath("s.octaphon"), "--rate", "48000",
                                     dir.filePath("Bell.wav"), dir.filePath("beat.mid")});
    QCOMPARE(ran.exit, 0);
    const auto made = loadSession(dir.filePath("s.octaphon").toStdString());
    QCOMPARE(made->regions.size(), std::size_t{2});
    QCOMPARE(made->regions[0].name, std::string("Bell/Cue 1"));
    QCOMPARE(made->regions[0].start, Frame{960});  // 882 at 44.1 kHz
    QCOMPARE(made->regions[0].length, Frame{480});
    QCOMPARE(made->regions[1].name, std::string("Bell/Loop 1"));
    QCOMPARE(made->regions[1].length, Frame{480});
    QCOMPARE(made->markerSets.size(), std::size_t{2});
    QCOMPARE(made->markerSets[0].markers[0].at, Frame{480});
    QCOMPARE(made->tempo.size(), std::size_t{4});
  }
};

QTEST_APPLESS_MAIN(ExchangeTest)
#include "tst_exchange.moc"
