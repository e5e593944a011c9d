// What is said of delivered files beside what others say of them: figures against ffprobe and ffmpeg, what
// changed since the last time against the samples; and what can happen while files are checked.
#include <QtTest>
#include <thread>

#include "base/decibels.h"
#include "check/check_folder.h"
#include "check/file_picture.h"
#include "check/read_behind.h"
#include "wav_bytes.h"

using namespace octaphon;
using test::cli;
using test::Ran;
using test::SessionMaker;
using test::WavBytes;

namespace {

/// Noise with little above 2 kHz, as sounds have: true peaks of white noise are nobody's.
test::Samples rumble(Frame frames, unsigned seed) {
  test::Samples samples = test::noise(2, frames, seed, 0.9);
  for (auto& channel : samples) {
    double level = 0;
    for (double& sample : channel)
      sample = std::round((level += 0.2 * (sample - level)) * (1 << 23)) / (1 << 23);
  }
  return samples;
}

/// Two tracks over two regions.
struct Delivery {
  QTemporaryDir dir;
  SessionMaker make{dir.path()};

  Delivery() {
    unsigned seed = 7;
    for (const char* id : {"gear", "chain"}) {
      make.medium(id, rumble(96000, seed++));
      make.track(id);
      make.clip(id, id, 0, 96000);
    }
    make.region("a", "Gate", 0, 60000);
    make.region("b", "Winch", 12000, 60000);
    Brief& brief = make.brief("Sounds");
    brief.what.tracks = Selection::everything();
    brief.names.format = "{region}_{source}";
    brief.heard.counts = Counts::EverythingHeard;
  }
  Brief& brief() { return make.session.briefs[0]; }
  QString out(const QString& file = {}) const { return dir.filePath("out/" + file); }
};

std::vector<QJsonObject> events(const Ran& ran, const QString& event) {
  std::vector<QJsonObject> found;
  for (const QByteArray& line : ran.out.split('\n'))
    if (const QJsonObject json = QJsonDocument::fromJson(line).object(); json["event"] == event)
      found.push_back(json);
  return found;
}
std::map<QString, QJsonObject> byFile(const std::vector<QJsonObject>& events) {
  std::map<QString, QJsonObject> found;
  for (const QJsonObject& event : events) found[event["file"].toString()] = event;
  return found;
}

/// A figure's value, as it is written.
QString figure(const QJsonObject& event, const QString& name) {
  for (const QJsonValue& value : event["figures"].toArray())
    if (value["name"] == name) return value["value"].toString();
  return {};
}
/// `−12.3 LUFS`
double numberIn(const QString& figure) {
  return figure.section(' ', 0, 0).replace(QChar(0x2212), '-').toDouble();
}

/// The line `  I:  -23.4 LUFS` of ffmpeg's summary.
double ffmpegSays(const QByteArray& summary, const char* name) {
  const qsizetype at = summary.lastIndexOf(name);
  return at < 0 ? qQNaN() : summary.mid(at + qstrlen(name)).trimmed().split(' ')[0].toDouble();
}

struct Difference {
  double db = 0;
  Frame at = 0;
};
/// By the samples of both, taken out of their bytes.
Difference differenceOf(const QString& a, const QString& b) {
  const auto one = WavBytes(a).samples(), other = WavBytes(b).samples();
  int most = 0;
  Difference difference;
  for (std::size_t i = 0; i < std::min(one[0].size(), other[0].size()); ++i)
    for (std::size_t c = 0; c < one.size(); ++c)
      if (const int apart = std::abs(one[c][i] - other[c][i]); apart > most)
        most = apart, difference.at = static_cast<Frame>(i);
  difference.db = 20 * std::log10(most / double{1 << 23});
  return difference;
}

}  // namespace

