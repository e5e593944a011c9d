#include "brief/inside_data.h"

#include <array>

namespace octaphon {

const std::string& InsideData::format(Tag tag) const {
  using D = InsideData;
  static constexpr std::array<std::string D::*, kTags> kFormats{
      &D::title,      &D::artist,    &D::album,   &D::number, &D::credit, &D::comment,
      &D::keywords,   &D::category,  &D::tempo,   &D::key,    &D::isrc,   &D::description,
      &D::originator, &D::reference, &D::project, &D::scene,  &D::note};
  return this->*kFormats[static_cast<std::size_t>(tag)];
}

}  // namespace octaphon
