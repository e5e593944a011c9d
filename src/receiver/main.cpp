// octaphon-receiver FOLDER: plays a delivery as its receiver would, by its manifest alone.
#include <cstdio>
#include <memory>
#include <QApplication>
#include <QPalette>

#include <CLI/CLI.hpp>

#include "receiver/options.h"
#include "receiver/receiver_window.h"
#include "receiver/recording.h"

namespace octaphon::receiver {
namespace {

int fails(const std::string& what) {
  std::fprintf(stderr, "octaphon-receiver: %s\n", what.c_str());
  return 1;
}

int recordFile(const std::vector<Sound>& sounds, Options& options) {
  options.recording.file = options.record;
  for (const std::string& cue : options.play) options.recording.cues.push_back(parseCue(cue, false));
  for (const std::string& cue : options.stop) options.recording.cues.push_back(parseCue(cue, true));
  const auto done = record(sounds, options.folder, options.recording);
  return done ? *done : fails(done.error());
}

int showWindow(std::vector<Sound> sounds, const Options& options, int& count, char** arguments) {
  QApplication app(count, arguments);
  QPalette palette(QColor("#f5f2ea"));
  palette.setColor(QPalette::Base, QColor("#fffdf8"));
  palette.setColor(QPalette::AlternateBase, QColor("#e9ecea"));
  palette.setColor(QPalette::WindowText, QColor("#20292b"));
  palette.setColor(QPalette::Text, QColor("#20292b"));
  palette.setColor(QPalette::PlaceholderText, QColor("#525d5b"));
  palette.setColor(QPalette::Link, QColor("#0b6360"));
  palette.setColor(QPalette::Highlight, QColor("#0b6360"));
  palette.setColor(QPalette::HighlightedText, QColor("#fffdf8"));
  QApplication::setPalette(palette);
  ReceiverWindow window(std::move(sounds), options.folder);
  window.show();
  return QApplication::exec();
}

int run(int count, char** arguments) {
  CLI::App app;
  Options options;
  describe(app, options);
  CLI11_PARSE(app, count, arguments);
  const std::filesystem::path manifest = options.manifest.empty()
                                             ? std::filesystem::path(options.folder) / "manifest.json"
                                             : std::filesystem::path(options.manifest);
  auto sounds = readManifest(manifest);
  if (!sounds) return fails(sounds.error());
  return options.record.empty() ? showWindow(std::move(*sounds), options, count, arguments)
                                : recordFile(*sounds, options);
}

}  // namespace
}  // namespace octaphon::receiver

int main(int count, char** arguments) { return octaphon::receiver::run(count, arguments); }
