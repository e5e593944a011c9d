"""Random sessions: trees of groups, returns and sends, key inputs, effects, curves, overrides, reaches.

random_sessions.py CLI FOLDER adds-up FIRST LAST   layers that can be judged add up; through main the files do, added here
random_sessions.py CLI FOLDER joined FIRST LAST    adjacent spans, run up to from the start, joined are the whole, bit for bit
Prints what is wrong, by seed; nothing where all is well. What is invented here is a test's, no example of use.
"""
import json
import pathlib
import random
import subprocess
import sys

import numpy as np

RATE = 48000
LINEAR = {
    "trim": {"gain": (-12, 12)},
    "equaliser": {"bell1_gain": (-9, 9), "low_gain": (-6, 6), "high_gain": (-6, 6), "bell1_freq": (100, 5000)},
    "echo": {"time": (5, 120), "feedback": (0, 70), "mix": (0, 100)},
    "reverb": {"decay": (0.2, 1.5), "mix": (0, 60), "size": (0.3, 1)},
}
DYNAMIC = {
    "compressor": {"threshold": (-50, -10), "ratio": (2, 20), "makeup": (0, 12), "mix": (30, 100),
                   "attack": (0.5, 30), "release": (10, 300), "linked": (0, 1)},
    "limiter": {"gain": (0, 24), "ceiling": (-6, 0), "release": (20, 200)},
}
STILL = {"linked", "size", "decay", "time"}  # parameters that no curve moves here


def write_float(file, sound):
    """32 bit float WAV, plain: RIFF/WAVE as Microsoft and IBM published it in 1991."""
    data = sound.astype("<f4").tobytes()
    channels = sound.shape[1]
    head = b"fmt " + (16).to_bytes(4, "little") + (3).to_bytes(2, "little") + channels.to_bytes(2, "little")
    head += RATE.to_bytes(4, "little") + (RATE * channels * 4).to_bytes(4, "little")
    head += (channels * 4).to_bytes(2, "little") + (32).to_bytes(2, "little")
    body = b"WAVE" + head + b"data" + len(data).to_bytes(4, "little") + data
    file.write_bytes(b"RIFF" + len(body).to_bytes(4, "little") + body)


def read_float(file):
    data, at = file.read_bytes(), 12
    while at < len(data):
        size = int.from_bytes(data[at + 4:at + 8], "little")
        if data[at:at + 4] == b"fmt ":
            channels = int.from_bytes(data[at + 10:at + 12], "little")
        if data[at:at + 4] == b"data":
            return np.frombuffer(data[at + 8:at + 8 + size], "<f4").reshape(-1, channels).astype(np.float64)
        at += 8 + size + size % 2
    raise ValueError(f"{file} has no sound")


