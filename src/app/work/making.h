// A run in the background, with its figures for the strip.
#pragma once

#include <memory>
#include <QElapsedTimer>
#include <QObject>
#include <set>
#include <thread>

#include "run/runner.h"

namespace octaphon::app {

/// Whether the layers of a brief add up in a span.
struct MadeSum {
  std::string brief;  ///< id
  std::string briefName;
  PlannedSpan span;
  SumOutcome outcome;
};

/// What was found while a file was made.
struct MadeRemark {
  QString file;
  std::string briefName;
  PlannedSpan span;
  double levelDb;  ///< that it is about, in dBFS
  RemarkCode code;
  bool isWarning;  ///< else a note
  std::string text;
};

/// What became of a row's file.
struct MadeFile {
  QString file, from;  ///< `from`: its name before
  FolderPath base;
  std::string brief, key;  ///< id; of the row
  Deed deed;
  bool isNew;  ///< none was there
};

struct MadeReport {
  RunSummary summary;
  std::vector<std::pair<QString, QString>> failed;  ///< file and reason
  std::vector<MadeSum> sums;
  std::vector<MadeRemark> remarks;
  std::vector<MadeFile> made;
};

class Making : public QObject {
  Q_OBJECT
 public:
  explicit Making(MediaCache& cache, QObject* parent = nullptr) : QObject(parent), cache_(cache) {}
  ~Making() override;

  bool isRunning() const { return control_ != nullptr; }
  /// Starts; nothing happens while another run is going on.
  void start(RunRequest request);
  void stop();
  void pause(bool on);
  bool isPaused() const { return control_ && control_->isPaused(); }

  const RunControl* control() const { return control_.get(); }
  ProgressFigures figures() const;

 signals:
  void started();
  void finished(const octaphon::app::MadeReport& report);

 private:
  void done(const MadeReport& report);

  MediaCache& cache_;
  std::unique_ptr<RunControl> control_;
  std::thread thread_;
  QElapsedTimer clock_;
  int rate_ = 48000;
};

}  // namespace octaphon::app
