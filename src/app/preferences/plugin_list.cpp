#include "app/preferences/plugin_list.h"

#include <algorithm>
#include <QHeaderView>
#include <QVBoxLayout>

#include "app/look/theme.h"
#include "app/work/text.h"

namespace octaphon::app {

PluginList::PluginList(Work& work, QWidget* parent)
    : QWidget(parent),
      work_(work),
      tree_(new QTreeWidget(this)),
      again_(new QPushButton(tr("Try all again"), this)) {
  tree_->setAccessibleName(tr("Plug-ins"));
  tree_->setHeaderLabels({tr("Plug-in"), tr("Kind, or why it cannot be used")});
  tree_->setRootIsDecorated(false);
  tree_->setUniformRowHeights(true);
  tree_->setMinimumHeight(150);
  tree_->header()->resizeSection(0, 240);  // px; reasons are longer than names
  tree_->header()->setStretchLastSection(true);
  again_->setAutoDefault(false);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(tree_);
  layout->addWidget(again_, 0, Qt::AlignLeft);
  setFocusProxy(tree_);
  connect(again_, &QPushButton::clicked, this, &PluginList::tryAgain);
  look();
}

/// The worker has to start for it.
void PluginList::look() {
  tree_->clear();
  tree_->addTopLevelItem(new QTreeWidgetItem({tr("Looking …")}));
  work_.jobs().start<Found>(
      LongJobs::Kind::Other, tr("Looking for plug-ins"),
      [trials = work_.cache().pluginTrials()](JobControl&) {
        return Found{installedPlugins(), PluginTrials(trials).failed()};
      },
      [self = QPointer(this)](const Found& found) {
        if (self) self->show(found);
      });
}

/// What failed stands first.
void PluginList::show(const Found& found) {
  tree_->clear();
  const auto failureOf = [&](const std::string& uri) {
    return std::find_if(found.failed.begin(), found.failed.end(),
                        [&](const PluginTrials::Failed& failed) { return failed.uri == uri; });
  };
  QList<QTreeWidgetItem*> well;
  std::set<std::string> there;
  for (const InstalledPlugin& plugin : found.installed) {
    there.insert(plugin.uri);
    if (failureOf(plugin.uri) == found.failed.end())
      well << new QTreeWidgetItem({shownName(plugin.name), shownName(plugin.kind)});
  }
  for (const PluginTrials::Failed& failed : found.failed) {
    const auto named = std::find_if(found.installed.begin(), found.installed.end(),
                                    [&](const InstalledPlugin& plugin) { return plugin.uri == failed.uri; });
    auto* item = new QTreeWidgetItem(
        tree_, {shownName(named == found.installed.end() ? failed.uri : named->name), text(failed.why)});
    item->setForeground(1, colour(Role::Fault));
  }
  tree_->addTopLevelItems(well);
  for (QTreeWidgetItemIterator each(tree_); *each != nullptr; ++each)
    for (const int column : {0, 1}) (*each)->setToolTip(column, (*each)->text(column));
  if (tree_->topLevelItemCount() == 0)
    tree_->addTopLevelItem(new QTreeWidgetItem({tr("None: LV2 plug-ins are looked for in LV2_PATH")}));
}

void PluginList::tryAgain() {
  std::error_code ignored;
  std::filesystem::remove(work_.cache().pluginTrials(), ignored);
  work_.sheets().askPluginsAgain();
  look();
}

}  // namespace octaphon::app
