#include <algorithm>
#include <charconv>

#include "base/calendar.h"
#include "base/unicode.h"
#include "naming/nearest_word.h"
#include "naming/template.h"

namespace octaphon {

/// Reads a template from front to back, and stops at the first mistake.
class TemplateParser {
 public:
  TemplateParser(std::string_view text, TemplateUse use) : text_(text), use_(use) {}

  std::optional<TemplateMistake> read(Template& into) {
    if (text_.size() > kLongestTemplate)
      return TemplateMistake{0, text_.size(), "it has more than 4096 bytes", "Shorten it"};
    if (!isValidUtf8(text_)) return TemplateMistake{0, text_.size(), "it is not UTF-8", "Type it anew"};
    readParts(into.parts_, 0);
    if (!mistake_ && use_ == TemplateUse::Name) checkFolders(into.parts_);
    return mistake_;
  }

 private:
  using Kind = TemplatePart::Kind;

  bool failed() const { return mistake_.has_value(); }
  bool atEnd() const { return at_ >= text_.size(); }

  void wrong(std::size_t position, std::size_t length, std::string text, std::string cure,
             std::string instead = {}) {
    length = std::min(length, text_.size() - position);
    if (!mistake_)
      mistake_ = TemplateMistake{position, length, std::move(text), std::move(cure), std::move(instead)};
  }

  // --- parts

  void readParts(std::vector<TemplatePart>& parts, int depth) {
    while (!failed() && !atEnd()) {
      const char c = text_[at_];
      const bool isDoubled = at_ + 1 < text_.size() && text_[at_ + 1] == c;
      if ((c == '{' || c == '}') && isDoubled) {
        addText(parts, c, 2);
      } else if (c == '{') {
        readField(parts);
      } else if (c == '}') {
        wrong(at_, 1, "} without {", "Write }} for the character itself", "}}");
      } else if (c == '<') {
        readOptional(parts, depth);
      } else if (c == '>') {
        if (depth > 0) return;
        wrong(at_, 1, "> without <", "Put < where the part that may drop out begins; no name can hold a >",
              "_");
      } else {
        addText(parts, c, 1);
      }
    }
  }

  void addText(std::vector<TemplatePart>& parts, char c, std::size_t length) {
    if (parts.empty() || parts.back().kind != Kind::Text) parts.emplace_back().position = at_;
    parts.back().text += c;
    parts.back().length += length;
    at_ += length;
  }

  void readOptional(std::vector<TemplatePart>& parts, int depth) {
    const std::size_t begin = at_++;
    if (depth >= kDeepestOptional)
      return wrong(begin, 1, "parts in < > stand more than 8 deep", "Take some of them out");
    TemplatePart part;
    part.kind = Kind::Optional;
    part.position = begin;
    readParts(part.inside, depth + 1);
    if (failed()) return;
    if (atEnd())
      return wrong(begin, 1, "< without >",
                   "Put > where the part that may drop out ends; no name can hold a <", "_");
    ++at_;
    part.length = at_ - begin;
    if (std::none_of(part.inside.begin(), part.inside.end(),
                     [](const TemplatePart& p) { return p.kind == Kind::Field; }))
      return wrong(begin, part.length, "the part in < > has no field of its own, so it never drops out",
                   "Leave < and > out, or put a field in it");
    parts.push_back(std::move(part));
  }

  // --- fields

  void readField(std::vector<TemplatePart>& parts) {
    TemplatePart part;
    part.kind = Kind::Field;
    part.position = at_++;
    const std::size_t begin = at_;
    while (!atEnd() && std::string_view(":|{}<>/").find(text_[at_]) == std::string_view::npos) ++at_;
    const std::string_view name = trimmed(begin, at_);
    if (atEnd()) return notClosed(part.position);
    readName(name, begin, part.field);
    if (failed()) return;
    if (text_[at_] == ':') readArgument(part.field);
    while (!failed() && !atEnd() && text_[at_] == '|') readFilter(part);
    if (failed()) return;
    if (atEnd() || text_[at_] != '}') return notClosed(part.position);
    ++at_;
    part.length = at_ - part.position;
    parts.push_back(std::move(part));
  }

