#include "app/commands/edit_work.h"

#include "app/work/text.h"
#include "base/unicode.h"

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
  if (count.locked > 0)
    work.news().say(
        QObject::tr("%1 left as they are: they are locked").arg(text(counted(count.locked, "thing"))));
}

}  // namespace octaphon::app
