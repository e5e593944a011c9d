#include "app/window/panel_list.h"

#include "app/brief/brief_table.h"
#include "app/brief/briefs_panel.h"
#include "app/delivery/folder_panel.h"
#include "app/delivery/proof_panel.h"
#include "app/delivery/tail_panel.h"
#include "app/outline/outline_view.h"
#include "app/prepare/checks_panel.h"
#include "app/prepare/details_panel.h"
#include "app/prepare/facts_panel.h"
#include "app/prepare/mark_panel.h"
#include "app/prepare/names_panel.h"
#include "app/seam/seam_panel.h"
#include "app/sheet/data_panel.h"
#include "app/sheet/remarks_panel.h"
#include "app/sheet/row_panel.h"
#include "app/sheet/sheet_view.h"
#include "app/signal/signal_panel.h"

namespace octaphon::app {

std::vector<Panel> panelsOf(Work& work, Commands& commands, BringInFlow& bringIn) {
  constexpr auto kLeft = Qt::LeftDockWidgetArea, kRight = Qt::RightDockWidgetArea,
                 kBelow = Qt::BottomDockWidgetArea;
  constexpr QSize kLower{320, 120};
  return {
      {"regions",
       QObject::tr("&Regions"),
       QObject::tr("Regions and clip sets by their paths"),
       kLeft,
       Qt::Key_9,
       {150, 120},
       [&](QWidget* parent) { return new OutlineView(work, commands, parent); },
       [](QWidget* content) { return static_cast<OutlineView*>(content)->countLabel(); }},
      {"briefs",
       QObject::tr("&Briefs"),
       QObject::tr("What is printed, as a sentence"),
       kRight,
       Qt::Key_8,
       {300, 160},
       [&](QWidget* parent) { return new BriefsPanel(work, commands, parent); },
       [](QWidget* content) { return static_cast<BriefsPanel*>(content)->tools(); }},
      {"sheet", QObject::tr("Shee&t"), QObject::tr("Every file that the ticked briefs ask for"), kBelow,
       Qt::Key_1, kLower, [&](QWidget* parent) { return new SheetView(work, commands, parent); }},
      {"remarks", QObject::tr("Remar&ks"), QObject::tr("What was noticed, by cause; accepted or cured"),
       kBelow, 0, kLower, [&](QWidget* parent) { return new RemarksPanel(work, commands, parent); }},
      {"row", QObject::tr("R&ow"), QObject::tr("What the selected rows have of their own"), kBelow, 0, kLower,
       [&](QWidget* parent) { return new RowPanel(work, commands, parent); }},
      {"data", QObject::tr("Data"), QObject::tr("What the file of the selected row says of itself"), kBelow,
       0, kLower, [&](QWidget* parent) { return new DataPanel(work, parent); }},
      {"table", QObject::tr("T&able"), QObject::tr("Briefs down, phrases across"), kBelow, 0, kLower,
       [&](QWidget* parent) { return new BriefTable(work, commands, parent); }},
      {"mark", QObject::tr("&Mark"), QObject::tr("Regions and clip sets out of the selection"), kBelow,
       Qt::Key_2, kLower, [&](QWidget* parent) { return new MarkPanel(work, parent); }},
      {"names", QObject::tr("&Names"), QObject::tr("Names as a table; many renamed at once"), kBelow,
       Qt::Key_3, kLower, [&](QWidget* parent) { return new NamesPanel(work, parent); }},
      {"details", QObject::tr("&Details"), QObject::tr("What the selected things have"), kBelow, Qt::Key_4,
       kLower, [&](QWidget* parent) { return new DetailsPanel(work, parent); }},
      {"facts", QObject::tr("&Facts"), QObject::tr("Facts of regions, chosen from a vocabulary"), kBelow, 0,
       kLower, [&](QWidget* parent) { return new FactsPanel(work, parent); }},
      {"check", QObject::tr("&Check"), QObject::tr("What would go wrong later"), kBelow, Qt::Key_5, kLower,
       [&](QWidget* parent) {
         auto* panel = new ChecksPanel(work, parent);
         QObject::connect(panel, &ChecksPanel::mediaWanted, &bringIn, &BringInFlow::findMissing);
         return panel;
       }},
      {"signal", QObject::tr("S&ignal"),
       QObject::tr("A source's way to main: effects, sends, faders, curves"), kBelow, Qt::Key_6, kLower,
       [&](QWidget* parent) { return new SignalPanel(work, parent); }},
      {"proof", QObject::tr("&Proof"), QObject::tr("What was measured while files were made"), kBelow,
       Qt::Key_7, kLower, [&](QWidget* parent) { return new ProofPanel(work, commands, parent); }},
      {"folder", QObject::tr("&Folder"),
       QObject::tr("What a run does to the folders, and what else is there"), kBelow, 0, kLower,
       [&](QWidget* parent) { return new FolderPanel(work, commands, parent); }},
      {"ends", QObject::tr("&Ends"), QObject::tr("How the selected row ends: its level over the tail"),
       kBelow, 0, kLower, [&](QWidget* parent) { return new TailPanel(work, parent); }},
      {"seam", QObject::tr("Sea&m"), QObject::tr("How the selected region's end meets its beginning"), kBelow,
       0, kLower, [&](QWidget* parent) { return new SeamPanel(work, parent); }}};
}

}  // namespace octaphon::app
