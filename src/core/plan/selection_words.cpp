#include "plan/selection_words.h"

#include "base/unicode.h"

namespace octaphon {
namespace {

std::string shown(const std::string& text) { return printable(text, 60); }

/// Lines that stand behind each other and go the same way: things by hand are one of them.
struct Line {
  bool out;
  std::string text;
  bool isByHand;
};

std::vector<Line> linesOf(const Selection& selection, const PickedKind& kind) {
  std::vector<Line> lines;
  for (std::size_t i = 0; i < selection.picks.size();) {
    const Pick& pick = selection.picks[i];
    std::size_t end = i + 1;
    if (pick.by == PickBy::Id)
      while (end < selection.picks.size() && selection.picks[end].by == PickBy::Id &&
             selection.picks[end].out == pick.out)
        ++end;
    const bool isCounted = end - i > 1;
    lines.push_back({pick.out, isCounted ? std::to_string(end - i) + " by hand" : pickWords(pick, kind),
                     pick.by == PickBy::Id});
    i = end;
  }
  return lines;
}

}  // namespace

std::string pickWords(const Pick& pick, const PickedKind& kind) {
  const auto named = [&] {
    const std::string name = kind.nameOf ? kind.nameOf(pick.value) : std::string();
    return name.empty() ? "something gone" : shown(name);
  };
  switch (pick.by) {
    case PickBy::Id: return named();
    case PickBy::All: return "all";
    case PickBy::Under: {
      const std::string name = kind.nameOf ? kind.nameOf(pick.value) : std::string();
      return "under " + shown(name.empty() ? pick.value : name);
    }
    case PickBy::Named: return "named " + shown(pick.value);
    case PickBy::Colour: return "in colour " + std::to_string(pick.number);
    case PickBy::Tag: return "tagged " + shown(pick.value);
    case PickBy::Level: return "on level " + std::to_string(pick.number);
  }
  return {};
}

std::string rulesText(const Selection& selection, const PickedKind& kind) {
  std::string text;
  bool wasOut = false;
  for (const Line& line : linesOf(selection, kind)) {
    const bool isFirst = text.empty();
    const bool isAll = line.text == "all" && !line.isByHand;
    const std::string those = isFirst || line.isByHand || isAll ? line.text : "those " + line.text;
    if (line.out)
      text += (isFirst ? "but not " : wasOut ? " nor " : ", but not ") + those;
    else
      text += (isFirst ? "" : wasOut ? ", and again " : " and ") + those;
    wasOut = line.out;
  }
  return text;
}

}  // namespace octaphon
