#include "app/work/handing_over.h"

#include <QCoreApplication>
#include <QFileInfo>
#include <QProcess>

#include "app/work/text.h"
#include "base/pending_file.h"
#include "base/unicode.h"
#include "handover/asked_lists.h"
#include "handover/manifest.h"
#include "handover/place_back.h"
#include "handover/results_session.h"
#include "naming/file_name.h"
#include "session/session_file.h"
#include "session/session_lock.h"

namespace octaphon::app {
namespace {

struct Handed {
  std::size_t written = 0, unchanged = 0;
  QStringList problems;
  bool isStopped = false;
};

/// Where another run is at work, that one writes them.
Handed handAll(const std::map<FolderPath, ListKinds>& asked, bool isAsked, JobControl& job) {
  Handed all;
  for (const auto& [base, kinds] : asked) {
    const auto done = octaphon::handOver(base, kinds, true, &job);
    if (!done) {
      const ErrorCode code = done.error().code;
      const bool isToBe = code == ErrorCode::NotFound || (code == ErrorCode::Busy && !isAsked);
      all.isStopped = all.isStopped || code == ErrorCode::Cancelled;
      if (!isToBe && code != ErrorCode::Cancelled) all.problems << text(done.error().describe());
      continue;
    }
    all.written += done->written.size();
    all.unchanged += done->unchanged.size();
    for (const Error& error : done->refused) all.problems << text(error.describe());
  }
  return all;
}

QString receiverProgram() {
  const QString here = QCoreApplication::applicationDirPath();
  for (const QString& place : {qEnvironmentVariable("OCTAPHON_RECEIVER"), here + "/octaphon-receiver",
                               here + "/../receiver/octaphon-receiver"})
    if (!place.isEmpty() && QFileInfo(place).isExecutable()) return place;
  return {};
}

QStringList leftWords(const std::vector<Error>& left) {
  QStringList words;
  for (const Error& error : left) words << text(error.describe());
  return words;
}

}  // namespace

HandingOver::HandingOver(Document& document, SheetKeeper& sheets, RowChoice& rows, Making& making,
                         LongJobs& jobs, News& news, QObject* parent)
    : QObject(parent), document_(document), sheets_(sheets), rows_(rows), jobs_(jobs), news_(news) {
  connect(&making, &Making::finished, this, [this](const MadeReport& report) {
    if (report.made.empty() || report.summary.cancelled) return;
    const std::filesystem::path& file = document_.session()->file;
    const bool isStillOpen = document_.isOpen() && file.filename() == report.sheet->sessionFile;
    if (isStillOpen) noteDeliveries(*report.sheet, file);
    handOver(report.sheet, false);
  });
  connect(&document_, &Document::opened, this, [this] { ++opened_; });
  // Once its sheet is on its way.
  connect(&document_, &Document::opened, this, &HandingOver::showRow, Qt::QueuedConnection);
}

bool HandingOver::report() {
  if (!sheets_.sheet() || askedLists(*sheets_.sheet()).empty()) return false;
  sheets_.whenPlanned([this] { handOver(sheets_.sheet(), true); });
  return true;
}

/// What a run leads to is only told where something is wrong.
void HandingOver::handOver(const std::shared_ptr<const Sheet>& sheet, bool isAsked) {
  auto asked = askedLists(*sheet);
  if (asked.empty()) return;
  jobs_.start<Handed>(
      LongJobs::Kind::Other, tr("Writing notes and lists"),
      [asked = std::move(asked), isAsked](JobControl& job) { return handAll(asked, isAsked, job); },
      [this, isAsked](const Handed& done) {
        if (!done.problems.isEmpty()) return news_.tell(done.problems.join('\n'));
        if (done.isStopped) return news_.say(tr("Notes and lists: stopped"));
        if (!isAsked) return;
        const QString files = text(counted(done.written, "note or list", "notes and lists"));
        news_.say(done.written == 0 ? tr("Notes and lists are as they were") : tr("%1 written").arg(files));
      });
}

void HandingOver::tryOut(const FolderPath& base) {
  const QString program = receiverProgram();
  if (program.isEmpty())
    return news_.tell(tr("octaphon-receiver is not there: it comes with the program. Install it again"));
  auto folder = std::make_shared<std::unique_ptr<QTemporaryDir>>(std::make_unique<QTemporaryDir>());
  const std::filesystem::path manifest = (*folder)->filePath("manifest.json").toStdString();
  jobs_.start<Result<>>(
      LongJobs::Kind::Other, tr("Looking at what was delivered"),
      [base, manifest](JobControl& job) -> Result<> {
        OCTAPHON_ASSIGN(const Delivery delivery, readDelivery({base}, &job));
        return replaceFile(manifest, manifestJson(delivery));
      },
      [this, base, manifest, program, folder](const Result<>& written) {
        if (!written) return news_.tellWhy(written.error());
        const QStringList arguments{text(base.full().string()), "--manifest", text(manifest.string())};
        if (!QProcess::startDetached(program, arguments))
          return news_.tell(tr("%1 cannot be started").arg(program));
        manifests_.push_back(std::move(*folder));
        news_.say(tr("The receiver plays what was delivered"));
      });
}

void HandingOver::collect(const FolderPath& base, const QString& session) {
  const std::filesystem::path file = session.toStdString();
  jobs_.start<Result<ResultsSession>>(
      LongJobs::Kind::Other, tr("Making a session of the results"),
      [base, file](JobControl& job) -> Result<ResultsSession> {
        OCTAPHON_ASSIGN(const Delivery delivery, readDelivery({base}, &job));
        OCTAPHON_ASSIGN(ResultsSession results, sessionOfResults(delivery, file));
        OCTAPHON_ASSIGN(const SessionLock lock, SessionLock::take(file));  // it may be open
        OCTAPHON_TRY(saveSession(results.session, file));
        return results;
      },
      [this, session](const Result<ResultsSession>& made) {
        if (!made) return news_.tellWhy(made.error());
        if (!made->left.empty()) news_.tell(leftWords(made->left).join('\n'));
        emit sessionWanted(session);
      });
}

void HandingOver::placeBack(const FolderPath& base, const std::vector<std::string>& keys) {
  const std::set<std::string> wanted(keys.begin(), keys.end());
  jobs_.start<Result<Delivery>>(
      LongJobs::Kind::Session, tr("Placing results back"),
      [base](JobControl& job) { return readDelivery({base}, &job); },
      [this, wanted, session = opened_](const Result<Delivery>& delivery) {
        if (!delivery) return news_.tellWhy(delivery.error());
        if (!document_.isOpen() || session != opened_) return;
        PlacedBack placed;
        document_.edit(tr("Place results back"),
                       [&](Session& edited) { placed = octaphon::placeBack(edited, *delivery, wanted); });
        if (!placed.left.empty()) news_.tell(leftWords(placed.left).join('\n'));
        if (placed.files == 0) return news_.say(tr("None of these files was delivered yet: make them first"));
        news_.say(tr("%1 on %2, %3 muted")
                      .arg(text(counted(placed.files, "file")), text(counted(placed.tracks, "new track")),
                           text(counted(placed.muted, "original"))));
      });
}

void HandingOver::locate(const QString& file, std::function<void()> otherwise) {
  LocateRequest request{file.toStdString()};
  if (document_.isOpen()) request.sessions.push_back(document_.session()->file);
  if (sheets_.sheet())
    for (const PlannedBrief& brief : sheets_.sheet()->briefs) request.deliveries.push_back(brief.base.full());
  addKnownDeliveries(request);
  using Found = Result<std::optional<Located>>;
  jobs_.start<Found>(
      LongJobs::Kind::Other, tr("Looking where %1 comes from").arg(QFileInfo(file).fileName()),
      [request](JobControl& job) { return octaphon::locate(request, &job); },
      [this, otherwise, session = opened_](const Found& found) {
        if (found && *found) return go(**found);
        if (!found && found.error().code == ErrorCode::Cancelled) return news_.tellWhy(found.error());
        if (session == opened_) otherwise();
      });
}

void HandingOver::go(const Located& found) {
  const QString what =
      tr("%1 is %2, %3").arg(text(lastPart(found.file)), text(found.made.span), text(found.made.source));
  if (found.session.empty())
    return news_.tell(tr("%1 of %2, which is not where it was. Open that session, and try again")
                          .arg(what, text(found.sessionName)));
  sought_ = found;
  news_.say(found.isAsDelivered ? what : tr("%1; it was altered since").arg(what));
  if (isSoughtOpen()) return showRow();
  emit sessionWanted(text(found.session.string()));
}

bool HandingOver::isSoughtOpen() const {
  std::error_code error;
  return document_.isOpen() && !sought_.key.empty() &&
         std::filesystem::equivalent(sought_.session, document_.session()->file, error);
}

/// Once the sheet of its session is there. Where another session came, nobody asks for it any more.
void HandingOver::showRow() {
  const bool isOpen = isSoughtOpen();
  const Located found = std::exchange(sought_, {});
  if (!isOpen) return;
  sheets_.whenPlanned([this, key = found.key, session = opened_] {
    if (session != opened_) return;
    if (sheets_.sheet()->find(key)) return rows_.show(key);
    news_.say(tr("Its row is not on the sheet: its brief is not ticked, or does not ask for it any more"));
  });
}

}  // namespace octaphon::app
