// What the fields of a brief say in its sentence.
#include "base/unicode.h"
#include "brief/description.h"

namespace octaphon::clauses {

std::string counts(const Brief& brief) { return std::string(choiceOf(brief.heard.counts).words); }

std::string crossing(const Brief& brief) {
  return onlyWhatBegins(brief) && brief.heard.crossing == Crossing::FromStart ? " or runs in" : "";
}

std::string endFade(const Brief& brief) {
  if (!onlyWhatBegins(brief) || brief.heard.endFadeMs == kDefaultEndFadeMs) return {};
  return ", ends faded in " + plainNumber(brief.heard.endFadeMs) + " ms";
}

std::string withReturns(const Brief& brief) {
  if (brief.heard.withReturns == Returns::In) return {};
  return ", " + std::string(choiceOf(brief.heard.withReturns).words);
}

std::string keyed(const Brief& brief) { return brief.heard.keyed ? "keyed by the mix" : "each keyed alone"; }

std::string runUp(const Brief& brief) {
  if (brief.heard.runUp.isNone()) return "without run-up";
  if (brief.heard.runUp.fromStart) return "run up to from the session's start";
  return "run up to for " + plainNumber(brief.heard.runUp.seconds) + " s";
}

std::string withoutMissing(const Brief& brief) {
  return brief.heard.withoutMissing ? ", plug-ins that are missing passed over" : "";
}

std::string tail(const Brief& brief) {
  return brief.ends.tailSeconds > 0 ? "a tail of " + plainNumber(brief.ends.tailSeconds) + " s" : "no tail";
}

std::string encoding(const Brief& brief) { return std::string(choiceOf(brief.files.encoding).words); }

std::string moreOutputs(const Brief& brief) {
  std::string text;
  for (const Output& output : brief.files.more) {
    text += " and " + std::string(choiceOf(output.encoding).words);
    if (!output.folder.empty()) text += " into " + output.folder;
  }
  return text;
}

std::string format(const Brief& brief) { return brief.names.format; }
std::string letterCase(const Brief& brief) { return std::string(choiceOf(brief.names.letterCase).words); }
std::string folder(const Brief& brief) { return brief.delivery.folder; }
std::string existing(const Brief& brief) { return std::string(choiceOf(brief.delivery.existing).words); }

}  // namespace octaphon::clauses
