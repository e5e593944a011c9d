#include <QtTest>
class RoutingTest : public QObject { Q_OBJECT };
QTEST_GUILESS_MAIN(RoutingTest)
#include "tst_routing.moc"
