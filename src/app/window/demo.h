// The demo: beside a program that was built here; where it was installed, it is made where one can work in
// it.
#pragma once

#include <QString>

#include "base/job_control.h"
#include "base/result.h"

namespace octaphon::app {

/// Its session, with its sounds; empty where they are not there.
QString builtDemo();
/// The program that makes both; empty where it is not there.
QString demoMaker();
/// What is in the folder already stays. Unsupported where the maker fails, with what it says; NotReadable;
/// Cancelled.
Result<> makeDemo(const QString& maker, const QString& folder, const JobControl& job);

}  // namespace octaphon::app
