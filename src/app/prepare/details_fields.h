// Fields of one kind of thing, for several of them at once.
#pragma once

#include <functional>
#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPainter>
#include <QPlainTextEdit>
#include <QToolButton>

#include "app/look/number_box.h"
#include "app/look/theme.h"
#include "app/work/document.h"
#include "app/work/selection.h"
#include "app/work/text.h"
#include "brief/editing.h"

namespace octaphon::app {

template <class T, class Visit>
void forEach(Session& session, const Ids& ids, Visit&& visit) {
  const auto isOne = [&](const auto& item) { return ids.contains(item.id); };
  if constexpr (std::is_same_v<T, Region>) changeWhere(session.regions, isOne, visit);
  if constexpr (std::is_same_v<T, ClipSet>) changeWhere(session.clipSets, isOne, visit);
  if constexpr (std::is_same_v<T, Track>) changeWhere(session.tracks, isOne, visit);
  if constexpr (std::is_same_v<T, Clip>)
    for (Track& track : session.tracks) changeWhere(track.clips, isOne, visit);
  if constexpr (std::is_same_v<T, Marker>)
    for (MarkerSet& set : session.markerSets) changeWhere(set.markers, isOne, visit);
}

template <class T>
constexpr Thing thingOf() {
  if constexpr (std::is_same_v<T, Region>)
    return Thing::Region;
  else if constexpr (std::is_same_v<T, ClipSet>)
    return Thing::ClipSet;
  else if constexpr (std::is_same_v<T, Track>)
    return Thing::Track;
  else if constexpr (std::is_same_v<T, Marker>)
    return Thing::Marker;
  else
    return Thing::Clip;
}

inline std::string pathOf(const std::string& name) {
  const std::size_t slash = name.rfind('/');
  return slash == std::string::npos ? std::string() : name.substr(0, slash);
}

/// Property of fields whose text counts once it is finished.
inline constexpr const char* kFinishedLater = "finishedLater";

/// Fields of one kind of thing. They show, and change, the things whose ids are in `shown`, whatever is
/// selected meanwhile.
template <class T>
class Fields {
 public:
  Fields(Document& document, const Ids& shown, QFormLayout* form,
         std::vector<std::function<void()>>& refreshers)
      : document_(document), shown_(shown), form_(form), refreshers_(refreshers) {}

  template <class Value>
  using Read = std::function<Value(const T&)>;
  template <class Value>
  using Write = std::function<void(T&, const Value&)>;

  void line(const QString& label, Read<std::string> read, Write<std::string> write) {
    auto* field = new QLineEdit;
    add(label, field);
    QObject::connect(field, &QLineEdit::textEdited, field, [=, this](const QString& value) {
      change<std::string>(label, value.toStdString(), write, true);
    });
    refreshers_.push_back([=, this] {
      const auto value = common<std::string>(read);
      if (!value || *value != field->text().toStdString()) field->setText(value ? text(*value) : QString());
      field->setPlaceholderText(value ? QString() : QObject::tr("several"));
    });
  }

  /// `meant` gives what typed lines come to; what is typed stays as it is while it comes to the same.
  using Meant = std::function<std::string(const QString&)>;
  void lines(const QString& label, const QString& hint, Read<std::string> read, Write<QString> write,
             const Meant& meant) {
    QPlainTextEdit* field = addLines(label);
    QObject::connect(field, &QPlainTextEdit::textChanged, field, [=, this] {
      if (!loading_) change<QString>(label, field->toPlainText(), write, true);
    });
    refreshers_.push_back([=, this] {
      const auto value = common<std::string>(read);
      put(field, value.value_or(""), meant);
      field->setPlaceholderText(value ? hint : QObject::tr("several"));
    });
  }

