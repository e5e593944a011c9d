#include "handover/outline_of.h"

#include "session/session_json.h"

namespace octaphon {

Result<Session> outlineIn(const Receipt& receipt, const std::string& session) {
  const auto found = receipt.outlines().find(session);
  if (found == receipt.outlines().end())
    return fail(ErrorCode::NotFound, session, "the receipt does not keep this session's regions and tracks",
                "Make a file of it once more, with this version");
  return readSession(found->second, session);
}

}  // namespace octaphon
