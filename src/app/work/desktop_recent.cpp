#include "app/work/desktop_recent.h"

#include <mutex>
#include <pugixml.hpp>
#include <QDateTime>
#include <QStandardPaths>
#include <QThreadPool>
#include <QUrl>
#include <sstream>

#include "base/files.h"
#include "base/pending_file.h"

namespace octaphon::app {
namespace {

constexpr std::uint64_t kMostBytes = 16u << 20;
constexpr const char* kEmptyList =
    "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<xbel version=\"1.0\" "
    "xmlns:bookmark=\"http://www.freedesktop.org/standards/desktop-bookmarks\" "
    "xmlns:mime=\"http://www.freedesktop.org/standards/shared-mime-info\"/>";
constexpr const char *kOwner = "http://freedesktop.org", *kProgram = "Octaphon";

/// The child of this name and, where one is named, this value of an attribute; made where it is not there.
pugi::xml_node childOf(pugi::xml_node parent, const char* name, const char* attribute = nullptr,
                       const char* value = nullptr) {
  const auto found =
      attribute == nullptr ? parent.child(name) : parent.find_child_by_attribute(name, attribute, value);
  if (found) return found;
  pugi::xml_node made = parent.append_child(name);
  if (attribute != nullptr) made.append_attribute(attribute) = value;
  return made;
}

void set(pugi::xml_node node, const char* name, const std::string& value) {
  pugi::xml_attribute attribute = node.attribute(name);
  if (!attribute) attribute = node.append_attribute(name);
  attribute = value.c_str();
}

void addBookmark(pugi::xml_node list, const std::string& uri, const std::string& now) {
  pugi::xml_node bookmark = childOf(list, "bookmark", "href", uri.c_str());
  if (!bookmark.attribute("added")) set(bookmark, "added", now);
  for (const char* time : {"modified", "visited"}) set(bookmark, time, now);
  pugi::xml_node data = childOf(childOf(bookmark, "info"), "metadata", "owner", kOwner);
  set(childOf(data, "mime:mime-type"), "type", "application/x-octaphon-session");
  pugi::xml_node program =
      childOf(childOf(data, "bookmark:applications"), "bookmark:application", "name", kProgram);
  set(program, "exec", "'octaphon %u'");
  set(program, "modified", now);
  set(program, "count", std::to_string(program.attribute("count").as_int() + 1));
}

}  // namespace

bool addToRecentList(const QString& list, const QString& session) {
  const std::string file = list.toStdString();
  std::string text = kEmptyList;
  if (std::error_code problem; std::filesystem::exists(file, problem) || problem) {
    const auto there = readFile(file, kMostBytes);
    if (!there) return false;
    text = *there;
  }
  pugi::xml_document document;
  if (!document.load_string(text.c_str(), pugi::parse_full) || !document.child("xbel")) return false;
  addBookmark(document.child("xbel"), QUrl::fromLocalFile(session).toString(QUrl::FullyEncoded).toStdString(),
              QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString());
  std::ostringstream written;
  document.save(written, "  ");
  return replaceFile(file, written.str()).has_value();
}

void noteInDesktopRecent(const QString& session) {
  const QString list =
      QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation) + "/recently-used.xbel";
  QThreadPool::globalInstance()->start([list, session] {
    static std::mutex one;  // of our own; others replace the list as we do
    const std::scoped_lock lock(one);
    addToRecentList(list, session);
  });
}

}  // namespace octaphon::app
