// Loops that are compiled for wide registers give the bits of those that are not.
#include <QtTest>

#include "loop_bits.h"

namespace octaphon_narrow::test {
octaphon::test::LoopBits bitsOfNarrowLoops();
}

class SameBitsTest : public QObject {
  Q_OBJECT
 private slots:
  void everyLoop() {
    const auto wide = octaphon::test::bitsAsBuilt(), narrow = octaphon_narrow::test::bitsOfNarrowLoops();
    QCOMPARE(wide.size(), narrow.size());
    QVERIFY(wide.size() > 8);
    for (std::size_t i = 0; i < wide.size(); ++i) {
      QCOMPARE(wide[i].first, narrow[i].first);
      QVERIFY2(wide[i].second == narrow[i].second, wide[i].first.c_str());
    }
  }
};

QTEST_GUILESS_MAIN(SameBitsTest)
#include "tst_same_bits.moc"
