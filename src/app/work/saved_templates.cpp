#include "app/work/saved_templates.h"

#include <algorithm>
#include <QObject>
#include <QSettings>

namespace octaphon::app::templates {
namespace {

constexpr const char* kGroup = "templates";

QList<SavedTemplate> ours() {
  return {
      {QObject::tr("Game sound with variation"), "{region.base|snake}<_{source|snake}>_{n.name:2}", true},
      {QObject::tr("Library, category and description"),
       "<{region.fact:category|upper}_>{region.base|pascal}<_{region.fact:description|title}>_{n.name:2}",
       true},
      {QObject::tr("Numbered stems, short name and date"),
       "{source.number:2} {source} - {session|short} {edition.date:yyyy-MM-dd}", true},
      {QObject::tr("Album"), "<{author} - >{session}/{n:2} {region.last}", true},
      {QObject::tr("Folders as the groups are"), "<{groups:/}/>{region}_{source}", true},
      {QObject::tr("Folders as the regions' paths are"), "<{region.path:/}/>{region.last}_{source}", true},
  };
}

QList<SavedTemplate> kept() {
  QSettings settings;
  settings.beginGroup(kGroup);
  QList<SavedTemplate> found;
  const int count = settings.beginReadArray("kept");
  for (int i = 0; i < count; ++i) {
    settings.setArrayIndex(i);
    found.push_back({settings.value("name").toString(), settings.value("format").toString()});
  }
  settings.endArray();
  std::sort(found.begin(), found.end(), [](const SavedTemplate& a, const SavedTemplate& b) {
    return QString::localeAwareCompare(a.name, b.name) < 0;
  });
  return found;
}

void writeTemplates(const QList<SavedTemplate>& templates) {
  QSettings settings;
  settings.beginGroup(kGroup);
  settings.remove("kept");
  settings.beginWriteArray("kept", static_cast<int>(templates.size()));
  for (int i = 0; i < templates.size(); ++i) {
    settings.setArrayIndex(i);
    settings.setValue("name", templates[i].name);
    settings.setValue("format", templates[i].format);
  }
  settings.endArray();
}

auto named(const QString& name) {
  return [name](const SavedTemplate& each) { return each.name == name; };
}

}  // namespace

QList<SavedTemplate> all() { return ours() + kept(); }

bool keep(const QString& name, const QString& format) {
  const QList<SavedTemplate> own = ours();
  if (name.trimmed().isEmpty() || std::any_of(own.begin(), own.end(), named(name))) return false;
  QList<SavedTemplate> templates = kept();
  templates.removeIf(named(name));
  templates.push_back({name, format});
  writeTemplates(templates);
  return true;
}

void forget(const QString& name) {
  QList<SavedTemplate> templates = kept();
  templates.removeIf(named(name));
  writeTemplates(templates);
}

}  // namespace octaphon::app::templates
