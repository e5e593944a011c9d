#include "app/work/seam_listener.h"

namespace octaphon::app {

SeamListener::SeamListener(SheetKeeper& sheets, Selected& selected, MediaCache& cache, PluginPasses& passes,
                           QObject* parent)
    : QObject(parent), sheets_(sheets), selected_(selected), cache_(cache), passes_(passes) {
  pool_.setMaxThreadCount(1);
  delay_.setSingleShot(true);
  delay_.setInterval(60);
  connect(&delay_, &QTimer::timeout, this, &SeamListener::start);
  connect(&selected_, &Selected::changed, this, &SeamListener::ask);
  connect(&sheets_, &SheetKeeper::sheetChanged, this, &SeamListener::ask);
}

SeamListener::~SeamListener() {
  *cancel_ = true;
  pool_.clear();
  pool_.waitForDone();
}

void SeamListener::setWanted(bool wanted) {
  if (isWanted_ == wanted) return;
  isWanted_ = wanted;
  ask();
}

void SeamListener::setSearchMs(double searchMs) {
  if (searchMs_ == searchMs) return;
  searchMs_ = searchMs;
  ask();
}

/// What is known is of another region, or of a session that has changed.
void SeamListener::ask() {
  *cancel_ = true;
  if (found_ || !problem_.isEmpty()) {
    found_.reset();
    problem_.clear();
    emit changed();
  }
  delay_.start();
}

void SeamListener::start() {
  if (!isWanted_ || !sheets_.session() || !sheets_.facts()) return emit changed();
  const Region* region = selected_.firstRegion(*sheets_.session());
  if (region == nullptr) return emit changed();
  place_ = {region->start, region->length};
  RegionSeamQuestion question{sheets_.session(), sheets_.facts(), sheets_.plugins(),
                              &passes_,          place_,          searchMs_};
  cancel_ = std::make_shared<std::atomic<bool>>(false);
  pool_.start([this, question = std::move(question), cancel = cancel_] {
    auto heard = std::make_shared<Result<RegionSeam>>(seamOf(question, cache_, *cancel));
    QMetaObject::invokeMethod(
        this,
        [this, heard, cancel] {
          if (*cancel) return;
          if (*heard)
            found_ = std::make_shared<const RegionSeam>(std::move(**heard));
          else
            problem_ = QString::fromStdString(heard->error().describe());
          emit changed();
        },
        Qt::QueuedConnection);
  });
}

}  // namespace octaphon::app
