#include "session/fields.h"

#include <algorithm>
#include <cmath>

#include "base/unicode.h"
#include "session/session.h"

namespace octaphon {
namespace {

using nlohmann::json;

const json kEmptyObject = json::object();

std::string exactNumber(double value) { return json(value).dump(); }

}  // namespace

void ReadContext::fail(const std::string& place, std::string text, std::string cure) {
  if (error_) return;
  error_ = Error{ErrorCode::BadValue, place.empty() ? file_ : file_ + ": " + place, std::move(text),
                 std::move(cure)};
}

void ReadContext::count() {
  finishPart(job_);
  if (!error_ && isStopped(job_)) error_ = Error{ErrorCode::Cancelled, file_, "it was stopped", {}};
}

Fields::Fields(const json& value, std::string place, ReadContext& context)
    : object_(&value), place_(std::move(place)), context_(&context) {
  context_->count();
  if (value.is_object()) return;
  context_->fail(place_, "here stands something else than an object", "Put the keys in { }");
  object_ = &kEmptyObject;
}

void Fields::wrong(const char* key, const std::string& text, std::string cure) const {
  context_->fail(place_.empty() ? key : place_ + "." + key, printable(text, 300), std::move(cure));
}

const json* Fields::find(const char* key) {
  used_.push_back(key);
  const auto found = object_->find(key);
  return found == object_->end() ? nullptr : &*found;
}

const json* Fields::raw(const char* key) { return find(key); }

std::string Fields::text(const char* key, std::string otherwise) {
  const json* value = find(key);
  if (value == nullptr) return otherwise;
  if (!value->is_string()) {
    wrong(key, "a text in quotes is needed");
    return otherwise;
  }
  const auto& text = value->get_ref<const std::string&>();
  if (text.find('\0') != std::string::npos) wrong(key, "the text holds a zero character");
  if (text.size() > 1'000'000) wrong(key, "the text is longer than a million bytes");
  return text;
}

std::string Fields::reference(const char* key, bool required) {
  std::string id = text(key);
  if (id.empty()) {
    if (required)
      wrong(key, has(key) ? "an id may not be empty" : "it is missing",
            "Give it 1 to 64 letters, digits, '.', '_' or '-'");
    return id;
  }
  if (!isAllowedId(id))
    wrong(key, "'" + printable(id, 80) + "' is not an id",
          "Use 1 to 64 letters, digits, '.', '_' or '-'; 'main' is taken");
  return id;
}

bool Fields::flag(const char* key, bool otherwise) {
  const json* value = find(key);
  if (value == nullptr) return otherwise;
  if (value->is_boolean()) return value->get<bool>();
  wrong(key, "true or false is needed");
  return otherwise;
}

std::vector<std::string> Fields::textList(const char* key) {
  std::vector<std::string> texts;
  const json* value = find(key);
  if (value == nullptr) return texts;
  if (!value->is_array()) {
    wrong(key, "a list of texts is needed");
    return texts;
  }
  for (const json& text : *value) {
    if (text.is_string())
      texts.push_back(text);
    else
      wrong(key, "each of the list is a text in quotes");
  }
  return texts;
}

std::map<std::string, std::map<std::string, std::string>> Fields::textMaps(const char* key) {
  Fields inside = object(key);
  std::map<std::string, std::map<std::string, std::string>> maps;
  for (const auto& [name, value] : inside.object_->items()) maps[name] = inside.texts(name.c_str());
  return maps;
}

std::map<std::string, std::string> Fields::texts(const char* key) {
  Fields inside = object(key);
  std::map<std::string, std::string> texts;
  for (const auto& [name, value] : inside.object_->items()) texts[name] = inside.text(name.c_str());
  return texts;
}

std::map<std::string, double> Fields::numbers(const char* key, double most) {
  Fields inside = object(key);
  std::map<std::string, double> numbers;
  for (const auto& [name, value] : inside.object_->items())
    numbers[name] = inside.number(name.c_str(), 0, -most, most);
  return numbers;
}

Frame Fields::frame(const char* key, std::optional<Frame> otherwise) {
  const json* value = find(key);
  if (value == nullptr) {
    if (!otherwise) wrong(key, "it is missing", "Give it as a whole number of frames");
    return otherwise.value_or(0);
  }
  if (value->is_number_unsigned() && value->get<std::uint64_t>() <= static_cast<std::uint64_t>(kMaxFrame))
    return static_cast<Frame>(value->get<std::uint64_t>());
  if (value->is_number())
    wrong(key, value->dump() + " is not a whole number of frames from 0 to 2^53 - 1");
  else
    wrong(key, "a whole number of frames is needed");
  return otherwise.value_or(0);
}

double Fields::number(const char* key, double otherwise, double least, double most) {
  const json* value = find(key);
  if (value == nullptr) return otherwise;
  if (!value->is_number()) {
    wrong(key, "a number is needed");
    return otherwise;
  }
  const double number = value->get<double>();
  if (std::isfinite(number) && number >= least && number <= most) return number;
  wrong(key, value->dump() + " is out of range", "Use " + exactNumber(least) + " to " + exactNumber(most));
  return otherwise;
}

int Fields::integer(const char* key, int otherwise, int least, int most) {
  const double value = number(key, otherwise, least, most);
  if (value != std::floor(value)) wrong(key, "a whole number is needed");
  return static_cast<int>(value);
}

void Fields::each(const char* key, const std::function<void(Fields&)>& read) { eachOr(key, nullptr, read); }

void Fields::eachOr(const char* key, const std::function<void(std::string)>& text,
                    const std::function<void(Fields&)>& read) {
  const json* value = find(key);
  if (value == nullptr) return;
  if (!value->is_array()) return wrong(key, "a list in [ ] is needed");
  const std::string head = (place_.empty() ? "" : place_ + ".") + std::string(key) + "[";
  for (std::size_t i = 0; i < value->size() && !context_->failed(); ++i) {
    if (text && (*value)[i].is_string()) {
      text((*value)[i].get<std::string>());
      continue;
    }
    Fields item((*value)[i], head + std::to_string(i) + "]", *context_);
    read(item);
  }
}

Fields Fields::object(const char* key) {
  const json* value = find(key);
  return {value == nullptr ? kEmptyObject : *value, place_.empty() ? key : place_ + "." + key, *context_};
}

std::string Fields::unknownKeys() const {
  json rest = json::object();
  for (const auto& [key, value] : object_->items())
    if (std::none_of(used_.begin(), used_.end(), [&](const char* used) { return key == used; }))
      rest[key] = value;
  return rest.empty() ? std::string() : rest.dump();
}

}  // namespace octaphon
