#include <QtTest>

#include "base/calendar.h"
#include "base/name_pattern.h"
#include "naming/expand.h"
#include "naming/file_name.h"

using namespace octaphon;

namespace {

/// Values as a row would have them, by what stands between the braces.
class Values : public NameValues {
 public:
  std::map<std::string, std::string> texts{{"session", "Tidewheel"},
                                           {"brief", "Game sounds"},
                                           {"region", "Winch/Start 01"},
                                           {"region.base", "Winch/Start"},
                                           {"region.1", "Winch"},
                                           {"region.-1", "Start 01"},
                                           {"source", "Gear Wheel"},
                                           {"group", "Machines"},
                                           {"groups", "Quay/Machines"},
                                           {"region.fact", "north quay"},
                                           {"author", ""},
                                           {"clipset", ""},
                                           {"marker", "M\u00f6wenge\u00e4u\u00dfe \u00c5l\u00f8p"},
                                           {"track", "\u6771\u4eac Bell 7"},
                                           {"take", "don't STOP me2Now"},
                                           {"metre", " _-x.-_ "}};
  AbbreviationTable table{{"Gear Wheel", "GW"}, {"wheel", "Whl"}, {"Machines", "Mach"}, {"start", "St"}};
  NumberPlace number{12, 300, 300};
  NumberPlace nameNumber{3, 4, 9};
  NumberPlace inRegion{1, 1, 5};

  bool append(const TemplatePart& field, std::string& text, bool& isLost) const override {
    const Abbreviations abbreviations(table);
    const std::string value = filteredValue(field, valueOf(field.field), &abbreviations, isLost);
    text += value;
    return !value.empty();
  }

 private:
  std::string valueOf(const FieldUse& use) const {
    if (use.field == NameField::Number) return numberText(number, use.number);
    if (use.field == NameField::NameNumber) return numberText(nameNumber, use.number);
    if (use.field == NameField::NumberInRegion) return numberText(inRegion, use.number);
    if (use.field == NameField::EditionDate) return *dateAs({2026, 3, 1}, use.argumentOr("yyyy-MM-dd"));
    const auto found = texts.find(nameOf(use));
    std::string text = found == texts.end() ? std::string() : found->second;
    // What rows do with the levels of a path.
    const std::string separator(use.argumentOr("_"));
    if (nameFieldInfo(use.field).argument == FieldArgument::Separator)
      for (std::size_t at = 0; (at = text.find('/', at)) != std::string::npos; at += separator.size())
        text.replace(at, 1, separator);
    return text;
  }
};

std::string expanded(const std::string& format, LetterCase letterCase = LetterCase::AsIs) {
  const auto parsed = Template::parse(format);
  return parsed ? expandName(*parsed, Values(), letterCase).path : parsed.error().describe();
}

struct Example {
  const char* format;
  const char* name;
};

}  // namespace

class NamingTest : public QObject {
  Q_OBJECT
 private slots:
  void cases_data() {
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
    row("{region}", "snake", "winch_start_01");
    row("{region:/}", "snake", "winch/start_01");
    row("{group}/{n:4} {source}", "as-is", "Machines/0012 Gear Wheel");
    row("{{{source}}}", "as-is", "{Gear Wheel}");
    row("a:b*c?", "as-is", "a_b_c_");
    row("NUL", "as-is", "NUL_");
    row(".hidden", "as-is", "_hidden");
    row("dot.", "as-is", "dot");
  }
  void cases() {
    QFETCH(QString, format);
    QFETCH(QString, letterCase);
    QFETCH(QString, name);
    QCOMPARE(QString::fromStdString(
                 expanded(format.toStdString(), *parseChoice<LetterCase>(letterCase.toStdString()))),
             name);
  }

