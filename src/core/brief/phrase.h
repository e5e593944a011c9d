// The phrases of a brief's sentence, in their order, and the words that belong to its fields.
#pragma once

#include <array>
#include <string>
#include <string_view>

#include "base/description.h"
#include "brief/brief.h"

namespace octaphon {

enum class PhraseKind {
  Plain,  ///< none of them
  Sources,
  Regions,
  Counts,
  Reach,
  Overrides,
  Keyed,
  RunUp,
  Loops,
  Tail,
  LeadIn,
  Edges,
  Length,
  Trim,
  Level,
  Encoding,
  Rate,
  Data,
  Template,
  Case,
  Folder,
  Existing,
  HandOver,
  Rows
};

/// The paragraphs that a sentence is set in.
enum class Paragraph { WhatAndWhere, Heard, Ends, Files, NamesAndFolder };

/// What people are told of a phrase.
struct PhraseInfo {
  PhraseKind kind;
  std::string_view name;       ///< what a remark about it begins with: `template`
  std::string_view title;      ///< above its editor
  std::string_view note = {};  ///< below it; may be empty
};
/// In the order of PhraseKind; the first is Plain's, without words.
inline constexpr std::array<PhraseInfo, 24> kPhrases{
    {{PhraseKind::Plain, "", ""},
     {PhraseKind::Sources, "sources", "Which sources",
      "A ticked group is one file of its sum; tick its tracks for a file of each."},
     {PhraseKind::Regions, "spans", "Over which regions and clip sets"},
     {PhraseKind::Counts, "what counts", "Which sound counts",
      "Earlier clips and the fade only matter where just what begins here counts."},
     {PhraseKind::Reach, "reach", "How far along its way a source is heard",
      "The mix is always heard through main."},
     {PhraseKind::Overrides, "overrides", "What is changed for these files only",
      "The session itself stays as it is."},
     {PhraseKind::Keyed, "key", "What shared dynamics listen to",
      "Keyed by the mix, layers take the gain of the full sum, and add up to the mix. Else dynamics react to "
      "each layer as if it were alone."},
     {PhraseKind::RunUp, "run-up", "Run-up before the span",
      "Processed and thrown away, so that effects are already moving when the file begins."},
     {PhraseKind::Loops, "loop", "How the end meets the start",
      "Fold, inner lap, blend and plain join give the lap alone; overlap keeps lead-in and tail, and hands "
      "its exact length over. Stems of a loop all go the same way. A body of 0 is the span; 0 laps are as "
      "many as its tail takes."},
     {PhraseKind::Tail, "tail", "Tail after the span's end",
      "Clips that are allowed to finish ring into it; others end with the span. What rings out is listened "
      "to "
      "in all sources of a span, so that their files are equally long."},
     {PhraseKind::LeadIn, "lead-in", "Lead-in before the span's start", "In seconds or in bars."},
     {PhraseKind::Edges, "edges", "Fades at the ends of the file",
      "They lie in the lead-in and the tail where there are any."},
     {PhraseKind::Length, "length", "How long files are",
      "An exact length is that of the whole file: longer ones are cut, shorter ones end in silence."},
     {PhraseKind::Trim, "silence", "Silence at head and end"},
     {PhraseKind::Level, "level", "How loud the files are",
      "Where several have one gain, the mix of a span is brought to the aim if it is among them, else the "
      "loudest. Silence, and what is too short for its loudness to be judged, stays as it is."},
     {PhraseKind::Encoding, "format", "As what"},
     {PhraseKind::Rate, "rate", "At which rate", "A higher rate than the session's gains nothing."},
     {PhraseKind::Data, "data", "What the files say of themselves",
      "Each text is made like a name, of fields in braces. The panel Data shows what comes of it in the "
      "selected row."},
     {PhraseKind::Template, "template", "Template of the names"},
     {PhraseKind::Case, "letters", "Letters of the whole name"},
     {PhraseKind::Folder, "folder", "Into which folder", "Below the session's folder."},
     {PhraseKind::Existing, "files there", "Files that are there"},
     {PhraseKind::HandOver, "hand-over", "What is handed over with the files",
      "Written into the folder whenever files were made; Report makes them at any time. Title, client, "
      "credit "
      "and notes stand in the note."},
     {PhraseKind::Rows, "single rows", "Rows with something of their own",
      "Names are typed on the sheet; channels, format, ends and loop are set in the Row panel."}}};
constexpr const PhraseInfo& phraseInfo(PhraseKind kind) { return kPhrases[static_cast<std::size_t>(kind)]; }

/// A field of a brief that people see; without a label where it has an editor made by hand.
template <class Kind, auto... Path>
struct BriefField : Field<Kind, Path...> {
  PhraseKind phrase;
  const char* act = "";  ///< for undo: `Change the tail`
  /// What it adds to its phrase, with what joins it to the words before; null: the phrase is put together
  /// where the session is known.
  std::string (*clause)(const Brief&) = nullptr;
  /// Whether it changes anything beside the brief's other fields; null: always.
  bool (*matters)(const Brief&) = nullptr;
  /// Of a number whose sense depends on other fields; null: as its kind says.
  NumberSense (*sense)(const Brief&) = nullptr;

  constexpr BriefField always() const {
    BriefField field = *this;
    field.isAlwaysWritten = true;
    return field;
  }
  /// Where it matters.
  constexpr BriefField when(bool (*condition)(const Brief&)) const {
    BriefField field = *this;
    field.matters = condition;
    return field;
  }
};

template <class Kind, auto... Path>
constexpr BriefField<Kind, Path...> said(PhraseKind phrase, Field<Kind, Path...> field,
                                         const char* label = "", const char* act = "",
                                         std::string (*clause)(const Brief&) = nullptr) {
  return {field.labelled(label), phrase, act, clause};
}

}  // namespace octaphon
