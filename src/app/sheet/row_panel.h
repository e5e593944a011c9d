// What the selected rows have of their own: name, channels, format, ends, loop.
#pragma once

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>

#include "app/commands/commands.h"
#include "app/controls/field_controls.h"
#include "brief/row_exception.h"

namespace octaphon::app {

class RowPanel : public QScrollArea {
  Q_OBJECT
 public:
  RowPanel(Work& work, Commands& commands, QWidget* parent = nullptr);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void layOut(Commands& commands);
  QWidget* fileFields(Commands& commands);
  QComboBox* addCombo(QVBoxLayout* layout, const QString& label, const QStringList& items);
  template <class Own>
  QWidget* ownFields(const QString& title, Own RowException::*member,
                     const std::vector<EditableField<Own>>& fields, std::unique_ptr<FieldControls>& controls);
  void reload();
  void change(const QString& words, const std::function<void(RowException&)>& change,
              const QString& property = {});

  Work& work_;
  std::vector<std::string> keys_;
  RowException now_;  // of the current row
  bool isLoading_ = false;
  QWidget* body_;
  QLabel* words_;
  QLineEdit* name_ = nullptr;
  QComboBox* channels_ = nullptr;
  QComboBox* encoding_ = nullptr;
  QComboBox* rate_ = nullptr;
  std::unique_ptr<FieldControls> ends_, loop_;
};

}  // namespace octaphon::app
