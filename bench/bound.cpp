// octaphon-bench-bound IN OUT [--two] [--sync]: what any program has to do at least. Reads the 24 tracks of
// the job span by span, sums them and writes every track and the sum through libsndfile, in one thread or
// two.
#include <unistd.h>

#include <algorithm>
#include <atomic>
#include <cstdio>
#include <cstring>
#include <string>
#include <thread>
#include <vector>

#include <sndfile.h>

namespace {

constexpr int kTracks = 24;
constexpr int kSpans = 8;
constexpr sf_count_t kSpanFrames = 15 * 48000;
constexpr sf_count_t kTurn = 4096;

SNDFILE* openFor(const std::string& path, int mode) {
  SF_INFO info{};
  info.samplerate = 48000;
  info.channels = 2;
  info.format = SF_FORMAT_WAV | SF_FORMAT_PCM_24;
  if (mode == SFM_READ) info.format = 0;
  SNDFILE* file = sf_open(path.c_str(), mode, &info);
  if (file == nullptr) {
    std::fprintf(stderr, "%s: %s\n", path.c_str(), sf_strerror(nullptr));
    _exit(1);
  }
  if (mode == SFM_WRITE) sf_command(file, SFC_SET_CLIPPING, nullptr, SF_TRUE);
  return file;
}

std::string numbered(const char* head, int number) {
  return head + std::to_string(1000000 + number).substr(1);
}

/// Reads all tracks over one span, and writes each and their sum.
void makeSpan(const std::string& in, const std::string& out, int span, bool sync) {
  std::vector<SNDFILE*> inputs, outputs;
  for (int t = 0; t < kTracks; ++t) {
    inputs.push_back(openFor(in + numbered("track", t) + ".wav", SFM_READ));
    sf_seek(inputs.back(), span * kSpanFrames, SEEK_SET);
  }
  for (int t = 0; t <= kTracks; ++t)
    outputs.push_back(openFor(out + std::to_string(span) + "_" + std::to_string(t) + ".wav", SFM_WRITE));
  std::vector<float> samples(2 * kTurn), total(2 * kTurn);
  for (sf_count_t at = 0; at < kSpanFrames; at += kTurn) {
    const sf_count_t count = std::min(kTurn, kSpanFrames - at);
    std::fill(total.begin(), total.end(), 0.0f);
    for (std::size_t t = 0; t < kTracks; ++t) {
      sf_readf_float(inputs[t], samples.data(), count);
      for (std::size_t i = 0; i < static_cast<std::size_t>(2 * count); ++i) total[i] += samples[i];
      sf_writef_float(outputs[t], samples.data(), count);
    }
    sf_writef_float(outputs[kTracks], total.data(), count);
  }
  for (SNDFILE* file : outputs) {
    if (sync) sf_write_sync(file);
    sf_close(file);
  }
  for (SNDFILE* file : inputs) sf_close(file);
}

bool has(int argc, char** argv, const char* option) {
  return std::any_of(argv, argv + argc, [&](const char* given) { return std::strcmp(given, option) == 0; });
}

}  // namespace

int main(int argc, char** argv) {
  if (argc < 3) return 2;
  const std::string in = std::string(argv[1]) + "/";
  const std::string out = std::string(argv[2]) + "/";
  const bool sync = has(argc, argv, "--sync");
  std::atomic<int> next = 0;
  const auto work = [&] {
    for (int span = next++; span < kSpans; span = next++) makeSpan(in, out, span, sync);
  };
  std::vector<std::thread> others(has(argc, argv, "--two") ? 1 : 0);
  for (std::thread& other : others) other = std::thread(work);
  work();
  for (std::thread& other : others) other.join();
  return 0;
}
