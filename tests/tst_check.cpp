// Deliveries that were damaged in one way each are found out under its code, with and without the hashes of
// the receipt; those that were not pass.
#include <QtTest>
#include <random>

#include "check/finding.h"
#include "wav_bytes.h"

using namespace octaphon;
using test::cli;
using test::Ran;
using test::SessionMaker;
using test::WavBytes;

namespace {

QString text(std::string_view words) {
  return QString::fromUtf8(words.data(), static_cast<qsizetype>(words.size()));
}

using Codes = std::map<QString, QStringList>;  // by file

/// Layers and their mix over two regions, of noise that nobody takes for another's; and a loop.
struct Delivery {
  QTemporaryDir dir;
  SessionMaker make{dir.path()};

  explicit Delivery(unsigned seed = 1) {
    make.session.title = "Quay";
    for (const char* id : {"gear", "chain"}) {
      make.medium(id, test::noise(2, 48000, seed++, 0.2));
      make.track(id);
      make.clip(id, id, 0, 48000);
    }
    make.region("a", "Gate", 0, 9000);
    make.region("b", "Winch", 12000, 9000);
    Brief& layers = make.brief("Layers");
    layers.what.tracks = Selection::everything();
    layers.names.format = "{region}_{source}";
    Brief& loops = make.brief("Loops");
    loops.what.mix = true;
    loops.loop.way = LoopWay::Plain;
    loops.names.format = "{region}_loop";
    loops.delivery.folder = "loops";
    for (Brief& brief : make.session.briefs) brief.heard.counts = Counts::EverythingHeard;
  }

  QString out(const QString& file = {}) const { return dir.filePath("out/" + file); }
  QString loops(const QString& file = {}) const { return dir.filePath("loops/" + file); }

  void render() {
    test::renderOf(make.save());
    QVERIFY(QFile::exists(out("Gate_gear.wav")));
    QVERIFY(QFile::exists(loops("Gate_loop.wav")));
  }

  /// All that could tell a file by its bytes or samples.
  static void takeHashesOut(const QString& folder) {
    const QString name = folder + "octaphon-receipt.jsonl";
    QByteArray anew;
    for (const QByteArray& line : test::bytesOf(name).split('\n')) {
      if (line.isEmpty()) continue;
      QJsonObject json = QJsonDocument::fromJson(line).object();
      for (const char* hash : {"hash", "samples", "sound", "form", "tags", "engine"}) json.remove(hash);
      anew += QJsonDocument(json).toJson(QJsonDocument::Compact) + "\n";
    }
    QFile file(name);
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(anew);
  }
};

/// What `check` finds; its exit and its last line are looked at too.
Codes check(const QString& place, const QStringList& more = {}) {
  const Ran ran = cli(QStringList{"check", place, "--json"} + more);
  Codes codes;
  qsizetype findings = 0;
  QJsonObject last;
  for (const QByteArray& line : ran.out.split('\n')) {
    if (line.isEmpty()) continue;
    last = QJsonDocument::fromJson(line).object();
    if (last["event"] != "finding") continue;
    ++findings;
    codes[last["file"].toString()] << last["code"].toString();
    for (const char* key : {"severity", "value", "expected", "text"})
      if (!last.contains(key)) QTest::qFail(key, __FILE__, __LINE__);
  }
  if (last["event"] != "done" || last["findings"].toInteger() != findings ||
      ran.exit != (findings > 0 ? 1 : 0))
    QTest::qFail(ran.out + ran.err, __FILE__, __LINE__);
  return codes;
}

using Damage = void (*)(const Delivery& delivery);

void changeGear(const Delivery& delivery, const std::function<void(WavBytes&)>& change) {
  WavBytes wav(delivery.out("Gate_gear.wav"));
  change(wav);
  wav.save();
}

}  // namespace
Q_DECLARE_METATYPE(Damage)

