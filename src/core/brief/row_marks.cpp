#include "brief/row_marks.h"

#include <algorithm>
#include <map>
#include <set>
#include <unordered_set>

namespace octaphon {
namespace {

/// Keys without the brief's id, of those that are its.
std::vector<std::string> ownKeys(const Brief& brief, const std::vector<std::string>& keys) {
  const std::string head = brief.id + "/";
  std::vector<std::string> own;
  for (const std::string& key : keys)
    if (key.starts_with(head)) own.push_back(key.substr(head.size()));
  return own;
}

}  // namespace

void setHeldBack(Brief& brief, const std::vector<std::string>& keys, bool on) {
  std::set<std::string> held(brief.heldBack.begin(), brief.heldBack.end());
  for (const std::string& key : ownKeys(brief, keys)) {
    if (on)
      held.insert(key);
    else
      held.erase(key);
  }
  if (held.size() != brief.heldBack.size()) brief.heldBack.assign(held.begin(), held.end());
}

void changeException(Brief& brief, const std::string& key, const std::function<void(RowException&)>& change) {
  for (const std::string& row : ownKeys(brief, {key})) {
    auto& all = brief.rowExceptions;
    auto found =
        std::find_if(all.begin(), all.end(), [&](const RowException& one) { return one.row == row; });
    if (found == all.end()) {
      all.push_back({row});
      found = all.end() - 1;
    }
    change(*found);
    if (found->isNone()) all.erase(found);
  }
}

RowException exceptionOfRow(const Brief& brief, const std::string& key) {
  for (const std::string& row : ownKeys(brief, {key}))
    for (const RowException& exception : brief.rowExceptions)
      if (exception.row == row) return exception;
  return {};
}

void dropExceptions(Brief& brief, const std::vector<std::string>& keys) {
  const std::vector<std::string> own = ownKeys(brief, keys);
  const std::unordered_set<std::string> dropped(own.begin(), own.end());
  std::erase_if(brief.rowExceptions,
                [&](const RowException& exception) { return dropped.contains(exception.row); });
}

namespace {

/// The format in the key of a row, between the last two slashes.
std::pair<std::size_t, std::size_t> formatIn(const std::string& row) {
  const std::size_t end = row.rfind('/');
  if (end == std::string::npos || end == 0) return {0, 0};
  const std::size_t begin = row.rfind('/', end - 1) + 1;
  return {begin, end - begin};
}

/// Rows of output i are those of the output that stood at from[i].
void renameRows(Brief& brief, const std::vector<std::string>& before,
                const std::vector<std::optional<std::size_t>>& from) {
  const std::vector<std::string> after = outputKeys(brief.outputs());
  std::map<std::string, std::string> renamed;
  for (std::size_t i = 0; i < from.size() && i < after.size(); ++i)
    if (from[i] && *from[i] < before.size()) renamed[before[*from[i]]] = after[i];
  const auto rename = [&](std::string& row) {
    const auto [begin, length] = formatIn(row);
    const auto found = renamed.find(row.substr(begin, length));
    if (length > 0 && found != renamed.end()) row.replace(begin, length, found->second);
  };
  for (std::string& row : brief.heldBack) rename(row);
  for (RowException& exception : brief.rowExceptions) rename(exception.row);
  for (AcceptedRemark& accepted : brief.accepted)
    for (std::string& row : accepted.rows) rename(row);
}

}  // namespace

void changeOutputs(Brief& brief, std::vector<Output> outputs,
                   const std::vector<std::optional<std::size_t>>& from) {
  const std::vector<std::string> before = outputKeys(brief.outputs());
  const bool isPlain = outputs.size() == 1 && outputs.front() == Output{outputs.front().encoding};
  if (isPlain) brief.files.encoding = outputs.front().encoding;
  brief.files.outputs = isPlain ? std::vector<Output>() : std::move(outputs);
  renameRows(brief, before, from);
}

void keepRows(Brief& brief, const std::vector<Output>& before) {
  std::vector<std::optional<std::size_t>> from;
  for (std::size_t i = 0; i < before.size(); ++i) from.emplace_back(i);
  renameRows(brief, outputKeys(before), from);
}

void acceptRemarks(Brief& brief, const std::string& code, const std::vector<std::string>& keys,
                   const std::string& reason) {
  const std::vector<std::string> own = ownKeys(brief, keys);
  if (own.empty()) return;
  takeBackAccepted(brief, code, keys);
  const auto same =
      std::find_if(brief.accepted.begin(), brief.accepted.end(),
                   [&](const AcceptedRemark& one) { return one.code == code && one.reason == reason; });
  if (same == brief.accepted.end())
    brief.accepted.push_back({code, reason, own});
  else
    same->rows.insert(same->rows.end(), own.begin(), own.end());
}

void takeBackAccepted(Brief& brief, const std::string& code, const std::vector<std::string>& keys) {
  const std::vector<std::string> own = ownKeys(brief, keys);
  const std::unordered_set<std::string> back(own.begin(), own.end());
  for (AcceptedRemark& accepted : brief.accepted)
    if (accepted.code == code)
      std::erase_if(accepted.rows, [&](const std::string& row) { return back.contains(row); });
  std::erase_if(brief.accepted, [](const AcceptedRemark& one) { return one.rows.empty(); });
}

}  // namespace octaphon