class ProofTest : public QObject {
  Q_OBJECT
 private slots:
  void figuresAreThoseOfOthers_data() {
    QTest::addColumn<int>("encoding");
    QTest::addColumn<int>("rate");
    const auto add = [](const char* name, Encoding encoding, int rate) {
      QTest::newRow(name) << static_cast<int>(encoding) << rate;
    };
    add("WAV 24 bit", Encoding::Pcm24, 48000);
    add("WAV 16 bit", Encoding::Pcm16, 44100);
    add("WAV float", Encoding::Float32, 96000);
    add("FLAC", Encoding::Flac24, 48000);
    add("Vorbis", Encoding::Vorbis, 48000);
    add("Opus", Encoding::Opus, 48000);
    add("MP3", Encoding::Mp3, 44100);
  }
  void figuresAreThoseOfOthers() {
    QFETCH(int, encoding);
    QFETCH(int, rate);
    Delivery delivery;
    delivery.brief().files.encoding = static_cast<Encoding>(encoding);
    delivery.brief().files.rate = rate;
    test::renderOf(delivery.make.save());
    const auto figures = byFile(events(cli({"check", delivery.out(), "--figures", "--json"}), "figures"));
    QCOMPARE(figures.size(), std::size_t{6});
    for (const auto& [name, event] : figures) {
      const QString file = delivery.out(name);
      const Ran probed = test::run("ffprobe", {"-v", "error", "-select_streams", "a:0", "-show_entries",
                                               "stream=sample_rate,channels", "-of", "csv=p=0", file});
      QCOMPARE(QStringList({figure(event, "rate").section(' ', 0, 0), figure(event, "channels")}).join(','),
               QString::fromUtf8(probed.out.trimmed()));
      const QByteArray decoded = test::run("ffmpeg", {"-v", "error", "-i", file, "-f", "f32le", "-"}).out;
      const Frame frames = decoded.size() / (4 * 2);
      // ffmpeg 5.1 leaves out half a block at the end of Vorbis, and begins MP3 elsewhere.
      const Frame most = encodingInfo(static_cast<Encoding>(encoding)).isLossy() ? 4608 : 0;
      QVERIFY(std::abs(figure(event, "length").section(' ', 0, 0).toLongLong() - frames) <= most);
      const QByteArray summary = test::run("ffmpeg", {"-hide_banner", "-nostats", "-i", file, "-af",
                                                      "ebur128=peak=true", "-f", "null", "-"})
                                     .err;
      QVERIFY(std::fabs(numberIn(figure(event, "loudness")) - ffmpegSays(summary, "I:")) <= 0.1);
      QVERIFY(std::fabs(numberIn(figure(event, "true-peak")) - ffmpegSays(summary, "Peak:")) <= 0.25);
    }
  }

  // ITU-R BS.1770: a sine of 997 Hz at 0 dBFS in one channel has −3.01 LUFS; two have twice the power. Its
  // frequency is in its band, and no other is louder.
  void pictures() {
    QTemporaryDir dir;
    const QString name = dir.filePath("sine.wav");
    test::writeSound(name, test::sine(2, 48000, 997, 0.5));
    const auto file = openRegular(name.toStdString());
    const std::atomic<bool> goesOn{false};
    const auto picture = pictureOf(file->get(), "sine", goesOn);
    QCOMPARE(picture->frames, Frame{48000});
    QCOMPARE(picture->momentary.size(), std::size_t{7});  // of 400 ms, from every 100 ms on
    for (const double lufs : picture->momentary) QVERIFY(std::fabs(lufs + 6.02) < 0.05);
    for (const auto& column : picture->columns) QVERIFY(column.high > 0.45 && column.low < -0.45);
    const auto spectrum = spectrogramOf(file->get(), "sine", goesOn);
    for (std::size_t column = 2; column + 2 < spectrum->columns; ++column) {
      std::size_t loudest = 0;
      for (std::size_t band = 0; band < Spectrogram::kBands; ++band)
        if (spectrum->levelDb(column, band) > spectrum->levelDb(column, loudest)) loudest = band;
      QVERIFY(spectrum->bandHz(static_cast<double>(loudest)) < 1020 &&
              spectrum->bandHz(static_cast<double>(loudest) + 1) > 975);
      QVERIFY(std::fabs(spectrum->levelDb(column, loudest) + 6.02) < 1.5);  // between two bins: Hann's 1.4 dB
    }
    const std::atomic<bool> ends{true};
    QCOMPARE(pictureOf(file->get(), "sine", ends).error().code, ErrorCode::Cancelled);
  }

