// One search for everything: regions, clip sets, tracks, markers, files and commands. Typing lists what is
// found; Return goes there, Shift+Return goes there and plays.
#pragma once

#include <QLineEdit>
#include <QListWidget>

#include "app/commands/commands.h"

namespace octaphon::app {

struct SearchHit {
  enum class What { Region, ClipSet, Track, Marker, Medium, Row, Command };
  What what;
  std::string id;  ///< of the thing; a row's key; a command's id
  QString words;
  QString hint;
};

class SearchField : public QLineEdit {
  Q_OBJECT
 public:
  SearchField(Work& work, Commands& commands, QWidget* parent = nullptr);

  const std::vector<SearchHit>& hits() const { return hits_; }

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;

 private:
  void search(const QString& wanted);
  void showHits();
  void leave();
  void choose(int row, bool play);
  void go(const SearchHit& hit, bool play);

  Work& work_;
  Commands& commands_;
  std::vector<SearchHit> hits_;
  QListWidget* list_;
};

}  // namespace octaphon::app
