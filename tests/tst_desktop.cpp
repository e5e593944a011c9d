// At home on a desktop: a second start that hands over, colours that follow, preferences, help and the log.
#include <QDBusMessage>

#include "app/help/help_window.h"
#include "app/help/log_window.h"
#include "app/preferences/preferences_dialog.h"
#include "app/running_window.h"
#include "app/work/desktop_recent.h"
#include "app/work/log_file.h"
#include "app/work/settings.h"
#include "bus.h"
#include "opened.h"
#include "portal.h"
#include "run/plugin_trials.h"
#include "session/brief_file.h"

using namespace octaphon;
using namespace octaphon::app;
using test::fieldNamed;
using test::key;
using test::Opened;
using test::press;

namespace {

constexpr const char* kService = "org.octaphon.Octaphon";
constexpr int kLong = 60000;  // ms, where a program is started for it

/// The window as main() makes it known.
struct Running {
  Opened o;
  RunningWindow running{[this](const Asked& asked) {
                          o.window.comeToFront();
                          asked.isNew ? o.window.sessions().makeEmpty() : o.window.take(asked.files);
                        },
                        &o.window};
};

/// Starts the real program beside it; true where it ended well, and soon.
bool startAgain(const QStringList& arguments, const QString& in = {}) {
  QProcess program;
  if (!in.isEmpty()) program.setWorkingDirectory(in);
  program.start(OCTAPHON_PROGRAM, arguments);
  return QTest::qWaitFor([&] { return program.state() == QProcess::NotRunning; }, 20000) &&
         program.exitStatus() == QProcess::NormalExit && program.exitCode() == 0;
}

/// Somebody has the name and says nothing.
class Mute : public QObject {
  Q_OBJECT
  Q_CLASSINFO("D-Bus Interface", "org.freedesktop.Application")
 public slots:
  void Activate(const QVariantMap&, const QDBusMessage& message) { message.setDelayedReply(true); }
};

template <class Dialog>
Dialog* shown() {
  for (QWidget* widget : QApplication::topLevelWidgets())
    if (auto* dialog = qobject_cast<Dialog*>(widget); dialog != nullptr && dialog->isVisible()) return dialog;
  return nullptr;
}

template <class Dialog>
Dialog* opened(Opened& o, int code, Qt::KeyboardModifiers modifiers = Qt::NoModifier) {
  key(&o.window, code, modifiers);
  if (!QTest::qWaitFor([] { return shown<Dialog>() != nullptr; }, 5000)) return nullptr;
  return test::activate(shown<Dialog>()->windowTitle()) ? shown<Dialog>() : nullptr;
}

/// A file that gives offscreen windows these screens, which stand side by side.
QString screensIn(const QTemporaryDir& dir, const QString& name, const QList<QSize>& sizes) {
  QJsonArray screens;
  int x = 0;
  for (const QSize& size : sizes) {
    screens << QJsonObject{{"name", QString("S-%1").arg(screens.size() + 1)},
                           {"x", x},
                           {"y", 0},
                           {"width", size.width()},
                           {"height", size.height()},
                           {"logicalDpi", 96},
                           {"logicalBaseDpi", 96},
                           {"dpr", 1}};
    x += size.width();
  }
  QFile file(dir.filePath(name));
  if (!file.open(QIODevice::WriteOnly)) qFatal("no screens");
  file.write(QJsonDocument(QJsonObject{{"screens", screens}}).toJson());
  return file.fileName();
}

/// Opens the window on a session as it was left, says how it stands, and leaves it otherwise:
/// `--sit FOLDER WIDTH HEIGHT`.
int sit(const QStringList& arguments) {
  const QString& folder = arguments.at(2);
  QStandardPaths::setTestModeEnabled(true);  // recent sessions of the desktop are the tester's
  QCoreApplication::setOrganizationName("octaphon-tests");
  QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, folder);
  MediaCache cache((folder + "/cache").toStdString());
  Work work(cache);
  MainWindow window(work);
  window.show();
  window.sessions().open(folder + "/test.octaphon");
  QDockWidget& proof = *window.panels().dock("proof");
  if (!test::isFinished(work) || !QTest::qWaitForWindowExposed(&window)) return 1;
  QCoreApplication::processEvents();
  std::printf("%dx%d on %s, proof %s\n", window.width(), window.height(), qPrintable(window.screen()->name()),
              proof.isHidden() ? "closed" : "open");
  window.resize(arguments.at(3).toInt(), arguments.at(4).toInt());
  window.move(window.screen()->virtualGeometry().right() - window.width(), 0);
  proof.isHidden() ? window.commands().action("panel.proof")->trigger() : static_cast<void>(proof.close());
  return window.close() ? 0 : 1;
}

}  // namespace

