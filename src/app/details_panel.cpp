#include "details_panel.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPainter>
#include <QPlainTextEdit>
#include <QToolButton>

#include "base/decibels.h"
#include "base/unicode.h"
#include "edit/regions.h"
#include "number_box.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

template <class T, class Visit>
void forEach(Session& session, const Ids& ids, Visit&& visit) {
  const auto visitAll = [&](auto& list) {
    for (auto& item : list)
      if (ids.contains(item.id)) visit(item);
  };
  if constexpr (std::is_same_v<T, Region>) visitAll(session.regions);
  if constexpr (std::is_same_v<T, ClipSet>) visitAll(session.clipSets);
  if constexpr (std::is_same_v<T, Track>) visitAll(session.tracks);
  if constexpr (std::is_same_v<T, Clip>)
    for (Track& track : session.tracks) visitAll(track.clips);
  if constexpr (std::is_same_v<T, Marker>)
    for (MarkerSet& set : session.markerSets) visitAll(set.markers);
}

template <class T>
constexpr Thing thingOf() {
  if constexpr (std::is_same_v<T, Region>)
    return Thing::Region;
  else if constexpr (std::is_same_v<T, ClipSet>)
    return Thing::ClipSet;
  else if constexpr (std::is_same_v<T, Track>)
    return Thing::Track;
  else if constexpr (std::is_same_v<T, Marker>)
    return Thing::Marker;
  else
    return Thing::Clip;
}

std::string factsText(const Facts& facts) {
  std::string lines;
  for (const auto& [key, value] : facts) lines += key + " = " + value + "\n";
  return lines;
}

std::string pathOf(const std::string& name) {
  const std::size_t slash = name.rfind('/');
  return slash == std::string::npos ? std::string() : name.substr(0, slash);
}

Facts factsFrom(const QString& lines) {
  Facts facts;
  for (const QString& line : lines.split('\n')) {
    const QString key = line.section('=', 0, 0).trimmed();
    if (!key.isEmpty() && line.contains('='))
      facts[key.toStdString()] = line.section('=', 1).trimmed().toStdString();
  }
  return facts;
}

/// Fields of one kind of thing. Each knows how to read a value from a thing and how to put one in.
template <class T>
class Fields {
 public:
  Fields(Document& document, Selected& selected, QFormLayout* form,
         std::vector<std::function<void()>>& refreshers)
      : document_(document), selected_(selected), form_(form), refreshers_(refreshers) {}

  template <class Value>
  using Read = std::function<Value(const T&)>;
  template <class Value>
  using Write = std::function<void(T&, const Value&)>;

  void line(const QString& label, Read<std::string> read, Write<std::string> write) {
    auto* field = new QLineEdit;
    add(label, field);
    QObject::connect(field, &QLineEdit::textEdited, field, [=, this](const QString& value) {
      change<std::string>(label, value.toStdString(), write);
    });
    refreshers_.push_back([=, this] {
      const auto value = common<std::string>(read);
      if (field->hasFocus() && field->isModified() && value && *value == field->text().toStdString()) return;
      field->setText(value ? text(*value) : QString());
      field->setPlaceholderText(value ? QString() : QObject::tr("several"));
    });
  }

  void lines(const QString& label, const QString& hint, Read<std::string> read, Write<QString> write) {
    auto* field = new QPlainTextEdit;
    field->setFixedHeight(54);
    field->setTabChangesFocus(true);
    add(label, field);
    QObject::connect(field, &QPlainTextEdit::textChanged, field, [=, this] {
      if (!loading_) change<QString>(label, field->toPlainText(), write);
    });
    refreshers_.push_back([=, this] {
      if (field->hasFocus()) return;
      loading_ = true;
      const auto value = common<std::string>(read);
      field->setPlainText(value ? text(*value) : QString());
      field->setPlaceholderText(value ? hint : QObject::tr("several"));
      loading_ = false;
    });
  }

