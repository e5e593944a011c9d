#include "formats/ixml.h"

#include <sstream>

#include <pugixml.hpp>

namespace octaphon {
namespace {

void add(pugi::xml_node parent, const char* name, const std::string& text) {
  if (!text.empty()) parent.append_child(name).text().set(text.c_str());
}

template <class Number>
void addNumber(pugi::xml_node parent, const char* name, Number number) {
  add(parent, name, std::to_string(number));
}

void addSpeed(pugi::xml_node root, const FileData& data, const FileForm& form) {
  pugi::xml_node speed = root.append_child("SPEED");
  const std::string rate =
      std::to_string(data.picture.numerator) + "/" + std::to_string(data.picture.denominator);
  for (const char* name : {"MASTER_SPEED", "CURRENT_SPEED", "TIMECODE_RATE"}) add(speed, name, rate);
  add(speed, "TIMECODE_FLAG", data.picture.drop ? "DF" : "NDF");
  addNumber(speed, "FILE_SAMPLE_RATE", form.rate);
  if (const int bits = encodingInfo(form.encoding).bits; bits > 0) addNumber(speed, "AUDIO_BIT_DEPTH", bits);
  const auto stamp = static_cast<std::uint64_t>(data.timeReference);
  addNumber(speed, "TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI", stamp >> 32);
  addNumber(speed, "TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO", stamp & 0xFFFFFFFFu);
  addNumber(speed, "TIMESTAMP_SAMPLE_RATE", form.rate);
}

void addSet(pugi::xml_node root, const FileSet& set) {
  if (set.uid.empty()) return;
  pugi::xml_node node = root.append_child("FILE_SET");
  add(node, "FAMILY_UID", set.uid);
  add(node, "FAMILY_NAME", set.name);
  add(node, "FILE_SET_INDEX", set.index);
}

void addTracks(pugi::xml_node root, const std::vector<std::string>& names) {
  if (names.empty()) return;
  pugi::xml_node list = root.append_child("TRACK_LIST");
  addNumber(list, "TRACK_COUNT", names.size());
  for (std::size_t i = 0; i < names.size(); ++i) {
    pugi::xml_node track = list.append_child("TRACK");
    addNumber(track, "CHANNEL_INDEX", i + 1);
    addNumber(track, "INTERLEAVE_INDEX", i + 1);
    add(track, "NAME", names[i]);
  }
}

/// What iXML has no place for.
void addOurs(pugi::xml_node root, const FileData& data) {
  pugi::xml_node ours = root.append_child("OCTAPHON");
  add(ours, "ROW", data.rowMark);
  add(ours, "MADE", data.madeMark);
  for (const auto& [name, value] : data.facts) {
    pugi::xml_node fact = ours.append_child("FACT");
    fact.append_attribute("name").set_value(name.c_str());
    fact.text().set(value.c_str());
  }
}

}  // namespace

std::string ixmlData(const FileData& data, const FileForm& form) {
  pugi::xml_document document;
  pugi::xml_node declaration = document.append_child(pugi::node_declaration);
  declaration.append_attribute("version") = "1.0";
  declaration.append_attribute("encoding") = "UTF-8";
  pugi::xml_node root = document.append_child("BWFXML");
  add(root, "IXML_VERSION", "3.01");
  add(root, "PROJECT", data.text(Tag::Project));
  add(root, "SCENE", data.text(Tag::Scene));
  add(root, "NOTE", data.text(Tag::Note));
  addSpeed(root, data, form);
  addSet(root, data.set);
  addTracks(root, data.channelNames);
  addOurs(root, data);
  std::ostringstream text;
  document.save(text, "", pugi::format_raw, pugi::encoding_utf8);
  return text.str();
}

}  // namespace octaphon
