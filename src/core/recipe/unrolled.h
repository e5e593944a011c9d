// A session in which a stretch of time is repeated: what an inner lap is taken from. A value like any other
// session, so that nothing that plays it has to know of laps.
#pragma once

#include "recipe/recipe.h"

namespace octaphon {

/// What a pass plays of a session: the session itself, or one in which the laps of a span follow each other.
class PlayedContext {
 public:
  /// `context` must live as long.
  PlayedContext(const SignalContext& context, const PlannedSpan& span, const Counting& counting);
  PlayedContext(const PlayedContext&) = delete;

  const SignalContext& context() const { return unrolled_ ? unrolled_->signal : context_; }
  const PlannedSpan& span() const { return span_; }
  /// Clips as they sound in it.
  std::vector<HeardClip> heard() const { return heard_; }

 private:
  void unroll(const PlannedSpan& span);

  const SignalContext& context_;
  PlannedSpan span_;
  std::vector<HeardClip> heard_;
  std::unique_ptr<Session> session_;
  std::unique_ptr<SessionContext> unrolled_;
};

}  // namespace octaphon