  /// Facts that everything below the path has, where all that is selected lies in one.
  void pathFacts() {
    auto* field = new QPlainTextEdit;
    field->setFixedHeight(54);
    field->setTabChangesFocus(true);
    field->setPlaceholderText(QObject::tr("key = value, for all in this path"));
    add(QObject::tr("Facts of the path"), field);
    const auto path = [this] {
      return common<std::string>([](const T& thing) { return pathOf(thing.name); }).value_or("");
    };
    QObject::connect(field, &QPlainTextEdit::textChanged, field, [=, this] {
      if (loading_ || path().empty()) return;
      const Facts facts = factsFrom(field->toPlainText());
      document_.edit(
          QObject::tr("Facts of %1").arg(text(path())),
          [&](Session& session) {
            if (facts.empty())
              session.pathFacts.erase(path());
            else
              session.pathFacts[path()] = facts;
          },
          "details/path");
    });
    refreshers_.push_back([=, this] {
      field->setEnabled(!path().empty());
      if (field->hasFocus()) return;
      loading_ = true;
      const auto& all = document_.session()->pathFacts;
      const auto found = all.find(path());
      field->setPlainText(found == all.end() ? QString() : text(factsText(found->second)));
      loading_ = false;
    });
  }

  void flag(const QString& label, bool T::*member) {
    auto* box = new QCheckBox(label);
    box->setAccessibleName(label);
    form_->addRow(box);
    QObject::connect(box, &QCheckBox::clicked, box, [=, this] {
      const bool on = box->checkState() != Qt::Unchecked;
      box->setTristate(false);
      change<bool>(label, on, [member](T& thing, const bool& value) { thing.*member = value; });
    });
    refreshers_.push_back([=, this] {
      const auto value = common<bool>([member](const T& thing) { return thing.*member; });
      box->setTristate(!value);
      box->setCheckState(!value ? Qt::PartiallyChecked : *value ? Qt::Checked : Qt::Unchecked);
    });
  }

  void number(const QString& label, double least, double most, int decimals, const QString& unit,
              Read<double> read, Write<double> write) {
    auto* box = new NumberBox;
    // One step below the least value stands for "several".
    const double step = decimals == 0 ? 1 : decimals == 1 ? 0.5 : 0.05;
    box->setRange(least - step, most);
    box->setSpecialValueText(QObject::tr("several"));
    box->setDecimals(decimals);
    box->setSingleStep(step);
    box->setSuffix(unit);
    box->setKeyboardTracking(false);
    add(label, box);
    QObject::connect(box, &QDoubleSpinBox::valueChanged, box, [=, this](double value) {
      if (!loading_ && value >= least) change<double>(label, value, write);
    });
    refreshers_.push_back([=, this] {
      loading_ = true;
      box->setValue(common<double>(read).value_or(box->minimum()));
      loading_ = false;
    });
  }

  void choice(const QString& label, const QList<std::pair<QString, int>>& items, Read<int> read,
              Write<int> write) {
    auto* box = new QComboBox;
    for (const auto& [words, value] : items) box->addItem(words, value);
    add(label, box);
    QObject::connect(box, &QComboBox::activated, box,
                     [=, this] { change<int>(label, box->currentData().toInt(), write); });
    refreshers_.push_back([=, this] {
      const auto value = common<int>(read);
      box->setCurrentIndex(value ? box->findData(*value) : -1);
    });
  }

  void ink(const QString& label, int T::*member) {
    auto* row = new QWidget;
    row->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    auto* layout = new QHBoxLayout(row);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    QList<QToolButton*> swatches;
    for (int ink = 0; ink <= kInks; ++ink) {
      auto* swatch = new QToolButton(row);
      swatch->setCheckable(true);
      swatch->setAccessibleName(ink == 0 ? QObject::tr("The group's colour")
                                         : QObject::tr("Colour %1").arg(ink));
      swatch->setToolTip(swatch->accessibleName());
      QPixmap pixmap(14, 14);
      pixmap.fill(ink == 0 ? colour(Role::Sheet) : Theme::instance().trackInk(ink));
      if (ink == 0) {
        QPainter painter(&pixmap);
        painter.setPen(colour(Role::Frame));
        painter.drawRect(0, 0, 13, 13);
      }
      swatch->setIcon(QIcon(pixmap));
      layout->addWidget(swatch);
      QObject::connect(swatch, &QToolButton::clicked, swatch, [=, this] {
        change<int>(label, ink, [member](T& thing, const int& value) { thing.*member = value; });
      });
      swatches << swatch;
    }
    auto* distinct = new QToolButton(row);
    distinct->setText(QObject::tr("all different"));
    distinct->setAccessibleName(QObject::tr("A colour of its own for each"));
    layout->addWidget(distinct);
    layout->addStretch();
    QObject::connect(distinct, &QToolButton::clicked, distinct, [=, this] {
      document_.edit(QObject::tr("Colour %1").arg(wordOf(thingOf<T>(), ids().size())), [&](Session& session) {
        int next = 0;
        forEach<T>(session, ids(), [&](T& thing) { thing.*member = next++ % kInks + 1; });
      });
    });
    form_->addRow(label, row);
    refreshers_.push_back([=, this] {
      const auto value = common<int>([member](const T& thing) { return thing.*member; });
      for (int i = 0; i < swatches.size(); ++i) swatches[i]->setChecked(value && *value == i);
      distinct->setVisible(ids().size() > 1);
    });
  }

