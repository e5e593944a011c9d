#include "app/controls/field_controls.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QRadioButton>

#include "app/look/number_box.h"
#include "app/look/theme.h"
#include "app/work/text.h"

namespace octaphon::app {
namespace {

constexpr std::ptrdiff_t kMostGroupLines = 6;  // of more groups, one is chosen from a list

/// Reaches that every session has, before and behind its groups.
struct NamedReach {
  ReachStage stage;
  const char* words;
};
constexpr NamedReach kBeforeGroups[]{{ReachStage::Clips, "Clips only, before any insert"},
                                     {ReachStage::Inserts, "Through its inserts, before its fader"},
                                     {ReachStage::Track, "Through its fader and pan"}};
constexpr NamedReach kBehindGroups[]{{ReachStage::Groups, "Through all groups around it"},
                                     {ReachStage::MainInserts, "Through main's inserts"},
                                     {ReachStage::Main, "Through main"}};

}  // namespace

template <class Owner>
struct FieldControls::Maker {
  using Field = EditableField<Owner>;
  FieldControls& controls;
  const Field& field;
  FieldTarget<Owner> target;
  const Session& session;

  QString tr(const char* words) const { return QObject::tr(words); }
  QWidget* parent() const { return controls.parent_; }

  void change(const std::function<void(Owner&)>& change, bool merges = false) const {
    if (!controls.isRefreshing_) target.change(tr(field.act), change, merges ? field.key : QString());
  }
  void onRefresh(std::function<void()> put) const { controls.refreshers_.push_back(std::move(put)); }

  QWidget* operator()(const typename Field::Flag& flag) const {
    auto* box = new QCheckBox(tr(field.label), parent());
    controls.layout_->addWidget(box);
    QObject::connect(box, &QCheckBox::toggled, box, [self = *this, in = flag.in](bool on) {
      self.change([=](Owner& owner) { in(owner) = on; });
    });
    onRefresh([=, now = target.now, in = flag.in] {
      Owner copy = now();
      box->setChecked(in(copy));
    });
    return box;
  }

  static void setUnit(QDoubleSpinBox& box, const char* unit) {
    box.setSuffix(*unit == '\0' ? QString() : QString(" %1").arg(unit));
  }

  void setUp(QDoubleSpinBox& box, const NumberKind& range) const {
    box.setRange(range.least, range.most);
    box.setDecimals(range.decimals);
    setUnit(box, range.unit);
    box.setAccessibleName(tr(field.label));
    box.setSingleStep(range.decimals > 1 ? 0.25 : 1);
  }

  /// What is being typed stays as it is typed.
  static void put(QDoubleSpinBox& box, double value) {
    if (box.value() != value) box.setValue(value);
  }

  QDoubleSpinBox* numberBox(const NumberKind& range) const {
    auto* box = new NumberBox(parent());
    setUp(*box, range);
    addRow(new QLabel(tr(field.label), parent()), box);
    return box;
  }

  /// In a widget of its own, so that it can be hidden whole.
  void addRow(QWidget* words, QWidget* box) const {
    auto* line = new QWidget(parent());
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(words, 1);
    row->addWidget(box);
    controls.layout_->addWidget(line);
  }

  QWidget* operator()(const typename Field::Number& number) const {
    QDoubleSpinBox* box = numberBox(number.range);
    QObject::connect(box, &QDoubleSpinBox::valueChanged, box, [self = *this, in = number.in](double value) {
      self.change([=](Owner& owner) { in(owner) = value; }, true);
    });
    onRefresh([=, now = target.now, in = number.in] {
      Owner copy = now();
      put(*box, in(copy));
    });
    return box;
  }

  QWidget* operator()(const typename Field::Whole& whole) const {
    QDoubleSpinBox* box = numberBox({whole.least, whole.most, "", 0});
    QObject::connect(box, &QDoubleSpinBox::valueChanged, box, [self = *this, set = whole.set](double value) {
      self.change([=](Owner& owner) { set(owner, value); }, true);
    });
    onRefresh([=, now = target.now, get = whole.get] { put(*box, get(now())); });
    return box;
  }

  /// A tick, and the number beside it.
  QWidget* operator()(const typename Field::OptionalNumber& number) const {
    auto* tick = new QCheckBox(tr(field.label), parent());
    auto* box = new NumberBox(parent());
    setUp(*box, number.range.number);
    addRow(tick, box);
    QObject::connect(
        tick, &QCheckBox::toggled, tick,
        [self = *this, in = number.in, sense = number.sense, usual = number.range.offered](bool on) {
          self.change([=](Owner& owner) {
            const double offered = sense == nullptr ? usual : sense(owner).offered;
            in(owner) = on ? std::optional(in(owner).value_or(offered)) : std::nullopt;
          });
        });
    QObject::connect(box, &QDoubleSpinBox::valueChanged, box, [self = *this, in = number.in](double value) {
      self.change(
          [=](Owner& owner) {
            if (in(owner)) in(owner) = value;
          },
          true);
    });
    onRefresh([=, now = target.now, in = number.in, sense = number.sense,
               usual = NumberSense{number.range.number.unit, number.range.offered}] {
      Owner copy = now();
      const std::optional<double> value = in(copy);
      const auto [unit, offered] = sense == nullptr ? usual : sense(copy);
      setUnit(*box, unit);
      tick->setChecked(value.has_value());
      box->setEnabled(value.has_value());
      put(*box, value.value_or(offered));
    });
    return tick;
  }

