#include "formats/id3.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <memory>

#include <taglib/chapterframe.h>
#include <taglib/commentsframe.h>
#include <taglib/id3v2tag.h>
#include <taglib/textidentificationframe.h>

#include "base/unicode.h"

namespace octaphon {
namespace {

using TagLib::ByteVector;
using TagLib::String;
namespace ID3v2 = TagLib::ID3v2;

String utf8Text(const std::string& text) { return {text, String::UTF8}; }

ID3v2::Frame* textFrame(std::string_view id, const std::string& text) {
  auto* frame = new ID3v2::TextIdentificationFrame(ByteVector(id.data(), static_cast<unsigned>(id.size())),
                                                   String::UTF8);
  frame->setText(utf8Text(text));
  return frame;
}

ID3v2::Frame* freeFrame(const std::string& name, const std::string& text) {
  auto* frame = new ID3v2::UserTextIdentificationFrame(String::UTF8);
  frame->setDescription(utf8Text(name));
  frame->setText(utf8Text(text));
  return frame;
}

ID3v2::Frame* commentFrame(const std::string& text) {
  auto* frame = new ID3v2::CommentsFrame(String::UTF8);
  frame->setLanguage("eng");
  frame->setText(utf8Text(text));
  return frame;
}

/// A tag owns its frames.
void add(ID3v2::Tag& tag, std::string_view id, const std::string& text) {
  constexpr std::string_view kFree = "TXXX:";
  if (id.empty() || text.empty()) return;
  if (id.starts_with(kFree))
    tag.addFrame(freeFrame(std::string(id.substr(kFree.size())), text));
  else
    tag.addFrame(id == "COMM" ? commentFrame(text) : textFrame(id, text));
}

void addTempo(ID3v2::Tag& tag, const std::string& tempo) {
  add(tag, "TBPM", wholeTempo(tempo));
  add(tag, "TXXX:TEMPO", tempo);
}

/// `TKEY` has three letters at most.
void addTag(ID3v2::Tag& tag, const TagInfo& info, const std::string& text) {
  if (info.tag == Tag::Tempo) return addTempo(tag, text);
  add(tag, info.tag == Tag::Key && text.size() > 3 ? "TXXX:KEY" : info.id3, text);
}

void addChapter(ID3v2::Tag& tag, const FileMark& mark, std::size_t index, int rate) {
  const auto ms = [&](Frame at) {
    return static_cast<unsigned>(std::clamp<Frame>(atRate(at, rate, 1000), 0, 0xFFFFFFFEu));
  };
  const std::string id = "chp" + std::to_string(index);
  constexpr unsigned kNoOffset = 0xFFFFFFFF;
  auto* chapter = new ID3v2::ChapterFrame(ByteVector(id.data(), static_cast<unsigned>(id.size())) + '\0',
                                          ms(mark.at), ms(mark.at + mark.length), kNoOffset, kNoOffset);
  if (!mark.label.empty()) chapter->addEmbeddedFrame(textFrame("TIT2", mark.label));
  tag.addFrame(chapter);
}

/// What only this kind of file says here.
void addPlaces(ID3v2::Tag& tag, const FileData& data, const FileForm& form) {
  add(tag, "TXXX:TIME_REFERENCE", std::to_string(data.timeReference));
  for (std::size_t i = 0; i < data.marks.size(); ++i) addChapter(tag, data.marks[i], i + 1, form.rate);
  if (!data.loop || !data.loopComments) return;
  add(tag, "TXXX:LOOPSTART", std::to_string(data.loop->start));
  add(tag, "TXXX:LOOPLENGTH", std::to_string(data.loop->end - data.loop->start));
}

}  // namespace

std::string wholeTempo(const std::string& tempo) {
  const double value = std::strtod(tempo.c_str(), nullptr);
  if (!(value >= 1) || value > 999) return {};
  return std::to_string(std::lround(value));
}

bool needsId3(const FileData& data) {
  const bool hasOther = std::any_of(kTagInfos.begin(), kTagInfos.end(), [&](const TagInfo& info) {
    return info.info.empty() && info.other.empty() && !data.text(info.tag).empty();
  });
  return !data.isPlain && (hasOther || !data.facts.empty());
}

std::string id3Tag(const FileData& data, const FileForm& form) {
  ID3v2::Tag tag;
  if (!data.isPlain) {
    for (const TagInfo& info : kTagInfos) addTag(tag, info, data.text(info.tag));
    add(tag, "TDRC", data.date);
    add(tag, "TXXX:ENCODER", "Octaphon");
    for (const auto& [name, value] : data.facts) add(tag, "TXXX:" + name, value);
    add(tag, "TXXX:OCTAPHON_ROW", data.rowMark);
    add(tag, "TXXX:OCTAPHON_MADE", data.madeMark);
  }
  if (encodingInfo(form.encoding).container == Container::Mp3) addPlaces(tag, data, form);
  const ByteVector bytes = tag.render(ID3v2::v4);
  return {bytes.data(), bytes.size()};
}

}  // namespace octaphon
