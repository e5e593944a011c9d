// LV2 plug-ins as users have them (mda-lv2, lv2-examples, lsp-plugins-lv2), and small ones that crash, hang,
// eat memory or lie, built for this test. All run in the worker program.
#include <cmath>
#include <QtTest>

#include "media/media_cache.h"
#include "plan/planner.h"
#include "play/player.h"
#include "run/plugin_trials.h"
#include "run/worker_passes.h"
#include "support.h"

using namespace octaphon;
using test::Samples;

namespace {

constexpr const char* kKeyed = "http://lsp-plug.in/plugins/lv2/sc_compressor_stereo";
constexpr const char* kAmp = "http://lv2plug.in/plugins/eg-amp";

Insert plugin(const std::string& id, const std::string& uri, std::map<std::string, double> values = {}) {
  Insert made;
  made.id = id;
  made.effect = uri;
  made.values = std::move(values);
  return made;
}

/// Two tracks in a group and one beside it; the first sounds loud.
struct Yard {
  QTemporaryDir dir;
  test::SessionMaker make{dir.path()};

  Yard() {
    make.medium("loud", test::sine(2, 48000, 440, 0.99));
    make.medium("soft", test::noise(2, 48000, 3, 0.2));
    make.group("works");
    for (const char* track : {"gear", "chain"}) make.track(track, 2, "works");
    make.track("bell", 2);
    make.clip("gear", "loud", 0, 48000);
    make.clip("chain", "soft", 0, 48000);
    make.clip("bell", "soft", 0, 48000);
    make.region("r", "Yard", 0, 48000);
    Brief& brief = make.brief("Layers");
    brief.what.tracks = {true, {}};
    brief.names.format = "{source}";
    brief.files.encoding = Encoding::Float32;
  }
  Track& track(const char* id) { return *findTrack(make.session, id); }
  Samples file(const char* name) const { return test::readSound(dir.path() + "/out/" + name + ".wav"); }
};

QMap<QString, QJsonObject> rowsOf(const std::vector<QJsonObject>& events) {
  QMap<QString, QJsonObject> rows;
  for (const QJsonObject& event : events)
    if (event["event"] == "row") rows[event["file"].toString()] = event;
  return rows;
}

QJsonObject sumOf(const std::vector<QJsonObject>& events) {
  for (const QJsonObject& event : events)
    if (event["event"] == "sum") return event;
  return {};
}

}  // namespace

class PluginsTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() {
    qputenv("LV2_PATH", OCTAPHON_TEST_PLUGINS ":/usr/lib/lv2");
    qputenv("OCTAPHON_WORKER", OCTAPHON_WORKER_PATH);
    qputenv("OCTAPHON_WORKER_PATIENCE", "60");
    qputenv("ASAN_OPTIONS",
            "handle_segv=0");  // a crash in the worker is meant, and not to be caught by a sanitizer
  }

  void installedOnesAreListed() {
    const auto plugins = installedPlugins();
    const auto has = [&](const std::string& uri) {
      return std::any_of(plugins.begin(), plugins.end(),
                         [&](const InstalledPlugin& p) { return p.uri == uri; });
    };
    QVERIFY2(plugins.size() > 50, qPrintable(QString::number(plugins.size())));
    QVERIFY(has(kKeyed) && has(kAmp) && has("http://drobilla.net/plugins/mda/Delay"));
  }

  // Parameters with unit, range and default as the plug-ins' own descriptions have them; whether they can be
  // split is found by trying.
  void whatPluginsAre() {
    Session session;
    session.main.inserts = {plugin("a", kAmp, {{"gain", 6}}), plugin("k", kKeyed),
                            plugin("e", kKeyed, {{"sct", 2}}), plugin("l", "urn:octaphon:test:late"),
                            plugin("n", "urn:octaphon:none")};
    const auto known = describePlugins(session, nullptr);
    const EffectInfo* amp = known->find(session.main.inserts[0]);
    QVERIFY(amp != nullptr);
    QCOMPARE(amp->linearity, EffectInfo::Linearity::Linear);
    QCOMPARE(amp->inputs, 1);
    QCOMPARE(amp->parameters[0].key, std::string("gain"));
    QCOMPARE(amp->parameters[0].unit, std::string("dB"));
    QCOMPARE(amp->parameters[0].least, -90.0);
    QCOMPARE(amp->parameters[0].most, 24.0);
    const EffectInfo* internal = known->find(session.main.inserts[1]);
    QCOMPARE(internal->linearity, EffectInfo::Linearity::Nonlinear);
    QCOMPARE(internal->about, std::string("Sidechain type"));
    QCOMPARE(internal->keyChannels, 2);
    QCOMPARE(internal->inputs, 2);
    QCOMPARE(known->find(session.main.inserts[2])->linearity, EffectInfo::Linearity::Dynamics);
    QCOMPARE(known->find(session.main.inserts[3])->latencyFrames, 100);
    QVERIFY(known->find(session.main.inserts[4]) == nullptr);
    QVERIFY(QString::fromStdString(known->problemOf(session.main.inserts[4])).contains("not installed"));
  }

  // Settings that come with a plug-in: in range, and more than one of them.
  void presetsAreOffered() {
    Session session;
    session.main.inserts = {plugin("d", "http://drobilla.net/plugins/mda/Delay"),
                            plugin("o", "http://drobilla.net/plugins/mda/EPiano"),
                            plugin("a", "http://drobilla.net/plugins/mda/Ambience"), plugin("k", kKeyed)};
    const auto known = describePlugins(session, nullptr);
    std::size_t presets = 0;
    for (const Insert& insert : session.main.inserts)
      if (const EffectInfo* info = known->find(insert))
        for (const EffectPreset& preset : info->presets) {
          ++presets;
          QVERIFY(!preset.name.empty() && !preset.values.empty());
          for (const auto& [key, value] : preset.values)
            QVERIFY(info->find(key) >= 0 && std::isfinite(value));
        }
    QVERIFY2(presets > 0, "none of them has presets");
  }

  // Whole blocks of 512 frames from where a pass begins, wherever a span starts in them: run up to from the
  // session's start, it sounds as it does in the whole, to the bit; and so it is heard.
  void aSpanInTheMiddleOfABlock_data() {
    QTest::addColumn<int>("start");
    for (const int start : {512, 20'000, 30'720, 33'333}) QTest::addRow("frame %d", start) << start;
  }
  void aSpanInTheMiddleOfABlock() {
    QFETCH(int, start);
    Yard yard;
    yard.track("chain").inserts = {plugin("d", "http://drobilla.net/plugins/mda/Delay")};
    Brief& brief = yard.make.session.briefs[0];
    brief.what.tracks = {false, {"chain"}};
    brief.what.mix = false;
    brief.names.format = "{region}";
    brief.heard.counts = Counts::EverythingHeard;
    brief.heard.runUp.fromStart = true;
    yard.make.region("part", "Part", start, 8'001);
    const QString session = yard.make.save();
    test::renderOf(session);
    const Samples whole = yard.file("Yard"), part = yard.file("Part");
    QCOMPARE(part[0].size(), 8'001u);
    for (std::size_t i = 0; i < part[0].size(); ++i)
      for (std::size_t side = 0; side < 2; ++side)
        QCOMPARE(part[side][i], whole[side][i + static_cast<std::size_t>(start)]);

    auto opened = std::make_shared<Session>(yard.make.session);
    opened->file = session.toStdString();
    MediaCache cache(yard.dir.filePath("cache").toStdString());
    const auto facts = gatherFacts(*opened, cache);
    const auto known = describePlugins(*opened, nullptr);
    const Sheet sheet = planSheet(*opened, *facts, {{0}, {}}, known.get());
    WorkerPasses passes;
    Player player(opened, facts, cache, known, &passes);
    const auto row = std::find_if(sheet.rows.begin(), sheet.rows.end(),
                                  [](const Row& one) { return one.file == "Part.wav"; });
    player.start(start, start + 8'001, listeningTo(sheet, *row, Listening::Of::Difference));
    std::vector<float> block(2 * 256);
    float most = 0;
    QTRY_VERIFY_WITH_TIMEOUT(
        [&] {
          player.read(block.data(), 256);
          for (const float sample : block) most = std::max(most, std::abs(sample));
          return player.atEnd();
        }(),
        20'000);
    QCOMPARE(most, 0.0f);
    QVERIFY2(player.problem().empty(), player.problem().c_str());
  }

  void aPluginDoesWhatItSays() {
    Yard yard;
    yard.track("chain").inserts = {plugin("a", kAmp, {{"gain", -6}})};
    test::renderOf(yard.make.save());
    const Samples chain = yard.file("chain"), bell = yard.file("bell");
    for (std::size_t i = 0; i < chain[0].size(); i += 97)
      QVERIFY(std::abs(chain[0][i] - bell[0][i] * std::pow(10, -6.0 / 20)) < 1e-6);
  }

  // A mono plug-in is there once for each channel, on tracks and on clips; one with other channels than what
  // it stands on is a fault of the rows that hear it, or passed over.
  void channelsFit_data() {
    QTest::addColumn<QString>("uri");
    QTest::addColumn<int>("channels");
    QTest::addColumn<bool>("onClip");
    QTest::addColumn<bool>("fits");
    for (const bool onClip : {false, true}) {
      const char* place = onClip ? "clip" : "track";
      QTest::addRow("mono on a stereo %s", place) << QString(kAmp) << 2 << onClip << true;
      QTest::addRow("stereo on a stereo %s", place) << QString(kKeyed) << 2 << onClip << true;
      QTest::addRow("stereo on a mono %s", place) << QString(kKeyed) << 1 << onClip << false;
    }
  }
  void channelsFit() {
    QFETCH(QString, uri);
    QFETCH(int, channels);
    QFETCH(bool, onClip);
    QFETCH(bool, fits);
    Yard yard;
    Track& gear = yard.track("gear");
    gear.channels = channels;
    std::vector<Insert>& chain = onClip ? gear.clips[0].inserts : gear.inserts;
    chain.push_back(plugin("p", uri.toStdString()));
    auto rows = rowsOf(test::renderOf(yard.make.save(), {}, fits ? 0 : 1));
    QCOMPARE(rows["gear.wav"]["result"].toString(), QString(fits ? "written" : "failed"));
    QCOMPARE(rows["bell.wav"]["result"].toString(), QString("written"));
    if (fits) {
      const std::vector<double> sound = yard.file("gear")[0];
      QVERIFY(*std::max_element(sound.begin(), sound.end()) > 0.1);
      return;
    }
    QVERIFY(rows["gear.wav"]["error"].toString().contains("other channels"));
    yard.make.session.briefs[0].heard.withoutMissing = true;
    rows = rowsOf(test::renderOf(yard.make.save()));
    QCOMPARE(rows["gear.wav"]["result"].toString(), QString("written"));
  }

  // A curve moves a parameter once a block of 512 frames counted from the pass's start.
  void curvesMoveParameters() {
    Yard yard;
    yard.track("chain").inserts = {plugin("a", kAmp)};
    yard.track("chain").automation = {
        {"insert:a:gain", true, {{0, 0, Segment::Hold, 0, {}}, {10000, -12, Segment::Hold, 0, {}}}, {}}};
    test::renderOf(yard.make.save());
    const Samples chain = yard.file("chain"), bell = yard.file("bell");
    const double quiet = std::pow(10, -12.0 / 20);
    for (std::size_t i = 0; i < 48000; i += 101) {
      const double gain = i < 10240 ? 1 : quiet;  // the block that begins behind the point
      QVERIFY2(std::abs(chain[0][i] - bell[0][i] * gain) < 1e-6, qPrintable(QString::number(i)));
    }
  }

  // An inner lap through a worker is the same lap of a long render, late plug-ins and those with a memory
  // too.
  void lapsAreRepeatedInTheWorker() {
    constexpr Frame kBody = 20'000;
    const auto laid = [](Yard& yard, int laps) {
      yard.make.session.tracks[1].clips.clear();
      for (Track& track : yard.make.session.tracks) track.clips.clear();
      for (int lap = 0; lap < laps; ++lap) yard.make.clip("chain", "soft", lap * kBody, 5'000);
      yard.track("chain").inserts = {plugin("d", "http://drobilla.net/plugins/mda/Delay"),
                                     plugin("l", "urn:octaphon:test:late")};
      yard.make.session.regions[0].length = laps * kBody;
      Brief& brief = yard.make.session.briefs[0];
      brief.what.tracks = {false, {"chain"}};
      brief.what.mix = false;
    };
    Yard once, longer;
    laid(once, 1);
    once.make.session.briefs[0].loop.way = LoopWay::InnerLap;
    once.make.session.briefs[0].loop.laps = 6;
    laid(longer, 6);
    test::renderOf(once.make.save());
    test::renderOf(longer.make.save());
    const Samples lap = once.file("chain"), whole = longer.file("chain");
    QCOMPARE(static_cast<Frame>(lap[0].size()), kBody);
    double most = 0, loudest = 0;
    for (std::size_t i = 0; i < lap[0].size(); ++i) {
      most = std::max(most, std::abs(lap[0][i] - whole[0][i + 4 * kBody]));
      loudest = std::max(loudest, std::abs(lap[0][i]));
    }
    QVERIFY2(most < 1e-6 && loudest > 0.01, qPrintable(QString("%1 %2").arg(most).arg(loudest)));
  }

  void latencyIsMadeUpFor() {
    Yard yard;
    yard.track("chain").inserts = {plugin("l", "urn:octaphon:test:late")};
    test::renderOf(yard.make.save());
    QCOMPARE(yard.file("chain"), yard.file("bell"));
  }

  // Layers through a compressor that listens to its side-chain input get the full sum there, and add up.
  void keyedByTheMix_data() {
    QTest::addColumn<double>("listensTo");
    QTest::addColumn<bool>("keyed");
    QTest::addColumn<QString>("verdict");
    QTest::newRow("keyed") << 2.0 << true << "adds-up";
    QTest::newRow("each alone") << 2.0 << false << "differs";
    QTest::newRow("it listens to itself") << 0.0 << true << "differs";
  }
  void keyedByTheMix() {
    QFETCH(double, listensTo);
    QFETCH(bool, keyed);
    QFETCH(QString, verdict);
    Yard yard;
    yard.track("works").inserts = {plugin("k", kKeyed, {{"sct", listensTo}, {"al", 0.03}, {"cr", 20}})};
    yard.make.session.briefs[0].heard.keyed = keyed;
    const QString session = yard.make.save();
    const QJsonObject sum = sumOf(test::renderOf(session));
    QVERIFY2(sum["verdict"].toString() == verdict, QJsonDocument(sum).toJson());
    const double residual = sum["residual_db"].toDouble();
    QVERIFY2(verdict == "adds-up" ? residual < -120 : residual > -40, qPrintable(QString::number(residual)));
    const QByteArray plan = QJsonDocument(test::planOf(session)).toJson();
    QCOMPARE(plan.contains("Sidechain type"), listensTo == 0);
  }

  // One that misbehaves fails the rows that hear it, by its name; the others are made.
  void troubleStaysWhereItIs_data() {
    QTest::addColumn<QString>("kind");
    QTest::addColumn<QString>("said");
    QTest::newRow("crash") << "crash"
                           << "crashed";
    QTest::newRow("hang") << "hang"
                          << "did not come back within 2 s";
    QTest::newRow("memory") << "memory"
                            << "memory";
    QTest::newRow("nan") << "nan"
                         << "not a number";
    QTest::newRow("shifty") << "shifty"
                            << "its latency changed from 0 to 64 frames";
  }
  void troubleStaysWhereItIs() {
    QFETCH(QString, kind);
    QFETCH(QString, said);
    qputenv("OCTAPHON_WORKER_PATIENCE", "2");
    Yard yard;
    yard.track("gear").inserts = {plugin("bad", ("urn:octaphon:test:" + kind).toStdString())};
    yard.track("chain").inserts = {plugin("good", kAmp)};
    const auto rows = rowsOf(test::renderOf(yard.make.save(), {}, 1));
    QCOMPARE(rows.size(), 4);
    for (const char* good : {"chain.wav", "bell.wav"})
      QCOMPARE(rows[good]["result"].toString(), QString("written"));
    for (const char* bad : {"gear.wav", "mix.wav"}) {
      QCOMPARE(rows[bad]["result"].toString(), QString("failed"));
      const QString error = rows[bad]["error"].toString();
      QVERIFY2(error.contains(said) && error.contains("Trouble " + kind), qPrintable(error));
    }
    QCOMPARE(yard.file("chain").size(), std::size_t{2});
    qputenv("OCTAPHON_WORKER_PATIENCE", "60");
  }

  // Another process may do as it likes: what it answers is not believed, what it does not take is not waited
  // for.
  void aWorkerGoneWrong_data() {
    QTest::addColumn<QByteArray>("playing");
    QTest::addColumn<QString>("said");
    const auto answers = [](const QByteArray& json) {
      QByteArray size(8, '\0');
      size[0] = static_cast<char>(json.size());
      return "cat <&0 > /dev/null & printf '" + QByteArray("\\x") + size.left(1).toHex() +
             "\\0\\0\\0\\0\\0\\0\\0'; printf '%s' '" + json + "'; exec sleep 60";
    };
    QTest::newRow("an empty object") << answers("{}") << "nonsense";
    QTest::newRow("a list") << answers("[1,2]") << "nonsense";
    QTest::newRow("texts for numbers") << answers(R"({"block":"x","taps":[]})") << "nonsense";
    QTest::newRow("channels without end") << answers(R"({"block":512,"taps":[[999,0]]})") << "nonsense";
    QTest::newRow("no taps") << answers(R"({"block":512,"taps":[]})") << "nonsense";
    QTest::newRow("no JSON") << answers("hello") << "nonsense";
    QTest::newRow("it does not read") << QByteArray("exec sleep 60") << "did not come back within 1 s";
    QTest::newRow("it ends at once") << QByteArray("exit 0") << "it ended";
  }
  void aWorkerGoneWrong() {
    QFETCH(QByteArray, playing);
    QFETCH(QString, said);
    Yard yard;
    yard.make.session.notes = std::string(300'000, 'n');  // more than a pipe takes
    yard.track("gear").inserts = {plugin("a", kAmp)};
    yard.make.session.briefs[0].what.tracks = {false, {"gear", "bell"}};
    yard.make.session.briefs[0].what.mix = false;
    QFile script(yard.dir.filePath("worker"));
    QVERIFY(script.open(QIODevice::WriteOnly));
    script.write("#!/bin/bash\n[ \"$1\" = play ] || exec " OCTAPHON_WORKER_PATH " \"$@\"\n" + playing + "\n");
    script.close();
    script.setPermissions(script.permissions() | QFile::ExeOwner);
    qputenv("OCTAPHON_WORKER", script.fileName().toUtf8());
    qputenv("OCTAPHON_WORKER_PATIENCE", "1");
    const auto rows = rowsOf(test::renderOf(yard.make.save(), {}, 1));
    qputenv("OCTAPHON_WORKER", OCTAPHON_WORKER_PATH);
    qputenv("OCTAPHON_WORKER_PATIENCE", "60");
    QCOMPARE(rows["bell.wav"]["result"].toString(), QString("written"));
    QCOMPARE(rows["gear.wav"]["result"].toString(), QString("failed"));
    QVERIFY2(rows["gear.wav"]["error"].toString().contains(said),
             qPrintable(rows["gear.wav"]["error"].toString()));
  }

  // What was found out about a plug-in is true of its very settings, at the rate it was tried at.
  void trialsAreOfTheirSettings() {
    Session session;
    session.main.inserts = {plugin("a", kAmp, {{"gain", 6}})};
    const auto known = describePlugins(session, nullptr);
    QVERIFY(known->find(session.main.inserts[0]) != nullptr);
    QVERIFY(known->find(plugin("b", kAmp, {{"gain", 6.0000000001}})) == nullptr);
    QVERIFY(describePlugins(session, known) == known);
    session.rate = 44'100;
    const auto again = describePlugins(session, known);
    QVERIFY(again != known && again->rate() == 44'100);
  }

  // Numbers too small to matter are silence, and nobody's load.
  /// Kept on disk: the next program asks nobody, until something else is installed.
  void trialsAreKept() {
    Yard yard;
    yard.track("bell").inserts = {plugin("i", kAmp, {{"gain", -3}})};
    const Session& session = yard.make.session;
    const std::filesystem::path file = (yard.dir.path() + "/kept/plug-ins.json").toStdString();
    const auto tried = describePlugins(session, nullptr, nullptr, file);
    const Insert insert = pluginInserts(session).front();
    QVERIFY(tried->find(insert) != nullptr);
    const auto known = [&] {
      PluginCatalogue catalogue(session.rate);
      return PluginTrials(file).tell(insert, catalogue) && catalogue.find(insert) != nullptr;
    };
    QVERIFY(known());
    QCOMPARE(PluginTrials(file).failed().size(), 0u);
    Insert other = insert;
    other.values["gain"] = -6;
    PluginCatalogue catalogue(session.rate), elsewhere(44100);
    QVERIFY(!PluginTrials(file).tell(other, catalogue));   // other settings
    QVERIFY(!PluginTrials(file).tell(insert, elsewhere));  // another rate
    const QByteArray places = qgetenv("LV2_PATH");
    QVERIFY(QDir(yard.dir.path()).mkpath("lv2/new.lv2"));
    QFile manifest(yard.dir.path() + "/lv2/new.lv2/manifest.ttl");
    QVERIFY(manifest.open(QIODevice::WriteOnly));
    qputenv("LV2_PATH", places + ":" + yard.dir.path().toLocal8Bit() + "/lv2");
    QVERIFY(!known());
    qputenv("LV2_PATH", places);
    QVERIFY(known());
    PluginTrials many(file);  // each place of a knob is one: they do not pile up for ever
    QVERIFY(many.tell(insert, catalogue));
    for (int i = 0; i < 600; ++i) {
      other.values["gain"] = -i / 100.0 - 10;
      many.noteProblem(other, 44100, "tried");
    }
    many.save();
    PluginTrials later(file);
    QVERIFY(later.size() > 600 && later.tell(insert, catalogue));
    later.save();
    QCOMPARE(PluginTrials(file).size(), 1u);
    QVERIFY(known());
    QFile kept(QString::fromStdString(file.string()));
    QVERIFY(kept.resize(kept.size() / 2));  // cut short
    QVERIFY(!known());
  }

  /// Where the worker itself does not run, no plug-in is blamed for good.
  void aWorkerThatIsNotThereIsNoTrial() {
    Yard yard;
    yard.track("bell").inserts = {plugin("i", kAmp)};
    const std::filesystem::path file = (yard.dir.path() + "/plug-ins.json").toStdString();
    const QByteArray worker = qgetenv("OCTAPHON_WORKER");
    qputenv("OCTAPHON_WORKER", "/bin/false");
    const auto tried = describePlugins(yard.make.session, nullptr, nullptr, file);
    const std::size_t kept = PluginTrials(file).size();
    worker.isEmpty() ? qunsetenv("OCTAPHON_WORKER") : qputenv("OCTAPHON_WORKER", worker);
    QVERIFY(!tried->problemOf(pluginInserts(yard.make.session).front()).empty());
    QCOMPARE(kept, 0u);
  }

  void denormalsAreSilence() {
    Yard yard;
    yard.track("gear").inserts = {plugin("w", "urn:octaphon:test:whisper")};
    yard.make.session.briefs[0].heard.reach = {ReachStage::Inserts, {}};
    test::renderOf(yard.make.save());
    const Samples gear = yard.file("gear"), bell = yard.file("bell");
    QCOMPARE(gear, Samples(2, std::vector<double>(gear[0].size(), 0.0)));
    QVERIFY(*std::max_element(bell[0].begin(), bell[0].end()) > 0.1);
  }

  // One that crashes when it is put away spoils nothing: its sound was there.
  void partingIsNoFailure() {
    Yard yard;
    yard.track("gear").inserts = {plugin("bad", "urn:octaphon:test:parting")};
    yard.make.region("s", "Yard", 0, 24000);
    yard.make.session.briefs[0].names.format = "{source}_{n}";
    const auto rows = rowsOf(test::renderOf(yard.make.save(), {"--jobs", "1"}));
    QCOMPARE(rows.size(), 8);
    for (const QJsonObject& row : rows) QCOMPARE(row["result"].toString(), QString("written"));
  }

  // Only what forgets everything is used again, pass after pass; one that keeps what it heard is made afresh.
  // (More than four of those that forget would crash.) What never sounds the same twice says so.
  void usedAgain_data() {
    QTest::addColumn<QString>("kind");
    QTest::addColumn<bool>("resets");
    QTest::addColumn<bool>("repeats");
    QTest::newRow("forgets") << "forgets" << true << true;
    QTest::newRow("keeps") << "keeps" << false << true;
    QTest::newRow("drifts") << "drifts" << false << false;
  }
  void usedAgain() {
    QFETCH(QString, kind);
    QFETCH(bool, resets);
    QFETCH(bool, repeats);
    Yard yard;
    const Insert insert = plugin("p", ("urn:octaphon:test:" + kind).toStdString());
    yard.track("gear").inserts = {insert};
    const EffectInfo* info = nullptr;
    const auto known = describePlugins(yard.make.session, nullptr);
    QVERIFY((info = known->find(insert)) != nullptr);
    QCOMPARE(info->resets, resets);
    QCOMPARE(info->repeats, repeats);
    for (int i = 1; i < 6; ++i) {  // the same sound again and again
      const std::string id = "r" + std::to_string(i);
      const Frame at = i * 96000;
      yard.make.clip("gear", "loud", at, 48000);
      yard.make.region(id.c_str(), "Yard", at, 48000);
    }
    yard.make.session.briefs[0].what.tracks = {false, {"gear"}};
    yard.make.session.briefs[0].names.format = "{source}_{n}";
    const QString session = yard.make.save();
    QCOMPARE(QJsonDocument(test::planOf(session)).toJson().contains("never-repeats"), !repeats);
    for (const QJsonObject& row : rowsOf(test::renderOf(session, {"--jobs", "1"})))
      QCOMPARE(row["result"].toString(), QString("written"));
    if (!repeats) return;
    const QStringList files = test::filesBelow(yard.dir.path() + "/out").filter("gear_");
    QCOMPARE(files.size(), 6);
    for (const QString& file : files)
      QCOMPARE(test::readSound(yard.dir.path() + "/out/" + file),
               test::readSound(yard.dir.path() + "/out/" + files[0]));
  }

  void missingOnesFailOrArePassedOver() {
    Yard yard;
    yard.track("gear").inserts = {plugin("gone", "urn:octaphon:none")};
    auto rows = rowsOf(test::renderOf(yard.make.save(), {}, 1));
    QCOMPARE(rows["gear.wav"]["result"].toString(), QString("failed"));
    QVERIFY(rows["gear.wav"]["error"].toString().contains("urn:octaphon:none"));
    QCOMPARE(rows["bell.wav"]["result"].toString(), QString("written"));
    yard.make.session.briefs[0].heard.withoutMissing = true;
    rows = rowsOf(test::renderOf(yard.make.save()));
    QCOMPARE(rows["gear.wav"]["result"].toString(), QString("written"));
  }

  // Twice the same bytes: these repeat.
  void somePluginsRepeat_data() {
    QTest::addColumn<QString>("uri");
    for (const char* uri :
         {kAmp, kKeyed, "http://drobilla.net/plugins/mda/Delay", "http://drobilla.net/plugins/mda/Overdrive"})
      QTest::newRow(uri) << QString(uri);
  }
  void somePluginsRepeat() {
    QFETCH(QString, uri);
    Yard yard;
    yard.track("works").inserts = {plugin("p", uri.toStdString())};
    const QString session = yard.make.save();
    QTemporaryDir one, two;
    test::renderOf(session, {"--out", one.path(), "--jobs", "1"});
    test::renderOf(session, {"--out", two.path(), "--jobs", "4"});
    for (const QString& file : test::filesBelow(one.path()))
      QVERIFY(test::bytesOf(one.path() + "/" + file) == test::bytesOf(two.path() + "/" + file));
  }
};

QTEST_GUILESS_MAIN(PluginsTest)
#include "tst_plugins.moc"
