// The commands that shape a session: each works on what is selected, is one step of undo and says what it
// did.
#pragma once

#include <QAction>
#include <QMenu>
#include <QWidget>

#include "document.h"
#include "selection.h"
#include "timeline_view.h"

namespace octaphon::app {

class EditActions : public QObject {
  Q_OBJECT
 public:
  EditActions(Document& document, Selected& selected, TimelineView& timeline, QWidget* window);

  QList<QAction*> edit() const { return edit_; }    ///< cut, copies, fades …
  QList<QAction*> mark() const { return mark_; }    ///< regions, markers, clip sets
  QList<QAction*> track() const { return track_; }  ///< tracks and groups
  QList<QAction*> all() const { return edit_ + mark_ + track_; }
  /// What makes sense for the thing under the mouse.
  void fillMenu(QMenu& menu, const TimelineHit& hit) const;
  void setEnabled(bool on);

 signals:
  void said(const QString& words);  ///< a line of news
  void nameWanted(octaphon::app::Thing thing);

 private:
  QAction* add(QList<QAction*>& menu, const QString& words, const QKeySequence& keys,
               std::function<void()> work);
  void makeEdit();
  void makeMark();
  void makeTrack();

  void selectAll();
  void splitHere();
  void remove();
  void duplicate();
  void mute();
  void lock();
  void trim(bool start);
  void fade(bool in);
  void regionAround();
  void clipSetFromClips();
  void changeMembers(bool add);
  void addMarkerHere();
  void sortMarkers();
  void toggleFixed();
  void nest();
  void takeOut();
  void newTrack(TrackKind kind);
  ClipIds clips() const;
  void report(const EditCount& count);
  Session const& session() const { return *document_.session(); }

  Document& document_;
  Selected& selected_;
  TimelineView& timeline_;
  QWidget* window_;
  QList<QAction*> edit_, mark_, track_;
  QAction *split_, *duplicate_, *delete_, *mute_, *lock_, *region_, *set_, *join_, *intoSet_, *outOfSet_,
      *fixed_, *marker_;
  QAction *newTrack_, *newGroup_, *newReturn_, *nest_, *takeOut_, *link_, *unlink_;
};

}  // namespace octaphon::app