  QLineEdit* lineEdit() const {
    auto* edit = new QLineEdit(parent());
    edit->setAccessibleName(tr(field.label));
    edit->setToolTip(tr(field.label));
    controls.layout_->addWidget(edit);
    return edit;
  }

  QWidget* operator()(const typename Field::Text& text) const {
    QLineEdit* edit = lineEdit();
    edit->setFont(Theme::mono());
    QObject::connect(edit, &QLineEdit::textEdited, edit, [self = *this, in = text.in](const QString& typed) {
      self.change([=](Owner& owner) { in(owner) = typed.toStdString(); }, true);
    });
    onRefresh([=, now = target.now, in = text.in] {
      Owner copy = now();
      if (const QString words = app::text(in(copy)); words != edit->text()) edit->setText(words);
    });
    return edit;
  }

  QWidget* operator()(const typename Field::Texts& texts) const {
    QLineEdit* edit = lineEdit();
    edit->setPlaceholderText(tr("sound, mix, …"));
    QObject::connect(edit, &QLineEdit::textEdited, edit, [self = *this, in = texts.in](const QString& typed) {
      self.change([=](Owner& owner) { in(owner) = listFrom(typed); }, true);
    });
    onRefresh([=, now = target.now, in = texts.in] {
      Owner copy = now();
      if (in(copy) != listFrom(edit->text())) edit->setText(listText(in(copy)));
    });
    return edit;
  }

  /// Buttons of which one is on; gives the frame around them.
  QWidget* choice(const std::vector<std::pair<QString, QString>>& options,
                  const std::function<void(int)>& choose, const std::function<int()>& chosen) const {
    auto* frame = new QWidget(parent());
    frame->setAccessibleName(tr(field.label));
    auto* layout = new QVBoxLayout(frame);
    layout->setContentsMargins(0, 0, 0, 6);
    layout->setSpacing(4);
    auto* group = new QButtonGroup(frame);
    for (const auto& [words, detail] : options) {
      auto* button = new QRadioButton(words, frame);
      button->setToolTip(detail);
      group->addButton(button, static_cast<int>(group->buttons().size()));
      layout->addWidget(button);
    }
    QObject::connect(group, &QButtonGroup::idToggled, frame, [choose](int option, bool on) {
      if (on) choose(option);
    });
    onRefresh([=] {
      QAbstractButton* button = group->button(chosen());
      group->setExclusive(button != nullptr);
      if (button != nullptr)
        button->setChecked(true);
      else
        for (QAbstractButton* each : group->buttons()) each->setChecked(false);
      group->setExclusive(true);
      frame->setFocusProxy(button != nullptr ? button : group->buttons().constFirst());
    });
    controls.layout_->addWidget(frame);
    return frame;
  }

  QWidget* operator()(const typename Field::OneOf& oneOf) const {
    std::vector<std::pair<QString, QString>> options;
    for (const auto& option : oneOf.options)
      options.push_back({app::text(option.label), app::text(option.detail)});
    const auto choose = [self = *this, set = oneOf.set](int option) {
      self.change([=](Owner& owner) { set(owner, static_cast<std::size_t>(option)); });
    };
    const auto chosen = [now = target.now, get = oneOf.get] { return static_cast<int>(get(now())); };
    return oneOf.isList ? list(options, choose, chosen) : choice(options, choose, chosen);
  }

  /// One line, with a list that opens.
  QWidget* list(const std::vector<std::pair<QString, QString>>& options,
                const std::function<void(int)>& choose, const std::function<int()>& chosen) const {
    auto* box = new QComboBox(parent());
    box->setAccessibleName(tr(field.label));
    // A line that is wider than its place would be laid out for another width than it gets.
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(10);
    for (const auto& [words, detail] : options) {
      box->addItem(words);
      box->setItemData(box->count() - 1, detail, Qt::ToolTipRole);
    }
    addRow(new QLabel(tr(field.label), parent()), box);
    QObject::connect(box, &QComboBox::activated, box, choose);
    onRefresh([=] { box->setCurrentIndex(chosen()); });
    return box;
  }

