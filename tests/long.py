"""long.py BUILD [CASE]…: the cases of tests/long.sh."""
import array
import hashlib
import json
import os
import random
import resource
import shutil
import signal
import struct
import subprocess
import sys
import tempfile
import time

import long_slurm

BUILD = os.path.abspath(sys.argv[1])
CLI = f"{BUILD}/src/cli/octaphon-cli"
ROOT = tempfile.mkdtemp(prefix="octaphon-long-")
RATE = 48000
RANDOM = random.Random(7)
CASES = []


def case(expected):
    """A function that gives what was found; equal to what is expected, it passes."""
    def add(function):
        CASES.append((function.__name__.replace("_", " "), expected, function))
        return function
    return add


def wav(path, frames, seed, rate=RATE):
    """16 bits, mono, written chunk by chunk (RIFF, IBM & Microsoft 1991)."""
    noise = random.Random(seed)
    data = array.array("h", (noise.randrange(-8000, 8000) for _ in range(frames))).tobytes()
    with open(path, "wb") as out:
        out.write(b"RIFF" + struct.pack("<I", 36 + len(data)) + b"WAVEfmt " +
                  struct.pack("<IHHIIHH", 16, 1, 1, rate, 2 * rate, 2, 16) + b"data" + struct.pack("<I", len(data)) + data)


class Yard:
    """Four tracks (the last at another rate), some regions, one brief over all of it."""

    def __init__(self, name, regions=40, length=4800):
        self.folder = os.path.join(ROOT, name)
        os.makedirs(self.folder)
        self.media = [os.path.join(self.folder, f"m{t}.wav") for t in range(4)]
        for t, medium in enumerate(self.media):
            wav(medium, regions * length, t, RATE if t < 3 else 44100)
        self.session = os.path.join(self.folder, "yard.octaphon")
        self.run("new", self.session, *self.media)
        with open(self.session, encoding="utf-8") as file:
            session = json.load(file)
        session["regions"] = [{"id": f"r{i}", "name": f"R {i:03d}", "start": i * length, "length": length}
                              for i in range(regions)]
        session["briefs"] = [{"id": "b", "name": "All", "folder": "out", "template": "{region}_{source}",
                              "regions": "all", "tracks": "all", "mix": True, "counts": "everything-heard"}]
        with open(self.session, "w", encoding="utf-8") as file:
            json.dump(session, file)
        self.out = os.path.join(self.folder, "out")
        self.cache = os.path.join(self.folder, "cache")

    def environment(self):
        return {**os.environ, "OCTAPHON_CACHE": os.path.join(self.folder, "cache")}

    def start(self, *arguments, **more):
        return subprocess.Popen([CLI, *arguments], stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True,
                                errors="replace", env=self.environment(), **more)

    def run(self, *arguments, **more):
        process = self.start(*arguments, **more)
        try:
            out, err = process.communicate(timeout=120)
        except subprocess.TimeoutExpired:
            process.kill()
            out, err = process.communicate()
            return -99, out, err
        return process.returncode, out, err

    def render(self, *more):
        return self.run("render", self.session, *([] if "--json" in more else ["--text"]), *more)

    def states(self, *more):
        return [row["state"] for row in json.loads(self.run("plan", self.session, "--json", *more)[1])["rows"]]

    def made(self):
        """Content of every file but the receipt; temporary ones too."""
        found = {}
        for at, _, files in os.walk(self.out):
            for name in files:
                if name != "octaphon-receipt.jsonl":
                    with open(os.path.join(at, name), "rb") as file:
                        found[os.path.relpath(os.path.join(at, name), self.out)] = hashlib.md5(file.read()).hexdigest()
        return found

    def right(self):
        """What an undisturbed run makes; the folder is empty again afterwards."""
        self.render()
        made = self.made()
        shutil.rmtree(self.out)
        return made

    def wrong_among_up_to_date(self, right):
        """Files that count as up to date and are not what they should be."""
        rows = json.loads(self.run("plan", self.session, "--json")[1])["rows"]
        made = self.made()
        return sum(row["state"] == "up-to-date" and made.get(row["file"]) != right[row["file"]] for row in rows)


def leftovers(made):
    return sum(name.endswith(".part") for name in made)


