#include "ledger/edition.h"

#include <pwd.h>
#include <unistd.h>

namespace octaphon {

Edition editionOfToday() {
  Edition edition;
  edition.date = today();
  if (const passwd* user = getpwuid(geteuid()); user != nullptr && user->pw_name != nullptr)
    edition.user = user->pw_name;
  char machine[256] = {};
  if (gethostname(machine, sizeof machine - 1) == 0) edition.machine = machine;
  return edition;
}

}  // namespace octaphon
