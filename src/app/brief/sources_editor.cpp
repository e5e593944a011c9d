// The phrase of sources.
#include <QCheckBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QToolButton>

#include "app/brief/phrase_editor.h"
#include "app/brief/tick_tree.h"
#include "app/look/icons.h"
#include "app/look/session_undo.h"
#include "app/look/theme.h"
#include "routing/track_tree.h"

namespace octaphon::app {
namespace {

Selection& selectionOf(Brief& brief, const Track& track) {
  return track.isGroup() ? brief.what.groups : track.isReturn() ? brief.what.returns : brief.what.tracks;
}

std::string freshSumId(const Brief& brief) {
  for (int number = 1;; ++number) {
    const std::string id = "sum" + std::to_string(number);
    const auto& sums = brief.what.sums;
    if (std::none_of(sums.begin(), sums.end(), [&](const SumSource& sum) { return sum.id == id; })) return id;
  }
}

class SourcesEditor : public PhraseEditor {
 public:
  SourcesEditor(Work& work, QWidget* parent) : PhraseEditor(PhraseKind::Sources, work, parent) {
    mix_ = addBox(tr("The mix"), [](Brief& brief, bool on) { brief.what.mix = on; });
    tracks_ = addAll(tr("Each track, also those still to come"), &Brief::What::tracks);
    groups_ = addAll(tr("Each group, also those still to come"), &Brief::What::groups);
    returns_ = addAll(tr("Each return, also those still to come"), &Brief::What::returns);
    tree_ = new TickTree(tr("Tracks and groups of the brief"), this);
    layout_->addWidget(tree_);
    connect(tree_, &TickTree::ticked, this, &SourcesEditor::take);
    addNote(text(phraseInfo(PhraseKind::Sources).note));
    for (const bool without : {false, true}) {
      auto* button =
          new QPushButton(without ? tr("The mix without the ticked") : tr("The ticked as one file"), this);
      button->setObjectName("quiet");
      layout_->addWidget(button, 0, Qt::AlignLeft);
      connect(button, &QPushButton::clicked, this, [this, without] { addSum(without); });
    }
    sumsLayout_ = new QVBoxLayout;
    layout_->addLayout(sumsLayout_);
    setFocusProxy(mix_);
  }

  void refresh() override {
    const QSignalBlocker quiet(tree_);
    const Session& session = *briefs_.session();
    std::vector<std::string> tree;
    for (const Track& track : session.tracks)
      tree.push_back(track.id + '\n' + track.group + '\n' + track.name);
    if (tree != arranged_) arrange(std::move(tree));
    Brief brief = briefs_.now();
    const auto put = [](QCheckBox* box, bool on) {
      const QSignalBlocker still(box);
      box->setChecked(on);
    };
    put(mix_, brief.what.mix);
    put(tracks_, brief.what.tracks.all);
    put(groups_, brief.what.groups.all);
    put(returns_, brief.what.returns.all);
    for (std::size_t i = 0; i < items_.size(); ++i) {
      const Track& track = session.tracks[i];
      const Selection& selection = selectionOf(brief, track);
      const auto& ids = selection.ids;
      TickTree::setTicked(items_[i],
                          selection.all || std::find(ids.begin(), ids.end(), track.id) != ids.end());
      Qt::ItemFlags flags = items_[i]->flags();
      flags.setFlag(Qt::ItemIsUserCheckable, !selection.all);
      items_[i]->setFlags(flags);
    }
    returns_->setVisible(std::any_of(session.tracks.begin(), session.tracks.end(),
                                     [](const Track& track) { return track.isReturn(); }));
    showSums(brief.what.sums);
  }

 private:
  template <class Set>
  QCheckBox* addBox(const QString& words, const Set& set) {
    auto* box = new QCheckBox(words, this);
    layout_->addWidget(box);
    connect(box, &QCheckBox::toggled, this, [this, set](bool on) {
      briefs_.change(tr("Choose sources"), [=](Brief& brief) { set(brief, on); });
    });
    return box;
  }
  QCheckBox* addAll(const QString& words, Selection Brief::What::*member) {
    return addBox(words, [member](Brief& brief, bool on) { brief.what.*member = Selection{on, {}}; });
  }

  void arrange(std::vector<std::string> tree) {
    arranged_ = std::move(tree);
    const Session& session = *briefs_.session();
    const TrackTree tracks(session);
    tree_->clear();
    items_.assign(session.tracks.size(), nullptr);
    for (const Strip index : tracks.order()) {
      const Track& track = session.tracks[index.track()];
      const Strip up = tracks.parent(index);
      QTreeWidgetItem* item =
          TickTree::addLeaf(up.isMain() ? tree_->invisibleRootItem() : items_[up.track()], text(track.name));
      if (track.isGroup()) item->setFont(0, Theme::strong());
      items_[index.track()] = item;
    }
    tree_->expandAll();
  }