@case("same bytes, nothing left over")
def killed_forty_times():
    yard = Yard("killed", 120)
    right = yard.right()
    for _ in range(40):
        process = yard.start("render", yard.session)
        time.sleep(RANDOM.uniform(0.01, 0.25))
        process.kill()
        process.communicate()
    exit_code, _, err = yard.render()
    made = yard.made()
    if exit_code != 0:
        return f"exit {exit_code}: {err[:200]}"
    return "same bytes, nothing left over" if made == right else f"{leftovers(made)} left over, or other bytes"


def disturbed(yard, disturb, restore, times=8):
    """Runs that something happens to in their middle; then all is as it was."""
    right = yard.right()
    crashes = wrong = 0
    for turn in range(times):
        shutil.rmtree(yard.out, ignore_errors=True)
        process = yard.start("render", yard.session, "--jobs", "1")
        time.sleep(RANDOM.uniform(0.0, 0.2))
        disturb(turn)
        try:
            process.communicate(timeout=60)
        except subprocess.TimeoutExpired:
            process.kill()
            return "it hangs"
        crashes += process.returncode not in (0, 1)
        restore(turn)
        wrong += yard.wrong_among_up_to_date(right)
    yard.render("--replace-foreign")
    same = yard.made() == right
    return "nothing wrong is kept, all is made in the end" if not crashes and not wrong and same else \
        f"{crashes} crashes, {wrong} wrong files count as right, {'same' if same else 'other'} bytes in the end"


def kept(media):
    copies = {medium: open(medium, "rb").read() for medium in media}

    def restore(_):
        for medium, content in copies.items():
            if os.path.lexists(medium):
                os.remove(medium)
            with open(medium, "wb") as file:
                file.write(content)
    return restore


@case("nothing wrong is kept, all is made in the end")
def media_overwritten_in_place():
    yard = Yard("overwritten", 120)

    def disturb(turn):
        with open(yard.media[turn % 4], "r+b") as file:
            file.seek(1000)
            file.write(os.urandom(500_000))
    return disturbed(yard, disturb, kept(yard.media))


