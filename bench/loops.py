"""Runs the contenders of bench/loops.sh in turns and prints medians and their ratios."""
import json
import os
import shutil
import statistics
import subprocess
import sys
import time

import numpy
from scipy.io import wavfile
from scipy.signal import lfilter

BIN, WORK, ROUNDS = sys.argv[1], os.path.join(sys.argv[2], "loops"), int(sys.argv[3])
CLI = f"{BIN}/src/cli/octaphon-cli"
OUT = f"/dev/shm/octaphon-bench-{os.getpid()}" if os.path.isdir("/dev/shm") else os.path.join(WORK, "out")
os.environ["OCTAPHON_CACHE"] = os.path.join(WORK, "cache")
RATE, BODY, TRACKS, TAIL = 48000, 60, 6, 4  # seconds
AMBIENCE = 180


def noise(seconds, seed):
    return numpy.random.default_rng(seed).standard_normal((seconds * RATE, 2)).astype(numpy.float32) * 0.05


def session():
    """Six stereo tracks, two of them through a reverb; one loop of a minute, three briefs."""
    made = {"format": "octaphon-session", "version": "1.0", "rate": RATE, "media": [], "tracks": [], "briefs": [],
            "regions": [{"id": "r", "name": "Loop", "start": 0, "length": BODY * RATE}]}
    for i in range(TRACKS):
        wavfile.write(os.path.join(WORK, f"{i}.wav"), RATE, noise(BODY, i))
        made["media"].append({"id": f"m{i}", "file": f"{i}.wav"})
        track = {"id": f"t{i}", "name": f"Track {i}", "channels": 2, "inserts": [],
                 "clips": [{"id": f"c{i}", "medium": f"m{i}", "start": 0, "length": BODY * RATE}]}
        if i < 2:
            track["inserts"] = [{"id": f"v{i}", "effect": "reverb", "values": {"decay": 1.5, "mix": 30}}]
        made["tracks"].append(track)
    for id, settings in {"plain": {}, "tail": {"tail": "fixed", "tail_seconds": TAIL},
                         "fold": {"loop": {"way": "fold"}}}.items():
        made["briefs"].append({"id": id, "name": id, "regions": "all", "mix": True, "tracks": "all", "folder": id,
                               "template": "{source}", "encoding": "pcm24", **settings})
    name = os.path.join(WORK, "loops.octaphon")
    with open(name, "w", encoding="utf-8") as file:
        json.dump(made, file)
    return name


def run(*command):
    subprocess.run(command, check=True, capture_output=True)


def render(brief):
    run(CLI, "render", SESSION, "--brief", brief, "--out", OUT, "--no-sync")


def folded_by_script():
    """Rendered with tails, and folded by ffmpeg, file by file."""
    render("tail")
    for name in sorted(os.listdir(OUT)):
        if name.endswith(".wav"):
            run("ffmpeg", "-v", "error", "-y", "-i", os.path.join(OUT, name), "-filter_complex",
                f"[0]asplit[a][b];[a]atrim=end={BODY}[body];[b]atrim=start={BODY},asetpts=PTS-STARTPTS[tail];"
                "[body][tail]amix=duration=first:normalize=0", "-c:a", "pcm_s24le", os.path.join(OUT, "folded " + name))


def copied():
    """Nothing but reading and writing what the fold gives."""
    for i in range(TRACKS + 1):
        run("ffmpeg", "-v", "error", "-y", "-i", os.path.join(WORK, f"{i % TRACKS}.wav"), "-c:a", "pcm_s24le",
            os.path.join(OUT, f"{i}.wav"))


def searched(milliseconds):
    return lambda: run(CLI, "seam", LONG, "--search", str(milliseconds), "--json")


def searched_by_script():
    """The end that is most like the beginning over 30 ms, nothing else."""
    run("/usr/bin/python3", "-c", "import sys, numpy\nfrom scipy.io import wavfile\nfrom scipy.signal import correlate\n"
        "rate, x = wavfile.read(sys.argv[1]); n = int(.03 * rate); r = int(.2 * rate)\n"
        "a = x[:n, 0]; b = x[-r - n:, 0]; c = correlate(b, a, 'valid')\n"
        "e = numpy.convolve(b * b, numpy.ones(n), 'valid')\nprint(numpy.argmax(c / numpy.sqrt(e)))", LONG)


def compare(title, contenders):
    times = {name: [] for name in contenders}
    for _ in range(ROUNDS):
        for name, work in contenders.items():
            shutil.rmtree(OUT, ignore_errors=True)
            os.makedirs(OUT)
            begin = time.monotonic()
            work()
            times[name].append(time.monotonic() - begin)
    shutil.rmtree(OUT, ignore_errors=True)
    first = times[next(iter(contenders))]
    print(f"{title}, {ROUNDS} rounds\n| | median | range | against the first, pair by pair |\n|---|---|---|---|")
    for name, took in times.items():
        ratio = statistics.median(a / b for a, b in zip(took, first))
        print(f"| {name} | {statistics.median(took):.2f} s | {min(took):.2f}–{max(took):.2f} s | {ratio:.2f} × |")


os.makedirs(WORK, exist_ok=True)
SESSION = session()
LONG = os.path.join(WORK, "ambience.wav")
wavfile.write(LONG, RATE, lfilter(numpy.ones(20) / 20, 1, noise(AMBIENCE, 99), axis=0).astype(numpy.float32))
compare(f"A loop of {BODY} s, {TRACKS} tracks and the mix", {
    "plain": lambda: render("plain"), "fold": lambda: render("fold"), "plain with tails, folded by ffmpeg": folded_by_script,
    "ffmpeg, reading and writing alone": copied})
compare(f"A better join of {AMBIENCE} s of stereo", {
    "ffmpeg, reading alone": lambda: run("ffmpeg", "-v", "error", "-i", LONG, "-f", "null", "-"),
    "numpy, likeness over 200 ms": searched_by_script, "Octaphon, within 20 ms": searched(20),
    "Octaphon, within 200 ms": searched(200), "Octaphon, within 2 s": searched(2000)})
