// What one listens to: the session or some of its tracks, a region, a variation, a row of the sheet.
#pragma once

#include <QObject>
#include <string>
#include <vector>

#include "app/work/document.h"
#include "app/work/level_finder.h"
#include "app/work/news.h"
#include "app/work/row_choice.h"
#include "app/work/selection.h"
#include "app/work/sheet_keeper.h"
#include "app/work/transport.h"

namespace octaphon::app {

class Listener : public QObject {
  Q_OBJECT
 public:
  Listener(Document& document, SheetKeeper& sheets, Selected& selected, RowChoice& rows, Transport& transport,
           LevelFinder& levels, News& news, QObject* parent = nullptr);

  /// Plays from the playhead on, or stops. While looping, a stretch of time that is selected is played.
  void toggle();
  /// Stops, also what is being measured before it is heard.
  void stop();
  /// The region that is selected first.
  void playRegion();
  /// One of the regions of the same name but for the number, at random, none of the last three; gives its id.
  std::string nextVariation();
  /// The current row as it will be written, its file, or their difference: at the same place where one of
  /// them plays already. Waits for the sheet where it is being planned, and for its level where that is not
  /// known.
  void playRow(Listening::Of of);
  /// The same of any row, from a frame of the session on that lies in it.
  void playRow(Listening::Of of, const std::string& key, Frame from);
  /// What the row's file was before, from there on, with its levels as far as they are known.
  void playBefore(const std::shared_ptr<const FileHandle>& before, const std::string& key, Frame from,
                  const Levels& levels);
  /// Whether rows are heard as loud as the first one that is played from now on, to be compared.
  void compareEquallyLoud(bool on);
  /// Hears how loud the rows that are selected are.
  void measureRows();
  /// Puts the playhead there; what was playing goes on from there.
  void moveTo(Frame frame);
  /// Puts the playhead to the start of a span; what was playing goes on with that span.
  void goOnAt(const TimeSpan& span);

  /// Whether just the tracks that are selected are heard; nothing else that is selected changes what is
  /// heard.
  void hearSelectedOnly(bool on);
  bool hearsSelectedOnly() const { return hearsOnly_; }
  const std::vector<std::string>& only() const { return only_; }

 signals:
  void onlyChanged();

 private:
  void play(Frame to, Listening listening);
  void playRow(Listening::Of of, const std::string& key, std::optional<Frame> from, bool mayMeasure);
  double compareDb(const Levels& levels, Listening::Of of);
  Listening sessionListening() const;
  void followTracks();
  void forgetLostTracks();
  void setOnly(std::vector<std::string> tracks);

  Document& document_;
  SheetKeeper& sheets_;
  Selected& selected_;
  RowChoice& rows_;
  Transport& transport_;
  LevelFinder& levels_;
  News& news_;
  bool hearsOnly_ = false;
  bool playsRow_ = false;
  bool comparesEquallyLoud_ = false;
  bool waitsForLevel_ = false;       // a row that will be played
  std::optional<double> reference_;  // LUFS, of the first row that is compared
  std::vector<std::string> only_;    // heard alone; sorted
  std::vector<std::string> recentVariations_;
};

}  // namespace octaphon::app
