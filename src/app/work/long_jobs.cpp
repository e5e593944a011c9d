#include "app/work/long_jobs.h"

#include <algorithm>

namespace octaphon::app {

constexpr int kMostAtOnce = 4;  // they wait for disks more than they work

LongJobs::LongJobs(News& news, QObject* parent) : QObject(parent), news_(news) {
  pool_.setMaxThreadCount(kMostAtOnce);
}

LongJobs::~LongJobs() {
  for (const Job& job : jobs_)
    if (job.kind != Kind::Saving) job.stop();  // what is being saved is not given up
  pool_.waitForDone();
}

bool LongJobs::isBusy(Kind kind) const {
  return std::any_of(jobs_.begin(), jobs_.end(), [&](const Job& job) { return job.kind == kind; });
}

bool LongJobs::mayStart(Kind kind) {
  if (kind == Kind::Other) return true;
  for (const Job& job : jobs_) {
    if (job.kind != kind) continue;
    news_.tell(tr("%1 still goes on. Stop it, or wait for it").arg(job.words));
    return false;
  }
  return true;
}

quint64 LongJobs::add(Kind kind, const QString& words, std::function<double()> portion,
                      std::function<void()> stop) {
  jobs_.push_back({++last_, kind, words, std::move(portion), std::move(stop)});
  emit changed();
  return last_;
}

quint64 LongJobs::add(Kind kind, const QString& words, const std::shared_ptr<JobControl>& control) {
  return add(
      kind, words, [control] { return control->portion(); }, [control] { control->isStopped = true; });
}

quint64 LongJobs::show(const QString& words, std::function<double()> portion, std::function<void()> stop) {
  return add(Kind::Other, words, std::move(portion), std::move(stop));
}

quint64 LongJobs::show(const QString& words, const std::shared_ptr<JobControl>& control) {
  return add(Kind::Other, words, control);
}

void LongJobs::end(quint64 id) {
  if (std::erase_if(jobs_, [&](const Job& job) { return job.id == id; }) > 0) emit changed();
}

void LongJobs::stop(quint64 id) {
  const auto job = std::find_if(jobs_.begin(), jobs_.end(), [&](const Job& one) { return one.id == id; });
  if (job == jobs_.end()) return;
  const auto act = job->stop;  // it may go meanwhile
  act();
}

void LongJobs::stopAll() {
  std::vector<quint64> ids;
  for (const Job& job : jobs_) ids.push_back(job.id);
  for (const quint64 id : ids) stop(id);
}

}  // namespace octaphon::app