  std::vector<std::string> tickedTracks() const {
    std::vector<std::string> ids;
    for (std::size_t i = 0; i < items_.size(); ++i)
      if (TickTree::isTicked(items_[i])) ids.push_back(briefs_.session()->tracks[i].id);
    return ids;
  }

  void take() {
    briefs_.change(
        tr("Choose sources"),
        [ticked = tickedTracks(), session = briefs_.session()](Brief& brief) {
          for (Selection* selection : {&brief.what.tracks, &brief.what.groups, &brief.what.returns})
            selection->ids.clear();
          for (const std::string& id : ticked) {
            Selection& selection = selectionOf(brief, *findTrack(*session, id));
            if (!selection.all) selection.ids.push_back(id);
          }
        },
        "sources");
  }

  /// One file of what is ticked; the ticks go, so that they are not files of their own as well.
  void addSum(bool without) {
    SumSource sum;
    sum.without = without;
    sum.tracks = tickedTracks();
    if (sum.tracks.empty()) return;
    const std::string name = findTrack(*briefs_.session(), sum.tracks.front())->name;
    sum.name =
        (without ? "mix without " : "") + name + (sum.tracks.size() > 1 && !without ? " and more" : "");
    briefs_.change(without ? tr("Print the mix without some") : tr("Print a sum"), [sum](Brief& brief) {
      brief.what.sums.push_back(sum);
      brief.what.sums.back().id = freshSumId(brief);
      for (Selection* selection : {&brief.what.tracks, &brief.what.groups, &brief.what.returns})
        selection->ids.clear();
    });
  }

  /// A line for each: its name, and a button that takes it out. Lines stay while their sums do.
  void showSums(const std::vector<SumSource>& sums) {
    std::vector<std::string> ids;
    for (const SumSource& sum : sums) ids.push_back(sum.id);
    if (ids != sumIds_) {
      qDeleteAll(std::exchange(sumLines_, {}));
      sumIds_ = ids;
      for (const SumSource& sum : sums) addSumLine(sum);
    }
    for (std::size_t i = 0; i < sums.size(); ++i)
      if (auto* name = sumLines_[static_cast<qsizetype>(i)]->findChild<QLineEdit*>();
          name->text() != text(sums[i].name) && !(name->hasFocus() && name->text().isEmpty()))
        name->setText(text(sums[i].name));
  }

  void addSumLine(const SumSource& sum) {
    auto* line = new QWidget(this);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    auto* name = new QLineEdit(line);
    name->setAccessibleName(sum.without ? tr("Name of a mix without some") : tr("Name of a sum"));
    name->setToolTip(sum.without ? tr("The mix without some") : tr("A sum as one file"));
    auto* out = new QToolButton(line);
    keepIcon(out, "remove");
    out->setAccessibleName(tr("Do not print it"));
    out->setToolTip(out->accessibleName());
    row->addWidget(name, 1);
    row->addWidget(out);
    sumsLayout_->addWidget(line);
    sumLines_ << line;
    const auto change = [this, id = sum.id](const QString& words, const auto& act, const QString& property) {
      briefs_.change(
          words,
          [&](Brief& brief) {
            for (auto it = brief.what.sums.begin(); it != brief.what.sums.end(); ++it)
              if (it->id == id) return act(brief.what.sums, it);
          },
          property);
    };
    connect(name, &QLineEdit::textEdited, this, [change, id = text(sum.id)](const QString& words) {
      if (words.trimmed().isEmpty()) return;  // a name it must have
      change(
          tr("Name a sum"), [&](auto&, auto found) { found->name = words.toStdString(); }, "sum/" + id);
    });
    connect(out, &QToolButton::clicked, this, [change] {
      change(tr("Take a sum out"), [](auto& sums, auto found) { sums.erase(found); }, {});
    });
    useSessionUndo(line);
  }

  QCheckBox *mix_, *tracks_, *groups_, *returns_;
  TickTree* tree_;
  std::vector<std::string> arranged_;    // tracks as the tree has them
  std::vector<QTreeWidgetItem*> items_;  // by track
  QVBoxLayout* sumsLayout_;
  std::vector<std::string> sumIds_;
  QList<QWidget*> sumLines_;
};

}  // namespace

PhraseEditor* makeSourcesEditor(Work& work, QWidget* parent) { return new SourcesEditor(work, parent); }

}  // namespace octaphon::app
