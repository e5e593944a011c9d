#include "check_report.h"

#include <algorithm>
#include <cstdio>
#include <map>

#include "base/decibels.h"
#include "base/unicode.h"
#include "check/file_figures.h"

namespace octaphon::cli {
namespace {

Json asJson(const FileFinding& finding, const FolderPath& base) {
  const FindingInfo& info = findingInfo(finding.code);
  Json json{{"event", finding.accepted ? "accepted" : "finding"},
            {"code", info.name},
            {"severity", severityName(info.severity)},
            {"file", finding.file},
            {"value", finding.value.empty() ? Json(nullptr) : Json(finding.value)},
            {"expected", finding.expected.empty() ? Json(nullptr) : Json(finding.expected)},
            {"text", finding.text},
            {"folder", base.full().lexically_normal().string()},
            {"key", finding.row.empty() ? Json(nullptr) : Json(finding.row)}};
  if (finding.accepted) json["reason"] = *finding.accepted;
  return json;
}

/// By cause, as people look at them.
void printText(const CheckReport& report) {
  std::map<FindingCode, std::vector<const FileFinding*>> byCode;
  for (const FileFinding& finding : report.findings) byCode[finding.code].push_back(&finding);
  for (const auto& [code, findings] : byCode) {
    std::printf("%s (%zu)\n", std::string(findingInfo(code).title).c_str(), findings.size());
    for (const FileFinding* finding : findings)
      std::printf("  %s%s\n", printable(finding->text, 4000).c_str(),
                  finding->accepted ? (" Accepted: " + printable(*finding->accepted, 400)).c_str() : "");
  }
}

Json asJson(const CheckedFile& file, const FolderPath& base) {
  Json figures = Json::array();
  for (const FileFigure& figure : figuresOf(file))
    figures.push_back({{"name", figure.name},
                       {"value", figure.value},
                       {"asked", figure.asked.empty() ? Json(nullptr) : Json(figure.asked)},
                       {"tolerance", figure.tolerance.empty() ? Json(nullptr) : Json(figure.tolerance)},
                       {"right", figure.isRight ? Json(*figure.isRight) : Json(nullptr)}});
  return {{"event", "figures"},
          {"file", file.name},
          {"folder", base.full().lexically_normal().string()},
          {"key", file.line->key},
          {"figures", std::move(figures)}};
}

/// With spaces behind it, up to so many letters.
std::string padded(const std::string& text, std::size_t width) {
  const auto letters = static_cast<std::size_t>(std::count_if(
      text.begin(), text.end(), [](char byte) { return (static_cast<unsigned char>(byte) & 0xC0) != 0x80; }));
  return text + std::string(letters < width ? width - letters : 0, ' ');
}

void printText(const CheckedFile& file) {
  std::printf("%s\n", printable(file.name, 400).c_str());
  for (const FileFigure& figure : figuresOf(file)) {
    std::string asked = figure.asked.empty() ? "" : "asked: " + figure.asked;
    if (!figure.tolerance.empty()) asked += ", within " + figure.tolerance;
    const char* verdict = !figure.isRight ? "     " : *figure.isRight ? "right" : "OFF  ";
    std::printf("  %s %s %s %s\n", padded(figure.title, 24).c_str(), padded(figure.value, 28).c_str(),
                verdict, asked.c_str());
  }
}

Json asJson(const FileChange& change) {
  Json json{{"event", "changed"},
            {"file", change.file},
            {"key", change.row},
            {"before", change.before.empty() ? Json(change.file) : Json(change.before)},
            {"same_bytes", change.isSameBytes}};
  const auto& difference = change.difference;
  const bool isHeld = difference && !difference->isOtherForm;
  json["difference_db"] = isHeld && difference->peak > 0 ? Json(decibelsOf(difference->peak)) : Json(nullptr);
  json["at"] = isHeld && difference->at >= 0 ? Json(difference->at) : Json(nullptr);
  json["frames"] = difference ? Json(difference->frames) : Json(nullptr);
  json["frames_before"] = difference ? Json(difference->framesBefore) : Json(nullptr);
  json["text"] = changeText(change);
  return json;
}

}  // namespace

void printFindings(const CheckReport& report, const FolderPath& base, bool json) {
  if (!json) return printText(report);
  for (const FileFinding& finding : report.findings) printJson(asJson(finding, base));
}

void printFigures(const CheckReport& report, const FolderPath& base, bool json) {
  for (const CheckedFile& file : report.files) {
    if (file.there() == nullptr) continue;
    if (json)
      printJson(asJson(file, base));
    else
      printText(file);
  }
}

void printChange(const FileChange& change, bool json) {
  if (json) return printJson(asJson(change));
  std::printf("Changed: %s %s\n", printable(change.file, 400).c_str(), changeText(change).c_str());
}

void printChanges(const Changes& changes, bool json) {
  for (const FileChange& change : changes.changes) printChange(change, json);
  const auto tell = [&](const char* event, const char* word, const std::vector<std::string>& files) {
    for (const std::string& file : files)
      if (json)
        printJson({{"event", event}, {"file", file}});
      else
        std::printf("%s: %s\n", word, printable(file, 400).c_str());
  };
  tell("added", "New", changes.added);
  tell("gone", "Gone", changes.gone);
  for (const Error& problem : changes.problems) printError(problem, json);
}

}  // namespace octaphon::cli
