"""progress.py CLI SESSION [OPTION…]: how true the time left was that a run told, after its first tenth.

Prints the largest and the middle error, as parts of what was really left, and of the whole run."""
import json
import subprocess
import sys
import time

cli, session, *more = sys.argv[1:]
run = subprocess.Popen([cli, "render", session, "--all", "--json", "--progress", *more], stdout=subprocess.PIPE, text=True)
began, told, media = time.monotonic(), [], 0
for line in run.stdout:
    event = json.loads(line)
    now = time.monotonic() - began
    if event["event"] == "progress" and event["stage"] == "making files" and event["seconds_left"] is not None:
        told.append((event["fraction"], now, event["seconds_left"]))
    elif event["event"] == "progress":
        media = now
run.wait()
whole = time.monotonic() - began
late = [(at, left) for fraction, at, left in told if fraction >= 0.1]
if not late:
    sys.exit(f"the run took {whole:.1f} s: too short to tell")
of_run = sorted(abs(at + left - whole) / whole for at, left in late)
print(f"{whole:.1f} s, {len(late)} times told after the first tenth: off by {of_run[len(of_run) // 2]:.0%} of the run "
      f"in the middle, {of_run[-1]:.0%} at most")
