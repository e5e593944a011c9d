#include "formats/vorbis_comment.h"

#include <algorithm>

#include "base/letters.h"
#include "base/unicode.h"
#include "formats/riff_bytes.h"

namespace octaphon {
namespace {

constexpr std::size_t kMostComments = 100'000;

/// Names of fields are ASCII from space to }, without =.
std::string fieldName(const std::string& name) {
  bool isLost = false;
  std::string field = upperCase(asciiText(name, Spelling::Plain, isLost));
  std::replace_if(
      field.begin(), field.end(), [](char c) { return c < ' ' || c > '}' || c == '='; }, '_');
  return field;
}

std::string numbered(std::size_t index) {
  const std::string digits = std::to_string(index);
  return "CHAPTER" + std::string(3 - std::min<std::size_t>(3, digits.size()), '0') + digits;
}

std::string chapterTime(Frame at, int rate) {
  const Frame ms = atRate(at, rate, 1000);
  char text[40];
  std::snprintf(text, sizeof text, "%02lld:%02lld:%02lld.%03lld", static_cast<long long>(ms / 3'600'000),
                static_cast<long long>(ms / 60'000 % 60), static_cast<long long>(ms / 1000 % 60),
                static_cast<long long>(ms % 1000));
  return text;
}

void addChapters(Comments& comments, const std::vector<FileMark>& marks, int rate, int placesAt) {
  std::size_t index = 0;
  for (const FileMark& mark : marks) {
    const std::string name = numbered(++index);
    comments.emplace_back(name, chapterTime(mark.at, rate));
    comments.emplace_back(name + "NAME", mark.label);
    comments.emplace_back(name + "FRAME", std::to_string(atRate(mark.at, rate, placesAt)));
    if (mark.length > 0)
      comments.emplace_back(name + "FRAMES", std::to_string(atRate(mark.length, rate, placesAt)));
  }
}

}  // namespace

Comments commentsOf(const FileData& data, const FileForm& form) {
  Comments comments;
  const auto add = [&](std::string field, const std::string& text) {
    if (!field.empty() && !text.empty()) comments.emplace_back(std::move(field), text);
  };
  const bool isOpus = form.encoding == Encoding::Opus;
  const int placesAt = isOpus ? 48000 : form.rate;
  if (!data.isPlain) {
    for (const TagInfo& info : kTagInfos) add(std::string(info.vorbis), data.text(info.tag));
    add("DATE", data.date);
    add("ENCODER", "Octaphon");
    for (const auto& [name, value] : data.facts) add(fieldName(name), value);
    add("OCTAPHON_ROW", data.rowMark);
    add("OCTAPHON_MADE", data.madeMark);
  }
  if (encodingInfo(form.encoding).container == Container::Flac) {
    // With sides, not backs (RFC 9639, 8.6.2: field of a channel mask).
    if (form.channels == 6 && !form.isStacked) add("WAVEFORMATEXTENSIBLE_CHANNEL_MASK", "0x060F");
  } else {
    add("TIME_REFERENCE", std::to_string(atRate(data.timeReference, form.rate, placesAt)));
    addChapters(comments, data.marks, form.rate, placesAt);
  }
  if (data.loop && data.loopComments) {
    const Frame start = atRate(data.loop->start, form.rate, placesAt);
    add("LOOPSTART", std::to_string(start));
    add("LOOPLENGTH", std::to_string(atRate(data.loop->end, form.rate, placesAt) - start));
  }
  return comments;
}

std::string packedComments(std::string_view vendor, const Comments& comments) {
  std::string bytes;
  putNumber(bytes, vendor.size(), 4);
  bytes += vendor;
  putNumber(bytes, comments.size(), 4);
  for (const auto& [field, text] : comments) {
    putNumber(bytes, field.size() + 1 + text.size(), 4);
    bytes += field + "=" + text;
  }
  return bytes;
}

bool readComments(std::string_view bytes, std::string& vendor, Comments& comments) {
  const auto number = [&]() -> std::optional<std::size_t> {
    if (bytes.size() < 4) return std::nullopt;
    std::size_t value = 0;
    for (int i = 3; i >= 0; --i)
      value = value << 8 | static_cast<unsigned char>(bytes[static_cast<std::size_t>(i)]);
    bytes.remove_prefix(4);
    return value;
  };
  const auto text = [&]() -> std::optional<std::string_view> {
    const auto size = number();
    if (!size || *size > bytes.size()) return std::nullopt;
    const std::string_view part = bytes.substr(0, *size);
    bytes.remove_prefix(*size);
    return part;
  };
  const auto who = text();
  const auto count = who ? number() : std::nullopt;
  if (!count) return false;
  vendor = *who;
  for (std::size_t i = 0; i < *count; ++i) {
    const auto comment = text();
    if (!comment || comments.size() == kMostComments) return false;
    const std::size_t equal = comment->find('=');
    if (equal == std::string_view::npos) continue;
    comments.emplace_back(comment->substr(0, equal), comment->substr(equal + 1));
  }
  return true;
}

}  // namespace octaphon
