// The sessions of the guide's chapters: each is rendered as it stands, checked, and is what its chapter says.
#include <QtTest>

#include "base/files.h"
#include "manual/chapter_files.h"
#include "support.h"

using namespace octaphon;
using test::Ran;

namespace {

QStringList chapterNames() {
  return QDir(OCTAPHON_CHAPTERS_FOLDER).entryList(QDir::Dirs | QDir::NoDotAndDotDot, QDir::Name);
}

}  // namespace

class ChaptersTest : public QObject {
  Q_OBJECT
 private slots:
  void aChapterIsRenderedAndChecked_data() {
    QTest::addColumn<QString>("name");
    for (const QString& name : chapterNames()) QTest::addRow("%s", qPrintable(name)) << name;
  }
  void aChapterIsRenderedAndChecked() {
    QFETCH(QString, name);
    QTemporaryDir folder;
    const QString from = QString(OCTAPHON_CHAPTERS_FOLDER) + "/" + name;
    QCOMPARE(test::run("/bin/cp", {"-r", from + "/.", folder.path()}).exit, 0);
    const QString session = folder.filePath(name + ".octaphon");
    const Ran planned = test::cli({"plan", session, "--json"});
    QCOMPARE(planned.exit, 0);
    const QJsonObject plan = QJsonDocument::fromJson(planned.out).object();
    for (const QJsonValue& row : plan["rows"].toArray())
      for (const QJsonValue& remark : row["remarks"].toArray())
        QVERIFY2(remark["severity"].toString() == "note", planned.out.constData());
    const Ran rendered = test::cli({"render", session, "--json"});
    QVERIFY2(rendered.exit == 0, rendered.out.constData());
    const Ran checked = test::cli({"check", session, "--json"});
    QVERIFY2(checked.exit == 0 && !checked.out.contains("\"finding\""), checked.out.constData());
    const auto page = readFile(OCTAPHON_SOURCE "/docs/chapters.md", 1 << 20);
    QVERIFY(page && !plan["rows"].toArray().isEmpty());
    for (const QJsonValue& row : plan["rows"].toArray())
      QVERIFY2(QString::fromStdString(*page).contains("\n" + row["file"].toString() + "\n"),
               qPrintable(row["file"].toString()));
    for (const QJsonValue& row : plan["rows"].toArray())
      QVERIFY2(QFileInfo(folder.path() + "/Deliveries/" + row["file"].toString()).size() > 1000,
               qPrintable(row["file"].toString()));
  }

  /// Each chapter has its place in the page, and what stands there is what comes of its session.
  void thePageIsCurrent() {
    QVERIFY(chapterNames().size() >= 7);
    const auto page = readFile(OCTAPHON_SOURCE "/docs/chapters.md", 1 << 20);
    QVERIFY(page);
    const auto renewed = manual::withChapters(*page, OCTAPHON_CHAPTERS_FOLDER);
    QVERIFY2(renewed, renewed ? "" : renewed.error().describe().c_str());
    QCOMPARE(QString::fromStdString(*page), QString::fromStdString(*renewed));
  }
};

QTEST_GUILESS_MAIN(ChaptersTest)
#include "tst_chapters.moc"
