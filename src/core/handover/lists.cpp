#include "handover/lists.h"

#include <nlohmann/json.hpp>

#include "base/text_table.h"
#include "check/finding.h"
#include "formats/channel_text.h"
#include "handover/file_json.h"

namespace octaphon {
namespace {

using Json = nlohmann::ordered_json;

Json briefJson(const Delivery& delivery, std::size_t index) {
  const DeliveredEdition& brief = delivery.briefs[index];
  Json json{
      {"id", brief.words.brief},          {"name", brief.words.name},   {"session", brief.words.session},
      {"sentence", brief.words.sentence}, {"title", brief.words.title}, {"client", brief.words.client},
      {"credit", brief.words.credit},     {"notes", brief.words.notes}, {"edition", nullptr}};
  if (brief.edition)
    json["edition"] = {{"date", dateText(brief.edition->date)}, {"version", brief.edition->version}};
  return json;
}

Json findingsJson(const std::vector<FileFinding>& findings) {
  Json list = Json::array();
  for (const FileFinding& finding : findings)
    list.push_back({{"code", findingInfo(finding.code).name},
                    {"severity", severityName(findingInfo(finding.code).severity)},
                    {"file", finding.file},
                    {"text", finding.text},
                    {"accepted", finding.accepted ? Json(*finding.accepted) : Json(nullptr)}});
  return list;
}

Json remarksJson(const std::vector<DeliveredRemark>& remarks) {
  Json list = Json::array();
  for (const DeliveredRemark& one : remarks)
    list.push_back({{"code", one.remark.code},
                    {"text", one.remark.text},
                    {"accepted", one.accepted ? Json(*one.accepted) : Json(nullptr)}});
  return list;
}

Json marksJson(const std::vector<FileMark>& marks) {
  Json list = Json::array();
  for (const FileMark& mark : marks)
    list.push_back({{"at", mark.at}, {"length", mark.length}, {"label", mark.label}});
  return list;
}

Json listedFileJson(const Delivery& delivery, const DeliveredFile& file) {
  Json json{{"file", file.file},
            {"brief", delivery.briefs[file.brief].words.brief},
            {"key", file.key},
            {"span", file.made.span},
            {"source", file.made.source},
            {"there", file.isThere}};
  json.update(handover::placeJson(file));
  json.update(handover::formJson(file));
  json.update(handover::levelsJson(file));
  json["gain_db"] = file.gainDb;
  json["loop"] = handover::loopJson(file);
  json["marks"] = marksJson(file.made.marks);
  Json texts = Json::object();
  for (const auto& [name, value] : file.made.tags) texts[name] = value;
  json["texts"] = std::move(texts);
  json["remarks"] = remarksJson(file.remarks);
  json["findings"] = findingsJson(file.findings);
  json["bytes"] = file.bytes;
  json["sha256"] = file.sha256.empty() ? Json(nullptr) : Json(file.sha256);
  return json;
}

/// A cell of a value: texts as they are, nothing for null.
std::string cellOf(const Json& value) {
  if (value.is_null()) return {};
  return tableCell(value.is_string() ? value.get<std::string>() : value.dump());
}

std::string joined(const Json& list, const char* key) {
  std::string text;
  for (const Json& one : list) {
    if (!text.empty()) text += " | ";
    text += one[key].get<std::string>();
    if (one["accepted"].is_string()) text += " (accepted: " + one["accepted"].get<std::string>() + ")";
  }
  return text;
}

/// `1200 Bell | 4800+9600 Winch`: place, length where there is one, label.
std::string marksText(const std::vector<FileMark>& marks) {
  std::string text;
  for (const FileMark& mark : marks)
    text += (text.empty() ? "" : " | ") + std::to_string(mark.at) +
            (mark.length > 0 ? "+" + std::to_string(mark.length) : "") + " " + mark.label;
  return text;
}

/// `title=Winch | artist=The workshop`
std::string textsText(const std::vector<std::pair<std::string, std::string>>& tags) {
  std::string text;
  for (const auto& [name, value] : tags) text += (text.empty() ? "" : " | ") + name + "=" + value;
  return text;
}

constexpr const char* kColumns[]{"file",         "brief",   "key",      "span",    "source",       "start",
                                 "session_rate", "frames",  "lead_in",  "body",    "tail",         "rate",
                                 "channels",     "layout",  "encoding", "peak_db", "true_peak_db", "lufs",
                                 "range_lu",     "gain_db", "bytes",    "sha256"};
constexpr const char* kLoopColumns[]{"way", "start", "length", "beats", "laps", "seam"};

}  // namespace

std::string deliveryJson(const Delivery& delivery) {
  Json json{{"format", "octaphon-delivery"}, {"version", "1.0"}};
  Json briefs = Json::array(), files = Json::array();
  for (std::size_t i = 0; i < delivery.briefs.size(); ++i) briefs.push_back(briefJson(delivery, i));
  for (const DeliveredFile& file : delivery.files) files.push_back(listedFileJson(delivery, file));
  json["briefs"] = std::move(briefs);
  json["files"] = std::move(files);
  json["strangers"] = findingsJson(delivery.strangers);
  json["totals"] = {{"files", delivery.files.size()},
                    {"seconds", delivery.seconds()},
                    {"bytes", delivery.bytes()},
                    {"findings", delivery.findings()},
                    {"accepted", delivery.accepted()}};
  return json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

std::string deliveryCsv(const Delivery& delivery) {
  std::string table;
  const char* comma = "";
  for (const char* column : kColumns) table += comma + std::string(column), comma = ",";
  for (const char* column : kLoopColumns) table += ",loop_" + std::string(column);
  table += ",edition,edition_date,title,remarks,findings,marks,texts\r\n";
  for (const DeliveredFile& file : delivery.files) {
    const Json json = listedFileJson(delivery, file);
    const Json brief = briefJson(delivery, file.brief);
    comma = "";
    for (const char* column : kColumns) table += comma + cellOf(json[column]), comma = ",";
    for (const char* column : kLoopColumns)
      table += "," + (json["loop"].is_null() ? std::string() : cellOf(json["loop"][column]));
    const Json& edition = brief["edition"];
    table += "," + (edition.is_null() ? std::string() : cellOf(edition["version"]));
    table += "," + (edition.is_null() ? std::string() : cellOf(edition["date"]));
    for (const std::string& text :
         {brief["title"].get<std::string>(), joined(json["remarks"], "text"),
          joined(json["findings"], "text"), marksText(file.made.marks), textsText(file.made.tags)})
      table += "," + tableCell(text);
    table += "\r\n";
  }
  return table;
}

}  // namespace octaphon
