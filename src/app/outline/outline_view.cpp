#include "app/outline/outline_view.h"

#include <algorithm>
#include <QContextMenuEvent>
#include <QHeaderView>
#include <QPainter>
#include <QScrollBar>
#include <QStyledItemDelegate>
#include <unordered_map>

#include "app/look/menu_place.h"
#include "app/look/stage_mark.h"
#include "app/look/state_mark.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "naming/file_name.h"

namespace octaphon::app {
namespace {

constexpr int kIdRole = Qt::UserRole + 1;     // of a region or clip set
constexpr int kCountRole = Qt::UserRole + 3;  // things below a heading
constexpr int kPathRole = Qt::UserRole + 4;   // of a folder
constexpr int kIsSetRole = Qt::UserRole + 5;

/// A region or clip set; who hears it hears its state too.
class OutlineItem : public QStandardItem {
 public:
  using QStandardItem::QStandardItem;
  QVariant data(int role) const override {
    if (role != Qt::AccessibleTextRole) return QStandardItem::data(role);
    const QVariant state = QStandardItem::data(kStateRole), stage = QStandardItem::data(kStageRole);
    if (stage.isValid())
      return text() + ", " + app::text(std::string(rowStageText(static_cast<RowStage>(stage.toInt()))));
    return text() + ", " +
           (state.isValid() ? app::text(rowStateText(static_cast<RowState>(state.toInt())))
                            : OutlineView::tr("no files"));
  }
};

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
    } else if (const QVariant stage = index.data(kStageRole); stage.isValid()) {
      drawStageMark(*painter, place, static_cast<RowStage>(stage.toInt()));
    } else if (state.isValid()) {
      drawStateMark(*painter, place, static_cast<RowState>(state.toInt()));
    }
  }

 private:
  static constexpr int kMark = 30;
};

}  // namespace

OutlineView::OutlineView(Work& work, Commands& commands, QWidget* parent)
    : QTreeView(parent), work_(work), commands_(commands) {
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
  setSelectionMode(ExtendedSelection);
  count_ = new QLabel(this);
  count_->setFont(Theme::caption());
  commands_.listenIn(this, {"edit.delete", "mark.name"});
  connect(selectionModel(), &QItemSelectionModel::selectionChanged, this, &OutlineView::takeSelection);
  connect(this, &QTreeView::activated, this, [this] { work_.places().zoomToRegion(); });
  connect(this, &QTreeView::collapsed, this, &OutlineView::keepFolds);
  connect(this, &QTreeView::expanded, this, &OutlineView::keepFolds);
  connect(&work_.document(), &Document::opened, this, [this] {
    closed_.clear();
    showSession();
  });
  connect(&work_.document(), &Document::changed, this, [this](unsigned parts) {
    if ((parts & (kRegions | kClipSets)) != 0) showSession();
  });
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, [this] {
    showStates();
    showStages();
  });
  connect(&work_.making(), &Making::stagesChanged, this, &OutlineView::showStages);
  connect(&work_.selected(), &Selected::changed, this, &OutlineView::showSelection);
  showSession();
}

QStandardItem* OutlineView::folderFor(const QString& path) {
  if (path.isEmpty()) return model_.invisibleRootItem();
  if (const auto found = folders_.find(path); found != folders_.end()) return found->second;
  const qsizetype slash = path.lastIndexOf('/');
  QStandardItem* parent = folderFor(slash < 0 ? QString() : path.left(slash));
  auto* item = new QStandardItem(path.mid(slash + 1));
  item->setFont(Theme::strong());
  item->setData(path, kPathRole);
  parent->appendRow(item);
  return folders_[path] = item;
}

void OutlineView::addClipSets() {
  const auto& sets = shown_->clipSets;
  if (sets.empty()) return;
  auto* heading = new QStandardItem(tr("Clip sets"));
  heading->setFont(Theme::strong());
  heading->setData(static_cast<int>(sets.size()), kCountRole);
  heading->setData("//", kPathRole);  // no region's path
  folders_["//"] = heading;
  model_.appendRow(heading);
  for (const ClipSet& set : sets) {
    auto* item = new OutlineItem(set.name.empty() ? tr("(no name)") : text(set.name));
    item->setData(text(set.id), kIdRole);
    item->setData(true, kIsSetRole);
    item->setToolTip(text(set.name));
    heading->appendRow(item);
    sets_[set.id] = item;
  }
}