  /// Facts that everything below the path has, where all that is shown lies in one.
  void pathFacts() {
    QPlainTextEdit* field = addLines(QObject::tr("Facts of the path"));
    field->setPlaceholderText(QObject::tr("key = value, for all in this path"));
    const auto path = [this] {
      return common<std::string>([](const T& thing) { return pathOf(thing.name); }).value_or("");
    };
    QObject::connect(field, &QPlainTextEdit::textChanged, field, [=, this] {
      if (loading_ || path().empty()) return;
      const Facts facts = pairsFrom(field->toPlainText());
      document_.edit(
          QObject::tr("Facts of %1").arg(text(path())),
          [&](Session& session) {
            if (facts.empty())
              session.pathFacts.erase(path());
            else
              session.pathFacts[path()] = facts;
          },
          "details/path\n" + text(path()));
    });
    refreshers_.push_back([=, this] {
      field->setEnabled(!path().empty());
      const auto& all = document_.session()->pathFacts;
      const auto found = all.find(path());
      put(field, found == all.end() ? std::string() : pairsText(found->second),
          [](const QString& typed) { return pairsText(pairsFrom(typed)); });
    });
  }

  void flag(const QString& label, Read<bool> read, Write<bool> write, bool countsWhereLocked = false) {
    auto* box = new QCheckBox(label);
    box->setAccessibleName(label);
    form_->addRow(box);
    if (!countsWhereLocked) lockable(box);
    QObject::connect(box, &QCheckBox::clicked, box, [=, this] {
      const bool on = box->checkState() != Qt::Unchecked;
      box->setTristate(false);
      change<bool>(label, on, write);
    });
    refreshers_.push_back([=, this] {
      const auto value = common<bool>(read);
      box->setTristate(!value);
      box->setCheckState(!value ? Qt::PartiallyChecked : *value ? Qt::Checked : Qt::Unchecked);
    });
  }
  void flag(const QString& label, bool T::*member, bool countsWhereLocked = false) {
    flag(
        label, [member](const T& thing) { return thing.*member; },
        [member](T& thing, const bool& value) { thing.*member = value; }, countsWhereLocked);
  }

  /// `isThere`: of which things there is such a number; null: of all.
  void number(const QString& label, double least, double most, int decimals, const QString& unit,
              Read<double> read, Write<double> write, Read<bool> isThere = {}) {
    auto* box = new NumberBox;
    setRange(*box, least, most, decimals, unit);
    add(label, box);
    QObject::connect(box, &QDoubleSpinBox::valueChanged, box, [=, this](double value) {
      if (!loading_ && value >= least) change<double>(label, value, write, true);
    });
    refreshers_.push_back([=, this] {
      loading_ = true;
      box->setValue(common<double>(read).value_or(box->minimum()));
      loading_ = false;
      if (isThere) box->setEnabled(common<bool>(isThere).value_or(false) && !allLocked());
    });
  }

  /// Tags that all have stand in the field: what is added to it is added to all, what is taken out of it is
  /// taken out of all, and tags that only some have stay. What is typed counts once it is finished.
  void tags(const QString& label) {
    auto* field = new QLineEdit;
    field->setProperty(kFinishedLater, true);
    field->setPlaceholderText(QObject::tr("wet, quay, …"));
    add(label, field);
    auto* some = new QLabel;
    some->setFont(Theme::caption());
    some->setObjectName("second");
    some->setWordWrap(true);
    form_->addRow(QString(), some);
    QObject::connect(field, &QLineEdit::editingFinished, field, [=, this] {
      if (!field->isModified()) return;
      field->setModified(false);
      const std::vector<std::string> before = sharedTags(), after = listFrom(field->text());
      if (before == after) return;
      change<std::vector<std::string>>(
          label, after,
          [before](T& thing, const std::vector<std::string>& wanted) { retag(thing.tags, before, wanted); });
    });
    refreshers_.push_back([=, this] {
      const std::vector<std::string> shared = sharedTags();
      if (!field->isModified()) field->setText(listText(shared));
      const std::vector<std::string> others = otherTags(shared);
      some->setText(others.empty() ? QString() : QObject::tr("some of them: %1").arg(listText(others)));
      some->setVisible(!others.empty());
    });
  }