  // What a run made otherwise than it was, by the samples; what only has other bytes; other names.
  void againstTheLastTime() {
    Delivery delivery;
    const QString session = delivery.make.save();
    const Ran first = cli({"render", session, "--check", "--json"});
    QCOMPARE(events(first, "checked").at(0)["files"].toInt(), 6);
    QVERIFY(events(first, "changed").empty());
    const QString last = delivery.dir.filePath("last/");
    QVERIFY(QDir().mkdir(last));
    for (const QString& file : QDir(delivery.out()).entryList(QDir::Files))
      QVERIFY(QFile::copy(delivery.out(file), last + file));
    delivery.make.session.tracks[0].gainDb = -3;
    delivery.make.session.regions[1].length += 480;
    const Ran again = cli({"render", delivery.make.save(), "--check", "--json"});
    QCOMPARE(again.exit, 0);
    const auto changed = byFile(events(again, "changed"));
    const auto before = byFile(events(cli({"check", delivery.out(), "--before", last, "--json"}), "changed"));
    QCOMPARE(changed.size(), std::size_t{5});  // Gate_chain stays as it is
    QCOMPARE(before.size(), changed.size());
    for (const auto& [file, event] : changed) {
      const Difference difference = differenceOf(delivery.out(file), last + file);
      if (file == "Winch_chain.wav") {  // in the part that both have it is the same
        QVERIFY(event["difference_db"].isNull());
      } else {
        QVERIFY(std::fabs(event["difference_db"].toDouble() - difference.db) < 0.001);
        QCOMPARE(event["at"].toInteger(), qint64{difference.at});
      }
      QCOMPARE(event["frames"].toInteger() - event["frames_before"].toInteger(),
               file.startsWith("Winch") ? 480 : 0);
      QCOMPARE(before.at(file)["difference_db"], event["difference_db"]);
      QVERIFY(!event["same_bytes"].toBool());
    }
    const auto same = events(cli({"render", session, "--all", "--check", "--json"}), "changed");
    QCOMPARE(same.size(), std::size_t{6});
    for (const QJsonObject& event : same) QVERIFY(event["same_bytes"].toBool());
  }

  void againstTheEditionBefore() {
    Delivery delivery;
    delivery.brief().names.format = "v{edition.version}/{region}_{source}";
    test::renderOf(delivery.make.save());
    const auto ask = [&] { return cli({"check", delivery.out(), "--changes", "--json"}); };
    QCOMPARE(ask().exit, 1);  // there is none before
    delivery.make.session.tracks[1].gainDb = -6;
    test::renderOf(delivery.make.save(), {"--new-edition"});
    const Ran ran = ask();
    QCOMPARE(ran.exit, 0);
    const auto changed = byFile(events(ran, "changed"));
    QCOMPARE(changed.size(), std::size_t{4});  // the layers of the other track are the same
    const QJsonObject& mix = changed.at("v2/Gate_mix.wav");
    QCOMPARE(mix["before"].toString(), QString("v1/Gate_mix.wav"));
    const Difference difference =
        differenceOf(delivery.out("v1/Gate_mix.wav"), delivery.out("v2/Gate_mix.wav"));
    QVERIFY(std::fabs(mix["difference_db"].toDouble() - difference.db) < 0.001);
  }

  // Files are damaged, go, or are written to while others are read: each is judged by what was there, and
  // nothing else is.
  void whileItIsChecked_data() {
    QTest::addColumn<bool>("goes");
    QTest::newRow("they go") << true;
    QTest::newRow("they are written to") << false;
  }
  void whileItIsChecked() {
    QFETCH(bool, goes);
    Delivery delivery;
    for (int i = 0; i < 60; ++i)
      delivery.make.region("r" + std::to_string(i), "Piece " + std::to_string(i), 100 * i, 30000);
    test::renderOf(delivery.make.save());
    const QStringList files = QDir(delivery.out()).entryList({"*.wav"});
    JobControl job;
    const CheckRequest request{.base = {delivery.out().toStdString()}};
    std::optional<Result<CheckReport>> report;
    std::thread checks([&] { report.emplace(checkFolder(request, &job)); });
    while (job.done < 5) std::this_thread::yield();
    QSet<QString> touched;
    for (const QString& file : files)
      if (file.contains("gear")) {
        touched << file;
        if (goes) {
          QFile::remove(delivery.out(file));
        } else {
          QFile open(delivery.out(file));
          if (open.open(QIODevice::Append)) open.write("late");
        }
      }
    checks.join();
    QVERIFY(report->has_value());
    QCOMPARE((*report)->files.size(), static_cast<std::size_t>(files.size()));
    for (const FileFinding& finding : (*report)->findings)
      QVERIFY2(touched.contains(QString::fromStdString(finding.file)), finding.text.c_str());
  }

