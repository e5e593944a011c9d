#include "edit/inserts.h"

#include <algorithm>
#include <optional>
#include <unordered_set>

#include "base/unicode.h"
#include "edit/selected_clips.h"
#include "routing/signal_order.h"

namespace octaphon {
namespace {

/// Of an insert: the place of the chain that it is in, as insertsAt() takes it, and where in it.
struct InsertPlace {
  std::string place;
  std::size_t index = 0;
  bool lock = false;
};

std::optional<InsertPlace> placeOf(const Session& session, const std::string& id) {
  const auto in = [&](const std::vector<Insert>& chain) {
    return static_cast<std::size_t>(
        std::find_if(chain.begin(), chain.end(), [&](const Insert& i) { return i.id == id; }) -
        chain.begin());
  };
  for (const Track& track : session.tracks) {
    if (const auto at = in(track.inserts); at < track.inserts.size())
      return InsertPlace{track.id, at, track.lock};
    for (const Clip& clip : track.clips)
      if (const auto at = in(clip.inserts); at < clip.inserts.size())
        return InsertPlace{std::string(kClipPlace) + clip.id, at, track.lock || clip.lock};
  }
  const auto at = in(session.main.inserts);
  if (at < session.main.inserts.size()) return InsertPlace{std::string(kMainPlace), at, false};
  return std::nullopt;
}

/// By a place of clips.
std::optional<ClipPlace> clipOf(const Session& session, const std::string& place) {
  if (!place.starts_with(kClipPlace)) return std::nullopt;
  const std::vector<ClipPlace> places = placesOf(session, {place.substr(kClipPlace.size())});
  return places.empty() ? std::nullopt : std::optional(places.front());
}

template <class Visit>
void forEachAutomation(Session& session, const Visit& visit) {
  for (Track& track : session.tracks) visit(track.automation);
  visit(session.main.automation);
}

}  // namespace

std::vector<Insert>* insertsAt(Session& session, const std::string& place) {
  if (place == kMainPlace) return &session.main.inserts;
  if (const auto clip = clipOf(session, place)) return &session.tracks[clip->track].clips[clip->clip].inserts;
  Track* track = findTrack(session, place);
  return track == nullptr ? nullptr : &track->inserts;
}

std::vector<Automation>* automationAt(Session& session, const std::string& place) {
  if (place == kMainPlace) return &session.main.automation;
  Track* track = findTrack(session, place);
  return track == nullptr ? nullptr : &track->automation;
}

Insert* findInsert(Session& session, const std::string& id) {
  const auto place = placeOf(session, id);
  return place ? &(*insertsAt(session, place->place))[place->index] : nullptr;
}

Send* findSend(Session& session, const std::string& id) {
  for (Track& track : session.tracks)
    for (Send& send : track.sends)
      if (send.id == id) return &send;
  return nullptr;
}

const Insert* findInsert(const Session& session, const std::string& id) {
  const auto place = placeOf(session, id);
  if (!place) return nullptr;
  const auto clip = clipOf(session, place->place);
  if (clip) return &clipAt(session, *clip).inserts[place->index];
  const Track* track = findTrack(session, place->place);
  return &(track == nullptr ? session.main.inserts : track->inserts)[place->index];
}

// Looking changes nothing.

const Send* findSend(const Session& session, const std::string& id) {
  return findSend(const_cast<Session&>(session), id);
}

std::string addInsert(Session& session, const std::string& place, const std::string& effect,
                      std::size_t before) {
  std::vector<Insert>* chain = insertsAt(session, place);
  const Track* track = findTrack(session, place);
  const auto clip = clipOf(session, place);
  const bool isClosed = (track != nullptr && track->lock) || (clip && isLocked(session, *clip));
  if (chain == nullptr || chain->size() >= kMaxInserts || isClosed) return {};
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
  const auto place = placeOf(session, id);
  if (!place || place->lock) return false;
  std::vector<Insert>& chain = *insertsAt(session, place->place);
  chain.erase(chain.begin() + static_cast<std::ptrdiff_t>(place->index));
  const std::string prefix = "insert:" + id + ":";
  forEachAutomation(session, [&](std::vector<Automation>& curves) {
    std::erase_if(curves, [&](const Automation& curve) { return curve.target.starts_with(prefix); });
  });
  dropLooseSends(session);
  return true;
}

bool moveInsert(Session& session, const std::string& id, int by) {
  const auto place = placeOf(session, id);
  if (!place || place->lock) return false;
  std::vector<Insert>& chain = *insertsAt(session, place->place);
  const auto from = static_cast<std::ptrdiff_t>(place->index), to = from + by;
  if (by == 0 || to < 0 || to >= static_cast<std::ptrdiff_t>(chain.size())) return false;
  Insert moved = std::move(chain[place->index]);
  chain.erase(chain.begin() + from);
  chain.insert(chain.begin() + to, std::move(moved));
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
  changeWhere(
      track.clips, [](const Clip& clip) { return !clip.inserts.empty(); },
      [&](Clip& clip) { renewIds(clip, maker); });
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
