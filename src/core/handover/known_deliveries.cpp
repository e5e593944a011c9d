#include "handover/known_deliveries.h"

#include <algorithm>
#include <cstdlib>
#include <optional>
#include <string>

#include "base/files.h"
#include "base/pending_file.h"

namespace octaphon {
namespace {

namespace fs = std::filesystem;

constexpr std::uint64_t kMostBytes = 16 << 20;

std::optional<fs::path> listFile() {
  const char* state = std::getenv("XDG_STATE_HOME");
  if (state != nullptr && *state == '/') return fs::path(state) / "octaphon" / "deliveries";
  const char* home = std::getenv("HOME");
  if (home == nullptr || *home != '/') return std::nullopt;
  return fs::path(home) / ".local" / "state" / "octaphon" / "deliveries";
}

bool isPlain(const fs::path& path) {
  return path.is_absolute() && path.native().find_first_of("\t\n") == std::string::npos;
}

/// A line each: folder, tab, session; what is no such line counts for nothing.
std::vector<KnownDelivery> parse(const std::string& text) {
  std::vector<KnownDelivery> known;
  std::size_t from = 0;
  while (from < text.size() && known.size() < kMostKnown) {
    const std::size_t end = std::min(text.find('\n', from), text.size());
    const std::string line = text.substr(from, end - from);
    from = end + 1;
    const std::size_t tab = line.find('\t');
    if (tab == std::string::npos) continue;
    KnownDelivery one{line.substr(0, tab), line.substr(tab + 1)};
    if (isPlain(one.folder) && isPlain(one.session)) known.push_back(std::move(one));
  }
  return known;
}

}  // namespace

std::vector<KnownDelivery> knownDeliveries() {
  const auto file = listFile();
  const auto text = file ? readFile(*file, kMostBytes) : Result<std::string>();
  return text ? parse(*text) : std::vector<KnownDelivery>();
}

void noteDelivery(const KnownDelivery& delivery) {
  const auto file = listFile();
  if (!file || !isPlain(delivery.folder) || !isPlain(delivery.session)) return;
  std::vector<KnownDelivery> known = knownDeliveries();
  if (!known.empty() && known.front() == delivery) return;
  std::erase(known, delivery);
  known.insert(known.begin(), delivery);
  if (known.size() > kMostKnown) known.resize(kMostKnown);
  std::string text;
  for (const KnownDelivery& one : known) text += one.folder.native() + "\t" + one.session.native() + "\n";
  std::error_code error;
  fs::create_directories(file->parent_path(), error);
  (void)replaceFile(*file, text);
}

}  // namespace octaphon
