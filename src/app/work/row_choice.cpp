#include "app/work/row_choice.h"

#include <QFileInfo>

namespace octaphon::app {

void RowChoice::choose(std::shared_ptr<const Sheet> sheet, std::vector<std::size_t> rows) {
  sheet_ = std::move(sheet);
  rows_ = std::move(rows);
  current_ = rows_.empty() ? std::string() : sheet_->keyOf(sheet_->rows[rows_.front()]);
  emit changed();
}

std::vector<std::string> RowChoice::keys() const {
  std::vector<std::string> keys;
  keys.reserve(rows_.size());
  for (const std::size_t row : rows_) keys.push_back(sheet_->keyOf(sheet_->rows[row]));
  return keys;
}

QStringList RowChoice::fileNames() const {
  QStringList names;
  for (const std::size_t row : rows_) names << QString::fromStdString(sheet_->rows[row].file);
  return names;
}

QStringList RowChoice::filesThere() const {
  QStringList files;
  const std::shared_ptr<const Sheet> newest = sheets_.sheet();
  for (const std::string& key : keys()) {
    const auto row = newest->find(key);
    if (!row || newest->rows[*row].file.empty()) continue;
    const std::filesystem::path base = newest->briefOf(newest->rows[*row]).base.full();
    const QFileInfo file(QString::fromStdString((base / newest->rows[*row].file).string()));
    if (file.isFile()) files << file.absoluteFilePath();
  }
  return files;
}

const std::vector<std::size_t>& RowChoice::rows() const {
  static const std::vector<std::size_t> kNone;
  return sheet_ == sheets_.sheet() ? rows_ : kNone;
}

std::optional<std::size_t> RowChoice::currentRow() const {
  return current_.empty() ? std::nullopt : sheets_.sheet()->find(current_);
}

}  // namespace octaphon::app
