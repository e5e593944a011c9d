// The fields of what a brief hands over with its files.
#pragma once

#include "brief/brief.h"
#include "brief/clauses.h"
#include "brief/phrase.h"

namespace octaphon::fields {

/// What the note says, and what is written beside the files.
constexpr auto handOver() {
  using B = Brief;
  using H = octaphon::HandOver;
  constexpr const char* kAct = "Change what is handed over";
  constexpr auto phrase = PhraseKind::HandOver;
  return std::tuple(
      said(phrase,
           field<&B::handOver, &H::title>("delivery_title", TextKind{}, "of the delivery, in its note"),
           "Title", kAct, clauses::handOver),
      said(phrase, field<&B::handOver, &H::client>("delivery_client", TextKind{}, "who gets it"), "For",
           kAct),
      said(phrase, field<&B::handOver, &H::credit>("delivery_credit", TextKind{}, "who is to be named"),
           "Credit", kAct),
      said(phrase,
           field<&B::handOver, &H::notes>("delivery_notes", TextKind{}, "what else to say in the note"),
           "Notes", kAct),
      said(phrase, field<&B::handOver, &H::notePage>("note_html", FlagKind{}, "`delivery-note.html`"),
           "Note as a page", kAct),
      said(phrase, field<&B::handOver, &H::notePdf>("note_pdf", FlagKind{}, "`delivery-note.pdf`"),
           "Note as PDF", kAct),
      said(phrase, field<&B::handOver, &H::listJson>("list_json", FlagKind{}, "`delivery.json`"),
           "List as JSON", kAct),
      said(phrase, field<&B::handOver, &H::listCsv>("list_csv", FlagKind{}, "`delivery.csv`"), "List as CSV",
           kAct),
      said(phrase, field<&B::handOver, &H::checksums>("checksums", FlagKind{}, "`SHA256SUMS`"), "Checksums",
           kAct),
      said(phrase,
           field<&B::handOver, &H::manifest>("manifest", FlagKind{}, "`manifest.json`, for game tools"),
           "Manifest for game tools", kAct),
      said(phrase, field<&B::handOver, &H::cueList>("cue_list", FlagKind{}, "`cue-list.cue`, for albums"),
           "Cue list for albums", kAct),
      said(phrase, field<&B::handOver, &H::markerTable>("marker_table", FlagKind{}, "`markers.csv`"),
           "Markers and regions as a table", kAct),
      said(phrase,
           field<&B::handOver, &H::markerMidi>("marker_midi", FlagKind{}, "`markers.mid`, with the tempo"),
           "Markers and tempo as MIDI", kAct));
}

}  // namespace octaphon::fields
