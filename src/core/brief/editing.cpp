#include "brief/editing.h"

#include "brief/description.h"

namespace octaphon {
namespace {

using Control = decltype(EditableField::control);

template <class TheField>
Control controlOf(const TheField&, const FlagKind&) {
  return EditableField::Flag{[](Brief& brief) -> bool& { return TheField::in(brief); }};
}

template <class TheField>
Control controlOf(const TheField&, const NumberKind& kind) {
  return EditableField::Number{kind, [](Brief& brief) -> double& { return TheField::in(brief); }};
}

template <class TheField>
Control controlOf(const TheField&, const TextKind&) {
  return EditableField::Text{[](Brief& brief) -> std::string& { return TheField::in(brief); }};
}

template <class TheField, class E>
Control controlOf(const TheField&, const ChoiceKind<E>&) {
  EditableField::OneOf control;
  for (const Choice<E>& choice : kChoices<E>)
    control.options.push_back({choice.label.empty() ? choice.words : choice.label, choice.detail});
  control.get = [](const Brief& brief) { return static_cast<std::size_t>(TheField::in(brief)); };
  control.set = [](Brief& brief, std::size_t option) { TheField::in(brief) = kChoices<E>[option].value; };
  return control;
}

std::vector<EditableField> collected() {
  std::vector<EditableField> fields;
  forEachField<Brief>([&](const auto& field) {
    if constexpr (requires { controlOf(field, field.kind), field.label; })
      if (*field.label != '\0')
        fields.push_back(
            {field.key, field.phrase, field.label, field.act, field.matters, controlOf(field, field.kind)});
  });
  return fields;
}

}  // namespace

const std::vector<EditableField>& editableFields() {
  static const std::vector<EditableField> kFields = collected();
  return kFields;
}

}  // namespace octaphon
