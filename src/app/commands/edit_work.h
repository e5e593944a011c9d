// What commands that edit have in common.
#pragma once

#include <functional>

#include "app/work/work.h"

namespace octaphon::app {

/// The clips that are selected, with those on linked tracks.
ClipIds selectedClips(Work& work);
std::vector<std::string> listOf(const Ids& ids);

/// One step of undo; what was passed over because it is locked is told.
void editCounted(Work& work, const QString& words, const std::function<EditCount(Session& session)>& change);

}  // namespace octaphon::app
