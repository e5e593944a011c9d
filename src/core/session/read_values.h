// Reads values out of JSON as their descriptions say.
#pragma once

#include "session/description.h"
#include "session/fields.h"
#include "session/mistakes.h"

namespace octaphon {

/// The fields of one object into a new value. Mistakes go to the fields' context; keys that no field has are
/// kept in `unknownKeys`.
template <class T>
T readObject(Fields& from);

namespace reading {

/// Not there, or null.
bool isNothing(Fields& from, const char* key);

void put(Fields& from, const char* key, const IdKind&, std::string& id);
void put(Fields& from, const char* key, const ReferenceKind& kind, std::string& id);
void put(Fields& from, const char* key, const StripReferenceKind&, std::string& id);
void put(Fields& from, const char* key, const TextKind& kind, std::string& text);
void put(Fields& from, const char* key, const FlagKind&, bool& flag);
void put(Fields& from, const char* key, const NumberKind& kind, double& number);
void put(Fields& from, const char* key, const OptionalNumberKind& kind, std::optional<double>& number);
void put(Fields& from, const char* key, const IntegerKind& kind, int& number);
void put(Fields& from, const char* key, const OneOfKind& kind, int& number);
void put(Fields& from, const char* key, const FramesKind& kind, Frame& frames);
void put(Fields& from, const char* key, const TagsKind&, std::vector<std::string>& tags);
void put(Fields& from, const char* key, const TextListKind&, std::vector<std::string>& texts);
void put(Fields& from, const char* key, const TextMapKind&, std::map<std::string, std::string>& texts);
void put(Fields& from, const char* key, const NumberMapKind& kind, std::map<std::string, double>& numbers);
void put(Fields& from, const char* key, const TextMapsKind&, std::map<std::string, Facts>& maps);
void put(Fields& from, const char* key, const SelectionKind&, Selection& selection);
void put(Fields& from, const char* key, const ReachKind&, Reach& reach);
void put(Fields& from, const char* key, const RunUpKind&, RunUp& runUp);
void put(Fields& from, const char* key, const OutputChannelsKind&, OutputChannels& channels);
void put(Fields& from, const char* key, const JsonKind&, std::string& object);
void put(Fields& from, const char* key, const PictureRateKind&, PictureRate& rate);
void put(Fields& from, const char* key, const TimecodeKind&, Frame& picture);

template <class E>
void put(Fields& from, const char* key, const ChoiceKind<E>&, E& value) {
  if (!from.has(key)) return;
  const std::string name = from.text(key);
  std::string names;
  for (const Choice<E>& choice : kChoices<E>) names += (names.empty() ? "" : ", ") + std::string(choice.name);
  if (const auto parsed = parseChoice<E>(name))
    value = *parsed;
  else
    from.wrong(key, "'" + name + "' is not known here", "Use one of " + names);
}

template <class E>
void put(Fields& from, const char* key, const OptionalChoiceKind<E>&, std::optional<E>& value) {
  if (isNothing(from, key)) return;
  put(from, key, ChoiceKind<E>{}, value.emplace());
}

template <class T>
void put(Fields& from, const char* key, const ListKind<T>& kind, std::vector<T>& things) {
  from.each(key, [&](Fields& object) {
    T thing = readObject<T>(object);
    if constexpr (requires { mistakeAfter(&thing, thing); })
      if (const auto mistake = mistakeAfter(things.empty() ? nullptr : &things.back(), thing))
        object.wrong(mistake->key.c_str(), mistake->text, mistake->cure);
    things.push_back(std::move(thing));
  });
  if (kind.most > 0 && things.size() > kind.most)
    from.wrong(key, "there are more than " + std::to_string(kind.most));
}
template <class T>
void put(Fields& from, const char* key, const ListKind<T>& kind, SharedList<T>& things) {
  put(from, key, kind, things.writable());
}

template <class T>
void put(Fields& from, const char* key, const ObjectKind<T>&, T& thing) {
  if (isNothing(from, key)) return;
  Fields object = from.object(key);
  thing = readObject<T>(object);
}

template <class T>
void put(Fields& from, const char* key, const InlineKind<T>&, T& thing);

/// Fields that stand among those of their owner.
template <class T>
void putInline(Fields& from, T& thing) {
  if constexpr (kIsOptional<T>) {
    bool isThere = false;
    forEachField<typename T::value_type>([&](const auto& field) { isThere |= from.has(field.key); });
    if (isThere) putInline(from, thing.emplace());
  } else {
    forEachField<T>([&](const auto& field) { put(from, field.key, field.kind, field.in(thing)); });
  }
}

template <class T>
void put(Fields& from, const char*, const InlineKind<T>&, T& thing) {
  putInline(from, thing);
}

}  // namespace reading

/// What first versions of the format said with fewer keys.
void settleOldKeys(Fields& from, Brief& brief);

template <class T>
T readObject(Fields& from) {
  T thing;
  reading::putInline(from, thing);
  if constexpr (requires { settleOldKeys(from, thing); }) settleOldKeys(from, thing);
  if constexpr (requires { thing.unknownKeys; }) thing.unknownKeys = from.unknownKeys();
  if constexpr (requires { mistakeIn(thing); })
    if (const auto mistake = mistakeIn(thing)) from.wrong(mistake->key.c_str(), mistake->text, mistake->cure);
  return thing;
}

}  // namespace octaphon
