"""Runs the contenders of bench/compare.sh in turns and prints a table."""
import os
import shutil
import statistics
import subprocess
import sys
import time

BIN, WORK, ROUNDS = sys.argv[1], sys.argv[2], int(sys.argv[3])
JOB = os.path.join(WORK, "job")
ON_DISK = os.path.join(WORK, "out")
# What is not synced goes to memory: else the disk's own writing behind our backs is measured with whoever comes next.
IN_MEMORY = f"/dev/shm/octaphon-bench-{os.getpid()}" if os.path.isdir("/dev/shm") else ON_DISK
TRACKS = [os.path.join(JOB, "track%06d.wav" % i) for i in range(24)]
SPANS = [(i * 15, 15) for i in range(8)]
os.environ["OCTAPHON_CACHE"] = os.path.join(WORK, "cache")


def octaphon(out, *options):
    return [[f"{BIN}/src/cli/octaphon-cli", "render", f"{JOB}/job.octaphon", "--out", out, "--json", *options]]


def bound(out, *options):
    return [[f"{BIN}/bench/octaphon-bench-bound", JOB, out, *options]]


def ffmpeg(out):
    """One filter graph a span: each track trimmed, written, and summed into the mix."""
    commands = []
    for number, (start, length) in enumerate(SPANS):
        inputs = [part for track in TRACKS for part in ("-ss", str(start), "-t", str(length), "-i", track)]
        graph = ";".join(f"[{i}:a]asplit[s{i}][m{i}]" for i in range(24))
        graph += ";" + "".join(f"[m{i}]" for i in range(24)) + "amix=inputs=24:normalize=0[mix]"
        outputs = []
        for i in range(24):
            outputs += ["-map", f"[s{i}]", "-c:a", "pcm_s24le", f"{out}/{number}_{i}.wav"]
        outputs += ["-map", "[mix]", "-c:a", "pcm_s24le", f"{out}/{number}_mix.wav"]
        commands.append(["ffmpeg", "-v", "error", "-nostdin", "-y", *inputs, "-filter_complex", graph, *outputs])
    return commands


def sox(out):
    commands = []
    for number, (start, length) in enumerate(SPANS):
        for i, track in enumerate(TRACKS):
            commands.append(["sox", "-D", track, f"{out}/{number}_{i}.wav", "trim", str(start), str(length)])
        commands.append(["sox", "-D", "-m", *[p for t in TRACKS for p in ("-v", "1", t)],
                         f"{out}/{number}_mix.wav", "trim", str(start), str(length)])
    return commands


CONTENDERS = {
    "Octaphon, not synced": (lambda out: octaphon(out, "--no-sync"), False),
    "bound, one thread, not synced": (bound, False),
    "bound, two threads, not synced": (lambda out: bound(out, "--two"), False),
    "ffmpeg, one graph a span, not synced": (ffmpeg, False),
    "sox, once a file, not synced": (sox, False),
    "Octaphon, one worker, not synced": (lambda out: octaphon(out, "--no-sync", "--jobs", "1"), False),
    "Octaphon, synced": (octaphon, True),
    "bound, one thread, synced": (lambda out: bound(out, "--sync"), True),
}


def run(make_commands, synced):
    """Seconds of the clock, seconds of processors, and the largest resident size of any process in MB."""
    out = ON_DISK if synced else IN_MEMORY
    shutil.rmtree(out, ignore_errors=True)
    os.makedirs(out)
    os.sync()
    peak, cpu, begin = 0, 0.0, time.monotonic()
    for command in make_commands(out):
        process = subprocess.Popen(command, stdout=subprocess.DEVNULL)
        _, status, usage = os.wait4(process.pid, 0)
        if status != 0:
            sys.exit("failed: " + " ".join(command[:4]))
        peak = max(peak, usage.ru_maxrss)
        cpu += usage.ru_utime + usage.ru_stime
    seconds = time.monotonic() - begin
    files = sum(name.endswith(".wav") for name in os.listdir(out))
    shutil.rmtree(out, ignore_errors=True)
    if files != 200:
        sys.exit(f"{files} files instead of 200")
    return seconds, cpu, peak / 1024


results = {name: [] for name in CONTENDERS}
run(CONTENDERS["Octaphon, not synced"][0], False)  # media hashed and in the page cache, as on any day but the first
for number in range(ROUNDS):
    for name, (commands, synced) in CONTENDERS.items():
        results[name].append(run(commands, synced))
        print(f"round {number + 1}: {name}: {results[name][-1][0]:.2f} s", file=sys.stderr)


def median(name, column):
    return statistics.median(row[column] for row in results[name])


print("| 200 files, WAV 24 bit | median | range | against Octaphon | processor time | peak memory |")
print("|---|---|---|---|---|---|")
for name, (_, synced) in CONTENDERS.items():
    own = median("Octaphon, synced" if synced else "Octaphon, not synced", 0)
    clock = [row[0] for row in results[name]]
    print(f"| {name} | {median(name, 0):.2f} s | {min(clock):.2f}–{max(clock):.2f} s | {median(name, 0) / own:.2f} × | "
          f"{median(name, 1):.2f} s | {max(row[2] for row in results[name]):.0f} MB |")