class Maker:
    """One session out of one seed."""

    def __init__(self, seed, folder, dynamic):
        self.random = random.Random(seed)
        self.noise = np.random.RandomState(seed)
        self.folder = folder
        self.effects = LINEAR | dynamic
        self.dynamic = dynamic
        self.count = 0

    def id(self, kind):
        self.count += 1
        return f"{kind}{self.count}"

    def chance(self, of):
        return self.random.random() < of

    def choice(self, *of):
        return self.random.choice(of)

    def between(self, least, most):
        return self.random.uniform(least, most)

    def media(self):
        (self.folder / "media").mkdir(parents=True)
        for i in range(4):
            sound = self.noise.randn(30000, 2 if i == 0 else self.choice(1, 2, 2, 6)) * 0.15
            sound[::700] *= 4
            write_float(self.folder / f"media/m{i}.wav", sound)
        return [{"id": f"m{i}", "file": f"media/m{i}.wav"} for i in range(4)]

    def inserts(self, most):
        chain = []
        for _ in range(self.random.randint(0, most)):
            effect = self.random.choice(list(LINEAR) + 3 * list(self.dynamic))
            values = {key: round(self.between(*r)) if key == "linked" else self.between(*r)
                      for key, r in self.effects[effect].items() if self.chance(0.7)}
            tags = self.choice([], ["sound"], ["mix"])
            chain.append({"id": self.id("i"), "effect": effect, "values": values, "tags": tags, "on": self.chance(0.9)})
        return chain

    def strip(self, name, kind, groups, inside):
        made = {"id": name, "name": name.upper(), "kind": kind, "channels": self.choice(1, 2, 2, 6),
                "gain_db": self.between(-12, 3), "pan": self.between(-1, 1), "inserts": self.inserts(2 if kind == "track" else 3)}
        if groups and self.chance(inside):
            made["group"] = self.random.choice(groups)["id"]
        return made

    def clip(self):
        return {"id": self.id("c"), "medium": f"m{self.random.randint(0, 3)}", "start": self.random.randint(0, 40000),
                "offset": self.random.randint(0, 5000), "length": self.random.randint(1, 20000),
                "gain_db": self.between(-6, 3), "inserts": self.inserts(1) if self.chance(0.3) else []}

    def tracks(self, groups):
        tracks = []
        for i in range(self.random.randint(3, 6)):
            track = self.strip(f"t{i}", "track", groups, 0.7)
            track.update(mute=self.chance(0.1), invert=self.chance(0.3), helper=self.chance(0.12),
                         clips=[self.clip() for _ in range(self.random.randint(0, 4))])
            tracks.append(track)
        return tracks

    def send_from(self, strips, returns, main):
        keys = [i["id"] for s in strips + [main] for i in s["inserts"] if i["effect"] in DYNAMIC]
        targets = [r["id"] for r in returns] * 2 + keys
        for strip in strips:
            strip["sends"] = [{"id": self.id("s"), "to": self.random.choice(targets), "gain_db": self.between(-12, 0),
                               "pre_fader": self.chance(0.4), "on": self.chance(0.9)}
                              for _ in range(self.random.randint(0, 2)) if targets]

    def points(self, least, most):
        frames = sorted(self.random.sample(range(60000), self.random.randint(1, 4)))
        return [{"at": at, "value": self.between(least, most), "segment": self.choice("linear", "hold", "curve"),
                 "bend": self.between(-1, 1)} for at in frames]

    def curves(self, strip, is_main):
        curves = []
        add = lambda target, least, most: curves.append({"target": target, "points": self.points(least, most)})
        if self.chance(0.3):
            add("gain", -12, 0)
        if not is_main and self.chance(0.2):
            add("pan", -1, 1)
        if not is_main and self.chance(0.15):
            frames = sorted(self.random.sample(range(60000), 3))
            points = [{"at": at, "value": self.choice(0, 1), "segment": "hold"} for at in frames]
            curves.append({"target": "mute", "points": points})
        for send in strip.get("sends", []):
            if self.chance(0.3):
                add("send:" + send["id"], -20, 0)
        for insert in strip["inserts"]:
            for key, limits in self.effects[insert["effect"]].items():
                if key not in STILL and self.chance(0.1):
                    add(f"insert:{insert['id']}:{key}", *limits)
        return curves

    def session(self):
        media = self.media()
        groups = []
        for i in range(self.random.randint(0, 4)):
            groups.append(self.strip(f"g{i}", "group", groups, 0.5))
        returns = [self.strip(f"r{i}", "return", groups, 0.4) for i in range(self.random.randint(0, 3))]
        tracks = self.tracks(groups)
        main = {"channels": self.choice(1, 2, 2, 6), "gain_db": self.between(-3, 3), "inserts": self.inserts(3)}
        strips = groups + returns + tracks
        self.random.shuffle(strips)
        self.send_from(strips, returns, main)
        for strip in strips:
            strip["automation"] = self.curves(strip, False)
        main["automation"] = self.curves(main, True)
        return {"format": "octaphon-session", "version": "1.0", "rate": RATE, "main": main, "media": media, "tracks": strips}

    def overrides(self):
        return {"faders": self.choice("as-mixed", "as-mixed", "unity", "value"), "fader_db": -5,
                "pans": self.choice("as-mixed", "as-mixed", "centred"), "volume_automation": self.chance(0.8),
                "inserts": self.choice("all", "all", "all", "all", "none", "tagged"), "insert_tags": ["sound"]}

    def sources(self, session):
        """Every track once: each alone, by outermost groups, or some as one file."""
        kinds = lambda kind: [t for t in session["tracks"] if t["kind"] == kind]
        tracks, groups = kinds("track"), kinds("group")
        how = self.choice("tracks", "tracks", "groups", "sums")
        if how == "groups":
            return {"tracks": [t["id"] for t in tracks if "group" not in t],
                    "groups": [g["id"] for g in groups if "group" not in g]}
        if how == "sums":
            some = [t["id"] for t in self.random.sample(tracks, self.random.randint(1, len(tracks)))]
            return {"tracks": [t["id"] for t in tracks if t["id"] not in some],
                    "sums": [{"id": "s", "name": "summed", "tracks": some}]}
        return {"tracks": "all"}

    def brief(self, session):
        groups = [t["id"] for t in session["tracks"] if t["kind"] == "group"]
        reaches = ["clips", "inserts", "track", "groups", "main-inserts"] + ["main"] * 6
        if groups:
            reaches += [self.choice("group:", "group-inserts:") + self.random.choice(groups)] * 2
        brief = {"id": "b", "name": "B", "encoding": "float32", "template": "{region}_{source}", "reach": self.random.choice(reaches),
                 "with_returns": self.choice("in", "in", "files"), "tail_seconds": self.choice(0, 0.5),
                 "counts": self.choice("begins-here", "everything-heard"), "run_up": self.choice(0, 0, 0.1, "start"),
                 "override_groups": self.chance(0.3), "override_returns": self.chance(0.3), "override_main": self.chance(0.3)}
        if brief["with_returns"] == "files":
            brief["returns"] = "all"
        if self.chance(0.3):
            brief["exceptions"] = [{"track": self.random.choice(session["tracks"])["id"]} | self.overrides()]
        return brief | self.overrides() | self.sources(session)


