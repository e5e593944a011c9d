#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>

#include "app/signal/stage_page.h"
#include "app/work/text.h"
#include "edit/inserts.h"

namespace octaphon::app {
namespace {

int decimalsOf(const ParameterInfo& info) {
  const double range = info.most - info.least;
  return range > 1000 ? 0 : range > 20 ? 1 : range > 2 ? 2 : 4;
}

QString shown(const ParameterInfo& info, double value) {
  return QString::number(value, 'f', decimalsOf(info));
}

class InsertPage : public StagePage {
 public:
  InsertPage(Document& document, std::string id, const PluginCatalogue* plugins, QWidget* parent)
      : StagePage(document, parent), id_(std::move(id)) {
    addTags();
    const Insert* insert = findInsert(session(), id_);
    const EffectInfo* info = insert == nullptr ? nullptr : effectInfo(*insert, plugins);
    if (info == nullptr) {
      const std::string why =
          insert == nullptr || plugins == nullptr ? std::string() : plugins->problemOf(*insert);
      auto* words = new QLabel(why.empty() ? tr("It is being looked at …") : text(why), this);
      words->setWordWrap(true);
      layout_->addWidget(words);
    } else {
      addPresets(*info);
      for (const ParameterInfo& parameter : info->parameters) addParameter(parameter);
    }
    layout_->addStretch();
  }

 private:
  void addTags() {
    auto* tags = new QLineEdit(this);
    tags->setAccessibleName(tr("Tags"));
    tags->setPlaceholderText(tr("sound, mix, …"));
    tags->setToolTip(tr(
        "sound: it belongs to the sound itself; mix: to the mix around it. A brief can hear some tags only"));
    addCell(tr("Tags"), tags);
    connect(tags, &QLineEdit::editingFinished, this, [this, tags] {
      edit(tr("Tag an insert"), [&](Session& session) {
        if (Insert* found = findInsert(session, id_)) found->tags = listFrom(tags->text());
      });
    });
    onRefresh([this, tags] {
      const Insert* found = findInsert(session(), id_);
      if (found != nullptr && !tags->hasFocus()) tags->setText(listText(found->tags));
    });
  }

  /// Settings that come with a plug-in. The list says what was chosen last, not what is there: values move
  /// on.
  void addPresets(const EffectInfo& info) {
    if (info.presets.empty()) return;
    auto* box = new QComboBox(this);
    box->setObjectName("presets");
    box->setAccessibleName(tr("Presets"));
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->addItem(tr("Take one …"));
    for (const EffectPreset& preset : info.presets) box->addItem(text(preset.name));
    addCell(tr("Preset"), box);
    connect(box, &QComboBox::activated, this, [this, presets = info.presets](int index) {
      if (index == 0) return;
      const EffectPreset& preset = presets[static_cast<std::size_t>(index - 1)];
      edit(tr("Take the preset %1").arg(text(preset.name)), [&](Session& session) {
        if (Insert* insert = findInsert(session, id_))
          insert->values = preset.values, insert->state = preset.state;
      });
    });
  }

  void addParameter(const ParameterInfo& info) {
    const QString name = text(info.name);
    const auto set = [this, key = info.key, name](double value) {
      edit(
          tr("Change %1").arg(name),
          [&](Session& session) {
            if (Insert* found = findInsert(session, id_)) found->values[key] = value;
          },
          text("signal/" + id_ + "/" + key));
    };
    const auto now = [this, info] {
      const Insert* found = findInsert(session(), id_);
      return found == nullptr ? info.defaultValue : valueOf(*found, info);
    };
    QWidget* field = nullptr;
    if (info.scale == Scale::Switch) {
      auto* box = new QCheckBox(this);
      connect(box, &QCheckBox::toggled, this, [set](bool on) { set(on ? 1 : 0); });
      onRefresh([box, now] { box->setChecked(now() > 0.5); });
      field = box;
    } else if (info.scale == Scale::Choice) {
      auto* box = new QComboBox(this);
      box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
      for (const std::string& choice : info.choices) box->addItem(text(choice));
      connect(box, &QComboBox::activated, this, [set](int choice) { set(choice); });
      onRefresh([box, now] { box->setCurrentIndex(static_cast<int>(now())); });
      field = box;
    } else {
      QDoubleSpinBox* box = number(name, info.least, info.most, decimalsOf(info), text(info.unit));
      if (info.scale == Scale::Ratio)
        box->setStepType(QAbstractSpinBox::AdaptiveDecimalStepType);
      else
        box->setSingleStep((info.most - info.least) / 96);
      box->setToolTip(
          tr("%1: %2 to %3, usually %4")
              .arg(name, shown(info, info.least), shown(info, info.most), shown(info, info.defaultValue)));
      connect(box, &QDoubleSpinBox::valueChanged, this, set);
      onRefresh([box, now] { box->setValue(now()); });
      field = box;
    }
    field->setAccessibleName(name);
    addCell(name, field);
  }

  std::string id_;
};

}  // namespace

StagePage* makeInsertPage(Document& document, const std::string& insert, const PluginCatalogue* plugins,
                          QWidget* parent) {
  return new InsertPage(document, insert, plugins, parent);
}

}  // namespace octaphon::app
