// Manual pages, completions and the overview, against what the programs say themselves, man(1) and the
// shells.
#include <QtTest>

#include "base/files.h"
#include "manual/filled.h"
#include "manual/programs.h"
#include "support.h"

using namespace octaphon;
using test::Ran;

namespace {

const QString kPages = OCTAPHON_MANUAL_FOLDER "/man1/";
const QString kCompletions = OCTAPHON_MANUAL_FOLDER "/completions/";

QString pageOf(const std::string& name) {
  return kPages + QString::fromStdString(name).replace(' ', '-') + ".1";
}

/// As it is read in a terminal, without the marks of bold and underlined letters.
QString shown(const QString& page, QByteArray& warnings) {
  const Ran ran = test::run("/usr/bin/env", {"MANWIDTH=200", "MANROFFOPT=-c", "man", "--warnings", "-E",
                                             "UTF-8", "-l", "-Tutf8", page});
  warnings = ran.err;
  return QString::fromUtf8(ran.out).remove(QRegularExpression(".\b"));
}

}  // namespace

class ManualTest : public QObject {
  Q_OBJECT
 private slots:
  void pagesSayWhatProgramsTake_data() {
    QTest::addColumn<QString>("page");
    QTest::addColumn<QStringList>("words");
    const auto add = [](const manual::Command& command) {
      QStringList words;
      for (const manual::Option& option : command.options) words << QString::fromStdString(option.name());
      for (const manual::Command& below : command.commands) words << QString::fromStdString(below.word());
      QTest::addRow("%s", command.name.c_str()) << pageOf(command.name) << words;
    };
    for (const manual::Command& program : manual::programs()) {
      add(program);
      for (const manual::Command& command : program.commands) add(command);
    }
  }
  void pagesSayWhatProgramsTake() {
    QFETCH(QString, page);
    QFETCH(QStringList, words);
    QByteArray warnings;
    const QString text = shown(page, warnings);
    QVERIFY2(warnings.isEmpty(), warnings.constData());
    for (const char* part : {"NAME", "SYNOPSIS", "DESCRIPTION", "SEE ALSO"})
      QVERIFY2(text.contains(part), part);
    for (const QString& word : words) QVERIFY2(text.contains(word, Qt::CaseInsensitive), qPrintable(word));
    QVERIFY(!text.contains("](") && !text.contains("**"));
  }

  /// What documents have from the program is what it has now, and none lacks its place.
  void theDocumentsAreCurrent_data() {
    QTest::addColumn<QStringList>("marks");
    QTest::addRow("command-line.md") << QStringList{"usage"};
    QTest::addRow("check.md") << QStringList{"findings"};
    QTest::addRow("remarks.md") << QStringList{"remarks", "findings"};
  }
  void theDocumentsAreCurrent() {
    QFETCH(QStringList, marks);
    const auto document = readFile(std::string(OCTAPHON_SOURCE "/docs/") + QTest::currentDataTag(), 1 << 20);
    QVERIFY(document);
    for (const QString& mark : marks)
      QVERIFY2(!manual::filled(*document, mark.toStdString(), "").empty(), qPrintable(mark));
    QCOMPARE(QString::fromStdString(manual::filledByProgram(*document)), QString::fromStdString(*document));
  }

  void helpHasEveryOption() {
    for (const manual::Command& command : manual::commandLine().commands) {
      const QString help =
          QString::fromUtf8(test::cli({QString::fromStdString(command.word()), "--help"}).out);
      for (const manual::Option& option : command.options)
        QVERIFY2(help.contains(QString::fromStdString(option.name())), option.name().c_str());
    }
  }