class CheckTest : public QObject {
  Q_OBJECT
 private slots:
  void damage_data() {
    QTest::addColumn<Damage>("how");
    QTest::addColumn<Codes>("found");
    const auto add = [](const char* name, Damage how, const Codes& found) {
      QTest::newRow(name) << how << found;
    };
    const QString gear = "Gate_gear.wav", chain = "Gate_chain.wav", mix = "Gate_mix.wav";
    add("nothing", [](const Delivery&) {}, {});
    add("cut",
        [](const Delivery& d) { changeGear(d, [](WavBytes& wav) { wav.chunk("data").chop(6 * 100); }); },
        {{gear, {"cut-short"}}});
    add("padded",
        [](const Delivery& d) {
          changeGear(d, [](WavBytes& wav) { wav.chunk("data") += QByteArray(6 * 100, '\0'); });
        },
        {{gear, {"padded"}}});
    add("channels swapped",
        [](const Delivery& d) {
          changeGear(d, [](WavBytes& wav) {
            wav.changeSamples([](const auto& all, std::size_t c, std::size_t i) { return all[1 - c][i]; });
          });
        },
        {{gear, {"channels-swapped"}}});
    add("one frame late",
        [](const Delivery& d) {
          WavBytes wav(d.out("Winch_mix.wav"));
          wav.changeSamples(
              [](const auto& all, std::size_t c, std::size_t i) { return i == 0 ? 0 : all[c][i - 1]; });
          wav.save();
        },
        {{"Winch_mix.wav", {"altered", "sum-differs"}}});
    add("one sample one step off",
        [](const Delivery& d) {
          changeGear(d, [](WavBytes& wav) {
            wav.changeSamples([](const auto& all, std::size_t c, std::size_t i) {
              return all[c][i] + (c == 1 && i == 777 ? 1 : 0);
            });
          });
        },
        {{gear, {"altered"}}});
    add("clipped",
        [](const Delivery& d) {
          changeGear(d, [](WavBytes& wav) {
            wav.changeSamples([](const auto& all, std::size_t c, std::size_t i) {
              return std::clamp(all[c][i] * 16, -(1 << 23), (1 << 23) - 1);
            });
          });
        },
        {{gear, {"clipped"}}});
    add("wrong rate", [](const Delivery& d) { changeGear(d, [](WavBytes& wav) { wav.setRate(44100); }); },
        {{gear, {"wrong-rate"}}});
    add("mono for stereo",
        [](const Delivery& d) { changeGear(d, [](WavBytes& wav) { wav.setSamples({wav.samples()[0]}); }); },
        {{gear, {"wrong-channels"}}});
    add("texts lost",
        [](const Delivery& d) {
          changeGear(d, [](WavBytes& wav) { wav.dropAllBut({"fmt ", "data", "cue ", "smpl"}); });
        },
        {{gear, {"tags-lost"}}});
    add("two swapped",
        [](const Delivery& d) {
          QVERIFY(QFile::rename(d.out("Gate_gear.wav"), d.out("x")));
          QVERIFY(QFile::rename(d.out("Gate_chain.wav"), d.out("Gate_gear.wav")));
          QVERIFY(QFile::rename(d.out("x"), d.out("Gate_chain.wav")));
        },
        {{gear, {"swapped"}}, {chain, {"swapped"}}});
    add("silence",
        [](const Delivery& d) { changeGear(d, [](WavBytes& wav) { wav.chunk("data").fill('\0'); }); },
        {{gear, {"silent"}}});
    add("renamed",
        [](const Delivery& d) { QVERIFY(QFile::rename(d.out("Gate_gear.wav"), d.out("Gate_gears.wav"))); },
        {{gear, {"renamed"}}});
    add("foreign", [](const Delivery& d) { test::writeSound(d.out("notes.wav"), test::noise(1, 4000, 99)); },
        {{"notes.wav", {"foreign"}}});
    add("a layer missing", [](const Delivery& d) { QVERIFY(QFile::remove(d.out("Gate_gear.wav"))); },
        {{gear, {"missing"}}});
    add("a layer 0.1 dB louder",
        [](const Delivery& d) {
          changeGear(d, [](WavBytes& wav) {
            wav.changeSamples([](const auto& all, std::size_t c, std::size_t i) {
              return static_cast<int>(std::lround(all[c][i] * 1.0115794));
            });
          });
        },
        {{gear, {"altered", "sum-differs"}}});
    add("not a sound any more",
        [](const Delivery& d) {
          QFile file(d.out("Gate_gear.wav"));
          QVERIFY(file.open(QIODevice::WriteOnly));
          file.write("gone");
        },
        {{gear, {"unreadable"}}});
    add("the mix replaced by a layer",
        [](const Delivery& d) {
          QVERIFY(QFile::remove(d.out("Gate_mix.wav")));
          QVERIFY(QFile::copy(d.out("Gate_gear.wav"), d.out("Gate_mix.wav")));
        },
        {{mix, {"swapped"}}});
  }
  void damage() {
    QFETCH(Damage, how);
    QFETCH(Codes, found);
    Delivery delivery;
    delivery.render();
    how(delivery);
    QCOMPARE(check(delivery.out()), found);
    Delivery::takeHashesOut(delivery.out());
    QCOMPARE(check(delivery.out()), found);
  }

