#include <QtTest>
#include <set>

#include "base/decibels.h"
#include "base/interval_index.h"
#include "base/remark.h"
#include "base/safe_folder.h"
#include "base/shared_list.h"
#include "base/tempo_map.h"
#include "base/timecode.h"
#include "base/unicode.h"

using namespace octaphon;

class BaseTest : public QObject {
  Q_OBJECT
 private slots:
  void everyCodeHasItsText() {
    for (int i = 0; i < kErrorCodes; ++i)
      QVERIFY(!errorText(static_cast<ErrorCode>(i)).empty() && !errorName(static_cast<ErrorCode>(i)).empty());
    std::set<std::string_view> names;
    for (int i = 0; i < kRemarkCodes; ++i) names.insert(remarkName(static_cast<RemarkCode>(i)));
    QCOMPARE(names.size(), static_cast<std::size_t>(kRemarkCodes));
    QVERIFY(!names.contains(""));
  }

  // Copies share what nobody writes to: whoever writes, and only he, has a list of his own.
  void listsAreSharedUntilTheyAreWrittenTo_data() {
    using Act = std::function<void(SharedList<int>&)>;
    QTest::addColumn<Act>("act");
    QTest::addColumn<std::vector<int>>("after");
    const auto row = [](const char* name, Act act, std::vector<int> after) {
      QTest::newRow(name) << std::move(act) << std::move(after);
    };
    const std::vector<int> same{3, 1, 2};
    row(
        "read", [](auto& list) { (void)list.all().front(), (void)std::as_const(list)[1]; }, same);
    row(
        "nothing to take out", [](auto& list) { list.eraseIf([](int i) { return i > 3; }); }, same);
    row(
        "nothing to change",
        [](auto& list) {
          changeWhere(
              list, [](int i) { return i > 3; }, [](int& i) { ++i; });
        },
        same);
    row("one taken out", [](auto& list) { list.eraseIf([](int i) { return i == 1; }); }, {3, 2});
    row("one changed",
        [](auto& list) {
          changeWhere(
              list, [](int i) { return i == 1; }, [](int& i) { i = 7; });
        },
        {3, 7, 2});
    row("by place", [](auto& list) { list[2] = 9; }, {3, 1, 9});
    row("one more", [](auto& list) { list.push_back(4); }, {3, 1, 2, 4});
    row("a part out", [](auto& list) { list.erase(list.begin(), list.begin() + 2); }, {2});
    row("all out", [](auto& list) { list.clear(); }, {});
    row("moved away", [](auto& list) { const auto gone = std::move(list); }, {});
  }
  void listsAreSharedUntilTheyAreWrittenTo() {
    QFETCH(std::function<void(SharedList<int>&)>, act);
    QFETCH(std::vector<int>, after);
    const SharedList<int> first{3, 1, 2};
    SharedList<int> list = first;
    const SharedList<int> second = list;
    QVERIFY(list.isSharedWith(first) && list == second);
    act(list);
    QCOMPARE(list.all(), after);
    QCOMPARE(list.isSharedWith(first), after == first.all());
    QCOMPARE(first.all(), (std::vector<int>{3, 1, 2}));
    QVERIFY(first.isSharedWith(second));
    const SharedList<int> alike(after);  // equal without being shared
    QVERIFY(list == alike);
  }

  // 44.1 → 48 kHz is 160/147 (arithmetic); the largest length a session may have does not overflow.
  void lengthsAtAnotherRate() {
    for (const Frame n : {Frame{0}, Frame{1}, Frame{146}, Frame{147}, Frame{44100}, Frame{1234567}})
      QCOMPARE(atRate(n, 44100, 48000),
               static_cast<Frame>(std::floor(static_cast<long double>(n) * 160 / 147 + 0.5L)));
    QCOMPARE(atRate(kMaxFrame, 48000, 48000), kMaxFrame);
    QVERIFY(!checkedSum(kMaxFrame, 1));
    QVERIFY(!checkedSum(-1, 1));
    QCOMPARE(*checkedSum(kMaxFrame - 1, 1), kMaxFrame);
  }

  void times_data() {
    QTest::addColumn<qint64>("frames");
    QTest::addColumn<QString>("text");
    QTest::newRow("nothing") << qint64{0} << "0:00.000";
    QTest::newRow("ms") << qint64{48 * 3412} << "0:03.412";
    QTest::newRow("minute") << qint64{48000 * 61} << "1:01.000";
    QTest::newRow("hour") << qint64{48000 * 3661} << "1:01:01.000";
  }
  void times() {
    QFETCH(qint64, frames);
    QFETCH(QString, text);
    QCOMPARE(QString::fromStdString(timeText(frames, 48000)), text);
  }

