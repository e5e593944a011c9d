#include "app/look/theme.h"

#include <array>
#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QPalette>

#include "app/look/house_style.h"
#include "session/session.h"

namespace octaphon::app {
namespace {

using Colours = std::array<const char*, kRoles>;
constexpr Colours kDay{"#F5F2EA", "#FFFDF8", "#D9D3C4", "#8F8878", "#20292B", "#525D5B", "#0B6360",
                       "#FFFDF8", "#855409", "#9C2F24", "#3E6532", "#DFDEE2", "#EEEADF"};
constexpr Colours kNight{"#211C18", "#2A2420", "#433A33", "#857A6E", "#EDE6DA", "#B3A99B", "#A9B2F0",
                         "#211C18", "#E0B264", "#F0938A", "#A3C48F", "#37343B", "#2F2924"};

constexpr std::array<const char*, kInks> kDayInks{"#5A7690", "#7C5C87", "#4E7F7A", "#8A7440",
                                                  "#8B6455", "#68804B", "#A0606B", "#5F6B78"};
constexpr std::array<const char*, kInks> kNightInks{"#8FAAC4", "#B394BE", "#83B5AF", "#C0AA73",
                                                    "#C39A8A", "#9DB580", "#D0929C", "#98A5B3"};

constexpr const char* kFamily = "Octaphon Text";

QFont text(int pixels, QFont::Weight weight = QFont::Normal) {
  QFont font(kFamily);
  font.setPixelSize(pixels);
  font.setWeight(weight);
  return font;
}

QString filled(QString sheet, Look look) {
  constexpr std::array<const char*, kRoles> kNames{
      "@paper", "@sheet",     "@hairline", "@frame", "@ink",       "@second", "@accent",
      "@on",    "@attention", "@fault",    "@good",  "@selection", "@band"};
  for (int role = 0; role < kRoles; ++role)
    sheet.replace(kNames[static_cast<std::size_t>(role)],
                  Theme::colour(look, static_cast<Role>(role)).name());
  return sheet.replace("@look", look == Look::Day ? "day" : "night");
}

QPalette paletteFor(Look look) {
  const auto c = [look](Role role) { return Theme::colour(look, role); };
  QPalette palette;
  palette.setColor(QPalette::Window, c(Role::Paper));
  palette.setColor(QPalette::Base, c(Role::Sheet));
  palette.setColor(QPalette::AlternateBase, c(Role::GroupBand));
  palette.setColor(QPalette::Button, c(Role::Sheet));
  palette.setColor(QPalette::ToolTipBase, c(Role::Sheet));
  for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText, QPalette::ToolTipText,
                          QPalette::BrightText})
    palette.setColor(role, c(Role::Ink));
  palette.setColor(QPalette::PlaceholderText, c(Role::SecondInk));
  palette.setColor(QPalette::Highlight, c(Role::Selection));
  palette.setColor(QPalette::HighlightedText, c(Role::Ink));
  palette.setColor(QPalette::Link, c(Role::Accent));
  palette.setColor(QPalette::Mid, c(Role::Frame));
  for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
    palette.setColor(QPalette::Disabled, role, c(Role::Frame));
  return palette;
}

}  // namespace

Theme& Theme::instance() {
  static Theme theme;
  return theme;
}

void Theme::install() {
  for (const char* file : {"text-regular.otf", "text-semibold.otf", "mono-regular.ttf"})
    QFontDatabase::addApplicationFont(QString(":/fonts/") + file);
  const QPalette system = QGuiApplication::palette();
  isSystemDark_ = system.window().color().lightness() < system.windowText().color().lightness();
  QApplication::setStyle(new HouseStyle);
  QApplication::setFont(body());
  apply();
}

void Theme::setLook(Look look) {
  if (look == look_) return;
  look_ = look;
  apply();
  emit changed();
}

void Theme::apply() {
  QApplication::setPalette(paletteFor(look_));
  QFile file(":/style.qss");
  if (file.open(QIODevice::ReadOnly)) qApp->setStyleSheet(filled(QString::fromUtf8(file.readAll()), look_));
}

QColor Theme::colour(Look look, Role role) {
  return QColor((look == Look::Day ? kDay : kNight)[static_cast<std::size_t>(role)]);
}

QColor Theme::trackInk(Look look, int ink) {
  if (ink < 1 || ink > kInks) return colour(look, Role::SecondInk);
  return QColor((look == Look::Day ? kDayInks : kNightInks)[static_cast<std::size_t>(ink - 1)]);
}

QFont Theme::body() { return text(13); }
QFont Theme::strong() { return text(13, QFont::DemiBold); }
QFont Theme::caption() { return text(11); }
QFont Theme::sentence() { return text(15); }

QFont Theme::heading() {
  QFont font = text(11, QFont::DemiBold);
  font.setLetterSpacing(QFont::AbsoluteSpacing, 0.8);
  return font;
}

QFont Theme::mono() {
  QFont font("JetBrains Mono");
  font.setPixelSize(12);
  return font;
}

}  // namespace octaphon::app