  // What is left over is what numpy finds left; without damage it is under what rounding may leave.
  void sumsAreThoseOfNumpy() {
    Delivery delivery;
    delivery.render();
    const auto left = [&] {
      return test::run("/usr/bin/python3",
                       {OCTAPHON_SOURCE "/tests/residual.py", delivery.out("Gate_mix.wav"),
                        delivery.out("Gate_gear.wav"), delivery.out("Gate_chain.wav")})
          .out.trimmed()
          .toDouble();
    };
    QVERIFY(left() < 10 * std::log10(3 * std::pow(2.0, -46) / 12 * 3) + 1);
    changeGear(delivery, [](WavBytes& wav) {
      wav.changeSamples([](const auto& all, std::size_t c, std::size_t i) { return all[c][i] / 4 * 3; });
    });
    QString told;
    for (const QByteArray& line : cli({"check", delivery.out(), "--json"}).out.split('\n'))
      if (const QJsonObject json = QJsonDocument::fromJson(line).object(); json["code"] == "sum-differs")
        told = json["value"].toString();
    QVERIFY(told.startsWith(QChar(0x2212)) && told.endsWith(" dBFS"));
    QVERIFY(std::fabs(-told.mid(1).chopped(5).toDouble() - left()) < 0.1);
  }

  void aLoopPointOneFrameOff() {
    Delivery delivery;
    delivery.render();
    QCOMPARE(check(delivery.loops()), Codes());
    WavBytes wav(delivery.loops("Gate_loop.wav"));
    QByteArray& smpl = wav.chunk("smpl");
    constexpr qsizetype kEndOfFirst = 36 + 12;
    const auto end = qFromLittleEndian<quint32>(smpl.constData() + kEndOfFirst);
    smpl.replace(kEndOfFirst, 4, WavBytes::number(end - 1, 4));
    wav.save();
    const Codes found{{"Gate_loop.wav", {"marks-lost"}}};
    QCOMPARE(check(delivery.loops()), found);
    Delivery::takeHashesOut(delivery.loops());
    QCOMPARE(check(delivery.loops()), found);
  }

  // Without the session, elsewhere, and in other formats.
  void undamagedOnesPass_data() {
    QTest::addColumn<unsigned>("seed");
    for (unsigned seed = 1; seed <= kEncodings.size(); ++seed)
      QTest::addRow("%s", std::string(kEncodings[seed - 1].name).c_str()) << seed;
  }
  void undamagedOnesPass() {
    QFETCH(unsigned, seed);
    std::mt19937 random(seed);
    Delivery delivery(seed * 10);
    const EncodingInfo& encoding = kEncodings[seed - 1];
    delivery.make.session.briefs[0].files.encoding = encoding.encoding;
    delivery.make.session.briefs[1].files.encoding =
        encoding.isLossy() ? Encoding::Flac24 : encoding.encoding;
    for (Track& track : delivery.make.session.tracks) track.gainDb = -static_cast<double>(random() % 20);
    for (int i = 0; i < 8; ++i)
      delivery.make.region("r" + std::to_string(i), "Piece " + std::to_string(i),
                           static_cast<Frame>(random() % 30000), static_cast<Frame>(2000 + random() % 9000));
    test::renderOf(delivery.make.save());
    const QString elsewhere = delivery.dir.filePath("elsewhere/");
    QVERIFY(QDir().rename(delivery.out(), elsewhere));
    QVERIFY(QFile::remove(delivery.dir.filePath("test.octaphon")));
    QCOMPARE(check(elsewhere), Codes());
    QCOMPARE(check(delivery.loops()), Codes());
    Delivery::takeHashesOut(elsewhere);
    QCOMPARE(check(elsewhere), Codes());
    QVERIFY(QDir(elsewhere).entryList(QDir::Files).size() > 30);
  }

