// Edits of what a sound goes through: inserts, sends and curves. What is locked stays as it is.
#pragma once

#include <string>
#include <vector>

#include "edit/ids.h"
#include "session/session.h"

namespace octaphon {

/// Where inserts, sends and curves are: a track by its id, or main; inserts also on a clip: `clip:` and its
/// id.
inline constexpr std::string_view kMainPlace = "main";
inline constexpr std::string_view kClipPlace = "clip:";

std::vector<Insert>* insertsAt(Session& session, const std::string& place);
std::vector<Automation>* automationAt(Session& session, const std::string& place);
Insert* findInsert(Session& session, const std::string& id);
const Insert* findInsert(const Session& session, const std::string& id);
Send* findSend(Session& session, const std::string& id);
const Send* findSend(const Session& session, const std::string& id);

/// Puts an effect into the chain in front of `before` (an index; behind all where it is too large). Gives its
/// id; empty where the place is locked, full, or not there.
std::string addInsert(Session& session, const std::string& place, const std::string& effect,
                      std::size_t before);
/// Takes an insert out, with the sends that lead to it and the curves that move it.
bool removeInsert(Session& session, const std::string& id);
/// To another place in the same chain.
bool moveInsert(Session& session, const std::string& id, int by);

/// A send of a track to a return or to the key input of an insert; gives its id. Refused where the sound
/// would come back to where it leaves.
Result<std::string> addSend(Session& session, const std::string& track, const std::string& to);
bool removeSend(Session& session, const std::string& id);

/// Sets a point of a curve, which is made when it is not there; one at the same frame is replaced.
bool setCurvePoint(Session& session, const std::string& place, const std::string& target,
                   const CurvePoint& point);
/// Takes the point at a frame out; a curve without points goes.
bool removeCurvePoint(Session& session, const std::string& place, const std::string& target, Frame at);
const Automation* findCurve(const Session& session, const std::string& place, const std::string& target);

/// Gives inserts and sends that were copied along with a track or clip ids of their own.
void renewIds(Track& track, IdMaker& maker);
void renewIds(Clip& clip, IdMaker& maker);
/// Forgets sends that lead to nothing any more.
void dropLooseSends(Session& session);

}  // namespace octaphon
