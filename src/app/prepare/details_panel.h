// What the selected things have: names, notes, facts, colours, levels, switches. Several of a kind are
// changed together; where they differ, a field says so.
#pragma once

#include <functional>
#include <QLabel>
#include <QScrollArea>
#include <QTimer>

#include "app/work/work.h"

namespace octaphon::app {

class DetailsPanel : public QScrollArea {
  Q_OBJECT
 public:
  explicit DetailsPanel(Work& work, QWidget* parent = nullptr);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void reload();
  void rebuild(Thing thing);
  void finishTyping();
  template <class T>
  void build();
  Thing thingToShow() const;

  Document& document_;
  Selected& selected_;
  QWidget* page_ = nullptr;
  QTimer timer_;
  std::vector<std::function<void()>> refreshers_;  // puts the values of now into the fields
  std::optional<Thing> built_;
  Ids shown_;  // what the fields show and change
};

}  // namespace octaphon::app
