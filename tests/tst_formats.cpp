// Every format as others read it: rate, channels and their order, length, tags, places; and what is refused.
#include <cmath>
#include <QCryptographicHash>
#include <QDir>
#include <QRegularExpression>

#include "base/safe_folder.h"
#include "base/unicode.h"
#include "formats/file_facts.h"
#include "formats/planned_facts.h"
#include "formats/refusals.h"
#include "support.h"
#include "write/encoder.h"

using namespace octaphon;
using namespace octaphon::test;

namespace {

constexpr Frame kFrames = 30'011;  // fills no block of any encoder
/// A tone of its own in each of our channels; what stands where a low channel is, is low: it is filtered.
constexpr double kTones[8]{440, 660, 880, 60, 1100, 1320, 1540, 1760};

double toneAt(int channel, Frame frame, int rate) {
  return 0.2 * std::sin(2 * M_PI * kTones[channel] * static_cast<double>(frame) / rate);
}

FileData fullData() {
  FileData data;
  data.timeReference = 158'760'000;
  data.text(Tag::Title) = "Tide — 波 №1";
  data.text(Tag::Artist) = "Æther & Söhne";
  data.text(Tag::Album) = "Tidewheel";
  data.text(Tag::Comment) = "two\nlines";
  data.text(Tag::Credit) = "© the harbour workshop";
  data.text(Tag::Keywords) = "quay, wind, ключ";
  data.text(Tag::Category) = "AMB";
  data.text(Tag::Tempo) = "128.5";
  data.text(Tag::Key) = "Dm";
  data.text(Tag::Isrc) = "QZTID2600001";
  data.text(Tag::Description) = "Größe: a tide";
  data.text(Tag::Originator) = "Octaphon";
  data.text(Tag::Project) = "Tidewheel";
  data.text(Tag::Note) = "take < 3 & \"more\"";
  data.facts = {{"place", "Kai 3"}, {"Stärke", "ruhig"}};
  data.date = "2026-03-01";
  data.rowMark = "0123456789abcdef";
  data.madeMark = "fedcba9876543210";
  data.channelNames = {"Wheel L", "Wheel R"};
  data.marks = {{480, 0, "first", {}}, {4800, 2400, "Länge", {}}, {24'000, 0, "last", {}}};
  data.loop = FileLoop{4800, 28'800};
  data.loopComments = true;
  return data;
}

class Files {
 public:
  explicit Files(const QString& path) : path_(path), folder_(*SafeFolder::open(path.toStdString(), true)) {}
  QString path(const QString& name) const { return path_ + "/" + name; }

  /// Tones of all channels, in blocks of odd sizes.
  Result<WrittenSound> write(const QString& name, const FileForm& form, const FileData& data,
                             Frame frames = kFrames) const {
    OCTAPHON_ASSIGN(PendingFile file, folder_.create(name.toStdString()));
    OCTAPHON_ASSIGN(const auto encoder, openEncoder(file, form, data, "row"));
    const EncodingInfo& info = encodingInfo(form.encoding);
    const auto count = static_cast<std::size_t>(form.channels);
    constexpr Frame kBlock = 1777;
    std::vector<std::vector<float>> sound(count, std::vector<float>(kBlock));
    std::vector<std::vector<std::int32_t>> whole(count, std::vector<std::int32_t>(kBlock));
    std::vector<const float*> floats;
    std::vector<const std::int32_t*> integers;
    for (std::size_t c = 0; c < count; ++c) {
      floats.push_back(sound[c].data());
      integers.push_back(whole[c].data());
    }
    for (Frame at = 0; at < frames; at += kBlock) {
      const Frame size = std::min(kBlock, frames - at);
      for (std::size_t c = 0; c < count; ++c)
        for (Frame i = 0; i < size; ++i) {
          const double value = toneAt(static_cast<int>(c), at + i, form.rate);
          sound[c][static_cast<std::size_t>(i)] = static_cast<float>(value);
          whole[c][static_cast<std::size_t>(i)] =
              static_cast<std::int32_t>(std::lround(std::ldexp(value, info.bits - 1)));
        }
      OCTAPHON_TRY(info.isInteger ? encoder->write(integers.data(), size)
                                  : encoder->write(floats.data(), size));
    }
    OCTAPHON_ASSIGN(const WrittenSound written, encoder->finish(data));
    OCTAPHON_TRY(file.publish(true));
    return written;
  }

 private:
  QString path_;
  SafeFolder folder_;
};

QJsonObject probe(const QString& file) {
  const Ran ran =
      run("ffprobe", {"-v", "error", "-show_streams", "-show_format", "-show_chapters", "-of", "json", file});
  return QJsonDocument::fromJson(ran.out).object();
}

/// By channel, as ffmpeg decodes it.
Samples decoded(const QString& file, int channels) {
  const Ran ran = run("ffmpeg", {"-v", "error", "-i", file, "-f", "f32le", "-"});
  const auto* values = reinterpret_cast<const float*>(ran.out.constData());
  const auto count = static_cast<std::size_t>(ran.out.size()) / sizeof(float);
  Samples samples(static_cast<std::size_t>(channels));
  for (std::size_t i = 0; i < count; ++i)
    samples[i % samples.size()].push_back(static_cast<double>(values[i]));
  return samples;
}

/// Which of the tones is loudest.
int toneIn(const std::vector<double>& samples, int rate) {
  int loudest = 0;
  double most = -1;
  for (int tone = 0; tone < 8; ++tone) {
    double re = 0, im = 0;
    for (std::size_t i = 0; i < samples.size(); ++i) {
      const double angle = 2 * M_PI * kTones[tone] * static_cast<double>(i) / rate;
      re += samples[i] * std::cos(angle);
      im += samples[i] * std::sin(angle);
    }
    if (re * re + im * im > most) {
      most = re * re + im * im;
      loudest = tone;
    }
  }
  return loudest;
}

Frame framesBySox(const QString& file) { return run("sox", {"--i", "-s", file}).out.trimmed().toLongLong(); }

/// As a program that is not ffmpeg counts them.
Frame framesElsewhere(const QString& file, Encoding encoding) {
  const QString wav = file + ".decoded.wav";
  switch (encoding) {
    case Encoding::Flac16:
    case Encoding::Flac24: return run("metaflac", {"--show-total-samples", file}).out.trimmed().toLongLong();
    case Encoding::Vorbis: run("oggdec", {"-Q", file, "-o", wav}); return framesBySox(wav);
    case Encoding::Opus:
      run("opusdec", {"--quiet", "--force-wav", "--rate", "48000", file, wav});
      return framesBySox(wav);
    case Encoding::Mp3: run("lame", {"--quiet", "--decode", file, wav}); return framesBySox(wav);
    default: return framesBySox(file);
  }
}

QJsonObject mutagenTags(const QString& file) {
  const Ran ran = run("/usr/bin/python3", {OCTAPHON_SOURCE "/tests/tags_by_mutagen.py", file});
  return QJsonDocument::fromJson(ran.out).object();
}

QString nameFor(const FileForm& form) {
  const EncodingInfo& info = encodingInfo(form.encoding);
  return QString("%1-%2-%3%4")
      .arg(info.name.data())
      .arg(form.channels)
      .arg(form.rate)
      .arg(QString::fromStdString(std::string(info.extension)));
}

std::uint64_t littleAt(const QByteArray& bytes, qsizetype at, int count) {
  std::uint64_t value = 0;
  for (int i = count - 1; i >= 0; --i) value = value << 8 | static_cast<unsigned char>(bytes[at + i]);
  return value;
}

}  // namespace

class TestFormats : public QObject {
  Q_OBJECT

  QTemporaryDir room_;
  Files files_{room_.path()};

 private slots:
  void everyFormat_data() {
    QTest::addColumn<int>("encoding");
    QTest::addColumn<int>("channels");
    QTest::addColumn<int>("rate");
    for (const EncodingInfo& info : kEncodings)
      for (const int channels : {1, 2, 4, 6, 8}) {
        if (channels > info.mostChannels) continue;
        const int rate = info.encoding == Encoding::Mp3 || info.rates.empty() ? 44100 : 48000;
        QTest::addRow("%s, %d channels", info.name.data(), channels)
            << static_cast<int>(info.encoding) << channels << rate;
      }
    QTest::addRow("opus, 24 kHz") << static_cast<int>(Encoding::Opus) << 2 << 24000;
    QTest::addRow("vorbis, 96 kHz") << static_cast<int>(Encoding::Vorbis) << 2 << 96000;
    QTest::addRow("mp3, 22.05 kHz") << static_cast<int>(Encoding::Mp3) << 1 << 22050;
    QTest::addRow("flac, 192 kHz") << static_cast<int>(Encoding::Flac24) << 2 << 192000;
    QTest::addRow("flac, 11.025 kHz") << static_cast<int>(Encoding::Flac16) << 1 << 11025;
    QTest::addRow("aiff, 96 kHz") << static_cast<int>(Encoding::Aiff24) << 2 << 96000;
  }
  /// Rate, channels, each in its place, and length to the frame, by two readers.
  void everyFormat() {
    QFETCH(int, encoding);
    QFETCH(int, channels);
    QFETCH(int, rate);
    const FileForm form{static_cast<Encoding>(encoding), channels, rate};
    const QString name = nameFor(form);
    const auto written = files_.write(name, form, fullData());
    QVERIFY2(written.has_value(), written ? "" : written.error().describe().c_str());
    QCOMPARE(written->frames, kFrames);
    const QString file = files_.path(name);
    QCOMPARE(*digestOf(openRegular(file.toStdString())->get(), "file", written->head), written->content);
    // Opus is played at 48 kHz (RFC 7845, 5.1).
    const bool isOpus = form.encoding == Encoding::Opus;
    const int playedAt = isOpus ? 48000 : rate;
    const Frame played = isOpus ? kFrames * (48000 / rate) : kFrames;
    const QJsonObject stream = probe(file)["streams"].toArray()[0].toObject();
    QCOMPARE(stream["sample_rate"].toString().toInt(), playedAt);
    QCOMPARE(stream["channels"].toInt(), channels);
    const Samples samples = decoded(file, channels);
    for (int c = 0; c < channels; ++c) {
      // ffmpeg 5.1 leaves out half a block at the end of Vorbis, of oggenc's files too.
      const Frame slack = form.encoding == Encoding::Vorbis ? 128 : 0;
      QVERIFY(std::abs(static_cast<Frame>(samples[static_cast<std::size_t>(c)].size()) - played) <= slack);
      QCOMPARE(toneIn(samples[static_cast<std::size_t>(c)], playedAt), c);
    }
    QCOMPARE(framesElsewhere(file, form.encoding), played);
    const auto facts = readFileFacts(file.toStdString());
    QVERIFY(facts.has_value());
    QCOMPARE(facts->container, form.container());
    QCOMPARE(facts->encoding, std::string(encodingInfo(form.encoding).name));
    QCOMPARE(facts->rate, playedAt);
    QCOMPARE(facts->channels, channels);
    QCOMPARE(*facts->frames, played);
    QVERIFY(!facts->isEstimated);
  }

  /// What was written comes out: samples of lossless files to the bit, and both of all of them alike.
  void losslessToTheBit() {
    for (const Encoding encoding : {Encoding::Pcm16, Encoding::Flac16, Encoding::Aiff16}) {
      const FileForm form{encoding, 2, 48000};
      QVERIFY(files_.write(nameFor(form), form, fullData()));
    }
    const auto raw = [&](Encoding encoding) {
      return run("ffmpeg",
                 {"-v", "error", "-i", files_.path(nameFor({encoding, 2, 48000})), "-f", "s16le", "-"})
          .out;
    };
    const QByteArray first = raw(Encoding::Pcm16);
    QCOMPARE(first.size(), qsizetype{kFrames * 4});
    QVERIFY(raw(Encoding::Flac16) == first && raw(Encoding::Aiff16) == first);
    // The checksum of FLAC is that of its samples (RFC 9639, 8.2).
    const QString flac = files_.path(nameFor({Encoding::Flac16, 2, 48000}));
    QCOMPARE(run("metaflac", {"--show-md5sum", flac}).out.trimmed(),
             QCryptographicHash::hash(first, QCryptographicHash::Md5).toHex());
    QCOMPARE(run("flac", {"-t", "-s", flac}).exit, 0);
  }

  void commentsInFlacOggOpus_data() {
    QTest::addColumn<int>("encoding");
    for (const Encoding encoding : {Encoding::Flac24, Encoding::Vorbis, Encoding::Opus})
      QTest::addRow("%s", encodingInfo(encoding).name.data()) << static_cast<int>(encoding);
  }
  /// Letter by letter. Names: Xiph.Org's recommendation, and practice.
  void commentsInFlacOggOpus() {
    QFETCH(int, encoding);
    const FileForm form{static_cast<Encoding>(encoding), 2, 48000};
    const QString file = files_.path("tags-" + nameFor(form));
    QVERIFY(files_.write("tags-" + nameFor(form), form, fullData()));
    const QJsonObject tags = mutagenTags(file);
    const std::vector<std::pair<const char*, const char*>> expected{{"TITLE", "Tide — 波 №1"},
                                                                    {"ARTIST", "Æther & Söhne"},
                                                                    {"ALBUM", "Tidewheel"},
                                                                    {"COMMENT", "two\nlines"},
                                                                    {"COPYRIGHT", "© the harbour workshop"},
                                                                    {"KEYWORDS", "quay, wind, ключ"},
                                                                    {"GENRE", "AMB"},
                                                                    {"BPM", "128.5"},
                                                                    {"KEY", "Dm"},
                                                                    {"ISRC", "QZTID2600001"},
                                                                    {"DATE", "2026-03-01"},
                                                                    {"PLACE", "Kai 3"},
                                                                    {"STARKE", "ruhig"},
                                                                    {"OCTAPHON_ROW", "0123456789abcdef"},
                                                                    {"LOOPSTART", "4800"},
                                                                    {"LOOPLENGTH", "24000"}};
    for (const auto& [name, value] : expected) QCOMPARE(tags[name].toString(), QString(value));
    if (form.encoding != Encoding::Flac24) {
      QCOMPARE(run("oggz-validate", {file}).exit, 0);
      const QJsonArray chapters = probe(file)["chapters"].toArray();
      QCOMPARE(chapters.size(), 3);
      QCOMPARE(chapters[1].toObject()["start_time"].toString().toDouble(), 0.1);
      QCOMPARE(chapters[1].toObject()["tags"].toObject()["title"].toString(), QString("Länge"));
    }
  }

  /// ID3v2.4 in MP3, and in a chunk of WAV and AIFF.
  void id3() {
    for (const Encoding encoding : {Encoding::Mp3, Encoding::Pcm24, Encoding::Aiff24}) {
      const FileForm form{encoding, 2, 48000};
      const QString file = files_.path("id3-" + nameFor(form));
      QVERIFY(files_.write("id3-" + nameFor(form), form, fullData()));
      const QJsonObject tags = mutagenTags(file);
      const std::vector<std::pair<const char*, const char*>> expected{
          {"TIT2", "Tide — 波 №1"},
          {"TPE1", "Æther & Söhne"},
          {"TCOP", "© the harbour workshop"},
          {"TBPM", "129"},
          {"TXXX:TEMPO", "128.5"},
          {"TKEY", "Dm"},
          {"TSRC", "QZTID2600001"},
          {"TDRC", "2026-03-01"},
          {"TXXX:Stärke", "ruhig"},
          {"COMM::eng", "two\nlines"},
          {"TXXX:OCTAPHON_ROW", "0123456789abcdef"}};
      for (const auto& [name, value] : expected) QCOMPARE(tags[name].toString(), QString(value));
      if (encoding != Encoding::Mp3) continue;
      const QJsonArray chapter = tags["CHAP:chp2"].toArray();
      QCOMPARE(chapter[0].toInt(), 100);
      QCOMPARE(chapter[1].toInt(), 150);
      QCOMPARE(chapter[2].toString(), QString("Länge"));
    }
  }

  /// EBU Tech 3285 v2: places and sizes of its fields; loudness that is not set is 0x7FFF.
  void broadcastByteByByte() {
    const FileForm form{Encoding::Pcm24, 2, 48000};
    QVERIFY(files_.write("bext.wav", form, fullData()));
    const QByteArray bytes = bytesOf(files_.path("bext.wav"));
    const qsizetype at = bytes.indexOf("bext");
    QCOMPARE(at, 12);
    QCOMPARE(littleAt(bytes, at + 4, 4), 602u);
    const QByteArray bext = bytes.mid(at + 8, 602);
    const auto text = [&](int from, int size) { return QByteArray(bext.mid(from, size).constData()); };
    QCOMPARE(text(0, 256), QByteArray("Grosse: a tide"));  // in ASCII
    QCOMPARE(text(256, 32), QByteArray("Octaphon"));
    QCOMPARE(text(288, 32), QByteArray("0123456789abcdef"));
    QCOMPARE(text(320, 10), QByteArray("2026-03-01"));
    QCOMPARE(text(330, 8), QByteArray("00:00:00"));
    QCOMPARE(littleAt(bext, 338, 8), 158'760'000u);
    QCOMPARE(littleAt(bext, 346, 2), 2u);
    QCOMPARE(bext.mid(348, 64), QByteArray(64, '\0'));
    for (int i = 0; i < 5; ++i) QCOMPARE(littleAt(bext, 412 + 2 * i, 2), 0x7FFFu);
    QCOMPARE(bext.mid(422), QByteArray(180, '\0'));
    // What others make of it, and of LIST INFO.
    const QJsonObject tags = probe(files_.path("bext.wav"))["format"].toObject()["tags"].toObject();
    QCOMPARE(tags["time_reference"].toString(), QString("158760000"));
    QCOMPARE(tags["title"].toString(), QString("Tide — 波 №1"));
    QVERIFY(run("mediainfo", {files_.path("bext.wav")}).out.contains("2026-03-01 00:00:00"));
  }

  /// EBU Tech 3306: `ds64` first, sizes of 32 bits all set, and the true ones in it.
  void rf64ByBytes() {
    FileForm form{Encoding::Pcm24, 2, 48000};
    form.isLarge = true;
    QVERIFY(files_.write("large.wav", form, fullData()));
    const QByteArray bytes = bytesOf(files_.path("large.wav"));
    QCOMPARE(bytes.left(4), QByteArray("RF64"));
    QCOMPARE(littleAt(bytes, 4, 4), 0xFFFFFFFFu);
    QCOMPARE(bytes.mid(8, 8), QByteArray("WAVEds64"));
    QCOMPARE(littleAt(bytes, 16, 4), 28u);
    QCOMPARE(littleAt(bytes, 20, 8), static_cast<std::uint64_t>(bytes.size()) - 8);
    QCOMPARE(littleAt(bytes, 28, 8), static_cast<std::uint64_t>(kFrames * 6));
    QCOMPARE(littleAt(bytes, 36, 8), static_cast<std::uint64_t>(kFrames));
    const qsizetype data = bytes.indexOf("data", 40);
    QCOMPARE(littleAt(bytes, data + 4, 4), 0xFFFFFFFFu);
    QCOMPARE(static_cast<Frame>(decoded(files_.path("large.wav"), 2)[0].size()), kFrames);
    QCOMPARE(static_cast<Frame>(readSound(files_.path("large.wav"))[0].size()), kFrames);  // libsndfile
    QCOMPARE(readFileFacts(files_.path("large.wav").toStdString())->container, Container::Rf64);
    QVERIFY(!needsRf64(form, 700'000'000) && needsRf64(form, 716'000'000));
  }

  /// Places at their frames, where readers look for them.
  void marksAndLoops() {
    const FileForm wav{Encoding::Pcm16, 2, 44100}, aiff{Encoding::Aiff16, 2, 44100},
        flac{Encoding::Flac16, 2, 44100};
    for (const FileForm& form : {wav, aiff, flac})
      QVERIFY(files_.write("places-" + nameFor(form), form, fullData()));
    const QByteArray said = run("sndfile-info", {files_.path("places-" + nameFor(wav))}).out;
    for (const char* text : {"Pos :\\s+480 ", "Pos :\\s+4800 ", "Pos :\\s+24000 ", "labl : 2 : Länge"})
      QVERIFY2(QRegularExpression(text).match(QString::fromUtf8(said)).hasMatch(), said.constData());
    QVERIFY(QRegularExpression("Start :\\s+4800\\s+End :\\s+28799")
                .match(said)
                .hasMatch());  // the last one played
    const QByteArray aiffSaid = run("sndfile-info", {files_.path("places-" + nameFor(aiff))}).out;
    for (const char* text : {"Position : 480", "Position : 24000", "loop start", "mode  : 801 => forward"})
      QVERIFY2(aiffSaid.contains(text), text);
    // Chunks of RIFF as application blocks (RFC 9639, 8.4 and 12.2).
    const QByteArray blocks =
        run("metaflac", {"--list", "--block-type=APPLICATION", files_.path("places-" + nameFor(flac))}).out;
    QCOMPARE(blocks.count("application ID: 72696666"), 5);  // bext, smpl, cue, adtl, iXML
    const QByteArray bytes = bytesOf(files_.path("places-" + nameFor(flac)));
    const qsizetype smpl = bytes.indexOf("riffsmpl");
    QCOMPARE(littleAt(bytes, smpl + 8 + 4 + 44, 4), 4800u);
    QCOMPARE(littleAt(bytes, smpl + 8 + 4 + 48, 4), 28'799u);
  }

  void readBack_data() { everyFormat_data(); }
  /// What is read is what was written, as far as the format has a place; and just that was foretold.
  void readBack() {
    QFETCH(int, encoding);
    QFETCH(int, channels);
    QFETCH(int, rate);
    const FileForm form{static_cast<Encoding>(encoding), channels, rate};
    const EncodingInfo& info = encodingInfo(form.encoding);
    const FileData data = fullData();
    const auto facts = readFileFacts(files_.path(nameFor(form)).toStdString());
    QVERIFY(facts && facts->container);
    QCOMPARE(facts->rowMark(), data.rowMark);
    QCOMPARE(facts->madeMark(), data.madeMark);
    std::map<std::string, std::string> tags;
    for (const auto& [name, value] : facts->tags()) tags[name] = value;
    for (const Tag tag :
         {Tag::Title, Tag::Artist, Tag::Tempo, Tag::Key, Tag::Isrc, Tag::Comment, Tag::Credit})
      QCOMPARE(tags[std::string(tagInfo(tag).name)], data.text(tag));
    QCOMPARE(tags["date"], data.date);
    const Frame scale = form.encoding == Encoding::Opus ? 48000 / rate : 1;
    QCOMPARE(facts->marks.size(), data.marks.size());
    for (std::size_t i = 0; i < data.marks.size(); ++i) {
      const Frame slack = info.container == Container::Mp3 ? atRate(1, 1000, rate) : 0;
      QVERIFY(std::abs(facts->marks[i].at - scale * data.marks[i].at) <= slack);
      QCOMPARE(facts->marks[i].label, data.marks[i].label);
    }
    QCOMPARE(facts->loops, (std::vector<FileLoop>{{4800 * scale, 28'800 * scale}}));
    if (info.container != Container::Aiff) QCOMPARE(*facts->timeReference, data.timeReference * scale);
    FileFacts planned = plannedFacts(form, data);
    std::erase_if(planned.texts, [](const FileText& text) { return text.name == "vendor"; });
    std::vector<FileText> texts = facts->texts;
    std::erase_if(texts, [](const FileText& text) { return text.name == "vendor"; });
    QCOMPARE(texts.size(), planned.texts.size());
    QVERIFY(texts == planned.texts);
    QVERIFY(facts->marks == planned.marks && facts->loops == planned.loops);
  }

  void otherData_data() {
    QTest::addColumn<int>("encoding");
    QTest::addColumn<int>("channels");
    QTest::addColumn<int>("rate");
    for (const EncodingInfo& info : kEncodings)
      QTest::addRow("%s", info.name.data()) << static_cast<int>(info.encoding) << 2 << 48000;
  }
  /// Another text: the sound stays to the bit, whatever the heads' lengths; and back again gives the same
  /// file.
  void otherData() {
    QFETCH(int, encoding);
    QFETCH(int, channels);
    QFETCH(int, rate);
    const FileForm form{static_cast<Encoding>(encoding), channels, rate};
    FileData small = fullData(), large = fullData();
    for (int i = 0; i < 5000; ++i)
      large.marks.push_back({24'000 + i % 5000, 0, "mark " + std::to_string(i), {}});
    large.text(Tag::Note) = std::string(100'000, 'n');  // 100 kB of iXML
    large.text(Tag::Comment) = std::string(70'000, 'c');
    const QString one = "one-" + nameFor(form), two = "two-" + nameFor(form), back = "back-" + nameFor(form);
    const auto written = files_.write(one, form, small);
    QVERIFY(written.has_value());
    const SafeFolder folder = *SafeFolder::open(room_.path().toStdString(), true);
    const auto rewritten = [&](const QString& from, const WrittenSound& sound, const FileData& data,
                               const QString& to) {
      const auto open = folder.openFile(from.toStdString());
      auto file = folder.create(to.toStdString());
      const auto anew = rewrite(open->get(), {form, sound.frames, sound.head}, data, *file);
      if (anew && !file->publish(true)) return Result<WrittenSound>(fail(ErrorCode::NotWritable, "file"));
      return anew;
    };
    const auto isSame = [&](const QString& name, const WrittenSound& sound, const FileData& data) {
      return saysTheSame(folder.openFile(name.toStdString())->get(), {form, sound.frames, sound.head}, data);
    };
    const auto second = rewritten(one, *written, large, two);
    QVERIFY2(second.has_value(), second ? "" : second.error().describe().c_str());
    QVERIFY(isSame(one, *written, small) && !isSame(one, *written, large) && isSame(two, *second, large));
    const auto facts = readFileFacts(files_.path(two).toStdString());
    QVERIFY(facts && facts->marks.size() == 5003);
    for (const auto& [name, value] : facts->tags())
      if (name == "comment") QCOMPARE(value.size(), 70'000u);
    QVERIFY(decoded(files_.path(two), channels) == decoded(files_.path(one), channels));
    if (form.container() == Container::Ogg) QCOMPARE(run("oggz-validate", {files_.path(two)}).exit, 0);
    if (form.container() == Container::Flac) QCOMPARE(run("flac", {"-t", "-s", files_.path(two)}).exit, 0);
    const auto third = rewritten(two, *second, small, back);
    QVERIFY(third.has_value());
    QCOMPARE(third->content, written->content);
    QVERIFY(bytesOf(files_.path(back)) == bytesOf(files_.path(one)));
  }

  /// A head that grows while the sound is written: what it said at first had less room.
  void headGrows() {
    const SafeFolder folder = *SafeFolder::open(room_.path().toStdString(), true);
    for (const Encoding encoding : {Encoding::Flac24, Encoding::Vorbis, Encoding::Opus, Encoding::Mp3}) {
      const FileForm form{encoding, 2, 48000};
      FileData planned, said = fullData();
      said.text(Tag::Comment) = std::string(150'000, 'x');  // more pages of Ogg
      auto file = folder.create("grown");
      const auto encoder = openEncoder(*file, form, planned, "row");
      QVERIFY(encoder.has_value());
      const std::vector<float> tone(48'000, 0.1f);
      const std::vector<std::int32_t> whole(48'000, 1000);
      const float* floats[]{tone.data(), tone.data()};
      const std::int32_t* integers[]{whole.data(), whole.data()};
      QVERIFY(encodingInfo(encoding).isInteger ? (*encoder)->write(integers, 48'000)
                                               : (*encoder)->write(floats, 48'000));
      const auto written = (*encoder)->finish(said);
      QVERIFY(written.has_value());
      QVERIFY(file->publish(true));
      const QString path = files_.path("grown");
      QCOMPARE(framesElsewhere(path, encoding), Frame{48'000});
      QCOMPARE(readFileFacts(path.toStdString())->rowMark(), said.rowMark);
      QCOMPARE(*digestOf(openRegular(path.toStdString())->get(), "file", written->head), written->content);
      if (form.container() == Container::Ogg) QCOMPARE(run("oggz-validate", {path}).exit, 0);
    }
  }

  /// No chance: the same bytes twice.
  void sameBytes() {
    for (const EncodingInfo& info : kEncodings) {
      const FileForm form{info.encoding, 2, 48000};
      QVERIFY(files_.write("first", form, fullData()));
      QVERIFY(files_.write("second", form, fullData()));
      QVERIFY2(bytesOf(files_.path("first")) == bytesOf(files_.path("second")), info.name.data());
    }
  }

  void refused_data() {
    QTest::addColumn<QString>("encoding");
    QTest::addColumn<int>("channels");
    QTest::addColumn<int>("rate");
    QTest::addColumn<int>("bitRate");
    QTest::addColumn<Frame>("frames");
    QTest::addColumn<bool>("lap");
    QTest::addColumn<int>("why");  // −1: it goes
    const auto add = [](const char* encoding, int channels, int rate, int why, int bitRate = 0,
                        Frame frames = 48'000, bool lap = false) {
      QTest::addRow("%s %d ch %d Hz %d kbit/s %lld %s", encoding, channels, rate, bitRate,
                    static_cast<long long>(frames), lap ? "lap" : "")
          << encoding << channels << rate << bitRate << frames << lap << why;
    };
    const auto rate = static_cast<int>(RefusalKind::Rate), channels = static_cast<int>(RefusalKind::Channels),
               length = static_cast<int>(RefusalKind::Length),
               bitRate = static_cast<int>(RefusalKind::BitRate),
               seamless = static_cast<int>(RefusalKind::Seamless);
    // RFC 6716, 2: five rates.
    for (const int hertz : {8000, 12000, 16000, 24000, 48000}) add("opus", 2, hertz, -1);
    for (const int hertz : {11025, 22050, 32000, 44100, 88200, 96000, 176400, 192000})
      add("opus", 2, hertz, rate);
    // ISO 11172-3, 13818-3, and MPEG 2.5.
    for (const int hertz : {8000, 11025, 12000, 16000, 22050, 24000, 32000, 44100, 48000})
      add("mp3", 2, hertz, -1);
    for (const int hertz : {88200, 96000, 176400, 192000}) add("mp3", 2, hertz, rate);
    for (const char* any : {"pcm8", "pcm16", "pcm24", "pcm32", "float32", "flac16", "flac24", "vorbis"})
      for (const int hertz : {8000, 44100, 192000}) add(any, 8, hertz, -1);
    for (const char* narrow : {"mp3", "aiff16", "aiff24", "aiff-float32"})
      for (const int count : {4, 6, 8}) add(narrow, count, 48000, channels);
    for (const char* narrow : {"mp3", "aiff16", "aiff24", "aiff-float32"}) add(narrow, 1, 48000, -1);
    // ISO 11172-3, table of bit rates; 13818-3 for the lower rates.
    for (const int rates : {32, 128, 320}) add("mp3", 2, 44100, -1, rates);
    for (const int rates : {8, 100, 144, 321}) add("mp3", 2, 44100, bitRate, rates);
    add("mp3", 2, 22050, -1, 160);
    add("mp3", 2, 22050, bitRate, 192);
    add("mp3", 1, 8000, bitRate, 80);
    for (const int rates : {6, 512}) add("opus", 2, 48000, -1, rates);
    for (const int rates : {5, 513}) add("opus", 2, 48000, bitRate, rates);
    // AIFF counts with a sign, FLAC in 36 bits, RIFF without end: it becomes RF64.
    add("aiff24", 2, 48000, length, 0, 360'000'000);
    add("aiff16", 2, 48000, -1, 0, 360'000'000);
    add("flac24", 2, 48000, length, 0, Frame{1} << 36);
    add("pcm24", 2, 48000, -1, 0, Frame{1} << 40);
    // Delay and padding are heard at a seam.
    add("mp3", 2, 48000, seamless, 0, 48'000, true);
    add("opus", 2, 24000, seamless, 0, 48'000, true);
    for (const char* well : {"opus", "vorbis", "flac24", "pcm16", "aiff24"})
      add(well, 2, 48000, -1, 0, 48'000, true);
  }
  void refused() {
    QFETCH(QString, encoding);
    QFETCH(int, channels);
    QFETCH(int, rate);
    QFETCH(int, bitRate);
    QFETCH(Frame, frames);
    QFETCH(bool, lap);
    QFETCH(int, why);
    FileForm form{*parseChoice<Encoding>(encoding.toStdString()), channels, rate};
    form.coding.bitRate = bitRate;
    const auto refusal = refusalOf(form, frames, lap);
    QCOMPARE(refusal ? static_cast<int>(refusal->kind) : -1, why);
    if (refusal) QVERIFY(refusal->text.size() > 40);
    form.isStacked = true;  // sources beside each other: WAV has room for more, Ogg for none
    form.channels = 12;
    if (channels == 8 && !refusal) {
      const bool isWav = encodingInfo(form.encoding).container == Container::Wav;
      QCOMPARE(refusalOf(form, frames, lap).has_value(), !isWav);
    }
    form.isStacked = false;
    form.channels = channels;
    // What goes can be opened, what is refused by its encoder too is refused for a reason.
    if (!refusal && frames <= 48'000) QVERIFY(files_.write("goes", form, {}, 1000));
  }
};

QTEST_GUILESS_MAIN(TestFormats)
#include "tst_formats.moc"