  /// Before or behind the command; what programs read stays as it is.
  void whatIsDoneIsTold() {
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.medium("bell", test::sine(1, 4800, 440, 0.5));
    make.track("bell", 1);
    make.clip("bell", "bell", 0, 4800);
    make.region("r", "Quay bell", 0, 4800);
    make.brief("Single");
    const QString session = make.save();
    const Ran plain = test::cli({"plan", session, "--json"});
    QVERIFY(plain.err.isEmpty());
    for (const QStringList& arguments : {QStringList{"--log-level", "note", "plan", session, "--json"},
                                         QStringList{"plan", session, "--json", "--log-level", "note"}}) {
      const Ran told = test::cli(arguments);
      QCOMPARE(told.exit, 0);
      QCOMPARE(told.out, plain.out);
      QVERIFY2(told.err.contains("opened a session of 1 track, 1 clip"), told.err.constData());
    }
    const Ran detail = test::cli({"render", session, "--log-level", "detail"});
    QVERIFY2(detail.err.contains("a file was made: Quay bell"), detail.err.constData());
    const Ran failed = test::cli({"--log-level", "error", "plan", dir.filePath("gone.octaphon")});
    QVERIFY2(failed.err.contains("a session could not be opened: "), failed.err.constData());
    QVERIFY(!test::cli({"--log-level", "error", "plan", session}).err.contains("opened"));
    QCOMPARE(test::cli({"--log-level", "loud", "plan", session}).exit, 2);
  }

  void shellsComplete_data() {
    QTest::addColumn<QString>("typed");  // the last word is completed
    QTest::addColumn<QStringList>("offered");
    QTest::addColumn<QString>("becomes");  // in zsh, which completes in a terminal alone
    QTest::addRow("a command") << "octaphon-cli pl" << QStringList{"plan"} << "octaphon-cli plan ";
    QTest::addRow("an option") << "octaphon-cli render x.octaphon --new-e" << QStringList{"--new-edition"}
                               << "octaphon-cli render x.octaphon --new-edition ";
    QTest::addRow("one of a few words")
        << "octaphon-cli new x.octaphon --place st" << QStringList{"stamp", "start"}
        << "octaphon-cli new x.octaphon --place sta";
    QTest::addRow("a brief of the session")
        << "octaphon-cli plan test.octaphon --brief Ga" << QStringList{"Game sounds, all"}
        << "octaphon-cli plan test.octaphon --brief Game\\ sounds,\\ all ";
    QTest::addRow("a file") << "octaphon-cli plan tes" << QStringList{"test.octaphon"}
                            << "octaphon-cli plan test.octaphon ";
  }
  void shellsComplete() {
    QFETCH(QString, typed);
    QFETCH(QStringList, offered);
    QFETCH(QString, becomes);
    QTemporaryDir dir;
    test::SessionMaker make(dir.path());
    make.brief("Game sounds, all");
    make.brief("Stems");
    make.save();
    const QString path = QFileInfo(OCTAPHON_CLI_PATH).path() + ":/usr/bin:/bin";
    const auto ask = [&](const QString& shell, const QStringList& arguments) {
      QProcess process;
      process.setWorkingDirectory(dir.path());
      QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
      environment.insert("PATH", path);
      environment.insert("HOME", dir.path());
      process.setProcessEnvironment(environment);
      process.start(shell, arguments);
      if (!process.waitForFinished(120000)) return QStringList{"it hangs"};
      return QString::fromUtf8(process.readAllStandardOutput()).split('\n', Qt::SkipEmptyParts) +
             QString::fromUtf8(process.readAllStandardError()).split('\n', Qt::SkipEmptyParts);
    };
    const auto offer = [&](const QString& shell, const QString& option, const QString& script) {
      QStringList lines = ask(shell, {option, "-c", script});
      for (QString& line : lines) line = line.section('\t', 0, 0).remove('\\');
      lines.sort();
      return lines;
    };
    const QStringList words = typed.split(' ');
    QString list;
    for (const QString& word : words) list += " '" + word + "'";
    QCOMPARE(
        offer(
            "bash", "--norc",
            QString(
                "shopt -s progcomp; source '%1octaphon-cli'; COMP_WORDS=(%2); COMP_CWORD=%3; _octaphon_cli; "
                "printf '%s\\n' \"${COMPREPLY[@]}\"")
                .arg(kCompletions, list)
                .arg(words.size() - 1)),
        offered);
    QCOMPARE(offer("fish", "--no-config",
                   QString("source '%1octaphon-cli.fish'; complete -C '%2'").arg(kCompletions, typed)),
             offered);
    QCOMPARE(ask("zsh", {"-f", OCTAPHON_SOURCE "/tests/complete.zsh", kCompletions, typed}),
             QStringList{becomes});
  }
};

QTEST_GUILESS_MAIN(ManualTest)
#include "tst_manual.moc"
