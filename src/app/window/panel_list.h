// Which panels there are.
#pragma once

#include "app/bring_in/bring_in_flow.h"
#include "app/window/panels.h"

namespace octaphon::app {

std::vector<Panel> panelsOf(Work& work, Commands& commands, BringInFlow& bringIn);

}  // namespace octaphon::app
