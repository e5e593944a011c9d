// Runs the fuzz target on every saved input, and on some thousand mutations of each from a fixed seed.
#include <algorithm>
#include <cstdint>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <random>
#include <sstream>
#include <vector>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size);

namespace {

void feed(const std::string& input) {
  LLVMFuzzerTestOneInput(reinterpret_cast<const std::uint8_t*>(input.data()), input.size());
}

std::string mutated(std::string input, std::mt19937& random) {
  static const std::vector<std::string> kPieces{
      "\"",      "{",       "}",  "[", "]",      "null",         "-1",      "1e999", "9007199254740992",
      "\\u0000", "\xFF",    "..", "/", "\n",     "true",         "}",       "<",     ">",
      "{n",      "{region", "|",  ":", "|cut 1", "\xE2\x80\x8D", "\xCC\x88"};
  for (unsigned turn = 0; turn < 1 + random() % 4; ++turn) {
    const std::size_t at = 1 + random() % std::max<std::size_t>(1, input.size() - 1);
    if (at >= input.size()) continue;
    switch (random() % 4) {
      case 0: input[at] = static_cast<char>(random()); break;
      case 1: input.erase(at, 1 + random() % 20); break;
      case 2: input.insert(at, kPieces[random() % kPieces.size()]); break;
      default: input.insert(at, input.substr(1 + random() % (input.size() - 1), random() % 30)); break;
    }
  }
  return input;
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 3) return 2;
  const int turns = std::atoi(argv[2]);
  std::vector<std::filesystem::path> files;
  for (const auto& entry : std::filesystem::directory_iterator(argv[1])) files.push_back(entry.path());
  std::sort(files.begin(), files.end());
  for (const auto& path : files) {
    std::ostringstream content;
    content << std::ifstream(path, std::ios::binary).rdbuf();
    const std::string input = content.str();
    feed(input);
    std::mt19937 random(1);
    for (int turn = 0; turn < turns && input.size() > 1; ++turn) feed(mutated(input, random));
  }
  std::printf("%zu inputs, %d mutations of each\n", files.size(), turns);
  return files.empty() ? 1 : 0;
}
