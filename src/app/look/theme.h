// Colours by role and the type of the program. No widget names a colour itself, so that day and night are one
// switch.
#pragma once

#include <QColor>
#include <QFont>
#include <QObject>

namespace octaphon::app {

enum class Role {
  Paper,      ///< the window
  Sheet,      ///< tables, fields, the timeline's lanes
  Hairline,   ///< between rows
  Frame,      ///< around what can be used
  Ink,        ///< text
  SecondInk,  ///< captions, units
  Accent,     ///< what was chosen, the main button
  OnAccent,   ///< text on the accent
  Attention,  ///< warnings, stale
  Fault,
  Good,  ///< up to date
  Selection,
  GroupBand,  ///< behind group rows and headings
};
inline constexpr int kRoles = static_cast<int>(Role::GroupBand) + 1;

enum class Look { Day, Night };

class Theme : public QObject {
  Q_OBJECT
 public:
  static Theme& instance();

  /// Fonts and style of the application; called once.
  void install();
  Look look() const { return look_; }
  /// Whether the colours that Qt found on the system, before ours, were dark.
  bool isSystemDark() const { return isSystemDark_; }
  void setLook(Look look);

  static QColor colour(Look look, Role role);
  QColor colour(Role role) const { return colour(look_, role); }
  /// Track inks 1 … 8; 0 gives the second ink.
  static QColor trackInk(Look look, int ink);
  QColor trackInk(int ink) const { return trackInk(look_, ink); }

  static QFont body();      ///< 13 px
  static QFont strong();    ///< 13 px, semi-bold
  static QFont caption();   ///< 11 px
  static QFont heading();   ///< 11 px, semi-bold, letters apart
  static QFont sentence();  ///< 15 px
  static QFont mono();      ///< 12 px, for names and templates

 signals:
  void changed();

 private:
  void apply();
  Look look_ = Look::Day;
  bool isSystemDark_ = false;
};

inline QColor colour(Role role) { return Theme::instance().colour(role); }

}  // namespace octaphon::app
