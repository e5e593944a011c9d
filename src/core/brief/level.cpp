#include "brief/level.h"

namespace octaphon {

Levelling levellingWith(Levelling levelling, const OwnLevelling& own) {
  if (own.level.kind) {
    levelling.level.kind = *own.level.kind;
    levelling.level.target = {};
  }
  if (own.level.target) levelling.level.target = own.level.target;
  if (own.level.per) levelling.level.per = *own.level.per;
  if (own.ceilingDb) levelling.ceilingDb = own.ceilingDb;
  if (own.ceilingBy) levelling.ceilingBy = *own.ceilingBy;
  return levelling;
}

}  // namespace octaphon
