#include "media/media_facts.h"

#include <tbb/parallel_for.h>

#include <cstdlib>

#include "base/log.h"
#include "base/unicode.h"

namespace octaphon {
namespace {

constexpr const char* kNotLookedAt = "that was stopped before it was looked at";

/// What a file is, and what the session knows; the rate only where it is another one.
std::string differenceText(const SoundInfo& info, const Medium& known) {
  const bool hasRate = known.rate == 0 || known.rate == info.rate;
  const auto text = [&](Frame frames, int rate) {
    return std::to_string(frames) + " frames" + (hasRate ? "" : " at " + std::to_string(rate) + " Hz");
  };
  return "it has " + text(info.frames, info.rate) + ", the session knows " + text(known.frames, known.rate);
}

MediumFact factOf(const Session& session, const Medium& medium, MediaCache& cache, const JobControl* job) {
  MediumFact fact;
  fact.file = session.folder() / medium.file;
  const auto without = [&](MediumFact::State state, const std::string& why) {
    fact.state = state;
    fact.problem = medium.file + ": " + why;
    return fact;
  };
  if (isStopped(job)) return without(MediumFact::State::Unreadable, kNotLookedAt);
  // Its content first: what is cut off is not worth opening.
  const auto content = cache.contentOf(fact.file, job);
  if (!content && content.error().code == ErrorCode::Cancelled)
    return without(MediumFact::State::Unreadable, kNotLookedAt);
  if (content && isLoss(content->flaw))
    return without(MediumFact::State::Unreadable, flawText(content->flaw));
  const auto sound = SoundFile::open(fact.file);
  if (!content || !sound) {
    const Error& error = !sound ? sound.error() : content.error();
    const bool isMissing = error.code == ErrorCode::MediumMissing || error.code == ErrorCode::NotFound;
    return without(isMissing ? MediumFact::State::Missing : MediumFact::State::Unreadable,
                   error.text.empty() ? std::string(errorText(error.code)) : error.text);
  }
  if (sound->identity() != content->identity)
    return without(MediumFact::State::Unreadable, "it changes while it is read");
  fact.state = MediumFact::State::Ready;
  fact.flaw = content->flaw;
  fact.identity = content->identity;
  fact.info = sound->info();
  fact.content = content->digest;
  fact.needsCache = fact.info.rate != session.rate || fact.info.isLossy;
  fact.frames = atRate(fact.info.frames, fact.info.rate, session.rate);
  // Decoders measure the same MP3 a little differently.
  const Frame slack = fact.info.isEstimated ? medium.frames / 50 + 2304 : 0;
  const bool hasLength = medium.frames == 0 || std::abs(fact.info.frames - medium.frames) <= slack;
  const bool hasRate = medium.rate == 0 || fact.info.rate == medium.rate;
  if (hasLength && hasRate) return fact;
  return without(MediumFact::State::Different, differenceText(fact.info, medium));
}

}  // namespace

std::shared_ptr<const MediaFacts> gatherFacts(const Session& session, MediaCache& cache, JobControl* job) {
  std::vector<MediumFact> facts(session.media.size());
  expectParts(job, facts.size());
  tbb::parallel_for(std::size_t{0}, facts.size(), [&](std::size_t i) {
    facts[i] = factOf(session, session.media[i], cache, job);
    finishPart(job);
  });
  auto result = std::make_shared<MediaFacts>();
  for (std::size_t i = 0; i < facts.size(); ++i) result->set(session.media[i].id, std::move(facts[i]));
  cache.saveContents();
  writeLog(LogLevel::Note, "looked at " + counted(session.media.size(), "sound file"));
  return result;
}

}  // namespace octaphon
