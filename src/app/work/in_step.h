// Keeps what is selected on the sheet, and on timeline and outline, in step: who chooses rows has their
// regions selected, who selects regions, clip sets or tracks has their rows chosen.
#pragma once

#include <QObject>
#include <vector>

#include "app/work/document.h"
#include "app/work/selection.h"
#include "app/work/sheet_keeper.h"

namespace octaphon::app {

class InStep : public QObject {
  Q_OBJECT
 public:
  InStep(Document& document, Selected& selected, SheetKeeper& sheets, QObject* parent = nullptr);

  /// Someone chose these rows on the sheet itself.
  void followRows(const Sheet& sheet, const std::vector<std::size_t>& rows);

 signals:
  void rowsWanted(const std::vector<std::size_t>& rows);  ///< of the newest sheet, in its order

 private:
  void followThings();

  Document& document_;
  Selected& selected_;
  SheetKeeper& sheets_;
  bool isFollowing_ = false;
};

}  // namespace octaphon::app
