// Everything that one works with, without a window: the session, what is selected, the sheet, sound and
// files. Rooms of the window hear of each other through it alone.
#pragma once

#include <QObject>

#include "app/work/brief_choice.h"
#include "app/work/checking.h"
#include "app/work/cleaning.h"
#include "app/work/delivery_acts.h"
#include "app/work/document.h"
#include "app/work/drawn.h"
#include "app/work/file_looker.h"
#include "app/work/handing_over.h"
#include "app/work/in_step.h"
#include "app/work/level_finder.h"
#include "app/work/listener.h"
#include "app/work/long_jobs.h"
#include "app/work/making.h"
#include "app/work/names_ahead.h"
#include "app/work/news.h"
#include "app/work/overview_store.h"
#include "app/work/places.h"
#include "app/work/rescue.h"
#include "app/work/row_choice.h"
#include "app/work/row_maker.h"
#include "app/work/seam_listener.h"
#include "app/work/selection.h"
#include "app/work/sheet_keeper.h"
#include "app/work/shown_jobs.h"
#include "app/work/tail_listener.h"
#include "app/work/transport.h"
#include "run/worker_passes.h"

namespace octaphon::app {

class Work : public QObject {
  Q_OBJECT
 public:
  explicit Work(MediaCache& cache, OpenOutput open = openOutput);
  ~Work() override;

  MediaCache& cache() { return cache_; }
  News& news() { return news_; }
  LongJobs& jobs() { return jobs_; }
  Document& document() { return document_; }
  const Document& document() const { return document_; }
  std::shared_ptr<const Session> session() const { return document_.session(); }
  BriefChoice& briefs() { return briefs_; }
  DeliveryActs& acts() { return acts_; }
  Selected& selected() { return selected_; }
  SheetKeeper& sheets() { return sheets_; }
  RowChoice& rows() { return rows_; }
  InStep& inStep() { return inStep_; }
  NamesAhead& namesAhead() { return namesAhead_; }
  OverviewStore& overviews() { return overviews_; }
  Transport& transport() { return transport_; }
  LevelFinder& levels() { return levels_; }
  Listener& listener() { return listener_; }
  TailListener& tails() { return tails_; }
  SeamListener& seams() { return seams_; }
  Places& places() { return places_; }
  Making& making() { return making_; }
  Checking& checking() { return checking_; }
  FileLooker& looker() { return looker_; }
  HandingOver& handingOver() { return handingOver_; }
  Cleaning& cleaning() { return cleaning_; }
  RowMaker& maker() { return maker_; }
  Drawn& drawn() { return drawn_; }
  Rescue& rescue() { return rescue_; }

  /// Says how many things an edit passed over, because they are locked.
  void tellLocked(std::size_t things);
  /// Asks for a name for what was just made, or what is selected.
  void askForName(Thing thing) {
    emit panelWanted("names");
    emit nameWanted(thing);
  }
  /// Files that were dropped, or chosen: they are brought in at a place in the session.
  void offerFiles(const QStringList& files, Frame at) { emit filesOffered(files, at); }
  /// Asks for the editor of a phrase (a PhraseKind) in the sentence of the brief that is looked at.
  void askForPhrase(int kind) { emit phraseWanted(kind); }
  /// Asks for a panel to be shown, by its id.
  void showPanel(const QString& id) { emit panelWanted(id); }

 signals:
  void nameWanted(octaphon::app::Thing thing);
  void panelWanted(const QString& id);
  void phraseWanted(int kind);
  void filesOffered(const QStringList& files, octaphon::Frame at);

 private:
  void sessionOpened();
  void replan();

  MediaCache& cache_;
  WorkerPasses pluginPasses_;
  News news_;
  LongJobs jobs_;
  Document document_;
  BriefChoice briefs_;
  DeliveryActs acts_;
  Selected selected_;
  SheetKeeper sheets_;
  RowChoice rows_;
  InStep inStep_;
  NamesAhead namesAhead_;
  OverviewStore overviews_;
  Transport transport_;
  LevelFinder levels_;
  Listener listener_;
  TailListener tails_;
  SeamListener seams_;
  Places places_;
  Making making_;
  Checking checking_;
  FileLooker looker_;
  HandingOver handingOver_;
  Cleaning cleaning_;
  RowMaker maker_;
  Drawn drawn_;
  Rescue rescue_;
  ShownJobs shownJobs_;
};

}  // namespace octaphon::app
