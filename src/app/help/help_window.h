// The documents in the window: pages, sections, and a search through all of them.
#pragma once

#include <QLineEdit>
#include <QListWidget>
#include <QTextBrowser>
#include <QTimer>

#include "app/help/help_text.h"
#include "app/look/page_dialog.h"

namespace octaphon::app {

/// Pictures come from where the documents are installed; without them their words stand there.
class HelpBrowser : public QTextBrowser {
  Q_OBJECT
 public:
  explicit HelpBrowser(QWidget* parent);
  /// Shows a page from a heading on; empty: from the top.
  void show(const QString& page, const QString& heading = {});
  /// Marks every place of these words, and goes to the first behind the heading.
  void mark(const QString& words);

 protected:
  QVariant loadResource(int type, const QUrl& name) override;

 private:
  void goTo(const QString& heading);
};

class HelpWindow : public PageDialog {
  Q_OBJECT
 public:
  explicit HelpWindow(QWidget* parent);

 private:
  void list();
  void showCurrent();
  QLineEdit* field_;
  QListWidget* list_;
  HelpBrowser* browser_;
  QTimer pause_;  // pages are laid out once one has stopped typing
};

}  // namespace octaphon::app
