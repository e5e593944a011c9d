// Looks at a delivered file in the background, for those who show it: its wave and loudness, and where that
// is wanted its frequencies.
#pragma once

#include <QObject>

#include "app/work/asker.h"
#include "base/safe_folder.h"
#include "check/file_picture.h"

namespace octaphon::app {

class FileLooker : public QObject {
  Q_OBJECT
 public:
  explicit FileLooker(QObject* parent = nullptr);

  /// Relative to its base folder; an empty name: nothing is looked at.
  void lookAt(const FolderPath& base, const std::string& file);
  /// The same file may be another one by now.
  void lookAgain();
  /// Only while someone shows what is found; `frequencies`: those too.
  void setWanted(bool wanted, bool frequencies);

  const std::string& file() const { return file_; }
  /// Null while they are not known.
  std::shared_ptr<const FilePicture> picture() const { return pictures_.answer(); }
  std::shared_ptr<const Spectrogram> frequencies() const { return spectra_.answer(); }
  /// Why there are none; empty where that is not so.
  const QString& problem() const { return pictures_.problem(); }

 signals:
  void changed();

 private:
  template <class Answer>
  std::optional<typename Asker<Answer>::Work> question(
      Result<Answer> (*look)(int fd, const std::string& place, const std::atomic<bool>& cancel)) const;

  FolderPath base_;
  std::string file_;
  Asker<FilePicture> pictures_;
  Asker<Spectrogram> spectra_;
};

}  // namespace octaphon::app
