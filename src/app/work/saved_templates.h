// Templates to choose from: ours for usual cases, and those that someone kept.
#pragma once

#include <QList>
#include <QString>

namespace octaphon::app::templates {

struct SavedTemplate {
  QString name;
  QString format;
  bool isOurs = false;
};

/// Ours first, then those that were kept, by name.
QList<SavedTemplate> all();
/// Keeps one under a name; one of that name is replaced. Names of ours are not taken.
bool keep(const QString& name, const QString& format);
void forget(const QString& name);

}  // namespace octaphon::app::templates
