// Which briefs are looked at, and which are ticked: by id, so that it outlives every edit.
#pragma once

#include <QObject>
#include <set>
#include <string>
#include <vector>

#include "app/work/document.h"

namespace octaphon::app {

class BriefChoice : public QObject {
  Q_OBJECT
 public:
  explicit BriefChoice(Document& document, QObject* parent = nullptr);

  /// The one whose sentence is shown; null where the session has none.
  const Brief* current() const;
  /// Its place in Session::briefs; that of no brief where there is none.
  std::size_t currentIndex() const;
  const std::string& currentId() const { return current_; }
  /// Those that an edit of the sentence changes together, the current one among them, in the session's order.
  std::vector<std::string> chosen() const;
  /// `current` is among `ids`, or the only one.
  void choose(const std::string& current, const std::vector<std::string>& ids = {});

  /// Whether its files are on the sheet: the session says so.
  bool isTicked(const std::string& id) const;
  void setTicked(const std::string& id, bool on);
  /// Places of the ticked ones in Session::briefs.
  std::vector<std::size_t> ticked() const;

 signals:
  void changed();  ///< which are looked at

 private:
  void load();
  void follow();

  Document& document_;
  std::string current_;
  std::size_t place_ = 0;  // of the current one when it was last there
  std::set<std::string> chosen_;
};

}  // namespace octaphon::app
