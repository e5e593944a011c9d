#include "app/work/file_looker.h"

namespace octaphon::app {

FileLooker::FileLooker(QObject* parent)
    : QObject(parent),
      pictures_([this] { return question<FilePicture>(pictureOf); }, [this] { emit changed(); }),
      spectra_([this] { return question<Spectrogram>(spectrogramOf); }, [this] { emit changed(); }) {}

template <class Answer>
std::optional<typename Asker<Answer>::Work> FileLooker::question(
    Result<Answer> (*look)(int fd, const std::string& place, const std::atomic<bool>& cancel)) const {
  if (file_.empty()) return std::nullopt;
  return [base = base_, file = file_, look](const std::atomic<bool>& cancel) -> Result<Answer> {
    OCTAPHON_ASSIGN(const SafeFolder folder, SafeFolder::open(base, false));
    OCTAPHON_ASSIGN(const FileHandle handle, folder.openFile(file));
    return look(handle.get(), file, cancel);
  };
}

void FileLooker::lookAt(const FolderPath& base, const std::string& file) {
  if (base_ == base && file_ == file) return;
  base_ = base;
  file_ = file;
  lookAgain();
}

void FileLooker::lookAgain() {
  pictures_.ask();
  spectra_.ask();
}

void FileLooker::setWanted(bool wanted, bool frequencies) {
  pictures_.setWanted(wanted);
  spectra_.setWanted(wanted && frequencies);
}

}  // namespace octaphon::app
