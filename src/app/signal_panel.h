// The way of a source to main: its line, what the chosen stage does, its sends, and the curves that move it.
#pragma once

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QTableWidget>
#include <QTimer>
#include <QVBoxLayout>

#include "document.h"
#include "run/worker_passes.h"
#include "selection.h"
#include "signal_line.h"

namespace octaphon::app {

class SignalPanel : public QWidget {
  Q_OBJECT
 public:
  SignalPanel(Document& document, Selected& selected, QWidget* parent = nullptr);
  ~SignalPanel() override;

  /// The brief whose reach is drawn; an index beyond the session's briefs: none.
  void setBrief(std::size_t brief);
  /// What the selected row of the sheet is taken from, where no track is selected.
  void setSource(const QString& track);
  void setPlugins(std::shared_ptr<const PluginCatalogue> plugins);
  void setPlayhead(Frame frame) { playhead_ = frame; }

  SignalLine& line() { return *line_; }
  /// Where inserts are put and curves drawn: id of a track, or `main`.
  std::string place() const;
  QString curveTarget() const;
  /// Puts an effect behind the current station.
  void addEffect(const QString& effect);

 signals:
  void curveShown(const QString& place, const QString& target);  ///< empty: none
  void problem(const QString& words);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void reload();
  void stationChanged();
  void buildInsert(const std::string& id);
  void buildFader();
  void addPresets(QWidget* page, class QGridLayout* grid, const std::string& id, const EffectInfo& info);
  void addParameter(QWidget* page, class QGridLayout* grid, int index, const Insert& insert, const ParameterInfo& info);
  void addSendRows(QVBoxLayout* layout);
  void fillTargets();
  void fillPoints();
  void editPoint(int row, int column);
  void openSearch();
  int strip() const;
  const Clip* clip() const;        // the one that is selected alone, where no track is
  std::string chainPlace() const;  // where an effect would be put
  std::string insertId() const;
  void edit(const QString& words, const Document::Change& change, const QString& merge = {});
  QWidget* freshPage();

  Document& document_;
  Selected& selected_;
  SignalLine* line_;
  QScrollArea* lineArea_;
  QScrollArea* pageArea_;
  QLabel* title_;
  QPushButton *add_, *remove_, *onOff_;
  QComboBox* target_;
  QTableWidget* points_;
  QPushButton *addPoint_, *removePoint_;
  QTimer timer_;
  std::size_t brief_ = 0;
  QString source_;
  std::shared_ptr<const PluginCatalogue> plugins_;
  std::vector<InstalledPlugin> installed_;
  bool installedKnown_ = false;
  Frame playhead_ = 0;
  std::string built_;  // what the page shows, so that typing does not build it anew
  std::vector<std::function<void()>> refreshers_;
  bool loading_ = false;
};

}  // namespace octaphon::app
