#include "recipe/source.h"

namespace octaphon {

std::string PlannedSource::key() const {
  switch (kind) {
    case Kind::Track: return "track:" + id;
    case Kind::Group: return "group:" + id;
    case Kind::Return: return "return:" + id;
    case Kind::Sum: return "sum:" + id;
    case Kind::MixWithout: return "without:" + id;
    case Kind::Mix: return "mix";
    case Kind::Together: return "together";
  }
  return {};
}

}  // namespace octaphon