  /// Which sources a span lists for itself, in a menu with ticks.
  void ownSources(const QString& label) {
    auto* button = new QToolButton;
    button->setObjectName("framed");
    button->setPopupMode(QToolButton::InstantPopup);
    button->setToolButtonStyle(Qt::ToolButtonTextOnly);
    button->setToolTip(QObject::tr("What briefs that print regions' own sources take over it"));
    auto* menu = new QMenu(button);
    button->setMenu(menu);
    add(label, button);
    QObject::connect(menu, &QMenu::aboutToShow, menu, [=, this] {
      menu->clear();
      for (const auto& [id, words] : printable()) {
        QAction* action = menu->addAction(words);
        action->setCheckable(true);
        action->setChecked(
            common<bool>([id = id](const T& thing) { return lists(thing, id); }).value_or(false));
        QObject::connect(action, &QAction::triggered, menu, [=, this, id = id](bool on) {
          change<bool>(label, on, [id](T& thing, const bool& isIn) {
            std::erase(thing.sources, id);
            if (isIn) thing.sources.push_back(id);
          });
        });
      }
    });
    refreshers_.push_back([=, this] {
      QStringList names;
      for (const auto& [id, words] : printable())
        if (common<bool>([id = id](const T& thing) { return lists(thing, id); }).value_or(false))
          names << words;
      const bool isMixed = !common<std::vector<std::string>>([](const T& thing) { return thing.sources; });
      button->setText(isMixed           ? QObject::tr("several")
                      : names.isEmpty() ? QObject::tr("none")
                                        : names.join(", "));
    });
  }

  void heading(const QString& words) {
    auto* label = new QLabel(words);
    label->setFont(Theme::strong());
    label->setContentsMargins(0, 8, 0, 0);
    form_->addRow(label);
  }

  /// A number that may be there or not: a tick, and the number beside it.
  /// `sense`: what it counts, where that depends on other fields; may be empty.
  void optionalNumber(const QString& label, const OptionalNumberKind& kind, Read<std::optional<double>> read,
                      Write<std::optional<double>> write, std::function<NumberSense(const T&)> sense = {}) {
    auto* tick = new QCheckBox(label);
    tick->setAccessibleName(QObject::tr("%1 of its own").arg(label));
    auto* box = new NumberBox;
    setRange(*box, kind.number.least, kind.number.most, kind.number.decimals,
             *kind.number.unit == '\0' ? QString() : QString(" %1").arg(kind.number.unit));
    box->setAccessibleName(label);
    form_->addRow(tick, box);
    lockable(tick);
    QObject::connect(tick, &QCheckBox::clicked, tick, [=, this] {
      const bool on = tick->checkState() != Qt::Unchecked;
      tick->setTristate(false);
      document_.edit(QObject::tr("%1 of %2").arg(label, wordOf(thingOf<T>(), shown_.size())),
                     [&](Session& session) {
                       forEach<T>(session, shown_, [&](T& thing) {
                         const double offered = sense ? sense(thing).offered : kind.offered;
                         write(thing, on ? std::optional(read(thing).value_or(offered)) : std::nullopt);
                       });
                     });
    });
    QObject::connect(box, &QDoubleSpinBox::valueChanged, box, [=, this](double value) {
      if (!loading_ && value >= kind.number.least) change<std::optional<double>>(label, value, write, true);
    });
    refreshers_.push_back([=, this] {
      const auto value = common<std::optional<double>>(read);
      const auto isThere = common<bool>([read](const T& thing) { return read(thing).has_value(); });
      tick->setTristate(!isThere);
      tick->setCheckState(!isThere ? Qt::PartiallyChecked : *isThere ? Qt::Checked : Qt::Unchecked);
      loading_ = true;
      double offered = kind.offered;
      if (sense) {
        offered = common<double>([=](const T& thing) { return sense(thing).offered; }).value_or(offered);
        const auto unit = common<std::string>([=](const T& thing) { return std::string(sense(thing).unit); });
        box->setSuffix(unit ? QString(" %1").arg(text(*unit)) : QString());
      }
      box->setValue(!value ? box->minimum() : value->value_or(offered));
      loading_ = false;
      box->setEnabled(isThere.value_or(true) && !allLocked());
    });
  }

