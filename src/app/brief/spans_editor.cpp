// The phrase of regions and clip sets.
#include <map>
#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>

#include "app/brief/phrase_editor.h"
#include "app/brief/picked_by_hand.h"
#include "app/brief/selection_subjects.h"
#include "app/brief/tick_tree.h"
#include "app/look/first_focus.h"
#include "app/look/number_box.h"
#include "brief/chooser.h"
#include "naming/file_name.h"

namespace octaphon::app {
namespace {

class SpansEditor : public PhraseEditor {
 public:
  SpansEditor(Work& work, QWidget* parent)
      : PhraseEditor(PhraseKind::Regions, work, parent), selected_(work.selected()) {
    allRegions_ = addAll(tr("All regions, also those still to come"), &Brief::Where::regions);
    allSets_ = addAll(tr("All clip sets, also those still to come"), &Brief::Where::clipSets);
    tree_ = new TickTree(tr("Regions of the brief"), this);
    layout_->addWidget(tree_);
    connect(tree_, &TickTree::ticked, this, &SpansEditor::take);
    addLines(regionsSubject(work), &Brief::Where::regions);
    setLines_ = addLines(clipSetsSubject(work), &Brief::Where::clipSets);
    markerLines_ = addLines(markersSubject(work), &Brief::Where::betweenMarkers);
    addLines(clipsSubject(work), &Brief::Where::clips);
    whole_ = addFlag(tr("The whole session"), &Brief::Where::wholeSession);
    extents_ = addFlag(tr("Each source over its own extent"), &Brief::Where::extents);
    addRange();
    setFirstFocus(this,
                  briefs_.now().where.regions.isEverything() ? static_cast<QWidget*>(allRegions_) : tree_);
  }

  void refresh() override {
    const QSignalBlocker quiet(tree_);
    if (arranged_ != things()) arrange();
    const Brief::Where& where = briefs_.now().where;
    const auto session = briefs_.session();
    showTicks(regions_, where.regions, session->regions.all(), allRegions_);
    showTicks(sets_, where.clipSets, session->clipSets.all(), allSets_);
    allSets_->setVisible(!sets_.empty());
    PhraseEditor::refresh();
    setLines_->setVisible(!sets_.empty() || !where.clipSets.empty());
    markerLines_->setVisible(!session->markerSets.empty() || !where.betweenMarkers.empty());
    put(whole_, where.wholeSession);
    put(extents_, where.extents);
    showRange(where.range);
  }

 private:
  using Items = std::vector<std::pair<std::string, QTreeWidgetItem*>>;  // in the order of the session

  QCheckBox* addAll(const QString& words, Selection Brief::Where::*member) {
    auto* box = new QCheckBox(words, this);
    layout_->addWidget(box);
    connect(box, &QCheckBox::toggled, this, [this, member](bool on) {
      briefs_.change(tr("Choose regions"), [=](Brief& brief) { brief.where.*member = Selection(on, {}); });
    });
    return box;
  }

  QCheckBox* addFlag(const QString& words, bool Brief::Where::*member) {
    auto* box = new QCheckBox(words, this);
    layout_->addWidget(box);
    connect(box, &QCheckBox::toggled, this, [this, member](bool on) {
      briefs_.change(tr("Choose regions"), [=](Brief& brief) { brief.where.*member = on; });
    });
    return box;
  }

  SelectionLines* addLines(SelectionSubject subject, Selection Brief::Where::*member) {
    return addSelection(std::move(subject), tr("Choose regions"),
                        [member](Brief& brief) -> Selection& { return brief.where.*member; });
  }

