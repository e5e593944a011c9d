#include "app/help/log_window.h"

#include <QFileDialog>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/look/theme.h"
#include "app/work/file_writing.h"
#include "app/work/log_file.h"
#include "app/work/settings.h"

namespace octaphon::app {

LogWindow::LogWindow(Work& work, QWidget* parent)
    : PageDialog(parent), work_(work), page_(new QPlainTextEdit(this)) {
  setAttribute(Qt::WA_DeleteOnClose);
  setWindowTitle(tr("What the program did"));
  setAccessibleName(tr("What the program did"));
  page_->setReadOnly(true);
  page_->setFont(Theme::mono());
  page_->setLineWrapMode(QPlainTextEdit::NoWrap);
  page_->setAccessibleName(tr("Log"));
  auto* about = new QLabel(
      settings::logsNames()
          ? tr("Names of files and things are written down from here on, as Preferences say; no sound is.")
          : tr("Without names of files and things, and without sound. Preferences let names be written, "
               "too."),
      this);
  about->setObjectName("second");
  about->setWordWrap(true);
  auto* save = new QPushButton(tr("Save for a report …"), this);
  save->setAutoDefault(false);
  auto* layout = new QVBoxLayout(this);
  layout->addWidget(about);
  layout->addWidget(page_, 1);
  layout->addWidget(save, 0, Qt::AlignRight);
  const QSize wanted(900, 600);
  resize(parent == nullptr ? wanted : wanted.boundedTo(parent->size()));
  connect(save, &QPushButton::clicked, this, &LogWindow::save);
  page_->setFocus();
  look();
}

/// It starts a program to see whether that answers.
void LogWindow::look() {
  page_->setPlainText(tr("Looking …"));
  work_.jobs().start<QString>(
      LongJobs::Kind::Other, tr("Looking at versions"), [](JobControl&) { return stateOfThings(); },
      [self = QPointer(this)](const QString& state) {
        if (!self) return;
        LogFile* log = LogFile::current();
        self->page_->setPlainText(state + '\n' + (log == nullptr ? tr("There is no log.") : log->text()));
        self->page_->moveCursor(QTextCursor::End);
      });
}

void LogWindow::save() {
  const QString file = QFileDialog::getSaveFileName(this, tr("Save for a report"), "octaphon-report.txt");
  if (file.isEmpty()) return;
  writeFile(
      work_.jobs(), work_.news(), file, [text = page_->toPlainText().toStdString()] { return text; },
      tr("Saved as %1").arg(file));
}

}  // namespace octaphon::app
