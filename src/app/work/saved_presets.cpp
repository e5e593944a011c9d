#include "app/work/saved_presets.h"

#include <algorithm>
#include <QSettings>
#include <QStringList>

#include "session/presets.h"

namespace octaphon::app::presets {
namespace {

constexpr const char* kKey = "presets";

void writePresets(const std::vector<Preset>& presets) {
  QStringList lines;
  for (const Preset& preset : presets) lines << QString::fromStdString(writePreset(preset));
  QSettings().setValue(kKey, lines);
}

bool isSame(const Preset& a, const Preset& b) { return a.name == b.name && a.phrase == b.phrase; }

}  // namespace

std::vector<Preset> all() {
  std::vector<Preset> presets;
  for (const QString& line : QSettings().value(kKey).toStringList())
    if (auto preset = readPreset(line.toStdString())) presets.push_back(std::move(*preset));
  return presets;
}

void keep(const Preset& preset) {
  std::vector<Preset> presets = all();
  std::erase_if(presets, [&](const Preset& other) { return isSame(other, preset); });
  presets.push_back(preset);
  std::sort(presets.begin(), presets.end(), [](const Preset& a, const Preset& b) { return a.name < b.name; });
  writePresets(presets);
}

void forget(const Preset& preset) {
  std::vector<Preset> presets = all();
  std::erase_if(presets, [&](const Preset& other) { return isSame(other, preset); });
  writePresets(presets);
}

}  // namespace octaphon::app::presets
