#include "app/window/search_field.h"

#include <QKeyEvent>

#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "naming/file_name.h"

namespace octaphon::app {
namespace {

constexpr std::size_t kMostHits = 40;
constexpr std::size_t kMostOfAKind = 12;
constexpr int kRowHeight = 24;

/// What a thing is found by: its name, and its tags where it has any.
template <class Thing>
std::string withTags(const Thing& thing, std::string name) {
  if constexpr (requires { thing.tags; })
    for (const std::string& tag : thing.tags) name += " " + tag;
  return name;
}

}  // namespace

SearchField::SearchField(Work& work, Commands& commands, QWidget* parent)
    : QLineEdit(parent), work_(work), commands_(commands) {
  setObjectName("search");
  setPlaceholderText(tr("Search everything"));
  setAccessibleName(tr("Search everything"));
  setToolTip(
      tr("Regions, clip sets, tracks, markers, files, commands. Return goes there, Shift+Return plays it "
         "(Ctrl+F)"));
  setClearButtonEnabled(true);
  list_ = new QListWidget(window());
  list_->setObjectName("searchList");
  list_->setAccessibleName(tr("What was found"));
  list_->setFocusPolicy(Qt::NoFocus);
  list_->setUniformItemSizes(true);
  list_->hide();
  setMinimumWidth(150);
  connect(this, &QLineEdit::textEdited, this, &SearchField::search);
  // What was found is of the session that was there.
  connect(&work_.document(), &Document::opened, this, &SearchField::leave);
  connect(&work_.document(), &Document::changed, this, [this] {
    if (!list_->isHidden()) search(QLineEdit::text());
  });
  connect(list_, &QListWidget::itemClicked, this,
          [this](QListWidgetItem* item) { choose(list_->row(item), false); });
}

/// Every word must be somewhere in the text; letter case and accents written apart do not matter.
void SearchField::search(const QString& wanted) {
  hits_.clear();
  std::vector<std::string> words;
  for (const QString& word : wanted.split(' ', Qt::SkipEmptyParts))
    words.push_back(foldedName(word.toStdString()));
  if (words.empty()) return showHits();
  const auto fits = [&](const std::string& name) {
    const std::string folded = foldedName(name);
    return std::all_of(words.begin(), words.end(),
                       [&](const std::string& word) { return folded.find(word) != std::string::npos; });
  };
  const auto session = work_.session();
  const int rate = session->rate;
  using What = SearchHit::What;
  const auto collect = [&](What what, const auto& list, auto&& nameOf, auto&& idOf, auto&& hintOf) {
    std::size_t found = 0;
    for (const auto& thing : list) {
      if (found == kMostOfAKind || hits_.size() == kMostHits) return;
      if (!fits(withTags(thing, nameOf(thing)))) continue;
      hits_.push_back({what, idOf(thing), app::text(printable(nameOf(thing), 120)), hintOf(thing)});
      ++found;
    }
  };
  const auto name = [](const auto& thing) { return thing.name; };
  const auto id = [](const auto& thing) { return thing.id; };
  collect(What::Region, session->regions, name, id,
          [&](const Region& r) { return tr("region, %1").arg(app::text(timeText(r.start, rate))); });
  collect(What::ClipSet, session->clipSets, name, id, [&](const ClipSet&) { return tr("clip set"); });
  collect(What::Track, session->tracks, name, id,
          [&](const Track& t) { return t.isGroup() ? tr("group") : tr("track"); });
  for (const MarkerSet& set : session->markerSets)
    collect(What::Marker, set.markers, name, id,
            [&](const Marker& m) { return tr("marker, %1").arg(app::text(timeText(m.at, rate))); });
  collect(
      What::Medium, session->media, [](const Medium& m) { return m.file; }, id,
      [&](const Medium&) { return tr("media"); });
  const auto sheet = work_.sheets().sheet();
  collect(
      What::Row, sheet->rows, [](const Row& r) { return r.file; },
      [&](const Row& r) { return sheet->keyOf(r); },
      [&](const Row& r) { return tr("file, %1").arg(app::text(rowStateText(r.state))); });
  collect(
      What::Command, commands_.actions(commands_.ids()),
      [](const QAction* a) { return Commands::title(*a).toStdString(); },
      [](const QAction* a) { return a->objectName().toStdString(); },
      [&](const QAction* a) {
        return a->shortcut().isEmpty() ? tr("command") : a->shortcut().toString(QKeySequence::NativeText);
      });
  showHits();
}

void SearchField::showHits() {
  list_->clear();
  if (list_->parentWidget() != window()) list_->setParent(window());
  for (const SearchHit& hit : hits_) {
    auto* item = new QListWidgetItem(hit.words + "    " + hit.hint, list_);
    item->setSizeHint(QSize(100, kRowHeight));
  }
  if (hits_.empty() && !QLineEdit::text().trimmed().isEmpty()) {
    auto* item = new QListWidgetItem(tr("Nothing of this name"), list_);
    item->setFlags(Qt::NoItemFlags);
  }
  list_->setVisible(list_->count() > 0);
  if (list_->count() == 0) return;
  list_->setCurrentRow(0);
  const QPoint below = mapTo(window(), QPoint(0, height() + 2));
  const int width = std::max(this->width(), 420);
  list_->setGeometry(std::min(below.x(), window()->width() - width - 8), below.y(), width,
                     std::min(14, list_->count()) * kRowHeight + 6);
  list_->raise();
}

void SearchField::leave() {
  hits_.clear();
  list_->hide();
  clear();
}

void SearchField::choose(int row, bool play) {
  if (row < 0 || row >= static_cast<int>(hits_.size())) return;
  const SearchHit hit = hits_[static_cast<std::size_t>(row)];
  leave();
  go(hit, play);
}

/// What has gone since it was found is passed over.
void SearchField::go(const SearchHit& hit, bool play) {
  using What = SearchHit::What;
  Places& places = work_.places();
  switch (hit.what) {
    case What::Region:
      places.go(Thing::Region, hit.id);
      places.zoomToRegion();
      break;
    case What::ClipSet: places.go(Thing::ClipSet, hit.id); break;
    case What::Track: places.go(Thing::Track, hit.id); break;
    case What::Marker: places.go(Thing::Marker, hit.id); break;
    case What::Medium: places.goToMedium(hit.id); break;
    case What::Row:
      work_.showPanel("sheet");
      work_.rows().show(hit.id);
      places.goToRow(hit.id);
      break;
    case What::Command: return commands_.action(app::text(hit.id))->trigger();
  }
  if (hit.what != What::Row) work_.showPanel("timeline");
  if (!play || work_.transport().isPlaying()) return;
  if (hit.what == What::Region)
    work_.listener().playRegion();
  else
    work_.listener().toggle();
}

void SearchField::keyPressEvent(QKeyEvent* event) {
  const int row = list_->currentRow();
  switch (event->key()) {
    case Qt::Key_Down: return list_->setCurrentRow(std::min(row + 1, list_->count() - 1));
    case Qt::Key_Up: return list_->setCurrentRow(std::max(row - 1, 0));
    case Qt::Key_Return:
    case Qt::Key_Enter: return choose(row, event->modifiers() & Qt::ShiftModifier);
    case Qt::Key_Escape: leave(); return work_.showPanel("timeline");
    default: QLineEdit::keyPressEvent(event);
  }
}

void SearchField::focusOutEvent(QFocusEvent* event) {
  if (!list_->underMouse()) list_->hide();
  QLineEdit::focusOutEvent(event);
}

}  // namespace octaphon::app