  // The language, part by part. What is written anew reads the same.
  void language_data() {
    QTest::addColumn<QString>("format");
    QTest::addColumn<QString>("name");
    static constexpr Example kExamples[]{
        // text, braces, folders
        {"a", "a"},
        {"{{", "{"},
        {"}}", "}"},
        {"{{}}", "{}"},
        {"{{n}}", "{n}"},
        {"{{{n}}}", "{012}"},
        {"{{{{{n}}}}}", "{{012}}"},
        {"a/b/{n}", "a/b/012"},
        {"{author}/{n}", "012"},
        {"x{author}/{n}", "x/012"},
        {"{author} /{n}", "012"},
        {"\u00dcb{n}", "\u00dcb012"},
        {"u\u0308{n}", "\u00fc012"},
        {"a\"b", "a_b"},
        {"a|b", "a_b"},
        {"{ n }", "012"},
        {"{source }", "Gear Wheel"},
        // levels
        {"{region.1}", "Winch"},
        {"{region.-1}", "Start 01"},
        {"{region.2}x", "x"},
        {"{region.-9}x", "x"},
        {"{region: - }", "Winch - Start 01"},
        {"{region:/}", "Winch/Start 01"},
        {"{region:\"/\"}", "Winch/Start 01"},
        {"{region:}", "WinchStart 01"},
        {"{region:\"\"}", "WinchStart 01"},
        {"{groups:/}/{n}", "Quay/Machines/012"},
        {"{region:\"|\"}", "Winch_Start 01"},
        {"{region:\"}\"}", "Winch}Start 01"},
        {"{region:\"\"\"\"}", "Winch_Start 01"},
        {"{region.fact:place}", "north quay"},
        {"{region.fact:\"a b\"}", "north quay"},
        // numbers
        {"{n}", "012"},
        {"{n:1}", "12"},
        {"{n:2}", "12"},
        {"{n:5}", "00012"},
        {"{n:9}", "000000012"},
        {"{n:from 0}", "011"},
        {"{n:from 10 step 5}", "0065"},
        {"{n:2 from 10 step 5}", "65"},
        {"{n:step 10}", "0111"},
        {"{n: 3  from 1 }", "012"},
        {"{n:several}", "012"},
        {"{n.name}", "3"},
        {"{n.name:2}", "03"},
        {"{n.region}", "1"},
        {"x<{n.region:several}>", "x"},
        {"x<_{n.name:2 several}>", "x_03"},
        {"{n:from 999999999}", "1000000010"},
        // dates; letters of Unicode UTS #35
        {"{edition.date}", "2026-03-01"},
        {"{edition.date:yyyyMMdd}", "20260301"},
        {"{edition.date:yy-M-d}", "26-3-1"},
        {"{edition.date:d MMM yyyy}", "1 Mar 2026"},
        {"{edition.date:MMMM}", "March"},
        {"{edition.date:EEEE}", "Sunday"},
        {"{edition.date:EEE}", "Sun"},
        {"{edition.date:YYYY'w'ww}", "2026w09"},
        {"{edition.date:\"yyyy 'at' D\"}", "2026 at 60"},
        {"{edition.date:QQQ}", "Q1"},
        {"{edition.date:yyyy/MM}", "2026/03"},
        // parts that drop out
        {"x<_{author}>", "x"},
        {"x<_{group}>", "x_Machines"},
        {"x<_{author}_{group}>", "x"},
        {"x<_{group}<_{author}>>", "x_Machines"},
        {"x<_{author}<_{group}>>", "x"},
        {"<{author}/>{n}", "012"},
        {"<{group}/>{n}", "Machines/012"},
        {"<{author}><{clipset}>{n}", "012"},
        {"x<_{author|or \"nobody\"}>", "x_nobody"},
        {"x<_{group|cut 99}>", "x"},
        {"<<{n}>_{group}>", "012_Machines"},
        // filters
        {"{group|upper}", "MACHINES"},
        {"{group|lower}", "machines"},
        {"{region|title}", "Winch_Start 01"},
        {"{take|title}", "Don't Stop Me2now"},
        {"{marker|title}", "M\u00f6wenge\u00e4u\u00dfe \u00c5l\u00f8p"},
        {"{source|camel}", "gearWheel"},
        {"{source|pascal}", "GearWheel"},
        {"{source|snake}", "gear_wheel"},
        {"{source|kebab}", "gear-wheel"},
        {"{region:/|snake}", "winch/start_01"},
        {"{take|snake}", "dont_stop_me2now"},
        {"{take|camel}", "dontStopMe2now"},
        {"{group|upper|lower}", "machines"},
        {"{group| upper | cut 2 }", "CHINES"},
        {"{metre|trim}", "x"},
        {"{metre|trim \" _\"}", "-x.-"},
        {"{metre|trim \"_ -\"}", "x"},
        {"{group|trim Ms}", "achine"},
        {"{group|cut 2}", "chines"},
        {"{group|cut -2}", "Machin"},
        {"{group|cut 99}x", "x"},
        {"{marker|cut 1}", "\u00f6wenge\u00e4u\u00dfe \u00c5l\u00f8p"},
        {"{track|cut 1}", "\u4eac Bell 7"},
        {"{region|words 1}", "Winch"},
        {"{region|words -1}", "01"},
        {"{region|words 2}", "Winch_Start"},
        {"{region|words -2}", "Start 01"},
        {"{region|words 9}", "Winch_Start 01"},
        {"{take|words 1}", "don't"},
        {"{author|words 1}x", "x"},
        {"{region|replace \" \" \"\"}", "Winch_Start01"},
        {"{region|replace Start Stop}", "Winch_Stop 01"},
        {"{region|replace \"\" x}", "Winch_Start 01"},
        {"{region|replace Winch_ \"\"}", "Start 01"},
        {"{region|replace t tt}", "Winch_Sttartt 01"},
        {"{region|pattern \"[0-9]+$\" \"\"|trim}", "Winch_Start"},
        {"{region|pattern \"^(\\w)\\w*_(\\w+)\" \"$2 $1\"}", "Start W 01"},
        {"{region|pattern \"x\" y}", "Winch_Start 01"},
        {"{region|initials}", "WS01"},
        {"{take|initials}", "dSm"},
        {"{marker|initials}", "M\u00c5"},
        {"{groups|initials|lower}", "qm"},
        {"{source|short}", "GW"},
        {"{group|short}", "Mach"},
        {"{region|short}", "Winch_St 01"},
        {"{track|short}", "\u6771\u4eac Bell 7"},
        {"{marker|ascii}", "Mowengeausse Alop"},
        {"{marker|ascii de}", "Moewengeaeusse Alop"},
        {"{marker|ascii nordic}", "Moewengeaeusse Aaloep"},
        {"{track|ascii}", "__ Bell 7"},
        {"{marker|ascii plain}", "Mowengeausse Alop"},
        {"{region|max 99}", "Winch_Start 01"},
        {"{region|max 8}", "Winch 01"},
        {"{region|max 5}", "Wi 01"},
        {"{region|max 3}", "W01"},
        {"{region|max 2}", "01"},
        {"{region|max 1}", "1"},
        {"{group|max 4}", "Mach"},
        {"{track|max 4}", "\u6771\u4eac 7"},
        {"{author|or \"No one\"}", "No one"},
        {"{author|or x|upper}", "X"},
        {"{group|or x}", "Machines"},
        {"{author|or \"\"}x", "x"},
        {"{region|digits 4}", "Winch_Start 0001"},
        {"{region|digits 1}", "Winch_Start 1"},
        {"{track|digits 2}", "\u6771\u4eac Bell 07"},
        {"{group|digits 3}", "Machines"},
        {"{n|digits 5}", "00012"},
        {"{n.name:2|or x}", "03"},
        {"{author|or \"a/b\"}", "a/b"},
        {"{author|or \"..\"}x", "_.x"},
    };
    for (const Example& example : kExamples)
      QTest::addRow("%s", example.format) << example.format << example.name;
  }
  void language() {
    QFETCH(QString, format);
    QFETCH(QString, name);
    QCOMPARE(QString::fromStdString(expanded(format.toStdString())), name);
    const Template parsed = *Template::parse(format.toStdString());
    const auto again = Template::parse(parsed.text());
    QVERIFY2(again && *again == parsed, parsed.text().c_str());
    QCOMPARE(again->text(), parsed.text());
  }

