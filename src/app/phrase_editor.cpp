#include "phrase_editor.h"

#include <map>
#include <QButtonGroup>
#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QRadioButton>
#include <QScreen>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <set>

#include "naming/file_name.h"
#include "routing/track_tree.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

/// A pop-up that Return closes too.
class Popup : public QFrame {
 public:
  explicit Popup(QWidget* parent) : QFrame(parent, Qt::Popup) {
    setObjectName("popup");
    setAttribute(Qt::WA_DeleteOnClose);
  }

 protected:
  void keyPressEvent(QKeyEvent* event) override {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
      close();
    else
      QFrame::keyPressEvent(event);
  }
};

class Editor : public Popup {
 public:
  Editor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, const QString& title,
         QWidget* parent)
      : Popup(parent), brief_(brief), session_(std::move(session)), apply_(std::move(apply)) {
    setAccessibleName(title);
    layout_ = new QVBoxLayout(this);
    layout_->setContentsMargins(12, 10, 12, 12);
    layout_->setSpacing(4);
    auto* heading = new QLabel(title, this);
    heading->setFont(Theme::strong());
    layout_->addWidget(heading);
  }

 protected:
  void note(const QString& words) {
    auto* label = new QLabel(words, this);
    label->setFont(Theme::caption());
    label->setWordWrap(true);
    label->setMaximumWidth(320);
    layout_->addWidget(label);
  }

  void apply(const QString& words, const QString& merge = {}) { apply_(brief_, words, merge); }

  /// One of several values.
  template <class T>
  void choice(T Brief::*member, const std::vector<std::tuple<T, QString, QString>>& choices,
              const QString& words) {
    auto* group = new QButtonGroup(this);
    for (const auto& [value, label, explanation] : choices) {
      auto* button = new QRadioButton(label, this);
      button->setChecked(brief_.*member == value);
      button->setToolTip(explanation);
      group->addButton(button);
      layout_->addWidget(button);
      connect(button, &QRadioButton::toggled, this, [this, member, value = value, words](bool on) {
        if (!on || brief_.*member == value) return;
        brief_.*member = value;
        apply(words);
      });
      if (button->isChecked()) setFocusProxy(button);
    }
  }

  QDoubleSpinBox* number(double Brief::*member, double most, int decimals, const QString& suffix,
                         const QString& name, const QString& words) {
    auto* box = new QDoubleSpinBox(this);
    box->setRange(0, most);
    box->setDecimals(decimals);
    box->setSuffix(suffix);
    box->setValue(brief_.*member);
    box->setAccessibleName(name);
    box->setSingleStep(decimals > 1 ? 0.25 : 1);
    connect(box, &QDoubleSpinBox::valueChanged, this, [this, member, words](double value) {
      brief_.*member = value;
      apply(words, words);
    });
    return box;
  }

  Brief brief_;
  std::shared_ptr<const Session> session_;
  QVBoxLayout* layout_;

 private:
  ApplyBrief apply_;
};

/// A tree whose leaves can be ticked; folders tick what is in them.
class TickTree : public QTreeWidget {
 public:
  explicit TickTree(QWidget* parent) : QTreeWidget(parent) {
    setHeaderHidden(true);
    setRootIsDecorated(true);
    setIndentation(16);
    setMinimumSize(300, 260);
    setUniformRowHeights(true);
  }
};

