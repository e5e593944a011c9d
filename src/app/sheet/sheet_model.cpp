#include "app/sheet/sheet_model.h"

#include <algorithm>
#include <cmath>

#include "app/look/stage_mark.h"
#include "app/look/state_mark.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "plan/own_rows.h"
#include "plan/row_names.h"

namespace octaphon::app {
namespace {

QString allRemarks(const Sheet& sheet, const Row& row) {
  QStringList lines;
  for (const Remark& remark : sheet.remarksOf(row)) {
    const AcceptedRemark* accepted = sheet.acceptedOf(row, remark);
    QString line = text(severityName(remark.severity)) + ": " + text(remark.text);
    if (accepted != nullptr) line += "\n" + SheetModel::tr("accepted: %1").arg(text(accepted->reason));
    lines << line;
  }
  return lines.join("\n");
}

constexpr std::size_t kAtOnce = 4000;  // rows, that take less than a frame

}  // namespace

SheetModel::SheetModel(QObject* parent) : QAbstractTableModel(parent) { pool_.setMaxThreadCount(1); }

SheetModel::~SheetModel() {
  ++wantedNumber_;
  pool_.waitForDone();
}

void SheetModel::setSheet(std::shared_ptr<const Sheet> sheet, bool keepsRows) {
  keepsRows_ = keepsRows_ && keepsRows;
  wantedSheet_ = std::move(sheet);
  arrange();
}

void SheetModel::setFilter(const QString& words, int column) {
  wanted_.words = words.split(' ', Qt::SkipEmptyParts);
  wanted_.column = column;
  arrange();
}

void SheetModel::groupBy(GroupBy by) {
  if (by == wanted_.groupBy) return;
  wanted_.groupBy = by;
  closed_.clear();
  arrange();
}

void SheetModel::setOpen(int line, bool on) {
  const SheetLines::Group* group = groupAt(line);
  if (group == nullptr || group->isOpen == on) return;
  if (on)
    closed_.erase(group->title);
  else
    closed_.insert(group->title);
  arrange();
}

void SheetModel::sort(int column, Qt::SortOrder order) {
  wanted_.sortColumn = column;
  wanted_.sortOrder = order;
  arrange();
}

void SheetModel::arrange() {
  const unsigned number = ++wantedNumber_;
  if (wantedSheet_->rows.size() <= kAtOnce) return take({*wantedSheet_, wanted_, closed_});
  pool_.start([this, number, sheet = wantedSheet_, order = wanted_, closed = closed_] {
    if (number != wantedNumber_) return;
    SheetLines lines(*sheet, order, closed);
    {
      const std::scoped_lock lock(mutex_);
      ready_.emplace(number, std::move(lines));
    }
    QMetaObject::invokeMethod(this, &SheetModel::takeReady, Qt::QueuedConnection);
  });
}

void SheetModel::takeReady() {
  std::unique_lock lock(mutex_);
  auto ready = std::exchange(ready_, std::nullopt);
  lock.unlock();
  if (ready && ready->first == wantedNumber_) take(std::move(ready->second));
}

void SheetModel::finishArranging() {
  pool_.waitForDone();
  takeReady();
}

/// The lines of all that is wanted.
void SheetModel::take(SheetLines lines) {
  emit aboutToArrange();
  if (!std::exchange(keepsRows_, true))
    reset(std::move(lines));
  else
    reorder(std::move(lines));
  shownNumber_ = wantedNumber_;
  emit arranged();
}

void SheetModel::reset(SheetLines lines) {
  beginResetModel();
  sheet_ = wantedSheet_;
  lines_ = std::move(lines);
  endResetModel();
}

/// Of the same rows.
void SheetModel::reorder(SheetLines lines) {
  const bool isNews = sheet_ != wantedSheet_;
  if (lines == lines_) {
    sheet_ = wantedSheet_;
    lines_ = std::move(lines);  // headings may count otherwise
    if (isNews && rowCount() > 0) emit dataChanged(index(0, 0), index(rowCount() - 1, kColumns - 1));
    return;
  }
  if (lines.size() != lines_.size() || lines.hasGroups() || lines_.hasGroups())
    return reset(std::move(lines));
  emit layoutAboutToBeChanged();
  sheet_ = wantedSheet_;
  const QModelIndexList before = persistentIndexList();
  const SheetLines old = std::exchange(lines_, std::move(lines));
  QModelIndexList after;
  for (const QModelIndex& one : before) {
    const int row = viewRow(*old.rowAt(static_cast<std::size_t>(one.row())));
    after << (row < 0 ? QModelIndex() : index(row, one.column()));
  }
  changePersistentIndexList(before, after);
  emit layoutChanged();
}

int SheetModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(lines_.size());
}
int SheetModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : kColumns; }