  // Every filter by every field: nothing becomes invalid, longer than it may, or a way out.
  void everyFilterOfEveryFieldGivesAnAllowedName() {
    int tried = 0;
    for (const NameFieldInfo& field : kNameFields)
      for (const FilterInfo& filter : kFilters) {
        if (field.isForText) {
          QVERIFY(!Template::parse("{" + std::string(field.name) + "}"));
          ++tried;
          continue;
        }
        std::string name = std::string(field.name) + (field.hasLevel ? "1" : "");
        if (field.argument == FieldArgument::Key) name += ":place";
        const std::string format = "x{" + name + "|" + std::string(filter.example) + "}";
        const auto parsed = Template::parse(format);
        QVERIFY2(parsed.has_value(), (format + ": " + (parsed ? "" : parsed.error().describe())).c_str());
        QVERIFY2(*Template::parse(parsed->text()) == *parsed, format.c_str());
        const std::string path = expanded(format);
        QCOMPARE(allowedName(path), path);
        ++tried;
      }
    QCOMPARE(tried, static_cast<int>(kNameFields.size() * kFilters.size()));
  }

  void emptyFoldersDropOutAndHostileValuesStayInside() {
    const auto format = *Template::parse("{group}/{source}");
    Values values;
    const auto name = [&] { return expandName(format, values, LetterCase::AsIs).path; };
    values.texts["group"] = "";
    values.texts["source"] = "..";
    QCOMPARE(name(), std::string());
    values.texts["source"] = std::string("a\0b\x01", 4);
    QCOMPARE(name(), std::string("a_b_"));
    values.texts["source"] = "x/../../etc/passwd";  // where a value makes folders
    QCOMPARE(name(), std::string("x/etc/passwd"));
    values.texts["source"] = "a/.";
    QCOMPARE(name(), std::string());
    values.texts["group"] = "..";
    values.texts["source"] = "x";
    QCOMPARE(name(), std::string("x"));
    values.texts["group"] = "\u202e\u200fgpj";
    QCOMPARE(name(), std::string("__gpj/x"));
  }

