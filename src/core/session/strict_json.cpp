#include "session/strict_json.h"

#include <algorithm>

#include "base/unicode.h"

namespace octaphon {
namespace {

using nlohmann::json;

/// Builds the value and stops at the first thing that is not allowed.
class Builder : public nlohmann::json_sax<json> {  // NOLINT(bugprone-exception-escape): of the library
 public:
  explicit Builder(JobControl* job) : job_(job) {}

  bool null() override { return put(nullptr); }
  bool boolean(bool value) override { return put(value); }
  bool number_integer(number_integer_t value) override { return put(value); }
  bool number_unsigned(number_unsigned_t value) override { return put(value); }
  bool number_float(number_float_t value, const string_t&) override { return put(value); }
  bool string(string_t& value) override { return spend(kTextBytes + value.size()) && put(std::move(value)); }
  bool binary(binary_t&) override { return refuse("binary values are not JSON"); }

  bool start_object(std::size_t) override {
    finishPart(job_);
    return !isStopped(job_) && open(json::object());
  }
  bool start_array(std::size_t) override { return open(json::array()); }
  bool end_object() override { return close(); }
  bool end_array() override { return close(); }

  bool key(string_t& name) override {
    if (!spend(kKeyBytes + name.size())) return false;
    auto& object = levels_.back()->get_ref<json::object_t&>();
    const auto [place, isNew] = object.emplace(std::move(name), nullptr);
    if (!isNew) return refuse("the key '" + printable(place->first, 60) + "' is there twice");
    slot_ = &place->second;
    return true;
  }

  bool parse_error(std::size_t position, const std::string&, const json::exception& problem) override {
    position_ = position;
    // The library's text begins with a tag in brackets and its own idea of the place.
    std::string text = problem.what();
    if (const std::size_t at = text.find("syntax error"); at != std::string::npos)
      text = text.substr(at);
    else if (const std::size_t bracket = text.find("] "); bracket != std::string::npos)
      text = text.substr(bracket + 2);
    message_ = printable(text, 200);
    return false;
  }

  json take() { return std::move(root_); }
  const std::string& message() const { return message_; }
  std::size_t position() const { return position_; }

 private:
  // What they take of the heap, seen with large files of them: lists grow by doubling.
  static constexpr std::size_t kValueBytes = 48, kTextBytes = 48, kListBytes = 72, kKeyBytes = 96;

  bool refuse(std::string message) {
    message_ = std::move(message);
    return false;
  }

  /// Counts memory; false where it is too much.
  bool spend(std::size_t bytes) {
    spent_ += bytes;
    return spent_ <= kJsonMemory || refuse("it holds more than a session can");
  }

  json* add(json&& value) {
    if (levels_.empty()) {
      root_ = std::move(value);
      return &root_;
    }
    json& top = *levels_.back();
    if (top.is_array()) {
      top.push_back(std::move(value));
      return &top.back();
    }
    *slot_ = std::move(value);
    return slot_;
  }

  bool put(json&& value) {
    if (!spend(kValueBytes)) return false;
    add(std::move(value));
    return true;
  }

  bool open(json&& value) {
    if (levels_.size() >= kJsonDepth) return refuse("it is nested more than 64 levels deep");
    if (!spend(kValueBytes + kListBytes)) return false;
    levels_.push_back(add(std::move(value)));
    return true;
  }

  bool close() {
    levels_.pop_back();
    return true;
  }

  JobControl* job_;
  json root_;
  std::vector<json*> levels_;
  json* slot_ = nullptr;
  std::size_t spent_ = 0;
  std::string message_;
  std::size_t position_ = 0;
};

std::string lineAndColumn(std::string_view text, std::size_t position) {
  const std::string_view before = text.substr(0, std::min(position == 0 ? 0 : position - 1, text.size()));
  const auto line = std::count(before.begin(), before.end(), '\n') + 1;
  const std::size_t lineStart = before.rfind('\n') == std::string_view::npos ? 0 : before.rfind('\n') + 1;
  return "line " + std::to_string(line) + ", column " + std::to_string(before.size() - lineStart + 1);
}

}  // namespace

Result<json> parseStrictJson(std::string_view text, const std::string& place, JobControl* job) {
  Builder builder(job);
  if (json::sax_parse(text.begin(), text.end(), &builder)) return builder.take();
  if (isStopped(job)) return fail(ErrorCode::Cancelled, place, "it was stopped");
  std::string where = place;
  if (builder.position() > 0) where += ", " + lineAndColumn(text, builder.position());
  return fail(ErrorCode::Syntax, where, builder.message(),
              "Take a copy that is whole, or mend this place in a text editor");
}

}  // namespace octaphon