class RegionsEditor : public Editor {
 public:
  RegionsEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("Over which regions and clip sets"), parent) {
    all_ = new QCheckBox(tr("All regions, also those still to come"), this);
    all_->setChecked(brief.regions.all);
    tree_ = new TickTree(this);
    tree_->setAccessibleName(tr("Regions of the brief"));
    layout_->addWidget(all_);
    layout_->addWidget(tree_);
    fill();
    tree_->setEnabled(!brief.regions.all);
    setFocusProxy(brief.regions.all ? static_cast<QWidget*>(all_) : tree_);
    connect(all_, &QCheckBox::toggled, this, [this](bool on) {
      tree_->setEnabled(!on);
      take();
    });
    connect(tree_, &QTreeWidget::itemChanged, this, [this] { take(); });
  }

 private:
  QTreeWidgetItem* folder(const QString& path) {
    if (path.isEmpty()) return tree_->invisibleRootItem();
    if (folders_.contains(path)) return folders_[path];
    const qsizetype slash = path.lastIndexOf('/');
    auto* item = new QTreeWidgetItem(folder(slash < 0 ? QString() : path.left(slash)), {path.mid(slash + 1)});
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable |
                   Qt::ItemIsAutoTristate);
    return folders_[path] = item;
  }

  void fill() {
    const QSignalBlocker blocker(tree_);
    const std::set<std::string> chosen(brief_.regions.ids.begin(), brief_.regions.ids.end());
    for (const Region& region : session_->regions) {
      const std::string_view last = lastPart(region.name);
      const std::string_view path = std::string_view(region.name).substr(0, region.name.size() - last.size());
      auto* item = new QTreeWidgetItem(
          folder(path.empty() ? QString() : text(path.substr(0, path.size() - 1))), {text(last)});
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
      item->setCheckState(0, brief_.regions.all || chosen.contains(region.id) ? Qt::Checked : Qt::Unchecked);
      items_.push_back(item);
    }
    fillClipSets();
    tree_->expandAll();
  }

  void fillClipSets() {
    if (session_->clipSets.empty()) return;
    const std::set<std::string> chosen(brief_.clipSets.ids.begin(), brief_.clipSets.ids.end());
    QTreeWidgetItem* heading = folder(tr("Clip sets"));
    for (const ClipSet& set : session_->clipSets) {
      auto* item = new QTreeWidgetItem(heading, {text(set.name)});
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
      item->setCheckState(0, brief_.clipSets.all || chosen.contains(set.id) ? Qt::Checked : Qt::Unchecked);
      sets_.push_back(item);
    }
  }

  void takeClipSets() {
    Selection selection;
    for (std::size_t i = 0; i < sets_.size(); ++i)
      if (sets_[i]->checkState(0) == Qt::Checked) selection.ids.push_back(session_->clipSets[i].id);
    if (brief_.clipSets.all && selection.ids.size() == sets_.size()) return;
    brief_.clipSets = std::move(selection);
  }

  void take() {
    takeClipSets();
    Selection selection{all_->isChecked(), {}};
    for (std::size_t i = 0; i < items_.size() && !selection.all; ++i)
      if (items_[i]->checkState(0) == Qt::Checked) selection.ids.push_back(session_->regions[i].id);
    brief_.regions = std::move(selection);
    apply(tr("Choose regions"), "regions");
  }

  QCheckBox* all_;
  QTreeWidget* tree_;
  std::map<QString, QTreeWidgetItem*> folders_;
  std::vector<QTreeWidgetItem*> items_;  // by region
  std::vector<QTreeWidgetItem*> sets_;   // by clip set
};

