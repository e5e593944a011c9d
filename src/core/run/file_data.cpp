#include "run/file_data.h"

#include <algorithm>

#include "base/unicode.h"

namespace octaphon {

FileData fileDataOf(const Sheet& sheet, const Row& row, const Extent& extent) {
  FileData data{timeReference(sheet.startPicture, sheet.picture, row.rate, extent.start)};
  if (!sheet.endsOf(row).loop.isThere() || extent.body <= 0) return data;
  data.loop = WavLoop{extent.leadIn, extent.leadIn + extent.body};
  data.marks.push_back({extent.leadIn, extent.body, withoutControls(sheet.spanOf(row).name, "_"), {}});
  for (const SheetMark& mark : sheet.marksIn(row, extent))
    data.marks.push_back({mark.at, 0, withoutControls(mark.name, "_"), {}});
  std::stable_sort(data.marks.begin(), data.marks.end(),
                   [](const WavMark& a, const WavMark& b) { return a.at < b.at; });
  return data;
}

ReceiptLine lineOf(const Sheet& sheet, const Row& row, const Fingerprint& fingerprint) {
  ReceiptLine line;
  line.key = sheet.keyOf(row);
  line.file = row.file;
  line.fingerprint = fingerprint;
  line.edition = sheet.briefOf(row).edition.version;
  line.session = sheet.sessionFile;
  return line;
}

}  // namespace octaphon
