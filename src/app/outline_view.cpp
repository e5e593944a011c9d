#include "outline_view.h"

#include <algorithm>
#include <numeric>
#include <QHeaderView>
#include <QPainter>
#include <QScrollBar>
#include <QStyledItemDelegate>

#include "naming/file_name.h"
#include "state_mark.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

/// Name to the left, state mark to the right.
class OutlineDelegate : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;

  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    QStyleOptionViewItem item = option;
    item.rect.setRight(option.rect.right() - kMark);
    if (option.state & QStyle::State_Selected) painter->fillRect(option.rect, colour(Role::Selection));
    QStyledItemDelegate::paint(painter, item, index);
    const QRect place(option.rect.right() - kMark, option.rect.top(), kMark, option.rect.height());
    const QVariant state = index.data(kStateRole);
    if (index.data(kCountRole).isValid()) {
      painter->setFont(Theme::caption());
      painter->setPen(colour(Role::SecondInk));
      painter->drawText(place, Qt::AlignCenter, index.data(kCountRole).toString());
    } else if (state.isValid()) {
      drawStateMark(*painter, place, static_cast<RowState>(state.toInt()));
    }
  }

 private:
  static constexpr int kMark = 30;
};

}  // namespace

OutlineView::OutlineView(QWidget* parent) : QTreeView(parent) {
  setObjectName("outline");
  setAccessibleName(tr("Regions and clip sets"));
  setModel(&model_);
  setItemDelegate(new OutlineDelegate(this));
  setHeaderHidden(true);
  setUniformRowHeights(true);
  setIndentation(14);
  setEditTriggers(NoEditTriggers);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setTextElideMode(Qt::ElideMiddle);
  connect(selectionModel(), &QItemSelectionModel::currentChanged, this, [this](const QModelIndex& current) {
    const QVariant region = current.data(kRegionRole);
    if (!silent_ && region.isValid()) emit regionChosen(region.toInt());
    const QVariant set = current.data(kSetRole);
    if (!silent_ && set.isValid()) emit clipSetChosen(set.toInt());
  });
  setSelectionMode(ExtendedSelection);
  connect(selectionModel(), &QItemSelectionModel::selectionChanged, this, [this] {
    const QModelIndexList rows = selectionModel()->selectedRows();
    const bool isFolder = rows.size() == 1 && model_.hasChildren(rows.first());
    if (silent_ || (rows.size() < 2 && !isFolder)) return;
    std::unordered_set<std::string> ids;
    for (const QModelIndex& row : rows) collect(row, ids);
    if (!ids.empty()) emit regionsSelected(ids);
  });
  connect(this, &QTreeView::activated, this, [this](const QModelIndex& index) {
    const QVariant region = index.data(kRegionRole);
    if (region.isValid()) emit regionActivated(region.toInt());
  });
}

QStandardItem* OutlineView::folderFor(const QString& path) {
  if (path.isEmpty()) return model_.invisibleRootItem();
  if (const auto found = folders_.find(path); found != folders_.end()) return found->second;
  const qsizetype slash = path.lastIndexOf('/');
  QStandardItem* parent = folderFor(slash < 0 ? QString() : path.left(slash));
  auto* item = new QStandardItem(path.mid(slash + 1));
  item->setFont(Theme::strong());
  parent->appendRow(item);
  return folders_[path] = item;
}

void OutlineView::collect(const QModelIndex& index, std::unordered_set<std::string>& ids) const {
  const QVariant region = index.data(kRegionRole);
  if (region.isValid()) ids.insert(session_->regions[region.toUInt()].id);
  for (int i = 0; i < model_.rowCount(index); ++i) collect(model_.index(i, 0, index), ids);
}

void OutlineView::addClipSets() {
  sets_.assign(session_->clipSets.size(), nullptr);
  if (sets_.empty()) return;
  auto* heading = new QStandardItem(tr("Clip sets"));
  heading->setFont(Theme::strong());
  heading->setData(static_cast<int>(sets_.size()), kCountRole);
  model_.appendRow(heading);
  for (std::size_t i = 0; i < sets_.size(); ++i) {
    const ClipSet& set = session_->clipSets[i];
    auto* item = new QStandardItem(set.name.empty() ? tr("(no name)") : text(set.name));
    item->setData(static_cast<int>(i), kSetRole);
    item->setToolTip(text(set.name));
    heading->appendRow(item);
    sets_[i] = item;
  }
}

