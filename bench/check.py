"""check.py CLI FOLDER: 10 000 files delivered and checked from their receipt alone, decoded and by their bytes; beside sha256sum
of the same files on all cores."""
import json
import os
import shutil
import subprocess
import sys
import time

cli, folder = sys.argv[1], os.path.abspath(sys.argv[2])
REGIONS, LENGTH, TRACKS = 2500, 12000, 3
session, out = f"{folder}/check.octaphon", f"{folder}/out"
os.environ["OCTAPHON_CACHE"] = f"{folder}/cache"


def timed(words, command, expected=0):
    """The best of three, seconds."""
    best = None
    for _ in range(3):
        began = time.monotonic()
        ran = subprocess.run(command, shell=isinstance(command, str), stdout=subprocess.DEVNULL, check=False)
        if ran.returncode != expected:
            sys.exit(f"{words}: exit {ran.returncode}")
        best = min(best or 1e9, time.monotonic() - began)
    print(f"{words:<44} {best:7.2f} s", flush=True)
    return best


shutil.rmtree(folder, ignore_errors=True)
os.makedirs(folder)
media = [f"{folder}/m{i}.wav" for i in range(TRACKS)]
for i, medium in enumerate(media):
    subprocess.run(["sox", "-R", "-n", "-r", "48000", "-c", "2", "-b", "24", medium, "synth", str(REGIONS * LENGTH / 48000),
                    "pinknoise", "vol", str(0.2 + 0.05 * i)], check=True)
subprocess.run([cli, "new", session, *media], check=True, stdout=subprocess.DEVNULL)
with open(session, encoding="utf-8") as file:
    root = json.load(file)
root["regions"] = [{"id": f"r{i}", "name": f"R {i:04d}", "start": i * LENGTH, "length": LENGTH} for i in range(REGIONS)]
for t, track in enumerate(root["tracks"]):
    clip = track["clips"][0]
    track["clips"] = [{"id": f"c{t}-{i}", "medium": clip["medium"], "start": i * LENGTH, "offset": (i + 31 * t) % REGIONS * LENGTH,
                       "length": LENGTH} for i in range(REGIONS)]
root["briefs"] = [{"id": "b", "name": "All", "folder": "out", "template": "{n:5}_{region}_{source}", "regions": "all",
                   "tracks": "all", "mix": True, "existing": "replace"}]
with open(session, "w", encoding="utf-8") as file:
    json.dump(root, file)
subprocess.run([cli, "render", session, "--no-sync"], check=True, stdout=subprocess.DEVNULL)
files = len(os.listdir(out)) - 1
size = sum(entry.stat().st_size for entry in os.scandir(out))
print(f"{files} files, {size / 1e6:.0f} MB")
whole = timed("check, from the receipt alone", [cli, "check", out])
timed("check --only-bytes", [cli, "check", out, "--only-bytes"])
bare = timed("sha256sum on all cores", f"find {out} -name '*.wav' -print0 | xargs -0 -P $(nproc) -n 200 sha256sum")
print(f"{whole / bare:.2f} of the time that sha256sum takes")
shutil.rmtree(folder)