  // Of a session: what was not made, what is asked for no more; what is accepted stays so, in the folder too.
  void aSession() {
    Delivery delivery;
    QCOMPARE(check(delivery.make.save()).at("Gate_gear.wav"),
             QStringList("missing"));  // before anything was made
    delivery.render();
    QCOMPARE(check(delivery.dir.filePath("test.octaphon")), Codes());
    delivery.make.session.regions.writable().erase(delivery.make.session.regions.writable().begin() + 1);
    delivery.make.region("d", "Crane", 20000, 4000);
    const Codes found = check(delivery.make.save(), {"--brief", "Layers"});
    QCOMPARE(found.at("Winch_gear.wav"), QStringList("left-over"));
    QCOMPARE(found.at("Crane_gear.wav"), QStringList("missing"));
    QCOMPARE(found.size(), std::size_t{6});
  }

  void whatIsAcceptedStaysSo() {
    Delivery delivery;
    delivery.make.session.tracks[0].gainDb = 24;  // far over full scale
    Brief& layers = delivery.make.session.briefs[0];
    layers.what.mix = false;
    delivery.render();
    const Codes found = check(delivery.out());
    QCOMPARE(found.at("Gate_gear.wav"), QStringList("clipped"));
    layers.accepted = {{"clipped", "meant so", {}}};
    for (const char* region : {"a", "b"})
      layers.accepted[0].rows.push_back(std::string("region:") + region + "/track:gear/wav/all");
    QCOMPARE(check(delivery.make.save(), {"--brief", "Layers"}), Codes());
    test::renderOf(delivery.make.save(), {"--all"});
    QCOMPARE(check(delivery.out()), Codes());
  }

  // Whatever a receipt says that a file was.
  void hostileReceipts_data() {
    QTest::addColumn<QByteArray>("made");
    QTest::newRow("nothing") << QByteArray("{}");
    QTest::newRow("no numbers") << QByteArray(
        R"({"encoding":"pcm24","rate":"x","channels":[],"frames":{},"figures":["a","b","c","d"]})");
    QTest::newRow("huge") << QByteArray(
        R"({"encoding":"pcm24","rate":2147483647,"channels":2,"frames":9007199254740991,"layers":999999999,)"
        R"("figures":[1e308,1e308,1e308,1e308,1e308,1e308,1e308,1e308],"loops":[0,9007199254740991]})");
    QTest::newRow("under nothing") << QByteArray(
        R"({"encoding":"pcm24","rate":48000,"channels":-2,"frames":-5,"figures":[0,0,0,0,0,0,0,0],"layers":-1})");
    QTest::newRow("lists cut off") << QByteArray(
        R"({"encoding":"pcm24","rate":48000,"channels":2,"frames":9000,"figures":[0,0,0],"marks":[1,2],"loops":[3]})");
    QTest::newRow("unknown encoding") << QByteArray(
        R"({"encoding":"\u0007tape","rate":48000,"channels":2,"frames":9000,"figures":[1,1,1,1,1,1,1,1],"layers":2})");
  }
  void hostileReceipts() {
    QFETCH(QByteArray, made);
    Delivery delivery;
    delivery.render();
    const QString name = delivery.out("octaphon-receipt.jsonl");
    QByteArray anew;
    for (const QByteArray& line : test::bytesOf(name).split('\n')) {
      QJsonObject json = QJsonDocument::fromJson(line).object();
      if (json.contains("made")) json["made"] = QJsonDocument::fromJson(made).object();
      if (!line.isEmpty()) anew += QJsonDocument(json).toJson(QJsonDocument::Compact) + "\n";
    }
    QFile file(name);
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(anew);
    file.close();
    for (const auto& [found, codes] : check(delivery.out()))  // bytes are still those that were written
      QVERIFY2(!codes.contains("missing") && !codes.contains("foreign"), qPrintable(found));
    Delivery::takeHashesOut(delivery.out());
    QVERIFY(!check(delivery.out()).empty());
    QVERIFY(!cli({"check", delivery.out()}).out.contains('\a'));
  }

