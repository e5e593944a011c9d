#include "app/brief/presets_line.h"

#include <algorithm>
#include <QHBoxLayout>
#include <QMenu>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/work/saved_presets.h"

namespace octaphon::app {

PresetsLine::PresetsLine(PhraseKind kind, Work& work, QWidget* parent)
    : QWidget(parent), kind_(kind), work_(work), briefs_(work) {
  button_ = new QToolButton(this);
  button_->setText(tr("Presets"));
  button_->setAccessibleName(tr("Presets of this phrase"));
  button_->setPopupMode(QToolButton::InstantPopup);
  button_->setToolButtonStyle(Qt::ToolButtonTextOnly);
  button_->setFocusPolicy(Qt::TabFocus);
  auto* menu = new QMenu(button_);
  button_->setMenu(menu);
  connect(menu, &QMenu::aboutToShow, this, &PresetsLine::fillMenu);
  keeping_ = new QWidget(this);
  name_ = new QLineEdit(keeping_);
  name_->setPlaceholderText(tr("Name of the preset"));
  name_->setAccessibleName(tr("Name of the preset"));
  auto* mine = new QPushButton(tr("Keep for me"), keeping_);
  auto* shared = new QPushButton(tr("In the session"), keeping_);
  auto* row = new QHBoxLayout(keeping_);
  row->setContentsMargins(0, 0, 0, 0);
  row->addWidget(name_, 1);
  row->addWidget(mine);
  row->addWidget(shared);
  keeping_->hide();
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 4, 0, 0);
  layout->setSpacing(4);
  layout->addWidget(button_, 0, Qt::AlignLeft);
  layout->addWidget(keeping_);
  connect(mine, &QPushButton::clicked, this, [this] { keep(false); });
  connect(shared, &QPushButton::clicked, this, [this] { keep(true); });
}

/// Those that are there from the start, those of the session, one's own; then what can be done with them.
void PresetsLine::fillMenu() {
  QMenu* menu = button_->menu();
  menu->clear();
  const std::string phrase(phraseInfo(kind_).name);
  auto* forget = new QMenu(tr("Forget"), menu);
  const auto add = [&](const Preset& preset, bool isOfSession) {
    if (preset.phrase != phrase) return;
    const QString words = isOfSession ? text(preset.name) : tr("%1 (mine)").arg(text(preset.name));
    menu->addAction(words, this, [this, preset] { use(preset); });
    forget->addAction(words, this, [this, preset, isOfSession] {
      if (!isOfSession) return presets::forget(preset);
      work_.document().edit(tr("Forget a preset"),
                            [&](Session& session) { std::erase(session.presets, preset); });
    });
  };
  for (const Preset& preset : ourPresets())
    if (preset.phrase == phrase) menu->addAction(text(preset.name), this, [this, preset] { use(preset); });
  if (!menu->isEmpty()) menu->addSeparator();
  for (const Preset& preset : work_.session()->presets) add(preset, true);
  for (const Preset& preset : presets::all()) add(preset, false);
  const bool isNone = forget->isEmpty();
  if (!isNone) menu->addSeparator();
  menu->addAction(tr("Keep what it says now …"), this, [this] {
    keeping_->show();
    name_->setFocus();
  });
  if (isNone)
    delete forget;
  else
    menu->addMenu(forget);
}

void PresetsLine::use(const Preset& preset) {
  std::optional<Error> error;
  briefs_.change(tr("Use the preset %1").arg(text(preset.name)), [&](Brief& brief) {
    if (const auto used = usePreset(brief, preset); !used) error = used.error();
  });
  if (error) work_.news().tell(text(error->describe()));
}

/// One of its name and phrase is replaced.
void PresetsLine::keep(bool inSession) {
  const QString name = name_->text().trimmed();
  if (name.isEmpty()) return name_->setFocus();
  const Preset preset = presetOf(briefs_.now(), kind_, name.toStdString());
  if (!inSession) {
    presets::keep(preset);
  } else {
    work_.document().edit(tr("Keep the preset %1").arg(name), [&](Session& session) {
      std::erase_if(session.presets, [&](const Preset& other) {
        return other.name == preset.name && other.phrase == preset.phrase;
      });
      session.presets.push_back(preset);
    });
  }
  work_.news().say(tr("Preset %1 kept").arg(name));
  name_->clear();
  keeping_->hide();
}

}  // namespace octaphon::app
