#include "app/work/shown_jobs.h"

namespace octaphon::app {

ShownJobs::ShownJobs(LongJobs& jobs, SheetKeeper& sheets, LevelFinder& levels, Listener& listener,
                     Transport& transport, QObject* parent)
    : QObject(parent), jobs_(jobs) {
  connect(&sheets, &SheetKeeper::mediaLookChanged, this, [this, &sheets] {
    const auto look = sheets.mediaLook();
    show(look_, look != nullptr, [&] { return jobs_.show(tr("Looking at media"), look); });
  });
  connect(&levels, &LevelFinder::busyChanged, this, [this, &levels, &listener] {
    show(measuring_, levels.isBusy(), [&] {
      return jobs_.show(
          tr("Measuring how loud it is"), [&levels] { return levels.portion(); },
          [&listener] { listener.stop(); });
    });
  });
  connect(&transport, &Transport::preparingChanged, this, [this, &transport](bool on) {
    show(preparing_, on, [&] {
      return jobs_.show(
          tr("Converting media, to be heard"), [&transport] { return transport.preparedPortion(); },
          [&transport] { transport.stop(); });
    });
  });
}

void ShownJobs::show(quint64& id, bool isGoingOn, const std::function<quint64()>& begin) {
  if (id != 0) jobs_.end(id);
  id = isGoingOn ? begin() : 0;
}

}  // namespace octaphon::app
