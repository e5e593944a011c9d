#include "app/prepare/details_panel.h"

#include <QHBoxLayout>

#include "app/look/session_undo.h"
#include "app/prepare/details_fields.h"
#include "base/decibels.h"
#include "base/unicode.h"
#include "brief/editing.h"

namespace octaphon::app {
namespace {

template <class T>
void addNotes(Fields<T>& fields) {
  fields.lines(
      QObject::tr("Notes"), QString(), [](const T& thing) { return thing.notes; },
      [](T& thing, const QString& value) { thing.notes = value.toStdString(); },
      [](const QString& typed) { return typed.toStdString(); });
}
template <class T>
void addFacts(Fields<T>& fields) {
  fields.lines(
      QObject::tr("Facts"), QObject::tr("key = value, a line each"),
      [](const T& thing) { return pairsText(thing.facts); },
      [](T& thing, const QString& value) { thing.facts = pairsFrom(value); },
      [](const QString& typed) { return pairsText(pairsFrom(typed)); });
}
template <class T>
void addName(Fields<T>& fields) {
  fields.line(
      QObject::tr("Name"), [](const T& thing) { return thing.name; },
      [](T& thing, const std::string& value) { thing.name = value; });
}

}  // namespace

DetailsPanel::DetailsPanel(Work& work, QWidget* parent)
    : QScrollArea(parent), document_(work.document()), selected_(work.selected()) {
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

Thing DetailsPanel::thingToShow() const {
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
    right.flag(QObject::tr("As a group: names pass over it"), &T::skipInNames);
  }
}

/// What a span's files have otherwise than their briefs say: a part of it, T::*member.
template <class Part, class T>
void addOwn(Fields<T>& fields, const std::vector<EditableField<Part>>& list, Part T::*member) {
  using Field = EditableField<Part>;
  for (const Field& field : list) {
    const QString label = QObject::tr(field.label);
    if (const auto* number = std::get_if<typename Field::OptionalNumber>(&field.control)) {
      fields.optionalNumber(
          label, number->range,
          [=, in = number->in](const T& thing) { return in(const_cast<T&>(thing).*member); },
          [=, in = number->in](T& thing, const std::optional<double>& value) { in(thing.*member) = value; },
          number->sense == nullptr
              ? std::function<NumberSense(const T&)>()
              : [=, sense = number->sense](const T& thing) { return sense(thing.*member); });
    } else if (const auto* plain = std::get_if<typename Field::Number>(&field.control)) {
      fields.number(
          label, plain->range.least, plain->range.most, plain->range.decimals,
          QString(" %1").arg(plain->range.unit),
          [=, in = plain->in](const T& thing) { return in(const_cast<T&>(thing).*member); },
          [=, in = plain->in](T& thing, const double& value) { in(thing.*member) = value; });
    } else if (const auto* whole = std::get_if<typename Field::Whole>(&field.control)) {
      fields.number(
          label, whole->least, whole->most, 0, {},
          [=, get = whole->get](const T& thing) { return get(thing.*member); },
          [=, set = whole->set](T& thing, const double& value) { set(thing.*member, value); });
    } else if (const auto* flag = std::get_if<typename Field::Flag>(&field.control)) {
      fields.flag(
          label, [=, in = flag->in](const T& thing) { return in(const_cast<T&>(thing).*member); },
          [=, in = flag->in](T& thing, const bool& value) { in(thing.*member) = value; });
    } else if (const auto* oneOf = std::get_if<typename Field::OneOf>(&field.control)) {
      QList<std::pair<QString, int>> items;
      for (const auto& option : oneOf->options)
        items.push_back({text(option.label), static_cast<int>(items.size())});
      fields.choice(
          label, items,
          [=, get = oneOf->get](const T& thing) { return static_cast<int>(get(thing.*member)); },
          [=, set = oneOf->set](T& thing, const int& value) {
            set(thing.*member, static_cast<std::size_t>(value));
          });
    }
  }
}

/// All that a span may have otherwise.
template <class T>
void addOwnThings(Fields<T>& left, Fields<T>& right) {
  right.heading(QObject::tr("Its own ends, instead of the brief's"));
  addOwn(right, editableOwnEnds(), &T::ends);
  left.heading(QObject::tr("Its own loop, instead of the brief's"));
  addOwn(left, editableOwnLoop(), &T::loop);
  right.heading(QObject::tr("Its own level, instead of the brief's"));
  addOwn(right, editableOwnLevelling(), &T::levelling);
}

template <class T>
void DetailsPanel::build() {
  auto* columns = new QHBoxLayout(page_);
  columns->setContentsMargins(14, 10, 14, 10);
  columns->setSpacing(28);
  const auto column = [&] {
    auto* form = new QFormLayout;
    form->setFieldGrowthPolicy(QFormLayout::ExpandingFieldsGrow);
    form->setRowWrapPolicy(QFormLayout::WrapLongRows);
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
  auto& left = *keep(new Fields<T>(document_, shown_, column(), refreshers_));
  auto& right = *keep(new Fields<T>(document_, shown_, column(), refreshers_));
  addName(left);
  if constexpr (!std::is_same_v<T, Marker>) left.ink(tr("Colour"), &T::ink);
  if constexpr (requires(T thing) { thing.tags; }) left.tags(tr("Tags"));
  addNotes(left);
  if constexpr (std::is_same_v<T, Region> || std::is_same_v<T, ClipSet>) {
    addFacts(left);
    left.ownSources(tr("Its own sources"));
    right.number(
        tr("Names leave out"), 0, kMaxSkippedLevels, 0, tr(" parts"),
        [](const T& thing) { return thing.skipLevels; },
        [](T& thing, const double& value) { thing.skipLevels = static_cast<int>(value); });
    right.pathFacts();
    right.flag(tr("Clips may finish after its end"), &T::finish);
    right.choice(
        tr("Channels"),
        {{tr("as tapped"), 0},
         {tr("mono"), 1},
         {tr("stereo"), 2},
         {tr("quad"), 4},
         {tr("5.1"), 6},
         {tr("7.1"), 8}},
        [](const T& thing) { return thing.channels; },
        [](T& thing, const int& value) { thing.channels = value; });
  }
  if constexpr (std::is_same_v<T, Region>) right.flag(tr("Its length is fixed"), &T::fixed);
  if constexpr (std::is_same_v<T, ClipSet>) {
    right.flag(tr("Muted: printed by no brief"), &T::mute);
  }
  addLevels(right);
  right.flag(tr("Locked"), &T::lock, true);
  if constexpr (std::is_same_v<T, Region> || std::is_same_v<T, ClipSet>) addOwnThings(left, right);
}

/// What is still being typed counts for the things it was typed for.
void DetailsPanel::finishTyping() {
  if (auto* box = qobject_cast<QAbstractSpinBox*>(focusWidget())) box->interpretText();
  auto* line = qobject_cast<QLineEdit*>(focusWidget());
  if (line != nullptr && line->property(kFinishedLater).toBool()) emit line->editingFinished();
}

void DetailsPanel::reload() {
  if (!isVisible()) return;
  const Thing thing = thingToShow();
  const Ids& wanted = selected_.of(thing);
  if (wanted != shown_) finishTyping();
  shown_ = wanted;
  if (shown_.empty() || built_ != thing) rebuild(thing);
  for (const auto& refresh : refreshers_) refresh();
}

void DetailsPanel::rebuild(Thing thing) {
  refreshers_.clear();
  page_ = new QWidget(this);
  page_->setObjectName("pane");
  built_.reset();
  if (shown_.empty()) {
    auto* layout = new QHBoxLayout(page_);
    auto* words = new QLabel(
        tr("Select clips, regions, tracks, clip sets or markers to see and change what they have"), page_);
    words->setAlignment(Qt::AlignCenter);
    words->setWordWrap(true);
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
    useSessionUndo(page_);
  }
  setWidget(page_);
}

void DetailsPanel::showEvent(QShowEvent*) { timer_.start(); }

}  // namespace octaphon::app
