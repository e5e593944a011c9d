#include "media/readable_media.h"

#include <tbb/parallel_for.h>

namespace octaphon {
namespace {

tl::unexpected<Error> changed(const std::string& name) {
  return fail(ErrorCode::MediumChanged, name, {}, "Make the files again when it rests");
}

ReadableMedium prepared(const Session& session, const Medium& medium, const MediaFacts& facts,
                        MediaCache& cache, const std::atomic<bool>* cancel) {
  const MediumFact* fact = facts.find(medium.id);
  if (fact == nullptr || fact->state == MediumFact::State::Missing)
    return {{},
            {},
            medium.file,
            Error{ErrorCode::MediumMissing, medium.file, {}, "Put the file back, or take its clips out"}};
  if (fact->state == MediumFact::State::Unreadable)
    return {{},
            {},
            medium.file,
            Error{ErrorCode::MediumUnreadable, medium.file, fact->problem, "Replace the file"}};
  if (!fact->needsCache) return {fact->file, fact->identity, medium.file, {}};
  auto copy = cache.converted(fact->file, fact->identity, fact->content, session.rate, cancel);
  if (copy) return {std::move(copy->file), copy->identity, medium.file, {}};
  Error error = std::move(copy).error();
  if (error.code == ErrorCode::MediumUnreadable || error.code == ErrorCode::MediumChanged)
    error.place = medium.file;
  return {{}, {}, medium.file, std::move(error)};
}

}  // namespace

Result<SoundFile> ReadableMedium::open() const {
  if (error) return tl::unexpected(*error);
  OCTAPHON_ASSIGN(SoundFile sound, SoundFile::open(file));
  if (sound.identity() != identity) return changed(name);
  return sound;
}

Result<> ReadableMedium::checkUnchanged() const {
  if (!error && identityOf(file) != identity) return changed(name);
  return {};
}

ReadableMedia ReadableMedia::prepare(const Session& session, const MediaFacts& facts, MediaCache& cache,
                                     const std::vector<std::string>& media, const std::atomic<bool>* cancel,
                                     const std::function<void()>& done) {
  std::unordered_map<std::string, const Medium*> byId;
  for (const Medium& medium : session.media) byId.emplace(medium.id, &medium);
  std::vector<ReadableMedium> ready(media.size());
  tbb::parallel_for(std::size_t{0}, media.size(), [&](std::size_t i) {
    const auto found = byId.find(media[i]);
    if (found != byId.end()) ready[i] = prepared(session, *found->second, facts, cache, cancel);
    if (done) done();
  });
  ReadableMedia result;
  for (std::size_t i = 0; i < media.size(); ++i) result.media_[media[i]] = std::move(ready[i]);
  return result;
}

}  // namespace octaphon
