#include "app/commands/edit_work.h"

#include <algorithm>

namespace octaphon::app {

ClipIds selectedClips(Work& work) { return withLinked(*work.session(), work.selected().clips()); }

std::vector<std::string> listOf(const Ids& ids) {
  std::vector<std::string> list(ids.begin(), ids.end());
  std::sort(list.begin(), list.end());
  return list;
}

void editCounted(Work& work, const QString& words, const std::function<EditCount(Session& session)>& change) {
  EditCount count;
  work.document().edit(words, [&](Session& session) { count = change(session); });
  if (count.locked > 0) work.tellLocked(count.locked);
}

}  // namespace octaphon::app