class SourcesEditor : public Editor {
 public:
  SourcesEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("Which sources"), parent) {
    mix_ = new QCheckBox(tr("The mix"), this);
    mix_->setChecked(brief.mix);
    allTracks_ = new QCheckBox(tr("Each track, also those still to come"), this);
    allTracks_->setChecked(brief.tracks.all);
    allGroups_ = new QCheckBox(tr("Each group, also those still to come"), this);
    allGroups_->setChecked(brief.groups.all);
    tree_ = new TickTree(this);
    tree_->setAccessibleName(tr("Tracks and groups of the brief"));
    for (QCheckBox* box : {mix_, allTracks_, allGroups_}) {
      layout_->addWidget(box);
      connect(box, &QCheckBox::toggled, this, [this] { take(); });
    }
    layout_->addWidget(tree_);
    note(tr("A ticked group is one file of its sum; tick its tracks for a file of each."));
    fill();
    connect(tree_, &QTreeWidget::itemChanged, this, [this] { take(); });
    setFocusProxy(mix_);
  }

 private:
  void fill() {
    const QSignalBlocker blocker(tree_);
    const TrackTree tracks(*session_);
    std::set<std::string> chosen(brief_.tracks.ids.begin(), brief_.tracks.ids.end());
    chosen.insert(brief_.groups.ids.begin(), brief_.groups.ids.end());
    items_.resize(session_->tracks.size());
    for (const int index : tracks.order()) {
      const Track& track = session_->tracks[static_cast<std::size_t>(index)];
      const int up = tracks.parent(index);
      QTreeWidgetItem* parent =
          up == TrackTree::kMain ? tree_->invisibleRootItem() : items_[static_cast<std::size_t>(up)];
      auto* item = new QTreeWidgetItem(parent, {text(track.name)});
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
      if (track.isGroup()) item->setFont(0, Theme::strong());
      item->setCheckState(0, chosen.contains(track.id) ? Qt::Checked : Qt::Unchecked);
      items_[static_cast<std::size_t>(index)] = item;
    }
    tree_->expandAll();
  }

  void take() {
    brief_.mix = mix_->isChecked();
    brief_.tracks = {allTracks_->isChecked(), {}};
    brief_.groups = {allGroups_->isChecked(), {}};
    for (std::size_t i = 0; i < items_.size(); ++i) {
      const Track& track = session_->tracks[i];
      Selection& selection = track.isGroup() ? brief_.groups : brief_.tracks;
      if (!selection.all && items_[i]->checkState(0) == Qt::Checked) selection.ids.push_back(track.id);
    }
    apply(tr("Choose sources"), "sources");
  }

  QCheckBox* mix_;
  QCheckBox* allTracks_;
  QCheckBox* allGroups_;
  QTreeWidget* tree_;
  std::vector<QTreeWidgetItem*> items_;  // by track
};

class CountsEditor : public Editor {
 public:
  CountsEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("Which sound counts"), parent) {
    choice<Counts>(
        &Brief::counts,
        {{Counts::BeginsHere, tr("Only what begins here"), tr("Clips that start inside the region")},
         {Counts::EverythingHeard, tr("Everything heard"),
          tr("All that sounds inside the region, as one hears it")}},
        tr("Choose which sound counts"));
    layout_->addSpacing(6);
    auto* crossing = new QCheckBox(tr("Hear clips that began earlier from the start on"), this);
    crossing->setChecked(brief.crossing == Crossing::FromStart);
    layout_->addWidget(crossing);
    connect(crossing, &QCheckBox::toggled, this, [this](bool on) {
      brief_.crossing = on ? Crossing::FromStart : Crossing::LeftOut;
      Editor::apply(tr("Choose what becomes of earlier clips"));
    });
    auto* row = new QHBoxLayout;
    row->addWidget(new QLabel(tr("Fade what runs on, in the last"), this));
    row->addWidget(number(&Brief::endFadeMs, kMaxEndFadeMs, 1, " ms", tr("Fade at the end"),
                          tr("Change the fade at the end")));
    layout_->addLayout(row);
    note(tr("Both only matter where just what begins here counts."));
  }
};

class FolderEditor : public Editor {
 public:
  FolderEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("Into which folder"), parent) {
    edit_ = new QLineEdit(text(brief.folder), this);
    edit_->setFont(Theme::mono());
    edit_->setMinimumWidth(260);
    edit_->setAccessibleName(tr("Folder below the session"));
    layout_->addWidget(edit_);
    note(tr("Below the session's folder: %1").arg(text(session_->folder().string())));
    setFocusProxy(edit_);
    connect(edit_, &QLineEdit::textEdited, this, [this](const QString& folder) {
      brief_.folder = folder.toStdString();
      Editor::apply(tr("Change the folder"), "folder");
    });
    connect(edit_, &QLineEdit::returnPressed, this, &QWidget::close);
  }

 private:
  QLineEdit* edit_;
};

class TailEditor : public Editor {
 public:
  TailEditor(const Brief& brief, std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), tr("Tail after the region's end"), parent) {
    QDoubleSpinBox* box = number(&Brief::tailSeconds, kMaxTailSeconds, 3, " s", tr("Length of the tail"),
                                 tr("Change the tail"));
    layout_->addWidget(box);
    setFocusProxy(box);
    note(tr("Clips that are allowed to finish ring into it; others end with the region."));
  }
};

