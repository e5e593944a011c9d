// What is selected: by id, so that it outlives every edit, and a stretch of time. It is for mouse and keys
// only: no selection ever changes what a brief prints.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <QObject>

#include "edit/regions.h"
#include "session/session.h"

namespace octaphon::app {

enum class Thing { Clip, Region, Track, ClipSet, Marker };
inline constexpr std::size_t kThings = 5;

/// `3 regions`
QString wordOf(Thing thing, std::size_t count);

/// For Document::edit: edits of this property of these very things, in a row, are one step.
QString mergeKey(const QString& property, const Ids& things);

class Selected : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;

  const Ids& of(Thing thing) const { return ids_[static_cast<std::size_t>(thing)]; }
  const Ids& clips() const { return of(Thing::Clip); }
  const Ids& regions() const { return of(Thing::Region); }
  const Ids& tracks() const { return of(Thing::Track); }
  const Ids& clipSets() const { return of(Thing::ClipSet); }
  const Ids& markers() const { return of(Thing::Marker); }
  const std::optional<TimeSpan>& range() const { return range_; }
  bool isEmpty() const;
  /// The first in time of the regions that are selected; null where none is.
  const Region* firstRegion(const Session& session) const;

  /// These, and nothing of another kind.
  void set(Thing thing, Ids ids);
  void toggle(Thing thing, const std::string& id);
  void setRange(std::optional<TimeSpan> range);
  void clear();
  /// Forgets what the session does not have any more. `areOthers`: what is selected may be of another session
  /// than that of the last time.
  void prune(std::shared_ptr<const Session> session, bool areOthers = false);

 signals:
  void changed();

 private:
  std::array<Ids, kThings> ids_;
  std::optional<TimeSpan> range_;
  std::shared_ptr<const Session> pruned_;  // by this one the last time
};

}  // namespace octaphon::app
