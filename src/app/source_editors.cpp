// The phrases of sources, regions and clip sets.
#include <map>
#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTreeWidget>
#include <set>

#include "naming/file_name.h"
#include "phrase_editor_base.h"
#include "routing/track_tree.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

/// A tree whose leaves can be ticked; folders tick what is in them.
class TickTree : public QTreeWidget {
 public:
  explicit TickTree(QWidget* parent) : QTreeWidget(parent) {
    setHeaderHidden(true);
    setRootIsDecorated(true);
    setIndentation(16);
    setMinimumSize(300, 260);
    setUniformRowHeights(true);
  }
};

class RegionsEditor : public PhraseEditor {
 public:
  RegionsEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : PhraseEditor(brief, std::move(session), std::move(apply), tr("Over which regions and clip sets"),
                     parent) {
    all_ = new QCheckBox(tr("All regions, also those still to come"), this);
    all_->setChecked(brief.where.regions.all);
    tree_ = new TickTree(this);
    tree_->setAccessibleName(tr("Regions of the brief"));
    layout_->addWidget(all_);
    layout_->addWidget(tree_);
    fill();
    tree_->setEnabled(!brief.where.regions.all);
    setFocusProxy(brief.where.regions.all ? static_cast<QWidget*>(all_) : tree_);
    connect(all_, &QCheckBox::toggled, this, [this](bool on) {
      tree_->setEnabled(!on);
      take();
    });
    connect(tree_, &QTreeWidget::itemChanged, this, [this] { take(); });
  }

 private:
  QTreeWidgetItem* folder(const QString& path) {
    if (path.isEmpty()) return tree_->invisibleRootItem();
    if (folders_.contains(path)) return folders_[path];
    const qsizetype slash = path.lastIndexOf('/');
    auto* item = new QTreeWidgetItem(folder(slash < 0 ? QString() : path.left(slash)), {path.mid(slash + 1)});
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable |
                   Qt::ItemIsAutoTristate);
    return folders_[path] = item;
  }

  void fill() {
    const QSignalBlocker blocker(tree_);
    const std::set<std::string> chosen(brief_.where.regions.ids.begin(), brief_.where.regions.ids.end());
    for (const Region& region : session_->regions) {
      const std::string_view last = lastPart(region.name);
      const std::string_view path = std::string_view(region.name).substr(0, region.name.size() - last.size());
      auto* item = new QTreeWidgetItem(
          folder(path.empty() ? QString() : text(path.substr(0, path.size() - 1))), {text(last)});
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
      item->setCheckState(
          0, brief_.where.regions.all || chosen.contains(region.id) ? Qt::Checked : Qt::Unchecked);
      items_.push_back(item);
    }
    fillClipSets();
    tree_->expandAll();
  }

  void fillClipSets() {
    if (session_->clipSets.empty()) return;
    const std::set<std::string> chosen(brief_.where.clipSets.ids.begin(), brief_.where.clipSets.ids.end());
    QTreeWidgetItem* heading = folder(tr("Clip sets"));
    for (const ClipSet& set : session_->clipSets) {
      auto* item = new QTreeWidgetItem(heading, {text(set.name)});
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
      item->setCheckState(0,
                          brief_.where.clipSets.all || chosen.contains(set.id) ? Qt::Checked : Qt::Unchecked);
      sets_.push_back(item);
    }
  }

  void takeClipSets() {
    Selection selection;
    for (std::size_t i = 0; i < sets_.size(); ++i)
      if (sets_[i]->checkState(0) == Qt::Checked) selection.ids.push_back(session_->clipSets[i].id);
    if (brief_.where.clipSets.all && selection.ids.size() == sets_.size()) return;
    brief_.where.clipSets = std::move(selection);
  }

  void take() {
    takeClipSets();
    Selection selection{all_->isChecked(), {}};
    for (std::size_t i = 0; i < items_.size() && !selection.all; ++i)
      if (items_[i]->checkState(0) == Qt::Checked) selection.ids.push_back(session_->regions[i].id);
    brief_.where.regions = std::move(selection);
    apply(tr("Choose regions"), "regions");
  }

  QCheckBox* all_;
  QTreeWidget* tree_;
  std::map<QString, QTreeWidgetItem*> folders_;
  std::vector<QTreeWidgetItem*> items_;  // by region
  std::vector<QTreeWidgetItem*> sets_;   // by clip set
};

