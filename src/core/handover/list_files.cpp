#include "handover/list_files.h"

#include <algorithm>

#include "base/files.h"
#include "base/hash.h"
#include "exchange/region_table.h"
#include "exchange/write_midi.h"
#include "handover/checksum.h"
#include "handover/cue_list.h"
#include "handover/lists.h"
#include "handover/manifest.h"
#include "handover/note_page.h"
#include "handover/outline_of.h"
#include "ledger/receipt_journal.h"

namespace octaphon {
namespace {

static_assert([] {
  for (std::size_t i = 0; i < kListInfos.size(); ++i)
    if (kListInfos[i].kind != static_cast<HandoverList>(i)) return false;
  return true;
}());

constexpr std::uint64_t kMostListBytes = std::uint64_t{1} << 30;

/// Of the one session that was delivered; of several the first.
Result<Session> outlineOf(const Delivery& delivery) {
  const std::vector<std::string> sessions = delivery.sessions();
  return outlineIn(*delivery.receipt, sessions.empty() ? delivery.base.full().string() : sessions.front());
}

std::string pageOf(const Delivery& delivery, const ListPlace& place) {
  const auto toFiles = absoluteOf(delivery.base.full()).lexically_relative(absoluteOf(place.folder));
  return notePage(noteOf(delivery), toFiles.generic_string());
}

Digest digestOfText(const std::string& text) {
  Hasher hasher;
  hasher.bytes(text.data(), text.size());
  return hasher.digest();
}

Error notOurs(const std::string& file) {
  return {ErrorCode::Occupied, file, "a file of this name is there that is not ours, or was altered",
          "Move it away, and report once more"};
}

/// Lists beside what was delivered, known to its receipt.
class HandingOver {
 public:
  HandingOver(const Delivery& delivery, const SafeFolder& folder, ReceiptJournal& journal, bool sync)
      : delivery_(delivery), folder_(folder), journal_(journal), sync_(sync) {}

  void add(HandoverList kind) {
    const std::string file(kListInfos[static_cast<std::size_t>(kind)].file);
    const auto content = listContent(kind, delivery_, {folder_.path()});
    if (!content) return outcome_.refused.push_back(content.error());
    if (const auto written = write({file, digestOfText(*content)}, *content); !written)
      outcome_.refused.push_back(written.error());
  }
  HandedOver take() { return std::move(outcome_); }

 private:
  Result<> write(const HandedList& list, const std::string& content) {
    OCTAPHON_ASSIGN(const bool isThere, isThereAlready(list));
    if (isThere) {
      outcome_.unchanged.push_back(list.file);
      return {};
    }
    OCTAPHON_ASSIGN(PendingFile pending, folder_.create(list.file));
    OCTAPHON_TRY(writeAll(pending.fd(), content, list.file));
    if (sync_) OCTAPHON_TRY(pending.sync());
    OCTAPHON_TRY(journal_.noteList(list, sync_));
    OCTAPHON_TRY(pending.publish(true));
    outcome_.written.push_back(list.file);
    return sync_ ? folder_.sync("") : Result<>();
  }

  /// Whether the very same lies there. Occupied where what lies there is not ours.
  Result<bool> isThereAlready(const HandedList& list) const {
    const auto opened = folder_.openFile(list.file);
    if (!opened && opened.error().code == ErrorCode::NotFound) return false;
    if (!opened) return tl::unexpected(notOurs(list.file));
    OCTAPHON_ASSIGN(const std::string there, readAll(opened->get(), kMostListBytes, list.file));
    const Digest digest = digestOfText(there);
    if (digest == list.content) return true;
    const auto& ours = journal_.receipt().lists();
    const auto known = ours.find(list.file);
    const bool isOurs = known != ours.end() &&
                        std::find(known->second.begin(), known->second.end(), digest) != known->second.end();
    return isOurs ? Result<bool>(false) : tl::unexpected(notOurs(list.file));
  }

  const Delivery& delivery_;
  const SafeFolder& folder_;
  ReceiptJournal& journal_;
  bool sync_;
  HandedOver outcome_;
};

}  // namespace

DeliveryRequest requestFor(const ListKinds& kinds, FolderPath base) {
  const auto asks = [&](std::initializer_list<HandoverList> any) {
    return std::any_of(any.begin(), any.end(), [&](HandoverList kind) { return kinds.contains(kind); });
  };
  DeliveryRequest request{std::move(base)};
  using enum HandoverList;
  request.checksums = asks({NotePage, NotePdf, Json, Csv, Checksums});
  request.pictures = asks({NotePage, NotePdf});
  return request;
}

Result<std::string> listContent(HandoverList kind, const Delivery& delivery, const ListPlace& place) {
  switch (kind) {
    case HandoverList::NotePage: return pageOf(delivery, place);
    case HandoverList::NotePdf: return notePdf(noteOf(delivery), place.paper);
    case HandoverList::Json: return deliveryJson(delivery);
    case HandoverList::Csv: return deliveryCsv(delivery);
    case HandoverList::Checksums: return checksumList(delivery);
    case HandoverList::Manifest: return manifestJson(delivery);
    case HandoverList::CueList: return cueList(delivery);
    case HandoverList::MarkerTable:
      return outlineOf(delivery).map([](const Session& outline) { return writeRegionTable(outline); });
    case HandoverList::MarkerMidi:
      return outlineOf(delivery).map([](const Session& outline) { return midiOf(outline); });
  }
  return fail(ErrorCode::Unsupported, delivery.base.full().string());
}

Result<> noteList(const FolderPath& base, const std::filesystem::path& file, const std::string& content) {
  const std::string below = absoluteOf(file).lexically_relative(absoluteOf(base.full())).generic_string();
  if (!isPlainRelativePath(below)) return {};
  OCTAPHON_ASSIGN(const SafeFolder folder, SafeFolder::open(base, false));
  OCTAPHON_ASSIGN(ReceiptJournal journal, ReceiptJournal::open(folder));
  return journal.noteList({below, digestOfText(content)}, true);
}

Result<HandedOver> handOver(const FolderPath& base, const ListKinds& kinds, bool sync, JobControl* job) {
  OCTAPHON_ASSIGN(const Delivery delivery, readDelivery(requestFor(kinds, base), job));
  OCTAPHON_ASSIGN(const SafeFolder folder, SafeFolder::open(base, false));
  OCTAPHON_ASSIGN(ReceiptJournal journal, ReceiptJournal::open(folder));
  HandingOver handing(delivery, folder, journal, sync);
  for (const HandoverList kind : kinds) handing.add(kind);
  return handing.take();
}

}  // namespace octaphon
