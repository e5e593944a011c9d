#include "app/window/first_page.h"

#include <QBitmap>
#include <QFileInfo>
#include <QLabel>
#include <QPushButton>

#include "app/look/icons.h"
#include "app/look/theme.h"

namespace octaphon::app {

FirstPage::FirstPage(Commands& commands, std::function<void(const QString&)> open, QWidget* parent)
    : QWidget(parent), open_(std::move(open)) {
  auto* mark = new QLabel(this);
  const auto draw = [mark] {  // without the margin that it has, in line with the words
    const QPixmap whole = pixmap("mark", Role::Accent, 72);
    mark->setPixmap(whole.copy(QRegion(whole.mask()).boundingRect()));
  };
  draw();
  connect(&Theme::instance(), &Theme::changed, mark, draw);
  auto* title = new QLabel(tr("Many named files from one session"), this);
  QFont large = Theme::sentence();
  large.setPixelSize(22);
  large.setWeight(QFont::DemiBold);
  title->setFont(large);
  auto* words = new QLabel(tr("Mark the pieces in a session, say in a sentence what to print of them, read "
                              "the list of files, make them. Audio files and folders can be dropped here."),
                           this);
  words->setFont(Theme::sentence());
  words->setWordWrap(true);
  words->setMinimumWidth(480);
  auto* column = new QVBoxLayout;
  column->setSpacing(12);
  for (QWidget* widget :
       {static_cast<QWidget*>(mark), static_cast<QWidget*>(title), static_cast<QWidget*>(words)})
    column->addWidget(widget, 0, Qt::AlignLeft);
  for (const char* id :
       {"session.demo", "session.open", "session.new", "session.new-files", "session.new-folder"}) {
    QAction* action = commands.action(id);
    auto* button = new QPushButton(Commands::title(*action), this);
    if (id == QString("session.demo")) button->setObjectName("make");
    button->setAutoDefault(true);
    button->setFixedWidth(260);
    button->setToolTip(action->shortcut().toString(QKeySequence::NativeText));
    column->addWidget(button, 0, Qt::AlignLeft);
    connect(button, &QPushButton::clicked, action, &QAction::trigger);
  }
  recent_ = new QVBoxLayout;
  recent_->setSpacing(2);
  column->addSpacing(8);
  column->addLayout(recent_);
  auto* across = new QHBoxLayout;
  across->addStretch(2);
  across->addLayout(column);
  across->addStretch(3);
  auto* layout = new QVBoxLayout(this);
  layout->addStretch(2);
  layout->addLayout(across);
  layout->addStretch(3);
}

void FirstPage::setRecent(const QStringList& files) {
  while (QLayoutItem* item = recent_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
  if (files.isEmpty()) return;
  auto* heading = new QLabel(tr("RECENT"), this);
  heading->setFont(Theme::heading());
  recent_->addWidget(heading);
  for (const QString& file : files) {
    auto* button = new QPushButton(QFileInfo(file).completeBaseName().replace("&", "&&"), this);
    button->setObjectName("quiet");
    button->setToolTip(file);
    recent_->addWidget(button, 0, Qt::AlignLeft);
    connect(button, &QPushButton::clicked, this, [this, file] { open_(file); });
  }
}

}  // namespace octaphon::app