void OutlineView::arrange() {
  model_.clear();
  folders_.clear();
  regions_.clear();
  sets_.clear();
  for (const Region* region : Places::byTime(*shown_)) {
    const std::string_view last = lastPart(region->name);
    const std::string_view path = std::string_view(region->name).substr(0, region->name.size() - last.size());
    auto* item = new OutlineItem(last.empty() ? tr("(no name)") : text(last));
    item->setData(text(region->id), kIdRole);
    item->setToolTip(text(region->name));
    folderFor(path.empty() ? QString() : text(path.substr(0, path.size() - 1)))->appendRow(item);
    regions_[region->id] = item;
  }
  for (auto& [path, item] : folders_) item->setData(item->rowCount(), kCountRole);
  addClipSets();
  expandAll();
  for (const QString& path : closed_)
    if (const auto found = folders_.find(path); found != folders_.end()) collapse(found->second->index());
}

/// What is seen of a session: ids and names, in order.
OutlineView::Listed OutlineView::listedOf(const Session& session) {
  Listed listed;
  for (const Region* region : Places::byTime(session)) listed.emplace_back(region->id, region->name);
  listed.emplace_back();
  for (const ClipSet& set : session.clipSets) listed.emplace_back(set.id, set.name);
  return listed;
}

/// The same names at the same places stand as they are: what is folded up and scrolled to stays.
void OutlineView::showSession() {
  const auto session = work_.session();
  const bool isShared = shown_ && shown_->regions.isSharedWith(session->regions) &&
                        shown_->clipSets.isSharedWith(session->clipSets);
  shown_ = session;
  if (isShared) return;
  if (Listed listed = listedOf(*session); listed == listed_ && !listed_.empty())
    return;
  else
    listed_ = std::move(listed);
  isFollowing_ = true;
  const int scrolled = verticalScrollBar()->value();
  const QString path = currentIndex().data(kPathRole).toString();
  arrange();
  if (const auto found = folders_.find(path); found != folders_.end())
    selectionModel()->setCurrentIndex(found->second->index(), QItemSelectionModel::NoUpdate);
  verticalScrollBar()->setValue(scrolled);
  isFollowing_ = false;
  count_->setText(session->regions.empty() ? tr("none yet") : QString::number(session->regions.size()));
  showStates();
  showStages();
  showSelection();
}

void OutlineView::keepFolds() {
  if (isFollowing_) return;
  closed_.clear();
  for (const auto& [path, item] : folders_)
    if (!isExpanded(item->index())) closed_.insert(path);
}

/// Of the rows of each region and clip set together, by its id: `ofSpans` gives them for the spans of a
/// brief.
template <class Value, class OfSpans, class Join>
std::unordered_map<std::string, Value> OutlineView::bySpan(const OfSpans& ofSpans, const Join& join) const {
  const Sheet& sheet = *work_.sheets().sheet();
  std::unordered_map<std::string, Value> all;
  for (std::size_t b = 0; b < sheet.briefs.size(); ++b) {
    const std::vector<std::optional<Value>> values = ofSpans(b);
    for (std::size_t s = 0; s < values.size(); ++s) {
      const PlannedSpan& span = sheet.briefs[b].spans[s];
      const bool isListed = span.kind == PlannedSpan::Kind::Region || span.kind == PlannedSpan::Kind::ClipSet;
      if (!isListed || !values[s]) continue;
      const auto [found, isNew] = all.try_emplace(span.id, *values[s]);
      if (!isNew) found->second = join(found->second, *values[s]);
    }
  }
  return all;
}

