#include "ledger/row_mark.h"

#include "base/hash.h"

namespace octaphon {

static constexpr std::size_t kMarkDigits = 16;

std::string rowMarkOf(const std::string& key) {
  Hasher hasher;
  hasher.add(std::string_view(key));
  return hasher.digest().hex().substr(0, kMarkDigits);
}

std::string madeMarkOf(const Fingerprint& made) {
  Hasher hasher;
  hasher.add(made.sound);
  hasher.add(made.form);
  hasher.add(made.engine);
  return hasher.digest().hex().substr(0, kMarkDigits);
}

}  // namespace octaphon