  // A file that is a link by now is none of ours, wherever it leads.
  void links() {
    Delivery delivery;
    delivery.render();
    QVERIFY(QFile::rename(delivery.out("Gate_gear.wav"), delivery.dir.filePath("elsewhere.wav")));
    QVERIFY(QFile::link(delivery.dir.filePath("elsewhere.wav"), delivery.out("Gate_gear.wav")));
    QCOMPARE(check(delivery.out()), Codes({{"Gate_gear.wav", {"missing", "foreign"}}}));
  }

  // What is no number is none, though the loudest sample is one.
  void notANumber() {
    Delivery delivery;
    delivery.make.session.briefs[0].files.encoding = Encoding::Float32;
    delivery.render();
    changeGear(delivery,
               [](WavBytes& wav) { wav.chunk("data").replace(8 * 100, 4, QByteArray::fromHex("0000c07f")); });
    QCOMPARE(check(delivery.out()), Codes({{"Gate_gear.wav", {"unreadable"}}}));
  }

  // Not decoded, it is not said how anything sounds; without a hash it is decoded all the same.
  void onlyBytes() {
    Delivery delivery;
    delivery.render();
    QCOMPARE(check(delivery.out(), {"--only-bytes"}), Codes());
    changeGear(delivery,
               [](WavBytes& wav) { wav.chunk("data")[600] = static_cast<char>(wav.chunk("data")[600] ^ 1); });
    QCOMPARE(check(delivery.out(), {"--only-bytes"}), Codes({{"Gate_gear.wav", {"altered"}}}));
    Delivery::takeHashesOut(delivery.out());
    QCOMPARE(check(delivery.out(), {"--only-bytes"}), Codes({{"Gate_gear.wav", {"altered"}}}));
  }

  // What was left over and taken away is missed by nobody, until it is made again.
  void whatWasCleanedIsNotMissing() {
    Delivery delivery;
    delivery.render();
    delivery.make.session.regions.eraseIf([](const Region& region) { return region.id == "b"; });
    QCOMPARE(check(delivery.make.save(), {"--brief", "Layers"}).size(), std::size_t{3});  // left over
    QCOMPARE(cli({"clean", delivery.make.save(), "--delete"}).exit, 0);
    QVERIFY(!QFile::exists(delivery.out("Winch_gear.wav")));
    QCOMPARE(check(delivery.out()), Codes());
    delivery.make.region("b", "Winch", 12000, 9000);
    delivery.render();
    QVERIFY(QFile::remove(delivery.out("Winch_gear.wav")));
    QCOMPARE(check(delivery.out()), Codes({{"Winch_gear.wav", {"missing"}}}));
  }

  // Saved under another name it has the same files; what it asks for no more may be the first one's.
  void anotherSession() {
    Delivery delivery;
    delivery.render();
    const QString other = delivery.dir.filePath("other.octaphon");
    QVERIFY(QFile::copy(delivery.make.save(), other));
    QCOMPARE(check(other), Codes());
    delivery.make.session.regions.eraseIf([](const Region& region) { return region.id == "b"; });
    QVERIFY(QFile::remove(other) && QFile::copy(delivery.make.save(), other));
    QCOMPARE(check(other), Codes());
    QCOMPARE(check(delivery.make.save(), {"--brief", "Layers"}).size(), std::size_t{3});
  }

  void theDocumentHasAllCodes() {
    const QByteArray document = test::bytesOf(OCTAPHON_SOURCE "/docs/check.md");
    QSet<QString> names;
    for (int code = 0; code < kFindingCodes; ++code) {
      const FindingInfo& info = findingInfo(static_cast<FindingCode>(code));
      const QString severity = info.severity == Severity::Fault ? "fault" : "warning";
      const QString line =
          QString("| `%1` | %2 | %3 | %4").arg(text(info.name), severity, text(info.title), text(info.cure));
      QVERIFY2(document.contains(line.toUtf8()), qPrintable(line));
      names << text(info.name);
      QCOMPARE(findingCodeOf(info.name), info.code);
    }
    QCOMPARE(names.size(), kFindingCodes);
  }

  void whatCannotBeChecked() {
    QTemporaryDir empty;
    const Ran ran = cli({"check", empty.path()});
    QCOMPARE(ran.exit, 1);
    QVERIFY(ran.err.contains("receipt"));
    QCOMPARE(cli({"check", empty.filePath("nothing.octaphon")}).exit, 3);
  }
};

QTEST_GUILESS_MAIN(CheckTest)
#include "tst_check.moc"
