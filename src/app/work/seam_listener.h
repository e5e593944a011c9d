// The join of a loop that is looked at: of the selected region as it sounds in the mix, or of the file of the
// current row. Listened to in the background, for those who show it; the place may be moved without changing
// the session.
#pragma once

#include <QObject>
#include <string>
#include <vector>

#include "app/work/asker.h"
#include "app/work/document.h"
#include "app/work/row_choice.h"
#include "app/work/selection.h"
#include "loop/heard_loop.h"
#include "run/plugin_passes.h"

namespace octaphon::app {

/// How late a variation begins against its downbeat.
struct VariationOnset {
  std::string name;
  std::optional<double> ms;  ///< under 0: early; nothing where nothing begins there
};

struct HeardSeam : FoundSeam {
  std::vector<VariationOnset> variations;  ///< of a region: it and those of its name, in their order
  bool overlaps = false;                   ///< a file's laps sound into each other: one is heard, whole
};

class SeamListener : public QObject {
  Q_OBJECT
 public:
  enum class Of { Mix, File };
  SeamListener(SheetKeeper& sheets, Selected& selected, RowChoice& rows, MediaCache& cache,
               PluginPasses& passes, QObject* parent = nullptr);

  /// Only while someone shows what is found.
  void setWanted(bool wanted) { asker_.setWanted(wanted); }
  void setOf(Of of);
  /// The mix where the current row has no file.
  Of of() const { return hasFile() ? wanted_ : Of::Mix; }
  bool hasFile() const { return fileRow().has_value(); }
  /// The current row, where it has a file.
  std::optional<std::size_t> fileRow() const;
  /// To either side, that better places are looked for within.
  double searchMs() const { return searchMs_; }
  void setSearchMs(double searchMs);

  /// With better places nearby; null while it is not known.
  std::shared_ptr<const HeardSeam> found() const { return asker_.answer(); }
  /// Why it is not; empty where that is not so.
  const QString& problem() const { return asker_.problem(); }
  /// What it is of: the region's id, or the file's name.
  const std::string& subject() const { return subject_; }

  /// The place that is looked at; that of the region or file, until it is moved. In frames of the session, or
  /// of the file.
  LoopPlace place() const { return place_; }
  /// As far as what is held allows; what is known of its join comes later.
  void lookAt(LoopPlace place);
  /// Of the place that is looked at; null while it is not known.
  const Seam* seam() const;

 signals:
  void changed();
  void looked();  ///< another place, or what is known of it

 private:
  std::optional<Asker<HeardSeam>::Work> question();
  std::optional<Asker<HeardSeam>::Work> ofRegion();
  std::optional<Asker<HeardSeam>::Work> ofFile(std::size_t row);
  std::optional<Asker<Seam>::Work> placeQuestion() const;
  void takeAnswer();

  SheetKeeper& sheets_;
  Selected& selected_;
  RowChoice& rows_;
  MediaCache& cache_;
  PluginPasses& passes_;
  Of wanted_ = Of::Mix;
  double searchMs_ = 20;
  std::string subject_, judged_;  // what is asked about, and what the answer before was of
  LoopPlace place_, judgedPlace_;
  Asker<HeardSeam> asker_;
  Asker<Seam> placeAsker_;
};

}  // namespace octaphon::app
