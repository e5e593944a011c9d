// The phrases of the signal: reach, overrides, run-up.
#include <algorithm>
#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QRadioButton>

#include "base/decibels.h"
#include "number_box.h"
#include "phrase_editor_base.h"
#include "routing/track_tree.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

class ReachEditor : public PhraseEditor {
 public:
  ReachEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : PhraseEditor(brief, std::move(session), std::move(apply),
                     tr("How far along its way a source is heard"), parent) {
    auto* group = new QButtonGroup(this);
    const auto add = [&](const Reach& reach, const QString& words) {
      auto* button = new QRadioButton(words, this);
      button->setChecked(brief_.heard.reach == reach);
      group->addButton(button);
      layout_->addWidget(button);
      connect(button, &QRadioButton::toggled, this, [this, reach](bool on) {
        if (!on || brief_.heard.reach == reach) return;
        brief_.heard.reach = reach;
        PhraseEditor::apply(tr("Choose the reach"));
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
    returns->setCurrentIndex(static_cast<int>(brief.heard.withReturns));
    layout_->addWidget(returns);
    connect(returns, &QComboBox::activated, this, [this](int index) {
      brief_.heard.withReturns = static_cast<Returns>(index);
      PhraseEditor::apply(tr("Choose what becomes of returns"));
    });
    note(tr("The mix is always heard through main."));
  }

 private:
  /// A few groups each have their lines; of many one is chosen from a list.
  template <class Add>
  void addGroups(const Add& add) {
    const auto groups = std::count_if(session_->tracks.begin(), session_->tracks.end(),
                                      [](const Track& t) { return t.isGroup(); });
    QComboBox* list = nullptr;
    if (groups > 6) {
      list = new QComboBox(this);
      list->setAccessibleName(tr("Through a group"));
      list->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
      list->setMinimumContentsLength(32);
      list->addItem(tr("Through a group …"));
      layout_->addWidget(list);
      connect(list, &QComboBox::activated, this, [this, list](int index) {
        if (index == 0) return;
        brief_.heard.reach = parseReach(list->itemData(index).toString().toStdString()).value_or(Reach{});
        PhraseEditor::apply(tr("Choose the reach"));
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
        if (brief_.heard.reach == reach) list->setCurrentIndex(list->count() - 1), setFocusProxy(list);
      }
    }
  }
};

/// Of all tracks, or of one that goes its own way.
class OverridesEditor : public PhraseEditor {
 public:
  OverridesEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply,
                  QWidget* parent)
      : PhraseEditor(brief, std::move(session), std::move(apply), tr("What is changed for these files only"),
                     parent) {
    addWhose();
    addFaders();
    flag(
        tr("Pans as mixed"), [](const Overrides& o) { return o.pans == Pans::AsMixed; },
        [](Overrides& o, bool on) { o.pans = on ? Pans::AsMixed : Pans::Centred; });
    flag(tr("Volume moves as drawn"), &Overrides::volumeAutomation);
    flag(tr("Pan moves as drawn"), &Overrides::panAutomation);
    flag(tr("Mutes as drawn"), &Overrides::muteAutomation);
    addInserts();
    layout_->addSpacing(6);
    asAllOthers_ = new QPushButton(tr("As all others"), this);
    asAllOthers_->setObjectName("quiet");
    layout_->addWidget(asAllOthers_);
    connect(asAllOthers_, &QPushButton::clicked, this, [this] { takeBack(); });
    scope(tr("On groups too"), &Brief::Heard::overrideGroups);
    scope(tr("On returns too"), &Brief::Heard::overrideReturns);
    scope(tr("On main too"), &Brief::Heard::overrideMain);
    for (QWidget* control : addFields(PhraseKind::Overrides)) scopes_.push_back(control);
    note(tr("The session itself stays as it is."));
    setFocusProxy(faders_);
    reload();
  }

 private:
  std::string chosen() const { return whose_->currentData().toString().toStdString(); }

  /// What holds for whom the controls are about: its own, the brief's, or none where those do not touch it.
  const Overrides& shown() const {
    static const Overrides kNone;
    const std::string whose = chosen();
    if (whose.empty()) return brief_.heard.overrides;
    if (const Overrides* own = brief_.exceptionOf(whose)) return *own;
    return overridesTouch(brief_, findTrack(*session_, whose)) ? brief_.heard.overrides : kNone;
  }

  template <class Change>
  void change(const Change& change, const QString& words, const QString& merge = {}) {
    if (isShowing_) return;
    Overrides changed = shown();
    change(changed);
    const std::string whose = chosen();
    if (whose.empty()) {
      brief_.heard.overrides = changed;
    } else {
      std::erase_if(brief_.heard.exceptions, [&](const TrackException& e) { return e.track == whose; });
      brief_.heard.exceptions.push_back({whose, changed});
    }
    apply(words, merge.isEmpty() ? merge : merge + text(whose));
    reload();
  }

  void addWhose() {
    whose_ = new QComboBox(this);
    whose_->setAccessibleName(tr("Whose"));
    whose_->addItem(tr("All tracks"), QString());
    const TrackTree tree(*session_);
    for (const Strip index : tree.order()) {
      const Track& track = session_->tracks[index.track()];
      whose_->addItem(text(track.name), text(track.id));
    }
    whose_->addItem(tr("Main"), "main");
    whose_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    whose_->setMinimumContentsLength(28);
    layout_->addWidget(whose_);
    layout_->addSpacing(6);
    connect(whose_, &QComboBox::activated, this, [this] { reload(); });
  }

  void addFaders() {
    faders_ = new QComboBox(this);
    faders_->addItems({tr("Faders as mixed"), tr("Faders at unity"), tr("Faders at a level")});
    faders_->setAccessibleName(tr("Faders"));
    level_ = new NumberBox(this);
    level_->setRange(kSilenceDb, kMaxGainDb);
    level_->setDecimals(1);
    level_->setSuffix(" dB");
    level_->setAccessibleName(tr("Level of the faders"));
    auto* row = new QHBoxLayout;
    row->addWidget(faders_, 1);
    row->addWidget(level_);
    layout_->addLayout(row);
    connect(faders_, &QComboBox::activated, this, [this](int index) {
      change([&](Overrides& o) { o.faders = static_cast<Faders>(index); }, tr("Choose the faders"));
    });
    connect(level_, &QDoubleSpinBox::valueChanged, this, [this](double value) {
      change([&](Overrides& o) { o.faderDb = value; }, tr("Change the level of the faders"), "faders");
    });
  }

  template <class Get, class Set>
  void flag(const QString& words, const Get& get, const Set& set) {
    auto* box = new QCheckBox(words, this);
    layout_->addWidget(box);
    connect(box, &QCheckBox::toggled, this,
            [this, set, words](bool on) { change([&](Overrides& o) { set(o, on); }, words); });
    refresh_.push_back([this, box, get] { box->setChecked(get(shown())); });
  }
  void flag(const QString& words, bool Overrides::*member) {
    flag(
        words, [member](const Overrides& o) { return o.*member; },
        [member](Overrides& o, bool on) { o.*member = on; });
  }

  /// How far the brief's own overrides go; nothing that one track could have apart.
  void scope(const QString& words, bool Brief::Heard::*member) {
    auto* box = new QCheckBox(words, this);
    box->setChecked(brief_.heard.*member);
    layout_->addWidget(box);
    scopes_.push_back(box);
    connect(box, &QCheckBox::toggled, this, [this, member, words](bool on) {
      brief_.heard.*member = on;
      apply(words);
    });
  }

  void addInserts() {
    inserts_ = new QComboBox(this);
    inserts_->addItems({tr("All inserts"), tr("Inserts with these tags:"), tr("No inserts")});
    inserts_->setAccessibleName(tr("Inserts"));
    tags_ = new QLineEdit(this);
    tags_->setPlaceholderText(tr("sound, mix, …"));
    tags_->setAccessibleName(tr("Tags of inserts that are heard"));
    auto* row = new QHBoxLayout;
    row->addWidget(inserts_);
    row->addWidget(tags_, 1);
    layout_->addSpacing(6);
    layout_->addLayout(row);
    connect(inserts_, &QComboBox::activated, this, [this](int index) {
      change([&](Overrides& o) { o.inserts = static_cast<InsertChoice>(index); }, tr("Choose the inserts"));
    });
    connect(tags_, &QLineEdit::textEdited, this, [this](const QString& typed) {
      change([&](Overrides& o) { o.tags = listFrom(typed); }, tr("Choose the tags"), "tags");
    });
  }

  void takeBack() {
    std::erase_if(brief_.heard.exceptions, [&](const TrackException& e) { return e.track == chosen(); });
    apply(tr("Take an exception back"));
    reload();
  }

  void reload() {
    isShowing_ = true;
    const Overrides& o = shown();
    faders_->setCurrentIndex(static_cast<int>(o.faders));
    level_->setValue(o.faderDb);
    level_->setEnabled(o.faders == Faders::Value);
    inserts_->setCurrentIndex(static_cast<int>(o.inserts));
    if (!tags_->hasFocus()) tags_->setText(listText(o.tags));
    tags_->setEnabled(o.inserts == InsertChoice::Tagged);
    for (const auto& refresh : refresh_) refresh();
    const bool isOne = !chosen().empty();
    for (QWidget* control : scopes_) control->setVisible(!isOne);
    asAllOthers_->setVisible(isOne);
    asAllOthers_->setEnabled(brief_.exceptionOf(chosen()) != nullptr);
    for (int i = 0; i < whose_->count(); ++i) {
      const std::string id = whose_->itemData(i).toString().toStdString();
      const bool own = brief_.exceptionOf(id) != nullptr;
      whose_->setItemData(i, own ? Theme::strong() : Theme::body(), Qt::FontRole);
    }
    isShowing_ = false;
  }

  QComboBox *whose_, *faders_, *inserts_;
  QDoubleSpinBox* level_;
  QLineEdit* tags_;
  QPushButton* asAllOthers_;
  std::vector<QWidget*> scopes_;
  std::vector<std::function<void()>> refresh_;  // of the flags
  bool isShowing_ = false;
};

class RunUpEditor : public PhraseEditor {
 public:
  RunUpEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : PhraseEditor(brief, std::move(session), std::move(apply), tr("Run-up before the span"), parent) {
    auto* box = new NumberBox(this);
    box->setRange(0, kMaxRunUpSeconds);
    box->setDecimals(1);
    box->setSuffix(tr(" s"));
    box->setValue(brief.heard.runUp.seconds);
    box->setAccessibleName(tr("Length of the run-up"));
    connect(box, &QDoubleSpinBox::valueChanged, this, [this](double seconds) {
      brief_.heard.runUp.seconds = seconds;
      PhraseEditor::apply(tr("Change the run-up"), "run_up");
    });
    auto* start = new QCheckBox(tr("From the session's start"), this);
    start->setChecked(brief.heard.runUp.fromStart);
    box->setEnabled(!brief.heard.runUp.fromStart);
    layout_->addWidget(box);
    layout_->addWidget(start);
    setFocusProxy(brief.heard.runUp.fromStart ? static_cast<QWidget*>(start) : box);
    connect(start, &QCheckBox::toggled, this, [this, box](bool on) {
      brief_.heard.runUp.fromStart = on;
      box->setEnabled(!on);
      PhraseEditor::apply(tr("Change the run-up"));
    });
    note(tr("Processed and thrown away, so that effects are already moving when the file begins."));
  }
};

}  // namespace

QFrame* makeReachEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply,
                        QWidget* parent) {
  return new ReachEditor(brief, std::move(session), std::move(apply), parent);
}

QFrame* makeOverridesEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply,
                            QWidget* parent) {
  return new OverridesEditor(brief, std::move(session), std::move(apply), parent);
}

QFrame* makeRunUpEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply,
                        QWidget* parent) {
  return new RunUpEditor(brief, std::move(session), std::move(apply), parent);
}

}  // namespace octaphon::app
