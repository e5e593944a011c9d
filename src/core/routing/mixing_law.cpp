#include "routing/mixing_law.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <span>

namespace octaphon {
namespace {

enum class Place { Left, Right, Centre, Low, BackLeft, BackRight, SideLeft, SideRight };

constexpr Place kQuad[]{Place::Left, Place::Right, Place::SideLeft, Place::SideRight};
constexpr Place kWide[]{Place::Left, Place::Right,    Place::Centre,
                        Place::Low,  Place::SideLeft, Place::SideRight};
constexpr Place kWidest[]{Place::Left,     Place::Right,     Place::Centre,   Place::Low,
                          Place::BackLeft, Place::BackRight, Place::SideLeft, Place::SideRight};

std::span<const Place> placesOf(int channels) {
  if (channels == 4) return kQuad;
  if (channels == 6) return kWide;
  if (channels == 8) return kWidest;
  return std::span(kQuad).first(2);
}

struct Sides {
  double left;
  double right;
};

Sides constantPower(double pan) {
  if (pan <= -1) return {1, 0};
  if (pan >= 1) return {0, 1};
  const double angle = (pan + 1) * std::numbers::pi / 4;
  return {std::cos(angle), std::sin(angle)};
}

bool isLeft(Place place) {
  return place == Place::Left || place == Place::BackLeft || place == Place::SideLeft;
}
bool isMiddle(Place place) { return place == Place::Centre || place == Place::Low; }

double balance(Place place, double pan) {
  if (isMiddle(place)) return 1;
  return isLeft(place) ? std::min(1.0, 1 - pan) : std::min(1.0, 1 + pan);
}

int channelOf(Place place, int channels) {
  const auto places = placesOf(channels);
  const auto found = std::find(places.begin(), places.end(), place);
  return found == places.end() ? -1 : static_cast<int>(found - places.begin());
}

/// Adds one channel to a layout of two or more.
void put(MixMatrix& matrix, int input, Place place, double gain) {
  const double half = std::numbers::sqrt2 / 2;
  const auto add = [&](Place to, double factor) {
    matrix.gain[static_cast<std::size_t>(channelOf(to, matrix.outputs))][static_cast<std::size_t>(input)] +=
        factor;
  };
  const bool both = matrix.inputs == 8 && matrix.outputs < 8;  // sides and backs share a pair
  if (channelOf(place, matrix.outputs) >= 0) {
    const bool side = place == Place::SideLeft || place == Place::SideRight;
    add(place, both && side ? gain * half : gain);
  } else if (place == Place::Centre) {
    add(Place::Left, gain * half), add(Place::Right, gain * half);
  } else if (place != Place::Low) {
    const Place side = isLeft(place) ? Place::SideLeft : Place::SideRight;
    const bool isBack = place == Place::BackLeft || place == Place::BackRight;
    if (isBack && channelOf(side, matrix.outputs) >= 0)
      add(side, gain * half);
    else
      add(isLeft(place) ? Place::Left : Place::Right, gain * half);
  }
}

}  // namespace

bool MixMatrix::isIdentity() const {
  if (inputs != outputs) return false;
  for (std::size_t out = 0; out < static_cast<std::size_t>(outputs); ++out)
    for (std::size_t in = 0; in < static_cast<std::size_t>(inputs); ++in)
      if (gain[out][in] != (in == out ? 1.0 : 0.0)) return false;
  return true;
}

MixMatrix mixMatrix(int inputs, int outputs, double gain, double pan) {
  MixMatrix matrix{inputs, outputs, {}};
  if (inputs == 1) {
    const Sides sides = constantPower(pan);
    matrix.gain[0][0] = outputs == 1 ? gain : gain * sides.left;
    if (outputs > 1) matrix.gain[1][0] = gain * sides.right;
    return matrix;
  }
  if (outputs == 1) {
    const MixMatrix stereo = mixMatrix(inputs, 2, gain, pan);
    for (std::size_t in = 0; in < static_cast<std::size_t>(inputs); ++in)
      matrix.gain[0][in] = (stereo.gain[0][in] + stereo.gain[1][in]) / 2;
    return matrix;
  }
  const auto places = placesOf(inputs);
  for (int in = 0; in < inputs; ++in) {
    const Place place = places[static_cast<std::size_t>(in)];
    put(matrix, in, place, gain * balance(place, pan));
  }
  return matrix;
}

bool isPlainWire(int inputs, int outputs, double gainDb, double pan) {
  return inputs == outputs && gainDb == 0 && (inputs == 1 || pan == 0);
}

MixMatrix foldMatrix(int inputs, int outputs) {
  MixMatrix matrix = mixMatrix(inputs, outputs, 1, 0);
  if (inputs == 1)
    for (auto& gains : matrix.gain) gains[0] = 1;
  return matrix;
}

void foldChannel(const MixMatrix& matrix, const float* const* in, int channel, Frame frames, float* out) {
  const auto& gains = matrix.gain[static_cast<std::size_t>(channel)];
  for (Frame i = 0; i < frames; ++i) {
    double sum = 0;
    for (int c = 0; c < matrix.inputs; ++c) sum += gains[static_cast<std::size_t>(c)] * in[c][i];
    out[i] = static_cast<float>(sum);
  }
}

}  // namespace octaphon