  void notClosed(std::size_t position) {
    wrong(position, text_.size() - position, "{ without }",
          "Close the field, or write {{ for the character itself");
  }

  std::string_view trimmed(std::size_t begin, std::size_t end) const {
    while (begin < end && text_[begin] == ' ') ++begin;
    while (end > begin && text_[end - 1] == ' ') --end;
    return text_.substr(begin, end - begin);
  }

  void readName(std::string_view name, std::size_t begin, FieldUse& use) {
    for (const NameFieldInfo& info : kNameFields) {
      if (!info.hasLevel && info.name == name) {
        if (info.isForText && use_ == TemplateUse::Name)
          return wrong(begin - 1, at_ - begin + 2, "{" + std::string(name) + "} never stands in a name",
                       "Take it out; what files say of themselves can hold it");
        use.field = info.field;
        if (info.argument == FieldArgument::Unit)
          use.argument = std::string(info.units.substr(0, info.units.find(' ')));
        return;
      }
      if (!info.hasLevel || !name.starts_with(info.name)) continue;
      if (const auto level = wholeNumber(name.substr(info.name.size()), -99, 99); level && *level != 0) {
        use.field = info.field;
        use.level = static_cast<int>(*level);
        return;
      }
    }
    unknownField(name, begin);
  }

  void unknownField(std::string_view name, std::size_t begin) {
    std::vector<std::string_view> names;
    for (const NameFieldInfo& info : kNameFields)
      if (!info.hasLevel && (!info.isForText || use_ == TemplateUse::Text)) names.push_back(info.name);
    const std::string_view near = nearestWord(name, names);
    std::string all;
    for (const std::string_view known : names) all += (all.empty() ? "{" : " {") + std::string(known) + "}";
    wrong(begin - 1, at_ - begin + 2, "there is no field {" + printable(name, 40) + "}",
          near.empty() ? "Fields are " + all : "Did you mean {" + std::string(near) + "}?",
          near.empty() ? "" : "{" + std::string(near) + "}");
  }

  static std::optional<long> wholeNumber(std::string_view text, long least, long most) {
    long number = 0;
    const auto [end, problem] = std::from_chars(text.data(), text.data() + text.size(), number);
    if (problem != std::errc() || end != text.data() + text.size() || number < least || number > most)
      return std::nullopt;
    return number;
  }

  /// Behind the colon, up to a bar or the brace; texts may stand in double quotes.
  void readArgument(FieldUse& use) {
    const NameFieldInfo& info = nameFieldInfo(use.field);
    const std::size_t begin = ++at_;
    std::string text;
    const bool isQuoted = readQuoted(text, begin);
    if (failed()) return;
    if (!isQuoted) {
      while (!atEnd() && text_[at_] != '|' && text_[at_] != '}') ++at_;
      text =
          info.argument == FieldArgument::Separator ? text_.substr(begin, at_ - begin) : trimmed(begin, at_);
    } else if (!atEnd() && text_[at_] != '|' && text_[at_] != '}') {
      return wrong(at_, 1, "something stands behind the quotes", "End the field with } or go on with |");
    }
    takeArgument(info, use, std::move(text), begin);
  }

  /// `"…"` with `""` for the sign itself; spaces around it are passed over. False where there is none.
  bool readQuoted(std::string& text, std::size_t begin) {
    std::size_t i = begin;
    while (i < text_.size() && text_[i] == ' ') ++i;
    if (i >= text_.size() || text_[i] != '"') return false;
    const std::size_t open = i++;
    for (;; ++i) {
      if (i >= text_.size()) {
        wrong(open, text_.size() - open, "\" without another \"", "Close the quotes");
        return false;
      }
      if (text_[i] == '"' && (i + 1 >= text_.size() || text_[i + 1] != '"')) break;
      if (text_[i] == '"') ++i;
      text += text_[i];
    }
    at_ = i + 1;
    while (!atEnd() && text_[at_] == ' ') ++at_;
    return true;
  }