  void choice(const QString& label, const QList<std::pair<QString, int>>& items, Read<int> read,
              Write<int> write) {
    auto* box = new QComboBox;
    for (const auto& [words, value] : items) box->addItem(words, value);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(8);
    add(label, box);
    QObject::connect(box, &QComboBox::activated, box,
                     [=, this] { change<int>(label, box->currentData().toInt(), write); });
    refreshers_.push_back([=, this] {
      const auto value = common<int>(read);
      box->setCurrentIndex(value ? box->findData(*value) : -1);
    });
  }

  void ink(const QString& label, int T::*member) {
    auto* row = new QWidget;
    row->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    auto* layout = new QHBoxLayout(row);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    QList<QToolButton*> swatches;
    for (int ink = 0; ink <= kInks; ++ink) swatches << addSwatch(row, ink, label, member);
    auto* distinct = new QToolButton(row);
    distinct->setText(QObject::tr("all different"));
    distinct->setAccessibleName(QObject::tr("A colour of its own for each"));
    layout->addWidget(distinct);
    layout->addStretch();
    QObject::connect(distinct, &QToolButton::clicked, distinct, [=, this] {
      document_.edit(QObject::tr("Colour %1").arg(wordOf(thingOf<T>(), shown_.size())),
                     [&](Session& session) {
                       int next = 0;
                       forEach<T>(session, shown_, [&](T& thing) { thing.*member = next++ % kInks + 1; });
                     });
    });
    form_->addRow(label, row);
    lockable(row);
    refreshers_.push_back([=, this] {
      const auto value = common<int>([member](const T& thing) { return thing.*member; });
      for (int i = 0; i < swatches.size(); ++i) swatches[i]->setChecked(value && *value == i);
      distinct->setVisible(shown_.size() > 1);
    });
  }

 private:
  std::vector<const T*> things() const {
    std::vector<const T*> found;
    const auto collect = [&](const auto& list) {
      for (const auto& item : list)
        if constexpr (std::is_same_v<std::remove_cvref_t<decltype(item)>, T>)
          if (shown_.contains(item.id)) found.push_back(&item);
    };
    const Session& session = *document_.session();
    collect(session.regions);
    collect(session.clipSets);
    collect(session.tracks);
    return found;
  }

  static bool holds(const std::vector<std::string>& list, const std::string& word) {
    return std::find(list.begin(), list.end(), word) != list.end();
  }
  static bool lists(const T& thing, const std::string& id) { return holds(thing.sources, id); }

  /// Tags that all have, as the first has them.
  std::vector<std::string> sharedTags() const {
    const std::vector<const T*> all = things();
    std::vector<std::string> shared = all.empty() ? std::vector<std::string>() : all.front()->tags;
    for (const T* thing : all)
      std::erase_if(shared, [&](const std::string& tag) { return !holds(thing->tags, tag); });
    return shared;
  }
  std::vector<std::string> otherTags(const std::vector<std::string>& shared) const {
    std::vector<std::string> others;
    for (const T* thing : things())
      for (const std::string& tag : thing->tags)
        if (!holds(shared, tag) && !holds(others, tag)) others.push_back(tag);
    return others;
  }
  static void retag(std::vector<std::string>& tags, const std::vector<std::string>& before,
                    const std::vector<std::string>& after) {
    std::erase_if(tags, [&](const std::string& tag) { return holds(before, tag) && !holds(after, tag); });
    for (const std::string& tag : after)
      if (!holds(tags, tag)) tags.push_back(tag);
  }

