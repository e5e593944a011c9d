#!/usr/bin/python3
"""Files in several formats from one run, beside what a script would do.

    formats.py BUILD WORK [ROUNDS]

WORK is the folder of compare.sh: 24 stereo tracks of 120 s. Each track is written as WAV of 24 bit and as MP3 of 192 kbit/s,
by one run of Octaphon and by one process of ffmpeg with the same encoder. The figure is the median of the rounds, in turns.
Then six of the tracks as FLAC, by one worker of Octaphon and by flac at the same level, in pairs: those are nearly alike.
"""
import json
import os
import shutil
import statistics
import sys

from timed import timed

BUILD, WORK = sys.argv[1:3]
ROUNDS = int(sys.argv[3]) if len(sys.argv) > 3 else 3
JOB = os.path.join(WORK, "job")
TRACKS = [os.path.join(JOB, "track%06d.wav" % i) for i in range(24)]
OUT = f"/dev/shm/octaphon-formats-{os.getpid()}" if os.path.isdir("/dev/shm") else os.path.join(WORK, "formats")
os.environ["OCTAPHON_CACHE"] = os.path.join(WORK, "cache")


def octaphon(outputs, *options, tracks="all"):
    """Each track over the whole session, no mix."""
    settings = {"outputs": outputs, "regions": [], "whole_session": True, "mix": False, "tracks": tracks, "reach": "inserts",
                "counts": "everything-heard", "template": "{track}"}
    sets = [part for key, value in settings.items() for part in ("--set", f"{key}={json.dumps(value)}")]
    return [f"{BUILD}/src/cli/octaphon-cli", "render", f"{JOB}/job.octaphon", "--out", OUT, "--no-sync", "--json", *sets, *options]


def ffmpeg():
    command = ["ffmpeg", "-v", "error", "-nostdin", "-y"]
    for track in TRACKS:
        command += ["-i", track]
    for i in range(24):
        command += ["-map", f"{i}:a", "-c:a", "pcm_s24le", f"{OUT}/{i}.wav", "-map", f"{i}:a", "-c:a", "libmp3lame", "-b:a", "192k", f"{OUT}/{i}.mp3"]
    return command


def flac_pair(level, tracks=6):
    with open(f"{JOB}/job.octaphon") as session:
        ids = [track["id"] for track in json.load(session)["tracks"][:tracks]]
    return (octaphon([{"encoding": "flac24", "level": level}], "--jobs", "1", tracks=ids),
            ["flac", "--totally-silent", f"-{level}", "--output-prefix", f"{OUT}/", *TRACKS[:tracks]])


CONTENDERS = {
    "WAV and MP3, Octaphon": octaphon([{"encoding": "pcm24"}, {"encoding": "mp3", "bit_rate": 192}]),
    "WAV and MP3, one process of ffmpeg": ffmpeg(),
    "Ogg Vorbis, Octaphon": octaphon([{"encoding": "vorbis", "quality": 6}]),
    "Opus, Octaphon": octaphon([{"encoding": "opus", "rate": 48000, "bit_rate": 128}]),
    "AIFF 24 bit, Octaphon": octaphon([{"encoding": "aiff24"}]),
}


def main():
    times = {name: [] for name in CONTENDERS}
    for _ in range(ROUNDS):
        for name, command in CONTENDERS.items():
            times[name].append(timed(command, OUT))
    shutil.rmtree(OUT, ignore_errors=True)
    print(f"{'':38} {'wall':>8} {'processor':>10}")
    for name, all_times in times.items():
        wall, processor = (statistics.median(t[i] for t in all_times) for i in (0, 1))
        print(f"{name:38} {wall:7.2f}s {processor:9.2f}s")
    for level in (5, 8):
        pairs = [[timed(command, OUT)[1] for command in flac_pair(level)] for _ in range(8)]
        ours, theirs = (statistics.median(pair[i] for pair in pairs) for i in (0, 1))
        ratios = sorted(a / b for a, b in pairs)
        print(f"FLAC level {level}: {ours:.2f}s, flac {theirs:.2f}s, pair by pair {statistics.median(ratios):.2f} "
              f"({ratios[0]:.2f}–{ratios[-1]:.2f})")


main()
