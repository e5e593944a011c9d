#include "naming/name_fields.h"

#include <algorithm>

namespace octaphon {
namespace {

constexpr bool fieldsStandInOrder() {
  for (std::size_t i = 0; i < kNameFields.size(); ++i)
    if (static_cast<std::size_t>(kNameFields[i].field) != i) return false;
  return true;
}
static_assert(fieldsStandInOrder());

std::string padded(long number, std::size_t digits) {
  std::string text = std::to_string(number);
  if (text.size() < digits) text.insert(0, digits - text.size(), '0');
  return text;
}

}  // namespace

std::string numberText(const NumberPlace& number, const NumberFormat& format) {
  if (number.place <= 0 || (format.onlySeveral && number.count <= 1)) return {};
  const auto valueOf = [&](long at) { return format.from + (at - 1) * format.step; };
  const std::size_t digits = format.digits > 0
                                 ? static_cast<std::size_t>(format.digits)
                                 : std::to_string(valueOf(std::max(number.most, number.place))).size();
  return padded(valueOf(number.place), digits);
}

std::string nameOf(const FieldUse& use) {
  const NameFieldInfo& info = nameFieldInfo(use.field);
  return std::string(info.name) + (info.hasLevel ? std::to_string(use.level) : std::string());
}

std::optional<std::size_t> levelIndex(std::size_t count, int level) {
  const auto wanted = static_cast<std::size_t>(std::abs(level));
  if (wanted == 0 || wanted > count) return std::nullopt;
  return level > 0 ? wanted - 1 : count - wanted;
}

}  // namespace octaphon
