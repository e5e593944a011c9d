// What the next run begins with, as long as it has not: another edition of a brief, or numbers given anew. No
// edit of the session: it is the folder's receipt that they change.
#pragma once

#include <QObject>
#include <set>
#include <string>

namespace octaphon::app {

class DeliveryActs : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;

  /// Ids of briefs.
  const std::set<std::string>& newEditions() const { return newEditions_; }
  const std::set<std::string>& numberedAgain() const { return numberedAgain_; }
  void setNewEdition(const std::string& brief, bool on) { set(newEditions_, brief, on); }
  void setNumberedAgain(const std::string& brief, bool on) { set(numberedAgain_, brief, on); }
  /// The session has gone.
  void clear() {
    if (newEditions_.empty() && numberedAgain_.empty()) return;
    newEditions_.clear();
    numberedAgain_.clear();
    emit changed();
  }
  /// Files of this brief were made.
  void finish(const std::string& brief) {
    setNewEdition(brief, false);
    setNumberedAgain(brief, false);
  }

 signals:
  void changed();

 private:
  void set(std::set<std::string>& of, const std::string& brief, bool on) {
    if (on ? of.insert(brief).second : of.erase(brief) > 0) emit changed();
  }

  std::set<std::string> newEditions_, numberedAgain_;
};

}  // namespace octaphon::app