  QWidget* operator()(const typename Field::RunUpOf& runUp) const {
    QDoubleSpinBox* box = numberBox({0, kMaxRunUpSeconds, "s", 1});
    auto* start = new QCheckBox(tr("From the session's start"), parent());
    controls.layout_->addWidget(start);
    QObject::connect(box, &QDoubleSpinBox::valueChanged, box, [self = *this, in = runUp.in](double seconds) {
      self.change([=](Owner& owner) { in(owner).seconds = seconds; }, true);
    });
    QObject::connect(start, &QCheckBox::toggled, start, [self = *this, in = runUp.in](bool on) {
      self.change([=](Owner& owner) { in(owner).fromStart = on; });
    });
    onRefresh([=, now = target.now, in = runUp.in] {
      Owner copy = now();
      put(*box, in(copy).seconds);
      start->setChecked(in(copy).fromStart);
      box->setEnabled(!in(copy).fromStart);
    });
    return box;
  }

  /// The reaches that a session has: its groups' among them, as lines or, where there are many, as a list.
  QWidget* operator()(const typename Field::ReachOf& reach) const {
    std::vector<Reach> reaches, listed;
    std::vector<std::pair<QString, QString>> lines;
    QStringList listWords;
    const auto groups = std::count_if(session.tracks.begin(), session.tracks.end(),
                                      [](const Track& track) { return track.isGroup(); });
    const auto addNamed = [&](const auto& named) {
      for (const NamedReach& one : named) {
        reaches.push_back({one.stage, {}});
        lines.push_back({tr(one.words), {}});
      }
    };
    addNamed(kBeforeGroups);
    for (const Track& track : session.tracks) {
      if (!track.isGroup()) continue;
      const QString name = app::text(track.name);
      const std::pair<ReachStage, QString> stages[]{
          {ReachStage::GroupInserts, tr("Through the inserts of %1").arg(name)},
          {ReachStage::Group, tr("Through %1").arg(name)}};
      for (const auto& [stage, words] : stages) {
        (groups > kMostGroupLines ? listed : reaches).push_back({stage, track.id});
        if (groups > kMostGroupLines)
          listWords << words;
        else
          lines.push_back({words, {}});
      }
    }
    addNamed(kBehindGroups);
    const auto choose = [self = *this, in = reach.in](const Reach& chosen) {
      self.change([=](Owner& owner) { in(owner) = chosen; });
    };
    const auto placeIn = [now = target.now, in = reach.in](const std::vector<Reach>& of) {
      Owner copy = now();
      const auto found = std::find(of.begin(), of.end(), in(copy));
      return found == of.end() ? -1 : static_cast<int>(found - of.begin());
    };
    QWidget* frame = choice(
        lines, [=](int option) { choose(reaches[static_cast<std::size_t>(option)]); },
        [=] { return placeIn(reaches); });
    if (!listed.empty()) addReachList(listWords, listed, choose, placeIn);
    return frame;
  }

  template <class Choose, class PlaceIn>
  void addReachList(const QStringList& words, const std::vector<Reach>& listed, const Choose& choose,
                    const PlaceIn& placeIn) const {
    auto* list = new QComboBox(parent());
    list->setAccessibleName(tr("Through a group"));
    list->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    list->addItem(tr("Through a group …"));
    list->addItems(words);
    controls.layout_->addWidget(list);
    QObject::connect(list, &QComboBox::activated, list, [=](int index) {
      if (index > 0) choose(listed[static_cast<std::size_t>(index - 1)]);
    });
    onRefresh([=] { list->setCurrentIndex(placeIn(listed) + 1); });
  }
};

template <class Owner>
QWidget* FieldControls::add(const EditableField<Owner>& field, const FieldTarget<Owner>& target,
                            const Session& session) {
  QWidget* made = std::visit(Maker<Owner>{*this, field, target, session}, field.control);
  if (field.matters == nullptr) return made;
  QWidget* const whole = made->parentWidget() == parent_ ? made : made->parentWidget();
  refreshers_.push_back(
      [whole, now = target.now, matters = field.matters] { whole->setVisible(matters(now())); });
  return made;
}

template QWidget* FieldControls::add(const EditableField<Brief>&, const FieldTarget<Brief>&, const Session&);
template QWidget* FieldControls::add(const EditableField<Overrides>&, const FieldTarget<Overrides>&,
                                     const Session&);
template QWidget* FieldControls::add(const EditableField<OwnLoop>&, const FieldTarget<OwnLoop>&,
                                     const Session&);
template QWidget* FieldControls::add(const EditableField<OwnLevelling>&, const FieldTarget<OwnLevelling>&,
                                     const Session&);
template QWidget* FieldControls::add(const EditableField<OwnEnds>&, const FieldTarget<OwnEnds>&,
                                     const Session&);

void FieldControls::refresh() {
  isRefreshing_ = true;
  for (const auto& put : refreshers_) put();
  isRefreshing_ = false;
}

}  // namespace octaphon::app