  /// One stretch of time, in seconds.
  void addRange() {
    auto* line = new QWidget(this);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    range_ = new QCheckBox(tr("From"), line);
    range_->setAccessibleName(tr("One stretch of time"));
    row->addWidget(range_);
    const auto addBox = [&](const QString& name) {
      auto* box = new NumberBox(line);
      box->setAccessibleName(name);
      box->setDecimals(3);
      box->setRange(0, static_cast<double>(kMaxFrame) / briefs_.session()->rate);
      box->setSuffix(tr(" s"));
      connect(box, &QDoubleSpinBox::valueChanged, this, [this] { takeRange(); });
      return box;
    };
    rangeFrom_ = addBox(tr("Beginning of the stretch of time"));
    rangeTo_ = addBox(tr("End of the stretch of time"));
    row->addWidget(rangeFrom_, 1);
    row->addWidget(new QLabel(tr("to"), line));
    row->addWidget(rangeTo_, 1);
    layout_->addWidget(line);
    connect(range_, &QCheckBox::toggled, this, [this](bool on) {
      const Session& session = *briefs_.session();
      const TimeSpan all{0, std::max<Frame>(session.end(), session.rate)};
      const TimeSpan offered = selected_.range().value_or(all);
      briefs_.change(tr("Choose regions"),
                     [=](Brief& brief) { brief.where.range = on ? offered : TimeSpan{}; });
    });
  }

  void takeRange() {
    const auto frame = [&](const NumberBox* box) { return framesOf(box->value(), briefs_.session()->rate); };
    const Frame from = frame(rangeFrom_);
    const TimeSpan range{from, std::max<Frame>(1, frame(rangeTo_) - from)};
    briefs_.change(
        tr("Choose regions"), [&](Brief& brief) { brief.where.range = range; }, "range");
  }

  void showRange(const TimeSpan& range) {
    const double rate = briefs_.session()->rate;
    put(range_, range.length > 0);
    for (const auto& [box, frame] : {std::pair{rangeFrom_, range.start}, {rangeTo_, range.end()}}) {
      box->setEnabled(range.length > 0);
      const QSignalBlocker still(box);
      if (!box->hasFocus()) box->setValue(static_cast<double>(frame) / rate);
    }
  }

  static void put(QCheckBox* box, bool on) {
    const QSignalBlocker still(box);
    box->setChecked(on);
  }

  template <class Thing>
  static void showTicks(const Items& items, const Selection& selection, const std::vector<Thing>& things,
                        QCheckBox* all) {
    put(all, selection.isEverything());
    Chooser chooser(selection);
    for (std::size_t i = 0; i < items.size(); ++i) {
      const Thing& thing = things[i];
      TickTree::setTicked(items[i].second, chooser.takes({thing.id, thing.name, thing.ink, &thing.tags}));
      items[i].second->setDisabled(selection.isEverything());
    }
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
    const auto session = briefs_.session();
    const auto taken = [](const Items& items, const auto& things, const Selection& before) {
      std::vector<PickedByHand> ticks;
      for (std::size_t i = 0; i < items.size(); ++i)
        ticks.push_back({{things[i].id, things[i].name, things[i].ink, &things[i].tags},
                         TickTree::isTicked(items[i].second)});
      return withTicks(before, ticks);
    };
    const Brief::Where& now = briefs_.now().where;
    briefs_.change(
        tr("Choose regions"),
        [regions = taken(regions_, session->regions, now.regions),
         sets = taken(sets_, session->clipSets, now.clipSets)](Brief& brief) {
          if (!brief.where.regions.isEverything()) brief.where.regions = regions;
          if (!brief.where.clipSets.isEverything()) brief.where.clipSets = sets;
        },
        "spans");
  }

  Selected& selected_;
  QCheckBox *allRegions_, *allSets_, *whole_, *extents_, *range_;
  NumberBox *rangeFrom_, *rangeTo_;
  SelectionLines *setLines_, *markerLines_;
  TickTree* tree_;
  std::vector<std::pair<std::string, std::string>> arranged_;  // ids and names
  std::map<QString, QTreeWidgetItem*> folders_;
  Items regions_, sets_;
};

}  // namespace

PhraseEditor* makeSpansEditor(Work& work, QWidget* parent) { return new SpansEditor(work, parent); }

}  // namespace octaphon::app
