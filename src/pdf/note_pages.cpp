#include "handover/note_pages.h"

#include <cairo-pdf.h>
#include <pango/pangocairo.h>
#include <unicode/ubidi.h>
#include <unicode/unistr.h>

#include <algorithm>
#include <cmath>
#include <memory>

#include "base/unicode.h"

namespace octaphon {
namespace {

constexpr double kMargin = 40, kFooter = 24;
constexpr double kNumber = 22, kWave = 96, kFigures = 168, kGap = 10;  // columns of an entry
constexpr double kWaveHeight = 26;
constexpr double kLabel = 84;

struct Ink {
  double red, green, blue;
};
constexpr Ink kInk{0.07, 0.07, 0.07}, kSecond{0.29, 0.33, 0.33}, kAccent{0.04, 0.39, 0.38},
    kLine{0.79, 0.76, 0.71}, kBrass{0.42, 0.26, 0.03}, kFault{0.61, 0.18, 0.14};

struct Unref {
  void operator()(PangoLayout* layout) const { g_object_unref(layout); }
  void operator()(cairo_surface_t* surface) const { cairo_surface_destroy(surface); }
  void operator()(cairo_t* cairo) const { cairo_destroy(cairo); }
};
using Layout = std::unique_ptr<PangoLayout, Unref>;

struct Type {
  double size;  // points
  bool isBold = false;
  Ink ink = kInk;
  bool isMono = false;
};

/// Text that runs from the right does not move what stands beside it (Unicode annex 9: isolates).
std::string isolatedText(const std::string& text) {
  const std::string shown = withoutControls(text, " ");
  const auto letters = icu::UnicodeString::fromUTF8(shown);
  const bool isFromRight = ubidi_getBaseDirection(letters.getBuffer(), letters.length()) == UBIDI_RTL;
  return isFromRight ? "\u2068" + shown + "\u2069" : shown;
}

/// Pages are filled from top to bottom; what does not fit begins another.
class Pages {
 public:
  Pages(const Note& note, const Paper& paper) : note_(note), paper_(paper) {
    surface_.reset(cairo_pdf_surface_create_for_stream(
        [](void* bytes, const unsigned char* data, unsigned length) {
          static_cast<std::string*>(bytes)->append(reinterpret_cast<const char*>(data), length);
          return CAIRO_STATUS_SUCCESS;
        },
        &bytes_, paper.width, paper.height));
    setMetadata(CAIRO_PDF_METADATA_TITLE, note.title);
    setMetadata(CAIRO_PDF_METADATA_CREATOR, "Octaphon");
    setMetadata(CAIRO_PDF_METADATA_CREATE_DATE,
                (note.date.empty() ? "2000-01-01" : note.date) + "T00:00:00Z");
    cairo_.reset(cairo_create(surface_.get()));
  }

  Result<std::string> take() {
    paint();
    endPage();
    cairo_surface_finish(surface_.get());
    const cairo_status_t status = cairo_surface_status(surface_.get());
    if (status != CAIRO_STATUS_SUCCESS)
      return fail(ErrorCode::Unsupported, note_.title,
                  std::string("the note cannot be painted: ") + cairo_status_to_string(status));
    return std::move(bytes_);
  }

 private:
  void setMetadata(cairo_pdf_metadata_t what, const std::string& text) {
    cairo_pdf_surface_set_metadata(surface_.get(), what, withoutControls(text, " ").c_str());
  }

  void paint() {
    addText(note_.title, {20, true}, 4);
    addLines(note_.lines);
    for (const std::string& paragraph : note_.text) addText(paragraph, {9.5}, 4);
    addLines(note_.totals);
    for (const NoteSection& section : note_.sections) {
      addHeading(section.title);
      addLines(section.lines);
      for (const NoteEntry& entry : section.entries) addEntry(entry);
    }
    addHeading("Checks");
    addLines(note_.checks);
  }

  double width() const { return paper_.width - 2 * kMargin; }
  double bottom() const { return paper_.height - kMargin - kFooter; }