def render(cli, folder, session):
    file = folder / "s.octaphon"
    file.write_text(json.dumps(session))
    ran = subprocess.run([cli, "render", "--json", "--out", folder / "out", file], capture_output=True, timeout=600)
    if ran.returncode not in (0, 1):  # sends that lead back are faults of their rows, and looked for
        raise RuntimeError(f"exit {ran.returncode}: {ran.stderr.decode()[-300:]}")
    return [json.loads(line) for line in ran.stdout.splitlines()]


def adds_up(cli, folder, seed):
    maker = Maker(seed, folder, DYNAMIC)
    session = maker.session()
    start = maker.choice(0, 0, 5000, 12000)
    session["regions"] = [{"id": "x", "name": "X", "start": start, "length": 30000},
                          {"id": "y", "name": "Y", "start": start + 20000, "length": 15000}]
    session["briefs"] = [maker.brief(session)]
    judged = 0
    events = render(cli, folder, session)
    for event in events:
        if event["event"] != "sum" or event["verdict"] == "not-judged":
            continue
        judged += 1
        if event["verdict"] == "differs" or event["residual_db"] > -120:
            raise RuntimeError(event["text"])
        made = {e["file"]: read_float(folder / "out" / e["file"]) for e in events
                if e["event"] == "row" and e["result"] == "written" and e["file"].startswith(event["span"] + "_")}
        mix = made.pop(event["span"] + "_mix.wav", None)
        if session["briefs"][0]["reach"] != "main" or mix is None or not made:
            continue
        peak = max([1] + [np.abs(layer).max() for layer in made.values()])
        residual = np.abs(sum(made.values()) - mix).max() / peak
        if residual > 1e-6:
            raise RuntimeError(f"files differ from the mix by {residual:.2g}")
    return judged


def joined(cli, folder, seed):
    maker = Maker(seed, folder, {"compressor": DYNAMIC["compressor"]})  # a limiter looks ahead, and never across a cut
    session = maker.session()
    cuts = [0] + sorted(maker.random.sample(range(1, 50000), 3)) + [50000]
    spans = [("Whole", 0, 50000)] + [(f"Part{i}", cuts[i], cuts[i + 1] - cuts[i]) for i in range(4)]
    session["regions"] = [{"id": name, "name": name, "start": at, "length": length} for name, at, length in spans]
    session["briefs"] = [maker.brief(session) | {"counts": "everything-heard", "run_up": "start", "tail_seconds": 0}]
    made = {e["file"] for e in render(cli, folder, session) if e["event"] == "row" and e["result"] == "written"}
    compared = 0
    for whole in sorted(name for name in made if name.startswith("Whole_")):
        parts = [whole.replace("Whole", f"Part{i}") for i in range(4)]
        sound, at = read_float(folder / "out" / whole), 0
        for part, length in zip(parts, (cuts[i + 1] - cuts[i] for i in range(4))):
            if part in made:  # a track without clips there has no file
                compared += 1
                if not np.array_equal(read_float(folder / "out" / part), sound[at:at + length]):
                    raise RuntimeError(f"{part} is not that part of {whole}")
            at += length
    return compared


def main():
    cli, folder, check = sys.argv[1], pathlib.Path(sys.argv[2]), {"adds-up": adds_up, "joined": joined}[sys.argv[3]]
    looked = 0
    for seed in range(int(sys.argv[4]), int(sys.argv[5])):
        try:
            looked += check(cli, folder / f"{sys.argv[3]}{seed}", seed)
        except (RuntimeError, ValueError) as problem:
            print(f"seed {seed}: {problem}")
    if looked < int(sys.argv[5]) - int(sys.argv[4]):
        print(f"only {looked} were looked at")


main()
