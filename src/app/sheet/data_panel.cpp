#include "app/sheet/data_panel.h"

#include <algorithm>
#include <QHeaderView>
#include <QVBoxLayout>

#include "app/look/first_focus.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "formats/planned_facts.h"
#include "plan/row_data.h"

namespace octaphon::app {
namespace {

/// One field: where it stands, its name, its value.
struct Line {
  QString where, name, value;
};

QString placeText(const FileMark& mark) {
  const QString frames = mark.length > 0 ? QObject::tr("frame %1, %2 long").arg(mark.at).arg(mark.length)
                                         : QObject::tr("frame %1").arg(mark.at);
  return mark.label.empty() ? frames : frames + "  " + text(mark.label);
}

std::vector<Line> linesOf(const FileFacts& facts) {
  std::vector<Line> lines;
  const QString format = QObject::tr("format"), places = QObject::tr("places");
  lines.push_back({format, QObject::tr("encoding"),
                   text(std::string(containerName(*facts.container)) + ", " + facts.encoding)});
  lines.push_back({format, QObject::tr("rate and channels"),
                   QObject::tr("%1 Hz, %2").arg(facts.rate).arg(text(channelText(facts.channels)))});
  if (facts.timeReference)
    lines.push_back(
        {places, QObject::tr("first frame since midnight"), QString::number(*facts.timeReference)});
  for (const FileLoop& loop : facts.loops)
    lines.push_back({places, QObject::tr("loop"),
                     QObject::tr("from frame %1, %2 long").arg(loop.start).arg(loop.end - loop.start)});
  for (std::size_t i = 0; i < facts.marks.size(); ++i)
    lines.push_back({places, QObject::tr("cue point %1").arg(i + 1), placeText(facts.marks[i])});
  for (const FileText& one : facts.texts) lines.push_back({text(one.where), text(one.name), text(one.value)});
  return lines;
}

enum DataColumn { DataWhere, DataName, DataPlanned, DataThere };

}  // namespace

DataPanel::DataPanel(Work& work, QWidget* parent)
    : QWidget(parent), work_(work), there_([this] { return question(); }, [this] { fill(); }) {
  words_ = new QLabel(this);
  words_->setFont(Theme::sentence());
  words_->setWordWrap(true);
  lines_ = new QTreeWidget(this);
  lines_->setAccessibleName(tr("Data inside the file"));
  lines_->setRootIsDecorated(false);
  lines_->setUniformRowHeights(true);
  lines_->setHeaderLabels({tr("Where"), tr("Field"), tr("Will be written"), tr("In the file that is there")});
  lines_->setColumnWidth(DataWhere, 70);
  lines_->setColumnWidth(DataName, 190);
  lines_->setColumnWidth(DataPlanned, 200);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 8, 14, 8);
  layout->setSpacing(4);
  layout->addWidget(words_);
  layout->addWidget(lines_, 1);
  setFirstFocus(this, lines_);
  connect(&work_.rows(), &RowChoice::changed, this, &DataPanel::reload);
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, &DataPanel::reload);
  reload();
}

void DataPanel::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  there_.setWanted(true);
  reload();
}

void DataPanel::hideEvent(QHideEvent* event) {
  QWidget::hideEvent(event);
  there_.setWanted(false);
}

void DataPanel::reload() {
  if (!isVisible()) return;
  const auto row = work_.rows().currentRow();
  const std::shared_ptr<const Session> session = work_.sheets().session();
  lines_->setVisible(row && session);
  file_.clear();
  if (!row || !session) {
    words_->setText(tr("Select a row of the sheet, and here stands what its file will say of itself."));
    return;
  }
  const std::shared_ptr<const Sheet> sheet = work_.rows().sheet();
  const Row& own = sheet->rows[*row];
  const TrackTree tree(*session);
  const FileForm form = sheet->formOf(own);
  const FileData inside = RowData(*sheet, *session, tree, *row).of(own, own.extent);
  planned_ = plannedFacts(form, inside);
  const QString lacks = text(notCarried(form, inside));
  const int tapped = sheet->soundOf(own).channels;
  const QString folded = text(foldText(tapped, own.part > 0 ? own.folded : own.channels));
  words_->setText(text(own.file) + (folded.isEmpty() ? QString() : "  ·  " + folded) +
                  (lacks.isEmpty() ? QString() : tr("  ·  no place for %1").arg(lacks)));
  const std::string& there = own.from.empty() ? own.file : own.from;
  if (!own.file.empty()) file_ = sheet->briefOf(own).base.full() / there;
  there_.ask();
  fill();
}

/// In the background: a file may be large, or far away.
std::optional<Asker<FileFacts>::Work> DataPanel::question() const {
  if (file_.empty()) return std::nullopt;
  return [file = file_](const std::atomic<bool>&) { return readFileFacts(file); };
}

/// The planned ones in their order; then what only the file that is there has.
void DataPanel::fill() {
  if (!planned_.container) return;
  const auto answer = there_.answer();
  const FileFacts* there = answer && answer->container ? answer.get() : nullptr;
  std::vector<Line> planned = linesOf(planned_), found;
  if (there != nullptr) found = linesOf(*there);
  lines_->clear();
  QList<QTreeWidgetItem*> items;
  const auto add = [&](const Line& line, const QString& now, const QString& file) {
    auto* item = new QTreeWidgetItem({line.where, line.name, now.simplified(), file.simplified()});
    item->setToolTip(DataPlanned, now);
    item->setToolTip(DataThere, file);
    if (there != nullptr && now != file)
      for (const int column : {DataPlanned, DataThere}) item->setFont(column, Theme::strong());
    items << item;
  };
  for (const Line& line : planned) {
    const auto same = std::find_if(found.begin(), found.end(), [&](const Line& other) {
      return other.where == line.where && other.name == line.name;
    });
    add(line, line.value, same == found.end() ? QString() : same->value);
    if (same != found.end()) found.erase(same);
  }
  for (const Line& line : found) add(line, {}, line.value);
  lines_->addTopLevelItems(items);
  lines_->setColumnHidden(DataThere, there == nullptr);
}

}  // namespace octaphon::app
