// Files that are written for other programs: whole or not at all, beside the interface thread.
#pragma once

#include <functional>
#include <QString>
#include <string>

#include "app/work/long_jobs.h"
#include "app/work/news.h"

namespace octaphon::app {

/// `content` is asked on another thread. News are `said`, or what is wrong.
void writeFile(LongJobs& jobs, News& news, const QString& file, std::function<std::string()> content,
               const QString& said);

}  // namespace octaphon::app
