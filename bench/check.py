"""check.py CLI FOLDER: 10 000 files delivered and checked from their receipt alone, decoded and by their bytes; beside sha256sum
of the same files on all cores."""
import os
import shutil
import sys

from pink import best_of_three, deliver, session_of_noise

cli, folder = sys.argv[1], os.path.abspath(sys.argv[2])
REGIONS, LENGTH, TRACKS = 2500, 12000, 3
out = f"{folder}/out"
session, root = session_of_noise(cli, folder, "check", TRACKS, REGIONS * LENGTH / 48000)
root["regions"] = [{"id": f"r{i}", "name": f"R {i:04d}", "start": i * LENGTH, "length": LENGTH} for i in range(REGIONS)]
for t, track in enumerate(root["tracks"]):
    clip = track["clips"][0]
    track["clips"] = [{"id": f"c{t}-{i}", "medium": clip["medium"], "start": i * LENGTH, "offset": (i + 31 * t) % REGIONS * LENGTH,
                       "length": LENGTH} for i in range(REGIONS)]
root["briefs"] = [{"id": "b", "name": "All", "folder": "out", "template": "{n:5}_{region}_{source}", "regions": "all",
                   "tracks": "all", "mix": True, "existing": "replace"}]
deliver(cli, session, root, out)
whole = best_of_three("check, from the receipt alone", [cli, "check", out])
best_of_three("check --only-bytes", [cli, "check", out, "--only-bytes"])
bare = best_of_three("sha256sum on all cores", f"find {out} -name '*.wav' -print0 | xargs -0 -P $(nproc) -n 200 sha256sum")
print(f"{whole / bare:.2f} of the time that sha256sum takes")
shutil.rmtree(folder)
