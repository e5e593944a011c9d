"""Runs the two contenders of bench/ring_out.sh in turns and prints medians and their ratio."""
import json
import os
import shutil
import statistics
import subprocess
import sys
import time

BIN, WORK, ROUNDS = sys.argv[1], sys.argv[2], int(sys.argv[3])
DEMO = os.path.join(WORK, "demo")
OUT = f"/dev/shm/octaphon-bench-{os.getpid()}" if os.path.isdir("/dev/shm") else os.path.join(WORK, "out")
os.environ["OCTAPHON_CACHE"] = os.path.join(WORK, "cache")
COPIES = 40  # of each region of the demo's single sounds and layers, so that starting up does not count


def session(change):
    """The demo's first two briefs, its regions many times over."""
    with open(os.path.join(DEMO, "Tidewheel.octaphon"), encoding="utf-8") as file:
        made = json.load(file)
    made["briefs"] = [brief for brief in made["briefs"] if brief["id"] in ("game", "single")]
    wanted = {id for brief in made["briefs"] for id in brief["regions"]}
    regions = [r for r in made["regions"] if r["id"] in wanted and not r["name"].startswith("Ambience/")]
    made["regions"] = []
    for brief in made["briefs"]:
        own = [r for r in regions if r["id"] in brief["regions"]]
        brief["regions"] = []
        brief["template"] = "{n:6} {source}"
        for copy in range(COPIES):
            for region in own:
                made["regions"].append({**region, "id": f"{brief['id']}{copy}{region['id']}"})
                brief["regions"].append(made["regions"][-1]["id"])
        change(brief, made["regions"])
    name = os.path.join(DEMO, f"bench-{change.__name__}.octaphon")
    with open(name, "w", encoding="utf-8") as file:
        json.dump(made, file)
    return name


def rings_out(brief, regions):
    brief.update(tail="rings-out")


def render(name):
    shutil.rmtree(OUT, ignore_errors=True)
    begin = time.monotonic()
    ran = subprocess.run([f"{BIN}/src/cli/octaphon-cli", "render", name, "--out", OUT, "--json", "--no-sync"],
                         check=True, capture_output=True, text=True)
    seconds = time.monotonic() - begin
    return seconds, [json.loads(line) for line in ran.stdout.splitlines()]


RINGING = session(rings_out)
HEARD = {row["key"].split("/")[1][len("region:"):]: row["tail"] / row["rate"]
         for row in render(RINGING)[1] if row["event"] == "row"}


def fixed(brief, regions):
    brief["tail"] = "fixed"
    for region in regions:
        region["tail_seconds"] = HEARD.get(region["id"], 0)


FIXED = session(fixed)
times = {RINGING: [], FIXED: []}
for _ in range(ROUNDS):
    for name in times:
        times[name].append(render(name)[0])
shutil.rmtree(OUT, ignore_errors=True)
ringing, fixed_tail = (statistics.median(times[name]) for name in times)
print(f"{len(HEARD)} spans, tails of {min(HEARD.values()):.2f} to {max(HEARD.values()):.2f} s, {ROUNDS} rounds, medians")
print(f"ringing out  {ringing:6.2f} s")
print(f"fixed        {fixed_tail:6.2f} s")
print(f"ratio        {ringing / fixed_tail:6.2f}   (each pair: "
      f"{', '.join(f'{a / b:.2f}' for a, b in zip(times[RINGING], times[FIXED]))})")
