// Numbers too small to matter cost twenty times what others do. Set at the top of every task: workers do not
// inherit it.
#pragma once

#if defined(__SSE__)
#include <xmmintrin.h>
#endif

namespace octaphon {

/// While it lives, this thread flushes denormals to zero.
class DenormalGuard {
 public:
#if defined(__SSE__)
  DenormalGuard() : before_(_mm_getcsr()) {
    _mm_setcsr(before_ | 0x8040u);
  }  // flush to zero, denormals are zero
  ~DenormalGuard() { _mm_setcsr(before_); }
#elif defined(__aarch64__)
  DenormalGuard() {
    asm volatile("mrs %0, fpcr" : "=r"(before_));
    asm volatile("msr fpcr, %0" ::"r"(before_ | (1ull << 24)));
  }
  ~DenormalGuard() { asm volatile("msr fpcr, %0" ::"r"(before_)); }
#endif
  DenormalGuard(const DenormalGuard&) = delete;
  DenormalGuard& operator=(const DenormalGuard&) = delete;

 private:
#if defined(__SSE__)
  unsigned before_;
#elif defined(__aarch64__)
  unsigned long long before_;
#endif
};

}  // namespace octaphon
