// Whether media are still what they were when they were looked at: asked when they have been read.
#pragma once

#include <map>
#include <string>

#include "media/readable_media.h"
#include "recipe/recipe.h"

namespace octaphon {

class MediaWatch {
 public:
  /// Keeps references.
  MediaWatch(const SpanRecipe& recipe, const ReadableMedia& media) : recipe_(recipe), media_(media) {}

  /// Looks at what clips were read from between two frames of the session. Once changed, a medium stays that.
  void look(Frame from, Frame to);
  /// By id: why not to believe what came of it.
  const std::map<std::string, Error>& changed() const { return changed_; }

 private:
  const SpanRecipe& recipe_;
  const ReadableMedia& media_;
  std::map<std::string, Error> changed_;
};

}  // namespace octaphon
