// What the selections of a brief are about: their rules and the values that a session offers.
#pragma once

#include "app/brief/selection_lines.h"
#include "app/work/work.h"

namespace octaphon::app {

SelectionSubject regionsSubject(Work& work);
SelectionSubject clipSetsSubject(Work& work);
SelectionSubject clipsSubject(Work& work);
SelectionSubject markersSubject(Work& work);
/// Of tracks, groups or returns.
SelectionSubject stripsSubject(Work& work, TrackKind kind);

}  // namespace octaphon::app
