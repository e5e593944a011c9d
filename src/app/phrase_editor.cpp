#include "phrase_editor.h"

#include <map>
#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QRadioButton>
#include <QScreen>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <set>

#include "base/decibels.h"
#include "naming/file_name.h"
#include "routing/track_tree.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

/// A pop-up that Return closes too.
class Popup : public QFrame {
 public:
  explicit Popup(QWidget* parent) : QFrame(parent, Qt::Popup) {
    setObjectName("popup");
    setAttribute(Qt::WA_DeleteOnClose);
  }

 protected:
  void keyPressEvent(QKeyEvent* event) override {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
      close();
    else
      QFrame::keyPressEvent(event);
  }
};

class Editor : public Popup {
 public:
  Editor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, const QString& title,
         QWidget* parent)
      : Popup(parent), brief_(brief), session_(std::move(session)), apply_(std::move(apply)) {
    setAccessibleName(title);
    layout_ = new QVBoxLayout(this);
    layout_->setContentsMargins(12, 10, 12, 12);
    layout_->setSpacing(4);
    auto* heading = new QLabel(title, this);
    heading->setFont(Theme::strong());
    layout_->addWidget(heading);
  }

 protected:
  void note(const QString& words) {
    auto* label = new QLabel(words, this);
    label->setFont(Theme::caption());
    label->setWordWrap(true);
    label->setMaximumWidth(320);
    layout_->addWidget(label);
  }

  void apply(const QString& words, const QString& merge = {}) { apply_(brief_, words, merge); }

  /// One of several values.
  template <class T>
  void choice(T Brief::*member, const std::vector<std::tuple<T, QString, QString>>& choices,
              const QString& words) {
    auto* group = new QButtonGroup(this);
    for (const auto& [value, label, explanation] : choices) {
      auto* button = new QRadioButton(label, this);
      button->setChecked(brief_.*member == value);
      button->setToolTip(explanation);
      group->addButton(button);
      layout_->addWidget(button);
      connect(button, &QRadioButton::toggled, this, [this, member, value = value, words](bool on) {
        if (!on || brief_.*member == value) return;
        brief_.*member = value;
        apply(words);
      });
      if (button->isChecked()) setFocusProxy(button);
    }
  }

  QDoubleSpinBox* number(double Brief::*member, double most, int decimals, const QString& suffix,
                         const QString& name, const QString& words) {
    auto* box = new QDoubleSpinBox(this);
    box->setRange(0, most);
    box->setDecimals(decimals);
    box->setSuffix(suffix);
    box->setValue(brief_.*member);
    box->setAccessibleName(name);
    box->setSingleStep(decimals > 1 ? 0.25 : 1);
    connect(box, &QDoubleSpinBox::valueChanged, this, [this, member, words](double value) {
      brief_.*member = value;
      apply(words, words);
    });
    return box;
  }

  Brief brief_;
  std::shared_ptr<const Session> session_;
  QVBoxLayout* layout_;

 private:
  ApplyBrief apply_;
};

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

class RegionsEditor : public Editor {
 public:
  RegionsEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("Over which regions and clip sets"), parent) {
    all_ = new QCheckBox(tr("All regions, also those still to come"), this);
    all_->setChecked(brief.regions.all);
    tree_ = new TickTree(this);
    tree_->setAccessibleName(tr("Regions of the brief"));
    layout_->addWidget(all_);
    layout_->addWidget(tree_);
    fill();
    tree_->setEnabled(!brief.regions.all);
    setFocusProxy(brief.regions.all ? static_cast<QWidget*>(all_) : tree_);
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
    const std::set<std::string> chosen(brief_.regions.ids.begin(), brief_.regions.ids.end());
    for (const Region& region : session_->regions) {
      const std::string_view last = lastPart(region.name);
      const std::string_view path = std::string_view(region.name).substr(0, region.name.size() - last.size());
      auto* item = new QTreeWidgetItem(
          folder(path.empty() ? QString() : text(path.substr(0, path.size() - 1))), {text(last)});
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
      item->setCheckState(0, brief_.regions.all || chosen.contains(region.id) ? Qt::Checked : Qt::Unchecked);
      items_.push_back(item);
    }
    fillClipSets();
    tree_->expandAll();
  }

  void fillClipSets() {
    if (session_->clipSets.empty()) return;
    const std::set<std::string> chosen(brief_.clipSets.ids.begin(), brief_.clipSets.ids.end());
    QTreeWidgetItem* heading = folder(tr("Clip sets"));
    for (const ClipSet& set : session_->clipSets) {
      auto* item = new QTreeWidgetItem(heading, {text(set.name)});
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
      item->setCheckState(0, brief_.clipSets.all || chosen.contains(set.id) ? Qt::Checked : Qt::Unchecked);
      sets_.push_back(item);
    }
  }

  void takeClipSets() {
    Selection selection;
    for (std::size_t i = 0; i < sets_.size(); ++i)
      if (sets_[i]->checkState(0) == Qt::Checked) selection.ids.push_back(session_->clipSets[i].id);
    if (brief_.clipSets.all && selection.ids.size() == sets_.size()) return;
    brief_.clipSets = std::move(selection);
  }

  void take() {
    takeClipSets();
    Selection selection{all_->isChecked(), {}};
    for (std::size_t i = 0; i < items_.size() && !selection.all; ++i)
      if (items_[i]->checkState(0) == Qt::Checked) selection.ids.push_back(session_->regions[i].id);
    brief_.regions = std::move(selection);
    apply(tr("Choose regions"), "regions");
  }

  QCheckBox* all_;
  QTreeWidget* tree_;
  std::map<QString, QTreeWidgetItem*> folders_;
  std::vector<QTreeWidgetItem*> items_;  // by region
  std::vector<QTreeWidgetItem*> sets_;   // by clip set
};

