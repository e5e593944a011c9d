#include "app/work/sheet_keeper.h"

#include "app/work/freed_elsewhere.h"
#include "run/live_sheet.h"
#include "run/worker_passes.h"

namespace octaphon::app {

struct SheetKeeper::Outcome {
  unsigned number = 0;
  std::shared_ptr<const Session> session;
  std::shared_ptr<const MediaFacts> facts;
  std::shared_ptr<const PluginCatalogue> plugins;
  std::shared_ptr<const Sheet> sheet;
  SheetSummary summary;
  std::shared_ptr<const Sheet> before;  // that was shown when it was planned
  bool keepsRows = false;
};

SheetKeeper::SheetKeeper(MediaCache& cache, QObject* parent) : QObject(parent), cache_(cache) {
  pool_.setMaxThreadCount(1);
  delay_.setSingleShot(true);
  delay_.setInterval(25);
  connect(&delay_, &QTimer::timeout, this, &SheetKeeper::start);
}

SheetKeeper::~SheetKeeper() {
  ++wanted_;
  stopLook();
  pool_.waitForDone();
}

void SheetKeeper::request(std::shared_ptr<const Session> session, PlanRequest request) {
  const bool sameMedia = session_ && session_->media == session->media &&
                         session_->folder() == session->folder() && session_->rate == session->rate;
  mediaKnown_ = mediaKnown_ && sameMedia;
  session_ = std::move(session);
  request_ = std::move(request);
  ++wanted_;
  delay_.start();
}

void SheetKeeper::refresh() {
  if (!session_) return;
  mediaKnown_ = false;
  ++wanted_;
  delay_.start();
}

void SheetKeeper::note(const std::vector<Measured>& measured) {
  for (const Measured& one : measured) measured_.insert_or_assign(one.key, one);
  if (measured.empty() || !session_) return;
  ++wanted_;
  delay_.start();
}

void SheetKeeper::forgetMeasured(const std::string& row) {
  measured_.erase(row + "/level");
  // Tails stand under the span, or under the source that has it for itself.
  for (std::size_t slash = row.find('/'); slash != std::string::npos; slash = row.find('/', slash + 1))
    measured_.erase(row.substr(0, slash));
}

std::vector<Measured> SheetKeeper::measured() const {
  std::vector<Measured> all;
  for (const auto& [key, one] : measured_) all.push_back(one);
  return all;
}

void SheetKeeper::whenPlanned(std::function<void()> act) {
  if (!isPlanning()) return act();
  waiting_.push_back(std::move(act));
}

void SheetKeeper::doWaiting() {
  for (const auto& act : std::exchange(waiting_, {})) act();
}

void SheetKeeper::setLook(Look look) {
  look_ = std::move(look);
  emit lookChanged();
}

void SheetKeeper::stopLook() {
  const std::scoped_lock lock(lookMutex_);
  if (runningLook_) runningLook_->isStopped = true;
}

void SheetKeeper::clear() {
  stopLook();
  waiting_.clear();
  measured_.clear();
  mediaKnown_ = false;
  facts_.reset();
  planned_.reset();
  sheet_ = std::make_shared<Sheet>();
  keepsRows_ = false;
  summary_ = {};
  emit factsChanged();
  emit sheetChanged();
}

/// On the thread that plans.
template <class FindOut>
auto SheetKeeper::looking(const QString& words, const FindOut& findOut) {
  const auto tell = [this](Look look) {
    const std::scoped_lock lock(lookMutex_);
    runningLook_ = look.job;
    QMetaObject::invokeMethod(
        this, [this, look = std::move(look)] { setLook(look); }, Qt::QueuedConnection);
  };
  const auto job = std::make_shared<JobControl>();
  tell({words, job});
  auto found = findOut(job.get());
  tell({});
  return found;
}

void SheetKeeper::start() {
  const unsigned number = wanted_;
  request_.measured = measured();
  pool_.start([this, number, session = session_, request = request_, known = mediaKnown_ ? facts_ : nullptr,
               before = sheet_] {
    if (number != wanted_) return;
    auto outcome = std::make_shared<Outcome>();
    outcome->number = number;
    outcome->session = session;
    outcome->facts = known ? known : looking(tr("Looking at media"), [&](JobControl* job) {
      return gatherFacts(*session, cache_, job);
    });
    if (number != wanted_) return;
    if (forgetsPlugins_.exchange(false)) asked_ = nullptr;
    outcome->plugins = asked_ = looking(tr("Asking plug-ins"), [&](JobControl* job) {
      return describePlugins(*session, asked_, job, cache_.pluginTrials());
    });
    if (number != wanted_) return;
    auto sheet =
        std::make_unique<Sheet>(planWithStates(*session, *outcome->facts, request, outcome->plugins.get()));
    if (number != wanted_) return;
    sheet->index = std::make_shared<RowIndex>(*sheet);
    outcome->summary = summaryOf(*sheet);
    outcome->keepsRows = hasSameRows(*before, *sheet);
    outcome->before = before;
    outcome->sheet = freedElsewhere(std::move(sheet));
    QMetaObject::invokeMethod(
        this, [this, outcome] { take(outcome); }, Qt::QueuedConnection);
  });
}

void SheetKeeper::take(std::shared_ptr<Outcome> outcome) {
  if (outcome->number != wanted_) return;
  shown_ = outcome->number;
  const bool newFacts = facts_ != outcome->facts;
  mediaKnown_ = true;
  facts_ = outcome->facts;
  plugins_ = outcome->plugins;
  planned_ = outcome->session;
  keepsRows_ = outcome->keepsRows && outcome->before == sheet_;
  sheet_ = outcome->sheet;
  summary_ = std::move(outcome->summary);
  if (newFacts) emit factsChanged();
  emit sheetChanged();
  doWaiting();
}

}  // namespace octaphon::app