 private:
  const Ids& ids() const { return selected_.of(thingOf<T>()); }

  void add(const QString& label, QWidget* field) {
    field->setAccessibleName(label);
    form_->addRow(label, field);
  }

  template <class Value>
  std::optional<Value> common(const Read<Value>& read) const {
    std::optional<Value> value;
    bool same = true;
    // Reading only: the visitor takes no part of the session away.
    forEach<T>(const_cast<Session&>(*document_.session()), ids(), [&](T& thing) {
      const Value own = read(thing);
      same &= !value || *value == own;
      value = own;
    });
    return same ? value : std::nullopt;
  }

  template <class Value>
  void change(const QString& label, const Value& value, const Write<Value>& write) {
    document_.edit(
        QObject::tr("%1 of %2").arg(label, wordOf(thingOf<T>(), ids().size())),
        [&](Session& session) { forEach<T>(session, ids(), [&](T& thing) { write(thing, value); }); },
        "details/" + label);
  }

  Document& document_;
  Selected& selected_;
  QFormLayout* form_;
  std::vector<std::function<void()>>& refreshers_;
  bool loading_ = false;
};

template <class T>
void addNotes(Fields<T>& fields) {
  fields.lines(
      QObject::tr("Notes"), QString(), [](const T& thing) { return thing.notes; },
      [](T& thing, const QString& value) { thing.notes = value.toStdString(); });
}
template <class T>
void addFacts(Fields<T>& fields) {
  fields.lines(
      QObject::tr("Facts"), QObject::tr("key = value, a line each"),
      [](const T& thing) { return factsText(thing.facts); },
      [](T& thing, const QString& value) { thing.facts = factsFrom(value); });
}
template <class T>
void addName(Fields<T>& fields) {
  fields.line(
      QObject::tr("Name"), [](const T& thing) { return thing.name; },
      [](T& thing, const std::string& value) {
        if (!thing.lock) thing.name = value;
      });
}

}  // namespace

DetailsPanel::DetailsPanel(Document& document, Selected& selected, QWidget* parent)
    : QScrollArea(parent), document_(document), selected_(selected) {
  setWidgetResizable(true);
  setFrameShape(QFrame::NoFrame);
  setAccessibleName(tr("Details of what is selected"));
  timer_.setSingleShot(true);
  timer_.setInterval(10);
  connect(&timer_, &QTimer::timeout, this, &DetailsPanel::reload);
  const auto later = [this] { timer_.start(); };
  connect(&selected_, &Selected::changed, this, later);
  connect(&document_, &Document::changed, this, later);
  connect(&document_, &Document::opened, this, later);
}

Thing DetailsPanel::shown() const {
  for (const Thing thing : {Thing::Region, Thing::ClipSet, Thing::Track, Thing::Clip, Thing::Marker})
    if (!selected_.of(thing).empty()) return thing;
  return Thing::Clip;
}

