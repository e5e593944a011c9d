// What is handed over beside the files of a brief, and what its note says of the delivery.
#pragma once

#include <string>

namespace octaphon {

struct HandOver {
  std::string title, client, credit, notes;  ///< in someone's own words; empty: nothing is said
  // Written into the base folder when files were made.
  bool notePage = false;     ///< for people, HTML
  bool notePdf = false;      ///< the same, PDF
  bool listJson = false;     ///< for programs
  bool listCsv = false;      ///< the same as a table
  bool checksums = false;    ///< SHA-256
  bool manifest = false;     ///< for game tools: variations under their names
  bool cueList = false;      ///< for albums
  bool markerTable = false;  ///< regions and markers of the session
  bool markerMidi = false;   ///< the same as a Standard MIDI File, with the tempo
  bool operator==(const HandOver&) const = default;

  bool asksForFiles() const {
    return notePage || notePdf || listJson || listCsv || checksums || manifest || cueList || markerTable ||
           markerMidi;
  }
};

}  // namespace octaphon
