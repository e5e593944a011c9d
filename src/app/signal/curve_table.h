// Which curve of a strip is shown on its lane, and its points as a table.
#pragma once

#include <QComboBox>
#include <QPushButton>
#include <QTableWidget>

#include "app/work/work.h"
#include "routing/effect_info.h"

namespace octaphon::app {

class CurveTable : public QWidget {
  Q_OBJECT
 public:
  explicit CurveTable(Work& work, QWidget* parent = nullptr);

  /// What can move at a place (id of a track, or `main`); the curve that is shown stays where it can.
  void setPlace(const std::string& place, std::shared_ptr<const PluginCatalogue> plugins);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  std::string target() const { return target_->currentData().toString().toStdString(); }
  const Automation* curve() const;
  void fillTargets();
  void addTarget(const QString& words, const std::string& target, double now);
  void fillPoints();
  void editPoint(int row, int column);
  void addPointHere();
  void takePointsOut();

  Work& work_;
  Document& document_;
  std::string place_;
  std::shared_ptr<const PluginCatalogue> plugins_;
  QComboBox* target_;
  QTableWidget* points_;
  QPushButton *addPoint_, *removePoint_;
};

}  // namespace octaphon::app
