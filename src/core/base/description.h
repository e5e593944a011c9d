// Descriptions of values: which fields they have, under which key, of which kind and within which range. One
// description a type, describe(const T*), stands beside it; reading, writing, the schema, the pages of the
// format, undo and editors walk it (forEachField), so that they cannot disagree. Nothing here knows of files.
#pragma once

#include <array>
#include <concepts>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <tuple>
#include <vector>

#include "base/frames.h"
#include "base/members.h"

namespace octaphon {

// --- kinds: what a field may hold

struct IdKind {};  ///< text that names the thing itself: 1 to 64 of A–Z a–z 0–9 . _ -, not `main`
/// The id of another thing; empty where it is not `isNeeded`.
struct ReferenceKind {
  bool isNeeded = false;
};
/// The id of a strip, or `main`.
struct StripReferenceKind {};
struct TextKind {
  const char* cureWhereMissing = nullptr;  ///< set: the text may not be empty
};
struct FlagKind {};
struct NumberKind {
  double least, most;
  const char* unit = "";  ///< as people write it: `s`, `ms`, `dB`
  int decimals = 2;       ///< that an editor offers
};
/// In files also null: nothing.
struct OptionalNumberKind {
  NumberKind number;
  double offered = 0;  ///< what an editor begins with
};
/// What a number counts, and what an editor begins with, where that depends on other fields.
struct NumberSense {
  const char* unit;
  double offered;
};
struct IntegerKind {
  int least, most;
  const char* cureWhereMissing = nullptr;  ///< set: it has to be there
};
/// One of a few whole numbers, in their order; unused places are 0.
struct OneOfKind {
  std::array<int, 16> values;
  const char* zeroWords = nullptr;  ///< set: 0 is allowed too, and means this
  const char* unit = "";            ///< as people write it
};
/// 0 … kMaxFrame.
struct FramesKind {
  bool isNeeded = false;
};
/// A value of choicesOf(E).
template <class E>
struct ChoiceKind {
  bool isList = false;  ///< an editor shows it as a list that opens
};
template <class E>
struct OptionalChoiceKind {};
struct TagsKind {};      ///< texts that are not empty
struct TextListKind {};  ///< texts
struct TextMapKind {};   ///< texts by free keys
struct NumberMapKind {
  double most;  ///< magnitude
};
struct TextMapsKind {};  ///< maps of texts by free keys
template <class T>
struct ListKind {
  std::size_t most = 0;  ///< things; 0: any number
};
template <class T>
struct ObjectKind {};
/// Its fields stand among those of its owner. Of std::optional<T>: all of them or none.
template <class T>
struct InlineKind {};

// --- fields

/// `Path` leads from the owner to the value: a pointer to member, or several, each inside the one before.
template <class Kind, auto... Path>
struct Field {
  const char* key;  ///< in files
  Kind kind;
  const char* meaning = "";  ///< for the pages of the format
  bool isAlwaysWritten = false;
  const char* label = "";  ///< beside a control, and for undo; empty: no control is made of it

  /// Written even at its default.
  constexpr Field always() const {
    Field field = *this;
    field.isAlwaysWritten = true;
    return field;
  }
  constexpr Field labelled(const char* words) const {
    Field field = *this;
    field.label = words;
    return field;
  }
  template <class Owner>
  static constexpr auto& in(Owner& owner) {
    return (owner.*....*Path);
  }
};

template <auto... Path, class Kind>
constexpr Field<Kind, Path...> field(const char* key, Kind kind, const char* meaning = "") {
  return {key, kind, meaning, false, ""};
}

template <class... Fields>
struct Description {
  const char* name;  ///< of the thing: `region`
  std::tuple<Fields...> fields;
};

template <class... Fields>
constexpr Description<Fields...> description(const char* name, Fields... fields) {
  return {name, {fields...}};
}

template <class... Fields>
constexpr Description<Fields...> describedBy(const char* name, std::tuple<Fields...> fields) {
  return {name, fields};
}

/// Calls visit(field) for each field of T, in the order in which files have them.
template <class T, class Visit>
constexpr void forEachField(const Visit& visit) {
  std::apply([&](const auto&... fields) { (visit(fields), ...); },
             describe(static_cast<const T*>(nullptr)).fields);
}

template <auto... Path>
struct MemberPath {};

/// Whether a field is the one that `Member...` leads to.
template <auto... Member, class Kind, auto... Path>
constexpr bool isField(const Field<Kind, Path...>&) {
  return std::is_same_v<MemberPath<Path...>, MemberPath<Member...>>;
}

/// Whether two values have the same fields but for one.
template <auto Member, class T>
bool equalBut(const T& a, const T& b) {
  bool same = true;
  forEachField<T>([&](const auto& field) {
    if (!isField<Member>(field)) same = same && field.in(a) == field.in(b);
  });
  return same;
}

template <class T>
inline constexpr bool kIsOptional = false;
template <class T>
inline constexpr bool kIsOptional<std::optional<T>> = true;

// --- completeness

namespace members {

template <class T>
struct OfMember;
template <class Owner, class Value>
struct OfMember<Value Owner::*> {
  using owner = Owner;
};

/// Whether the last pointer of the path is to a member of Owner.
template <class Owner, class Kind, auto... Path>
constexpr std::size_t liesIn(const Field<Kind, Path...>&) {
  using Last =
      std::tuple_element_t<sizeof...(Path) - 1, std::tuple<OfMember<std::remove_const_t<decltype(Path)>>...>>;
  return std::is_same_v<typename Last::owner, Owner> ? 1 : 0;
}

}  // namespace members

/// Whether T's description has a field for each member of `Owner`, T itself or a value in it, but for
/// `others` members (unknownKeys, and what is not on disk).
template <class T, class Owner = T>
constexpr bool isDescribedWhole(std::size_t others = 1) {
  std::size_t fields = 0;
  forEachField<T>([&](const auto& field) { fields += members::liesIn<Owner>(field); });
  return fields + others == kMemberCount<Owner>;
}

}  // namespace octaphon
