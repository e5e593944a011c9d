// What has the keyboard when a panel or an editor is asked for. A focus proxy would not do: Tab passes over
// what stands before it.
#pragma once

#include <QPointer>
#include <QVariant>
#include <QWidget>

namespace octaphon::app {

inline constexpr const char* kFirstFocus = "firstFocus";

inline void setFirstFocus(QWidget* panel, QWidget* first) {
  panel->setProperty(kFirstFocus, QVariant::fromValue(QPointer<QWidget>(first)));
}
/// Null where nothing was said, or it has gone.
inline QWidget* firstFocusOf(const QWidget* panel) {
  return panel->property(kFirstFocus).value<QPointer<QWidget>>().data();
}

}  // namespace octaphon::app
