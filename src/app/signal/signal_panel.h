// The way of a source to main: its line, what the chosen stage does, its sends, and the curves that move it.
#pragma once

#include <QPushButton>
#include <QScrollArea>
#include <QTimer>

#include "app/look/elided_label.h"
#include "app/signal/curve_table.h"
#include "app/signal/signal_line.h"
#include "app/signal/stage_page.h"
#include "app/work/work.h"
#include "run/worker_passes.h"

namespace octaphon::app {

class SignalPanel : public QWidget {
  Q_OBJECT
 public:
  explicit SignalPanel(Work& work, QWidget* parent = nullptr);
  ~SignalPanel() override;

  SignalLine& line() { return *line_; }
  /// Where inserts are put and curves drawn: id of a track, or `main`.
  std::string place() const;
  /// Puts an effect behind the current station.
  void addEffect(const QString& effect);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void makeControls();
  void layOut();
  void connectControls();
  void reload();
  void stationChanged();
  void openSearch();
  void showSearch();
  void followRow();
  void followPlugins();
  Strip strip() const;
  const Clip* clip() const;        // the one that is selected alone, where no track is
  std::string chainPlace() const;  // where an effect would be put
  std::string insertId() const;
  void edit(const QString& words, const Document::Change& change, const QString& merge = {});

  Work& work_;
  Document& document_;
  Selected& selected_;
  SignalLine* line_;
  QScrollArea* lineArea_;
  QScrollArea* pageArea_;
  ElidedLabel* title_;
  QPushButton *add_, *remove_, *onOff_;
  CurveTable* curves_;
  StagePage* page_ = nullptr;  // owned by its area
  QTimer timer_;
  QString source_;
  std::shared_ptr<const PluginCatalogue> plugins_;
  std::vector<InstalledPlugin> installed_;
  bool installedKnown_ = false;
  std::string built_;  // what the page shows, so that typing does not build it anew
};

}  // namespace octaphon::app
