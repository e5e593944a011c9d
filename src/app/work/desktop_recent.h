// The list of recent documents that all programs of a desktop share: recently-used.xbel (Desktop Bookmark
// Specification 1.0, freedesktop.org), from which its menus and file dialogs take theirs.
#pragma once

#include <QString>

namespace octaphon::app {

/// Adds a session, or says that it was opened once more; on a thread of its own. A list that cannot be read
/// is left as it is.
void noteInDesktopRecent(const QString& session);

/// The same at once, in a list that is named; false where it was left as it is.
bool addToRecentList(const QString& list, const QString& session);

}  // namespace octaphon::app
