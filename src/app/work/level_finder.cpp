#include "app/work/level_finder.h"

#include "run/measure.h"

namespace octaphon::app {

LevelFinder::LevelFinder(SheetKeeper& sheets, MediaCache& cache, PluginPasses& passes, QObject* parent)
    : QObject(parent), sheets_(sheets), cache_(cache), passes_(passes) {
  pool_.setMaxThreadCount(1);
}

LevelFinder::~LevelFinder() {
  forget();
  pool_.waitForDone();
}

void LevelFinder::stop() {
  if (!control_) return;
  control_->cancel();
  setControl(nullptr);
}

void LevelFinder::setControl(std::shared_ptr<RunControl> control) {
  control_ = std::move(control);
  emit busyChanged();
}

void LevelFinder::forget() {
  stop();
  ++session_;
}

void LevelFinder::find(std::vector<std::size_t> rows, LevelsAsked measures, std::function<void()> then) {
  stop();
  if (rows.empty() || !sheets_.facts()) return then();
  MeasureRequest request{sheets_.session(), sheets_.facts(), sheets_.sheet(), sheets_.plugins(), &passes_};
  request.rows = std::move(rows);
  request.measures = measures;
  setControl(std::make_shared<RunControl>());
  pool_.start(
      [this, request = std::move(request), control = control_, session = session_, then = std::move(then)] {
        std::vector<Measured> measured = measureSounds(request, cache_, *control);
        QMetaObject::invokeMethod(
            this,
            [this, control, session, then, measured = std::move(measured)] {
              if (session == session_) sheets_.note(measured);
              if (control != control_) return;
              setControl(nullptr);
              sheets_.whenPlanned(then);
            },
            Qt::QueuedConnection);
      });
}

}  // namespace octaphon::app
