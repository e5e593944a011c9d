#include "brief/editing.h"

#include <algorithm>
#include <cmath>

#include "brief/description.h"

namespace octaphon {
namespace {

template <class Owner>
using Control = decltype(EditableField<Owner>::control);

/// What gives the value of a field.
template <class Owner, class Value, class TheField>
Value& valueIn(Owner& owner) {
  return TheField::in(owner);
}

template <class Owner, class TheField>
Control<Owner> controlOf(const TheField&, const FlagKind&) {
  return typename EditableField<Owner>::Flag{valueIn<Owner, bool, TheField>};
}
template <class Owner, class TheField>
Control<Owner> controlOf(const TheField&, const NumberKind& kind) {
  return typename EditableField<Owner>::Number{kind, valueIn<Owner, double, TheField>};
}
template <class Owner, class TheField>
Control<Owner> wholeOf(double least, double most) {
  return typename EditableField<Owner>::Whole{
      least, most, [](const Owner& owner) { return static_cast<double>(TheField::in(owner)); },
      [](Owner& owner, double value) {
        auto& number = TheField::in(owner);
        number = static_cast<std::remove_reference_t<decltype(number)>>(std::llround(value));
      }};
}
template <class Owner, class TheField>
Control<Owner> controlOf(const TheField&, const IntegerKind& kind) {
  return wholeOf<Owner, TheField>(kind.least, kind.most);
}
template <class Owner, class TheField>
Control<Owner> controlOf(const TheField&, const FramesKind&) {
  return wholeOf<Owner, TheField>(0, static_cast<double>(kMaxFrame));
}
template <class Owner, class TheField>
Control<Owner> controlOf(const TheField&, const OptionalNumberKind& kind) {
  return typename EditableField<Owner>::OptionalNumber{kind, valueIn<Owner, std::optional<double>, TheField>};
}
template <class Owner, class TheField>
Control<Owner> controlOf(const TheField&, const TextKind&) {
  return typename EditableField<Owner>::Text{valueIn<Owner, std::string, TheField>};
}
template <class Owner, class TheField>
Control<Owner> controlOf(const TheField&, const TagsKind&) {
  return typename EditableField<Owner>::Texts{valueIn<Owner, std::vector<std::string>, TheField>};
}
template <class Owner, class TheField>
Control<Owner> controlOf(const TheField&, const ReachKind&) {
  return typename EditableField<Owner>::ReachOf{valueIn<Owner, Reach, TheField>};
}
template <class Owner, class TheField>
Control<Owner> controlOf(const TheField&, const RunUpKind&) {
  return typename EditableField<Owner>::RunUpOf{valueIn<Owner, RunUp, TheField>};
}
template <class E>
std::string labelOf(const Choice<E>& choice) {
  return std::string(choice.label.empty() ? choice.words : choice.label);
}

template <class Owner, class TheField, class E>
Control<Owner> controlOf(const TheField&, const ChoiceKind<E>& kind) {
  typename EditableField<Owner>::OneOf control;
  control.isList = kind.isList;
  for (const Choice<E>& choice : kChoices<E>)
    control.options.push_back({labelOf(choice), std::string(choice.detail)});
  control.get = [](const Owner& owner) { return static_cast<std::size_t>(TheField::in(owner)); };
  control.set = [](Owner& owner, std::size_t option) { TheField::in(owner) = kChoices<E>[option].value; };
  return control;
}

/// Nothing comes first.
template <class Owner, class TheField, class E>
Control<Owner> controlOf(const TheField&, const OptionalChoiceKind<E>&) {
  typename EditableField<Owner>::OneOf control;
  control.isList = true;
  control.options.push_back({"as the brief", ""});
  for (const Choice<E>& choice : kChoices<E>)
    control.options.push_back({labelOf(choice), std::string(choice.detail)});
  control.get = [](const Owner& owner) {
    const auto& value = TheField::in(owner);
    return value ? static_cast<std::size_t>(*value) + 1 : 0;
  };
  control.set = [](Owner& owner, std::size_t option) {
    auto& value = TheField::in(owner);
    value.reset();
    if (option > 0) value = kChoices<E>[option - 1].value;
  };
  return control;
}

template <class Owner, class TheField>
Control<Owner> controlOf(const TheField&, const OneOfKind& kind) {
  typename EditableField<Owner>::OneOf control;
  control.isList = true;
  std::vector<int> values;
  if (kind.zeroWords != nullptr) {
    values.push_back(0);
    control.options.push_back({kind.zeroWords, ""});
  }
  for (const int value : kind.values) {
    if (value == 0) continue;
    values.push_back(value);
    control.options.push_back(
        {std::to_string(value) + (*kind.unit == '\0' ? "" : std::string(" ") + kind.unit), ""});
  }
  control.get = [values](const Owner& owner) {
    return static_cast<std::size_t>(std::find(values.begin(), values.end(), TheField::in(owner)) -
                                    values.begin());
  };
  control.set = [values](Owner& owner, std::size_t option) { TheField::in(owner) = values[option]; };
  return control;
}

/// Where a field of the overrides changes anything; null: always.
template <class TheField>
bool (*conditionOf(const TheField& field))(const Overrides&) {
  if (isField<&Overrides::faderDb>(field))
    return [](const Overrides& o) { return o.faders == Faders::Value; };
  if (isField<&Overrides::tags>(field))
    return [](const Overrides& o) { return o.inserts == InsertChoice::Tagged; };
  return nullptr;
}

/// Where a field of a loop that belongs to a way matters, whatever the brief says; null: always.
template <LoopWay Way>
bool mayLoop(const OwnLoop& loop) {
  return !loop.way || loop.way == Way;
}
bool (*conditionOf(LoopWay way))(const OwnLoop&) {
  switch (way) {
    case LoopWay::InnerLap: return mayLoop<LoopWay::InnerLap>;
    case LoopWay::Blend: return mayLoop<LoopWay::Blend>;
    case LoopWay::Plain: return mayLoop<LoopWay::Plain>;
    default: return nullptr;
  }
}

/// Adds what a person can change of a field.
template <class Owner, class TheField>
void collect(std::vector<EditableField<Owner>>& fields, const TheField& field) {
  if constexpr (requires { controlOf<Owner>(field, field.kind); }) {
    if (*field.label == '\0') return;
    EditableField<Owner> found{field.key,   PhraseKind::Overrides,
                               field.label, field.label,
                               nullptr,     controlOf<Owner>(field, field.kind)};
    if constexpr (requires { field.phrase; }) {
      found.phrase = field.phrase;
      found.act = field.act;
      found.matters = field.matters;
      if (auto* number = std::get_if<typename EditableField<Owner>::OptionalNumber>(&found.control))
        number->sense = field.sense;
    } else if constexpr (std::is_same_v<Owner, Overrides>) {
      found.matters = conditionOf(field);
    } else if constexpr (std::is_same_v<Owner, OwnLoop>) {
      found.matters = conditionOf(wayOfField<OwnLoop>(field));
    } else if constexpr (std::is_same_v<Owner, OwnLevelling>) {
      if (isField<&OwnLevelling::level, &OwnLevelAim::target>(field)) {
        found.matters = [](const OwnLevelling& own) { return own.level.kind.has_value(); };
        std::get<typename EditableField<Owner>::OptionalNumber>(found.control).sense =
            [](const OwnLevelling& own) {
              const LevelKind kind = own.level.kind.value_or(LevelKind::None);
              return NumberSense{unitOf(kind), usualTarget(kind)};
            };
      }
    }
    fields.push_back(std::move(found));
  }
}

template <class Owner>
std::vector<EditableField<Owner>> collected() {
  std::vector<EditableField<Owner>> found;
  if constexpr (std::is_same_v<Owner, OwnLevelling>)
    std::apply([&](const auto&... aim) { (collect(found, fields::inside<&OwnLevelling::level>(aim)), ...); },
               describe(static_cast<const OwnLevelAim*>(nullptr)).fields);
  forEachField<Owner>([&](const auto& field) { collect(found, field); });
  if constexpr (std::is_same_v<Owner, Brief>) {
    std::apply([&](const auto&... loop) { (collect(found, loop), ...); }, fields::loopPhrase());
    std::apply([&](const auto&... level) { (collect(found, level), ...); }, fields::levelPhrase());
    std::apply([&](const auto&... data) { (collect(found, data), ...); }, fields::dataPhrase());
  }
  return found;
}

}  // namespace

const std::vector<EditableField<Brief>>& editableFields() {
  static const auto kFields = collected<Brief>();
  return kFields;
}

const std::vector<EditableField<OwnEnds>>& editableOwnEnds() {
  static const auto kFields = collected<OwnEnds>();
  return kFields;
}

const std::vector<EditableField<OwnLoop>>& editableOwnLoop() {
  static const auto kFields = collected<OwnLoop>();
  return kFields;
}

const std::vector<EditableField<OwnLevelling>>& editableOwnLevelling() {
  static const auto kFields = collected<OwnLevelling>();
  return kFields;
}

const std::vector<EditableField<Overrides>>& editableOverrides() {
  static const auto kFields = collected<Overrides>();
  return kFields;
}

}  // namespace octaphon
