#include "handover/note_page.h"

#include <algorithm>
#include <cmath>

#include "base/unicode.h"

namespace octaphon {
namespace {

constexpr int kHalf = 16;  // of the height of a picture

constexpr std::string_view kStyle = R"(
:root { color-scheme: light dark; --paper: #f5f2ea; --sheet: #fffdf8; --line: #d9d3c4; --ink: #20292b; --second: #525d5b;
  --accent: #0b6360; --brass: #855409; --fault: #9c2f24; }
@media (prefers-color-scheme: dark) { :root { --paper: #211c18; --sheet: #2a2420; --line: #4a423a; --ink: #ede6da;
  --second: #b3a99b; --accent: #a9b2f0; --brass: #e0b264; --fault: #f0938a; } }
@media print { :root { color-scheme: light; --paper: #fff; --sheet: #fff; --line: #c9c3b4; --ink: #111; --second: #444;
  --accent: #0b6360; --brass: #6b4207; --fault: #9c2f24; } }
@page { margin: 14mm 12mm; }
body { margin: 0 auto; padding: 2rem 1.5rem 3rem; max-width: 62rem; background: var(--paper); color: var(--ink);
  font: 15px/1.45 "Inter", "Noto Sans", "Segoe UI", system-ui, sans-serif; font-variant-numeric: tabular-nums; }
h1 { margin: 0 0 .6rem; font-size: 1.7rem; line-height: 1.2; overflow-wrap: anywhere; }
h2 { margin: 2.2rem 0 .5rem; font-size: 1.15rem; color: var(--accent); break-after: avoid; overflow-wrap: anywhere; }
dl { margin: 0 0 1rem; display: grid; grid-template-columns: 8rem 1fr; gap: .15rem 1rem; }
dt { color: var(--second); }
dd { margin: 0; overflow-wrap: anywhere; }
table { width: 100%; border-collapse: collapse; background: var(--sheet); border: 1px solid var(--line); }
th { padding: .35rem .6rem; text-align: left; font-weight: 600; font-size: .85rem; color: var(--second);
  border-bottom: 1px solid var(--line); }
td { padding: .45rem .6rem; vertical-align: top; border-top: 1px solid var(--line); }
tr { break-inside: avoid; }
.no { width: 2.2rem; text-align: right; color: var(--second); }
.wave { width: 9rem; }
.wave svg { display: block; width: 9rem; height: 2.4rem; fill: var(--accent); }
.file { font-weight: 600; overflow-wrap: anywhere; }
.file a { color: inherit; text-decoration-color: var(--line); }
.more, .sum { display: block; font-size: .85rem; color: var(--second); overflow-wrap: anywhere; }
.sum { font-family: "JetBrains Mono", "DejaVu Sans Mono", monospace; font-size: .6rem; }
.remark { display: block; font-size: .85rem; color: var(--brass); overflow-wrap: anywhere; }
.found { color: var(--fault); }
.figures { width: 19rem; font-size: .9rem; }
.figures span { display: block; }
@media print { :root { font-size: 10px; } body { max-width: none; padding: 0; font-size: 8.5pt; } }
@media screen and (max-width: 46rem) { table, tbody, tr, td { display: block; width: auto; } thead { display: none; }
  td { border-top: 0; } tr { border-top: 1px solid var(--line); } .no { text-align: left; } }
)";

std::string escaped(const std::string& text) {
  std::string out;
  for (const char c : withoutControls(text, " ")) switch (c) {
      case '&': out += "&amp;"; break;
      case '<': out += "&lt;"; break;
      case '>': out += "&gt;"; break;
      case '"': out += "&quot;"; break;
      default: out += c;
    }
  return out;
}

/// Text that someone wrote, in whatever direction it runs.
std::string isolated(const std::string& text) { return "<bdi>" + escaped(text) + "</bdi>"; }

/// RFC 3986: all but what a path may hold.
std::string linkTo(const std::string& folder, const std::string& file) {
  constexpr std::string_view kPlain = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-._~/",
                             kDigits = "0123456789ABCDEF";
  std::string link;
  for (const char c : (folder.empty() || folder == "." ? "" : folder + "/") + file) {
    if (kPlain.find(c) != std::string_view::npos) {
      link += c;
      continue;
    }
    const auto byte = static_cast<unsigned char>(c);
    link += '%';
    link += kDigits[byte >> 4];
    link += kDigits[byte & 15];
  }
  return link;
}

std::string pictureOf(const std::vector<WaveColumn>& columns) {
  const auto pixels = [](float sample) {
    return static_cast<int>(std::lround(std::clamp(sample, 0.0f, 1.0f) * (kHalf - 1)));
  };
  std::string over, under;
  for (std::size_t i = 0; i < columns.size(); ++i) {
    const std::string x = std::to_string(i * kNotePoints / columns.size());
    over += (over.empty() ? "M" : "L") + x + " " + std::to_string(kHalf - pixels(columns[i].high));
    under.insert(0, "L" + x + " " + std::to_string(kHalf + pixels(-columns[i].low) + 1));
  }
  return "<svg viewBox=\"0 0 120 32\" preserveAspectRatio=\"none\" aria-hidden=\"true\"><path d=\"" + over +
         under + "Z\"/></svg>";
}

std::string listOf(const std::vector<NoteLine>& lines) {
  if (lines.empty()) return {};
  std::string html = "<dl>\n";
  for (const NoteLine& line : lines)
    html += "<dt>" + escaped(line.label) + "</dt><dd>" + isolated(line.text) + "</dd>\n";
  return html + "</dl>\n";
}

class Page {
 public:
  Page(const Note& note, const std::string& toFiles) : note_(note), toFiles_(toFiles) {}

  std::string html() const {
    std::string html =
        "<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n"
        "<meta name=\"viewport\" content=\"width=device-width\">\n<title>" +
        escaped(note_.title) + "</title>\n<style>" + std::string(kStyle) + "</style>\n</head>\n<body>\n";
    html += "<h1>" + isolated(note_.title) + "</h1>\n" + listOf(note_.lines);
    for (const std::string& paragraph : note_.text) html += "<p>" + isolated(paragraph) + "</p>\n";
    html += listOf(note_.totals);
    for (const NoteSection& section : note_.sections) html += sectionOf(section);
    html += "<h2>Checks</h2>\n" + listOf(note_.checks);
    return html + "</body>\n</html>\n";
  }

 private:
  std::string sectionOf(const NoteSection& section) const {
    std::string html = "<h2>" + isolated(section.title) + "</h2>\n" + listOf(section.lines);
    html +=
        "<table>\n<thead><tr><th class=\"no\">No</th><th class=\"wave\">Sound</th><th>File</th>"
        "<th class=\"figures\">Length, format, level</th></tr></thead>\n<tbody>\n";
    for (const NoteEntry& entry : section.entries) html += rowOf(entry);
    return html + "</tbody>\n</table>\n";
  }

  std::string rowOf(const NoteEntry& entry) const {
    std::string html = "<tr><td class=\"no\">" + entry.number + "</td><td class=\"wave\">";
    html += entry.picture != nullptr ? pictureOf(*entry.picture) : std::string("&nbsp;");
    html += "</td><td><span class=\"file\">" + nameOf(entry) + "</span>";
    html += "<span class=\"more\">";
    for (const std::string& what : entry.what)
      html += isolated(what) + (&what != &entry.what.back() ? ", " : "");
    html += (entry.place.empty() ? "" : ", " + escaped(entry.place)) + "</span>";
    for (const NoteLine& remark : entry.remarks)
      html += "<span class=\"remark" + std::string(remark.label == "found" ? " found" : "") + "\">" +
              escaped(remark.label) + ": " + isolated(remark.text) + "</span>";
    if (!entry.checksum.empty()) html += "<span class=\"sum\">" + entry.checksum + "</span>";
    html += "</td><td class=\"figures\"><span>" + escaped(entry.length) + "</span><span>" +
            escaped(entry.form) + "</span><span>" + escaped(entry.level) + "</span>";
    if (!entry.loop.empty()) html += "<span>loop: " + escaped(entry.loop) + "</span>";
    return html + "</td></tr>\n";
  }

  std::string nameOf(const NoteEntry& entry) const {
    if (toFiles_.empty()) return isolated(entry.file);
    return "<a href=\"" + linkTo(toFiles_, entry.file) + "\">" + isolated(entry.file) + "</a>";
  }

  const Note& note_;
  const std::string& toFiles_;
};

}  // namespace

std::string notePage(const Note& note, const std::string& toFiles) { return Page(note, toFiles).html(); }

}  // namespace octaphon
