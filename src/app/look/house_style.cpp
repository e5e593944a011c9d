#include "app/look/house_style.h"

#include <QFileDialog>
#include <QHeaderView>
#include <QTreeView>

#include "app/look/icons.h"

namespace octaphon::app {
namespace {

constexpr int kLargePixels = 32;  // beside a question

struct HouseIcon {
  QStyle::StandardPixmap which;
  const char* name;
  Role role = Role::Ink;
};

constexpr HouseIcon kIcons[]{
    {QStyle::SP_DirIcon, "folder"},
    {QStyle::SP_DirOpenIcon, "folder"},
    {QStyle::SP_DirClosedIcon, "folder"},
    {QStyle::SP_DirLinkIcon, "folder"},
    {QStyle::SP_DirHomeIcon, "folder"},
    {QStyle::SP_FileIcon, "file"},
    {QStyle::SP_FileLinkIcon, "file"},
    {QStyle::SP_ComputerIcon, "computer"},
    {QStyle::SP_DesktopIcon, "computer"},
    {QStyle::SP_DriveHDIcon, "computer"},
    {QStyle::SP_DriveNetIcon, "computer"},
    {QStyle::SP_FileDialogToParent, "up"},
    {QStyle::SP_FileDialogBack, "back"},
    {QStyle::SP_ArrowBack, "back"},
    {QStyle::SP_ArrowForward, "forward"},
    {QStyle::SP_FileDialogNewFolder, "folder-add"},
    {QStyle::SP_FileDialogListView, "tiles"},
    {QStyle::SP_FileDialogDetailedView, "rows"},
    {QStyle::SP_MessageBoxQuestion, "asks"},
    {QStyle::SP_MessageBoxInformation, "tells"},
    {QStyle::SP_MessageBoxWarning, "warns", Role::Attention},
    {QStyle::SP_MessageBoxCritical, "warns", Role::Fault},
};

const HouseIcon* ours(QStyle::StandardPixmap which) {
  for (const HouseIcon& one : kIcons)
    if (one.which == which) return &one;
  return nullptr;
}

}  // namespace

int HouseStyle::styleHint(StyleHint hint, const QStyleOption* option, const QWidget* widget,
                          QStyleHintReturn* returned) const {
  if (hint == SH_DialogButtonBox_ButtonsHaveIcons) return 0;
  return QProxyStyle::styleHint(hint, option, widget, returned);
}

QIcon HouseStyle::standardIcon(StandardPixmap which, const QStyleOption* option,
                               const QWidget* widget) const {
  const HouseIcon* own = ours(which);
  if (own == nullptr) return QProxyStyle::standardIcon(which, option, widget);
  QIcon made = icon(own->name, own->role);
  made.addPixmap(pixmap(own->name, own->role, kLargePixels));
  return made;
}

QPixmap HouseStyle::standardPixmap(StandardPixmap which, const QStyleOption* option,
                                   const QWidget* widget) const {
  const HouseIcon* own = ours(which);
  return own != nullptr ? pixmap(own->name, own->role) : QProxyStyle::standardPixmap(which, option, widget);
}

void HouseStyle::polish(QWidget* widget) {
  QProxyStyle::polish(widget);
  auto* dialog = qobject_cast<QFileDialog*>(widget);
  if (dialog == nullptr || dialog->isVisible()) return;
  auto* table = dialog->findChild<QTreeView*>();
  if (table == nullptr || table->header()->count() == 0) return;  // the desktop's own
  table->header()->setSectionResizeMode(QHeaderView::ResizeToContents);
  table->header()->setStretchLastSection(false);
  table->header()->setSectionResizeMode(0, QHeaderView::Stretch);
}

}  // namespace octaphon::app