class SourcesEditor : public PhraseEditor {
 public:
  SourcesEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : PhraseEditor(brief, std::move(session), std::move(apply), tr("Which sources"), parent) {
    mix_ = new QCheckBox(tr("The mix"), this);
    mix_->setChecked(brief.what.mix);
    allTracks_ = new QCheckBox(tr("Each track, also those still to come"), this);
    allTracks_->setChecked(brief.what.tracks.all);
    allGroups_ = new QCheckBox(tr("Each group, also those still to come"), this);
    allGroups_->setChecked(brief.what.groups.all);
    tree_ = new TickTree(this);
    tree_->setAccessibleName(tr("Tracks and groups of the brief"));
    for (QCheckBox* box : {mix_, allTracks_, allGroups_}) {
      layout_->addWidget(box);
      connect(box, &QCheckBox::toggled, this, [this] { take(); });
    }
    layout_->addWidget(tree_);
    note(tr("A ticked group is one file of its sum; tick its tracks for a file of each."));
    auto* row = new QHBoxLayout;
    for (const bool without : {false, true}) {
      auto* button =
          new QPushButton(without ? tr("The mix without the ticked") : tr("The ticked as one file"), this);
      button->setObjectName("quiet");
      row->addWidget(button);
      connect(button, &QPushButton::clicked, this, [this, without] { addSum(without); });
    }
    layout_->addLayout(row);
    for (const SumSource& sum : brief.what.sums) addSumBox(sum);
    fill();
    connect(tree_, &QTreeWidget::itemChanged, this, [this] { take(); });
    setFocusProxy(mix_);
  }

 private:
  void fill() {
    const QSignalBlocker blocker(tree_);
    const TrackTree tracks(*session_);
    std::set<std::string> chosen(brief_.what.tracks.ids.begin(), brief_.what.tracks.ids.end());
    chosen.insert(brief_.what.groups.ids.begin(), brief_.what.groups.ids.end());
    chosen.insert(brief_.what.returns.ids.begin(), brief_.what.returns.ids.end());
    items_.resize(session_->tracks.size());
    for (const Strip index : tracks.order()) {
      const Track& track = session_->tracks[index.track()];
      const Strip up = tracks.parent(index);
      QTreeWidgetItem* parent = up.isMain() ? tree_->invisibleRootItem() : items_[up.track()];
      auto* item = new QTreeWidgetItem(parent, {text(track.name)});
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
      if (track.isGroup()) item->setFont(0, Theme::strong());
      item->setCheckState(0, chosen.contains(track.id) ? Qt::Checked : Qt::Unchecked);
      items_[index.track()] = item;
    }
    tree_->expandAll();
  }

  void take() {
    brief_.what.mix = mix_->isChecked();
    brief_.what.tracks = {allTracks_->isChecked(), {}};
    brief_.what.groups = {allGroups_->isChecked(), {}};
    brief_.what.returns.ids.clear();
    for (std::size_t i = 0; i < items_.size(); ++i) {
      const Track& track = session_->tracks[i];
      Selection& selection = track.isGroup()    ? brief_.what.groups
                             : track.isReturn() ? brief_.what.returns
                                                : brief_.what.tracks;
      if (!selection.all && items_[i]->checkState(0) == Qt::Checked) selection.ids.push_back(track.id);
    }
    apply(tr("Choose sources"), "sources");
  }

  /// One file of what is ticked; the ticks go, so that they are not files of their own as well.
  void addSum(bool without) {
    SumSource sum;
    sum.without = without;
    for (std::size_t i = 0; i < items_.size(); ++i)
      if (items_[i]->checkState(0) == Qt::Checked) sum.tracks.push_back(session_->tracks[i].id);
    if (sum.tracks.empty()) return;
    const std::string name = findTrack(*session_, sum.tracks.front())->name;
    sum.name =
        (without ? "mix without " : "") + name + (sum.tracks.size() > 1 && !without ? " and more" : "");
    for (int number = 1; sum.id.empty(); ++number) {
      const std::string id = "sum" + std::to_string(number);
      if (std::none_of(brief_.what.sums.begin(), brief_.what.sums.end(),
                       [&](const SumSource& s) { return s.id == id; }))
        sum.id = id;
    }
    brief_.what.sums.push_back(sum);
    addSumBox(sum);
    {
      const QSignalBlocker blocker(tree_);
      for (QTreeWidgetItem* item : items_) item->setCheckState(0, Qt::Unchecked);
    }
    take();
    adjustSize();
  }

  /// Its name can be typed; an empty one takes it out.
  void addSumBox(const SumSource& sum) {
    auto* name = new QLineEdit(text(sum.name), this);
    name->setAccessibleName(sum.without ? tr("Name of a mix without some") : tr("Name of a sum"));
    name->setToolTip(sum.without ? tr("The mix without some. Empty: not printed")
                                 : tr("A sum as one file. Empty: not printed"));
    layout_->addWidget(name);
    connect(name, &QLineEdit::textEdited, this, [this, id = sum.id, sum](const QString& words) {
      std::erase_if(brief_.what.sums, [&](const SumSource& s) { return s.id == id; });
      if (!words.isEmpty()) {
        SumSource renamed = sum;
        renamed.name = words.toStdString();
        brief_.what.sums.push_back(renamed);
      }
      apply(tr("Choose sources"), "sources");
    });
  }

  QCheckBox* mix_;
  QCheckBox* allTracks_;
  QCheckBox* allGroups_;
  QTreeWidget* tree_;
  std::vector<QTreeWidgetItem*> items_;  // by track
};

}  // namespace

QFrame* makeRegionsEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply,
                          QWidget* parent) {
  return new RegionsEditor(brief, std::move(session), std::move(apply), parent);
}

QFrame* makeSourcesEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply,
                          QWidget* parent) {
  return new SourcesEditor(brief, std::move(session), std::move(apply), parent);
}

}  // namespace octaphon::app
