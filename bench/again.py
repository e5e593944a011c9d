"""again.py CLI FOLDER: 10 000 short files delivered, then again with nothing changed, with one clip changed, with one region
renamed, and by three shares at once; beside the bare reading of the receipt and listing of the folder."""
import json
import os
import resource
import shutil
import subprocess
import sys
import time

cli, folder = sys.argv[1], os.path.abspath(sys.argv[2])
REGIONS, LENGTH = 2500, 2400
session = f"{folder}/again.octaphon"
os.environ["OCTAPHON_CACHE"] = f"{folder}/cache"


def timed(words, *commands):
    """Commands at once; wall clock and processor time of all."""
    before, began = resource.getrusage(resource.RUSAGE_CHILDREN), time.monotonic()
    running = [subprocess.Popen(command, stdout=subprocess.PIPE, text=True) for command in commands]
    outs = [process.communicate()[0] for process in running]
    wall = time.monotonic() - began
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    used = after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
    last = json.loads(outs[0].strip().splitlines()[-1]) if outs[0].strip().startswith("{") else {}
    counts = ", ".join(f"{last[key]} {key}" for key in ("written", "renamed", "up_to_date") if key in last)
    print(f"{words:<36} {wall:7.2f} s   processor {used:7.2f} s   {counts}", flush=True)
    return used


def change(edit):
    with open(session, encoding="utf-8") as file:
        root = json.load(file)
    edit(root)
    with open(session, "w", encoding="utf-8") as file:
        json.dump(root, file)


def render(*more):
    return [cli, "render", session, "--no-sync", *more]


shutil.rmtree(folder, ignore_errors=True)
os.makedirs(folder)
media = [f"{folder}/m{i}.wav" for i in range(3)]
for i, medium in enumerate(media):
    subprocess.run(["sox", "-n", "-r", "48000", "-c", "2", "-b", "24", medium, "synth", str(REGIONS * LENGTH / 48000),
                    "sine", str(200 + 100 * i), "vol", "0.3"], check=True)
subprocess.run([cli, "new", session, *media], check=True, stdout=subprocess.DEVNULL)


def fill(root):
    root["regions"] = [{"id": f"r{i}", "name": f"R {i:04d}", "start": i * LENGTH, "length": LENGTH} for i in range(REGIONS)]
    for t, track in enumerate(root["tracks"]):
        clip = track["clips"][0]
        track["clips"] = [{"id": f"c{t}-{i}", "medium": clip["medium"], "start": i * LENGTH, "offset": i * LENGTH,
                           "length": LENGTH} for i in range(REGIONS)]
    root["briefs"] = [{"id": "b", "name": "All", "folder": "out", "template": "{n:5}_{region}_{source}", "regions": "all",
                       "tracks": "all", "mix": True, "existing": "replace"}]


change(fill)
timed("delivered", render())
timed("nothing changed", render())
timed("status", [cli, "status", session])
change(lambda root: root["tracks"][0]["clips"][7].update({"gain_db": -1}))
timed("one clip changed", render())
change(lambda root: root["regions"][9].update({"name": "Other"}))
timed("one region renamed", render())
timed("the bare folder and receipt", ["sh", "-c", f"ls -l {folder}/out > /dev/null; cat {folder}/out/*.jsonl > /dev/null"])
shutil.rmtree(f"{folder}/out")
one = timed("delivered once more", render())
shutil.rmtree(f"{folder}/out")
three = timed("by three shares at once", *[render("--shard", f"{i}/3", "--jobs", "1") for i in (1, 2, 3)])
print(f"processor time of the shares together: {three / one:.2f} of one run's")
shutil.rmtree(folder)