  void mistakesHaveAPlaceAndAWayOut_data() {
    QTest::addColumn<QString>("format");
    QTest::addColumn<int>("character");
    QTest::addColumn<QString>("cure");
    const auto row = [](const char* format, int character, const char* cure) {
      QTest::addRow("%s", format) << QString(format) << character << QString(cure);
    };
    row("ab{regio}", 3, "{region}");
    row("\u00e4b{regin.base}", 3, "{region.base}");
    row("{souce}", 1, "{source}");
    row("{zzzzzz}", 1, "{session} {author}");
    row("{}", 1, "{session}");
    row("{region.0}", 1, "{region}");
    row("{region.x}", 1, "{region");
    row("ab{region", 3, "{{");
    row("ab}", 3, "}}");
    row("{group:2}", 8, "Leave it out");
    row("{region.number:x}", 16, "{region.number:2}");
    row("{n:x}", 4, "{n:2}");
    row("{n:0}", 4, "{n:2}");
    row("{n:2 step 0}", 4, "step");
    row("{n:2 from}", 4, "from");
    row("{n:2 2}", 4, "{n:2}");
    row("{region.fact:}", 14, "{region.fact:place}");
    row("{edition.date:HH}", 15, "yyyy-MM-dd");
    row("{edition.date:'x}", 15, "yyyy-MM-dd");
    row("{length:second}", 9, "'seconds'");
    row("{start:parsec}", 8, "timecode");
    row("{region|uper}", 9, "'upper'");
    row("{region|}", 9, "upper lower");
    row("{region|upper 2}", 9, "upper");
    row("{region|cut}", 9, "cut 2");
    row("{region|cut 0}", 9, "cut 2");
    row("{region|cut 2 3}", 9, "cut 2");
    row("{region|max -1}", 9, "max 20");
    row("{region|digits 10}", 9, "digits 3");
    row("{region|replace a}", 9, "replace");
    row("{region|pattern \"(\" b}", 9, "\\");
    row("{region|pattern a $1}", 9, "brackets");
    row("{region|ascii dee}", 9, "de");
    row("{region|or}", 9, "or \"Main\"");
    row("{region|or \"x}", 12, "Close the quotes");
    row("{region:\"/\"x}", 12, "}");
    row("a<b", 2, ">");
    row("a<{n}", 2, ">");
    row("a>b", 2, "<");
    row("a<b>", 2, "Leave < and > out");
    row("<<<<<<<<<{n}>{n}>{n}>{n}>{n}>{n}>{n}>{n}>{n}>", 9, "Take some");
    row("a/../b", 3, "Name a folder");
    row("/a", 1, "Folder/name");
    row("a/", 3, "Folder/name");
    row("a//b", 3, "Folder/name");
    row("a/<{n}/>", 8, "Folder/name");
    row("", 1, "Folder/name");
  }
  void mistakesHaveAPlaceAndAWayOut() {
    QFETCH(QString, format);
    QFETCH(int, character);
    QFETCH(QString, cure);
    const auto parsed = Template::parse(format.toStdString());
    QVERIFY(!parsed);
    QCOMPARE(QString::fromStdString(parsed.error().place), QString("template, character %1").arg(character));
    QVERIFY(!parsed.error().text.empty());
    QVERIFY2(parsed.error().cure.find(cure.toStdString()) != std::string::npos, parsed.error().cure.c_str());
    // What could stand there instead is no mistake at this place any more.
    const auto mistake = *Template::mistakeIn(format.toStdString());
    if (mistake.instead.empty()) return;
    std::string mended = format.toStdString();
    mended.replace(mistake.position, mistake.length, mistake.instead);
    const auto next = Template::mistakeIn(mended);
    QVERIFY2(!next || next->position != mistake.position, mended.c_str());
  }

