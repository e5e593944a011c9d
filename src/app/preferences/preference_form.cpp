#include "app/preferences/preference_form.h"

#include <QLabel>

#include "app/look/theme.h"

namespace octaphon::app {

PreferenceForm::PreferenceForm(QWidget* parent) : QWidget(parent), grid_(new QGridLayout(this)) {
  setObjectName("pane");
  grid_->setContentsMargins(24, 10, 24, 20);
  grid_->setHorizontalSpacing(18);
  grid_->setVerticalSpacing(2);
  grid_->setColumnStretch(1, 1);
}

void PreferenceForm::addHeading(const QString& words) {
  auto* heading = new QLabel(words.toUpper(), this);
  heading->setFont(Theme::heading());
  heading->setContentsMargins(0, 14, 0, 4);
  grid_->addWidget(heading, grid_->rowCount(), 0, 1, 2);
}

void PreferenceForm::add(const QString& title, QWidget* control, const QString& about) {
  auto* name = new QLabel(title, this);
  name->setContentsMargins(0, 5, 0, 0);
  name->setBuddy(control);
  auto* words = new QLabel(about, this);
  words->setObjectName("second");
  words->setFont(Theme::caption());
  words->setWordWrap(true);
  words->setContentsMargins(0, 0, 0, 8);
  if (control->accessibleName().isEmpty()) control->setAccessibleName(title);
  control->setAccessibleDescription(about);
  const int row = grid_->rowCount();
  grid_->addWidget(name, row, 0, Qt::AlignTop);
  grid_->addWidget(control, row, 1);
  grid_->addWidget(words, row + 1, 1);
}

}  // namespace octaphon::app
