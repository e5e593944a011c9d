#include "app/work/names_ahead.h"

#include "app/work/text.h"
#include "plan/row_names.h"
#include "routing/track_tree.h"

namespace octaphon::app {

/// Briefs whose names are asked for otherwise than they were planned, and rows of them.
struct NamesAhead::Job {
  unsigned number = 0;
  std::shared_ptr<const Sheet> sheet;
  std::shared_ptr<const Session> session;     // that the sheet was planned from
  std::map<std::size_t, Brief::Names> names;  // by brief of the sheet
  std::set<std::size_t> rows;
  std::map<std::size_t, QString> files;

  void work() {
    const TrackTree tree(*session);
    for (const auto& [brief, asked] : names) {
      const auto preview = NamesPreview::of(*sheet, brief, *session, tree, asked);
      if (!preview) continue;  // while it is wrong, the last names stay
      for (const std::size_t row : rows)
        if (row < sheet->rows.size() && sheet->soundOf(sheet->rows[row]).brief == brief)
          files[row] = text(preview->fileOf(row));
    }
  }
};

NamesAhead::NamesAhead(Document& document, SheetKeeper& sheets, QObject* parent)
    : QObject(parent), document_(document), sheets_(sheets) {
  pool_.setMaxThreadCount(1);
  connect(&document, &Document::changed, this, &NamesAhead::start);
  connect(&sheets, &SheetKeeper::sheetChanged, this, [this] {
    files_.clear();
    start();
  });
}

NamesAhead::~NamesAhead() {
  ++wanted_;
  pool_.waitForDone();
}

void NamesAhead::setShown(const QObject* whom, std::set<std::size_t> rows) {
  if (shown_[whom] == rows) return;
  shown_[whom] = std::move(rows);
  start();
}

const QString* NamesAhead::fileOf(const Sheet& sheet, std::size_t row) const {
  if (&sheet != sheet_.get()) return nullptr;
  const auto found = files_.find(row);
  return found == files_.end() ? nullptr : &found->second;
}

void NamesAhead::start() {
  ++wanted_;
  auto job = std::make_shared<Job>();
  job->number = wanted_;
  job->sheet = sheets_.sheet();
  job->session = sheets_.session();
  const auto now = document_.session();
  if (!now || !job->session) return;
  for (std::size_t i = 0; i < job->sheet->briefs.size(); ++i) {
    const Brief& planned = job->sheet->briefs[i].brief;
    for (const Brief& brief : now->briefs)
      if (brief.id == planned.id && !(brief.names == planned.names)) job->names[i] = brief.names;
  }
  if (job->names.empty()) {
    if (files_.empty()) return;
    files_.clear();
    emit changed();
    return;
  }
  for (const auto& [whom, rows] : shown_) job->rows.insert(rows.begin(), rows.end());
  pool_.start([this, job] {
    if (job->number != wanted_) return;
    job->work();
    QMetaObject::invokeMethod(
        this, [this, job] { take(job); }, Qt::QueuedConnection);
  });
}

void NamesAhead::take(const std::shared_ptr<Job>& job) {
  if (job->number != wanted_ || job->sheet != sheets_.sheet()) return;
  files_ = std::move(job->files);
  sheet_ = job->sheet;
  emit changed();
}

}  // namespace octaphon::app
