// Second-order filters. Coefficients by the Audio EQ Cookbook (R. Bristow-Johnson; W3C note), with
// ω0 = 2π f / rate, α = sin ω0 / (2 Q), A = 10^(dB / 40); shelves with slope S = 1.
#pragma once

#include <cmath>
#include <numbers>

namespace octaphon {

struct Biquad {
  double b0 = 1, b1 = 0, b2 = 0, a1 = 0, a2 = 0;  ///< a0 = 1

  static Biquad normalised(double b0, double b1, double b2, double a0, double a1, double a2) {
    return {b0 / a0, b1 / a0, b2 / a0, a1 / a0, a2 / a0};
  }
};

namespace biquad {

struct Angle {
  double cosine, alpha;
  Angle(double hertz, double q, double rate) {
    const double omega = 2 * std::numbers::pi * std::fmin(hertz, rate * 0.499) / rate;
    cosine = std::cos(omega);
    alpha = std::sin(omega) / (2 * q);
  }
};

inline Biquad lowPass(double hertz, double q, double rate) {
  const Angle w(hertz, q, rate);
  const double k = 1 - w.cosine;
  return Biquad::normalised(k / 2, k, k / 2, 1 + w.alpha, -2 * w.cosine, 1 - w.alpha);
}

inline Biquad highPass(double hertz, double q, double rate) {
  const Angle w(hertz, q, rate);
  const double k = 1 + w.cosine;
  return Biquad::normalised(k / 2, -k, k / 2, 1 + w.alpha, -2 * w.cosine, 1 - w.alpha);
}

inline Biquad bell(double hertz, double q, double decibels, double rate) {
  const Angle w(hertz, q, rate);
  const double a = std::pow(10, decibels / 40);
  return Biquad::normalised(1 + w.alpha * a, -2 * w.cosine, 1 - w.alpha * a, 1 + w.alpha / a, -2 * w.cosine,
                            1 - w.alpha / a);
}

/// `sign` +1: low shelf, −1: high shelf.
inline Biquad shelf(double hertz, double decibels, double rate, double sign) {
  const Angle w(hertz, std::numbers::sqrt2 / 2, rate);  // S = 1
  const double a = std::pow(10, decibels / 40);
  const double k = 2 * std::sqrt(a) * w.alpha;
  const double c = sign * w.cosine;
  return Biquad::normalised(a * ((a + 1) - (a - 1) * c + k), sign * 2 * a * ((a - 1) - (a + 1) * c),
                            a * ((a + 1) - (a - 1) * c - k), (a + 1) + (a - 1) * c + k,
                            -sign * 2 * ((a - 1) + (a + 1) * c), (a + 1) + (a - 1) * c - k);
}

}  // namespace biquad

/// Transposed direct form II.
struct BiquadState {
  double z1 = 0, z2 = 0;

  double step(const Biquad& f, double x) {
    const double y = f.b0 * x + z1;
    z1 = f.b1 * x - f.a1 * y + z2;
    z2 = f.b2 * x - f.a2 * y;
    return y;
  }
};

}  // namespace octaphon
