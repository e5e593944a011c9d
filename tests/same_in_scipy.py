"""same_in_scipy.py FOLDER: builds the mix of the session in FOLDER again with numpy and scipy (filters by the Audio EQ
Cookbook) and prints by how many dB the rendered file differs at most."""
import json
import math
import subprocess
import sys

import numpy as np
from scipy.signal import lfilter

folder = sys.argv[1]
session = json.load(open(folder + "/test.octaphon", encoding="utf-8"))
rate = session["rate"]
tracks = {t["id"]: t for t in session["tracks"]}


def sound(file):
    info = subprocess.run(["sox", "--i", "-c", file], capture_output=True, text=True, check=True).stdout
    raw = subprocess.run(["sox", "-D", file, "-t", "f64", "-"], capture_output=True, check=True).stdout
    return np.frombuffer(raw).reshape(-1, int(info)).T


def cookbook(kind, hertz, q, db=0.0):
    w = 2 * math.pi * hertz / rate
    alpha, c, a = math.sin(w) / (2 * q), math.cos(w), 10 ** (db / 40)
    if kind == "bell":
        return [1 + alpha * a, -2 * c, 1 - alpha * a], [1 + alpha / a, -2 * c, 1 - alpha / a]
    return [(1 - c) / 2, 1 - c, (1 - c) / 2], [1 + alpha, -2 * c, 1 - alpha]


def inserts(track, x):
    for insert in track.get("inserts", []):
        v = insert["values"]
        if "bell1_gain" in v:
            x = lfilter(*cookbook("bell", v["bell1_freq"], v["bell1_q"], v["bell1_gain"]), x)
        elif "high_cut" in v:
            x = lfilter(*cookbook("low", v["high_cut_freq"], math.sqrt(0.5)), x)
        else:
            late = np.zeros_like(x)
            n = round(v["time"] / 1000 * rate)
            late[:, n:] = x[:, :-n]
            x = x + v["mix"] / 100 * (late - x)
    return x


def fader(track, x):
    gain, pan = 10 ** (track.get("gain_db", 0) / 20), track.get("pan", 0)
    if len(x) == 1:
        angle = (pan + 1) * math.pi / 4
        return gain * np.vstack([x[0] * math.cos(angle), x[0] * math.sin(angle)])
    return gain * np.vstack([x[0] * min(1, 1 - pan), x[1] * min(1, 1 + pan)])


rendered = sound(folder + "/out/Quay_mix.wav")
sums = {}
for track in reversed(session["tracks"]):  # groups stand before what is in them
    if track.get("kind") == "return":
        continue
    x = sums.get(track["id"])
    for clip in track.get("clips", []):
        medium = sound(folder + "/media/" + clip["medium"] + ".wav")
        x = np.zeros((track["channels"], rendered.shape[1]))
        end = clip["start"] + clip["length"]
        x[:, clip["start"]:end] = medium[:, :clip["length"]]
    out = fader(track, inserts(track, x))
    up = track.get("group", "main")
    sums[up] = sums.get(up, 0) + out
print(20 * math.log10(np.abs(sums["main"] - rendered).max() + 1e-12))
