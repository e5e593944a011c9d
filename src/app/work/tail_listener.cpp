#include "app/work/tail_listener.h"

namespace octaphon::app {

TailListener::TailListener(SheetKeeper& sheets, RowChoice& rows, MediaCache& cache, PluginPasses& passes,
                           QObject* parent)
    : QObject(parent), sheets_(sheets), rows_(rows), cache_(cache), passes_(passes) {
  pool_.setMaxThreadCount(1);
  delay_.setSingleShot(true);
  delay_.setInterval(60);
  connect(&delay_, &QTimer::timeout, this, &TailListener::start);
  connect(&rows_, &RowChoice::changed, this, &TailListener::ask);
  connect(&sheets_, &SheetKeeper::sheetChanged, this, &TailListener::ask);
}

TailListener::~TailListener() {
  *cancel_ = true;
  pool_.clear();
  pool_.waitForDone();
}

void TailListener::setWanted(bool wanted) {
  if (isWanted_ == wanted) return;
  isWanted_ = wanted;
  ask();
}

/// What is known is of another row, or of a session that has changed.
void TailListener::ask() {
  *cancel_ = true;
  if (levels_ || !problem_.isEmpty()) {
    levels_.reset();
    problem_.clear();
    emit changed();
  }
  delay_.start();
}

void TailListener::start() {
  const auto row = rows_.currentRow();
  if (!isWanted_ || !row || !sheets_.session() || !sheets_.facts()) return emit changed();
  TailQuestion question{sheets_.session(), sheets_.facts(), sheets_.sheet(),
                        sheets_.plugins(), &passes_,        *row};
  if (question.sheet->faultOf(question.sheet->rows[*row]) != nullptr) return emit changed();
  cancel_ = std::make_shared<std::atomic<bool>>(false);
  pool_.start([this, question = std::move(question), cancel = cancel_] {
    auto heard = std::make_shared<Result<TailLevels>>(levelsOfTail(question, cache_, *cancel));
    QMetaObject::invokeMethod(
        this,
        [this, heard, cancel] {
          if (*cancel) return;
          if (*heard)
            levels_ = std::make_shared<const TailLevels>(std::move(**heard));
          else
            problem_ = QString::fromStdString(heard->error().describe());
          emit changed();
        },
        Qt::QueuedConnection);
  });
}

}  // namespace octaphon::app