class DesktopTest : public QObject {
  Q_OBJECT
 private slots:
  void initTestCase() { state_ = test::prepareTests(); }
  void cleanup() {
    for (QWidget* widget : QApplication::topLevelWidgets()) widget->close();
    settings::setColours(Colours::Day);
    Theme::instance().setLook(Look::Day);
  }

  void aSecondStartOpensInTheWindow() {
    Running r;
    // As the desktop gives it, and as it is typed.
    const QString odd = r.o.dir.filePath("Quay 100 % größer.octaphon");
    QVERIFY(QFile::copy(r.o.session(), odd));
    QVERIFY(startAgain({odd}));
    r.o.settle();
    QCOMPARE(QString::fromStdString(r.o.now()->file.string()), odd);
    QVERIFY(startAgain({"Tidewheel.octaphon"}, r.o.dir.path()));
    QTRY_COMPARE(QString::fromStdString(r.o.now()->file.string()), r.o.session());
    r.o.settle();
  }

  void whatIsOpenStaysWithItsChanges() {
    Running r;
    r.o.open();
    r.o.editBrief(0, [](Brief& brief) { brief.name = "Changed"; });
    QVERIFY(startAgain({r.o.session()}));
    QVERIFY(startAgain({}));
    r.o.settle();
    QVERIFY(r.o.work.document().isModified());
    QCOMPARE(r.o.now()->briefs.at(0).name, "Changed");
    QVERIFY(QApplication::activeModalWidget() == nullptr);
  }

  void whatIsNotSavedIsAskedFor() {
    Running r;
    r.o.open();
    r.o.editBrief(0, [](Brief& brief) { brief.name = "Changed"; });
    bool isAsked = false;
    QTimer answer;
    connect(&answer, &QTimer::timeout, &answer, [&] {
      auto* question = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
      if (question != nullptr) isAsked = press(*question, "Cancel");
    });
    answer.start(20);
    QVERIFY(startAgain({"--new"}));
    QTRY_VERIFY(isAsked);
    QCOMPARE(r.o.now()->briefs.at(0).name, "Changed");
  }

  void briefsAreOffered() {
    Running r;
    const QString file = r.o.dir.filePath("Bells.octaphon-brief");
    QVERIFY(startAgain({file}));  // there is no session they could be for
    const auto isTold = [&] {
      for (const QLabel* label : r.o.window.findChildren<QLabel*>())
        if (label->isVisible() && label->text().contains("briefs for a session")) return true;
      return false;
    };
    QTRY_VERIFY(isTold());
    r.o.open();
    Brief brief = r.o.now()->briefs.front();
    brief.id = "from-outside";
    brief.name = "From outside";
    QFile out(file);
    QVERIFY(out.open(QIODevice::WriteOnly));
    out.write(QByteArray::fromStdString(writeBriefs(briefFileOf(*r.o.now(), {brief}))));
    out.close();
    QVERIFY(startAgain({file}));
    bool isTaken = false;
    QTRY_VERIFY_WITH_TIMEOUT(isTaken = isTaken || press(r.o.window, "Take"), kLong);
    r.o.settle();
    QCOMPARE(r.o.now()->briefs.back().name, "From outside");
  }