  // What is replaced is held against its new file, though it has no name any more; it can be stopped, and
  // what cannot be read is not judged.
  void readBehind() {
    QTemporaryDir dir;
    const FolderPath base{dir.path().toStdString()};
    const auto sound = [&](const QString& name, unsigned seed) {
      test::writeSound(dir.filePath(name), test::noise(2, 9000, seed));
    };
    sound("a.wav", 1);
    const auto held = openRegular(dir.filePath("a.wav").toStdString());
    QVERIFY(QFile::remove(dir.filePath("a.wav")));
    sound("a.wav", 2);
    const auto replaced = std::make_shared<FileHandle>(::dup(held->get()));
    ReadBehind behind(1);
    behind.take({base, "a.wav", "k/1", {}, {}, true, replaced});
    behind.take({base, "a.wav", "k/1", {}, {}, true, replaced});  // once more, and no more are held
    behind.take({base, "a.wav", "k/1", {}, {}, true, nullptr});
    behind.take({base, "gone.wav", "k/2", {}, {}, false, nullptr});
    behind.take({base, "../a.wav", "k/3", {}, {}, false, nullptr});
    const ReadBehind::Outcome outcome = behind.finish();
    QCOMPARE(outcome.reads.at(base)->size(), std::size_t{3});
    QCOMPARE(outcome.notCompared, std::size_t{1});
    QCOMPARE(outcome.changes.size(), std::size_t{2});
    QVERIFY(outcome.changes[0].difference->peak > 0.1);
    QVERIFY(outcome.changes[0].replaced && !outcome.changes[1].replaced);
    ReadBehind stopped;
    stopped.job().isStopped = true;
    stopped.take({base, "a.wav", "k/1", {}, {}, false, nullptr});
    QVERIFY(stopped.finish().changes.empty());
    // A folder that has gone was to be read all the same: whoever checks it says so.
    ReadBehind lost;
    lost.take({{dir.filePath("gone").toStdString()}, "a.wav", "k/1", {}, {}, false, nullptr});
    QVERIFY(lost.finish().reads.begin()->second->has("a.wav"));
  }

  // What was read a moment ago counts only as long as the file stays as it was.
  void whatChangedSinceIsReadAgain() {
    Delivery delivery;
    test::renderOf(delivery.make.save());
    const FolderPath base{delivery.out().toStdString()};
    const auto folder = SafeFolder::open(base, false);
    auto reads = std::make_shared<ReadBacks>();
    reads->read(*folder, "Gate_gear.wav", {});
    CheckRequest request{.base = base};
    request.reads = reads;
    QCOMPARE(checkFolder(request)->findings.size(), std::size_t{0});
    WavBytes wav(delivery.out("Gate_gear.wav"));
    wav.chunk("data").fill('\0');
    wav.save();
    const auto report = checkFolder(request);
    QCOMPARE(report->findings.size(), std::size_t{1});
    QCOMPARE(report->findings[0].code, FindingCode::Silent);
  }

