// What goes out with the files, and the ways back from them: notes and lists, a try as the receiver has it, a
// session of the results, the row that a file is of.
#pragma once

#include <memory>
#include <optional>
#include <QObject>
#include <QTemporaryDir>
#include <set>
#include <string>
#include <vector>

#include "app/work/document.h"
#include "app/work/long_jobs.h"
#include "app/work/making.h"
#include "app/work/row_choice.h"
#include "app/work/sheet_keeper.h"
#include "handover/locate.h"

namespace octaphon::app {

class HandingOver : public QObject {
  Q_OBJECT
 public:
  HandingOver(Document& document, SheetKeeper& sheets, RowChoice& rows, Making& making, LongJobs& jobs,
              News& news, QObject* parent = nullptr);

  /// Writes the notes and lists that ticked briefs ask for; false where none does.
  bool report();
  /// Starts the stand-in receiver on a folder of the newest sheet.
  void tryOut(const FolderPath& base);
  /// A session of what was delivered there; it is asked for to be opened.
  void collect(const FolderPath& base, const QString& session);
  /// Results of these rows, or (none) of all of that folder, onto new tracks of the session: one edit. A
  /// session that was opened meanwhile stays as it is.
  void placeBack(const FolderPath& base, const std::vector<std::string>& keys);
  /// The row that a file is of; `otherwise` where no receipt knows it and the session is still the one that
  /// it was given to.
  void locate(const QString& file, std::function<void()> otherwise);

 signals:
  void sessionWanted(const QString& session);

 private:
  void handOver(const std::shared_ptr<const Sheet>& sheet, bool isAsked);
  void go(const Located& found);
  bool isSoughtOpen() const;
  void showRow();

  Document& document_;
  SheetKeeper& sheets_;
  RowChoice& rows_;
  LongJobs& jobs_;
  News& news_;
  std::vector<std::unique_ptr<QTemporaryDir>> manifests_;  // of tries that may go on
  Located sought_;      // in a session that is on its way; without a key: nothing is
  quint64 opened_ = 0;  // counts sessions: what was asked for may be about an earlier one
};

}  // namespace octaphon::app
