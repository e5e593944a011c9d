#include "check/read_behind.h"

#include <new>

#include "base/unicode.h"
#include "check/file_levels.h"
#include "check/opened_sound.h"

namespace octaphon {

void holdOpen(FileChange& change, std::shared_ptr<FileHandle> before) {
  if (const auto levels = levelsOf(pathOf(before->get()), {false, true})) change.levelsBefore = *levels;
  change.replaced = std::move(before);
}

std::string changeText(const FileChange& change) {
  std::string text = change.before.empty() ? std::string() : "was " + printable(change.before, 400) + "; ";
  if (change.isSameBytes || !change.difference) return text + "is the same";
  if (change.difference->isNone()) return text + "sounds the same, its bytes are others";
  return text + differenceText(*change.difference);
}

ReadBehind::ReadBehind(std::size_t mostHeld) : mostHeld_(mostHeld), thread_([this] { work(); }) {}

ReadBehind::~ReadBehind() {
  job_.isStopped = true;
  finish();
}

void ReadBehind::take(WrittenFile file) {
  expectParts(&job_, 1);
  {
    const std::scoped_lock lock(mutex_);
    files_.push(std::move(file));
  }
  wake_.notify_one();
}

ReadBehind::Outcome ReadBehind::finish(JobControl* waiter) {
  expectParts(waiter, waiting());
  waiter_ = waiter;
  {
    const std::scoped_lock lock(mutex_);
    isEnding_ = true;
  }
  wake_.notify_one();
  if (thread_.joinable()) thread_.join();
  waiter_ = nullptr;
  Outcome outcome;
  for (auto& [base, reads] : kept_) outcome.reads.emplace(base, std::move(reads));
  outcome.changes = std::move(changes_);
  outcome.notCompared = notCompared_;
  kept_.clear();
  return outcome;
}

void ReadBehind::work() {
  std::unique_lock lock(mutex_);
  while (true) {
    wake_.wait(lock, [this] { return isEnding_ || !files_.empty(); });
    if (files_.empty()) return;
    WrittenFile file = std::move(files_.front());
    files_.pop();
    lock.unlock();
    if (!isToStop()) {
      try {
        read(file);
        compare(file);
      } catch (const std::bad_alloc&) {  // whoever checks it reads it, and says so
      }
    }
    finishPart(&job_);
    finishPart(waiter_);
    lock.lock();
  }
}

const SafeFolder* ReadBehind::folderOf(const FolderPath& base) {
  const auto [found, isNew] = folders_.try_emplace(base);
  if (isNew)
    if (auto folder = SafeFolder::open(base, false)) found->second = std::move(*folder);
  return found->second ? &*found->second : nullptr;
}

void ReadBehind::read(WrittenFile& file) {
  std::shared_ptr<ReadBacks>& kept = kept_[file.base];
  if (!kept) kept = std::make_shared<ReadBacks>();
  kept->expect(file.file);
  if (const SafeFolder* folder = folderOf(file.base))
    kept->read(*folder, file.file, file.asked, {&job_, waiter_});
}

void ReadBehind::compare(WrittenFile& file) {
  if (file.hasReplaced && !file.replaced) ++notCompared_;
  if (!file.replaced && (file.before.empty() || file.hasReplaced)) return;
  FileChange change{file.base, file.file, file.row, file.before};
  const SafeFolder* folder = folderOf(file.base);
  if (file.replaced && folder != nullptr) {
    const auto now = folder->openFile(file.file);
    if (!now) return;
    change.isSameBytes = haveSameBytes(now->get(), file.replaced->get(), file.file).value_or(false);
    if (!change.isSameBytes) {
      auto difference =
          differenceOf(now->get(), file.file, file.replaced->get(), file.file, {&job_, waiter_});
      if (!difference) return;  // what was replaced could not be read
      change.difference = *difference;
      if (!difference->isNone() && held_ < mostHeld_) {
        holdOpen(change, file.replaced);
        ++held_;
      }
    }
  }
  changes_.push_back(std::move(change));
}

}  // namespace octaphon
