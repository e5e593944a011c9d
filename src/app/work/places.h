// Going to places: selects a thing, puts the playhead at its beginning and asks the views to show it.
#pragma once

#include <QObject>

#include "app/work/document.h"
#include "app/work/in_step.h"
#include "app/work/row_choice.h"
#include "app/work/selection.h"
#include "edit/findings.h"

namespace octaphon::app {

class Listener;

class Places : public QObject {
  Q_OBJECT
 public:
  Places(Document& document, Selected& selected, RowChoice& rows, InStep& inStep, Listener& listener,
         QObject* parent = nullptr);

  /// Things that have gone meanwhile are passed over.
  void go(Thing thing, const std::string& id);
  void goTo(const PlannedSpan& span);
  void goTo(const Finding& finding);
  /// The first clip that plays it.
  void goToMedium(const std::string& id);
  /// The span and the track of a row of the newest sheet; which rows are chosen stays as it is.
  void goToRow(const std::string& key);
  /// The next region in time (or the one before); the first, or last, where none is selected.
  void stepRegion(int step);
  /// Zooms to the region that is selected first; to a stretch of time; to what is selected.
  void zoomToRegion();
  void zoomToSelection();
  /// The play line to where what is selected begins, or ends.
  void goToEdge(bool isEnd);

  /// In the order of time, the longer one first.
  static std::vector<const Region*> byTime(const Session& session);

 signals:
  void spanWanted(octaphon::Frame from, octaphon::Frame to);  ///< to be seen
  void zoomWanted(octaphon::Frame from, octaphon::Frame to);  ///< to fill the view
  void trackWanted(const std::string& id);

 private:
  void show(const TimeSpan& span);
  std::optional<TimeSpan> selectedSpan() const;

  Document& document_;
  Selected& selected_;
  RowChoice& rows_;
  InStep& inStep_;
  Listener& listener_;
};

}  // namespace octaphon::app
