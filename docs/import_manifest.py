#!/usr/bin/env python3
"""import_manifest.py FOLDER: how a game tool takes in a delivery by its manifest.json, and by nothing else.

Prints what it would make of it: each sound with its variations, how each is played, and what is wrong.
It opens the files for their length only: names mean nothing here.
"""
import json
import os
import struct
import sys


def wav_frames(path):
    """Frames of a plain WAV file; None for other formats."""
    with open(path, "rb") as file:
        head = file.read(12)
        if head[:4] != b"RIFF" or head[8:] != b"WAVE":
            return None
        width = 0
        while chunk := file.read(8):
            name, size = struct.unpack("<4sI", chunk)
            if name == b"fmt ":
                width = struct.unpack("<H", file.read(size)[12:14])[0]
            elif name == b"data":
                return size // width
            else:
                file.seek(size + size % 2, os.SEEK_CUR)
    return None


def choose(files):
    """One form of each: the mix where there is one, else all that sounds together."""
    form = files[0]["form"]
    same = [file for file in files if file["form"] == form]
    return [file for file in same if file["role"] == "mix"] or same


def how(file):
    loop = file["loop"]
    if loop is None:
        return "once"
    if loop["play"] == "restart":
        return f"again every {loop['length']} frames, while the last one rings on"
    intro = f"{loop['start']} frames of intro, then " if loop["start"] else ""
    return f"{intro}round and round over {loop['length']} frames"


def main(folder):
    manifest = json.load(open(os.path.join(folder, "manifest.json"), encoding="utf-8"))
    if manifest["format"] != "octaphon-manifest" or not manifest["version"].startswith("1."):
        sys.exit("this is no manifest that is understood here")
    wrong = 0
    for sound in manifest["sounds"]:
        print(f"{sound['name']}: {len(sound['variations'])} variations")
        for variation in sound["variations"]:
            for file in choose(variation["files"]):
                frames = wav_frames(os.path.join(folder, file["file"]))
                if frames not in (None, file["frames"]):
                    print(f"  {file['file']}: {frames} frames instead of {file['frames']}", file=sys.stderr)
                    wrong = 1
                print(f"  {file['file']}: {how(file)}, {file['channels']} channels at {file['rate']} Hz")
    sys.exit(wrong)


if __name__ == "__main__":
    main(sys.argv[1])
