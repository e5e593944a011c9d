#include <QtTest>

#include "naming/file_name.h"
#include "naming/template.h"

using namespace octaphon;

class NamingTest : public QObject {
  Q_OBJECT
 private slots:
  void names_data() {
    QTest::addColumn<QString>("format");
    QTest::addColumn<QString>("letterCase");
    QTest::addColumn<QString>("name");
    const auto row = [](const char* format, const char* letterCase, const char* name) {
      QTest::addRow("%s %s", format, letterCase) << format << letterCase << name;
    };
    row("{region.base}_{source}_{n.name:2}", "snake", "winch_start_gear_wheel_03");
    row("{region}", "as-is", "Winch_Start 01");
    row("{region} {n}", "as-is", "Winch_Start 01 012");
    row("{session} {brief} {group}", "kebab", "tidewheel-game-sounds-machines");
    row("{region}", "pascal", "WinchStart01");
    row("{region}", "camel", "winchStart01");
    row("{region}", "upper", "WINCH_START 01");
    row("{region}", "lower", "winch_start 01");
    row("{group}/{n:4} {source}", "as-is", "Machines/0012 Gear Wheel");
    row("{{{source}}}", "as-is", "{Gear Wheel}");
    row("a:b*c?", "as-is", "a_b_c_");
    row("NUL", "as-is", "NUL_");
    row(".hidden", "as-is", "_hidden");
    row("dot.", "as-is", "dot");
    row("{region}", "snake", "winch_start_01");
  }
  void names() {
    QFETCH(QString, format);
    QFETCH(QString, letterCase);
    QFETCH(QString, name);
    const FieldValues values{
        "Tidewheel", "Game sounds", "Winch/Start 01", "Gear Wheel", "Machines", 12, 3, 3, 1};
    const auto parsed = Template::parse(format.toStdString());
    QVERIFY(parsed.has_value());
    QCOMPARE(QString::fromStdString(
                 expandName(*parsed, values, *parseChoice<LetterCase>(letterCase.toStdString()))),
             name);
  }

  void emptyFoldersDropOutAndHostileValuesStayInside() {
    const auto format = *Template::parse("{group}/{source}");
    FieldValues values;
    values.source = "../../etc/passwd";
    QCOMPARE(expandName(format, values, LetterCase::AsIs), std::string("_._.._etc_passwd"));
    values.source = std::string("a\0b\x01", 4);
    QCOMPARE(expandName(format, values, LetterCase::AsIs), std::string("a_b_"));
    values.source = "...";
    QCOMPARE(expandName(format, values, LetterCase::AsIs), std::string());
    values.group = "..";
    values.source = "x";
    QCOMPARE(expandName(format, values, LetterCase::AsIs), std::string("x"));
  }

  void mistakesHaveAPlace_data() {
    QTest::addColumn<QString>("format");
    QTest::addColumn<int>("character");
    QTest::newRow("unknown field") << "ab{regio}" << 3;
    QTest::newRow("not closed") << "ab{region" << 3;
    QTest::newRow("not opened") << "ab}" << 3;
    QTest::newRow("digits of text") << "{region:2}" << 8;
    QTest::newRow("digits") << "{n:x}" << 3;
    QTest::newRow("no digits") << "{n:0}" << 3;
    QTest::newRow("up") << "a/../b" << 3;
    QTest::newRow("absolute") << "/a" << 1;
    QTest::newRow("ends with a folder") << "a/" << 3;
    QTest::newRow("nothing") << "" << 1;
  }
  void mistakesHaveAPlace() {
    QFETCH(QString, format);
    QFETCH(int, character);
    const auto parsed = Template::parse(format.toStdString());
    QVERIFY(!parsed);
    QCOMPARE(QString::fromStdString(parsed.error().place), QString("template, character %1").arg(character));
    QVERIFY(!parsed.error().text.empty());
  }

  void bases_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<QString>("base");
    for (const auto& [name, base] : {std::pair{"Winch/Start 01", "Winch/Start"},
                                     {"Storm2", "Storm"},
                                     {"Tour/20", "Tour/20"},
                                     {"Tour/20 s", "Tour/20 s"},
                                     {"a_01", "a"},
                                     {"12", "12"},
                                     {"", ""},
                                     {"a/ 01", "a/ 01"}})
      QTest::addRow("%s", name) << name << base;
  }
  void bases() {
    QFETCH(QString, name);
    QFETCH(QString, base);
    QCOMPARE(QString::fromStdString(baseName(name.toStdString())), base);
  }

  // Microsoft, "Naming Files, Paths, and Namespaces": reserved names with any ending; no trailing dot or
  // space.
  void namesAllowedEverywhere() {
    for (const char* name : {"CON", "con", "Prn.txt", "aux", "NUL.tar.gz", "COM1", "com9.x", "LPT3", "lpt1 "})
      QVERIFY2(allowedName(name) != name, name);
    for (const char* name : {"CONSOLE", "COM0", "COM10", "nullify", "plain name", "\u00C4pfel"})
      QCOMPARE(allowedName(name), std::string(name));
    for (char c = 1; c < 0x20; ++c) QCOMPARE(allowedName(std::string("a") + c + "b"), std::string("a_b"));
    QCOMPARE(allowedName("  a . . "), std::string("a"));
    QCOMPARE(allowedName("e\u0301"), std::string("\u00E9"));
  }
};

QTEST_APPLESS_MAIN(NamingTest)
#include "tst_naming.moc"
