#include "receiver/options.h"

#include <CLI/CLI.hpp>

namespace octaphon::receiver {

void describe(CLI::App& app, Options& options) {
  app.name("octaphon-receiver");
  app.description("Plays a delivery as its receiver would, by its manifest alone");
  app.add_option("folder", options.folder, "Folder that was delivered")->required();
  app.add_option("--manifest", options.manifest, "Its manifest, where it is not manifest.json in the folder")
      ->type_name("FILE");
  app.add_option("--record", options.record, "Play into this WAV file, without a window or a device")
      ->type_name("FILE");
  app.add_option("--play", options.play, "A sound begins; may be given several times")
      ->allow_extra_args(false)
      ->type_name("NAME@SECONDS");
  app.add_option("--stop", options.stop, "It stops; may be given several times")
      ->allow_extra_args(false)
      ->type_name("NAME@SECONDS");
  app.add_option("--seconds", options.recording.seconds, "Length of the recording")
      ->check(CLI::Range(0.0, 86400.0))
      ->type_name("SECONDS");
  app.add_option("--rate", options.recording.rate, "Of the recording")
      ->check(CLI::Range(8000, 384000))
      ->type_name("HZ");
  app.add_option("--seed", options.recording.seed, "Of the choice of variations")->type_name("N");
}

}  // namespace octaphon::receiver
