// Where this user's files were delivered, so that a file that was moved away is still traced to its session.
// A list of text in the user's state folder (XDG Base Directory Specification: XDG_STATE_HOME); it holds
// paths only, and nothing depends on it.
#pragma once

#include <filesystem>
#include <vector>

namespace octaphon {

struct KnownDelivery {
  std::filesystem::path folder, session;
  bool operator==(const KnownDelivery&) const = default;
};

inline constexpr std::size_t kMostKnown = 1000;

/// The last ones first, each once.
std::vector<KnownDelivery> knownDeliveries();
/// That it cannot be noted is no error.
void noteDelivery(const KnownDelivery& delivery);

}  // namespace octaphon
