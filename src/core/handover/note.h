// The delivery note: what was delivered, in words for whoever gets it. Page and PDF show the same.
#pragma once

#include <string>
#include <vector>

#include "handover/delivery.h"

namespace octaphon {

struct NoteLine {
  std::string label, text;
};

struct NoteEntry {
  std::string number;  ///< in its section: `12`
  std::string file;
  std::vector<std::string> what;  ///< span and source: `Winch/Start 01`, `Motor`
  std::string place;              ///< in the session: `at 0:12.000`; empty: not known
  std::string length;             ///< `0:01.240 (59 520 frames)`
  std::string form;               ///< `WAV 24 bit, 48 kHz, stereo`
  std::string level;              ///< `−6.2 dBFS, −6.0 dBTP, −18.3 LUFS`
  std::string loop;               ///< empty: none
  std::vector<NoteLine> remarks;  ///< warnings, findings, and what was accepted of them with its reason
  std::string checksum;           ///< empty: not asked for
  const std::vector<WaveColumn>* picture = nullptr;
};

struct NoteSection {
  std::string title;  ///< of a brief
  std::vector<NoteLine> lines;
  std::vector<NoteEntry> entries;
};

struct Note {
  std::string title;
  std::string date;               ///< of the newest edition: `2026-03-01`; empty: not known
  std::vector<NoteLine> lines;    ///< session, edition, client, credit
  std::vector<std::string> text;  ///< someone's own notes, a paragraph each
  std::vector<NoteSection> sections;
  std::vector<NoteLine> totals;
  std::vector<NoteLine> checks;  ///< what was checked, and found
};

/// Keeps pointers into the delivery. Nothing in it holds the clock but the edition.
Note noteOf(const Delivery& delivery);

}  // namespace octaphon
