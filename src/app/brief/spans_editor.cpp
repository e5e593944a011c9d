// The phrase of regions and clip sets.
#include <map>
#include <QCheckBox>

#include "app/brief/phrase_editor.h"
#include "app/brief/tick_tree.h"
#include "naming/file_name.h"

namespace octaphon::app {
namespace {

bool contains(const Selection& selection, const std::string& id) {
  return selection.all || std::find(selection.ids.begin(), selection.ids.end(), id) != selection.ids.end();
}

class SpansEditor : public PhraseEditor {
 public:
  SpansEditor(Work& work, QWidget* parent) : PhraseEditor(PhraseKind::Regions, work, parent) {
    allRegions_ = addAll(tr("All regions, also those still to come"), &Brief::Where::regions);
    allSets_ = addAll(tr("All clip sets, also those still to come"), &Brief::Where::clipSets);
    tree_ = new TickTree(tr("Regions of the brief"), this);
    layout_->addWidget(tree_);
    connect(tree_, &TickTree::ticked, this, &SpansEditor::take);
    setFocusProxy(briefs_.now().where.regions.all ? static_cast<QWidget*>(allRegions_) : tree_);
  }

  void refresh() override {
    const QSignalBlocker quiet(tree_);
    if (arranged_ != things()) arrange();
    const Brief::Where& where = briefs_.now().where;
    const auto put = [](const Items& items, const Selection& selection, QCheckBox* all) {
      const QSignalBlocker still(all);
      all->setChecked(selection.all);
      for (const auto& [id, item] : items) {
        TickTree::setTicked(item, contains(selection, id));
        item->setDisabled(selection.all);
      }
    };
    put(regions_, where.regions, allRegions_);
    put(sets_, where.clipSets, allSets_);
    allSets_->setVisible(!sets_.empty());
  }

 private:
  using Items = std::vector<std::pair<std::string, QTreeWidgetItem*>>;

  QCheckBox* addAll(const QString& words, Selection Brief::Where::*member) {
    auto* box = new QCheckBox(words, this);
    layout_->addWidget(box);
    connect(box, &QCheckBox::toggled, this, [this, member](bool on) {
      briefs_.change(tr("Choose regions"), [=](Brief& brief) { brief.where.*member = Selection{on, {}}; });
    });
    return box;
  }

  /// What the tree is made of.
  std::vector<std::pair<std::string, std::string>> things() const {
    std::vector<std::pair<std::string, std::string>> all;
    for (const Region& region : briefs_.session()->regions) all.emplace_back(region.id, region.name);
    all.emplace_back();
    for (const ClipSet& set : briefs_.session()->clipSets) all.emplace_back(set.id, set.name);
    return all;
  }

  QTreeWidgetItem* folder(const QString& path) {
    if (path.isEmpty()) return tree_->invisibleRootItem();
    if (const auto found = folders_.find(path); found != folders_.end()) return found->second;
    const qsizetype slash = path.lastIndexOf('/');
    return folders_[path] =
               TickTree::addFolder(folder(slash < 0 ? QString() : path.left(slash)), path.mid(slash + 1));
  }

  void arrange() {
    arranged_ = things();
    tree_->clear();
    folders_.clear();
    regions_.clear();
    sets_.clear();
    for (const Region& region : briefs_.session()->regions) {
      const std::string_view last = lastPart(region.name);
      const std::string_view path = std::string_view(region.name).substr(0, region.name.size() - last.size());
      QTreeWidgetItem* parent = folder(path.empty() ? QString() : text(path.substr(0, path.size() - 1)));
      regions_.emplace_back(region.id, TickTree::addLeaf(parent, text(last)));
    }
    if (!briefs_.session()->clipSets.empty()) {
      QTreeWidgetItem* heading = TickTree::addFolder(tree_->invisibleRootItem(), tr("Clip sets"));
      for (const ClipSet& set : briefs_.session()->clipSets)
        sets_.emplace_back(set.id, TickTree::addLeaf(heading, text(set.name)));
    }
    tree_->expandAll();
  }

  void take() {
    const auto chosen = [](const Items& items) {
      Selection selection;
      for (const auto& [id, item] : items)
        if (TickTree::isTicked(item)) selection.ids.push_back(id);
      return selection;
    };
    briefs_.change(
        tr("Choose regions"),
        [regions = chosen(regions_), sets = chosen(sets_)](Brief& brief) {
          if (!brief.where.regions.all) brief.where.regions = regions;
          if (!brief.where.clipSets.all) brief.where.clipSets = sets;
        },
        "spans");
  }

  QCheckBox *allRegions_, *allSets_;
  TickTree* tree_;
  std::vector<std::pair<std::string, std::string>> arranged_;  // ids and names
  std::map<QString, QTreeWidgetItem*> folders_;
  Items regions_, sets_;
};

}  // namespace

PhraseEditor* makeSpansEditor(Work& work, QWidget* parent) { return new SpansEditor(work, parent); }

}  // namespace octaphon::app
