#include "sharing.h"

#include <algorithm>
#include <chrono>
#include <set>
#include <thread>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "plan/numbering.h"
#include "run/measure.h"
#include "run/targets.h"

namespace octaphon::cli {
namespace {

constexpr const char* kMeasuredHead = R"({"format":"octaphon-measured","version":"1.0"})";
constexpr int kMostShares = 10'000;
constexpr auto kPatience = std::chrono::seconds(60);

/// `2/8`.
std::optional<Share> parseShare(const std::string& text) {
  Share share;
  char behind = 0;
  const bool isTwo = std::sscanf(text.c_str(), "%5d/%5d%c", &share.index, &share.of, &behind) == 2;
  const bool isPlain = text.find_first_not_of("0123456789/") == std::string::npos;
  if (!isTwo || !isPlain || share.of < 1 || share.of > kMostShares || share.index < 1 ||
      share.index > share.of)
    return std::nullopt;
  return share;
}

std::vector<std::size_t> rowsWith(const Sheet& sheet, const std::function<bool(const Row&)>& isMeant) {
  std::vector<std::size_t> rows;
  for (std::size_t i = 0; i < sheet.rows.size(); ++i)
    if (isMeant(sheet.rows[i])) rows.push_back(i);
  return rows;
}

/// What only lacks its name is its own share's matter.
bool isMoved(const Row& row) { return row.state == RowState::Renamed && !row.isUnfinished(); }

/// What is the same for all shares; Busy where another process is at it, or was meanwhile.
Result<> settle(const Opened& opened, const std::shared_ptr<Sheet>& sheet, const Share& share,
                MediaCache& cache) {
  const auto moved = rowsWith(*sheet, isMoved);
  if (!moved.empty()) {
    RunRequest request;
    request.session = opened.session;
    request.facts = opened.facts;
    request.sheet = sheet;
    request.plugins = opened.plugins;
    request.rows = moved;
    Result<> outcome;
    RunControl control;
    makeFiles(request, cache, control, [&](const RowOutcome& row) {
      if (!row.result) outcome = row.result;
    });
    return outcome;
  }
  std::vector<std::size_t> due = rowsWith(*sheet, [&](const Row& row) { return isMakeable(*sheet, row); });
  Result<> outcome;
  Targets(*opened.session, *sheet, share).open(due, [&](std::size_t, const Error& error) {
    outcome = tl::unexpected(error);
  });
  return outcome;
}

}  // namespace

void addShareOption(CLI::App& command, Share& share) {
  command
      .add_option_function<std::string>(
          "--shard",
          [&share](const std::string& text) {
            const auto parsed = parseShare(text);
            if (!parsed)
              throw CLI::ValidationError("--shard " + text + ": write I/N, with I from 1 to N, as in 2/8");
            share = *parsed;
          },
          "Only share I of N: whole passes, about equally much work; all shares together make everything")
      ->type_name("I/N");
}

std::optional<std::vector<Measured>> readMeasured(const std::vector<std::string>& files, bool json) {
  std::vector<Measured> measured;
  for (const std::string& file : files) {
    const auto text = readFile(file, kMaxReceiptBytes);
    if (!text) {
      printError(text.error(), json);
      return std::nullopt;
    }
    const Receipt read = Receipt::parse(*text);
    if (!text->starts_with(kMeasuredHead) || read.damagedLines() > 0) {
      printError({ErrorCode::Syntax, file, "this is not what 'measure' wrote, or not all of it",
                  "Write it once more with octaphon-cli measure"},
                 json);
      return std::nullopt;
    }
    for (const auto& [key, one] : read.measured()) measured.push_back(one);
  }
  return measured;
}

std::string measuredText(const std::vector<Measured>& measured) {
  std::string text = std::string(kMeasuredHead) + "\n";
  for (const Measured& one : measured) text += Receipt::asText(one);
  return text;
}

Result<std::shared_ptr<Sheet>> settleShares(const Opened& opened,
                                            const std::function<std::shared_ptr<Sheet>()>& plan,
                                            const Share& share, MediaCache& cache) {
  const auto end = std::chrono::steady_clock::now() + kPatience;
  while (true) {
    auto sheet = plan();
    if (sheet == nullptr) return fail(ErrorCode::Cancelled, {});
    const bool isFixed =
        std::all_of(sheet->briefs.begin(), sheet->briefs.end(), [&](const PlannedBrief& brief) {
          return brief.isBegun && brief.kept() == stickyNumbers(*sheet, brief);
        });
    const bool isDue = !rowsWith(*sheet, [&](const Row& row) { return isMakeable(*sheet, row); }).empty();
    const bool hasMoves = !rowsWith(*sheet, isMoved).empty();
    if ((isFixed && !hasMoves) || !isDue) return sheet;
    const Result<> settled = settle(opened, sheet, share, cache);
    if (settled && !hasMoves) {  // what the plan said is what the receipt says now
      for (PlannedBrief& brief : sheet->briefs) {
        brief.fixed = std::make_shared<StickyNumbers>(stickyNumbers(*sheet, brief));
        brief.isBegun = true;
      }
      return sheet;
    }
    const bool mayWait = !settled && settled.error().code == ErrorCode::Busy;
    if (!settled && (!mayWait || std::chrono::steady_clock::now() > end))
      return tl::unexpected(settled.error());
    if (mayWait) std::this_thread::sleep_for(std::chrono::milliseconds(100));
  }
}

void keepShare(const Opened& opened, const Sheet& sheet, const Share& share, std::vector<std::size_t>& rows,
               const std::function<void(std::size_t row, const Error& error)>& refuse) {
  const SessionContext context(*opened.session, *opened.facts, opened.plugins.get());
  const std::vector<std::size_t> mine = rowsOfShare(sheet, context.signal, share);
  std::erase_if(rows, [&](std::size_t row) { return !std::binary_search(mine.begin(), mine.end(), row); });
  std::set<const PlannedBrief*> unmeasured;
  for (const PlannedBrief& brief : sheet.briefs)
    if (needsMeasuring(brief)) unmeasured.insert(&brief);
  std::erase_if(rows, [&](std::size_t row) {
    const PlannedBrief& brief = sheet.briefOf(sheet.rows[row]);
    if (!unmeasured.contains(&brief)) return false;
    refuse(row, {ErrorCode::BadValue, printable(brief.brief.name, 80),
                 "how long its tails ring has to be known before its files are shared",
                 "Run octaphon-cli measure --write FILE first, and give every share --measured FILE"});
    return true;
  });
}

Result<> joinShares(const Sheet& sheet) {
  std::set<FolderPath> bases;
  for (const PlannedBrief& brief : sheet.briefs) bases.insert(brief.base);
  for (const FolderPath& base : bases) {
    const auto folder = SafeFolder::open(base, false);
    if (!folder || sharesIn(*folder).empty()) continue;  // what is wrong with it, its rows tell
    OCTAPHON_ASSIGN(ReceiptJournal journal, ReceiptJournal::open(*folder));
    OCTAPHON_TRY(journal.compact());
  }
  return {};
}

}  // namespace octaphon::cli
