#include "inspect.h"

#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/decibels.h"
#include "base/unicode.h"
#include "check/file_levels.h"
#include "common.h"
#include "formats/file_facts.h"
#include "plan/sheet.h"

namespace octaphon::cli {
namespace {

struct InspectOptions {
  std::vector<std::string> files;
  bool json = false;
  bool levels = false;
};

template <class Value>
Json orNull(const std::optional<Value>& value) {
  return value ? Json(*value) : Json(nullptr);
}
Json orNull(const std::string& text) { return text.empty() ? Json(nullptr) : Json(text); }
Json orNull(int number) { return number > 0 ? Json(number) : Json(nullptr); }

Json partsJson(const FileFacts& facts) {
  Json list = Json::array();
  for (const FilePart& part : facts.parts) list.push_back({{"name", part.name}, {"bytes", part.bytes}});
  return list;
}

Json textsJson(const FileFacts& facts) {
  Json list = Json::array();
  for (const FileText& text : facts.texts)
    list.push_back({{"where", text.where}, {"name", text.name}, {"value", text.value}});
  return list;
}

Json tagsJson(const FileFacts& facts) {
  Json tags = Json::object();
  for (const auto& [name, value] : facts.tags()) tags[name] = value;
  return tags;
}

Json marksJson(const FileFacts& facts) {
  Json list = Json::array();
  for (const FileMark& mark : facts.marks)
    list.push_back({{"at", mark.at}, {"length", mark.length}, {"label", mark.label}});
  return list;
}

Json loopsJson(const FileFacts& facts) {
  Json list = Json::array();
  for (const FileLoop& loop : facts.loops)
    list.push_back({{"start", loop.start}, {"end", loop.end}, {"length", loop.end - loop.start}});
  return list;
}

Json asJson(const std::string& file, const FileFacts& facts) {
  return {{"file", file},
          {"container", containerName(*facts.container)},
          {"encoding", orNull(facts.encoding)},
          {"rate", orNull(facts.rate)},
          {"channels", orNull(facts.channels)},
          {"layout", facts.channels > 0 ? Json(channelText(facts.channels)) : Json(nullptr)},
          {"bits", orNull(facts.bits)},
          {"frames", orNull(facts.frames)},
          {"estimated", facts.isEstimated},
          {"missing_bytes", facts.missingBytes},
          {"time_reference", orNull(facts.timeReference)},
          {"chunks", partsJson(facts)},
          {"tags", tagsJson(facts)},
          {"texts", textsJson(facts)},
          {"marks", marksJson(facts)},
          {"loops", loopsJson(facts)},
          {"row_mark", orNull(facts.rowMark())},
          {"made_mark", orNull(facts.madeMark())}};
}

void printText(const Levels& levels) {
  const auto text = [](const std::optional<double>& level, const char* unit) {
    return level ? decibelText(*level) + " " + unit : std::string("not to be judged");
  };
  std::printf("  peak %s, true peak %s, loudness %s, range %s\n", text(levels.peakDb, "dBFS").c_str(),
              text(levels.truePeakDb, "dBTP").c_str(), text(levels.lufs, "LUFS").c_str(),
              text(levels.rangeLu, "LU").c_str());
}

void printText(const std::string& file, const FileFacts& facts) {
  const std::string encoding = facts.encoding.empty() ? "encoding unknown" : facts.encoding;
  std::printf("%s\n  %s, %s, %d Hz, %s, %s\n", printable(file, 400).c_str(),
              std::string(containerName(*facts.container)).c_str(), encoding.c_str(), facts.rate,
              channelText(facts.channels).c_str(),
              facts.frames ? (std::to_string(*facts.frames) + " frames").c_str() : "length unknown");
  std::vector<std::string> parts;
  for (const FilePart& part : facts.parts) parts.push_back(part.name + " " + std::to_string(part.bytes));
  std::printf("  parts: %s\n", listed(parts).c_str());
  for (const FileText& text : facts.texts)
    std::printf("  %s %s: %s\n", text.where.c_str(), printable(text.name, 80).c_str(),
                printable(text.value, 400).c_str());
  if (facts.timeReference)
    std::printf("  first frame: %lld since midnight\n", static_cast<long long>(*facts.timeReference));
  for (const FileLoop& loop : facts.loops)
    std::printf("  loop: from frame %lld, %lld frames\n", static_cast<long long>(loop.start),
                static_cast<long long>(loop.end - loop.start));
  for (const FileMark& mark : facts.marks)
    std::printf("  mark: frame %lld, %lld long, %s\n", static_cast<long long>(mark.at),
                static_cast<long long>(mark.length), printable(mark.label, 200).c_str());
  if (const std::string mark = facts.rowMark(); !mark.empty()) std::printf("  row: %s\n", mark.c_str());
}

int inspectOne(const std::string& file, const InspectOptions& options) {
  const auto facts = readFileFacts(std::filesystem::path(file));
  if (!facts) return fails(facts.error(), kFailed, options.json);
  if (!facts->container)
    return fails({ErrorCode::Unsupported, file, "this is no audio file that can be looked into",
                  "It reads WAV, RF64, AIFF, FLAC, Ogg Vorbis, Opus and MP3"},
                 kFailed, options.json);
  std::optional<Levels> levels;
  if (options.levels) {
    const auto measured = levelsOf(file, {true, true});
    if (!measured) return fails(measured.error(), kFailed, options.json);
    levels = *measured;
  }
  if (options.json) {
    Json json = asJson(file, *facts);
    if (levels) json.update(cli::asJson(*levels));
    printJson(json);
  } else {
    printText(file, *facts);
    if (levels) printText(*levels);
  }
  return kWell;
}

}  // namespace

void addInspect(CLI::App& app, int& exit) {
  auto options = std::make_shared<InspectOptions>();
  CLI::App* command =
      app.add_subcommand("inspect", "Says what audio files hold: format, data inside, marks, loops");
  command->add_option("files", options->files, "Audio files")->required();
  command->add_flag("--json", options->json, "Print JSON for programs, an object a line");
  command->add_flag("--levels", options->levels, "Measure peak, true peak, loudness and its range");
  command->callback([options, &exit] {
    exit = kWell;
    for (const std::string& file : options->files) exit = std::max(exit, inspectOne(file, *options));
  });
}

}  // namespace octaphon::cli