  // It ends, and says so: (a+)+b on a run of a takes 2^n steps.
  void aPatternThatTakesForeverIsGivenUp() {
    const Template format = *Template::parse("{source|pattern \"(a+)+b\" x}");
    Values values;
    values.texts["source"] = std::string(60, 'a');
    QElapsedTimer time;
    time.start();
    for (int i = 0; i < 50; ++i)
      QCOMPARE(expandName(format, values, LetterCase::AsIs).path, std::string(60, 'a'));
    QVERIFY(hasGivenUp(format));
    QVERIFY(time.elapsed() < 20000);  // not fifty times as long
  }

  void valuesThatGrowAreCut() {
    std::string format = "{source";
    for (int i = 0; i < 16; ++i) format += "|replace e eeeeeeeeee";
    QVERIFY(expanded(format + "}").size() <= 4096 + 16);
    QVERIFY(Template::mistakeIn(format + "|upper}")->text.find("16") != std::string::npos);
    QVERIFY(Template::mistakeIn(std::string(5000, 'a')));
    QVERIFY(Template::mistakeIn("a\xff"));
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
    for (const char* name : {"CON", "con", "Prn.txt", "aux", "NUL.tar.gz", "COM1", "com9.x", "LPT3", "lpt1 ",
                             "COM\u00b9", "lpt\u00b3.wav"})
      QVERIFY2(allowedName(name) != name, name);
    for (const char* name : {"CONSOLE", "COM0", "COM10", "nullify", "plain name", "\u00C4pfel"})
      QCOMPARE(allowedName(name), std::string(name));
    for (char c = 1; c < 0x20; ++c) QCOMPARE(allowedName(std::string("a") + c + "b"), std::string("a_b"));
    for (const char c : std::string("<>:\"/\\|?*"))
      QCOMPARE(allowedName(std::string("a") + c), std::string("a_"));
    QCOMPARE(allowedName("  a . . "), std::string("a"));
    QCOMPARE(allowedName("e\u0301"), std::string("\u00E9"));
  }

  void patternsOfNames_data() {
    QTest::addColumn<QString>("pattern");
    QTest::addColumn<QString>("name");
    QTest::addColumn<bool>("fits");
    const auto row = [](const char* pattern, const char* name, bool fits) {
      QTest::addRow("%s %s", pattern, name) << pattern << name << fits;
    };
    row("*", "", true);
    row("?", "\u00e4", true);
    row("?", "", false);
    row("?", "ab", false);
    row("start*", "Winch/Start 01", true);
    row("winch*", "Winch/Start 01", false);
    row("winch/*", "Winch/Start 01", true);
    row("*/*01", "Winch/Start 01", true);
    row("*a*b*c", "xaybzbc", true);
    row("*a*b*c", "xaybzbcd", false);
    row("\u00c4*", "a\u0308pfel", true);
    row("a?c", "a\u6771c", true);
    row("*aaaaaaaaaaaaaaaaaaaaaaaaaaaaab", "aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa", false);
  }
  void patternsOfNames() {
    QFETCH(QString, pattern);
    QFETCH(QString, name);
    QFETCH(bool, fits);
    QCOMPARE(NamePattern(pattern.toStdString()).fits(name.toStdString()), fits);
  }

  void datesThatAreNone() {
    for (const char* text :
         {"2026-02-29", "2026-13-01", "2026-1-1", "0000-01-01", "2026-01-01x", "", "2026-00-10"})
      QVERIFY2(!parseDate(text), text);
    QCOMPARE(dateText(*parseDate("2024-02-29")), std::string("2024-02-29"));
  }
};

QTEST_APPLESS_MAIN(NamingTest)
#include "tst_naming.moc"
