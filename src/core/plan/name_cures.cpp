#include "plan/name_cures.h"

#include <algorithm>
#include <set>

#include "base/unicode.h"
#include "naming/template.h"

namespace octaphon {
namespace {

class Cures {
 public:
  Cures(const Sheet& sheet, std::size_t brief, Template parsed, std::string format)
      : sheet_(sheet), brief_(sheet.briefs[brief]), parsed_(std::move(parsed)), format_(std::move(format)) {}

  std::vector<NameCure> find() {
    std::set<RemarkCode> codes;
    for (std::size_t i = brief_.firstRow; i < brief_.firstRow + brief_.rowCount; ++i)
      for (const Remark& remark : sheet_.rows[i].remarks) codes.insert(remark.code);
    if (codes.contains(RemarkCode::Collision)) tellApart();
    if (codes.contains(RemarkCode::EmptyName)) nameAtAll();
    if (codes.contains(RemarkCode::NameTooLong) || codes.contains(RemarkCode::LongPath)) shorten();
    if (codes.contains(RemarkCode::UnmeasuredName))
      takeOut([](const TemplatePart& part) { return part.field.field == NameField::Length; }, "{length}");
    if (codes.contains(RemarkCode::LettersLost)) withoutAscii();
    return std::move(cures_);
  }

 private:
  /// Fields that differ between rows of one name.
  void tellApart() {
    const bool severalSources = brief_.sources.size() > 1, severalSpans = brief_.spans.size() > 1;
    if (severalSources && !parsed_.uses(NameField::Source)) add("{source}", "_");
    if (severalSpans && !usesRegion()) add("{region}", "_");
    if (brief_.outputs.size() > 1 && !parsed_.uses(NameField::Depth)) add("{depth}", "_");
    if (!parsed_.uses(NameField::NameNumber)) add("{n.name:2}", "_");
    if (!parsed_.uses(NameField::Number)) add("{n}", "_");
  }

  void nameAtAll() {
    const bool isOfSource = brief_.sources.size() > 1 || brief_.spans.size() < 2;
    const std::string region = brief_.spans.size() > 1 ? "{region}" : "";
    add(region + (isOfSource ? (region.empty() ? "{source}" : "_{source}") : ""), "");
  }

  bool usesRegion() const {
    for (const NameField field : {NameField::Region, NameField::RegionLast})
      if (parsed_.uses(field)) return true;
    return false;
  }

  void add(const std::string& field, const char* joint) {
    cures_.push_back({"Add " + field + " at the end", format_ + joint + field});
  }

  /// The first field that has long names gets a limit.
  void shorten() {
    const TemplatePart* first = nullptr;
    parsed_.forEachField([&](const TemplatePart& part) {
      const auto isText = [](NameField field) {
        return field == NameField::Region || field == NameField::RegionBase ||
               field == NameField::RegionLast || field == NameField::Source || field == NameField::Groups ||
               field == NameField::RegionFact;
      };
      if (isText(part.field.field) && first == nullptr) first = &part;
    });
    if (first == nullptr) return;
    std::string format = format_;
    format.insert(first->position + first->length - 1, "|max 40");
    cures_.push_back({"At most 40 characters of {" + nameOf(first->field) + "}", std::move(format)});
  }

  template <class Is>
  void takeOut(const Is& isMeant, const char* name) {
    std::string format = format_;
    std::vector<const TemplatePart*> parts;
    parsed_.forEachField([&](const TemplatePart& part) {
      if (isMeant(part)) parts.push_back(&part);
    });
    for (auto part = parts.rbegin(); part != parts.rend(); ++part)
      format.erase((*part)->position, (*part)->length);
    if (Template::parse(format)) cures_.push_back({"Take " + std::string(name) + " out", std::move(format)});
  }

  void withoutAscii() {
    cures_.push_back({"Take the filter ascii out", parsed_.without(FilterKind::Ascii).text()});
  }

  const Sheet& sheet_;
  const PlannedBrief& brief_;
  Template parsed_;
  std::string format_;
  std::vector<NameCure> cures_;
};

}  // namespace

std::vector<NameCure> nameCures(const Sheet& sheet, std::size_t brief, const std::string& format) {
  if (const auto mistake = Template::mistakeIn(format)) {
    if (mistake->instead.empty()) return {};
    std::string mended = format;
    mended.replace(mistake->position, mistake->length, mistake->instead);
    return {{"Write " + printable(mistake->instead, 60), std::move(mended)}};
  }
  return Cures(sheet, brief, *Template::parse(format), format).find();
}

}  // namespace octaphon
