#include "receiver/manifest.h"

#include <algorithm>
#include <fstream>
#include <iterator>
#include <optional>

#include <nlohmann/json.hpp>

namespace octaphon::receiver {
namespace {

using Json = nlohmann::json;

constexpr std::int64_t kMostFrames = std::int64_t{1} << 50;

bool isBelowFolder(const std::string& file) {
  const std::filesystem::path path(file);
  if (file.empty() || path.is_absolute()) return false;
  return std::none_of(path.begin(), path.end(), [](const auto& part) { return part == ".." || part == "."; });
}

/// Reads with at(): what is missing or of another kind throws, and is told once, above.
NamedFile fileFrom(const Json& json) {
  NamedFile file{json.at("file"), json.at("frames"), json.at("rate"), json.at("channels")};
  if (!isBelowFolder(file.file)) throw std::runtime_error("a file is not below the folder: " + file.file);
  if (file.frames < 0 || file.frames > kMostFrames || file.rate < 1 || file.channels < 1)
    throw std::runtime_error("its figures cannot be: " + file.file);
  const Json& loop = json.at("loop");
  if (loop.is_null()) return file;
  file.play = loop.at("play") == "restart" ? Play::Restart : Play::Points;
  file.loopStart = loop.at("start");
  file.loopLength = loop.at("length");
  const bool isInside = file.loopStart >= 0 && file.loopLength > 0 && file.loopLength <= file.frames &&
                        file.loopStart <= file.frames - file.loopLength;
  if (!isInside) throw std::runtime_error("its loop is not inside the file: " + file.file);
  return file;
}

Variation variationFrom(const Json& json) {
  Variation variation{json.at("span"), {}};
  const Json& files = json.at("files");
  const std::string form = files.at(0).at("form");
  const auto isMix = [&](const Json& file) { return file.at("role") == "mix" && file.at("form") == form; };
  const bool hasMix = std::any_of(files.begin(), files.end(), isMix);
  for (const Json& file : files)
    if (file.at("form") == form && (!hasMix || isMix(file))) variation.files.push_back(fileFrom(file));
  return variation;
}

std::vector<Sound> soundsFrom(const Json& json) {
  if (json.at("format") != "octaphon-manifest") throw std::runtime_error("this is no manifest");
  if (!json.at("version").get<std::string>().starts_with("1."))
    throw std::runtime_error("it is of a newer version");
  std::vector<Sound> sounds;
  for (const Json& one : json.at("sounds")) {
    Sound sound{one.at("name"), one.at("brief"), {}};
    for (const Json& variation : one.at("variations")) sound.variations.push_back(variationFrom(variation));
    if (!sound.variations.empty()) sounds.push_back(std::move(sound));
  }
  return sounds;
}

}  // namespace

Outcome<std::vector<Sound>> readManifest(const std::filesystem::path& manifest) {
  std::ifstream file(manifest, std::ios::binary);
  if (!file) return tl::unexpected(manifest.string() + " cannot be read");
  const std::string text((std::istreambuf_iterator<char>(file)), std::istreambuf_iterator<char>());
  try {
    return soundsFrom(Json::parse(text));
  } catch (const std::exception& problem) {
    return tl::unexpected(manifest.string() + ": " + problem.what());
  }
}

}  // namespace octaphon::receiver