  Layout layoutOf(const std::string& text, const Type& type, double width) const {
    return layoutOf(std::vector{text}, type, width);
  }
  /// With commas between them.
  Layout layoutOf(const std::vector<std::string>& texts, const Type& type, double width) const {
    Layout layout(pango_cairo_create_layout(cairo_.get()));
    const std::unique_ptr<PangoFontDescription, decltype(&pango_font_description_free)> font(
        pango_font_description_new(), &pango_font_description_free);
    pango_font_description_set_family(font.get(), type.isMono ? "JetBrains Mono, DejaVu Sans Mono, monospace"
                                                              : "Inter, Noto Sans, DejaVu Sans, sans-serif");
    pango_font_description_set_weight(font.get(), type.isBold ? PANGO_WEIGHT_SEMIBOLD : PANGO_WEIGHT_NORMAL);
    pango_font_description_set_absolute_size(font.get(), type.size * PANGO_SCALE);
    pango_layout_set_font_description(layout.get(), font.get());
    pango_layout_set_width(layout.get(), static_cast<int>(std::lround(width * PANGO_SCALE)));
    pango_layout_set_wrap(layout.get(), PANGO_WRAP_WORD_CHAR);
    pango_layout_set_auto_dir(layout.get(), FALSE);
    const std::unique_ptr<PangoAttrList, decltype(&pango_attr_list_unref)> attributes(pango_attr_list_new(),
                                                                                      &pango_attr_list_unref);
    pango_attr_list_insert(attributes.get(), pango_attr_insert_hyphens_new(FALSE));  // names have none
    pango_layout_set_attributes(layout.get(), attributes.get());
    std::string shown;
    for (const std::string& text : texts) shown += (shown.empty() ? "" : ", ") + isolatedText(text);
    pango_layout_set_text(layout.get(), shown.c_str(), static_cast<int>(shown.size()));
    return layout;
  }

  static double heightOf(const Layout& layout) {
    int height = 0;
    pango_layout_get_size(layout.get(), nullptr, &height);
    return static_cast<double>(height) / PANGO_SCALE;
  }

  void use(const Ink& ink) { cairo_set_source_rgb(cairo_.get(), ink.red, ink.green, ink.blue); }

  void draw(const Layout& layout, const Ink& ink, double x, double y) {
    use(ink);
    cairo_move_to(cairo_.get(), x, y);
    pango_cairo_show_layout(cairo_.get(), layout.get());
  }

  /// A block of that height begins here, on another page where it does not fit. What is higher than a page is
  /// cut off at its end.
  void makeRoom(double height) {
    if (y_ + height <= bottom() || y_ <= kMargin) return;
    endPage();
    y_ = kMargin;
  }

  void endPage() {
    const Layout footer =
        layoutOf(note_.title + ", page " + std::to_string(++page_), {8, false, kSecond}, width());
    pango_layout_set_ellipsize(footer.get(), PANGO_ELLIPSIZE_MIDDLE);
    draw(footer, kSecond, kMargin, paper_.height - kMargin - heightOf(footer));
    cairo_show_page(cairo_.get());
  }

  void addText(const std::string& text, const Type& type, double gap) {
    const Layout layout = layoutOf(text, type, width());
    makeRoom(heightOf(layout));
    draw(layout, type.ink, kMargin, y_);
    y_ += heightOf(layout) + gap;
  }

  void addHeading(const std::string& text) {
    y_ += 12;
    makeRoom(90);  // never alone at the end of a page
    addText(text, {13, true, kAccent}, 4);
  }

  void addLines(const std::vector<NoteLine>& lines) {
    for (const NoteLine& line : lines) {
      const Layout label = layoutOf(line.label, {9.5, false, kSecond}, kLabel - kGap);
      const Layout text = layoutOf(line.text, {9.5}, width() - kLabel);
      const double height = std::max(heightOf(label), heightOf(text));
      makeRoom(height);
      draw(label, kSecond, kMargin, y_);
      draw(text, kInk, kMargin + kLabel, y_);
      y_ += height + 2;
    }
    if (!lines.empty()) y_ += 6;
  }

