// Overviews of media for drawing, read or made in the background.
#pragma once

#include <atomic>
#include <memory>
#include <QObject>
#include <QThreadPool>
#include <unordered_map>

#include "media/media_facts.h"
#include "media/overview.h"

namespace octaphon::app {

class OverviewStore : public QObject {
  Q_OBJECT
 public:
  explicit OverviewStore(MediaCache& cache, QObject* parent = nullptr);
  ~OverviewStore() override;

  /// Starts on the media of a session; those already there are kept.
  void load(const Session& session, const std::shared_ptr<const MediaFacts>& facts);
  /// Null while there is none.
  const Overview* find(const std::string& medium) const;

 signals:
  void changed();

 private:
  MediaCache& cache_;
  QThreadPool pool_;
  std::atomic<bool> ending_{false};
  std::unordered_map<std::string, Digest> wanted_;                          // content by medium
  std::unordered_map<std::string, std::shared_ptr<const Overview>> ready_;  // by content
};

}  // namespace octaphon::app
