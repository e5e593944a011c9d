// The command line from outside: what it says, what it writes, and what other programs read in it.
#include <csignal>
#include <QtEndian>
#include <QtTest>

#include "support.h"

using namespace octaphon;
using test::Samples;

namespace {

/// Two tracks in a group, three regions, one brief over all of it.
struct Small {
  QTemporaryDir dir;
  test::SessionMaker make{dir.path()};

  explicit Small(Frame length = 4801) {
    make.session.title = "Small";
    make.medium("a", test::noise(2, 60000, 1));
    make.medium("b", test::noise(1, 60000, 2));
    make.group("Machines");
    make.track("Gear", 2, "Machines");
    make.track("Chain", 1, "Machines").pan = 0.25;
    for (int i = 0; i < 3; ++i) {
      const Frame start = i * (length + 1000);
      make.region("r" + std::to_string(i), "Winch/Start 0" + std::to_string(i + 1), start, length);
      make.clip("Gear", "a", start, length, i * 100);
      if (i != 1) make.clip("Chain", "b", start + 10, length / 2, i * 77);
    }
    Brief& brief = make.brief("Game");
    brief.what.tracks = Selection::everything();
    brief.names.format = "{region.base}_{source}_{n.name:2}";
    brief.names.letterCase = LetterCase::Snake;
  }
  QString save() { return make.save(); }
  QString out() const { return dir.filePath("out"); }
};

QStringList states(const QJsonObject& plan) {
  QStringList states;
  for (const auto& row : plan["rows"].toArray()) states << row.toObject()["state"].toString();
  return states;
}

QStringList codes(const QJsonObject& row) {
  QStringList codes;
  for (const auto& remark : row["remarks"].toArray()) codes << remark.toObject()["code"].toString();
  return codes;
}

}  // namespace

class RenderTest : public QObject {
  Q_OBJECT
 private slots:
  void infoCounts() {
    Small small;
    small.make.session.media.push_back({"gone", "media/gone.wav"});
    small.make.session.markerSets.push_back({"s", "S", {{"m1", "", 1}, {"m2", "", 2}}, {}});
    const auto ran = test::cli({"info", small.save(), "--json"});
    QCOMPARE(ran.exit, 0);
    const auto info = QJsonDocument::fromJson(ran.out).object();
    const QJsonObject expected{{"version", "1.0"},
                               {"rate", 48000},
                               {"tracks", 3},
                               {"clips", 5},
                               {"regions", 3},
                               {"markers", 2},
                               {"briefs", 1},
                               {"missing_media", QJsonArray{"media/gone.wav"}},
                               {"unreadable_media", QJsonArray{}},
                               {"different_media", QJsonArray{}}};
    QCOMPARE(info, expected);
    QVERIFY(test::cli({"info", small.save()}).out.contains("missing: media/gone.wav"));
  }

  void planTellsEveryRow() {
    Small small;
    const auto plan = test::planOf(small.save());
    QCOMPARE(plan["session"].toString(), QString("Small"));
    QCOMPARE(plan["rows"].toArray().size(), 8);
    const QJsonObject expected{{"key", "b1/region:r0/track:Gear/wav/all"},
                               {"brief", "Game"},
                               {"span", "Winch/Start 01"},
                               {"source", "Gear"},
                               {"heard", "through Machines and main"},
                               {"file", "winch_start_gear_01.wav"},
                               {"start", 0},
                               {"frames", 4801},
                               {"lead_in", 0},
                               {"body", 4801},
                               {"tail", 0},
                               {"rate", 48000},
                               {"channels", 2},
                               {"layout", "stereo"},
                               {"loop", QJsonValue::Null},
                               {"encoding", "pcm24"},
                               {"container", "wav"},
                               {"state", "to-make"},
                               {"edition", QJsonValue::Null},
                               {"output", 0},
                               {"name_of_its_own", QJsonValue::Null},
                               {"remarks", QJsonArray{}}};
    QCOMPARE(plan["rows"].toArray()[0].toObject(), expected);
    QCOMPARE(plan["rows"].toArray()[3].toObject()["start"].toInteger(), 5801);
    QCOMPARE(plan["briefs"].toArray()[0].toObject()["left_out_without_clips"].toInt(), 1);
  }

