#include "app/preferences/folder_choice.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QPushButton>

namespace octaphon::app {

FolderChoice::FolderChoice(const QString& name, const QString& now, const QString& usual,
                           std::function<void(const QString&)> take, QWidget* parent)
    : QWidget(parent), line_(new QLineEdit(now, this)), title_(name), taken_(now), take_(std::move(take)) {
  line_->setPlaceholderText(usual);
  line_->setAccessibleName(name);
  auto* button = new QPushButton(tr("Choose …"), this);
  button->setAutoDefault(false);
  button->setAccessibleName(tr("Choose: %1").arg(name));
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(line_, 1);
  layout->addWidget(button);
  setFocusProxy(line_);
  connect(button, &QPushButton::clicked, this, &FolderChoice::choose);
  connect(line_, &QLineEdit::editingFinished, this, &FolderChoice::takeTyped);
}

void FolderChoice::choose() {
  const QString folder = QFileDialog::getExistingDirectory(this, title_, line_->text());
  if (folder.isEmpty()) return;
  line_->setText(folder);
  takeTyped();
}

/// One that is not there is not taken: what was there before stands again.
void FolderChoice::takeTyped() {
  const QString typed = line_->text().trimmed();
  const bool isFine = typed.isEmpty() || (QDir::isAbsolutePath(typed) && QFileInfo(typed).isDir());
  if (isFine && typed != taken_) take_(taken_ = typed);
  line_->setText(taken_);
}

}  // namespace octaphon::app
