// What the selected things have: names, notes, facts, colours, levels, switches. Several of a kind are
// changed together; where they differ, a field says so.
#pragma once

#include <functional>
#include <QFormLayout>
#include <QLabel>
#include <QScrollArea>
#include <QTimer>

#include "document.h"
#include "selection.h"

namespace octaphon::app {

class DetailsPanel : public QScrollArea {
  Q_OBJECT
 public:
  DetailsPanel(Document& document, Selected& selected, QWidget* parent = nullptr);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  template <class T>
  struct Kind;
  void reload();
  template <class T>
  void build();
  Thing shown() const;

  Document& document_;
  Selected& selected_;
  QWidget* page_ = nullptr;
  QTimer timer_;
  std::vector<std::function<void()>> refreshers_;  // puts the values of now into the fields
  std::optional<Thing> built_;
};

}  // namespace octaphon::app
