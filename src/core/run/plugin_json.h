// What this program and its worker tell each other, as JSON. It never leaves the machine and has no version:
// both come from one build.
#pragma once

#include <nlohmann/json.hpp>

#include "media/readable_media.h"
#include "routing/effect_info.h"
#include "run/pass_key.h"
#include "session/session.h"

namespace octaphon {

nlohmann::json asJson(const EffectInfo& info);
EffectInfo effectFrom(const nlohmann::json& json);

nlohmann::json asJson(const Insert& insert);  ///< effect, values and state only
Insert insertFrom(const nlohmann::json& json);

/// What all passes of a worker have in common until it is given another one.
struct WorkerSession {
  std::string session;  ///< as writeSession() gives it
  std::vector<std::pair<Insert, EffectInfo>> plugins;
};
nlohmann::json asJson(const WorkerSession& session);
WorkerSession sessionFrom(const nlohmann::json& json);

/// A pass as the worker plays it, in the session that it was given last.
struct WorkerPass {
  PassKey key;
  std::vector<std::pair<std::string, ReadableMedium>> media;
  struct Request {
    int brief = -1;  ///< index in Session::briefs; −1: a plain one
    std::vector<PlannedSource> sources;
    bool isEverything = false;
    int channels = 0;
  };
  std::vector<Request> taps;
};
nlohmann::json asJson(const WorkerPass& pass);
WorkerPass passFrom(const nlohmann::json& json);

}  // namespace octaphon
