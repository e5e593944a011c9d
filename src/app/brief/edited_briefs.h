// The briefs that an edit of the sentence changes: the one that is looked at, and those chosen with it.
#pragma once

#include <algorithm>

#include "app/work/text.h"
#include "app/work/work.h"

namespace octaphon::app {

class EditedBriefs {
 public:
  explicit EditedBriefs(Work& work) : work_(work) {}

  /// The one that is looked at; a new brief where there is none.
  const Brief& now() const {
    static const Brief kNone;
    const Brief* brief = work_.briefs().current();
    return brief == nullptr ? kNone : *brief;
  }
  /// All that are changed together.
  std::vector<Brief> all() const {
    const std::vector<std::string> ids = work_.briefs().chosen();
    std::vector<Brief> briefs;
    for (const Brief& brief : work_.session()->briefs)
      if (std::find(ids.begin(), ids.end(), brief.id) != ids.end()) briefs.push_back(brief);
    return briefs;
  }
  std::size_t count() const { return work_.briefs().chosen().size(); }
  std::shared_ptr<const Session> session() const { return work_.session(); }

  /// All of them in one step. Changes of one `property` (not empty) in a row are one step too.
  void change(const QString& words, const Document::BriefChange& change, const QString& property = {}) const {
    const std::vector<std::string> ids = work_.briefs().chosen();
    const QString key =
        property.isEmpty() ? QString() : mergeKey("brief/" + property, {ids.begin(), ids.end()});
    work_.document().editBriefs(ids, words, change, key);
  }

 private:
  Work& work_;
};

}  // namespace octaphon::app
