#include "app/work/overview_store.h"

namespace octaphon::app {

OverviewStore::OverviewStore(MediaCache& cache, QObject* parent) : QObject(parent), cache_(cache) {
  pool_.setMaxThreadCount(1);
}

OverviewStore::~OverviewStore() {
  ending_ = true;
  pool_.clear();
  pool_.waitForDone();
}

void OverviewStore::load(const Session& session, const std::shared_ptr<const MediaFacts>& facts) {
  pool_.clear();
  wanted_.clear();
  for (const Medium& medium : session.media) {
    const MediumFact* fact = facts->find(medium.id);
    if (fact == nullptr || fact->state != MediumFact::State::Ready) continue;
    wanted_[medium.id] = fact->content;
    const std::string key = fact->content.hex();
    if (ready_.contains(key)) continue;
    pool_.start([this, file = fact->file, content = fact->content, key] {
      const auto overview = overviewOf(file, content, cache_, &ending_);
      if (!overview) return;
      QMetaObject::invokeMethod(
          this,
          [this, key, found = *overview] {
            ready_[key] = found;
            emit changed();
          },
          Qt::QueuedConnection);
    });
  }
  emit changed();
}

const Overview* OverviewStore::find(const std::string& medium) const {
  const auto content = wanted_.find(medium);
  if (content == wanted_.end()) return nullptr;
  const auto overview = ready_.find(content->second.hex());
  return overview == ready_.end() ? nullptr : overview->second.get();
}

}  // namespace octaphon::app
