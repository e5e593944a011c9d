#include "app/signal/effect_search.h"

#include <QVBoxLayout>

#include "app/work/text.h"
#include "routing/effect_info.h"

namespace octaphon::app {

EffectSearch::EffectSearch(const std::vector<InstalledPlugin>& plugins,
                           std::function<void(const QString&)> chosen, QWidget* parent)
    : QFrame(parent, Qt::Popup), chosen_(std::move(chosen)) {
  setObjectName("popup");
  setAttribute(Qt::WA_DeleteOnClose);
  setAccessibleName(QObject::tr("Effects"));
  field_ = new QLineEdit(this);
  field_->setPlaceholderText(QObject::tr("Effect or plug-in"));
  field_->setAccessibleName(QObject::tr("Search effects and plug-ins"));
  list_ = new QListWidget(this);
  list_->setAccessibleName(QObject::tr("Effects and plug-ins"));
  list_->setFocusPolicy(Qt::NoFocus);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 8, 8, 8);
  layout->addWidget(field_);
  layout->addWidget(list_);
  resize(380, 300);
  for (const EffectInfo& info : builtInEffects())
    all_.push_back({text(info.id), text(info.name) + "   " + text(info.about)});
  for (const InstalledPlugin& plugin : plugins)
    all_.push_back({text(plugin.uri), text(plugin.name) + "   " + text(plugin.kind)});
  connect(field_, &QLineEdit::textChanged, this, [this] { fill(); });
  connect(list_, &QListWidget::itemClicked, this, [this] { take(); });
  field_->installEventFilter(this);
  fill();
  setFocusProxy(field_);
}

bool EffectSearch::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() != QEvent::KeyPress) return QFrame::eventFilter(watched, event);
  switch (static_cast<QKeyEvent*>(event)->key()) {
    case Qt::Key_Down:
      list_->setCurrentRow(std::min(list_->currentRow() + 1, list_->count() - 1));
      return true;
    case Qt::Key_Up: list_->setCurrentRow(std::max(list_->currentRow() - 1, 0)); return true;
    case Qt::Key_Return:
    case Qt::Key_Enter: take(); return true;
    default: return false;
  }
}

void EffectSearch::fill() {
  list_->clear();
  for (const auto& [id, words] : all_) {
    bool fits = true;
    for (const QString& part : field_->text().split(' ', Qt::SkipEmptyParts))
      fits = fits && words.contains(part, Qt::CaseInsensitive);
    if (!fits) continue;
    auto* item = new QListWidgetItem(words, list_);
    item->setData(Qt::UserRole, id);
  }
  list_->setCurrentRow(0);
}

void EffectSearch::take() {
  const QListWidgetItem* item = list_->currentItem();
  const QString id = item == nullptr ? QString() : item->data(Qt::UserRole).toString();
  close();
  if (!id.isEmpty()) chosen_(id);
}

}  // namespace octaphon::app