  void takeArgument(const NameFieldInfo& info, FieldUse& use, std::string text, std::size_t begin) {
    const std::size_t length = std::max<std::size_t>(1, at_ - begin);
    const std::string name = "{" + nameOf(use) + "}";
    switch (info.argument) {
      case FieldArgument::None:
        return wrong(begin, length, name + " takes nothing behind a colon", "Leave it out");
      case FieldArgument::Digits:
      case FieldArgument::Number: return takeNumber(info, use, text, begin);
      case FieldArgument::Key:
      case FieldArgument::Name:
        if (text.empty())
          return wrong(
              begin, length, name + " needs a name behind the colon",
              info.argument == FieldArgument::Key ? "Write {region.fact:place}" : "Leave the colon out");
        break;
      case FieldArgument::Date:
        if (!dateAs({2000, 1, 1}, text))
          return wrong(begin, length, "this is no pattern of a date",
                       "Write yyyy-MM-dd, or other letters of days, months and years; text between '…'",
                       "yyyy-MM-dd");
        break;
      case FieldArgument::Unit:
        if (!isUnit(info, text)) {
          const std::string_view near = nearestWord(text, unitsOf(info));
          return wrong(begin, length, name + " is not given in '" + printable(text, 40) + "'",
                       near.empty() ? "There are " + std::string(info.units)
                                    : "Did you mean '" + std::string(near) + "'?",
                       std::string(near));
        }
        break;
      case FieldArgument::Separator: break;
    }
    use.argument = std::move(text);
  }

  static std::vector<std::string_view> unitsOf(const NameFieldInfo& info) {
    std::vector<std::string_view> units;
    for (std::size_t i = 0; i <= info.units.size();) {
      const std::size_t end = std::min(info.units.find(' ', i), info.units.size());
      units.push_back(info.units.substr(i, end - i));
      i = end + 1;
    }
    return units;
  }
  static bool isUnit(const NameFieldInfo& info, std::string_view text) {
    const auto units = unitsOf(info);
    return std::find(units.begin(), units.end(), text) != units.end();
  }

