#include "app/work/work.h"

#include "base/unicode.h"

namespace octaphon::app {

Work::Work(MediaCache& cache, OpenOutput open)
    : cache_(cache),
      jobs_(news_),
      briefs_(document_),
      sheets_(cache),
      rows_(sheets_),
      inStep_(document_, selected_, rows_),
      namesAhead_(document_, sheets_),
      overviews_(cache),
      transport_(cache, &pluginPasses_, std::move(open)),
      levels_(sheets_, cache, pluginPasses_),
      listener_(document_, sheets_, selected_, rows_, transport_, levels_, news_),
      tails_(sheets_, rows_, cache, pluginPasses_),
      seams_(sheets_, selected_, rows_, cache, pluginPasses_),
      places_(document_, selected_, rows_, inStep_, listener_),
      making_(cache),
      checking_(document_, sheets_, making_, jobs_, news_),
      handingOver_(document_, sheets_, rows_, making_, jobs_, news_),
      maker_(sheets_, making_, pluginPasses_),
      rescue_(document_),
      shownJobs_(jobs_, sheets_, levels_, listener_, transport_) {
  connect(&document_, &Document::opened, this, &Work::sessionOpened);
  connect(&document_, &Document::moved, this, &Work::replan);
  connect(&document_, &Document::changed, this, [this](unsigned parts) {
    if ((parts & ~static_cast<unsigned>(kBriefs)) != 0) selected_.prune(document_.session());
    replan();
  });
  connect(&document_, &Document::leftLocked, this, &Work::tellLocked);
  connect(&acts_, &DeliveryActs::changed, this, &Work::replan);
  connect(&selected_, &Selected::changed, this, [this] { document_.endMerging(); });
  connect(&sheets_, &SheetKeeper::factsChanged, this, [this] {
    if (sheets_.session()) overviews_.load(*sheets_.session(), sheets_.facts());
  });
  connect(&making_, &Making::finished, this, [this](const MadeReport& report) {
    for (const MadeFile& made : report.made) {
      acts_.finish(made.brief);
      sheets_.forgetMeasured(made.key);  // the receipt has it
    }
    sheets_.refresh();
  });
  connect(&cleaning_, &Cleaning::finished, this, [this](std::size_t moved, const QStringList& problems) {
    news_.say(tr("%1 moved to the trash").arg(QString::fromStdString(counted(moved, "left-over file"))));
    if (!problems.isEmpty()) news_.tell(problems.join('\n'));
    sheets_.refresh();
  });
  connect(&sheets_, &SheetKeeper::sheetChanged, &making_, [this] { making_.follow(sheets_.sheet()); });
  connect(&maker_, &RowMaker::nothingToMake, &news_,
          [this] { news_.say(tr("None of these can be made now: the sheet says why")); });
  connect(&transport_, &Transport::problem, &news_, &News::tell);
}

/// Views look at all this until they go; nothing may speak to one that has gone already.
Work::~Work() {
  transport_.stop();
  for (QObject* object :
       {static_cast<QObject*>(&document_), static_cast<QObject*>(&selected_), static_cast<QObject*>(&sheets_),
        static_cast<QObject*>(&transport_), static_cast<QObject*>(&briefs_)})
    object->blockSignals(true);
}

void Work::tellLocked(std::size_t things) {
  news_.say(tr("%1 not changed: locked").arg(QString::fromStdString(counted(things, "thing"))));
}

void Work::sessionOpened() {
  transport_.setPosition(0);
  selected_.clear();
  acts_.clear();
  maker_.leave();
  maker_.forgetFailed();
  levels_.forget();
  sheets_.clear();
  rows_.clear();
  drawn_.setProposals({});
  drawn_.setCurve({}, {});
  replan();
}

void Work::replan() {
  PlanRequest request;
  request.briefs = briefs_.ticked();
  for (const std::string& brief : acts_.newEditions()) request.newEditions[brief] = 0;
  request.numberedAgain = acts_.numberedAgain();
  sheets_.request(document_.session(), std::move(request));
}

}  // namespace octaphon::app