  void exitCodes() {
    Small small;
    const QString session = small.save();
    QCOMPARE(test::cli({"plan", small.dir.filePath("no.octaphon")}).exit, 3);
    QCOMPARE(test::cli({"info", small.dir.path()}).exit, 3);
    QCOMPARE(test::cli({"render", small.dir.filePath("media/a.wav")}).exit, 3);
    QCOMPARE(test::cli({"plan", session, "--brief", "Nobody"}).exit, 2);
    QCOMPARE(test::cli({"render", session, "--brief", "Nobody"}).exit, 2);
    QCOMPARE(test::cli({"plan"}).exit, 2);
    QCOMPARE(test::cli({"render", session, "--jobs", "0"}).exit, 2);
    QCOMPARE(test::cli({"fly", session}).exit, 2);
    QCOMPARE(test::cli({"--help"}).exit, 0);
    small.make.session.briefs[0].names.format = "{oops}";
    QCOMPARE(test::cli({"plan", small.save()}).exit, 0);
    QCOMPARE(test::cli({"render", session}).exit, 1);
  }

  // What ffprobe, sox and mediainfo say of rate, channels, depth and frames; ffmpeg and sox decode the same
  // samples.
  void otherProgramsAgree_data() {
    QTest::addColumn<int>("encoding");
    QTest::addColumn<int>("mainChannels");
    for (int encoding = 0; encoding < 3; ++encoding)
      for (const int channels : {1, 2})
        QTest::addRow("%s, %d", kEncodings[static_cast<std::size_t>(encoding)].name.data(), channels)
            << encoding << channels;
  }
  void otherProgramsAgree() {
    QFETCH(int, encoding);
    QFETCH(int, mainChannels);
    const EncodingInfo& info = kEncodings[static_cast<std::size_t>(encoding)];
    Small small;
    small.make.session.briefs[0].files.encoding = info.encoding;
    small.make.session.briefs[0].ends.tail = Tail::Fixed;
    small.make.session.briefs[0].ends.tailSeconds = 0.01;
    small.make.session.main.channels = mainChannels;
    const QString session = small.save();
    const auto events = test::renderOf(session);
    QCOMPARE(events.size(), 9u + 3u + 1u);  // rows, the end, the sums of three regions, the folder
    for (const auto& value : test::planOf(session)["rows"].toArray()) {
      const QJsonObject row = value.toObject();
      const QString file = small.out() + "/" + row["file"].toString();
      QCOMPARE(row["frames"].toInt(), 4801 + 480);
      const auto probe = QJsonDocument::fromJson(
                             test::run("ffprobe", {"-v", "error", "-of", "json", "-show_streams", file}).out)
                             .object()["streams"]
                             .toArray()[0]
                             .toObject();
      QCOMPARE(probe["sample_rate"].toString(), QString("48000"));
      QCOMPARE(probe["channels"].toInt(), mainChannels);
      QCOMPARE(probe["duration_ts"].toInteger(), row["frames"].toInteger());
      QCOMPARE(probe["bits_per_sample"].toInt(), info.bits);
      QCOMPARE(test::run("soxi", {"-s", file}).out.trimmed().toInt(), row["frames"].toInt());
      const auto media =
          test::run("mediainfo", {"--Output=Audio;%BitDepth% %Channel(s)% %SamplingRate%", file})
              .out.trimmed();
      QCOMPARE(media, QByteArray(QString("%1 %2 48000").arg(info.bits).arg(mainChannels).toLatin1()));
      const QByteArray byFfmpeg = test::run("ffmpeg", {"-v", "error", "-i", file, "-f", "s32le", "-"}).out;
      const QByteArray bySox =
          test::run("sox", {"-D", file, "-t", "raw", "-e", "signed", "-b", "32", "-"}).out;
      QCOMPARE(byFfmpeg.size(), row["frames"].toInt() * mainChannels * 4);
      if (info.isInteger) QVERIFY(byFfmpeg == bySox);
    }
  }

