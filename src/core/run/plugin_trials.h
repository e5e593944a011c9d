// What trials of plug-ins found, kept on disk: trying one takes as long as it takes to start. A trial holds
// for a plug-in as an insert has set it, at one rate, and as long as nothing that is installed has changed.
// Thread-safe as long as each thread has its own.
#pragma once

#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "base/result.h"
#include "routing/effect_info.h"

namespace octaphon {

/// Of names, sizes and times of all bundles where plug-ins are looked for (LV2_PATH, else the usual places),
/// and of the program that tries them.
Digest installedFingerprint();

class PluginTrials {
 public:
  /// What was kept; nothing where it cannot be read, or where something else is installed now.
  explicit PluginTrials(std::filesystem::path file);

  /// Puts what is known of it into the catalogue; false where nothing is.
  bool tell(const Insert& insert, PluginCatalogue& catalogue);
  void note(const Insert& insert, int rate, const EffectInfo& info);
  void noteProblem(const Insert& insert, int rate, const std::string& why);
  /// Where it cannot be written, the next start tries them again. Of very many, those are kept that were
  /// asked for.
  void save();

  struct Failed {
    std::string uri, why;
  };
  std::vector<Failed> failed() const;  ///< each once
  std::size_t size() const { return trials_.size(); }

 private:
  struct Trial {
    std::string uri;
    std::string outcome;  ///< JSON of what it is; empty where it failed
    std::string problem;
    bool isAsked = false;
  };
  static std::string keyOf(const Insert& insert, int rate);

  std::filesystem::path file_;
  Digest installed_;
  std::map<std::string, Trial> trials_;
};

}  // namespace octaphon
