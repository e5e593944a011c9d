#include "base/extent.h"

#include <algorithm>

namespace octaphon {
namespace {

Frame soundStart(const ExtentPlan& plan, Frame from) {
  return atRate(plan.first, plan.sessionRate, plan.rate) + from;
}

/// The last beginning of a picture frame at or before a frame.
Frame pictureBefore(const PictureRate& picture, int rate, Frame at) {
  Frame number = floorOf(WideFrame{at} * picture.numerator, WideFrame{picture.denominator} * rate) + 1;
  while (nearestAudioFrame(number, picture, rate) > at) --number;
  return nearestAudioFrame(number, picture, rate);
}

/// The first one at or after a frame.
Frame pictureAfter(const PictureRate& picture, int rate, Frame at) {
  Frame number = floorOf(WideFrame{at} * picture.numerator, WideFrame{picture.denominator} * rate) - 1;
  while (nearestAudioFrame(number, picture, rate) < at) ++number;
  return nearestAudioFrame(number, picture, rate);
}

/// Cuts or fills at the end.
void makeExact(Extent& extent, Frame frames) {
  extent.leadIn = std::min(extent.leadIn, frames);
  extent.body = std::min(extent.body, frames - extent.leadIn);
  extent.tail = frames - extent.leadIn - extent.body;
}

}  // namespace

Frame silenceBefore(const ExtentPlan& plan, const Kept& kept) {
  if (!plan.picture) return 0;
  const Frame start = soundStart(plan, kept.from);
  return start - pictureBefore(*plan.picture, plan.rate, start);
}

Extent extentOf(const ExtentPlan& plan, Frame tail, const Kept& kept) {
  const Frame end = std::min(kept.to, plan.soundFrames(tail));
  const Frame from = std::clamp<Frame>(kept.from, 0, std::max<Frame>(0, end));
  const auto boundary = [&](Frame at) { return std::max(from, std::min(end, at)) - from; };
  Extent extent;
  extent.leadIn = boundary(atRate(plan.leadIn, plan.sessionRate, plan.rate));
  extent.body = boundary(plan.bodyEnd()) - extent.leadIn;
  extent.tail = boundary(plan.soundFrames(tail)) - extent.leadIn - extent.body + plan.silence;
  extent.start = soundStart(plan, from);
  if (plan.picture) {
    const Frame pictureEnd = pictureAfter(*plan.picture, plan.rate, extent.start + extent.frames());
    extent.tail += pictureEnd - extent.start - extent.frames();
    const Frame before = silenceBefore(plan, {from, end});
    extent.leadIn += before;
    extent.start -= before;
  }
  if (plan.exact > 0) makeExact(extent, plan.exact);
  return extent;
}

Frame sessionStart(const ExtentPlan& plan, const Extent& extent) {
  const Frame moved = extent.start - atRate(plan.first, plan.sessionRate, plan.rate);
  return plan.first + atRate(moved, plan.rate, plan.sessionRate);
}

Frame timeReference(Frame startPicture, const PictureRate& picture, int rate, Frame start) {
  const Frame day = nearestAudioFrame(picturesADay(picture), picture, rate);
  const Frame at = nearestAudioFrame(startPicture, picture, rate) + start;
  return at < 0 ? at + day : at;
}

}  // namespace octaphon
