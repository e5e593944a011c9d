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

/// Folder of a demo; copied once for all tests of a program.
QString demoFolder();

void key(QWidget* widget, int code, Qt::KeyboardModifiers modifiers = Qt::NoModifier);

/// Types a number into a field, as a person replaces one.
void type(QAbstractSpinBox* box, const QString& number);

/// The field that people hear called so; null where none is to be seen.
template <class Field>
Field* fieldNamed(QWidget& parent, const QString& name) {
  for (Field* field : parent.findChildren<Field*>())
    if (field->isVisible() && field->accessibleName() == name) return field;
  return nullptr;
}

/// Without a window manager nobody else gives the window back what a dialog had.
void activateMainWindow();

/// The same for a dialog that was opened.
bool activate(const QString& title);

/// Does something that asks for a file, or a folder, and types it as the answer.
void choosing(const QString& path, const std::function<void()>& act);

/// Drops files on a widget.
void drop(QWidget* widget, const QStringList& files, const QPoint& at);

/// Waits until nothing long goes on beside the window.
bool isFinished(app::Work& work);

/// A copy of the demo, and a window on it.
class Opened {
 public:
  QTemporaryDir dir;
  MediaCache cache;
  app::Work work;
  app::MainWindow window;

  Opened();

  QString session() const { return dir.filePath("Tidewheel.octaphon"); }

  void open();
  /// One that may be refused.
  void open(const QString& file);

  void finish() { QVERIFY(isFinished(work)); }

  /// Waits for the newest sheet.
  void settle();

  /// Changes the brief as an edit of its sentence would.
  void editBrief(std::size_t index, const std::function<void(Brief&)>& change);
  std::shared_ptr<const Session> now() const { return work.document().session(); }

  template <class View>
  View& view() {
    View* found = window.findChild<View*>();
    if (found == nullptr) qFatal("no such view");
    return *found;
  }

  /// After what asks for files: the last look comes, has the keyboard, and Return goes on.
  void goOn();

  /// Does a command as its keys would, or the menu.
  void run(const QString& id) { window.commands().action(id)->trigger(); }
  /// The button of a phrase; what is as usual is shown first.
  QPushButton* phrase(PhraseKind kind);
  /// Opens a phrase with the keyboard; gives its editor.
  app::PhraseEditor* openPhrase(PhraseKind kind);

  QStringList files();
  long count(RowState state);
  /// Key of a row of the newest sheet.
  std::string rowKey(std::size_t row);
  /// Row of the newest sheet that is current in the sheet's table.
  std::optional<std::size_t> currentRow() { return work.rows().currentRow(); }
  void waitForRun();
};

/// Lines of the proof under a cause; none where it is not there.
QList<QTreeWidgetItem*> proofLines(Opened& o, const QString& cause);

/// Presses the button with these words, as Return does; false where there is none that can be.
bool press(QWidget& parent, const QString& words);

/// A program that opens a session, begins something with it, and goes on living until it is killed.
int live(const QString& file, const std::function<bool(app::Work&, app::MainWindow&)>& begin);

/// Settings, state and look of a program that is being tested; gives the folder that its state lies in.
std::unique_ptr<QTemporaryDir> prepareTests();

}  // namespace octaphon::test
