"""Deliveries of pink noise, and what commands over them take."""
import json
import os
import shutil
import subprocess
import sys
import time


def session_of_noise(cli, folder, name, tracks, seconds):
    """An empty folder with a session of stereo tracks of noise; gives its path and what it holds."""
    shutil.rmtree(folder, ignore_errors=True)
    os.makedirs(folder)
    os.environ["OCTAPHON_CACHE"] = f"{folder}/cache"
    os.environ["XDG_STATE_HOME"] = f"{folder}/state"
    media = [f"{folder}/m{i}.wav" for i in range(tracks)]
    for i, medium in enumerate(media):
        subprocess.run(["sox", "-R", "-n", "-r", "48000", "-c", "2", "-b", "24", medium, "synth", str(seconds),
                        "pinknoise", "vol", str(0.2 + 0.05 * i)], check=True)
    session = f"{folder}/{name}.octaphon"
    subprocess.run([cli, "new", session, *media], check=True, stdout=subprocess.DEVNULL)
    with open(session, encoding="utf-8") as file:
        return session, json.load(file)


def deliver(cli, session, root, out):
    """Makes the files of a session that was changed; says how many they are, and how large."""
    with open(session, "w", encoding="utf-8") as file:
        json.dump(root, file)
    subprocess.run([cli, "render", session, "--no-sync"], check=True, stdout=subprocess.DEVNULL)
    files = [entry for entry in os.scandir(out) if not entry.name.endswith(".jsonl")]
    print(f"{len(files)} files, {sum(entry.stat().st_size for entry in files) / 1e6:.0f} MB")


def best_of_three(words, command):
    """Seconds."""
    best = 1e9
    for _ in range(3):
        began = time.monotonic()
        ran = subprocess.run(command, shell=isinstance(command, str), stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
                             check=False)
        if ran.returncode != 0:
            sys.exit(f"{words}: exit {ran.returncode}")
        best = min(best, time.monotonic() - began)
    print(f"{words:<60} {best:7.2f} s", flush=True)
    return best
