// Controls for fields, made of their description.
#pragma once

#include <functional>
#include <QVBoxLayout>
#include <QWidget>
#include <vector>

#include "brief/editing.h"
#include "session/session.h"

namespace octaphon::app {

/// Where the value of a field is, and how it is changed: `change` applies to a copy, `property` names the
/// field where changes in a row are one step.
template <class Owner>
struct FieldTarget {
  std::function<const Owner&()> now;
  std::function<void(const QString& words, const std::function<void(Owner&)>& change,
                     const QString& property)>
      change;
};

/// Puts controls into a layout and keeps them true.
class FieldControls {
 public:
  FieldControls(QVBoxLayout* layout, QWidget* parent) : layout_(layout), parent_(parent) {}

  /// The widget that has the focus first, of one control or a group of them.
  template <class Owner>
  QWidget* add(const EditableField<Owner>& field, const FieldTarget<Owner>& target, const Session& session);
  /// Puts the values of now into all controls.
  void refresh();

 private:
  template <class Owner>
  struct Maker;
  QVBoxLayout* layout_;
  QWidget* parent_;
  std::vector<std::function<void()>> refreshers_;
  bool isRefreshing_ = false;
};

}  // namespace octaphon::app
