#include <clocale>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <exception>
#include <QApplication>

#include <CLI/CLI.hpp>

#include "app/look/system_scale.h"
#include "app/look/theme.h"
#include "app/program_options.h"
#include "app/window/main_window.h"
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
  raiseFileLimit();
  app::Theme::instance().install();
  MediaCache cache(MediaCache::defaultFolder());
  app::Work work(cache);
  app::MainWindow window(work);
  window.show();
  if (options.isNew)
    window.sessions().makeEmpty();
  else if (!options.session.empty())
    window.sessions().open(QString::fromStdString(options.session));
  window.sessions().offerRescue();
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
