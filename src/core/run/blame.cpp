#include "run/blame.h"

#include <algorithm>
#include <set>

#include "base/unicode.h"

namespace octaphon {
namespace {

/// What people call an insert, with its id.
std::string nameOf(const RecipeNode& node) {
  const std::string& name = node.insert->name.empty() ? node.info->name : node.insert->name;
  return printable(name, 60) + " (" + node.insert->id + ")";
}

bool isPluginFailure(const RowResult& result) {
  return !result.file && result.file.error().code == ErrorCode::PluginFailed;
}

}  // namespace

std::vector<PassRow> takeRowsNotToBlame(SpanRecipe& recipe, const Sheet& sheet, const PlannedPass& pass,
                                        PassResult& result) {
  std::set<std::size_t> others;
  bool isHeard = false;
  for (RowResult& failed : result.rows) {
    if (!isPluginFailure(failed)) continue;
    const Row& row = sheet.rows[failed.row];
    const auto heard = recipe.pluginsBefore(recipe.tap(sheet.briefOf(row).brief, sheet.sourceOf(row)).node);
    Error& error = failed.file.error();
    const auto found = heard.find(error.place);
    if (found != heard.end()) error.place = nameOf(*found->second);
    // Where it is not known which one it was, it may be any that the row hears.
    const bool mayBeOne = found != heard.end() || (error.place.empty() && !heard.empty());
    isHeard |= mayBeOne;
    if (!mayBeOne) others.insert(failed.row);
  }
  if (!isHeard) return {};
  std::erase_if(result.rows, [&](const RowResult& row) { return others.contains(row.row); });
  std::vector<PassRow> rows;
  for (const PassRow& row : pass.rows)
    if (others.contains(row.row)) rows.push_back(row);
  return rows;
}

}  // namespace octaphon
