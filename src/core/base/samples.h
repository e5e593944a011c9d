// The loops that all sound goes through, over one channel at a time. They are compiled for processors with
// wide registers too and chosen when the program starts; every sample is worked out for itself, so the
// results are the same to the bit.
#pragma once

#include <cstddef>
#include <cstdint>

#include "base/frames.h"

namespace octaphon {

#if !defined(OCTAPHON_PLAIN_LOOPS) && defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && \
    !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__)
#define OCTAPHON_WIDE __attribute__((target_clones("arch=x86-64-v4", "avx2", "default")))
#define OCTAPHON_SHUFFLED __attribute__((target_clones("avx2", "ssse3", "default")))  // bytes change places
#else
#define OCTAPHON_SHUFFLED
#define OCTAPHON_WIDE  // sanitizers cannot follow the choice at the program's start
#endif

/// total[i] += in[i]
void addSamples(double* total, const float* in, Frame frames);
/// The same of `count` of them, one after the other.
void addSamples(double* total, const float* const* in, std::size_t count, Frame frames);
/// total[i] −= in[i]
void subtractSamples(double* total, const float* in, Frame frames);
/// out[i] = in[i] · gain, rounded to the nearest
void scaleSamples(const float* in, float gain, float* out, Frame frames);
/// out[i] = in[i], rounded to the nearest
void roundSamples(const double* in, float* out, Frame frames);
/// Whether samples times `scale`, a power of two, are whole numbers; writes them. None may be over 2³¹ then.
bool takeWholeSamples(const float* in, float scale, std::int32_t* out, Frame frames);

/// The sum of all samples, in a fixed order for each number of them.
double sumOfSamples(const float* in, Frame frames);

/// The sum of a[i] · b[i], in a fixed order for each number of them, in single precision by lanes.
double productOfSamples(const float* a, const float* b, Frame frames);

/// Whole numbers of 16 and 24 bits as files pack them, in this machine's order of bytes (lowest first), to
/// samples at full scale ±1.
void floatsOf16(const unsigned char* packed, float* out, Frame samples);
void floatsOf24(const unsigned char* packed, float* out, Frame samples);

bool hasMinusZero(const float* in, Frame frames);

/// Takes the least and the largest sample into a range.
void extendRange(const float* in, Frame frames, float& least, float& most);

/// The largest magnitude as the bits of a float: they order like magnitudes, infinity above all numbers and
/// NaN above that. 0 of no samples.
std::int32_t largestMagnitudeBits(const float* in, Frame frames);

}  // namespace octaphon