  /// A text that stands in an entry, under those before it.
  struct Part {
    Layout layout;
    Ink ink;
  };
  template <class Text>
  void addPart(std::vector<Part>& parts, const Text& text, const Type& type, double width) const {
    if (!text.empty()) parts.push_back({layoutOf(text, type, width), type.ink});
  }
  static double heightOf(const std::vector<Part>& parts) {
    double height = 0;
    for (const Part& part : parts) height += heightOf(part.layout) + 1;
    return height;
  }
  void draw(const std::vector<Part>& parts, double x) {
    double y = y_;
    for (const Part& part : parts) {
      draw(part.layout, part.ink, x, y);
      y += heightOf(part.layout) + 1;
    }
  }

  void addEntry(const NoteEntry& entry) {
    const double middle = width() - kNumber - kWave - kFigures - 3 * kGap;
    std::vector<Part> number, names, figures;
    addPart(number, entry.number, {8.5, false, kSecond}, kNumber);
    addPart(names, entry.file, {9.5, true}, middle);
    std::vector<std::string> what = entry.what;
    if (!entry.place.empty()) what.push_back(entry.place);
    addPart(names, what, {8, false, kSecond}, middle);
    for (const NoteLine& remark : entry.remarks)
      addPart(names, remark.label + ": " + remark.text, {8, false, remark.label == "found" ? kFault : kBrass},
              middle);
    addPart(names, entry.checksum, {5.6, false, kSecond, true}, middle);
    addPart(figures, entry.length, {8.5}, kFigures);
    addPart(figures, entry.form, {8.5}, kFigures);
    addPart(figures, entry.level, {8.5}, kFigures);
    if (!entry.loop.empty()) addPart(figures, "loop: " + entry.loop, {8.5}, kFigures);
    const double height = std::max({heightOf(names), heightOf(figures), kWaveHeight}) + 8;
    makeRoom(height);
    use(kLine);
    cairo_set_line_width(cairo_.get(), 0.5);
    cairo_move_to(cairo_.get(), kMargin, y_);
    cairo_line_to(cairo_.get(), kMargin + width(), y_);
    cairo_stroke(cairo_.get());
    y_ += 4;
    double x = kMargin;
    draw(number, x);
    x += kNumber + kGap;
    if (entry.picture != nullptr) drawWave(*entry.picture, x);
    x += kWave + kGap;
    draw(names, x);
    draw(figures, x + middle + kGap);
    y_ += height - 4;
  }

  void drawWave(const std::vector<WaveColumn>& columns, double x) {
    use(kAccent);
    const double middle = y_ + kWaveHeight / 2, half = kWaveHeight / 2 - 1;
    const double step = kWave / static_cast<double>(columns.size());
    const auto point = [&](std::size_t i, float sample) {
      cairo_line_to(cairo_.get(), x + (static_cast<double>(i) + 0.5) * step,
                    middle - half * static_cast<double>(std::clamp(sample, -1.0f, 1.0f)));
    };
    // A line where there is no sound.
    cairo_new_path(cairo_.get());
    for (std::size_t i = 0; i < columns.size(); ++i) point(i, std::max(columns[i].high, 0.01f));
    for (std::size_t i = columns.size(); i-- > 0;) point(i, std::min(columns[i].low, -0.01f));
    cairo_close_path(cairo_.get());
    cairo_fill(cairo_.get());
  }

  const Note& note_;
  const Paper& paper_;
  std::string bytes_;
  std::unique_ptr<cairo_surface_t, Unref> surface_;
  std::unique_ptr<cairo_t, Unref> cairo_;
  double y_ = kMargin;
  int page_ = 0;
};

}  // namespace

}  // namespace octaphon

void octaphonNotePages(const octaphon::Note& note, const octaphon::Paper& paper,
                       octaphon::Result<std::string>& bytes) {
  bytes = octaphon::Pages(note, paper).take();
}
