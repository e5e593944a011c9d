// Listens to the tail of the selected row in the background, for those who show it.
#pragma once

#include <QObject>

#include "app/work/asker.h"
#include "app/work/row_choice.h"
#include "run/tail_levels.h"

namespace octaphon::app {

class TailListener : public QObject {
  Q_OBJECT
 public:
  TailListener(SheetKeeper& sheets, RowChoice& rows, MediaCache& cache, PluginPasses& passes,
               QObject* parent = nullptr);

  /// Only while someone shows what is found.
  void setWanted(bool wanted) { asker_.setWanted(wanted); }
  /// Of the row that is selected; null while it is not known.
  std::shared_ptr<const TailLevels> levels() const { return asker_.answer(); }
  /// Why there are none; empty where that is not so.
  const QString& problem() const { return asker_.problem(); }

 signals:
  void changed();

 private:
  std::optional<Asker<TailLevels>::Work> question() const;

  SheetKeeper& sheets_;
  RowChoice& rows_;
  MediaCache& cache_;
  PluginPasses& passes_;
  Asker<TailLevels> asker_;
};

}  // namespace octaphon::app
