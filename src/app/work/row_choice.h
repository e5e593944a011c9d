// Which rows of the sheet are selected. Rows are told by their keys: places belong to one sheet, and go with
// it.
#pragma once

#include <memory>
#include <optional>
#include <QObject>
#include <QStringList>
#include <string>
#include <vector>

#include "app/work/sheet_keeper.h"

namespace octaphon::app {

class RowChoice : public QObject {
  Q_OBJECT
 public:
  explicit RowChoice(SheetKeeper& sheets, QObject* parent = nullptr) : QObject(parent), sheets_(sheets) {}

  /// Rows of `sheet`; the current one first, where there is one.
  void choose(std::shared_ptr<const Sheet> sheet, std::vector<std::size_t> rows);
  void clear() { choose(sheets_.sheet(), {}); }
  bool isEmpty() const { return rows_.empty(); }
  std::size_t count() const { return rows_.size(); }
  std::vector<std::string> keys() const;
  QStringList fileNames() const;
  /// Paths of those whose files are there; of the newest sheet.
  QStringList filesThere() const;
  /// Key of the current row; empty where there is none.
  const std::string& current() const { return current_; }
  /// Where the rows are in the newest sheet, if that is the one they were chosen in.
  const std::vector<std::size_t>& rows() const;
  /// Where the current row is in the newest sheet; nothing where it has gone.
  std::optional<std::size_t> currentRow() const;
  /// The newest sheet.
  std::shared_ptr<const Sheet> sheet() const { return sheets_.sheet(); }
  /// Asks the sheet's view to select a row and to show it.
  void show(const std::string& key) { emit wanted(key); }
  /// Asks it to select rows of the newest sheet, in its order. `isSought`: what hides them gives way.
  void showAll(const std::vector<std::size_t>& rows, bool isSought) { emit allWanted(rows, isSought); }

 signals:
  void changed();
  void wanted(const std::string& key);
  void allWanted(const std::vector<std::size_t>& rows, bool isSought);

 private:
  SheetKeeper& sheets_;
  std::shared_ptr<const Sheet> sheet_;  // that rows_ count in
  std::vector<std::size_t> rows_;
  std::string current_;
};

}  // namespace octaphon::app
