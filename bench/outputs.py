#!/usr/bin/python3
"""Processor time of one, two and three files of each sound, beside what the writing of one more costs alone.

    outputs.py CLI SESSION [BRIEF]

The pass that plays the sounds is the same for all; each further file adds its rounding, its hash and its writing.
"""
import json
import os
import resource
import subprocess
import sys
import tempfile


def seconds(cli, session, outputs, brief):
    """Processor seconds of a run into an empty folder; the least of three."""
    best = 1e9
    for _ in range(3):
        with tempfile.TemporaryDirectory() as out:
            before = resource.getrusage(resource.RUSAGE_CHILDREN)
            command = [cli, "render", session, "--out", out, "--no-sync", "--text", "--set",
                       "outputs=" + json.dumps(outputs)]
            if brief:
                command += ["--brief", brief]
            subprocess.run(command, check=True, stdout=subprocess.DEVNULL)
            after = resource.getrusage(resource.RUSAGE_CHILDREN)
            best = min(best, after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime)
    return best


def main():
    cli, session = sys.argv[1:3]
    brief = sys.argv[3] if len(sys.argv) > 3 else None
    files = [{"encoding": "pcm24"}, {"encoding": "pcm16", "folder": "16"}, {"encoding": "float32", "folder": "32"}]
    one = seconds(cli, session, files[:1], brief)
    print(f"one file of each sound      {one:6.2f} s of processor time")
    for count in (2, 3):
        both = seconds(cli, session, files[:count], brief)
        print(f"{count} files                     {both:6.2f} s, {both / one:.2f} of one, "
              f"{(both - one) / (count - 1):.2f} s a further file")


main()
