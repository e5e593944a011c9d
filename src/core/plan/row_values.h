// Values of naming fields for the rows of one brief.
#pragma once

#include <memory>
#include <optional>
#include <span>
#include <unordered_map>
#include <vector>

#include "naming/expand.h"
#include "plan/sheet.h"
#include "routing/track_tree.h"
#include "session/session.h"

namespace octaphon {

/// What the fields of some templates are for all rows of a brief. Fields that are the same over a span, or of
/// a source, are worked out once for it, filters included.
class RowValues {
 public:
  /// Keeps references to all of them; the sheet's rows and sounds of the brief have to be there. `only`:
  /// values of other rows of the brief are not asked for. In texts `/` stays what it is.
  RowValues(const Sheet& sheet, std::size_t brief, const Session& session, const TrackTree& tree,
            std::span<const Template> formats, std::string separator, const Abbreviations& abbreviations,
            TemplateUse use = TemplateUse::Name, std::optional<std::size_t> only = std::nullopt);

  /// Before that rows have none.
  void setNameNumbers(NameNumbers numbers) { names_ = std::move(numbers); }
  const NameNumbers& nameNumbers() const { return names_; }

  /// Values of one row. A view: it lives as long as this does.
  class OfRow : public NameValues {
   public:
    OfRow(const RowValues& all, std::size_t row) : all_(all), row_(row) {}
    bool append(const TemplatePart& field, std::string& text, bool& isLost) const override;

   private:
    const RowValues& all_;
    std::size_t row_;  // of the brief
  };
  OfRow of(std::size_t row) const { return {*this, row}; }

 private:
  enum class Scope { Brief, Span, Source, Row };
  static Scope scopeOf(NameField field);
  /// A field's texts, by brief (one), span or source; none for rows.
  struct Column {
    Scope scope = Scope::Row;
    std::vector<std::string> texts;
    std::vector<char> isLost;
  };
  void fill(const TemplatePart& field, Column& column);
  const Column& columnOf(const TemplatePart& field) const;
  void add(const TemplatePart& field, Column& column, std::string value) const;

  std::string plain(std::string text) const;
  std::string ofBrief(const FieldUse& use) const;
  std::string ofSpan(const FieldUse& use, std::size_t span) const;
  std::string ofRegion(const FieldUse& use, const PlannedSpan& span) const;
  std::string ofTime(const FieldUse& use, const PlannedSpan& span) const;
  std::string startText(const FieldUse& use, Frame start) const;
  std::string markerBefore(const FieldUse& use, Frame start) const;
  std::string ofSource(const FieldUse& use, std::size_t source) const;
  std::vector<std::string> groupsOf(const PlannedSource& source) const;
  std::string ofRow(const FieldUse& use, std::size_t row) const;
  std::string number(const FieldUse& use, std::size_t row) const;
  NumberPlace placeOf(Counter counter, std::uint32_t place, long count, long most) const;
  std::string joined(const std::vector<std::string>& parts, const FieldUse& use) const;
  std::string pathText(const std::string& path, const FieldUse& use) const;
  void countSounds();
  void countTakes();

  const Sheet& sheet_;
  const PlannedBrief& brief_;
  const Session& session_;
  const TrackTree& tree_;
  const Abbreviations& abbreviations_;
  std::string separator_;
  TemplateUse use_;
  TempoMap tempo_;
  std::unordered_map<std::string_view, const Region*> regions_;
  std::unordered_map<std::string_view, const ClipSet*> sets_;
  std::unordered_map<std::string_view, NumberPlace> regionTakes_, setTakes_;  // by id
  const TappedSound* only_ = nullptr;
  std::vector<std::pair<const TemplatePart*, Column>> columns_;  // few: found by looking through them
  std::vector<long> spanCounts_, sourceCounts_;                  // by span, source: sounds
  std::vector<NumberPlace> sourceNumbers_;                       // by source: among those that have sounds
  NameNumbers names_;
  long sounds_ = 0, mostInSpan_ = 0, mostOfSource_ = 0;
};

}  // namespace octaphon
