#include "handover/cue_list.h"

#include <algorithm>
#include <cctype>
#include <cstdio>
#include <map>

#include "base/unicode.h"

namespace octaphon {
namespace {

constexpr int kCueFrames = 75;  // a second

std::string quoted(const std::string& text) {
  std::string inside = withoutControls(text, " ");
  std::replace(inside.begin(), inside.end(), '"', '\'');
  return "\"" + inside + "\"";
}

std::string placeText(Frame at, int rate) {
  const Frame frames = atRate(std::max<Frame>(0, at), std::max(1, rate), kCueFrames);
  char text[40];
  std::snprintf(text, sizeof text, "%02lld:%02lld:%02lld", static_cast<long long>(frames / kCueFrames / 60),
                static_cast<long long>(frames / kCueFrames % 60),
                static_cast<long long>(frames % kCueFrames));
  return text;
}

std::string textOf(const DeliveredFile& file, std::string_view name) {
  for (const auto& [key, value] : file.made.tags)
    if (key == name) return value;
  return {};
}

/// Twelve letters and digits (ISO 3901), without the hyphens that people write; empty where it is none.
std::string codeOf(const DeliveredFile& file) {
  std::string code = textOf(file, "isrc");
  std::erase_if(code, [](char c) { return c == '-' || c == ' '; });
  const bool isCode = code.size() == 12 && std::all_of(code.begin(), code.end(), [](unsigned char c) {
                        return std::isdigit(c) != 0 || (c >= 'A' && c <= 'Z');
                      });
  return isCode ? code : std::string();
}

std::string kindOf(const DeliveredFile& file) {
  if (file.made.encoding == "mp3") return "MP3";
  return file.made.encoding.starts_with("aiff") ? "AIFF" : "WAVE";
}

class CueList {
 public:
  explicit CueList(const Delivery& delivery) : delivery_(delivery) {
    for (std::size_t b = 0; b < delivery.briefs.size(); ++b) addBrief(b);
  }
  std::string take() { return std::move(text_); }

 private:
  void addBrief(std::size_t brief) {
    std::vector<const DeliveredFile*> files;
    std::map<std::pair<std::string, std::string>, std::string> forms;  // by span and source: the first
    for (const DeliveredFile& file : delivery_.files) {
      if (file.brief != brief || !file.isThere || !file.made.addsTo.empty()) continue;
      const std::string form = file.formAndChannel().first;
      if (forms.try_emplace({file.spanKey(), file.sourceKey()}, form).first->second == form)
        files.push_back(&file);
    }
    const std::string& title = delivery_.briefs[brief].words.title;
    if (!files.empty() && text_.empty() && !title.empty()) text_ += "TITLE " + quoted(title) + "\n";
    const auto isRegion = [](const FileMark& mark) { return mark.length > 0; };
    if (files.size() == 1 && std::any_of(files[0]->made.marks.begin(), files[0]->made.marks.end(), isRegion))
      return addParts(*files[0]);
    for (const DeliveredFile* file : files) addFile(*file);
  }

  void begin(const DeliveredFile& file) { text_ += "FILE " + quoted(file.file) + " " + kindOf(file) + "\n"; }

  void addTrack(const DeliveredFile& file, const std::string& title, Frame from, Frame at) {
    char head[32];
    std::snprintf(head, sizeof head, "  TRACK %02d AUDIO\n", ++tracks_);
    text_ += head;
    text_ += "    TITLE " + quoted(title) + "\n";
    if (const std::string artist = textOf(file, "artist"); !artist.empty())
      text_ += "    PERFORMER " + quoted(artist) + "\n";
    if (const std::string code = codeOf(file); !code.empty()) text_ += "    ISRC " + code + "\n";
    if (from < at) text_ += "    INDEX 00 " + placeText(from, file.made.rate) + "\n";
    text_ += "    INDEX 01 " + placeText(at, file.made.rate) + "\n";
  }

  void addFile(const DeliveredFile& file) {
    if (tracks_ >= kMostCueTracks) return;
    begin(file);
    const std::string title = textOf(file, "title");
    addTrack(file, title.empty() ? file.made.span : title, 0, file.made.place.leadIn);
  }

  void addParts(const DeliveredFile& file) {
    begin(file);
    for (const FileMark& mark : file.made.marks)
      if (mark.length > 0 && tracks_ < kMostCueTracks) addTrack(file, mark.label, mark.at, mark.at);
  }

  const Delivery& delivery_;
  int tracks_ = 0;
  std::string text_;
};

}  // namespace

std::string cueList(const Delivery& delivery) { return CueList(delivery).take(); }

}  // namespace octaphon
