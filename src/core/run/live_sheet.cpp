#include "run/live_sheet.h"

#include "plan/row_states.h"

namespace octaphon {
namespace {

using Receipts = std::map<FolderPath, std::shared_ptr<const Receipt>>;

/// Those of the base folders of all briefs asked for.
Receipts receiptsOf(const Session& session, const PlanRequest& request) {
  Receipts receipts;
  for (const std::size_t index : request.briefs) {
    const auto base = baseFolderOf(session, session.briefs[index], request.folder);
    if (!base) continue;
    const auto [there, isNew] = receipts.try_emplace(*base);
    if (isNew) there->second = receiptIn(*base);
  }
  return receipts;
}

/// Editions and numbers as the receipts have them, and today's where there is none.
PlanRequest withReceipts(const Session& session, PlanRequest request, const Receipts& receipts) {
  for (const std::size_t index : request.briefs) {
    const Brief& brief = session.briefs[index];
    const auto base = baseFolderOf(session, brief, request.folder);
    if (!base) continue;
    const std::shared_ptr<const Receipt>& known = receipts.at(*base);
    const Receipt& receipt = *known;
    if (const auto edition = receipt.editions().find(brief.id); edition != receipt.editions().end())
      request.editions.insert(*edition);
    if (const auto numbers = receipt.numbers().find(brief.id); numbers != receipt.numbers().end())
      request.numbers.emplace(brief.id, std::shared_ptr<const StickyNumbers>(known, &numbers->second));
  }
  request.newEdition = editionOfToday();
  return request;
}

}  // namespace

std::map<std::string, Edition> editionsOf(const Session& session, const PlanRequest& request) {
  return withReceipts(session, request, receiptsOf(session, request)).editions;
}

Sheet planWithStates(const Session& session, const MediaFacts& facts, const PlanRequest& request,
                     const PluginCatalogue* plugins) {
  const SessionContext context(session, facts, plugins);
  const Receipts receipts = receiptsOf(session, request);
  Sheet sheet = planSheet(context, withReceipts(session, request, receipts));
  std::map<FolderPath, FolderFacts> folders;
  std::map<FolderPath, std::set<std::string>> files = plannedFiles(sheet);
  for (const auto& [base, receipt] : receipts) files[base];  // of briefs without rows too
  for (const auto& [base, asked] : files) {
    const auto known = receipts.find(base);
    folders[base] = lookAtFolder(base, asked, known == receipts.end() ? receiptIn(base) : known->second,
                                 request.thorough);
    for (const Measured& measured : request.measured)
      folders[base].measured.insert_or_assign(measured.key, measured);
  }
  setStates(sheet, context.signal, folders);
  return sheet;
}

}  // namespace octaphon
