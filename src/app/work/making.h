// A run in the background, with its figures for the strip.
#pragma once

#include <memory>
#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <set>
#include <thread>

#include "check/read_behind.h"
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

/// A file that could not be made, and why.
struct MadeFailure {
  QString file, why;
  std::string briefName, key;  ///< of the row
  PlannedSpan span;
};

struct MadeReport {
  RunSummary summary;
  std::vector<MadeFailure> failed;
  std::vector<MadeSum> sums;
  std::vector<MadeRemark> remarks;
  std::vector<MadeFile> made;
  std::shared_ptr<const Sheet> sheet = {};  ///< that it was made from
  std::shared_ptr<ReadBehind> behind = {};  ///< still reads back what was made; null: nothing is read
  bool behindDecodes = true;
};

class Making : public QObject {
  Q_OBJECT
 public:
  explicit Making(MediaCache& cache, QObject* parent = nullptr);
  ~Making() override;

  bool isRunning() const { return isRunning_; }
  /// Starts; nothing happens while another run is going on.
  void start(RunRequest request);
  void stop();
  void pause(bool on);
  bool isPaused() const { return isRunning_ && control_->isPaused(); }

  const RunControl* control() const { return isRunning_ ? control_.get() : nullptr; }
  /// How far a row of any sheet is, which the run may have been planned from or not; None where it is no part
  /// of a run. After the run, as it ended, until the next sheet.
  RowStage stageOf(const Sheet& sheet, std::size_t row) const;
  bool hasStages() const { return control_ != nullptr; }
  /// A newer sheet is there. Of a run that has ended, it says all there is to say.
  void follow(std::shared_ptr<const Sheet> sheet);
  ProgressFigures figures() const;

 signals:
  void started();
  void stagesChanged();  ///< of some rows
  void finished(const octaphon::app::MadeReport& report);

 private:
  void done(const MadeReport& report);
  void lookAtStages();

  MediaCache& cache_;
  std::unique_ptr<RunControl> control_;    // until a sheet says what came of it
  std::shared_ptr<const Sheet> runSheet_;  // that its rows count in
  std::shared_ptr<const Sheet> alike_;     // the newest, where its rows are those of runSheet_
  bool isRunning_ = false;
  QTimer stageTimer_;
  unsigned stagesSeen_ = 0;
  std::thread thread_;
  QElapsedTimer clock_;
  int rate_ = 48000;
};

}  // namespace octaphon::app
