// What the program has to say, from wherever it comes: the window shows it.
#pragma once

#include <QObject>

#include "base/result.h"

namespace octaphon::app {

class News : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;
  /// A line about what was just done; it goes with the next edit.
  void say(const QString& words) { emit said(words, false); }
  /// The same, where something is wrong.
  void warn(const QString& words) { emit said(words, true); }
  /// What went wrong, with the way out; it stays until it is dismissed.
  void tell(const QString& words) { emit problem(words); }
  /// Why something did not come about. What one has stopped oneself is no problem.
  void tellWhy(const Error& error) {
    const QString words = QString::fromStdString(error.describe());
    if (error.code == ErrorCode::Cancelled)
      say(words);
    else
      tell(words);
  }
  /// Forgets a problem that is over.
  void settle() { emit problem({}); }

 signals:
  void said(const QString& words, bool isProblem);
  void problem(const QString& words);  ///< empty: none any more
};

}  // namespace octaphon::app
