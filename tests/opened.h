// A window with the demo in it, for tests that drive the real interface.
#pragma once

#include <QtTest>
#include <QtWidgets>

#include "app/brief/briefs_panel.h"
#include "app/brief/template_edit.h"
#include "app/delivery/proof_panel.h"
#include "app/look/theme.h"
#include "app/outline/outline_view.h"
#include "app/prepare/checks_panel.h"
#include "app/prepare/details_panel.h"
#include "app/prepare/mark_panel.h"
#include "app/prepare/names_panel.h"
#include "app/sheet/sheet_view.h"
#include "app/signal/signal_panel.h"
#include "app/window/main_window.h"
#include "support.h"

namespace octaphon::test {

/// Folder of a demo whose sounds are quickly made; made once for all tests of a program.
inline QString demoFolder() {
  static const QString demo = [] {
    static QTemporaryDir made;
    if (run(OCTAPHON_DEMO_MAKER, {made.path()}).exit != 0) qFatal("no demo");
    return made.path();
  }();
  return demo;
}

inline void key(QWidget* widget, int code, Qt::KeyboardModifiers modifiers = Qt::NoModifier) {
  QTest::keyClick(widget, static_cast<Qt::Key>(code), modifiers);
}

/// Types a number into a field, as a person replaces one.
inline void type(QAbstractSpinBox* box, const QString& number) {
  box->setFocus();
  box->selectAll();
  QTest::keyClicks(box, number);
  key(box, Qt::Key_Tab);
}

/// The field that people hear called so; null where none is to be seen.
template <class Field>
Field* fieldNamed(QWidget& parent, const QString& name) {
  for (Field* field : parent.findChildren<Field*>())
    if (field->isVisible() && field->accessibleName() == name) return field;
  return nullptr;
}

/// Without a window manager nobody else gives the window back what a dialog had.
inline void activateMainWindow() {
  std::vector<QPointer<QWidget>> windows;  // others may go while one is waited for
  for (QWidget* widget : QApplication::topLevelWidgets()) windows.emplace_back(widget);
  for (const QPointer<QWidget>& widget : windows)
    if (qobject_cast<QMainWindow*>(widget) != nullptr && widget->isVisible()) {
      widget->activateWindow();
      (void)QTest::qWaitForWindowActive(widget, 3000);
    }
}

/// The same for a dialog that was opened.
inline bool activate(const QString& title) {
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

/// Does something that asks for a file, or a folder, and types it as the answer.
inline void choosing(const QString& path, const std::function<void()>& act) {
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

/// Drops files on a widget.
inline void drop(QWidget* widget, const QStringList& files, const QPoint& at) {
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

/// Waits until nothing long goes on beside the window.
inline bool isFinished(app::Work& work) {
  return QTest::qWaitFor([&] { return work.jobs().jobs().empty(); }, 20000);
}

/// A copy of the demo, and a window on it.
class Opened {
 public:
  QTemporaryDir dir;
  MediaCache cache;
  app::Work work;
  app::MainWindow window;

  Opened() : cache((dir.path() + "/cache").toStdString()), work(cache), window(work) {
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

  QString session() const { return dir.filePath("Tidewheel.octaphon"); }

  void open() {
    open(session());
    settle();
  }
  /// One that may be refused.
  void open(const QString& file) {
    window.sessions().open(file);
    finish();
  }

  void finish() { QVERIFY(isFinished(work)); }

  /// Waits for the newest sheet.
  void settle() {
    finish();
    QVERIFY(QTest::qWaitFor(
        [&] {
          return !work.sheets().isPlanning() && !work.sheets().sheet()->briefs.empty() &&
                 !view<app::SheetView>().model().isArranging();
        },
        20000));
  }

  /// Changes the brief as an edit of its sentence would.
  void editBrief(std::size_t index, const std::function<void(Brief&)>& change) {
    work.document().editBriefs({now()->briefs.at(index).id}, "Change a brief", change);
  }
  std::shared_ptr<const Session> now() const { return work.document().session(); }

  template <class View>
  View& view() {
    View* found = window.findChild<View*>();
    if (found == nullptr) qFatal("no such view");
    return *found;
  }

  /// After what asks for files: the last look comes, has the keyboard, and Return goes on.
  void goOn() {
    QTRY_VERIFY(work.maker().look() != nullptr);
    auto* button = qobject_cast<QPushButton*>(window.focusWidget());
    QVERIFY(button != nullptr && button->text().startsWith("Make "));
    key(button, Qt::Key_Return);
    QTRY_VERIFY(work.maker().look() == nullptr);
  }

  /// Does a command as its keys would, or the menu.
  void run(const QString& id) { window.commands().action(id)->trigger(); }
  /// The button of a phrase; what is as usual is shown first.
  QPushButton* phrase(PhraseKind kind) {
    app::SentenceView& sentence = view<app::SentenceView>();
    if (sentence.phraseButton(kind) == nullptr && sentence.usualButton() != nullptr)
      key(sentence.usualButton(), Qt::Key_Return);
    return sentence.phraseButton(kind);
  }
  /// Opens a phrase with the keyboard; gives its editor.
  app::PhraseEditor* openPhrase(PhraseKind kind) {
    QPushButton* button = phrase(kind);
    if (button == nullptr) return nullptr;
    button->setFocus();
    key(button, Qt::Key_Return);
    return view<app::SentenceView>().editor();
  }

  QStringList files() {
    QStringList names;
    for (const Row& row : work.sheets().sheet()->rows) names << QString::fromStdString(row.file);
    return names;
  }
  long count(RowState state) {
    const auto& rows = work.sheets().sheet()->rows;
    return std::count_if(rows.begin(), rows.end(), [&](const Row& row) { return row.state == state; });
  }
  /// Key of a row of the newest sheet.
  std::string rowKey(std::size_t row) {
    const Sheet& sheet = *work.sheets().sheet();
    return sheet.keyOf(sheet.rows[row]);
  }
  /// Row of the newest sheet that is current in the sheet's table.
  std::optional<std::size_t> currentRow() { return work.rows().currentRow(); }
  void waitForRun() {
    QVERIFY(QTest::qWaitFor([&] { return !work.making().isRunning(); }, 120000));
    settle();
  }
};

/// Lines of the proof under a cause; none where it is not there.
inline QList<QTreeWidgetItem*> proofLines(Opened& o, const QString& cause) {
  o.run("panel.proof");
  QTreeWidget& table = o.view<app::ProofPanel>().table();
  QList<QTreeWidgetItem*> lines;
  for (int i = 0; i < table.topLevelItemCount(); ++i)
    if (table.topLevelItem(i)->text(0).section(QString::fromUtf8(" · "), 0, 0) == cause)
      for (int k = 0; k < table.topLevelItem(i)->childCount(); ++k) lines << table.topLevelItem(i)->child(k);
  return lines;
}

/// Presses the button with these words, as Return does; false where there is none that can be.
inline bool press(QWidget& parent, const QString& words) {
  for (QAbstractButton* button : parent.findChildren<QAbstractButton*>())
    if (button->isVisible() && button->isEnabled() && button->text().remove('&').startsWith(words)) {
      button->setFocus();
      key(button, Qt::Key_Return);
      return true;
    }
  return false;
}

/// A program that opens a session, begins something with it, and goes on living until it is killed.
inline int live(const QString& file, const std::function<bool(app::Work&, app::MainWindow&)>& begin) {
  QTemporaryDir dir;
  MediaCache cache((dir.path() + "/cache").toStdString());
  app::Theme::instance().install();
  app::Work work(cache);
  app::MainWindow window(work);
  window.show();
  window.sessions().open(file);
  return isFinished(work) && work.document().isOpen() && begin(work, window) ? QApplication::exec() : 1;
}

/// Settings, state and look of a program that is being tested; gives the folder that its state lies in.
inline std::unique_ptr<QTemporaryDir> prepareTests() {
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

}  // namespace octaphon::test
