#include "app/work/tail_listener.h"

namespace octaphon::app {

TailListener::TailListener(SheetKeeper& sheets, RowChoice& rows, MediaCache& cache, PluginPasses& passes,
                           QObject* parent)
    : QObject(parent),
      sheets_(sheets),
      rows_(rows),
      cache_(cache),
      passes_(passes),
      asker_([this] { return question(); }, [this] { emit changed(); }) {
  connect(&rows_, &RowChoice::changed, this, [this] { asker_.ask(); });
  connect(&sheets_, &SheetKeeper::sheetChanged, this, [this] { asker_.ask(); });
}

std::optional<Asker<TailLevels>::Work> TailListener::question() const {
  const auto row = rows_.currentRow();
  if (!row || !sheets_.session() || !sheets_.facts()) return std::nullopt;
  TailQuestion question{sheets_.session(), sheets_.facts(), sheets_.sheet(),
                        sheets_.plugins(), &passes_,        *row};
  if (question.sheet->faultOf(question.sheet->rows[*row]) != nullptr) return std::nullopt;
  return [question = std::move(question), &cache = cache_](const std::atomic<bool>& cancel) {
    return levelsOfTail(question, cache, cancel);
  };
}

}  // namespace octaphon::app