  // Formats have orders of their own for six channels (Vorbis I, 4.3.9; RFC 7845, 5.1.1.2): each is found
  // where it was written to.
  void sixChannels_data() {
    QTest::addColumn<int>("encoding");
    for (const Encoding encoding : {Encoding::Pcm24, Encoding::Flac24, Encoding::Vorbis, Encoding::Opus})
      QTest::addRow("%s", std::string(encodingInfo(encoding).name).c_str()) << static_cast<int>(encoding);
  }
  void sixChannels() {
    QFETCH(int, encoding);
    QTemporaryDir dir;
    SessionMaker make(dir.path());
    make.session.main.channels = 6;
    test::Samples samples = rumble(48000, 5);
    for (double level : {0.7, 0.5, 0.3, 0.2}) {
      samples.push_back(rumble(48000, static_cast<unsigned>(level * 100))[0]);
      for (double& sample : samples.back()) sample = std::round(sample * level * (1 << 23)) / (1 << 23);
    }
    make.medium("room", samples);
    make.track("room", 6);
    make.clip("room", "room", 0, 48000);
    make.region("a", "Hall", 0, 40000);
    Brief& brief = make.brief("Rooms");
    brief.what.mix = true;
    brief.files.encoding = static_cast<Encoding>(encoding);
    brief.heard.counts = Counts::EverythingHeard;
    brief.names.format = "{region}";
    test::renderOf(make.save());
    const QString file = dir.filePath("out/" + QDir(dir.filePath("out")).entryList({"Hall.*"}).value(0));
    const Ran probed =
        test::run("ffprobe", {"-v", "error", "-show_entries", "stream=channels", "-of", "csv=p=0", file});
    QCOMPARE(probed.out.trimmed(), "6");
    // Without the hash the figures alone tell.
    const QString receipt = dir.filePath("out/octaphon-receipt.jsonl");
    QByteArray lines = test::bytesOf(receipt);
    lines.replace("\"hash\"", "\"gone\"");
    QFile anew(receipt);
    QVERIFY(anew.open(QIODevice::WriteOnly));
    anew.write(lines);
    anew.close();
    const Ran well = cli({"check", dir.filePath("out"), "--json"});
    QVERIFY2(well.exit == 0, well.out);
    if (static_cast<Encoding>(encoding) != Encoding::Pcm24) return;
    WavBytes wav(file);
    wav.changeSamples([](const auto& all, std::size_t c, std::size_t i) {
      return all[c == 2 ? 3 : c == 3 ? 2 : c][i];
    });
    wav.save();
    const auto found = events(cli({"check", dir.filePath("out"), "--json"}), "finding");
    QCOMPARE(found.at(0)["code"].toString(), QString("channels-swapped"));
  }

  void leftAndRightTheSame() {
    Delivery delivery;
    test::renderOf(delivery.make.save());
    WavBytes wav(delivery.out("Gate_gear.wav"));
    wav.changeSamples([](const auto& all, std::size_t, std::size_t i) { return all[0][i]; });
    wav.save();
    const auto found = events(cli({"check", delivery.out(), "--json"}), "finding");
    QCOMPARE(found.at(0)["code"].toString(), QString("equal-channels"));
  }

  // Killed, or without memory, it has done nothing to what it reads.
  void killedAndStarved() {
    Delivery delivery;
    for (int i = 0; i < 40; ++i)
      delivery.make.region("r" + std::to_string(i), "Piece " + std::to_string(i), 137 * (i + 1), 30000);
    test::renderOf(delivery.make.save());
    const auto before = test::contentsOf(delivery.out());
    const QStringList receipt = test::receiptOf(delivery.out());
    QProcess process;
    process.start(OCTAPHON_CLI_PATH, {"check", delivery.out(), "--json"});
    QVERIFY(process.waitForStarted());
    process.kill();
    QVERIFY(process.waitForFinished());
    for (const char* bytes : {"60000000", "90000000", "150000000", "400000000"}) {
      const Ran ran = test::run(
          "prlimit", {"--as=" + QString(bytes), OCTAPHON_CLI_PATH, "check", delivery.out(), "--json"});
      const bool isDone = events(ran, "done").size() == 1;
      QVERIFY2(isDone || ran.err.contains("not enough memory") || ran.err.contains("loading"), ran.err);
      QVERIFY(ran.exit != 0 || isDone);
      for (const QJsonObject& found : events(ran, "finding"))
        QVERIFY2(found["code"] == "unreadable", qPrintable(found["text"].toString()));
    }
    QCOMPARE(test::contentsOf(delivery.out()), before);
    QCOMPARE(test::receiptOf(delivery.out()), receipt);
  }
};

QTEST_GUILESS_MAIN(ProofTest)
#include "tst_proof.moc"