/// Levels, and what only tracks have.
template <class T>
void addLevels(Fields<T>& right) {
  if constexpr (std::is_same_v<T, Track> || std::is_same_v<T, Clip>) {
    right.number(
        std::is_same_v<T, Track> ? QObject::tr("Fader") : QObject::tr("Gain"), kSilenceDb, kMaxGainDb, 1,
        QObject::tr(" dB"), [](const T& thing) { return thing.gainDb; },
        [](T& thing, const double& value) { thing.gainDb = value; });
    right.flag(QObject::tr("Mute"), &T::mute);
  }
  if constexpr (std::is_same_v<T, Track>) {
    right.number(
        QObject::tr("Pan"), -1, 1, 2, {}, [](const T& track) { return track.pan; },
        [](T& track, const double& value) { track.pan = value; });
    right.choice(
        QObject::tr("Channels"),
        {{QObject::tr("mono"), 1},
         {QObject::tr("stereo"), 2},
         {QObject::tr("quad"), 4},
         {"5.1", 6},
         {"7.1", 8}},
        [](const T& track) { return track.channels; },
        [](T& track, const int& value) { track.channels = value; });
    right.flag(QObject::tr("Turned over (polarity)"), &T::invert);
    right.flag(QObject::tr("Helper: in no sum and no file"), &T::helper);
    right.flag(QObject::tr("Pinned: stays in view"), &T::pinned);
  }
}

template <class T>
void DetailsPanel::build() {
  auto* columns = new QHBoxLayout(page_);
  columns->setContentsMargins(14, 10, 14, 10);
  columns->setSpacing(28);
  const auto column = [&] {
    auto* form = new QFormLayout;
    form->setFieldGrowthPolicy(QFormLayout::ExpandingFieldsGrow);
    form->setVerticalSpacing(6);
    auto* stack = new QVBoxLayout;
    stack->addLayout(form);
    stack->addStretch(1);
    columns->addLayout(stack, 1);
    return form;
  };
  // The fields live as long as the page that shows them.
  const auto keep = [this](auto* fields) {
    auto owner = std::shared_ptr<std::remove_pointer_t<decltype(fields)>>(fields);
    refreshers_.push_back([owner] {});
    return fields;
  };
  auto& left = *keep(new Fields<T>(document_, selected_, column(), refreshers_));
  auto& right = *keep(new Fields<T>(document_, selected_, column(), refreshers_));
  addName(left);
  if constexpr (!std::is_same_v<T, Marker>) left.ink(tr("Colour"), &T::ink);
  addNotes(left);
  if constexpr (std::is_same_v<T, Region> || std::is_same_v<T, ClipSet>) {
    addFacts(left);
    right.pathFacts();
    right.flag(tr("Clips may finish after its end"), &T::finish);
  }
  if constexpr (std::is_same_v<T, Region>) right.flag(tr("Its length is fixed"), &T::fixed);
  if constexpr (std::is_same_v<T, ClipSet>) {
    right.flag(tr("Muted: printed by no brief"), &T::mute);
    right.choice(
        tr("Channels"), {{tr("as tapped"), 0}, {tr("mono"), 1}, {tr("stereo"), 2}},
        [](const T& set) { return set.channels; }, [](T& set, const int& value) { set.channels = value; });
    right.number(
        tr("Tail of its own"), 0, 600, 3, tr(" s"), [](const T& set) { return set.tailSeconds.value_or(0); },
        [](T& set, const double& value) {
          set.tailSeconds = value > 0 ? std::optional(value) : std::nullopt;
        });
  }
  addLevels(right);
  right.flag(tr("Locked"), &T::lock);
}

void DetailsPanel::reload() {
  if (!isVisible()) return;
  const Thing thing = shown();
  const bool nothing = selected_.of(thing).empty();
  if (nothing || built_ != thing) {
    refreshers_.clear();
    page_ = new QWidget(this);
    page_->setObjectName("pane");
    built_.reset();
    if (nothing) {
      auto* layout = new QHBoxLayout(page_);
      auto* words = new QLabel(
          tr("Select clips, regions, tracks, clip sets or markers to see and change what they have"), page_);
      words->setAlignment(Qt::AlignCenter);
      words->setEnabled(false);
      layout->addWidget(words);
    } else {
      built_ = thing;
      switch (thing) {
        case Thing::Region: build<Region>(); break;
        case Thing::ClipSet: build<ClipSet>(); break;
        case Thing::Track: build<Track>(); break;
        case Thing::Clip: build<Clip>(); break;
        case Thing::Marker: build<Marker>(); break;
      }
    }
    setWidget(page_);
  }
  for (const auto& refresh : refreshers_) refresh();
}

void DetailsPanel::showEvent(QShowEvent*) { timer_.start(); }

}  // namespace octaphon::app
