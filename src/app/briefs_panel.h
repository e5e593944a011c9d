// All briefs by name, each with a tick and the number of its files; below, the selected one as a sentence.
#pragma once

#include <QListView>
#include <QScrollArea>
#include <QStackedWidget>
#include <QStandardItemModel>
#include <QWidget>

#include "document.h"
#include "sentence_view.h"

namespace octaphon::app {

class BriefsPanel : public QWidget {
  Q_OBJECT
 public:
  explicit BriefsPanel(Document& document, QWidget* parent = nullptr);

  void setSheet(const Sheet& sheet);
  int current() const;  ///< index in Session::briefs; −1 for none
  void setCurrent(int index);
  std::vector<std::size_t> ticked() const;  ///< indices in Session::briefs
  SentenceView& sentence() { return *sentence_; }
  QListView& list() { return *list_; }

  void addBrief();
  void duplicateBrief();
  void removeBrief();

 signals:
  void tickedChanged();
  void currentChanged(int index);

 private:
  void layOut();
  void connectAll();
  void reload();
  void showCurrent();

  Document& document_;
  QListView* list_;
  QStandardItemModel model_;
  QStackedWidget* pages_;
  SentenceView* sentence_;
  bool loading_ = false;                    // the model follows the document, not the user
  std::map<std::string, bool> tickedById_;  // what was unticked stays so while the session is open
};

}  // namespace octaphon::app
