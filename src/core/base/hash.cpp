#include "base/hash.h"

#define XXH_STATIC_LINKING_ONLY
#include <xxhash.h>

#include <cstdio>

namespace octaphon {

struct Hasher::State {
  XXH3_state_t xxh;
};

std::string Digest::hex() const {
  char text[40];
  std::snprintf(text, sizeof text, "%016llx%016llx", static_cast<unsigned long long>(high),
                static_cast<unsigned long long>(low));
  return text;
}

Digest Digest::fromHex(std::string_view text) {
  if (text.size() != 32) return {};
  Digest digest;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    const bool isDigit = c >= '0' && c <= '9';
    if (!isDigit && !(c >= 'a' && c <= 'f')) return {};
    auto& half = i < 16 ? digest.high : digest.low;
    half = half << 4 | static_cast<std::uint64_t>(isDigit ? c - '0' : c - 'a' + 10);
  }
  return digest;
}

Hasher::Hasher() = default;
Hasher::~Hasher() = default;
Hasher::Hasher(Hasher&&) noexcept = default;

void Hasher::reset() {
  used_ = 0;
  state_.reset();
}

void Hasher::spill(const void* data, std::size_t size) {
  if (!state_) {
    state_ = std::make_unique<State>();
    XXH3_128bits_reset(&state_->xxh);
  }
  XXH3_128bits_update(&state_->xxh, short_.data(), used_);
  used_ = 0;
  if (size <= short_.size())
    bytes(data, size);
  else
    XXH3_128bits_update(&state_->xxh, data, size);
}

void Hasher::add(std::string_view text) {
  add(static_cast<std::uint64_t>(text.size()));
  bytes(text.data(), text.size());
}

void Hasher::add(const Digest& digest) {
  add(digest.low);
  add(digest.high);
}

Digest Hasher::digest() const {
  XXH128_hash_t hash;
  if (state_) {
    State whole = *state_;
    XXH3_128bits_update(&whole.xxh, short_.data(), used_);
    hash = XXH3_128bits_digest(&whole.xxh);
  } else {
    hash = XXH3_128bits(short_.data(), used_);
  }
  return {hash.low64, hash.high64};
}

std::uint64_t hash64(std::string_view text) { return XXH3_64bits(text.data(), text.size()); }

}  // namespace octaphon
