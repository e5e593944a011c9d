// Reads the keys of one JSON object with checks; the first mistake is kept with its place, and the values
// after it do not matter.
#pragma once

#include <functional>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include <nlohmann/json.hpp>

#include "base/frames.h"
#include "base/job_control.h"
#include "base/result.h"

namespace octaphon {

/// Shared by all objects of one file.
class ReadContext {
 public:
  explicit ReadContext(std::string file, JobControl* job = nullptr) : file_(std::move(file)), job_(job) {}
  /// One more object is read.
  void count();
  void fail(const std::string& place, std::string text, std::string cure = {});
  bool failed() const { return error_.has_value(); }
  const std::optional<Error>& error() const { return error_; }

 private:
  std::string file_;
  JobControl* job_;
  std::optional<Error> error_;
};

class Fields {
 public:
  Fields(const nlohmann::json& value, std::string place, ReadContext& context);

  bool has(const char* key) const { return object_->contains(key); }
  const std::string& place() const { return place_; }
  void wrong(const char* key, const std::string& text, std::string cure = {}) const;

  std::string text(const char* key, std::string otherwise = {});
  /// A reference to an id; empty only when not required.
  std::string reference(const char* key, bool required);
  bool flag(const char* key, bool otherwise);
  /// A list of texts; an absent key is an empty one.
  std::vector<std::string> textList(const char* key);
  /// An object of texts; an absent key is an empty one.
  std::map<std::string, std::string> texts(const char* key);
  /// An object of objects of texts; an absent key is an empty one.
  std::map<std::string, std::map<std::string, std::string>> textMaps(const char* key);
  /// An object of numbers within ±most; an absent key is an empty one.
  std::map<std::string, double> numbers(const char* key, double most);
  /// 0 … kMaxFrame.
  Frame frame(const char* key, std::optional<Frame> otherwise = std::nullopt);
  double number(const char* key, double otherwise, double least, double most);
  int integer(const char* key, int otherwise, int least, int most);

  /// Calls read(Fields) for each object of an array; an absent key is an empty array.
  void each(const char* key, const std::function<void(Fields&)>& read);
  /// The same of an array that holds texts too.
  void eachOr(const char* key, const std::function<void(std::string)>& text,
              const std::function<void(Fields&)>& read);
  /// The object behind a key, or an empty one.
  Fields object(const char* key);
  const nlohmann::json* raw(const char* key);

  /// JSON of the keys that nobody asked for; empty when there are none.
  std::string unknownKeys() const;

 private:
  const nlohmann::json* find(const char* key);
  const nlohmann::json* object_;
  std::string place_;
  ReadContext* context_;
  std::vector<const char*> used_;
};

}  // namespace octaphon
