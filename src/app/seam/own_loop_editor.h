// What a region has of its own of its loop, in a frame that opens above a button.
#pragma once

#include <QFrame>

#include "app/controls/field_controls.h"
#include "app/work/work.h"

namespace octaphon::app {

class OwnLoopEditor : public QFrame {
  Q_OBJECT
 public:
  OwnLoopEditor(Work& work, std::string region, QWidget* parent);

  void openAbove(const QWidget& button);

 private:
  const OwnLoop& now() const;

  Work& work_;
  std::string region_;
  OwnLoop none_;  // of a region that has gone
  FieldControls controls_;
};

}  // namespace octaphon::app