@case("nothing wrong is kept, all is made in the end")
def media_cut_to_half():
    yard = Yard("cut", 120)
    return disturbed(yard, lambda turn: os.truncate(yard.media[turn % 4], os.path.getsize(yard.media[turn % 4]) // 2),
                     kept(yard.media))


@case("nothing wrong is kept, all is made in the end")
def media_that_vanish():
    yard = Yard("vanish", 120)
    return disturbed(yard, lambda turn: os.remove(yard.media[turn % 4]), kept(yard.media))


@case("nothing wrong is kept, all is made in the end")
def media_that_become_pipes():
    yard = Yard("pipes", 120)

    def disturb(turn):
        os.remove(yard.media[turn % 4])
        os.mkfifo(yard.media[turn % 4])
    return disturbed(yard, disturb, kept(yard.media))


@case("nothing wrong is kept, all is made in the end")
def copies_in_the_cache_damaged():
    yard = Yard("cache", 40)

    def disturb(turn):
        for at, _, files in os.walk(yard.cache):
            for name in files:
                if name.endswith(".w64"):
                    with open(os.path.join(at, name), "r+b") as file:
                        file.seek(5000)
                        file.write(bytes(100_000)) if turn % 2 else file.truncate()
    return disturbed(yard, disturb, lambda turn: None)


@case("nothing wrong is kept, all is made in the end")
def receipt_and_folder_deleted_under_it():
    yard = Yard("deleted", 120)

    def disturb(turn):
        if turn % 2:
            shutil.rmtree(yard.out, ignore_errors=True)
        elif os.path.exists(os.path.join(yard.out, "octaphon-receipt.jsonl")):
            os.remove(os.path.join(yard.out, "octaphon-receipt.jsonl"))
    return disturbed(yard, disturb, lambda turn: None)


def mounted(folder, options):
    os.makedirs(folder, exist_ok=True)
    return subprocess.run(["mount", "-t", "tmpfs", "-o", options, "tmpfs", folder], stderr=subprocess.DEVNULL).returncode == 0


@case("exit 1, told, nothing half written; made when there is room")
def a_full_disk():
    yard = Yard("full", 40)
    right = yard.right()
    if not mounted(yard.out, "size=600k"):
        return "not run: it needs root"
    try:
        for filler in (0, 350_000):  # told beforehand, and met on the way
            with open(os.path.join(ROOT, "filler"), "wb") as file:
                file.write(bytes(filler))
            exit_code, _, err = yard.render()
            made = yard.made()
            halves = [name for name, content in made.items() if content != right.get(name)]
            if exit_code != 1 or halves or "space" not in err and "MB" not in err:
                return f"exit {exit_code}, {len(halves)} half written, said {err[:200]}"
        subprocess.run(["mount", "-o", "remount,size=100m", yard.out], check=True)
        exit_code, _, err = yard.render()
        if exit_code != 0 or yard.made() != right:
            return f"with room: exit {exit_code} {err[:100]}"
        return "exit 1, told, nothing half written; made when there is room"
    finally:
        subprocess.run(["umount", yard.out])


@case("refused together, each alone is made")
def two_folders_on_one_disk():
    yard = Yard("two", 40)
    with open(yard.session, encoding="utf-8") as file:
        session = json.load(file)
    disk = os.path.join(yard.folder, "disk")
    session["briefs"] = [session["briefs"][0] | {"id": name, "name": name, "folder": f"disk/{name}"} for name in "ab"]
    with open(yard.session, "w", encoding="utf-8") as file:
        json.dump(session, file)
    bytes_of_one = sum(row["frames"] * row["channels"] * 3 + 4096 for row in
                       json.loads(yard.run("plan", yard.session, "--brief", "a", "--json")[1])["rows"])
    if not mounted(disk, f"size={bytes_of_one * 3 // 2}"):
        return "not run: it needs root"
    try:
        exit_code, out, err = yard.render("--json")
        written = json.loads(out.splitlines()[-1])["written"]
        alone = yard.render("--brief", "a")[0]
        return "refused together, each alone is made" if (exit_code, written, alone) == (1, 0, 0) else \
            f"exit {exit_code}, {written} written, alone {alone}: {err[:200]}"
    finally:
        subprocess.run(["umount", disk])


@case("exit 1, told, nothing there")
def a_disk_that_fills_up_meanwhile():
    yard = Yard("fills", 60)
    right = yard.right()
    # By what planning knows it fits; another file takes the room while it runs.
    if not mounted(yard.out, "size=14m"):
        return "not run: it needs root"
    try:
        process = yard.start("render", yard.session, "--jobs", "1")
        with open(os.path.join(yard.out, "filler"), "wb", buffering=0) as file:
            try:
                while True:
                    file.write(bytes(4096))
            except OSError:
                pass
        _, err = process.communicate(timeout=60)
        os.remove(os.path.join(yard.out, "filler"))
        halves = [name for name, content in yard.made().items() if content != right.get(name)]
        if process.returncode not in (0, 1) or halves:
            return f"exit {process.returncode}, {halves[:3]} half written"
        exit_code, _, then = yard.render()
        made = exit_code == 0 and yard.made() == right
        return "exit 1, told, nothing there" if made else f"then exit {exit_code}, {then[:300]}; before {err[:300]}"
    finally:
        subprocess.run(["umount", yard.out])


@case("exit 1, told")
def a_read_only_folder():
    yard = Yard("readonly", 4)
    if not mounted(yard.out, "ro,size=1m"):
        return "not run: it needs root"
    try:
        exit_code, _, err = yard.render()
        return f"exit {exit_code}, " + ("told" if "Read-only" in err and "out" in err else f"said {err[:200]}")
    finally:
        subprocess.run(["umount", yard.out])


@case("the foreign files stay, the others are made")
def foreign_folders():
    yard = Yard("foreign", 4)
    os.makedirs(yard.out)
    names = sorted(row["file"] for row in json.loads(yard.run("plan", yard.session, "--json")[1])["rows"])
    for name in names[:5]:
        with open(os.path.join(yard.out, name), "w", encoding="utf-8") as file:
            file.write("not yours")
    os.makedirs(os.path.join(yard.out, names[5]))
    exit_code = yard.render()[0]
    stay = all(open(os.path.join(yard.out, name), encoding="utf-8").read() == "not yours" for name in names[:5])
    made = len(yard.made()) == len(names) - 1
    return "the foreign files stay, the others are made" if exit_code == 1 and stay and made else f"exit {exit_code}"


@case("all made at 48, 64, 100 and 256")
def few_handles():
    made = []
    for limit in (48, 64, 100, 256):
        yard = Yard(f"handles{limit}", 30)
        code = yard.run("render", yard.session,
                        preexec_fn=lambda n=limit: resource.setrlimit(resource.RLIMIT_NOFILE, (n, n)))[0]
        made.append((limit, code, len(yard.made())))
    bad = [found for found in made if found[1:] != (0, 150)]
    return f"{bad}" if bad else "all made at 48, 64, 100 and 256"


@case("2000 of 2000 end with 0, 2 or 3, nothing outside")
def mutated_sessions():
    yard = Yard("mutated", 3, 480)
    with open(yard.session, "rb") as file:
        whole = file.read()
    outside = set(os.listdir(ROOT))
    well = 0
    pieces = [b"-1", b"1e999", b"null", b"[]", b"{}", b'"../../x"', b"99999999999999999999", b'"\\u0000"', b"true", b'""']
    for turn in range(2000):
        data = bytearray(whole)
        for _ in range(RANDOM.randrange(1, 5)):
            at = RANDOM.randrange(len(data))
            if turn % 3 == 0:
                data[at] = RANDOM.randrange(256)
            elif turn % 3 == 1:
                del data[at:at + RANDOM.randrange(1, 40)]
            else:  # a value of another kind, where one begins
                colon = data.find(b":", at)
                end = min((e for e in (data.find(b",", colon), data.find(b"}", colon)) if e > 0), default=-1)
                if colon > 0 and end > 0:
                    data[colon + 1:end] = RANDOM.choice(pieces)
        with open(yard.session, "wb") as file:
            file.write(data)
        command = "render" if turn % 10 == 0 else "plan"
        code = yard.run(command, yard.session, "--json")[0]
        well += code in (0, 2, 3) or command == "render" and code == 1
    new = set(os.listdir(ROOT)) - outside
    return f"{well} of 2000 end with 0, 2 or 3, " + (f"{new} outside" if new else "nothing outside")


@case("refused, under 1200 MB and 15 s")
def hostile_json():
    worst = (0, 0.0)
    for piece in ("[]", "{}", '{"a":0}', '""', "1"):
        path = os.path.join(ROOT, "hostile.octaphon")
        with open(path, "w", encoding="utf-8") as file:
            file.write('{"x":[' + ",".join([piece] * (75_000_000 // (len(piece) + 1))) + "]}")
        begin = time.monotonic()
        process = subprocess.Popen([CLI, "info", path], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        _, status, usage = os.wait4(process.pid, 0)
        if os.waitstatus_to_exitcode(status) != 3:
            return f"{piece}: exit {os.waitstatus_to_exitcode(status)}"
        worst = max(worst, (usage.ru_maxrss // 1024, time.monotonic() - begin))
        os.remove(path)
    return "refused, under 1200 MB and 15 s" if worst[0] < 1200 and worst[1] < 15 else f"{worst[0]} MB, {worst[1]:.1f} s"


@case("stopped well, then all is made")
def signals():
    yard = Yard("signals", 120)
    right = yard.right()
    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP) * 3:
        process = yard.start("render", yard.session, "--jobs", "1")
        time.sleep(RANDOM.uniform(0.02, 0.2))
        process.send_signal(number)
        process.communicate(timeout=60)
        # Before it has set them up, a signal ends it as it ends any program.
        if process.returncode not in (0, 1, -number) or leftovers(yard.made()):
            return f"{number}: exit {process.returncode}, {leftovers(yard.made())} left over"
    yard.render()
    return "stopped well, then all is made" if yard.made() == right else "other bytes"


def packages_of(sources, **environment):
    subprocess.run([os.path.join(sources, "package.sh")], check=True, stdout=subprocess.DEVNULL,
                   env={**os.environ, **environment})
    folder = os.path.join(sources, "build/packages")
    return {name: hashlib.sha256(open(os.path.join(folder, name), "rb").read()).hexdigest()
            for name in os.listdir(folder)}


@case("installed, rendered, opened and purged; twice the same bytes")
def a_bare_installation():
    """The packages, on a Debian 12 with nothing in it."""
    if os.geteuid() != 0 or not shutil.which("debootstrap"):
        return "not run: root and debootstrap are needed"
    here = os.path.dirname(os.path.abspath(__file__))
    sources = os.path.dirname(here)
    clone = f"{ROOT}/clone"
    subprocess.run(["git", "clone", "-q", sources, clone], check=True)
    # The second time in another folder, and each source compiled.
    made = [packages_of(sources), packages_of(clone, CCACHE_DISABLE="1")]
    if made[0] != made[1]:
        return f"other bytes in {', '.join(name for name in made[0] if made[0][name] != made[1].get(name))}"
    packages = os.path.join(sources, "build/packages")
    ran = subprocess.run([os.path.join(here, "bare.sh"), packages, f"{ROOT}/bare"], capture_output=True, text=True)
    return f"{ran.stdout.splitlines()[-1]}; twice the same bytes" if ran.returncode == 0 else ran.stderr[-600:]


@case("as one run")
def shares_under_slurm():
    """Job arrays of four, with tails that ring out: measured, rendered, joined."""
    if os.geteuid() != 0 or not long_slurm.installed():
        return "not run: root and slurm-wlm are needed"
    yard = Yard("slurm", 60)
    session = json.load(open(yard.session, encoding="utf-8"))
    session["briefs"][0].update({"tail": "rings-out", "tail_limit_seconds": 1})
    json.dump(session, open(yard.session, "w", encoding="utf-8"))
    right = yard.right()
    submit = os.path.join(os.path.dirname(os.path.abspath(__file__)), "../packaging/cluster/submit.sh")
    with long_slurm.Slurm(os.path.join(yard.folder, "slurm")) as slurm:
        environment = {**slurm.environment, **yard.environment(), "OCTAPHON": CLI, "LOG": f"{yard.folder}/%j.log"}
        sent = subprocess.run([submit, yard.session, "4"], env={**environment, "PATH": slurm.environment["PATH"]},
                              capture_output=True, text=True)
        if sent.returncode != 0:
            return f"submit: {sent.stderr[:300]}"
        if not slurm.wait_for(sent.stdout.strip()):
            return "jobs did not end"
    made = yard.made()
    journals = [name for name in made if name.startswith("octaphon-receipt")]
    if journals:
        return f"not joined: {journals}"
    return "as one run" if made == right else f"{len(made)} files instead of {len(right)}, or other bytes"


@case("RF64, read by two others, its tags written anew")
def rf64_beyond_4_gb():
    """16 000 s of float stereo with a click at its end: ds64 by bytes (EBU Tech 3306), lengths by ffprobe and libsndfile."""
    yard = Yard("rf64", 1)
    session = json.load(open(yard.session, encoding="utf-8"))
    frames = 16_000 * RATE
    track = session["tracks"][0]
    track["clips"] = [{**track["clips"][0], "start": frames - 4800, "length": 4800}]
    session["tracks"] = [track]
    session["regions"] = [{"id": "r0", "name": "long", "start": 0, "length": frames}]
    session["briefs"][0].update({"tracks": [], "encoding": "float32", "existing": "replace"})
    json.dump(session, open(yard.session, "w", encoding="utf-8"))
    if yard.render("--no-sync")[0] != 0:
        return "not made"
    made = os.path.join(yard.folder, "out", "long_mix.wav")
    with open(made, "rb") as file:
        head = file.read(64)
    size = os.path.getsize(made)
    riff, data, count = struct.unpack("<QQQ", head[20:44])
    if head[:4] != b"RF64" or head[12:16] != b"ds64" or (riff, data, count) != (size - 8, frames * 8, frames):
        return f"another head: {head[:16]!r} {riff} {data} {count}"
    probed = subprocess.run(["ffprobe", "-v", "error", "-show_entries", "stream=duration_ts", "-of", "csv=p=0", made],
                            capture_output=True, text=True).stdout.strip()
    listed = subprocess.run(["sndfile-info", made], capture_output=True, text=True).stdout
    if probed != str(frames) or f"Frames      : {frames}" not in listed:
        return f"others read {probed} frames"
    tail = subprocess.run(["ffmpeg", "-v", "error", "-ss", "15999.9", "-i", made, "-f", "f32le", "-"], capture_output=True).stdout
    if not any(tail):
        return "its end is silent"
    session["author"] = "another"
    json.dump(session, open(yard.session, "w", encoding="utf-8"))
    done = json.loads(yard.render("--no-sync", "--json")[1].splitlines()[-1])
    return "RF64, read by two others, its tags written anew" if done["rewritten"] == 1 else f"rewritten {done['rewritten']}"


def main():
    chosen = [one for one in CASES if len(sys.argv) < 3 or any(word in one[0] for word in sys.argv[2:])]
    print(f"{'case':<40} {'expected':<62} found")
    failed = 0
    for name, expected, function in chosen:
        begin = time.monotonic()
        try:
            found = function()
        except Exception as problem:  # a case that cannot be run is no success
            found = f"{type(problem).__name__}: {problem}"
        skipped = str(found).startswith("not run")
        failed += found != expected and not skipped
        print(f"{name:<40} {expected:<62} {'as expected' if found == expected else found} "
              f"({time.monotonic() - begin:.0f} s)", flush=True)
    shutil.rmtree(ROOT, ignore_errors=True)
    sys.exit(1 if failed else 0)


main()
