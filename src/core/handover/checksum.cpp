#include "handover/checksum.h"

#include <openssl/evp.h>

#include <unistd.h>

#include <array>
#include <memory>
#include <vector>

namespace octaphon {

Result<std::string> sha256Of(int fd, const std::string& place, const JobControl* job) {
  const std::unique_ptr<EVP_MD_CTX, decltype(&EVP_MD_CTX_free)> context(EVP_MD_CTX_new(), &EVP_MD_CTX_free);
  if (!context || EVP_DigestInit_ex(context.get(), EVP_sha256(), nullptr) != 1)
    return fail(ErrorCode::Unsupported, place, "SHA-256 is not to be had");
  std::vector<char> block(std::size_t{1} << 18);
  for (off_t at = 0;;) {
    if (isStopped(job)) return fail(ErrorCode::Cancelled, place);
    const ssize_t got = ::pread(fd, block.data(), block.size(), at);
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return tl::unexpected(systemError(errno, place, ErrorCode::MediumUnreadable));
    if (got == 0) break;
    EVP_DigestUpdate(context.get(), block.data(), static_cast<std::size_t>(got));
    at += got;
  }
  std::array<unsigned char, EVP_MAX_MD_SIZE> digest{};
  unsigned size = 0;
  EVP_DigestFinal_ex(context.get(), digest.data(), &size);
  constexpr std::string_view kDigits = "0123456789abcdef";
  std::string text;
  for (unsigned i = 0; i < size; ++i) {
    text += kDigits[digest[i] >> 4];
    text += kDigits[digest[i] & 15];
  }
  return text;
}

/// A name that would break a line is escaped, and its line begins with a backslash.
static std::string lineOf(const std::string& sha256, const std::string& file) {
  std::string name;
  for (const char c : file) {
    if (c == '\\')
      name += "\\\\";
    else if (c == '\n')
      name += "\\n";
    else if (c == '\r')
      name += "\\r";
    else
      name += c;
  }
  return (name == file ? "" : "\\") + sha256 + "  " + name + "\n";
}

std::string checksumList(const Delivery& delivery) {
  std::string list;
  for (const DeliveredFile& file : delivery.files)
    if (!file.sha256.empty()) list += lineOf(file.sha256, file.file);
  return list;
}

}  // namespace octaphon