class SourcesEditor : public Editor {
 public:
  SourcesEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("Which sources"), parent) {
    mix_ = new QCheckBox(tr("The mix"), this);
    mix_->setChecked(brief.mix);
    allTracks_ = new QCheckBox(tr("Each track, also those still to come"), this);
    allTracks_->setChecked(brief.tracks.all);
    allGroups_ = new QCheckBox(tr("Each group, also those still to come"), this);
    allGroups_->setChecked(brief.groups.all);
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
      auto* button = new QPushButton(without ? tr("The mix without the ticked") : tr("The ticked as one file"), this);
      button->setObjectName("quiet");
      row->addWidget(button);
      connect(button, &QPushButton::clicked, this, [this, without] { addSum(without); });
    }
    layout_->addLayout(row);
    for (const SumSource& sum : brief.sums) addSumBox(sum);
    fill();
    connect(tree_, &QTreeWidget::itemChanged, this, [this] { take(); });
    setFocusProxy(mix_);
  }

 private:
  void fill() {
    const QSignalBlocker blocker(tree_);
    const TrackTree tracks(*session_);
    std::set<std::string> chosen(brief_.tracks.ids.begin(), brief_.tracks.ids.end());
    chosen.insert(brief_.groups.ids.begin(), brief_.groups.ids.end());
    chosen.insert(brief_.returns.ids.begin(), brief_.returns.ids.end());
    items_.resize(session_->tracks.size());
    for (const int index : tracks.order()) {
      const Track& track = session_->tracks[static_cast<std::size_t>(index)];
      const int up = tracks.parent(index);
      QTreeWidgetItem* parent =
          up == TrackTree::kMain ? tree_->invisibleRootItem() : items_[static_cast<std::size_t>(up)];
      auto* item = new QTreeWidgetItem(parent, {text(track.name)});
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
      if (track.isGroup()) item->setFont(0, Theme::strong());
      item->setCheckState(0, chosen.contains(track.id) ? Qt::Checked : Qt::Unchecked);
      items_[static_cast<std::size_t>(index)] = item;
    }
    tree_->expandAll();
  }

  void take() {
    brief_.mix = mix_->isChecked();
    brief_.tracks = {allTracks_->isChecked(), {}};
    brief_.groups = {allGroups_->isChecked(), {}};
    brief_.returns.ids.clear();
    for (std::size_t i = 0; i < items_.size(); ++i) {
      const Track& track = session_->tracks[i];
      Selection& selection = track.isGroup()    ? brief_.groups
                             : track.isReturn() ? brief_.returns
                                                : brief_.tracks;
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
    const std::string name = session_->tracks[static_cast<std::size_t>(TrackTree(*session_).find(sum.tracks.front()))].name;
    sum.name = (without ? "mix without " : "") + name + (sum.tracks.size() > 1 && !without ? " and more" : "");
    for (int number = 1; sum.id.empty(); ++number) {
      const std::string id = "sum" + std::to_string(number);
      if (std::none_of(brief_.sums.begin(), brief_.sums.end(), [&](const SumSource& s) { return s.id == id; })) sum.id = id;
    }
    brief_.sums.push_back(sum);
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
    name->setToolTip(sum.without ? tr("The mix without some. Empty: not printed") : tr("A sum as one file. Empty: not printed"));
    layout_->addWidget(name);
    connect(name, &QLineEdit::textEdited, this, [this, id = sum.id, sum](const QString& words) {
      std::erase_if(brief_.sums, [&](const SumSource& s) { return s.id == id; });
      if (!words.isEmpty()) {
        SumSource renamed = sum;
        renamed.name = words.toStdString();
        brief_.sums.push_back(renamed);
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

class CountsEditor : public Editor {
 public:
  CountsEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("Which sound counts"), parent) {
    choice<Counts>(
        &Brief::counts,
        {{Counts::BeginsHere, tr("Only what begins here"), tr("Clips that start inside the region")},
         {Counts::EverythingHeard, tr("Everything heard"),
          tr("All that sounds inside the region, as one hears it")}},
        tr("Choose which sound counts"));
    layout_->addSpacing(6);
    auto* crossing = new QCheckBox(tr("Hear clips that began earlier from the start on"), this);
    crossing->setChecked(brief.crossing == Crossing::FromStart);
    layout_->addWidget(crossing);
    connect(crossing, &QCheckBox::toggled, this, [this](bool on) {
      brief_.crossing = on ? Crossing::FromStart : Crossing::LeftOut;
      Editor::apply(tr("Choose what becomes of earlier clips"));
    });
    auto* row = new QHBoxLayout;
    row->addWidget(new QLabel(tr("Fade what runs on, in the last"), this));
    row->addWidget(number(&Brief::endFadeMs, kMaxEndFadeMs, 1, " ms", tr("Fade at the end"),
                          tr("Change the fade at the end")));
    layout_->addLayout(row);
    note(tr("Both only matter where just what begins here counts."));
  }
};

class ReachEditor : public Editor {
 public:
  ReachEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("How far along its way a source is heard"), parent) {
    auto* group = new QButtonGroup(this);
    const auto add = [&](const Reach& reach, const QString& words) {
      auto* button = new QRadioButton(words, this);
      button->setChecked(brief_.reach == reach);
      group->addButton(button);
      layout_->addWidget(button);
      connect(button, &QRadioButton::toggled, this, [this, reach](bool on) {
        if (!on || brief_.reach == reach) return;
        brief_.reach = reach;
        Editor::apply(tr("Choose the reach"));
      });
      if (button->isChecked()) setFocusProxy(button);
    };
    add({ReachStage::Clips, {}}, tr("Clips only, before any insert"));
    add({ReachStage::Inserts, {}}, tr("Through its inserts, before its fader"));
    add({ReachStage::Track, {}}, tr("Through its fader and pan"));
    addGroups(add);
    add({ReachStage::Groups, {}}, tr("Through all groups around it"));
    add({ReachStage::MainInserts, {}}, tr("Through main's inserts"));
    add({ReachStage::Main, {}}, tr("Through main"));
    layout_->addSpacing(6);
    auto* returns = new QComboBox(this);
    returns->setAccessibleName(tr("What becomes of returns"));
    returns->addItem(tr("with its share of the returns"), static_cast<int>(Returns::In));
    returns->addItem(tr("without returns"), static_cast<int>(Returns::Out));
    returns->addItem(tr("returns as files of their own"), static_cast<int>(Returns::Files));
    returns->setCurrentIndex(static_cast<int>(brief.withReturns));
    layout_->addWidget(returns);
    connect(returns, &QComboBox::activated, this, [this](int index) {
      brief_.withReturns = static_cast<Returns>(index);
      Editor::apply(tr("Choose what becomes of returns"));
    });
    note(tr("The mix is always heard through main."));
  }

 private:
  /// A few groups each have their lines; of many one is chosen from a list.
  template <class Add>
  void addGroups(const Add& add) {
    const auto groups = std::count_if(session_->tracks.begin(), session_->tracks.end(), [](const Track& t) { return t.isGroup(); });
    QComboBox* list = nullptr;
    if (groups > 6) {
      list = new QComboBox(this);
      list->setAccessibleName(tr("Through a group"));
      list->addItem(tr("Through a group …"));
      layout_->addWidget(list);
      connect(list, &QComboBox::activated, this, [this, list](int index) {
        if (index == 0) return;
        brief_.reach = parseReach(list->itemData(index).toString().toStdString()).value_or(Reach{});
        Editor::apply(tr("Choose the reach"));
      });
    }
    for (const Track& track : session_->tracks) {
      if (!track.isGroup()) continue;
      const std::pair<ReachStage, QString> ways[]{
          {ReachStage::GroupInserts, tr("Through the inserts of %1").arg(text(track.name))},
          {ReachStage::Group, tr("Through %1").arg(text(track.name))}};
      for (const auto& [stage, words] : ways) {
        const Reach reach{stage, track.id};
        if (list == nullptr) {
          add(reach, words);
          continue;
        }
        list->addItem(words, text(reachName(reach)));
        if (brief_.reach == reach) list->setCurrentIndex(list->count() - 1), setFocusProxy(list);
      }
    }
  }
};

class OverridesEditor : public Editor {
 public:
  OverridesEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("What is changed for these files only"), parent) {
    auto* faders = new QComboBox(this);
    faders->addItems({tr("Faders as mixed"), tr("Faders at unity"), tr("Faders at a level")});
    faders->setCurrentIndex(static_cast<int>(brief.overrides.faders));
    faders->setAccessibleName(tr("Faders"));
    auto* level = new QDoubleSpinBox(this);
    level->setRange(kSilenceDb, kMaxGainDb);
    level->setDecimals(1);
    level->setSuffix(" dB");
    level->setValue(brief.overrides.faderDb);
    level->setAccessibleName(tr("Level of the faders"));
    level->setEnabled(brief.overrides.faders == Faders::Value);
    auto* row = new QHBoxLayout;
    row->addWidget(faders, 1);
    row->addWidget(level);
    layout_->addLayout(row);
    setFocusProxy(faders);
    connect(faders, &QComboBox::activated, this, [this, level](int index) {
      brief_.overrides.faders = static_cast<Faders>(index);
      level->setEnabled(brief_.overrides.faders == Faders::Value);
      Editor::apply(tr("Choose the faders"));
    });
    connect(level, &QDoubleSpinBox::valueChanged, this, [this](double value) {
      brief_.overrides.faderDb = value;
      Editor::apply(tr("Change the level of the faders"), "faders");
    });
    flag(tr("Pans as mixed"), !brief.overrides.pansCentred, [](Brief& b, bool on) { b.overrides.pansCentred = !on; });
    flag(tr("Volume moves as drawn"), brief.overrides.volumeAutomation, [](Brief& b, bool on) { b.overrides.volumeAutomation = on; });
    flag(tr("Pan moves as drawn"), brief.overrides.panAutomation, [](Brief& b, bool on) { b.overrides.panAutomation = on; });
    flag(tr("Mutes as drawn"), brief.overrides.muteAutomation, [](Brief& b, bool on) { b.overrides.muteAutomation = on; });
    layout_->addSpacing(6);
    addInserts();
    layout_->addSpacing(6);
    flag(tr("On groups too"), brief.overrideGroups, [](Brief& b, bool on) { b.overrideGroups = on; });
    flag(tr("On returns too"), brief.overrideReturns, [](Brief& b, bool on) { b.overrideReturns = on; });
    flag(tr("On main too"), brief.overrideMain, [](Brief& b, bool on) { b.overrideMain = on; });
    flag(tr("Pass over plug-ins that are missing"), brief.withoutMissing, [](Brief& b, bool on) { b.withoutMissing = on; });
    addExceptions();
    note(tr("The session itself stays as it is."));
  }

 private:
  void flag(const QString& words, bool on, const std::function<void(Brief&, bool)>& set) {
    auto* box = new QCheckBox(words, this);
    box->setChecked(on);
    layout_->addWidget(box);
    connect(box, &QCheckBox::toggled, this, [this, set, words](bool checked) {
      set(brief_, checked);
      Editor::apply(words);
    });
  }

  void addInserts() {
    auto* inserts = new QComboBox(this);
    inserts->addItems({tr("All inserts"), tr("Inserts with these tags:"), tr("No inserts")});
    inserts->setCurrentIndex(static_cast<int>(brief_.overrides.inserts));
    inserts->setAccessibleName(tr("Inserts"));
    QStringList words;
    for (const std::string& tag : brief_.overrides.tags) words << text(tag);
    auto* tags = new QLineEdit(words.join(", "), this);
    tags->setPlaceholderText(tr("sound, mix, …"));
    tags->setAccessibleName(tr("Tags of inserts that are heard"));
    tags->setEnabled(brief_.overrides.inserts == InsertChoice::Tagged);
    auto* row = new QHBoxLayout;
    row->addWidget(inserts);
    row->addWidget(tags, 1);
    layout_->addLayout(row);
    connect(inserts, &QComboBox::activated, this, [this, tags](int index) {
      brief_.overrides.inserts = static_cast<InsertChoice>(index);
      tags->setEnabled(brief_.overrides.inserts == InsertChoice::Tagged);
      Editor::apply(tr("Choose the inserts"));
    });
    connect(tags, &QLineEdit::textEdited, this, [this](const QString& typed) {
      brief_.overrides.tags.clear();
      for (const QString& tag : typed.split(',', Qt::SkipEmptyParts))
        if (!tag.trimmed().isEmpty()) brief_.overrides.tags.push_back(tag.trimmed().toStdString());
      Editor::apply(tr("Choose the tags"), "tags");
    });
  }

  /// Tracks that stay as they are mixed.
  void addExceptions() {
    auto* box = new QComboBox(this);
    box->setAccessibleName(tr("A track that stays as mixed"));
    box->addItem(tr("Leave one as mixed …"));
    for (const Track& track : session_->tracks) box->addItem(text(track.name), text(track.id));
    auto* words = new QLabel(this);
    words->setFont(Theme::caption());
    words->setWordWrap(true);
    words->setMaximumWidth(320);
    layout_->addWidget(box);
    layout_->addWidget(words);
    const auto show = [this, words] {
      QStringList names;
      const TrackTree tree(*session_);
      for (const TrackException& exception : brief_.exceptions)
        if (const int track = tree.find(exception.track); track != TrackTree::kMain)
          names << text(session_->tracks[static_cast<std::size_t>(track)].name);
      words->setText(names.isEmpty() ? QString() : tr("As mixed: %1. Choose one again to take it back.").arg(names.join(", ")));
    };
    show();
    connect(box, &QComboBox::activated, this, [this, box, show](int index) {
      if (index == 0) return;
      const std::string id = box->itemData(index).toString().toStdString();
      const std::size_t before = brief_.exceptions.size();
      std::erase_if(brief_.exceptions, [&](const TrackException& e) { return e.track == id; });
      if (brief_.exceptions.size() == before) brief_.exceptions.push_back({id, Overrides{}});
      box->setCurrentIndex(0);
      show();
      Editor::apply(tr("Choose exceptions"));
    });
  }
};

class RunUpEditor : public Editor {
 public:
  RunUpEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("Run-up before the span"), parent) {
    QDoubleSpinBox* box =
        number(&Brief::runUpSeconds, kMaxRunUpSeconds, 1, " s", tr("Length of the run-up"), tr("Change the run-up"));
    auto* start = new QCheckBox(tr("From the session's start"), this);
    start->setChecked(brief.runUpFromStart);
    box->setEnabled(!brief.runUpFromStart);
    layout_->addWidget(box);
    layout_->addWidget(start);
    setFocusProxy(brief.runUpFromStart ? static_cast<QWidget*>(start) : box);
    connect(start, &QCheckBox::toggled, this, [this, box](bool on) {
      brief_.runUpFromStart = on;
      box->setEnabled(!on);
      Editor::apply(tr("Change the run-up"));
    });
    note(tr("Processed and thrown away, so that effects are already moving when the file begins."));
  }
};

class FolderEditor : public Editor {
 public:
  FolderEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("Into which folder"), parent) {
    edit_ = new QLineEdit(text(brief.folder), this);
    edit_->setFont(Theme::mono());
    edit_->setMinimumWidth(260);
    edit_->setAccessibleName(tr("Folder below the session"));
    layout_->addWidget(edit_);
    note(tr("Below the session's folder: %1").arg(text(session_->folder().string())));
    setFocusProxy(edit_);
    connect(edit_, &QLineEdit::textEdited, this, [this](const QString& folder) {
      brief_.folder = folder.toStdString();
      Editor::apply(tr("Change the folder"), "folder");
    });
    connect(edit_, &QLineEdit::returnPressed, this, &QWidget::close);
  }

 private:
  QLineEdit* edit_;
};