  // SMPTE ST 12-1: 17 982 frames in ten minutes, 107 892 in an hour; 00:00:59;29 is followed by 00:01:00;02.
  void dropFrameTimecode() {
    const PictureRate rate = *parsePictureRate("29.97df");
    QCOMPARE(*parseTimecode("00:10:00;00", rate), Frame{17982});
    QCOMPARE(*parseTimecode("01:00:00;00", rate), Frame{107892});
    const Frame last = *parseTimecode("00:00:59;29", rate);
    QCOMPARE(timecodeText(last + 1, rate), std::string("00:01:00;02"));
    QVERIFY(!parseTimecode("00:01:00;00", rate));
    for (Frame frame = 0; frame < 40000; frame += 7)
      QCOMPARE(*parseTimecode(timecodeText(frame, rate), rate), frame);
  }

  void wrongTimecodesAreRefused() {
    const PictureRate rate = *parsePictureRate("25");
    for (const char* text :
         {"", "1:2:3:4", "00:00:00:25", "24:00:00:00", "00:60:00:00", "aa:bb:cc:dd", "00:00:00:00:00"})
      QVERIFY2(!parseTimecode(text, rate), text);
    QVERIFY(!parsePictureRate("26"));
    QCOMPARE(audioFrameOf(25, rate, 48000), Frame{48000});
    QCOMPARE(pictureFrameAt(48000, rate, 48000), Frame{25});
  }

  // 6 bars of 3/4 at 108 a minute last 10 s (worked by hand: 18 beats of 60/108 s).
  void bars() {
    const TempoMap map({{0, 108, 3, 4, {}}, {480000, 120, 4, 4, {}}}, 48000);
    QCOMPARE(map.frameOfBar(7), Frame{480000});
    QCOMPARE(map.frameOfBar(8), Frame{480000 + 96000});
    QCOMPARE(QString::fromStdString(positionText(map.positionAt(480000 + 24000 * 2 + 12000))),
             QString("bar 7, beat 3.50"));
    QCOMPARE(positionText({12, 1, 959}), std::string("bar 12, beat 1.99"));  // never a beat too many
    QCOMPARE(positionText({1, 2, 10}), std::string("bar 1, beat 2.01"));
    for (long bar = 1; bar < 400; ++bar) {
      const MusicalPosition position = map.positionAt(map.frameOfBar(bar));
      QCOMPARE(position.bar, bar);
      QCOMPARE(position.beat, 1);
      QCOMPARE(position.tick, 0);
    }
  }

  void decibels() {
    QCOMPARE(gainOf(0), 1.0);
    QCOMPARE(gainOf(kSilenceDb), 0.0);
    QVERIFY(std::abs(gainOf(-6.0) - 0.501187) < 1e-6);  // 10^(−6/20)
    QCOMPARE(decibelText(-3), std::string("−3.0"));
    QCOMPARE(decibelText(-0.04), std::string("0.0"));
    QCOMPARE(decibelText(-200), std::string("−∞"));
  }

  // Equality of names: NFC (UAX #15) and CaseFolding.
  void namesThatAreEqual() {
    QCOMPARE(foldedName("Stra\u00DFe"), foldedName("STRASSE"));
    QCOMPARE(foldedName("Cafe\u0301"), foldedName("CAF\u00C9"));
    QVERIFY(foldedName("a") != foldedName("b"));
    QCOMPARE(foldedName("ABC"), std::string("abc"));
  }

  void intervalsAreFoundLikeByASearch() {
    std::vector<IntervalIndex::Interval> all;
    unsigned seed = 1;
    const auto next = [&](unsigned most) {
      return static_cast<Frame>((seed = seed * 1664525u + 1013904223u) >> 8) % most;
    };
    for (std::uint32_t i = 0; i < 500; ++i) {
      const Frame start = next(10000);
      all.push_back({start, start + 1 + next(i % 50 == 0 ? 9000 : 60), i});
    }
    const IntervalIndex index(all);
    for (int turn = 0; turn < 200; ++turn) {
      const Frame from = next(10000);
      const Frame to = from + 1 + next(300);
      std::set<std::uint32_t> found, expected;
      index.overlapping(from, to, [&](const IntervalIndex::Interval& one) { found.insert(one.item); });
      for (const auto& one : all)
        if (one.start < to && one.end > from) expected.insert(one.item);
      QVERIFY(found == expected);
    }
  }

