#include "app/delivery/folder_lines.h"

#include <optional>
#include <QObject>
#include <QStringList>

#include "app/work/text.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

QString nameOf(const FolderPath& base) {
  return shownName(base.below.empty() ? base.full().filename().string() : base.below);
}

enum Group {
  New,
  Replaced,
  Renamed,
  Rewritten,
  Kept,
  Altered,
  InTheWay,
  LeftOver,
  AlteredLeftOver,
  Foreign,
  Same
};

QList<FolderGroup> allGroups() {
  return {
      {tr("new"), tr("will be made")},
      {tr("replaced"), tr("will be made anew in the place of what is there")},
      {tr("renamed"), tr("get another name; nothing is rendered")},
      {tr("with new data"), tr("say something else of themselves; nothing is rendered")},
      {tr("kept"), tr("out of date; the brief keeps what is there, or stops")},
      {tr("altered by others"), tr("stay; select them in the sheet to replace them"), 0, {}, true},
      {tr("names taken by others"), tr("move what is there away, or replace it from the sheet"), 0, {}, true},
      {tr("left over"), tr("ours, and planned no more; the trash takes them")},
      {tr("left over and altered"), tr("were ours; they stay")},
      {tr("foreign"), tr("not ours; they stay")},
      {tr("same sound twice"), tr("equal to the last bit, before dither")}};
}

/// What a run does with a row's file; nothing where it has nothing to do with it.
std::optional<Group> groupOf(const Sheet& sheet, const Row& row) {
  const bool isMade = isMakeable(sheet, row);
  switch (row.state) {
    case RowState::ToMake: return isMade ? std::optional(New) : std::nullopt;
    case RowState::Renamed: return isMade ? Renamed : Kept;
    case RowState::Stale: return !isMade ? Kept : row.from.empty() ? Replaced : Rewritten;
    case RowState::Changed: return Altered;
    case RowState::Foreign: return InTheWay;
    default: return std::nullopt;
  }
}

class Groups {
 public:
  explicit Groups(const Sheet& sheet) : sheet_(sheet), groups_(allGroups()) {
    for (const Row& row : sheet.rows) addRow(row);
    for (const SheetFolder& folder : sheet.folders) addFolder(folder);
  }
  QList<FolderGroup> found() const {
    QList<FolderGroup> found;
    for (const FolderGroup& group : groups_)
      if (group.count > 0) found << group;
    return found;
  }

 private:
  void addRow(const Row& row) {
    const auto group = groupOf(sheet_, row);
    if (!group) return;
    FolderGroup& to = groups_[*group];
    if (to.lines.size() < kMostLines) {
      const QString detail =
          row.state == RowState::Renamed ? tr("was %1").arg(shownName(row.from)) : QString();
      to.lines << FolderLine{shownName(row.file), detail, nameOf(sheet_.briefOf(row).base),
                             sheet_.keyOf(row)};
    }
    ++to.count;
  }

  void add(Group group, const QString& file, const SheetFolder& folder, const QString& detail = {}) {
    FolderGroup& to = groups_[group];
    if (to.lines.size() < kMostLines) to.lines << FolderLine{file, detail, nameOf(folder.base), {}};
    ++to.count;
  }

  void addFolder(const SheetFolder& folder) {
    for (const SheetFolder::LeftOver& file : folder.leftOver) add(LeftOver, shownName(file.file), folder);
    for (const std::string& file : folder.changed) add(AlteredLeftOver, shownName(file), folder);
    for (const std::string& file : folder.foreign) add(Foreign, shownName(file), folder);
    for (const std::vector<std::string>& files : folder.sameSound) {
      QStringList others;
      for (std::size_t i = 1; i < files.size(); ++i) others << shownName(files[i]);
      add(Same, shownName(files.front()), folder, tr("as %1").arg(others.join(", ")));
    }
  }

  const Sheet& sheet_;
  QList<FolderGroup> groups_;
};

}  // namespace

QList<FolderGroup> folderGroupsOf(const Sheet& sheet) { return Groups(sheet).found(); }

QList<FolderGroup> folderGroupsOf(const MadeReport& report) {
  enum Of { Made, Over, Moved, Data };
  QList<FolderGroup> groups{{tr("made by the last run"), {}},
                            {tr("replaced by the last run"), {}},
                            {tr("renamed by the last run"), {}},
                            {tr("given new data by the last run"), {}}};
  for (const MadeFile& made : report.made) {
    const bool isMoved = made.deed == Deed::Renamed;
    const Of of = isMoved ? Moved : made.deed == Deed::Rewritten ? Data : made.isNew ? Made : Over;
    FolderGroup& to = groups[of];
    ++to.count;
    if (to.lines.size() < kMostLines)
      to.lines << FolderLine{shownName(made.file.toStdString()),
                             isMoved ? tr("was %1").arg(shownName(made.from.toStdString())) : QString(),
                             nameOf(made.base), made.key};
  }
  groups.removeIf([](const FolderGroup& group) { return group.count == 0; });
  return groups;
}

QString folderText(const QList<FolderGroup>& groups) {
  QStringList parts;
  for (const FolderGroup& group : groups) parts << QString::number(group.count) + " " + group.title;
  return parts.join(QString::fromUtf8("  \u00B7  "));
}

}  // namespace octaphon::app
