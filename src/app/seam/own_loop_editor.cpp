#include "app/seam/own_loop_editor.h"

#include <QLabel>
#include <QVBoxLayout>

#include "app/look/first_focus.h"
#include "app/look/session_undo.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "edit/regions.h"

namespace octaphon::app {

OwnLoopEditor::OwnLoopEditor(Work& work, std::string region, QWidget* parent)
    : QFrame(parent, Qt::Popup),
      work_(work),
      region_(std::move(region)),
      controls_(new QVBoxLayout(this), this) {
  setObjectName("phraseEditor");
  setAttribute(Qt::WA_DeleteOnClose);
  setAccessibleName(tr("The region's own loop"));
  auto* heading = new QLabel(tr("Its own loop, instead of the brief's"), this);
  heading->setFont(Theme::strong());
  layout()->addWidget(heading);
  const FieldTarget<OwnLoop> target{
      [this]() -> const OwnLoop& { return now(); },
      [this](const QString& words, const std::function<void(OwnLoop&)>& change, const QString& property) {
        work_.document().edit(
            tr("%1 of a region's loop").arg(words),
            [&](Session& session) {
              if (Region* own = findRegion(session, region_)) change(own->loop);
            },
            property.isEmpty() ? QString() : "own-loop/" + property + text(region_));
      }};
  for (const EditableField<OwnLoop>& field : editableOwnLoop()) {
    QWidget* made = controls_.add(field, target, *work_.session());
    if (firstFocusOf(this) == nullptr) setFirstFocus(this, made);
  }
  auto* note = new QLabel(tr("What is left at its first value is the brief's"), this);
  note->setFont(Theme::caption());
  layout()->addWidget(note);
  controls_.refresh();
  useSessionUndo(this);
  connect(&work_.document(), &Document::changed, this, [this] {
    controls_.refresh();
    adjustSize();
  });
  connect(&work_.document(), &Document::opened, this, &QWidget::close);
}

const OwnLoop& OwnLoopEditor::now() const {
  for (const Region& region : work_.session()->regions)
    if (region.id == region_) return region.loop;
  return none_;
}

void OwnLoopEditor::openAbove(const QWidget& button) {
  adjustSize();
  const QPoint corner = button.mapToGlobal(QPoint(button.width(), 0));
  move(corner.x() - width(), std::max(0, corner.y() - height()));
  show();
  if (QWidget* first = firstFocusOf(this)) first->setFocus(Qt::OtherFocusReason);
}

}  // namespace octaphon::app
