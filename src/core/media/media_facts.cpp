#include "media/media_facts.h"

#include <tbb/parallel_for.h>

namespace octaphon {
namespace {

MediumFact factOf(const Session& session, const Medium& medium, MediaCache& cache) {
  MediumFact fact;
  fact.file = session.folder() / medium.file;
  const auto sound = SoundFile::open(fact.file);
  if (!sound) {
    const Error& error = sound.error();
    fact.state =
        error.code == ErrorCode::MediumMissing ? MediumFact::State::Missing : MediumFact::State::Unreadable;
    fact.problem =
        medium.file + ": " + (error.text.empty() ? std::string(errorText(error.code)) : error.text);
    return fact;
  }
  const auto content = cache.contentOf(fact.file);
  if (!content) {
    fact.state = MediumFact::State::Unreadable;
    fact.problem = content.error().describe();
    return fact;
  }
  fact.state = MediumFact::State::Ready;
  fact.info = sound->info();
  fact.content = *content;
  fact.needsCache = fact.info.rate != session.rate || fact.info.isLossy;
  fact.frames = atRate(fact.info.frames, fact.info.rate, session.rate);
  return fact;
}

}  // namespace

std::shared_ptr<const MediaFacts> gatherFacts(const Session& session, MediaCache& cache,
                                              const std::atomic<bool>* cancel) {
  std::vector<MediumFact> facts(session.media.size());
  tbb::parallel_for(std::size_t{0}, facts.size(), [&](std::size_t i) {
    if (cancel != nullptr && cancel->load(std::memory_order_relaxed)) return;
    facts[i] = factOf(session, session.media[i], cache);
  });
  auto result = std::make_shared<MediaFacts>();
  for (std::size_t i = 0; i < facts.size(); ++i) result->set(session.media[i].id, std::move(facts[i]));
  cache.saveHashes();
  return result;
}

}  // namespace octaphon
