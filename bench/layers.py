"""layers.py BIN WORK: what layers cost, and their levels. A session of 64 stereo tracks with equaliser and compressor each, 6 groups with
inserts, 2 reverbs and 20 spans of 4 s: the mix alone; 1, 8 and 64 layers beside it, at the reach of the track and of main;
and one pass for each file, as soloing one after the other would."""
import json
import os
import subprocess
import sys
import time

bin_, work = sys.argv[1], os.path.join(sys.argv[2], "signal")
cli = os.path.join(bin_, "src/cli/octaphon-cli")
RATE, SPAN, SPANS, TRACKS, GROUPS = 48000, 4, 20, 64, 6
os.makedirs(os.path.join(work, "media"), exist_ok=True)
for i in range(TRACKS):
    file = os.path.join(work, "media", f"{i}.wav")
    if not os.path.exists(file):
        # The same noise from another place for each: equal tracks would be found and worked through once.
        subprocess.run(["sox", "-R", "-n", "-r", str(RATE), "-c", "2", "-b", "24", file, "synth", str(SPAN * SPANS + i),
                        "pinknoise", "vol", "0.2", "trim", str(i)], check=True)


def insert(id_, effect, **values):
    return {"id": id_, "effect": effect, "values": values}


def session(briefs):
    tracks = [{"id": f"g{g}", "name": f"G{g}", "kind": "group",
               "inserts": [insert(f"ge{g}", "equaliser", bell1_gain=3), insert(f"gc{g}", "compressor", threshold=-30)],
               "sends": [{"id": f"gs{g}", "to": f"r{g % 2}", "gain_db": -12}]} for g in range(GROUPS)]
    for t in range(TRACKS):
        tracks.append({"id": f"t{t}", "name": f"T{t}", "group": f"g{t % GROUPS}", "gain_db": -12,
                       "inserts": [insert(f"e{t}", "equaliser", bell1_gain=4, high_gain=-3),
                                   insert(f"c{t}", "compressor", threshold=-30)],
                       "clips": [{"id": f"c{t}-{s}", "medium": f"m{t}", "start": s * SPAN * RATE,
                                  "offset": s * SPAN * RATE, "length": SPAN * RATE} for s in range(SPANS)]})
    for r in range(2):
        tracks.append({"id": f"r{r}", "name": f"R{r}", "kind": "return", "inserts": [insert(f"rv{r}", "reverb")]})
    return {"format": "octaphon-session", "version": "1.0", "rate": RATE, "title": "Signal",
            "media": [{"id": f"m{t}", "file": f"media/{t}.wav"} for t in range(TRACKS)], "tracks": tracks,
            "regions": [{"id": f"s{s}", "name": f"S{s:02}", "start": s * SPAN * RATE, "length": SPAN * RATE}
                        for s in range(SPANS)],
            "briefs": briefs}


LEVELS = {"loudness": {"kind": "loudness", "target": -23, "per": "span"},
          "true peak": {"kind": "true-peak", "target": -1, "per": "span"}}


def brief(layers, reach, mix=True):
    return {"id": "b", "name": "B", "mix": mix, "tracks": [f"t{t}" for t in layers], "reach": reach, "folder": "out",
            "template": "{region} {source}"}


def seconds(brief_):
    file = os.path.join(work, "s.octaphon")
    with open(file, "w") as out:
        json.dump(session([brief_]), out)
    best = None
    for _ in range(3):
        with open("/dev/null"):
            out = os.path.join("/dev/shm", "octaphon-bench-signal")
            subprocess.run(["rm", "-rf", out])
            begin = time.perf_counter()
            done = subprocess.run([cli, "render", file, "--out", out, "--no-sync", "--json"], check=True,
                                  capture_output=True, text=True).stdout
            took = time.perf_counter() - begin
            assert json.loads(done.splitlines()[-1])["failed"] == 0
            best = took if best is None else min(best, took)
            subprocess.run(["rm", "-rf", out])
    return best


mix = seconds(brief([], "main"))
sound = SPAN * SPANS
print(f"| what, {SPANS} spans of {SPAN} s | best of 3 | against the mix alone | against real time |")
print("|---|---|---|---|")
print(f"| the mix alone | {mix:.2f} s | 1.00 × | {sound / mix:.0f} × |")
for reach in ("track", "main"):
    for count in (1, 8, 64):
        took = seconds(brief(range(count), reach))
        files = SPANS * (count + 1)
        print(f"| the mix and {count} layers, reach {reach} | {took:.2f} s | {took / mix:.2f} × | "
              f"{sound * (count + 1) / took:.0f} × ({files} files) |")
        for name, level in LEVELS.items() if count == 64 else ():
            levelled = seconds({**brief(range(count), reach), "level": level})
            print(f"| the same, one gain a span by {name} | {levelled:.2f} s | {levelled / mix:.2f} × | "
                  f"{levelled / took:.2f} of the same without |")
one = sum(seconds(brief([t], "track", False)) for t in (0, 21, 42)) / 3
print(f"| 64 layers, reach track, one after the other (from 3 of them, and the mix) | {64 * one + mix:.2f} s | "
      f"{(64 * one + mix) / mix:.2f} × | |")
alone = sum(seconds({**brief([t], "main"), "tracks": [f"t{t}"]}) for t in (0, 21)) / 2
print(f"| 64 layers through main, keyed, one after the other with the mix each time (from 2) | {64 * alone:.2f} s | "
      f"{64 * alone / mix:.2f} × | |")
