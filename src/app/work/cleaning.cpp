#include "app/work/cleaning.h"

#include "run/clean_folder.h"

namespace octaphon::app {

Cleaning::~Cleaning() {
  if (thread_.joinable()) thread_.join();
}

void Cleaning::toTrash(std::vector<SheetFolder> folders) {
  if (isRunning()) return;
  thread_ = std::thread([this, folders = std::move(folders)] {
    std::size_t moved = 0;
    QStringList problems;
    for (const SheetFolder& folder : folders)
      cleanFolder(folder, CleanWay::Trash, [&](const std::string& file, const Result<>& outcome) {
        if (outcome)
          ++moved;
        else
          problems << QString::fromStdString(file + ": " + outcome.error().describe());
      });
    QMetaObject::invokeMethod(
        this,
        [this, moved, problems] {
          thread_.join();
          emit finished(moved, problems);
        },
        Qt::QueuedConnection);
  });
  emit started();
}

}  // namespace octaphon::app