class TailEditor : public Editor {
 public:
  TailEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("Tail after the region's end"), parent) {
    QDoubleSpinBox* box = number(&Brief::tailSeconds, kMaxTailSeconds, 3, " s", tr("Length of the tail"),
                                 tr("Change the tail"));
    layout_->addWidget(box);
    setFocusProxy(box);
    note(tr("Clips that are allowed to finish ring into it; others end with the region."));
  }
};

template <class T>
class ChoiceEditor : public Editor {
 public:
  ChoiceEditor(T Brief::*member, const std::vector<std::tuple<T, QString, QString>>& choices,
               const QString& title, const QString& words, const Brief& brief,
               std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), title, parent) {
    choice<T>(member, choices, words);
  }
};

std::vector<std::tuple<Encoding, QString, QString>> encodingChoices() {
  std::vector<std::tuple<Encoding, QString, QString>> choices;
  for (const EncodingInfo& info : kEncodings) choices.emplace_back(info.encoding, text(info.text), QString());
  return choices;
}

std::vector<std::tuple<LetterCase, QString, QString>> caseChoices() {
  std::vector<std::tuple<LetterCase, QString, QString>> choices;
  for (const LetterCase letterCase : kLetterCases) {
    const QString example = letterCase == LetterCase::AsIs ? QObject::tr("as it is")
                                                           : text(withCase("Winch Start 01", letterCase));
    choices.emplace_back(letterCase, QString("%1   %2").arg(text(letterCaseName(letterCase)), example),
                         QString());
  }
  return choices;
}

}  // namespace