template <class Value>
void OutlineView::mark(const std::unordered_map<std::string, Value>& values, int role) {
  for (const auto* items : {&regions_, &sets_})
    for (const auto& [id, item] : *items) {
      const auto found = values.find(id);
      const QVariant value = found == values.end() ? QVariant() : QVariant(static_cast<int>(found->second));
      if (item->data(role) != value) item->setData(value, role);
    }
}

/// Each region has the weightiest state of its rows.
void OutlineView::showStates() {
  const SheetSummary& summary = work_.sheets().summary();
  mark(bySpan<RowState>([&](std::size_t brief) { return summary.briefs[brief].spans; }, weightier),
       kStateRole);
}

void OutlineView::showStages() {
  if (!work_.making().hasStages()) return mark<RowStage>({}, kStageRole);
  const Sheet& sheet = *work_.sheets().sheet();
  const auto ofSpans = [&](std::size_t b) {
    const PlannedBrief& brief = sheet.briefs[b];
    std::vector<std::optional<RowStage>> stages(brief.spans.size());
    for (std::size_t i = brief.firstRow; i < brief.firstRow + brief.rowCount; ++i) {
      const RowStage stage = work_.making().stageOf(sheet, i);
      std::optional<RowStage>& ofSpan = stages[sheet.soundOf(sheet.rows[i]).span];
      if (stage != RowStage::None) ofSpan = ofSpan ? moreTelling(*ofSpan, stage) : stage;
    }
    return stages;
  };
  mark(bySpan<RowStage>(ofSpans, moreTelling), kStageRole);
}

void OutlineView::showSelection() {
  if (isFollowing_) return;
  isFollowing_ = true;
  QItemSelection selection;
  QModelIndex first;
  const auto add = [&](const Ids& ids, const std::map<std::string, QStandardItem*>& items) {
    for (const std::string& id : ids)
      if (const auto found = items.find(id); found != items.end()) {
        const QModelIndex index = found->second->index();
        selection.select(index, index);
        const bool isSeen = !index.parent().isValid() || isExpanded(index.parent());
        if (!first.isValid() && isSeen) first = index;  // what is folded up stays so
      }
  };
  add(work_.selected().regions(), regions_);
  add(work_.selected().clipSets(), sets_);
  selectionModel()->select(selection, QItemSelectionModel::ClearAndSelect);
  Ids below, sets;
  if (!currentIndex().data(kPathRole).toString().isEmpty()) collect(currentIndex(), below, sets);
  const bool isOfFolder = !below.empty() && below == work_.selected().regions();
  if (first.isValid() && !isOfFolder && !selection.contains(currentIndex()))
    selectionModel()->setCurrentIndex(first, QItemSelectionModel::NoUpdate);
  if (selection.size() == 1 && first.isValid()) scrollTo(first);
  isFollowing_ = false;
}

void OutlineView::collect(const QModelIndex& index, Ids& regions, Ids& sets) const {
  if (const QString id = index.data(kIdRole).toString(); !id.isEmpty())
    (index.data(kIsSetRole).toBool() ? sets : regions).insert(id.toStdString());
  for (int i = 0; i < model_.rowCount(index); ++i) collect(model_.index(i, 0, index), regions, sets);
}

/// One thing that is selected is gone to; several, or all below a heading, are selected.
void OutlineView::takeSelection() {
  if (isFollowing_) return;
  isFollowing_ = true;  // it shows already what is selected
  Ids regions, sets;
  for (const QModelIndex& row : selectionModel()->selectedRows()) collect(row, regions, sets);
  const Thing thing = regions.empty() ? Thing::ClipSet : Thing::Region;
  const Ids& ids = regions.empty() ? sets : regions;
  if (ids.size() == 1)
    work_.places().go(thing, *ids.begin());
  else if (!ids.empty())
    work_.selected().set(thing, ids);
  isFollowing_ = false;
}

void OutlineView::contextMenuEvent(QContextMenuEvent* event) {
  QMenu menu(this);
  commands_.fill(menu, {"mark.name", "brief.print-this", "", "play.region", "view.zoom-region", "",
                        "mark.join", "mark.fix", "edit.lock", "edit.delete"});
  menu.exec(menuPlace(*event, *this));
}

}  // namespace octaphon::app
