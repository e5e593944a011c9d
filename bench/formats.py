#!/usr/bin/python3
"""Files in several formats from one run, beside what a script would do.

    formats.py BUILD WORK [ROUNDS]

WORK is the folder of compare.sh: 24 stereo tracks of 120 s. Each track is written as WAV of 24 bit and as MP3 of 192 kbit/s,
by one run of Octaphon and by one process of ffmpeg with the same encoder; then as FLAC by one worker of Octaphon and by
flac at the same level. The figure is the median of the rounds, in turns.
"""
import json
import os
import resource
import shutil
import statistics
import subprocess
import sys
import time

BUILD, WORK = sys.argv[1:3]
ROUNDS = int(sys.argv[3]) if len(sys.argv) > 3 else 3
JOB = os.path.join(WORK, "job")
TRACKS = [os.path.join(JOB, "track%06d.wav" % i) for i in range(24)]
OUT = f"/dev/shm/octaphon-formats-{os.getpid()}" if os.path.isdir("/dev/shm") else os.path.join(WORK, "formats")
os.environ["OCTAPHON_CACHE"] = os.path.join(WORK, "cache")


def octaphon(outputs, *options):
    """Every track over the whole session, no mix."""
    settings = {"outputs": outputs, "regions": [], "whole_session": True, "mix": False, "tracks": "all", "reach": "inserts",
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


def flac(level):
    return ["flac", "--totally-silent", f"-{level}", "--output-prefix", f"{OUT}/", *TRACKS]


CONTENDERS = {
    "WAV and MP3, Octaphon": octaphon([{"encoding": "pcm24"}, {"encoding": "mp3", "bit_rate": 192}]),
    "WAV and MP3, one process of ffmpeg": ffmpeg(),
    "FLAC level 5, Octaphon, one worker": octaphon([{"encoding": "flac24", "level": 5}], "--jobs", "1"),
    "FLAC level 5, flac": flac(5),
    "FLAC level 8, Octaphon, one worker": octaphon([{"encoding": "flac24", "level": 8}], "--jobs", "1"),
    "FLAC level 8, flac": flac(8),
    "Ogg Vorbis, Octaphon": octaphon([{"encoding": "vorbis", "quality": 6}]),
    "Opus, Octaphon": octaphon([{"encoding": "opus", "rate": 48000, "bit_rate": 128}]),
    "AIFF 24 bit, Octaphon": octaphon([{"encoding": "aiff24"}]),
}


def measure(command):
    shutil.rmtree(OUT, ignore_errors=True)
    os.makedirs(OUT)
    before = resource.getrusage(resource.RUSAGE_CHILDREN)
    begin = time.monotonic()
    subprocess.run(command, check=True, stdout=subprocess.DEVNULL)
    wall = time.monotonic() - begin
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    return wall, after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime


def main():
    times = {name: [] for name in CONTENDERS}
    for _ in range(ROUNDS):
        for name, command in CONTENDERS.items():
            times[name].append(measure(command))
    shutil.rmtree(OUT, ignore_errors=True)
    print(f"{'':38} {'wall':>8} {'processor':>10}")
    for name, all_times in times.items():
        wall, processor = (statistics.median(t[i] for t in all_times) for i in (0, 1))
        print(f"{name:38} {wall:7.2f}s {processor:9.2f}s")


main()
