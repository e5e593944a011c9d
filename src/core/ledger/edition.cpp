#include "ledger/edition.h"

#include <pwd.h>
#include <unistd.h>

#include "ledger/receipt.h"

namespace octaphon {

Edition firstEdition() {
  Edition edition;
  edition.date = today();
  if (const passwd* user = getpwuid(geteuid()); user != nullptr && user->pw_name != nullptr)
    edition.user = user->pw_name;
  char machine[256] = {};
  if (gethostname(machine, sizeof machine - 1) == 0) edition.machine = machine;
  return edition;
}

std::map<std::string, Edition> editionsIn(const SafeFolder& folder) {
  const auto file = folder.openFile(kReceiptName);
  const auto text =
      file ? readAll(file->get(), kMaxReceiptBytes, folder.path().string()) : Result<std::string>();
  return text ? Receipt::editionsIn(*text) : std::map<std::string, Edition>();
}

std::map<std::string, Edition> editionsIn(const FolderPath& base) {
  const auto folder = SafeFolder::open(base, false);
  return folder ? editionsIn(*folder) : std::map<std::string, Edition>();
}

}  // namespace octaphon
