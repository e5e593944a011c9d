#include <sys/resource.h>
#include <sys/stat.h>

#include <csignal>
#include <QtTest>

#include "ledger/folder_listing.h"
#include "ledger/receipt_journal.h"
#include "support.h"

using namespace octaphon;

namespace {

ReceiptLine line(const std::string& file, std::uint64_t content, std::uint64_t size = 0) {
  const Fingerprint made{{content, 2}, {content, 3}, {content, 4}, {content, 5}};
  return {"key of " + file, file, Digest{content, 1}, made, 0, {size, 5}, {}};
}

/// Of a file that is there.
ReceiptLine lineOf(const SafeFolder& folder, const std::string& file) {
  const auto handle = folder.openFile(file);
  return {"k", file, *digestOf(handle->get(), file, 3), {}, 3, *stampOf(handle->get()), {}};
}

}  // namespace

class LedgerTest : public QObject {
  Q_OBJECT
 private slots:
  void writtenAndReadBackIsTheSame() {
    QTemporaryDir dir;
    const auto folder = SafeFolder::open(dir.path().toStdString(), false);
    {
      auto journal = ReceiptJournal::open(*folder);
      QVERIFY(journal.has_value());
      QVERIFY(journal->append({line("a.wav", 1), line("sub/b \u00E4.wav", 2)}, true).has_value());
      QVERIFY(journal->append({line("a.wav", 3)}, false).has_value());
    }
    const Receipt receipt = Receipt::load(*folder);
    QCOMPARE(receipt.damagedLines(), 0u);
    QCOMPARE(receipt.linesOf("a.wav").size(), 2u);
    QCOMPARE(receipt.linesOf("a.wav").back().content, (Digest{3, 1}));
    QVERIFY(receipt.linesOf("a.wav").back().fingerprint == line("a.wav", 3).fingerprint);
    QCOMPARE(receipt.linesOf("sub/b \u00E4.wav").front().key, std::string("key of sub/b \u00E4.wav"));
    QVERIFY(receipt.linesOf("none").empty());
  }

  void oneRunAtATime() {
    QTemporaryDir dir;
    const auto folder = SafeFolder::open(dir.path().toStdString(), false);
    auto first = ReceiptJournal::open(*folder);
    QCOMPARE(ReceiptJournal::open(*folder).error().code, ErrorCode::Busy);
    first = fail(ErrorCode::Cancelled, "");
    QVERIFY(ReceiptJournal::open(*folder).has_value());
  }

  // After a crash between the line and the rename, the file is still the one before: so two lines a file are
  // kept.
  void compactingKeepsTheLastTwoLines() {
    QTemporaryDir dir;
    const auto folder = SafeFolder::open(dir.path().toStdString(), false);
    auto journal = ReceiptJournal::open(*folder);
    for (std::uint64_t i = 1; i <= 5; ++i)
      QVERIFY(journal->append({line("a.wav", i), line("b.wav", i * 10)}, false).has_value());
    QVERIFY(journal->compact().has_value());
    const Receipt receipt = Receipt::load(*folder);
    QCOMPARE(receipt.linesOf("a.wav").size(), 2u);
    QCOMPARE(receipt.linesOf("a.wav").front().content, (Digest{4, 1}));
    QCOMPARE(receipt.linesOf("b.wav").back().content, (Digest{50, 1}));
  }

  // A receipt that would hardly get shorter stays as it is, down to its bytes.
  void compactingHasToPay() {
    QTemporaryDir dir;
    const auto folder = SafeFolder::open(dir.path().toStdString(), false);
    auto journal = ReceiptJournal::open(*folder);
    for (std::uint64_t i = 1; i <= 3; ++i) QVERIFY(journal->append({line("a.wav", i)}, false).has_value());
    const QByteArray before = test::bytesOf(dir.filePath("octaphon-receipt.jsonl"));
    QVERIFY(journal->compact().has_value());
    QCOMPARE(test::bytesOf(dir.filePath("octaphon-receipt.jsonl")), before);
    QVERIFY(journal->append({line("a.wav", 4)}, false).has_value());
    QVERIFY(journal->compact().has_value());
    QCOMPARE(test::bytesOf(dir.filePath("octaphon-receipt.jsonl")).count('\n'), 3);
  }

