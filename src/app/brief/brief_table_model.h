// Briefs as a table: briefs down, phrases across.
#pragma once

#include <QAbstractTableModel>
#include <vector>

#include "app/work/work.h"
#include "brief/phrase.h"
#include "plan/sentence.h"

namespace octaphon::app {

class BriefTableModel : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Fixed { On, Files, kFixed };  ///< columns before the phrases

  BriefTableModel(Work& work, QObject* parent);

  /// While it is not looked at, it follows nothing.
  void setLive(bool on);
  /// Of a column; Plain: it is none.
  PhraseKind phraseOf(int column) const;
  std::string briefOf(int row) const;  ///< id

  int rowCount(const QModelIndex& parent = {}) const override;
  int columnCount(const QModelIndex& parent = {}) const override;
  QVariant data(const QModelIndex& index, int role) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;

 private:
  void reload();
  const Phrase* phraseAt(const QModelIndex& index) const;

  Work& work_;
  bool isLive_ = false;
  std::vector<std::vector<Phrase>> sentences_;  // by brief
};

}  // namespace octaphon::app
