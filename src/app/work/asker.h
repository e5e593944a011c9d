// One question at a time, answered in the background, asked anew when what it is about changes.
#pragma once

#include <atomic>
#include <functional>
#include <memory>
#include <optional>
#include <QString>
#include <QThreadPool>
#include <QTimer>

#include "base/result.h"

namespace octaphon::app {

template <class Answer>
class Asker {
 public:
  /// What answers, on another thread: it has all that it needs.
  using Work = std::function<Result<Answer>(const std::atomic<bool>& cancel)>;

  /// `question` gives the work of now, nothing where there is nothing to ask; `changed` is told of each
  /// answer, and when the last one does not count any more. Both on the thread that made this.
  Asker(std::function<std::optional<Work>()> question, std::function<void()> changed)
      : question_(std::move(question)), changed_(std::move(changed)) {
    pool_.setMaxThreadCount(1);
    delay_.setSingleShot(true);
    delay_.setInterval(kDelayMs);
    QObject::connect(&delay_, &QTimer::timeout, &delay_, [this] { start(); });
  }
  ~Asker() {
    *cancel_ = true;
    pool_.clear();
    pool_.waitForDone();
  }

  /// Only while someone shows the answer.
  void setWanted(bool wanted) {
    if (isWanted_ == wanted) return;
    isWanted_ = wanted;
    ask();
  }
  /// What is known does not count any more.
  void ask() {
    *cancel_ = true;
    if (answer_ || !problem_.isEmpty()) {
      answer_.reset();
      problem_.clear();
      changed_();
    }
    delay_.start();
  }

  /// Null while it is not known.
  std::shared_ptr<const Answer> answer() const { return answer_; }
  /// Why there is none; empty where that is not so.
  const QString& problem() const { return problem_; }

 private:
  static constexpr int kDelayMs = 60;

  void start() {
    std::optional<Work> work = isWanted_ ? question_() : std::nullopt;
    if (!work) return changed_();
    cancel_ = std::make_shared<std::atomic<bool>>(false);
    pool_.start([this, work = std::move(*work), cancel = cancel_] {
      auto heard = std::make_shared<Result<Answer>>(work(*cancel));
      QMetaObject::invokeMethod(
          &delay_,
          [this, heard, cancel] {
            if (!*cancel) take(std::move(*heard));
          },
          Qt::QueuedConnection);
    });
  }

  void take(Result<Answer> heard) {
    if (heard)
      answer_ = std::make_shared<const Answer>(std::move(*heard));
    else
      problem_ = QString::fromStdString(heard.error().describe());
    changed_();
  }

  std::function<std::optional<Work>()> question_;
  std::function<void()> changed_;
  QThreadPool pool_;
  QTimer delay_;
  std::shared_ptr<std::atomic<bool>> cancel_ =
      std::make_shared<std::atomic<bool>>(false);  // the last question's
  bool isWanted_ = false;
  std::shared_ptr<const Answer> answer_;
  QString problem_;
};

}  // namespace octaphon::app
