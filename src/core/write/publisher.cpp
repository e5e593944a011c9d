#include "write/publisher.h"

#include <map>

namespace octaphon {

Publisher::Publisher(bool sync, std::size_t mostWaiting, Report report)
    : sync_(sync), report_(std::move(report)), mostWaiting_(mostWaiting), thread_([this] { work(); }) {}

Publisher::~Publisher() { finish(); }

void Publisher::publish(ReceiptJournal& journal, std::vector<FinishedFile> files,
                        std::vector<Measured> measured) {
  {
    std::unique_lock lock(mutex_);
    room_.wait(lock, [&] { return waiting_ == 0 || waiting_ + files.size() <= mostWaiting_; });
    waiting_ += files.size();
    batches_.push({&journal, std::move(files), std::move(measured)});
  }
  wake_.notify_one();
}

void Publisher::finish() {
  {
    const std::scoped_lock lock(mutex_);
    ending_ = true;
  }
  wake_.notify_one();
  if (thread_.joinable()) thread_.join();
}

void Publisher::work() {
  std::unique_lock lock(mutex_);
  while (true) {
    wake_.wait(lock, [this] { return ending_ || !batches_.empty(); });
    if (batches_.empty()) return;
    Batch batch = std::move(batches_.front());
    batches_.pop();
    lock.unlock();
    publishBatch(batch);
    const std::size_t done = batch.files.size();
    batch.files.clear();
    lock.lock();
    waiting_ -= done;
    room_.notify_all();
  }
}

void Publisher::publishBatch(Batch& batch) {
  std::vector<ReceiptLine> lines;
  std::vector<FinishedFile*> good;
  for (FinishedFile& file : batch.files) {
    const Result<> synced = sync_ ? file.file.sync() : Result<>{};
    if (!synced) {
      report_(file.row, synced, {});
      continue;
    }
    lines.push_back(file.line);
    good.push_back(&file);
  }
  const Result<> noted = batch.journal->append(lines, sync_, batch.measured);
  std::map<int, std::vector<FinishedFile*>> byFolder;
  for (FinishedFile* file : good) {
    if (file->holdsReplaced && noted) file->replaced = file->file.openReplaced();
    const Result<> named = noted ? file->file.publish(file->replace) : noted;
    if (named)
      byFolder[file->file.folder()->get()].push_back(file);
    else
      report_(file->row, named, {});
  }
  // A name counts when its folder is on the disk.
  for (const auto& [folder, files] : byFolder) {
    const Result<> kept = sync_ ? syncFolder(folder, files.front()->file.place()) : Result<>{};
    for (const FinishedFile* file : files) report_(file->row, kept, file->replaced);
  }
}

}  // namespace octaphon
