#include <QtTest>

#include "media/media_cache.h"
#include "media/overview.h"
#include "media/readable_media.h"
#include "support.h"

using namespace octaphon;
using test::Samples;

class MediaTest : public QObject {
  Q_OBJECT
 private slots:
  void whatCannotBeRead_data() {
    QTest::addColumn<QByteArray>("content");
    const QByteArray header = test_header(2, 48000, 16, 400);
    QTest::newRow("empty") << QByteArray();
    QTest::newRow("text") << QByteArray(
        "this is not a sound, but it is long enough to be taken for one by a careless reader");
    QTest::newRow("header cut off") << header.left(20);
    QTest::newRow("no channels") << test_header(0, 48000, 16, 400) + QByteArray(400, 'x');
    QTest::newRow("absurd rate") << test_header(2, 2'000'000'000, 16, 400) + QByteArray(400, 'x');
    QTest::newRow("rate zero") << test_header(2, 0, 16, 400) + QByteArray(400, 'x');
    QTest::newRow("200 channels") << test_header(200, 48000, 16, 400) + QByteArray(400, 'x');
  }
  void whatCannotBeRead() {
    QFETCH(QByteArray, content);
    QTemporaryDir dir;
    QFile file(dir.filePath("a.wav"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(content);
    file.close();
    const auto sound = SoundFile::open(file.fileName().toStdString());
    QVERIFY(!sound);
    QCOMPARE(sound.error().code, ErrorCode::MediumUnreadable);
    QVERIFY(sound.error().describe().find("a.wav") != std::string::npos);
  }

  void onlyFilesAreOpened() {
    QTemporaryDir dir;
    QCOMPARE(test::run("mkfifo", {dir.filePath("pipe.wav")}).exit, 0);
    QVERIFY(!SoundFile::open(dir.filePath("pipe.wav").toStdString()));
    QVERIFY(!SoundFile::open(dir.path().toStdString()));
    QCOMPARE(SoundFile::open(dir.filePath("none.wav").toStdString()).error().code, ErrorCode::MediumMissing);
  }

  // The header says ten times what is there: what is there counts.
  void headersThatLie() {
    QTemporaryDir dir;
    QFile file(dir.filePath("a.wav"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(test_header(2, 48000, 16, 40000) + QByteArray(4000, '\1'));
    file.close();
    auto sound = SoundFile::open(file.fileName().toStdString());
    QVERIFY(sound.has_value());
    QCOMPARE(sound->info().frames, Frame{1000});
  }

  // Each kind that sox writes, in turns of odd sizes and from the middle, against libsndfile's own numbers.
  void samplesAsTheyLieInTheFile_data() {
    QTest::addColumn<int>("channels");
    QTest::addColumn<QStringList>("kind");
    const QList<QStringList> kinds{{"wav", "-b", "16"}, {"wav", "-b", "24"},  {"wav", "-b", "8"},
                                   {"wav", "-b", "32"}, {"aiff", "-b", "24"}, {"flac", "-b", "24"},
                                   {"w64", "-b", "24"}};
    QTest::addRow("RIFX") << 2 << QStringList{"wav", "-b", "16", "-B"};
    for (const int channels : {1, 2, 3, 7})
      for (const QStringList& kind : kinds)
        QTest::addRow("%d × %s", channels, qPrintable(kind.join(' '))) << channels << kind;
  }
  void samplesAsTheyLieInTheFile() {
    QFETCH(int, channels);
    QFETCH(QStringList, kind);
    QTemporaryDir dir;
    Samples samples = test::noise(channels, 3001, 5, 1.0);
    for (auto& channel : samples) channel[7] = -1, channel[8] = 1, channel[9] = 0, channel[10] = -0x1p-23;
    test::writeSound(dir.filePath("in.wav"), samples);
    const QString file = dir.filePath("a." + kind.first());
    const auto made = test::run("sox", QStringList{dir.filePath("in.wav")} + kind.mid(1) + QStringList{file});
    QVERIFY2(made.exit == 0, made.err.constData());
    const Samples expected = test::readSound(file);
    auto sound = SoundFile::open(file.toStdString());
    QVERIFY2(sound.has_value(), sound ? "" : sound.error().describe().c_str());
    QCOMPARE(sound->info().frames, Frame{3001});
    std::vector<float> got(static_cast<std::size_t>(3001 * channels), 9.0f);
    const auto readAll = [&](Frame from, Frame turn) {
      for (Frame at = from, count; at < 3001; at += count) {
        count = sound->read(got.data() + at * channels, std::min<Frame>(turn, 3001 - at));
        if (count <= 0) return false;
      }
      std::vector<float> behind(static_cast<std::size_t>(channels));
      return sound->read(behind.data(), 1) == 0;
    };
    const auto differing = [&] {
      std::size_t count = 0;
      for (std::size_t i = 0; i < got.size(); ++i)
        if (got[i] != static_cast<float>(expected[i % channels][i / channels])) ++count;
      return count;
    };
    QVERIFY(readAll(0, 997));
    QCOMPARE(differing(), 0u);
    std::fill(got.begin() + 1500 * channels, got.end(), 9.0f);
    QVERIFY(sound->seek(1500));
    QVERIFY(readAll(1500, 13));
    QCOMPARE(differing(), 0u);
  }

  // 44.1 → 48 kHz gives round(n · 160 / 147) frames; the tone is the same tone (checked against the sine
  // itself).
  void conversion_data() {
    QTest::addColumn<int>("rate");
    QTest::addColumn<int>("frames");
    for (const auto& [rate, frames] :
         {std::pair{44100, 44100}, {44100, 12345}, {44100, 1}, {96000, 50001}, {8000, 4001}, {22050, 777}})
      QTest::addRow("%d Hz, %d frames", rate, frames) << rate << frames;
  }
  void conversion() {
    QFETCH(int, rate);
    QFETCH(int, frames);
    QTemporaryDir dir;
    const QString file = dir.filePath("a.wav");
    test::writeSound(file, test::sine(2, frames, 500, 0.5, rate), rate, test::Depth::Float);
    MediaCache cache(dir.filePath("cache").toStdString());
    const auto content = cache.contentOf(file.toStdString());
    const auto convert = [&] {
      return cache.converted(file.toStdString(), content->identity, content->digest, 48000);
    };
    const auto made = convert();
    QVERIFY2(made.has_value(), made ? "" : made.error().describe().c_str());
    const Samples out = test::readSound(QString::fromStdString(made->file.string()));
    const auto expected = static_cast<std::size_t>(std::llround(static_cast<double>(frames) * 48000 / rate));
    QCOMPARE(out[0].size(), expected);
    double worst = 0;
    for (std::size_t i = 1000; i + 1000 < out[0].size(); ++i)
      worst = std::max(worst,
                       std::abs(out[0][i] - 0.5 * std::sin(2 * M_PI * 500 * static_cast<double>(i) / 48000)));
    QVERIFY2(20 * std::log10(worst + 1e-12) < -100, qPrintable(QString::number(worst)));
    const auto stamp = QFileInfo(QString::fromStdString(made->file.string())).birthTime();
    QCOMPARE(convert()->file, made->file);
    QCOMPARE(QFileInfo(QString::fromStdString(made->file.string())).birthTime(), stamp);
  }

  void lossyMediaGoThroughTheCache() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    QDir(dir.path()).mkpath("media");
    test::writeSound(dir.filePath("media/v.ogg"), test::sine(2, 48000, 500, 0.5));
    test::writeSound(dir.filePath("media/f.flac"), test::noise(2, 48000, 1));
    make.session.media = {
        {"v", "media/v.ogg", {}}, {"f", "media/f.flac", {}}, {"gone", "media/gone.wav", {}}};
    make.session.file = make.save().toStdString();
    MediaCache cache(dir.filePath("cache").toStdString());
    const auto facts = gatherFacts(make.session, cache);
    QVERIFY(facts->find("v")->needsCache);
    QVERIFY(!facts->find("f")->needsCache);
    QCOMPARE(facts->find("gone")->state, MediumFact::State::Missing);
    const auto media = ReadableMedia::prepare(make.session, *facts, cache, {"v", "f", "gone"});
    QVERIFY(media.find("v")->file.extension() == ".w64");
    QCOMPARE(SoundFile::open(media.find("v")->file)->info().frames, Frame{48000});
    QVERIFY(media.find("gone")->error.has_value());
  }

  void theCacheIsLimitedAndCleared() {
    QTemporaryDir dir;
    MediaCache cache(dir.filePath("cache").toStdString());
    for (int i = 0; i < 4; ++i) {
      const QString file = dir.filePath(QString("%1.wav").arg(i));
      test::writeSound(file, test::noise(1, 44100, static_cast<unsigned>(i)), 44100);
      const auto content = cache.contentOf(file.toStdString());
      QVERIFY(cache.converted(file.toStdString(), content->identity, content->digest, 48000).has_value());
      QTest::qWait(15);
    }
    const std::uint64_t one = cache.kept().bytes / 4;
    cache.shrinkTo(2 * one + 100);
    QVERIFY(cache.kept().bytes <= 2 * one + 100);
    QCOMPARE(cache.kept().words(), std::string("2 converted media, 0 overviews"));
    const QString newest = dir.filePath("3.wav");
    const auto path = cache.pathFor(cache.contentOf(newest.toStdString())->digest, "-48000.w64");
    QVERIFY(std::filesystem::exists(path));
    QVERIFY(cache.clear() > 0);
    QCOMPARE(cache.kept().words(), std::string("0 converted media, 0 overviews"));
    QCOMPARE(cache.kept().bytes, 0u);
  }

  void changedContentIsNoticed() {
    QTemporaryDir dir;
    const QString file = dir.filePath("a.wav");
    test::writeSound(file, test::noise(1, 1000, 1));
    MediaCache cache(dir.filePath("cache").toStdString());
    const Digest before = cache.contentOf(file.toStdString())->digest;
    QCOMPARE(MediaCache(dir.filePath("cache").toStdString()).contentOf(file.toStdString())->digest, before);
    QTest::qWait(15);
    test::writeSound(file, test::noise(1, 1000, 2));
    QVERIFY(cache.contentOf(file.toStdString())->digest != before);
  }

  void overviewsHoldThePeaks() {
    QTemporaryDir dir;
    Samples samples = test::sound(2, 100000, [](int, Frame) { return 0.0; });
    samples[1][70000] = 0.75;
    samples[0][70001] = -0.5;
    const QString file = dir.filePath("a.wav");
    test::writeSound(file, samples);
    MediaCache cache(dir.filePath("cache").toStdString());
    const Digest content = cache.contentOf(file.toStdString())->digest;
    for (int turn = 0; turn < 2; ++turn) {  // measured, then from the cache
      const auto overview = overviewOf(file.toStdString(), content, cache);
      QVERIFY(overview.has_value());
      QCOMPARE((*overview)->frames(), Frame{100000});
      for (const auto& [from, to] : {std::pair<Frame, Frame>{0, 100000}, {69900, 70100}, {70000, 70002}}) {
        QVERIFY(std::abs((*overview)->range(from, to).high - 0.75 * 32767) < 2);
        QVERIFY(std::abs((*overview)->range(from, to).low + 0.5 * 32767) < 2);
      }
      QCOMPARE((*overview)->range(0, 60000).high, std::int16_t{0});
      QCOMPARE((*overview)->range(100000, 200000).high, std::int16_t{0});
    }
  }

 private:
  /// RIFF/WAVE, IBM & Microsoft 1991: laid out byte by byte.
  static QByteArray test_header(int channels, quint32 rate, int bits, quint32 dataBytes) {
    QByteArray bytes;
    QDataStream out(&bytes, QIODevice::WriteOnly);
    out.setByteOrder(QDataStream::LittleEndian);
    const auto tag = [&](const char* name) { out.writeRawData(name, 4); };
    tag("RIFF");
    out << quint32(36 + dataBytes);
    tag("WAVE");
    tag("fmt ");
    out << quint32(16) << quint16(1) << quint16(channels) << rate
        << quint32(rate * static_cast<quint32>(channels * bits / 8)) << quint16(channels * bits / 8)
        << quint16(bits);
    tag("data");
    out << dataBytes;
    return bytes;
  }
};

QTEST_GUILESS_MAIN(MediaTest)
#include "tst_media.moc"
