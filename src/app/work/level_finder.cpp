#include "app/work/level_finder.h"

#include "run/measure.h"

namespace octaphon::app {

LevelFinder::LevelFinder(SheetKeeper& sheets, MediaCache& cache, PluginPasses& passes, QObject* parent)
    : QObject(parent), sheets_(sheets), cache_(cache), passes_(passes) {
  pool_.setMaxThreadCount(1);
}

LevelFinder::~LevelFinder() {
  drop();
  pool_.waitForDone();
}

void LevelFinder::drop() {
  if (control_) control_->cancel();
  control_.reset();
}

void LevelFinder::find(std::vector<std::size_t> rows, LevelsAsked measures, std::function<void()> then) {
  drop();
  if (rows.empty() || !sheets_.facts()) return then();
  MeasureRequest request{sheets_.session(), sheets_.facts(), sheets_.sheet(), sheets_.plugins(), &passes_};
  request.rows = std::move(rows);
  request.measures = measures;
  control_ = std::make_shared<RunControl>();
  pool_.start([this, request = std::move(request), control = control_, then = std::move(then)] {
    std::vector<Measured> measured = measureSounds(request, cache_, *control);
    QMetaObject::invokeMethod(
        this,
        [this, control, then, measured = std::move(measured)] {
          if (control != control_) return;
          control_.reset();
          sheets_.note(measured);
          sheets_.whenPlanned(then);
        },
        Qt::QueuedConnection);
  });
}

}  // namespace octaphon::app
