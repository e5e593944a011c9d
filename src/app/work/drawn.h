// How things are drawn, as rooms ask each other for: spans that could be made, a curve on its lane, time as
// timecode.
#pragma once

#include <QObject>
#include <string>
#include <vector>

#include "edit/spans.h"

namespace octaphon::app {

class Drawn : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;

  const std::vector<SpanProposal>& proposals() const { return proposals_; }
  void setProposals(std::vector<SpanProposal> proposals) {
    proposals_ = std::move(proposals);
    emit proposalsChanged();
  }

  /// A curve by its place (id of a track, or `main`) and target; empty: none.
  const std::string& curvePlace() const { return place_; }
  const std::string& curveTarget() const { return target_; }
  void setCurve(std::string place, std::string target) {
    place_ = std::move(place);
    target_ = std::move(target);
    emit curveChanged();
  }

  bool isTimecode() const { return timecode_; }
  void setTimecode(bool on) {
    timecode_ = on;
    emit timecodeChanged();
  }

 signals:
  void timecodeChanged();
  void proposalsChanged();
  void curveChanged();

 private:
  std::vector<SpanProposal> proposals_;
  std::string place_, target_;
  bool timecode_ = false;
};

}  // namespace octaphon::app
