// Work that is not saved yet, kept aside while one works, so that it is there after a crash.
//
// Place: $OCTAPHON_STATE, else $XDG_STATE_HOME/octaphon, else ~/.local/state/octaphon; a file for each
// window, held by a lock as long as the program lives.
#pragma once

#include <atomic>
#include <QDateTime>
#include <QObject>
#include <QThreadPool>
#include <QTimer>

#include "app/work/document.h"
#include "session/session_lock.h"

namespace octaphon::app {

struct RescuedWork {
  QString keptIn;  ///< the file that holds it
  QString file;    ///< of the session it is of; empty where it was never saved
  QString name;
  QDateTime when;
};

class Rescue : public QObject {
  Q_OBJECT
 public:
  explicit Rescue(Document& document, QObject* parent = nullptr);
  ~Rescue() override;

  static QString folder();
  /// Work that programs which are gone have left.
  static std::vector<RescuedWork> found();
  /// The session as it was kept; its file is where it belongs.
  static Result<Session> read(const RescuedWork& work, JobControl* job = nullptr);
  static void discard(const RescuedWork& work);

  /// Writes now what is not kept yet; `then` is told whether it is kept.
  void keep(std::function<void(bool isKept)> then);

 private:
  void keepSoon();
  void write();
  void forget();

  Document& document_;
  QTimer timer_;
  QThreadPool pool_;
  std::atomic<bool> written_{false};  // the latest change is
  QString file_;                      // where this window's work is kept
  SessionLock lock_;
};

}  // namespace octaphon::app