  void takeNumber(const NameFieldInfo& info, FieldUse& use, std::string_view text, std::size_t begin) {
    const bool isWhole = info.argument == FieldArgument::Number;
    const auto bad = [&] {
      wrong(begin, std::max<std::size_t>(1, at_ - begin),
            isWhole ? "this is no way to write a number" : "digits are a number from 1 to 9",
            isWhole ? "Write {n:2} for 01, 02 …, {n:3 from 10 step 5}, {n:several}"
                    : "Write {" + nameOf(use) + ":2}");
    };
    std::vector<std::string_view> words;
    for (std::size_t i = 0; i < text.size();) {
      const std::size_t end = std::min(text.find(' ', i), text.size());
      if (end > i) words.push_back(text.substr(i, end - i));
      i = end + 1;
    }
    if (words.empty()) return bad();
    for (std::size_t i = 0; i < words.size(); ++i) {
      const auto next = [&](long least, long most) {
        return ++i < words.size() ? wholeNumber(words[i], least, most) : std::nullopt;
      };
      if (const auto digits = wholeNumber(words[i], 1, 9); digits && i == 0) {
        use.number.digits = static_cast<int>(*digits);
      } else if (isWhole && words[i] == "from") {
        const auto from = next(0, 999'999'999);
        if (!from) return bad();
        use.number.from = *from;
      } else if (isWhole && words[i] == "step") {
        const auto step = next(1, 999'999);
        if (!step) return bad();
        use.number.step = *step;
      } else if (isWhole && words[i] == "several") {
        use.number.onlySeveral = true;
      } else {
        return bad();
      }
    }
  }

  // --- filters

  void readFilter(TemplatePart& part) {
    const std::size_t begin = ++at_;
    while (!atEnd() && text_[at_] == ' ') ++at_;
    const std::size_t nameAt = at_;
    while (!atEnd() && std::string_view(" |}\"").find(text_[at_]) == std::string_view::npos) ++at_;
    const std::string_view name = text_.substr(nameAt, at_ - nameAt);
    const auto* info =
        std::find_if(kFilters.begin(), kFilters.end(), [&](const FilterInfo& f) { return f.name == name; });
    if (info == kFilters.end()) return unknownFilter(name, nameAt);
    if (part.filters.size() >= kMostFilters)
      return wrong(begin, at_ - begin, "a field has more than 16 filters", "Take some of them out");
    std::vector<std::string> arguments;
    if (!readArguments(arguments)) return;
    auto filter = makeFilter(*info, std::move(arguments));
    if (!filter) return wrong(nameAt, at_ - nameAt, filter.error().text, filter.error().cure);
    part.filters.push_back(std::move(*filter));
  }

  void unknownFilter(std::string_view name, std::size_t at) {
    std::vector<std::string_view> names;
    std::string all;
    for (const FilterInfo& info : kFilters) {
      names.push_back(info.name);
      all += (all.empty() ? "" : " ") + std::string(info.name);
    }
    const std::string_view near = nearestWord(name, names);
    wrong(at, std::max<std::size_t>(1, name.size()), "there is no filter '" + printable(name, 40) + "'",
          near.empty() ? "Filters are " + all : "Did you mean '" + std::string(near) + "'?",
          std::string(near));
  }

  bool readArguments(std::vector<std::string>& arguments) {
    while (true) {
      while (!atEnd() && text_[at_] == ' ') ++at_;
      if (atEnd() || text_[at_] == '|' || text_[at_] == '}') return true;
      std::string text;
      if (text_[at_] == '"') {
        if (!readQuoted(text, at_)) return false;
      } else {
        const std::size_t begin = at_;
        while (!atEnd() && std::string_view(" |}\"").find(text_[at_]) == std::string_view::npos) ++at_;
        text = text_.substr(begin, at_ - begin);
      }
      arguments.push_back(std::move(text));
    }
  }

  // --- folders

  /// What the template itself says between slashes, with all that may drop out in its place.
  struct Written {
    std::string text;  // of the part; fields stand as \1
    std::size_t begin = 0;
  };

  void flatten(const std::vector<TemplatePart>& parts, std::vector<Written>& written) const {
    for (const TemplatePart& part : parts) switch (part.kind) {
        case Kind::Field: written.back().text += '\1'; break;
        case Kind::Optional: flatten(part.inside, written); break;
        case Kind::Text: {
          std::size_t at = part.position;
          for (const char c : part.text) {
            const std::size_t taken = c == '{' || c == '}' ? 2 : 1;
            if (written.back().text.empty()) written.back().begin = at;
            if (c == '/')
              written.push_back({{}, at + 1});
            else
              written.back().text += c;
            at += taken;
          }
        }
      }
  }

  void checkFolders(const std::vector<TemplatePart>& parts) {
    std::vector<Written> written(1);
    flatten(parts, written);
    for (const Written& part : written) {
      if (part.text.empty())
        return wrong(part.begin, 1, "a folder or file name is empty",
                     "Names begin below the brief's folder; write Folder/name");
      if (part.text == "." || part.text == "..")
        return wrong(part.begin, part.text.size(), "'" + part.text + "' would leave the folder",
                     "Name a folder");
    }
  }

  std::string_view text_;
  TemplateUse use_;
  std::size_t at_ = 0;
  std::optional<TemplateMistake> mistake_;
};

namespace {

/// Characters of Unicode before a byte.
std::size_t charactersBefore(std::string_view text, std::size_t byte) {
  return static_cast<std::size_t>(
      std::count_if(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(std::min(byte, text.size())),
                    [](char c) { return (static_cast<unsigned char>(c) & 0xC0) != 0x80; }));
}

}  // namespace

Result<Template> Template::parse(std::string_view text, TemplateUse use) {
  Template result;
  if (const auto mistake = TemplateParser(text, use).read(result))
    return fail(text.size() > kLongestTemplate ? ErrorCode::TooLarge : ErrorCode::Syntax,
                "template, character " + std::to_string(charactersBefore(text, mistake->position) + 1),
                mistake->text, mistake->cure);
  return result;
}

std::optional<TemplateMistake> Template::mistakeIn(std::string_view text, TemplateUse use) {
  Template result;
  return TemplateParser(text, use).read(result);
}

}  // namespace octaphon
