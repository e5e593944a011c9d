// One delivered file beside its findings: what is to be said of it, its picture, its figures against what was
// asked for, and how it sounds, at a spot.
#pragma once

#include <QButtonGroup>
#include <QLabel>
#include <QStackedWidget>
#include <QToolButton>
#include <QTreeWidget>
#include <QWidget>

#include "app/commands/commands.h"
#include "app/delivery/file_view.h"
#include "app/delivery/proof_lines.h"
#include "app/work/work.h"

namespace octaphon::app {

class ProofFile : public QWidget {
  Q_OBJECT
 public:
  ProofFile(Work& work, Commands& commands, QWidget* parent = nullptr);

  /// Null: nothing is chosen.
  void show(const ProofLine* line);

 protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

 private:
  enum class Page { Wave, Frequencies, Figures };
  QLayout* makePages();
  QLayout* makeHearing(Commands& commands);
  QToolButton* addHearing(QLayout* row, const QString& words, const QString& tip,
                          const std::function<void()>& hear);
  void setPage(Page page);
  void wantPicture();
  void showPicture();
  void showFigures();
  void placeSpot();
  void enableHearing();
  const CheckedFile* checkedFile() const;
  void hear(Listening::Of of);
  void hearBefore();
  /// Where the spot lies in the session; nothing where the row is none of the sheet's.
  std::optional<Frame> spotInSession() const;
  void openFolder() const;

  Work& work_;
  std::optional<ProofLine> line_;
  Page page_ = Page::Wave;
  bool isSpotPlaced_ = true;  // by what was found, or by hand
  QLabel* words_;
  QButtonGroup* pages_;
  QStackedWidget* stack_;
  FileView* picture_;
  QTreeWidget* figures_;
  QToolButton *file_, *session_, *difference_, *before_, *folder_;
};

}  // namespace octaphon::app
