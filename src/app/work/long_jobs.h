// What takes long and goes on beside the window: what it does, how far it is, and how to stop it. The window
// shows all of them; whoever starts one says what becomes of it.
#pragma once

#include <functional>
#include <memory>
#include <QObject>
#include <QThreadPool>
#include <vector>

#include "app/work/news.h"
#include "base/job_control.h"

namespace octaphon::app {

class LongJobs : public QObject {
  Q_OBJECT
 public:
  /// Of one kind there is one at a time.
  enum class Kind {
    Session,  ///< changes the session, or puts another in its place
    Saving,
    Other,  ///< as many as there are
  };
  struct Job {
    quint64 id;
    Kind kind;
    QString words;                    ///< `Opening Tidewheel`
    std::function<double()> portion;  ///< 0 … 1; below 0 where nobody knows
    std::function<void()> stop;
  };

  explicit LongJobs(News& news, QObject* parent = nullptr);
  /// Stops all that it started, and waits until they have ended.
  ~LongJobs() override;

  /// Whether one of this kind may begin; tells what has to end first.
  bool mayStart(Kind kind);
  /// Works on another thread; `then` is given what came of it on the one that started it, also where it was
  /// stopped. Nothing happens where mayStart() says no.
  template <class Outcome>
  void start(Kind kind, const QString& words, std::function<Outcome(JobControl& job)> work,
             std::function<void(Outcome outcome)> then) {
    if (!mayStart(kind)) return;
    auto control = std::make_shared<JobControl>();
    const quint64 id = add(kind, words, control);
    pool_.start([this, id, control, work = std::move(work), then = std::move(then)] {
      auto outcome = std::make_shared<Outcome>(work(*control));
      QMetaObject::invokeMethod(
          this,
          [this, id, outcome, then] {
            end(id);
            then(std::move(*outcome));
          },
          Qt::QueuedConnection);
    });
  }

  /// One that someone else does; it is shown until end().
  quint64 show(const QString& words, std::function<double()> portion, std::function<void()> stop);
  quint64 show(const QString& words, const std::shared_ptr<JobControl>& control);
  void end(quint64 id);

  const std::vector<Job>& jobs() const { return jobs_; }
  bool isBusy(Kind kind) const;
  /// Asks it to stop: it goes when it has.
  void stop(quint64 id);
  void stopAll();

 signals:
  void changed();  ///< one came, or went

 private:
  quint64 add(Kind kind, const QString& words, const std::shared_ptr<JobControl>& control);
  quint64 add(Kind kind, const QString& words, std::function<double()> portion, std::function<void()> stop);

  News& news_;
  QThreadPool pool_;
  std::vector<Job> jobs_;  // in the order they began
  quint64 last_ = 0;
};

}  // namespace octaphon::app