  // Unicode 15: general category Cc, line and paragraph separators, Bidi_Control; bytes that are no UTF-8.
  void controls_data() {
    QTest::addColumn<QByteArray>("text");
    QTest::addColumn<QByteArray>("without");
    QTest::newRow("none") << QByteArray("Straße 01/ä") << QByteArray("Straße 01/ä");
    QTest::newRow("C0") << QByteArray("a\x1b[31m\tb\x7f") << QByteArray("a_[31m_b_");
    for (const char* one :
         {"\xC2\x80", "\xC2\x9B", "\xC2\x9F", "\xE2\x80\xA8", "\xE2\x80\xA9", "\xE2\x80\x8E", "\xE2\x80\x8F",
          "\xD8\x9C", "\xE2\x80\xAA", "\xE2\x80\xAE", "\xE2\x81\xA6", "\xE2\x81\xA9", "\xFF", "\xC3"})
      QTest::newRow(QByteArray(one).toHex().constData()) << "x" + QByteArray(one) + "y" << QByteArray("x_y");
    QTest::newRow("what only looks odd")
        << QByteArray("e\xCC\x81 \xE2\x80\x8D \xC2\xA0") << QByteArray("e\xCC\x81 \xE2\x80\x8D \xC2\xA0");
  }
  void controls() {
    QFETCH(QByteArray, text);
    QFETCH(QByteArray, without);
    QCOMPARE(QByteArray::fromStdString(withoutControls(text.toStdString(), "_")), without);
  }

  // Links on the way to what the user named are followed, behind that none is.
  void linksAfterTheNamedFolder() {
    QTemporaryDir dir;
    QDir(dir.path()).mkpath("real/in");
    QVERIFY(QFile::link(dir.path() + "/real", dir.path() + "/link"));
    const auto open = [&](const char* named, const char* below, bool create = false) {
      return SafeFolder::open(FolderPath{(dir.path() + "/" + named).toStdString(), below}, create);
    };
    QVERIFY(open("link", "").has_value() && open("link", "in").has_value() &&
            open("link/in", "").has_value());
    QCOMPARE(open(".", "link").error().code, ErrorCode::OutsideFolder);
    QCOMPARE(open(".", "link/in", true).error().code, ErrorCode::OutsideFolder);
    QCOMPARE(open(".", "../x").error().code, ErrorCode::OutsideFolder);
    QCOMPARE(open("real", "none").error().code, ErrorCode::NotFound);
    QVERIFY(open("real", "none/deep", true).has_value());
    QVERIFY(!open(".", "real").value().problemOf("not/yet"));
  }

  void aFolderCannotBeLeft() {
    QTemporaryDir dir;
    QDir(dir.path()).mkpath("in/real");
    QVERIFY(QFile::link(dir.path(), dir.path() + "/in/link"));
    const auto folder = SafeFolder::open((dir.path() + "/in").toStdString(), false);
    QVERIFY(folder.has_value());
    for (const char* path : {"../x", "/x", "a/../../x", "a//b", "./a", "a/.", "", "link/x"})
      QVERIFY2(!folder->create(path), path);
    QCOMPARE(folder->create("link/x").error().code, ErrorCode::OutsideFolder);
    QVERIFY(folder->create("real/deeper/x").has_value());
    QCOMPARE(QDir(dir.path()).entryList(QDir::Files | QDir::Hidden).size(), 0);
    QCOMPARE(QDir(dir.path() + "/in/real/deeper").entryList(QDir::Files | QDir::Hidden).size(), 0);
  }

  void aFileAppearsWholeOrNotAtAll() {
    QTemporaryDir dir;
    const auto folder = SafeFolder::open(dir.path().toStdString(), false);
    {
      auto pending = folder->create("one");
      QVERIFY(writeAll(pending->fd(), "half", "").has_value());
    }
    QVERIFY(folder->list("")->empty());
    auto pending = folder->create("one");
    QVERIFY(pending->publish(false).has_value());
    auto second = folder->create("one");
    QCOMPARE(second->publish(false).error().code, ErrorCode::Occupied);
    auto third = folder->create("one");
    QVERIFY(third->publish(true).has_value());
  }

  void replacingKeepsTheOldFileWhenItFails() {
    QTemporaryDir dir;
    const std::string file = dir.filePath("session").toStdString();
    QVERIFY(replaceFile(file, "old").has_value());
    QVERIFY(!replaceFile(dir.filePath("not/there").toStdString(), "new"));
    QVERIFY(replaceFile(file, "new").has_value());
    QCOMPARE(*readFile(file, 100), std::string("new"));
    QCOMPARE(readFile(file, 2).error().code, ErrorCode::TooLarge);
    QCOMPARE(readFile(dir.path().toStdString(), 100).error().code, ErrorCode::NotRegularFile);
    QCOMPARE(QDir(dir.path()).entryList(QDir::Files | QDir::Hidden).size(), 1);
  }
};

QTEST_APPLESS_MAIN(BaseTest)
#include "tst_base.moc"