  // What a newer version wrote is there after this one has written the receipt anew.
  void newerLinesAndKeysAreKept() {
    const std::string edition = R"({"kind":"edition","brief":"b","numbers":[[1,[2]]]})";
    std::string text = R"({"format":"octaphon-receipt","version":"1.7"})"
                       "\n" +
                       edition + "\n";
    for (int i = 0; i < 5; ++i)
      text +=
          R"({"kind":"file","key":"k","file":"a.wav","hash":"00000000000000000000000000000001","later":{"x":)" +
          std::to_string(i) + "}}\n";
    const Receipt receipt = Receipt::parse(text);
    QCOMPARE(receipt.damagedLines(), 0u);
    QVERIFY(receipt.paysToCompact());
    const std::string anew = receipt.compacted();
    QVERIFY(anew.find(edition + "\n") != std::string::npos);
    const Receipt again = Receipt::parse(anew);
    QCOMPARE(again.linesOf("a.wav").size(), 2u);
    QVERIFY(again.linesOf("a.wav").back().unknownKeys == receipt.linesOf("a.wav").back().unknownKeys);
    QVERIFY(anew.find(R"("later":{"x":4})") != std::string::npos);
  }

  // The first versions wrote one digest for all, and no kind: such files are known, and stale once.
  void receiptsOfTheFirstVersionsAreRead() {
    const Receipt receipt =
        Receipt::parse(R"({"format":"octaphon-receipt","version":"1.0"})"
                       "\n"
                       R"({"key":"k","file":"a.wav","hash":"00000000000000000000000000000001",)"
                       R"("fingerprint":"00000000000000000000000000000002","head":44,"size":50,"changed":7})"
                       "\n");
    QCOMPARE(receipt.damagedLines(), 0u);
    QCOMPARE(receipt.linesOf("a.wav").size(), 1u);
    QCOMPARE(receipt.linesOf("a.wav")[0].stamp.size, 50u);
    QVERIFY(receipt.linesOf("a.wav")[0].fingerprint == Fingerprint{});
    QVERIFY(receipt.linesOf("a.wav")[0].unknownKeys.empty());
  }

