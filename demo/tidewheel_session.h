// The session of the demo, as demo/Tidewheel.octaphon holds it.
#pragma once

#include "session/session.h"

namespace octaphon::demo {

Session tidewheelSession();

}  // namespace octaphon::demo
