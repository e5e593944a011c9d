// The files that are handed over beside what was delivered, and writing them.
#pragma once

#include <array>
#include <filesystem>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "brief/hand_over.h"
#include "handover/delivery.h"
#include "handover/note_pdf.h"

namespace octaphon {

enum class HandoverList {
  NotePage,
  NotePdf,
  Json,
  Csv,
  Checksums,
  Manifest,
  CueList,
  MarkerTable,
  MarkerMidi
};

struct ListInfo {
  HandoverList kind;
  std::string_view option;       ///< of `report`: `html`
  std::string_view file;         ///< its name in a base folder
  bool HandOver::*asked;         ///< by a brief
  std::string_view description;  ///< for people
};
inline constexpr std::array<ListInfo, 9> kListInfos{
    {{HandoverList::NotePage, "html", "delivery-note.html", &HandOver::notePage, "Delivery note as a page"},
     {HandoverList::NotePdf, "pdf", "delivery-note.pdf", &HandOver::notePdf, "Delivery note as PDF"},
     {HandoverList::Json, "json", "delivery.json", &HandOver::listJson, "List of the files for programs"},
     {HandoverList::Csv, "csv", "delivery.csv", &HandOver::listCsv, "The same as a table"},
     {HandoverList::Checksums, "sums", "SHA256SUMS", &HandOver::checksums,
      "Checksums, as sha256sum -c takes them"},
     {HandoverList::Manifest, "manifest", "manifest.json", &HandOver::manifest, "Manifest for game tools"},
     {HandoverList::CueList, "cue", "cue-list.cue", &HandOver::cueList, "Cue list for albums"},
     {HandoverList::MarkerTable, "table", "markers.csv", &HandOver::markerTable,
      "Regions and markers of the session as a table"},
     {HandoverList::MarkerMidi, "midi", "markers.mid", &HandOver::markerMidi,
      "The same as a Standard MIDI File, with the tempo"}}};

using ListKinds = std::set<HandoverList>;

/// What has to be read for them.
DeliveryRequest requestFor(const ListKinds& kinds, FolderPath base);

struct ListPlace {
  std::filesystem::path folder;  ///< that the list will lie in: links of the page start there
  const Paper& paper = usualPaper();
};
/// The file's content. NotFound where the receipt does not keep what it is about.
Result<std::string> listContent(HandoverList kind, const Delivery& delivery, const ListPlace& place);

/// A list that was written into the base folder, under whatever name, is ours from now on: nobody takes it
/// for a stranger. Nothing happens where it lies elsewhere. Busy while a run writes there.
Result<> noteList(const FolderPath& base, const std::filesystem::path& file, const std::string& content);

struct HandedOver {
  std::vector<std::string> written, unchanged;  ///< files in the base folder
  std::vector<Error> refused;  ///< lists that could not be written, or would replace what is not ours
};
/// Writes them into the base folder, each whole or not at all; a list of ours that is there is replaced. Busy
/// while a run writes there; else as readDelivery().
Result<HandedOver> handOver(const FolderPath& base, const ListKinds& kinds, bool sync = true,
                            JobControl* job = nullptr);

}  // namespace octaphon
