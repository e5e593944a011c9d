#include "opened.h"

namespace octaphon::test {
namespace {

constexpr int kPatience = 120000;  // ms, for what goes on beside the window; machines may be busy

}  // namespace

QString demoFolder() {
  static const QString demo = [] {
    static QTemporaryDir made;
    if (run("/bin/cp", {"-r", OCTAPHON_TEST_DEMO "/.", made.path()}).exit != 0) qFatal("no demo");
    return made.path();
  }();
  return demo;
}

void key(QWidget* widget, int code, Qt::KeyboardModifiers modifiers) {
  QTest::keyClick(widget, static_cast<Qt::Key>(code), modifiers);
}

void type(QAbstractSpinBox* box, const QString& number) {
  box->setFocus();
  box->selectAll();
  QTest::keyClicks(box, number);
  key(box, Qt::Key_Tab);
}

void activateMainWindow() {
  std::vector<QPointer<QWidget>> windows;  // others may go while one is waited for
  for (QWidget* widget : QApplication::topLevelWidgets()) windows.emplace_back(widget);
  for (const QPointer<QWidget>& widget : windows)
    if (qobject_cast<QMainWindow*>(widget) != nullptr && widget->isVisible()) {
      widget->activateWindow();
      (void)QTest::qWaitForWindowActive(widget, 3000);
    }
}

bool activate(const QString& title) {
  const auto find = [&]() -> QWidget* {
    for (QWidget* widget : QApplication::topLevelWidgets())
      if (widget->isVisible() && widget->windowTitle() == title) return widget;
    return nullptr;
  };
  if (!QTest::qWaitFor([&] { return find() != nullptr; }, 5000)) return false;
  find()->activateWindow();
  const auto hasKeyboard = [&] {
    return QApplication::focusWidget() != nullptr && QApplication::focusWidget()->window() == find();
  };
  return QTest::qWaitFor(hasKeyboard, 5000);
}

void choosing(const QString& path, const std::function<void()>& act) {
  QTimer answer;
  QObject::connect(&answer, &QTimer::timeout, &answer, [&] {
    auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
    auto* field = dialog == nullptr ? nullptr : dialog->findChild<QLineEdit*>("fileNameEdit");
    if (field == nullptr || !field->isVisible()) return;
    answer.stop();
    field->setText(path);
    key(field, Qt::Key_Return);
  });
  answer.start(20);
  act();
  activateMainWindow();
}

void drop(QWidget* widget, const QStringList& files, const QPoint& at) {
  QMimeData data;
  QList<QUrl> urls;
  for (const QString& file : files) urls << QUrl::fromLocalFile(file);
  data.setUrls(urls);
  QDragEnterEvent enter(at, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(widget, &enter);
  QVERIFY(enter.isAccepted());
  QDropEvent event(at, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(widget, &event);
}

bool isFinished(app::Work& work) {
  return QTest::qWaitFor([&] { return work.jobs().jobs().empty(); }, kPatience);
}

QList<QTreeWidgetItem*> proofLines(Opened& o, const QString& cause) {
  o.run("panel.proof");
  QTreeWidget& table = o.view<app::ProofPanel>().table();
  QList<QTreeWidgetItem*> lines;
  for (int i = 0; i < table.topLevelItemCount(); ++i)
    if (table.topLevelItem(i)->text(0).section(QString::fromUtf8(" · "), 0, 0) == cause)
      for (int k = 0; k < table.topLevelItem(i)->childCount(); ++k) lines << table.topLevelItem(i)->child(k);
  return lines;
}

bool press(QWidget& parent, const QString& words) {
  for (QAbstractButton* button : parent.findChildren<QAbstractButton*>())
    if (button->isVisible() && button->isEnabled() && button->text().remove('&').startsWith(words)) {
      button->setFocus();
      key(button, Qt::Key_Return);
      return true;
    }
  return false;
}

int live(const QString& file, const std::function<bool(app::Work&, app::MainWindow&)>& begin) {
  QTemporaryDir dir;
  MediaCache cache((dir.path() + "/cache").toStdString());
  app::Theme::instance().install();
  app::Work work(cache);
  app::MainWindow window(work);
  window.show();
  window.sessions().open(file);
  return isFinished(work) && work.document().isOpen() && begin(work, window) ? QApplication::exec() : 1;
}

std::unique_ptr<QTemporaryDir> prepareTests() {
  auto state = std::make_unique<QTemporaryDir>();
  QStandardPaths::setTestModeEnabled(true);
  QCoreApplication::setAttribute(Qt::AA_DontUseNativeDialogs);
  QCoreApplication::setOrganizationName("octaphon-tests");
  QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, state->path());  // each program its own
  qputenv("OCTAPHON_STATE", state->path().toLocal8Bit());
  qputenv("XDG_STATE_HOME", state->path().toLocal8Bit());
  qputenv("OCTAPHON_RECEIVER", "/bin/true");  // nothing that is started outlives a test
  app::Theme::instance().install();
  return state;
}

Opened::Opened() : cache((dir.path() + "/cache").toStdString()), work(cache), window(work) {
  QDir(dir.path()).mkpath("media");
  for (const QString& file : QDir(demoFolder() + "/media").entryList(QDir::Files))
    QFile::link(demoFolder() + "/media/" + file, dir.path() + "/media/" + file);
  QFile::copy(demoFolder() + "/Tidewheel.octaphon", session());
  window.resize(1280, 800);
  window.show();
  QVERIFY(QTest::qWaitForWindowExposed(&window));
  window.activateWindow();
  (void)QTest::qWaitForWindowActive(&window, 3000);
}

void Opened::open() {
  open(session());
  settle();
}

void Opened::open(const QString& file) {
  window.sessions().open(file);
  finish();
}

void Opened::settle() {
  finish();
  QVERIFY(QTest::qWaitFor(
      [&] {
        return !work.sheets().isPlanning() && !work.sheets().sheet()->briefs.empty() &&
               !view<app::SheetView>().model().isArranging();
      },
      kPatience));
}

void Opened::editBrief(std::size_t index, const std::function<void(Brief&)>& change) {
  work.document().editBriefs({now()->briefs.at(index).id}, "Change a brief", change);
}

void Opened::goOn() {
  QTRY_VERIFY(work.maker().look() != nullptr);
  auto* button = qobject_cast<QPushButton*>(window.focusWidget());
  QVERIFY(button != nullptr && button->text().startsWith("Make "));
  key(button, Qt::Key_Return);
  QTRY_VERIFY(work.maker().look() == nullptr);
}

QPushButton* Opened::phrase(PhraseKind kind) {
  app::SentenceView& sentence = view<app::SentenceView>();
  if (sentence.phraseButton(kind) == nullptr && sentence.usualButton() != nullptr)
    key(sentence.usualButton(), Qt::Key_Return);
  return sentence.phraseButton(kind);
}

app::PhraseEditor* Opened::openPhrase(PhraseKind kind) {
  QPushButton* button = phrase(kind);
  if (button == nullptr) return nullptr;
  button->setFocus();
  key(button, Qt::Key_Return);
  return view<app::SentenceView>().editor();
}

QStringList Opened::files() {
  QStringList names;
  for (const Row& row : work.sheets().sheet()->rows) names << QString::fromStdString(row.file);
  return names;
}

long Opened::count(RowState state) {
  const auto& rows = work.sheets().sheet()->rows;
  return std::count_if(rows.begin(), rows.end(), [&](const Row& row) { return row.state == state; });
}

std::string Opened::rowKey(std::size_t row) {
  const Sheet& sheet = *work.sheets().sheet();
  return sheet.keyOf(sheet.rows[row]);
}

void Opened::waitForRun() {
  QVERIFY(QTest::qWaitFor([&] { return !work.making().isRunning(); }, kPatience));
  settle();
}
}  // namespace octaphon::test
