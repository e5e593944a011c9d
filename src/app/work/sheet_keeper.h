// Keeps the sheet true: plans in the background whenever session or files change, and hands over the newest.
#pragma once

#include <atomic>
#include <functional>
#include <memory>
#include <mutex>
#include <QObject>
#include <QThreadPool>
#include <QTimer>
#include <vector>

#include "app/work/sheet_summary.h"
#include "base/job_control.h"
#include "media/media_cache.h"
#include "media/media_facts.h"
#include "plan/planner.h"
#include "plan/sheet.h"

namespace octaphon::app {

class SheetKeeper : public QObject {
  Q_OBJECT
 public:
  SheetKeeper(MediaCache& cache, QObject* parent = nullptr);
  ~SheetKeeper() override;

  /// Plans these briefs soon; an older plan that is not done yet is dropped.
  void request(std::shared_ptr<const Session> session, PlanRequest request);
  /// The same again, because files may have changed.
  void refresh();
  /// Plug-ins are tried anew, those that are known too.
  void askPluginsAgain() {
    forgetsPlugins_ = true;
    refresh();
  }
  /// The same again, with what was heard of sounds; it counts until the files that say it are there.
  void note(const std::vector<Measured>& measured);
  void forgetMeasured(const std::string& row);  ///< its key
  std::vector<Measured> measured() const;
  /// What is shown of levels, and so is measured when files are made.
  void setShownLevels(LevelsAsked shown) { shownLevels_ = shown; }
  LevelsAsked shownLevels() const { return shownLevels_; }
  /// Does it now, or as soon as the newest sheet is there. A session that is opened meanwhile drops it.
  void whenPlanned(std::function<void()> act);
  void dropWaiting() { waiting_.clear(); }
  /// Shows nothing until the next plan is there: what was planned is of a session that has gone.
  void clear();

  std::shared_ptr<const Sheet> sheet() const { return sheet_; }  ///< never null
  /// Whether its rows stand for the same files, in the same order, as those of the sheet before it.
  bool keepsRows() const { return keepsRows_; }
  const SheetSummary& summary() const { return summary_; }  ///< of it
  const SheetCounts& counts() const { return summary_.counts; }
  std::shared_ptr<const Session> session() const { return planned_; }  ///< what the sheet was planned from
  std::shared_ptr<const MediaFacts> facts() const { return facts_; }   ///< of that session; null at first
  std::shared_ptr<const PluginCatalogue> plugins() const { return plugins_; }  ///< those the session asks for
  /// What has to be found out before a plan can be made, and takes long the first time: what is in media,
  /// what plug-ins are. Where it is stopped, rows that need the rest cannot be made until refresh().
  struct Look {
    QString words;
    std::shared_ptr<JobControl> job;  ///< null: nothing has to be
  };
  const Look& look() const { return look_; }
  bool isPlanning() const { return wanted_ != shown_; }

 signals:
  void sheetChanged();
  void factsChanged();
  void lookChanged();

 private:
  void start();
  void doWaiting();
  template <class FindOut>
  auto looking(const QString& words, const FindOut& findOut);
  void stopLook();
  void setLook(Look look);
  struct Outcome;
  void take(std::shared_ptr<Outcome> outcome);

  MediaCache& cache_;
  QThreadPool pool_;
  QTimer delay_;
  std::atomic<unsigned> wanted_{0};  // number of the newest request
  unsigned shown_ = 0;
  std::shared_ptr<const Session> session_;
  PlanRequest request_;
  std::map<std::string, Measured> measured_;  // by key
  LevelsAsked shownLevels_;
  Look look_;
  std::mutex lookMutex_;
  std::shared_ptr<JobControl> runningLook_;  // the same, on the thread that plans
  bool mediaKnown_ = false;                  // facts_ are of session_'s media
  std::shared_ptr<const Sheet> sheet_ = std::make_shared<Sheet>();
  bool keepsRows_ = false;
  SheetSummary summary_;
  std::shared_ptr<const Session> planned_;
  std::shared_ptr<const MediaFacts> facts_;
  std::shared_ptr<const PluginCatalogue> plugins_;
  std::atomic<bool> forgetsPlugins_{false};
  std::shared_ptr<const PluginCatalogue> asked_;  // on the thread that plans: what it learned last
  std::vector<std::function<void()>> waiting_;    // for the newest sheet
};

}  // namespace octaphon::app
