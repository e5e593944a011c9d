// What a view paints itself, told to who cannot see it: every part is an accessible child with a name, a
// value, a state, a place and what can be done with it.
#pragma once

#include <functional>
#include <QAccessible>
#include <QRect>
#include <QString>
#include <vector>

class QWidget;

namespace octaphon::app {

struct PaintedPart {
  QString key;    ///< tells it from all others of the view, also when they come and go
  QString name;   ///< `Region Winch/Start 01`
  QString value;  ///< `0:01.000 to 0:02.500`
  QRect place;    ///< in the view
  QAccessible::Role role = QAccessible::ListItem;
  bool isSelected = false;
  bool isCurrent = false;             ///< keys act on it while the view has the keyboard
  bool isOff = false;                 ///< it is there and does nothing
  std::function<void()> choose = {};  ///< what a press does; may be empty
};

/// A base of widgets that paint parts.
class PaintedView {
 public:
  PaintedView();
  virtual ~PaintedView() = default;

  /// Those that are to be seen now.
  virtual std::vector<PaintedPart> paintedParts() = 0;
  /// Another number once they may be others.
  virtual unsigned paintedRevision() const = 0;
};

/// Says that keys act on another part now. `view` is a PaintedView.
void tellCurrentPart(QWidget* view);

}  // namespace octaphon::app
