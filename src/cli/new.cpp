#include "new.h"

#include <cstdio>
#include <filesystem>
#include <optional>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "choice.h"
#include "common.h"
#include "exchange/bring_in.h"
#include "new_file.h"
#include "session/session_file.h"

namespace octaphon::cli {
namespace {

struct NewOptions {
  std::string session;
  std::vector<std::string> inputs;
  Placement placement = Placement::Start;
  ManyChannels manyChannels = ManyChannels::OneTrack;
  Grouping grouping = Grouping::None;
  int rate = 0;
  bool copy = false;
};

void printOffer(const char* option, const std::vector<GroupGuess>& guesses) {
  if (guesses.empty()) return;
  std::string names;
  for (std::size_t i = 0; i < guesses.size() && i < 8; ++i)
    names += (i == 0 ? "" : ", ") + printable(guesses[i].name, 40);
  std::printf("%s could be made (%s): %s%s\n", counted(guesses.size(), "group").c_str(), option,
              names.c_str(), guesses.size() > 8 ? " …" : "");
}

int runNew(const NewOptions& options) {
  if (const auto problem = whyNoNewFile(options.session)) {
    printError(*problem);
    return kWrongUsage;
  }
  const std::vector<std::filesystem::path> inputs(options.inputs.begin(), options.inputs.end());
  const IncomingFiles incoming = lookInto(inputs);
  BringInRequest request;
  request.placement = options.placement;
  request.manyChannels = options.manyChannels;
  request.grouping = options.grouping;
  request.copy = options.copy;
  Session session;
  session.file = options.session;
  session.rate = options.rate > 0 ? options.rate : commonRate(incoming).value_or(48000);
  const BroughtIn brought = bringIn(session, incoming, request);
  for (const Error& error : brought.refused) printError(error);
  for (const Remark& remark : brought.remarks)
    std::fprintf(messages(), "octaphon-cli: %s\n", printable(remark.text, 600).c_str());
  // After the files, so that times are read at the session's rate.
  const std::vector<Error> othersRefused = bringInOthers(session, readOthers(inputs));
  for (const Error& error : othersRefused) printError(error);
  if (brought.tracks.empty()) {
    const bool noneThere = brought.refused.empty();
    printError({ErrorCode::MediumMissing, options.session,
                noneThere ? "there is no audio file among what was given; no session was made"
                          : "none of the files could be brought in; no session was made",
                noneThere ? "Name audio files, or folders with some" : "Name files that can be read"});
    return kFailed;
  }
  if (auto saved = saveSession(session, options.session); !saved) {
    printError(saved.error());
    return kSessionUnreadable;
  }
  std::printf("%s: %s, %s, %s, %d Hz\n", printable(options.session).c_str(),
              counted(session.tracks.size(), "track").c_str(),
              counted(session.regions.size(), "region").c_str(),
              counted(session.markerCount(), "marker").c_str(), session.rate);
  if (options.grouping == Grouping::None) {
    printOffer("--groups folders", brought.folders);
    printOffer("--groups prefixes", brought.prefixes);
  }
  return brought.refused.empty() && othersRefused.empty() ? kWell : kFailed;
}

}  // namespace

void addNew(CLI::App& app, int& exit) {
  auto options = std::make_shared<NewOptions>();
  CLI::App* command = app.add_subcommand("new", "Makes a session from audio files: a track for each");
  command->add_option("session", options->session, "Session file to make (*.octaphon)")->required();
  command
      ->add_option("files", options->inputs,
                   "Audio files and folders; MIDI files give tempo, CSV files regions")
      ->required();
  addChoice<Placement>(*command, "--place", options->placement,
                       {{"start", Placement::Start}, {"stamp", Placement::Stamp}},
                       "start: all begin at 0. stamp: where the files say");
  addChoice<ManyChannels>(
      *command, "--channels", options->manyChannels,
      {{"one", ManyChannels::OneTrack}, {"each", ManyChannels::Each}, {"pairs", ManyChannels::Pairs}},
      "Files of more than two channels: one track, one each, or pairs");
  addChoice<Grouping>(
      *command, "--groups", options->grouping,
      {{"none", Grouping::None}, {"folders", Grouping::Folders}, {"prefixes", Grouping::Prefixes}},
      "Put tracks into groups by folder or by how names begin");
  command->add_option("--rate", options->rate, "Hz; otherwise the files' most common rate")
      ->check(CLI::Range(kMinRate, kMaxRate));
  command->add_flag("--copy", options->copy, "Copy the files into media/ beside the session");
  command->callback([options, &exit] { exit = runNew(*options); });
}

}  // namespace octaphon::cli