  // Files get their names after their lines: what was cut off was never acted on. A last line that somebody
  // left without an end is whole.
  void theLastLineMayBeCutOff_data() {
    QTest::addColumn<QByteArray>("last");
    QTest::addColumn<int>("files");
    const QByteArray whole = QByteArray::fromStdString(Receipt::asText(line("a.wav", 1))).trimmed();
    QTest::newRow("whole") << whole << 2;
    QTest::newRow("cut off") << whole.chopped(20) << 1;
    QTest::newRow("in its first byte") << QByteArray("{") << 1;
  }
  void theLastLineMayBeCutOff() {
    QFETCH(QByteArray, last);
    QFETCH(int, files);
    QTemporaryDir dir;
    const auto folder = SafeFolder::open(dir.path().toStdString(), false);
    QFile file(dir.filePath("octaphon-receipt.jsonl"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(last);
    file.close();
    QCOMPARE(static_cast<int>(Receipt::load(*folder).byFile().size()), files - 1);
    QVERIFY(ReceiptJournal::open(*folder)->append({line("b.wav", 1)}, false).has_value());
    const Receipt receipt = Receipt::load(*folder);
    QCOMPARE(receipt.damagedLines(), 0u);
    QCOMPARE(static_cast<int>(receipt.byFile().size()), files);
  }

  // A full disk takes part of a line: it is no line, and the next one is whole.
  void aLineThatDidNotFitIsForgotten() {
    QTemporaryDir dir;
    const auto folder = SafeFolder::open(dir.path().toStdString(), false);
    auto journal = ReceiptJournal::open(*folder);
    QVERIFY(journal->append({line("a.wav", 1)}, false).has_value());
    const auto size = QFileInfo(dir.filePath("octaphon-receipt.jsonl")).size();
    rlimit before{};
    QCOMPARE(::getrlimit(RLIMIT_FSIZE, &before), 0);
    const rlimit full{static_cast<rlim_t>(size) + 20, before.rlim_max};
    QVERIFY(std::signal(SIGXFSZ, SIG_IGN) != SIG_ERR);
    QCOMPARE(::setrlimit(RLIMIT_FSIZE, &full), 0);
    const bool fitted = journal->append({line("b.wav", 2)}, false).has_value();
    QCOMPARE(::setrlimit(RLIMIT_FSIZE, &before), 0);
    QVERIFY(!fitted);
    QVERIFY(journal->append({line("b.wav", 2)}, false).has_value());
    const Receipt receipt = Receipt::load(*folder);
    QCOMPARE(receipt.damagedLines(), 0u);
    QCOMPARE(receipt.linesOf("b.wav").size(), 1u);
  }

  void linesThatWouldLeaveTheFolderDoNotCount() {
    for (const char* name : {"../a.wav", "/a.wav", "a//b.wav", ""}) {
      const std::string text = QString(R"({"key":"k","file":"%1","hash":"00000000000000000000000000000001"})")
                                   .arg(name)
                                   .toStdString();
      QCOMPARE(Receipt::parse(text).damagedLines(), 1u);
    }
    QCOMPARE(Receipt::parse(std::string(100000, '[')).damagedLines(), 1u);
  }

  void verdicts() {
    QTemporaryDir dir;
    QDir(dir.path()).mkpath("folder.wav");
    const auto put = [&](const char* name, const QByteArray& bytes) {
      QFile file(dir.filePath(name));
      QVERIFY(file.open(QIODevice::WriteOnly));
      file.write(bytes);
    };
    for (const char* name :
         {"stamped.wav", "touched.wav", "altered.wav", "before.wav", "twin.wav", "foreign.wav"})
      put(name, name);
    QVERIFY(QFile::link(dir.filePath("stamped.wav"), dir.filePath("link.wav")));
    const auto folder = SafeFolder::open(dir.path().toStdString(), false);
    const auto real = [&](const char* name) { return lineOf(*folder, name); };
    std::vector<ReceiptLine> lines{real("stamped.wav"), real("touched.wav"), real("altered.wav"),
                                   real("before.wav"),  real("before.wav"),  real("twin.wav"),
                                   real("twin.wav")};
    lines[1].stamp.changed += 1;
    lines[2].content.low ^= 1;
    lines[2].stamp.changed += 1;
    lines[4].content.low ^= 1;  // a line whose file never got its name
    lines[4].stamp.size += 1;
    lines[6].content.low ^=
        1;  // of a file that was written in the same moment, as large, and was to move here
    lines[6].key = "another";
    for (const char* name : {"folder.wav", "link.wav"}) {
      lines.push_back(lines[0]);
      lines.back().file = name;
    }
    QVERIFY(ReceiptJournal::open(*folder)->append(lines, false).has_value());
    const FolderFacts facts = lookAtFolder(
        {dir.path().toStdString()}, {"stamped.wav", "touched.wav", "altered.wav", "before.wav", "twin.wav",
                                     "foreign.wav", "folder.wav", "link.wav", "none.wav"});
    const auto verdict = [&](const char* name) { return facts.files.at(name).verdict; };
    QCOMPARE(verdict("stamped.wav"), FileVerdict::Ours);
    QCOMPARE(verdict("touched.wav"), FileVerdict::Ours);
    QCOMPARE(verdict("altered.wav"), FileVerdict::Changed);
    QCOMPARE(verdict("before.wav"), FileVerdict::Ours);
    QCOMPARE(facts.files.at("twin.wav").line->key, std::string("k"));
    QCOMPARE(verdict("foreign.wav"), FileVerdict::Foreign);
    QCOMPARE(verdict("folder.wav"), FileVerdict::Foreign);
    QCOMPARE(verdict("link.wav"), FileVerdict::Foreign);
    QVERIFY(!facts.files.contains("none.wav"));
    QVERIFY(lookAtFolder({dir.filePath("not there").toStdString()}, {"a"}).files.empty());
  }

  // A run names files between the reading of its receipt and the look at the folder.
  void namedMeanwhile() {
    QTemporaryDir dir;
    const FolderPath base{dir.path().toStdString()};
    const auto folder = SafeFolder::open(base, false);
    for (const char* name : {"common.wav", "shared.wav"})
      QVERIFY(folder->create(name).value().publish(false).has_value());
    const auto before = receiptIn(base);
    const Share second{2, 3};
    QVERIFY(ReceiptJournal::open(*folder)->append({lineOf(*folder, "common.wav")}, false).has_value());
    QVERIFY(
        ReceiptJournal::open(*folder, second)->append({lineOf(*folder, "shared.wav")}, false).has_value());
    const FolderFacts facts = lookAtFolder(base, {"common.wav", "shared.wav"}, before);
    QCOMPARE(facts.files.at("common.wav").verdict, FileVerdict::Ours);
    QCOMPARE(facts.files.at("shared.wav").verdict, FileVerdict::Ours);
  }
};

QTEST_APPLESS_MAIN(LedgerTest)
#include "tst_ledger.moc"
