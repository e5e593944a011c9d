"""Runs the contenders of bench/compare.sh in turns and prints a table."""
import os
import resource
import shutil
import statistics
import subprocess
import sys
import time

BIN, WORK, ROUNDS = sys.argv[1], sys.argv[2], int(sys.argv[3])
JOB, OUT = os.path.join(WORK, "job"), os.path.join(WORK, "out")
TRACKS = [os.path.join(JOB, "track%06d.wav" % i) for i in range(24)]
SPANS = [(i * 15, 15) for i in range(8)]
os.environ["OCTAPHON_CACHE"] = os.path.join(WORK, "cache")


def octaphon(*options):
    return [[f"{BIN}/src/cli/octaphon-cli", "render", f"{JOB}/job.octaphon", "--out", OUT, "--json", *options]]


def bound(*options):
    return [[f"{BIN}/bench/octaphon-bench-bound", JOB, OUT, *options]]


def ffmpeg():
    """One filter graph a span: each track trimmed, written, and summed into the mix."""
    commands = []
    for number, (start, length) in enumerate(SPANS):
        inputs = [part for track in TRACKS for part in ("-ss", str(start), "-t", str(length), "-i", track)]
        graph = ";".join(f"[{i}:a]asplit[s{i}][m{i}]" for i in range(24))
        graph += ";" + "".join(f"[m{i}]" for i in range(24)) + "amix=inputs=24:normalize=0[mix]"
        outputs = []
        for i in range(24):
            outputs += ["-map", f"[s{i}]", "-c:a", "pcm_s24le", f"{OUT}/{number}_{i}.wav"]
        outputs += ["-map", "[mix]", "-c:a", "pcm_s24le", f"{OUT}/{number}_mix.wav"]
        commands.append(["ffmpeg", "-v", "error", "-nostdin", "-y", *inputs, "-filter_complex", graph, *outputs])
    return commands


def sox():
    commands = []
    for number, (start, length) in enumerate(SPANS):
        for i, track in enumerate(TRACKS):
            commands.append(["sox", "-D", track, f"{OUT}/{number}_{i}.wav", "trim", str(start), str(length)])
        commands.append(["sox", "-D", "-m", *[p for t in TRACKS for p in ("-v", "1", t)],
                         f"{OUT}/{number}_mix.wav", "trim", str(start), str(length)])
    return commands


CONTENDERS = {
    "Octaphon, not synced": (octaphon("--no-sync"), False),
    "bound, one thread, not synced": (bound(), False),
    "ffmpeg, one graph a span, not synced": (ffmpeg(), False),
    "sox, once a file, not synced": (sox(), False),
    "Octaphon, one worker, not synced": (octaphon("--no-sync", "--jobs", "1"), False),
    "Octaphon, synced": (octaphon(), True),
    "bound, one thread, synced": (bound("--sync"), True),
}


def run(commands):
    """Seconds, and the largest resident size of any process in MB."""
    shutil.rmtree(OUT, ignore_errors=True)
    os.makedirs(OUT)
    peak, begin = 0, time.monotonic()
    for command in commands:
        process = subprocess.Popen(command, stdout=subprocess.DEVNULL)
        _, status, usage = os.wait4(process.pid, 0)
        if status != 0:
            sys.exit("failed: " + " ".join(command[:4]))
        peak = max(peak, usage.ru_maxrss)
    seconds = time.monotonic() - begin
    files = sum(name.endswith(".wav") for name in os.listdir(OUT))
    if files != 200:
        sys.exit(f"{files} files instead of 200")
    return seconds, peak / 1024


times = {name: [] for name in CONTENDERS}
memory = {name: 0.0 for name in CONTENDERS}
for number in range(ROUNDS):
    for name, (commands, _) in CONTENDERS.items():
        os.sync()
        seconds, peak = run(commands)
        times[name].append(seconds)
        memory[name] = max(memory[name], peak)
        print(f"round {number + 1}: {name}: {seconds:.2f} s", file=sys.stderr)

median = {name: statistics.median(values) for name, values in times.items()}
print("| 200 files, WAV 24 bit | median | range | against Octaphon | peak memory |")
print("|---|---|---|---|---|")
for name, (_, synced) in CONTENDERS.items():
    own = median["Octaphon, synced" if synced else "Octaphon, not synced"]
    values = times[name]
    print(f"| {name} | {median[name]:.2f} s | {min(values):.2f}–{max(values):.2f} s | "
          f"{median[name] / own:.2f} × | {memory[name]:.0f} MB |")
shutil.rmtree(OUT, ignore_errors=True)