QFrame* makePhraseEditor(PhraseKind kind, const Brief& brief, std::shared_ptr<const Session> session,
                         const ApplyBrief& apply, QWidget* parent) {
  using Choices = std::vector<std::tuple<Existing, QString, QString>>;
  switch (kind) {
    case PhraseKind::Sources: return new SourcesEditor(brief, session, apply, parent);
    case PhraseKind::Regions: return new RegionsEditor(brief, session, apply, parent);
    case PhraseKind::Counts: return new CountsEditor(brief, session, apply, parent);
    case PhraseKind::Reach: return new ReachEditor(brief, session, apply, parent);
    case PhraseKind::Overrides: return new OverridesEditor(brief, session, apply, parent);
    case PhraseKind::RunUp: return new RunUpEditor(brief, session, apply, parent);
    case PhraseKind::Keyed:
      return new ChoiceEditor<bool>(
          &Brief::keyed,
          {{true, QObject::tr("Keyed by the mix"), QObject::tr("Layers take the gain of the full sum, and add up to the mix")},
           {false, QObject::tr("Each keyed alone"), QObject::tr("Dynamics react to each layer as if it were alone")}},
          QObject::tr("What shared dynamics listen to"), QObject::tr("Choose the key"), brief, session, apply, parent);
    case PhraseKind::Tail: return new TailEditor(brief, session, apply, parent);
    case PhraseKind::Folder: return new FolderEditor(brief, session, apply, parent);
    case PhraseKind::Encoding:
      return new ChoiceEditor<Encoding>(&Brief::encoding, encodingChoices(), QObject::tr("As what"),
                                        QObject::tr("Choose the format"), brief, session, apply, parent);
    case PhraseKind::Case:
      return new ChoiceEditor<LetterCase>(
          &Brief::letterCase, caseChoices(), QObject::tr("Letters of the whole name"),
          QObject::tr("Choose the letter case"), brief, session, apply, parent);
    case PhraseKind::Existing:
      return new ChoiceEditor<Existing>(
          &Brief::existing,
          Choices{{Existing::Keep, QObject::tr("Keep what is there"), QString()},
                  {Existing::Replace, QObject::tr("Replace files of ours that are out of date"), QString()}},
          QObject::tr("Files that are there"), QObject::tr("Choose what becomes of files that are there"),
          brief, session, apply, parent);
    case PhraseKind::Plain:
    case PhraseKind::Template: return nullptr;
  }
  return nullptr;
}

void showBeside(QFrame* editor, QWidget* phrase) {
  editor->adjustSize();
  const QSize size = editor->sizeHint();
  const QRect screen = phrase->screen()->availableGeometry();
  QPoint at = phrase->mapToGlobal(QPoint(0, phrase->height() + 4));
  if (at.y() + size.height() > screen.bottom())
    at.setY(phrase->mapToGlobal(QPoint(0, -4)).y() - size.height());
  at.setX(
      std::clamp(at.x(), screen.left() + 4, std::max(screen.left() + 4, screen.right() - size.width() - 4)));
  at.setY(std::max(at.y(), screen.top() + 4));
  editor->move(at);
  editor->show();
  if (editor->focusProxy() != nullptr) editor->focusProxy()->setFocus(Qt::PopupFocusReason);
}

}  // namespace octaphon::app
