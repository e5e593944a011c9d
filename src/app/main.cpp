#include <clocale>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <exception>
#include <QApplication>
#include <QFileInfo>
#include <QTimer>

#include <CLI/CLI.hpp>

#include "app/look/system_scale.h"
#include "app/look/theme.h"
#include "app/program_options.h"
#include "app/running_window.h"
#include "app/window/main_window.h"
#include "app/work/log_file.h"
#include "app/work/settings.h"
#include "base/files.h"

namespace {

/// Help needs no display. What else is given is read when Qt has taken its own.
void answerHelp(int argc, char** argv) {
  using namespace octaphon;
  CLI::App program;
  app::ProgramOptions options;
  app::describe(program, options);
  program.allow_extras();
  try {
    program.parse(argc, argv);
  } catch (const CLI::ParseError& error) {
    if (error.get_exit_code() == 0) std::exit(program.exit(error));
  }
}

/// What the environment says goes before what was chosen, as it does on the command line.
std::unique_ptr<octaphon::MediaCache> makeCache() {
  using namespace octaphon;
  const QString chosen = app::settings::cacheFolder();
  const bool isSet = qEnvironmentVariableIsSet("OCTAPHON_CACHE") || chosen.isEmpty();
  const std::uint64_t bytes =
      qEnvironmentVariableIsSet("OCTAPHON_CACHE_MB")
          ? MediaCache::defaultSize()
          : static_cast<std::uint64_t>(app::settings::cacheGigabytes()) * 1'000'000'000;
  return std::make_unique<MediaCache>(
      isSet ? MediaCache::defaultFolder() : std::filesystem::path(chosen.toStdString()), bytes);
}

/// Says in the log when all of what was opened is to be seen for the first time.
void logFirstPicture(octaphon::app::Work& work) {
  using namespace octaphon;
  auto* watch = new QTimer(&work);
  QObject::connect(watch, &QTimer::timeout, watch, [watch, &work] {
    if (!work.document().isOpen() || work.sheets().isPlanning() || !work.jobs().jobs().empty()) return;
    watch->deleteLater();
    writeLog(LogLevel::Note, "the first full picture is there");
  });
  watch->start(2);  // ms; timers come after what waits to be painted
}

int run(int argc, char** argv) {
  using namespace octaphon;
  std::signal(SIGXFSZ, SIG_IGN);  // a size limit is an error of a call, not the end of the program
  answerHelp(argc, argv);
  const std::unique_ptr<QApplication> application = app::makeApplication(argc, argv);
  std::setlocale(LC_NUMERIC, "C");  // figures read the same everywhere, as on the command line
  QApplication::setOrganizationName("octaphon");
  QApplication::setApplicationName("octaphon");
  QApplication::setApplicationVersion(OCTAPHON_VERSION);
  QGuiApplication::setDesktopFileName("org.octaphon.Octaphon");
  CLI::App program;
  app::ProgramOptions options;
  app::describe(program, options);
  CLI11_PARSE(program, argc, argv);  // without those of Qt, which it took
  app::Asked asked{{}, options.isNew};
  if (!options.file.empty())
    asked.files << QFileInfo(QString::fromStdString(options.file)).absoluteFilePath();
  if (!options.isSeparate && app::handOver(asked)) return 0;
  raiseFileLimit();
  app::Theme::instance().install();
  const app::LogFile log(app::Rescue::folder());
  const std::unique_ptr<MediaCache> cache = makeCache();
  app::Work work(*cache);
  app::MainWindow window(work);
  window.show();
  const auto take = [&window](const app::Asked& wanted) {
    wanted.isNew ? window.sessions().makeEmpty() : window.take(wanted.files);
  };
  take(asked);
  const auto takeInFront = [&window, take](const app::Asked& wanted) {
    window.comeToFront();
    take(wanted);
  };
  app::RunningWindow running(takeInFront, &window);
  window.sessions().offerRescue();
  if (!asked.files.isEmpty()) logFirstPicture(work);
  return QApplication::exec();
}

}  // namespace

int main(int argc, char** argv) {
  try {
    return run(argc, argv);
  } catch (const std::exception& problem) {  // nothing should come here; if it does, it is told
    std::fprintf(stderr, "octaphon: something went wrong: %s\n", problem.what());
    return 1;
  }
}
