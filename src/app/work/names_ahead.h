// The names that rows on view will have while the sheet with them is still being planned: a letter typed in a
// template of a large session is seen at once.
#pragma once

#include <map>
#include <memory>
#include <QObject>
#include <QString>
#include <QThreadPool>
#include <set>

#include "app/work/document.h"
#include "app/work/sheet_keeper.h"

namespace octaphon::app {

class NamesAhead : public QObject {
  Q_OBJECT
 public:
  NamesAhead(Document& document, SheetKeeper& sheets, QObject* parent = nullptr);
  ~NamesAhead() override;

  /// Rows of the sheet that somebody shows, instead of those he showed before.
  void setShown(const QObject* whom, std::set<std::size_t> rows);
  /// What a row of a sheet will be called; null where that is as the sheet says, or not known.
  const QString* fileOf(const Sheet& sheet, std::size_t row) const;

 signals:
  void changed();

 private:
  struct Job;
  void start();
  void take(const std::shared_ptr<Job>& job);

  Document& document_;
  SheetKeeper& sheets_;
  QThreadPool pool_;
  std::map<const QObject*, std::set<std::size_t>> shown_;
  std::shared_ptr<const Sheet> sheet_;    // that files_ count in
  std::map<std::size_t, QString> files_;  // by row
  std::atomic<unsigned> wanted_{0};
};

}  // namespace octaphon::app