template <class T>
class ChoiceEditor : public Editor {
 public:
  ChoiceEditor(T Brief::*member, const std::vector<std::tuple<T, QString, QString>>& choices,
               const QString& title, const QString& words, const Brief& brief,
               std::shared_ptr<const Session> session, ApplyBrief apply, QWidget* parent)
      : Editor(brief, std::move(session), std::move(apply), title, parent) {
    choice<T>(member, choices, words);
  }
};

std::vector<std::tuple<Encoding, QString, QString>> encodingChoices() {
  std::vector<std::tuple<Encoding, QString, QString>> choices;
  for (const EncodingInfo& info : kEncodings) choices.emplace_back(info.encoding, text(info.text), QString());
  return choices;
}

std::vector<std::tuple<LetterCase, QString, QString>> caseChoices() {
  std::vector<std::tuple<LetterCase, QString, QString>> choices;
  for (const LetterCase letterCase : kLetterCases) {
    const QString example = letterCase == LetterCase::AsIs ? QObject::tr("as it is")
                                                           : text(withCase("Winch Start 01", letterCase));
    choices.emplace_back(letterCase, QString("%1   %2").arg(text(letterCaseName(letterCase)), example),
                         QString());
  }
  return choices;
}

}  // namespace

QFrame* makePhraseEditor(PhraseKind kind, const Brief& brief, std::shared_ptr<const Session> session,
                         const ApplyBrief& apply, QWidget* parent) {
  using Choices = std::vector<std::tuple<Existing, QString, QString>>;
  switch (kind) {
    case PhraseKind::Sources: return new SourcesEditor(brief, session, apply, parent);
    case PhraseKind::Regions: return new RegionsEditor(brief, session, apply, parent);
    case PhraseKind::Counts: return new CountsEditor(brief, session, apply, parent);
    case PhraseKind::Tail: return new TailEditor(brief, session, apply, parent);
    case PhraseKind::Folder: return new FolderEditor(brief, session, apply, parent);
    case PhraseKind::Encoding:
      return new ChoiceEditor<Encoding>(&Brief::encoding, encodingChoices(), QObject::tr("As what"),
                                        QObject::tr("Choose the format"), brief, session, apply, parent);
    case PhraseKind::Case:
      return new ChoiceEditor<LetterCase>(
          &Brief::letterCase, caseChoices(), QObject::tr("Letters of the whole name"),
          QObject::tr("Choose the letter case"), brief, session, apply, parent);
    case PhraseKind::Existing:
      return new ChoiceEditor<Existing>(
          &Brief::existing,
          Choices{{Existing::Keep, QObject::tr("Keep what is there"), QString()},
                  {Existing::Replace, QObject::tr("Replace files of ours that are out of date"), QString()}},
          QObject::tr("Files that are there"), QObject::tr("Choose what becomes of files that are there"),
          brief, session, apply, parent);
    case PhraseKind::Plain:
    case PhraseKind::Template: return nullptr;
  }
  return nullptr;
}

void showBeside(QFrame* editor, QWidget* phrase) {
  editor->adjustSize();
  const QSize size = editor->sizeHint();
  const QRect screen = phrase->screen()->availableGeometry();
  QPoint at = phrase->mapToGlobal(QPoint(0, phrase->height() + 4));
  if (at.y() + size.height() > screen.bottom())
    at.setY(phrase->mapToGlobal(QPoint(0, -4)).y() - size.height());
  at.setX(
      std::clamp(at.x(), screen.left() + 4, std::max(screen.left() + 4, screen.right() - size.width() - 4)));
  at.setY(std::max(at.y(), screen.top() + 4));
  editor->move(at);
  editor->show();
  if (editor->focusProxy() != nullptr) editor->focusProxy()->setFocus(Qt::PopupFocusReason);
}

}  // namespace octaphon::app
