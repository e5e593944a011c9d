// What a run does to the folders of a sheet, and what else stands there, in groups for people.
#pragma once

#include <QList>
#include <QString>

#include "app/work/making.h"
#include "plan/sheet.h"

namespace octaphon::app {

/// Lines shown of a group; the sheet has them all.
inline constexpr int kMostLines = 300;

struct FolderLine {
  QString file, detail, folder;
  std::string key;  ///< of its row; empty where it has none
};

struct FolderGroup {
  QString title;   ///< without its count
  QString detail;  ///< what becomes of these files
  std::size_t count = 0;
  QList<FolderLine> lines = {};  ///< the first ones
  bool isProblem = false;        ///< someone has to look at it
};

/// Those that have files, what a run does first.
QList<FolderGroup> folderGroupsOf(const Sheet& sheet);
/// What a run did.
QList<FolderGroup> folderGroupsOf(const MadeReport& report);

/// `33 new · 3 replaced · 4 left over`; what comes out of a run is said first.
QString folderText(const QList<FolderGroup>& groups);

}  // namespace octaphon::app
