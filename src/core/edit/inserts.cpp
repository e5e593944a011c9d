#include "edit/inserts.h"

#include <algorithm>
#include <unordered_set>

#include "base/unicode.h"
#include "routing/signal_order.h"

namespace octaphon {
namespace {

/// The chain that an insert is in, and its place in it.
struct InsertPlace {
  std::vector<Insert>* chain = nullptr;
  std::size_t index = 0;
  bool lock = false;
};

InsertPlace placeOf(Session& session, const std::string& id) {
  const auto in = [&](std::vector<Insert>& chain, bool lock) -> InsertPlace {
    for (std::size_t i = 0; i < chain.size(); ++i)
      if (chain[i].id == id) return {&chain, i, lock};
    return {};
  };
  for (Track& track : session.tracks) {
    if (const InsertPlace place = in(track.inserts, track.lock); place.chain != nullptr) return place;
    for (Clip& clip : track.clips)
      if (const InsertPlace place = in(clip.inserts, track.lock || clip.lock); place.chain != nullptr)
        return place;
  }
  return in(session.main.inserts, false);
}

/// A clip by a place, with whether it or its track is locked.
std::pair<Clip*, bool> clipOf(Session& session, const std::string& place) {
  if (!place.starts_with(kClipPlace)) return {nullptr, false};
  const std::string id = place.substr(kClipPlace.size());
  for (Track& track : session.tracks)
    for (Clip& clip : track.clips)
      if (clip.id == id) return {&clip, clip.lock || track.lock};
  return {nullptr, false};
}

template <class Visit>
void forEachAutomation(Session& session, const Visit& visit) {
  for (Track& track : session.tracks) visit(track.automation);
  visit(session.main.automation);
}

}  // namespace

std::vector<Insert>* insertsAt(Session& session, const std::string& place) {
  if (place == kMainPlace) return &session.main.inserts;
  if (Clip* clip = clipOf(session, place).first) return &clip->inserts;
  Track* track = findTrack(session, place);
  return track == nullptr ? nullptr : &track->inserts;
}

std::vector<Automation>* automationAt(Session& session, const std::string& place) {
  if (place == kMainPlace) return &session.main.automation;
  Track* track = findTrack(session, place);
  return track == nullptr ? nullptr : &track->automation;
}

Insert* findInsert(Session& session, const std::string& id) {
  const InsertPlace place = placeOf(session, id);
  return place.chain == nullptr ? nullptr : &(*place.chain)[place.index];
}

Send* findSend(Session& session, const std::string& id) {
  for (Track& track : session.tracks)
    for (Send& send : track.sends)
      if (send.id == id) return &send;
  return nullptr;
}

// Looking changes nothing.
const Insert* findInsert(const Session& session, const std::string& id) {
  return findInsert(const_cast<Session&>(session), id);
}

const Send* findSend(const Session& session, const std::string& id) {
  return findSend(const_cast<Session&>(session), id);
}

std::string addInsert(Session& session, const std::string& place, const std::string& effect,
                      std::size_t before) {
  std::vector<Insert>* chain = insertsAt(session, place);
  const Track* track = findTrack(session, place);
  const bool isLocked = (track != nullptr && track->lock) || clipOf(session, place).second;
  if (chain == nullptr || chain->size() >= kMaxInserts || isLocked) return {};
  IdMaker maker(session);
  Insert insert;
  insert.id = maker.next("i");
  insert.effect = effect;
  std::string id = insert.id;
  chain->insert(chain->begin() + static_cast<std::ptrdiff_t>(std::min(before, chain->size())),
                std::move(insert));
  return id;
}

bool removeInsert(Session& session, const std::string& id) {
  const InsertPlace place = placeOf(session, id);
  if (place.chain == nullptr || place.lock) return false;
  place.chain->erase(place.chain->begin() + static_cast<std::ptrdiff_t>(place.index));
  const std::string prefix = "insert:" + id + ":";
  forEachAutomation(session, [&](std::vector<Automation>& curves) {
    std::erase_if(curves, [&](const Automation& curve) { return curve.target.starts_with(prefix); });
  });
  dropLooseSends(session);
  return true;
}

bool moveInsert(Session& session, const std::string& id, int by) {
  const InsertPlace place = placeOf(session, id);
  if (place.chain == nullptr || place.lock) return false;
  const auto to = static_cast<std::ptrdiff_t>(place.index) + by;
  if (by == 0 || to < 0 || to >= static_cast<std::ptrdiff_t>(place.chain->size())) return false;
  Insert moved = std::move((*place.chain)[place.index]);
  place.chain->erase(place.chain->begin() + static_cast<std::ptrdiff_t>(place.index));
  place.chain->insert(place.chain->begin() + to, std::move(moved));
  return true;
}

Result<std::string> addSend(Session& session, const std::string& trackId, const std::string& to) {
  Track* track = findTrack(session, trackId);
  if (track == nullptr) return fail(ErrorCode::UnknownName, trackId, "there is no such track");
  const std::string name = printable(track->name, 60);
  if (track->lock) return fail(ErrorCode::BadValue, name, "the track is locked", "Unlock it first");
  IdMaker maker(session);
  Send send;
  send.id = maker.next("send");
  send.to = to;
  const TrackTree tree(session);
  const std::size_t circles = SignalOrder(tree, session).feedback().size();
  track->sends.push_back(send);
  const SignalOrder order(tree, session);
  if (!order.target(to) || order.feedback().size() > circles) {
    track->sends.pop_back();
    return fail(ErrorCode::BadValue, name, "its sound would come back to where it leaves",
                "Send it elsewhere");
  }
  return send.id;
}

bool removeSend(Session& session, const std::string& id) {
  for (Track& track : session.tracks) {
    if (track.lock || std::erase_if(track.sends, [&](const Send& send) { return send.id == id; }) == 0)
      continue;
    std::erase_if(track.automation, [&](const Automation& curve) { return curve.target == "send:" + id; });
    return true;
  }
  return false;
}

bool setCurvePoint(Session& session, const std::string& place, const std::string& target,
                   const CurvePoint& point) {
  std::vector<Automation>* curves = automationAt(session, place);
  const Track* track = findTrack(session, place);
  if (curves == nullptr || (track != nullptr && track->lock)) return false;
  auto curve =
      std::find_if(curves->begin(), curves->end(), [&](const Automation& c) { return c.target == target; });
  if (curve == curves->end()) curve = curves->insert(curve, Automation{target, true, {}, {}});
  auto& points = curve->points;
  const auto at = std::lower_bound(points.begin(), points.end(), point.at,
                                   [](const CurvePoint& p, Frame frame) { return p.at < frame; });
  if (at != points.end() && at->at == point.at)
    *at = point;
  else
    points.insert(at, point);
  return true;
}

bool removeCurvePoint(Session& session, const std::string& place, const std::string& target, Frame at) {
  std::vector<Automation>* curves = automationAt(session, place);
  const Track* track = findTrack(session, place);
  if (curves == nullptr || (track != nullptr && track->lock)) return false;
  for (Automation& curve : *curves) {
    if (curve.target != target) continue;
    const bool removed = std::erase_if(curve.points, [&](const CurvePoint& p) { return p.at == at; }) > 0;
    std::erase_if(*curves, [](const Automation& c) { return c.points.empty(); });
    return removed;
  }
  return false;
}

const Automation* findCurve(const Session& session, const std::string& place, const std::string& target) {
  const auto* curves = automationAt(const_cast<Session&>(session), place);
  if (curves == nullptr) return nullptr;
  const auto found =
      std::find_if(curves->begin(), curves->end(), [&](const Automation& c) { return c.target == target; });
  return found == curves->end() ? nullptr : &*found;
}

void renewIds(Clip& clip, IdMaker& maker) {
  for (Insert& insert : clip.inserts) insert.id = maker.next("i");
}

void renewIds(Track& track, IdMaker& maker) {
  const auto retarget = [&](const std::string& before, const std::string& after) {
    for (Automation& curve : track.automation)
      if (curve.target.starts_with(before)) curve.target = after + curve.target.substr(before.size());
  };
  for (Insert& insert : track.inserts) {
    const std::string fresh = maker.next("i");
    retarget("insert:" + insert.id + ":", "insert:" + fresh + ":");
    insert.id = fresh;
  }
  for (Send& send : track.sends) {
    const std::string fresh = maker.next("send");
    for (Automation& curve : track.automation)
      if (curve.target == "send:" + send.id) curve.target = "send:" + fresh;
    send.id = fresh;
  }
  for (Clip& clip : track.clips) renewIds(clip, maker);
}

void dropLooseSends(Session& session) {
  std::unordered_set<std::string> targets;
  for (const Track& track : session.tracks) {
    if (track.isReturn()) targets.insert(track.id);
    for (const Insert& insert : track.inserts) targets.insert(insert.id);
  }
  for (const Insert& insert : session.main.inserts) targets.insert(insert.id);
  for (Track& track : session.tracks)
    std::erase_if(track.sends, [&](const Send& send) {
      if (targets.contains(send.to)) return false;
      std::erase_if(track.automation,
                    [&](const Automation& curve) { return curve.target == "send:" + send.id; });
      return true;
    });
}

}  // namespace octaphon
