// How large the desktop wants its text: the whole interface is drawn as much larger, so that everything keeps
// its place.
#pragma once

#include <memory>
#include <QApplication>

namespace octaphon::app {

/// The factor for a desktop whose text has so many pixels, from that of 10 points at 96 dots an inch on:
/// quarters, 1 to 3. Smaller text does not make the interface smaller.
double scaleForText(double pixels);

/// The application, as large as the desktop wants its text. Most desktops want it as it is.
std::unique_ptr<QApplication> makeApplication(int& argc, char** argv);

}  // namespace octaphon::app
