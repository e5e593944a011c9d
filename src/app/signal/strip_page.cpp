#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>

#include "app/look/elided_label.h"
#include "app/look/icons.h"
#include "app/signal/stage_page.h"
#include "app/work/text.h"
#include "base/decibels.h"
#include "edit/inserts.h"

namespace octaphon::app {
namespace {

class StripPage : public StagePage {
 public:
  StripPage(Document& document, std::string place, const PluginCatalogue* plugins, QWidget* parent)
      : StagePage(document, parent), place_(std::move(place)) {
    if (place_ == kMainPlace) {
      addNumber(tr("Fader"), kSilenceDb, kMaxGainDb, 1, "dB",
                [](auto& session) { return &session.main.gainDb; });
    } else if (findTrack(session(), place_) != nullptr) {
      addNumber(tr("Fader"), kSilenceDb, kMaxGainDb, 1, "dB",
                [this](auto& s) { return valueOf(s, &Track::gainDb); });
      addNumber(tr("Pan"), -1, 1, 2, "", [this](auto& s) { return valueOf(s, &Track::pan); });
      addSwitch(tr("Mute"), &Track::mute);
      addSwitch(tr("Turned over"), &Track::invert);
      for (const Send& send : findTrack(session(), place_)->sends) addSend(send);
      addNewSend(plugins);
    }
    layout_->addStretch();
  }

 private:
  /// A value of the track; null where it has gone meanwhile.
  template <class AnySession, class Value>
  auto valueOf(AnySession& session, Value Track::*member) const
      -> decltype(&(findTrack(session, std::string())->*member)) {
    auto* track = findTrack(session, place_);
    return track == nullptr ? nullptr : &(track->*member);
  }

  template <class Member>
  void addNumber(const QString& name, double least, double most, int decimals, const QString& unit,
                 const Member& member) {
    QDoubleSpinBox* box = number(name, least, most, decimals, unit);
    box->setSingleStep(decimals == 1 ? 0.5 : 0.05);
    connect(box, &QDoubleSpinBox::valueChanged, this, [this, member, name](double value) {
      edit(
          tr("Change %1").arg(name),
          [&](Session& session) {
            if (auto* found = member(session)) *found = value;
          },
          text("signal/" + place_ + "/") + name);
    });
    onRefresh([this, box, member] {
      if (const auto* found = member(session())) box->setValue(*found);
    });
    addCell(name, box);
  }

  void addSwitch(const QString& name, bool Track::*member) {
    auto* box = new QCheckBox(name, this);
    box->setAccessibleName(name);
    connect(box, &QCheckBox::clicked, this, [this, member, name](bool on) {
      edit(name, [&](Session& session) {
        if (bool* found = valueOf(session, member)) *found = on;
      });
    });
    onRefresh([this, box, member] {
      if (const bool* found = valueOf(session(), member)) box->setChecked(*found);
    });
    addCell(box);
  }

