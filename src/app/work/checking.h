// Delivered files, read back and judged: behind the run that makes them, and whenever somebody asks.
#pragma once

#include <map>
#include <memory>
#include <QDateTime>
#include <QObject>
#include <vector>

#include "app/work/document.h"
#include "app/work/long_jobs.h"
#include "app/work/making.h"
#include "app/work/sheet_keeper.h"
#include "check/check_folder.h"

namespace octaphon::app {

class Checking : public QObject {
  Q_OBJECT
 public:
  Checking(Document& document, SheetKeeper& sheets, Making& making, LongJobs& jobs, News& news,
           QObject* parent = nullptr);

  /// Everything in the folders of the ticked briefs; what they ask for and is not there is missing.
  void check();
  bool isChecking() const { return running_ > 0; }

  /// What became of the last check of each base folder.
  using Reports = std::map<FolderPath, std::shared_ptr<const CheckReport>>;
  const Reports& reports() const { return reports_; }
  /// Nothing was checked yet, or not of this session.
  bool isEmpty() const { return reports_.empty(); }
  QDateTime at() const { return at_; }
  /// Whether files were decoded; else their bytes were compared.
  bool wasDecoded() const { return wasDecoded_; }
  /// What the last run made otherwise than it was.
  const std::vector<FileChange>& changes() const { return changes_; }
  std::size_t notCompared() const { return notCompared_; }
  /// Findings that nobody accepted, and others.
  std::size_t open() const;
  std::size_t accepted() const;

  /// Of these findings; they count no more until that is taken back.
  void accept(const std::vector<FileFinding>& findings, const QString& reason);
  void takeBack(const std::vector<FileFinding>& findings);

 signals:
  void changed();

 private:
  struct Outcome {
    Reports reports;
    std::optional<ReadBehind::Outcome> behind;
    std::vector<FileChange> sinceEdition;  // where there is one before
    QStringList problems;
    bool isStopped = false;
  };
  using Requests = std::map<FolderPath, CheckRequest>;
  void checkBehind(const MadeReport& report);
  /// `behind` may be null: somebody asked for it.
  void start(const QString& words, Requests requests, std::shared_ptr<ReadBehind> behind);
  static Outcome checkAll(Requests requests, ReadBehind* behind, JobControl& job);
  void take(Outcome outcome);
  void clear();
  void judgeAccepted();
  void changeAccepted(const QString& words, const std::vector<FileFinding>& findings,
                      const std::function<void(Brief& brief, const std::string& code,
                                               const std::vector<std::string>& keys)>& change);

  Document& document_;
  SheetKeeper& sheets_;
  LongJobs& jobs_;
  News& news_;
  Reports reports_;
  std::vector<FileChange> changes_;
  std::size_t notCompared_ = 0;
  QDateTime at_;
  bool wasDecoded_ = true;
  int running_ = 0;
  quint64 session_ = 0;  // counts those that were opened: what is checked may be of an earlier one
};

}  // namespace octaphon::app