/// Names are typed in place.
Qt::ItemFlags SheetModel::flags(const QModelIndex& index) const {
  const Qt::ItemFlags usual = QAbstractTableModel::flags(index);
  if (!index.isValid() || groupAt(index.row()) != nullptr) return usual;
  return usual | Qt::ItemIsDragEnabled | (index.column() == File ? Qt::ItemIsEditable : Qt::NoItemFlags);
}

bool SheetModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  if (role != Qt::EditRole || index.column() != File || groupAt(index.row()) != nullptr) return false;
  const std::size_t row = sheetRow(index.row());
  if (value.toString() != text(nameOf(*sheet_, sheet_->rows[row]))) emit nameTyped(row, value.toString());
  return true;
}

QVariant SheetModel::groupData(const SheetLines::Group& group, int column, int role) const {
  if (column != File) return {};
  if (role == Qt::DisplayRole || role == Qt::ToolTipRole)
    return group.title + "  " + text(counted(group.rows.size(), "row"));
  return {};
}

QVariant SheetModel::inkOf(const Row& row, int column) const {
  if (column == File) return row.exception ? QVariant(colour(Role::Accent)) : QVariant();
  if (column == State) return {};
  if (showsApart(*sheet_, row, column)) return colour(Role::Attention);
  if (column != RemarkText) return colour(Role::Ink);
  const Remark* gravest = gravestOf(*sheet_, row);
  if (gravest == nullptr) return {};
  if (sheet_->acceptedOf(row, *gravest) != nullptr) return colour(Role::SecondInk);
  switch (gravest->severity) {
    case Severity::Fault: return colour(Role::Fault);
    case Severity::Warning: return colour(Role::Attention);
    case Severity::Note: break;
  }
  return colour(Role::SecondInk);
}

QString SheetModel::tipOf(const Row& row, int column) const {
  switch (column) {
    case RemarkText: return allRemarks(*sheet_, row);
    case Heard: return text(sheet_->sourceOf(row).heard);
    case Tail:
    case Length: return text(sheet_->endsText(row));
    case Loudness:
    case Peak:
      if (!showsApart(*sheet_, row, column)) break;
      return textOf(*sheet_, row, column) + "\n" +
             tr("%1 LU %2 than the middle of its variations")
                 .arg(std::fabs(row.apart), 0, 'f', 1)
                 .arg(row.apart > 0 ? tr("louder") : tr("softer"));
    default: break;
  }
  const RowException* own = column == File ? sheet_->exceptionOf(row) : nullptr;
  return textOf(*sheet_, row, column) + (own == nullptr ? QString() : "\n" + text(exceptionText(*own)));
}

RowStage SheetModel::stageOf(std::size_t row) const {
  return making_ == nullptr ? RowStage::None : making_->stageOf(*sheet_, row);
}

QVariant SheetModel::data(const QModelIndex& index, int role) const {
  if (const SheetLines::Group* group = groupAt(index.row())) return groupData(*group, index.column(), role);
  const std::size_t sheetRow = this->sheetRow(index.row());
  const Row& row = sheet_->rows[sheetRow];
  switch (role) {
    case Qt::DisplayRole:
      if (const QString* ahead = index.column() == File && namesAhead_ != nullptr
                                     ? namesAhead_->fileOf(*sheet_, sheetRow)
                                     : nullptr)
        return ahead->isEmpty() ? tr("(no name)") : *ahead;
      if (const RowStage stage = index.column() == State ? stageOf(sheetRow) : RowStage::None;
          stage != RowStage::None)
        return text(std::string(rowStageText(stage)));
      return textOf(*sheet_, row, index.column());
    case Qt::EditRole: return text(nameOf(*sheet_, row));
    case Qt::TextAlignmentRole:
      return static_cast<int>(Qt::AlignVCenter | (isRight(index.column()) ? Qt::AlignRight : Qt::AlignLeft));
    case Qt::FontRole: return index.column() == File ? QVariant(Theme::mono()) : QVariant();
    case Qt::ToolTipRole: return tipOf(row, index.column());
    case kStateRole: return static_cast<int>(row.state);
    case kStageRole: return static_cast<int>(stageOf(sheetRow));
    case kOwnRole: return row.exception.has_value();
    case Qt::ForegroundRole: return inkOf(row, index.column());
    default: return {};
  }
}

QVariant SheetModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal) return {};
  if (role == Qt::TextAlignmentRole)
    return static_cast<int>(Qt::AlignVCenter | (isRight(section) ? Qt::AlignRight : Qt::AlignLeft));
  return role == Qt::DisplayRole ? QVariant(title(section)) : QVariant();
}

}  // namespace octaphon::app
