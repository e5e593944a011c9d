#include "app/look/painted_parts.h"

#include <algorithm>
#include <map>
#include <QAccessibleWidget>
#include <QWidget>

namespace octaphon::app {
namespace {

class ViewAccess;

/// One part, by its key: what it says is what the view says of it now.
class PartAccess : public QAccessibleInterface, public QAccessibleActionInterface {
 public:
  PartAccess(ViewAccess& view, QString key) : view_(view), key_(std::move(key)) {}

  bool isValid() const override { return part() != nullptr; }
  QObject* object() const override { return nullptr; }
  QAccessibleInterface* parent() const override;
  int childCount() const override { return 0; }
  QAccessibleInterface* child(int) const override { return nullptr; }
  int indexOfChild(const QAccessibleInterface*) const override { return -1; }
  QAccessibleInterface* childAt(int, int) const override { return nullptr; }
  QString text(QAccessible::Text kind) const override;
  void setText(QAccessible::Text, const QString&) override {}
  QRect rect() const override;
  QAccessible::Role role() const override { return isValid() ? part()->role : QAccessible::NoRole; }
  QAccessible::State state() const override;
  void* interface_cast(QAccessible::InterfaceType type) override {
    return type == QAccessible::ActionInterface ? static_cast<QAccessibleActionInterface*>(this) : nullptr;
  }

  QStringList actionNames() const override {
    return isValid() && part()->choose ? QStringList{pressAction()} : QStringList();
  }
  void doAction(const QString& action) override {
    if (action != pressAction() || !isValid()) return;
    if (const auto choose = part()->choose) choose();
  }
  QStringList keyBindingsForAction(const QString&) const override { return {}; }

 private:
  const PaintedPart* part() const;

  ViewAccess& view_;
  QString key_;
};

/// The widget, with its parts before the widgets that are in it.
class ViewAccess : public QAccessibleWidget {
 public:
  ViewAccess(QWidget* widget, PaintedView& view)
      : QAccessibleWidget(widget, QAccessible::List), view_(view) {}
  ~ViewAccess() override {
    for (const auto& [key, id] : ids_) QAccessible::deleteAccessibleInterface(id);
  }

  int childCount() const override { return partCount() + QAccessibleWidget::childCount(); }
  QAccessibleInterface* child(int index) const override {
    if (index >= partCount()) return QAccessibleWidget::child(index - partCount());
    return index < 0 ? nullptr : access(parts()[static_cast<std::size_t>(index)].key);
  }
  int indexOfChild(const QAccessibleInterface* child) const override {
    for (int i = 0; i < partCount(); ++i)
      if (access(parts()[static_cast<std::size_t>(i)].key) == child) return i;
    const int inner = QAccessibleWidget::indexOfChild(child);
    return inner < 0 ? -1 : inner + partCount();
  }
  /// The one on top, which is painted last.
  QAccessibleInterface* childAt(int x, int y) const override {
    const QPoint at = widget()->mapFromGlobal(QPoint(x, y));
    for (auto part = parts().rbegin(); part != parts().rend(); ++part)
      if (part->place.contains(at)) return access(part->key);
    return QAccessibleWidget::childAt(x, y);
  }
  QAccessibleInterface* focusChild() const override {
    const int current = currentIndex();
    return widget()->hasFocus() && current >= 0 ? child(current) : QAccessibleWidget::focusChild();
  }

  int currentIndex() const {
    for (int i = 0; i < partCount(); ++i)
      if (parts()[static_cast<std::size_t>(i)].isCurrent) return i;
    return -1;
  }
  const PaintedPart* find(const QString& key) const {
    const auto part =
        std::find_if(parts().begin(), parts().end(), [&](const PaintedPart& one) { return one.key == key; });
    return part == parts().end() ? nullptr : &*part;
  }
  QWidget* viewWidget() const { return widget(); }

 private:
  int partCount() const { return static_cast<int>(parts().size()); }

  const std::vector<PaintedPart>& parts() const {
    if (const unsigned now = view_.paintedRevision(); !isKnown_ || now != revision_) {
      parts_ = view_.paintedParts();
      revision_ = now;
      isKnown_ = true;
    }
    return parts_;
  }

  QAccessibleInterface* access(const QString& key) const {
    const auto known = ids_.find(key);
    if (known != ids_.end()) return QAccessible::accessibleInterface(known->second);
    auto* made = new PartAccess(const_cast<ViewAccess&>(*this), key);
    ids_.emplace(key, QAccessible::registerAccessibleInterface(made));
    return made;
  }

  PaintedView& view_;
  mutable std::vector<PaintedPart> parts_;
  mutable unsigned revision_ = 0;
  mutable bool isKnown_ = false;
  mutable std::map<QString, QAccessible::Id> ids_;
};

const PaintedPart* PartAccess::part() const { return view_.find(key_); }

QAccessibleInterface* PartAccess::parent() const {
  return QAccessible::queryAccessibleInterface(view_.viewWidget());
}

QString PartAccess::text(QAccessible::Text kind) const {
  const PaintedPart* one = part();
  if (one == nullptr) return {};
  if (kind == QAccessible::Name) return one->name;
  return kind == QAccessible::Value ? one->value : QString();
}

QRect PartAccess::rect() const {
  const PaintedPart* one = part();
  if (one == nullptr) return {};
  return {view_.viewWidget()->mapToGlobal(one->place.topLeft()), one->place.size()};
}

QAccessible::State PartAccess::state() const {
  QAccessible::State state;
  const PaintedPart* one = part();
  state.invalid = one == nullptr;
  if (one == nullptr) return state;
  state.selectable = one->choose != nullptr;
  state.selected = one->isSelected;
  state.focusable = true;
  state.active = one->isCurrent;
  state.focused = one->isCurrent && view_.viewWidget()->hasFocus();
  state.disabled = one->isOff;
  return state;
}

QAccessibleInterface* makeAccess(const QString&, QObject* object) {
  auto* widget = qobject_cast<QWidget*>(object);
  auto* view = dynamic_cast<PaintedView*>(object);
  return widget != nullptr && view != nullptr ? new ViewAccess(widget, *view) : nullptr;
}

}  // namespace

PaintedView::PaintedView() {
  static const bool kIsInstalled = (QAccessible::installFactory(makeAccess), true);
  (void)kIsInstalled;
}

void tellCurrentPart(QWidget* view) {
  if (!QAccessible::isActive() || !view->hasFocus()) return;
  const auto* access = dynamic_cast<const ViewAccess*>(QAccessible::queryAccessibleInterface(view));
  if (access == nullptr || access->currentIndex() < 0) return;
  QAccessibleEvent event(view, QAccessible::Focus);
  event.setChild(access->currentIndex());
  QAccessible::updateAccessibility(&event);
}

}  // namespace octaphon::app
