#include "app/sheet/sheet_text.h"

#include <functional>

namespace octaphon::app {
namespace {

QString lines(const Sheet& sheet, const std::vector<std::size_t>& rows, const std::vector<int>& columns,
              const QString& between, const QString& end, const std::function<QString(QString)>& cell) {
  QString text;
  const auto add = [&](const std::function<QString(int)>& of) {
    QStringList cells;
    for (const int column : columns) cells << cell(of(column));
    text += cells.join(between) + end;
  };
  add([](int column) { return SheetColumns::title(column); });
  for (const std::size_t row : rows)
    add([&](int column) { return SheetColumns::textOf(sheet, sheet.rows[row], column); });
  return text;
}

}  // namespace

QString asTabs(const Sheet& sheet, const std::vector<std::size_t>& rows, const std::vector<int>& columns) {
  return lines(sheet, rows, columns, "\t", "\n", [](QString cell) { return cell.replace('\t', ' '); });
}

QByteArray asCsv(const Sheet& sheet, const std::vector<std::size_t>& rows, const std::vector<int>& columns) {
  const auto quoted = [](QString cell) {
    if (!cell.isEmpty() && QString("=+-@").contains(cell[0])) cell.prepend('\'');
    if (!cell.contains(',') && !cell.contains('"') && !cell.contains('\n') && !cell.contains('\r'))
      return cell;
    return "\"" + cell.replace("\"", "\"\"") + "\"";
  };
  return lines(sheet, rows, columns, ",", "\r\n", quoted).toUtf8();
}

}  // namespace octaphon::app