  void addSend(const Send& send) {
    const std::string id = send.id;
    const QString to = sendTargetName(session(), send.to);
    auto* on = new QCheckBox(this);
    on->setAccessibleName(tr("Send to %1 is on").arg(to));
    auto* name = new ElidedLabel(this, Qt::ElideRight);
    name->setWords(tr("to %1").arg(to));
    QDoubleSpinBox* level = number(tr("Level of the send to %1").arg(to), kSilenceDb, kMaxGainDb, 1, "dB");
    auto* pre = new QCheckBox(tr("pre"), this);
    pre->setToolTip(tr("Leaves before the fader"));
    pre->setAccessibleName(tr("Send to %1 before the fader").arg(to));
    auto* out = new QPushButton(this);
    keepIcon(out, "remove");
    out->setAccessibleName(tr("Take the send to %1 out").arg(to));
    out->setToolTip(tr("Take this send out"));
    out->setFixedWidth(30);
    level->setFixedWidth(84);
    auto* row = new QHBoxLayout;
    row->addWidget(on);
    row->addWidget(name, 1);
    for (QWidget* widget :
         {static_cast<QWidget*>(level), static_cast<QWidget*>(pre), static_cast<QWidget*>(out)})
      row->addWidget(widget);
    layout_->addLayout(row);
    const auto change = [this, id](const QString& words, const std::function<void(Send&)>& set,
                                   const QString& merge = {}) {
      edit(
          words,
          [&](Session& session) {
            if (Send* found = findSend(session, id)) set(*found);
          },
          merge);
    };
    connect(level, &QDoubleSpinBox::valueChanged, this, [change, id](double value) {
      change(
          tr("Change a send"), [value](Send& s) { s.gainDb = value; }, text("send/" + id));
    });
    connect(pre, &QCheckBox::clicked, this, [change](bool checked) {
      change(tr("Change a send"), [checked](Send& s) { s.preFader = checked; });
    });
    connect(on, &QCheckBox::clicked, this,
            [change](bool checked) { change(tr("Switch a send"), [checked](Send& s) { s.on = checked; }); });
    connect(out, &QPushButton::clicked, this,
            [this, id] { edit(tr("Take a send out"), [id](Session& session) { removeSend(session, id); }); });
    onRefresh([this, id, level, pre, on] {
      const Send* found = findSend(session(), id);
      if (found == nullptr) return;
      level->setValue(found->gainDb);
      pre->setChecked(found->preFader);
      on->setChecked(found->on);
    });
  }

  /// A field for one more: to returns, and to what has a key input.
  void addNewSend(const PluginCatalogue* plugins) {
    auto* more = new QComboBox(this);
    more->setObjectName("newSend");
    more->setAccessibleName(tr("Send to"));
    more->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    more->setMinimumContentsLength(24);
    more->addItem(tr("Send to …"));
    for (const Track& track : session().tracks)
      if (track.isReturn() && track.id != place_) more->addItem(text(track.name), text(track.id));
    const auto addKeys = [&](const std::vector<Insert>& inserts) {
      for (const Insert& insert : inserts)
        if (const EffectInfo* info = effectInfo(insert, plugins); info != nullptr && info->hasKey)
          more->addItem(sendTargetName(session(), insert.id), text(insert.id));
    };
    for (const Track& track : session().tracks) addKeys(track.inserts);
    addKeys(session().main.inserts);
    layout_->addWidget(more, 0, Qt::AlignLeft);
    connect(more, &QComboBox::activated, this, [this, more](int index) {
      if (index == 0) return;
      const std::string to = more->itemData(index).toString().toStdString();
      more->setCurrentIndex(0);
      QString why;
      edit(tr("Send to %1").arg(more->itemText(index)), [&](Session& session) {
        if (const auto made = octaphon::addSend(session, place_, to); !made)
          why = text(made.error().describe());
      });
      if (!why.isEmpty()) emit problem(why);
    });
  }

  std::string place_;
};

}  // namespace

QString sendTargetName(const Session& session, const std::string& id) {
  const auto keyOf = [&](const std::vector<Insert>& inserts, const QString& strip) -> QString {
    for (const Insert& insert : inserts)
      if (insert.id == id)
        return StripPage::tr("key of %1 on %2")
            .arg(text(insert.name.empty() ? insert.effect : insert.name), strip);
    return {};
  };
  for (const Track& track : session.tracks) {
    if (track.id == id) return text(track.name);
    if (QString key = keyOf(track.inserts, text(track.name)); !key.isEmpty()) return key;
  }
  const QString key = keyOf(session.main.inserts, StripPage::tr("main"));
  return key.isEmpty() ? text(id) : key;
}

StagePage* makeStripPage(Document& document, const std::string& place, const PluginCatalogue* plugins,
                         QWidget* parent) {
  return new StripPage(document, place, plugins, parent);
}

}  // namespace octaphon::app
