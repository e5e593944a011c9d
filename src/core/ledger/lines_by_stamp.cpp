#include "ledger/lines_by_stamp.h"

namespace octaphon {

LinesByStamp::LinesByStamp(const Receipt& receipt) {
  for (const auto& [file, lines] : receipt.byFile())
    lines_.emplace(std::pair(lines.back().stamp.changed, lines.back().stamp.size), &lines.back());
}

const ReceiptLine* LinesByStamp::of(int fd) const {
  const auto stamp = stampOf(fd);
  if (!stamp) return nullptr;
  const auto [first, last] = lines_.equal_range({stamp->changed, stamp->size});
  for (auto line = first; line != last; ++line) {
    const auto content = digestOf(fd, line->second->file, line->second->head);
    if (content && *content == line->second->content) return line->second;
  }
  return nullptr;
}

}  // namespace octaphon
