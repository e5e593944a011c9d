#include "app/work/shown_jobs.h"

namespace octaphon::app {

constexpr int kLookMs = 100;  // there is one for every plan: mostly it is over at once

ShownJobs::ShownJobs(LongJobs& jobs, SheetKeeper& sheets, LevelFinder& levels, Listener& listener,
                     Transport& transport, QObject* parent)
    : QObject(parent), jobs_(jobs) {
  lookDelay_.setSingleShot(true);
  lookDelay_.setInterval(kLookMs);
  const auto showLook = [this, &sheets] {
    const SheetKeeper::Look& look = sheets.look();
    show(look_, look.job != nullptr, [&] { return jobs_.show(look.words, look.job); });
  };
  connect(&lookDelay_, &QTimer::timeout, this, showLook);
  connect(&sheets, &SheetKeeper::lookChanged, this, [this, &sheets, showLook] {
    if (sheets.look().job != nullptr) return lookDelay_.start();
    lookDelay_.stop();
    if (look_ != 0) showLook();
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
