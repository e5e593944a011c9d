// A page of the signal view: the controls of one stage. It is built once for its stage; refresh() puts the
// values of now into it.
#pragma once

#include <functional>
#include <QDoubleSpinBox>
#include <QVBoxLayout>
#include <QWidget>
#include <vector>

#include "app/look/flow_layout.h"
#include "app/work/document.h"
#include "routing/effect_info.h"

namespace octaphon::app {

class StagePage : public QWidget {
  Q_OBJECT
 public:
  StagePage(Document& document, QWidget* parent);
  void refresh();

 signals:
  void problem(const QString& words);

 protected:
  const Session& session() const { return *document_.session(); }
  /// Nothing while values are being put in.
  void edit(const QString& words, const Document::Change& change, const QString& merge = {});
  void onRefresh(std::function<void()> put) { refreshers_.push_back(std::move(put)); }
  QDoubleSpinBox* number(const QString& name, double least, double most, int decimals, const QString& unit);
  /// A name and its field among others, in columns as there is room.
  void addCell(const QString& name, QWidget* field);
  /// The same, without a name before it.
  void addCell(QWidget* field);

  QVBoxLayout* layout_;
  FlowLayout* cells_;

 private:
  Document& document_;
  QWidget* room_;
  std::vector<std::function<void()>> refreshers_;
  bool isLoading_ = false;
};

/// What a send feeds, by its name on screen: a return, or the key input of an insert.
QString sendTargetName(const Session& session, const std::string& id);

/// Tags, presets and parameters of an insert.
StagePage* makeInsertPage(Document& document, const std::string& insert, const PluginCatalogue* plugins,
                          QWidget* parent);

/// Fader, pan, switches and sends of a track, or the fader of main. `place` is a track's id, or `main`.
StagePage* makeStripPage(Document& document, const std::string& place, const PluginCatalogue* plugins,
                         QWidget* parent);

}  // namespace octaphon::app