  /// All that a span can list, by id.
  std::vector<std::pair<std::string, QString>> printable() const {
    std::vector<std::pair<std::string, QString>> found;
    for (const Track& track : document_.session()->tracks) found.emplace_back(track.id, text(track.name));
    found.emplace_back("main", QObject::tr("the mix"));
    return found;
  }

  /// One step below the least value stands for "several".
  static void setRange(QDoubleSpinBox& box, double least, double most, int decimals, const QString& unit) {
    const double step = decimals == 0 ? 1 : decimals == 1 ? 0.5 : 0.05;
    box.setRange(least - step, most);
    box.setSpecialValueText(QObject::tr("several"));
    box.setDecimals(decimals);
    box.setSingleStep(step);
    box.setSuffix(unit);
    box.setKeyboardTracking(false);
  }

  void add(const QString& label, QWidget* field) {
    field->setAccessibleName(label);
    form_->addRow(label, field);
    lockable(field);
  }

  QPlainTextEdit* addLines(const QString& label) {
    auto* field = new QPlainTextEdit;
    field->setFixedHeight(54);
    field->setTabChangesFocus(true);
    add(label, field);
    return field;
  }

  void put(QPlainTextEdit* field, const std::string& value, const Meant& meant) {
    if (meant(field->toPlainText()) == value) return;
    loading_ = true;
    field->setPlainText(text(value));
    loading_ = false;
  }

  QToolButton* addSwatch(QWidget* row, int ink, const QString& label, int T::*member) {
    auto* swatch = new QToolButton(row);
    swatch->setCheckable(true);
    swatch->setAccessibleName(ink == 0 ? QObject::tr("The group's colour")
                                       : QObject::tr("Colour %1").arg(ink));
    swatch->setToolTip(swatch->accessibleName());
    QPixmap pixmap(14, 14);
    pixmap.fill(ink == 0 ? colour(Role::Sheet) : Theme::instance().trackInk(ink));
    if (ink == 0) {
      QPainter painter(&pixmap);
      painter.setPen(colour(Role::Frame));
      painter.drawRect(0, 0, 13, 13);
    }
    swatch->setIcon(QIcon(pixmap));
    row->layout()->addWidget(swatch);
    QObject::connect(swatch, &QToolButton::clicked, swatch, [=, this] {
      change<int>(label, ink, [member](T& thing, const int& value) { thing.*member = value; });
    });
    return swatch;
  }

  bool allLocked() const {
    return common<bool>([](const T& thing) { return thing.lock; }).value_or(false);
  }
  /// Where all are locked, nothing can be changed but the lock.
  void lockable(QWidget* field) {
    refreshers_.push_back([=, this] { field->setEnabled(!allLocked()); });
  }

  template <class Value>
  std::optional<Value> common(const Read<Value>& read) const {
    std::optional<Value> value;
    bool same = true;
    // Reading only: the visitor takes no part of the session away.
    forEach<T>(const_cast<Session&>(*document_.session()), shown_, [&](T& thing) {
      const Value own = read(thing);
      same &= !value || *value == own;
      value = own;
    });
    return same ? value : std::nullopt;
  }

  template <class Value>
  void change(const QString& label, const Value& value, const Write<Value>& write, bool merges = false) {
    document_.edit(
        QObject::tr("%1 of %2").arg(label, wordOf(thingOf<T>(), shown_.size())),
        [&](Session& session) { forEach<T>(session, shown_, [&](T& thing) { write(thing, value); }); },
        merges ? mergeKey("details/" + label, shown_) : QString());
  }

  Document& document_;
  const Ids& shown_;
  QFormLayout* form_;
  std::vector<std::function<void()>>& refreshers_;
  bool loading_ = false;
};

}  // namespace octaphon::app
