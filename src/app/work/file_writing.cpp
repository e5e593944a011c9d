#include "app/work/file_writing.h"

#include <QFileInfo>

#include "base/pending_file.h"

namespace octaphon::app {

void writeFile(LongJobs& jobs, News& news, const QString& file, std::function<std::string()> content,
               const QString& said) {
  jobs.start<Result<>>(
      LongJobs::Kind::Other, LongJobs::tr("Writing %1").arg(QFileInfo(file).fileName()),
      [path = file.toStdString(), content = std::move(content)](JobControl& job) -> Result<> {
        const std::string bytes = content();
        if (job.isStopped) return fail(ErrorCode::Cancelled, path, "it was stopped");
        return replaceFile(path, bytes);
      },
      [&news, said](const Result<>& written) {
        if (written)
          news.say(said);
        else
          news.tellWhy(written.error());
      });
}

}  // namespace octaphon::app
