// The phrase of sources.
#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QToolButton>

#include "app/brief/phrase_editor.h"
#include "app/brief/picked_by_hand.h"
#include "app/brief/selection_subjects.h"
#include "app/brief/tick_tree.h"
#include "app/look/first_focus.h"
#include "app/look/icons.h"
#include "app/look/session_undo.h"
#include "app/look/theme.h"
#include "plan/choose_sources.h"
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
    addLines(stripsSubject(work, TrackKind::Track), &Brief::What::tracks);
    addLines(stripsSubject(work, TrackKind::Group), &Brief::What::groups);
    returnLines_ = addLines(stripsSubject(work, TrackKind::Return), &Brief::What::returns);
    addMatching();
    ownLists_ = addBox(tr("What regions and clip sets list themselves"),
                       [](Brief& brief, bool on) { brief.what.ownLists = on; });
    for (const bool without : {false, true}) {
      auto* button =
          new QPushButton(without ? tr("The mix without the ticked") : tr("The ticked as one file"), this);
      button->setObjectName("quiet");
      layout_->addWidget(button, 0, Qt::AlignLeft);
      connect(button, &QPushButton::clicked, this, [this, without] { addSum(without); });
    }
    sumsLayout_ = new QVBoxLayout;
    layout_->addLayout(sumsLayout_);
    setFirstFocus(this, mix_);
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
    put(tracks_, brief.what.tracks.isEverything());
    put(groups_, brief.what.groups.isEverything());
    put(returns_, brief.what.returns.isEverything());
    put(ownLists_, brief.what.ownLists);
    Chooser choosers[]{Chooser(brief.what.tracks), Chooser(brief.what.groups), Chooser(brief.what.returns)};
    const Strips strips(session);
    for (std::size_t i = 0; i < items_.size(); ++i) {
      const Track& track = session.tracks[i];
      TickTree::setTicked(items_[i], choosers[static_cast<std::size_t>(track.kind)].takes(strips.asked(i)));
      Qt::ItemFlags flags = items_[i]->flags();
      flags.setFlag(Qt::ItemIsUserCheckable, !selectionOf(brief, track).isEverything());
      items_[i]->setFlags(flags);
    }
    const bool hasReturns = std::any_of(session.tracks.begin(), session.tracks.end(),
                                        [](const Track& track) { return track.isReturn(); });
    returns_->setVisible(hasReturns);
    returnLines_->setVisible(hasReturns || !brief.what.returns.empty());
    PhraseEditor::refresh();
    matching_->setCurrentIndex(static_cast<int>(brief.what.matching));
    showSums(brief.what.sums);
  }

 private:
  /// Tracks as rules ask about them.
  class Strips {
   public:
    explicit Strips(const Session& session) : session_(session), tree_(session) {
      for (std::size_t i = 0; i < session.tracks.size(); ++i)
        above_.push_back(groupsAbove(session, tree_, Strip(i)));
    }
    Choosable asked(std::size_t i) const {
      const Track& track = session_.tracks[i];
      return {track.id,  track.name, inkOf(session_, tree_, Strip(i)), &track.tags, tree_.depth(Strip(i)) + 1,
              &above_[i]};
    }

   private:
    const Session& session_;
    TrackTree tree_;
    std::vector<std::vector<std::string>> above_;  // by track
  };

  SelectionLines* addLines(SelectionSubject subject, Selection Brief::What::*member) {
    return addSelection(std::move(subject), tr("Choose sources"),
                        [member](Brief& brief) -> Selection& { return brief.what.*member; });
  }

  void addMatching() {
    auto* line = new QWidget(this);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(new QLabel(tr("Over each region"), line));
    matching_ = new QComboBox(line);
    matching_->setAccessibleName(tr("Groups that match a region"));
    matching_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    for (const Choice<Matching>& choice : kChoices<Matching>) matching_->addItem(text(choice.label));
    row->addWidget(matching_, 1);
    layout_->addWidget(line);
    connect(matching_, &QComboBox::activated, this, [this](int index) {
      briefs_.change(tr("Choose sources"),
                     [index](Brief& brief) { brief.what.matching = static_cast<Matching>(index); });
    });
  }

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
    return addBox(words, [member](Brief& brief, bool on) { brief.what.*member = Selection(on, {}); });
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
    const auto session = briefs_.session();
    const Strips strips(*session);
    std::vector<PickedByHand> ticks[3];  // by kind of track
    for (std::size_t i = 0; i < items_.size(); ++i)
      ticks[static_cast<std::size_t>(session->tracks[i].kind)].push_back(
          {strips.asked(i), TickTree::isTicked(items_[i])});
    const Brief::What now = briefs_.now().what;
    briefs_.change(
        tr("Choose sources"),
        [&](Brief& brief) {
          const auto take = [](Selection& into, const Selection& before,
                               const std::vector<PickedByHand>& all) {
            if (!into.isEverything()) into = withTicks(before, all);
          };
          take(brief.what.tracks, now.tracks, ticks[static_cast<std::size_t>(TrackKind::Track)]);
          take(brief.what.groups, now.groups, ticks[static_cast<std::size_t>(TrackKind::Group)]);
          take(brief.what.returns, now.returns, ticks[static_cast<std::size_t>(TrackKind::Return)]);
        },
        "sources");
  }

  /// One file of what is ticked; the ticks go, so that they are not files of their own as well.
  void addSum(bool without) {
    SumSource sum;
    sum.without = without;
    const std::vector<std::string> ticked = tickedTracks();
    if (ticked.empty()) return;
    sum.tracks = Selection(false, ticked);
    const std::string name = findTrack(*briefs_.session(), ticked.front())->name;
    sum.name = (without ? "mix without " : "") + name + (ticked.size() > 1 && !without ? " and more" : "");
    briefs_.change(without ? tr("Print the mix without some") : tr("Print a sum"), [sum](Brief& brief) {
      brief.what.sums.push_back(sum);
      brief.what.sums.back().id = freshSumId(brief);
      for (Selection* selection : {&brief.what.tracks, &brief.what.groups, &brief.what.returns})
        *selection = {};
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

  QCheckBox *mix_, *tracks_, *groups_, *returns_, *ownLists_;
  QComboBox* matching_;
  SelectionLines* returnLines_;
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