void OutlineView::setSession(std::shared_ptr<const Session> session) {
  session_ = std::move(session);
  silent_ = true;
  model_.clear();
  folders_.clear();
  items_.assign(session_->regions.size(), nullptr);
  std::vector<std::size_t> byTime(session_->regions.size());
  std::iota(byTime.begin(), byTime.end(), 0);
  std::stable_sort(byTime.begin(), byTime.end(), [&](std::size_t a, std::size_t b) {
    return session_->regions[a].start < session_->regions[b].start;
  });
  for (const std::size_t i : byTime) {
    const Region& region = session_->regions[i];
    const std::string_view last = lastPart(region.name);
    const std::string_view path = std::string_view(region.name).substr(0, region.name.size() - last.size());
    auto* item = new QStandardItem(last.empty() ? tr("(no name)") : text(last));
    item->setData(static_cast<int>(i), kRegionRole);
    item->setToolTip(text(region.name));
    folderFor(path.empty() ? QString() : text(path.substr(0, path.size() - 1)))->appendRow(item);
    items_[i] = item;
  }
  for (auto& [path, item] : folders_) item->setData(item->rowCount(), kCountRole);
  addClipSets();
  expandAll();
  silent_ = false;
}

void OutlineView::setSheet(const Sheet& sheet) {
  std::unordered_map<std::string, RowState> states;
  for (const Row& row : sheet.rows) {
    const auto [found, isNew] = states.try_emplace(sheet.spanOf(row).id, row.state);
    if (!isNew) found->second = weightier(found->second, row.state);
  }
  const auto mark = [&](QStandardItem* item, const std::string& id) {
    const auto found = states.find(id);
    const QVariant state = found == states.end() ? QVariant() : QVariant(static_cast<int>(found->second));
    if (item->data(kStateRole) == state) return;
    item->setData(state, kStateRole);
    const QString words = found == states.end() ? tr("no files") : text(rowStateText(found->second));
    item->setData(item->text() + ", " + words, Qt::AccessibleTextRole);
  };
  for (std::size_t i = 0; i < items_.size(); ++i) mark(items_[i], session_->regions[i].id);
  for (std::size_t i = 0; i < sets_.size(); ++i) mark(sets_[i], session_->clipSets[i].id);
}

void OutlineView::selectClipSet(int clipSet) {
  silent_ = true;
  setCurrentIndex(sets_[static_cast<std::size_t>(clipSet)]->index());
  silent_ = false;
}

int OutlineView::selected() const {
  const QVariant region = currentIndex().data(kRegionRole);
  return region.isValid() ? region.toInt() : -1;
}

void OutlineView::select(int region) {
  silent_ = true;
  const QModelIndex index = region < 0 ? QModelIndex() : items_[static_cast<std::size_t>(region)]->index();
  setCurrentIndex(index);
  if (index.isValid()) scrollTo(index);
  silent_ = false;
}

int OutlineView::neighbour(int step) const {
  if (!session_ || session_->regions.empty()) return -1;
  const auto& regions = session_->regions;
  std::vector<int> byTime(regions.size());
  std::iota(byTime.begin(), byTime.end(), 0);
  std::stable_sort(byTime.begin(), byTime.end(), [&](int a, int b) {
    return regions[static_cast<std::size_t>(a)].start < regions[static_cast<std::size_t>(b)].start;
  });
  const int current = selected();
  if (current < 0) return step > 0 ? byTime.front() : byTime.back();
  const auto at = std::find(byTime.begin(), byTime.end(), current) - byTime.begin() + step;
  return at < 0 || at >= static_cast<std::ptrdiff_t>(byTime.size()) ? -1
                                                                    : byTime[static_cast<std::size_t>(at)];
}

}  // namespace octaphon::app