  // Microsoft, WAVEFORMATEXTENSIBLE: tag 0xFFFE, dwChannelMask at byte 40. What ffprobe makes of it.
  void channelsHaveTheirPlaces_data() {
    QTest::addColumn<int>("channels");
    QTest::addColumn<int>("mask");
    QTest::addColumn<QString>("layout");
    QTest::newRow("stereo") << 2 << 0 << "";
    QTest::newRow("quad") << 4 << 0x33 << "quad";
    QTest::newRow("5.1") << 6 << 0x60F << "5.1(side)";
    QTest::newRow("7.1") << 8 << 0x63F << "7.1";
  }
  void channelsHaveTheirPlaces() {
    QFETCH(int, channels);
    QFETCH(int, mask);
    QFETCH(QString, layout);
    for (const Encoding encoding : {Encoding::Pcm16, Encoding::Pcm24, Encoding::Float32}) {
      Small small;
      small.make.session.main.channels = channels;
      Brief& brief = small.make.session.briefs[0];
      brief.what.tracks = {};
      brief.names.format = "{region}";
      brief.names.letterCase = LetterCase::AsIs;
      brief.files.encoding = encoding;
      test::renderOf(small.save());
      const QString file = small.out() + "/Winch_Start 01.wav";
      const QByteArray bytes = test::bytesOf(file);
      const QByteArray head = bytes.mid(bytes.indexOf("fmt ") - 12, 44);
      QCOMPARE(head.size(), 44);
      const bool isWide = head.mid(20, 2) == QByteArray("\xFE\xFF");
      QCOMPARE(isWide, channels > 2);
      if (!isWide) continue;
      QCOMPARE(qFromLittleEndian<quint32>(head.constData() + 40), static_cast<quint32>(mask));
      const auto probed = test::run("ffprobe", {"-v", "error", "-of", "csv=p=0", "-show_entries",
                                                "stream=channel_layout,duration_ts", file});
      QCOMPARE(probed.out.trimmed(), layout.toUtf8() + ",4801");
    }
  }