  void aWindowOfItsOwn() {
    Running r;
    r.o.open();
    QProcess program;
    program.start(OCTAPHON_PROGRAM, {"--separate"});
    QVERIFY(program.waitForStarted());
    QVERIFY(!QTest::qWaitFor([&] { return program.state() == QProcess::NotRunning; }, 2000));
    program.kill();
    program.waitForFinished();
  }

  /// One that hangs keeps nobody from working.
  void oneThatDoesNotAnswerIsPassedOver() {
    Mute mute;
    QDBusConnection bus = QDBusConnection::sessionBus();
    QVERIFY(bus.registerObject("/org/octaphon/Octaphon", &mute, QDBusConnection::ExportAllSlots));
    QVERIFY(bus.registerService(kService));
    QProcess program;
    program.start(OCTAPHON_PROGRAM, {});
    QVERIFY(program.waitForStarted());
    QVERIFY(!QTest::qWaitFor([&] { return program.state() == QProcess::NotRunning; }, 5000));
    program.kill();
    program.waitForFinished();
    bus.unregisterService(kService);
    bus.unregisterObject("/org/octaphon/Octaphon");
  }

  /// At a desk and on the way a window stands as it was left there.
  void windowsStandAsTheyWereWithTheseScreens() {
    QTemporaryDir dir;
    const QString desk = screensIn(dir, "desk", {{1920, 1200}, {1600, 1200}});
    const QString way = screensIn(dir, "way", {{1280, 720}});
    test::SessionMaker(dir.path()).save();
    const auto sit = [&](const QString& screens, const QStringList& size) {
      const test::Ran ran =
          test::run(QCoreApplication::applicationFilePath(),
                    QStringList{"-platform", "offscreen:configfile=" + screens, "--sit", dir.path()} + size);
      return QString::fromUtf8(ran.exit == 0 ? ran.out : ran.err).trimmed();
    };
    QCOMPARE(sit(desk, {"1500", "1000"}), QString("1280x800 on S-1, proof open"));
    // No larger than what there is; the rest as it was left last.
    QCOMPARE(sit(way, {"1100", "700"}), QString("1280x720 on S-1, proof closed"));
    QCOMPARE(sit(desk, {"1400", "900"}), QString("1500x1000 on S-2, proof closed"));
    QCOMPARE(sit(way, {"1100", "700"}), QString("1100x700 on S-1, proof open"));
    QCOMPARE(sit(desk, {"1400", "900"}), QString("1400x900 on S-2, proof open"));
  }

  void coloursFollowTheDesktop() {
    settings::setColours(Colours::Desktop);
    test::Portal portal;
    Opened o;
    QTRY_COMPARE(Theme::instance().look(), Look::Night);
    QVERIFY(o.window.commands().action("view.night")->isChecked());
    portal.change(2);
    QTRY_COMPARE(Theme::instance().look(), Look::Day);
    QVERIFY(!o.window.commands().action("view.night")->isChecked());
    o.run("view.night");  // now somebody has chosen
    QCOMPARE(Theme::instance().look(), Look::Night);
    portal.change(1);
    portal.change(2);
    QVERIFY(startAgain({"--version"}));  // time for what was told to arrive
    QCOMPARE(Theme::instance().look(), Look::Night);
    QCOMPARE(settings::colours(), Colours::Night);
  }

