// One search for everything: regions, clip sets, tracks, markers, files and commands. Typing lists what is
// found; Return goes there, Shift+Return goes there and plays.
#pragma once

#include <QAction>
#include <QLineEdit>
#include <QListWidget>

#include "document.h"
#include "plan/sheet.h"

namespace octaphon::app {

struct SearchHit {
  enum class What { Region, ClipSet, Track, Marker, Medium, Row, Command };
  What what;
  std::size_t index =
      0;  ///< in the session's list, the sheet's rows, or the commands; of markers over all sets
  QString words;
  QString hint;
};

class SearchField : public QLineEdit {
  Q_OBJECT
 public:
  SearchField(Document& document, QList<QAction*> commands, QWidget* parent = nullptr);

  void setCommands(QList<QAction*> commands) { commands_ = std::move(commands); }
  void setSheet(std::shared_ptr<const Sheet> sheet) { sheet_ = std::move(sheet); }
  const std::vector<SearchHit>& hits() const { return hits_; }

 signals:
  void chosen(const octaphon::app::SearchHit& hit, bool play);

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;

 private:
  void search(const QString& wanted);
  void showHits();
  void choose(int row, bool play);

  Document& document_;
  QList<QAction*> commands_;
  std::shared_ptr<const Sheet> sheet_;
  std::vector<SearchHit> hits_;
  QListWidget* list_;
};

}  // namespace octaphon::app
