#!/usr/bin/python3
"""What levels cost: the 200 files of compare.sh plain, brought to a loudness, and to a true peak, in turns.

    levels.py BUILD WORK [ROUNDS]

WORK is the folder of compare.sh. Files go to memory; the receipt is new each time, so that all of it is measured.
"""
import json
import os
import shutil
import statistics
import sys

from timed import timed

BUILD, WORK = sys.argv[1:3]
ROUNDS = int(sys.argv[3]) if len(sys.argv) > 3 else 5
OUT = f"/dev/shm/octaphon-levels-{os.getpid()}" if os.path.isdir("/dev/shm") else os.path.join(WORK, "levels")
os.environ["OCTAPHON_CACHE"] = os.path.join(WORK, "cache")

KINDS = {
    "plain": None,
    "a gain": {"kind": "gain", "target": -3},
    "loudness, each file": {"kind": "loudness", "target": -23},
    "loudness, one gain a span": {"kind": "loudness", "target": -23, "per": "span"},
    "true peak, each file": {"kind": "true-peak", "target": -1},
}


def render(level):
    command = [f"{BUILD}/src/cli/octaphon-cli", "render", f"{WORK}/job/job.octaphon", "--out", OUT, "--no-sync", "--json"]
    return command + ["--set", f"level={json.dumps(level)}"] if level else command


def main():
    times = {name: [] for name in KINDS}
    for _ in range(ROUNDS):
        for name, level in KINDS.items():
            times[name].append(timed(render(level), OUT))
    shutil.rmtree(OUT, ignore_errors=True)
    for name, all_times in times.items():
        wall, processor = (statistics.median(t[i] for t in all_times) for i in (0, 1))
        against = statistics.median(t[1] / plain[1] for t, plain in zip(all_times, times["plain"]))
        print(f"{name:28} {wall:6.2f} s   processor {processor:6.2f} s   {against:5.2f} of plain, pair by pair")


main()
