// Regions and clip sets out of a selection, in one act: how they would lie is shown before they are made.
#pragma once

#include <atomic>
#include <QAbstractSpinBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QThreadPool>
#include <QTimer>
#include <QWidget>

#include "app/work/work.h"
#include "edit/spans.h"

namespace octaphon::app {

class MarkPanel : public QWidget {
  Q_OBJECT
 public:
  explicit MarkPanel(Work& work, QWidget* parent = nullptr);
  ~MarkPanel() override;

  const std::vector<SpanProposal>& proposals() const { return proposals_; }
  bool isListening() const { return listening_; }
  /// Takes what is shown; gives how many were made.
  std::size_t makeRegions();
  std::size_t makeClipSets();

 protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

 private:
  void makeControls();
  void makeOutcome();
  void layOut();
  void connectControls();
  using Maker = std::function<std::vector<std::string>(Session&, const std::vector<SpanProposal>&)>;
  std::size_t make(Thing thing, const Maker& maker);
  void refresh();
  void listen();
  void show(std::vector<SpanProposal> proposals);
  SpanRequest request() const;
  bool bySilence() const;

  Work& work_;
  Document& document_;
  Selected& selected_;
  QComboBox* rule_;
  QComboBox* names_;
  QComboBox* markers_;
  QDoubleSpinBox* gap_;
  QDoubleSpinBox* threshold_;
  QDoubleSpinBox* silence_;
  QLineEdit* name_;
  QLabel* words_;
  QLabel* list_;
  QPushButton* regions_;
  QPushButton* sets_;
  QLabel *gapText_, *thresholdText_, *silenceText_;
  QTimer timer_;
  QThreadPool pool_;
  std::atomic<unsigned> wanted_{0};
  std::atomic<bool> cancel_{false};
  bool listening_ = false;
  std::vector<SpanProposal> proposals_;
};

}  // namespace octaphon::app