  void preferencesAreKept() {
    Opened o;
    o.open();
    auto* page = opened<PreferencesDialog>(o, Qt::Key_Comma, Qt::ControlModifier);
    QVERIFY(page != nullptr);
    const auto choose = [&](const char* name, int index) {
      auto* box = fieldNamed<QComboBox>(*page, name);
      QVERIFY2(box != nullptr, name);
      box->setFocus();
      key(box, Qt::Key_Home);
      for (int i = 0; i < index; ++i) key(box, Qt::Key_Down);
    };
    choose("Colours", 2);
    QCOMPARE(Theme::instance().look(), Look::Night);
    choose("Read back", 1);
    QVERIFY(o.window.commands().action("delivery.only-bytes")->isChecked());
    choose("Read back", 2);
    QVERIFY(!o.window.commands().action("delivery.reads-back")->isChecked());
    QCOMPARE(settings::readsBack(), ReadsBack::None);
    o.window.commands().action("delivery.reads-back")->trigger();  // elsewhere, and the page follows
    QVERIFY(fieldNamed<QComboBox>(*page, "Read back")->currentIndex() != 2);
    choose("Times", 1);
    QVERIFY(settings::showsTimecode() && o.work.drawn().isTimecode());
    auto* workers = fieldNamed<QSpinBox>(*page, "Workers");
    QVERIFY(workers != nullptr && workers->text().startsWith("one for each core"));
    test::type(workers, "3");
    QCOMPARE(settings::workers(), 3);
    auto* folder = fieldNamed<QLineEdit>(*page, "Folder of sessions");
    const QString before = folder->text();
    const auto typeFolder = [&](const QString& typed) {
      folder->setFocus();
      folder->selectAll();
      QTest::keyClicks(folder, typed);
      key(folder, Qt::Key_Tab);
    };
    for (const QString& wrong : {o.dir.filePath("nowhere"), QString("relative"), o.session()}) {
      typeFolder(wrong);
      QCOMPARE(folder->text(), before);
    }
    typeFolder(o.dir.path());
    QCOMPARE(settings::sessionsFolder(), o.dir.path());
    for (QWidget* control : page->findChildren<QWidget*>())
      if (control->focusPolicy() == Qt::StrongFocus && control->isVisible() && !control->focusProxy() &&
          qobject_cast<QScrollArea*>(control) == nullptr)
        QVERIFY2(!control->accessibleName().isEmpty() || !control->property("text").toString().isEmpty(),
                 control->metaObject()->className());
  }

  void aPageIsOpenOnce() {
    Opened o;
    QVERIFY(opened<HelpWindow>(o, Qt::Key_F1) != nullptr);
    o.window.activateWindow();
    o.run("program.help");
    QCOMPARE(o.window.findChildren<HelpWindow*>().size(), 1);
  }

  /// What is kept may be what a run is reading.
  void nothingIsClearedWhileFilesAreMade() {
    Opened o;
    o.open();
    auto* page = opened<PreferencesDialog>(o, Qt::Key_Comma, Qt::ControlModifier);
    QVERIFY(page != nullptr);
    auto* clear = fieldNamed<QPushButton>(*page, "Clear what is kept");
    QVERIFY(QDir().mkpath(QString::fromStdString(o.cache.folder().string()) + "/aa"));
    QFile file(QString::fromStdString(o.cache.folder().string()) + "/aa/one.w64");
    QVERIFY(file.open(QIODevice::WriteOnly));
    o.work.maker().makeDue();
    o.goOn();
    QTRY_VERIFY(o.work.making().isRunning());
    o.work.making().pause(true);
    clear->setFocus();
    key(clear, Qt::Key_Return);
    QTRY_VERIFY_WITH_TIMEOUT(o.work.jobs().jobs().empty(), kLong);
    QVERIFY(file.exists());
    o.work.making().stop();
    o.waitForRun();
  }

