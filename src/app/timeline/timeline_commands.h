// Zooming, snapping, and what the timeline shows.
#pragma once

#include "app/timeline/timeline_view.h"

namespace octaphon::app {

void addTimelineCommands(Commands& commands, Work& work, TimelineView& timeline);

}  // namespace octaphon::app
