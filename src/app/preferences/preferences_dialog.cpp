#include "app/preferences/preferences_dialog.h"

#include <QCheckBox>
#include <QComboBox>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QVBoxLayout>
#include <thread>

#include "app/preferences/cache_choice.h"
#include "app/preferences/folder_choice.h"
#include "app/preferences/plugin_list.h"
#include "app/preferences/sound_choice.h"
#include "app/work/settings.h"
#include "app/work/text.h"

namespace octaphon::app {

PreferencesDialog::PreferencesDialog(Work& work, Commands& commands, WornLook& look, QWidget* parent)
    : PageDialog(parent), form_(new PreferenceForm(this)), work_(work) {
  setAttribute(Qt::WA_DeleteOnClose);
  setWindowTitle(tr("Preferences"));
  setAccessibleName(tr("Preferences"));
  form_->addHeading(tr("Sound"));
  form_->add(tr("Sound device"), new SoundChoice(form_),
             tr("What is heard goes there, from the next time something is played. At first: the system's."));
  addLooks(look, commands);
  addFolders();
  addWork(commands);
  form_->addHeading(tr("Plug-ins"));
  form_->add(
      tr("Found"), new PluginList(work_, form_),
      tr("Each is tried once, in a process of its own, with the settings that a session has; what came of "
         "it is kept until something else is installed."));
  auto* scroll = new QScrollArea(this);
  scroll->setWidget(form_);
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(scroll);
  const QSize wanted(720, 740);
  resize(parent == nullptr ? wanted : wanted.boundedTo(parent->size()));
}

void PreferencesDialog::addLooks(WornLook& look, Commands& commands) {
  form_->addHeading(tr("Looks"));
  auto* colours = new QComboBox(form_);
  colours->addItems({tr("as the desktop has them"), tr("day"), tr("night")});
  const auto show = [colours, &look] {
    const QSignalBlocker blocker(colours);
    colours->setCurrentIndex(static_cast<int>(look.chosen()));
  };
  show();
  connect(&look, &WornLook::changed, colours, show);
  connect(colours, &QComboBox::currentIndexChanged, this,
          [&look](int index) { look.choose(static_cast<Colours>(index)); });
  form_->add(tr("Colours"), colours,
             tr("Light or dark. At first: as the desktop has them, also when it changes."));
  auto* times = new QComboBox(form_);
  times->addItems({tr("minutes and seconds"), tr("timecode")});
  QAction* timecode = commands.action("view.timecode");
  times->setCurrentIndex(timecode->isChecked() ? 1 : 0);
  connect(timecode, &QAction::toggled, times, [times](bool on) { times->setCurrentIndex(on ? 1 : 0); });
  connect(times, &QComboBox::currentIndexChanged, this,
          [timecode](int index) { timecode->setChecked(index == 1); });
  form_->add(
      tr("Times"), times,
      tr("How places in time are written; timecode in the picture rate of the session. At first: minutes and "
         "seconds."));
}

void PreferencesDialog::addFolders() {
  form_->addHeading(tr("Folders"));
  form_->add(tr("Sessions"),
             new FolderChoice(tr("Folder of sessions"), settings::sessionsFolder(), tr("your documents"),
                              &settings::setSessionsFolder, form_),
             tr("Where sessions are looked for and kept at first. At first: your documents."));
  form_->add(tr("Briefs"),
             new FolderChoice(tr("Folder of briefs"), settings::briefsFolder(), tr("beside the session"),
                              &settings::setBriefsFolder, form_),
             tr("Where files of briefs are looked for and kept at first. At first: beside the session."));
  form_->add(
      tr("Converted media"),
      new FolderChoice(tr("Folder of converted media"), settings::cacheFolder(),
                       text(MediaCache::defaultFolder().string()), &settings::setCacheFolder, form_),
      tr("Kept so that a session at another rate opens at once; all of it can be made again. Another folder "
         "counts from the next start on, for the window alone."));
  form_->add(tr("At most"), new CacheChoice(work_, form_),
             tr("Over this, what was used longest ago goes. At first: 10 GB."));
}

void PreferencesDialog::addWork(Commands& commands) {
  form_->addHeading(tr("Making files"));
  auto* workers = new QSpinBox(form_);
  const int cores = static_cast<int>(std::max(1u, std::thread::hardware_concurrency()));
  workers->setRange(0, 256);
  workers->setSpecialValueText(tr("one for each core (%1)").arg(cores));
  workers->setValue(settings::workers());
  connect(workers, &QSpinBox::valueChanged, this, &settings::setWorkers);
  form_->add(
      tr("Workers"), workers,
      tr("That make files at a time; fewer leave more of the machine to others. Files are the same with any "
         "number. At first: one for each core."));
  auto* reading = new QComboBox(form_);
  reading->addItems({tr("all of it, decoded"), tr("bytes only"), tr("nothing")});
  QAction *reads = commands.action("delivery.reads-back"), *bytes = commands.action("delivery.only-bytes");
  const auto show = [reading] {
    const QSignalBlocker blocker(reading);
    reading->setCurrentIndex(static_cast<int>(settings::readsBack()));
  };
  show();
  for (QAction* action : {reads, bytes}) connect(action, &QAction::toggled, reading, show);
  connect(reading, &QComboBox::currentIndexChanged, this, [reads, bytes](int index) {
    const auto how = static_cast<ReadsBack>(index);
    reads->setChecked(how != ReadsBack::None);
    if (how != ReadsBack::None) bytes->setChecked(how == ReadsBack::Bytes);
  });
  form_->add(tr("Read back"), reading,
             tr("What is read again from the disk once it was written, to check it. At first: all of it."));
  auto* names = new QCheckBox(tr("write names into it"), form_);
  names->setChecked(settings::logsNames());
  names->setAccessibleName(tr("Log: write names into it"));
  connect(names, &QCheckBox::toggled, this, &settings::setLogsNames);
  form_->add(tr("Log"), names,
             tr("Help shows and saves what the program did. At first: without names of files and things."));
}

}  // namespace octaphon::app