  void whatIsKeptIsCleared() {
    Opened o;
    o.open();
    QVERIFY(QDir().mkpath(QString::fromStdString(o.cache.folder().string()) + "/aa"));
    QFile file(QString::fromStdString(o.cache.folder().string()) + "/aa/one.w64");
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(QByteArray(3'000'000, 'x'));
    file.close();
    auto* page = opened<PreferencesDialog>(o, Qt::Key_Comma, Qt::ControlModifier);
    QVERIFY(page != nullptr);
    const auto says = [&](const QString& words) {
      for (const QLabel* label : page->findChildren<QLabel*>())
        if (label->text().contains(words)) return true;
      return false;
    };
    QTRY_VERIFY(says("MB kept: 1 converted medium, "));
    auto* clear = fieldNamed<QPushButton>(*page, "Clear what is kept");
    QVERIFY(clear != nullptr);
    clear->setFocus();
    key(clear, Qt::Key_Return);
    QTRY_VERIFY(!file.exists());
    test::type(fieldNamed<QSpinBox>(*page, "Most that is kept"), "2");
    QCOMPARE(o.cache.limit(), 2'000'000'000u);
    page->close();  // what it still asked for comes to nobody
    QVERIFY(test::isFinished(o.work));
  }

  void aPlugInThatFailedIsSaidWhy() {
    Opened o;
    o.open();
    Insert insert;
    insert.effect = "urn:octaphon:gone";
    PluginTrials trials(o.cache.pluginTrials());
    trials.noteProblem(insert, 48000, "it crashed (Segmentation fault)");
    trials.save();
    auto* page = opened<PreferencesDialog>(o, Qt::Key_Comma, Qt::ControlModifier);
    QVERIFY(page != nullptr);
    auto* list = fieldNamed<QTreeWidget>(*page, "Plug-ins");
    QTRY_VERIFY_WITH_TIMEOUT(list->topLevelItem(0)->text(0).contains("urn:octaphon:gone"), kLong);
    QVERIFY(list->topLevelItem(0)->text(1).contains("crashed"));
    QVERIFY(press(*page, "Try all again"));
    QTRY_VERIFY_WITH_TIMEOUT(list->findItems("urn:octaphon:gone", Qt::MatchContains).isEmpty(), kLong);
    QVERIFY(!std::filesystem::exists(o.cache.pluginTrials()));
  }

  void helpIsSearched_data() {
    QTest::addColumn<QString>("words");
    QTest::addColumn<QString>("first");
    QTest::addColumn<QString>("inPage");
    QTest::addRow("a heading") << "album"
                               << "Usual deliveries › An album"
                               << "ISRC";
    QTest::addRow("a code") << "tail-limited"
                            << "Remarks"
                            << "tail-limited";
    QTest::addRow("letter case") << "SEAMLESS loops"
                                 << "Usual deliveries › Seamless loops"
                                 << "blended";
    QTest::addRow("nothing") << "zeppelin hangar"
                             << "Nothing has all"
                             << "";
  }
  void helpIsSearched() {
    QFETCH(QString, words);
    QFETCH(QString, first);
    QFETCH(QString, inPage);
    Opened o;
    auto* help = opened<HelpWindow>(o, Qt::Key_F1);
    QVERIFY(help != nullptr);
    auto* field = fieldNamed<QLineEdit>(*help, "Search all pages");
    auto* list = fieldNamed<QListWidget>(*help, "Pages, and what was found");
    QCOMPARE(list->count(), static_cast<int>(helpPages().size()));
    QTest::keyClicks(field, words);
    QVERIFY2(list->count() > 0 && list->item(0)->text().startsWith(first), qPrintable(list->item(0)->text()));
    QTRY_VERIFY_WITH_TIMEOUT(help->findChild<HelpBrowser*>()->toPlainText().contains(inPage), kLong);
    key(field, Qt::Key_Return);
    QCOMPARE(QApplication::focusWidget(), list);
    field->clear();
    QCOMPARE(list->count(), static_cast<int>(helpPages().size()));
  }

  /// Every page is carried along, and every link in it leads to one that is.
  void helpIsWhole() {
    std::set<QString> pages;
    for (const HelpPageInfo& page : helpPages()) pages.insert(page.file);
    for (const QString& page : pages) {
      QFile file(":/help/" + page);
      QVERIFY2(file.open(QIODevice::ReadOnly), qPrintable(page));
      static const QRegularExpression link(R"(\]\(([\w-]+\.md))");
      const QString text = QString::fromUtf8(file.readAll());
      for (auto it = link.globalMatch(text); it.hasNext();) {
        const QString target = it.next().captured(1);
        QVERIFY2(QFile::exists(":/help/" + target), qPrintable(page + " → " + target));
      }
    }
  }

  void theLogHasNoNamesUnlessAsked() {
    QTemporaryDir folder;
    for (const bool withNames : {false, true}) {
      settings::setLogsNames(withNames);
      {
        LogFile log(folder.path());
        Opened o;
        o.open();
        o.open(o.dir.filePath("Missing quay.octaphon"));
        for (const char* said : {"the player has no device", "cannot read 'Quay hall'",
                                 "no sound in takes/Quay.wav", "Quay.flac is damaged"})
          qWarning("%s", said);
        o.run("program.log");
        QTRY_VERIFY(shown<LogWindow>() != nullptr);
        auto* page = fieldNamed<QPlainTextEdit>(*shown<LogWindow>(), "Log");
        QTRY_VERIFY_WITH_TIMEOUT(page->toPlainText().contains("opened a session of"), kLong);
        const QString words = page->toPlainText();
        QVERIFY(words.contains("Octaphon: ") && words.contains("Qt: ") && words.contains("Window system: "));
        QVERIFY(words.contains("a session could not be opened"));
        for (const char* kept : {"Qt: the player has no device", "Qt: cannot read …", "Qt: no sound in …"})
          QVERIFY2(words.contains(kept), kept);
        QCOMPARE(words.contains("Tidewheel") || words.contains("quay", Qt::CaseInsensitive), withNames);
        const QString report = folder.filePath("report.txt");
        test::choosing(report, [&] { QVERIFY(press(*shown<LogWindow>(), "Save for a report")); });
        QTRY_VERIFY(QFileInfo(report).size() > 100);
        QFile::remove(report);
      }
    }
    settings::setLogsNames(false);
  }

  void recentSessionsAreInTheDesktopsList() {
    QTemporaryDir folder;
    const QString list = folder.filePath("share/recently-used.xbel"),
                  session = "/tmp/Quay 100 % größer.octaphon";
    QVERIFY(!addToRecentList(folder.filePath("no/such/folder/list.xbel"), session));
    QVERIFY(QDir().mkpath(folder.filePath("share")));
    QVERIFY(addToRecentList(list, session));
    const auto read = [&] {
      QFile file(list);
      return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
    };
    // As another program writes them, with what we do not know.
    const QByteArray other =
        "<bookmark href=\"file:///other.txt\" added=\"2026-01-01T00:00:00Z\"><title>Other &amp; "
        "one</title></bookmark>";
    QFile file(list);
    QByteArray text = read();
    text.insert(text.lastIndexOf("</xbel>"), other);
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(text);
    file.close();
    QVERIFY(addToRecentList(list, session));
    text = read();
    QVERIFY(text.contains("Other &amp; one") && text.contains("application/x-octaphon-session"));
    QCOMPARE(text.count("href=\"file:///tmp/Quay%20100%20%25%20gr%C3%B6%C3%9Fer.octaphon\""), 1);
    QVERIFY(text.contains("count=\"2\""));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write("<xbel><bookmark");  // cut short by someone else
    file.close();
    QVERIFY(!addToRecentList(list, session));
    QCOMPARE(read(), QByteArray("<xbel><bookmark"));
  }

  void theLogStaysSmall() {
    QTemporaryDir folder;
    {
      LogFile log(folder.path());
      for (int i = 0; i < 30000; ++i) writeLog(LogLevel::Note, std::string(60, 'x') + std::to_string(i));
      QVERIFY(log.text().contains("x29999"));
    }
    qint64 size = 0;
    for (const QFileInfo& file : QDir(folder.path()).entryInfoList(QDir::Files)) size += file.size();
    QVERIFY(size > 500'000 && size < 1'100'000);
    LogFile nowhere("/proc/nowhere");  // nothing is kept, and nothing goes wrong
    writeLog(LogLevel::Error, "lost");
    QVERIFY(nowhere.text().isEmpty());
  }

 private:
  std::unique_ptr<QTemporaryDir> state_;
};

int main(int argc, char** argv) {
  const test::Bus bus;
  QApplication application(argc, argv);
  if (QCoreApplication::arguments().value(1) == "--sit") return sit(QCoreApplication::arguments());
  DesktopTest test;
  return QTest::qExec(&test, argc, argv);
}
#include "tst_desktop.moc"