  // An untouched 24-bit clip at unity comes out sample-identical: compared as raw samples by sox.
  // Two sets over one time print their own clips only; a mono file of a set is half of each side; a clip may
  // play one channel of many.
  void clipSetsPrintTheirOwnClips() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("a", test::noise(2, 1000, 1));
    make.medium("b", test::noise(2, 1000, 2));
    make.medium("six", test::noise(6, 1000, 3));
    make.track("t");
    make.track("one", 1);
    make.clip("t", "a", 0, 1000);
    make.clip("t", "b", 0, 1000);
    make.clip("one", "six", 0, 1000).channel = 5;
    make.session.clipSets = {{"s1", "A", {"c1"}}, {"s2", "B", {"c2"}}, {"s3", "C", {"c3"}}};
    make.session.clipSets[1].channels = 1;
    Brief& brief = make.brief("B");
    brief.where.regions = {};
    brief.where.clipSets = {true, {}};
    brief.names.format = "{region}";
    test::renderOf(make.save());
    const test::Samples a = test::readSound(dir.filePath("media/a.wav"));
    const test::Samples b = test::readSound(dir.filePath("media/b.wav"));
    const test::Samples six = test::readSound(dir.filePath("media/six.wav"));
    QCOMPARE(test::readSound(dir.filePath("out/A.wav")), a);
    const test::Samples mono = test::readSound(dir.filePath("out/B.wav"));
    QCOMPARE(mono.size(), std::size_t{1});
    const test::Samples panned = test::readSound(dir.filePath("out/C.wav"));
    for (std::size_t i = 0; i < 1000; ++i) {
      QVERIFY(std::abs(mono[0][i] - (b[0][i] + b[1][i]) / 2) < 2e-7);  // dither of 24 bits
      QVERIFY(std::abs(panned[0][i] - six[4][i] * std::sqrt(0.5)) < 4e-7);
    }
  }

  void untouchedIsIdentical() {
    Small small;
    const QString session = small.save();
    test::renderOf(session);
    const auto raw = [](const QStringList& arguments) { return test::run("sox", arguments).out; };
    const QByteArray source =
        raw({small.dir.filePath("media/a.wav"), "-t", "raw", "-", "trim", "100s", "4801s"});
    const QByteArray made = raw({small.out() + "/winch_start_gear_02.wav", "-t", "raw", "-"});
    QCOMPARE(made.size(), 4801 * 2 * 3);
    QVERIFY(made == source);
  }

  // The sum of all tracks' files against the mix, in 32 float: residual under −120 dB. The sum is made by
  // numpy.
  void filesAddUp() {
    Small small;
    small.make.session.briefs[0].files.encoding = Encoding::Float32;
    small.make.session.tracks[0].gainDb = -1.7;
    const QString session = small.save();
    test::renderOf(session);
    const char* script =
        "import sys,numpy as np\nfrom scipy.io import wavfile\n"
        "r=[wavfile.read(f)[1].astype(np.float64) for f in sys.argv[1:]]\n"
        "print(20*np.log10(max(1e-10,np.abs(sum(r[1:])-r[0]).max())/max(1,*(np.abs(x).max() for x in "
        "r[1:]))))";
    const auto residual = [&](const QStringList& files) {
      QStringList arguments{"-c", script};
      for (const QString& file : files) arguments << small.out() + "/winch_start_" + file;
      return test::run("/usr/bin/python3", arguments).out.toDouble();
    };
    QVERIFY(residual({"mix_01.wav", "gear_01.wav", "chain_01.wav"}) < -120);
    QVERIFY(residual({"mix_02.wav", "gear_02.wav"}) < -120);
    QVERIFY(residual({"mix_01.wav", "gear_01.wav"}) > -60);
  }

  // More outputs of a brief come from the same sound: the files of 24 bit, rounded, are those of 16 but for
  // dither.
  void outputsAreFilesOfOneSound() {
    Small small;
    small.make.session.briefs[0].files.outputs = {
        {Encoding::Pcm24},
        {Encoding::Pcm16, 0, OutputChannels::AsTapped, false, false, "", "small"},
        {Encoding::Float32, 0, OutputChannels::AsTapped, false, false, "", "float"}};
    const QString session = small.save();
    const auto events = test::renderOf(session, {"--out", small.out()});
    QCOMPARE(events.back()["written"].toInt(), 24);
    QVERIFY(test::planOf(session)["briefs"].toArray()[0].toObject()["sentence"].toString().contains(
        "as WAV 24 bit, WAV 16 bit into small and WAV 32 bit float into float"));
    for (const QString& file : test::filesBelow(small.out())) {
      if (file.contains('/')) continue;
      const Samples fine = test::readSound(small.out() + "/" + file);
      const Samples coarse = test::readSound(small.out() + "/small/" + file);
      const Samples floats = test::readSound(small.out() + "/float/" + file);
      QCOMPARE(fine.size(), coarse.size());
      for (std::size_t c = 0; c < fine.size(); ++c)
        for (std::size_t i = 0; i < fine[c].size(); ++i) {
          QVERIFY(std::abs(fine[c][i] - floats[c][i]) <= 1.5 / (1 << 23));  // TPDF: a step and a half
          QVERIFY(std::abs(coarse[c][i] - floats[c][i]) <= 1.5 / (1 << 15));
        }
    }
    // Taken out and put in again: only what is new is to make.
    small.make.session.briefs[0].files.outputs.resize(2);
    const QJsonObject plan = test::planOf(small.save(), {"--out", small.out()});
    QVERIFY(!states(plan).contains("to-make"));
    QCOMPARE(plan["rows"].toArray().size(), 16);
  }

  void theSameBytesForAnyNumberOfWorkers() {
    Small small(100000);
    small.make.session.tracks[1].gainDb = -3.3;
    small.make.session.briefs[0].files.encoding = Encoding::Pcm16;
    const QString session = small.save();
    QMap<QString, QByteArray> first;
    for (const char* jobs : {"1", "2", "8", "8"}) {
      QTemporaryDir out;
      test::renderOf(session, {"--out", out.path(), "--jobs", jobs});
      const QStringList files = test::filesBelow(out.path());
      QCOMPARE(files.size(), 8);
      for (const QString& file : files) {
        const QByteArray bytes = test::bytesOf(out.filePath(file));
        if (!first.contains(file)) first[file] = bytes;
        QVERIFY2(first[file] == bytes, qPrintable(file));
      }
    }
  }

  void onlyWhatChangedIsMadeAgain() {
    Small small;
    QString session = small.save();
    auto events = test::renderOf(session);
    QCOMPARE(events.back()["written"].toInt(), 8);
    QVERIFY(events.back()["seconds"].isDouble() && events.back()["realtime"].isDouble());
    QCOMPARE(states(test::planOf(session)).count("up-to-date"), 8);
    events = test::renderOf(session);
    QCOMPARE(events.size(), 2u);  // the folder, the end
    QCOMPARE(events.back()["written"].toInt(), 0);

    small.make.session.tracks[1].clips[0].gainDb = -1;
    small.save();
    QCOMPARE(states(test::planOf(session)).count("stale"), 2);
    small.make.session.briefs[0].delivery.existing = Existing::Keep;
    small.save();
    events = test::renderOf(session);
    QCOMPARE(events.back()["written"].toInt(), 0);
    QCOMPARE(events.back()["kept"].toInt(), 2);
    QVERIFY(codes(test::planOf(session)["rows"].toArray()[0].toObject()).contains("kept"));
    small.make.session.briefs[0].delivery.existing = Existing::Replace;
    small.save();
    QCOMPARE(test::renderOf(session).back()["written"].toInt(), 2);
    QCOMPARE(states(test::planOf(session)).count("up-to-date"), 8);
    QFile(small.out() + "/winch_start_mix_02.wav").remove();
    QCOMPARE(test::renderOf(session).back()["written"].toInt(), 1);
  }

  void filesOfOthersAreNotReplaced() {
    Small small;
    const QString session = small.save();
    QDir(small.dir.path()).mkpath("out/winch_start_gear_02.wav");
    const auto put = [&](const QString& name, const QByteArray& bytes) {
      QFile file(small.out() + "/" + name);
      QVERIFY(file.open(QIODevice::WriteOnly));
      file.write(bytes);
    };
    put("winch_start_gear_01.wav", "mine");
    auto events = test::renderOf(session, {}, 1);
    QCOMPARE(events.back()["written"].toInt(), 6);
    QCOMPARE(events.back()["failed"].toInt(), 2);
    QCOMPARE(test::bytesOf(small.out() + "/winch_start_gear_01.wav"), QByteArray("mine"));
    put("winch_start_mix_01.wav", "altered");
    QCOMPARE(states(test::planOf(session)).count("changed"), 1);
    QCOMPARE(states(test::planOf(session)).count("foreign"), 2);
    QDir(small.out()).rmdir("winch_start_gear_02.wav");
    test::renderOf(session, {}, 1);
    QCOMPARE(test::bytesOf(small.out() + "/winch_start_mix_01.wav"), QByteArray("altered"));
    test::renderOf(session, {"--replace-foreign"});
    QCOMPARE(states(test::planOf(session)).count("up-to-date"), 8);
  }

  void aTouchedFileIsStillOurs() {
    Small small;
    const QString session = small.save();
    test::renderOf(session);
    QFile file(small.out() + "/winch_start_mix_01.wav");
    QVERIFY(file.open(QIODevice::ReadWrite));
    QVERIFY(file.setFileTime(QDateTime::currentDateTime().addDays(-3), QFileDevice::FileModificationTime));
    file.close();
    QCOMPARE(states(test::planOf(session)).count("up-to-date"), 8);
  }

  // A receipt cut off in the middle of a line: what it still says counts, the rest is foreign and stays.
  void aDamagedReceiptLosesNothing() {
    Small small;
    const QString session = small.save();
    test::renderOf(session);
    const QString receipt = small.out() + "/octaphon-receipt.jsonl";
    const QByteArray whole = test::bytesOf(receipt);
    QFile file(receipt);
    QVERIFY(file.open(QIODevice::WriteOnly | QIODevice::Truncate));
    file.write(whole.left(whole.size() - 60) + "\n{\"key\":[[[[\n\xFF\xFE\n");
    file.close();
    const auto plan = test::planOf(session);
    QCOMPARE(states(plan).count("up-to-date"), 7);
    QCOMPARE(states(plan).count("foreign"), 1);
    QCOMPARE(plan["briefs"].toArray()[0].toObject()["remarks"].toArray()[0].toObject()["code"].toString(),
             QString("damaged-receipt"));
  }

  void hostileNamesStayBelowTheFolder() {
    Small small;
    small.make.session.regions[0].name = "../../../escape";
    small.make.session.regions[1].name = "/abs\\olute:*?";
    small.make.session.tracks[1].name = "..";
    small.make.session.briefs[0].names.format = "{region}/{source}{n}";
    small.make.session.briefs[0].names.letterCase = LetterCase::AsIs;
    const QString session = small.save();
    test::renderOf(session);
    const QStringList before = {"media/a.wav", "media/b.wav", "test.octaphon"};
    for (const QString& file : test::filesBelow(small.dir.path()))
      QVERIFY2(before.contains(file) || file.startsWith("out/"), qPrintable(file));
    QCOMPARE(test::filesBelow(small.out()).size(), 8);
  }

  void linksBelowTheFolderAreNotFollowed() {
    Small small;
    QTemporaryDir elsewhere;
    small.make.session.briefs[0].names.format = "sub/{region} {source}";
    const QString session = small.save();
    QDir(small.dir.path()).mkpath("out");
    QVERIFY(QFile::link(elsewhere.path(), small.out() + "/sub"));
    const auto events = test::renderOf(session, {}, 1);
    QCOMPARE(events.back()["failed"].toInt(), 8);
    QVERIFY(events.front()["error"].toString().contains("link"));
    QVERIFY(test::filesBelow(elsewhere.path()).isEmpty());
  }

  void oneBadMediumFailsOnlyItsRows() {
    Small small;
    const QString session = small.save();
    QFile::remove(small.dir.filePath("media/b.wav"));
    auto events = test::renderOf(session, {}, 1);
    QCOMPARE(events.back()["written"].toInt(), 4);  // the gear three times, and the mix without the chain
    QCOMPARE(events.back()["failed"].toInt(), 4);
    const auto plan = test::planOf(session);
    QCOMPARE(states(plan).count("fault"), 4);
    QVERIFY(codes(plan["rows"].toArray()[1].toObject()).contains("missing-medium"));
  }

  void damagedInTheMiddle() {
    Small small;
    QDir().mkpath(small.dir.filePath("media"));
    test::writeSound(small.dir.filePath("media/c.flac"), test::noise(2, 60000, 9));
    QFile file(small.dir.filePath("media/c.flac"));
    QVERIFY(file.open(QIODevice::ReadWrite));
    file.resize(file.size() / 2);
    file.close();
    small.make.session.media[0].file = "media/c.flac";
    for (Clip& clip : small.make.session.tracks[1].clips.writable()) clip.offset = 40000;
    const auto events = test::renderOf(small.save(), {}, 1);
    QCOMPARE(events.back()["written"].toInt(), 2);
    for (const QJsonObject& event : events)
      if (event["result"] == "failed")
        QVERIFY2(event["error"].toString().contains("c.flac"), qPrintable(event["error"].toString()));
    QCOMPARE(test::filesBelow(small.out()).size(), 2);
  }

  void briefsWithOneFolderCollide() {
    Small small;
    small.make.session.briefs.push_back(small.make.session.briefs[0]);
    small.make.session.briefs[1].id = "b2";
    small.make.session.briefs[1].name = "Again";
    small.make.session.briefs[1].delivery.folder = "elsewhere";
    const QString session = small.save();
    QCOMPARE(states(test::planOf(session)).count("fault"), 0);
    QTemporaryDir out;
    QCOMPARE(states(test::planOf(session, {"--out", out.path()})).count("fault"), 16);
    QCOMPARE(states(test::planOf(session, {"--out", out.path(), "--brief", "Again"})).count("to-make"), 8);
  }

  // The file system takes no file over 20 kB (a limit of the process): rows fail with a reason, nothing is
  // left.
  void noRoomOnTheDisk() {
    Small small(48000);
    const QString session = small.save();
    test::cli({"info", session});
    const auto ran = test::run("bash", {"-c", "ulimit -f 20; trap '' XFSZ; exec \"$0\" \"$@\"",
                                        OCTAPHON_CLI_PATH, "render", session, "--json"});
    QCOMPARE(ran.exit, 1);
    QVERIFY(QJsonDocument::fromJson(ran.out.trimmed().split('\n').last()).object()["failed"].toInt() == 8);
    QVERIFY(test::filesBelow(small.out()).isEmpty());
    QCOMPARE(test::renderOf(session).back()["written"].toInt(), 8);
  }

  void aFolderThatIsAFile() {
    Small small;
    QFile file(small.out());
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write("here");
    file.close();
    const auto events = test::renderOf(small.save(), {}, 1);
    QCOMPARE(events.back()["failed"].toInt(), 8);
    QCOMPARE(test::bytesOf(small.out()), QByteArray("here"));
  }

  void twoRunsInOneFolderAreToldSo() {
    Small small;
    const QString session = small.save();
    QDir(small.dir.path()).mkpath("out");
    QProcess holder;
    holder.start("flock", {small.out() + "/octaphon-receipt.jsonl", "sleep", "30"});
    QVERIFY(holder.waitForStarted());
    QVERIFY(QTest::qWaitFor([&] { return QFile::exists(small.out() + "/octaphon-receipt.jsonl"); }, 5000));
    QTest::qWait(100);
    const auto events = test::renderOf(session, {}, 1);
    QVERIFY(events.front()["error"].toString().contains("another run"));
    holder.kill();
    holder.waitForFinished();
  }

  // Stopped half-way: every file that is there is whole and known, and no temporary one is left.
  void stoppedHalfWay() {
    Small small(48000 * 20);
    auto& session = small.make.session;
    session.media.clear();
    small.make.medium("a", test::noise(2, 48000 * 60, 1));
    small.make.medium("b", test::noise(1, 48000 * 60, 2));
    for (int i = 3; i < 40; ++i) {
      small.make.region("r" + std::to_string(i), "More " + std::to_string(i), i, 48000 * 20);
    }
    session.briefs[0].heard.counts = Counts::EverythingHeard;
    const QString file = small.save();
    QProcess process;
    process.start(OCTAPHON_CLI_PATH, {"render", file, "--json", "--jobs", "1"});
    QVERIFY(process.waitForReadyRead(60000));
    ::kill(static_cast<pid_t>(process.processId()), SIGINT);
    QVERIFY(process.waitForFinished(60000));
    QCOMPARE(process.exitCode(), 1);
    const QStringList left = test::filesBelow(small.out());
    QVERIFY(left.size() > 0 && left.size() < 100);
    for (const QString& name : left) {
      QVERIFY2(!name.endsWith(".part"), qPrintable(name));
      QCOMPARE(test::run("soxi", {"-s", small.out() + "/" + name}).out.trimmed().toInt(), 48000 * 20);
    }
    const QStringList now = states(test::planOf(file));
    QCOMPARE(now.count("up-to-date"), left.size());
    QCOMPARE(now.count("to-make"), now.size() - left.size());
  }

  // Killed outright: the next run goes on and clears away what was begun.
  void killedHalfWay() {
    Small small(48000 * 50);
    small.make.session.media.clear();
    small.make.medium("a", test::noise(2, 48000 * 60, 1));
    small.make.medium("b", test::noise(1, 48000 * 60, 2));
    const QString file = small.save();
    QProcess process;
    process.start(OCTAPHON_CLI_PATH, {"render", file, "--jobs", "1"});
    QVERIFY(QTest::qWaitFor([&] { return test::filesBelow(small.out()).size() > 2; }, 60000));
    process.kill();
    process.waitForFinished();
    test::renderOf(file);
    QCOMPARE(test::filesBelow(small.out()).size(), 8);
    QCOMPARE(states(test::planOf(file)).count("up-to-date"), 8);
  }

  void theDemoIsMade() {
    QTemporaryDir dir;
    QCOMPARE(test::run(OCTAPHON_DEMO_MAKER, {dir.path()}).exit, 0);
    const QString session = dir.filePath("Tidewheel.octaphon");
    const auto events = test::renderOf(session);
    QVERIFY(events.back()["written"].toInt() >= 60);
    const auto plan = test::planOf(session);
    QCOMPARE(states(plan).count("up-to-date"), plan["rows"].toArray().size());
    for (const auto& row : plan["rows"].toArray())
      if (row.toObject()["span"].toString() == "Tour/40 s")
        QCOMPARE(row.toObject()["frames"].toInt(), 40 * 48000);
    QCOMPARE(test::run("soxi", {"-s", dir.filePath("Deliveries/Tour/Tour_20 s/05 Tidewheel mix.wav")})
                 .out.trimmed(),
             QByteArray("960000"));
  }
};

QTEST_GUILESS_MAIN(RenderTest)
#include "tst_render.moc"
